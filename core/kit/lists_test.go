package kit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestChecklistsNameKindsThatExist(t *testing.T) {
	t.Parallel()
	for _, list := range Checklists {
		assert.GreaterOrEqual(t, len(list.Lines), 15, list.ID)
		for _, line := range list.Lines {
			require.NotEmpty(t, line.Kinds, line.Word)
			for _, id := range line.Kinds {
				_, ok := KindOf(id)
				assert.True(t, ok, "%s: %s", list.ID, id)
			}
		}
	}
}

func thing(id string, carry Carry) Item {
	k, _ := KindOf(id)
	return Item{ID: id, Name: k.Name, Kind: id, Group: k.Group, Count: 1, MassG: k.MassG, Shape: k.Shape, Carry: carry,
		Functions: k.Functions}
}

func TestDuties(t *testing.T) {
	t.Parallel()
	kit := []Item{thing("headlamp", Pack), thing("spare-light", Left), thing("lighter", Worn), thing("matches", Pack),
		thing("air-mat", Pack), thing("foam-mat", Pack)}
	served := map[string]Served{}
	for _, s := range ServedBy(kit, 1) {
		served[s.Function] = s
	}
	assert.True(t, served["light"].Single(), "what is left at home gives no light")
	assert.False(t, served["fire"].Single())
	assert.True(t, served["first-aid"].Missing())
	assert.True(t, served["insulation"].Doubled())
	assert.Equal(t, []string{"Lighter", "Matches in a case"}, served["fire"].By)
	for _, s := range ServedBy(kit, 0) {
		assert.NotContains(t, []string{"shelter", "insulation", "cooking"}, s.Function,
			"nothing about the night on a day out")
	}
}

// A tent needs poles and pegs, a stove gas, fire and a pot; what is left at home meets no need (common practice).
func TestRequirements(t *testing.T) {
	t.Parallel()
	unmet := func(things ...Item) (needs []string) {
		for _, u := range UnmetBy(things) {
			needs = append(needs, u.Need)
		}
		return needs
	}
	canister := thing("gas-canister", Pack)
	canister.Consumable, canister.Traits = "fuel", []Trait{Fuel}
	stove, pot, lighter := thing("gas-stove", Pack), thing("pot", Pack), thing("lighter", Worn)
	assert.Equal(t, []string{"gas", "fire", "pot"}, unmet(stove))
	assert.Empty(t, unmet(stove, canister, pot, lighter))
	pot.Carry = Left
	assert.Equal(t, []string{"pot"}, unmet(stove, canister, pot, lighter))
	assert.Equal(t, []string{"poles", "pegs"}, unmet(thing("tent-inner", Pack)))
	assert.Empty(t, unmet(thing("tent-two", Pack), thing("tent-fly", Pack)), "a whole tent brings its own")
	assert.Equal(t, []string{"pegs", "walking-poles"}, unmet(thing("pole-shelter", Pack)))
	assert.Equal(t, []string{"bottle"}, unmet(thing("water-tablets", Pack)))
	assert.Empty(t, unmet(thing("gas-stove", Left)))
}

func TestSections(t *testing.T) {
	t.Parallel()
	jacket := thing("rain-jacket", Pack)
	assert.Equal(t, ClothingSection, jacket.Section())
	jacket.Carry = Worn
	assert.Equal(t, WornSection, jacket.Section())
	odd := Item{Group: "something of one's own"}
	assert.Equal(t, OtherSection, odd.Section())
	assert.True(t, (&Item{Expires: "2026-09-03"}).OutOfDate("2026-09-04"))
	assert.False(t, (&Item{Expires: "2026-09-04"}).OutOfDate("2026-09-04"))
}

// Archimedes: what water rises is the volume, whatever the shape. Geometry: boxes, cylinders and round sacks.
func TestMeasuring(t *testing.T) {
	t.Parallel()
	shoes := Shape{Kind: Lump, SizeCm: [3]float64{27, 11, 9}, VolumeL: 1.6}
	after, how, err := Measure(shoes, Reading{Way: ByWater, Before: 4, After: 5.9})
	require.NoError(t, err)
	assert.Equal(t, Displacement, how)
	assert.InDelta(t, 1.9, after.Litres(0.3), 1e-9)
	after, _, err = Measure(shoes, Reading{Way: ByWater, Before: 1, After: 4.5})
	require.NoError(t, err)
	assert.InDelta(t, 3.5, after.Litres(0), 1e-9)
	assert.GreaterOrEqual(t, after.BoxL(), 3.49, "an outside that was too small grows")
	bag := soft(11, 6, 4)
	after, how, err = Measure(bag, Reading{Way: BySack, Sides: [3]float64{18, 30}})
	require.NoError(t, err)
	assert.Equal(t, Label, how)
	assert.InDelta(t, math.Pi/4*18*18*30/1000, after.Litres(sackSqueeze), 0.02, "halfway between loose and tight")
	assert.InDelta(t, 6.0/11, after.TightL/after.LooseL, 0.01)
	after, _, err = Measure(bag, Reading{Way: ByFilling, Before: 0, After: 12})
	require.NoError(t, err)
	assert.InDelta(t, 12, after.LooseL, 1e-9)
	after, how, err = Measure(bag, Reading{Way: ByCylinder, Sides: [3]float64{10, 20}})
	require.NoError(t, err)
	assert.Equal(t, Dimensions, how)
	assert.InDelta(t, math.Pi/4*10*10*20/1000, after.Litres(0), 1e-9)
	g, err := Without(71_400, 70_950)
	require.NoError(t, err)
	assert.InDelta(t, 450, g, 1e-9)
	for _, bad := range []Reading{{Way: ByBox, Sides: [3]float64{1, 2}}, {Way: ByCylinder, Sides: [3]float64{1, 2, 3}},
		{Way: BySack, Sides: [3]float64{4}}, {Way: ByWater, Before: 3, After: 3},
		{Way: ByBox, Sides: [3]float64{1, 2, 500}}, {Way: "by eye"}} {
		_, _, err := Measure(bag, bad)
		assert.ErrorIs(t, err, ErrReading)
	}
	_, err = Without(1, 2)
	assert.ErrorIs(t, err, ErrReading)
}

func TestMeasuredShapesAreSound(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom(Kinds).Draw(t, "kind")
		r := Reading{Way: rapid.SampledFrom(Ways).Draw(t, "way")}
		for i := range r.Sides {
			r.Sides[i] = rapid.Float64Range(0, 80).Draw(t, "side")
		}
		r.Before = rapid.Float64Range(0, 10).Draw(t, "before")
		r.After = rapid.Float64Range(0, 40).Draw(t, "after")
		s, _, err := Measure(kind.Shape, r)
		if err != nil {
			return
		}
		assert.Positive(t, s.Litres(0))
		assert.LessOrEqual(t, s.Litres(1), s.Litres(0)+1e-9)
		assert.LessOrEqual(t, s.InsideL, s.Litres(0)+1e-9)
		if s.Kind == Lump {
			assert.LessOrEqual(t, s.VolumeL, s.BoxL()*1.01)
		}
	})
}

// Life may hang on what warms, shelters, lights and heals, not on what is pleasant (common practice).
func TestVital(t *testing.T) {
	t.Parallel()
	for _, it := range listOf("down-sleeping-bag", "tent-poles", "headlamp", "map", "medicine", "lighter", "avalanche-probe",
		"rain-jacket", "bottle", "water-tablets", "air-mat", "whistle") {
		assert.True(t, it.Vital(), it.ID)
	}
	for _, it := range listOf("chair", "camp-shoes", "pot", "wash-kit", "power-bank", "book", "spoon") {
		assert.False(t, it.Vital(), it.ID)
	}
}
