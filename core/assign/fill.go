package assign

import (
	"math"

	"tornister/core/kit"
	"tornister/core/rucksack"
)

// State is how full a zone, or the pack, is.
type State string

// From empty to overfull. Roomy and snug need no squeezing; squeezed and crammed differ at SqueezedLimit.
const (
	Roomy    State = "roomy"
	Snug     State = "snug"
	Squeezed State = "squeezed"
	Crammed  State = "crammed"
	TooMuch  State = "too much"
)

// SqueezedLimit is the squeeze up to which a hand still packs it; beyond, a knee is needed.
const SqueezedLimit = 0.7

// roomyShare is the part of a zone that must be free for it to count as roomy.
const roomyShare = 0.1

// ZoneFill is what a zone holds, in litres.
type ZoneFill struct {
	Zone       *rucksack.Zone
	Pieces     []kit.Piece // nested ones not among them
	CapacityL  float64     // after what pockets that draw on it take away
	NeedLooseL float64
	NeedTightL float64
	HollowL    float64 // air with something above it, from the trial packing; 0 in pockets
	MassG      float64
	Squeeze    float64
	State      State
}

// fill is the running sum of one zone's contents.
type fill struct {
	rigid       float64 // litres of the boxes round things that keep their outside
	loose       float64 // litres of soft things
	tight       float64
	mass        float64 // g
	food, fuel  int
	wet, spoilt int // things that wet their neighbours; things that must stay dry
	count       int
}

// add counts a piece in a zone in, or out with sign -1.
func (f *fill) add(p *Choice, zone int, sign float64) {
	n := int(sign)
	f.rigid += sign * p.Lies[zone].rigid
	if p.Shape.Kind == kit.Soft {
		f.loose += sign * p.Shape.LooseL
		f.tight += sign * p.Shape.TightL
	}
	f.mass += sign * p.Mass
	f.food += n * p.food
	f.fuel += n * p.fuel
	f.wet += n * p.Wet
	f.spoilt += n * p.Spoilt
	f.count += n
}

// need is the room all of it takes at a squeeze. A thing that keeps its outside takes the box round it, or in a
// pocket, when it is round, its own litres: what lies in the corners of that box is not counted on.
func (f *fill) need(squeeze float64) float64 {
	return f.rigid + f.loose + squeeze*(f.tight-f.loose)
}

// SqueezeFor is the least squeeze at which the need is within the room; above 1 when even tight is too much.
func SqueezeFor(loose, tight, room float64) float64 {
	switch {
	case loose <= room+LitreSlack:
		return 0
	case tight > room+LitreSlack:
		return math.Inf(1)
	}
	return min(1, (loose-room)/(loose-tight))
}

// LitreSlack forgives rounding in sums of litres and grams: a cubic millimetre.
const LitreSlack = 1e-6

// StateFor names the state of a zone with the given room.
func StateFor(loose, room, squeeze float64) State {
	switch {
	case squeeze > 1:
		return TooMuch
	case squeeze > SqueezedLimit:
		return Crammed
	case squeeze > 0:
		return Squeezed
	case loose <= (1-roomyShare)*room:
		return Roomy
	}
	return Snug
}
