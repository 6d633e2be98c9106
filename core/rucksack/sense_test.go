package rucksack

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func sensible() Pack {
	return Pack{ID: "p", Name: "Pack", MassG: 1200, Zones: []Zone{
		{ID: "body", Kind: Body, SizeCm: [3]float64{28, 18, 50}, VolumeL: 25, Form: "rounded"},
		{ID: "lid", Kind: Lid, SizeCm: [3]float64{25, 17, 9}, VolumeL: 3.5},
		{ID: "front", Kind: Front, SizeCm: [3]float64{22, 5, 32}, VolumeL: 3, DrawsOn: &Draw{Zone: "body", Share: 0.3}},
	}}
}

// A pack whose pockets exceed its body, and what else cannot be or is unusual.
func TestSense(t *testing.T) {
	t.Parallel()
	whole := sensible()
	assert.Empty(t, whole.Sense())
	for name, change := range map[string]func(*Pack){ // at the edge of what is usual nothing is said
		"as heavy as packs are":       func(p *Pack) { p.MassG = 6000 },
		"as light as packs are":       func(p *Pack) { p.MassG = 120 },
		"pockets without dimensions":  func(p *Pack) { p.Zones[1].SizeCm = [3]float64{} },
		"a mouth as wide as may be":   func(p *Pack) { p.Zones[1].MouthCm = 50 },
		"a body that bulges a third":  func(p *Pack) { p.Zones[0].VolumeL = 25.2 * 1.35 },
		"a body of seven tenths less": func(p *Pack) { p.Zones[0].VolumeL = 25.2 * 0.31 },
		"cloth that gives a little":   func(p *Pack) { p.Zones[1].VolumeL = 25 * 17 * 9 * 1.0199 / 1000 },
		"pockets that draw all of it": func(p *Pack) { p.Zones[2].DrawsOn.Share = 1 },
		"straps of any litres":        func(p *Pack) { p.Zones = append(p.Zones, Zone{ID: "s", Kind: Straps, VolumeL: 90}) },
	} {
		p := sensible()
		change(&p)
		for _, f := range p.Sense() {
			assert.Contains(t, f.Field, "zones", "%s: %v", name, f.What) // a small body has many pockets; that is said
		}
	}
	for name, c := range map[string]struct {
		change      func(*Pack)
		zone, field string
		stop        bool
	}{
		"pocket larger than the body": {func(p *Pack) {
			p.Zones[1].SizeCm, p.Zones[1].VolumeL = [3]float64{40, 30, 25},
				28
		}, "lid", "volume_l", true},
		"litres that do not go in": {func(p *Pack) { p.Zones[1].VolumeL = 5 }, "lid", "volume_l", true},
		"takes more than there is": {func(p *Pack) {
			p.Zones[2].SizeCm, p.Zones[2].VolumeL, p.Zones[2].StretchL, p.Zones[2].DrawsOn.Share = [3]float64{30, 30,
				40}, 24, 10, 1
		}, "front", "draws_on", true},
		"litres that nothing explains":   {func(p *Pack) { p.Zones[0].VolumeL = 51 }, "body", "volume_l", true},
		"a body too small for its sides": {func(p *Pack) { p.Zones[0].VolumeL = 7 }, "body", "volume_l", false},
		"sides and litres far apart":     {func(p *Pack) { p.Zones[0].VolumeL = 40 }, "body", "volume_l", false},
		"a mouth twice as wide":          {func(p *Pack) { p.Zones[1].MouthCm = 80 }, "lid", "mouth_cm", false},
		"wider than shoulders": {func(p *Pack) { p.Zones[0].SizeCm, p.Zones[0].VolumeL = [3]float64{60, 18, 50}, 50 },
			"body", "size_cm", false},
		"taller than packs are": {func(p *Pack) {
			p.Zones[0].SizeCm, p.Zones[0].VolumeL = [3]float64{28, 18, 130},
				60
		}, "body", "size_cm", false},
		"heavy as a stone":   {func(p *Pack) { p.MassG = 9000 }, "", "mass_g", false},
		"light as a feather": {func(p *Pack) { p.MassG = 20 }, "", "mass_g", false},
		"mostly pockets": {func(p *Pack) {
			p.Zones = append(p.Zones, Zone{ID: "side", Kind: Side, SizeCm: [3]float64{30, 25, 40}, VolumeL: 21})
		}, "", "zones", false},
	} {
		p := sensible()
		c.change(&p)
		found := false
		for _, f := range p.Sense() {
			found = found || f.Zone == c.zone && f.Field == c.field && f.Stop == c.stop
			assert.NotEmpty(t, f.Mend, name)
		}
		assert.True(t, found, "%s: %v", name, p.Sense())
	}
}
