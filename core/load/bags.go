package load

import (
	"slices"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// stuffedSqueeze is how far a soft thing is squeezed in a bag that was pushed full by hand (our estimate).
const stuffedSqueeze = 0.5

// Dryness is a plan as package dry sees it, under the school of the task, which may be another than the plan was made
// for. What lies in a vessel lies where the vessel does.
func Dryness(task *job.Task, plan *Plan) *dry.Pack {
	pack := task.Dryness()
	pack.Open = plan.Open
	above := plan.above(task)
	for i := range plan.Placed {
		p := &plan.Placed[i]
		l := lying(p.Piece, p.Zone, p.Inside)
		l.Above = above[plan.Outer(i).Piece]
		pack.Things = append(pack.Things, l)
	}
	if plan.dry == task.Method.Dry {
		pack.Torn = plan.torn
	}
	return pack
}

// Barriers is a plan as package dry sees it, with the dry bags that were packed for trial: chosen once, and owned by
// the plan. Under another school than the plan was made for they are chosen anew.
func Barriers(task *job.Task, plan *Plan) (*dry.Pack, dry.Barriers) {
	pack := Dryness(task, plan)
	if plan.dry != task.Method.Dry || plan.packing == nil {
		return pack, pack.Plan()
	}
	return pack, pack.With(plan.packing.bagPlan)
}

func lying(p kit.Piece, z *rucksack.Zone, vessel string) dry.Lying {
	return dry.Lying{Piece: p, Zone: z, Inside: vessel, Litres: p.Shape.Litres(stuffedSqueeze)}
}

// bag says for every thing in body and bottom which dry bag it goes into, -1 for none, as package dry plans it, and
// how tight that bag holds it.
func (p *packing) bag(a *assign.Assignment) {
	pack := a.Task.Dryness()
	pack.Torn, pack.Open, pack.Stop = p.torn, p.open, p.budget.over
	for _, c := range a.Choices {
		if c.Zone == assign.Out {
			continue
		}
		for i, piece := range append([]kit.Piece{c.Piece}, c.Inside...) {
			vessel := ""
			if i > 0 {
				vessel = c.ID
			}
			pack.Things = append(pack.Things, lying(piece, a.RoomOf(c.Zone), vessel))
		}
	}
	plan := pack.Plan()
	p.bagPlan = plan
	p.lined = pack.LinerShuts(a.Task.Pack.Of(rucksack.Body))
	in := map[kit.Piece]int{}
	p.bagsUsed = slices.Concat(plan.Used, plan.Wet)
	for i := range p.bagsUsed {
		for _, piece := range p.bagsUsed[i].Things {
			in[piece] = i
		}
	}
	p.bags = make([]int, len(p.inside))
	for i, c := range p.inside {
		p.bags[i], p.things[i].Bag, p.things[i].Held = none, 0, 0
		if b, bagged := in[c.Piece]; bagged {
			p.bags[i] = b
			p.things[i].Bag, p.things[i].Held = b+1, held(&p.bagsUsed[b])
		}
	}
}

// none is the number of no bag.
const none = -1

// held is the least squeeze at which what is in a bag does not fill it more than it may be filled.
func held(b *dry.Barrier) float64 {
	loose, tight := 0.0, 0.0
	for _, piece := range b.Things {
		loose += piece.Shape.Litres(0)
		tight += piece.Shape.Litres(1)
	}
	return min(stuffedSqueeze, assign.SqueezeFor(loose, tight, dry.FullShare*b.Bag.VolumeL))
}

// mostTearings is how often the bags are planned anew before they are all given up as bodies; most kits need none.
const mostTearings = 10

// bundle makes every bag one body in the trial. A bag for which that leaves no room is torn: its things go in singly,
// without its protection, and the bags are planned anew. Everything still goes in then, as it did before there were
// bags.
func (p *packing) bundle(a *assign.Assignment, random *source) {
	singly, things := slices.Clone(p.order), slices.Clone(p.things)
	tearings := 0
	for {
		copy(p.order, singly)
		copy(p.things, things)
		p.bag(a)
		if !slices.ContainsFunc(p.bags, func(b int) bool { return b != none }) {
			p.run(1)
			return
		}
		p.gather()
		if p.run(1) || !p.budget.over() && p.fitOtherwise(random) {
			p.collect()
			return
		}
		p.run(1)
		bag := p.bagToTear()
		p.torn = append(p.torn, p.bagsUsed[bag].Bag.ID)
		if tearings++; tearings == mostTearings || p.budget.over() { // no bag is a body then; all still goes in
			for i := range p.bagsUsed {
				p.torn = append(p.torn, p.bagsUsed[i].Bag.ID)
			}
		}
	}
}

// bagToTear is the first bag that was out in the last trial, otherwise the largest.
func (p *packing) bagToTear() int {
	for _, i := range p.trial.Out {
		if p.bags[i] != none {
			return p.bags[i]
		}
	}
	bag := none
	for _, b := range p.bags {
		if b != none && (bag == none || p.bagsUsed[b].Litres > p.bagsUsed[bag].Litres) {
			bag = b
		}
	}
	return bag
}

// unit is the things that are moved in the order together with one: those of its bag, in their order, or it alone.
func (p *packing) unit(i int) []int {
	if p.bags == nil || p.bags[i] == none {
		return []int{i}
	}
	var members []int
	for _, j := range p.order {
		if p.bags[j] == p.bags[i] {
			members = append(members, j)
		}
	}
	return members
}

// gather brings the things of each bag next to each other in the order, at the turn of the first of them, which is
// when the trial packs the bag.
func (p *packing) gather() {
	p.collect()
	p.hold()
	p.collect() // a pinned place may be in the middle of another bag
}

// collect is gather without regard to pinned places: it changes what the order says, not what the trial does.
func (p *packing) collect() {
	if p.bags == nil {
		return
	}
	var order []int
	for _, i := range p.order {
		if !slices.Contains(order, i) {
			order = append(order, p.unit(i)...)
		}
	}
	p.order = order
}

// lifts counts what has to come out before a thing, a bag with all that is in it as one, and nothing of its own bag.
func (p *packing) lifts(over stuff.Set, of int) int {
	if p.bags == nil {
		return over.Len()
	}
	n := 0
	seen := map[int]bool{}
	for i, b := range p.bags {
		switch {
		case !over.Has(i), b >= 0 && (b == p.bags[of] || seen[b]):
			continue
		case b >= 0:
			seen[b] = true
		}
		n++
	}
	return n
}
