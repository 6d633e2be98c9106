package load

import (
	"cmp"

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

// shortShare is the part of the budgets of a search for a kit that does not fit as it is, however it is packed: whoever
// reads that changes it first, and plans again. Of more than manyThings it is less, as one over them: each is placed
// among more others, in a larger pack, and the answer is not to come later for it.
const (
	shortShare = 0.4
	manyThings = 75
)

// shortPart is the part of the budgets for a kit that does not fit.
func (s *search) shortPart() float64 {
	return shortShare * min(1, manyThings/float64(max(1, len(s.loose))))
}

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
	if loose := unsacked(task); !plan.Fits() && loose != nil {
		if other := makeOne(loose, options); len(other.LeftOut) < len(plan.LeftOut) {
			other.unsacked = true
			plan = other
		}
	}
	plan.asked = task
	plan.remember(past)
	return plan
}

// unsacked is a task whose sleeping bags the school squeezes, without that: no school keeps something at home. It is
// nil where there are none.
func unsacked(task *job.Task) *job.Task {
	if task.Sacked() == task {
		return nil
	}
	loose := *task
	loose.Method.SleepingBag = "loose"
	return &loose
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
	if len(plan.LeftOut) > 0 && !s.beside {
		s.overL(p, plan)
		plan.sayOver()
		plan.sayHanging(s.assignment)
	}
	plan.search, plan.packing = s, p
	explain(s.task, s.assignment, plan)
	plan.dry, plan.torn = s.task.Method.Dry, p.torn
	s.proving.Wait()
	plan.Proof, plan.assignment = s.program.Proof, s.program
	if s.options.Sure {
		plan.Assure(s.options)
	}
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
	proving    sideBySide         // its proof goes on beside the search for an order
	slack      []float64          // litres of each zone that are not counted on, or nil
	like       *packing           // whose lanes an arrangement takes over, or nil
	anyZones   bool               // in which everything goes in will do: they need not be the cheapest
	beside     bool               // what is left out was not put in: that says nothing of the room
}

func newSearch(task *job.Task, options Options) *search {
	task = task.Filled()
	s := &search{task: task, options: options, solid: task.Pack.Solid(cellOf(&task.Pack)), random: newSource(options.Seed)}
	s.budget = newBudget(fitBudget, s.solid, options.Stop)
	switch {
	case options.Quick:
		s.budget.left = quickBudget
	case options.patient:
		s.budget.left = patientBudget
	}
	s.nested, s.loose = task.Nested()
	return s
}

// place finds where everything lies and, of a thorough search, a good order.
func (s *search) place() *packing {
	p := s.settle(s.find())
	if s.options.Quick && !s.options.Rough && s.assignment.OutCost() == 0 { // who asks roughly asks whether it fits
		p.orAsPlanned(tighter[len(tighter)-1:])
	}
	if s.options.Quick || s.options.patient || s.budget.over() {
		return p
	}
	if s.program.Proof.Gap() > 0 {
		s.proving.Go(s.program.ProveAnew)
	}
	at := p.homeward()
	p.collect()
	p.squeeze = p.leastSqueeze(at, false)
	p.orAsPlanned(tighter)
	if len(p.trial.Out) == 0 {
		budget := improveBudget * cmp.Or(s.options.Effort, 1)
		if s.assignment.OutCost() > 0 {
			budget *= s.shortPart()
		}
		p.budget = s.budget.part(int(budget))
		p.improve(s.random)
		s.budget.trials += p.budget.trials
	}
	return p
}

// find finds where everything goes in. A thorough search takes another way than a quick one and may end with more left
// out; so a quick one goes beside it when a clock may end it or something stays out, and the better of the two is gone
// on from.
func (s *search) find() *packing {
	if s.options.Quick {
		return s.alternate(func() {})
	}
	given, options := s.budget.left, s.options
	options.Quick = true
	quick := newTwin(s, options, quickBudget, func(first *search) *packing { return first.alternate(func() {}) })
	if s.options.Stop != nil {
		quick.begin()
	}
	p := quick.orElse(s.alternate(quick.begin))
	if s.assignment.OutCost() > 0 {
		p = s.withSlack(p, given/slackPart)
	}
	return p
}

// settle finds what a packing needs of squeeze, with the divider open or shut, and makes bodies of its bags.
func (s *search) settle(p *packing) *packing {
	p = s.otherDivider(p)
	p.bundle(s.assignment, s.random)
	p.squeeze = p.leastSqueeze(1, s.options.Quick)
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
	if !other.run(1) && !other.fitOtherwise(s.random) {
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
