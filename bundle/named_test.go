package bundle_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// named reads a bundle of a pack with zones and of things by name only.
func named(t *testing.T, zones, trip string, names ...string) *bundle.Bundle {
	t.Helper()
	var items []string
	for i, name := range names {
		items = append(items, fmt.Sprintf(`{"id":"i%d","name":%q}`, i, name))
	}
	b, err := bundle.Read([]byte(`{"format":"tornister","version":1,"pack":{"id":"p","zones":[
		{"id":"main","kind":"body","size_cm":[28,18,45]}` + zones + `]},"items":[` + strings.Join(items, ",") +
		`],"trip":` + trip + `}`))
	require.NoError(t, err)
	return b
}

// Food has the day that its name says; a bare number at its end is one only where there are others of the series, and
// never later than the trip. What is for later days is not wanted on the way of the first.
func TestANameSaysTheDay(t *testing.T) {
	t.Parallel()
	b := named(t, "", `{"days":3,"nights":2}`, "Day 2 snacks", "Dinner 1", "dinner-2", "Breakfast 9", "Lunch 2", "Food bag, day 1",
		"Day 3 notebook", "Lunch, day 2 and 3", "Dinner 0", "Food, Day3")
	var days []int
	for i := range b.Task.Items {
		days = append(days, b.Task.Items[i].Day)
	}
	assert.Equal(t, []int{2, 1, 2, 0, 0, 1, 0, 2, 0, 3}, days)
	items := b.Task.Items
	assert.Equal(t, kit.Use{When: kit.Camp, PerDay: 1}, items[0].Use, "tomorrow's snacks")
	assert.Equal(t, kit.Use{When: kit.Halt, PerDay: 3}, items[5].Use, "today's bag")
	assert.Contains(t, b.Assumed, "/items/0/day: 2 (by its name)")
	assert.Contains(t, b.Assumed, "/items/0/use: camp, 1 a day (food for day 2, our estimate)")
	assert.NotContains(t, strings.Join(b.Assumed, "\n"), "/items/6/day")
}

// Numbers are no days where one of the series is more than the trip has days.
func TestANumberIsNoDayOfALongSeries(t *testing.T) {
	t.Parallel()
	b := named(t, "", `{"days":3,"nights":2}`, "Dinner 1", "Dinner 2", "Dinner 3", "Dinner 4", "Lunch 1", "Lunch 3")
	var days []int
	for i := range b.Task.Items {
		days = append(days, b.Task.Items[i].Day)
	}
	assert.Equal(t, []int{0, 0, 0, 0, 1, 3}, days)
}

// Zones without a name are called what they are; two of a kind are told apart by their ids.
func TestZonesAreCalledWhatTheyAre(t *testing.T) {
	t.Parallel()
	b := named(t, `,{"id":"sl","kind":"side","side":"left","volume_l":2},{"id":"x","kind":"straps","face":"front"},
		{"id":"mesh","kind":"front","volume_l":3},{"id":"z3","kind":"front","volume_l":1},
		{"id":"h","kind":"hip","side":"right","volume_l":0.5,"name":"Snack pocket"}`, `{}`, "Mug")
	var names []string
	for i := range b.Task.Pack.Zones {
		names = append(names, b.Task.Pack.Zones[i].Name)
	}
	assert.Equal(t, []string{"Body", "Left side pocket", "Front straps", "Mesh", "Z3", "Snack pocket"}, names)
	for _, kind := range []rucksack.ZoneKind{rucksack.Bottom, rucksack.Lid, rucksack.Sleeve, rucksack.Shoulder,
		rucksack.Inner, rucksack.Long} {
		b := named(t, fmt.Sprintf(`,{"id":"q7","kind":%q,"volume_l":1}`, kind), `{}`, "Mug")
		assert.NotEqual(t, "Q7", b.Task.Pack.Zones[1].Name, kind)
	}
}

// Where the poles of a tent are a thing by themselves, or its name says cloth, the tent is what can be stuffed, without
// their weight.
func TestATentWithoutItsPoles(t *testing.T) {
	t.Parallel()
	for tent, poles := range map[string]string{"Tent for two": "Tent poles", "Tent for two, cloth": "Mug"} {
		it := &named(t, "", `{}`, tent, poles).Task.Items[0]
		assert.Equal(t, kit.Soft, it.Shape.Kind, tent)
		assert.InDelta(t, 2100*(1-0.22), it.MassG, 0.5, tent)
	}
	whole := named(t, "", `{}`, "Tent for two", "Walking poles")
	assert.NotEqual(t, kit.Soft, whole.Task.Items[0].Shape.Kind)
	assert.InDelta(t, 2100, whole.Task.Items[0].MassG, 0)
	b, err := bundle.Read([]byte(`{"format":"tornister","version":1,"pack":{"id":"p","zones":[{"id":"b","kind":"body",
		"size_cm":[28,18,45]}]},"items":[{"id":"a","name":"Tent for two","kind":""},{"id":"tent","mass_g":900},
		{"id":"c","kind":"tent-poles"}]}`))
	require.NoError(t, err)
	assert.Equal(t, kit.Unknown.Shape, b.Task.Items[0].Shape, "of what is kept from having a kind nothing is known")
	assert.InDelta(t, 900, b.Task.Items[1].MassG, 0, "what is given stays")
	assert.Equal(t, kit.Soft, b.Task.Items[1].Shape.Kind)
	assert.Contains(t, strings.Join(b.Assumed, "\n"), "(tent for two, cloth, our estimate)")
}
