package kit

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/unit"
)

// ShapeKind tells how a thing takes up room.
type ShapeKind string

// The six shapes. Box, Cylinder, Lump and Vessel keep their outside; Soft gives way between two volumes; Flat bends
// along the back panel but keeps its three dimensions.
const (
	Box      ShapeKind = "box"
	Cylinder ShapeKind = "cylinder"
	Lump     ShapeKind = "lump"
	Soft     ShapeKind = "soft"
	Flat     ShapeKind = "flat"
	Vessel   ShapeKind = "vessel"
)

// Shape holds the measurements of a thing, in centimetres and litres. Which fields count depends on Kind: Size or
// Diameter and Length for the outside, VolumeL for what a lump displaces, InsideL and MouthCm for a vessel, the two
// litres and the gap for a soft thing.
type Shape struct {
	Kind       ShapeKind  `json:"kind"`
	SizeCm     [3]float64 `json:"size_cm,omitzero"`
	DiameterCm float64    `json:"diameter_cm,omitempty"`
	LengthCm   float64    `json:"length_cm,omitempty"`
	VolumeL    float64    `json:"volume_l,omitempty"`
	InsideL    float64    `json:"inside_l,omitempty"`
	MouthCm    float64    `json:"mouth_cm,omitempty"`
	LooseL     float64    `json:"loose_l,omitempty"`
	TightL     float64    `json:"tight_l,omitempty"`
	GapCm      float64    `json:"gap_cm,omitempty"` // the narrowest gap a hand can push it into
	Gives      float64    `json:"gives,omitempty"`  // of a stuffed sack: how far its section can be pressed out of square
}

// Sack is a stuffed sack of so many litres, so many times as long as it is wide, whose round section can be pressed to
// a rectangle of at most gives to 1.
func Sack(litres, long, gives float64) Shape {
	d := math.Cbrt(litres * 1000 / (math.Pi / 4 * long))
	d = math.Round(d*10) / 10
	return Shape{Kind: Lump, DiameterCm: d, LengthCm: math.Round(10*litres*1000/(math.Pi/4*d*d)) / 10, VolumeL: litres,
		Gives: gives}
}

// Yields reports whether the thing is a stuffed sack that can be pressed to another section.
func (s Shape) Yields() bool {
	return s.Gives >= 1 && (s.Kind == Box || s.Kind == Cylinder || s.Kind == Lump)
}

// Pressed are the boxes that a stuffed sack can be pressed to without losing litres: its section square or as flat as
// it gives, its length as it is or a tenth less. None of anything else.
func (s Shape) Pressed() (boxes [][3]float64) {
	if !s.Yields() {
		return nil
	}
	litres := s.Litres(0)
	for _, way := range [][2]float64{{1, 1}, {s.Gives, 1}, {1, sackShorter}} {
		long := s.Dimensions()[0] * way[1]
		section := litres * 1000 / long
		boxes = append(boxes, [3]float64{long, math.Sqrt(section * way[0]), math.Sqrt(section / way[0])})
	}
	return boxes
}

// sackShorter is to what share of its length a stuffed sack can be pressed (common practice: a tenth less).
const sackShorter = 0.9

// Rigid reports whether the outside of the thing holds its shape in the pack.
func (s Shape) Rigid() bool { return s.Kind != Soft && s.Kind != Flat }

// Round reports whether the outside is a cylinder.
func (s Shape) Round() bool { return s.DiameterCm > 0 && s.SizeCm == [3]float64{} }

// Rod reports whether the thing is long for its girth and needs length rather than litres.
func (s Shape) Rod() bool { return s.Round() && s.LengthCm > 6*s.DiameterCm }

// Dimensions gives the sides of the smallest box around a thing that keeps its dimensions, longest first, in
// centimetres. It is zero for soft things.
func (s Shape) Dimensions() [3]float64 {
	if s.Kind == Soft {
		return [3]float64{}
	}
	sides := s.SizeCm
	if s.Round() {
		sides = [3]float64{s.DiameterCm, s.DiameterCm, s.LengthCm}
	}
	return longestFirst(sides)
}

// Litres is the room the thing takes at a squeeze from 0, loose, to 1, tight. Only soft things react to it.
func (s Shape) Litres(squeeze float64) float64 {
	switch {
	case s.Kind == Soft:
		return s.LooseL + squeeze*(s.TightL-s.LooseL)
	case s.Kind == Lump:
		return s.VolumeL
	case s.Round():
		return unit.CylinderL(s.DiameterCm, s.LengthCm)
	}
	return unit.BoxL(s.SizeCm[0], s.SizeCm[1], s.SizeCm[2])
}

// BoxL is the volume in litres of the box around a rigid or flat thing; a soft thing needs none, and a sack that
// yields can be pressed to a box of its litres.
func (s Shape) BoxL() float64 {
	if s.Yields() {
		return s.Litres(0)
	}
	d := s.Dimensions()
	return unit.BoxL(d[0], d[1], d[2])
}

// Measured says how the litres of a thing came to be known.
type Measured string

// The four ways, best first.
const (
	Displacement Measured = "displacement"
	Dimensions   Measured = "dimensions"
	Label        Measured = "label"
	Guess        Measured = "guess"
)

// Uncertainty is the relative standard uncertainty of the litres: our estimates, which a packer may replace.
func (m Measured) Uncertainty() float64 {
	switch m {
	case Displacement:
		return 0.03
	case Dimensions:
		return 0.05
	case Label:
		return 0.10
	}
	return 0.25
}

// Passes reports whether a thing with these dimensions goes lengthwise through a mouth of the given width. A mouth of
// 0 is as wide as the zone.
func (s Shape) Passes(mouthCm float64) bool {
	for _, box := range s.Pressed() {
		if longestFirst(box)[1] <= mouthCm {
			return true
		}
	}
	return mouthCm == 0 || s.Dimensions()[1] <= mouthCm
}

// longestFirst sorts three sides.
func longestFirst(sides [3]float64) [3]float64 {
	slices.SortFunc(sides[:], func(a, b float64) int { return cmp.Compare(b, a) })
	return sides
}

// Within reports whether the thing, turned as need be but square to the sides, lies inside a box of the given
// dimensions, longest first.
func (s Shape) Within(sides [3]float64) bool {
	for _, box := range s.Pressed() {
		if goesInto(longestFirst(box), sides) {
			return true
		}
	}
	return goesInto(s.Dimensions(), sides)
}

// goesInto compares two boxes, both longest side first.
func goesInto(box, sides [3]float64) bool {
	return box[0] <= sides[0] && box[1] <= sides[1] && box[2] <= sides[2]
}
