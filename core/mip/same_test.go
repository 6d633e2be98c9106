package mip_test

import (
	"fmt"
	"math/rand/v2"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/mip"
)

// shared draws things for some knapsacks of which each takes a part, with a price for what is left out, for room beyond
// a soft limit and for classes that come together.
func shared(r *rand.Rand, things, sacks int) *mip.Program {
	p := &mip.Program{}
	rooms := make([][]mip.Term, sacks)
	soft := make([][]mip.Term, sacks)
	total := 0.0
	for z := range sacks {
		soft[z] = []mip.Term{{Column: p.Add(mip.Column{Name: fmt.Sprintf("s_%d", z), Cost: 8, High: 20}), Factor: -1}}
	}
	out := []mip.Term{{Column: p.Add(mip.Column{Name: "out", High: float64(things), Whole: true}), Factor: -1}}
	for i := range things {
		litres := float64(20+r.IntN(300)) / 70
		total += litres
		left := p.Binary(fmt.Sprintf("o_%d", i), float64(500+100*r.IntN(3))+litres)
		once := []mip.Term{{Column: left, Factor: 1}}
		out = append(out, mip.Term{Column: left, Factor: 1})
		for z := range sacks {
			if r.IntN(4) == 0 {
				continue
			}
			x := p.Binary(fmt.Sprintf("x_%d_%d", i, z), float64(1+r.IntN(90)))
			once = append(once, mip.Term{Column: x, Factor: 1})
			rooms[z] = append(rooms[z], mip.Term{Column: x, Factor: litres})
			soft[z] = append(soft[z], mip.Term{Column: x, Factor: 1.5 * litres})
		}
		p.Exactly(fmt.Sprintf("once_%d", i), 1, once...)
	}
	for z := range sacks {
		room := total / float64(sacks) * (0.8 + r.Float64()/3)
		p.AtMost(fmt.Sprintf("tight_%d", z), room, rooms[z]...)
		p.AtMost(fmt.Sprintf("loose_%d", z), room, soft[z]...)
		fuel := p.Binary(fmt.Sprintf("fuel_%d", z), 0)
		both := p.Add(mip.Column{Name: fmt.Sprintf("both_%d", z), Cost: 50, High: 1})
		for k, t := range rooms[z] {
			if k%5 == 0 {
				p.AtMost(fmt.Sprintf("fuel_%d_%d", k, z), 0, mip.Term{Column: t.Column, Factor: 1}, mip.Term{Column: fuel, Factor: -1})
			}
			if k%7 == 3 {
				p.AtMost(fmt.Sprintf("food_%d_%d", k, z), 1, mip.Term{Column: t.Column, Factor: 1},
					mip.Term{Column: fuel, Factor: 1}, mip.Term{Column: both, Factor: -1})
			}
		}
	}
	p.Exactly("left_out", 0, out...)
	return p
}

// How a search goes, to the pivot. There is no chance in it: who changes how it branches, cuts, propagates or stops
// sees here that it goes another way, looks whether that is the better one (BenchmarkAssignment in core/load), and
// writes the new figures down. Processors that multiply and add in one step round otherwise.
func TestASearchGoesTheSameWay(t *testing.T) {
	t.Parallel()
	if runtime.GOARCH != "amd64" {
		t.Skip("figures of amd64")
	}
	for seed, want := range []string{
		"feasible: 1427.9956526542085, bound 1374.3885794587623, 1359 nodes, 10548 pivots, 23 cuts",
		"optimal: 2181.6140029608423, bound 2181.6140029608423, 5 nodes, 559 pivots, 22 cuts",
		"optimal: 1386.4132539749219, bound 1386.4132539749219, 87 nodes, 2552 pivots, 19 cuts",
		"optimal: 1456.5139171934056, bound 1456.5139171934056, 127 nodes, 3169 pivots, 21 cuts",
		"optimal: 1584.61028076196, bound 1584.61028076196, 1 nodes, 67 pivots, 19 cuts",
		"optimal: 1336.321011375462, bound 1336.321011375462, 3 nodes, 415 pivots, 21 cuts",
		"optimal: 1240.3477518321793, bound 1240.3477518321793, 0 nodes, 76 pivots, 16 cuts",
		"feasible: 1417.1269927588253, bound 1393.0838863679257, 1526 nodes, 10372 pivots, 20 cuts",
		"optimal: 1352.68722653914, bound 1352.68722653914, 481 nodes, 5073 pivots, 16 cuts",
		"optimal: 795.1274921130114, bound 795.1274921130114, 7 nodes, 1233 pivots, 17 cuts",
	} {
		p := shared(rand.New(rand.NewPCG(uint64(seed), 3)), 22, 4)
		assert.Equal(t, want, p.Solve(mip.Options{Work: 60_000_000}).String(), "program %d", seed)
	}
}
