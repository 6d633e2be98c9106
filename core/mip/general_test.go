package mip_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/mip"
)

// general draws a program with binaries, whole and continuous columns, rows of every relation and free columns.
func general(r *rand.Rand) *mip.Program {
	p := &mip.Program{}
	columns, rows := 2+r.IntN(25), 1+r.IntN(15)
	for j := range columns {
		c := mip.Column{Name: fmt.Sprintf("x%d", j), Cost: float64(r.IntN(41) - 20)}
		switch r.IntN(5) {
		case 0:
			c.High = 1 + float64(r.IntN(40))/4
		case 1:
			c.Low, c.High, c.Whole = float64(-r.IntN(5)), float64(1+r.IntN(9)), true
		case 2:
			c.Cost, c.High = max(0, c.Cost), mip.Inf
		default:
			c.High, c.Whole = 1, true
		}
		if r.IntN(30) == 0 {
			c.Cost, c.Low, c.High, c.Whole = 0, -mip.Inf, mip.Inf, false
		}
		p.Add(c)
	}
	for i := range rows {
		row := mip.Row{Name: fmt.Sprintf("r%d", i), Low: -mip.Inf, High: mip.Inf}
		for j := range columns {
			if r.IntN(3) > 0 {
				continue
			}
			row.Terms = append(row.Terms, mip.Term{Column: j, Factor: float64(r.IntN(61)-20) / float64(1+r.IntN(3))})
		}
		limit := float64(r.IntN(80) - 10)
		switch r.IntN(6) {
		case 0:
			row.Low, row.Terms = float64(r.IntN(10)-4), append(row.Terms, mip.Term{Column: r.IntN(columns), Factor: 1})
		case 1:
			row.Low, row.High = -limit-20, limit+20
			if row.Low > row.High {
				row.Low, row.High = row.High, row.Low
			}
		default:
			row.High = limit
		}
		p.Rows = append(p.Rows, row)
	}
	return p
}

// Programs that have none, or no least, solution, and those in which everything is alike.
func TestEnds(t *testing.T) {
	t.Parallel()
	empty := (&mip.Program{}).Solve(mip.Options{})
	assert.Equal(t, mip.Optimal, empty.Status)
	assert.Zero(t, empty.Objective)

	none := &mip.Program{}
	x := none.Binary("x", 1)
	none.AtLeast("both", 2, mip.Term{Column: x, Factor: 1})
	assert.Equal(t, mip.Infeasible, none.Solve(mip.Options{}).Status)
	crossed := &mip.Program{Columns: []mip.Column{{Name: "x", Low: 2, High: 1}}}
	assert.Equal(t, mip.Infeasible, crossed.Solve(mip.Options{}).Status)
	between := &mip.Program{Columns: []mip.Column{{Name: "x", Low: 0.2, High: 0.8, Whole: true}}}
	assert.Equal(t, mip.Infeasible, between.Solve(mip.Options{}).Status)

	endless := &mip.Program{}
	y := endless.Add(mip.Column{Name: "y", Cost: -1, High: mip.Inf})
	endless.AtLeast("some", 1, mip.Term{Column: y, Factor: 1})
	assert.Equal(t, mip.Unbounded, endless.Solve(mip.Options{}).Status)

	wrong := &mip.Program{Columns: []mip.Column{{Name: "x", Cost: math.NaN()}}}
	s := wrong.Solve(mip.Options{})
	assert.Equal(t, mip.Wrong, s.Status)
	assert.Contains(t, s.Why, "column x")
	wrong = &mip.Program{Rows: []mip.Row{{Name: "r", Terms: []mip.Term{{Column: 3, Factor: 1}}}}}
	assert.Contains(t, wrong.Solve(mip.Options{}).Why, "column 3 of 0")
}

// A hundred and twenty things of one size and price for twelve zones of room for ten each: any full assignment is
// best, and no pivoting in a circle. With room for one less in one zone, one thing is left over.
func TestAllAlike(t *testing.T) {
	t.Parallel()
	for _, short := range []float64{0, 1} {
		p := &mip.Program{}
		room := make([][]mip.Term, 12)
		for i := range 120 {
			once := []mip.Term{{Column: p.Binary(fmt.Sprintf("o_%d", i), 1000), Factor: 1}}
			for z := range room {
				x := p.Binary(fmt.Sprintf("x_%d_%d", i, z), 1)
				once = append(once, mip.Term{Column: x, Factor: 1})
				room[z] = append(room[z], mip.Term{Column: x, Factor: 1})
			}
			p.Exactly(fmt.Sprintf("once_%d", i), 1, once...)
		}
		for z := range room {
			limit := 10.0
			if z == 0 {
				limit -= short
			}
			p.AtMost(fmt.Sprintf("room_%d", z), limit, room[z]...)
		}
		s := p.Solve(mip.Options{Nodes: 50})
		assert.Equal(t, mip.Optimal, s.Status, s.String())
		assert.InDelta(t, 120+999*short, s.Objective, 1e-6)
	}
}

// Costs from a millionth to a million: the cheap ones still decide where the dear ones are alike.
func TestCostsOverTwelveOrders(t *testing.T) {
	t.Parallel()
	p := &mip.Program{}
	var dear, cheap []mip.Term
	for i := range 8 {
		dear = append(dear, mip.Term{Column: p.Binary(fmt.Sprintf("d%d", i), 1e6), Factor: 1})
		cheap = append(cheap, mip.Term{Column: p.Binary(fmt.Sprintf("c%d", i), float64(i+1)*1e-2), Factor: float64(i + 1)})
	}
	p.AtLeast("dear", 3, dear...)
	p.AtLeast("cheap", 9.5, cheap...)
	s := p.Solve(mip.Options{})
	assert.Equal(t, mip.Optimal, s.Status)
	assert.InDelta(t, 3e6+0.10, s.Objective, 1e-2, "three dear ones, and ten for a tenth")
	assert.Empty(t, p.Broken(s.Values))
}

// A search that is ended has a solution and a bound on either side of the optimum; one that may do nothing has a
// bound.
func TestBudgets(t *testing.T) {
	t.Parallel()
	for seed := range uint64(60) {
		p := zones(rand.New(rand.NewPCG(seed, 71)))
		best := p.Solve(mip.Options{})
		for _, o := range []mip.Options{{Nodes: 1}, {Work: 300}, {Stop: func() bool { return true }},
			{Nodes: 2, Start: best.Values}} {
			s := p.Solve(o)
			assert.LessOrEqual(t, s.Bound, best.Objective+1e-6*(1+best.Objective), "seed %d %s", seed, s)
			assert.GreaterOrEqual(t, s.Objective, best.Objective-1e-6*(1+best.Objective), "seed %d %s", seed, s)
		}
	}
}

// The smallest knapsack whose relaxation is fractional, by hand: of 3, 3 and 3 at most 5 go in, so one.
func ExampleProgram_Solve() {
	p := &mip.Program{}
	a, b, c := p.Binary("a", -4), p.Binary("b", -5), p.Binary("c", -3)
	p.AtMost("room", 5, mip.Term{Column: a, Factor: 3}, mip.Term{Column: b, Factor: 3}, mip.Term{Column: c, Factor: 3})
	s := p.Solve(mip.Options{})
	fmt.Println(s.Status, s.Objective, s.Values)
	// Output: optimal -5 [0 1 0]
}
