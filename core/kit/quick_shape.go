package kit

import (
	"math"
	"strings"

	"tornister/core/unit"
)

// coil makes a coil of a cord of which diameter and length are given, or one of the two.
func (r *reader) coil(t *Told) {
	diameter, length := 0.4, 1000.0
	if t.Kind.ID == "rope" {
		diameter, length = 0.9, 2500
	}
	for _, side := range r.sides {
		if side <= 3 {
			diameter = side
		} else {
			length = side
		}
	}
	solid := unit.CylinderL(diameter, length)
	t.Shape = soft(tenths(solid*coiledLoose), tenths(solid*coiledTight), t.Kind.Shape.GapCm)
	t.MassG = solid * 1000 * cordDensity
	t.Measured = Label
}

// tenths keeps two figures behind the point.
func tenths(v float64) float64 { return math.Max(0.01, math.Round(v*100)/100) }

// form is the shape that is given the sides: its kind's, or a box where nothing is known of it.
func (r *reader) form(t *Told) Shape {
	if !t.Known && len(r.sides) > 1 {
		return Shape{Kind: Box}
	}
	return t.Kind.Shape
}

// shaped gives a kind's shape the dimensions that were typed: a soft thing's are those of its stuffed sack.
func (r *reader) shaped(s Shape) Shape {
	sides := r.sides
	if s.Kind == Soft {
		return stuffed(s, sackL(sides))
	}
	switch len(sides) {
	case 1: // the longest side is known; the others follow
		return scaled(s, math.Pow(sides[0]/max(s.Dimensions()[0], 0.1), 3))
	case 2:
		s.SizeCm, s.DiameterCm, s.LengthCm = [3]float64{}, sides[0], sides[1]
		if s.Kind == Box || s.Kind == Flat {
			s.Kind = Cylinder
		}
	default:
		s.SizeCm, s.DiameterCm, s.LengthCm = [3]float64{sides[0], sides[1], sides[2]}, 0, 0
		if s.Kind == Cylinder {
			s.Kind = Box
		}
	}
	if s.Kind == Vessel {
		s.InsideL = tenths(0.8 * Shape{Kind: Box, SizeCm: s.SizeCm, DiameterCm: s.DiameterCm, LengthCm: s.LengthCm}.Litres(0))
		s.MouthCm = max(1, s.Dimensions()[1]-1)
	}
	if s.Kind == Lump {
		s.VolumeL = tenths(0.6 * s.BoxL())
	}
	return s
}

// unfold lets go of sides that are not those of the thing as it is packed: poles are 130 cm long in use, a towel is 40
// by 80, and no thing of a rucksack is larger than one, as light as a feather or heavier than iron. What was typed
// stays in the name.
func (r *reader) unfold(t *Told) {
	if len(r.sides) == 0 || len(r.sides) > 3 || t.Kind.Cord || t.Kind.AreaM2 > 0 && r.spread() > 0 {
		return
	}
	form := r.form(t)
	litres, usual := r.shaped(form).Litres(0), t.Kind.Shape.Litres(0)
	folds := t.Known && (litres > mostTimes*usual || litres < usual/mostTimes ||
		len(r.sides) == 1 && r.sides[0] > longInUse*t.Kind.Shape.Dimensions()[0])
	power := r.unitless && len(r.sides) == 2 && t.Known && !form.Round() && form.Kind != Soft // 8x32 glasses
	odd := t.Weighed && (r.massG < leastDense*litres || r.massG > mostDense*litres)
	if folds || power || odd || litres > mostL {
		t.Name += " " + strings.Join(r.sized, " ")
		r.sides, r.sized = nil, nil
	}
}

// What the sides of a packed thing may come to (our estimates).
const (
	mostTimes  = 12.0   // litres of the kind, or one of so many parts of them
	longInUse  = 1.5    // of the kind's longest side
	leastDense = 8.0    // g/L: down in a loose sack has 40
	mostDense  = 8000.0 // g/L: iron
	mostL      = 150.0
)

// sackL is the litres of a stuffed sack by diameter and height, or by three sides, or of a ball.
func sackL(sides []float64) float64 {
	switch len(sides) {
	case 1:
		return math.Pi / 6 * sides[0] * sides[0] * sides[0] / 1000
	case 2:
		return unit.CylinderL(sides[0], sides[1])
	}
	return unit.BoxL(sides[0], sides[1], sides[2])
}

// roomy gives a kind's shape the litres that were typed.
func (r *reader) roomy(s Shape) Shape {
	if s.Kind != Soft {
		return scaled(s, max(r.litres, r.loose, r.tight)/s.Litres(0))
	}
	ratio := s.TightL / s.LooseL
	switch {
	case r.loose > 0 && r.tight > 0:
		return soft(max(r.loose, r.tight), min(r.loose, r.tight), s.GapCm)
	case r.loose > 0:
		return soft(r.loose, tenths(r.loose*ratio), s.GapCm)
	case r.tight > 0:
		return soft(tenths(r.tight/ratio), r.tight, s.GapCm)
	}
	return stuffed(s, r.litres)
}

// stuffed is a soft shape whose own sack, pushed full by hand, holds so many litres.
func stuffed(s Shape, litres float64) Shape {
	ratio := s.TightL / s.LooseL
	loose := litres / (1 + sackSqueeze*(ratio-1))
	return soft(tenths(loose), tenths(loose*ratio), s.GapCm)
}

// holding is the shape of a bottle or a vessel of a kind that holds so many litres: the same form, larger or smaller.
func holding(k Kind, litres float64) Shape {
	s := scaled(k.Shape, litres/k.HoldsL)
	if s.Kind == Vessel {
		s.InsideL = litres
	}
	return s
}

// scaled grows or shrinks a shape to a share of its litres, keeping its form. Dimensions are kept to a millimetre.
func scaled(s Shape, share float64) Shape {
	if share == 1 {
		return s
	}
	f := math.Cbrt(share)
	milli := func(cm float64) float64 {
		if cm == 0 {
			return 0
		}
		return max(0.1, math.Round(cm*f*10)/10)
	}
	for i := range s.SizeCm {
		s.SizeCm[i] = milli(s.SizeCm[i])
	}
	s.DiameterCm, s.LengthCm, s.MouthCm = milli(s.DiameterCm), milli(s.LengthCm), milli(s.MouthCm)
	if s.Kind == Soft {
		s.LooseL, s.TightL = tenths(s.LooseL*share), tenths(s.TightL*share)
	}
	if s.VolumeL > 0 {
		s.VolumeL = tenths(s.VolumeL * share)
	}
	if s.InsideL > 0 {
		s.InsideL = tenths(s.InsideL * share)
	}
	return s
}

// contentG is the mass of what a full bottle holds; pots and boxes are named by what they would hold and travel
// empty.
func (k Kind) contentG(litres float64) float64 {
	switch k.Consumable {
	case "water":
		return litres * 1000
	case "fuel":
		return litres * 800 // spirit, about (from memory)
	}
	return 0
}

func (k Kind) emptyG() float64 { return max(0, k.MassG-k.contentG(k.HoldsL)) }

func clamp(v, low, high float64) float64 { return min(max(v, low), high) }
