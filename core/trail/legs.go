package trail

import (
	"cmp"
	"math"
)

// A walker's pace after Naismith's rule (1892, from memory): an hour for each 5 km and another for each 600 m of
// climb. It leaves out rests and is too quick under a heavy pack; hours that the packer states go before it.
const (
	PaceKmH     = 5.0
	ClimbMHour  = 600.0
	MaxLegKm    = 80 // longer than anybody walks between two stops under a pack
	MaxLegHours = 20
)

// Walking is the hours of a leg: those stated, or those of the rule at the walker's pace.
func (l Leg) Walking() float64 {
	if l.Hours > 0 {
		return l.Hours
	}
	return l.Rule() * cmp.Or(l.Pace, 1)
}

// Rule is the hours of a leg by the rule alone.
func (l Leg) Rule() float64 { return l.Km/PaceKmH + l.ClimbM/ClimbMHour }

// How much one drinks (common practice: about two litres on a mild day with six to seven hours of walking, more in
// heat): an hour's walking at up to mildC degrees takes mildLHour, and each degree above it perDegree more. A camp
// without water takes campL, for dinner, breakfast and the night; reserveL is carried beyond what is expected.
const (
	mildLHour = 0.3
	mildC     = 16.0
	perDegree = 0.02
	campL     = 2.0
	reserveL  = 0.5
)

// LitresAnHour is what the walker drinks.
func (t *Trip) LitresAnHour() float64 {
	if t.Eating.LitresAnHr > 0 {
		return t.Eating.LitresAnHr
	}
	rate := mildLHour
	if t.DayHigh != nil {
		rate += perDegree * max(0, *t.DayHigh-mildC)
	}
	return rate
}

// Stretch is a piece of the way without water: legs From up to and with To, counted from 0.
type Stretch struct {
	From, To int
	Hours    float64
	DryCamps int     // nights on the way at a place without water
	Litres   float64 // to be carried at its start, with the reserve
}

// Stretches cuts the way at its water points. It starts with full bottles. A leg that ends at a shop has water too.
func (t *Trip) Stretches() []Stretch {
	var all []Stretch
	now := Stretch{}
	for i, leg := range t.Legs {
		now.To = i
		now.Hours += leg.Walking()
		last := i == len(t.Legs)-1
		if !leg.Water && !leg.Shop && !last {
			if t.Legs[i+1].Day > leg.Day {
				now.DryCamps += t.Legs[i+1].Day - leg.Day
			}
			continue
		}
		now.Litres = now.Hours*t.LitresAnHour() + float64(now.DryCamps)*campL + reserveL
		all = append(all, now)
		now = Stretch{From: i + 1}
	}
	return all
}

// Thirstiest is the stretch for which most must be carried; ok is false when no legs are known.
func (t *Trip) Thirstiest() (s Stretch, ok bool) {
	for _, each := range t.Stretches() {
		if each.Litres > s.Litres {
			s, ok = each, true
		}
	}
	return s, ok
}

// mildDayL is what is carried when no legs are known (common practice: two litres a day in mild weather).
const mildDayL = 2.0

// WaterL is the litres to carry: those of the thirstiest stretch.
func (t *Trip) WaterL() float64 {
	if s, ok := t.Thirstiest(); ok {
		return s.Litres
	}
	extra := 0.0
	if t.DayHigh != nil {
		extra = perDegree * max(0, *t.DayHigh-mildC) * mildDayL / mildLHour
	}
	return mildDayL + extra
}

// Speed is the mean of a leg in m/s and its grade in per cent, climbing only, as the load-carriage equation wants
// them.
func (l Leg) Speed() (metresASecond, gradePercent float64) {
	hours := l.Walking()
	if hours <= 0 || l.Km <= 0 {
		return 0, 0
	}
	return l.Km / hours / 3.6, math.Min(60, l.ClimbM/(l.Km*10))
}

// Roughness is the terrain factor of the load-carriage equation for a ground (after Soule and Goldman 1972, from
// memory).
func Roughness(terrain string) float64 {
	switch terrain {
	case "road":
		return 1.0
	case "rough", "scramble":
		return 1.5
	case "snow", "ski":
		return 1.6
	case "bog", "sand":
		return 2.1
	}
	return 1.2 // path
}

// Grounds lists the words for the ground.
var Grounds = []string{"road", "path", "rough", "scramble", "snow", "ski", "bog"}
