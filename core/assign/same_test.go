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
		"454.3883 of 454.3883, 454.3883 of 454.3883, 840 pairs, 0 out, c3ec0ba8",
		"5967.5848 of 5967.5848, 5967.5848 of 5967.5848, 11368 pairs, 5068 out, 5f399ebb",
		"6229.7459 of 6229.7459, 6229.7459 of 6229.7459, 10656 pairs, 5046 out, c3b86f7a",
		"1857.7083 of 1866.6991, 1858.0995 of 1865.9579, 43560 pairs, 0 out, 9aa6a4fc",
		"12283.2032 of 12290.8516, 12284.7048 of 12290.5926, 356902 pairs, 10335 out, a22273a1",
		"17617.7684 of 17690.7704, 17623.6969 of 17652.4277, 415410 pairs, 15728 out, da3180b1",
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
