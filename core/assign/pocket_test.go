package assign

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

func cylinder(d, l float64) kit.Shape {
	return kit.Shape{Kind: kit.Cylinder, DiameterCm: d, LengthCm: l}
}

func box(l, w, h float64) kit.Shape {
	return kit.Shape{Kind: kit.Box, SizeCm: [3]float64{l, w, h}}
}

// How things lie in pockets, by hand (common practice: two thirds of what stands in a pocket is held by it, half under
// a strap).
func TestHowThingsLie(t *testing.T) {
	t.Parallel()
	side := rucksack.Zone{ID: "side", Kind: rucksack.Side, SizeCm: [3]float64{12, 9, 20}, VolumeL: 2.1}
	hip := rucksack.Zone{ID: "hip", Kind: rucksack.Hip, SizeCm: [3]float64{12, 9, 20}, VolumeL: 2.1}
	lid := rucksack.Zone{ID: "lid", Kind: rucksack.Lid, SizeCm: [3]float64{25, 20, 8}, VolumeL: 4, MouthCm: 10}
	strap := rucksack.Zone{ID: "strap", Kind: rucksack.Straps, Face: "side"}
	over := rucksack.Zone{ID: "over", Kind: rucksack.Straps, Face: "top", SizeCm: [3]float64{40, 16, 16}, VolumeL: 10, MaxMassG: 800}
	face := rucksack.Zone{ID: "face", Kind: rucksack.Straps, Face: "front", SizeCm: [3]float64{40, 16, 16}, VolumeL: 10, MaxMassG: 800}
	under := rucksack.Zone{ID: "under", Kind: rucksack.Straps, Face: "bottom", SizeCm: [3]float64{40, 16, 16}, VolumeL: 10, MaxMassG: 800}
	plain, strapped := &rucksack.Pack{Zones: []rucksack.Zone{side}}, &rucksack.Pack{Zones: []rucksack.Zone{side, strap}}
	bottleL := cylinder(8, 26).Litres(1)
	for name, c := range map[string]struct {
		pack  *rucksack.Pack
		zone  rucksack.Zone
		shape kit.Shape
		massG float64
		want  Fit
	}{
		"a bottle stands out by 6 of 26 cm":     {plain, side, cylinder(8, 26), 900, Fit{true, bottleL * 20 / 26, 6}},
		"a third may stand out":                 {plain, side, box(30, 8, 8), 900, Fit{true, 30 * 64 / 1000.0 * 20 / 30, 10}},
		"more may not":                          {plain, side, box(30.3, 8, 8), 900, Fit{false, 30.3 * 64 / 1000, 0}},
		"half may under a strap":                {strapped, side, box(40, 6, 6), 900, Fit{true, 1.44 * 20 / 40, 20}},
		"but not more":                          {strapped, side, box(40.5, 6, 6), 900, Fit{false, 40.5 * 36 / 1000, 0}},
		"too wide to stand":                     {strapped, side, box(30, 13, 5), 900, Fit{false, 30 * 65 / 1000.0, 0}},
		"too thick to stand":                    {strapped, side, box(30, 9.5, 9.5), 900, Fit{false, 30 * 90.25 / 1000, 0}},
		"nothing stands out of a hip pocket":    {plain, hip, cylinder(8, 26), 900, Fit{false, bottleL, 0}},
		"a round thing takes its own litres":    {plain, hip, cylinder(8, 18), 100, Fit{true, math.Pi * 16 * 18 / 1000, 0}},
		"cloth gives a quarter round a tin":     {plain, hip, cylinder(11, 12), 100, Fit{true, math.Pi * 30.25 * 12 / 1000, 0}},
		"and no more":                           {plain, hip, cylinder(11.5, 12), 100, Fit{false, math.Pi * 33.0625 * 12 / 1000, 0}},
		"a tin does not pass the mouth":         {plain, lid, cylinder(11, 12), 100, Fit{false, 11 * 11 * 12 / 1000.0, 0}},
		"a soft thing goes where its litres do": {plain, side, soft(2), 100, Fit{Goes: true}},
		"not where they do not":                 {plain, side, soft(2.2), 100, Fit{}},
		"a mat as long as the straps":           {plain, under, cylinder(14, 40), 500, Fit{true, 14 * 14 * 40 / 1000.0, 0}},
		"longer, as far as the elbows":          {plain, under, cylinder(14, 54), 500, Fit{true, 14 * 14 * 54 / 1000.0 * 40 / 54, 0}},
		"on top it may be longer too":           {plain, over, cylinder(14, 54), 500, Fit{true, 14 * 14 * 54 / 1000.0 * 40 / 54, 0}},
		"before the front it may not":           {plain, face, cylinder(14, 54), 500, Fit{false, 14 * 14 * 54 / 1000.0, 0}},
		"beyond the elbows":                     {plain, under, cylinder(14, 56), 500, Fit{false, 14 * 14 * 56 / 1000.0, 0}},
		"too heavy for straps":                  {plain, under, cylinder(14, 40), 801, Fit{false, 14 * 14 * 40 / 1000.0, 0}},
		"too heavy though soft":                 {plain, under, soft(3), 801, Fit{}},
	} {
		want, zone := c.want, c.zone
		got := Lie(c.pack, &zone, c.shape, c.massG)
		assert.Equal(t, want.Goes, got.Goes, name)
		assert.InDelta(t, want.rigid, got.rigid, 1e-9, "%s: litres", name)
		assert.InDelta(t, want.OutCm, got.OutCm, 1e-9, "%s: stands out", name)
	}
}

// A strap holds what stands out of the pocket on its own side.
func TestStrapsHoldTheirSide(t *testing.T) {
	t.Parallel()
	pocket := rucksack.Zone{ID: "l", Kind: rucksack.Side, Side: "left"}
	for side, holds := range map[string]bool{"": true, "left": true, "right": false} {
		pack := &rucksack.Pack{Zones: []rucksack.Zone{pocket, {Kind: rucksack.Straps, Face: "side", Side: side}}}
		assert.Equal(t, holds, strapAbove(pack, &pocket), side)
	}
	pack := &rucksack.Pack{Zones: []rucksack.Zone{pocket, {Kind: rucksack.Straps, Face: "front"}}}
	assert.False(t, strapAbove(pack, &pocket))
}

// How full a zone is, by hand.
func TestFillsByHand(t *testing.T) {
	t.Parallel()
	assert.Zero(t, SqueezeFor(8, 6, 8), "in loose")
	assert.InDelta(t, 0.5, SqueezeFor(10, 6, 8), 1e-9, "half way between loose and tight")
	assert.Equal(t, 1.0, SqueezeFor(10, 8, 8), "just in when tight")
	assert.True(t, math.IsInf(SqueezeFor(10, 8.1, 8), 1), "not even tight")
	for _, c := range []struct {
		loose, squeeze float64
		want           State
	}{{9, 0, Roomy}, {9.01, 0, Snug}, {11, 0.3, Squeezed}, {11, SqueezedLimit, Squeezed},
		{11, 0.71, Crammed}, {11, 1, Crammed}, {11, 1.1, TooMuch}} {
		assert.Equal(t, c.want, StateFor(c.loose, 10, c.squeeze), "%v L in 10 L at %v", c.loose, c.squeeze)
	}
	task := &job.Task{Pack: pockets()}
	items := []kit.Item{
		{ID: "pot", Count: 1, Carry: kit.Pack, MassG: 300, Shape: cylinder(10, 10), Traits: []kit.Trait{kit.Fuel}},
		{ID: "quilt", Count: 2, Carry: kit.Pack, MassG: 600, Shape: kit.Shape{Kind: kit.Soft, LooseL: 8, TightL: 4}},
	}
	a := New(task, kit.Pieces(items, kit.Pack), nil, false)
	for _, c := range a.Choices {
		a.Put(c, 0)
	}
	assert.InDelta(t, 17, a.fills[0].need(0), 1e-9, "two quilts loose and the box round the pot")
	assert.InDelta(t, 9, a.fills[0].need(1), 1e-9)
	assert.InDelta(t, 13, a.fills[0].need(0.5), 1e-9)
	assert.Equal(t, 1500.0, a.fills[0].mass)
	assert.Equal(t, 1, a.fills[0].fuel)
	zone := a.ZoneFill(0)
	assert.Equal(t, []float64{30, 17, 9, 1500, 0},
		[]float64{zone.CapacityL, zone.NeedLooseL, zone.NeedTightL, zone.MassG, zone.Squeeze})
	assert.Equal(t, Roomy, zone.State)
	assert.Len(t, zone.Pieces, 3)
	assert.True(t, a.Used(0))
	a.Put(a.Choices[0], Out)
	assert.InDelta(t, 16, a.NeedNow(0), 1e-9)
	assert.InDelta(t, a.Choices[0].Leave, a.OutCost(), 1e-9)
	assert.InDelta(t, 1, a.OutL(), 1e-9)
	assert.False(t, a.Used(1))
}

// Body and bottom with the divider open are one room, and what lies in the bottom takes its litres from the body.
func TestOneRoom(t *testing.T) {
	t.Parallel()
	zones := pockets().Zones
	rooms := opened(zones)
	body, bottom := rooms[OfKind(rooms, rucksack.Body)], rooms[OfKind(rooms, rucksack.Bottom)]
	assert.InDelta(t, 40, body.CapacityL(), 1e-9)
	assert.InDelta(t, 84, body.SizeCm[2], 1e-9)
	assert.Equal(t, body.CapacityL(), bottom.CapacityL())
	assert.Equal(t, &rucksack.Draw{Zone: "body", Share: 1}, bottom.DrawsOn)
	assert.InDelta(t, 30, zones[0].VolumeL, 1e-9, "the pack is not changed")
	assert.Equal(t, zones[:1], opened(zones[:1]), "no bottom, nothing to open")
}

// What a pocket draws on the body it takes from it: half of its litres here.
func TestPocketsDrawOnTheBody(t *testing.T) {
	t.Parallel()
	task := &job.Task{Pack: pockets()}
	task.Pack.Zone("sleeve").DrawsOn = &rucksack.Draw{Zone: "body", Share: 0.5}
	items := []kit.Item{{ID: "bag", Count: 1, Carry: kit.Pack, MassG: 300, Shape: soft(2)}}
	a := New(task, kit.Pieces(items, kit.Pack), nil, false)
	assert.InDelta(t, 30, a.ZoneFill(0).CapacityL, 1e-9)
	a.Put(a.Choices[0], OfKind(a.Zones, rucksack.Sleeve))
	assert.InDelta(t, 29, a.ZoneFill(0).CapacityL, 1e-9)
	a.Loss[0] = 4
	assert.InDelta(t, 25, a.ZoneFill(0).CapacityL, 1e-9, "and what trials have shown to be lost")
	assert.InDeltaSlice(t, []float64{3, 1, 0, 0, 0, 0, 0, 0}, a.LessOfSolid(0.1), 1e-9)
	alone := a.AloneInBody()
	assert.InDelta(t, 1, alone[OfKind(a.Zones, rucksack.Sleeve)], 1e-9, "what the sleeve holds beside its largest thing")
	assert.Zero(t, alone[0])
}
