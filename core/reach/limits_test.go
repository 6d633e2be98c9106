package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/kit"
)

// The usual drills, their limits in seconds and what they ask for, as docs/model.md and the pages say them.
func TestDrillsAreThese(t *testing.T) {
	t.Parallel()
	limits := map[string]float64{"rain": 60, "hurt": 30, "cold-halt": 60, "refill": 120, "lunch": 60, "way": 20,
		"dusk": 30, "camp-in-rain": 240, "avalanche": 25, "night-call": 90, "child": 60}
	asks := map[string][]string{
		"rain": {"rain-jacket", "rain-trousers"}, "hurt": {"first-aid-kit"}, "cold-halt": {"insulated-jacket"},
		"refill": {"water-bag", "bottle", "water-filter"},
		"way":    {"map", "compass"}, "dusk": {"headlamp"}, "camp-in-rain": {"tent-fly", "tent-inner", "pegs"},
		"night-call": {"headlamp", "trowel-kit", "camp-shoes"},
	}
	not := map[string][]string{
		"rain": {"tent-fly", "headlamp"}, "hurt": {"map"}, "refill": {"pot"}, "way": {"spare-map", "headlamp"},
		"dusk": {"spare-light", "lighter"}, "camp-in-rain": {"down-sleeping-bag"},
		"avalanche": {"transceiver"}, "cold-halt": {"down-sleeping-bag"},
	}
	require.Len(t, Drills, len(limits))
	item := func(kind string) *kit.Item {
		k, known := kit.KindOf(kind)
		require.True(t, known, kind)
		return &kit.Item{ID: k.ID, Kind: k.ID, Group: k.Group, Use: k.Use, Water: k.Water, Traits: k.Traits,
			Functions: k.Functions, Consumable: k.Consumable}
	}
	for i := range Drills {
		d := &Drills[i]
		assert.Equal(t, limits[d.ID], d.LimitS, d.ID)
		assert.Equal(t, d.ID == "rain" || d.ID == "camp-in-rain", d.Rain && d.NoneWet, d.ID)
		assert.Equal(t, d.ID == "hurt", d.Told, d.ID)
		for _, kind := range asks[d.ID] {
			assert.True(t, d.wants(item(kind)), "%s asks for %s", d.ID, kind)
		}
		for _, kind := range not[d.ID] {
			assert.False(t, d.wants(item(kind)), "%s does not ask for %s", d.ID, kind)
		}
	}
	assert.Equal(t, []Limit{{60, true}}, Limits(item("rain-trousers")))
	own := Drill{Items: []string{"whistle"}}
	assert.True(t, own.wants(item("whistle")))
	assert.False(t, own.wants(item("map")))
}
