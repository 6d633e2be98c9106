package kit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestVolumes(t *testing.T) {
	t.Parallel()
	// Geometry: a box is l w h, a cylinder pi d^2 l / 4; a lump displaces what was measured (Archimedes).
	assert.InDelta(t, 1.122, box(17, 11, 6).Litres(0), 1e-9)
	assert.InDelta(t, math.Pi/4*11*11*9/1000, cylinder(11, 9).Litres(1), 1e-9)
	assert.InDelta(t, 1.6, Shape{Kind: Lump, SizeCm: [3]float64{27, 11, 9}, VolumeL: 1.6}.Litres(0.5), 1e-9)
	assert.InDelta(t, math.Pi/4*12*12*10/1000, vesselOf(12, 10, 0.9).Litres(0), 1e-9, "a vessel shuts out its outside")
	assert.InDelta(t, 8.5, soft(11, 6, 4).Litres(0.5), 1e-9)
}

func TestOnlySoftThingsGiveWay(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		k := rapid.SampledFrom(Kinds).Draw(t, "kind")
		s := rapid.Float64Range(0, 1).Draw(t, "squeeze")
		v := k.Shape.Litres(s)
		if k.Shape.Kind != Soft {
			assert.Equal(t, k.Shape.Litres(0), v)
			assert.LessOrEqual(t, v, k.Shape.BoxL()+1e-9, "a thing lies inside its box")
		}
		assert.LessOrEqual(t, v, k.Shape.Litres(0)+1e-9)
		assert.GreaterOrEqual(t, v, k.Shape.Litres(1)-1e-9)
	})
}

func TestRod(t *testing.T) {
	t.Parallel()
	both := cylinder(3, 20)
	both.SizeCm = [3]float64{3, 3, 20}
	assert.True(t, cylinder(3, 20).Round())
	assert.False(t, both.Round(), "what has sides is measured by them")
	assert.False(t, box(3, 3, 20).Round())
	assert.True(t, cylinder(5, 46).Rod(), "tent poles")
	assert.False(t, cylinder(10, 23).Rod(), "a rolled air mat")
}

// Common practice: stove, canister, lighter and sponge travel in the pot.
func TestNesting(t *testing.T) {
	t.Parallel()
	pot := vesselOf(12, 10, 0.9)
	assert.True(t, cylinder(11, 9).Nests(pot), "a 230 g canister stands in a 0.9 L pot")
	assert.True(t, box(8, 2.5, 1.5).Nests(pot))
	assert.True(t, soft(0.5, 0.3, 1).Nests(pot))
	assert.False(t, box(21, 4, 2).Nests(pot), "a long spoon does not")
	assert.False(t, cylinder(11.5, 5).Nests(pot), "wider than the mouth")
	assert.False(t, box(9.5, 9, 8).Nests(pot), "its least diagonal, 12.0 cm, does not pass a mouth of 11 cm")
	assert.False(t, cylinder(11, 9).Nests(box(20, 20, 20)), "a box is no vessel")
}

func TestWithinTurnsAsNeeded(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		side := rapid.Float64Range(1, 40)
		a, b, c := side.Draw(t, "a"), side.Draw(t, "b"), side.Draw(t, "c")
		zone := box(side.Draw(t, "x"), side.Draw(t, "y"), side.Draw(t, "z")).Dimensions()
		assert.Equal(t, box(a, b, c).Within(zone), box(c, a, b).Within(zone))
	})
}

func TestKindsAreComplete(t *testing.T) {
	t.Parallel()
	seen := map[string]bool{}
	for _, k := range Kinds {
		assert.False(t, seen[k.ID], "%s stands twice", k.ID)
		seen[k.ID] = true
		assert.Positive(t, k.MassG, k.ID)
		assert.Positive(t, k.Shape.Litres(1), k.ID)
		assert.Contains(t, Groups, k.Group, k.ID)
		assert.Contains(t, Whens, k.Use.When, k.ID)
	}
}

func TestPieces(t *testing.T) {
	t.Parallel()
	items := []Item{{ID: "bottle", Count: 2, Carry: Pack}, {ID: "hat", Count: 1, Carry: Worn}}
	pieces := Pieces(items, Pack)
	assert.Len(t, pieces, 2)
	assert.Equal(t, 2, pieces[1].Number)
	assert.Len(t, Pieces(items, Worn), 1)
	assert.Empty(t, Pieces(items, Left))
}
