package web_test

import (
	"context"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/hook"
	"tornister/standin/scale"
	"tornister/web"
)

// Readings are kept, set against the list, and the odd one is named; a corrected weight is taken over and undone.
func TestWeighIn(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	_, page := s.get("/trips/1/weigh")
	assert.Contains(t, page, "No scale is connected")
	assert.Contains(t, page, "The list says")
	for _, g := range []string{"18.1 kg", "18150", "15.6 kg"} {
		page = s.follow("/trips/1/weighings",
			url.Values{"version": {versionOn(page)}, "what": {"pack"}, "g": {g}, "scale": {"hanging"},
				"return": {"/trips/1/weigh"}})
	}
	assert.Contains(t, page, "a hand helped")
	assert.Contains(t, page, "Scale and list agree")
	page = s.follow("/trips/1/weighings", url.Values{"version": {versionOn(page)}, "what": {"item:pot"}, "g": {"220"},
		"scale": {"kitchen"}, "return": {"/trips/1/weigh"}})
	assert.Contains(t, page, "A part of the list is off")
	assert.Contains(t, between(page, "Whose it can be", "</table>"), "Cook pot")
	page = s.follow("/trips/1/masses",
		url.Values{"version": {versionOn(page)}, "item": {"pot"}, "return": {"/trips/1/layout?item=pot"}})
	assert.Regexp(t, `name="mass" value="2(19|20)`, page)
	page = s.follow("/trips/1/undo", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/layout?item=pot"}})
	assert.Contains(t, page, `name="mass" value="145"`)
	page = s.follow("/trips/1/seen", url.Values{"version": {versionOn(page)}, "stands": {"false"}, "closes": {"true"},
		"fill": {"58 cm"}, "return": {"/trips/1/weigh"}})
	assert.Contains(t, page, "Not as predicted")
	for _, wrong := range []url.Values{{"what": {"pack"}, "g": {"a stone"}}, {"what": {"pack"}, "g": {"300 kg"}},
		{"what": {"pack"}, "g": {"-3"}}, {"what": {"the moon"}, "g": {"3"}}, {"what": {"pack"}, "from": {"scale"}}} {
		wrong.Set("version", versionOn(page))
		code, body, _ := s.post("/trips/1/weighings", wrong)
		assert.Equal(t, http.StatusUnprocessableEntity, code, wrong)
		assert.Contains(t, body, `role="alert"`)
	}
	page = s.follow("/trips/1/weighings/2/remove", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/weigh"}})
	assert.NotContains(t, page, "a hand helped")
}

// The needle of the simulated scale comes over events; what has settled, and nothing else, can be kept.
func TestTheScale(t *testing.T) {
	t.Parallel()
	hanging := httptest.NewServer(scale.New(scale.Every / 5))
	t.Cleanup(hanging.Close)
	s, _ := siteWithOptions(t, web.Options{Scale: hook.Service{URL: hanging.URL, Simulated: true}},
		string(demo.LoneWalker))
	_, page := s.get("/trips/1/weigh")
	watch := func(query string, ms time.Duration) string {
		ctx, cancel := context.WithTimeout(t.Context(), ms*time.Millisecond)
		defer cancel()
		_, events, _ := s.do(httptest.NewRequest(http.MethodGet, "/trips/1/scale?"+query, nil).WithContext(ctx))
		return events
	}
	keep := url.Values{"version": {versionOn(page)}, "what": {"pack"}, "from": {"scale"}, "return": {"/trips/1/weigh"}}
	assert.Contains(t, watch("load=pack&fault=none", 250), "swinging")
	code, body, _ := s.post("/trips/1/weighings", keep)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "has not settled")
	for range 5 { // on a busy machine the needle may swing again by the time it is asked for
		if strings.Contains(watch("load=pack&fault=none", 2500), `"state":"settled"`) {
			if code, _, _ = s.post("/trips/1/weighings", keep); code == http.StatusSeeOther {
				break
			}
		}
	}
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/weigh")
	assert.Contains(t, page, "the whole pack")
	assert.Contains(t, watch("load=nothing&fault=zero", 1200), `"state":"settled"`)
	page = s.follow("/trips/1/tare", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/weigh"}})
	assert.Contains(t, page, "Tare 350 g")
	events := watch("load=pack&fault=silent", 2500)
	assert.Contains(t, events, "fallen silent")
	code, _, _ = s.post("/trips/1/weighings", keep)
	assert.Equal(t, http.StatusUnprocessableEntity, code, "a scale that fell silent has nothing settled")
	require.NotContains(t, strings.ReplaceAll(events, "swinging", ""), `"state":"settled"`)
}
