package rucksack

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestStatedLitresAreMadeByTheCells(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.Float64Range(18, 40).Draw(t, "width"), rapid.Float64Range(20, 70).Draw(t, "height")
		litres := w * 20 * h / 1000 * rapid.Float64Range(0.7, 1.2).Draw(t, "fill")
		pack := Pack{Zones: []Zone{{ID: "body", Kind: Body, SizeCm: [3]float64{w, 20, h}, VolumeL: litres}}}
		s := pack.Solid(1)
		layer := w * h / 1000 // litres in one layer of cells across the front
		assert.InDelta(t, litres, s.Litres(0, s.Size[2]), layer)
	})
}

func TestBoxFormIsExactlyItsSize(t *testing.T) {
	t.Parallel()
	pack := Pack{Zones: []Zone{{ID: "body", Kind: Body, Form: "box", SizeCm: [3]float64{27, 18, 40}, VolumeL: 1}}}
	s := pack.Solid(1)
	assert.Equal(t, Cells{27, 18, 40}, s.Size)
	assert.InDelta(t, 27*18*40/1000.0, s.Litres(0, 40), 1e-9)
	assert.Equal(t, -13.5, s.Origin[0])
}

func TestBottomBelowBodyAndCollarAbove(t *testing.T) {
	t.Parallel()
	pack := Pack{Zones: []Zone{
		{ID: "body", Kind: Body, SizeCm: [3]float64{30, 20, 48}, VolumeL: 28, CollarCm: 12},
		{ID: "bottom", Kind: Bottom, SizeCm: [3]float64{30, 20, 16}, VolumeL: 9}}}
	s := pack.Solid(1)
	assert.Equal(t, 16, s.Floor)
	assert.Equal(t, 76, s.Size[2])
	assert.InDelta(t, 9, s.Litres(0, 16), 0.25)
	assert.InDelta(t, 28, s.Litres(16, 64), 0.75)
	assert.InDelta(t, pack.Zone("body").CollarL(), s.Litres(64, 76), 0.4)
	// Every column is one run of cells from its base upward, so that nothing can hide under a ledge of the pack.
	for column := range s.Size[0] * s.Size[1] {
		for k := 17; k < s.Size[2]; k++ {
			below, here := s.Inside[column+s.Size[0]*s.Size[1]*(k-1)], s.Inside[column+s.Size[0]*s.Size[1]*k]
			assert.False(t, below && !here)
		}
	}
}

// On cells of 2 cm a pack is the same pack: its litres to a layer of cells, the same on both sides, its back flat and
// its front rounded, so that the outermost columns are less deep than the middle.
func TestCoarseCells(t *testing.T) {
	t.Parallel()
	pack := Pack{Zones: []Zone{{ID: "body", Kind: Body, Form: "rounded", SizeCm: [3]float64{32, 24, 60}, VolumeL: 38}}}
	for _, cm := range []float64{1, 2} {
		s := pack.Solid(cm)
		assert.Equal(t, Cells{int(32 / cm), s.Size[1], int(60 / cm)}, s.Size)
		assert.InDelta(t, 38, s.Litres(0, s.Size[2]), cm*32*60/1000/2, "%v cm", cm)
		assert.Equal(t, -16.0, s.Origin[0])
		deep := func(i int) (n int) {
			for j := range s.Size[1] {
				if s.Inside[i+s.Size[0]*(j+s.Size[1]*(s.Size[2]-1))] {
					n++
				}
			}
			return n
		}
		for i := range s.Size[0] / 2 {
			assert.Equal(t, deep(i), deep(s.Size[0]-1-i), "column %d of %v cm", i, cm)
		}
		assert.Less(t, deep(0), deep(s.Size[0]/2), "%v cm", cm)
	}
}

// What dimensions make, when no litres are stated: 30 x 20 x 50 cm of a box are 30 litres; a rounded body has less than
// its box, and a pocket is taken as one.
func TestLitresOfTheDimensions(t *testing.T) {
	t.Parallel()
	size := [3]float64{30, 20, 50}
	box := Zone{Kind: Body, Form: "box", SizeCm: size, VolumeL: 99}
	assert.InDelta(t, 30, box.FormL(), 1e-12)
	rounded := Zone{Kind: Body, Form: "rounded", SizeCm: size}
	assert.InDelta(t, 28.4, rounded.FormL(), 0.8)
	assert.Less(t, rounded.FormL(), 30.0)
	pocket := Zone{Kind: Side, SizeCm: [3]float64{10, 8, 20}}
	assert.InDelta(t, 1.6, pocket.FormL(), 1e-12)
}
