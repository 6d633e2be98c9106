package mip

import (
	"math"
	"slices"
)

// cut is a row that every solution keeps and the present relaxation does not: the sum of its terms is at least low.
type cut struct {
	terms    []Term
	low      float64
	efficacy float64 // how far the relaxation is from it, in the norm of its factors
}

// The limits of a cut that is taken.
const (
	leastEfficacy = 1e-4
	leastFraction = 0.01 // of the right side: a rounding of less gains nothing but noise
	mostSpread    = 1e6  // of the factors
	tinyFactor    = 1e-8 // relative to the largest: below, a term is replaced by its bound
	noise         = 1e-9 // below, a factor may be nothing but rounding
)

// rounder makes mixed-integer rounding cuts out of combinations of rows. On a row of the tableau these are the mixed
// integer cuts of Gomory (1960); on a row of the program, divided by one of its factors, those of Marchand and Wolsey
// (2001), with each variable counted from its nearer bound.
type rounder struct {
	*relaxation
	program  *Program
	wholeRow []bool    // its logical takes whole values only
	support  []int     // the variables of the row under work
	factor   []float64 // theirs in it, by variable
	out      []float64 // the cut under work, by column
	touched  []int     // the columns of it
	met      []bool
}

func newRounder(p *Program, r *relaxation) *rounder {
	return &rounder{relaxation: r, program: p}
}

// ready notes which logicals are whole.
func (g *rounder) ready() {
	for i := len(g.wholeRow); i < len(g.rows); i++ {
		is := isWhole(g.low[g.logical(i)]) && isWhole(g.high[g.logical(i)])
		for _, t := range g.rows[i] {
			is = is && isWhole(t.Factor) && g.program.Columns[t.Column].Whole
		}
		g.wholeRow = append(g.wholeRow, is)
	}
	g.factor = make([]float64, len(g.cost))
	if g.out == nil {
		g.out, g.met = make([]float64, g.structural), make([]bool, g.structural)
	}
}

// clear begins a new cut.
func (g *rounder) clear() {
	for _, j := range g.touched {
		g.out[j], g.met[j] = 0, false
	}
	g.touched = g.touched[:0]
}

// put adds to a factor of the cut.
func (g *rounder) put(column int, by float64) {
	if !g.met[column] {
		g.met[column] = true
		g.touched = append(g.touched, column)
	}
	g.out[column] += by
}

func isWhole(v float64) bool { return math.IsInf(v, 0) || v == math.Trunc(v) }

// integer reports whether a variable takes whole values only.
func (g *rounder) integer(v int) bool {
	if v < g.structural {
		return g.program.Columns[v].Whole
	}
	return g.wholeRow[v-g.structural]
}

// tableau makes the cuts of all rows of the tableau whose variable should be whole and is not.
func (g *rounder) tableau() (list []cut) {
	for k, v := range g.basis {
		if v >= g.structural || !g.program.Columns[v].Whole {
			continue
		}
		if f := g.value[v] - math.Floor(g.value[v]); f < leastFraction || f > 1-leastFraction {
			continue
		}
		g.support = g.support[:0]
		for j, w := range g.across(k) {
			if math.Abs(w) > 1e-11 { // what rounding left of zero is none
				g.support = append(g.support, j)
				g.factor[j] = w
			}
		}
		if c, ok := g.round(1); ok {
			list = append(list, c)
		}
	}
	return list
}

// single makes cuts of the rows of the program one by one, each divided by the factors of what is fractional in it.
func (g *rounder) single() (list []cut) {
	var divisors []float64
	for i := range g.program.Rows {
		if g.wholeRow[i] || g.slack(i) > mostSlack {
			continue
		}
		g.support = append(g.support[:0], g.logical(i))
		g.factor[g.logical(i)] = 1
		divisors = divisors[:0]
		for _, t := range g.rows[i] {
			g.support = append(g.support, t.Column)
			g.factor[t.Column] = t.Factor
			v := g.value[t.Column]
			if fraction := v - math.Floor(v); !g.program.Columns[t.Column].Whole || fraction < whole || fraction > 1-whole {
				continue
			}
			if d := math.Abs(t.Factor); len(divisors) < mostDivisors && !near(divisors, d) {
				divisors = append(divisors, d)
			}
		}
		best, found := cut{}, false
		for _, d := range divisors {
			for _, by := range [...]float64{d, 2 * d, 4 * d} {
				for _, sign := range [...]float64{1, -1} {
					if c, ok := g.round(sign / by); ok && (!found || c.efficacy > best.efficacy) {
						best, found = c, true
					}
				}
			}
		}
		if found {
			list = append(list, best)
		}
	}
	return list
}

// mostDivisors bounds how many factors of a row are tried; a row with more room than mostSlack, where its largest
// factor is 1, gives no cut that the relaxation does not keep.
const (
	mostDivisors = 8
	mostSlack    = 0.2
)

// slack is the room that a row has left on its nearer side.
func (g *rounder) slack(row int) float64 {
	v := g.logical(row)
	return min(g.value[v]-g.relaxation.low[v], g.high[v]-g.value[v])
}

func near(list []float64, v float64) bool {
	for _, w := range list {
		if math.Abs(w-v) < 1e-9 {
			return true
		}
	}
	return false
}

// round makes the cut of the equation in factor, times scale.
func (g *rounder) round(scale float64) (cut, bool) {
	right := 0.0
	for _, v := range g.support {
		at, ok := g.nearer(v)
		if !ok {
			return cut{}, false
		}
		right -= scale * g.factor[v] * at
	}
	f0 := right - math.Floor(right)
	if f0 < leastFraction || f0 > 1-leastFraction {
		return cut{}, false
	}
	g.clear()
	low := f0
	for _, v := range g.support {
		if g.relaxation.low[v] == g.high[v] {
			continue
		}
		at, _ := g.nearer(v)
		direction := 1.0
		if at != g.relaxation.low[v] {
			direction = -1
		}
		w := scale * g.factor[v] * direction
		gamma := 0.0
		if g.integer(v) && isWhole(at) {
			if f := w - math.Floor(w); f <= f0 {
				gamma = f
			} else {
				gamma = f0 * (1 - f) / (1 - f0)
			}
		} else if w > 0 {
			gamma = w
		} else {
			gamma = -w * f0 / (1 - f0)
		}
		if gamma == 0 {
			continue
		}
		low += gamma * direction * at
		if v < g.structural {
			g.put(v, gamma*direction)
			continue
		}
		for _, t := range g.rows[v-g.structural] {
			g.put(t.Column, -gamma*direction*t.Factor)
		}
	}
	return g.finish(low)
}

// nearer is the bound of a variable that its value is nearer to.
func (g *rounder) nearer(v int) (bound float64, ok bool) {
	low, high := g.relaxation.low[v], g.high[v]
	if g.free[v] || math.IsInf(low, -1) && math.IsInf(high, 1) {
		return 0, false
	}
	if math.IsInf(low, -1) || !math.IsInf(high, 1) && high-g.value[v] < g.value[v]-low {
		return high, true
	}
	return low, true
}

// finish makes a clean row of the factors in out.
func (g *rounder) finish(low float64) (cut, bool) {
	most, least := 0.0, math.Inf(1)
	for _, j := range g.touched {
		most = max(most, math.Abs(g.out[j]))
	}
	if most < noise || math.IsNaN(most) || math.IsInf(most, 0) {
		return cut{}, false
	}
	norm, activity, kept := 0.0, 0.0, 0
	for _, j := range g.touched {
		v := g.out[j]
		if math.Abs(v) < max(tinyFactor*most, noise) {
			bound := g.high[j]
			if v < 0 {
				bound = g.relaxation.low[j]
			}
			if math.IsInf(bound, 0) || g.free[j] {
				return cut{}, false
			}
			low -= v * bound
			g.out[j] = 0
			continue
		}
		least = min(least, math.Abs(v))
		norm += v * v
		activity += v * g.value[j]
		kept++
	}
	if most > mostSpread*least {
		return cut{}, false
	}
	low -= 1e-9 * max(most, math.Abs(low))
	c := cut{low: low, efficacy: (low - activity) / math.Sqrt(norm)}
	if c.efficacy <= leastEfficacy {
		return cut{}, false
	}
	slices.Sort(g.touched)
	c.terms = make([]Term, 0, kept)
	for _, j := range g.touched {
		if v := g.out[j]; v != 0 {
			c.terms = append(c.terms, Term{j, v})
		}
	}
	return c, true
}
