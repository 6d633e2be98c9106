package trail

import (
	"fmt"
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/unit"
)

// Supply is something the trip makes necessary: a line for the kit list and why it is as much as it is.
type Supply struct {
	Key   string // "food-2", "gas", "water"
	Name  string
	Kind  string // of the table of kinds
	Count int
	MassG float64 // of one
	Shape kit.Shape
	Day   int
	Why   fact.Fact
}

// Food figures. The mass a day is common practice (454 g is light, 700 to 900 g for hard days); the shares of the
// meals and the mass of single meals are our estimates. A day's energy is a round figure for walking under a pack
// (common practice); what dry trail food holds follows from its make-up by Atwater's factors: of 100 g, protein,
// carbohydrate and fat.
const (
	DefaultGramsADay = 800.0
	DefaultKcalADay  = 3200.0
	proteinG         = 12.0
	carbohydrateG    = 55.0
	fatG             = 22.0
	foodLoose        = 3.1 // litres a kilogram, in thin bags
	foodTight        = 2.3
)

// MealShare is the share of a day's food that a meal takes; lunch with what is eaten on the move.
var MealShare = map[Meal]float64{Breakfast: 0.22, Lunch: 0.38, Dinner: 0.40}
var mealG = map[Meal]float64{Breakfast: 150, Lunch: 320, Dinner: 190}

// KcalPerG is the energy of food of the given make-up in grams, by Atwater's factors 4, 4 and 9 kcal/g.
func KcalPerG(protein, carbohydrate, fat, total float64) float64 {
	return (4*protein + 4*carbohydrate + 9*fat) / total
}

// foodADay is the grams of a whole day's food under a school, and how that comes.
func (t *Trip) foodADay(school string) (grams float64, why fact.Fact) {
	if school == "energy" {
		kcal := orDefault(t.Eating.KcalADay, DefaultKcalADay)
		density := KcalPerG(proteinG, carbohydrateG, fatG, 100)
		return kcal / density, fact.Of("trail.by-energy", kcal, density)
	}
	grams = orDefault(t.Eating.GramsADay, DefaultGramsADay)
	return grams, fact.Of("trail.by-mass", fact.Grams(grams))
}

// Stove and fuel figures. Water boiled at a meal and for its drinks is our estimate. Heat: 4.186 kJ/(kg K) for water,
// 334 kJ/kg to melt ice, 46 MJ/kg for the usual gas mix (from memory).
const (
	heatKJ           = 4.186
	meltKJ           = 334.0
	gasKJ            = 46.0 // per gram
	Efficiency       = 0.5
	StreamC          = 8.0 // degrees of a stream's water
	gasReserve       = 1.15
	breakfastBoiledL = 0.7
	dinnerBoiledL    = 1.1
)

// GasG is the grams of gas that bring water from a temperature in degrees Celsius to the boil, at an efficiency from
// 0 to 1; snow is melted first. A litre from 20 degrees takes 14.6 g at one half.
func GasG(litres, fromC float64, snow bool, efficiency float64) float64 {
	heat := heatKJ * (100 - fromC)
	if snow {
		heat = heatKJ*100 + meltKJ
	}
	return litres * heat / gasKJ / efficiency
}

// canister is a size of gas canister by what it holds; the kind says what it weighs full.
type canister struct {
	netG float64
	kind string
}

var canisters = []canister{{450, "gas-canister-large"}, {230, "gas-canister"}, {100, "gas-canister-small"}}

// canistersFor chooses the lightest set that holds so much gas: at most one size is short of full use.
func canistersFor(gasG float64) (best []int) {
	best = make([]int, len(canisters))
	bestG := math.Inf(1)
	most := func(i int) int { return int(math.Ceil(gasG / canisters[i].netG)) }
	for a := range most(0) + 1 {
		for b := range most(1) + 1 {
			left := gasG - float64(a)*canisters[0].netG - float64(b)*canisters[1].netG
			c := max(0, int(math.Ceil(left/canisters[2].netG)))
			total := 0.0
			for i, n := range []int{a, b, c} {
				kind, _ := kit.KindOf(canisters[i].kind)
				total += float64(n) * kind.MassG
			}
			if total < bestG-1e-9 {
				best, bestG = []int{a, b, c}, total
			}
		}
	}
	return best
}

// Supplies works out what to carry: food by the school chosen and one spare meal, gas for what is boiled, water for
// the thirstiest stretch. It needs start and end, or at least days.
func (t *Trip) Supplies(m method.Method) []Supply {
	days := t.Meals()
	list := t.food(days, m.Food)
	list = append(list, t.gas(days)...)
	return append(list, t.water(m.Water)...)
}

// food packs a bag a day, or counts single meals.
func (t *Trip) food(days [][]Meal, school string) []Supply {
	n := Count(days)
	if n[Breakfast]+n[Lunch]+n[Dinner] == 0 {
		return nil
	}
	spare := t.supply("spare-meal", "Spare meal", "spare-meal", 1, mealG[Dinner], 0, fact.Of("trail.spare-meal"))
	var list []Supply
	if school == "meals" {
		for _, m := range []Meal{Breakfast, Lunch, Dinner} {
			if n[m] > 0 {
				kind := string(m)
				list = append(list, t.supply(kind, unit.Capital(kind), kind, n[m], mealG[m], 0, mealsBetween(n[m], m)))
			}
		}
		return append(list, spare)
	}
	aDay, why := t.foodADay(school)
	for d, meals := range days {
		share := 0.0
		var names []string
		for _, m := range meals {
			share += MealShare[m]
			names = append(names, string(m))
		}
		if share > 0 {
			list = append(list, t.supply(fmt.Sprintf("food-%d", d+1), fmt.Sprintf("Food, day %d", d+1), "food-day", 1,
				share*aDay, d+1,
				fact.Of("trail.day-food", fact.Names(names), share*100, why)))
		}
	}
	return append(list, spare)
}

func mealsBetween(n int, m Meal) fact.Fact {
	if n == 1 {
		return fact.Of("trail.meal", string(m), MealTime(m))
	}
	return fact.Of("trail.meals", n, string(m), MealTime(m))
}

// supply is a line of food of so many grams.
func (t *Trip) supply(key, name, kind string, count int, grams float64, day int, why fact.Fact) Supply {
	grams = math.Round(grams/10) * 10
	shape := kit.Shape{Kind: kit.Soft, LooseL: hundredths(grams / 1000 * foodLoose),
		TightL: hundredths(grams / 1000 * foodTight), GapCm: 2}
	return Supply{key, name, kind, count, grams, shape, day, why}
}

// BoiledL is the litres brought to the boil on the trip.
func BoiledL(days [][]Meal) float64 {
	n := Count(days)
	return float64(n[Breakfast])*breakfastBoiledL + float64(n[Dinner])*dinnerBoiledL
}

// snowy reports whether a day's water is melted from snow.
func (t *Trip) snowy() bool {
	return slices.ContainsFunc(t.Legs, func(l Leg) bool { return l.Snow })
}

func (t *Trip) gas(days [][]Meal) []Supply {
	litres := BoiledL(days)
	if litres == 0 {
		return nil
	}
	efficiency := orDefault(t.Eating.Efficiency, Efficiency)
	need := GasG(litres, StreamC, t.snowy(), efficiency) * gasReserve
	source := fact.Of("trail.from-stream", fact.Celsius(StreamC))
	if t.snowy() {
		source = fact.Of("trail.from-snow")
	}
	why := fact.Of("trail.gas", fact.Water(litres), source, fact.Grams(need), 100*(gasReserve-1))
	var list []Supply
	for i, count := range canistersFor(need) {
		if count > 0 {
			kind, _ := kit.KindOf(canisters[i].kind)
			key := "gas"
			if len(list) > 0 {
				key = fmt.Sprintf("gas-%d", len(list)+1)
			}
			list = append(list, Supply{key, fmt.Sprintf("%s (%.0f g gas)", kind.Name, canisters[i].netG), kind.ID, count,
				kind.MassG, kind.Shape, 0, why})
		}
	}
	return list
}

// water fills a two-litre bag first where the school wants water in the sleeve, and bottles with the rest.
func (t *Trip) water(school string) []Supply {
	litres := math.Ceil(t.WaterL()*2-1e-9) / 2
	why := fact.Of("trail.mild-day", fact.Water(t.WaterL()))
	if t.DayHigh != nil && *t.DayHigh > mildC {
		why = fact.Of("trail.warm-day", fact.Water(t.WaterL()), fact.Celsius(*t.DayHigh))
	}
	if s, ok := t.Thirstiest(); ok {
		why = fact.Of("trail.stretch", s.Legs(), s.Hours, fact.Water(t.LitresAnHour()), dryNights(s.DryCamps),
			fact.Water(reserveL), fact.Water(s.Litres))
	}
	var list []Supply
	add := func(key, kindID string, count int) {
		kind, _ := kit.KindOf(kindID)
		list = append(list, Supply{key, kind.Name, kind.ID, count, kind.MassG, kind.Shape, 0, why})
	}
	if school == "sleeve" && litres >= 2 {
		add("water", "water-bag", 1)
		litres -= 2
	}
	if litres > 0 {
		add("water-bottles", "bottle", int(math.Ceil(litres-1e-9)))
	}
	return list
}

// Legs names the legs of the stretch, counted from one.
func (s Stretch) Legs() fact.Fact {
	if s.From == s.To {
		return fact.Of("trail.leg", s.From+1)
	}
	return fact.Of("trail.legs", s.From+1, s.To+1)
}

func dryNights(n int) fact.Fact {
	switch n {
	case 0:
		return fact.Fact{}
	case 1:
		return fact.Of("trail.dry-night")
	}
	return fact.Of("trail.dry-nights", n)
}

func orDefault(v, otherwise float64) float64 {
	if v > 0 {
		return v
	}
	return otherwise
}

func hundredths(v float64) float64 { return math.Round(v*100) / 100 }

// ShelterShareG is the most that a shelter should weigh for each of its sleepers (common practice).
const ShelterShareG = 1500

// ShelterLight reports whether a shelter of the given mass in grams is light enough for its sleepers.
func ShelterLight(massG float64, sleepers int) bool {
	return sleepers > 0 && massG <= ShelterShareG*float64(sleepers)
}
