package load

import (
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/stuff"
)

// homeward brings an order that fits back towards the planned one: one thing after another, as it is planned, is
// moved to its planned turn, and stays there if all still goes in at a squeeze a little above the present one, which
// it gives.
func (p *packing) homeward() (squeeze float64) {
	squeeze = min(1, p.squeeze+homeSqueeze)
	if !p.goesIn(squeeze) { // tighter things may come to lie elsewhere
		squeeze = p.squeeze
	}
	fits := slices.Clone(p.order)
	for i, c := range p.inside { // lanes that were given up in the search come back where that does no harm
		given := p.things[i].Wish
		if p.things[i].Wish = wish(p.task, c); p.things[i].Wish != given &&
			(!p.budget.spend(len(p.things)) || !p.goesIn(squeeze)) {
			p.things[i].Wish = given
		}
	}
	p.plannedOrder()
	planned := slices.Clone(p.order)
	if p.goesIn(squeeze) {
		return squeeze
	}
	copy(p.order, fits)
	for turn, i := range planned {
		from := slices.Index(p.order, i)
		if from == turn {
			continue
		}
		if !p.budget.spend(len(p.things)) {
			break
		}
		p.order = slices.Delete(p.order, from, from+1)
		p.order = slices.Insert(p.order, turn, i)
		p.hold()
		if p.goesIn(squeeze) {
			copy(fits, p.order)
		} else {
			copy(p.order, fits)
		}
	}
	p.run(squeeze)
	return squeeze
}

// tighter are the steps by which more squeeze is tried for the order that is planned.
var tighter = []float64{0.05, 0.1, 0.2}

// orAsPlanned takes the order that is planned in place of the present one, but for what must go in before its turn,
// where that costs less, squeezed a little more or not. The present order must fit.
func (p *packing) orAsPlanned(steps []float64) {
	if len(p.trial.Out) > 0 || p.budget.over() || len(p.order) < 2 {
		return
	}
	home, least := p.turns(), p.squeeze
	order, things, squeeze, cost := slices.Clone(p.order), slices.Clone(p.things), p.squeeze, p.cost(home)
	for i, c := range p.inside {
		p.things[i].Wish = wish(p.task, c)
	}
	for _, more := range steps {
		most := min(1, least+more)
		p.plannedOrder()
		p.gather()
		try := func() bool { return p.budget.spend(len(p.things)) && p.run(most) }
		if !try() && !p.outFirst(try) {
			continue
		}
		p.squeeze = p.loosest(most)
		if c := p.cost(home); c < cost-assign.Gain {
			cost, squeeze = c, p.squeeze
			order = slices.Clone(p.order)
			copy(things, p.things)
		}
	}
	copy(p.order, order)
	copy(p.things, things)
	p.squeeze = squeeze
	p.run(squeeze)
}

// loosest is the least squeeze at which the present order goes in, found by halving, and packs at it. It goes in at the
// squeeze known.
func (p *packing) loosest(known float64) float64 {
	low, high := min(known, p.floor()), known
	for high-low > looser && p.budget.spend(len(p.things)) {
		if middle := (low + high) / 2; p.goesIn(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	p.run(high)
	return high
}

// leastSqueeze finds how tight the soft things must be for all to go in by halving the interval a few times, and
// packs at it. It begins with what litres alone ask for, tries a few orders at each step, and keeps the one that did
// it. The present order must fit at the squeeze known.
func (p *packing) leastSqueeze(known float64, quick bool) float64 {
	steps := halvings
	if quick {
		steps = quickHalvings
	}
	orders := [][]int{slices.Clone(p.order)}
	also := func() {
		p.gather()
		orders = append(orders, slices.Clone(p.order))
	}
	p.plannedOrder()
	also()
	more := largestFirst
	if quick {
		more = more[:1]
	}
	for _, larger := range more {
		copy(p.order, orders[1])
		sortLargest(p.order, p.things, larger)
		also()
	}
	anyGoesIn := func(squeeze float64) bool {
		for k, order := range orders {
			copy(p.order, order)
			if p.goesIn(squeeze) {
				copy(orders[1:k+1], orders[:k])
				orders[0] = order
				return true
			}
		}
		return false
	}
	low, high := min(known, p.floor()), known
	if anyGoesIn(low) {
		return low
	}
	for range steps {
		middle := (low + high) / 2
		if anyGoesIn(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	copy(p.order, orders[0])
	p.run(high)
	return high
}

// floor is the squeeze that the litres alone ask for, with the divider shut in each compartment.
func (p *packing) floor() float64 {
	solid, most := p.space.Solid, 0.0
	part := func(from, to int, in func(*stuff.Thing) bool) {
		loose, tight := 0, 0
		for _, i := range p.order {
			if in(&p.things[i]) {
				loose += p.things[i].Cells(0)
				tight += p.things[i].Cells(1)
			}
		}
		if s := assign.SqueezeFor(float64(loose), float64(tight), float64(p.space.RoomBetween(from, to))); !math.IsInf(s, 1) {
			most = max(most, s)
		}
	}
	if p.open {
		part(0, solid.Size[2], func(*stuff.Thing) bool { return true })
		return most
	}
	part(0, solid.Floor, func(th *stuff.Thing) bool { return th.Region == stuff.Bottom })
	part(solid.Floor, solid.Size[2], func(th *stuff.Thing) bool { return th.Region == stuff.Body })
	return most
}
