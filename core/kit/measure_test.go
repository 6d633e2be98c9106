package kit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a ruler says, worked by hand: three sides make a box, two a cylinder, and nothing else does.
func TestMeasuredWithARuler(t *testing.T) {
	t.Parallel()
	s, how, err := Measure(Shape{Kind: Soft, LooseL: 3, TightL: 2}, Reading{Way: ByBox, Sides: [3]float64{30, 20, 10}})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Box, SizeCm: [3]float64{30, 20, 10}}, s)
	assert.Equal(t, Dimensions, how)
	assert.InDelta(t, 6, s.Litres(0), 1e-9)

	s, _, err = Measure(s, Reading{Way: ByCylinder, Sides: [3]float64{10, 20}})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Cylinder, DiameterCm: 10, LengthCm: 20}, s)
	assert.InDelta(t, math.Pi/2, s.Litres(0), 1e-9)

	slate := Shape{Kind: Flat, SizeCm: [3]float64{20, 10, 1}}
	s, _, err = Measure(slate, Reading{Way: ByBox, Sides: [3]float64{21, 11, 1}})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Flat, SizeCm: [3]float64{21, 11, 1}}, s, "a flat thing that is measured flat stays so")
	s, _, err = Measure(slate, Reading{Way: ByCylinder, Sides: [3]float64{4, 20}})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Cylinder, DiameterCm: 4, LengthCm: 20}, s, "rolled up it is none")
	pot := Shape{Kind: Vessel, DiameterCm: 9, LengthCm: 10, InsideL: 0.5, MouthCm: 8}
	s, _, err = Measure(pot, Reading{Way: ByCylinder, Sides: [3]float64{10, 12}})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Vessel, DiameterCm: 10, LengthCm: 12, InsideL: 0.5, MouthCm: 8}, s, "a pot stays one")

	for _, bad := range []Reading{
		{Way: ByBox, Sides: [3]float64{30, 20}}, {Way: ByCylinder, Sides: [3]float64{30, 20, 10}},
		{Way: ByBox, Sides: [3]float64{30, 0, 10}}, {Way: ByBox, Sides: [3]float64{301, 20, 10}},
		{Way: ByBox, Sides: [3]float64{30, 20, 0.04}}, {Way: BySack, Sides: [3]float64{20}},
	} {
		after, _, err := Measure(s, bad)
		assert.ErrorIs(t, err, ErrReading, "%+v", bad)
		assert.Equal(t, s, after, "what was known stays")
	}
}

// A thing under water displaces what it displaces; its outside grows only where it could not hold that much.
func TestMeasuredInWater(t *testing.T) {
	t.Parallel()
	boots := Shape{Kind: Box, SizeCm: [3]float64{30, 20, 10}}
	s, how, err := Measure(boots, Reading{Way: ByWater, Before: 1, After: 6})
	require.NoError(t, err)
	assert.Equal(t, Shape{Kind: Lump, SizeCm: [3]float64{30, 20, 10}, VolumeL: 5}, s)
	assert.Equal(t, Displacement, how)
	s, _, err = Measure(boots, Reading{Way: ByWater, Before: 1, After: 8})
	require.NoError(t, err)
	assert.Equal(t, [3]float64{31.6, 21.1, 10.6}, s.SizeCm, "seven litres: the third root of 7/6, up to a millimetre")
}

// How a thing was measured says how sure its litres are, unless that was said of it.
func TestUncertainAsMeasuredOrAsSaid(t *testing.T) {
	t.Parallel()
	it := Item{Measured: Displacement}
	assert.InDelta(t, 0.03, it.Uncertain(), 1e-9)
	it.Spread = 0.4
	assert.InDelta(t, 0.4, it.Uncertain(), 1e-9)
}

// Eight times the litres are twice each side, and a lump displaces as much more.
func TestScaledKeepsItsForm(t *testing.T) {
	t.Parallel()
	assert.Equal(t, Shape{Kind: Lump, SizeCm: [3]float64{20, 12, 8}, VolumeL: 4},
		scaled(Shape{Kind: Lump, SizeCm: [3]float64{10, 6, 4}, VolumeL: 0.5}, 8))
	assert.Equal(t, Shape{Kind: Vessel, DiameterCm: 8, LengthCm: 6, InsideL: 0.8},
		scaled(Shape{Kind: Vessel, DiameterCm: 16, LengthCm: 12, InsideL: 6.4}, 0.125))
}

// A shelter that stands on walking poles holds them while it stands; poles of its own leave the hands free, and one
// without the other is no pair.
func TestPolesThatTheShelterHolds(t *testing.T) {
	t.Parallel()
	both := listOf("walking-poles", "tarp")
	both[1].Needs = []string{"walking-poles"}
	shelter, poles := Held(both)
	require.NotNil(t, shelter)
	assert.Equal(t, "tarp", shelter.ID)
	assert.Equal(t, "walking-poles", poles.ID)
	for name, list := range map[string][]Item{
		"no poles": both[1:], "no shelter": both[:1], "poles of its own": append(listOf("tent-poles"), both...),
	} {
		shelter, poles = Held(list)
		assert.Nil(t, shelter, name)
		assert.Nil(t, poles, name)
	}
	both[0].Carry = Left
	_, poles = Held(both)
	assert.Nil(t, poles, "they stay at home")
}
