package load

import (
	"math"
	"slices"
	"sync/atomic"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// packing is the trial packing of what a zone assignment puts into body and bottom compartment.
type packing struct {
	task    *job.Task
	space   *stuff.Space
	open    bool // the divider
	inside  []*assign.Choice
	from    job.Arrangement // where things are now, or nil
	things  []stuff.Thing
	order   []int    // of things, first in first
	pockets []Pocket // that lie in the body
	trial   *stuff.Trial
	budget  *budget
	bags    []int // which of bagsUsed each of inside goes into, none for none; nil before that is known
	// bagsUsed are the bags of the barrier plan; torn the ids of those that do not go in as one.
	bagsUsed []dry.Barrier
	bagPlan  dry.Barriers // the plan that these are of
	torn     []string
	lined    bool      // the liner shuts over all this
	uses     []float64 // of inside, how often a day each is wanted
	spoilers bool      // something must not touch something else
	aims     []aim     // why a thing is out of its turn; nil before that is known
	// squeeze is the least at which everything goes in; spread is how far the ends of the searches lie apart.
	squeeze, spread float64
	starts          int // of the searches
	// elsewhereG is the grams of the pack itself and of what is in its pockets, elsewhereMoment that times its height
	// in cm.
	elsewhereG, elsewhereMoment float64
}

// budget counts the work of a search in things placed for trial, so that the same task always gets the same search.
// The clock, if there is one, only cuts it short.
type budget struct {
	left     int
	size     float64 // of the pack, in packs of usual size: a trial in a larger one is more work
	stop     func() bool
	cutShort *atomic.Bool // shared by all budgets of a search
	trials   int
}

// newBudget begins a search; part is a budget of its own within it.
func newBudget(left int, solid *rucksack.Solid, stop func() bool) *budget {
	const usual = 60_000 // cells
	return &budget{left: left, size: max(1, float64(len(solid.Inside))/usual), stop: stop, cutShort: new(atomic.Bool)}
}

// cost is the work of a trial.
func (b *budget) cost(things int) int { return int(b.size * float64(max(leastSpent, things))) }

func (b *budget) part(left int) *budget {
	return &budget{left: left, size: b.size, stop: b.stop, cutShort: b.cutShort}
}

// over reports whether the clock has ended the search; it may be asked by several at once. From then on no trial is
// begun but those that make the answer whole.
func (b *budget) over() bool {
	if b.stop == nil || !b.cutShort.Load() && !b.stop() {
		return false
	}
	b.cutShort.Store(true)
	return true
}

// leastSpent is what a trial of few things costs all the same.
const leastSpent = 6

// spend takes the work of a trial; false when there is no more.
func (b *budget) spend(things int) bool {
	if b.over() {
		return false
	}
	b.left -= b.cost(things)
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
func newPacking(a *assign.Assignment, solid *rucksack.Solid, open bool, b *budget) *packing {
	p := &packing{task: a.Task, from: a.From, space: stuff.NewSpace(solid, open), open: open, budget: b}
	for i := range a.Zones {
		z := &a.Zones[i]
		if z.DrawsOn != nil && a.Used(i) && a.Task.Pack.Zone(z.DrawsOn.Zone).Kind == rucksack.Body {
			litres := z.DrawsOn.Share * a.NeedNow(i)
			pocket := stuff.Pocket{Litres: litres, WidthCm: z.SizeCm[0], TopCm: z.AtCm[2] + z.SizeCm[2]/2, Back: z.InBody()}
			if z.Kind == rucksack.Inner {
				pocket.HangsCm = z.SizeCm[2]
			}
			if taken := p.space.Carve(pocket); z.InBody() {
				p.pockets = append(p.pockets, Pocket{z.ID, taken})
			}
		}
	}
	pack := &a.Task.Pack
	p.elsewhereG, p.elsewhereMoment = pack.MassG, pack.MassG*pack.MiddleCm()[2]
	for _, c := range a.Choices {
		switch {
		case c.Zone == assign.Out:
		case a.Zones[c.Zone].Solid():
			p.inside = append(p.inside, c)
		default:
			p.elsewhereG += c.Mass
			p.elsewhereMoment += c.Mass * a.Zones[c.Zone].AtCm[2]
		}
	}
	for i, c := range p.inside {
		region := stuff.Body
		if a.Zones[c.Zone].Kind == rucksack.Bottom && !a.Open { // with the divider out from the start it is one room
			region = stuff.Bottom
		}
		p.things = append(p.things, p.space.ThingOf(c.Shape, region, wish(a.Task, c)))
		p.order = append(p.order, i)
		p.uses = append(p.uses, c.Use.ADay())
		p.spoilers = p.spoilers || spoils(c)
	}
	p.trial = p.space.NewTrial(len(p.things))
	return p
}

// relabel says of everything in one room of body and bottom in which of them it has come to lie: by its middle, a bag
// with all that is in it as one. A thing that may not be there keeps its zone.
func (p *packing) relabel(a *assign.Assignment) {
	body := assign.OfKind(a.Zones, rucksack.Body)
	bottom := assign.OfKind(a.Zones, rucksack.Bottom)
	a.NameBottom()
	seen := p.trial.Survey(len(p.things), false, false)
	for _, i := range slices.Clone(p.order) {
		unit, height := p.unit(i), 0.0
		if unit[0] != i {
			continue
		}
		for _, j := range unit {
			height += seen.Middles[j][2] / float64(len(unit))
		}
		zones := []int{body, bottom}
		if height < float64(p.space.Solid.Floor) {
			zones = []int{bottom, body}
		}
		for _, zone := range zones { // a bag lies in one
			barred := func(j int) bool { return math.IsInf(p.inside[j].Price[zone], 1) }
			if slices.ContainsFunc(unit, barred) {
				continue
			}
			for _, j := range unit {
				a.Put(p.inside[j], zone)
			}
			break
		}
	}
}

// firm is how many centimetres of height a centimetre nearer to the wished lane is worth (our estimate).
// pinFirm is the same for a lane that the packer pinned.
const (
	firm    = 0.35
	pinFirm = 3.0
)

// wish is the lane that the chosen school gives a thing: heavy things to the spine or behind something soft, rods
// along a side, light things anywhere.
func wish(task *job.Task, c *assign.Choice) stuff.Wish {
	heavy := isHeavy(c.Piece, c.Mass)
	if c.Pin != nil && c.Pin.Lane != job.Full {
		return map[job.Lane]stuff.Wish{job.Back: {Deep: 0, Across: 0.5, Firm: pinFirm},
			job.Front: {Deep: 1, Across: 0.5, Firm: pinFirm},
			job.Left:  {Deep: 0.5, Across: 0, Firm: pinFirm}, job.Right: {Deep: 0.5, Across: 1, Firm: pinFirm}}[c.Pin.Lane]
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

// goesIn reports whether everything finds a place; when not, the trial is not whole. When the search is over it is
// not tried.
func (p *packing) goesIn(squeeze float64) bool {
	return !p.budget.over() && p.trial.Fits(p.things, p.order, squeeze)
}

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

// leaveOut takes what the last trial left out of the assignment, and what then finds no place either: without a thing
// the others come to lie elsewhere. It is packed at a squeeze.
func (p *packing) leaveOut(a *assign.Assignment, squeeze float64) {
	for len(p.trial.Out) > 0 {
		for _, i := range p.trial.Out {
			a.Put(p.inside[i], assign.Out)
		}
		p.drop(squeeze)
	}
}

// drop takes what the last trial left out off the order.
func (p *packing) drop(squeeze float64) {
	out := slices.Clone(p.trial.Out)
	p.order = slices.DeleteFunc(p.order, func(i int) bool { return slices.Contains(out, i) })
	p.run(squeeze)
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

func count(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
