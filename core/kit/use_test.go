package kit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A second counts on the move and at halts, less on arrival, hardly in camp; haste counts for eight calm uses.
func TestHowMuchASecondCounts(t *testing.T) {
	t.Parallel()
	for when, want := range map[When]float64{Moving: 1, Halt: 1, Arrival: 0.3, Camp: 0.1, Need: 0.5} {
		assert.InDelta(t, want, Use{When: when}.Attention(), 1e-12, when)
		assert.InDelta(t, 3*want, Use{When: when, PerDay: 3}.ADay(), 1e-12, when)
	}
	assert.InDelta(t, 8.5, Use{When: Need, PerDay: 1, Urgent: true}.ADay(), 1e-12)
}

// The food of a day is wanted at its halts on that day, and in camp before (common practice); afterwards, and of what
// has no day or is no food, nothing is said.
func TestWhenFoodIsWanted(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		kind     string
		day, now int
		want     Use
		ok       bool
	}{
		"today's bag":       {"food-day", 2, 2, Use{When: Halt, PerDay: 3}, true},
		"today's dinner":    {"dinner", 1, 1, Use{When: Camp, PerDay: 1}, true},
		"today's snacks":    {"snacks", 1, 1, kindOf("snacks").Use, true},
		"tomorrow's snacks": {"snacks", 2, 1, Use{When: Camp, PerDay: 1}, true},
		"yesterday's":       {"snacks", 1, 2, Use{}, false},
		"of no day":         {"snacks", 0, 1, Use{}, false},
		"a map":             {"map", 1, 1, Use{}, false},
	} {
		kind := kindOf(c.kind)
		got, ok := (&Item{Kind: c.kind, Traits: kind.Traits, Day: c.day}).UseOn(c.now)
		assert.Equal(t, c.ok, ok, name)
		assert.Equal(t, c.want, got, name)
	}
}

func kindOf(id string) Kind {
	k, _ := KindOf(id)
	return k
}

// A whole tent is two loads: the poles take their part of the weight, and nothing is lost.
func TestATentInTwoParts(t *testing.T) {
	t.Parallel()
	told, err := Quick("tent for two 2.1 kg")
	require.NoError(t, err)
	parts := told.Parts()
	require.Len(t, parts, 2)
	assert.InDelta(t, 2100, parts[0].MassG+parts[1].MassG, 1e-9)
	assert.InDelta(t, math.Round(2100*told.Kind.Poles), parts[1].MassG, 1e-9)
	assert.Less(t, parts[1].MassG, parts[0].MassG)
	assert.Equal(t, []string{"Tent for two, cloth", "Tent for two, poles"}, []string{parts[0].Name, parts[1].Name})
	assert.Equal(t, "tent-poles", parts[1].Kind.ID)
	assert.Less(t, parts[0].Shape.TightL, parts[0].Shape.LooseL)
	measured, err := Quick("tent for two 45 x 15 cm")
	require.NoError(t, err)
	assert.Nil(t, measured.Parts(), "measured in its sack it is one thing")
}

// Days count food, up to a month; a fraction after a whole number is part of it; two sides are a diameter and a
// length, three a box.
func TestMoreQuickLines(t *testing.T) {
	t.Parallel()
	for line, want := range map[string]struct {
		kind  string
		count int
		massG float64
	}{
		"food for a day, 30 days": {"food-day", 30, 0},
		"3 days food":             {"food-day", 3, 0},
		"food for a day, 31 days": {"food-day", 1, 0},
		"warm hat 101":            {"warm-hat", 1, 101},
		"headlamp 150":            {"headlamp", 1, 150},
		"socks 3 days":            {"socks", 1, 0},
		"2 x food for a day":      {"food-day", 2, 0},
		"bottle 1 1/2 l":          {"bottle", 1, 1500 + 90*math.Pow(1.5, 2.0/3)},
		"warm hat 100":            {"warm-hat", 1, 100},
		"warm hat 4":              {"warm-hat", 1, 60},
	} {
		told, err := Quick(line)
		require.NoError(t, err, line)
		assert.Equal(t, want.kind, told.Kind.ID, line)
		assert.Equal(t, want.count, told.Count, line)
		if want.massG > 0 {
			assert.InDelta(t, want.massG, told.MassG, 1, line)
		}
	}
	for line, want := range map[string]ShapeKind{"odd thing 10 x 20 cm": Cylinder, "odd thing 10 x 20 x 5 cm": Box} {
		told, err := Quick(line)
		require.NoError(t, err)
		assert.Equal(t, want, told.Shape.Kind, line)
	}
}

// A tube goes into a pot that is exactly as deep, and not into one a millimetre less deep: a pot of 12 cm that holds
// pi/4 * 12 * 12 * 10 / 1000 = 1.131 L is 10 cm deep.
func TestATubeStandsInAPot(t *testing.T) {
	t.Parallel()
	pot := Shape{Kind: Vessel, DiameterCm: 12.5, LengthCm: 10.5, MouthCm: 12, InsideL: math.Pi / 4 * 1.44}
	tube := Shape{Kind: Cylinder, DiameterCm: 11.5, LengthCm: 9.9995}
	assert.True(t, tube.Nests(pot))
	tube.LengthCm = 10.005
	assert.False(t, tube.Nests(pot))
	pot.MouthCm = 0 // then as wide as it is outside, and less deep for the same litres
	assert.False(t, Shape{Kind: Cylinder, DiameterCm: 11, LengthCm: 9.5}.Nests(pot))
}

// A tarp grows with its area; what is flat or soft gives way, what is not does not.
func TestWhatGrowsAndWhatGives(t *testing.T) {
	t.Parallel()
	small, err := Quick("tarp 2 x 2 m")
	require.NoError(t, err)
	large, err := Quick("tarp 4 x 3 m")
	require.NoError(t, err)
	assert.InDelta(t, 3, large.Shape.Litres(0)/small.Shape.Litres(0), 0.1)
	for kind, rigid := range map[ShapeKind]bool{Soft: false, Flat: false, Box: true, Cylinder: true, Lump: true,
		Vessel: true} {
		assert.Equal(t, rigid, Shape{Kind: kind}.Rigid(), kind)
	}
}

func TestChecklistsAreFound(t *testing.T) {
	t.Parallel()
	for _, want := range Checklists {
		found, ok := ChecklistOf(want.ID)
		assert.True(t, ok)
		assert.Equal(t, want.Name, found.Name)
	}
	_, ok := ChecklistOf("none of them")
	assert.False(t, ok)
}
