package web_test

import (
	"bytes"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/planner"
	"tornister/web"
)

// site is the interface on a throwaway database with the demo trip as number 1.
type site struct {
	testing.TB
	handler http.Handler
}

// Whatever somebody waits for is there, however busy the machine is: what a patient planner searches ends by itself, a
// hasty one gives whole first answers and little more.
var (
	patient = planner.Options{Patience: 30}
	hasty   = planner.Options{Patience: 30, Thorough: time.Millisecond}
)

// newSite is a site with the lone walker as trip 1, planned in haste.
func newSite(t testing.TB) *site {
	return newSiteWith(t, hasty)
}

func newSiteWith(t testing.TB, options planner.Options) *site {
	s, _ := siteWithOptions(t, web.Options{Planner: options}, string(demo.LoneWalker))
	return s
}

func (s *site) do(r *http.Request) (int, string, http.Header) {
	w := httptest.NewRecorder()
	s.handler.ServeHTTP(w, r)
	return w.Code, w.Body.String(), w.Header()
}

func (s *site) get(path string) (int, string) {
	code, body, _ := s.do(httptest.NewRequest(http.MethodGet, path, nil))
	return code, body
}

func (s *site) post(path string, fields url.Values) (int, string, http.Header) {
	r := httptest.NewRequest(http.MethodPost, path, strings.NewReader(fields.Encode()))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return s.do(r)
}

// form reads the fields of a form of a page as a browser would send them.
func form(page, action string) url.Values {
	fields := url.Values{}
	part := regexp.MustCompile(`(?s)<form[^>]*action="` + regexp.QuoteMeta(action) + `".*?</form>`).FindString(page)
	for _, input := range regexp.MustCompile(`<input[^>]*>`).FindAllString(part, -1) {
		attribute := func(name string) string {
			if m := regexp.MustCompile(` ` + name + `="([^"]*)"`).FindStringSubmatch(input); m != nil {
				return m[1]
			}
			return ""
		}
		if strings.Contains(input, `type="checkbox"`) && !strings.Contains(input, " checked") {
			continue
		}
		fields.Add(attribute("name"), attribute("value"))
	}
	for _, s := range regexp.MustCompile(`(?s)<select[^>]* name="([^"]*)".*?</select>`).FindAllStringSubmatch(part, -1) {
		if m := regexp.MustCompile(`<option value="([^"]*)" selected`).FindStringSubmatch(s[0]); m != nil {
			fields.Set(s[1], m[1])
		}
	}
	return fields
}

func TestPagesAnswer(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	for path, want := range map[string]string{
		"/": "Orlava, three nights", "/trips/1/load": "Loading order", "/trips/1/load?thing=pot&view=behind": "Pin here",
		"/trips/1/layout": "49 things to pack", "/trips/1/trip": "legs 2 to 3", "/trips/1/layout?item=pot": `value="145"`,
		"/schema.json":      "json-schema.org",
		"/trips/1/card.txt": "UPLAND PACK 52 L", "/trips/1/plan.json": `"tornister-plan"`,
		"/trips/1/bundle.json":  `"format": "tornister"`,
		"/static/tornister.css": "--ground",
	} {
		code, body := s.get(path)
		assert.Equal(t, http.StatusOK, code, path)
		assert.Contains(t, body, want, path)
	}
	for _, path := range []string{"/trips/7/load", "/trips/x/load", "/nothing", "/static/", "/static/../pages.go",
		"/trips/0/load"} {
		code, _ := s.get(path)
		assert.Equal(t, http.StatusNotFound, code, path)
	}
}

// Without scripts every form is sent by a button of its own, or by Enter in its one line.
func TestEveryFormCanBeSent(t *testing.T) {
	t.Parallel()
	s, _, _ := course(t)
	forms := regexp.MustCompile(`(?s)<form([^>]*)>(.*?)</form>`)
	named := regexp.MustCompile(` id="([^"]+)"`)
	seen := 0
	for _, step := range []string{"trip", "layout", "layout?item=pot", "shrink", "load", "load?thing=stove", "dry", "rehearse",
		"weigh", "way", "back", "along", "hand", "compare", "party", "party?part=aid", "party?bearer=pelle", "check", "cards"} {
		_, page := s.get("/trips/1/" + step)
		for _, found := range forms.FindAllStringSubmatch(page, -1) {
			seen++
			sent := strings.Contains(found[2], "<button") || strings.Contains(found[1], `role="search"`)
			if id := named.FindStringSubmatch(found[1]); id != nil {
				sent = sent || strings.Contains(page, ` form="`+id[1]+`"`)
			}
			assert.True(t, sent, "%s: no button sends <form%s>", step, found[1])
		}
	}
	assert.Greater(t, seen, 100)
}

func TestHeadersAllowOnlyOurOwn(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, body, header := s.do(httptest.NewRequest(http.MethodGet, "/trips/1/load", nil))
	policy := header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'none'")
	assert.NotContains(t, policy, "unsafe")
	assert.Equal(t, "nosniff", header.Get("X-Content-Type-Options"))
	assert.NotRegexp(t, ` style="`, body, "no inline style")
	assert.NotRegexp(t, `(?:src|href)="(?:https?:)?//`, body, "nothing from outside")
}

func TestForeignSiteCannotChange(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	r := httptest.NewRequest(http.MethodPost, "/trips/1/undo", strings.NewReader("version=1"))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	code, _, _ := s.do(r)
	assert.Equal(t, http.StatusForbidden, code)
}

func TestChangingAThing(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout?item=sleeping-bag")
	fields := form(page, "/trips/1/items/sleeping-bag")
	require.Equal(t, "940", fields.Get("mass"))

	unchanged, _, _ := s.post("/trips/1/items/sleeping-bag", fields)
	assert.Equal(t, http.StatusSeeOther, unchanged)
	_, page = s.get("/trips/1/layout?item=sleeping-bag")
	assert.Contains(t, page, "Nothing to take back", "a form sent unchanged changes nothing")

	fields.Set("mass", "2 lb 3 oz")
	fields.Set("loose", "30")
	fields.Set("tight", "28")
	code, _, header := s.post("/trips/1/items/sleeping-bag", fields)
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/trips/1/layout?item=sleeping-bag", header.Get("Location"))
	_, page = s.get("/trips/1/layout?item=sleeping-bag")
	assert.Contains(t, page, "992 g")
	assert.Contains(t, page, "It does not fit")
	assert.Contains(t, page, "Undo<small>change Down sleeping bag")

	code, _, _ = s.post("/trips/1/undo", url.Values{"version": {"2"}, "return": {"/trips/1/load"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/load")
	assert.NotContains(t, page, "It does not fit")
}

func TestBadValuesComeBackWithTheirMessages(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout?item=sleeping-bag")
	for field, c := range map[string]struct{ value, message string }{
		"mass": {"heavy", "is not a number"}, "count": {"1.5", "whole number"}, "tight": {"50", "tight is the smaller"},
		"loose": {"-3", "cannot be negative"}, "per_day": {"often", "is not a number"}, "name": {"  ", "give it a name"},
		"case": {"wet", "IPX4"},
	} {
		fields := form(page, "/trips/1/items/sleeping-bag")
		fields.Set(field, c.value)
		code, body, _ := s.post("/trips/1/items/sleeping-bag", fields)
		assert.Equal(t, http.StatusUnprocessableEntity, code, field)
		assert.Contains(t, body, `id="wrong-`+field+`"`, "the message stands at the field %s", field)
		assert.Contains(t, body, c.message, field)
		assert.Contains(t, body, `value="`+c.value+`"`, "what was entered is still there")
	}
	_, page = s.get("/trips/1/layout?item=sleeping-bag")
	assert.Contains(t, page, `value="940"`)
	code, body, _ := s.post("/trips/1/items", url.Values{"version": {"1"}, "lines": {"950 g"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, `value="950 g"`)
	assert.Contains(t, body, "no name in it")
}

func TestStaleFormKeepsWhatWasEntered(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout?item=pot")
	fields := form(page, "/trips/1/items/pot")
	code, _, _ := s.post("/trips/1/items/mug/remove", url.Values{"version": {"1"}, "return": {"/"}})
	require.Equal(t, http.StatusSeeOther, code)
	fields.Set("mass", "222")
	code, body, _ := s.post("/trips/1/items/pot", fields)
	assert.Equal(t, http.StatusConflict, code)
	assert.Contains(t, body, "changed in another window")
	assert.Contains(t, body, `value="222"`)
	assert.Contains(t, body, `name="version" value="2"`, "saving again will do")
	assert.NotContains(t, body, "/items/mug/carry", "the page shows the newest state")
}

func TestAddDuplicateRemoveCarry(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	steps := []struct {
		path   string
		fields url.Values
		want   string
	}{
		{"/trips/1/items", url.Values{"lines": {`<b>Kite</b> & "line" 150 g 0.5 l`}},
			"&lt;b&gt;Kite&lt;/b&gt; &amp; &#34;line&#34;"},
		{"/trips/1/items", url.Values{"lines": {"Rope"}}, "1.40 kg"},
		{"/trips/1/items/b-kite-b-line/duplicate", url.Values{}, ", another"},
		{"/trips/1/items/b-kite-b-line/carry", url.Values{"carry": {"left"}}, `class=" left"`},
		{"/trips/1/items/b-kite-b-line-2/remove", url.Values{}, "Take back: remove"},
	}
	for i, step := range steps {
		step.fields.Set("version", fmt.Sprint(i+1))
		code, body, _ := s.post(step.path, step.fields)
		require.Equal(t, http.StatusSeeOther, code, "%s: %s", step.path, body)
		_, page := s.get("/trips/1/layout")
		assert.Contains(t, page, step.want, step.path)
		assert.NotContains(t, page, "<b>Kite")
	}
}

func TestPinAndAsPlanned(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, _, _ := s.post("/trips/1/pins",
		url.Values{"version": {"1"}, "item": {"bottle"}, "piece": {"2"}, "zone": {"lid"},
			"return": {"/trips/1/load?thing=bottle%3A2"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get("/trips/1/load?thing=bottle:2")
	assert.Contains(t, page, "As planned")
	assert.Regexp(t, `<option value="lid" selected>`, page)
	code, body, _ := s.post("/trips/1/pins", url.Values{"version": {"2"}, "item": {"bottle"}, "zone": {"attic"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "no zone")
}

func TestImport(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	upload := func(text string) (int, string, http.Header) {
		var body bytes.Buffer
		w := multipart.NewWriter(&body)
		part, err := w.CreateFormFile("bundle", "kit.json")
		require.NoError(t, err)
		_, err = io.WriteString(part, text)
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r := httptest.NewRequest(http.MethodPost, "/trips/import", &body)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return s.do(r)
	}
	code, _, header := upload(string(demo.LoneWalker))
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/trips/2/load", header.Get("Location"))
	code, body, _ := upload(strings.Replace(string(demo.LoneWalker), `"mass_g": 1710`, `"mass_g": -1`, 1))
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "/pack/mass_g")
	code, body, _ = upload(strings.Repeat(" ", bundle.MaxBytes+2<<20))
	assert.Equal(t, http.StatusRequestEntityTooLarge, code)
	assert.Contains(t, body, "larger than 8 MB")
	_, page := s.get("/")
	assert.Equal(t, 2, strings.Count(page, `class="trip-name"`), "nothing of the refused ones was stored")
}

func TestCompareAndPreset(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, page := s.get("/trips/1/compare?way=ski-tour&way=child&way=winter&way=grams&way=nonsense")
	require.Equal(t, http.StatusOK, code)
	assert.Equal(t, 4, strings.Count(page, `<section class="way`), "at most four side by side")
	assert.Contains(t, page, "Ski tour")
	code, _, _ = s.post("/trips/1/preset",
		url.Values{"version": {"1"}, "preset": {"ski-tour"}, "return": {"/trips/1/load"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/load")
	assert.Contains(t, page, `<option value="low" selected>`)
	code, body, _ := s.post("/trips/1/preset", url.Values{"version": {"2"}, "preset": {"upside-down"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "no such way")
}

// The thorough plan is announced over server-sent events; stopping keeps what has been found.
func TestProgressAndStop(t *testing.T) {
	t.Parallel()
	s := newSiteWith(t, patient)
	_, page := s.get("/trips/1/load")
	require.Contains(t, page, `id="searching"`, "the first answer is a quick one and says so")
	code, events, header := s.do(httptest.NewRequest(http.MethodGet, "/trips/1/progress", nil))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, header.Get("Content-Type"), "text/event-stream")
	assert.Contains(t, events, "event:done")
	_, page = s.get("/trips/1/load")
	assert.NotContains(t, page, `id="searching"`)
	assert.Contains(t, page, "Tried 100 times")

	code, _, _ = s.post("/trips/1/items/mug/remove", url.Values{"version": {"1"}, "return": {"/"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/load")
	require.Contains(t, page, `id="searching"`)
	code, _, _ = s.post("/trips/1/stop", url.Values{"return": {"/trips/1/load"}})
	assert.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/load")
	assert.NotContains(t, page, `id="searching"`)
}

func TestLoadLooks(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	for query, want := range map[string]string{
		"view=behind": "from behind", "view=above&plane=80": "from above", "colour=weight": "1 kg and more",
		"colour=dry": "must stay dry",
		"upto=5":     "5 of 49", "upto=900": "49 of 49", "plane=-3&view=nowhere&colour=none&upto=x": "from the side",
		"thing=inner": "To hand in",
	} {
		code, page := s.get("/trips/1/load?" + query)
		assert.Equal(t, http.StatusOK, code, query)
		assert.Contains(t, page, want, query)
	}
}

func TestPinALane(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, _, _ := s.post("/trips/1/pins",
		url.Values{"version": {"1"}, "item": {"wash-kit"}, "zone": {"body"}, "lane": {"back"}, "return": {"/"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get("/trips/1/load?thing=wash-kit")
	assert.Contains(t, page, `<option value="back" selected>`)
	code, body, _ := s.post("/trips/1/pins",
		url.Values{"version": {"2"}, "item": {"wash-kit"}, "zone": {"body"}, "lane": {"upstairs"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "not one of the known words")
}

func TestReturnStaysHere(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	for _, elsewhere := range []string{"https://example.org/", "//example.org", `/\example.org`, ""} {
		_, _, header := s.post("/settings", url.Values{"theme": {"dark"}, "return": {elsewhere}})
		assert.Equal(t, "/", header.Get("Location"), elsewhere)
	}
}

func TestUnitsSwitch(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	r := httptest.NewRequest(http.MethodGet, "/trips/1/layout?item=pot", nil)
	r.AddCookie(&http.Cookie{Name: "units", Value: "customary"})
	_, page, _ := s.do(r)
	assert.Contains(t, page, "5.1 oz")
	assert.Contains(t, page, `value="5.11"`)
	assert.Contains(t, page, "cu in")
}

func BenchmarkLoadPage(b *testing.B) {
	s := newSite(b)
	for { // until the thorough plan is there
		if _, page := s.get("/trips/1/load"); !strings.Contains(page, `id="searching"`) {
			break
		}
		time.Sleep(20 * time.Millisecond)
	}
	for b.Loop() {
		if code, _ := s.get("/trips/1/load"); code != http.StatusOK {
			b.Fatal(code)
		}
	}
}
