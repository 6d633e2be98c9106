// Package learn takes from a trip that is over what it tells of the packer: how much room things take in these
// hands, what is eaten, burned and drunk, and which things were carried for nothing or missed.
//
// Figures are learned by the update of a normal mean with known spreads: the mean of what was believed and what
// was seen, each weighed by one over its variance (Gelman and others, Bayesian Data Analysis, section 2.5; from
// memory). Factors are learned on the logarithm.
package learn

import "math"

// Belief is a figure with its relative standard error, and from how many trips it comes.
type Belief struct {
	Mean float64 `json:"mean"`
	Sd   float64 `json:"sd"` // relative
	N    int     `json:"n"`
}

// The relative standard errors (our estimates): of what is believed before any trip, and of what one trip shows.
const (
	PriorRoom  = 0.15
	PriorOther = 0.20
	SeenRoom   = 0.10
	SeenOther  = 0.15
)

// Update takes one trip's figure into a belief.
func Update(b Belief, seen, sd float64) Belief {
	wasW, isW := 1/(b.Sd*b.Sd), 1/(sd*sd)
	mean := math.Exp((wasW*math.Log(b.Mean) + isW*math.Log(seen)) / (wasW + isW))
	return Belief{mean, math.Sqrt(1 / (wasW + isW)), b.N + 1}
}

// Room is the belief about the packer's factor on litres before any trip.
func Room() Belief { return Belief{1, PriorRoom, 0} }

// margin is by how much a pack that did not close, or closed although it was not to, is past its edge, at the
// least (our estimate).
const margin = 0.05

// Packed is what a packed pack showed beside its plan.
type Packed struct {
	Fits    bool    // by the plan
	Squeeze float64 // by the plan
	FillCm  float64 // by the plan
	Closes  *bool   // seen; nil for not tried
	SeenCm  float64 // fill line as seen; 0 for not measured
}

// RoomSeen is the factor on litres that a packed pack shows, and whether it shows any: its fill line against the
// plan's, or that it would not close though it should, or closed though it should not.
func RoomSeen(p Packed) (factor float64, ok bool) {
	switch {
	case p.SeenCm > 0 && p.FillCm > 0:
		return math.Min(1.6, math.Max(0.6, p.SeenCm/p.FillCm)), true
	case p.Closes == nil:
		return 1, false
	case !*p.Closes && p.Fits: // all the room that squeezing was to win was not won
		return math.Exp(margin + 0.35*(1-p.Squeeze)), true
	case *p.Closes && !p.Fits:
		return math.Exp(-margin), true
	case *p.Closes && p.Squeeze > 0.9:
		return math.Exp(-margin / 2), true
	}
	return 1, true
}

// Answer is what became of a thing on a trip.
type Answer string

// The answers. What is not answered is not known, and never counts as not used.
const (
	Used   Answer = "used"
	Unused Answer = "unused"
	Missed Answer = "missed"
	RanOut Answer = "ran-out"
	Broke  Answer = "broke"
	GotWet Answer = "wet"
	Moved  Answer = "moved"
)

// Answers lists them, in the order in which they are offered.
var Answers = []Answer{Used, Unused, Missed, RanOut, Broke, GotWet, Moved}

// enough is on how many trips a thing was carried, and never used, for it to be proposed to stay at home.
const enough = 2

// Stays reports whether a thing may be proposed to stay at home: carried on enough trips, used on none, and
// nothing that a life may hang on.
func Stays(carried, used int, vital bool) bool { return !vital && carried >= enough && used == 0 }
