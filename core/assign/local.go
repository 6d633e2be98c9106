package assign

import (
	"cmp"
	"math"
	"slices"
)

// Gain is the least improvement worth a move; it keeps rounding from turning the search in circles.
const Gain = 1e-6

// begin starts from everything left out, places the things with most to lose first, and improves by moving one thing
// or exchanging two until nothing is gained.
func (a *Assignment) begin() {
	first := slices.Clone(a.Choices)
	slices.SortStableFunc(first, func(x, y *Choice) int { return cmp.Compare(y.urgency(), x.urgency()) })
	for _, c := range first {
		a.improveOne(c)
	}
	a.improve()
}

// pairBudget bounds how many pairs of things are weighed in one improvement; a kit of 45 things needs a few thousand.
const pairBudget = 200_000

// improve moves and exchanges until nothing is gained, or the search is to end.
func (a *Assignment) improve() {
	pairs := 0
	for range 60 {
		better := false
		for _, c := range a.Choices {
			better = a.improveOne(c) || better
		}
		for i, c := range a.Choices {
			if pairs += len(a.Choices) - i; pairs > pairBudget || a.Ended() {
				return
			}
			for _, d := range a.Choices[i+1:] {
				better = a.exchange(c, d) || better
			}
		}
		if !better {
			return
		}
	}
}

// Ended reports whether the search is to end.
func (a *Assignment) Ended() bool { return a.Stop != nil && a.Stop() }

// urgency ranks things for the first round: pinned ones, then bulky hard ones, then the rest by litres.
func (c *Choice) urgency() float64 {
	rank := c.Shape.Litres(1)
	if c.Shape.Rigid() {
		rank += 20
	}
	if c.Pin != nil {
		rank += 1000
	}
	return rank
}

// improveOne moves a thing to the zone that lowers the whole cost most; ties go to the zone named first in the pack.
func (a *Assignment) improveOne(c *Choice) bool {
	from := c.Zone
	best, bestDelta := from, -Gain
	for to := range a.Zones {
		if to == from || math.IsInf(c.Price[to], 1) {
			continue
		}
		before := a.Around(from, to)
		a.Put(c, to)
		delta := a.Around(from, to) - before + c.cost(to) - c.cost(from)
		a.Put(c, from)
		if delta < bestDelta {
			best, bestDelta = to, delta
		}
	}
	a.Put(c, best)
	return best != from
}

// exchange swaps the zones of two things when that lowers the cost; a thing left out may replace one that is in.
func (a *Assignment) exchange(c, d *Choice) bool {
	from, to := c.Zone, d.Zone
	if from == to {
		return false
	}
	delta := c.cost(to) + d.cost(from) - c.cost(from) - d.cost(to)
	if math.IsInf(delta, 1) || math.IsNaN(delta) {
		return false
	}
	before := a.Around(from, to)
	a.Put(c, to)
	a.Put(d, from)
	if after := a.Around(from, to); delta+after-before < -Gain {
		return true
	}
	a.Put(c, from)
	a.Put(d, to)
	return false
}

func asOne(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
