package rucksack

import (
	"fmt"

	"tornister/core/unit"
)

// Finding is something about a pack that cannot be right, or is worth a look: where, what, and how to mend it.
type Finding struct {
	Zone  string // id, "" for the pack as a whole
	Field string // of the zone or pack, in the open format
	Stop  bool   // it cannot be; otherwise it is only unusual
	What  string
	Mend  string
}

// Bounds between which a pack is usual (our estimates).
const (
	formSlack    = 0.35 // stated litres may differ from the dimensions by this share
	heaviestG    = 6000.0
	lightestG    = 120.0
	widestCm     = 45.0
	tallestCm    = 110.0
	mostOutside  = 0.75 // of the body's litres, of all pockets that do not draw on it together
	deepestMouth = 2.0
)

// Sense looks a pack over as somebody would who has seen many: pockets larger than their pack, litres that do not go
// with the dimensions, mouths wider than their zone. The pack has passed the schema, so that its numbers are numbers.
// Units are those of the figures in what is found.
func (p *Pack) Sense(units unit.System) []Finding {
	var found []Finding
	say := func(zone, field string, stop bool, what, mend string) {
		found = append(found, Finding{zone, field, stop, what, mend})
	}
	body := p.Of(Body)
	if p.MassG > heaviestG {
		say("", "mass_g", false, units.Mass(p.MassG)+" is very heavy for a pack", "weigh it empty")
	}
	if p.MassG < lightestG {
		say("", "mass_g", false, units.Mass(p.MassG)+" is very light for a pack", "weigh it with its straps")
	}
	outside := 0.0
	for i := range p.Zones {
		z := &p.Zones[i]
		if form := z.FormL(); z.Kind != Straps && form > 0 {
			box := z.SizeCm[0] * z.SizeCm[1] * z.SizeCm[2] / 1000
			switch {
			case !z.Solid() && z.VolumeL > box*1.02:
				say(z.ID, "volume_l", true, fmt.Sprintf("%s do not go into %s, which make %s", units.Volume(z.VolumeL), units.Size(z.SizeCm[:]...), units.Volume(box)), "give fewer litres or larger sides")
			case z.Solid() && (z.VolumeL > box*(1+formSlack) || z.VolumeL < box*(1-2*formSlack)):
				say(z.ID, "volume_l", false, fmt.Sprintf("%s and sides that make %s are far apart; the depth is taken to follow the litres", units.Volume(z.VolumeL), units.Volume(box)), "measure the sides again")
			}
		}
		if z.MouthCm > 0 && z.MouthCm > deepestMouth*max(z.SizeCm[0], z.SizeCm[1], z.SizeCm[2]) {
			say(z.ID, "mouth_cm", false, "the mouth is twice as wide as the zone", "measure it from edge to edge")
		}
		if !z.Solid() && z.Kind != Straps {
			if z.VolumeL >= body.VolumeL {
				say(z.ID, "volume_l", true, fmt.Sprintf("a pocket of %s is larger than the body, %s", units.Volume(z.VolumeL), units.Volume(body.VolumeL)), "look whether body and pocket are mixed up")
			}
			if z.DrawsOn == nil && z.Kind != Lid {
				outside += z.VolumeL
			}
			if z.DrawsOn != nil && z.DrawsOn.Zone == body.ID && z.CapacityL()*z.DrawsOn.Share > body.VolumeL {
				say(z.ID, "draws_on", true, "it takes more from the body than the body holds", "give a smaller share or fewer litres")
			}
		}
	}
	if outside > mostOutside*body.VolumeL {
		say("", "zones", false, fmt.Sprintf("the outer pockets hold %s, the body only %s", units.Volume(outside), units.Volume(body.VolumeL)), "look whether stretch pockets are counted as stated litres")
	}
	if body.SizeCm[0] > widestCm {
		say(body.ID, "size_cm", false, units.Length(body.SizeCm[0])+" is wider than shoulders", "give the width of the body alone")
	}
	if h := p.HeightCm(); h > tallestCm {
		say(body.ID, "size_cm", false, units.Length(h)+" from foot to collar is taller than most packs", "measure it stuffed")
	}
	return found
}
