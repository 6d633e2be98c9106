package web_test

import (
	"bytes"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/demo"
	"tornister/standin/forecast"
	"tornister/weather"
	"tornister/web"
)

// follow posts a form and gives the page it leads to.
func (s *site) follow(path string, fields url.Values) string {
	s.Helper()
	code, body, header := s.post(path, fields)
	require.Equal(s, http.StatusSeeOther, code, "%s: %.600s", path, body)
	code, page := s.get(header.Get("Location"))
	require.Equal(s, http.StatusOK, code)
	return page
}

func (s *site) upload(path, field, name string, data []byte) (int, string, http.Header) {
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	part, err := w.CreateFormFile(field, name)
	require.NoError(s, err)
	_, err = part.Write(data)
	require.NoError(s, err)
	require.NoError(s, w.Close())
	r := httptest.NewRequest(http.MethodPost, path, &body)
	r.Header.Set("Content-Type", w.FormDataContentType())
	return s.do(r)
}

var versionField = regexp.MustCompile(`name="version" value="(\d+)"`)

func versionOn(page string) string { return versionField.FindStringSubmatch(page)[1] }

func TestFromNothingToAVerdict(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	page := s.follow("/trips", url.Values{"name": {"A weekend"}, "start": {"2026-09-04T13:00"},
		"end": {"2026-09-06T11:30"}, "pack": {"generic:hut-38"}})
	assert.Contains(t, page, "Spare meal", "what the trip makes necessary is on the list already")
	assert.Contains(t, page, "follows the trip")
	lines := "down bag 950 g 7 l\nair mat and pillow\ntent for one\nrain jacket 13.4 oz\nrain trousers\nfirst aid kit\npot 0.9 l\nstove\nheadlamp\n2 x socks\n950 g\nmap\ncompass"
	code, body, _ := s.post("/trips/2/items",
		url.Values{"version": {versionOn(page)}, "lines": {lines}, "return": {"/trips/2/layout"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code, "one line has no name")
	assert.Contains(t, body, "no name in it")
	assert.Contains(t, body, "Down bag", "the others are on the list")
	assert.Contains(t, body, "Pillow")
	assert.Contains(t, body, "guess")
	_, page = s.get("/trips/2/load")
	assert.Contains(t, page, "Fit")
	_, page = s.get("/trips/2/plan.json")
	assert.Contains(t, page, `"fits"`)
}

func TestWhatALineWillBecome(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	for line, want := range map[string]string{
		"down bag 950 g 7 l": "9.1 L → 4.9 L", "2 x bottle 1l": "2 × Bottle",
		"rain jacket": "guessed, give or take 25 in 100", "thingamajig 300 g": "Nothing like it is known",
		"mug and spoon": "(taken for: mug) &#43; Spoon, 15 g", "mug 65 g and spoon 15 g": "guessed where none was typed",
		"950 g": "no name in it", "<script>alert(1)</script>": "&lt;script&gt;",
	} {
		code, body := s.get("/trips/1/told?lines=" + url.QueryEscape(line))
		assert.Equal(t, http.StatusOK, code)
		assert.Contains(t, body, want, line)
	}
}

func TestTheTripStep(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/trip")
	assert.Contains(t, page, "three dinners, three breakfasts, four lunches and one spare meal")
	fields := form(page, "/trips/1/trip")
	assert.Equal(t, "2026-09-10T11:00", fields.Get("start"))
	fields.Set("end", "2026-09-14T15:00")
	page = s.follow("/trips/1/trip", fields)
	assert.Contains(t, page, "Four nights")
	assert.Contains(t, page, "Food, day 5")
	_, list := s.get("/trips/1/layout")
	assert.Contains(t, list, "Food, day 5", "the list follows")

	assert.Contains(t, page, "Coldest night: ")
	assert.Contains(t, page, "Warmth wanted at night")
	alone, _ := siteWithOptions(t, web.Options{}, string(demo.SkiTour))
	_, day := alone.get("/trips/1/trip")
	assert.Contains(t, day, "No nights: ")
	assert.NotContains(t, day, "Coldest night")
	assert.NotContains(t, day, "at night")

	for field, c := range map[string]struct{ value, message string }{
		"end": {"2026-09-01T10:00", "ends before it starts"}, "leg-0-km": {"300", "80"}, "low": {"cold", "no temperature"},
		"rain": {"300", "1"}, "age": {"x", "not a number"}, "leg-2-day": {"1", "order they are walked"},
		"name": {"", "give the trip a name"},
	} {
		fields := form(page, "/trips/1/trip")
		fields.Set(field, c.value)
		code, body, _ := s.post("/trips/1/trip", fields)
		assert.Equal(t, http.StatusUnprocessableEntity, code, field)
		assert.Contains(t, body, `id="wrong-`+field+`"`, "the message stands at %s", field)
		assert.Contains(t, body, c.message, field)
		assert.Contains(t, body, `value="`+c.value+`"`, "what was entered is still there")
	}
	page = s.follow("/trips/1/legs", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/trip"}})
	assert.Contains(t, page, "leg-5-km")
	page = s.follow("/trips/1/legs/6/remove", url.Values{"version": {versionOn(page)}, "return": {"/trips/1/trip"}})
	assert.NotContains(t, page, "leg-5-km")
	page = s.follow("/trips/1/supplies", url.Values{"version": {versionOn(page)}, "key": {"spare-meal"}, "want": {"off"},
		"return": {"/trips/1/trip"}})
	assert.Contains(t, page, "Put on the list")
	page = s.follow("/trips/1/supplies", url.Values{"version": {versionOn(page)}, "key": {"gas"}, "want": {"follow"},
		"return": {"/trips/1/trip"}})
	assert.NotContains(t, page, "yours: 380 g")
	page = s.follow("/trips/1/method", url.Values{"version": {versionOn(page)}, "key": {"food"}, "value": {"meals"},
		"return": {"/trips/1/trip"}})
	assert.Contains(t, page, "by counted meals")
	assert.Contains(t, page, "Breakfast")
	_, page = s.do2("/trips/1/trip", "customary")
	assert.Contains(t, page, "°F")
	assert.Contains(t, page, "mi</span>")
}

// do2 gets a page with a choice of units.
func (s *site) do2(path, units string) (int, string) {
	r := httptest.NewRequest(http.MethodGet, path, nil)
	r.AddCookie(&http.Cookie{Name: "units", Value: units})
	code, body, _ := s.do(r)
	return code, body
}

// A line that follows the trip is the packer's own once it is changed.
func TestAChangedLineFollowsNoMore(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout?item=food-2")
	fields := form(page, "/trips/1/items/food-2")
	fields.Set("mass", "500")
	s.follow("/trips/1/items/food-2", fields)
	_, page = s.get("/trips/1/trip")
	assert.Contains(t, page, "yours: 500 g")
}

func TestForecastThereAndNot(t *testing.T) {
	t.Parallel()
	for mode, want := range map[forecast.Mode]string{forecast.Fine: "issued", forecast.Refused: "refused",
		forecast.Slow: "too long", forecast.Broken: "no forecast"} {
		service := httptest.NewServer(forecast.New(mode, time.Now))
		t.Cleanup(service.Close)
		patience := 20 * time.Second // enough on a busy machine
		if mode == forecast.Slow {
			patience = 300 * time.Millisecond
		}
		s := siteWith(t, weather.Service{URL: service.URL, Timeout: patience})
		code, body, header := s.post("/trips/1/forecast", url.Values{"version": {"1"}, "return": {"/trips/1/trip"}})
		if mode != forecast.Fine {
			assert.Equal(t, http.StatusBadGateway, code, mode)
			assert.Contains(t, body, want, mode)
			assert.Contains(t, body, "Nothing was changed", mode)
			assert.Contains(t, body, `value="2026-09-10T11:00"`, "the step still works")
			continue
		}
		require.Equal(t, http.StatusSeeOther, code)
		_, page := s.get(header.Get("Location"))
		assert.Contains(t, page, forecast.Source)
		assert.Contains(t, page, "just now")
		page = s.follow("/trips/1/forecast/take", url.Values{"version": {"2"}, "return": {"/trips/1/trip"}})
		assert.Contains(t, page, "The trip is planned with it.")
	}
	s := newSite(t)
	_, page := s.get("/trips/1/trip")
	assert.Contains(t, page, "No forecast service is set")
}

// siteWith is the demo site with a forecast service.
func siteWith(t testing.TB, service weather.Service) *site {
	s, _ := siteOf(t, service, web.Options{}, string(demo.LoneWalker))
	return s
}

// A kit bag is typed like anything else; a thing is put into it in its form, and then lies in it in the order.
func TestAKitBag(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	page := s.follow("/trips/1/items",
		url.Values{"version": {"1"}, "lines": {"kitchen bag"}, "return": {"/trips/1/layout?item=kitchen-bag"}})
	assert.Contains(t, page, "Nothing is kept in it yet")
	_, page = s.get("/trips/1/layout?item=mug")
	fields := form(page, "/trips/1/items/mug")
	require.Contains(t, fields, "nest_in")
	fields.Set("nest_in", "kitchen-bag")
	fields.Set("return", "/trips/1/layout?item=kitchen-bag")
	page = s.follow("/trips/1/items/mug", fields)
	assert.Contains(t, page, "Kept in it: Mug 0.4 L.")
	_, page = s.get("/trips/1/load")
	assert.Contains(t, page, "in the kitchen bag, as you keep it")
	_, page = s.get("/trips/1/layout?item=mug")
	fields = form(page, "/trips/1/items/mug")
	assert.Equal(t, "kitchen-bag", fields.Get("nest_in"))
	fields.Set("nest_in", "")
	s.follow("/trips/1/items/mug", fields)
	_, page = s.get("/trips/1/load")
	assert.NotContains(t, page, "as you keep it")
}

func TestMeasuring(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	page := s.follow("/trips/1/items/camp-shoes/measure",
		url.Values{"version": {"1"}, "way": {"water"}, "before": {"4"}, "after": {"5.9"},
			"return": {"/trips/1/layout?item=camp-shoes"}})
	assert.Contains(t, page, "1.9 L")
	assert.Contains(t, page, `value="displacement" selected`)
	page = s.follow("/trips/1/items/sleeping-bag/measure",
		url.Values{"version": {"2"}, "way": {"sack"}, "side-1": {"7 in"}, "side-2": {"1 ft"}, "with": {"71.5 kg"},
			"without": {"70.6 kg"}, "return": {"/trips/1/layout?item=sleeping-bag"}})
	assert.Contains(t, page, `value="900"`)
	code, body, _ := s.post("/trips/1/items/pot/measure",
		url.Values{"version": {"3"}, "way": {"water"}, "before": {"5"}, "after": {"4"},
			"return": {"/trips/1/layout?item=pot"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "must be higher")
	assert.Contains(t, body, `value="5"`)
}

func TestKeepDry(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/dry")
	assert.Contains(t, page, "All dry in steady rain.")
	assert.Contains(t, page, "Blue dry bag")
	assert.Contains(t, page, "No fewer would do.")
	_, tried := s.get("/trips/1/dry?try=bags")
	assert.Contains(t, tried, "<th>With it</th>", "all six checks beside each other before a school is taken")
	assert.Contains(t, tried, `id="take" name="value" value="bags"`)
	_, tried = s.get("/trips/1/dry?try=feathers")
	assert.NotContains(t, tried, "With it")
	page = s.follow("/trips/1/method", url.Values{"version": {versionOn(page)}, "key": {"dry"}, "value": {"bags"},
		"return": {"/trips/1/dry"}})
	assert.Contains(t, page, "weak points in steady rain")
	assert.Contains(t, page, "It wants a dry bag of")
	page = s.follow("/trips/1/bags", url.Values{"version": {versionOn(page)}, "name": {"Large <i>bag</i>"},
		"kind": {"dry-bag"}, "litres": {"20 L"}, "mass": {"4 oz"}, "colour": {"Green"}, "return": {"/trips/1/dry"}})
	assert.Contains(t, page, "Large &lt;i&gt;bag&lt;/i&gt;")
	page = s.follow("/trips/1/bags/large-i-bag-i/remove",
		url.Values{"version": {versionOn(page)}, "return": {"/trips/1/dry"}})
	assert.NotContains(t, page, "Large &lt;i&gt;")
	code, body, _ := s.post("/trips/1/bags",
		url.Values{"version": {versionOn(page)}, "name": {"Sack"}, "kind": {"dry-bag"}, "litres": {"many"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "is not a number")
	assert.Contains(t, body, `value="Sack"`)
	_, lp := s.get("/trips/1/bags.lp")
	assert.Contains(t, lp, "Minimize")
}

// What a thing is for is ticked in its form, a second job as well: it counts for it at once, and a function that the
// program does not know stays.
func TestASecondJob(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	text := strings.Replace(string(demo.ChildNight), `{"id": "toy",`, `{"id": "toy", "functions": ["comfort"],`, 1)
	require.NotEqual(t, string(demo.ChildNight), text)
	code, _, _ := s.upload("/trips/import", "bundle", "night.json", []byte(text))
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get("/trips/2/layout?item=toy")
	fields := form(page, "/trips/2/items/toy")
	require.NotContains(t, fields["functions"], "warmth")
	fields.Add("functions", "warmth")
	s.follow("/trips/2/items/toy", fields)
	functions := func() []string {
		_, text := s.get("/trips/2/bundle.json")
		b, err := bundle.Read([]byte(text))
		require.NoError(t, err)
		for i := range b.Task.Items {
			if b.Task.Items[i].ID == "toy" {
				return b.Task.Items[i].Functions
			}
		}
		return nil
	}
	assert.Equal(t, []string{"comfort", "warmth"}, functions())
	_, page = s.get("/trips/2/layout?item=toy")
	fields = form(page, "/trips/2/items/toy")
	assert.Contains(t, fields["functions"], "warmth", "ticked")
	fields.Del("functions")
	s.follow("/trips/2/items/toy", fields)
	assert.Equal(t, []string{"comfort"}, functions())
}

// What a thing is of no use without is ticked in its form; a stuffed sack says how flat it can be pressed, and may
// take that back.
func TestNeedsAndYieldingSacks(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	item := func(id string) *kit.Item {
		_, text := s.get("/trips/1/bundle.json")
		b, err := bundle.Read([]byte(text))
		require.NoError(t, err)
		i := slices.IndexFunc(b.Task.Items, func(it kit.Item) bool { return it.ID == id })
		return &b.Task.Items[i]
	}
	change := func(id string, edit func(url.Values)) {
		_, page := s.get("/trips/1/layout?item=" + id)
		fields := form(page, "/trips/1/items/"+id)
		edit(fields)
		s.follow("/trips/1/items/"+id, fields)
	}
	require.True(t, item("stove").Wants("gas"), "as usual for its kind")
	change("stove", func(f url.Values) {
		require.Contains(t, f["needs"], "gas")
		f["needs"] = []string{"fire", "pot"}
	})
	assert.Equal(t, []string{"fire", "pot"}, item("stove").Needs)
	change("stove", func(f url.Values) { f.Del("needs") })
	assert.False(t, item("stove").Wants("pot"))

	change("foam-mat", func(f url.Values) { f.Set("gives", "1.3") })
	assert.InDelta(t, 1.3, item("foam-mat").Shape.Gives, 0)
	change("foam-mat", func(f url.Values) { f.Set("gives", "") })
	assert.Zero(t, item("foam-mat").Shape.Gives)
	_, page := s.get("/trips/1/layout?item=foam-mat")
	fields := form(page, "/trips/1/items/foam-mat")
	fields.Set("gives", "7")
	code, page, _ := s.post("/trips/1/items/foam-mat", fields)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, `id="wrong-gives"`)
}

// What lies loose and is usually kept in a bag is proposed, tried on all six checks, taken and taken back.
func TestKitBagsAreProposed(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout")
	require.Contains(t, page, "<b>Kitchen bag</b>")
	_, page = s.get("/trips/1/layout?bag=kitchen")
	assert.Contains(t, page, "With it")
	fields := form(page, "/trips/1/kitbags")
	fields.Set("purpose", "kitchen")
	page = s.follow("/trips/1/kitbags", fields)
	assert.NotContains(t, page, "<b>Kitchen bag</b>")
	assert.Contains(t, page, "a kitchen bag", "what was done")
	_, page = s.get("/trips/1/load")
	assert.Contains(t, page, "in the kitchen bag, as you keep it")
	code, _, _ := s.post("/trips/1/kitbags", url.Values{"version": {"2"}, "purpose": {"kitchen"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

// On a list a thing's name may follow from its id. On the shelf it has none to follow from, and comes back to a list,
// typed or taken, under the name it had.
func TestANameThatFollowedFromAnID(t *testing.T) {
	t.Parallel()
	s, kept := siteWithOptions(t, web.Options{}, string(demo.ChildNight))
	keys, err := kept.AddThings(t.Context(), []map[string]any{{"id": "sun-cream", "kind": "sun-cream"}, {"id": "goggles"},
		{"id": "transceiver", "kind": "transceiver"}})
	require.NoError(t, err)
	page := s.follow("/trips/1/items", url.Values{"lines": {"sun cream\ntransceiver"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "Sun cream")
	s.follow("/shelf/bulk", url.Values{"keys": {keys[1]}, "do": {"along"}, "trip": {"1"}})
	shown, err := kept.Trip(t.Context(), 1)
	require.NoError(t, err)
	var names, carried []any
	for _, item := range shown.Doc.List("items") {
		if item["shelf"] != nil {
			names, carried = append(names, item["name"]), append(carried, item["carry"])
		}
	}
	assert.Equal(t, []any{"Sun cream", "Transceiver", "Goggles"}, names)
	assert.Equal(t, []any{nil, "worn", nil}, carried, "as its kind is carried")
}
