package load

import (
	"math"

	"tornister/core/assign"
)

// alternate goes to and fro between assignment and trial: what the trial leaves out lowers the room that the
// assignment may count on, until the trial takes all that the assignment gives it. The round that leaves out least
// counts; what it still leaves out in the solid is left out of the plan.
func (s *search) alternate() *packing {
	first := s.task.LinesThrough()
	p := s.alternateWith(first, assign.Searching)
	one, program := s.assignment, s.program
	if one.OutCost() == 0 || !s.task.Pack.Opens() || s.budget.over() {
		return p
	}
	// With the divider the other way, what neither compartment takes may go in.
	again := fitBudget / 6
	if s.options.Quick {
		again = quickBudget
	}
	s.budget.left, s.random = max(s.budget.left, again), newSource(s.options.Seed) // as a pack without divider begins
	if other := s.alternateWith(!first, assign.Quickly); s.assignment.OutCost() < one.OutCost()-assign.Gain {
		return other
	}
	s.assignment, s.program = one, program
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
		other := s.alternateWith(one.Open, assign.Quickly)
		if s.assignment.OutCost() < one.OutCost()-assign.Gain {
			one, program, p = s.assignment, s.program, other
		}
	}
	s.assignment, s.program, s.slack = one, program, nil
	return p
}

// nearly is how many litres may be left out for it to be worth looking for the little that was lacking.
const nearly = 5.0

// alternateWith alternates with the divider open or shut. The first assignment is proved as far as the effort goes.
func (s *search) alternateWith(open bool, work assign.Effort) *packing {
	loss := make([]float64, len(s.task.Pack.Zones))
	copy(loss, s.slack)
	var best *packing
	var bestAssignment *assign.Assignment
	bestCost := math.Inf(1)
	most := rounds
	if s.options.Quick {
		work, most = assign.Quickly, quickRounds
	}
	for range most {
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
	p := s.otherDivider(s.giveUp(best))
	p.bundle(s.assignment, s.random)
	p.squeeze = p.leastSqueeze(1, s.options.Quick)
	return p
}
