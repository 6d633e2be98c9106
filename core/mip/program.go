// Package mip solves small mixed-integer programs exactly: least cost under linear rows, with some columns whole.
//
// It is a branch-and-cut solver in the usual sense (Nemhauser and Wolsey, Integer and Combinatorial Optimization,
// 1988; Achterberg, Constraint Integer Programming, 2007). The linear relaxation is solved by the bounded dual
// simplex method with dual steepest edge and bound flipping (simplex.go, pivot.go), warm from the last basis. The
// root is tightened by lifted cover and mixed-integer rounding cuts (cover.go, rounding.go) and by reduced costs;
// the tree branches on the column that promises most by its pseudo-costs (branch.go, tree.go) after its bounds were
// propagated through the rows (propagate.go) and through what closed branches have taught (proof.go). Everything
// is deterministic: there is no clock in it but the caller's Stop, and no randomness.
//
// It is made for some hundred rows and some thousand columns. It knows nothing of packs: three programs stand on it,
// the zones of package load, the bags of package dry, and the moves of package shrink.
package mip

import (
	"fmt"
	"math"
)

// Inf is the bound of a side that has none.
var Inf = math.Inf(1)

// Column is one unknown.
type Column struct {
	Name      string // for WriteLP
	Cost      float64
	Low, High float64 // -Inf and Inf for none
	Whole     bool    // takes integer values only
}

// Term is a column with its factor in a row.
type Term struct {
	Column int
	Factor float64
}

// Row asks for Low <= sum of its terms <= High; either side may be infinite.
type Row struct {
	Name      string
	Low, High float64
	Terms     []Term
}

// Program is what to solve: the least sum of cost times value. The zero Program has nothing in it and is solved by
// nothing at cost 0.
type Program struct {
	Title   []string // comment lines of WriteLP
	Columns []Column
	Rows    []Row
}

// Add adds a column and gives its index.
func (p *Program) Add(c Column) int {
	p.Columns = append(p.Columns, c)
	return len(p.Columns) - 1
}

// Binary adds a column that is 0 or 1.
func (p *Program) Binary(name string, cost float64) int {
	return p.Add(Column{Name: name, Cost: cost, High: 1, Whole: true})
}

// AtMost asks for a sum of at most high.
func (p *Program) AtMost(name string, high float64, terms ...Term) {
	p.Rows = append(p.Rows, Row{Name: name, Low: -Inf, High: high, Terms: terms})
}

// AtLeast asks for a sum of at least low.
func (p *Program) AtLeast(name string, low float64, terms ...Term) {
	p.Rows = append(p.Rows, Row{Name: name, Low: low, High: Inf, Terms: terms})
}

// Exactly asks for a sum of just so much.
func (p *Program) Exactly(name string, sum float64, terms ...Term) {
	p.Rows = append(p.Rows, Row{Name: name, Low: sum, High: sum, Terms: terms})
}

// Cost is the objective at the given values.
func (p *Program) Cost(values []float64) (sum float64) {
	for i := range p.Columns {
		sum += p.Columns[i].Cost * values[i]
	}
	return sum
}

// The tolerances. A row is kept within feasible times its largest term, a column is whole within whole.
const (
	feasible = 1e-7
	whole    = 1e-6
)

// Broken names the first column or row that the values do not keep, "" when all are kept.
func (p *Program) Broken(values []float64) string {
	for i := range p.Columns {
		c, v := &p.Columns[i], values[i]
		switch {
		case math.IsNaN(v), v < c.Low-feasible*(1+math.Abs(c.Low)), v > c.High+feasible*(1+math.Abs(c.High)):
			return fmt.Sprintf("%s = %v is not between %v and %v", c.Name, v, c.Low, c.High)
		case c.Whole && math.Abs(v-math.Round(v)) > whole:
			return fmt.Sprintf("%s = %v is not whole", c.Name, v)
		}
	}
	for i := range p.Rows {
		r := &p.Rows[i]
		sum, size := 0.0, 1.0
		for _, t := range r.Terms {
			sum += t.Factor * values[t.Column]
			size = max(size, math.Abs(t.Factor*values[t.Column]))
		}
		if sum < r.Low-feasible*size || sum > r.High+feasible*size {
			return fmt.Sprintf("%s: %v is not between %v and %v", r.Name, sum, r.Low, r.High)
		}
	}
	return ""
}

// trouble names what is wrong with the program itself, "" for nothing.
func (p *Program) trouble() string {
	bad := func(v float64) bool { return math.IsNaN(v) || math.IsInf(v, 0) }
	for i := range p.Columns {
		c := &p.Columns[i]
		switch {
		case bad(c.Cost):
			return fmt.Sprintf("the cost of column %s is not a number", c.Name)
		case math.IsNaN(c.Low), math.IsNaN(c.High), math.IsInf(c.Low, 1), math.IsInf(c.High, -1):
			return fmt.Sprintf("the bounds of column %s are not numbers", c.Name)
		}
	}
	for i := range p.Rows {
		r := &p.Rows[i]
		if math.IsNaN(r.Low) || math.IsNaN(r.High) || math.IsInf(r.Low, 1) || math.IsInf(r.High, -1) {
			return fmt.Sprintf("the bounds of row %s are not numbers", r.Name)
		}
		for _, t := range r.Terms {
			if bad(t.Factor) {
				return fmt.Sprintf("a factor of row %s is not a number", r.Name)
			}
			if t.Column < 0 || t.Column >= len(p.Columns) {
				return fmt.Sprintf("row %s names column %d of %d", r.Name, t.Column, len(p.Columns))
			}
		}
	}
	return ""
}
