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
