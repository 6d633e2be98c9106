package mip

import (
	"math"
	"slices"
)

// relaxation is the linear relaxation, solved by the bounded dual simplex method (Maros, Computational Techniques of
// the Simplex Method, 2003, chapter 10): rows are A x + s = 0 with a logical variable s a row, whose bounds are
// those of the row turned round. A basis keeps reduced costs of the right sign; then its cost is a lower bound, and
// each pivot raises it. Any basis so reached stays dual feasible when bounds change, so a node of the tree starts
// from the last one; only where a bound has gone altogether it may have to begin anew.
//
// The inverse of the basis is kept as a dense matrix: with some hundred rows that is as quick as any factors, and
// the norms of its rows are the weights of dual steepest edge pricing (Forrest and Goldfarb, 1992) for nothing.
type relaxation struct {
	structural int // variables before it are columns, from it on logicals
	columns    [][]Term
	rows       [][]Term
	cost       []float64 // by variable
	low, high  []float64
	free       []bool // by variable: has a bound only so that a basis can begin
	value      []float64
	reduced    []float64
	upper      []bool // of what is not in the basis: at its upper bound
	basis      []int  // by row, the variable
	place      []int  // by variable, its row in the basis, or -1
	inverse    [][]float64
	weight     []float64
	scale      float64 // the size of costs
	pivots     int
	work       int  // pivots times the square of rows: what they cost
	since      int  // pivots since values and reduced costs were made anew
	failed     int  // the row that could not be kept, where it ended as infeasible
	moved      bool // the basis is another than that of the reduced costs
	shifted    bool // bounds are others than those of the values
	scratch    struct {
		row, column, right []float64
		parts              []float64
		at                 []int
		candidates         []candidate
	}
}

// candidate is a variable that may enter the basis.
type candidate struct {
	variable int
	ratio    float64
	size     float64
}

// outcome is how a relaxation ended.
type outcome int

const (
	optimal outcome = iota
	infeasible
	above   // its cost is above the cutoff
	unended // pivots or time ran out
)

const (
	primalTolerance = 1e-9
	dualTolerance   = 1e-9
	leastPivot      = 1e-8
	// artificial stands for a bound that is missing where the search for a basis needs one.
	artificial = 1e8
	// refresh is how many pivots are made on numbers that were updated and not computed anew.
	refresh = 50
)

// newRelaxation scales every row by a power of two, so that its largest factor is from 1 to 2.
func newRelaxation(p *Program) *relaxation {
	n := len(p.Columns)
	r := &relaxation{structural: n, columns: make([][]Term, n), scale: 1}
	for i := range p.Columns {
		c := &p.Columns[i]
		low, high, made := c.Low, c.High, false
		if math.IsInf(low, -1) && c.Cost > 0 {
			low, made = -artificial, true
		}
		if math.IsInf(high, 1) && c.Cost < 0 {
			high, made = artificial, true
		}
		r.variable(c.Cost, low, high, made)
		r.scale = max(r.scale, math.Abs(c.Cost))
	}
	for i := range p.Rows {
		row := &p.Rows[i]
		r.addRow(gather(row.Terms), row.Low, row.High)
	}
	r.reset()
	return r
}

func (r *relaxation) variable(cost, low, high float64, free bool) {
	r.cost = append(r.cost, cost)
	r.low = append(r.low, low)
	r.high = append(r.high, high)
	r.free = append(r.free, free)
	r.value = append(r.value, 0)
	r.reduced = append(r.reduced, cost)
	r.upper = append(r.upper, false)
	r.place = append(r.place, -1)
}

func square(list []float64) (sum float64) {
	for _, v := range list {
		sum += v * v
	}
	return sum
}

// logical is the variable of a row.
func (r *relaxation) logical(row int) int { return r.structural + row }

// reset begins again from the basis of logicals.
func (r *relaxation) reset() {
	m := len(r.rows)
	for v := range r.place {
		r.place[v] = -1
	}
	for k := range m {
		r.inverse[k] = make([]float64, m)
		r.inverse[k][k], r.weight[k] = 1, 1
		r.basis[k] = r.logical(k)
		r.place[r.logical(k)] = k
	}
	r.moved = true
}

// invert makes the inverse anew from the basis. A variable that depends on the others leaves the basis for a logical.
func (r *relaxation) invert() {
	wanted := slices.Clone(r.basis)
	r.reset()
	in := make([]bool, len(r.cost))
	for _, v := range wanted {
		in[v] = true
	}
	slices.Sort(wanted)
	for _, v := range wanted {
		if v >= r.structural {
			continue
		}
		column := r.ahead(v)
		row, most := -1, leastPivot
		for k, size := range column {
			if leaving := r.basis[k]; leaving >= r.structural && !in[leaving] && math.Abs(size) > most {
				row, most = k, math.Abs(size)
			}
		}
		if row >= 0 {
			r.exchange(row, v, column)
		}
	}
	r.moved = true
}

// ahead is the column of a variable seen from the basis (FTRAN). It is overwritten by the next call.
func (r *relaxation) ahead(variable int) []float64 {
	m := len(r.rows)
	column := resize(&r.scratch.column, m)
	if variable >= r.structural {
		row := variable - r.structural
		for k := range m {
			column[k] = r.inverse[k][row]
		}
		return column
	}
	terms := r.columns[variable]
	for k := range m {
		sum, from := 0.0, r.inverse[k]
		for _, t := range terms {
			sum += from[t.Column] * t.Factor
		}
		column[k] = sum
	}
	return column
}

// across is the row of a place of the basis over all variables (BTRAN and pricing). It is overwritten by the next
// call.
func (r *relaxation) across(place int) []float64 {
	row := resize(&r.scratch.row, len(r.cost))
	clear(row)
	for i, v := range r.inverse[place] {
		if v == 0 {
			continue
		}
		row[r.structural+i] = v
		for _, t := range r.rows[i] {
			row[t.Column] += v * t.Factor
		}
	}
	return row
}

func resize(list *[]float64, n int) []float64 {
	if cap(*list) < n {
		*list = make([]float64, n, n+n/2)
	}
	*list = (*list)[:n]
	return *list
}

// exchange brings a variable into the basis at a row, and takes out what stood there. Most of the inverse is zero, so
// only what the pivot row has is touched.
func (r *relaxation) exchange(row, entering int, column []float64) {
	pivotRow := r.inverse[row]
	by := 1 / column[row]
	at, parts, norm := r.scratch.at[:0], r.scratch.parts[:0], 0.0
	for j, v := range pivotRow {
		if v == 0 {
			continue
		}
		if v *= by; math.Abs(v) < dropped {
			pivotRow[j] = 0
			continue
		}
		pivotRow[j] = v
		norm += v * v
		at, parts = append(at, j), append(parts, v)
	}
	r.scratch.at, r.scratch.parts, r.weight[row] = at, parts, norm
	for k, size := range column {
		if k == row || math.Abs(size) < dropped {
			continue
		}
		target, change := r.inverse[k], 0.0
		for i, j := range at {
			old, by := target[j], size*parts[i]
			target[j] = old - by
			change += by * (by - 2*old)
		}
		r.weight[k] = max(leastWeight, r.weight[k]+change)
	}
	r.place[r.basis[row]] = -1
	r.basis[row] = entering
	r.place[entering] = row
}

// dropped is the size below which a number of the inverse is rounding; leastWeight keeps norms that were updated, and
// not summed up, above zero.
const (
	dropped     = 1e-14
	leastWeight = 1e-6
)

// settle puts what is outside the basis at the bound that its reduced cost asks for, and computes values and reduced
// costs anew.
func (r *relaxation) settle() {
	right := resize(&r.scratch.right, len(r.rows))
	clear(right)
	r.addDuals(right)
	for v := range r.cost {
		if r.place[v] >= 0 {
			r.reduced[v] = 0
			continue
		}
		d := r.cost[v]
		if v >= r.structural {
			d -= right[v-r.structural]
		} else {
			for _, t := range r.columns[v] {
				d -= right[t.Column] * t.Factor
			}
		}
		r.reduced[v] = d
		r.atBound(v)
	}
	r.values()
	r.since, r.moved, r.shifted = 0, false, false
}

// addDuals adds the duals of the rows, what a unit more of each would cost.
func (r *relaxation) addDuals(to []float64) {
	for k, v := range r.basis {
		if c := r.cost[v]; c != 0 {
			for i, w := range r.inverse[k] {
				to[i] += c * w
			}
		}
	}
}

// follow brings values up to bounds that were changed.
func (r *relaxation) follow() {
	r.begin()
	for v := range r.cost {
		if r.place[v] < 0 {
			before := r.value[v]
			r.atBound(v)
			r.shift(v, r.value[v]-before)
		}
	}
	r.end()
	r.since++
	r.shifted = false
}

// begin, shift and end move variables outside the basis, and those of the basis with them.
func (r *relaxation) begin() { clear(resize(&r.scratch.right, len(r.rows))) }

func (r *relaxation) shift(v int, by float64) {
	switch {
	case by == 0:
	case v >= r.structural:
		r.scratch.right[v-r.structural] += by
	default:
		for _, t := range r.columns[v] {
			r.scratch.right[t.Column] += t.Factor * by
		}
	}
}

func (r *relaxation) end() {
	at := r.scratch.at[:0]
	for i, v := range r.scratch.right {
		if v != 0 {
			at = append(at, i)
		}
	}
	r.scratch.at = at
	if len(at) == 0 {
		return
	}
	for k, v := range r.basis {
		sum, from := 0.0, r.inverse[k]
		for _, i := range at {
			sum += from[i] * r.scratch.right[i]
		}
		r.value[v] -= sum
	}
}

// dualFeasible reports whether every variable outside the basis has a bound on the side that its reduced cost asks for.
func (r *relaxation) dualFeasible() bool {
	tolerance := dualTolerance * r.scale
	for v, d := range r.reduced {
		if r.place[v] < 0 && (d > tolerance && math.IsInf(r.low[v], -1) || d < -tolerance && math.IsInf(r.high[v], 1)) {
			return false
		}
	}
	return true
}

// atBound chooses the bound at which a variable outside the basis stands.
func (r *relaxation) atBound(v int) {
	low, high, d := r.low[v], r.high[v], r.reduced[v]
	tolerance := dualTolerance * r.scale
	switch {
	case math.IsInf(low, -1) && math.IsInf(high, 1):
		r.value[v] = 0
		return
	case math.IsInf(high, 1), d > tolerance && !math.IsInf(low, -1):
		r.upper[v] = false
	case math.IsInf(low, -1), d < -tolerance:
		r.upper[v] = true
	}
	if r.value[v] = low; r.upper[v] {
		r.value[v] = high
	}
}

// values computes what the variables of the basis are worth.
func (r *relaxation) values() {
	m := len(r.rows)
	right := resize(&r.scratch.right, m)
	for i, terms := range r.rows {
		sum := 0.0
		if v := r.logical(i); r.place[v] < 0 {
			sum = r.value[v]
		}
		for _, t := range terms {
			if r.place[t.Column] < 0 {
				sum += t.Factor * r.value[t.Column]
			}
		}
		right[i] = -sum
	}
	for k, v := range r.basis {
		sum := 0.0
		for j, w := range r.inverse[k] {
			sum += w * right[j]
		}
		r.value[v] = sum
	}
}

// wrong is by how much the rows are missed at the present values: a measure of how good the inverse still is.
func (r *relaxation) wrong() (most float64) {
	for i, terms := range r.rows {
		sum, size := r.value[r.logical(i)], 1.0
		for _, t := range terms {
			sum += t.Factor * r.value[t.Column]
			size = max(size, math.Abs(t.Factor*r.value[t.Column]))
		}
		most = max(most, math.Abs(sum)/size)
	}
	return most
}

// objective is the cost of the present basis, a lower bound while it is dual feasible.
func (r *relaxation) objective() (sum float64) {
	for v, c := range r.cost[:r.structural] {
		if c != 0 {
			sum += c * r.value[v]
		}
	}
	return sum
}

// bound changes the bounds of a variable. The basis stays; values follow at the next solve.
func (r *relaxation) bound(v int, low, high float64) {
	if r.low[v] != low || r.high[v] != high {
		r.low[v], r.high[v] = low, high
		r.shifted = true
	}
}
