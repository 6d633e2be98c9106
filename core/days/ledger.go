package days

import (
	"maps"
	"math"
	"slices"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/trail"
)

// ledger is what is left of everything.
type ledger struct {
	task    *job.Task
	whatIf  WhatIf
	left    map[string]float64 // grams of food and fuel, by id
	water   float64            // litres
	wet     bool
	rubbish float64
	emptied map[string]bool // vessels that were left behind, by id
	eaten   map[mealAt]bool
	hungry  int // meals for which there was nothing
}

// mealAt is a meal of a day.
type mealAt struct {
	day  int
	meal trail.Meal
}

func newLedger(task *job.Task, whatIf WhatIf) *ledger {
	own := *task
	own.Trip.Legs = slices.Clone(task.Trip.Legs)
	if whatIf.Night {
		stay(&own.Trip)
	}
	if len(own.Trip.Legs) == 0 {
		for day := range max(1, own.Trip.Days) {
			own.Trip.Legs = append(own.Trip.Legs, trail.Leg{Day: day + 1, Hours: usualHours, Water: true})
		}
	}
	for _, leg := range whatIf.Dry {
		if leg >= 1 && leg <= len(own.Trip.Legs) {
			own.Trip.Legs[leg-1].Water = false
		}
	}
	if whatIf.Rain {
		own.Trip.Rain = 1
	}
	l := &ledger{task: &own, whatIf: whatIf, left: map[string]float64{}, eaten: map[mealAt]bool{},
		emptied: map[string]bool{}}
	if whatIf.Companion {
		own.Items = append(slices.Clone(task.Items),
			kit.Item{ID: "companions-load", Name: "A companion's load", Group: "other", Count: 1, MassG: companionG,
				Shape: kit.Shape{Kind: kit.Soft, LooseL: companionL, TightL: companionL * 0.7, GapCm: 3}, Measured: kit.Guess,
				Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 1}})
	}
	for i := range own.Items {
		it := &own.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		switch it.Consumable {
		case "food", "fuel":
			l.left[it.ID] = it.TotalG()
		case "water":
			l.water += float64(it.Count) * contentL(it)
		}
	}
	return l
}

// stay makes a trip a night longer: a day of rest at the last camp.
func stay(t *trail.Trip) {
	if t.Nights == 0 {
		return
	}
	t.Days, t.Nights = t.Days+1, t.Nights+1
	if end, err := trail.ParseTime(t.End); err == nil {
		t.End = end.AddDate(0, 0, 1).Format("2006-01-02T15:04")
	}
	if n := len(t.Legs); n > 0 {
		day := t.Legs[n-1].Day
		for i := range t.Legs {
			if t.Legs[i].Day == day {
				t.Legs[i].Day++
			}
		}
	}
	if n := len(t.Camps); n > 0 && n == t.Nights-1 {
		t.Camps = append(slices.Clone(t.Camps), t.Camps[n-1])
	}
}

// contentL is the litres that one full vessel holds.
func contentL(it *kit.Item) float64 {
	kind, _ := kit.KindOf(it.Kind)
	if kind.HoldsL > 0 && kind.MassG > 0 { // a larger one of the kind holds more
		return math.Round(100*it.MassG*kind.HoldsL/kind.MassG) / 100
	}
	return it.MassG * (1 - emptyBottleG) / 1000
}

// capacityL is what all vessels hold.
func (l *ledger) capacityL() (sum float64) {
	for i := range l.task.Items {
		if it := &l.task.Items[i]; it.Carry == kit.Pack && it.Consumable == "water" {
			sum += float64(it.Count) * contentL(it)
		}
	}
	return sum
}

// full is how full the vessels are, all alike.
func (l *ledger) full() float64 {
	if c := l.capacityL(); c > 0 {
		return l.water / c
	}
	return 0
}

// wantedFrom is what is wanted of water from the end of a leg on, up to the next source.
func (l *ledger) wantedFrom(leg int) float64 {
	if l.whatIf.Full {
		return l.capacityL()
	}
	for _, s := range l.task.Trip.Stretches() {
		if s.From == leg {
			return s.Litres
		}
	}
	return 0
}

// fill takes water up to so many litres, as far as the vessels go, and gives the grams that were taken.
func (l *ledger) fill(wanted float64) float64 {
	wanted = min(wanted, l.capacityL())
	taken := max(0, wanted-l.water)
	l.water += taken
	if l.water > wanted { // what is not wanted for the next stretch is poured away
		taken -= l.water - wanted
		l.water = wanted
	}
	return taken * 1000
}

// eat takes a meal out of the food: of the day's own bag, of single meals one of its kind, and of everything else
// but the spare meal its share of the days.
func (l *ledger) eat(day int, m trail.Meal, meals [][]trail.Meal) (eaten float64) {
	l.eaten[mealAt{day, m}] = true
	take := func(id string, g float64) {
		g = min(g, l.left[id])
		l.left[id] -= g
		eaten += g
	}
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack || it.Consumable != "food" || it.Kind == "spare-meal" || it.ID == boughtID {
			continue
		}
		switch {
		case it.Day == day:
			whole := 0.0
			for _, other := range meals[day-1] {
				whole += trail.MealShare[other]
			}
			take(it.ID, it.TotalG()*trail.MealShare[m]/whole)
		case it.Day > 0:
		case it.Kind == string(trail.Breakfast) || it.Kind == string(trail.Lunch) || it.Kind == string(trail.Dinner):
			if it.Kind == string(m) {
				take(it.ID, it.MassG)
			}
		default:
			all := 0.0
			for _, d := range meals {
				for _, other := range d {
					all += trail.MealShare[other]
				}
			}
			take(it.ID, it.TotalG()*trail.MealShare[m]/all)
		}
	}
	if wanted := l.wants(m); eaten < nothing*wanted {
		take(boughtID, wanted-eaten)
		if eaten < nothing*wanted {
			l.hungry++
		}
	}
	l.rubbish += eaten * rubbishMass
	return eaten * (1 - rubbishMass) // the rest is carried on
}

// wants is what a meal weighs, by what is eaten a day.
func (l *ledger) wants(m trail.Meal) float64 {
	grams := l.task.Trip.Eating.GramsADay
	if grams == 0 {
		grams = trail.DefaultGramsADay
	}
	return grams * trail.MealShare[m]
}

// buy buys what the meals up to the next shop want and the list does not give, and gives the grams.
func (l *ledger) buy(leg int, meals [][]trail.Meal) float64 {
	until := len(meals) + 1 // the day of the next shop
	for i, next := range l.task.Trip.Legs {
		if i >= leg && next.Shop && !slices.Contains(l.whatIf.Shut, i+1) {
			until = next.Day
			break
		}
	}
	try := *l
	try.left, try.eaten = maps.Clone(l.left), maps.Clone(l.eaten)
	short := 0.0
	for d := range meals {
		for _, m := range meals[d] {
			if l.eaten[mealAt{d + 1, m}] || d+1 > until || d+1 == until && m == trail.Dinner {
				continue
			}
			hungry := try.hungry
			try.eat(d+1, m, meals)
			if try.hungry > hungry {
				short += l.wants(m)
			}
		}
	}
	if short < 1 {
		return 0
	}
	all := l.left[boughtID] + short
	bought := kit.Item{ID: boughtID, Name: "Bought food", Group: "food", Count: 1, MassG: all,
		Shape:    kit.Shape{Kind: kit.Soft, LooseL: all * foodLitres * 1.3, TightL: all * foodLitres, GapCm: 2},
		Measured: kit.Guess, Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 2}, Consumable: "food",
		Traits: []kit.Trait{kit.Scented}}
	items := slices.DeleteFunc(slices.Clone(l.task.Items), func(it kit.Item) bool { return it.ID == boughtID })
	task := *l.task
	task.Items = append(items, bought)
	l.task, l.left[boughtID] = &task, all
	return short
}

// burn takes what a cooked meal burns out of the fuel.
func (l *ledger) burn(m trail.Meal) (burned float64) {
	if m == trail.Lunch {
		return 0
	}
	efficiency := l.task.Trip.Eating.Efficiency
	if efficiency == 0 {
		efficiency = trail.Efficiency
	}
	snow := slices.ContainsFunc(l.task.Trip.Legs, func(leg trail.Leg) bool { return leg.Snow })
	need := trail.GasG(trail.BoiledL([][]trail.Meal{{m}}), trail.StreamC, snow, efficiency)
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack || it.Consumable != "fuel" {
			continue
		}
		g := min(need, max(0, l.left[it.ID]-leastGas*it.TotalG()))
		l.left[it.ID] -= g
		need -= g
		burned += g
	}
	return burned
}

// shelters take up water in a wet night.
func takesWet(it *kit.Item) bool {
	return it.Group == "shelter" && it.Water.Absorbs && it.Water.ReturnsWet
}

// dry spreads the shelter out at a noon halt that is likely dry, and gives the grams of wet that it loses.
func (l *ledger) dry() (dried float64) {
	if l.task.Trip.Rain >= dryHalt {
		return 0
	}
	dried = l.amounts().Wet
	l.wet = false
	return dried
}

// amounts is what is carried now.
func (l *ledger) amounts() (a Amounts) {
	share := l.full()
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		switch it.Consumable {
		case "food":
			a.Food += l.left[it.ID]
		case "fuel":
			a.Fuel += l.left[it.ID]
		case "water":
			full := float64(it.Count) * contentL(it) * 1000
			a.Base += it.TotalG() - full
			a.Water += full * share
		default:
			a.Base += it.TotalG()
			if l.wet && takesWet(it) {
				a.Wet += it.TotalG() * wetShare
			}
		}
	}
	a.Base += l.task.Pack.MassG
	a.Rubbish = l.rubbish
	return a
}

// now is the kit as it is.
func (l *ledger) now(today int) *job.Task {
	m := job.Moment{Left: map[string]job.Rest{}}
	share := l.full()
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		switch {
		case it.Consumable == "food":
			m.Left[it.ID] = foodLeft(it, l.left[it.ID])
		case it.Consumable == "fuel":
			m.Left[it.ID] = job.Rest{Pieces: it.Count, Share: 1, MassG: l.left[it.ID] / float64(it.Count)}
		case it.Consumable == "water":
			full := contentL(it) * 1000
			m.Left[it.ID] = job.Rest{Pieces: it.Count, Share: 1, MassG: it.MassG - full*(1-share)}
		case l.wet && takesWet(it):
			m.Left[it.ID] = job.Rest{Pieces: it.Count, Share: 1, MassG: it.MassG * (1 + wetShare)}
		}
	}
	if l.rubbish >= 1 {
		litres := max(0.05, l.rubbish/rubbishMass*foodLitres*rubbishRoom)
		m.More = append(m.More, kit.Item{ID: "rubbish", Name: "Rubbish", Group: "care", Count: 1,
			MassG: math.Round(l.rubbish), Shape: kit.Shape{Kind: kit.Soft, LooseL: litres * 1.5, TightL: litres, GapCm: 1},
			Measured: kit.Guess, Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 1}, Water: kit.Water{Leaks: true},
			Traits: []kit.Trait{kit.Scented}})
	}
	task := l.task.At(m)
	for i := range task.Items {
		it := &task.Items[i]
		if use, ok := it.UseOn(today); ok && today > 1 && it.Day == today {
			it.Use = use
		}
	}
	return task
}

// foodLeft is what is left of a line of food: of several pieces as many as are not wholly eaten.
func foodLeft(it *kit.Item, grams float64) job.Rest {
	if grams < 1 {
		return job.Rest{}
	}
	pieces := min(it.Count, max(1, int(math.Ceil(grams/it.MassG-1e-6))))
	each := grams / float64(pieces)
	return job.Rest{Pieces: pieces, Share: min(1, each/it.MassG), MassG: each}
}
