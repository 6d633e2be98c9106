package assign

import (
	"cmp"
	"math"
	"slices"
)

// Gain is the least improvement worth a move; it keeps rounding from turning the search in circles.
const Gain = 1e-6

// begin starts from everything left out, places one thing after the other, and improves by moving one thing or
// exchanging two until nothing is gained. Bulky and hard things first is best where all goes in; where it does not,
// what is most worth its litres goes first if that is better.
func (a *Assignment) begin() {
	a.beginWith((*Choice).urgency)
	if a.OutCost() > 0 {
		a.beginWithWorth(usualPower)
	}
}

// To which power litres count where things rank by what they are worth: at 1 a small thing comes before a large one of
// more worth, at 0 large ones fill the pack.
const usualPower = 0.75

// beginWithWorth begins anew, as the greedy method for a knapsack does, and takes what is better.
func (a *Assignment) beginWithWorth(power float64) {
	best, cost := a.ZonesNow(), a.Total()
	for _, c := range a.Choices {
		a.Put(c, Out)
	}
	a.beginWith(func(c *Choice) float64 {
		rank := c.Leave / math.Pow(max(c.Room(1), 1e-3), power)
		if c.Pin != nil {
			rank += 1e12
		}
		return rank
	})
	if a.Total() > cost {
		a.PutAll(best)
	}
}

// beginWith places the things that rank highest first.
func (a *Assignment) beginWith(rank func(*Choice) float64) {
	first := slices.Clone(a.Choices)
	slices.SortStableFunc(first, func(x, y *Choice) int { return cmp.Compare(rank(y), rank(x)) })
	for _, c := range first {
		a.improveOne(c)
	}
	a.improve()
}

// pairBudget bounds how many pairs of things are weighed in one improvement; a kit of 45 things needs a few thousand.
const pairBudget = 200_000

// improve moves, exchanges and makes room until nothing is gained, or the search is to end.
func (a *Assignment) improve() {
	for a.moveAndExchange(); a.makeRooms(); a.moveAndExchange() {
	}
}

// moveAndExchange moves one thing or exchanges two as long as that gains something.
func (a *Assignment) moveAndExchange() {
	pairs := 0
	for range 60 {
		better := false
		for _, c := range a.Choices {
			better = a.improveOne(c) || better
		}
		for i, c := range a.Choices {
			a.weighed += len(a.Choices) - i
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

// kick looks for better where small steps lead nowhere: one thing after the other comes in that is out, or goes out
// that is in, and stays there while the rest finds its place anew; then it may move too. What is better is gone on
// from (iterated local search with a kick a thing: Lourenço, Martin and Stützle, 2003). A thing that is in may fill
// the room of five that are worth more, and no exchange of two leads there.
func (a *Assignment) kick() {
	for _, power := range otherPowers {
		a.beginWithWorth(power)
	}
	best, cost := a.ZonesNow(), a.Total()
	end := a.weighed + kickBudget
	for better := true; better; {
		better = false
		for _, c := range a.largest() {
			for _, to := range a.elsewhere(c) {
				if a.weighed > end || a.Ended() {
					break
				}
				if to == Out {
					a.Put(c, Out)
				} else {
					a.eject(c, to, len(a.Choices))
				}
				a.kept = c
				a.moveAndExchange()
				a.kept = nil
				if a.improve(); a.Total() < cost-Gain {
					best, cost, better = a.ZonesNow(), a.Total(), true
				}
				a.PutAll(best)
			}
		}
	}
	a.PutAll(best)
}

// otherPowers are tried as well where there is time; kickBudget bounds the pairs that are weighed, a kick some hundreds
// of a small kit and some thousands of a large one; mostTried is into how many zones a thing is put.
var otherPowers = [...]float64{0.25, 0.5, 1}

const (
	kickBudget = 300_000
	mostTried  = 3
)

// largest lists the things that may lie here or there, or be left out, the largest first.
func (a *Assignment) largest() []*Choice {
	list := slices.DeleteFunc(slices.Clone(a.Choices), func(c *Choice) bool { return c.Stuck || c.Pin != nil })
	slices.SortStableFunc(list, func(x, y *Choice) int { return cmp.Compare(y.Room(1), x.Room(1)) })
	return list
}

// elsewhere lists where a kick puts a thing: out, or where it fits in by itself.
func (a *Assignment) elsewhere(c *Choice) (zones []int) {
	if c.Zone != Out {
		return []int{Out}
	}
	zones = a.Cheapest(c)
	return zones[:min(len(zones), mostTried)]
}

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
	if c == a.kept {
		return false
	}
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
	if from == to || c == a.kept || d == a.kept {
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

// LeftOut lists what is left out for want of room, the dearest first.
func (a *Assignment) LeftOut() (left []*Choice) {
	for _, c := range a.Choices {
		if c.Zone == Out && !c.Stuck {
			left = append(left, c)
		}
	}
	slices.SortStableFunc(left, func(x, y *Choice) int { return cmp.Compare(y.Leave, x.Leave) })
	return left
}

// mostEjected is how many things go elsewhere to make room for one that was left out.
const mostEjected = 4

// makeRooms makes room for what is left out, the dearest first, and reports whether anything came in.
func (a *Assignment) makeRooms() (better bool) {
	for _, c := range a.LeftOut() {
		for z := range a.Zones {
			if c.Zone == Out && !math.IsInf(c.Price[z], 1) && !a.Ended() {
				better = a.makeRoom(c, z) || better
			}
		}
	}
	return better
}

// makeRoom puts a thing that is left out into a zone that is too full for it, and things from there elsewhere (an
// ejection chain). All stays as it was when it does not gain anything.
func (a *Assignment) makeRoom(c *Choice, zone int) bool {
	cost := a.Total()
	return a.Attempt(func() bool {
		a.eject(c, zone, mostEjected)
		return a.Total() < cost-Gain
	})
}

// eject puts a thing into a zone, and so many things at most from there elsewhere, those first whose going costs least
// for the litres that it frees, until the zone is no longer too full.
func (a *Assignment) eject(c *Choice, zone, most int) {
	a.Put(c, zone)
	for ejected := 0; math.IsInf(a.zoneCost(zone), 1) && ejected < most; ejected++ {
		var best *Choice
		to, least := Out, math.Inf(1)
		for _, d := range a.Choices {
			if d.Zone != zone || d == c {
				continue
			}
			for w := range a.Zones {
				if w == zone || math.IsInf(d.Price[w], 1) {
					continue
				}
				a.Put(d, w)
				if worse := (d.Price[w] - d.Price[zone]) / d.RoomIn(zone, 1); worse < least && !math.IsInf(a.zoneCost(w), 1) {
					best, to, least = d, w, worse
				}
				a.Put(d, zone)
			}
		}
		if best == nil {
			return
		}
		a.Put(best, to)
	}
}

// zonesCost prices all zones and the sides, without the things by themselves.
func (a *Assignment) zonesCost() float64 {
	sum := sideCost(a.moment)
	for z := range a.Zones {
		sum += a.zoneCost(z)
	}
	return sum
}

func asOne(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
