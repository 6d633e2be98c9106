package mip

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// By hand: the relaxation costs 10 and the best known 14, so a column whose reduced cost is 3 may leave its bound by
// one step, one of 5 by none, one of 2 by two; what costs next to nothing may go anywhere, also where no better
// solution than the relaxation is left to be found.
func TestReducedCostsFixColumns(t *testing.T) {
	t.Parallel()
	p := &Program{}
	for _, name := range []string{"one step", "none", "two, down", "any", "fixed"} {
		p.Add(Column{Name: name, Cost: 1, High: 6, Whole: true})
	}
	for _, c := range []struct {
		gap       float64
		low, high []float64
	}{
		{4, []float64{0, 0, 4, 0, 3}, []float64{1, 0, 6, 6, 3}},
		{9, []float64{0, 0, 2, 0, 3}, []float64{3, 1, 6, 6, 3}},
		{0, []float64{0, 0, 6, 0, 3}, []float64{0, 0, 6, 6, 3}},
	} {
		s := newSolver(p, Options{})
		s.relaxation = newRelaxation(s.first)
		s.rootValue = 10
		s.fixByRoot()
		assert.Equal(t, []float64{6, 6, 6, 6, 6}, s.root.high, "without a solution there is nothing to compare with")
		s.best, s.cost = make([]float64, 5), 10+c.gap+1e-12
		s.cost += hairOf(s.cost)
		s.rootCosts = []float64{3, 5, -2, 1e-12, 0}
		s.rootUpper = []bool{false, false, true, false, false}
		s.root.low[4], s.root.high[4] = 3, 3
		s.fixByRoot()
		assert.Equal(t, c.low, s.root.low, "gap %g", c.gap)
		assert.Equal(t, c.high, s.root.high, "gap %g", c.gap)
	}
}

// By hand: x from 0 to 9 and y without an end, x + 2 <= y; then y is at least 2, and with x at least 4 at least 6. And
// with both without an end nothing is known of either.
func TestPropagationWithoutAnEnd(t *testing.T) {
	t.Parallel()
	tightened := func(xHigh, xLow float64, sign float64) (box, bool) {
		p := &Program{}
		x := p.Add(Column{Name: "x", Low: xLow, High: xHigh, Whole: true})
		y := p.Add(Column{Name: "y", Low: -Inf, High: Inf, Whole: true})
		if sign < 0 { // the same with -y in place of y
			p.AtMost("over", -2, Term{x, 1}, Term{y, 1})
		} else {
			p.AtMost("over", -2, Term{x, 1}, Term{y, -1})
		}
		s := newSolver(p, Options{})
		s.relaxation = newRelaxation(s.first)
		return s.root, s.propagate(s.root)
	}
	for low := range 5 {
		b, ok := tightened(9, float64(low), 1)
		require.True(t, ok)
		assert.Equal(t, []float64{float64(low), float64(low + 2)}, b.low)
		assert.Equal(t, []float64{9, Inf}, b.high)
		b, ok = tightened(9, float64(low), -1)
		require.True(t, ok)
		assert.Equal(t, []float64{float64(low), -Inf}, b.low)
		assert.Equal(t, []float64{9, float64(-low - 2)}, b.high)
	}
	b, ok := tightened(9, -Inf, 1)
	require.True(t, ok)
	assert.Equal(t, []float64{-Inf, -Inf}, b.low, "neither has an end on the side that the other could lean on")
	assert.Equal(t, []float64{9, Inf}, b.high)
}

// The bound at which a variable outside the basis stands: where its reduced cost wants it, else where it was; and what
// has no bound at all stands at nought.
func TestWhereAVariableStands(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		low, high, reduced float64
		upper              bool
		want               float64
	}{
		{1, 7, 2, true, 1},
		{1, 7, -2, false, 7},
		{1, 7, 0, true, 7},
		{1, 7, 0, false, 1},
		{1, Inf, 0, true, 1},
		{-Inf, 7, 0, false, 7},
		{-Inf, 7, 2, false, 7},
		{-Inf, Inf, 0, true, 0},
	} {
		r := newRelaxation(&Program{Columns: []Column{{Name: "x", Low: c.low, High: c.high}}})
		r.reduced[0], r.upper[0], r.value[0] = c.reduced, c.upper, math.NaN()
		r.atBound(0)
		assert.InDelta(t, c.want, r.value[0], 0, "%+v", c)
	}
}

// Where no value is fractional but the relaxation was not solved, a column that is not fixed is branched on, and none
// where all are.
func TestBranchingOnWhatIsWhole(t *testing.T) {
	t.Parallel()
	p := &Program{}
	for _, name := range []string{"a", "b", "c"} {
		p.Binary(name, 1)
	}
	s := newSolver(p, Options{})
	s.relaxation = newRelaxation(s.first)
	s.relaxation.bound(0, 1, 1)
	s.relaxation.bound(2, 0, 0)
	column, down, up := s.branchOn(5)
	assert.Equal(t, 1, column)
	assert.Equal(t, []float64{5, 5}, []float64{down, up})
	s.relaxation.bound(1, 0, 0)
	column, _, _ = s.branchOn(5)
	assert.Equal(t, -1, column)
}
