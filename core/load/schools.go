package load

import (
	"cmp"
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// NotKept is the answer to a question of packing that a plan does not follow, or that changes nothing on it.
type NotKept struct {
	Question, Answer string
	Items            []string  // that lie otherwise; none when the answer changes nothing
	Why              fact.Fact // what lies otherwise, or why the answer changes nothing
	Would            fact.Fact // what would keep it; may be none
}

// bandGivesCm is how far the middle of a heavy thing may be out of the band of its school before that is said (our
// estimate: a hand's width).
const bandGivesCm = 8.0

// shelterUnder is how many things may lie over a shelter that is to be on top (our estimate).
const shelterUnder = 2

// lowestGivesCm is how much lower than what belongs lowest something else may lie (our estimate).
const lowestGivesCm = 3.0

// NotKept lists, question by question, the answers of the packer's school that the plan does not follow, with the
// reason and what would keep them; and those that change nothing on this kit. Dryness and food are judged elsewhere.
func (p *Plan) NotKept() []NotKept {
	look := &schooled{plan: p, task: p.search.task, pack: &p.search.task.Pack}
	var all []NotKept
	for _, q := range []struct {
		key  string
		asks func() NotKept
	}{
		{"heavy", look.heavy}, {"water", look.water}, {"lowest", look.lowest}, {"sleeping_bag", look.sleepingBag},
		{"shelter", look.shelter}, {"spine", look.spine}, {"mat", look.mat}, {"outside", look.outside},
	} {
		if n := q.asks(); !n.Why.None() {
			n.Question, n.Answer = q.key, look.task.Method.Answer(q.key)
			if q.key == "sleeping_bag" && p.unsacked {
				n.Answer = "sack" // as asked for; it was planned without
			}
			all = append(all, n)
		}
	}
	return all
}

// schooled looks at a plan with its school in mind.
type schooled struct {
	plan *Plan
	task *job.Task
	pack *rucksack.Pack
}

// placed are the things of a plan for which something holds.
func (s *schooled) placed(holds func(p *Placement) bool) (found []*Placement) {
	for i := range s.plan.Placed {
		if p := &s.plan.Placed[i]; holds(p) {
			found = append(found, p)
		}
	}
	return found
}

// listed reports whether a thing for which something holds is carried in the pack.
func (s *schooled) listed(holds func(it *kit.Item) bool) bool {
	return slices.ContainsFunc(s.task.Items, func(it kit.Item) bool { return it.Carry == kit.Pack && holds(&it) })
}

func idsOf(places []*Placement) (ids []string) {
	for _, p := range places {
		if !slices.Contains(ids, p.Piece.ID) {
			ids = append(ids, p.Piece.ID)
		}
	}
	return ids
}

// lieElsewhere names the things that lie otherwise, and their zones; what would keep them there is taking back a pin if
// one of them has one.
func lieElsewhere(places []*Placement, would fact.Fact) NotKept {
	if len(places) == 0 {
		return NotKept{}
	}
	if slices.ContainsFunc(places, func(p *Placement) bool { return p.Pinned }) {
		would = fact.Of("load.school-unpin")
	}
	first := places[0]
	return NotKept{Items: idsOf(places), Why: fact.Of("load.school-lies",
		fact.Numbered{Name: first.Piece.Name, Number: first.Piece.Number}, fact.Small(first.Zone.Name)), Would: would}
}

// nothing says that there is nothing on the list that the answer is about.
func nothing() NotKept {
	return NotKept{Why: fact.Of("load.school-nothing")}
}

func (s *schooled) heavyThings() []*Placement {
	return s.placed(func(p *Placement) bool { return p.Zone.Solid() && p.Inside == "" && isHeavy(p.Piece, p.Piece.MassG) })
}

func (s *schooled) heavy() NotKept {
	things := s.heavyThings()
	if len(things) == 0 {
		return nothing()
	}
	low, high := s.task.Method.Band()
	shoulder := s.pack.ShoulderCm()
	var off []*Placement
	offG, sumG := 0.0, 0.0
	for _, p := range things {
		sumG += p.Piece.MassG
		if z := p.MiddleCm[2]; z < low*shoulder-bandGivesCm || z > high*shoulder+bandGivesCm {
			off = append(off, p)
			offG += p.Piece.MassG
		}
	}
	if offG <= sumG/2 {
		return NotKept{}
	}
	first := slices.MaxFunc(off, func(a, b *Placement) int { return cmp.Compare(a.Piece.MassG, b.Piece.MassG) })
	return NotKept{Items: idsOf(off), Why: fact.Of("load.school-height", first.Piece.Name, fact.Cm(first.MiddleCm[2]),
		fact.Cm(low*shoulder), fact.Cm(high*shoulder))}
}

func (s *schooled) water() NotKept {
	flat := func(it *kit.Item) bool { return assign.IsWater(it) && it.Shape.Kind == kit.Flat }
	bottle := func(it *kit.Item) bool { return assign.IsWater(it) && it.Shape.Rigid() }
	wanted, other := flat, fact.Of("load.school-water-bag")
	if s.task.Method.Water == "bottles" {
		wanted, other = bottle, fact.Of("load.school-bottle")
	}
	if !s.listed(wanted) {
		return NotKept{Why: fact.Of("load.school-no-vessel"), Would: other}
	}
	switch s.task.Method.Water {
	case "sleeve":
		would := fact.Of("load.school-room", fact.Of("load.school-in-sleeve"))
		if s.pack.Of(rucksack.Sleeve) == nil {
			would = fact.Of("load.school-pack", fact.Of("load.school-in-sleeve"))
		}
		return lieElsewhere(s.placed(func(p *Placement) bool {
			return flat(p.Piece.Item) &&
				p.Zone.Kind != rucksack.Sleeve
		}), would)
	case "bottles":
		would := fact.Of("load.school-room", fact.Of("load.school-at-sides"))
		if s.pack.Of(rucksack.Side) == nil {
			would = fact.Of("load.school-pack", fact.Of("load.school-at-sides"))
		}
		return lieElsewhere(s.placed(func(p *Placement) bool {
			return bottle(p.Piece.Item) && p.Zone.Kind != rucksack.Side && p.Zone.Kind != rucksack.Shoulder
		}), would)
	}
	if deep := s.under(func(p *Placement) bool { return flat(p.Piece.Item) }, 1); !deep.Why.None() {
		return deep
	}
	return lieElsewhere(s.placed(func(p *Placement) bool { return flat(p.Piece.Item) && p.Zone.Kind != rucksack.Body }),
		fact.Of("load.school-room", fact.Of("load.school-on-top")))
}

// under names the first of some things in body or bottom under more others than may lie over it.
func (s *schooled) under(holds func(p *Placement) bool, most int) NotKept {
	things := s.placed(holds)
	for _, p := range things {
		over := 0 // its like does not count
		for _, o := range p.Over {
			if !holds(&Placement{Piece: o}) {
				over++
			}
		}
		if p.Zone.Solid() && over > most {
			return NotKept{Items: []string{p.Piece.ID}, Why: fact.Of("load.school-under", p.Piece.Name, fact.Things(over))}
		}
	}
	return NotKept{}
}

func (s *schooled) lowest() NotKept {
	m := s.task.Method
	if !s.listed(func(it *kit.Item) bool { return assign.Lowest(m, it) }) {
		if m.Lowest == "rain-suit" && s.listed(func(it *kit.Item) bool { return it.Serves("rain") }) {
			return NotKept{Why: fact.Of("load.school-urgent")}
		}
		return nothing()
	}
	things := s.placed(func(p *Placement) bool { return p.Inside == "" && assign.Lowest(m, p.Piece.Item) })
	inPockets := slices.DeleteFunc(slices.Clone(things), func(p *Placement) bool { return p.Zone.Solid() })
	if len(inPockets) > 0 {
		return lieElsewhere(inPockets, fact.Of("load.school-room", fact.Of("load.school-at-foot")))
	}
	for _, p := range things {
		for _, o := range s.placed(func(o *Placement) bool {
			return o.Zone.Solid() && o.Inside == "" &&
				!assign.Lowest(m, o.Piece.Item)
		}) {
			if p.Zone.Kind != rucksack.Bottom && o.MiddleCm[2] < p.MiddleCm[2]-lowestGivesCm && o.Box.Max[2] <= p.Box.Min[2]+1 {
				return NotKept{Items: []string{p.Piece.ID}, Why: fact.Of("load.school-lower", o.Piece.Name, p.Piece.Name)}
			}
		}
	}
	return NotKept{}
}

func (s *schooled) sleepingBag() NotKept {
	switch sack := s.task.Method.SleepingBag == "sack"; {
	case !s.listed(job.SleepsIn) && !s.listed(func(it *kit.Item) bool { return it.Shape.Yields() && it.Group == "sleep" }):
		return nothing()
	case !sack && s.plan.unsacked:
		n := NotKept{Why: fact.Of("load.school-only-loose"), Would: fact.Of("load.school-pack", fact.Of("load.school-lump"))}
		for i := range s.task.Items {
			if it := &s.task.Items[i]; job.SleepsIn(it) {
				n.Items = append(n.Items, it.ID)
			}
		}
		return n
	}
	return NotKept{}
}

func (s *schooled) shelter() NotKept {
	shelter := func(it *kit.Item) bool {
		return it.Serves("shelter") && it.Use.When == kit.Arrival && !it.Shape.Rigid()
	}
	if !s.listed(shelter) {
		return nothing()
	}
	if s.task.Method.Shelter == "top" {
		return s.under(func(p *Placement) bool { return shelter(p.Piece.Item) }, shelterUnder)
	}
	return lieElsewhere(s.placed(func(p *Placement) bool {
		return shelter(p.Piece.Item) && !p.Piece.Water.ReturnsWet && p.Zone.Kind == rucksack.Lid
	}), fact.Of("load.school-room", fact.Of("load.school-deep")))
}

func (s *schooled) spine() NotKept {
	things := s.heavyThings()
	if len(things) == 0 {
		return nothing()
	}
	at := slices.DeleteFunc(slices.Clone(things), func(p *Placement) bool { return p.AtSpine <= 0 })
	if s.task.Method.Spine == "soft" {
		if len(at) > 0 {
			return NotKept{Items: idsOf(at), Why: fact.Of("load.school-at-spine", at[0].Piece.Name)}
		}
		return NotKept{}
	}
	inSleeve := s.placed(func(p *Placement) bool { // between all else and the back panel
		return p.Zone.Kind == rucksack.Sleeve && isHeavy(p.Piece, p.Piece.MassG)
	})
	if len(at)+len(inSleeve) == 0 {
		return NotKept{Items: idsOf(things), Why: fact.Of("load.school-off-spine")}
	}
	return NotKept{}
}

func (s *schooled) mat() NotKept {
	mat := func(it *kit.Item) bool { return it.Has(kit.Foam) }
	switch {
	case !s.listed(mat):
		return nothing()
	case s.task.Method.Outside == "nothing":
		return NotKept{Why: fact.Of("load.school-nothing-out")}
	}
	face := assign.MatFace[s.task.Method.Mat]
	would := fact.Of("load.school-pack", strapFacts[face])
	if slices.ContainsFunc(s.pack.Zones,
		func(z rucksack.Zone) bool { return z.Kind == rucksack.Straps && z.Face == face }) {
		would = fact.Of("load.school-room", strapFacts[face])
	}
	return lieElsewhere(s.placed(func(p *Placement) bool {
		return mat(p.Piece.Item) && !(p.Zone.Kind == rucksack.Straps && p.Zone.Face == face)
	}), would)
}

func (s *schooled) outside() NotKept {
	return lieElsewhere(s.placed(func(p *Placement) bool {
		return p.Zone.Kind == rucksack.Straps && !assign.MayHang(s.task.Method, p.Piece.Item)
	}), fact.Of("load.school-room", fact.Of("load.school-inside")))
}

var strapFacts = map[string]fact.Fact{"front": fact.Of("load.school-straps-front"),
	"top":    fact.Of("load.school-straps-top"),
	"bottom": fact.Of("load.school-straps-bottom")}
