package web_test

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/planner"
	"tornister/web"
)

// shrunk gives the step Shrink when its search is done.
func (s *site) shrunk(path string) string {
	for {
		s.do(httptest.NewRequest(http.MethodGet, path+"/progress", nil)) // ends with the search
		_, page := s.get(path)
		if !strings.Contains(page, "Packing for trial") { // a better plan begins it anew
			return page
		}
	}
}

func TestShrinkMakesItFit(t *testing.T) {
	t.Parallel()
	s := newSiteWith(t, patient)
	small := strings.NewReplacer(`"size_cm": [22, 15, 36], "volume_l": 12.6`, `"size_cm": [22, 15, 20], "volume_l": 7`,
		`"size_cm": [18, 13, 7], "volume_l": 1.5`, `"size_cm": [18, 13, 3], "volume_l": 0.6`).Replace(string(demo.ChildNight))
	code, _, _ := s.upload("/trips/import", "bundle", "small.json", []byte(small))
	require.Equal(t, http.StatusSeeOther, code)
	page := s.shrunk("/trips/2/shrink")
	assert.Regexp(t, "makes? it fit", page)
	assert.Regexp(t, "no cheaper set of moves saves as much|packed for trial, it needs none less", page)
	assert.Contains(t, page, "The smallest that takes the kit as it is")
	try := strings.ReplaceAll(regexp.MustCompile(`id="try-set" href="([^"]+)#trial"`).FindStringSubmatch(page)[1],
		"&amp;", "&")
	_, page = s.get(try)
	assert.Regexp(t, "It (just )?fits", page)
	assert.Contains(t, page, "With it")
	fields := form(page, "/trips/2/shrink")
	require.NotEmpty(t, fields["take"])
	s.follow("/trips/2/shrink", fields)
	page = s.shrunk("/trips/2/shrink")
	assert.Contains(t, page, "It fits as it is.", regexp.MustCompile(`(?s)<h1.*?</p>`).FindString(page))
	page = s.follow("/trips/2/undo", url.Values{"version": {versionOn(page)}, "return": {"/trips/2/shrink"}})
	assert.Contains(t, page, "too much.")
	code, body, _ := s.post("/trips/2/shrink", url.Values{"version": {versionOn(page)}, "take": {"leave:nothing"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "Nothing was taken")
	page = s.follow("/trips/2/pack", url.Values{"version": {versionOn(page)}, "pack": {"generic:long-haul-72"},
		"return": {"/trips/2/shrink"}})
	assert.Contains(t, page, "It fits as it is.", regexp.MustCompile(`(?s)<h1.*?</p>`).FindString(page))
	_, lp := s.get("/trips/2/shrink.lp")
	assert.Contains(t, lp, "Minimize")
}

// The page that comes before the moves are known can be asked for again without scripts, and is the whole page then.
func TestShrinkBeforeItIsDone(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{
		Planner: planner.Options{First: time.Minute, Thorough: time.Minute, Patience: 1e-9}}, string(demo.FieldCourse))
	_, page := s.get("/trips/1/shrink")
	require.Contains(t, page, "Packing for trial")
	assert.Regexp(t, `(?s)<form method="get" action="/trips/1/shrink"[^>]* id="searching".*<button[^>]*>Look again</button>`, page)
	assert.NotContains(t, s.shrunk("/trips/1/shrink"), "Packing for trial")
}
