package load

import (
	"fmt"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// cloths is so many pieces of cloth of two litres tight, known to a tenth, for a body of ten litres.
func cloths(n int) *job.Task {
	task := &job.Task{Pack: rucksack.Pack{ID: "p", Name: "Pack", MassG: 1000, Zones: []rucksack.Zone{{ID: "body", Kind: rucksack.Body,
		VolumeL: 10, SizeCm: [3]float64{25, 20, 20}, Form: "box", Openings: []string{"top"}, Weather: rucksack.Covered}}}}
	for i := range n {
		task.Items = append(task.Items, kit.Item{ID: fmt.Sprint("cloth-", i), Name: "Cloth", Count: 1, MassG: 200, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 3, TightL: 2, GapCm: 2}, Measured: kit.Guess, Spread: 0.1})
	}
	return task
}

// A sample stands for all that failed: a quarter of it goes in, so a quarter of the sixty do.
func TestASampleStandsForTheRest(t *testing.T) {
	t.Parallel()
	c := &Confidence{Draws: 100, Fit: 40, Share: 0.4}
	c.add(sample{tried: 16, fit: 4}, 60)
	assert.Equal(t, Confidence{Draws: 100, Fit: 55, Share: 0.55}, *c)
	c.add(sample{}, 45)
	assert.Equal(t, 55, c.Fit, "nothing was tried")
}

// What goes in is told from what does not, draw by draw; who is stopped says nothing.
func TestPatience(t *testing.T) {
	t.Parallel()
	task := cloths(4)
	s := newSearch(task, Options{Seed: 1})
	of := func(deviations float64) factors {
		f := factors{}
		for i := range task.Items {
			f[task.Items[i].ID] = deviations
		}
		return f
	}
	assert.Equal(t, sample{4, 2}, s.patience([]factors{of(-1), of(3), of(0), of(2.9)}, 4, nil), "1.8, 2.6, 2 and 2.58 L each")
	assert.Equal(t, sample{16, 16}, s.patience(make([]factors, 40), 50, nil), "as they are measured, all go in")
	assert.Equal(t, sample{7, 7}, s.patience(make([]factors, 40), 400, nil), "a tenth failed: 0.05 by the root of 7 is 0.019")
	assert.Equal(t, sample{}, s.patience(nil, 50, nil))
	assert.Equal(t, sample{}, s.patience(make([]factors, 40), 50, func() bool { return true }))
	assert.InDelta(t, 0.4, s.spreadL(), 1e-9, "the root of four times two tenths squared")
}

// What was tried when the clock ended it stands for the rest: whether the draws go in or not, a part of them was tried,
// and the one that was cut short says nothing either way.
func TestPatienceThatTheClockEnds(t *testing.T) {
	t.Parallel()
	for _, goes := range []bool{true, false} {
		task := cloths(4)
		s := newSearch(task, Options{Seed: 1})
		failed := make([]factors, 40) // all as measured
		if !goes {
			for i := range failed {
				failed[i] = factors{"cloth-0": 3, "cloth-1": 3, "cloth-2": 3, "cloth-3": 3}
			}
		}
		var asked atomic.Int64
		count := func() bool { asked.Add(1); return false }
		require.Equal(t, 16, s.patience(failed, 50, count).tried)
		left := asked.Load() / 2
		got := s.patience(failed, 50, func() bool { return asked.Add(-1) < left })
		assert.Greater(t, got.tried, 0)
		assert.Less(t, got.tried, 16)
		if goes {
			assert.Equal(t, got.tried, got.fit)
		} else {
			assert.Zero(t, got.fit)
		}
	}
}

// A kit at the edge is a part in a hundred, one that is far too large is nothing, and nobody is patient about that.
func TestHowSureOfCloth(t *testing.T) {
	t.Parallel()
	share := func(n int) float64 {
		return Make(cloths(n), Options{Seed: 1}).Confidence(Options{Seed: 1}).Share
	}
	assert.Equal(t, 1.0, share(4))
	assert.InDelta(t, 0.5, share(5), 0.3, "ten litres into ten")
	assert.Zero(t, share(6))
}
