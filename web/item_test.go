package web_test

import (
	"encoding/json"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
)

// asked are the fields of the form of a thing by the field of the format that they set.
var asked = map[string]string{
	"name": "name", "group": "group", "count": "count", "mass_g": "mass", "shape/kind": "shape", "shape/size_cm": "length",
	"shape/diameter_cm": "diameter", "shape/length_cm": "long", "shape/volume_l": "displaced", "shape/inside_l": "inside",
	"shape/mouth_cm": "mouth", "shape/loose_l": "loose", "shape/tight_l": "tight", "shape/gap_cm": "gap", "shape/gives": "gives",
	"measured": "measured", "carry": "carry", "use/when": "when", "use/per_day": "per_day", "use/urgent": "urgent",
	"water/absorbs": "absorbs", "water/suffers": "suffers", "water/case": "case", "water/leaks": "leaks",
	"water/returns_wet": "returns_wet", "traits": "traits", "needs": "needs", "functions": "functions",
	"consumable": "consumable", "nest_in": "nest_in", "expires": "expires", "uncertainty": "uncertainty",
	"history/carried": "carried", "history/used": "used", "comfort_c": "comfort", "limit_c": "limit", "r_value": "rvalue", "day": "day",
}

// notAsked are the fields that the form leaves alone, with where they come from.
var notAsked = map[string]string{
	"id":         "names the line and is never changed",
	"kind":       "what it is taken for: chosen where its shape is only guessed",
	"follows":    "Trip says what follows it",
	"fixed":      "set by changing a line that follows the trip",
	"shelf":      "set on the shelf",
	"instead":    "the shelf says what can take its place",
	"made_small": "what Shrink has done to it",
	"mass_guess": "goes when a weight is given", "mass_from": "Weigh in says where a weight is from",
	"party_part": "Party deals it out",
}

// A field that the format has is asked for in the form of a thing, or it is said why not: a new field of an item is
// thought of here, too.
func TestTheFormAsksForWhatTheFormatHas(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	s.follow("/trips/1/items", url.Values{"lines": {"muesli 300 g"}, "return": {"/trips/1/layout"}})
	pages := ""
	for _, thing := range []string{"sleeping-bag", "pot", "air-mat", "phone", "camp-shoes", "muesli"} {
		_, page := s.get("/trips/1/layout?item=" + thing)
		pages += page
	}
	for field, name := range asked {
		assert.True(t, strings.Contains(pages, `name="`+name+`"`), "the form asks for %s", field)
	}
	var schema struct {
		Defs map[string]property `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(bundle.Schema, &schema))
	item := schema.Defs["item"]
	item.Properties["shape"] = schema.Defs["shape"]
	var has []string
	for name, p := range item.Properties {
		for inner := range p.Properties {
			has = append(has, name+"/"+inner)
		}
		if len(p.Properties) == 0 {
			has = append(has, name)
		}
	}
	assert.ElementsMatch(t, has, append(slices.Collect(maps.Keys(asked)), slices.Collect(maps.Keys(notAsked))...))
}

// Food of one's own can be said to be for a day, as that of the trip is.
func TestTheDayOfFood(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	s.follow("/trips/1/items", url.Values{"lines": {"muesli 300 g"}, "return": {"/trips/1/layout"}})
	const path = "/trips/1/items/muesli"
	_, page := s.get("/trips/1/layout?item=muesli")
	fields := form(page, path)
	fields.Set("day", "2")
	page = s.follow(path, fields)
	fields = form(page, path)
	assert.Equal(t, "2", fields.Get("day"))
	_, text := s.get("/trips/1/bundle.json")
	assert.Regexp(t, `"day": ?2\b`, text)
	fields.Set("day", "2.5")
	code, page, _ := s.post(path, fields)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.True(t, strings.Contains(page, "whole number"), "said at the field")
	fields.Set("day", "")
	page = s.follow(path, fields)
	assert.Empty(t, form(page, path).Get("day"))
	_, page = s.get("/trips/1/layout?item=pot")
	assert.False(t, strings.Contains(page, `name="day"`), "a pot is not eaten")
}

// property is what is read of a schema: the fields of an object.
type property struct {
	Properties map[string]property
}
