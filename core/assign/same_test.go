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
	"tornister/internal/sample"
)

// some are things of the table, drawn from a seed, for a pack that is about large enough for forty.
func some(seed uint64, n int) *job.Task {
	r := rand.New(rand.NewPCG(seed, 11))
	task := &job.Task{Pack: pockets(), Method: method.Method{Heavy: "close", Outside: "foam"}, Trip: trail.Trip{Rain: 0.3}}
	for len(task.Items) < n {
		k := sample.Kind(r)
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
		"769.1916 of 769.1916, 769.1916 of 769.1916, 1470 pairs, 0 out, 79fb2b31",
		"6361.1891 of 6361.1891, 6361.1891 of 6361.1891, 5684 pairs, 5068 out, f75fea8e",
		"6642.8244 of 6643.0270, 6643.0270 of 6643.0270, 28638 pairs, 5046 out, 96c68e6c",
		"897.1200 of 906.1721, 897.3905 of 897.3905, 34650 pairs, 0 out, 3a38f388",
		"23856.2147 of 24121.2498, 23893.3511 of 24000.8376, 383084 pairs, 20676 out, a3df01dd",
		"22791.3967 of 23254.2660, 22811.8921 of 22934.7368, 380640 pairs, 20888 out, 3990126d",
	} {
		task := some(uint64(seed), 20+8*seed)
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.Solve(Quickly)
		quick := fmt.Sprintf("%.4f of %.4f", a.Proof.Bound, a.Total())
		a.Solve(20_000_000)
		assert.Equal(t, want, fmt.Sprintf("%s, %.4f of %.4f, %d pairs, %.0f out, %08x", quick, a.Proof.Bound, a.Total(),
			a.weighed, a.OutCost(), crc32.ChecksumIEEE(fmt.Append(nil, a.ZonesNow()))), "kit %d", seed)
	}
}
