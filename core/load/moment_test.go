package load_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/demo"
)

// A plan judged as an arrangement costs what it cost, everything goes in where it is, and a change for the worse
// costs more.
func TestPriceOfAPlan(t *testing.T) {
	t.Parallel()
	task, plan := thorough(t, demo.LoneWalker)
	now := plan.Arrangement()
	j := load.Price(task, now, load.Options{Seed: 1})
	require.Empty(t, j.Misfit)
	assert.True(t, j.Plan.Fits())
	assert.InDelta(t, plan.Proof.Objective, j.Zones, 1e-6)
	assert.Empty(t, j.Plan.Moved(now))

	worse := slices.Clone(now)
	for i := range worse {
		if worse[i].Item == "shell" { // the rain jacket into the body, first in
			worse[i].Zone = "body"
			worse = append([]job.Spot{worse[i]}, slices.Delete(worse, i, i+1)...)
			break
		}
	}
	assert.Greater(t, load.Price(task, worse, load.Options{Seed: 1}).Cost(), j.Cost()+50)

	nowhere := append(slices.Clone(now[:len(now)-1]), job.Spot{Item: now[0].Item, Piece: now[0].Piece, Zone: "attic"})
	nowhere[0] = job.Spot{Item: now[0].Item, Piece: now[0].Piece, Zone: "attic"}
	assert.Equal(t, []job.Spot{nowhere[0]}, load.Price(task, nowhere, load.Options{Seed: 1}).Misfit)
	assert.False(t, load.Price(task, nil, load.Options{Seed: 1}).Plan.Fits(), "nothing is arranged")
}

// What is packed already stays where it is when moving it has a price, even where the school has changed; with no
// price the plan is free.
func TestPlanFromAPlan(t *testing.T) {
	t.Parallel()
	task := walker(t)
	_, before := thorough(t, demo.LoneWalker)
	now := before.Arrangement()
	task.Method.Water, task.Method.Lowest, task.Method.Shelter = "bottles", "shelter", "top"
	task.Items = append(task.Items, kit.Item{ID: "new", Name: "Tin", Count: 1, MassG: 200, Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{8, 6, 4}}})
	var moved [2]int
	for k, price := range []float64{0, 400} {
		for seed := range int64(4) {
			plan := load.Make(task, load.Options{Seed: seed, Quick: true, From: now, Moving: price})
			require.True(t, plan.Fits())
			moved[k] += len(plan.Moved(now))
		}
	}
	assert.Positive(t, moved[0])
	assert.Less(t, moved[1], moved[0])
}

// A kit at a moment: what is eaten is gone, what is half left is half as large if it is soft, and what came is there.
func TestAtAMoment(t *testing.T) {
	t.Parallel()
	task := walker(t)
	later := task.At(job.Moment{Left: map[string]job.Rest{"food-1": {},
		"sleep-clothes": {Pieces: 1, Share: 0.5, MassG: 300}},
		More: []kit.Item{{ID: "rubbish", Count: 1, MassG: 90, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 0.5, TightL: 0.3, GapCm: 1}}}})
	find := func(task *job.Task, id string) *kit.Item {
		if i := slices.IndexFunc(task.Items, func(it kit.Item) bool { return it.ID == id }); i >= 0 {
			return &task.Items[i]
		}
		return nil
	}
	for _, id := range []string{"food-1", "sleep-clothes"} {
		require.NotNil(t, find(task, id), "the demo kit has %s", id)
	}
	assert.Nil(t, find(later, "food-1"))
	assert.NotNil(t, find(later, "rubbish"))
	assert.Equal(t, find(task, "sleep-clothes").Shape.TightL/2, find(later, "sleep-clothes").Shape.TightL)
	assert.Equal(t, 300.0, find(later, "sleep-clothes").MassG)
}

func ExampleTask_For() {
	box := rucksack.Zone{ID: "body", Name: "Body", Kind: rucksack.Body, Form: "box", SizeCm: [3]float64{28, 20, 40},
		VolumeL: 22.4, Weather: rucksack.Covered, Reach: rucksack.Opened}
	adult := &job.Task{Items: []kit.Item{{ID: "tin", Name: "Tin", Count: 1, MassG: 500, Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{20, 18, 15}}}}}
	adult.Pack.Zones = []rucksack.Zone{box}
	small := box
	small.SizeCm, small.VolumeL = [3]float64{18, 12, 30}, 6.5
	child := job.Bearer{Name: "the child", Pack: rucksack.Pack{Zones: []rucksack.Zone{small}},
		Body: trail.Carrier{MassKg: 30}}
	fmt.Println(load.Make(adult, load.Options{}).Fits(), load.Make(adult.For(child), load.Options{}).Fits())
	// Output: true false
}
