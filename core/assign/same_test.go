package assign

import (
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/trail"
)

// some are things of the table, drawn from a seed, for a pack that is about large enough for forty.
func some(seed uint64, n int) *job.Task {
	r := rand.New(rand.NewPCG(seed, 11))
	task := &job.Task{Pack: pockets(), Method: method.Method{Heavy: "close", Outside: "foam"}, Trip: trail.Trip{Rain: 0.3}}
	for len(task.Items) < n {
		k := kit.Kinds[r.IntN(len(kit.Kinds))]
		if k.Shape.Litres(1) < 8 {
			task.Items = append(task.Items, kit.Item{ID: fmt.Sprintf("%s-%d", k.ID, len(task.Items)), Kind: k.ID, Group: k.Group,
				Count: 1, MassG: k.MassG, Shape: k.Shape, Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits})
		}
	}
	return task
}

// What a search by zones comes to, to the pair that was weighed: there is no chance in it. Who changes how it goes sees
// here that it goes another way, looks whether what stays out costs less then, and writes the new figures down.
func TestAssignmentsAreTheSame(t *testing.T) {
	t.Parallel()
	if runtime.GOARCH != "amd64" {
		t.Skip("figures of amd64")
	}
	for seed, want := range []string{
		"433.4734 of 433.4734, 433.4734 of 433.4734, 840 pairs, 0 out, 3f3055e1",
		"5898.7506 of 5898.7506, 5898.7506 of 5898.7506, 10962 pairs, 5068 out, 6936780c",
		"6128.2758 of 6128.2758, 6128.2758 of 6128.2758, 12654 pairs, 5046 out, 3cf121fb",
		"1754.5941 of 1754.5941, 1754.5941 of 1754.5941, 22770 pairs, 0 out, 2985b0ff",
		"8792.0307 of 12251.3606, 12149.3167 of 12190.6214, 383084 pairs, 10335 out, 2c4658f1",
		"17471.9447 of 17556.1830, 17472.3578 of 17544.7814, 402600 pairs, 15728 out, fe483395",
	} {
		task := some(uint64(seed), 20+8*seed)
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.Solve(Quickly)
		quick := fmt.Sprintf("%.4f of %.4f", a.Proof.Bound, a.Total())
		a.Solve(20_000_000)
		assert.Equal(t, want, fmt.Sprintf("%s, %.4f of %.4f, %d pairs, %.0f out, %08x", quick, a.Proof.Bound, a.Total(),
			a.weighed, a.OutCost(), crc32.ChecksumIEEE(fmt.Append(nil, a.zonesNow()))), "kit %d", seed)
	}
}
