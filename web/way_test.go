package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"tornister/demo"
	"tornister/internal/sample"
	"tornister/web"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The way has a stop for the start, each leg's end and each morning; a what-if says what it changes; nonsense in the
// address shows the way as it is.
func TestOnTheWay(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	s := newSite(t)
	_, page := s.get("/trips/1/way")
	assert.Equal(t, 9, strings.Count(page, `class="stop-small"`))
	assert.Contains(t, page, "The hardest moment")
	assert.Contains(t, page, "Nothing: all is where it was")
	_, page = s.get("/trips/1/way?stop=3&if=rain")
	assert.Contains(t, page, "of wet")
	assert.Contains(t, page, "The difference")
	_, page = s.get("/trips/1/way?stop=2&if=companion")
	assert.Regexp(t, `Start: &#43;6\.\d+ kg`, page)
	_, page = s.get("/trips/1/way?if=dry-1")
	assert.Contains(t, page, "water runs out")
	_, page = s.get("/trips/1/way?if=night")
	assert.Contains(t, page, "one stop more")
	assert.Contains(t, page, "nothing to eat for")
	for _, query := range []string{"if=shut-99", "if=shut-x", "stop=99", "stop=x", "if=dry-900", "if=dry-x", "if=what"} {
		code, _ := s.get("/trips/1/way?" + query)
		assert.Equal(t, http.StatusOK, code, query)
	}
	_, calendar := s.get("/trips/1/dates.ics")
	assert.Contains(t, calendar, "Tarn halt to Stone Gate")
}

// What is left where a leg ends is out from there on, is taken up again, stays when the legs are changed by their form,
// and goes back by undo.
func TestThingsChangeHandsOnTheWay(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	s, kept := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	_, page := s.get("/trips/1/way?stop=2")
	assert.Contains(t, page, "Leave here: cached, or handed over")
	swap := func(do, thing, leg string) string {
		return s.follow("/trips/1/way/swap", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/way?stop=2"},
			"do": {do}, "thing": {thing}, "leg": {leg}})
	}
	page = swap("leave", "foam-mat", "1")
	assert.Contains(t, page, "Left here: Closed foam mat.")
	assert.Contains(t, page, "Closed foam mat is left here.")
	_, next := s.get("/trips/1/way?stop=4")
	assert.Regexp(t, `field-take.*Closed foam mat`, next, "it can be taken up where it may lie")
	page = swap("take", "foam-mat", "2")
	_, next = s.get("/trips/1/way?stop=4")
	assert.Contains(t, next, "Taken up here: Closed foam mat.")

	_, route := s.get("/trips/1/trip")
	fields := form(route, "/trips/1/trip")
	fields.Set("leg-0-km", "9")
	s.follow("/trips/1/trip", fields)
	state, err := kept.Trip(t.Context(), 1)
	require.NoError(t, err)
	legs := state.Doc.Object("trip")["legs"].([]any)
	assert.Equal(t, []any{"foam-mat"}, legs[0].(map[string]any)["leaves"])
	assert.Equal(t, []any{"foam-mat"}, legs[1].(map[string]any)["takes"])

	_, page = s.get("/trips/1/way?stop=2")
	page = swap("not", "foam-mat", "1")
	assert.NotContains(t, page, "Left here")
	for _, wrong := range []url.Values{{"do": {"leave"}, "thing": {"foam-mat"}, "leg": {"9"}},
		{"do": {"leave"}, "thing": {"nothing"}, "leg": {"1"}}, {"do": {"leave"}, "thing": {""}, "leg": {"1"}}} {
		wrong.Set("version", versionOn(page))
		code, body, _ := s.post("/trips/1/way/swap", wrong)
		assert.Equal(t, http.StatusUnprocessableEntity, code, "%v", wrong)
		assert.Contains(t, body, "notice-wrong")
		assert.Contains(t, body, "All stops")
	}
}
