package load

import (
	"math"
	"sync/atomic"

	"tornister/core/job"
	"tornister/core/kit"
)

// Of the draws that fail in haste some go in with patience: of 70 at the edge 20 did, 19 of them with patientBudget, in
// half a second each and not one and a half. So many are tried at most, evenly out of all that failed by little, from
// the fewest litres to the most, and stand for these (two-phase sampling: Neyman, 1938); fewer where few failed, as
// long as that adds no more than patientError to the standard error of the share.
const (
	patientDraws  = 16
	patientError  = 0.02
	patientBudget = fitBudget / 4
	// farOutL is what may be out in haste for patience to be worth while: of 130 draws at the edge 31 of 74 went in that
	// lacked less than 2 L, and none of the others.
	farOutL = 2.5
	// hopelessSpreads is how many standard deviations of all litres a kit may be too large for it to be worth while.
	hopelessSpreads = 3.0
)

// sample is how many draws were tried with patience, and how many of them went in.
type sample struct{ tried, fit int }

// patience tries a sample of the draws that failed, in an order drawn by lot: what is tried when the clock ends it
// stands for the rest as well.
func (s *search) patience(failed []factors, draws int, stop clock) sample {
	half := 0.5 * float64(len(failed)) / float64(draws) // at worst: half of those that failed go in
	n := min(patientDraws, len(failed), int(math.Ceil(half*half/(patientError*patientError))))
	order := newSource(1).Perm(n)
	var wait sideBySide
	var tried, fit atomic.Int32
	for w := range workers {
		wait.Go(func() {
			for i := w; i < n && !stop.ended(); i += workers {
				yes, _ := fitsAnew(s.task, failed[(2*order[i]+1)*len(failed)/(2*n)], Options{Stop: stop})
				if stop.ended() { // whether it was cut short is not known
					return
				}
				tried.Add(1)
				if yes {
					fit.Add(1)
				}
			}
		})
	}
	wait.Wait()
	return sample{int(tried.Load()), int(fit.Load())}
}

// Patient plans a task for which a quick plan found no room: with patience it looks for some, and for nothing more. The
// order is as it comes.
func Patient(task *job.Task, stop func() bool) *Plan {
	return Make(task, Options{Seed: 1, Rough: true, patient: true, Stop: stop})
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
