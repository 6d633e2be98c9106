package kit

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/unit"
)

func TestQuickLines(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		line, kind string
		count      int
		massG      float64
		loose      float64
		measured   Measured
	}{
		{"down bag 950 g 7 l", "down-sleeping-bag", 1, 950, 9.06,
			Label}, // 7 L in its sack lies halfway between 9.06 and 4.94
		{"down bag 11 l loose", "down-sleeping-bag", 1, 950, 11, Label},
		{"2 x bottle 1l", "bottle", 2, 1090, unit.CylinderL(8.5, 24), Label},
		{"2x bottle 0,5 l", "bottle", 2, 500 + 90*0.62996, unit.CylinderL(6.7, 19), Label},
		{"3 socks", "socks", 3, 80, 0.4, Guess},
		{"3 pairs of socks", "socks", 3, 80, 0.4, Guess},
		{"2 Paar Wollsocken 90 g", "socks", 2, 90, 0.4 * 90 / 80, Guess},
		{"Rucksackhülle", "rain-cover", 1, 110, 0, Guess},
		{"Brotzeit für 2 Tage 1,2 kg", "lunch", 2, 600, 0, Guess},
		{"sacco a pelo 900 g", "down-sleeping-bag", 1, 900, 0, Guess},
		{"regenjas", "rain-jacket", 1, 380, 2.2, Guess},
		{"rain jacket", "rain-jacket", 1, 380, 2.2, Guess},
		{"blue Rain Jackt 13.4 oz", "rain-jacket", 1, 13.4 * unit.Ounce, 2.2 * 13.4 * unit.Ounce / 380, Guess},
		{"pot 1.3 l 160g", "pot", 1, 160, unit.CylinderL(13.6, 11.3), Label},
		{"gas canister", "gas-canister", 1, 380, unit.CylinderL(11, 9), Guess},
		{"first aid kit 20x12x7 cm 300 g", "first-aid-kit", 1, 300, unit.BoxL(20, 12, 7), Dimensions},
		{"insulated jacket 1 lb 4 oz", "insulated-jacket", 1, 20 * unit.Ounce, 4 * 20 * unit.Ounce / 360, Guess},
		{"2 person tent", "tent-two", 1, 2100, 0, Guess},
		{"3 season sleeping bag 900 g", "down-sleeping-bag", 1, 900, 0, Guess},
		{"10 point crampons", "crampons", 1, 0, 0, Guess},
		{"4 piece paddle 900 g", "paddle", 1, 900, 0, Guess},
		{"2 x 2 person tent", "tent-two", 2, 0, 0, Guess},
		{"2-Personen-Zelt", "tent-two", 1, 0, 0, Guess},
		{"food for 6 days 4.2 kg", "food-day", 6, 700, 2.4 * 700 / 780, Guess}, // of all: 780 g a day would be 4.7 kg
		{"food for 6 days 700 g", "food-day", 6, 700, 2.4 * 700 / 780, Guess},  // of each
		{"food 4 days 9 l loose", "food-day", 4, 780 * 2.25 / 2.4, 2.25, Label},
		{"food for 1 day 900 g", "food-day", 1, 900, 0, Guess},
		{"strange gadget 3 kg", "thing", 1, 3000, 15, Guess}, // as dense as things are in the middle of the table
		{"strange gadget 20 g", "thing", 1, 20, 0.1, Guess},
		{"strange gadget 8 x 5 x 3 in", "thing", 1, 393, unit.BoxL(20.32, 12.7, 7.62), Dimensions},
	} {
		told, err := Quick(c.line)
		require.NoError(t, err, c.line)
		assert.Equal(t, c.kind, told.Kind.ID, c.line)
		assert.Equal(t, c.count, told.Count, c.line)
		if c.massG > 0 {
			assert.InDelta(t, c.massG, told.MassG, 0.6, c.line)
		}
		if c.loose > 0 {
			assert.InDelta(t, c.loose, told.Shape.Litres(0), 0.02, c.line)
		}
		assert.Equal(t, c.measured, told.Measured, c.line)
	}
}

// Lines as people write them: how many there are stands before or behind, in lists with dashes, boxes and numbers; what
// is bare behind a battery is its charge; and sides that are those of a thing in use are not those of the packed one.
func TestLinesAsPeopleWriteThem(t *testing.T) {
	t.Parallel()
	for line, want := range map[string]string{
		"dinner x 4":                       "4 × Dinner, 170 g",
		"chocolate 3 x 100 g":              "3 × Chocolate, 100 g",
		"3 x 500 ml water bottle":          "3 × Water bottle, 557 g",
		"bottle 1 l x 2":                   "2 × Bottle, 1090 g",
		"merino t-shirt x2":                "2 × Merino t-shirt, 180 g",
		"radio 2x":                         "2 × Radio, 240 g",
		"socks (3 pairs)":                  "3 × Socks, 80 g",
		"lens 2.5 x 90 g":                  "1 × Lens 2.5 x, 90 g",
		"tent pegs x 8":                    "1 × 8 tent pegs, 128 g",
		"tarp 3 m x 3 m":                   "1 × Tarp, 480 g",
		"tarp 3x3":                         "1 × Tarp, 480 g",
		"tarp 3x2":                         "1 × Tarp, 320 g",
		"map 1:25000":                      "1 × Map 1:25000, 140 g",
		"bottle .5 l":                      "1 × Bottle, 557 g",
		"- rain jacket – 300 g":            "1 × Rain jacket, 300 g",
		"• mug":                            "1 × Mug, 65 g",
		"[x] headlamp 80 g":                "1 × Headlamp, 80 g",
		"12. socks":                        "1 × Socks, 80 g",
		"3) stove":                         "1 × Stove, 85 g",
		"230 gas":                          "1 × 230 gas, 380 g",
		"stove + gas":                      "1 × Stove + gas, 85 g",
		"power bank 10000":                 "1 × Power bank 10000 mAh, 260 g",
		"power bank 20'000 mAh 340g":       "1 × Power bank 20000 mAh, 340 g",
		"power bank 20,000 mAh":            "1 × Power bank 20000 mAh, 520 g",
		"sun cream 1,250 g":                "1 × Sun cream, 1250 g",
		"rice 1,250 kg":                    "1 × Rice, 1250 g",
		"2 litres of water":                "1 × Water, 2143 g",
		"4 dinners 600 g":                  "4 × Dinners, 150 g",
		"4 dinners 150 g":                  "4 × Dinners, 150 g",
		"4 x dinner 600 g":                 "4 × Dinner, 600 g",
		"2 fleeces 600 g":                  "2 × Fleeces, 600 g",
		"2 bottles 2.2 kg":                 "2 × Bottles, 1100 g",
		"3 shirts 2 l 900 g":               "3 × Shirts, 900 g",
		"2 bottles 1 l 2.2 kg":             "2 × Bottles, 1100 g",
		"breakfast for 3 days 300 g":       "3 × Breakfast, 100 g",
		"3 days snacks":                    "3 × Snacks, 180 g",
		"3 days":                           "1 × 3 days, 200 g",
		"towel 40x80":                      "1 × Towel 40 x 80, 110 g",
		"trekking poles 130 cm 480 g":      "1 × Trekking poles 130 cm, 480 g",
		"binoculars 8x32":                  "1 × Binoculars 8 x 32, 320 g",
		"- [ ] ferro rod":                  "1 × Ferro rod, 25 g",
		"duct tape 5 m":                    "1 × Duct tape 5 m, 50 g",
		"ground mat 190x60 cm":             "1 × Ground mat 190 x 60 cm, 390 g",
		"strange flag 2 m x 1 m x 1 m 1kg": "1 × Strange flag 2 m x 1 m x 1 m, 1000 g",
		"camera 35mm 480g":                 "1 × Camera 35 mm, 480 g",
		"camera 35mm 480":                  "1 × Camera 35 mm, 480 g",
		"camera 13x10x8 cm 480 g":          "1 × Camera, 480 g",
	} {
		told, err := Quick(line)
		require.NoError(t, err, line)
		assert.Equal(t, want, fmt.Sprintf("%d × %s, %.0f g", told.Count, told.Name, told.MassG), line)
		assert.Less(t, told.Shape.Litres(0), 25.0, line)
	}
}

// A bag that is carried empty takes what its cloth takes, not what it would hold: twice the litres are 2^⅔ of the
// cloth. Three kilograms of water are three litres of it.
func TestWhatIsEmptyAndWhatIsFull(t *testing.T) {
	t.Parallel()
	litres := func(line string) float64 {
		told, err := Quick(line)
		require.NoError(t, err, line)
		return told.Shape.Litres(1)
	}
	assert.InDelta(t, 0.15, litres("13 l dry bag"), 0.005)
	assert.InDelta(t, 0.15*1.587, litres("dry bag 26 l"), 0.005)
	assert.InDelta(t, 2, litres("water 2 kg")/litres("water 1 kg"), 0.02)
	assert.Equal(t, litres("bottle"), litres("bottle 90 g"), "an empty one is as large as a full one")
	assert.Equal(t, litres("bottle"), litres("bottle 450 g"), "a heavy empty one, more likely than a small full one")
}

// A rope 9 mm by 25 m is 1.59 L solid (geometry, the trade sheet's check value), more when coiled.
func TestRopeByDiameterAndLength(t *testing.T) {
	t.Parallel()
	told, err := Quick("rope 9mm 25m")
	require.NoError(t, err)
	assert.Equal(t, "rope", told.Kind.ID)
	solid := told.MassG / 1000 / cordDensity
	assert.InDelta(t, 1.59, solid, 0.005)
	assert.Greater(t, told.Shape.Litres(1), 1.59)
	assert.Greater(t, told.Shape.Litres(0), told.Shape.Litres(1))
}

func TestEveryKindIsFoundByItsNames(t *testing.T) {
	t.Parallel()
	seen := map[string]bool{}
	for _, k := range Kinds {
		assert.False(t, seen[k.ID], "%s stands twice", k.ID)
		seen[k.ID] = true
		found, ok := KindNamed(k.Name)
		assert.True(t, ok && found.ID == k.ID, "%s is found as %s", k.Name, found.ID)
		assert.NotEmpty(t, k.Group)
		assert.Contains(t, Groups, k.Group, k.ID)
		assert.Positive(t, k.MassG, k.ID)
		assert.Less(t, k.MassG/1000/k.Shape.Litres(0), 3.0, "%s is denser than anything one carries", k.ID)
		assert.Greater(t, k.MassG/1000/k.Shape.Litres(0), 0.02, "%s is lighter than down", k.ID)
	}
	assert.GreaterOrEqual(t, len(Kinds), 150)
}

// A slip of the hand is forgiven; a word of its own is none, and nobody's breakfast a distress beacon. Where one of
// these becomes a kind, it leaves the list of those that are only themselves.
func TestWordsAreThemselves(t *testing.T) {
	t.Parallel()
	for name, kind := range map[string]string{"distress becon": "beacon", "water botle": "bottle", "torhc": "headlamp",
		"hemlet": "helmet", "cannister": "gas-canister", "bacon": "bread-cheese", "stove pipe": "stove-pipe", "hot water bottle": "heat-packs", "cable ties": "tape",
		"hot chocolate": "tea-coffee", "asthma spray": "emergency-medicine", "2 adrenaline pens": "emergency-medicine",
		"snake bandage": "pressure-bandage", "sun glasses": "sunglasses", "glasses": "spectacles", "hard hat": "helmet",
		"Adrenalinpen": "emergency-medicine", "Sonnenbrille": "sunglasses", "reading glasses": "spectacles"} {
		found, _ := KindNamed(name)
		assert.Equal(t, kind, found.ID, name)
	}
	for word := range itself {
		for i := range Kinds {
			for _, phrase := range kindPhrases[i] {
				assert.NotEqual(t, []string{word}, phrase.words, Kinds[i].ID)
			}
		}
	}
	for _, word := range strings.Fields("vanilla chain couch globe latch mallet sheet skirt slate spool spring straw table " +
		"toggle waders flash ladder valve kitten laces spare") {
		found, known := KindNamed(word)
		assert.False(t, known, "%s is taken for %s", word, found.Name)
	}
}

func TestQuickRefuses(t *testing.T) {
	t.Parallel()
	for _, line := range []string{"", "950 g", "0 x bottle", "2.5 x bottle", "300 x socks", "box 1x2x3x4 cm",
		"rope 900000 kg"} {
		_, err := Quick(line)
		var quick *QuickError
		assert.ErrorAs(t, err, &quick, line)
	}
}

func TestQuickNeverGivesNonsense(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		words := rapid.SampledFrom([]string{"mug", "spoon", "tent", "food", "and", "+", "(", ")", ",", "x", "2", "120", "g", "l",
			"3 days", "with", "pump", "10000 mAh", "12 x 10 cm", "worn", "for"})
		line := rapid.OneOf(rapid.String(), rapid.Map(rapid.SliceOfN(words, 1, 12),
			func(list []string) string { return strings.Join(list, " ") })).Draw(t, "line")
		things, err := Line(line)
		if err != nil {
			return
		}
		for _, told := range things {
			assert.NotEmpty(t, told.Name)
			assert.GreaterOrEqual(t, told.Count, 1)
			assert.False(t, told.MassG < 0 || told.Shape.Litres(0) < 0 || told.Shape.Litres(1) > told.Shape.Litres(0)+1e-9)
		}
	})
}

func TestEndlessLinesAreRefused(t *testing.T) {
	t.Parallel()
	_, err := Quick(strings.Repeat("1 ", 450_000)) // took six seconds
	assert.ErrorContains(t, err, "900000 bytes long")
}

func FuzzQuick(f *testing.F) {
	for _, line := range []string{"down bag 950 g 7 l", "2 x bottle 1l", "rope 9mm 25m", "pot 12x10 cm", "1 lb 4 oz hat",
		"x", "9999999999999999999999 kg y", "mug (blue, large) and 2 spoons"} {
		f.Add(line)
	}
	f.Fuzz(func(t *testing.T, line string) {
		things, err := Line(line)
		for _, told := range things {
			if err == nil && (told.Count < 1 || told.Name == "") {
				t.Fatal(told)
			}
		}
	})
}

// Who looks for a thing finds the one whose name says most of what was asked for, wherever it stands on the list.
func TestFindTakesTheBest(t *testing.T) {
	t.Parallel()
	items := []Item{{ID: "a", Name: "Rain cover"}, {ID: "b", Name: "Blue rain jacket"}, {ID: "c", Name: "Jacket"},
		{ID: "d", Name: "Torch", Kind: "headlamp"}}
	for wanted, id := range map[string]string{"rain jacket": "b", "jacket": "c", "cover": "a", "headlamp": "d"} {
		if it := Find(items, wanted); assert.NotNil(t, it, wanted) {
			assert.Equal(t, id, it.ID, wanted)
		}
	}
	assert.Nil(t, Find(items, "anchor"))
	assert.Nil(t, Find(items, " "))
}
