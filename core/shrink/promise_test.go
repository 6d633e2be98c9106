package shrink_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/shrink"
	"tornister/demo"
	"tornister/internal/sample"
)

// What is taken is the least as packed: no move and no pair of moves can be taken back, and no move or pair of moves
// that costs less makes the kit fit. Demo kits with bulkier things, 5 to 12 L too much; TORNISTER_KITS says how many.
func TestTheSetIsLeastAsPacked(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	wanted := sample.Of(t, 2, 2)
	options := load.Options{Seed: 1, Quick: true}
	rough := options
	rough.Rough = true
	tried := 0
	for seed := 0; tried < wanted; seed++ {
		task := bulky(t, seed)
		plan := load.Make(task, options)
		if plan.OverL < 5 || plan.OverL > 12 {
			continue
		}
		tried++
		a := shrink.Fit(task, plan, nil, options)
		if !a.Enough {
			continue
		}
		fits := func(moves []shrink.Move) bool { return load.Make(shrink.Apply(task, moves), rough).Fits() }
		require.True(t, fits(a.Set.Moves), "kit %d", seed)
		for i := range a.Set.Moves {
			rest := slices.Delete(slices.Clone(a.Set.Moves), i, i+1)
			assert.False(t, fits(rest), "kit %d: %s can be taken back", seed, a.Set.Moves[i].Key())
			for k := i; k < len(rest); k++ {
				less := slices.Delete(slices.Clone(rest), k, k+1)
				assert.False(t, fits(less), "kit %d: %s and %s can be taken back", seed, a.Set.Moves[i].Key(), rest[k].Key())
			}
		}
		for i, one := range a.Program.Moves {
			for _, other := range a.Program.Moves[i:] {
				pair := []shrink.Move{one, other}
				if one.Key() == other.Key() {
					pair = pair[:1]
				} else if one.Item == other.Item {
					continue
				}
				cost, litres := 0.0, 0.0
				for _, m := range pair {
					cost, litres = cost+m.Cost, litres+m.Litres
				}
				if cost < a.Set.Cost-1e-9 && litres > plan.OverL/3 {
					assert.False(t, fits(pair), "kit %d: %s for %.1f, not %.1f", seed, keysOf(pair), cost, a.Set.Cost)
				}
			}
		}
	}
}

func keysOf(moves []shrink.Move) (keys []string) {
	for _, m := range moves {
		keys = append(keys, m.Key())
	}
	return keys
}

// bulky is a demo kit with soft things that take more room.
func bulky(t *testing.T, seed int) *job.Task {
	t.Helper()
	b, err := bundle.Read(demo.Trips[seed%len(demo.Trips)])
	require.NoError(t, err, fmt.Sprint(seed))
	task := b.Task
	r := rand.New(rand.NewPCG(uint64(seed), 21))
	more := 1.3 + 1.2*r.Float64()
	task.Items = slices.Clone(task.Items)
	for i := range task.Items {
		if shape, own := &task.Items[i].Shape, more*(0.8+0.4*r.Float64()); shape.Kind == kit.Soft {
			shape.LooseL, shape.TightL = shape.LooseL*own, shape.TightL*own
		}
	}
	return &task
}
