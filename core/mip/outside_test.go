package mip_test

import (
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"runtime"
	"strconv"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/mip"
	"tornister/internal/outside"
	"tornister/internal/sample"
)

// many is how many programs of each kind are compared: a few in every run, TORNISTER_PROGRAMS of them in a campaign.
func many() uint64 {
	if n, err := strconv.ParseUint(os.Getenv("TORNISTER_PROGRAMS"), 10, 32); err == nil {
		return n
	}
	if sample.Small() {
		return 8
	}
	return 40
}

// zones draws an assignment of things to zones: capacities, litres too many at a price, and one side heavier.
func zones(r *rand.Rand) *mip.Program {
	p := &mip.Program{}
	things, zones := 3+r.IntN(14), 2+r.IntN(5)
	tight, loose := make([][]mip.Term, zones), make([][]mip.Term, zones)
	var sides [2][]mip.Term
	for i := range things {
		left := p.Binary(fmt.Sprintf("o_%d", i), 5000+float64(r.IntN(400)))
		once := []mip.Term{{Column: left, Factor: 1}}
		litres := 0.1 + r.Float64()*3
		for z := range zones {
			if r.IntN(4) == 0 {
				continue
			}
			x := p.Binary(fmt.Sprintf("x_%d_%d", i, z), r.Float64()*80)
			once = append(once, mip.Term{Column: x, Factor: 1})
			tight[z] = append(tight[z], mip.Term{Column: x, Factor: litres})
			loose[z] = append(loose[z], mip.Term{Column: x, Factor: litres * 1.4})
			moment := litres * float64(z%3-1)
			sides[0] = append(sides[0], mip.Term{Column: x, Factor: moment})
			sides[1] = append(sides[1], mip.Term{Column: x, Factor: -moment})
		}
		p.Exactly(fmt.Sprintf("once_%d", i), 1, once...)
	}
	for z := range zones {
		capacity := 1 + r.Float64()*8
		p.AtMost(fmt.Sprintf("tight_%d", z), capacity, tight[z]...)
		s := p.Add(mip.Column{Name: fmt.Sprintf("s_%d", z), Cost: 8, High: mip.Inf})
		p.AtMost(fmt.Sprintf("loose_%d", z), capacity, append(loose[z], mip.Term{Column: s, Factor: -1})...)
	}
	m := p.Add(mip.Column{Name: "m", Cost: 10, High: mip.Inf})
	for k, name := range []string{"right", "left"} {
		p.AtMost(name, 0, append(sides[k], mip.Term{Column: m, Factor: -1})...)
	}
	return p
}

// bags draws a choice of bags: as few as protect most.
func bags(r *rand.Rand) *mip.Program {
	p := &mip.Program{}
	things, bags := 2+r.IntN(9), 1+r.IntN(4)
	full := make([][]mip.Term, bags)
	var used []int
	for b := range bags {
		used = append(used, p.Binary(fmt.Sprintf("y_%d", b), 1+float64(20+r.IntN(100))*1e-4))
	}
	for i := range things {
		one := []mip.Term{{Column: p.Binary(fmt.Sprintf("u_%d", i), 100), Factor: 1}}
		litres := 0.1 + float64(r.IntN(400))/100
		for b := range bags {
			x := p.Binary(fmt.Sprintf("x_%d_%d", i, b), 0)
			one = append(one, mip.Term{Column: x, Factor: 1})
			full[b] = append(full[b], mip.Term{Column: x, Factor: litres})
		}
		p.Exactly(fmt.Sprintf("one_%d", i), 1, one...)
	}
	for b := range bags {
		p.AtMost(fmt.Sprintf("full_%d", b), 0,
			append(full[b], mip.Term{Column: used[b], Factor: -0.85 * float64(2+r.IntN(12))})...)
	}
	return p
}

// moves draws a choice of moves that save enough litres, one a thing; some have no solution.
func moves(r *rand.Rand) *mip.Program {
	p := &mip.Program{}
	n := 1 + r.IntN(60)
	var room []mip.Term
	one := make([][]mip.Term, n/2+1)
	total := 0.0
	for i := range n {
		litres := float64(r.IntN(300)) / 100
		m := p.Binary(fmt.Sprintf("m%d", i), float64(1+r.IntN(80))/10-1e-7*float64(r.IntN(900)))
		room = append(room, mip.Term{Column: m, Factor: litres})
		thing := r.IntN(len(one))
		one[thing] = append(one[thing], mip.Term{Column: m, Factor: 1})
		total += litres
	}
	p.AtLeast("room", total*r.Float64()*0.8, room...)
	for i, terms := range one {
		p.AtMost(fmt.Sprintf("one_%d", i), 1, terms...)
	}
	return p
}

// The three kinds of programs that the core makes, and general ones: the same optimum as GLPK's glpsol and COIN-OR's
// cbc, two independent solvers, or no solution where they find none.
func TestAgainstOutsideSolvers(t *testing.T) {
	t.Parallel()
	kinds := map[string]func(*rand.Rand) *mip.Program{"zones": zones, "bags": bags, "moves": moves, "general": general}
	type question struct {
		kind string
		seed uint64
	}
	questions := make(chan question)
	var wait sync.WaitGroup
	for range runtime.NumCPU() {
		folder := t.TempDir()
		wait.Go(func() {
			for q := range questions {
				p := kinds[q.kind](rand.New(rand.NewPCG(q.seed, 71)))
				s := p.Solve(mip.Options{})
				for name, solver := range map[string]outside.Solver{"glpsol": outside.Glpsol, "cbc": outside.Cbc} {
					agree(t, p, &s, fmt.Sprintf("%s %d, %s", q.kind, q.seed, name), folder, solver)
				}
			}
		})
	}
	for kind := range kinds {
		for seed := range many() {
			questions <- question{kind, seed}
		}
	}
	close(questions)
	wait.Wait()
}

func agree(t *testing.T, p *mip.Program, s *mip.Solution, name, folder string, solver outside.Solver) {
	want, err := solver(folder, func(w io.Writer) error { return p.WriteLP(w) })
	switch {
	case errors.Is(err, outside.ErrUnended):
		return
	case errors.Is(err, outside.ErrInfeasible):
		assert.Equal(t, mip.Infeasible, s.Status, "%s: %s", name, s)
		return
	}
	if !assert.NoError(t, err, name) {
		return
	}
	assert.Equal(t, mip.Optimal, s.Status, "%s: %s", name, s)
	hair := 2e-6 * (1 + max(want, -want))
	assert.LessOrEqual(t, s.Objective, want+hair, "%s: %s", name, s)
	assert.Empty(t, p.Broken(s.Values), name)
	assert.InDelta(t, p.Cost(s.Values), s.Objective, 1e-3*hair, name)
	if s.Objective < want-hair { // then these values, which keep every row, prove the other solver wrong
		t.Logf("%s says %v, but %v costs less: %v", name, want, s.Objective, s.Values)
	}
}
