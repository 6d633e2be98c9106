package load

import (
	"math"
	"slices"

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
	// squeeze is the least at which everything goes in.
	squeeze float64
}

// budget counts the work of a search in things placed for trial, so that the same task always gets the same search. The
// clock, if there is one, only cuts it short.
type budget struct {
	left     int
	stop     func() bool
	cutShort bool
	trials   int
}

// spend takes the work of a trial; false when there is no more.
func (b *budget) spend(things int) bool {
	if b.stop != nil && b.stop() {
		b.cutShort = true
		return false
	}
	b.left -= max(1, things)
	b.trials++
	return b.left > 0
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
	for _, c := range a.choices {
		if c.zone != out && a.zones[c.zone].Solid() {
			p.inside = append(p.inside, c)
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

// run packs once and counts it.
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
// things first, then moves what was left out forward, as long as the budget lasts. The order in which least was missing
// stays. It reports whether nothing is.
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
	for _, larger := range []func(i int) float64{p.bulk, p.longest, p.footprint} {
		copy(p.order, planned)
		slices.SortStableFunc(p.order, func(i, j int) int { return compareDescending(larger(i), larger(j)) })
		p.hold()
		if try() {
			return true
		}
	}
	if p.hopeless() {
		copy(p.order, best)
		p.run(1)
		return false
	}
	now, nowMissing := slices.Clone(best), bestMissing
	for p.budget.spend(len(p.things)) {
		copy(p.order, now)
		p.disturb(random)
		p.hold()
		p.run(1)
		m := p.missing()
		if m < bestMissing {
			bestMissing = m
			copy(best, p.order)
		}
		if m == 0 {
			return true
		}
		// A little worse is taken now and then, so that the search does not stick.
		if m <= nowMissing || random.float() < math.Exp((nowMissing-m)/(0.02*nowMissing+0.05)) {
			nowMissing = m
			copy(now, p.order)
		}
	}
	copy(p.order, best)
	p.run(1)
	return len(p.trial.Out) == 0
}

// homeward brings an order that fits back towards the planned one: one thing after another, as it is planned, is moved to
// its planned turn, and stays there if all still goes in.
func (p *packing) homeward() {
	fits := slices.Clone(p.order)
	p.plannedOrder()
	planned := slices.Clone(p.order)
	if p.run(1) {
		return
	}
	copy(p.order, fits)
	for turn, i := range planned {
		from := slices.Index(p.order, i)
		if from == turn {
			continue
		}
		p.order = slices.Delete(p.order, from, from+1)
		p.order = slices.Insert(p.order, turn, i)
		p.hold()
		if p.run(1) {
			copy(fits, p.order)
		} else {
			copy(p.order, fits)
		}
	}
	p.run(1)
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

// hopeless reports whether the tight litres alone are more than the room.
func (p *packing) hopeless() bool {
	need := 0
	for i := range p.things {
		need += p.things[i].Cells(1)
	}
	return need > p.space.Room()
}

// disturb moves one or two things in the order: often one that was left out, to an earlier place.
func (p *packing) disturb(random *source) {
	n := len(p.order)
	if n < 2 {
		return
	}
	for range 1 + random.below(2) {
		from := random.below(n)
		if len(p.trial.Out) > 0 && random.below(2) == 0 {
			from = slices.Index(p.order, p.trial.Out[random.below(len(p.trial.Out))])
		}
		to := random.below(n)
		moved := p.order[from]
		p.order = slices.Delete(p.order, from, from+1)
		p.order = slices.Insert(p.order, to, moved)
	}
	if random.below(3) == 0 {
		i := random.below(n)
		if poses := p.things[i].Poses; len(poses) > 1 {
			k := 1 + random.below(len(poses)-1)
			poses[0], poses[k] = poses[k], poses[0]
		}
	}
}

// Keys by which things are packed largest first: hard things before soft ones.
func (p *packing) bulk(i int) float64 {
	return float64(p.things[i].Cells(1)) + p.rigidFirst(i)
}

func (p *packing) longest(i int) float64 {
	d := p.inside[i].Shape.Dimensions()
	return 1000*d[0] + d[1] + p.rigidFirst(i)
}

func (p *packing) footprint(i int) float64 {
	d := p.inside[i].Shape.Dimensions()
	return d[0]*d[1] + p.rigidFirst(i)
}

func (p *packing) rigidFirst(i int) float64 {
	if p.things[i].Rigid() {
		return 1e7
	}
	return 0
}

// leastSqueeze finds how tight the soft things must be for all to go in, to a sixty-fourth, and packs at it. The order
// must fit tight.
func (p *packing) leastSqueeze() float64 {
	if p.run(0) {
		return 0
	}
	low, high := 0.0, 1.0
	for range 6 {
		middle := (low + high) / 2
		if p.run(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	p.run(high)
	return high
}
