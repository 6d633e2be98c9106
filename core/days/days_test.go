package days_test

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/days"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/trail"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/internal/sample"
)

// Quick plans, and hasty ones where what there is is looked at and not where it lies.
var (
	quick = load.Options{Seed: 1, Quick: true}
	hasty = load.Options{Seed: 1, Quick: true, Stop: func() bool { return true }}
)

func walker(t testing.TB) *job.Task {
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	return &b.Task
}

// Nothing appears and nothing vanishes: what was there at the start and was filled is there at the end, eaten,
// burned or drunk. Wet cloth is rain's. At every stop the sums are those of the kit that is packed there.
func TestMassBalance(t *testing.T) {
	t.Parallel()
	all := []days.WhatIf{{Rain: true}, {Night: true}, {Shut: []int{4}}, {}, {Full: true}, {Companion: true},
		{Dry: []int{3}}}
	for _, whatIf := range all[:min(len(all), sample.Of(t, 3, 7))] {
		task := walker(t)
		if len(whatIf.Shut) > 0 || whatIf.Night { // with a shop, and the food of the last days left at home
			task.Trip.Legs[2].Shop, task.Trip.Legs[3].Shop = true, true
			task.Items = slices.DeleteFunc(slices.Clone(task.Items), func(it kit.Item) bool { return it.Day >= 3 })
		}
		stops := days.Stops(task, whatIf, nil, hasty)
		require.NotEmpty(t, stops)
		sum := stops[0].Have.Total()
		for i, s := range stops {
			if i > 0 {
				sum += s.Filled + s.Bought - s.Eaten - s.Burned - s.Drunk
			}
			assert.InDelta(t, sum, s.Have.Total()-s.Have.Wet, 0.5, "%+v stop %d", whatIf, i)
			packed := s.Task.Pack.MassG
			for _, it := range s.Task.Items {
				if it.Carry == "pack" {
					packed += it.TotalG()
				}
			}
			assert.InDelta(t, packed, s.Have.Total(), 1, "%+v stop %d", whatIf, i)
			assert.GreaterOrEqual(t, s.Have.Water, -1e-9)
		}
	}
}

// The start of a trip is the plain plan of its kit.
func TestTheStartIsThePlainPlan(t *testing.T) {
	t.Parallel()
	task := walker(t)
	stops := days.Stops(task, days.WhatIf{Full: true}, nil, quick)
	plain := verdict.Of(task, quick)
	assert.Equal(t, plain.Plan.Arrangement(), stops[0].Judged.Plan.Arrangement())
	assert.InDelta(t, plain.Balance.MassG, stops[0].Judged.Balance.MassG, 1e-6)
}

// The lone walker: a start, five legs, three nights. Meals, gas and water as the trip works them out: all day food
// is eaten at the end but the spare meal, the gas is what eight litres and some boiled take (trade sheet: 12 to 15
// g a litre), the long dry stretch is the heaviest water.
func TestTheLoneWalker(t *testing.T) {
	t.Parallel()
	task := walker(t)
	stops := days.Stops(task, days.WhatIf{}, nil, quick)
	kinds := map[days.Kind]int{}
	for _, s := range stops {
		kinds[s.Kind]++
	}
	assert.Equal(t, map[days.Kind]int{days.Start: 1, days.LegEnd: 2, days.Evening: 3, days.Morning: 3}, kinds)
	last := stops[len(stops)-1]
	spare := 0.0
	for _, it := range task.Items {
		if it.Kind == "spare-meal" {
			spare = it.TotalG()
		}
	}
	assert.InDelta(t, spare, last.Have.Food, 1)
	burned, boiled := 0.0, trail.BoiledL(task.Trip.Meals())
	for _, s := range stops {
		burned += s.Burned
		assert.False(t, s.Empty, "%s, day %d: it was planned with enough water", s.Place, s.Day)
	}
	assert.Greater(t, burned/boiled, 12.0)
	assert.Less(t, burned/boiled, 19.0)
	most := 0
	for i, s := range stops[1:] {
		if s.Have.Water >= stops[most].Have.Water-1 || most == 0 {
			most = i + 1
		}
	}
	assert.Equal(t, 2, stops[most].Day, "before the stretch with the dry cave")
	assert.Greater(t, stops[0].Judged.Balance.MassG, last.Judged.Balance.MassG)
	assert.Greater(t, stops[most].Judged.Balance.MassG, stops[0].Judged.Balance.MassG,
		"the water carried over the dry stretch is the hardest moment for weight")
}

// Things keep their places from morning to morning: fewer are moved than when each stop is planned from nothing.
func TestHabitsLast(t *testing.T) {
	t.Parallel()
	stops := days.Stops(walker(t), days.WhatIf{}, nil, quick)
	days.FromNothing(stops, quick)
	moved, fresh := 0, 0
	for _, s := range stops[1:] {
		moved += len(s.Moves)
		fresh += s.Fresh
	}
	t.Logf("%d things moved on the way, %d when each stop is planned from nothing", moved, fresh)
	assert.LessOrEqual(t, moved, fresh)
}

// What if: rain makes the shelter heavier by a quarter, a companion's load is six kilograms more, a source that
// has run dry makes the stretch before it longer.
func TestWhatIf(t *testing.T) {
	t.Parallel()
	plain := days.Stops(walker(t), days.WhatIf{}, nil, hasty)
	wet := days.Stops(walker(t), days.WhatIf{Rain: true}, nil, hasty)
	heavy := days.Stops(walker(t), days.WhatIf{Companion: true}, nil, hasty)
	dry := days.Stops(walker(t), days.WhatIf{Dry: []int{1}}, nil, hasty)
	require.Len(t, wet, len(plain))
	for i := range wet {
		if wet[i].Kind == days.Morning {
			assert.Greater(t, wet[i].Have.Wet, 100.0)
			assert.Equal(t, wet[i].Have.Wet, plain[i].Have.Wet, "wet from the night, rain or dew")
		}
		if wet[i].Day > 1 && wet[i].Kind == days.LegEnd {
			assert.Greater(t, wet[i].Have.Wet, 100.0, "in steady rain it dries at no halt")
			assert.Zero(t, plain[i].Have.Wet, "six days of ten have rain: the noon halt is dry")
		}
		assert.InDelta(t, 6000, heavy[i].Have.Total()-plain[i].Have.Total(), 1)
	}
	assert.Greater(t, dry[0].Have.Water, plain[0].Have.Water,
		"what the dry source does not give is carried from the start")
	assert.Zero(t, dry[1].Filled)
	hardest := days.Hardest(plain, "weight")
	assert.Contains(t, []int{1, 2}, hardest, "the water for the dry stretch makes the heaviest pack, not the start")
	assert.Equal(t, hardest, days.Hardest(heavy, "weight"))
}

// A trip without legs has a day's walking each day; one of a single day has one way.
func TestTripsWithoutLegs(t *testing.T) {
	t.Parallel()
	task := walker(t)
	task.Trip.Legs = nil
	stops := days.Stops(task, days.WhatIf{}, nil, hasty)
	assert.Len(t, stops, 1+task.Trip.Days+task.Trip.Nights)
	task.Trip.Days, task.Trip.Nights, task.Trip.Start, task.Trip.End = 1, 0, "", ""
	assert.Len(t, days.Stops(task, days.WhatIf{}, nil, hasty), 2)
}

func BenchmarkTheWay(b *testing.B) {
	task := walker(b)
	for b.Loop() {
		begin := time.Now()
		stops := days.Stops(task, days.WhatIf{}, nil, quick)
		b.ReportMetric(time.Since(begin).Seconds()/float64(len(stops)), "s/stop")
		if math.IsNaN(stops[0].Have.Total()) {
			b.Fatal()
		}
	}
}

// What is not carried is bought where there is a shop, just so much as is wanted up to the next one; where it is
// shut, or there is none, the meals that nothing is there for are counted.
func TestTheShop(t *testing.T) {
	t.Parallel()
	task := walker(t)
	task.Items = slices.DeleteFunc(slices.Clone(task.Items), func(it kit.Item) bool { return it.Day >= 3 })
	sums := func(whatIf days.WhatIf) (bought float64, hungry int) {
		for _, s := range days.Stops(task, whatIf, nil, hasty) {
			bought, hungry = bought+s.Bought, hungry+s.Hungry
		}
		return bought, hungry
	}
	bought, without := sums(days.WhatIf{})
	assert.Zero(t, bought)
	assert.Positive(t, without)
	task.Trip.Legs[1].Shop = true
	bought, hungry := sums(days.WhatIf{})
	assert.Zero(t, hungry)
	assert.InDelta(t, 760*float64(without)/3, bought, 200, "the lone walker eats 760 g a day, in three meals")
	bought, hungry = sums(days.WhatIf{Shut: []int{2}})
	assert.Zero(t, bought)
	assert.Equal(t, without, hungry)
	_, longer := sums(days.WhatIf{Shut: []int{2}, Night: true})
	assert.Equal(t, without+3, longer, "a day more without food")
}

// What a wet night leaves in the shelter is lost at the noon halt of the next day, once, where rain is not likely then
// too; a leg later nothing is left to dry.
func TestTheShelterDriesAtNoon(t *testing.T) {
	t.Parallel()
	for rain, dries := range map[float64]bool{0.39: false, 0.4: true, 0.69: true, 0.7: false, 1: false} {
		if sample.Small() && rain != 0.4 && rain != 0.7 {
			continue
		}
		task := walker(t)
		task.Trip.Rain = rain
		wet, dried := 0.0, 0.0
		for _, s := range days.Stops(task, days.WhatIf{}, nil, hasty) {
			if s.Kind == days.Morning {
				wet += s.Have.Wet
			}
			dried += s.Dried
			if s.Dried > 0 {
				assert.Zero(t, s.Have.Wet)
			}
		}
		if dries {
			assert.Positive(t, dried, "%v", rain)
			assert.InDelta(t, wet, dried, 1e-6, "%v: what each night leaves, each noon takes", rain)
		} else {
			assert.Zero(t, dried, "%v", rain)
		}
		assert.Equal(t, rain >= 0.4, wet > 0, "%v", rain)
	}
}
