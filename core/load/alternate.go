package load

import (
	"math"

	"tornister/core/rucksack"
)

// alternate goes to and fro between assignment and trial: what the trial leaves out lowers the room that the
// assignment may count on, until the trial takes all that the assignment gives it. The round that leaves out least
// counts; what it still leaves out in the solid is left out of the plan.
func (s *search) alternate() *packing {
	first := s.task.linesThrough()
	p := s.alternateWith(first, thoroughly)
	one, program := s.assignment, s.program
	if one.outCost() == 0 || !s.task.Pack.Opens() || s.budget.over() {
		return p
	}
	// With the divider the other way, what neither compartment takes may go in.
	again := fitBudget / 6
	if s.options.Quick {
		again = quickBudget
	}
	s.budget.left, s.random = max(s.budget.left, again), newSource(s.options.Seed) // as a pack without divider begins
	if other := s.alternateWith(!first, quickly); s.assignment.outCost() < one.outCost()-gain {
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
	for _, slack := range [][]float64{one.aloneInBody(), one.lessOfSolid(0.04), one.lessOfSolid(0.08)} {
		if one.outCost() == 0 || one.outL() > nearly || s.budget.over() {
			break
		}
		s.budget.left, s.slack = max(s.budget.left, fitBudget/6), slack
		other := s.alternateWith(one.open, quickly)
		if s.assignment.outCost() < one.outCost()-gain {
			one, program, p = s.assignment, s.program, other
		}
	}
	s.assignment, s.program, s.slack = one, program, nil
	return p
}

// aloneInBody is the room to take off each zone so that pockets in the body hold no more than their largest thing.
func (a *assignment) aloneInBody() []float64 {
	slack := make([]float64, len(a.zones))
	for z := range a.zones {
		if a.zones[z].InBody() {
			slack[z] = a.zones[z].CapacityL()
		}
	}
	for _, c := range a.choices {
		if c.zone != out && a.zones[c.zone].InBody() {
			z := &a.zones[c.zone]
			slack[c.zone] = max(0, min(slack[c.zone], z.CapacityL()-c.roomIn(c.zone, 1)))
		}
	}
	return slack
}

// lessOfSolid is the room to take off each zone for a share of body and bottom not to be counted on.
func (a *assignment) lessOfSolid(share float64) []float64 {
	slack := make([]float64, len(a.zones))
	for z := range a.zones {
		if a.zones[z].Solid() {
			slack[z] = share * a.zones[z].VolumeL
		}
	}
	return slack
}

// nearly is how many litres may be left out for it to be worth looking for the little that was lacking.
const nearly = 5.0

// outL is the litres of what is left out, tight.
func (a *assignment) outL() (sum float64) {
	for _, c := range a.choices {
		if c.zone == out && !c.stuck {
			sum += c.room(1)
		}
	}
	return sum
}

// linesThrough reports whether one liner goes through both compartments, so that the divider has to lie open.
func (t *Task) linesThrough() bool {
	pack := t.dryness()
	bottom := t.Pack.Of(rucksack.Bottom)
	return t.Pack.Opens() && pack.Liner() != nil && pack.LinerOf(bottom) == nil
}

// alternateWith alternates with the divider open or shut. The first assignment is proved as far as the effort goes.
func (s *search) alternateWith(open bool, work effort) *packing {
	loss := make([]float64, len(s.task.Pack.Zones))
	copy(loss, s.slack)
	var best *packing
	var bestAssignment *assignment
	bestCost := math.Inf(1)
	most := rounds
	if s.options.Quick {
		work, most = quickly, quickRounds
	}
	for range most {
		a := newAssignment(s.task, s.loose, s.nested, open)
		if s.options.From != nil {
			a.stay(s.options.From, s.options.Moving)
		}
		copy(a.loss, loss)
		a.stop = s.options.Stop
		a.solve(work)
		work = quickly
		p := s.tryIn(a)
		if cost := a.outCost() + p.outCost(); cost < bestCost {
			best, bestAssignment, bestCost = p, a, cost
		}
		if len(p.trial.Out) == 0 || s.budget.left <= 0 || a.ended() {
			break
		}
		for _, i := range p.trial.Out {
			loss[p.inside[i].zone] += max(0.2, p.inside[i].room(1))
		}
	}
	s.assignment = bestAssignment
	s.program = bestAssignment.copyOfProgram()
	p := s.otherDivider(s.giveUp(best))
	p.bundle(s.assignment, s.random)
	p.squeeze = p.leastSqueeze(1, s.options.Quick)
	return p
}
