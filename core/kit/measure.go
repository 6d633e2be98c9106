package kit

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"tornister/core/unit"
)

// Way is a manner of measuring a thing at home.
type Way string

// The ways. Each gives litres and with them how sure they are.
const (
	ByBox      Way = "box"      // three sides with a rule
	ByCylinder Way = "cylinder" // diameter and length
	BySack     Way = "sack"     // the stuffed sack it lives in: diameter and height, or three sides
	ByWater    Way = "water"    // how much the water rises in a marked vessel
	ByFilling  Way = "filling"  // how much of a measured bag or bucket it fills
)

// Ways lists them.
var Ways = []Way{ByBox, ByCylinder, BySack, ByWater, ByFilling}

// Reading holds what was read off: centimetres for sides, litres for marks. What a way does not ask is zero.
type Reading struct {
	Way           Way
	Sides         [3]float64 // cm; of a cylinder or a round sack diameter and length
	Before, After float64    // litres, marks of the vessel without and with the thing
}

// ErrReading is wrapped by what is wrong with a reading.
var ErrReading = errors.New("the reading cannot be right")

// Measure gives a thing's shape after a reading, and how sure it is. What cannot be read off (a vessel's mouth, the
// ratio of loose to tight) is kept from the shape before.
func Measure(before Shape, r Reading) (Shape, Measured, error) {
	after := before
	given := 0
	for _, s := range r.Sides {
		if s < 0 || s > 300 || s > 0 && s < 0.05 {
			return before, "", fmt.Errorf("%w: a side of %g cm", ErrReading, s)
		}
		if s > 0 {
			given++
		}
	}
	if given < 3 && slices.Contains(r.Sides[:given], 0) {
		return before, "", fmt.Errorf("%w: a length is missing", ErrReading)
	}
	switch r.Way {
	case ByBox, ByCylinder:
		want := map[Way]int{ByBox: 3, ByCylinder: 2}[r.Way]
		if given != want {
			return before, "", fmt.Errorf("%w: it needs %d lengths above zero, and has %d", ErrReading, want, given)
		}
		after.SizeCm, after.DiameterCm, after.LengthCm = r.Sides, 0, 0
		if r.Way == ByCylinder {
			after.SizeCm, after.DiameterCm, after.LengthCm = [3]float64{}, r.Sides[0], r.Sides[1]
		}
		switch {
		case before.Kind == Vessel || before.Kind == Flat && r.Way == ByBox:
		case before.Kind == Lump && r.Way == ByBox:
			after.VolumeL = min(before.VolumeL, after.BoxL())
		default:
			after = Shape{Kind: ShapeKind(r.Way), SizeCm: after.SizeCm, DiameterCm: after.DiameterCm, LengthCm: after.LengthCm}
		}
		if before.Kind == Vessel {
			after.InsideL, after.MouthCm = min(before.InsideL, 0.95*after.Litres(0)), min(before.MouthCm, after.Dimensions()[1])
		}
		return after, Dimensions, nil
	case BySack:
		if given < 2 {
			return before, "", fmt.Errorf("%w: a sack needs diameter and height, or three sides", ErrReading)
		}
		if before.Kind != Soft {
			before = Shape{Kind: Soft, LooseL: 1, TightL: 0.6, GapCm: 2}
		}
		return stuffed(before, sackL(r.Sides[:given])), Label, nil
	case ByWater, ByFilling:
		litres := r.After - r.Before
		if r.Before < 0 || litres < 0.005 {
			return before, "", fmt.Errorf("%w: the second mark must be higher than the first, by 0.005 L or more", ErrReading)
		}
		return displaced(before, litres, r.Way == ByFilling), map[Way]Measured{ByWater: Displacement,
			ByFilling: Dimensions}[r.Way], nil
	}
	return before, "", fmt.Errorf("%w: %q is no way of measuring", ErrReading, r.Way)
}

// displaced gives a shape the litres it displaces. A soft thing under water, in a bag with the air pressed out, is at
// its tight volume; loose in a bucket at its loose one. A rigid thing becomes a lump within its outside, which grows
// where it was too small to be right.
func displaced(s Shape, litres float64, loosely bool) Shape {
	if s.Kind == Soft {
		ratio := s.TightL / s.LooseL
		if loosely {
			return soft(litres, tenths(litres*ratio), s.GapCm)
		}
		return soft(tenths(litres/ratio), litres, s.GapCm)
	}
	if s.Kind == Vessel || s.Kind == Flat {
		return scaled(s, litres/s.Litres(0))
	}
	outside := s.Dimensions()
	if box := unit.BoxL(outside[0], outside[1], outside[2]); litres > box {
		f := math.Cbrt(litres / box)
		for i := range outside {
			outside[i] = math.Ceil(outside[i]*f*10) / 10
		}
	}
	return Shape{Kind: Lump, SizeCm: outside, VolumeL: litres}
}

// Without is a mass by difference: what the scale says with the thing less what it says without.
func Without(withG, withoutG float64) (float64, error) {
	if withoutG < 0 || withG <= withoutG {
		return 0, fmt.Errorf("%w: with the thing the scale must show more than without", ErrReading)
	}
	return withG - withoutG, nil
}
