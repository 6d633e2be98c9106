package load

import (
	"math"
	"slices"
	"sync"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// plannedOrder sorts things by how deep they want to lie, bottom compartment first; pinned places hold.
func (p *packing) plannedOrder() {
	slices.SortStableFunc(p.order, func(i, j int) int {
		a, b := p.inside[i], p.inside[j]
		if r := int(p.things[i].Region) - int(p.things[j].Region); r != 0 {
			return r
		}
		return compareInLoading(p.task, a, b)
	})
	p.hold()
}

// hold puts things with a pinned place at that place among the things of their zone, and their bag with them.
func (p *packing) hold() {
	for i, c := range p.inside {
		if c.pin == nil || c.pin.Place < 1 {
			continue
		}
		if !slices.Contains(p.order, i) {
			continue
		}
		unit := p.takeUnit(i)
		at, seen := len(p.order), 0
		for k, j := range p.order {
			if p.things[j].Region != p.things[i].Region {
				continue
			}
			if seen++; seen == c.pin.Place {
				at = k
				break
			}
			at = k + 1
		}
		p.order = slices.Insert(p.order, at, unit...)
	}
}

// takeUnit takes a thing out of the order, with its bag, and gives what was taken, the thing first.
func (p *packing) takeUnit(i int) []int {
	unit := []int{i}
	for _, j := range p.unit(i) {
		if j != i {
			unit = append(unit, j)
		}
	}
	p.order = slices.DeleteFunc(p.order, func(j int) bool { return slices.Contains(unit, j) })
	return unit
}

// improve looks for an order that costs less, at the squeeze found or a smaller one, as long as the budget lasts. Each
// round tries two changes side by side, one thing moved in the order or into another lane, and keeps the better if it
// is better than what there is and everything still goes in.
func (p *packing) improve(random *source) {
	if len(p.order) < 2 {
		return
	}
	home := p.turns()
	best := p.cost(home)
	var tries [climbers]*try
	for k := range tries {
		tries[k] = &try{packing: *p, cost: math.Inf(1)}
		tries[k].trial = p.space.NewTrial(len(p.things))
		tries[k].things = slices.Clone(p.things)
	}
	for p.budget.spendTurn(climbers, len(p.things)) {
		var wait sync.WaitGroup
		for _, t := range tries {
			t.order = append(t.order[:0:0], p.order...)
			copy(t.things, p.things)
			t.squeeze = p.squeeze
			t.change(random)
			wait.Go(func() {
				t.cost = math.Inf(1)
				if t.goesIn(t.squeeze) {
					t.cost = t.packing.cost(home)
				}
			})
		}
		wait.Wait()
		better := tries[0]
		for _, t := range tries[1:] {
			if t.cost < better.cost {
				better = t
			}
		}
		if better.cost >= best-gain {
			continue
		}
		best = better.cost
		copy(p.order, better.order)
		copy(p.things, better.things)
		if looser := p.squeeze - 1.0/32; looser >= 0 && p.budget.spend(len(p.things)) && p.goesIn(looser) {
			p.squeeze, best = looser, p.cost(home)
		}
	}
	p.run(p.squeeze)
	p.mind(home)
}

// try is a changed order under trial.
type try struct {
	packing
	cost float64
}

// change moves one thing to another turn, most often near by, or gives it another lane.
func (t *try) change(random *source) {
	i := t.order[random.below(len(t.order))]
	c := t.inside[i]
	chosenLane := isHeavy(c.Piece, c.mass) || c.pin != nil && c.pin.Lane != Full
	if random.below(4) == 0 && !chosenLane {
		w := stuff.Wish{Deep: float64(random.below(2)), Across: float64(random.below(3)) / 2, Firm: firm}
		for _, j := range t.unit(i) {
			t.things[j].Wish = w
		}
		return
	}
	from, to := slices.Index(t.order, i), random.below(len(t.order))
	if random.below(2) == 0 {
		to = max(0, min(len(t.order)-1, from+random.below(7)-3))
	}
	unit := t.takeUnit(i)
	t.order = slices.Insert(t.order, min(to, len(t.order)), unit...)
	t.gather()
}

// turns gives for every thing the turn that its time of need asks for.
func (p *packing) turns() []int {
	now := slices.Clone(p.order)
	p.plannedOrder()
	p.gather()
	turns := make([]int, len(p.things))
	for turn, i := range p.order {
		turns[i] = turn
	}
	p.order = now
	return turns
}

// fillZones adds to the litres of body and bottom what only the trial knows.
func (p *packing) fillZones(plan *Plan) {
	solid := p.space.Solid
	litres := p.litres(1)
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if !z.Zone.Solid() {
			continue
		}
		region, from, to := stuff.Body, solid.Floor, solid.Size[2]
		if z.Zone.Kind == rucksack.Bottom {
			region, from, to = stuff.Bottom, 0, solid.Floor
		}
		z.CapacityL = float64(p.space.RoomBetween(from, to)) * litres
		z.NeedLooseL, z.NeedTightL = 0, 0
		for k := range p.things {
			if p.things[k].Region == region && slices.Contains(p.order, k) {
				z.NeedLooseL += float64(p.things[k].Cells(0)) * litres
				z.NeedTightL += float64(p.things[k].Cells(1)) * litres
			}
		}
		_, hollow := p.trial.Hollows(from, to, math.MaxInt)
		z.HollowL = float64(hollow) * litres
		z.Squeeze = p.squeeze
		z.State = stateFor(z.NeedLooseL, z.CapacityL, z.Squeeze)
		if z.NeedLooseL == 0 {
			z.State, z.Squeeze = Roomy, 0
		}
	}
	patches, _ := p.trial.Hollows(0, solid.Size[2], p.space.CellsOf(leastHollowL))
	slices.SortStableFunc(patches, func(a, b stuff.Hollow) int { return b.Cells - a.Cells })
	for _, h := range patches {
		at := solid.Origin
		for axis := range at {
			at[axis] += h.Middle[axis] * solid.CellCm
		}
		plan.Hollows = append(plan.Hollows, Hollow{float64(h.Cells) * litres, at})
	}
	plan.FillCm = float64(p.trial.FillLine()) * solid.CellCm
	plan.Open = p.open
}

// leastHollowL is the smallest hollow spot that is named.
const leastHollowL = 0.15

// describePlaces writes into the placements where the trial put things.
func (p *packing) describePlaces(plan *Plan) {
	solid := p.space.Solid
	cells, middles := p.trial.Middles(len(p.things))
	bounds := p.trial.Bounds(len(p.things))
	above, front, spine := p.trial.Over(len(p.things))
	beside := p.trial.Beside(len(p.things))
	at := map[kit.Piece]int{}
	for i, c := range p.inside {
		at[c.Piece] = i
	}
	frame := func(cell float64, axis int) float64 { return solid.Origin[axis] + cell*solid.CellCm }
	for k := range plan.Placed {
		pl := &plan.Placed[k]
		pl.Owner = -1
		pl.MiddleCm = pl.Zone.AtCm
		i, in := at[pl.Piece]
		if !in || cells[i] == 0 || pl.Inside != "" {
			continue
		}
		pl.Owner = int16(i)
		pl.Box = &Box{}
		for axis := range 3 {
			pl.Box.Min[axis], pl.Box.Max[axis] = frame(float64(bounds[i].Min[axis]), axis), frame(float64(bounds[i].Max[axis]), axis)
			pl.MiddleCm[axis] = frame(middles[i][axis], axis)
		}
		inWay := p.inWay(i, above, front)
		pl.LiftedOut, pl.Over, pl.Beside = inWay.Len(), p.pieces(inWay), p.pieces(beside[i])
		pl.AtSpine = float64(spine[i]) * solid.CellCm * solid.CellCm
		if pl.Piece.Shape.Kind == kit.Soft {
			pl.VolumeL = p.litres(cells[i])
		}
		pl.Lane = p.lane(pl, p.inside[i].pin, solid)
		if p.aims != nil {
			pl.aim = p.aims[i]
		}
	}
	plan.Cells = &Cells{Solid: solid, Owner: slices.Clone(p.trial.Owner)}
	for _, c := range p.inside {
		plan.Cells.Things = append(plan.Cells.Things, c.Piece)
	}
}

// pieces lists the things of a set, in loading order.
func (p *packing) pieces(set stuff.Set) []kit.Piece {
	var list []kit.Piece
	for _, i := range p.order {
		if set.Has(i) {
			list = append(list, p.inside[i].Piece)
		}
	}
	return list
}

// lane names where in the body a thing lies: the lane that it is pinned to when it lies in that half, otherwise the one
// to which it clearly belongs.
func (p *packing) lane(pl *Placement, pin *Pin, solid *rucksack.Solid) Lane {
	deep, wide := float64(solid.Size[1])*solid.CellCm, float64(solid.Size[0])*solid.CellCm
	if pin != nil && map[Lane]bool{Back: pl.MiddleCm[1] < deep/2, Front: pl.MiddleCm[1] > deep/2, Left: pl.MiddleCm[0] < 0, Right: pl.MiddleCm[0] > 0}[pin.Lane] {
		return pin.Lane
	}
	switch {
	case pl.Box.Max[1] < deep*0.75 && pl.MiddleCm[1] < deep*0.42:
		return Back
	case pl.Box.Min[1] > deep*0.25 && pl.MiddleCm[1] > deep*0.58:
		return Front
	case pl.Box.Max[0] < wide*0.12:
		return Left
	case pl.Box.Min[0] > -wide*0.12:
		return Right
	}
	return Full
}
