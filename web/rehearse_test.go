package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestRehearse(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/rehearse")
	assert.Contains(t, page, "drills go as they should")
	for _, drill := range []string{"Rain starts", "Someone is hurt", "Cold halt at noon", "Refill water", "Lunch",
		"The way is unclear", "Dusk", "Camp in rain", "Out at night"} {
		assert.Contains(t, page, drill)
	}
	_, page = s.get("/trips/1/rehearse?drill=camp-in-rain&at=6")
	assert.Contains(t, page, "In hand")
	assert.Regexp(t, `<b>\d+ s</b>`, page)
	for _, at := range []string{"0", "999", "-3", "x"} {
		code, _ := s.get("/trips/1/rehearse?drill=rain&at=" + at)
		assert.Equal(t, http.StatusOK, code)
	}

	// A jacket pinned into the body is suggested out of it; taking that does what it says.
	page = s.follow("/trips/1/pins",
		url.Values{"version": {"1"}, "item": {"shell"}, "zone": {"body"},
			"return": {"/trips/1/rehearse?drill=rain&suggest=1"}})
	found := regexp.MustCompile(`(?:Rain jacket) in the [^:]+: (\d+) s → (\d+) s</span><a class="btn-ink btn-small" href="[^"]*put=shell%40([^"&]+)"`).FindStringSubmatch(page)
	require.NotNil(t, found, "a suggestion with its effect")
	_, page = s.get("/trips/1/rehearse?drill=rain&put=shell%40" + found[3])
	assert.Contains(t, page, "<th>With it</th>", "all six checks beside each other before it is taken")
	assert.Equal(t, 6, strings.Count(between(page, `class="checks-change"`, "</table>"), "<tr")-1)
	page = s.follow("/trips/1/pins",
		url.Values{"version": {"2"}, "item": {"shell"}, "zone": {found[3]}, "return": {"/trips/1/rehearse?drill=rain"}})
	assert.Contains(t, page, "In hand after "+found[2]+" s")

	for range 10 {
		page = s.follow("/trips/1/drills/dusk/time",
			url.Values{"version": {versionOn(page)}, "seconds": {"16"}, "return": {"/trips/1/rehearse?drill=dusk"}})
	}
	said := regexp.MustCompile(`10 real times: 16 s in the mean, give or take 0 s. Expected now: (\d+) s \(the estimate of (\d+) s counts as two times\)`).FindStringSubmatch(page)
	require.NotNil(t, said)
	estimate, err := strconv.Atoi(said[2])
	require.NoError(t, err)
	assert.Equal(t, strconv.Itoa(int(float64(2*estimate+10*16)/12+0.5)), said[1], "the estimate as two times among twelve")
	code, body, _ := s.post("/trips/1/drills/dusk/time", url.Values{"version": {versionOn(page)}, "seconds": {"soon"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "is no time of a drill")
	page = s.follow("/trips/1/drills/dusk/time",
		url.Values{"version": {versionOn(page)}, "forget": {"1"}, "return": {"/trips/1/rehearse?drill=dusk"}})
	assert.NotContains(t, page, "real times")

	page = s.follow("/trips/1/drills", url.Values{"version": {versionOn(page)}, "name": {"<b>Bees</b>"}, "limit": {"30"},
		"items": {"phone", "first-aid"}, "return": {"/trips/1/rehearse?drill=own-1"}})
	assert.Contains(t, page, "&lt;b&gt;Bees&lt;/b&gt;")
	assert.Contains(t, page, "A drill of your own.")
	code, body, _ = s.post("/trips/1/drills",
		url.Values{"version": {versionOn(page)}, "name": {"Nothing"}, "limit": {"30"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "at least one thing")
	page = s.follow("/trips/1/drills/own-1/remove",
		url.Values{"version": {versionOn(page)}, "return": {"/trips/1/rehearse"}})
	assert.NotContains(t, page, "Bees")
}

// between is the part of a page from one mark to the next other one.
func between(page, from, to string) string {
	_, rest, _ := strings.Cut(page, from)
	part, _, _ := strings.Cut(rest, to)
	return part
}
