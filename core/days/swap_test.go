package days_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/days"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/internal/sample"
)

// stopAfter is the stop at which a leg ends, counted from 1.
func stopAfter(t *testing.T, stops []days.Stop, leg int) *days.Stop {
	i := slices.IndexFunc(stops, func(s days.Stop) bool { return s.Leg == leg })
	require.GreaterOrEqual(t, i, 0)
	return &stops[i]
}

func itemOf(t *testing.T, task *job.Task, id string) *kit.Item {
	i := slices.IndexFunc(task.Items, func(it kit.Item) bool { return it.ID == id })
	require.GreaterOrEqual(t, i, 0, id)
	return &task.Items[i]
}

// What is left behind is out of the pack from there on, and in again from where it is taken up; what waits is not in
// before.
func TestLeftAndTakenUp(t *testing.T) {
	t.Parallel()
	plain := days.Stops(walker(t), days.WhatIf{}, nil, hasty)
	task := walker(t)
	mat, food := itemOf(t, task, "foam-mat"), itemOf(t, task, "food-4")
	food.Carry = kit.Left
	task.Trip.Legs[0].Leaves = []string{"foam-mat", "no-such-thing", "food-4"}
	task.Trip.Legs[1].Takes = []string{"food-4"}
	task.Trip.Legs[2].Takes = []string{"foam-mat", "first-aid"}
	stops := days.Stops(task, days.WhatIf{}, nil, hasty)
	require.Len(t, stops, len(plain))
	first, second, third := stopAfter(t, stops, 1), stopAfter(t, stops, 2), stopAfter(t, stops, 3)
	assert.Equal(t, []string{"foam-mat"}, first.Left, "what is not carried is not left")
	assert.Empty(t, first.Taken)
	assert.Equal(t, []string{"food-4"}, second.Taken)
	assert.Equal(t, []string{"foam-mat"}, third.Taken, "what is in already is not taken up")
	less := func(leg int) float64 {
		return stopAfter(t, plain, leg).Have.Total() - stopAfter(t, stops, leg).Have.Total()
	}
	assert.InDelta(t, food.TotalG(), plain[0].Have.Total()-stops[0].Have.Total(), 1e-6)
	assert.InDelta(t, food.TotalG()+mat.TotalG(), less(1), 1e-6)
	assert.InDelta(t, mat.TotalG(), less(2), 1e-6)
	assert.InDelta(t, 0, less(3), 1e-6)
	in := func(s *days.Stop, id string) bool {
		for _, p := range s.Judged.Plan.Placed {
			if p.Piece.ID == id {
				return true
			}
		}
		return false
	}
	assert.False(t, in(&stops[0], "food-4"))
	assert.False(t, in(first, "foam-mat"))
	assert.True(t, in(second, "food-4"))
	assert.True(t, in(third, "foam-mat"))
	assert.Equal(t, kit.Left, itemOf(t, task, "food-4").Carry, "the task given is not changed")
}

// A kit bag goes with all that is in it; a vessel that is left is poured out and taken up empty, one that waits is
// full.
func TestBagsAndBottlesChangeHands(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	task := walker(t)
	task.Items = append(task.Items, kit.Item{ID: "aid-bag", Name: "Aid bag", Kind: kit.KitBag, Count: 1, MassG: 30,
		Carry: kit.Pack, Shape: kit.Shape{Kind: kit.Soft, LooseL: 0.1, TightL: 0.1}})
	itemOf(t, task, "first-aid").NestIn = "aid-bag"
	task.Trip.Legs[0].Leaves = []string{"aid-bag", "water-bag"}
	task.Trip.Legs[1].Takes = []string{"aid-bag"}
	stops := days.Stops(task, days.WhatIf{}, nil, quick)
	assert.ElementsMatch(t, []string{"aid-bag", "first-aid", "water-bag"}, stopAfter(t, stops, 1).Left)
	assert.ElementsMatch(t, []string{"aid-bag", "first-aid"}, stopAfter(t, stops, 2).Taken)
	for _, s := range stops {
		assert.GreaterOrEqual(t, s.Have.Water, 0.0)
		assert.LessOrEqual(t, s.Have.Water, 4100.0)
	}
	most := 0.0
	for _, s := range stops[1:] {
		most = max(most, s.Have.Water)
	}
	assert.LessOrEqual(t, most, 2050.0, "two bottles of a litre are left, however much is wanted")

	waits := walker(t)
	bag := itemOf(t, waits, "water-bag")
	bag.Carry = kit.Left
	waits.Trip.Legs[0].Water, waits.Trip.Legs[0].Shop = false, false
	waits.Trip.Legs[0].Takes = []string{"water-bag"}
	with := stopAfter(t, days.Stops(waits, days.WhatIf{}, nil, quick), 1)
	waits.Trip.Legs[0].Takes = nil
	without := stopAfter(t, days.Stops(waits, days.WhatIf{}, nil, quick), 1)
	assert.InDelta(t, bag.MassG, with.Have.Total()-without.Have.Total(), 10, "the bag with its two litres")
}
