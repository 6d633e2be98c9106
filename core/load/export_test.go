package load

import (
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
)

// Assign solves only the zone assignment of a task, thoroughly, for benchmarks.
func Assign(task *job.Task) assign.Proof {
	nested, loose := task.Nested()
	a := assign.New(task, loose, nested, false)
	a.Solve(assign.Thoroughly)
	return a.Proof
}

// BringInFor packs all things of a task but those named, and then brings these in for others. It tells what is out
// after that.
func BringInFor(task *job.Task, out ...string) (ids []string) {
	return mended(task, out, func(s *search, p *packing) { s.bringInFor(p) })
}

// GiveUp packs all things of a task but those named, and goes on with these as a search does that has spent its budget.
func GiveUp(task *job.Task, out ...string) (ids []string) {
	return mended(task, out, func(s *search, p *packing) {
		s.budget.left = 0
		s.giveUp(p)
	})
}

func mended(task *job.Task, out []string, mend func(*search, *packing)) (ids []string) {
	s := newSearch(task, Options{Seed: 1})
	s.assignment = assign.New(task, s.loose, s.nested, false)
	for _, c := range s.assignment.Choices {
		if !slices.Contains(out, c.ID) {
			s.assignment.Put(c, 0)
		}
	}
	p := newPacking(s.assignment, s.solid, false, s.budget)
	p.plannedOrder()
	p.fit(s.random)
	mend(s, p)
	for _, c := range s.assignment.LeftOut() {
		ids = append(ids, c.ID)
	}
	return ids
}
