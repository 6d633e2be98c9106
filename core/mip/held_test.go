package mip

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// asking draws a program of binaries most of whose rows say that one asks for another, with one column a pair that
// need not be whole.
func asking(r *rand.Rand) *Program {
	p := binary(r)
	n := len(p.Columns)
	for k := range 2 * n {
		i, j := r.IntN(n), r.IntN(n)
		if i == j {
			continue
		}
		switch r.IntN(3) {
		case 0:
			p.AtMost(fmt.Sprintf("asks%d", k), 0, Term{i, 1}, Term{j, -1})
		case 1:
			p.AtLeast(fmt.Sprintf("some%d", k), 1, Term{i, 1}, Term{j, 1})
		default:
			p.AtMost(fmt.Sprintf("either%d", k), 1, Term{i, 1}, Term{j, 1})
		}
	}
	return p
}

// Programs most of whose rows are held back have the optimum of going through all points, and not all rows are needed.
func TestHeldBackRowsAreKept(t *testing.T) {
	t.Parallel()
	came, all := 0, 0
	for seed := range uint64(400) {
		p := asking(rand.New(rand.NewPCG(seed, 5)))
		best := Inf
		points(p, func(values []float64) { best = min(best, p.Cost(values)) })
		s := newSolver(p, Options{})
		status := s.run()
		if best == Inf {
			assert.Equal(t, Infeasible, status, "seed %d", seed)
			continue
		}
		require.Equal(t, Optimal, status, "seed %d", seed)
		assert.InDelta(t, best, s.cost, 1e-6, "seed %d", seed)
		assert.Empty(t, p.Broken(s.best))
		for k := range s.held.rows {
			came += asOne(s.held.in[k])
		}
		all += len(s.held.rows)
		in := 0
		for _, k := range s.held.present {
			if k >= 0 {
				assert.True(t, s.held.in[k])
				in++
			}
		}
		assert.Len(t, s.relaxation.rows, len(s.first.Rows)+s.cutsIn()+in, "seed %d", seed)
	}
	assert.Positive(t, came)
	assert.Less(t, came, all/2)
}

func asOne(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// A continuous column that only rows held back bound: the relaxation alone would put it far off.
func TestHeldBackRowsBindContinuousColumns(t *testing.T) {
	t.Parallel()
	p := &Program{}
	a, b := p.Binary("a", -3), p.Binary("b", -2)
	y := p.Add(Column{Name: "y", Cost: -1, High: Inf})
	z := p.Add(Column{Name: "z", Cost: 4, High: Inf})
	p.AtMost("y_a", 0.5, Term{y, 1}, Term{a, 2})
	p.AtLeast("z_b", 0, Term{z, 1}, Term{b, -0.75})
	p.AtMost("all", 5, Term{a, 1}, Term{b, 1}, Term{y, 1})
	s := p.Solve(Options{})
	require.Equal(t, Optimal, s.Status)
	assert.InDelta(t, -0.5, s.Objective, 1e-9, "y = 0.5 without a: with it nothing keeps y_a, and b costs more in z than it gives")
	assert.InDelta(t, 0, s.Values[a], 1e-9)
	assert.InDelta(t, 0, s.Values[b], 1e-9)
}

// The program of what is not fixed has the costs and the points of the whole one, with the rest as in the best
// solution.
func TestTheNeighbourhoodIsPartOfTheProgram(t *testing.T) {
	t.Parallel()
	checked := 0
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 6))
		p := asking(r)
		s := newSolver(p, Options{})
		points(p, func(values []float64) {
			if s.best == nil || r.IntN(3) == 0 {
				s.best = append([]float64(nil), values...)
			}
		})
		if s.best == nil {
			continue
		}
		fixed := make([]bool, len(p.Columns))
		for j := range fixed {
			fixed[j] = r.IntN(2) == 0
		}
		rest, kept := s.fixedAt(fixed)
		fixedCost := 0.0
		for j, is := range fixed {
			if is {
				fixedCost += p.Columns[j].Cost * s.best[j]
			}
		}
		n, same := 0, 0
		points(rest, func(values []float64) {
			whole := append([]float64(nil), s.best...)
			for k, j := range kept {
				whole[j] = values[k]
			}
			assert.Empty(t, p.Broken(whole), "seed %d", seed)
			assert.InDelta(t, p.Cost(whole), fixedCost+rest.Cost(values), 1e-9, "seed %d", seed)
			n++
		})
		points(p, func(values []float64) {
			for j, is := range fixed {
				if is && values[j] != s.best[j] {
					return
				}
			}
			same++
		})
		assert.Equal(t, same, n, "seed %d", seed)
		checked++
	}
	assert.Greater(t, checked, 50)
}

// A start far from the optimum is made better in its neighbourhood.
func TestTheNeighbourhoodIsSearched(t *testing.T) {
	t.Parallel()
	better := 0
	for seed := range uint64(100) {
		r := rand.New(rand.NewPCG(seed, 7))
		p := &Program{}
		var room [3][]Term
		for i := range 24 {
			row := []Term{{p.Binary(fmt.Sprintf("o%d", i), 100+float64(r.IntN(30))), 1}}
			for z := range room {
				x := p.Binary(fmt.Sprintf("x%d_%d", i, z), float64(r.IntN(20)))
				row = append(row, Term{x, 1})
				room[z] = append(room[z], Term{x, 5 + float64(r.IntN(20))})
			}
			p.Exactly(fmt.Sprintf("once%d", i), 1, row...)
		}
		for z := range room {
			p.AtMost(fmt.Sprintf("room%d", z), 80, room[z]...)
		}
		start := make([]float64, len(p.Columns))
		for j := range start {
			start[j] = float64(asOne(j%4 == 0)) // everything is left out
		}
		s := newSolver(p, Options{Nodes: 1}) // hardly more than the root
		require.True(t, s.offer(start))
		s.run()
		s.nextNear = 0
		before := s.cost
		if s.near() {
			assert.Less(t, s.cost, before)
			assert.Empty(t, p.Broken(s.best))
			better++
		}
	}
	assert.Positive(t, better)
}
