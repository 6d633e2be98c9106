package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// out is the index of no zone: the thing is left out.
const out = -1

// choice is a piece with everything the search needs of it, what it carries inside counted in.
type choice struct {
	kit.Piece
	mass        float64 // g, with what is nested inside
	rigid       float64 // litres of the box round it; 0 for a soft thing
	food, fuel  int
	wet, spoilt int
	pin         *Pin
	zone        int       // index into the pack's zones, or out
	price       []float64 // by zone; +Inf where it cannot be
	leave       float64
	stuck       bool // no zone at all takes it
	inside      []kit.Piece
	limits      []reach.Limit // of the drills that ask for it
}

// assignment is the state of the search for the cheapest zones.
type assignment struct {
	task    *Task
	zones   []rucksack.Zone
	choices []*choice
	nested  map[kit.Piece][]kit.Piece
	fills   []fill
	moment  float64 // N·m to the right
	drawers [][]int // by zone, the zones that draw on it
	drawnOn []int   // by zone, the zone it draws on, or -1
	proof   Proof
	loss    []float64   // litres of each zone that trial packings have shown to be lost
	stop    func() bool // ends the search; what is found so far is kept
}

func newAssignment(task *Task, loose []kit.Piece, nested map[kit.Piece][]kit.Piece) *assignment {
	a := &assignment{task: task, zones: task.Pack.Zones, nested: nested}
	a.fills = make([]fill, len(a.zones))
	a.drawers = make([][]int, len(a.zones))
	a.drawnOn = make([]int, len(a.zones))
	a.loss = make([]float64, len(a.zones))
	for i := range a.zones {
		a.drawnOn[i] = -1
		if d := a.zones[i].DrawsOn; d != nil {
			for j := range a.zones {
				if a.zones[j].ID == d.Zone {
					a.drawers[j] = append(a.drawers[j], i)
					a.drawnOn[i] = j
				}
			}
		}
	}
	for _, p := range loose {
		a.choices = append(a.choices, a.newChoice(p))
	}
	return a
}

func (a *assignment) newChoice(p kit.Piece) *choice {
	c := &choice{Piece: p, zone: out, leave: leaveCost(p), pin: a.task.PinFor(p), inside: a.nested[p], limits: reach.Limits(p.Item)}
	if p.Shape.Kind != kit.Soft {
		c.rigid = p.Shape.BoxL()
	}
	for _, q := range append([]kit.Piece{p}, c.inside...) {
		c.mass += q.MassG
		c.food += count(q.Has(kit.Food))
		c.fuel += count(q.Has(kit.Fuel))
		c.wet += count(q.Water.Leaks || q.Water.ReturnsWet)
		c.spoilt += count(dry.Need(q.Item) == 2 && !dry.Cased(q.Item))
	}
	c.price = make([]float64, len(a.zones))
	for i := range a.zones {
		z := &a.zones[i]
		switch {
		case c.pin != nil && c.pin.Zone != "" && c.pin.Zone != z.ID, !holds(z, c),
			z.Kind == rucksack.Straps && !c.pinnedTo(z) && !mayHang(a.task.Method, c.Item):
			c.price[i] = math.Inf(1)
		default:
			for _, t := range terms(a.task, c, z) {
				c.price[i] += t.cost
			}
		}
	}
	if !slices.ContainsFunc(c.price, func(v float64) bool { return !math.IsInf(v, 1) }) {
		c.stuck = true
	}
	return c
}

func (c *choice) pinnedTo(z *rucksack.Zone) bool { return c.pin != nil && c.pin.Zone == z.ID }

// holds reports whether the empty zone could take the thing: dimensions, mouth, litres and, on straps, mass.
func holds(z *rucksack.Zone, c *choice) bool {
	if c.Shape.Kind != kit.Soft && (!c.Shape.Within(z.Sides()) || !c.Shape.Passes(z.MouthCm)) {
		return false
	}
	if z.Kind == rucksack.Straps {
		return c.Shape.Rigid() && (z.MaxMassG == 0 || c.mass <= z.MaxMassG)
	}
	return c.Shape.Litres(1) <= z.CapacityL()+litreSlack
}

// room is the capacity of a zone after what the pockets that draw on it take, when these are squeezed that much.
func (a *assignment) room(zone int, squeeze float64) float64 {
	return max(0, a.capacity(zone)-a.drawn(zone, squeeze))
}

// zoneCost prices what lies together in a zone; +Inf when even tight it is too much.
func (a *assignment) zoneCost(zone int) float64 {
	f := &a.fills[zone]
	tight, loose := f.need(1)+a.drawn(zone, 1), f.need(0)+a.drawn(zone, 0)
	capacity := a.capacity(zone) + litreSlack
	limit := a.massLimit(zone)
	if tight > capacity || limit > 0 && f.mass > limit+litreSlack {
		return math.Inf(1)
	}
	cost := a.squeezePrice(zone) * max(0, loose-capacity)
	if a.pocket(zone) {
		if f.food > 0 && f.fuel > 0 {
			cost += breach
		}
		if f.wet > 0 && f.spoilt > 0 {
			cost += breach
		}
	}
	return cost
}

// drawn is the litres that pockets take out of a zone at a squeeze.
func (a *assignment) drawn(zone int, squeeze float64) (sum float64) {
	for _, d := range a.drawers[zone] {
		if a.fills[d].count > 0 {
			sum += a.zones[d].DrawsOn.Share * a.fills[d].need(squeeze)
		}
	}
	return sum
}

// squeezeNow is the squeeze of a zone as it is filled, 1 when it is overfull.
func (a *assignment) squeezeNow(zone int) float64 { return min(1, a.squeeze(zone)) }

func (a *assignment) squeeze(zone int) float64 {
	f := &a.fills[zone]
	loose, tight := f.need(0)-a.room(zone, 0), f.need(1)-a.room(zone, 1)
	return squeezeFor(loose, tight, 0)
}

// around prices the zones that a change in the given ones can touch.
func (a *assignment) around(zones ...int) float64 {
	sum := sideCost(a.moment)
	seen := make([]int, 0, 8)
	visit := func(i int) {
		if i != out && !slices.Contains(seen, i) {
			seen = append(seen, i)
			sum += a.zoneCost(i)
		}
	}
	for _, i := range zones {
		visit(i)
		if i == out || a.zones[i].DrawsOn == nil {
			continue
		}
		for j, drawers := range a.drawers {
			if slices.Contains(drawers, i) {
				visit(j)
			}
		}
	}
	return sum
}

func (c *choice) cost(zone int) float64 {
	if zone == out {
		return c.leave
	}
	return c.price[zone]
}

// put moves a choice to a zone without asking what it costs.
func (a *assignment) put(c *choice, zone int) {
	if c.zone != out {
		a.fills[c.zone].add(c, -1)
		a.moment -= sideMoment(&a.zones[c.zone], c.mass)
	}
	c.zone = zone
	if zone != out {
		a.fills[zone].add(c, 1)
		a.moment += sideMoment(&a.zones[zone], c.mass)
	}
}

// gain is the least improvement worth a move; it keeps rounding from turning the search in circles.
const gain = 1e-6

// effort bounds the work of solving an assignment.
type effort struct {
	nodes  int // of the enumeration
	rounds int // of the knapsack bound
	kicks  int // of the search for a better assignment
}

// A quick answer and a thorough one.
var (
	quickly    = effort{nodes: 3_000, rounds: 0, kicks: 6}
	thoroughly = effort{nodes: 300_000, rounds: 2_500, kicks: 30}
)

// solve starts from everything left out, places the things with most to lose first, and improves by moving one thing or
// exchanging two until nothing is gained. Then it looks for a lower bound, starts once more from what the bound's
// prices suggest, shakes the best a few times, and tries to close what is between.
func (a *assignment) solve(e effort) {
	first := slices.Clone(a.choices)
	slices.SortStableFunc(first, func(x, y *choice) int { return compareDescending(x.urgency(), y.urgency()) })
	for _, c := range first {
		a.improveOne(c)
	}
	a.improve()
	a.prove(e)
}

// fewThings is the number up to which enumerating has a good chance to come to an end.
const fewThings = 24

// prove finds the bound, improving the assignment on the way where it can.
func (a *assignment) prove(e effort) {
	bound, at := a.ascend(a.total(), a.fewer(80+e.rounds/10))
	a.restart(at)
	a.shake(e.kicks)
	nodes := e.nodes
	if len(a.choices) > fewThings {
		nodes /= 10
	}
	if a.total()-bound > gain && a.enumerate(bound, at, nodes) {
		bound = a.total()
	} else if a.total()-bound > gain {
		bound = max(bound, a.tighten(bound, at, a.fewer(e.rounds)))
		a.shake(e.kicks)
	}
	a.proof = Proof{Objective: a.total(), Bound: min(bound, a.total())}
}

// shake takes a few things out of their zones at random, lets everything settle again, and keeps what is better.
func (a *assignment) shake(kicks int) {
	random := newSource(int64(len(a.choices)))
	for range a.fewer(kicks) {
		if len(a.choices) == 0 || a.ended() {
			return
		}
		before, cost := a.zonesNow(), a.total()
		for range 2 + random.below(4) {
			c := a.choices[random.below(len(a.choices))]
			var zones []int
			for z, v := range c.price {
				if !math.IsInf(v, 1) && z != c.zone {
					zones = append(zones, z)
				}
			}
			if len(zones) == 0 {
				continue
			}
			from, to := c.zone, zones[random.below(len(zones))]
			if a.put(c, to); math.IsInf(a.around(to), 1) {
				a.put(c, from)
			}
		}
		a.improve()
		if a.total() > cost-gain {
			for i, c := range a.choices {
				a.put(c, before[i])
			}
		}
	}
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

// fewer is a number of rounds for a kit of usual size, less for a larger one.
func (a *assignment) fewer(rounds int) int {
	const usual = 50
	return rounds * usual / max(usual, len(a.choices))
}

// restart begins again with each thing in the zone that is cheapest at the prices, those with most to lose first, and
// keeps the better of the two results.
func (a *assignment) restart(at *prices) {
	before, cost := a.zonesNow(), a.total()
	for _, c := range a.choices {
		a.put(c, out)
	}
	regret := map[*choice]float64{}
	for _, c := range a.choices {
		least, second := math.Inf(1), math.Inf(1)
		for z := range a.zones {
			if v := a.reduced(c, z, at); v < least {
				least, second = v, least
			} else if v < second {
				second = v
			}
		}
		regret[c] = min(second, c.leave) - least
	}
	first := slices.Clone(a.choices)
	slices.SortStableFunc(first, func(x, y *choice) int { return compareDescending(regret[x], regret[y]) })
	for _, c := range first {
		best, zone := c.leave, out
		for z := range a.zones {
			if v := a.reduced(c, z, at); v < best {
				a.put(c, z)
				if !math.IsInf(a.around(z), 1) {
					best, zone = v, z
				}
				a.put(c, out)
			}
		}
		a.put(c, zone)
	}
	a.improve()
	if a.total() > cost {
		for i, c := range a.choices {
			a.put(c, before[i])
		}
	}
}

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
