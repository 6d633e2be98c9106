package mip

import "math"

// box is the bounds of all columns at a node.
type box struct{ low, high []float64 }

func (b box) copyFrom(other box) {
	copy(b.low, other.low)
	copy(b.high, other.high)
}

// propagations is how often all rows are gone through: what one row says may let another say more.
const propagations = 4

// propagate tightens the bounds of columns by what each row leaves over for them (activity-based bound tightening).
// It reports false when a row or a column cannot be kept at all.
func (p *Program) propagate(b box) bool {
	for range propagations {
		changed := false
		for i := range p.Rows {
			row := &p.Rows[i]
			if !math.IsInf(row.High, 1) {
				ok, tighter := p.tighten(row.Terms, row.High, 1, b)
				if !ok {
					return false
				}
				changed = changed || tighter
			}
			if !math.IsInf(row.Low, -1) {
				ok, tighter := p.tighten(row.Terms, -row.Low, -1, b)
				if !ok {
					return false
				}
				changed = changed || tighter
			}
		}
		if !changed {
			return true
		}
	}
	return true
}

// tighten goes through one side of a row: sign times the sum of its terms is at most limit.
func (p *Program) tighten(terms []Term, limit, sign float64, b box) (ok, changed bool) {
	least, open, size := 0.0, 0, math.Abs(limit)
	for _, t := range terms {
		v := lowest(sign*t.Factor, b.low[t.Column], b.high[t.Column])
		if math.IsInf(v, -1) {
			open++
			continue
		}
		least += v
		size = max(size, math.Abs(v))
	}
	slack := feasible * max(1, size)
	if open == 0 && least > limit+slack {
		return false, false
	}
	if open > 1 {
		return true, false
	}
	for _, t := range terms {
		f := sign * t.Factor
		own := lowest(f, b.low[t.Column], b.high[t.Column])
		if f == 0 || open == 1 && !math.IsInf(own, -1) {
			continue
		}
		rest := least
		if open == 0 {
			rest -= own
		}
		reach := (limit + slack - rest) / f
		c := &p.Columns[t.Column]
		if !c.Whole { // continuous columns gain little, and rounding would creep in
			continue
		}
		if f > 0 {
			if reach = math.Floor(reach + whole); reach < b.high[t.Column] {
				b.high[t.Column], changed = reach, true
			}
		} else if reach = math.Ceil(reach - whole); reach > b.low[t.Column] {
			b.low[t.Column], changed = reach, true
		}
		if b.low[t.Column] > b.high[t.Column] {
			return false, true
		}
	}
	return true, changed
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
