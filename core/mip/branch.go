package mip

import (
	"cmp"
	"math"
	"slices"
)

// pseudoCosts remember by how much the bound rose for each whole unit that a branch pushed a column (Bénichou et al.,
// 1971). Until a column was tried often enough, both its branches are tried for a few pivots before it is chosen:
// reliability branching (Achterberg, Koch and Martin, 2005).
type pseudoCosts struct {
	sum   [2][]float64
	times [2][]int
}

func newPseudoCosts(columns int) (p pseudoCosts) {
	for side := range 2 {
		p.sum[side], p.times[side] = make([]float64, columns), make([]int, columns)
	}
	return p
}

func (p *pseudoCosts) learn(column int, up bool, rise float64) {
	side := 0
	if up {
		side = 1
	}
	p.sum[side][column] += max(0, rise)
	p.times[side][column]++
}

// of is the rise to expect for a whole unit: the column's own, or that of all columns.
func (p *pseudoCosts) of(column, side int, usual float64) float64 {
	if p.times[side][column] == 0 {
		return usual
	}
	return p.sum[side][column] / float64(p.times[side][column])
}

func (p *pseudoCosts) usual(side int) float64 {
	sum, times := 0.0, 0
	for j, n := range p.times[side] {
		sum, times = sum+p.sum[side][j], times+n
	}
	if times == 0 {
		return 1
	}
	return sum / float64(times)
}

const (
	reliable    = 4  // trials of each side until a pseudo-cost is believed
	mostTried   = 10 // columns tried at one node
	trialPivots = 40
	leastScore  = 1e-6
)

// branchOn chooses the column to branch on, -1 for none, and what its branches cost at least.
func (s *solver) branchOn(bound float64) (column int, down, up float64) {
	r := s.relaxation
	type wish struct {
		column int
		score  float64
	}
	usual := [2]float64{s.pseudo.usual(0), s.pseudo.usual(1)}
	var list []wish
	for _, j := range s.integers {
		v := r.value[j]
		fraction := v - math.Floor(v)
		if fraction <= whole || fraction >= 1-whole || r.low[j] == r.high[j] {
			continue
		}
		list = append(list, wish{j, score(fraction*s.pseudo.of(j, 0, usual[0]), (1-fraction)*s.pseudo.of(j, 1, usual[1]))})
	}
	if len(list) == 0 {
		for _, j := range s.integers { // nothing is fractional, but the relaxation was not solved, or rounding does harm
			if r.low[j] < r.high[j] {
				return j, bound, bound
			}
		}
		return -1, bound, bound
	}
	slices.SortStableFunc(list, func(a, b wish) int { return cmp.Compare(b.score, a.score) })
	column, best := list[0].column, -1.0
	down, up = bound, bound
	tried := 0
	for k, w := range list {
		j := w.column
		if s.pseudo.times[0][j] >= reliable && s.pseudo.times[1][j] >= reliable || tried == mostTried {
			if w.score > best {
				column, best, down, up = j, w.score, bound, bound
			}
			if tried == mostTried || k > 2*mostTried {
				break
			}
			continue
		}
		tried++
		d, u := s.tryBranch(j, bound)
		if got := score(d-bound, u-bound); got > best {
			column, best, down, up = j, got, d, u
		}
		if cut := s.cutoff(); d >= cut || u >= cut { // one branch is closed: nothing better will come
			return j, d, u
		}
	}
	return column, down, up
}

// below is the whole number at which a column is parted: one branch has it and less, the other what is more. Both have
// less of the column than their parent, also where its value is whole and lies at its lower bound: a branch that had
// all of it would be its own parent, and so on without end.
func below(value, low float64) float64 {
	floor := math.Floor(value + whole)
	if value-floor <= whole && floor > low { // whole, where nothing is fractional but the relaxation is not solved
		floor--
	}
	return floor
}

// score is the product of both rises: a branch that moves only one side is of little use.
func score(down, up float64) float64 {
	down, up = min(down, 1e12), min(up, 1e12)
	return max(down, leastScore) * max(up, leastScore)
}

// tryBranch looks a few pivots into both branches of a column.
func (s *solver) tryBranch(column int, bound float64) (down, up float64) {
	r := s.relaxation
	s.shot.take(r)
	value, low, high := r.value[column], r.low[column], r.high[column]
	one := func(low, high, distance float64, side bool) float64 {
		s.trial.copyFrom(s.now)
		s.trial.low[column], s.trial.high[column] = max(low, s.now.low[column]), min(high, s.now.high[column])
		if !s.propagate(s.trial) {
			return Inf
		}
		s.apply(s.trial)
		got := r.solve(s.cutoff(), trialPivots, s.stopped)
		reached := bound
		switch got {
		case infeasible, above:
			s.learn(got)
			reached = Inf
		case optimal, unended:
			reached = max(bound, r.objective())
			if got == optimal {
				s.pseudo.learn(column, side, (reached-bound)/distance)
			}
		}
		s.shot.restore(r)
		return reached
	}
	floor := math.Floor(value)
	down = one(low, floor, value-floor, false)
	up = one(floor+1, high, floor+1-value, true)
	return down, up
}

// snapshot is a relaxation to come back to.
type snapshot struct {
	low, high, value, reduced, weight []float64
	upper                             []bool
	basis, place                      []int
	inverse                           []float64
	since                             int
	moved, shifted                    bool
}

func (k *snapshot) take(r *relaxation) {
	k.low, k.high = append(k.low[:0], r.low...), append(k.high[:0], r.high...)
	k.value, k.reduced = append(k.value[:0], r.value...), append(k.reduced[:0], r.reduced...)
	k.weight, k.upper = append(k.weight[:0], r.weight...), append(k.upper[:0], r.upper...)
	k.basis, k.place = append(k.basis[:0], r.basis...), append(k.place[:0], r.place...)
	k.inverse = k.inverse[:0]
	for _, row := range r.inverse {
		k.inverse = append(k.inverse, row...)
	}
	k.since, k.moved, k.shifted = r.since, r.moved, r.shifted
}

func (k *snapshot) restore(r *relaxation) {
	copy(r.low, k.low)
	copy(r.high, k.high)
	copy(r.value, k.value)
	copy(r.reduced, k.reduced)
	copy(r.weight, k.weight)
	copy(r.upper, k.upper)
	copy(r.basis, k.basis)
	copy(r.place, k.place)
	m := len(r.rows)
	for i := range r.inverse {
		copy(r.inverse[i], k.inverse[i*m:(i+1)*m])
	}
	r.since, r.moved, r.shifted = k.since, k.moved, k.shifted
}
