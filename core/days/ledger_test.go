package days

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

func packed(it kit.Item) kit.Item {
	it.Carry = kit.Pack
	it.Count = max(1, it.Count)
	return it
}

// Water by hand: two vessels of two litres in all are filled to what the next stretch wants, what is too much is poured
// away, and never more goes in than they hold.
func TestWaterByHand(t *testing.T) {
	t.Parallel()
	task := &job.Task{Pack: rucksack.Pack{MassG: 1500}, Trip: trail.Trip{Days: 2, Legs: []trail.Leg{
		{Day: 1, Hours: 4, Water: true}, {Day: 2, Hours: 4}}},
		Items: []kit.Item{packed(kit.Item{ID: "flask", MassG: 1000 / 0.94, Consumable: "water", Count: 2})}}
	l := newLedger(task, WhatIf{})
	assert.InDelta(t, 1, contentL(&l.task.Items[0]), 1e-9, "six in a hundred of a full vessel is the vessel")
	assert.InDelta(t, 2, l.capacityL(), 1e-9)
	assert.InDelta(t, 1, l.full(), 1e-9, "the start is with full vessels")
	assert.InDelta(t, 1.7, l.wantedFrom(0), 1e-9, "4 h at 0.3 L and half a litre")
	assert.InDelta(t, -300, l.fill(l.wantedFrom(0)), 1e-6, "what is too much is poured away")
	assert.InDelta(t, 0.85, l.full(), 1e-9)
	l.water = 0.2
	assert.InDelta(t, 1800, l.fill(5), 1e-6, "no more than they hold")
	a := l.amounts()
	assert.InDelta(t, 2000, a.Water, 1e-6)
	assert.InDelta(t, 1500+2*(1000/0.94-1000), a.Base, 1e-6, "the pack and the empty vessels")
	l.water = 1
	assert.InDelta(t, 1000/0.94-500, l.now(1).Items[0].MassG, 1e-6, "each half full")
	full := newLedger(task, WhatIf{Full: true})
	assert.InDelta(t, 2, full.wantedFrom(1), 1e-9)
	dry := newLedger(task, WhatIf{Dry: []int{1, 9, 0}})
	assert.InDelta(t, 2.4+2+0.5, dry.wantedFrom(0), 1e-9, "one stretch of eight hours, with a night without water")
	assert.True(t, task.Trip.Legs[0].Water, "the trip itself stays")
	assert.Zero(t, newLedger(&job.Task{}, WhatIf{}).full(), "no vessel is never full")
}

// What a meal takes, by hand: of the day's own bag its share, of single meals one of its kind, of everything else its
// share of all days, and of a spare meal nothing.
func TestEatingByHand(t *testing.T) {
	t.Parallel()
	meals := [][]trail.Meal{{trail.Lunch, trail.Dinner}, {trail.Breakfast, trail.Lunch}}
	share := trail.MealShare
	all := 2*share[trail.Lunch] + share[trail.Dinner] + share[trail.Breakfast]
	for name, c := range map[string]struct {
		it   kit.Item
		want float64
	}{
		"the day's bag":          {kit.Item{MassG: 700, Day: 1}, 700 * share[trail.Dinner] / (share[trail.Lunch] + share[trail.Dinner])},
		"another day's":          {kit.Item{MassG: 700, Day: 2}, 0},
		"one dinner of three":    {kit.Item{MassG: 190, Count: 3, Kind: string(trail.Dinner)}, 190},
		"a breakfast":            {kit.Item{MassG: 150, Kind: string(trail.Breakfast)}, 0},
		"snacks for all days":    {kit.Item{MassG: 600}, 600 * share[trail.Dinner] / all},
		"the spare meal":         {kit.Item{MassG: 190, Kind: "spare-meal"}, 0},
		"what is left at home":   {kit.Item{MassG: 700, Day: 1, Carry: kit.Left}, 0},
		"what is no food at all": {kit.Item{MassG: 700, Day: 1, Consumable: "fuel"}, 0},
	} {
		it := packed(c.it)
		if c.it.Carry != "" {
			it.Carry = c.it.Carry
		}
		if it.ID = "food"; it.Consumable == "" {
			it.Consumable = "food"
		}
		l := newLedger(&job.Task{Items: []kit.Item{it}, Trip: trail.Trip{Days: 2}}, WhatIf{})
		eaten := l.eat(1, trail.Dinner, meals)
		assert.InDelta(t, c.want, eaten+l.rubbish, 1e-9, name)
		assert.InDelta(t, c.want*rubbishMass, l.rubbish, 1e-9, name)
		hungry := 0
		if c.want == 0 {
			hungry = 1
		}
		assert.Equal(t, hungry, l.hungry, name)
		assert.True(t, l.eaten[mealAt{1, trail.Dinner}])
	}
}

// Of three meals with a bit more than one left there are two pieces, alike; of crumbs there is nothing.
func TestWhatIsLeftOfFood(t *testing.T) {
	t.Parallel()
	it := &kit.Item{Count: 3, MassG: 200}
	for grams, want := range map[float64]job.Rest{
		600: {Pieces: 3, Share: 1, MassG: 200},
		400: {Pieces: 2, Share: 1, MassG: 200},
		250: {Pieces: 2, Share: 0.625, MassG: 125},
		200: {Pieces: 1, Share: 1, MassG: 200},
		1:   {Pieces: 1, Share: 0.005, MassG: 1},
		0.9: {}, 0: {},
	} {
		assert.Equal(t, want, foodLeft(it, grams), "%v g", grams)
	}
}

// A night more: a day of rest at the last camp, everything after it a day later.
func TestANightMore(t *testing.T) {
	t.Parallel()
	trip := trail.Trip{Days: 3, Nights: 2, End: "2026-09-06T14:00", Camps: []trail.Camp{{Place: "a"}, {Place: "b"}},
		Legs: []trail.Leg{{Day: 1}, {Day: 2}, {Day: 3}, {Day: 3}}}
	stay(&trip)
	assert.Equal(t, []int{4, 3}, []int{trip.Days, trip.Nights})
	assert.Equal(t, "2026-09-07T14:00", trip.End)
	assert.Equal(t, []trail.Camp{{Place: "a"}, {Place: "b"}, {Place: "b"}}, trip.Camps)
	var of []int
	for _, leg := range trip.Legs {
		of = append(of, leg.Day)
	}
	assert.Equal(t, []int{1, 2, 4, 4}, of)
	day := trail.Trip{Days: 1, Legs: []trail.Leg{{Day: 1}}}
	stay(&day)
	assert.Equal(t, 1, day.Days, "a day out has no night to stay")
}

// Fuel: lunch is cold; a hot meal burns what its water takes, of one canister after the other, and never the last bit.
func TestBurningByHand(t *testing.T) {
	t.Parallel()
	task := &job.Task{Items: []kit.Item{packed(kit.Item{ID: "small", MassG: 10, Consumable: "fuel"}), packed(kit.Item{ID: "large", MassG: 380,
		Consumable: "fuel"}), packed(kit.Item{ID: "tent", MassG: 100})}}
	l := newLedger(task, WhatIf{})
	assert.Zero(t, l.burn(trail.Lunch))
	want := trail.GasG(trail.BoiledL([][]trail.Meal{{trail.Dinner}}), trail.StreamC, false, trail.Efficiency)
	assert.InDelta(t, want, l.burn(trail.Dinner), 1e-9)
	assert.InDelta(t, 10*leastGas, l.left["small"], 1e-9, "the small one to its last bit")
	assert.InDelta(t, 380-(want-10*(1-leastGas)), l.left["large"], 1e-9)
	l.task.Trip.Eating.Efficiency = 2 * trail.Efficiency
	assert.InDelta(t, want/2, l.burn(trail.Dinner), 1e-9, "half of it at twice the efficiency")
	l.task.Trip.Legs = []trail.Leg{{Snow: true}}
	assert.Greater(t, l.burn(trail.Dinner), want/2, "snow takes more")
	for range 99 {
		l.burn(trail.Dinner)
	}
	assert.InDelta(t, 390*leastGas, l.left["small"]+l.left["large"], 1e-9)
	assert.False(t, math.Signbit(l.left["large"]))
}
