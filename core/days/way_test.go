package days

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/balance"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/verdict"
)

// small is a pack of a body, a bottom and a side pocket with one thing in it.
func small(trip trail.Trip) *job.Task {
	zone := func(id string, kind rucksack.ZoneKind, size [3]float64, up float64) rucksack.Zone {
		return rucksack.Zone{ID: id, Name: id, Kind: kind, VolumeL: size[0] * size[1] * size[2] / 1000,
			SizeCm: size, MouthCm: 20,
			AtCm: [3]float64{0, size[1] / 2, up}, Weather: rucksack.Covered, Divider: "removable"}
	}
	pack := rucksack.Pack{ID: "small", MassG: 1200, Zones: []rucksack.Zone{
		zone("body", rucksack.Body, [3]float64{28, 20, 30}, 30), zone("bottom", rucksack.Bottom, [3]float64{28, 20, 15}, 7)}}
	return &job.Task{Pack: pack, Trip: trip, Items: []kit.Item{packed(kit.Item{ID: "jacket", Name: "Jacket", MassG: 500,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 4, TightL: 2, GapCm: 3}})}}
}

// What the shop is asked for: the meals from here to the day of the next shop, that day's dinner not among them, less
// those that are eaten and those that there is food for.
func TestBuyingByHand(t *testing.T) {
	t.Parallel()
	day := []trail.Meal{trail.Breakfast, trail.Lunch, trail.Dinner}
	meals := [][]trail.Meal{day, day, day, {trail.Breakfast, trail.Lunch}}
	bought := func(shopAgain int, items ...kit.Item) (*ledger, float64) {
		legs := []trail.Leg{{Day: 1, Shop: true}, {Day: 2}, {Day: 3}, {Day: 4}}
		if shopAgain > 0 {
			legs[shopAgain-1].Shop = true
		}
		l := newLedger(&job.Task{Items: items, Trip: trail.Trip{Days: 4, Legs: legs, Eating: trail.Eating{GramsADay: 1000}}},
			WhatIf{})
		l.eaten[mealAt{1, trail.Breakfast}], l.eaten[mealAt{1, trail.Lunch}] = true, true
		return l, l.buy(1, meals)
	}
	l, g := bought(0)
	assert.InDelta(t, 400+1000+1000+600, g, 1e-9, "a dinner, two days and what is eaten before the end of the last")
	assert.InDelta(t, 3000, l.left[boughtID], 1e-9)
	last := l.task.Items[len(l.task.Items)-1]
	assert.Equal(t, [3]float64{1, 3000, 3000}, [3]float64{float64(last.Count), last.MassG, last.TotalG()})
	assert.InDelta(t, 6.3, last.Shape.TightL, 1e-9, "2.1 L a kilogram")
	_, g = bought(3)
	assert.InDelta(t, 400+1000+600, g, 1e-9, "up to lunch on the day of the next shop")
	_, g = bought(3, packed(kit.Item{ID: "own", MassG: 1000, Day: 2, Consumable: "food"}))
	assert.InDelta(t, 400+600, g, 1e-9, "day 2 is in the pack")
	_, g = bought(1)
	assert.InDelta(t, 3000, g, 1e-9, "the shop at which one stands is not the next one")
	l, _ = bought(2)
	assert.InDelta(t, 400+600, l.left[boughtID], 1e-9)
	assert.InDelta(t, 400, l.eat(1, trail.Dinner, meals)+l.rubbish, 1e-9, "what was bought is eaten")
	l.eaten[mealAt{1, trail.Dinner}] = true
	assert.InDelta(t, 0, l.buy(1, meals), 1e-9, "and not bought twice")
}

// Rubbish is carried from a gram on.
func TestRubbishByHand(t *testing.T) {
	t.Parallel()
	l := newLedger(small(trail.Trip{Days: 1}), WhatIf{})
	for grams, want := range map[float64]int{0.99: 1, 1: 2, 30: 2} {
		l.rubbish = grams
		assert.Len(t, l.now(1).Items, want, "%v g", grams)
	}
	l.rubbish = 60
	items := l.now(1).Items
	assert.InDelta(t, 60, items[1].MassG, 1e-9)
	assert.InDelta(t, 0.21, items[1].Shape.TightL, 1e-9, "a tenth of the litres of a kilogram of food")
}

// On its day a bag of food is wanted at the halts, like the first day's at the start; in the evening nobody eats on the
// way any more.
func TestTodaysFoodIsAtHand(t *testing.T) {
	t.Parallel()
	task := small(trail.Trip{Days: 3, Nights: 2})
	kind, _ := kit.KindOf("food-day")
	for day := 1; day <= 3; day++ {
		task.Items = append(task.Items, packed(kit.Item{ID: "food-" + strconv.Itoa(day), Kind: kind.ID, Day: day, Count: 1,
			MassG: 600, Traits: kind.Traits, Consumable: "food", Shape: kind.Shape, Use: kit.Use{When: kit.Camp, PerDay: 1}}))
	}
	for today, want := range map[int][]kit.When{0: {kit.Camp, kit.Camp, kit.Camp}, 1: {kit.Camp, kit.Camp, kit.Camp},
		2: {kit.Camp, kit.Halt, kit.Camp}, 3: {kit.Camp, kit.Camp, kit.Halt}} {
		var got []kit.When
		for _, it := range newLedger(task, WhatIf{}).now(today).Items {
			if it.Day > 0 {
				got = append(got, it.Use.When)
			}
		}
		assert.Equal(t, want, got, "day %d: the first day is as the packer said", today)
	}
	assert.Equal(t, kit.Camp, task.Items[len(task.Items)-1].Use.When, "the trip itself stays")
}

// What is left of a trip: the legs up to the next water or shop, and the nights and camps to come.
func TestAhead(t *testing.T) {
	t.Parallel()
	trip := trail.Trip{Days: 4, Nights: 3, Camps: []trail.Camp{{Place: "a"}, {Place: "b"}},
		Legs: []trail.Leg{{Name: "1"}, {Name: "2", Water: true}, {Name: "3"}, {Name: "4", Shop: true}, {Name: "5"}}}
	names := func(walked, slept int) (list string) {
		for _, leg := range ahead(trip, walked, slept).Legs {
			list += leg.Name
		}
		return list
	}
	assert.Equal(t, []string{"12", "2", "34", "4", "5", ""}, []string{names(0, 0), names(1, 0), names(2, 1), names(3, 1),
		names(4, 2), names(5, 3)})
	assert.Equal(t, 1, ahead(trip, 3, 2).Nights)
	assert.Empty(t, ahead(trip, 3, 2).Camps)
	assert.Len(t, ahead(trip, 3, 1).Camps, 1)
	assert.Zero(t, ahead(trip, 5, 9).Nights)
	assert.Len(t, trip.Legs, 5, "the trip itself stays")
}

// The leg that begins at a stop: none in the evening and at the end; in the morning the one after the last that ended.
func TestTheNextLeg(t *testing.T) {
	t.Parallel()
	trip := trail.Trip{Legs: []trail.Leg{{Name: "1"}, {Name: "2"}, {Name: "3"}}}
	stops := []Stop{{Kind: Start}, {Kind: LegEnd, Leg: 1}, {Kind: Evening, Leg: 2}, {Kind: Morning}, {Kind: Morning},
		{Kind: LegEnd, Leg: 3}}
	want := []string{"1", "2", "", "3", "3", ""}
	for i := range stops {
		name := ""
		if leg := nextLeg(stops, i, trip); leg != nil {
			name = leg.Name
		}
		assert.Equal(t, want[i], name, "stop %d", i)
	}
}

// Effort by Pandolf's equation with what is carried at that stop, in kilograms; none for a body that is assumed.
func TestTheEffortOfTheNextLeg(t *testing.T) {
	t.Parallel()
	leg := trail.Leg{Day: 1, Km: 8, ClimbM: 300, Hours: 3, Water: true}
	trip := trail.Trip{Days: 1, Carrier: trail.Carrier{MassKg: 70, HeightCm: 175}, Legs: []trail.Leg{leg, leg}, Terrain: "path"}
	task := small(trip)
	stops := Stops(task, WhatIf{}, nil, load.Options{Seed: 1, Quick: true})
	require.Len(t, stops, 3)
	speed, grade := leg.Speed()
	assert.InDelta(t, balance.EffortW(70, 1.7, speed, grade, trail.Roughness("path")), stops[0].NextW, 1e-9)
	assert.Zero(t, stops[2].NextW)
	task.Trip.BodyAssumed = true
	assert.Zero(t, Stops(task, WhatIf{}, nil, load.Options{Seed: 1, Quick: true})[0].NextW)
}

// A trip is gone through for two months of stops and no further; nothing is moved at its start.
func TestALongTrip(t *testing.T) {
	t.Parallel()
	trip := trail.Trip{Days: 100, Nights: 99}
	for day := range 100 {
		trip.Legs = append(trip.Legs, trail.Leg{Day: day + 1, Hours: 1, Water: true})
	}
	stops := Stops(small(trip), WhatIf{}, nil, load.Options{Seed: 1, Quick: true})
	assert.Len(t, stops, MostStops)
	assert.Equal(t, 62, MostStops)
	for i, s := range stops {
		assert.Empty(t, s.Moves, "stop %d: one thing has no reason to lie elsewhere", i)
	}
}

// A source that gives just what is wanted leaves nobody thirsty.
func TestJustEnough(t *testing.T) {
	t.Parallel()
	task := small(trail.Trip{Days: 1, Legs: []trail.Leg{{Day: 1, Hours: 1, Water: true}, {Day: 1, Hours: 5}}})
	drinks := task.Trip.LitresAnHour()
	task.Items = append(task.Items, packed(kit.Item{ID: "flask", Name: "Flask", MassG: 1000 * 5 * drinks / 0.94, Consumable: "water",
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 2, TightL: 2, GapCm: 1}}))
	stops := Stops(task, WhatIf{Full: true}, nil, load.Options{Seed: 1, Quick: true})
	assert.False(t, stops[1].Empty)
	assert.InDelta(t, 0, stops[2].Have.Water, 1e-6)
	assert.False(t, stops[2].Empty, "to the last drop")
	task.Items[1].MassG *= 0.9
	stops = Stops(task, WhatIf{Full: true}, nil, load.Options{Seed: 1, Quick: true})
	assert.True(t, stops[2].Empty)
	assert.InDelta(t, 0.5*drinks, stops[2].Short, 1e-6)
}

// The worst stop of a check is that of the worst state, and of two alike the one that measures most; the first of
// equals.
func TestTheHardestStop(t *testing.T) {
	t.Parallel()
	stop := func(state verdict.CheckState, mass, lean, squeeze float64, reasons int) Stop {
		j := &verdict.Judged{Plan: &load.Plan{Squeeze: squeeze}, Balance: verdict.Balance{MassG: mass, LeanDeg: lean}}
		for _, name := range verdict.Names {
			j.Checks = append(j.Checks, verdict.Check{Check: name, State: state, Reasons: make([]verdict.Finding, reasons)})
		}
		return Stop{Judged: j}
	}
	stops := []Stop{stop(verdict.Settled, 12_000, 1, 0.9, 1), stop(verdict.Look, 9000, 4, 0.1, 2),
		stop(verdict.Look, 9500, 3, 0.2, 2), stop(verdict.Settled, 90_000, 80, 1, 5)}
	assert.Equal(t, []int{2, 1, 2, 1}, []int{Hardest(stops, "weight"), Hardest(stops, "balance"), Hardest(stops, "fit"),
		Hardest(stops, "dry")})
	stops = append(stops, stop(verdict.Stop, 1, 0, 0, 0))
	for _, name := range verdict.Names {
		assert.Equal(t, 4, Hardest(stops, name))
	}
	stops[1].Judged.Plan.LeftOut = make([]load.LeftOut, 1)
	assert.Equal(t, 1, Hardest(stops[:4], "fit"), "what is left out weighs more than any squeeze")
	assert.Zero(t, Hardest(stops[:1], "safe"))
}

// With the divider open, what slides from body to bottom was moved by nobody.
func TestWhatWasMoved(t *testing.T) {
	t.Parallel()
	task := small(trail.Trip{Days: 1})
	plan := load.Make(task, load.Options{Seed: 1, Quick: true})
	from := plan.Arrangement()
	assert.Empty(t, moved(plan, from, &task.Pack))
	for i := range from {
		if from[i].Zone == "body" {
			from[i].Zone = "bottom"
		} else {
			from[i].Zone = "body"
		}
	}
	for open, want := range map[bool]int{false: 1, true: 0} {
		plan.Open = open
		assert.Len(t, moved(plan, from, &task.Pack), want, "open %t", open)
	}
	from[0].Zone = "lid"
	assert.Len(t, moved(plan, from, &task.Pack), 1, "out of a zone that is no more")
}
