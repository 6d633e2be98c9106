package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// The budget of a search, in things placed for trial: some seconds for a full kit that almost fits, nothing to speak
// of for one that fits at once.
const (
	fitBudget     = 60_000
	quickBudget   = 2_000
	improveBudget = 42_000
	rounds        = 5 // of assignment and trial
	quickRounds   = 3
)

// How often the interval of the squeeze is halved.
const (
	halvings      = 6
	quickHalvings = 4
)

// homeSqueeze is how much tighter things may have to be so that they lie where the plan wants them.
const homeSqueeze = 0.08

// The side of a cell in the packing that is shown. No back carries more than vastL; what is asked all the same is
// packed on coarser cells, so that its answer comes in time.
const (
	cellCm     = 1.0
	vastCellCm = 2.0
	vastL      = 150.0
)

// cellOf is the side of the cells on which a pack is packed.
func cellOf(pack *rucksack.Pack) float64 {
	sum := 0.0
	for i := range pack.Zones {
		if z := &pack.Zones[i]; z.Solid() {
			sum += z.VolumeL + z.CollarL()
		}
	}
	if sum > vastL {
		return vastCellCm
	}
	return cellCm
}

// Make plans the task. It never fails: what does not go in is in LeftOut with its reason. The task must name exactly
// one zone of kind body. A kit of 45 things that fits takes some 30 ms with Quick and half a second without.
func Make(task *job.Task, options Options) *Plan {
	past := options.Past
	options.Past = nil // what one plan knows of another is no chain
	plan := makeOne(task, options)
	if !plan.Fits() && task.Sacked() != task { // no school keeps something at home
		loose := *task
		loose.Method.SleepingBag = "loose"
		if other := makeOne(&loose, options); len(other.LeftOut) < len(plan.LeftOut) {
			other.unsacked = true
			plan = other
		}
	}
	plan.asked = task
	plan.remember(past)
	return plan
}

func makeOne(task *job.Task, options Options) *Plan {
	s := newSearch(task, options)
	p := s.place()
	if s.assignment.Open {
		p.relabel(s.assignment)
	}
	return s.finish(p)
}

// finish makes the plan of the end of a search.
func (s *search) finish(p *packing) *Plan {
	plan := s.plan(p)
	if len(p.order) > 1 {
		plan.Bill, plan.Starts, plan.Spread = p.cost(p.turns()), p.starts, p.spread
	}
	if len(plan.LeftOut) > 0 {
		s.overL(p, plan)
		plan.sayOver()
	}
	plan.search, plan.packing = s, p
	if s.options.Sure {
		plan.Sure = plan.Confidence(s.options)
	}
	explain(s.task, s.assignment, plan)
	plan.dry, plan.torn = s.task.Method.Dry, p.torn
	plan.Proof, plan.assignment = s.program.Proof, s.program
	plan.Trials, plan.CutShort = s.budget.trials, s.budget.over()
	return plan
}

// search is one planning under way.
type search struct {
	task       *job.Task
	options    Options
	solid      *rucksack.Solid
	nested     map[kit.Piece][]kit.Piece
	loose      []kit.Piece
	assignment *assign.Assignment
	budget     *budget
	random     *source
	program    *assign.Assignment // as solved, before the trial had its say
	slack      []float64          // litres of each zone that are not counted on, or nil
	like       *packing           // whose lanes an arrangement takes over, or nil
}

func newSearch(task *job.Task, options Options) *search {
	task = task.Filled()
	pieces := kit.Pieces(task.Items, kit.Pack)
	slices.SortFunc(pieces, job.ComparePieces)
	s := &search{task: task, options: options, solid: task.Pack.Solid(cellOf(&task.Pack)), random: newSource(options.Seed)}
	s.budget = newBudget(fitBudget, s.solid, options.Stop)
	if options.Quick {
		s.budget.left = quickBudget
	}
	s.nested, s.loose = job.Nest(pieces)
	return s
}

// place finds where everything lies and, of a thorough search, a good order.
func (s *search) place() *packing {
	p := s.find()
	if s.options.Quick || s.budget.over() {
		return p
	}
	if s.program.Proof.Gap() > 0 && s.program.Proved < assign.Thoroughly {
		s.program.Prove(assign.Thoroughly)
	}
	at := p.homeward()
	p.collect()
	p.squeeze = p.leastSqueeze(at, false)
	if len(p.trial.Out) == 0 {
		p.budget = s.budget.part(int(improveBudget * cmp.Or(s.options.Effort, 1)))
		p.improve(s.random)
		s.budget.trials += p.budget.trials
	}
	return p
}

// find finds where everything goes in. A thorough search takes another way than a quick one and may end with more left
// out; then it goes on from what the quick one found.
func (s *search) find() *packing {
	if s.options.Quick {
		return s.alternate()
	}
	var quick *search
	var known *packing
	first := func() {
		options := s.options
		options.Quick = true
		quick = newSearch(s.task, options)
		known = quick.alternate()
		s.budget.trials += quick.budget.trials
	}
	take := func() *packing {
		s.assignment, s.program = quick.assignment, quick.program
		known.budget = s.budget
		return known
	}
	if s.options.Stop != nil { // a clock may leave no time for it afterwards
		if first(); s.budget.over() {
			return take()
		}
	}
	p := s.alternate()
	if s.assignment.OutCost() > 0 {
		if known == nil {
			first()
		}
		if quick.assignment.OutCost() < s.assignment.OutCost()-assign.Gain {
			p = take()
		}
		p = s.withSlack(p)
	}
	return p
}

// worthOpening is how much less squeeze makes it worth to open the divider, or to leave it shut.
const worthOpening = 0.1

// otherDivider finds the squeeze, and tries the divider the other way round where it can be opened: open when things
// go in with clearly less squeeze then, else shut.
func (s *search) otherDivider(p *packing) *packing {
	p.squeeze = p.leastSqueeze(1, s.options.Quick)
	if !s.task.Pack.Opens() || s.assignment.Open || p.squeeze == 0 && !p.open || len(p.trial.Out) > 0 || s.budget.over() {
		return p
	}
	other := newPacking(s.assignment, s.solid, !p.open, s.budget)
	other.orderLike(p)
	if !other.run(1) && !other.fitBriefly(s.random) {
		return p
	}
	other.squeeze = other.leastSqueeze(1, s.options.Quick)
	shut, open := p, other
	if p.open {
		shut, open = other, p
	}
	if open.squeeze < shut.squeeze-worthOpening {
		return open
	}
	return shut
}

// tryIn packs what an assignment puts into the solids, with the divider shut and, where it can be opened and that
// helps, open.
func (s *search) tryIn(a *assign.Assignment) *packing {
	p := newPacking(a, s.solid, a.Open, s.budget)
	p.plannedOrder()
	if p.run(1) {
		return p
	}
	if s.task.Pack.Opens() && !a.Open && !s.budget.over() {
		open := newPacking(a, s.solid, true, s.budget)
		open.plannedOrder()
		if open.run(1); open.missing() < p.missing() {
			p = open
		}
	}
	p.fit(s.random)
	return p
}

// giveUp takes out of the assignment what the trial could not place and tries to put it into a pocket. Then it tries
// everything that is left out once more, dearest first: room lost may have been counted too high.
func (s *search) giveUp(p *packing) *packing {
	a := s.assignment
	p.leaveOut(a, 1)
	clear(a.Loss)
	var left []*assign.Choice
	for _, c := range a.Choices {
		if c.Zone == assign.Out && !c.Stuck {
			left = append(left, c)
		}
	}
	if len(left) == 0 {
		return p
	}
	slices.SortStableFunc(left, func(x, y *assign.Choice) int { return cmp.Compare(y.Leave, x.Leave) })
	for _, c := range left {
		before := p
		for _, zone := range a.Cheapest(c) {
			a.Put(c, zone)
			if math.IsInf(a.Around(zone), 1) {
				a.Put(c, assign.Out)
				continue
			}
			next := newPacking(a, s.solid, p.open, s.budget)
			next.orderLike(before)
			if !s.budget.spend(len(next.things)) {
				a.Put(c, assign.Out)
				p.run(1)
				return p
			}
			if next.run(1) || next.fitBriefly(s.random) {
				p = next
				break
			}
			a.Put(c, assign.Out)
		}
	}
	p.run(1)
	return p
}

func (p *packing) outCost() (sum float64) {
	for _, i := range p.trial.Out {
		sum += p.inside[i].Leave
	}
	return sum
}

// litres is the room of so many cells.
func (p *packing) litres(cells int) float64 {
	cell := p.space.Solid.CellCm
	return float64(cells) * cell * cell * cell / 1000
}

// tight is the litres of all that goes into the solid when it is squeezed tight.
func (p *packing) tight() (sum float64) {
	for _, c := range p.inside {
		sum += c.Room(1)
	}
	return sum
}

// taken is the litres of all that is in the last trial and of the air that it covers.
func (p *packing) taken() float64 {
	covered := p.trial.Survey(len(p.things), false, false).Hollow
	for i := range p.things {
		covered += p.things[i].Cells(1)
	}
	return p.litres(covered)
}
