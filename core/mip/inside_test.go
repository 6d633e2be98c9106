package mip

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// binary draws a program of up to eleven binaries, all of whose points can be gone through.
func binary(r *rand.Rand) *Program {
	p := &Program{}
	n := 3 + r.IntN(9)
	for j := range n {
		p.Binary(fmt.Sprintf("x%d", j), float64(r.IntN(41)-25))
	}
	for i := range 1 + r.IntN(5) {
		row := Row{Name: fmt.Sprintf("r%d", i), Low: -Inf, High: Inf}
		sum := 0.0
		for j := range n {
			if r.IntN(4) > 0 {
				f := float64(1+r.IntN(30)) - 8*float64(r.IntN(2))
				row.Terms = append(row.Terms, Term{j, f})
				sum += max(0, f)
			}
		}
		if row.High = math.Floor(sum * (0.3 + 0.4*r.Float64())); r.IntN(4) == 0 {
			row.Low = row.High - math.Floor(sum*0.5)
		}
		p.Rows = append(p.Rows, row)
	}
	return p
}

// points visits all points of a program of binaries that keep its rows.
func points(p *Program, visit func(values []float64)) {
	n := len(p.Columns)
	values := make([]float64, n)
	for bits := range 1 << n {
		for j := range n {
			values[j] = float64(bits >> j & 1)
		}
		if p.Broken(values) == "" {
			visit(values)
		}
	}
}

// The optimum of small programs is that of going through all their points.
func TestAgainstAllPoints(t *testing.T) {
	t.Parallel()
	for seed := range uint64(400) {
		p := binary(rand.New(rand.NewPCG(seed, 1)))
		best := Inf
		points(p, func(values []float64) { best = min(best, p.Cost(values)) })
		s := p.Solve(Options{})
		if math.IsInf(best, 1) {
			assert.Equal(t, Infeasible, s.Status, "seed %d", seed)
			continue
		}
		assert.Equal(t, Optimal, s.Status, "seed %d", seed)
		assert.InDelta(t, best, s.Objective, 1e-6, "seed %d", seed)
	}
}

// No cut of any kind takes away a point that keeps the rows, and each takes away the relaxation it was made for.
func TestCutsKeepEveryPoint(t *testing.T) {
	t.Parallel()
	made := map[string]int{}
	for seed := range uint64(400) {
		p := binary(rand.New(rand.NewPCG(seed, 2)))
		r := newRelaxation(p)
		for j := range p.Columns {
			r.bound(j, 0, 1)
		}
		if r.solve(Inf, 1000, nil) != optimal {
			continue
		}
		g := newRounder(p, r)
		g.ready()
		for kind, list := range map[string][]cut{"cover": g.covers(), "row": g.single(), "tableau": g.tableau()} {
			made[kind] += len(list)
			for _, c := range list {
				activity := func(values []float64) (sum float64) {
					for _, term := range c.terms {
						sum += term.Factor * values[term.Column]
					}
					return sum
				}
				assert.Less(t, activity(r.value), c.low, "seed %d, %s", seed, kind)
				points(p, func(values []float64) {
					assert.GreaterOrEqual(t, activity(values), c.low-1e-6, "seed %d, %s cut away %v", seed, kind, values)
				})
			}
		}
	}
	for _, kind := range []string{"cover", "row", "tableau"} {
		assert.Greater(t, made[kind], 40, kind)
	}
}

// Tightened bounds leave every point that keeps the rows where it was.
func TestPropagationKeepsEveryPoint(t *testing.T) {
	t.Parallel()
	tightened := 0
	for seed := range uint64(400) {
		p := binary(rand.New(rand.NewPCG(seed, 3)))
		b := newBox(len(p.Columns))
		for j := range b.high {
			b.high[j] = 1
		}
		s := newSolver(p, Options{})
		s.relaxation = newRelaxation(s.first)
		ok := s.propagate(b)
		points(p, func(values []float64) {
			require.True(t, ok, "seed %d", seed)
			for j, v := range values {
				require.True(t, v >= b.low[j] && v <= b.high[j], "seed %d, column %d", seed, j)
			}
		})
		for j := range b.high {
			if b.low[j] == b.high[j] {
				tightened++
			}
		}
	}
	assert.Positive(t, tightened)
}

// After bounds were moved to and fro, rows added and rows dropped, the basis still solves its rows, and a relaxation
// made anew comes to the same cost.
func TestABasisStaysTrue(t *testing.T) {
	t.Parallel()
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 4))
		p := binary(r)
		warm := newRelaxation(p)
		for range 30 {
			j := r.IntN(len(p.Columns))
			low := float64(r.IntN(2))
			warm.bound(j, low*float64(r.IntN(2)), max(low, float64(r.IntN(2))))
			solvesAsAnew(t, p, warm, seed)
		}
	}
}

// solvesAsAnew solves a relaxation on from where it is and compares its end with one made anew for the same bounds.
func solvesAsAnew(t *testing.T, p *Program, warm *relaxation, seed uint64) {
	t.Helper()
	got := warm.solve(Inf, 1000, nil)
	cold := newRelaxation(p)
	for k := range p.Columns {
		cold.bound(k, warm.low[k], warm.high[k])
	}
	require.Equal(t, cold.solve(Inf, 1000, nil), got, "seed %d", seed)
	if got == optimal {
		assert.InDelta(t, cold.objective(), warm.objective(), 1e-6, "seed %d", seed)
		assert.Less(t, warm.wrong(), 1e-7)
	}
}

// A bound that a node gave to a column without one goes again at the next node: a basis that stood on it is of no use.
func TestBoundsThatGo(t *testing.T) {
	t.Parallel()
	begun := 0
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 8))
		p := binary(r)
		var open []int
		for k := range 3 {
			open = append(open, p.Add(Column{Name: fmt.Sprintf("u%d", k), Cost: float64(k), High: Inf}))
		}
		for i := range p.Rows {
			for _, j := range open {
				p.Rows[i].Terms = append(p.Rows[i].Terms, Term{j, float64(r.IntN(7) - 3)})
			}
		}
		warm := newRelaxation(p)
		for range 20 {
			for _, j := range open {
				warm.bound(j, 0, []float64{Inf, float64(r.IntN(4))}[r.IntN(2)])
			}
			warm.bound(r.IntN(open[0]), 0, float64(r.IntN(2)))
			warm.follow()
			if !warm.dualFeasible() {
				begun++
			}
			solvesAsAnew(t, p, warm, seed)
		}
	}
	assert.Greater(t, begun, 50)
}

// Rows learnt where a branch is closed are kept by every solution that is better than the best known then.
func TestWhatIsLearntHoldsEverywhere(t *testing.T) {
	t.Parallel()
	learnt := map[bool]int{}
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 9))
		p := asking(r)
		s := newSolver(p, Options{})
		if s.run() != Optimal {
			continue
		}
		for range 10 {
			for j := range p.Columns {
				low := float64(r.IntN(2))
				s.relaxation.bound(j, low*float64(r.IntN(2)), max(low, float64(r.IntN(2))))
			}
			if got := s.relaxation.solve(s.cutoff(), 1000, nil); got == infeasible || got == above {
				s.learn(got)
			}
		}
		for _, l := range s.limits[len(s.limits)-s.learnt:] {
			learnt[l.cutoff]++
			points(p, func(values []float64) {
				sum, most := 0.0, l.most
				for _, term := range l.terms {
					sum += term.factor * values[term.column]
				}
				if l.cutoff {
					most += p.Cost(values) // with this cost as the one to be better than
				}
				assert.LessOrEqual(t, sum, most+1e-6, "seed %d", seed)
			})
		}
	}
	assert.Greater(t, learnt[true], 20, "because it costs too much")
	assert.Greater(t, learnt[false], 20, "because it does not go")
}

// The format outside solvers read, to the letter: every relation, both kinds of whole columns, free and fixed ones.
func TestWriteLP(t *testing.T) {
	t.Parallel()
	p := &Program{Title: []string{"all there is"}}
	a := p.Binary("a", 1.5)
	b := p.Add(Column{Name: "b", Cost: -2, Low: -3, High: 7, Whole: true})
	c := p.Add(Column{Name: "c", Low: -Inf, High: Inf})
	d := p.Add(Column{Name: "d", Cost: 0.1, Low: 4, High: 4})
	e := p.Add(Column{Name: "e", Cost: 1e-7, High: Inf})
	p.AtMost("most", 9, Term{a, 1}, Term{b, -2})
	p.AtLeast("least", 1, Term{c, 1}, Term{c, 1}, Term{d, 0})
	p.Exactly("same", 2, Term{d, 1}, Term{e, 1})
	p.Rows = append(p.Rows, Row{Name: "both", Low: -1, High: 5, Terms: []Term{{a, 3}}},
		Row{Name: "none", Low: -Inf, High: 3}, Row{Name: "free", Low: -Inf, High: Inf, Terms: []Term{{a, 1}}})
	var out strings.Builder
	require.NoError(t, p.WriteLP(&out))
	assert.Equal(t, `\ all there is
Minimize
 cost: + 1.5 a - 2 b + 0.1 d + 0.0000001 e
Subject To
 most: + 1 a - 2 b <= 9
 least: + 2 c >= 1
 same: + 1 d + 1 e = 2
 both_low: + 3 a >= -1
 both_high: + 3 a <= 5
 none: 0 none <= 3
Bounds
 none = 0
 -3 <= b <= 7
 c free
 d = 4
General
 b
Binary
 a
End
`, out.String())
	out.Reset()
	require.NoError(t, (&Program{}).WriteLP(&out))
	assert.Contains(t, out.String(), "idle: 0 none <= 0")
}

func TestBrokenNamesThePlace(t *testing.T) {
	t.Parallel()
	p := &Program{}
	a := p.Binary("a", 1)
	p.AtMost("room", 0.5, Term{a, 1})
	assert.Empty(t, p.Broken([]float64{0}))
	assert.Contains(t, p.Broken([]float64{1}), "room")
	assert.Contains(t, p.Broken([]float64{0.4}), "a = 0.4 is not whole")
	assert.Contains(t, p.Broken([]float64{2}), "not between")
	assert.Contains(t, p.Broken([]float64{math.NaN()}), "not between")
}

// Both branches have less of a column than their parent, wherever its value lies: a branch that had all of it would
// be its own parent. One did, of a column at its lower bound, until the tree of a kit of thirteen things filled the
// memory.
func TestBranchesAreLessThanTheirParent(t *testing.T) {
	for low := -3.0; low <= 3; low++ {
		for high := low + 1; high <= low+4; high++ {
			for value := low; value <= high; value += 0.125 {
				for _, off := range []float64{0, whole / 2, -whole / 2} {
					at := below(value+off, low)
					assert.GreaterOrEqual(t, at, low, "%g in %g to %g: the lower branch is empty", value+off, low, high)
					assert.Less(t, at, high, "%g in %g to %g: the lower branch is its parent", value+off, low, high)
					assert.Greater(t, at+1, low, "%g in %g to %g: the upper branch is its parent", value+off, low, high)
					assert.LessOrEqual(t, at+1, high, "%g in %g to %g: the upper branch is empty", value+off, low, high)
				}
			}
		}
	}
}
