package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/web"
)

// squeezeOf is how far a trip's pack is squeezed, by its first plan.
func (s *site) squeezeOf(trip int) float64 {
	s.Helper()
	_, plan := s.get(fmt.Sprintf("/trips/%d/plan.json", trip))
	found := regexp.MustCompile(`"squeeze": ?([0-9.e-]+)`).FindStringSubmatch(plan)
	require.NotNil(s, found, "%.300s", plan)
	v, err := strconv.ParseFloat(found[1], 64)
	require.NoError(s, err)
	return v
}

// A pack that would not close teaches how much room things take in these hands; the next trip is planned with it, and
// taking it off brings the old plan back.
func TestWhatWasLearnedChangesTheNextTrip(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	_, page := s.get("/trips/1/back")
	assert.Contains(t, page, "says nothing yet")
	page = s.follow("/trips/1/seen",
		url.Values{"version": {versionOn(page)}, "closes": {"false"}, "return": {"/trips/1/back"}})
	assert.Contains(t, page, "1.00 of what is listed, give or take 15 in 100, before any trip")
	for n := range 3 {
		page = s.follow("/trips/1/back/learned", url.Values{"figure": {"room"}, "return": {"/trips/1/back"}})
		assert.Contains(t, page, []string{"from one trip", "from two trips", "from three trips"}[n])
	}
	again := func() int {
		code, _, header := s.post("/trips/1/again", nil)
		require.Equal(t, http.StatusSeeOther, code)
		var id int
		_, err := fmt.Sscanf(header.Get("Location"), "/trips/%d/", &id)
		require.NoError(t, err)
		return id
	}
	with := again()
	assert.Greater(t, s.squeezeOf(with), s.squeezeOf(1)+0.1)
	s.follow("/trips/1/back/learned", url.Values{"figure": {"room"}, "off": {"1"}, "return": {"/trips/1/back"}})
	assert.InDelta(t, s.squeezeOf(1), s.squeezeOf(again()), 0.08)
}

// Answers are kept, one at a time, taken back by the same key, counted once into the histories; what a life may
// hang on is never proposed to stay.
func TestLookBack(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	_, page := s.get("/trips/1/back")
	answer := func(item, what string) {
		page = s.follow("/trips/1/back", url.Values{"version": {versionOn(page)}, "item": {item}, "answer": {what},
			"return": {"/trips/1/back"}})
	}
	answer("camp-shoes", "unused")
	answer("first-aid", "unused")
	answer("mug", "broke")
	answer("pot", "used")
	answer("pot", "used")
	assert.Contains(t, page, "3 of ")
	assert.Contains(t, page, "Mug 0.4 L broke: mend or replace it.")
	page = s.follow("/trips/1/back/count", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/back"}})
	assert.NotContains(t, page, "Count into")
	_, layout := s.get("/trips/1/layout?item=camp-shoes")
	assert.Regexp(t, `name="carried" value="[1-9]`, layout)
	code, _, header := s.post("/trips/1/again", nil)
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/trips/2/trip", header.Get("Location"))
	_, page = s.get("/trips/2/back")
	page = s.follow("/trips/2/back",
		url.Values{"version": {versionOn(page)}, "item": {"camp-shoes"}, "answer": {"unused"}, "return": {"/trips/2/back"}})
	page = s.follow("/trips/2/back",
		url.Values{"version": {versionOn(page)}, "item": {"first-aid"}, "answer": {"unused"}, "return": {"/trips/2/back"}})
	assert.NotContains(t, page, "First aid kit could stay")
	page = s.follow("/trips/2/back/left", url.Values{"version": {versionOn(page)}, "food": {"760 g"}, "gas": {"90"},
		"drunk": {"12"}, "missing": {"Sit mat\n"}, "return": {"/trips/2/back"}})
	assert.Contains(t, page, "Sit mat was not on the list")
	assert.Contains(t, page, "this trip")
	assert.Contains(t, page, "1.00 of its hours, give or take 20 in 100, before any trip")
	page = s.follow("/trips/2/back/left", url.Values{"version": {versionOn(page)}, "walked": {"18,5"},
		"return": {"/trips/2/back"}})
	assert.Contains(t, page, `value="18.5"`)
	assert.Regexp(t, `this trip</dt><dd>[01]\.\d\d of its hours`, page)
	page = s.follow("/trips/2/back/learned", url.Values{"figure": {"pace"}, "return": {"/trips/2/back"}})
	assert.Contains(t, page, "give or take 12 in 100, from one trip", "1 / (1/0.04 + 1/0.0225) is 0.0144")
	code, _, header = s.post("/trips/2/again", nil)
	require.Equal(t, http.StatusSeeOther, code)
	_, route := s.get(header.Get("Location"))
	assert.Contains(t, route, "times that at the pace learned of you")
	_, page = s.get("/trips/2/back")
	for _, wrong := range []string{"-1", "many", "4000"} {
		code, body, _ := s.post("/trips/2/back/left", url.Values{"version": {versionOn(page)}, "walked": {wrong}})
		assert.Equal(t, http.StatusUnprocessableEntity, code, wrong)
		assert.Contains(t, body, `value="`+wrong+`"`)
	}
	code, body, _ := s.post("/trips/2/back/left", url.Values{"version": {versionOn(page)}, "food": {"lots"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "value=\"lots\"")
	code, _, _ = s.post("/trips/2/back", url.Values{"version": {versionOn(page)}, "item": {"mug"}, "answer": {"eaten"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}
