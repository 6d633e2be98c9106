package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/rucksack"
)

// The figures of the trade sheet: 4 s walking, 8 s side pocket, 12 s pack off, 6 s more for the lid, 15 s for the
// body, 10 s for a liner, 4 s out and 6 s back a thing (our estimates).
func TestSeconds(t *testing.T) {
	t.Parallel()
	zone := func(kind rucksack.ZoneKind) *rucksack.Zone {
		weather, reach := rucksack.Typical(kind)
		return &rucksack.Zone{Kind: kind, Weather: weather, Reach: reach}
	}
	assert.Equal(t, 4.0, Seconds(zone(rucksack.Hip), 0, 0))
	assert.Equal(t, 8.0, Seconds(zone(rucksack.Side), 0, 0))
	assert.Equal(t, 12.0, Seconds(zone(rucksack.Front), 0, 0))
	assert.Equal(t, 18.0, Seconds(zone(rucksack.Lid), 0, 0))
	assert.Equal(t, 27.0, Seconds(zone(rucksack.Body), 0, 0))
	assert.Equal(t, 67.0, Seconds(zone(rucksack.Body), 3, 1))
}

// Into the hand it takes what opening takes, half of each barrier and the lifting out, but not the putting back.
func TestInHand(t *testing.T) {
	t.Parallel()
	body := &rucksack.Zone{Kind: rucksack.Body, Weather: rucksack.Covered, Reach: rucksack.Opened}
	assert.Equal(t, 27.0, InHand(body, 0, 0))
	assert.Equal(t, 27.0+3*4, InHand(body, 3, 0), "4 s for each thing lifted out")
	assert.Equal(t, 27.0+2*5, InHand(body, 0, 2), "5 s to open a barrier")
	one := WithTimes(8, []float64{20})
	assert.Zero(t, one.SdS, "one time has no spread")
	assert.InDelta(t, 12, one.EstimateS, 1e-9, "(2 x 8 + 20) / 3")
	two := WithTimes(8, []float64{10, 14})
	assert.InDelta(t, 2.8284, two.SdS, 1e-4, "the root of (4 + 4) / 1")
}
