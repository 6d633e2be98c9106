package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/rucksack"
)

// The figures of the trade sheet: 4 s walking, 8 s side pocket, 12 s pack off, 6 s more for the lid, 15 s for the body,
// 10 s for a liner, 4 s out and 6 s back a thing (our estimates).
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
