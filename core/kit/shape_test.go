package kit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a sack can be pressed to, by hand: a square section, one as flat as it gives, a tenth shorter; the litres stay.
func TestPressedSacksByHand(t *testing.T) {
	t.Parallel()
	sack := Shape{Kind: Lump, DiameterCm: 20, LengthCm: 40, VolumeL: 10, Gives: 2}
	want := [][3]float64{
		{40, math.Sqrt(250), math.Sqrt(250)},
		{40, math.Sqrt(500), math.Sqrt(125)},
		{36, math.Sqrt(10_000.0 / 36), math.Sqrt(10_000.0 / 36)},
	}
	got := sack.Pressed()
	assert.Len(t, got, len(want))
	for i := range want {
		assert.InDeltaSlice(t, want[i][:], got[i][:], 1e-9)
		assert.InDelta(t, 10_000, got[i][0]*got[i][1]*got[i][2], 1e-6)
	}
	for _, s := range []Shape{{Kind: Lump, Gives: 0.9}, {Kind: Soft, Gives: 2}, {Kind: Vessel, Gives: 2},
		{Kind: Flat, Gives: 2}} {
		assert.Nil(t, s.Pressed(), "%+v", s)
	}
	assert.True(t, Shape{Kind: Cylinder, Gives: 1}.Yields())
	made := Sack(6, 1.8, 1.3)
	assert.InDelta(t, 6, made.Litres(0), 0.01)
	assert.InDelta(t, 1.8, made.LengthCm/made.DiameterCm, 0.02)
	assert.Equal(t, 1.3, made.Gives)
}

// How long a thing is kept in another: straight, by way of a third, not the other way round.
func TestKeeps(t *testing.T) {
	t.Parallel()
	in := map[string]string{"bag": "", "pouch": "bag", "pen": "pouch", "a": "b", "b": "a", "into": "a"}
	for _, c := range []struct {
		outer, inner string
		want         bool
	}{{"bag", "pouch", true}, {"bag", "pen", true}, {"pouch", "pen", true}, {"pen", "bag", false}, {"pouch", "bag", false},
		{"bag", "bag", false}, {"bag", "yak", false}, {"bag", "a", false}, {"a", "a", true},
		{"into", "into", false}, {"b", "into", true}} {
		assert.Equal(t, c.want, Keeps(in, c.outer, c.inner), "%+v", c)
	}
	assert.False(t, Keeps(nil, "a", "a"), "where nothing is kept in anything")
}

// What is typed in figures, by hand.
func TestFiguresTyped(t *testing.T) {
	t.Parallel()
	for line, c := range map[string]struct {
		shape Shape
		massG float64
	}{
		// a crate is no "carte", which is a map
		"crate 30x20x10 cm 500 g":     {Shape{Kind: Box, SizeCm: [3]float64{30, 20, 10}}, 500},
		"crate 0.3 x 0.2 x 0.1 m":     {Shape{Kind: Box, SizeCm: [3]float64{30, 20, 10}}, -1},
		"crate 12 x 30 cm 1 kg":       {Shape{Kind: Cylinder, DiameterCm: 12, LengthCm: 30}, 1000},
		"blanket 6 l loose 3 l tight": {soft(6, 3, 2), -1},
	} {
		told, err := Quick(line)
		assert.NoError(t, err, line)
		assert.Equal(t, c.shape.Kind, told.Shape.Kind, line)
		assert.InDeltaSlice(t, c.shape.SizeCm[:], told.Shape.SizeCm[:], 1e-6, line)
		assert.InDelta(t, c.shape.DiameterCm, told.Shape.DiameterCm, 1e-9, line)
		assert.InDelta(t, c.shape.LengthCm, told.Shape.LengthCm, 1e-9, line)
		assert.InDelta(t, c.shape.LooseL, told.Shape.LooseL, 1e-9, line)
		assert.InDelta(t, c.shape.TightL, told.Shape.TightL, 1e-9, line)
		if c.massG > 0 {
			assert.InDelta(t, c.massG, told.MassG, 1e-9, line)
		}
	}
	// 9 mm by 25 m of rope displace 1.59 L (geometry), a cord of 4 mm by 10 m 0.126 L
	rope, err := Quick("rope 25 m")
	assert.NoError(t, err)
	assert.InDelta(t, 1.59*coiledLoose, rope.Shape.LooseL, 0.01)
	assert.InDelta(t, 1.59*1000*cordDensity, rope.MassG, 2)
	cord, err := Quick("cord 10 m")
	assert.NoError(t, err)
	assert.InDelta(t, 0.1257*coiledLoose, cord.Shape.LooseL, 0.01)
	// a stuffed ball of 20 cm holds 4.19 L, a sack of 20 by 30 cm 9.42 L (geometry)
	assert.InDelta(t, 4.1888, sackL([]float64{20}), 1e-4)
	assert.InDelta(t, 9.4248, sackL([]float64{20, 30}), 1e-4)
	assert.InDelta(t, 6, sackL([]float64{30, 20, 10}), 1e-9)
	box := Shape{Kind: Lump}
	lump := (&reader{sides: []float64{30, 20, 10}}).shaped(box)
	assert.InDelta(t, 3.6, lump.VolumeL, 1e-9, "a lump is taken to fill six tenths of its box")
	pot := (&reader{sides: []float64{16, 10}}).shaped(Shape{Kind: Vessel})
	assert.InDelta(t, tenths(0.8*math.Pi*64*10/1000), pot.InsideL, 1e-9)
	assert.Equal(t, 15.0, pot.MouthCm)
}

// Sack read off a soft thing of which nothing is known: three fifths of it are left when it is tight.
func TestASackOfSomethingHard(t *testing.T) {
	t.Parallel()
	s, how, err := Measure(Shape{Kind: Box, SizeCm: [3]float64{9, 9, 9}}, Reading{Way: BySack, Sides: [3]float64{20, 30}})
	assert.NoError(t, err)
	assert.Equal(t, Label, how)
	assert.Equal(t, Soft, s.Kind)
	assert.InDelta(t, 0.6, s.TightL/s.LooseL, 0.002)
	assert.InDelta(t, 9.42, s.LooseL*(1-sackSqueeze*0.4), 0.03, "pushed full by hand it holds what the sack does")
}
