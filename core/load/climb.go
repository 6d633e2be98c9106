package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/job"
	"tornister/core/stuff"
)

// fit looks for an order in which everything goes in, tight. It begins with the order of the plan, then with large
// hard things first. When that does not do, lanes are given up and climbers search, as long as the budget lasts. The
// order in which least was missing stays. It reports whether nothing is.
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
	if p.budget.over() {
		return false
	}
	if p.largeFirst(try) || !p.hopeless() && p.stack(random) {
		return true
	}
	copy(p.order, best)
	if !p.hopeless() && len(p.order) > 1 && !p.budget.over() {
		p.climb(random)
	}
	return p.run(1)
}

// outFirst brings forward what found no place, a few times, and leaves the others in their turns: long poles go in
// before the sleeping bag that they would not stand on. When that does not do, the order is what it was.
func (p *packing) outFirst(try func() bool) bool {
	planned := slices.Clone(p.order)
	for range forward {
		if p.budget.over() {
			break
		}
		out := slices.Clone(p.trial.Out)
		p.order = slices.DeleteFunc(p.order, func(i int) bool { return slices.Contains(out, i) })
		p.order = append(out, p.order...)
		p.gather()
		if try() {
			return true
		}
	}
	copy(p.order, planned)
	return false
}

// forward is how often that is done: what comes first may keep out something else.
const forward = 3

// largeFirst tries orders with large hard things first. When none does, the order is what it was.
func (p *packing) largeFirst(try func() bool) bool {
	planned := slices.Clone(p.order)
	for _, larger := range largestFirst {
		if p.budget.over() {
			break
		}
		copy(p.order, planned)
		sortLargest(p.order, p.things, larger)
		p.hold()
		if try() {
			return true
		}
	}
	copy(p.order, planned)
	return false
}

// Blocks are tried where there are a few hard things and they take a good part of the room. They cost the budget what
// they take in time, and have no more than a part of it.
const (
	fewestStacked = 4
	mostStacked   = 32 // ways to join two grow with the square
	stackedShare  = 0.4
	stackedPart   = 3   // of the budget that is left, one part in so many
	looksPerThing = 600 // joints looked at in the time that one thing is placed for trial
)

// stack looks for a way to join the hard things of the body into one block without gaps, which the search for an
// order hardly ever finds. The soft ones come after them. Things are as they were when that does not do.
func (p *packing) stack(random *source) bool {
	room := p.space.Cuboid(stuff.Body)
	size := [3]int{room.Max[0] - room.Min[0], room.Max[1] - room.Min[1], room.Max[2] - room.Min[2]}
	var hard []int
	var sizes [][3]int
	cells := 0
	for _, i := range p.order {
		if th := &p.things[i]; th.Rigid() && th.Region == stuff.Body {
			if pin := p.inside[i].Pin; pin != nil && (pin.Place > 0 || pin.Lane != job.Full) {
				return false
			}
			hard, sizes = append(hard, i), append(sizes, th.Poses[0])
			cells += th.Cells(1)
		}
	}
	if len(hard) < fewestStacked || len(hard) > mostStacked || float64(cells) < stackedShare*float64(p.space.Room()) {
		return false
	}
	boxes, looked := stuff.Blocks(sizes, size, p.budget.left/stackedPart*looksPerThing, random.Rand, p.budget.over)
	p.budget.left -= looked / looksPerThing
	if boxes == nil {
		return false
	}
	order, things := slices.Clone(p.order), slices.Clone(p.things)
	level := map[int]int{}
	for k, i := range hard {
		b := boxes[k]
		pose := [3]int{b.Max[0] - b.Min[0], b.Max[1] - b.Min[1], b.Max[2] - b.Min[2]}
		p.things[i].Stand = &stuff.Stand{Pose: pose, X: room.Min[0] + b.Min[0], Y: room.Min[1] + b.Min[1]}
		level[i] = b.Min[2] - len(p.things)*size[2]
	}
	slices.SortStableFunc(p.order, func(i, j int) int { return cmp.Compare(level[i], level[j]) })
	if p.run(1) {
		return true
	}
	copy(p.order, order)
	copy(p.things, things)
	return false
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
		c.things = cloneThings(p.things)
		for i := range c.things {
			if pin := p.inside[i].Pin; pin == nil || pin.Lane == job.Full {
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
		var wait sideBySide
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
		if c.bestMissing == 0 || c.budget.over() {
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

// fitOtherwise is a short fit for when the order as it is has not done, and nothing is lost when others do not either.
func (p *packing) fitOtherwise(random *source) bool {
	try := func() bool { return p.budget.spend(len(p.things)) && p.run(1) }
	return p.largeFirst(try) || !p.hopeless() && p.stack(random)
}
