package weigh

import (
	"math"

	"tornister/core/unit"
)

// Sample is what a hanging scale sends, about ten times a second.
type Sample struct {
	TMs  float64 `json:"t_ms"`
	G    float64 `json:"g"`              // in the unit that it names
	Unit string  `json:"unit,omitempty"` // g, kg or lb; "" for g
	Zero bool    `json:"zero,omitempty"` // nothing hangs on it, by its own word
	Over bool    `json:"over,omitempty"` // more hangs on it than it can weigh
}

// State of a needle.
type State string

// The states.
const (
	Waiting  State = "waiting"  // nothing has come yet, or nothing hangs
	Swinging State = "swinging" // the load moves
	Settled  State = "settled"
	Overload State = "overload"
	Negative State = "negative" // less than nothing: the zero is off
	Drifting State = "drifting" // it creeps in one direction
	Absurd   State = "absurd"   // more than any pack
)

// Of a settled reading: the time that it has stood, and how much the samples of that time may differ.
const (
	settleMs   = 2000.0
	leastCount = 8
	emptyG     = 40.0 // below it nothing hangs
	mostG      = 90_000.0
)

// Needle watches the samples of a scale.
type Needle struct {
	StepG  float64
	window []Sample // of the last two seconds, in grams
	Pounds bool     // the scale sends pounds
}

// grams of a sample in its unit.
func (s Sample) grams() (g float64, known bool) {
	switch s.Unit {
	case "", "g":
		return s.G, true
	case "kg":
		return s.G * 1000, true
	case "lb":
		return s.G * unit.Pound, true
	}
	return 0, false
}

// Add takes a sample and says how the needle stands and where: the mean of what it stood at when it has settled,
// rounded to the step, else the sample itself. A unit that is not known is no reading.
func (n *Needle) Add(s Sample) (State, float64) {
	g, known := s.grams()
	if !known || math.IsNaN(g) || math.IsInf(g, 0) {
		return Absurd, 0
	}
	n.Pounds = s.Unit == "lb"
	if k := len(n.window); k > 0 && s.TMs < n.window[k-1].TMs { // the clock of the scale has begun anew
		n.window = n.window[:0]
	}
	s.G, s.Unit = g, "g"
	n.window = append(n.window, s)
	for s.TMs-n.window[0].TMs > settleMs {
		n.window = n.window[1:]
	}
	switch {
	case s.Over:
		return Overload, g
	case g > mostG:
		return Absurd, g
	case g < -emptyG:
		return Negative, g
	case g < emptyG:
		return Waiting, g
	case len(n.window) < leastCount || s.TMs-n.window[0].TMs < settleMs*0.9:
		return Swinging, g
	}
	mean, sd, slope := n.shape()
	switch {
	case sd > n.StepG/2:
		if math.Abs(slope)*settleMs > 3*sd { // a straight line, not a swing
			return Drifting, g
		}
		return Swinging, g
	case math.Abs(slope)*settleMs > n.StepG/2 && math.Abs(slope)*settleMs > 3*sd:
		return Drifting, g
	}
	return Settled, math.Round(mean/n.StepG) * n.StepG
}

// shape is the mean of the window, its spread, and by how much it moves a millisecond (least squares).
func (n *Needle) shape() (mean, sd, slope float64) {
	var sumT, sumG, sumTT, sumTG float64
	k := float64(len(n.window))
	for _, s := range n.window {
		t := s.TMs - n.window[0].TMs
		sumT, sumG, sumTT, sumTG = sumT+t, sumG+s.G, sumTT+t*t, sumTG+t*s.G
	}
	mean = sumG / k
	for _, s := range n.window {
		sd += (s.G - mean) * (s.G - mean)
	}
	if d := k*sumTT - sumT*sumT; d > 0 {
		slope = (k*sumTG - sumT*sumG) / d
	}
	return mean, math.Sqrt(sd / k), slope
}
