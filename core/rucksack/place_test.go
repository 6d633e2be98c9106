package rucksack

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tourer is a pack whose places can be worked out by hand: 30 x 20 cm, bottom 16, body 48, collar 12.
func tourer() *Pack {
	return &Pack{MassG: 1800, Zones: []Zone{
		{ID: "body", Kind: Body, SizeCm: [3]float64{30, 20, 48}, VolumeL: 28, CollarCm: 12},
		{ID: "bottom", Kind: Bottom, SizeCm: [3]float64{30, 20, 16}, VolumeL: 9, Divider: "removable"},
		{ID: "lid", Kind: Lid, SizeCm: [3]float64{26, 18, 8}, VolumeL: 3},
	}}
}

// Every kind of zone has its place: x to the right, y outward from the back panel, z up from the foot of the pack.
func TestPlacesByHand(t *testing.T) {
	t.Parallel()
	p := tourer()
	for name, c := range map[string]struct {
		zone Zone
		at   [3]float64
	}{
		"body, half-way up it, above the bottom": {Zone{Kind: Body, SizeCm: [3]float64{30, 20, 48}},
			[3]float64{0, 10, 16 + 24}},
		"bottom": {Zone{Kind: Bottom, SizeCm: [3]float64{30, 20, 16}}, [3]float64{0, 10, 8}},
		"lid, on the filled collar's half": {Zone{Kind: Lid, SizeCm: [3]float64{26, 18, 8}},
			[3]float64{0, 10, 64 + 6 + 4}},
		"front pocket, before the front": {Zone{Kind: Front, SizeCm: [3]float64{24, 6, 36}},
			[3]float64{0, 23, 16 + 19.2}},
		"left side pocket": {Zone{Kind: Side, Side: "left", SizeCm: [3]float64{10, 9, 24}},
			[3]float64{-20, 10, 14}},
		"right side pocket": {Zone{Kind: Side, Side: "right", SizeCm: [3]float64{10, 9, 24}},
			[3]float64{20, 10, 14}},
		"sleeve, at the back panel": {Zone{Kind: Sleeve, SizeCm: [3]float64{24, 4, 38}}, [3]float64{0, 2, 40}},
		"right hip pocket, before the hips": {Zone{Kind: Hip, Side: "right", SizeCm: [3]float64{14, 5, 9}},
			[3]float64{18, -8, 2}},
		"left shoulder pocket, on the strap": {Zone{Kind: Shoulder, Side: "left", SizeCm: [3]float64{8, 6, 14}},
			[3]float64{-12, -10, 51.2}},
		"inner pocket, high at the back": {Zone{Kind: Inner, SizeCm: [3]float64{18, 3, 12}}, [3]float64{0, 2, 58}},
		"straps on the front":            {Zone{Kind: Straps, SizeCm: [3]float64{30, 16, 40}}, [3]float64{0, 28, 32}},
		"straps under the bottom": {Zone{Kind: Straps, Face: "bottom", SizeCm: [3]float64{50, 14, 14}},
			[3]float64{0, 10, -7}},
		"straps on top": {Zone{Kind: Straps, Face: "top", SizeCm: [3]float64{50, 14, 14}},
			[3]float64{0, 10, 64 + 12 + 7}},
		"straps on the left side": {Zone{Kind: Straps, Face: "side", Side: "left",
			SizeCm: [3]float64{14, 14, 50}}, [3]float64{-22, 10, 32}},
	} {
		at := p.PlaceFor(&c.zone)
		for axis := range at {
			assert.InDelta(t, c.at[axis], at[axis], 1e-9, "%s, axis %d", name, axis)
		}
	}
}

func TestHeightsAndLitresByHand(t *testing.T) {
	t.Parallel()
	p := tourer()
	assert.Equal(t, 76.0, p.HeightCm(), "16 + 48 + 12")
	assert.Equal(t, 16.0, p.FloorCm(p.Of(Body)))
	assert.Zero(t, p.FloorCm(p.Of(Bottom)))
	assert.InDelta(t, 57.6, p.ShoulderCm(), 1e-9, "nine tenths of 64")
	assert.Equal(t, [3]float64{0, 5, 32}, p.MiddleCm())
	assert.InDelta(t, 7, p.Of(Body).CollarL(), 1e-9, "12 of 48 cm of 28 L")
	assert.InDelta(t, 35, p.Of(Body).CapacityL(), 1e-9)
	assert.Equal(t, [3]float64{60, 30, 20}, p.Of(Body).Sides(), "longest first, with the collar")
	assert.InDelta(t, 40, p.StatedL(), 1e-9)
	not := false
	p.Zones = append(p.Zones, Zone{ID: "mesh", Kind: Front, VolumeL: 5, Counted: &not},
		Zone{ID: "face", Kind: Straps, VolumeL: 9})
	assert.InDelta(t, 40, p.StatedL(), 1e-9, "open mesh and straps are not counted (ASTM F2153)")
	grown := p.Grown(12)
	assert.InDelta(t, 35, grown.Of(Body).VolumeL, 1e-9, "60 of 48 cm")
	assert.Equal(t, 28.0, p.Of(Body).VolumeL, "the pack itself stays")
	assert.True(t, p.Opens())
	p.Zones[1].Divider = "fixed"
	assert.False(t, p.Opens())
}

// A rounded section has two quarter circles cut off its front corners, of a radius of a quarter of the width
// (geometry); at its foot it is nine tenths as wide.
func TestRoundedSection(t *testing.T) {
	t.Parallel()
	body := Zone{Kind: Body, SizeCm: [3]float64{32, 20, 40}}
	pack := Pack{Zones: []Zone{body}}
	s := pack.Solid(1)
	const radius = 8.0
	full := 32*20 - 2*(radius*radius-math.Pi*radius*radius/4)
	assert.InDelta(t, full, 1000*s.Litres(39, 40), 20, "the uppermost layer, in cells")
	width := func(layer int) (n int) {
		for i := range s.Size[0] {
			if s.Inside[i+s.Size[0]*s.Size[1]*layer] {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 32, width(39))
	assert.Equal(t, 28, width(0), "0.9 x 32 is 28.8")
	assert.Equal(t, 32, width(20), "from half its height on it is as wide as it gets")
	assert.InDelta(t, full*40/1000, pack.Zones[0].FormL(), 0.3, "of a body above a bottom compartment: it does not narrow")
	lid := Zone{Kind: Lid, SizeCm: [3]float64{20, 10, 5}}
	assert.InDelta(t, 1, lid.FormL(), 1e-9)
}

// A zone of which only the litres are known has the usual proportions of its kind, and those litres.
func TestSizeForMakesTheLitres(t *testing.T) {
	t.Parallel()
	for _, kind := range Kinds {
		size := SizeFor(kind, 7)
		assert.InEpsilon(t, 7, size[0]*size[1]*size[2]/1000, 0.04, kind)
	}
	assert.Equal(t, [3]float64{30, 20, 50}, SizeFor(Body, 30))
	for kind, want := range map[ZoneKind]struct {
		weather Weather
		reach   Reach
	}{Body: {Covered, Opened}, Lid: {Covered, Off}, Hip: {Covered, Walking}, Shoulder: {Open, Walking}, Side: {Open,
		Swing}, Front: {Open, Off}, Sleeve: {Covered, Opened}} {
		weather, reach := Typical(kind)
		assert.Equal(t, want.weather, weather, kind)
		assert.Equal(t, want.reach, reach, kind)
	}
}

func TestOpenings(t *testing.T) {
	t.Parallel()
	body, bottom := Zone{Kind: Body}, Zone{Kind: Bottom}
	assert.True(t, body.Opens("top") && !body.Opens("front"))
	assert.True(t, bottom.Opens("front") && !bottom.Opens("top"))
	body.Openings = []string{"front"}
	assert.True(t, body.Opens("front") && !body.Opens("top"))
	hip, straps := Zone{Kind: Hip, Reach: Walking}, Zone{Kind: Straps, Reach: Off}
	assert.True(t, hip.OnePull())
	assert.False(t, straps.OnePull())
	assert.False(t, (&Zone{Kind: Inner, Reach: Opened}).OnePull())
	p := tourer()
	require.NotNil(t, p.Zone("lid"))
	assert.Nil(t, p.Zone("attic"))
	assert.Nil(t, p.Of(Hip))
}

// Of every kind of zone the guessed sides hold the litres, in its own proportions; the tenfold is 2.15 times as long.
func TestEveryKindHasItsProportions(t *testing.T) {
	t.Parallel()
	for kind, p := range map[ZoneKind][3]float64{
		Body: {30, 20, 50}, Bottom: {30, 20, 16}, Lid: {26, 18, 9}, Front: {24, 6, 36}, Side: {11, 9, 24},
		Sleeve: {24, 4, 38}, Hip: {14, 5, 9}, Shoulder: {8, 6, 14}, Inner: {18, 3, 12}, Long: {8, 6, 45},
		Straps: {30, 16, 40},
	} {
		litres := p[0] * p[1] * p[2] / 1000
		assert.Equal(t, p, SizeFor(kind, litres), kind)
		larger := SizeFor(kind, 10*litres)
		for axis := range p {
			assert.InDelta(t, p[axis]*math.Cbrt(10), larger[axis], 0.051, kind)
		}
	}
}
