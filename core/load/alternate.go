package load

import (
	"math"
	"sync"

	"tornister/core/assign"
)

// alternate goes to and fro between assignment and trial: what the trial leaves out lowers the room that the
// assignment may count on, until the trial takes all that the assignment gives it. The round that leaves out least
// counts; what it still leaves out in the solid is left out of the plan.
//
// What does not go in with the divider one way may with it the other way. That is looked for beside it as soon as it is
// known that something stays out, when short is called as well; a quick search, which may have to be whole at once,
// does one after the other.
func (s *search) alternate(short func()) *packing {
	open := s.task.LinesThrough()
	if !s.task.Pack.Opens() {
		return s.alternateWith(open, assign.Searching, short)
	}
	again := fitBudget / 6
	if s.options.Quick {
		again = quickBudget
	}
	turned := newTwin(s, s.options, again, func(other *search) *packing {
		return other.alternateWith(!open, assign.Quickly, func() {})
	})
	return turned.orElse(s.alternateWith(open, assign.Searching, func() {
		if !s.options.Quick {
			turned.begin()
		}
		short()
	}))
}

// twin is another search for the same, which goes beside it from when it is known to be wanted.
type twin struct {
	of     *search
	search *search // nil as long as it has not begun
	found  *packing
	make   func()
	beside sideBySide
}

// newTwin makes a twin that has so much budget, and ends when the search does that it is a twin of.
func newTwin(of *search, options Options, left int, find func(*search) *packing) *twin {
	t := &twin{of: of}
	t.make = sync.OnceFunc(func() {
		t.search = newSearch(of.task, options)
		t.search.anyZones = of.anyZones
		t.search.budget = of.budget.part(left)
		t.found = find(t.search)
	})
	return t
}

// begin lets it go beside.
func (t *twin) begin() { t.beside.Go(t.make) }

// orElse is the better of what the search itself has found and of what its twin does, which is made when something is
// out; it is gone on from.
func (t *twin) orElse(p *packing) *packing {
	s := t.of
	if s.assignment.OutCost() > 0 && !s.budget.over() {
		t.make()
	}
	if t.beside.Wait(); t.search == nil {
		return p
	}
	s.budget.trials += t.search.budget.trials
	if t.search.assignment.OutCost() < s.assignment.OutCost()-assign.Gain {
		s.assignment, s.program, p = t.search.assignment, t.search.program, t.found
		p.budget = s.budget
	}
	return p
}

// withSlack alternates anew when little is out, counting on less room than there is: first with pockets that lie in the
// body kept to the largest thing in each, so that the body keeps its depth, then with a little less of body and bottom,
// so that more lies in pockets. Each has a budget.
func (s *search) withSlack(p *packing, budget int) *packing {
	one, program := s.assignment, s.program
	slacks := [][]float64{one.AloneInBody()}
	for _, share := range []float64{0.01, 0.02, 0.04, 0.08} {
		slacks = append(slacks, one.LessOfSolid(share))
	}
	for _, slack := range slacks {
		if one.OutCost() == 0 || one.OutL() > nearly || s.budget.over() {
			break
		}
		s.budget.left, s.slack = max(s.budget.left, budget), slack
		other := s.alternateWith(one.Open, assign.Quickly, func() {})
		if s.assignment.OutCost() < one.OutCost()-assign.Gain {
			one, program, p = s.assignment, s.program, other
		}
	}
	s.assignment, s.program, s.slack = one, program, nil
	return p
}

// slackPart is the part of the budget of a search that each of these has: one in so many.
const slackPart = 6

// laterRounds is the part of the effort of the round before that each later one gets: one in so many. With none but a
// quick search a round that counts on less room leaves out the sleeping bag, for which six small things would do.
const laterRounds = 4

// nearly is how many litres may be left out for it to be worth looking for the little that was lacking.
const nearly = 5.0

// alternateWith alternates with the divider open or shut. The first assignment is proved as far as the effort goes;
// when it leaves something out, short is called.
func (s *search) alternateWith(open bool, work assign.Effort, short func()) *packing {
	loss := make([]float64, len(s.task.Pack.Zones))
	copy(loss, s.slack)
	var best *packing
	var bestAssignment *assign.Assignment
	bestCost := math.Inf(1)
	most := rounds
	if s.options.Quick {
		work, most = assign.Quickly, quickRounds
	}
	for round := range most {
		a := assign.New(s.task, s.loose, s.nested, open)
		if s.options.From != nil {
			a.Stay(s.options.From, s.options.Moving)
		}
		copy(a.Loss, loss)
		a.Stop = s.options.Stop
		if s.anyZones {
			a.Fit(work)
		} else {
			a.Solve(work)
		}
		work = max(assign.Quickly, work/laterRounds)
		if a.OutCost() > 0 {
			s.budget.left = min(s.budget.left, int(s.shortPart()*fitBudget))
			if round == 0 {
				short()
			}
		}
		p := s.tryIn(a)
		if cost := a.OutCost() + p.outCost(); cost < bestCost {
			best, bestAssignment, bestCost = p, a, cost
		}
		if len(p.trial.Out) == 0 || s.budget.left <= 0 || a.Ended() {
			break
		}
		for _, i := range p.trial.Out {
			loss[p.inside[i].Zone] += max(0.2, p.inside[i].Room(1))
		}
	}
	s.assignment = bestAssignment
	s.program = bestAssignment.CopyOfProgram()
	return s.giveUp(best)
}
