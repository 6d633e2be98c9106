package mip

import (
	"cmp"
	"math"
	"slices"
)

// box is the bounds of all columns at a node: both has the low ones, and behind them the high ones.
type box struct{ low, high, both []float64 }

func newBox(n int) box {
	both := make([]float64, 2*n)
	return box{both[:n], both[n:], both}
}

func (b box) copyFrom(other box) { copy(b.both, other.both) }

// limit is one side of a row: the sum of its terms is at most most, and of a row that was learnt (proof.go) at most
// that and the cutoff.
type limit struct {
	terms  []reaching // what can change the sum most first
	most   float64
	cutoff bool
	size   float64 // of the largest term; Inf where a column has no bound
}

// reaching is a term, and by how much its column can change the sum at all; 0 for a column that is not whole: its
// bounds gain little, and rounding would creep in.
type reaching struct {
	factor, reach float64
	column        int
	least         int // where a box has the bound at which the term is least
}

// limitsOf are the sides of all rows.
func limitsOf(p *Program) (list []limit) {
	for i := range p.Rows {
		row := &p.Rows[i]
		if !math.IsInf(row.High, 1) {
			list = append(list, p.limit(row.Terms, 1, row.High))
		}
		if !math.IsInf(row.Low, -1) {
			list = append(list, p.limit(row.Terms, -1, -row.Low))
		}
	}
	return list
}

// limit makes a limit of sign times terms.
func (p *Program) limit(terms []Term, sign, most float64) limit {
	l := limit{most: most}
	for _, t := range terms {
		if t.Factor == 0 {
			continue
		}
		reach, c := 0.0, &p.Columns[t.Column]
		if c.Whole {
			reach = math.Abs(t.Factor) * (c.High - c.Low)
		}
		l.size = max(l.size, math.Abs(t.Factor)*max(math.Abs(c.Low), math.Abs(c.High)))
		least := t.Column
		if sign*t.Factor < 0 {
			least += len(p.Columns)
		}
		l.terms = append(l.terms, reaching{sign * t.Factor, reach, t.Column, least})
	}
	slices.SortStableFunc(l.terms, func(a, b reaching) int { return cmp.Compare(b.reach, a.reach) })
	return l
}

// propagations is how often all rows are gone through: what one row says may let another say more.
const propagations = 4

// propagate tightens the bounds of columns by what each row leaves over for them (activity-based bound tightening).
// It reports false when a row or a column cannot be kept at all.
func (s *solver) propagate(b box) bool {
	for range propagations {
		changed := false
		for i := range s.limits {
			l := &s.limits[i]
			s.relaxation.work += len(l.terms)
			most := l.most
			if l.cutoff {
				most += s.cutoff()
			}
			ok, tighter := l.tighten(most, b)
			if !ok {
				return false
			}
			changed = changed || tighter
		}
		if !changed {
			return true
		}
	}
	return true
}

// tighten goes through one limit.
func (l *limit) tighten(most float64, b box) (ok, changed bool) {
	least, open, size := l.least(b)
	slack := most + feasible*max(1, math.Abs(most), size) - least
	if open == 0 && slack < 0 {
		return false, false
	}
	if open > 1 {
		return true, false
	}
	for i := range l.terms {
		t := &l.terms[i]
		if t.reach == 0 || t.reach <= slack {
			break
		}
		if open == 1 && !math.IsInf(b.both[t.least], 0) {
			continue
		}
		low, high := &b.low[t.column], &b.high[t.column]
		if t.factor > 0 {
			base := *low
			if open == 1 {
				base = 0
			}
			if reach := math.Floor(base + slack/t.factor + whole); reach < *high {
				*high, changed = reach, true
			}
		} else {
			base := *high
			if open == 1 {
				base = 0
			}
			if reach := math.Ceil(base + slack/t.factor - whole); reach > *low {
				*low, changed = reach, true
			}
		}
		if *low > *high {
			return false, true
		}
	}
	return true, changed
}

// least is the least that the sum of terms can be, without those of which it is open, and the size of the largest.
func (l *limit) least(b box) (sum float64, open int, size float64) {
	if !math.IsInf(l.size, 1) {
		for i := range l.terms {
			sum += l.terms[i].factor * b.both[l.terms[i].least]
		}
		return sum, 0, l.size
	}
	for i := range l.terms {
		v := l.terms[i].factor * b.both[l.terms[i].least]
		if math.IsInf(v, -1) {
			open++
			continue
		}
		sum += v
		size = max(size, v, -v)
	}
	return sum, open, size
}

// lowest is the least that a term can be.
func lowest(factor, low, high float64) float64 {
	switch {
	case factor > 0:
		return factor * low
	case factor < 0:
		return factor * high
	}
	return 0
}
