package rucksack

import (
	"math"

	"tornister/core/unit"
)

// Kinds lists every kind of zone, in the order in which a pack is described.
var Kinds = []ZoneKind{Body, Bottom, Lid, Front, Side, Sleeve, Hip, Shoulder, Inner, Long, Straps}

// Typical gives the weather and reach of a zone of which only the kind is known (common practice).
func Typical(kind ZoneKind) (Weather, Reach) {
	switch kind {
	case Body, Bottom, Sleeve, Inner:
		return Covered, Opened
	case Lid:
		return Covered, Off
	case Hip:
		return Covered, Walking
	case Shoulder:
		return Open, Walking
	case Side, Long:
		return Open, Swing
	}
	return Open, Off
}

// proportions is the usual across : deep : high of a zone, for one of which only the litres are known (our estimate).
var proportions = map[ZoneKind][3]float64{
	Body: {30, 20, 50}, Bottom: {30, 20, 16}, Lid: {26, 18, 9}, Front: {24, 6, 36}, Side: {11, 9, 24}, Sleeve: {24, 4, 38},
	Hip: {14, 5, 9}, Shoulder: {8, 6, 14}, Inner: {18, 3, 12}, Long: {8, 6, 45}, Straps: {30, 16, 40},
}

// SizeFor guesses the dimensions in centimetres of a zone of the given litres, in the usual proportions of its kind.
func SizeFor(kind ZoneKind, litres float64) [3]float64 {
	p := proportions[kind]
	f := math.Cbrt(litres / unit.BoxL(p[0], p[1], p[2]))
	for i := range p {
		p[i] = math.Round(p[i]*f*10) / 10
	}
	return p
}

// PlaceFor gives the middle of a zone in the pack frame for one whose place is not stated.
func (p *Pack) PlaceFor(z *Zone) [3]float64 {
	body := p.Of(Body)
	width, deep, floor := body.SizeCm[0], body.SizeCm[1], p.FloorCm(body)
	height := floor + body.SizeCm[2]
	side := 1.0
	if z.Side == "left" {
		side = -1
	}
	switch z.Kind {
	case Body:
		return [3]float64{0, deep / 2, floor + body.SizeCm[2]/2}
	case Bottom:
		return [3]float64{0, z.SizeCm[1] / 2, z.SizeCm[2] / 2}
	case Lid:
		return [3]float64{0, deep / 2, height + body.CollarCm/2 + z.SizeCm[2]/2}
	case Front:
		return [3]float64{0, deep + z.SizeCm[1]/2, floor + body.SizeCm[2]*0.4}
	case Side, Long:
		return [3]float64{side * (width + z.SizeCm[0]) / 2, deep / 2, z.SizeCm[2]/2 + 2}
	case Sleeve:
		return [3]float64{0, z.SizeCm[1] / 2, floor + body.SizeCm[2]/2}
	case Hip:
		return [3]float64{side * (width/2 + 3), -8, 2}
	case Shoulder:
		return [3]float64{side * 12, -10, height * 0.8}
	case Inner:
		return [3]float64{0, 2, height - z.SizeCm[2]/2}
	}
	switch z.Face {
	case "bottom":
		return [3]float64{0, deep / 2, -z.SizeCm[2] / 2}
	case "top":
		return [3]float64{0, deep / 2, height + body.CollarCm + z.SizeCm[2]/2}
	case "side":
		return [3]float64{side * (width + z.SizeCm[0]) / 2, deep / 2, height / 2}
	}
	return [3]float64{0, deep + z.SizeCm[1]/2, height / 2}
}
