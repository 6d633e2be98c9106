package draw

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/bundle"
	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/trail"
	"tornister/core/unit"
	"tornister/demo"
)

// wellFormed fails when a drawing is no XML or holds a figure that is no number.
func wellFormed(t require.TestingT, svg string) {
	decoder := xml.NewDecoder(strings.NewReader(svg))
	for {
		if _, err := decoder.Token(); err == io.EOF {
			break
		} else {
			require.NoError(t, err, svg)
		}
	}
	assert.NotContains(t, svg, "NaN")
	assert.NotContains(t, svg, "Inf")
}

// On the groundsheet nothing lies on anything else, nothing lies beyond its column, and equal scale holds for all.
func TestTheGroundsheetIsTidy(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var things []*kit.Item
		for i := range rapid.IntRange(1, 40).Draw(t, "things") {
			k := rapid.SampledFrom(kit.Kinds).Draw(t, "kind")
			things = append(things, &kit.Item{ID: fmt.Sprintf("%s-%d", k.ID, i), Name: k.Name, Shape: k.Shape,
				Count: rapid.IntRange(1, 5).Draw(t, "count"), Use: k.Use, Carry: kit.Pack})
		}
		scale := rapid.Float64Range(laySmall, layLarge).Draw(t, "scale")
		laid, height := inRows(things, 10, 20, scale, rapid.Bool().Draw(t, "packed"))
		require.Len(t, laid, len(things))
		for i := range laid {
			a := &laid[i]
			assert.GreaterOrEqual(t, a.x, 10-1e-6)
			assert.LessOrEqual(t, a.x+a.w, 10+columnWidth()+1e-6)
			assert.GreaterOrEqual(t, a.y-a.pile(), 20-1e-6)
			assert.LessOrEqual(t, a.y+a.h+layLine*float64(len(a.label)), 20+height+1e-6)
			if !a.broken {
				assert.InDelta(t, a.long*scale, a.w, 1e-6)
			}
			for j := range i {
				b := &laid[j]
				apart := a.x >= b.x+b.w || b.x >= a.x+a.w || a.y-a.pile() >= b.y+b.h || b.y-b.pile() >= a.y+a.h
				assert.True(t, apart, "%s lies on %s", a.item.ID, b.item.ID)
			}
		}
	})
}

func TestDrawingsOfTheKitAreWellFormed(t *testing.T) {
	t.Parallel()
	hostile := kit.Item{ID: `x"><script>`, Name: `<script>alert("1")</script> & "thing"`,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 2, TightL: 1}, Count: 2, Carry: kit.Left}
	skis, _ := kit.KindOf("skis")
	svg := string(FlatLay(Lay{Sections: []LaySection{{"Sleep <b>", "1 kg",
		[]*kit.Item{&hostile, {ID: "skis", Name: "Skis", Shape: skis.Shape, Count: 1}}}}, Chosen: hostile.ID,
		System: unit.Customary}))
	wellFormed(t, svg)
	assert.NotContains(t, svg, "<script>")
	assert.Contains(t, svg, "lay-break", "skis are longer than the column and drawn broken")
	assert.Contains(t, svg, unit.Customary.Length(172), "with their length")
	for _, text := range demo.Trips {
		b, err := bundle.Read(text)
		require.NoError(t, err)
		wellFormed(t, string(Strip(Days{&b.Task.Trip, unit.Metric})))
		wellFormed(t, string(Blueprint(&b.Task.Pack, "front", unit.Metric)))
	}
	wellFormed(t, string(Strip(Days{&trail.Trip{Days: 1}, unit.Metric})))
	layers := string(Layers([]Shelter{{Item: "a", Name: "<i>Map</i>", Need: 2,
		Layers: []ShelterLayer{{Column: 1, Thin: true}}},
		{Item: "b", Name: "Bag", Need: 2, Dry: true, Layers: []ShelterLayer{{Column: 3, Word: "red", Colour: "Red"}}}}))
	wellFormed(t, layers)
	assert.Contains(t, layers, "rain through", "fabric alone lets rain through to what must stay dry")
	assert.Contains(t, layers, "bag-red")
	wellFormed(t, string(BagPicture(&dry.Bag{Colour: "no colour"}, 1.4)))
	wellFormed(t, string(RoomBar(10, 20, 0)))
}
