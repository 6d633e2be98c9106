package kit

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two things on a line are two, each with its own figures; what has one name, or is only described, is one.
func TestSeveralThingsOnALine(t *testing.T) {
	t.Parallel()
	for line, want := range map[string]string{
		"mug and spoon":                   "1 mug, 1 spoon",
		"- [ ] 2 mugs + 2 spoons":         "2 mug, 2 spoon",
		"headlamp & spare batteries":      "1 headlamp, 1 batteries",
		"Seife und Handtuch":              "1 soap, 1 towel",
		"mug + spoon + bowl":              "1 mug, 1 spoon, 1 bowl",
		"stove + 380 g gas":               "1 gas-stove, 1 gas-canister",
		"tent + pegs":                     "1 tent-two, 1 pegs",
		"rain jacket and trousers":        "1 rain-jacket, 1 rain-trousers",
		"rain jacket + rain trousers":     "1 rain-jacket, 1 rain-trousers",
		"phone and power bank 10000":      "1 phone, 1 power-bank",
		"oil and spices":                  "1 spices-oil",
		"bread and butter 400 g":          "1 bread-cheese",
		"hat & gloves":                    "1 hat-gloves",
		"hat + gloves":                    "1 hat-gloves",
		"needle and thread":               "1 sewing-kit",
		"pot + lid":                       "1 pot",
		"tent + poles":                    "1 tent-two",
		"food and drinks for 3 days":      "3 food-day",
		"mug, spoon & bowl":               "1 mug, 1 spoon, 1 bowl",
		"soap, towel, and sun cream":      "1 soap, 1 towel, 1 sun-cream",
		"tent and fly":                    "1 tent-two",
		"tent, poles & pegs 2 kg":         "1 tent-two, 1 pegs",
		"2 person tent with poles":        "1 tent-two",
		"tent fly and pegs":               "1 tent-fly, 1 pegs",
		"tent, mug and spoon":             "1 tent-two, 1 mug, 1 spoon",
		"jacket, rain and gloves":         "1 rain-jacket, 1 thin-gloves",
		"mug (and spoon)":                 "1 mug",
		"stove with pump":                 "1 gas-stove",
		"stove (with pump)":               "1 gas-stove",
		"tent (poles, pegs, fly) 2.1 kg":  "1 tent-two",
		"sleeping bag (down, -5 C) 950 g": "1 down-sleeping-bag",
		"food (rice, oats) for 3 days":    "3 food-day",
	} {
		things, err := Line(line)
		require.NoError(t, err, line)
		var got []string
		for _, told := range things {
			got = append(got, fmt.Sprintf("%d %s", told.Count, told.Kind.ID))
		}
		assert.Equal(t, want, strings.Join(got, ", "), line)
	}
	_, err := Line("950 g")
	assert.ErrorContains(t, err, "no name in it")
}

// By hand: of 1.3 kg an ice axe and crampons, usually 480 and 850 g, have their parts; a weight that the last thing has
// alone is its own, and so is one that stands at the first.
func TestOneWeightOfTwoThings(t *testing.T) {
	t.Parallel()
	masses := func(line string) (list []float64) {
		things, err := Line(line)
		require.NoError(t, err)
		for _, told := range things {
			list = append(list, told.MassG)
		}
		return list
	}
	axe, _ := KindOf("ice-axe")
	crampons, _ := KindOf("crampons")
	both := axe.MassG + crampons.MassG
	got := masses("ice axe and crampons 1.3 kg")
	require.Len(t, got, 2)
	assert.InDelta(t, 1300*axe.MassG/both, got[0], 0.5)
	assert.InDelta(t, 1300, got[0]+got[1], 1)
	assert.Equal(t, []float64{axe.MassG, 850}, masses("ice axe and crampons 850 g"))
	assert.Equal(t, []float64{500, 850}, masses("ice axe 500 g and crampons 850 g"))
	assert.Equal(t, []float64{500, crampons.MassG}, masses("ice axe 500 g and crampons"))
	mugs := masses("2 mugs + spoon 180 g")
	assert.InDelta(t, 180, 2*mugs[0]+mugs[1], 2, "two mugs count twice")
	assert.Equal(t, []float64{65, 20}, masses("mug + 2 spoons 20 g"))
}

// What was typed of a name stays in it, commas and brackets too; those before and behind figures are no part of it.
func TestCommasInNames(t *testing.T) {
	t.Parallel()
	for line, want := range map[string]string{
		"jacket, rain, 300 g":               "Jacket, rain",
		"sleeping bag, down, -5 C, 950 g":   "Sleeping bag, down, -5 C",
		"socks , wool, 3x 70 g":             "Socks, wool",
		"tent, 2 person, 2.1 kg":            "Tent, 2 person",
		"pot, 12 x 10 cm, blue":             "Pot blue",
		",headlamp,,":                       "Headlamp",
		"tent (poles,  pegs, fly), 2.1 kg":  "Tent (poles,  pegs, fly)",
		"pot (1.2 l, with lid) 180 g":       "Pot (1.2 l, with lid)",
		"food for 6 days, 4.2 kg, crunchy":  "Food crunchy",
		"knife, fork, spoon":                "Knife, fork, spoon",
		"12, socks":                         "Socks",
		"sleeping bag (comfort 2) 950 g":    "Sleeping bag comfort 2",
		"powerbank (10000 mAh, grey) 210 g": "Powerbank (10000 mAh, grey)",
	} {
		told, err := Quick(line)
		require.NoError(t, err, line)
		assert.Equal(t, want, told.Name, line)
	}
}
