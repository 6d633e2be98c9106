package assign

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/kit"
	"tornister/internal/sample"
)

// An annealing counts on from step to step what all priced anew comes to, whether things are too much for a zone or
// not.
func TestAnAnnealingCountsRight(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		task := few(t)
		task.Pack.Zones = append(task.Pack.Zones, pockets().Zones[7]) // straps, which bear so many grams
		s := New(task, kit.Pieces(task.Items, kit.Pack), nil, false).toAnneal()
		if len(s.free) == 0 {
			return
		}
		temperature := rapid.SampledFrom([]float64{coldest, hottest, overfullL}).Draw(t, "temperature")
		cost, tooFull := s.overfull(), false
		for range 500 {
			cost += s.step(temperature)
			tooFull = tooFull || math.IsInf(s.Total(), 1)
		}
		require.InDelta(t, s.overfull(), cost, 1e-6*(1+cost))
		if total := s.Total(); !math.IsInf(total, 1) {
			assert.InDelta(t, total, cost, 1e-6*(1+total), "what is nowhere too much costs what it costs")
		} else {
			assert.True(t, tooFull)
		}
	})
}

// What annealing ends with keeps all limits, costs no more than where it began, and is the same each time.
func TestAnnealingEndsNoWorse(t *testing.T) {
	t.Parallel()
	for seed := range uint64(4) {
		var ends [2][]int
		for n := range ends {
			task := some(seed, 50)
			a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
			a.begin()
			cost := a.Total()
			a.toAnneal().run()
			ends[n] = a.ZonesNow()
			assert.LessOrEqual(t, a.Total(), cost+Gain)
		}
		assert.Equal(t, ends[0], ends[1])
	}
}

// A search that is to end leaves an annealing at once, at what it began with.
func TestAnnealingHearsTheEnd(t *testing.T) {
	t.Parallel()
	task := some(4, 50)
	a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
	a.begin()
	before := a.ZonesNow()
	a.Stop = func() bool { return true }
	a.toAnneal().run()
	assert.Equal(t, before, a.ZonesNow())
}

// Of kits that do not fit, what a local search ends with is far from the least. With annealing what is left out is the
// least there is, as is proved, and no other way of going on finds better.
func TestWhatDoesNotFitIsProved(t *testing.T) {
	t.Parallel()
	for seed := range sample.Of(t, 1, 3) {
		task := some(uint64(seed)+4, 44)
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.begin()
		require.Positive(t, a.OutCost())
		begun := a.Total()
		a.Solve(Searching)
		a.ProveAnew()
		a.ProveOn()
		assert.Less(t, a.Total(), begun)
		assert.Zero(t, a.Proof.Gap(), "kit %d", seed)
		proved := a.Total()
		a.kick()
		assert.InDelta(t, proved, a.Total(), 1e-6*proved)
	}
}
