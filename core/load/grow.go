package load

import (
	"math"
	"slices"
	"strings"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// overL finds by how many litres the body would have to grow for what is left out to go in, to a tenth: it puts it
// into bodies that are taller by whole layers of cells, halves the interval, and counts of the last layer only what
// is used. What no zone can hold, and what goes into no body however tall, does not count: for the latter it is said
// that litres would not help.
func (s *search) overL(p *packing, plan *Plan) {
	a := s.assignment
	body := assign.OfKind(a.Zones, rucksack.Body)
	var left []*assign.Choice
	for _, c := range a.Choices {
		if c.Zone == assign.Out && !c.Stuck {
			left = append(left, c)
			a.Put(c, body)
		}
	}
	defer func() {
		for _, c := range left {
			a.Put(c, assign.Out)
		}
	}()
	if len(left) == 0 {
		return
	}
	bulky := 0.0
	for _, c := range left {
		bulky += c.Room(1)
	}
	room := p.litres(p.space.Room())
	plan.OverL = max(0.1, tenthUp(bulky+p.taken()-room))
	if s.options.Rough || s.budget.over() { // not tried, or no time to: what is lacking in litres
		return
	}
	g := &growing{search: s, from: p, layer: a.Zones[body].VolumeL / a.Zones[body].SizeCm[2] * s.solid.CellCm}
	low := max(0, int((bulky+p.tight()-room)/g.layer)-1) // no body can do that has not the litres
	high := low + int(math.Ceil(max(tallest*bulky/g.layer, longest(left)/s.solid.CellCm))) + 1
	rest := true
	takes := g.takes(high)
	if !takes && !s.budget.over() {
		rest = g.partedFrom(plan, left)
		takes = rest && g.takes(high)
	}
	switch {
	case takes:
		plan.OverL = max(0.1, tenthUp(min(g.least(low, high)-room, g.litres())))
	case !rest:
		plan.OverL = 0
	}
	if plan.OverL > 0 && !s.options.Quick && !s.budget.over() {
		plan.OverL = s.asPlanned(plan)
	}
}

// longest is the longest side of what has one, in cm: a body that is taller by so much takes any of it above all the
// others.
func longest(things []*assign.Choice) (cm float64) {
	for _, c := range things {
		sides := c.Shape.Dimensions()
		cm = max(cm, slices.Max(sides[:]))
	}
	return cm
}

// asPlanned corrects what the body has to grow by by planning the kit in grown packs, where other things may lie in
// the pockets: by so much larger it is all in, and by some tenths less it is not.
func (s *search) asPlanned(plan *Plan) float64 {
	closeTo := 0.4
	lower, upper, step := plan.OverL-closeTo, plan.OverL, closeTo
	if plan.OverL > farOff { // then it is seldom too much, and often too little
		closeTo = roughly * plan.OverL
		lower, upper, step = plan.OverL, plan.OverL+2*closeTo, 2*closeTo
	}
	b := bracket{most: math.Inf(1)}
	narrow := func(lower, upper float64) { b.narrow(s, tenthUp(lower), tenthUp(upper), plan) }
	narrow(lower, upper)
	for last := 4 * step; math.IsInf(b.most, 1); step *= 4 {
		if step > last || s.budget.over() {
			return plan.OverL
		}
		narrow(b.least+step, b.least+3*step)
	}
	for less := 2 * closeTo; b.least == 0 && b.most > less && !s.budget.over(); less *= 4 {
		narrow(b.most-3*less, b.most-less)
	}
	for b.most-b.least > closeTo+1e-9 && !s.budget.over() {
		third := (b.most - b.least) / 3
		narrow(b.least+third, b.most-third)
	}
	if plan.OverL <= farOff {
		s.carefully(&b, plan)
	}
	return tenthUp(b.most)
}

// carefully plans thoroughly what was planned quickly, to half a litre: first where a packing took it all, which quick
// plans often do not find. Where that does not do, it halves the interval up to what is known to do; then it goes down
// until half a litre less does not. It begins no more once it has made half as many trials as everything before it: at
// the edge each plan takes as long as the one it is asked for.
func (s *search) carefully(b *bracket, plan *Plan) {
	const near = 0.5
	enough := s.budget.trials + s.budget.trials/2
	ended := func() bool { return s.budget.trials >= enough || s.budget.over() }
	goesIn := func(litres float64) bool {
		in, trials := s.plansGrown(litres, plan, false)
		if s.budget.trials += trials; in {
			b.most = litres
		}
		return in
	}
	if least := plan.OverL; least < b.most-near && !goesIn(least) {
		for b.most-least > near+1e-9 && !ended() {
			if middle := tenthUp((least + b.most) / 2); !goesIn(middle) {
				least = middle
			}
		}
	}
	for b.most > near && !ended() && goesIn(b.most-near) {
	}
}

// bracket is what a body has to grow by, in litres: by least not all is in, by most it is.
type bracket struct{ least, most float64 }

// narrow plans in bodies larger by two amounts, beside each other. A body that is no larger is known not to do.
func (b *bracket) narrow(s *search, lower, upper float64, plan *Plan) {
	var beside sideBySide
	var inLower, inUpper bool
	var trials int
	if lower > 0 {
		beside.Go(func() { inLower, trials = s.plansGrown(lower, plan, true) })
	}
	inUpper, more := s.plansGrown(upper, plan, true)
	beside.Wait()
	s.budget.trials += trials + more
	switch {
	case inLower:
		b.most = lower
	case inUpper:
		b.least, b.most = max(0, lower), upper
	default:
		b.least = upper
	}
}

// How near what the body has to grow by is looked for when it is far off, as a share of it: nobody packs twenty litres
// too many to the half litre. The budgets bound a quick and a thorough plan for it.
const (
	farOff        = 20.0
	roughly       = 0.1
	probeBudget   = 3 * quickBudget
	carefulBudget = fitBudget / 2
)

// plansGrown reports whether everything that goes into some body is in when it is so many litres larger, and after how
// many trials.
func (s *search) plansGrown(litres float64, plan *Plan, quick bool) (in bool, trials int) {
	task := *s.task
	body := task.Pack.Of(rucksack.Body)
	task.Pack = task.Pack.Grown(litres / body.VolumeL * body.SizeCm[2])
	options := s.options
	options.Quick, options.Rough, options.From = quick, true, nil
	grown := newSearch(&task, options)
	grown.budget.left = carefulBudget
	if quick {
		grown.budget.left = probeBudget
	}
	grown.find()
	for _, c := range grown.assignment.Choices {
		if c.Zone == assign.Out && !c.Stuck && !plan.noLitresHelp(c.Piece) {
			return false, grown.budget.trials
		}
	}
	return true, grown.budget.trials
}

// noLitresHelp reports whether a thing went into no body however tall.
func (p *Plan) noLitresHelp(piece kit.Piece) bool {
	return slices.ContainsFunc(p.LeftOut, func(l LeftOut) bool { return l.Piece == piece && !l.LeastChange.None() })
}

// tallest is how much larger than the litres left out the body is made to see what no height helps.
const tallest = 1.5

// growBudget bounds the search for an order in each of the taller bodies.
const growBudget = 500

func tenthUp(litres float64) float64 { return math.Ceil(litres*10-1e-6) / 10 }

// growing tries taller bodies.
type growing struct {
	search *search
	from   *packing // the last one that took everything, its order to begin with
	layer  float64  // litres of a layer of cells
	layers int      // by which that one is taller
}

// packing is the packing of a body that is so many layers of cells taller, in the order so far.
func (g *growing) packing(layers int) *packing {
	grown := g.search.task.Pack.Grown(float64(layers) * g.search.solid.CellCm)
	larger := newPacking(g.search.assignment, grown.Solid(g.search.solid.CellCm), g.from.open,
		g.search.budget.part(growBudget))
	larger.orderLike(g.from)
	return larger
}

// takesAsOrdered reports whether a taller body takes everything in the order so far.
func (g *growing) takesAsOrdered(layers int) bool {
	p := g.packing(layers)
	return g.keep(layers, p, p.run(1))
}

// takes reports whether a taller body takes everything in some order that a short search finds.
func (g *growing) takes(layers int) bool {
	p := g.packing(layers)
	return g.keep(layers, p, p.fit(g.search.random))
}

func (g *growing) keep(layers int, p *packing, takes bool) bool {
	if takes || g.layers == 0 {
		g.from = p
	}
	if takes {
		g.layers = layers
	}
	return takes
}

// standsOn is in how many steps it is tried how much has to lie below something that is to stand high up.
const standsOn = 25

// takesAlone reports whether a thing finds a place with nothing else in the pack but something soft to stand on: a body
// is narrower at its foot. It is taken to find one when the search is ended before that is known.
func (p *packing) takesAlone(th stuff.Thing) bool {
	trial := p.space.NewTrial(2)
	for step := range standsOn {
		if p.budget.over() {
			return true
		}
		litres := float64(step) / standsOn * p.litres(p.space.Room())
		soft := p.space.ThingOf(kit.Shape{Kind: kit.Soft, LooseL: litres, TightL: litres, GapCm: 1}, th.Region, stuff.Wish{})
		order := []int{1}
		if step > 0 {
			order = []int{0, 1}
		}
		if trial.Fits([]stuff.Thing{soft, th}, order, 1) {
			return true
		}
	}
	return false
}

// partedFrom leaves out what goes into no body however tall, not even alone, and says so; it reports whether anything
// else is left.
func (g *growing) partedFrom(plan *Plan, left []*assign.Choice) bool {
	a, rest := g.search.assignment, 0
	out := slices.Clone(g.from.trial.Out)
	for _, c := range left {
		i := slices.Index(g.from.inside, c)
		if i < 0 || !slices.Contains(out, i) || g.from.takesAlone(g.from.things[i]) {
			rest++
			continue
		}
		a.Put(c, assign.Out)
		for i := range plan.LeftOut {
			if plan.LeftOut[i].Piece == c.Piece {
				plan.LeftOut[i].LeastChange = fact.Of("load.other-pack")
			}
		}
	}
	return rest > 0
}

// least makes the body as low as the order so far allows, then as another allows: a layer less, and then two. It
// gives the litres of what that takes and of the air below, +Inf when its top is hard and cannot be levelled by hand.
func (g *growing) least(low, high int) (level float64) {
	budget := g.search.budget
	for high-low > 1 && !budget.over() {
		if middle := (low + high) / 2; g.takesAsOrdered(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	for step := 1; high > 1 && !budget.over() && g.takes(max(1, high-step)); step++ {
		high = max(1, high-step)
	}
	g.from.run(1)
	if g.from.usedOfTop(g.layer) < g.layer {
		return g.from.taken()
	}
	return math.Inf(1)
}

// litres is by how much the body that took everything is larger: of its last layer only what is used counts.
func (g *growing) litres() float64 {
	return float64(g.layers-1)*g.layer + g.from.usedOfTop(g.layer)
}

// usedOfTop is how many litres of the uppermost layer are taken in the last trial: all of it when something there
// keeps its shape.
func (p *packing) usedOfTop(layer float64) float64 {
	solid := p.space.Solid
	n := 0
	for _, owner := range p.trial.Owner[solid.Size[0]*solid.Size[1]*(solid.Size[2]-1):] {
		if owner < 0 {
			continue
		}
		if p.things[owner].Rigid() {
			return layer
		}
		n++
	}
	return p.litres(n)
}

// sayOver says what the bulky things left out would take.
func (p *Plan) sayOver() {
	larger := fact.Of("load.larger-body", fact.Litres(p.OverL))
	switch {
	case p.OverL == 0:
		larger = fact.Of("load.other-pack")
	case len(p.LeftOut) > 1:
		larger = fact.Of("load.larger-body-all", fact.Litres(p.OverL))
	}
	for i := range p.LeftOut {
		if l := &p.LeftOut[i]; l.LeastChange.None() || strings.HasPrefix(l.LeastChange.Code, "load.larger-body") {
			l.LeastChange = larger
		}
	}
}

// sayHanging says of what is left out that straps would take it, where only the school is against it.
func (p *Plan) sayHanging(a *assign.Assignment) {
	for i := range p.LeftOut {
		j := slices.IndexFunc(a.Choices, func(c *assign.Choice) bool { return c.Piece == p.LeftOut[i].Piece })
		if j < 0 { // it lies in another thing
			continue
		}
		if hang := a.LetHang(a.Choices[j]); !hang.None() {
			p.LeftOut[i].LeastChange = hang
		}
	}
}
