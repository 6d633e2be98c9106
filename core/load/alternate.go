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
	var other *search
	var turned *packing
	turn := sync.OnceFunc(func() {
		other = newSearch(s.task, s.options)
		other.budget = s.budget.part(again)
		turned = other.alternateWith(!open, assign.Quickly, func() {})
	})
	var beside sideBySide
	p := s.alternateWith(open, assign.Searching, func() {
		if !s.options.Quick {
			beside.Go(turn)
		}
		short()
	})
	if s.assignment.OutCost() > 0 && !s.budget.over() {
		turn()
	}
	if beside.Wait(); other == nil {
		return p
	}
	s.budget.trials += other.budget.trials
	if other.assignment.OutCost() < s.assignment.OutCost()-assign.Gain {
		return s.takeOver(other, turned)
	}
	return p
}

// takeOver goes on from the end of another search for the same.
func (s *search) takeOver(other *search, p *packing) *packing {
	s.assignment, s.program = other.assignment, other.program
	p.budget = s.budget
	return p
}

// withSlack alternates anew when little is out, counting on less room than there is: first with pockets that lie in the
// body kept to the largest thing in each, so that the body keeps its depth, then with a little less of body and bottom,
// so that more lies in pockets.
func (s *search) withSlack(p *packing) *packing {
	one, program := s.assignment, s.program
	for _, slack := range [][]float64{one.AloneInBody(), one.LessOfSolid(0.04), one.LessOfSolid(0.08)} {
		if one.OutCost() == 0 || one.OutL() > nearly || s.budget.over() {
			break
		}
		s.budget.left, s.slack = max(s.budget.left, fitBudget/6), slack
		other := s.alternateWith(one.Open, assign.Quickly, func() {})
		if s.assignment.OutCost() < one.OutCost()-assign.Gain {
			one, program, p = s.assignment, s.program, other
		}
	}
	s.assignment, s.program, s.slack = one, program, nil
	return p
}

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
		a.Solve(work)
		work = assign.Quickly
		if a.OutCost() > 0 {
			s.budget.left = min(s.budget.left, int(shortShare*fitBudget))
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
