package load

import (
	"cmp"
	"maps"
	"slices"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// Bearer is who carries: a pack, a body, and wishes about that pack.
type Bearer struct {
	Name string
	Pack rucksack.Pack
	Body trail.Carrier
	Pins []Pin
}

// For is the same kit under another bearer.
func (t *Task) For(b Bearer) *Task {
	other := *t
	other.Pack, other.Pins, other.Trip.Carrier = b.Pack, b.Pins, b.Body
	return &other
}

// Moment is a time of the trip: what is left of each thing then, and what came in the meantime.
type Moment struct {
	Name string
	Left map[string]Rest // by id; what is not named is as at the start
	More []kit.Item
}

// Rest is what is left of a line: so many pieces, each with a share of what it held. What keeps its outside is
// lighter, but no smaller; what is soft shrinks.
type Rest struct {
	Pieces int
	Share  float64 // of the litres of soft things, 0 to 1
	MassG  float64 // of each piece
}

// At is the kit at a moment. Lines of which nothing is left are not in it.
func (t *Task) At(m Moment) *Task {
	other := *t
	other.Items = nil
	for _, it := range t.Items {
		if left, named := m.Left[it.ID]; named {
			if left.Pieces <= 0 {
				continue
			}
			it.Count, it.MassG = left.Pieces, left.MassG
			if it.Shape.Kind == kit.Soft && left.Share < 1 {
				it.Shape.LooseL *= left.Share
				it.Shape.TightL *= left.Share
			}
		}
		other.Items = append(other.Items, it)
	}
	other.Items = append(other.Items, m.More...)
	return &other
}

// Arrangement is where everything is, in loading order, first in first: a plan, or what a hand has made of it.
type Arrangement []Spot

// Spot is the place of one piece.
type Spot struct {
	Item  string `json:"item"`
	Piece int    `json:"piece"`
	Zone  string `json:"zone"` // "" when it is left out
}

// Of reports whether it is the place of a piece.
func (s Spot) Of(p kit.Piece) bool { return s.Item == p.ID && s.Piece == p.Number }

// Arrangement is the plan as one.
func (p *Plan) Arrangement() Arrangement {
	var list Arrangement
	for i := range p.Placed {
		pl := &p.Placed[i]
		if pl.Inside == "" {
			list = append(list, Spot{pl.Piece.ID, pl.Piece.Number, pl.Zone.ID})
		}
	}
	for _, l := range p.LeftOut {
		list = append(list, Spot{Item: l.Piece.ID, Piece: l.Piece.Number})
	}
	return list
}

// which names a piece.
type which struct {
	item  string
	piece int
}

// turns numbers the pieces of an arrangement by their turn.
func (a Arrangement) turns() map[which]int {
	turns := make(map[which]int, len(a))
	for turn, s := range a {
		turns[which{s.Item, s.Piece}] = turn
	}
	return turns
}

// zoneOf is the zone of a piece, and whether the arrangement knows the piece at all.
func (a Arrangement) zoneOf(p kit.Piece) (zone string, known bool) {
	i := slices.IndexFunc(a, func(s Spot) bool { return s.Of(p) })
	if i < 0 {
		return "", false
	}
	return a[i].Zone, true
}

// Judgement is what an arrangement is worth.
type Judgement struct {
	Plan   *Plan   // everything as arranged; what does not go in is left out
	Zones  float64 // seconds a day: the objective of the zone assignment
	Order  float64 // and the bill of the order
	Misfit []Spot  // what cannot be where it is arranged, or does not go in there
}

// Cost is all of it in seconds a day.
func (j *Judgement) Cost() float64 { return j.Zones + j.Order }

// Price judges an arrangement as it is: nothing is moved to where it would be better, only what does not go in where
// it is arranged is left out. Pieces that the arrangement does not name are left out too.
func Price(task *Task, arrangement Arrangement, options Options) *Judgement {
	s, p, j := arrange(task, arrangement, nil, options)
	s.assignment.proof = Proof{Objective: j.Zones}
	s.program = s.assignment.copyOfProgram()
	if s.assignment.open {
		p.relabel(s.assignment)
	}
	j.Plan = s.finish(p)
	return j
}

// arrange packs as arranged, and finds what that costs. What was packed before much the same lends its lanes and, as
// the least, its squeeze; without it they are looked for.
func arrange(task *Task, arrangement Arrangement, like *packing, options Options) (*search, *packing, *Judgement) {
	options.Quick = true
	s := newSearch(task, options)
	s.budget.left, s.like = shoveBudget, like
	if like != nil {
		s.budget.left = shoveBudget / 40
	}
	a := newAssignment(task, s.loose, s.nested, task.linesThrough())
	j := &Judgement{}
	for _, c := range a.choices {
		zone, known := arrangement.zoneOf(c.Piece)
		if !known || zone == "" {
			continue
		}
		z := slices.IndexFunc(a.zones, func(z rucksack.Zone) bool { return z.ID == zone })
		if z >= 0 && a.open && a.oneRoom(c, &a.zones[z]) {
			z = ofKind(a.zones, rucksack.Body)
		}
		if z < 0 || c.price[z] > leave { // also +Inf: it cannot be there
			j.Misfit = append(j.Misfit, Spot{c.ID, c.Number, zone})
			continue
		}
		if a.put(c, z); a.around(z) > leave*1e3 {
			a.put(c, out)
			j.Misfit = append(j.Misfit, Spot{c.ID, c.Number, zone})
		}
	}
	s.assignment, s.program = a, a.copyOfProgram()
	p, tightest := s.packAs(arrangement, a.open)
	if len(p.trial.Out) > 0 && task.Pack.Opens() && !a.open {
		if open, at := s.packAs(arrangement, true); len(open.trial.Out) < len(p.trial.Out) {
			p, tightest = open, at
		}
	}
	for _, i := range p.trial.Out {
		c := p.inside[i]
		j.Misfit = append(j.Misfit, Spot{c.ID, c.Number, a.zones[c.zone].ID})
	}
	p.leaveOut(a, tightest)
	p.bag(a)
	least := 0.0
	if like != nil {
		least = min(like.squeeze, tightest)
	}
	p.squeezeAsIs(least, tightest)
	j.Zones = a.total()
	if len(p.order) > 0 {
		j.Order = p.cost(p.turns())
	}
	return s, p, j
}

// packAs packs an arrangement with the divider shut or open, and gives the squeeze at which the fewest are out.
func (s *search) packAs(arrangement Arrangement, open bool) (p *packing, squeeze float64) {
	p = newPacking(s.assignment, s.solid, open, s.budget)
	p.orderAs(arrangement)
	switch {
	case s.like != nil:
		p.layLike(s.like)
	case s.options.Like != nil:
		p.layLike(s.options.Like.packing)
	}
	return p, p.shove(s.random)
}

// layLike takes over the lanes and poses of what was packed before.
func (p *packing) layLike(other *packing) {
	for i, c := range p.inside {
		if k := slices.IndexFunc(other.inside, func(o *choice) bool { return o.ID == c.ID && o.Number == c.Number }); k >= 0 {
			p.things[i].Wish, p.things[i].Poses = other.things[k].Wish, slices.Clone(other.things[k].Poses)
		}
	}
}

// orderAs takes over the order of an arrangement.
func (p *packing) orderAs(arrangement Arrangement) {
	turns := arrangement.turns()
	at := func(i int) int { return turns[which{p.inside[i].ID, p.inside[i].Number}] }
	slices.SortStableFunc(p.order, func(i, j int) int { return at(i) - at(j) })
}

// stay makes it dearer to put things elsewhere than an arrangement has them.
func (a *assignment) stay(from Arrangement, moving float64) {
	a.from = from
	for _, c := range a.choices {
		zone, known := from.zoneOf(c.Piece)
		if !known || zone == "" {
			continue
		}
		for z := range a.zones {
			if a.zones[z].ID != zone {
				c.price[z] += moving
			} else {
				c.stays = z
			}
		}
	}
}

// orderFrom puts what an arrangement knows into its order, and leaves what is new where its time of need puts it.
func (p *packing) orderFrom(from Arrangement) {
	turns := from.turns()
	var known []int
	at := map[int]int{}
	for _, i := range p.order {
		if turn, is := turns[which{p.inside[i].ID, p.inside[i].Number}]; is {
			known = append(known, i)
			at[i] = turn
		}
	}
	slices.SortStableFunc(known, func(i, j int) int {
		return cmp.Or(int(p.things[i].Region)-int(p.things[j].Region),
			at[i]-at[j])
	})
	for k, i := range p.order {
		if _, is := at[i]; is {
			p.order[k], known = known[0], known[1:]
		}
	}
}

// squeezeAsIs finds the least squeeze of the present order alone, of those from one at least to one at which
// everything goes in.
func (p *packing) squeezeAsIs(least, most float64) {
	low, high, times := least, most, halvings
	if least > 0 {
		times = quickHalvings
	}
	if p.goesIn(least) {
		high = least
	}
	for range times {
		if middle := (low + high) / 2; high > least && p.goesIn(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	p.squeeze = high
	p.run(high)
}

// Moved lists what lies in another zone than in an arrangement, by id.
func (p *Plan) Moved(from Arrangement) []string {
	moved := map[string]bool{}
	for i := range p.Placed {
		pl := &p.Placed[i]
		if zone, known := from.zoneOf(pl.Piece); known && pl.Inside == "" && zone != pl.Zone.ID {
			moved[pl.Piece.ID] = true
		}
	}
	return slices.Sorted(maps.Keys(moved))
}
