package rucksack

import "tornister/core/fact"

// Finding is something about a pack that cannot be right, or is worth a look: where, what, and how to mend it.
type Finding struct {
	Zone  string // id, "" for the pack as a whole
	Field string // of the zone or pack, in the open format
	Stop  bool   // it cannot be; otherwise it is only unusual
	What  fact.Fact
	Mend  fact.Fact
}

// Bounds between which a pack is usual (our estimates).
const (
	formSlack    = 0.35 // stated litres may differ from the dimensions by this share
	mostSlack    = 1.0  // beyond this share no bulging cloth explains it
	heaviestG    = 6000.0
	lightestG    = 120.0
	widestCm     = 45.0
	tallestCm    = 110.0
	mostOutside  = 0.75 // of the body's litres, of all pockets that do not draw on it together
	deepestMouth = 2.0
)

// Sense looks a pack over as somebody would who has seen many: pockets larger than their pack, litres that do not go
// with the dimensions, mouths wider than their zone. The pack has passed the schema, so that its numbers are numbers.
func (p *Pack) Sense() []Finding {
	var found []Finding
	say := func(zone, field string, stop bool, what, mend fact.Fact) {
		found = append(found, Finding{zone, field, stop, what, mend})
	}
	body := p.Of(Body)
	if p.MassG > heaviestG {
		say("", "mass_g", false, fact.Of("pack.heavy", fact.Grams(p.MassG)), fact.Of("pack.weigh-empty"))
	}
	if p.MassG < lightestG {
		say("", "mass_g", false, fact.Of("pack.light", fact.Grams(p.MassG)), fact.Of("pack.weigh-straps"))
	}
	outside := 0.0
	for i := range p.Zones {
		z := &p.Zones[i]
		if form := z.FormL(); z.Kind != Straps && form > 0 {
			box := z.SizeCm[0] * z.SizeCm[1] * z.SizeCm[2] / 1000
			switch {
			case !z.Solid() && z.VolumeL > box*1.02:
				say(z.ID, "volume_l", true, fact.Of("pack.pocket-litres", fact.Litres(z.VolumeL), fact.SizeCm(z.SizeCm[:]),
					fact.Litres(box)), fact.Of("pack.fewer-litres"))
			case z.Solid() && z.VolumeL > box*(1+mostSlack):
				say(z.ID, "volume_l", true, fact.Of("pack.far-apart", fact.Litres(z.VolumeL), fact.Litres(box)),
					fact.Of("pack.measure-sides"))
			case z.Solid() && (z.VolumeL > box*(1+formSlack) || z.VolumeL < box*(1-2*formSlack)):
				say(z.ID, "volume_l", false, fact.Of("pack.far-apart", fact.Litres(z.VolumeL), fact.Litres(box)),
					fact.Of("pack.measure-sides"))
			}
		}
		if z.MouthCm > 0 && z.MouthCm > deepestMouth*max(z.SizeCm[0], z.SizeCm[1], z.SizeCm[2]) {
			say(z.ID, "mouth_cm", false, fact.Of("pack.wide-mouth"), fact.Of("pack.edge-to-edge"))
		}
		if !z.Solid() && z.Kind != Straps {
			if z.VolumeL >= body.VolumeL {
				say(z.ID, "volume_l", true, fact.Of("pack.pocket-over-body", fact.Litres(z.VolumeL), fact.Litres(body.VolumeL)),
					fact.Of("pack.mixed-up"))
			}
			if z.DrawsOn == nil && z.Kind != Lid {
				outside += z.VolumeL
			}
			if z.DrawsOn != nil && z.DrawsOn.Zone == body.ID && z.CapacityL()*z.DrawsOn.Share > body.VolumeL {
				say(z.ID, "draws_on", true, fact.Of("pack.takes-more"), fact.Of("pack.smaller-share"))
			}
		}
	}
	if outside > mostOutside*body.VolumeL {
		say("", "zones", false, fact.Of("pack.pockets-hold", fact.Litres(outside), fact.Litres(body.VolumeL)),
			fact.Of("pack.stretch-pockets"))
	}
	if body.SizeCm[0] > widestCm {
		say(body.ID, "size_cm", false, fact.Of("pack.wide", fact.Cm(body.SizeCm[0])), fact.Of("pack.body-alone"))
	}
	if h := p.HeightCm(); h > tallestCm {
		say(body.ID, "size_cm", false, fact.Of("pack.tall", fact.Cm(h)), fact.Of("pack.stuffed"))
	}
	return found
}
