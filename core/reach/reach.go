// Package reach says how long it takes to get a thing to hand: the zone is opened, what lies over the thing is lifted
// out and put back, and a barrier such as a liner is opened and closed again.
package reach

import "tornister/core/rucksack"

// Seconds of each movement: our estimates, to be replaced by the packer's own stopwatch.
const (
	walking = 4.0  // hip and shoulder pockets, while walking on
	swing   = 8.0  // a side pocket, the pack swung round
	packOff = 12.0 // pack off, a pocket opened
	lid     = 6.0  // more for the lid
	opened  = 15.0 // more for the body
	straps  = 8.0  // more for undoing straps
	barrier = 10.0 // liner or dry bag, opened and closed
	liftOut = 4.0
	putBack = 6.0
	PerLift = liftOut + putBack // for each thing in the way
	LookS   = 6.0               // to find something in a bag that is in the hand
)

// Seconds is the time to hand of something in a zone with so many things over it, behind so many barriers:
// liner, dry bag.
func Seconds(z *rucksack.Zone, lifted float64, barriers int) float64 {
	s := packOff
	switch {
	case z.Kind == rucksack.Straps:
		s += straps
	case z.Reach == rucksack.Walking:
		s = walking
	case z.Reach == rucksack.Swing:
		s = swing
	case z.Kind == rucksack.Lid:
		s += lid
	case z.Reach == rucksack.Opened:
		s += opened
	}
	return s + barrier*float64(barriers) + PerLift*lifted
}

// InHand is the time until something is in the hand: as Seconds, but nothing is put back or shut.
func InHand(z *rucksack.Zone, lifted float64, barriers int) float64 {
	return Seconds(z, 0, 0) + barrier/2*float64(barriers) + liftOut*lifted
}
