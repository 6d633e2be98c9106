// Package days goes through a trip stop by stop: what is eaten, burned, drunk, filled and wet by then, and the
// pack as it is to be packed there, begun from how it was packed at the stop before, so that things keep their
// places.
package days

import (
	"slices"

	"tornister/core/balance"
	"tornister/core/job"
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
	dryHalt      = 0.7    // and below which its noon halt is taken for a dry one, at which the shelter is spread out
	campL        = 2.0    // of water for dinner, breakfast and the night
	rubbishMass  = 0.06   // of what was eaten stays as rubbish, by mass
	rubbishRoom  = 0.1    // and by litres
	movingS      = 20.0   // what it costs a day to put a thing elsewhere than yesterday
	foodLitres   = 0.0021 // of a gram of food, for its rubbish
	emptyBottleG = 0.06   // of what a vessel weighs full, empty, when its kind does not say
	leastGas     = 0.4    // of a canister's mass is the can
	companionG   = 6000.0
	companionL   = 16.0
	usualHours   = 6.0  // of walking, of a day without legs
	nothing      = 0.25 // of what a meal wants is no meal
	boughtID     = "food-from-the-shop"
)

// MostStops is how far a trip is gone through: a month of it.
const MostStops = 62

// WhatIf are switches that change a trip for trial.
type WhatIf struct {
	Rain      bool  // it rains every day
	Full      bool  // all vessels are filled at every source
	Companion bool  // a companion's load is taken over at the start
	Night     bool  // the trip lasts a night longer, with a day of rest at the last camp
	Dry       []int // legs, counted from 1, whose source has run dry
	Shut      []int // legs, counted from 1, whose shop is shut
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
	Filled float64  // of water, here
	Bought float64  // of food, here
	Dried  float64  // of wet, at the noon halt on the way here
	Left   []string // ids of what is left here, cached or handed to others
	Taken  []string // ids of what is taken up here
	Hungry int      // meals since the stop before for which there was nothing
	Task   *job.Task
	Judged *verdict.Judged
	Moves  []Move
	Fresh  int     // things that would lie elsewhere if the pack were planned from nothing; -1 when that was not asked
	NextW  float64 // effort of the leg that begins here, in watts; 0 for none
	Empty  bool    // of water, on the way here
	Short  float64 // litres that were wanted on the way here and not there
}

// Stops goes through a trip. Each stop is planned; options say how. The plan of the start may be known already,
// else it is nil.
func Stops(task *job.Task, whatIf WhatIf, start *verdict.Judged, options load.Options) []Stop {
	l := newLedger(task, whatIf)
	trip := l.task.Trip
	var from job.Arrangement // as packed for the plan of the start
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
		if start != nil {
			from = start.Plan.Arrangement()
		}
		start = nil
	}
	var snapshots []*job.Task
	walked, slept := 0, 0
	keep := func(today int) { // 0 in the evening, when nobody eats on the way any more
		now := l.now(today)
		now.Trip = ahead(trip, walked, slept)
		snapshots = append(snapshots, now)
	}
	keep(1)
	arrive(Start, 1, 0, trip.Place)
	eat := func(day int, m trail.Meal) {
		if day-1 < len(meals) && slices.Contains(meals[day-1], m) {
			before := l.hungry
			now.Eaten += l.eat(day, m, meals)
			now.Hungry += l.hungry - before
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
		if len(stops) >= MostStops {
			break
		}
		walked = i + 1
		last := i == len(trip.Legs)-1
		lastOfDay := last || trip.Legs[i+1].Day > leg.Day
		drink(leg.Walking() * trip.LitresAnHour())
		if i == 0 {
			eat(leg.Day, trail.Breakfast)
		}
		if i == 0 || trip.Legs[i-1].Day < leg.Day {
			eat(leg.Day, trail.Lunch)
			now.Dried = l.dry()
		}
		if last {
			eat(leg.Day, trail.Dinner)
		}
		now.Left, now.Taken = l.swap(&leg)
		fill(i + 1)
		if leg.Shop && !last && !slices.Contains(whatIf.Shut, i+1) {
			now.Bought = l.buy(i+1, meals)
		}
		kind, place, today := LegEnd, leg.Name, leg.Day
		if lastOfDay && !last {
			kind, today = Evening, 0
			if night := leg.Day - 1; night < len(trip.Camps) && trip.Camps[night].Place != "" {
				place = trip.Camps[night].Place
			}
		}
		keep(today)
		arrive(kind, leg.Day, i+1, place)
		if last || !lastOfDay {
			continue
		}
		for day := leg.Day; day < trip.Legs[i+1].Day && len(stops) < MostStops; day++ {
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
			l.wet = l.wet || trip.Rain >= likelyRain
			fill(i + 1)
			slept++
			keep(day + 1)
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
func pack(stops []Stop, tasks []*job.Task, trip trail.Trip, start *verdict.Judged, from job.Arrangement,
	options load.Options) {
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
				s.NextW = balance.EffortW(trip.Carrier.MassKg, s.Judged.Balance.MassG/1000, speed, grade,
					trail.Roughness(trip.Terrain))
			}
		}
	}
}

// moved lists what lies in another zone than before. With the divider open, body and bottom are one room: what
// slides from the one to the other was not moved by anybody.
func moved(plan *load.Plan, from job.Arrangement, pack *rucksack.Pack) []string {
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
func zones(a job.Arrangement) map[string]string {
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

// FromNothing counts at each stop what would lie elsewhere than at the stop before if the pack were planned from
// nothing there: how many more habits that would break.
func FromNothing(stops []Stop, options load.Options) {
	options.From, options.Moving = nil, 0
	var from job.Arrangement
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
