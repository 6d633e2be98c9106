package load

import (
	"cmp"
	"math"
	"slices"
	"sync"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// packing is the trial packing of what a zone assignment puts into body and bottom compartment.
type packing struct {
	task   *Task
	space  *stuff.Space
	open   bool // the divider
	inside []*choice
	things []stuff.Thing
	order  []int // of things, first in first
	trial  *stuff.Trial
	budget *budget
	bags   []int // which of bagsUsed each of inside goes into, none for none; nil before that is known
	// bagsUsed are the bags of the barrier plan; torn the ids of those that do not go in as one.
	bagsUsed []dry.Barrier
	torn     []string
	lined    bool  // the liner shuts over all this
	aims     []aim // why a thing is out of its turn; nil before that is known
	// squeeze is the least at which everything goes in.
	squeeze float64
	// elsewhereG is the grams of the pack itself and of what is in its pockets, elsewhereMoment that times its height in cm.
	elsewhereG, elsewhereMoment float64
}

// budget counts the work of a search in things placed for trial, so that the same task always gets the same search. The
// clock, if there is one, only cuts it short.
type budget struct {
	left     int
	stop     func() bool
	cutShort bool
	trials   int
}

// leastSpent is what a trial of few things costs all the same.
const leastSpent = 12

// spend takes the work of a trial; false when there is no more.
func (b *budget) spend(things int) bool {
	if b.stop != nil && b.stop() {
		b.cutShort = true
		return false
	}
	b.left -= max(leastSpent, things)
	b.trials++
	return b.left > 0
}

// spendTurn takes the work of several trials at once.
func (b *budget) spendTurn(trials, things int) bool {
	for range trials {
		if !b.spend(things) {
			return false
		}
	}
	return true
}

// newPacking measures the things that the assignment puts into the solids. Pockets that draw on the body take their
// litres out of it first.
func newPacking(a *assignment, solid *rucksack.Solid, open bool, b *budget) *packing {
	p := &packing{task: a.task, space: stuff.NewSpace(solid, open), open: open, budget: b}
	for i := range a.zones {
		z := &a.zones[i]
		if f := &a.fills[i]; z.DrawsOn != nil && f.count > 0 && a.task.Pack.Zone(z.DrawsOn.Zone).Kind == rucksack.Body {
			litres := z.DrawsOn.Share * f.need(a.squeezeNow(i))
			p.space.Carve(litres, z.SizeCm[0], z.AtCm[2]+z.SizeCm[2]/2, z.Kind == rucksack.Sleeve || z.Kind == rucksack.Inner)
		}
	}
	pack := &a.task.Pack
	p.elsewhereG, p.elsewhereMoment = pack.MassG, pack.MassG*pack.MiddleCm()[2]
	for _, c := range a.choices {
		switch {
		case c.zone == out:
		case a.zones[c.zone].Solid():
			p.inside = append(p.inside, c)
		default:
			p.elsewhereG += c.mass
			p.elsewhereMoment += c.mass * a.zones[c.zone].AtCm[2]
		}
	}
	for i, c := range p.inside {
		region := stuff.Body
		if a.zones[c.zone].Kind == rucksack.Bottom {
			region = stuff.Bottom
		}
		p.things = append(p.things, p.space.ThingOf(c.Shape, region, wish(a.task, c)))
		p.order = append(p.order, i)
	}
	p.trial = p.space.NewTrial(len(p.things))
	return p
}

// firm is how many centimetres of height a centimetre nearer to the wished lane is worth (our estimate).
// pinFirm is the same for a lane that the packer pinned.
const (
	firm    = 0.35
	pinFirm = 3.0
)

// wish is the lane that the chosen school gives a thing: heavy things to the spine or behind something soft, rods along
// a side, light things anywhere.
func wish(task *Task, c *choice) stuff.Wish {
	heavy := isHeavy(c.Piece, c.mass)
	if c.pin != nil && c.pin.Lane != Full {
		return map[Lane]stuff.Wish{Back: {Deep: 0, Across: 0.5, Firm: pinFirm}, Front: {Deep: 1, Across: 0.5, Firm: pinFirm},
			Left: {Deep: 0.5, Across: 0, Firm: pinFirm}, Right: {Deep: 0.5, Across: 1, Firm: pinFirm}}[c.pin.Lane]
	}
	switch {
	case c.Shape.Rod():
		return stuff.Wish{Deep: 0.2, Across: 1, Firm: firm}
	case heavy && task.Method.Spine == "soft":
		return stuff.Wish{Deep: 0.5, Across: 0.5, Firm: firm}
	case heavy:
		return stuff.Wish{Deep: 0, Across: 0.5, Firm: firm}
	case task.Method.Spine == "soft" && c.Shape.Kind == kit.Soft:
		return stuff.Wish{Deep: 0, Across: 0.5, Firm: firm / 2}
	case c.Has(kit.Hard) || c.Has(kit.Sharp):
		return stuff.Wish{Deep: 1, Across: 0.5, Firm: firm / 2} // nothing hard against the spine
	}
	return stuff.Wish{}
}

// isHeavy things are laid with care: heavyG and more, and not a voluminous bundle.
func isHeavy(p kit.Piece, mass float64) bool { return mass >= heavyG && dense(p) }

// goesIn reports whether everything finds a place; when not, the trial is not whole.
func (p *packing) goesIn(squeeze float64) bool { return p.trial.Fits(p.things, p.order, squeeze) }

// run packs once.
func (p *packing) run(squeeze float64) bool { return p.trial.Run(p.things, p.order, squeeze) }

// missing is the tight litres of what the last trial left out, weighed so that fewer things out is better.
func (p *packing) missing() float64 {
	sum := 0.0
	for _, i := range p.trial.Out {
		sum += p.inside[i].Shape.Litres(1) + 0.05
	}
	return sum
}

// fit looks for an order in which everything goes in, tight. It begins with the order of the plan, then with large hard
// things first. When that does not do, lanes are given up and climbers search, as long as the budget lasts. The order in
// which least was missing stays. It reports whether nothing is.
func (p *packing) fit(random *source) bool {
	best, bestMissing := slices.Clone(p.order), math.Inf(1)
	try := func() bool {
		p.run(1)
		if m := p.missing(); m < bestMissing {
			bestMissing = m
			copy(best, p.order)
		}
		return len(p.trial.Out) == 0
	}
	if try() {
		return true
	}
	planned := slices.Clone(p.order)
	for _, larger := range largestFirst {
		copy(p.order, planned)
		sortLargest(p.order, p.things, larger)
		p.hold()
		if try() {
			return true
		}
	}
	copy(p.order, best)
	if !p.hopeless() && len(p.order) > 1 {
		p.climb(random)
	}
	return p.run(1)
}

// largestFirst are measures by which things can be packed large ones first.
var largestFirst = []func(*stuff.Thing) int{(*stuff.Thing).Bulk, (*stuff.Thing).Longest, (*stuff.Thing).Footprint}

// sortLargest sorts an order by a measure, hard things before soft ones.
func sortLargest(order []int, things []stuff.Thing, larger func(*stuff.Thing) int) {
	slices.SortStableFunc(order, func(i, j int) int {
		return cmp.Or(count(things[j].Rigid())-count(things[i].Rigid()), larger(&things[j])-larger(&things[i]))
	})
}

// hopeless reports whether the tight litres alone are more than the room.
func (p *packing) hopeless() bool {
	need := 0
	for i := range p.things {
		need += p.things[i].Cells(1)
	}
	return need > p.space.Room()
}

// climber searches for an order by itself, from its own seed.
type climber struct {
	packing
	random      *source
	now         []int
	nowMissing  float64
	best        []int
	bestThings  []stuff.Thing
	bestMissing float64
}

// climbers search side by side in turns of so many trials. After each turn the first that found everything room is
// taken, so that the result does not depend on which was quicker.
const (
	climbers   = 2
	turnTrials = 24
)

// climb lets climbers search from the present order and takes over the best they find.
func (p *packing) climb(random *source) {
	var all [climbers]*climber
	for k := range all {
		c := &climber{packing: *p, random: newSource(int64(random.Uint64() >> 1))}
		c.things = slices.Clone(p.things)
		for i := range c.things {
			c.things[i].Poses = slices.Clone(c.things[i].Poses)
			if pin := p.inside[i].pin; pin == nil || pin.Lane == Full {
				c.things[i].Wish = stuff.Wish{}
			}
		}
		c.order = slices.Clone(p.order)
		c.trial = p.space.NewTrial(len(p.things))
		c.run(1)
		c.nowMissing = c.missing()
		c.now = slices.Clone(c.order)
		c.bestMissing = math.Inf(1)
		c.note()
		all[k] = c
	}
	first := func() *climber {
		best := all[0]
		for _, c := range all[1:] {
			if c.bestMissing < best.bestMissing {
				best = c
			}
		}
		return best
	}
	for first().bestMissing > 0 && p.budget.spendTurn(climbers*turnTrials, len(p.things)) {
		var wait sync.WaitGroup
		for _, c := range all {
			wait.Go(c.turn)
		}
		wait.Wait()
	}
	p.run(1)
	if best := first(); best.bestMissing < p.missing() {
		copy(p.order, best.best)
		copy(p.things, best.bestThings)
	}
}

// turn tries orders near the present one. A little worse is taken now and then, so that the search does not stick.
func (c *climber) turn() {
	for range turnTrials {
		if c.bestMissing == 0 {
			return
		}
		copy(c.order, c.now)
		c.disturb()
		c.hold()
		c.run(1)
		m := c.missing()
		c.note()
		if m <= c.nowMissing || c.random.float() < math.Exp((c.nowMissing-m)/(0.03*c.nowMissing+0.01)) {
			c.nowMissing = m
			copy(c.now, c.order)
		}
	}
}

// note keeps the last trial if least was missing in it.
func (c *climber) note() {
	if m := c.missing(); m < c.bestMissing {
		c.bestMissing = m
		c.best = append(c.best[:0], c.order...)
		c.bestThings = append(c.bestThings[:0], c.things...)
		for i := range c.bestThings {
			c.bestThings[i].Poses = slices.Clone(c.things[i].Poses)
		}
	}
}

// disturb exchanges two things in the order or moves one: often one that was left out, to an earlier turn.
func (c *climber) disturb() {
	n, r := len(c.order), c.random
	i, j := r.below(n), r.below(n)
	if len(c.trial.Out) > 0 && r.below(3) == 0 {
		i = slices.Index(c.order, c.trial.Out[r.below(len(c.trial.Out))])
		j = r.below(i + 1)
	}
	if r.below(2) == 0 {
		c.order[i], c.order[j] = c.order[j], c.order[i]
		return
	}
	moved := c.order[i]
	c.order = slices.Insert(slices.Delete(c.order, i, i+1), j, moved)
}

// homeward brings an order that fits back towards the planned one: one thing after another, as it is planned, is moved to
// its planned turn, and stays there if all still goes in at a squeeze a little above the present one, which it gives.
func (p *packing) homeward() (squeeze float64) {
	squeeze = min(1, p.squeeze+homeSqueeze)
	if !p.goesIn(squeeze) { // tighter things may come to lie elsewhere
		squeeze = p.squeeze
	}
	fits := slices.Clone(p.order)
	for i, c := range p.inside { // lanes that were given up in the search come back where that does no harm
		given := p.things[i].Wish
		if p.things[i].Wish = wish(p.task, c); p.things[i].Wish != given && (!p.budget.spend(len(p.things)) || !p.goesIn(squeeze)) {
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

// leaveOut takes what the last trial left out of the assignment, and what then finds no place either: without a thing the others
// come to lie elsewhere.
func (p *packing) leaveOut(a *assignment) {
	for len(p.trial.Out) > 0 {
		for _, i := range p.trial.Out {
			a.put(p.inside[i], out)
		}
		p.drop()
	}
}

// drop takes what the last trial left out off the order.
func (p *packing) drop() {
	out := slices.Clone(p.trial.Out)
	p.order = slices.DeleteFunc(p.order, func(i int) bool { return slices.Contains(out, i) })
	p.run(1)
}

// orderLike takes over the order of another packing; things that are new come where their time of need puts them.
func (p *packing) orderLike(other *packing) {
	at := map[kit.Piece]int{}
	for n, i := range other.order {
		at[other.inside[i].Piece] = n
	}
	var known, fresh []int
	for i, c := range p.inside {
		if _, had := at[c.Piece]; had {
			known = append(known, i)
		} else {
			fresh = append(fresh, i)
		}
	}
	slices.SortFunc(known, func(i, j int) int { return at[p.inside[i].Piece] - at[p.inside[j].Piece] })
	p.order = known
	for _, i := range fresh {
		to := slices.IndexFunc(p.order, func(j int) bool { return compareInLoading(p.task, p.inside[i], p.inside[j]) < 0 })
		if to < 0 {
			to = len(p.order)
		}
		p.order = slices.Insert(p.order, to, i)
	}
	p.hold()
}

// fitBriefly is fit with a small part of the budget.
func (p *packing) fitBriefly(random *source) bool {
	whole := p.budget
	p.budget = &budget{left: min(whole.left, briefTrials*len(p.things)), stop: whole.stop}
	fits := p.fit(random)
	whole.left -= p.budget.trials * len(p.things)
	whole.trials += p.budget.trials
	whole.cutShort = whole.cutShort || p.budget.cutShort
	p.budget = whole
	return fits
}

// briefTrials is how many orders are tried to get one more thing in.
const briefTrials = 12

// leastSqueeze finds how tight the soft things must be for all to go in by halving the interval a few times, and packs
// at it. It begins with what litres alone ask for, tries a few orders at each step, and keeps the one that did it. The
// present order must fit at the squeeze known.
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
		if s := squeezeFor(float64(loose), float64(tight), float64(p.space.RoomBetween(from, to))); !math.IsInf(s, 1) {
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
