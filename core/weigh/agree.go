package weigh

import (
	"math"
	"slices"
)

// Odd is why a reading does not go with the others of the same things.
type Odd string

// The reasons, by their pattern (common practice).
const (
	Good    Odd = ""
	BadLift Odd = "bad-lift" // one reads too little: a hand helped, or a strap touched the ground
	Pulled  Odd = "pulled"   // one reads too much: it swung, or was pulled
)

// madToSd makes a standard deviation of a median absolute deviation, of what is normal.
const madToSd = 1.4826

// Median of some readings; 0 for none.
func Median(values []float64) float64 {
	if len(values) == 0 {
		return 0
	}
	sorted := slices.Clone(values)
	slices.Sort(sorted)
	n := len(sorted)
	return (sorted[(n-1)/2] + sorted[n/2]) / 2
}

// Agree takes the readings of one set of things together: their median, and the odd ones out, which lie further
// from it than three standard deviations, found from the median absolute deviation, and than a step and a half of
// the scale. Two readings that differ cannot be told apart; none is odd then.
func Agree(scale Scale, grams []float64) (median float64, odd []Odd) {
	median = Median(grams)
	odd = make([]Odd, len(grams))
	if len(grams) < 3 {
		return median, odd
	}
	off := make([]float64, len(grams))
	for i, g := range grams {
		off[i] = math.Abs(g - median)
	}
	most := max(3*madToSd*Median(off), 1.5*scale.StepG())
	for i, g := range grams {
		switch {
		case off[i] <= most:
		case g < median:
			odd[i] = BadLift
		default:
			odd[i] = Pulled
		}
	}
	return median, odd
}

// ZeroOff looks for a zero that is off: readings of three or more different sets that all lie to the same side of the
// list by nearly the same grams, whatever they weigh. It gives these grams, 0 when there is no such pattern.
func ZeroOff(scale Scale, told []Told) float64 {
	if len(told) < 3 {
		return 0
	}
	diffs := make([]float64, len(told))
	spread := 0.0
	for i, t := range told {
		diffs[i] = t.DiffG
		spread = max(spread, t.SdG)
	}
	shift := Median(diffs)
	for _, d := range diffs {
		if math.Abs(d-shift) > max(2*scale.StepG(), 0.25*math.Abs(shift)) {
			return 0
		}
	}
	if math.Abs(shift) < 2*scale.StepG() {
		return 0
	}
	return shift
}
