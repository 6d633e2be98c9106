package mip

import "math"

// How many learnt rows are kept: the oldest goes for a new one.
const mostLearnt = 500

// learn keeps why a node or a branch that was tried is closed, as a row that every solution better than the best
// keeps. A sum of rows that has no solution within the bounds there, or together with the cost none below the cutoff,
// may have none elsewhere in the tree either, and that needs no relaxation to see (dual proofs: Witzig, Berthold and
// Heinz, 2017).
func (s *solver) learn(got outcome) {
	r := s.relaxation
	y := make([]float64, len(r.rows))
	sign := -1.0
	if got == above {
		r.addDuals(y)
	} else {
		copy(y, r.inverse[r.failed])
		if leaving := r.basis[r.failed]; r.value[leaving] < r.low[leaving] {
			sign = 1
		}
	}
	for i := range y {
		y[i] *= sign
	}
	terms, most, ok := s.sumOf(y, got == above)
	if !ok || len(terms) == 0 {
		return
	}
	l := s.limit(terms, 1, most)
	l.cutoff = got == above
	if s.learnt < mostLearnt {
		s.limits = append(s.limits, l)
	} else {
		s.limits[len(s.limits)-mostLearnt+s.learnt%mostLearnt] = l
	}
	s.learnt++
}

// sumOf adds up rows, so many times each, and the cost: the sum of terms is at most most. It is not ok when something
// without a bound stands in it.
func (s *solver) sumOf(times []float64, cost bool) (terms []Term, most float64, ok bool) {
	r := s.relaxation
	sum := make([]float64, r.structural)
	if cost {
		copy(sum, r.cost)
	}
	for i, y := range times {
		if math.Abs(y) < noise {
			continue // left out: whatever the times are, the sum of the others holds
		}
		logical := r.logical(i)
		least := lowest(y, r.low[logical], r.high[logical])
		if math.IsInf(least, -1) {
			return nil, 0, false
		}
		most -= least
		for _, t := range r.rows[i] {
			sum[t.Column] += y * t.Factor
		}
	}
	largest := 0.0
	for _, f := range sum {
		largest = max(largest, math.Abs(f))
	}
	for j, f := range sum {
		switch least := lowest(f, s.root.low[j], s.root.high[j]); {
		case f == 0:
		case math.Abs(f) >= max(noise, tinyFactor*largest):
			if math.IsInf(least, -1) {
				return nil, 0, false
			}
			terms = append(terms, Term{j, f})
		case math.IsInf(least, -1):
			return nil, 0, false
		default:
			most -= least
		}
	}
	return terms, most, true
}
