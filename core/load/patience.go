package load

import (
	"math"
	"sync/atomic"

	"tornister/core/job"
	"tornister/core/kit"
)

// Of the draws that fail in haste some go in with patience: of 70 at the edge 20 did, 19 of them with patientBudget, in
// half a second each and not one and a half. So many are tried, evenly out of all that failed, and stand for the rest
// (two-phase sampling: Neyman, 1938).
const (
	patientDraws  = 16
	patientBudget = fitBudget / 4
	// hopelessSpreads is how many standard deviations of all litres a kit may be too large for it to be worth while.
	hopelessSpreads = 3.0
)

// sample is how many draws were tried with patience, and how many of them went in.
type sample struct{ tried, fit int }

// patience tries a sample of the draws that failed. It is empty when the clock ended it.
func (s *search) patience(failed []factors, stop func() bool) sample {
	n := min(patientDraws, len(failed))
	if stop != nil && stop() {
		return sample{}
	}
	var wait sideBySide
	var fit atomic.Int32
	for w := range workers {
		wait.Go(func() {
			for k := w; k < n; k += workers {
				if fitsWithPatience(s.task, failed[k*len(failed)/n], stop) {
					fit.Add(1)
				}
			}
		})
	}
	wait.Wait()
	if stop != nil && stop() { // a search cut short says nothing
		return sample{}
	}
	return sample{n, int(fit.Load())}
}

// fitsWithPatience looks for a way to pack a draw, as thoroughly as for the kit itself but for its budget.
func fitsWithPatience(task *job.Task, f factors, stop func() bool) bool {
	drawn := scaledBy(task, f)
	fits := func(task *job.Task) bool {
		s := newSearch(task, Options{Seed: 1, Rough: true, Stop: stop})
		s.budget.left = patientBudget
		s.find()
		return s.assignment.OutCost() == 0
	}
	loose := unsacked(drawn)
	return fits(drawn) || loose != nil && fits(loose)
}

// add corrects the share by a sample of the draws that failed.
func (c *Confidence) add(s sample, failed int) {
	if s.tried == 0 {
		return
	}
	more := float64(s.fit) / float64(s.tried) * float64(failed)
	c.Fit += int(math.Round(more))
	c.share()
}

// spreadL is the standard uncertainty of all litres that are packed: those of a line are off together, lines are not.
func (s *search) spreadL() float64 {
	sum := 0.0
	for i := range s.task.Items {
		if it := &s.task.Items[i]; it.Carry == kit.Pack {
			l := uncertainL(it)
			sum += l * l
		}
	}
	return math.Sqrt(sum)
}
