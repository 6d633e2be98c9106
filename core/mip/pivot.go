package mip

import (
	"cmp"
	"math"
	"slices"
)

// solve pivots until the basis is feasible. It ends early when the cost is at or above the cutoff, after a number of
// pivots, or when stop says so.
func (r *relaxation) solve(cutoff float64, most int, stop func() bool) outcome {
	switch {
	case r.moved:
		r.settle()
	case r.shifted:
		r.follow()
	}
	if !r.dualFeasible() { // a bound that it stood on has gone
		r.reset()
		r.settle()
	}
	checked := false
	for made := 0; ; made++ {
		if r.since >= refresh {
			r.freshen()
		}
		row := r.leaving()
		if row < 0 {
			if !checked && !r.exact() { // the last word is spoken on good numbers
				checked = true
				r.freshen()
				continue
			}
			return optimal
		}
		checked = false
		if r.objective() >= cutoff {
			if !r.exact() {
				r.freshen()
				if r.objective() < cutoff {
					continue
				}
			}
			return above
		}
		if made >= most || stop != nil && made%16 == 15 && stop() {
			return unended
		}
		switch r.pivot(row) {
		case infeasible:
			if r.since > 0 { // not said on numbers that were only updated
				r.freshen()
				continue
			}
			return infeasible
		case unended:
			return unended
		}
	}
}

// exact reports whether values that were only updated still solve the rows nearly as well as fresh ones do.
func (r *relaxation) exact() bool { return r.since == 0 || r.wrong() <= leastWrong }

// By how much rows may be missed: from leastWrong on everything is computed anew, from mostWrong on the inverse too.
const (
	leastWrong = 1e-12
	mostWrong  = 1e-9
)

// freshen computes everything anew; the inverse only when it has become wrong.
func (r *relaxation) freshen() {
	r.settle()
	if r.wrong() > mostWrong {
		r.invert()
		r.settle()
	}
}

// leaving is the row whose variable is farthest outside its bounds, measured in the norm of the row; -1 for none.
func (r *relaxation) leaving() int {
	row, most := -1, 0.0
	for k, v := range r.basis {
		value := r.value[v]
		away := r.low[v] - value
		if away < 0 {
			away = value - r.high[v]
		}
		if away <= primalTolerance*(1+math.Abs(value)) {
			continue
		}
		if score := away * away / r.weight[k]; score > most {
			row, most = k, score
		}
	}
	return row
}

// pivot takes the variable of a row out of the basis. It says optimal when it did, infeasible when no variable can
// take the place: then no values at all keep this row.
func (r *relaxation) pivot(row int) outcome {
	leaving := r.basis[row]
	away := r.value[leaving] - r.low[leaving] // negative below
	sign := -1.0
	if away >= 0 {
		away, sign = r.value[leaving]-r.high[leaving], 1
	}
	across := r.across(row)
	list := r.scratch.candidates[:0]
	for v, size := range across {
		if r.place[v] >= 0 || r.low[v] == r.high[v] {
			continue
		}
		size *= sign
		d := r.reduced[v]
		switch unbounded := math.IsInf(r.low[v], -1) && math.IsInf(r.high[v], 1); {
		case unbounded && math.Abs(size) > leastPivot:
			d = 0
		case !unbounded && !r.upper[v] && size > leastPivot:
			d = max(0, d)
		case !unbounded && r.upper[v] && size < -leastPivot:
			d = max(0, -d)
		default:
			continue
		}
		list = append(list, candidate{v, d / math.Abs(size), math.Abs(size)})
	}
	r.scratch.candidates = list
	entering, flips := r.ratioTest(list, math.Abs(away))
	if entering < 0 {
		r.failed = row
		return infeasible
	}
	size := across[entering]
	column := r.ahead(entering)
	if math.Abs(column[row]-size) > 1e-7*(1+math.Abs(size)) { // the inverse has become wrong
		if r.since == 0 {
			return unended
		}
		r.invert()
		r.settle()
		return optimal
	}
	r.flip(flips)
	bound := r.low[leaving]
	if sign > 0 {
		bound = r.high[leaving]
	}
	step := (r.value[leaving] - bound) / size
	theta := r.reduced[entering] / size
	for v, a := range across {
		if a != 0 && r.place[v] < 0 {
			r.reduced[v] -= theta * a
		}
	}
	for k, a := range column {
		r.value[r.basis[k]] -= step * a
	}
	r.value[entering] += step
	r.value[leaving], r.upper[leaving] = bound, sign > 0
	r.reduced[leaving], r.reduced[entering] = -theta, 0
	r.exchange(row, entering, column)
	r.pivots++
	r.work += len(r.rows) * len(r.rows)
	r.since++
	return optimal
}

// ratioTest chooses the variable that enters, and those that go to their other bound on the way because the cost
// still rises behind them (the bound flipping ratio test of Fourer and of Maros). Among nearly equal ratios the
// largest pivot is taken (Harris, 1973).
func (r *relaxation) ratioTest(list []candidate, slope float64) (entering int, flips []candidate) {
	slices.SortFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(a.ratio, b.ratio), cmp.Compare(b.size, a.size), cmp.Compare(a.variable, b.variable))
	})
	passed := 0
	for passed < len(list) {
		c := list[passed]
		range_ := r.high[c.variable] - r.low[c.variable]
		if slope -= c.size * range_; !(slope > primalTolerance) {
			break
		}
		passed++
	}
	if passed == len(list) {
		return -1, nil
	}
	best := passed
	for k := passed + 1; k < len(list) && list[k].ratio <= list[passed].ratio+dualTolerance*r.scale/max(list[k].size,
		1e-3); k++ {
		if list[k].size > list[best].size {
			best = k
		}
	}
	return list[best].variable, list[:passed]
}

// flip moves variables to their other bounds.
func (r *relaxation) flip(list []candidate) {
	if len(list) == 0 {
		return
	}
	r.begin()
	for _, c := range list {
		v, before := c.variable, r.value[c.variable]
		if r.upper[v] = !r.upper[v]; r.upper[v] {
			r.value[v] = r.high[v]
		} else {
			r.value[v] = r.low[v]
		}
		r.shift(v, r.value[v]-before)
	}
	r.end()
}
