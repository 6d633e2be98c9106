package mip

import (
	"cmp"
	"math"
	"slices"
)

// gather adds up terms of the same column.
func gather(terms []Term) []Term {
	list := slices.Clone(terms)
	slices.SortStableFunc(list, func(a, b Term) int { return cmp.Compare(a.Column, b.Column) })
	out := list[:0]
	for _, t := range list {
		if len(out) > 0 && out[len(out)-1].Column == t.Column {
			out[len(out)-1].Factor += t.Factor
			continue
		}
		out = append(out, t)
	}
	return slices.DeleteFunc(out, func(t Term) bool { return t.Factor == 0 })
}

// addRow adds a row with its logical, which enters the basis.
func (r *relaxation) addRow(terms []Term, low, high float64) {
	largest := 0.0
	for _, t := range terms {
		largest = max(largest, math.Abs(t.Factor))
	}
	if largest > 0 {
		_, power := math.Frexp(largest)
		by := math.Ldexp(1, 1-power)
		for k := range terms {
			terms[k].Factor *= by
		}
		low, high = low*by, high*by
	}
	at := len(r.rows)
	r.rows = append(r.rows, terms)
	for _, t := range terms {
		r.columns[t.Column] = append(r.columns[t.Column], Term{at, t.Factor})
	}
	r.variable(0, -high, -low, false)
	variable := len(r.cost) - 1
	// The inverse grows by one row: that of the logical, less what the basis explains of the new row.
	fresh := make([]float64, at+1)
	for k := range r.inverse {
		r.inverse[k] = append(r.inverse[k], 0)
	}
	for _, t := range terms {
		if k := r.place[t.Column]; k >= 0 {
			for j, v := range r.inverse[k][:at] {
				fresh[j] -= t.Factor * v
			}
		}
	}
	fresh[at] = 1
	r.inverse = append(r.inverse, fresh)
	r.weight = append(r.weight, square(fresh))
	r.basis = append(r.basis, variable)
	r.place[variable] = at
	r.moved = true
}

// dropRows takes rows out whose logicals are in the basis.
func (r *relaxation) dropRows(drop []bool) {
	var kept []int
	for i := range r.rows {
		if !drop[i] {
			kept = append(kept, i)
		}
	}
	renamed := make(map[int]int, len(kept))
	for at, i := range kept {
		from, to := r.logical(i), r.logical(at)
		r.rows[at] = r.rows[i]
		r.cost[to], r.low[to], r.high[to], r.value[to], r.upper[to], r.free[to] =
			r.cost[from], r.low[from], r.high[from], r.value[from], r.upper[from], r.free[from]
		renamed[from] = to
	}
	n := r.structural + len(kept)
	r.rows = r.rows[:len(kept)]
	r.cost, r.low, r.high, r.value = r.cost[:n], r.low[:n], r.high[:n], r.value[:n]
	r.upper, r.free, r.reduced, r.place = r.upper[:n], r.free[:n], r.reduced[:n], r.place[:n]
	for j := range r.columns {
		r.columns[j] = r.columns[j][:0]
	}
	for at, terms := range r.rows {
		for _, t := range terms {
			r.columns[t.Column] = append(r.columns[t.Column], Term{at, t.Factor})
		}
	}
	var basis []int
	for _, v := range r.basis {
		if v < r.structural {
			basis = append(basis, v)
		} else if to, is := renamed[v]; is {
			basis = append(basis, to)
		}
	}
	r.basis, r.inverse, r.weight = basis, r.inverse[:len(kept)], r.weight[:len(kept)]
	r.invert()
}
