package load

import (
	"cmp"
	"math"
	"slices"
)

// gain is the least improvement worth a move; it keeps rounding from turning the search in circles.
const gain = 1e-6

// begin starts from everything left out, places the things with most to lose first, and improves by moving one thing
// or exchanging two until nothing is gained.
func (a *assignment) begin() {
	first := slices.Clone(a.choices)
	slices.SortStableFunc(first, func(x, y *choice) int { return compareDescending(x.urgency(), y.urgency()) })
	for _, c := range first {
		a.improveOne(c)
	}
	a.improve()
}

// pairBudget bounds how many pairs of things are weighed in one improvement; a kit of 45 things needs a few thousand.
const pairBudget = 200_000

// improve moves and exchanges until nothing is gained, or the search is to end.
func (a *assignment) improve() {
	pairs := 0
	for range 60 {
		better := false
		for _, c := range a.choices {
			better = a.improveOne(c) || better
		}
		for i, c := range a.choices {
			if pairs += len(a.choices) - i; pairs > pairBudget || a.ended() {
				return
			}
			for _, d := range a.choices[i+1:] {
				better = a.exchange(c, d) || better
			}
		}
		if !better {
			return
		}
	}
}

// ended reports whether the search is to end.
func (a *assignment) ended() bool { return a.stop != nil && a.stop() }

// urgency ranks things for the first round: pinned ones, then bulky hard ones, then the rest by litres.
func (c *choice) urgency() float64 {
	rank := c.Shape.Litres(1)
	if c.Shape.Rigid() {
		rank += 20
	}
	if c.pin != nil {
		rank += 1000
	}
	return rank
}

// improveOne moves a thing to the zone that lowers the whole cost most; ties go to the zone named first in the pack.
func (a *assignment) improveOne(c *choice) bool {
	from := c.zone
	best, bestDelta := from, -gain
	for to := range a.zones {
		if to == from || math.IsInf(c.price[to], 1) {
			continue
		}
		before := a.around(from, to)
		a.put(c, to)
		delta := a.around(from, to) - before + c.cost(to) - c.cost(from)
		a.put(c, from)
		if delta < bestDelta {
			best, bestDelta = to, delta
		}
	}
	a.put(c, best)
	return best != from
}

// exchange swaps the zones of two things when that lowers the cost; a thing left out may replace one that is in.
func (a *assignment) exchange(c, d *choice) bool {
	from, to := c.zone, d.zone
	if from == to {
		return false
	}
	delta := c.cost(to) + d.cost(from) - c.cost(from) - d.cost(to)
	if math.IsInf(delta, 1) || math.IsNaN(delta) {
		return false
	}
	before := a.around(from, to)
	a.put(c, to)
	a.put(d, from)
	if after := a.around(from, to); delta+after-before < -gain {
		return true
	}
	a.put(c, from)
	a.put(d, to)
	return false
}

func count(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

func compareDescending(a, b float64) int { return cmp.Compare(b, a) }
