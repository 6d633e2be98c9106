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
		"525.0106 of 525.0106, 525.0106 of 525.0106, 840 pairs, 0 out, 245bd627",
		"1267.0214 of 1267.0214, 1267.0214 of 1267.0214, 19488 pairs, 0 out, 082a8f26",
		"6711.0620 of 6711.5657, 6711.5657 of 6711.5657, 35298 pairs, 5046 out, 3f5425c4",
		"1628.1784 of 1628.1784, 1628.1784 of 1628.1784, 13860 pairs, 0 out, 63af3112",
		"12391.9700 of 17146.8858, 12393.3106 of 12427.0284, 373438 pairs, 10366 out, 2ff750bc",
		"12214.8181 of 12410.3117, 12239.8753 of 12269.5008, 400770 pairs, 10438 out, 80b29ff0",
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
