package kit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// listOf is a list of packed things of some kinds.
func listOf(kinds ...string) (items []Item) {
	for _, id := range kinds {
		k, _ := KindOf(id)
		items = append(items, Item{ID: id, Name: k.Name, Kind: id, Group: k.Group, Count: 1, MassG: k.MassG, Shape: k.Shape,
			Carry: Pack, Use: k.Use, Water: k.Water, Traits: k.Traits, Functions: k.Functions, Consumable: k.Consumable})
	}
	return items
}

// What people keep in bags by purpose (common practice), and what never lies in them together.
func TestProposeBags(t *testing.T) {
	t.Parallel()
	of := func(items []Item, purpose string) []string {
		for _, p := range ProposeBags(items) {
			if p.Purpose == purpose {
				return p.Items
			}
		}
		return nil
	}
	kitchen := listOf("gas-stove", "lighter", "matches", "spoon", "gas-canister", "pot", "dinner", "first-aid-kit")
	assert.ElementsMatch(t, []string{"gas-stove", "lighter", "spoon"}, of(kitchen, "kitchen"), "no fuel, no food, the second fire elsewhere")
	assert.ElementsMatch(t, []string{"charger", "power-bank"}, of(listOf("power-bank", "charger", "phone"), "electronics"))
	assert.ElementsMatch(t, []string{"trowel-kit", "toilet-paper"}, of(listOf("trowel-kit", "toilet-paper", "wash-kit"), "toilet"))
	assert.Empty(t, ProposeBags(listOf("spoon", "mug")), "two things are no bag")
	kept := listOf("gas-stove", "lighter", "spoon", KitBag)
	for i := range kept[:3] {
		kept[i].NestIn = KitBag
	}
	assert.Empty(t, ProposeBags(kept), "it is done already")
	for _, p := range ProposeBags(listOf("headlamp", "spare-light", "compass", "map", "whistle", "rescue-blanket", "matches")) {
		assert.NotContains(t, p.Items, "whistle")
		assert.NotContains(t, p.Items, "rescue-blanket")
		assert.NotContains(t, p.Items, "matches", "the only fire")
	}
}

// An electronics bag is for what is small and waits until camp: a camera or a phone for the way stays out of it.
func TestElectronicsForTheWayStayOut(t *testing.T) {
	t.Parallel()
	list := listOf("power-bank", "charger", "camera")
	require.NotEqual(t, Camp, list[2].Use.When)
	for _, p := range ProposeBags(list) {
		assert.NotContains(t, p.Items, "camera", p.Purpose)
	}
	large := listOf("power-bank", "charger")
	large[0].Shape = Shape{Kind: Box, SizeCm: [3]float64{20, 20, 20}}
	assert.Empty(t, ProposeBags(large), "one charger is no bag, and what is that large is in none")
}
