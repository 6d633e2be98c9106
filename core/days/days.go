// Package days goes through a trip stop by stop: what is eaten, burned, drunk, filled and wet by then, and the
// pack as it is to be packed there, begun from how it was packed at the stop before, so that things keep their
// places.
package days

import (
	"math"
	"slices"

	"tornister/core/balance"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/verdict"
)

// Kind of a stop.
type Kind string

// The kinds: where the trip starts, where a leg ends, a camp in the evening, the same camp in the morning.
const (
	Start   Kind = "start"
	LegEnd  Kind = "leg-end"
	Evening Kind = "evening"
	Morning Kind = "morning"
)

// Of what goes on between stops (our estimates, but for the first two, which are common practice).
const (
	wetShare     = 0.25   // of its mass a shelter takes up in a night with rain or dew
	likelyRain   = 0.4    // likelihood of rain on a day from which on its night is taken for a wet one
	campL        = 2.0    // of water for dinner, breakfast and the night
	rubbishMass  = 0.06   // of what was eaten stays as rubbish, by mass
	rubbishRoom  = 0.1    // and by litres
	movingS      = 20.0   // what it costs a day to put a thing elsewhere than yesterday
	foodLitres   = 0.0021 // of a gram of food, for its rubbish
	emptyBottleG = 0.06   // of what a vessel weighs full, empty, when its kind does not say
	leastGas     = 0.4    // of a canister's mass is the can
	companionG   = 6000.0
	companionL   = 16.0
	usualHours   = 6.0 // of walking, of a day without legs
)

// WhatIf are switches that change a trip for trial.
type WhatIf struct {
	Rain      bool  // it rains every day
	Full      bool  // all vessels are filled at every source
	Companion bool  // a companion's load is taken over at the start
	Dry       []int // legs, counted from 1, whose source has run dry
}

// Amounts are grams by what they are; of water, the water alone.
type Amounts struct{ Base, Food, Fuel, Water, Wet, Rubbish float64 }

// Total is all of it.
func (a Amounts) Total() float64 { return a.Base + a.Food + a.Fuel + a.Water + a.Wet + a.Rubbish }

// Move is a thing that lies elsewhere than at the stop before.
type Move struct{ Item, From, To string }

// Stop is a moment of the trip that changes the pack.
type Stop struct {
	Kind   Kind
	Day    int // from 1
	Leg    int // that ends here, from 1; 0 for none
	Place  string
	Have   Amounts
	Eaten  float64 // grams since the stop before
	Burned float64
	Drunk  float64
	Filled float64 // of water, here
	Task   *load.Task
	Judged *verdict.Judged
	Moves  []Move
	Fresh  int     // things that would lie elsewhere if the pack were planned from nothing; -1 when that was not asked
	NextW  float64 // effort of the leg that begins here, in watts; 0 for none
	Empty  bool    // of water, on the way here
	Short  float64 // litres that were wanted on the way here and not there
}

// ledger is what is left of everything.
type ledger struct {
	task    *load.Task
	whatIf  WhatIf
	left    map[string]float64 // grams of food and fuel, by id
	water   float64            // litres
	wet     bool
	rubbish float64
}

// Stops goes through a trip. Each stop is planned; options say how. The plan of the start may be known already,
// else it is nil.
func Stops(task *load.Task, whatIf WhatIf, start *verdict.Judged, options load.Options) []Stop {
	l := newLedger(task, whatIf)
	trip := l.task.Trip
	var from load.Arrangement // as packed for the plan of the start
	meals := trip.Meals()
	var stops []Stop
	var now Stop
	arrive := func(kind Kind, day, leg int, place string) {
		now.Kind, now.Day, now.Leg, now.Place = kind, day, leg, place
		now.Have = l.amounts()
		stops = append(stops, now)
		now = Stop{}
	}
	full := l.water
	if len(task.Trip.Legs) > 0 && !whatIf.Full { // the start is a source like the others
		l.water = min(l.water, l.wantedFrom(0))
	}
	if l.water < full-1e-9 || whatIf.Companion {
		from = nil
		if start != nil {
			from = start.Plan.Arrangement()
		}
		start = nil
	}
	var snapshots []*load.Task
	walked, slept := 0, 0
	keep := func() {
		now := l.now()
		now.Trip = ahead(trip, walked, slept)
		snapshots = append(snapshots, now)
	}
	keep()
	arrive(Start, 1, 0, trip.Place)
	eat := func(day int, m trail.Meal) {
		if day-1 < len(meals) && slices.Contains(meals[day-1], m) {
			now.Eaten += l.eat(day, m, meals)
			now.Burned += l.burn(m)
		}
	}
	fill := func(leg int) {
		here := trip.Legs[leg-1]
		if here.Water || here.Shop {
			now.Filled += l.fill(l.wantedFrom(leg))
		}
	}
	drink := func(litres float64) {
		drunk := min(litres, l.water)
		l.water -= drunk
		now.Drunk += drunk * 1000
		if drunk < litres-1e-9 {
			now.Empty, now.Short = true, now.Short+litres-drunk
		}
	}
	for i, leg := range trip.Legs {
		walked = i + 1
		last := i == len(trip.Legs)-1
		lastOfDay := last || trip.Legs[i+1].Day > leg.Day
		drink(leg.Walking() * trip.LitresAnHour())
		if i == 0 {
			eat(leg.Day, trail.Breakfast)
		}
		if i == 0 || trip.Legs[i-1].Day < leg.Day {
			eat(leg.Day, trail.Lunch)
		}
		if last {
			eat(leg.Day, trail.Dinner)
		}
		if l.wet && !whatIf.Rain && trip.Rain < likelyRain { // it has dried at the halt
			l.wet = false
		}
		fill(i + 1)
		kind, place := LegEnd, leg.Name
		if lastOfDay && !last {
			kind = Evening
			if night := leg.Day - 1; night < len(trip.Camps) && trip.Camps[night].Place != "" {
				place = trip.Camps[night].Place
			}
		}
		keep()
		arrive(kind, leg.Day, i+1, place)
		if last || !lastOfDay {
			continue
		}
		for day := leg.Day; day < trip.Legs[i+1].Day; day++ {
			eat(day, trail.Dinner)
			if leg.Water || leg.Shop {
				now.Filled += campL * 1000
				now.Drunk += campL * 1000
			} else {
				drink(campL)
			}
			eat(day+1, trail.Breakfast)
			if day+1 < trip.Legs[i+1].Day { // a day of rest
				eat(day+1, trail.Lunch)
			}
			l.wet = l.wet || whatIf.Rain || trip.Rain >= likelyRain
			fill(i + 1)
			slept++
			keep()
			arrive(Morning, day+1, 0, place)
		}
	}
	pack(stops, snapshots, trip, start, from, options)
	return stops
}

// ahead is what is left of a trip after so many legs and nights: the legs up to the next source, which the water
// has to last for, and the nights and camps still to come.
func ahead(trip trail.Trip, walked, slept int) trail.Trip {
	rest := trip
	rest.Legs = nil
	for _, leg := range trip.Legs[walked:] {
		rest.Legs = append(rest.Legs, leg)
		if leg.Water || leg.Shop {
			break
		}
	}
	rest.Nights = max(0, trip.Nights-slept)
	rest.Camps = trip.Camps[min(slept, len(trip.Camps)):]
	return rest
}

// pack plans each stop, begun from the one before.
func pack(stops []Stop, tasks []*load.Task, trip trail.Trip, start *verdict.Judged, from load.Arrangement, options load.Options) {
	for i := range stops {
		s := &stops[i]
		s.Task, s.Fresh = tasks[i], -1
		o := options
		if from != nil {
			o.From, o.Moving = from, movingS
		}
		if s.Judged = start; i > 0 || start == nil {
			s.Judged = verdict.Of(s.Task, o)
		}
		before := zones(from)
		after := zones(s.Judged.Plan.Arrangement())
		if i > 0 {
			for _, id := range moved(s.Judged.Plan, from, &s.Task.Pack) {
				s.Moves = append(s.Moves, Move{id, before[id], after[id]})
			}
		}
		from = s.Judged.Plan.Arrangement()
		if next := nextLeg(stops, i, trip); next != nil {
			if speed, grade := next.Speed(); speed > 0 && trip.Carrier.MassKg > 0 && !trip.BodyAssumed {
				s.NextW = balance.EffortW(trip.Carrier.MassKg, s.Judged.Balance.MassG/1000, speed, grade, trail.Roughness(trip.Terrain))
			}
		}
	}
}

// moved lists what lies in another zone than before. With the divider open, body and bottom are one room: what
// slides from the one to the other was not moved by anybody.
func moved(plan *load.Plan, from load.Arrangement, pack *rucksack.Pack) []string {
	list := plan.Moved(from)
	if !plan.Open {
		return list
	}
	before, after := zones(from), zones(plan.Arrangement())
	return slices.DeleteFunc(list, func(id string) bool {
		was, is := pack.Zone(before[id]), pack.Zone(after[id])
		return was != nil && is != nil && was.Solid() && is.Solid()
	})
}

// zones are where things are, by id; of several pieces, the first.
func zones(a load.Arrangement) map[string]string {
	in := map[string]string{}
	for _, s := range a {
		if _, had := in[s.Item]; !had {
			in[s.Item] = s.Zone
		}
	}
	return in
}

// nextLeg is the leg that begins at a stop, nil at an evening and at the end.
func nextLeg(stops []Stop, at int, trip trail.Trip) *trail.Leg {
	if stops[at].Kind == Evening {
		return nil
	}
	for i := at; i >= 0; i-- {
		if stops[i].Leg > 0 || i == 0 {
			if leg := stops[i].Leg; leg < len(trip.Legs) {
				return &trip.Legs[leg]
			}
			return nil
		}
	}
	return nil
}

func newLedger(task *load.Task, whatIf WhatIf) *ledger {
	own := *task
	own.Trip.Legs = slices.Clone(task.Trip.Legs)
	if len(own.Trip.Legs) == 0 {
		for day := range max(1, task.Trip.Days) {
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
	l := &ledger{task: &own, whatIf: whatIf, left: map[string]float64{}}
	if whatIf.Companion {
		own.Items = append(slices.Clone(task.Items), kit.Item{ID: "companions-load", Name: "A companion's load", Group: "other", Count: 1, MassG: companionG,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: companionL, TightL: companionL * 0.7, GapCm: 3}, Measured: kit.Guess, Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 1}})
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
	take := func(id string, g float64) {
		g = min(g, l.left[id])
		l.left[id] -= g
		eaten += g
	}
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack || it.Consumable != "food" || it.Kind == "spare-meal" {
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
	l.rubbish += eaten * rubbishMass
	return eaten * (1 - rubbishMass) // the rest is carried on
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

// amounts is what is carried now.
func (l *ledger) amounts() (a Amounts) {
	share := 0.0
	if c := l.capacityL(); c > 0 {
		share = l.water / c
	}
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
func (l *ledger) now() *load.Task {
	m := load.Moment{Left: map[string]load.Rest{}}
	share := 1.0
	if c := l.capacityL(); c > 0 {
		share = l.water / c
	}
	for i := range l.task.Items {
		it := &l.task.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		switch {
		case it.Consumable == "food":
			m.Left[it.ID] = foodLeft(it, l.left[it.ID])
		case it.Consumable == "fuel":
			m.Left[it.ID] = load.Rest{Pieces: it.Count, Share: 1, MassG: l.left[it.ID] / float64(it.Count)}
		case it.Consumable == "water":
			full := contentL(it) * 1000
			m.Left[it.ID] = load.Rest{Pieces: it.Count, Share: 1, MassG: it.MassG - full*(1-share)}
		case l.wet && takesWet(it):
			m.Left[it.ID] = load.Rest{Pieces: it.Count, Share: 1, MassG: it.MassG * (1 + wetShare)}
		}
	}
	if l.rubbish >= 1 {
		litres := max(0.05, l.rubbish/rubbishMass*foodLitres*rubbishRoom)
		m.More = append(m.More, kit.Item{ID: "rubbish", Name: "Rubbish", Group: "care", Count: 1, MassG: math.Round(l.rubbish), Shape: kit.Shape{Kind: kit.Soft, LooseL: litres * 1.5, TightL: litres, GapCm: 1},
			Measured: kit.Guess, Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 1}, Water: kit.Water{Leaks: true}, Traits: []kit.Trait{kit.Scented}})
	}
	return l.task.At(m)
}

// foodLeft is what is left of a line of food: of several pieces as many as are not wholly eaten.
func foodLeft(it *kit.Item, grams float64) load.Rest {
	if grams < 1 {
		return load.Rest{}
	}
	pieces := min(it.Count, max(1, int(math.Ceil(grams/it.MassG-1e-6))))
	each := grams / float64(pieces)
	return load.Rest{Pieces: pieces, Share: min(1, each/it.MassG), MassG: each}
}

// FromNothing counts at each stop what would lie elsewhere than at the stop before if the pack were planned from
// nothing there: how many more habits that would break.
func FromNothing(stops []Stop, options load.Options) {
	options.From, options.Moving = nil, 0
	var from load.Arrangement
	for i := range stops {
		plan := load.Make(stops[i].Task, options)
		if i > 0 {
			stops[i].Fresh = len(moved(plan, from, &stops[i].Task.Pack))
		}
		from = plan.Arrangement()
	}
}

// Hardest is the stop at which a check is worst: by its state, then by what it measures.
func Hardest(stops []Stop, check string) int {
	rank := map[verdict.CheckState]float64{verdict.Settled: 0, verdict.Look: 1, verdict.Stop: 2}
	worst, at := -1.0, 0
	for i := range stops {
		j := stops[i].Judged
		c := j.Check(check)
		weight := 0.0
		switch check {
		case "fit":
			weight = j.Plan.Squeeze + float64(len(j.Plan.LeftOut))
		case "weight":
			weight = j.Balance.MassG / 1e5
		case "balance":
			weight = j.Balance.LeanDeg / 90
		default:
			weight = float64(len(c.Reasons)) / 100
		}
		if v := rank[c.State]*1000 + weight; v > worst+1e-9 {
			worst, at = v, i
		}
	}
	return at
}
