package trail

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/method"
)

// Start after lunch on day 1, finish by noon on day 3: two dinners, two breakfasts, one lunch (common practice).
func TestTwoNightsFromAfterLunchToBeforeNoon(t *testing.T) {
	t.Parallel()
	trip := Trip{Start: "2026-09-04T13:00", End: "2026-09-06T11:30"}
	n := Count(trip.Meals())
	assert.Equal(t, map[Meal]int{Dinner: 2, Breakfast: 2, Lunch: 1}, n)
	start, end, ok := trip.Times()
	require.True(t, ok)
	days, nights := Span(start, end)
	assert.Equal(t, []int{3, 2}, []int{days, nights})
	m := method.Default()
	m.Food = "meals"
	counts := map[string]int{}
	for _, s := range trip.Supplies(m) {
		counts[s.Key] = s.Count
	}
	assert.Equal(t, 2, counts["dinner"])
	assert.Equal(t, 2, counts["breakfast"])
	assert.Equal(t, 1, counts["lunch"])
	assert.Equal(t, 1, counts["spare-meal"])
}

// 15 g of gas a litre from 20 degrees at one half: 4.186 x 80 kJ over 46 kJ/g, twice (physics).
func TestGas(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 15, GasG(1, 20, false, 0.5), 0.5)
	assert.InDelta(t, 4.186*80/46*2, GasG(1, 20, false, 0.5), 1e-9)
	extra := GasG(1, 0, true, 0.5) - GasG(1, 0, false, 0.5)
	assert.InDelta(t, 334.0/46/0.5, extra, 1e-9, "snow costs more by its latent heat")
}

func TestCanistersHoldTheGasAndNoFewerWould(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		need := rapid.Float64Range(1, 1500).Draw(t, "need")
		held := 0.0
		smallest := 0.0
		for i, n := range canistersFor(need) {
			held += float64(n) * canisters[i].netG
			if n > 0 {
				smallest = canisters[i].netG
			}
		}
		assert.GreaterOrEqual(t, held, need-1e-9)
		assert.Less(t, held-smallest, need, "without its smallest canister the set would not do")
	})
}

// Atwater: 4, 4 and 9 kcal/g; pure fat holds 9, pure sugar 4.
func TestEnergyOfFood(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 9, KcalPerG(0, 0, 100, 100), 1e-9)
	assert.InDelta(t, 4, KcalPerG(0, 100, 0, 100), 1e-9)
	trip := Trip{Start: "2026-09-04T06:00", End: "2026-09-04T22:00", Eating: Eating{KcalADay: 4660}}
	m := method.Default()
	m.Food = "energy"
	food := trip.Supplies(m)[0]
	assert.InDelta(t, 1000, food.MassG, 5, "a day of 4660 kcal at 4.66 kcal/g is a kilogram")
}

// 4.2 kg of shelter for three is fine, 1.4 kg each (common practice).
func TestShelterShare(t *testing.T) {
	t.Parallel()
	assert.True(t, ShelterLight(4200, 3))
	assert.False(t, ShelterLight(4600, 3))
}

func TestWaterFollowsTheThirstiestStretch(t *testing.T) {
	t.Parallel()
	trip := Trip{Legs: []Leg{{Day: 1, Km: 8, Hours: 3, Water: true}, {Day: 1, Km: 6, Hours: 2},
		{Day: 2, Km: 12, Hours: 5, Water: true}, {Day: 2, Km: 5, Hours: 1}}}
	s, ok := trip.Thirstiest()
	require.True(t, ok)
	assert.Equal(t, Stretch{1, 2, 7, 1, 7*0.3 + 2 + 0.5}, s)
	hot := 28.0
	trip.DayHigh = &hot
	assert.InDelta(t, 0.3+12*0.02, trip.LitresAnHour(), 1e-9)
	var litres float64
	for _, supply := range trip.Supplies(method.Default()) {
		switch supply.Key {
		case "water":
			litres += 2
		case "water-bottles":
			litres += float64(supply.Count)
		}
	}
	assert.GreaterOrEqual(t, litres, trip.WaterL(), "the bottles hold what is needed")
	assert.Less(t, litres, trip.WaterL()+1)
}

// Naismith: 5 km and 600 m of climb take two hours (from memory).
func TestWalkingTime(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 2, Leg{Km: 5, ClimbM: 600}.Walking(), 1e-9)
	assert.InDelta(t, 4, Leg{Km: 5, ClimbM: 600, Hours: 4}.Walking(), 1e-9)
	assert.InDelta(t, 2.5, Leg{Km: 5, ClimbM: 600, Pace: 1.25}.Walking(), 1e-9, "a quarter slower than the rule")
	assert.InDelta(t, 4, Leg{Km: 5, ClimbM: 600, Hours: 4, Pace: 1.25}.Walking(), 1e-9, "stated hours are the walker's own")
	assert.InDelta(t, 2, Leg{Km: 5, ClimbM: 600, Hours: 4, Pace: 1.25}.Rule(), 1e-9)
}

func TestColderNightsWantThickerMats(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		a := rapid.Float64Range(-40, 30).Draw(t, "a")
		b := rapid.Float64Range(-40, 30).Draw(t, "b")
		assert.LessOrEqual(t, matFor(max(a, b)), matFor(min(a, b))+1e-9)
	})
	assert.InDelta(t, 3, matFor(0), 1e-9)
	assert.InDelta(t, 3.5, matFor(-2.5), 1e-9)
}

func TestMealsNeverOutsideTheTrip(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		start, _ := ParseTime("2026-03-01T00:00")
		begin := start.Add(time.Duration(rapid.IntRange(0, 3000).Draw(t, "start")) * time.Minute)
		end := begin.Add(time.Duration(rapid.IntRange(1, 20000).Draw(t, "long")) * time.Minute)
		trip := Trip{Start: FormatTime(begin), End: FormatTime(end)}
		n := Count(trip.Meals())
		whole := int(end.Sub(begin).Hours() / 24)
		for _, m := range []Meal{Breakfast, Lunch, Dinner} {
			assert.GreaterOrEqual(t, n[m], whole)
			assert.LessOrEqual(t, n[m], whole+1)
		}
	})
}

// Two nights from after lunch to before noon, by hand: two breakfasts and two dinners boil 2 x 0.7 + 2 x 1.1 = 3.6
// L; from 8 degrees that is 3.6 x 4.186 x 92 / 46 / 0.5 = 60.3 g of gas, 69.3 g with 15 % in reserve: one small
// canister.
func TestGasForTwoNights(t *testing.T) {
	t.Parallel()
	trip := Trip{Start: "2026-09-04T13:00", End: "2026-09-06T11:30"}
	assert.InDelta(t, 3.6, BoiledL(trip.Meals()), 1e-9)
	assert.InDelta(t, 60.28, GasG(3.6, 8, false, Efficiency), 0.01)
	gas := func() (list []Supply) {
		for _, s := range trip.Supplies(method.Default()) {
			if s.Kind == "gas-canister" || s.Kind == "gas-canister-small" || s.Kind == "gas-canister-large" {
				list = append(list, s)
			}
		}
		return list
	}
	require.Len(t, gas(), 1)
	assert.Equal(t, "gas-canister-small", gas()[0].Kind)
	assert.Contains(t, fmt.Sprintf("%.0f", gas()[0].Why.Values[2]), "69")
	// From snow it is 3.6 x (418.6 + 334) / 46 / 0.5 = 117.8 g, 135.5 g with the reserve: more than a small one
	// holds.
	trip.Legs = []Leg{{Day: 1, Km: 5, Snow: true}}
	require.Len(t, gas(), 1)
	assert.Equal(t, "gas-canister", gas()[0].Kind)
	assert.Contains(t, fmt.Sprintf("%.0f", gas()[0].Why.Values[2]), "135")
	// A stove twice as good takes half.
	trip.Eating.Efficiency = 1
	assert.Equal(t, "gas-canister-small", gas()[0].Kind)
}

// The figures of the trade this package works with, each once by hand; where a figure is ours the doc comment says
// so.
func TestFiguresByHand(t *testing.T) {
	t.Parallel()
	m := method.Default()
	m.Food = "meals"
	trip := Trip{Start: "2026-09-04T06:00", End: "2026-09-04T22:00"}
	grams := map[string]float64{}
	for _, s := range trip.Supplies(m) {
		grams[s.Key] = s.MassG
	}
	assert.Equal(t, map[string]float64{"breakfast": 150, "lunch": 320, "dinner": 190, "spare-meal": 190},
		map[string]float64{"breakfast": grams["breakfast"], "lunch": grams["lunch"], "dinner": grams["dinner"],
			"spare-meal": grams["spare-meal"]})
	m.Food = "weight"
	food := trip.Supplies(m)[0]
	assert.InDelta(t, 800, food.MassG, 1e-9, "a whole day at 800 g")
	assert.InDelta(t, 0.8*3.1, food.Shape.LooseL, 1e-9)
	assert.InDelta(t, 0.8*2.3, food.Shape.TightL, 1e-9)
	m.Food = "energy"
	assert.InDelta(t, 690, trip.Supplies(m)[0].MassG, 1e-9, "3200 kcal at 4.66 kcal/g is 687 g, to ten")
	assert.Equal(t, []int{2, 0, 0}, canistersFor(900))
	assert.Equal(t, []int{0, 1, 0}, canistersFor(230))
	assert.Equal(t, []int{0, 0, 1}, canistersFor(100))
	for low, r := range map[float64]float64{15: 1.5, 10: 1.5, 7.5: 1.75, 5: 2, 0: 3, -5: 4, -10: 5, -15: 5.75, -20: 6.5,
		-30: 6.5} {
		assert.InDelta(t, r, matFor(low), 1e-9, "at %v degrees", low)
	}
	for meal, at := range map[Meal]string{Breakfast: "7:30", Lunch: "12:30", Dinner: "19:00", "brunch": ""} {
		assert.Equal(t, at, MealTime(meal))
	}
	mild := 16.0
	assert.InDelta(t, 0.3, (&Trip{DayHigh: &mild}).LitresAnHour(), 1e-9)
	assert.InDelta(t, 0.3, (&Trip{}).LitresAnHour(), 1e-9)
	assert.InDelta(t, 0.7, (&Trip{Eating: Eating{LitresAnHr: 0.7}}).LitresAnHour(), 1e-9)
	speed, grade := Leg{Km: 9, ClimbM: 450, Hours: 2.5}.Speed()
	assert.InDelta(t, 1, speed, 1e-9, "9 km in 2.5 h")
	assert.InDelta(t, 5, grade, 1e-9, "450 m in 9 km")
	speed, _ = Leg{}.Speed()
	assert.Zero(t, speed)
	one, _ := time.Parse(time.DateTime, "2026-09-04 23:00:00")
	days, nights := Span(one, one.Add(2*time.Hour))
	assert.Equal(t, []int{2, 1}, []int{days, nights}, "over midnight")
	_, _, ok := (&Trip{Start: "2026-09-04T13:00", End: "2026-09-04T13:00"}).Times()
	assert.False(t, ok, "a trip that ends as it begins")
}

// Why so much: one leg or several, a dry night or none; a thirst of its own.
func TestWhySoMuchWater(t *testing.T) {
	t.Parallel()
	trip := Trip{Legs: []Leg{{Day: 1, Km: 10, Hours: 4, Water: true}}}
	why := func() string {
		for _, s := range trip.Supplies(method.Default()) {
			if s.Kind == "water-bag" || s.Kind == "bottle" {
				return fmt.Sprint(s.Why)
			}
		}
		return ""
	}
	assert.Contains(t, why(), "{trail.leg [1]} 4")
	assert.NotContains(t, why(), "dry-night")
	trip.Legs = []Leg{{Day: 1, Km: 6, Hours: 2}, {Day: 2, Km: 12, Hours: 5, Water: true}}
	assert.Contains(t, why(), "trail.legs [1 2]")
	assert.Contains(t, why(), "trail.dry-night ")
}

// How water is carried, by hand: two litres in a bag where the school wants one, the rest in bottles of a litre; half
// litres are not cut off, and a warm day is no mild one.
func TestHowWaterIsCarried(t *testing.T) {
	t.Parallel()
	degrees := func(c float64) *float64 { return &c }
	for _, c := range []struct {
		trip          Trip
		school        string
		bags, bottles int
		why           string
	}{
		{Trip{}, "sleeve", 1, 0, "trail.mild-day"},
		{Trip{}, "bottles", 0, 2, "trail.mild-day"},
		{Trip{DayHigh: degrees(16)}, "bottles", 0, 2, "trail.mild-day"},
		{Trip{DayHigh: degrees(17)}, "bottles", 0, 3, "trail.warm-day"},          // 2.13 L
		{Trip{DayHigh: degrees(22)}, "sleeve", 1, 1, "trail.warm-day"},           // 2.8 L
		{Trip{Legs: []Leg{{Day: 1, Hours: 4}}}, "sleeve", 1, 0, "trail.stretch"}, // 1.7 L, to the half litre above
		{Trip{Legs: []Leg{{Day: 1, Hours: 3}}}, "sleeve", 0, 2, "trail.stretch"}, // 1.4 L
		{Trip{Legs: []Leg{{Day: 1, Hours: 5}}}, "sleeve", 1, 0, "trail.stretch"}, // exactly two litres
		{Trip{Legs: []Leg{{Day: 1, Hours: 5}, {Day: 2, Hours: 5}}}, "sleeve", 1, 4, "trail.stretch"},
	} {
		var bags, bottles int
		for _, s := range c.trip.water(c.school) {
			bags += s.Count * one(s.Kind == "water-bag")
			bottles += s.Count * one(s.Kind == "bottle")
			assert.Contains(t, fmt.Sprint(s.Why), c.why)
		}
		assert.Equal(t, []int{c.bags, c.bottles}, []int{bags, bottles}, "%+v", c)
	}
}

func one(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// Two kinds of canisters have two keys; what is said of the gas is what was reckoned with.
func TestGasInTwoKindsOfCanisters(t *testing.T) {
	t.Parallel()
	for nights := 2; nights < 30; nights++ {
		trip := Trip{Days: nights + 1, Nights: nights}
		seen := map[string]bool{}
		kinds := 0
		for _, s := range trip.gas(trip.Meals()) {
			assert.False(t, seen[s.Key], "%s stands twice", s.Key)
			seen[s.Key] = true
			kinds++
			assert.Contains(t, fmt.Sprint(s.Why), "trail.gas")
			assert.Contains(t, fmt.Sprint(s.Why), fmt.Sprint(100*(gasReserve-1)))
		}
		assert.Equal(t, kinds > 0, seen["gas"])
		assert.Equal(t, kinds > 1, seen["gas-2"])
	}
	assert.Nil(t, (&Trip{}).gas(nil), "nothing is boiled")
	assert.Len(t, (&Trip{}).Meals(), 1, "a trip of which nothing is known is a day")
	assert.Len(t, (&Trip{Days: 3}).Meals(), 3)
}

// The way is cut where there is water, by hand: three tenths of a litre an hour, two for a dry night, half in reserve.
func TestStretchesByHand(t *testing.T) {
	t.Parallel()
	trip := Trip{Legs: []Leg{{Day: 1, Hours: 2, Water: true}, {Day: 1, Hours: 3}, {Day: 3, Hours: 1},
		{Day: 3, Hours: 4, Shop: true},
		{Day: 4, Hours: 1}}}
	want := []Stretch{{0, 0, 2, 0, 1.1}, {1, 3, 8, 2, 6.9}, {4, 4, 1, 0, 0.8}}
	got := trip.Stretches()
	require.Len(t, got, len(want))
	for i := range want {
		assert.InDelta(t, want[i].Litres, got[i].Litres, 1e-9)
		got[i].Litres = want[i].Litres
		assert.Equal(t, want[i], got[i])
	}
	most, ok := trip.Thirstiest()
	assert.True(t, ok)
	assert.Equal(t, 1, most.From)
	same := Trip{Legs: []Leg{{Day: 1, Hours: 2, Water: true}, {Day: 1, Hours: 2, Water: true}}}
	most, _ = same.Thirstiest()
	assert.Equal(t, 0, most.To, "of two alike the first")
	_, ok = (&Trip{}).Thirstiest()
	assert.False(t, ok)
	_, grade := Leg{Km: 1, ClimbM: 900, Hours: 3}.Speed()
	assert.Equal(t, 60.0, grade, "steeper than any path")
	_, grade = Leg{Km: 1, ClimbM: 599, Hours: 3}.Speed()
	assert.InDelta(t, 59.9, grade, 1e-9)
	for _, none := range []Leg{{Km: 0, ClimbM: 100, Hours: 1}, {Km: -1, Hours: 1}} {
		speed, grade := none.Speed()
		assert.Equal(t, []float64{0, 0}, []float64{speed, grade})
	}
}

// Nights in one place: two in a row, and only if the place has a name.
func TestStays(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		places []string
		want   string
	}{{nil, ""}, {[]string{"a"}, ""}, {[]string{"a", "b", "a"}, ""}, {[]string{"", ""}, ""}, {[]string{"a", "b", "b"}, "b"}} {
		trip := Trip{}
		for _, place := range c.places {
			trip.Camps = append(trip.Camps, Camp{Place: place})
		}
		place, ok := trip.Stays()
		assert.Equal(t, c.want, place)
		assert.Equal(t, c.want != "", ok)
	}
}

// A trip of three days without times begins after breakfast and ends in the afternoon (our estimate): no meal is
// carried for the first morning or the last evening.
func TestMealsOfATripWithoutTimes(t *testing.T) {
	t.Parallel()
	trip := Trip{Days: 3}
	assert.Equal(t, [][]Meal{{Lunch, Dinner}, {Breakfast, Lunch, Dinner}, {Breakfast, Lunch}}, trip.Meals())
	assert.Equal(t, [][]Meal{{Lunch}}, (&Trip{Days: 1}).Meals(), "a day out")
}

// A bag of food a day is named for its day, and says which meals are in it and what share of a day that is.
func TestABagOfFoodADay(t *testing.T) {
	t.Parallel()
	trip := Trip{Start: "2026-09-04T13:00", End: "2026-09-06T11:30", Days: 3, Nights: 2, Carrier: Carrier{MassKg: 70, HeightCm: 175, Age: 40}}
	m := method.Default()
	m.Food = "figure"
	var days []Supply
	for _, s := range trip.Supplies(m) {
		if s.Day > 0 {
			days = append(days, s)
		}
	}
	require.Len(t, days, 3)
	for d, s := range days {
		assert.Equal(t, []string{fmt.Sprint("food-", d+1), fmt.Sprint("Food, day ", d+1)}, []string{s.Key, s.Name})
		assert.Equal(t, d+1, s.Day)
	}
	assert.Contains(t, fmt.Sprint(days[1].Why), fmt.Sprint([]string{"breakfast", "lunch", "dinner"}))
	share := 0.0
	for _, meal := range []Meal{Breakfast, Lunch, Dinner} {
		share += MealShare[meal]
	}
	assert.Contains(t, fmt.Sprint(days[1].Why), fmt.Sprint(share*100))
	assert.InDelta(t, days[1].MassG*MealShare[Breakfast]/share, days[2].MassG, 20, "the last has its breakfast only")
}

// The factors of the load-carriage equation (after Soule and Goldman, 1972, from memory): the better the ground, the
// lower, and a shelter for nobody is not light.
func TestGroundAndShelterByHand(t *testing.T) {
	t.Parallel()
	for ground, want := range map[string]float64{"road": 1, "rough": 1.5, "scramble": 1.5, "snow": 1.6, "ski": 1.6, "bog": 2.1, "sand": 2.1} {
		assert.InDelta(t, want, Roughness(ground), 1e-9, ground)
	}
	assert.True(t, ShelterLight(1500, 1))
	assert.False(t, ShelterLight(1501, 1))
	assert.False(t, ShelterLight(0, 0))
}
