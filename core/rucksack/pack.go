// Package rucksack describes a pack: its zones, how things reach and leave them, and the solid that the body and the
// bottom compartment make.
//
// The pack frame is right-handed, in centimetres: x to the wearer's right from the midline, y outward from the back
// panel, z up from the lowest inside point. The bottom compartment, where there is one, stands at z = 0 with the body
// on it and the collar above the body.
package rucksack

import (
	"slices"

	"tornister/core/unit"
)

// ZoneKind names a place in or on a pack.
type ZoneKind string

// The kinds of zones. Body and Bottom are solids that are packed on cells; the others are pockets, which need only
// litres, three dimensions and a mouth; Straps hold things outside.
const (
	Body     ZoneKind = "body"
	Bottom   ZoneKind = "bottom"
	Lid      ZoneKind = "lid"
	Front    ZoneKind = "front"
	Side     ZoneKind = "side"
	Sleeve   ZoneKind = "sleeve"   // at the back panel, for a water bag
	Hip      ZoneKind = "hip"      // on the hip belt
	Shoulder ZoneKind = "shoulder" // on a shoulder strap
	Inner    ZoneKind = "inner"    // a small pocket inside the body
	Long     ZoneKind = "long"     // a narrow side sleeve for poles, probe or shaft
	Straps   ZoneKind = "straps"
)

// Weather says how much a zone's own fabric and place keep out.
type Weather string

// From dry to drenched.
const (
	Sealed  Weather = "sealed"
	Covered Weather = "covered"
	Open    Weather = "open"
)

// Reach says what one must do to put a hand into a zone.
type Reach string

// From easy to laborious: while walking, with the pack swung round, with the pack off, with the pack opened up.
const (
	Walking Reach = "walking"
	Swing   Reach = "swing"
	Off     Reach = "off"
	Opened  Reach = "open"
)

// Draw says that what fills one zone takes room from another.
type Draw struct {
	Zone  string  `json:"zone"`
	Share float64 `json:"share"` // 0 to 1, litres lost there for each litre filled here
}

// Zone is one place in or on the pack. Sizes are across, deep, high as the pack stands.
type Zone struct {
	ID        string     `json:"id"`
	Name      string     `json:"name"`
	Kind      ZoneKind   `json:"kind"`
	Side      string     `json:"side,omitempty"` // left or right
	Face      string     `json:"face,omitempty"` // for straps: front, bottom, top or side
	Form      string     `json:"form,omitempty"` // body and bottom: rounded or box
	SizeCm    [3]float64 `json:"size_cm"`
	VolumeL   float64    `json:"volume_l"`
	StretchL  float64    `json:"stretch_l,omitempty"` // what the fabric gives beyond VolumeL
	CollarCm  float64    `json:"collar_cm,omitempty"`
	MouthCm   float64    `json:"mouth_cm,omitempty"`
	Openings  []string   `json:"openings,omitempty"`
	Divider   string     `json:"divider,omitempty"`
	DrawsOn   *Draw      `json:"draws_on,omitempty"`
	Counted   *bool      `json:"counted,omitempty"`
	MaxMassG  float64    `json:"max_mass_g,omitempty"`
	Weather   Weather    `json:"weather"`
	Reach     Reach      `json:"reach"`
	AtCm      [3]float64 `json:"at_cm"` // middle of the zone in the pack frame
	RescueUse bool       `json:"rescue,omitempty"`
}

// Opens reports whether the divider between bottom compartment and body can be opened.
func (p *Pack) Opens() bool {
	bottom := p.Of(Bottom)
	return bottom != nil && bottom.Divider == "removable"
}

// TooHeavy reports whether straps do not hold so many grams.
func (z *Zone) TooHeavy(massG float64) bool { return z.MaxMassG > 0 && massG > z.MaxMassG }

// Solid reports whether the zone is part of the solid that is packed on cells.
func (z *Zone) Solid() bool { return z.Kind == Body || z.Kind == Bottom }

// InBody reports whether the zone is a pocket that lies in the body, at its back.
func (z *Zone) InBody() bool { return z.Kind == Sleeve || z.Kind == Inner }

// Sides gives the inner dimensions, longest first; the collar adds to the height of the body.
func (z *Zone) Sides() [3]float64 {
	sides := z.SizeCm
	sides[2] += z.CollarCm
	slices.Sort(sides[:])
	slices.Reverse(sides[:])
	return sides
}

// CapacityL is all the room of the zone in litres: what is stated, what the fabric gives, and the collar.
func (z *Zone) CapacityL() float64 { return z.VolumeL + z.StretchL + z.CollarL() }

// CollarL is the room in the collar above the closing seam of the body.
func (z *Zone) CollarL() float64 {
	if z.CollarCm == 0 || z.SizeCm[2] == 0 {
		return 0
	}
	return z.VolumeL * z.CollarCm / z.SizeCm[2]
}

// MiddleCm is where the weight of the empty pack lies, in the pack frame: it hangs on its frame, near the back panel,
// at half its height (our estimate).
func (p *Pack) MiddleCm() [3]float64 {
	body := p.Of(Body)
	return [3]float64{0, body.SizeCm[1] / 4, (p.HeightCm() - body.CollarCm) / 2}
}

// Opens reports whether the zone can be opened at a face: top or front. A body that says nothing opens at the top, a
// bottom compartment at the front.
func (z *Zone) Opens(face string) bool {
	if len(z.Openings) == 0 {
		return face == "front" == (z.Kind == Bottom)
	}
	return slices.Contains(z.Openings, face)
}

// OnePull reports whether a hand is in the zone after a single movement, without opening the pack up.
func (z *Zone) OnePull() bool { return z.Reach != Opened && z.Kind != Straps }

// Pack is a rucksack with its zones.
type Pack struct {
	ID           string     `json:"id"`
	Name         string     `json:"name"`
	MassG        float64    `json:"mass_g"`
	Frame        string     `json:"frame"`
	ComfortLoadG float64    `json:"comfort_load_g,omitempty"`
	TorsoCm      [2]float64 `json:"torso_cm,omitzero"` // the shortest and the longest back that the harness is set to
	Zones        []Zone     `json:"zones"`
}

// Zone finds a zone by id; nil when the pack has none of that name.
func (p *Pack) Zone(id string) *Zone {
	for i := range p.Zones {
		if p.Zones[i].ID == id {
			return &p.Zones[i]
		}
	}
	return nil
}

// Of finds the first zone of a kind; nil when the pack has none.
func (p *Pack) Of(kind ZoneKind) *Zone {
	for i := range p.Zones {
		if p.Zones[i].Kind == kind {
			return &p.Zones[i]
		}
	}
	return nil
}

// FloorCm is the height at which the body or bottom compartment begins.
func (p *Pack) FloorCm(z *Zone) float64 {
	if bottom := p.Of(Bottom); bottom != nil && z.Kind == Body {
		return bottom.SizeCm[2]
	}
	return 0
}

// HeightCm is the height of the closing line: bottom compartment, body and collar.
func (p *Pack) HeightCm() float64 {
	body := p.Of(Body)
	return p.FloorCm(body) + body.SizeCm[2] + body.CollarCm
}

// StatedL is the litres of the pack as ASTM F2153 counts them: every closed pocket, without those marked as not
// counted and without straps.
func (p *Pack) StatedL() float64 {
	sum := 0.0
	for i := range p.Zones {
		z := &p.Zones[i]
		if z.Kind != Straps && (z.Counted == nil || *z.Counted) {
			sum += z.VolumeL
		}
	}
	return sum
}

// FormL is the litres inside the dimensions of the zone: for body and bottom the cells of its form, else its box. A
// collar is not counted.
func (z *Zone) FormL() float64 {
	if !z.Solid() {
		return unit.BoxL(z.SizeCm[0], z.SizeCm[1], z.SizeCm[2])
	}
	measured := *z
	measured.VolumeL = 0
	f := newForm(&measured, z.Kind == Bottom, 1)
	return float64(f.count(f.depth)) / 1000
}

// ShoulderCm is the height at which the shoulder straps are sewn on, measured from the hip belt at the foot of the
// pack: the reference length of the load band. It is nine tenths of the back, without the collar (our estimate).
func (p *Pack) ShoulderCm() float64 {
	return 0.9 * (p.HeightCm() - p.Of(Body).CollarCm)
}

// Grown is the pack with a body taller by so many centimetres, of the same width and depth.
func (p *Pack) Grown(cm float64) Pack {
	grown := *p
	grown.Zones = slices.Clone(p.Zones)
	body := grown.Of(Body)
	body.VolumeL *= (body.SizeCm[2] + cm) / body.SizeCm[2]
	body.SizeCm[2] += cm
	return grown
}
