package web_test

import (
	"bytes"
	"image"
	"image/png"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheShelf(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	s.follow("/trips/1/shelve", url.Values{"version": {"1"}, "return": {"/trips/1/layout"}})
	_, page := s.get("/shelf")
	assert.Contains(t, page, "on the shelf.")
	assert.Contains(t, page, "Down sleeping bag")
	page = s.follow("/shelf", url.Values{"lines": {"down quilt 640 g\nrope 9mm 25m"}})
	assert.Contains(t, page, "Down quilt")
	path := regexp.MustCompile(`action="(/shelf/s-[a-z0-9]+)"`).FindStringSubmatch(page)[1]
	fields := form(page, path)
	fields.Set("status", "lent")
	fields.Set("holder", "a friend")
	fields.Set("expires", "2027-01-01")
	page = s.follow(path, fields)
	assert.Contains(t, page, "lent out to a friend")
	fields = form(page, path)
	fields.Set("expires", "2027-15-99")
	code, body, _ := s.post(path, fields)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "no day of the calendar")
	assert.Contains(t, body, "2027-15-99")
	_, page = s.get("/shelf?q=quilt&status=lent")
	assert.Contains(t, page, "One thing of the shelf shown")
	key := strings.TrimPrefix(path, "/shelf/")
	page = s.follow("/shelf/bulk", url.Values{"keys": {key}, "do": {"here"}})
	assert.NotContains(t, page, "lent out to a friend")
	page = s.follow("/shelf/bulk", url.Values{"keys": {key}, "do": {"along"}, "trip": {"1"}})
	assert.Contains(t, page, "Down quilt")
	code, body, _ = s.post("/shelf/bulk", url.Values{"do": {"retired"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "Tick the things first")
	_, calendar := s.get("/dates.ics")
	assert.Contains(t, calendar, "20270101")
	code, _ = s.get("/shelf/s-none")
	assert.Equal(t, http.StatusNotFound, code)

	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewRGBA(image.Rect(0, 0, 900, 700))))
	code, _, _ = s.upload(path+"/photo", "photo", "x.png", picture.Bytes())
	assert.Equal(t, http.StatusSeeOther, code)
	_, data, header := s.do(httptest.NewRequest(http.MethodGet, path+"/photo", nil))
	assert.Equal(t, "image/jpeg", header.Get("Content-Type"))
	config, _, err := image.DecodeConfig(strings.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, 640, config.Width)
	code, body, _ = s.upload(path+"/photo", "photo", "x.svg", []byte(`<svg onload="alert(1)"/>`))
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "no picture")
}

func TestPacksAreMeasured(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	page := s.follow("/packs", url.Values{"pack": {"generic:day-28"}, "name": {"Old <b>bag</b>"}})
	assert.Contains(t, page, "Old &lt;b&gt;bag&lt;/b&gt;")
	path := regexp.MustCompile(`action="(/packs/s-[a-z0-9]+)"`).FindStringSubmatch(page)[1]
	_, page = s.get(path + "?zone=front")
	zone := path + "/zones/front"
	fields := form(page, zone)
	fields.Set("litres", "2.8")
	page = s.follow(zone, fields)
	assert.Contains(t, page, "3.8 L", "with what it stretches")
	fields = form(page, zone)
	for field, c := range map[string]struct{ value, message string }{
		"litres": {"10", "do not go into"}, "across": {"wide", "is not a number"}, "deep": {"", "give a length"},
		"mouth": {"-3", "cannot be negative"}, "name": {"", "give the zone a name"},
	} {
		now := form(page, zone)
		now.Set(field, c.value)
		code, body, _ := s.post(zone, now)
		assert.Equal(t, http.StatusUnprocessableEntity, code, field)
		assert.Contains(t, body, c.message, field)
		assert.Contains(t, body, `id="wrong-`+field+`"`, field)
	}
	fields.Set("high", "44")
	code, drawing, _ := s.post(zone+"/drawing", fields)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, drawing, "<svg")
	fields.Set("high", "4x")
	code, _, _ = s.post(zone+"/drawing", fields)
	assert.Equal(t, http.StatusNoContent, code, "half a number leaves the drawing alone")
	page = s.follow(path+"/zones", url.Values{"version": {versionOn(page)}, "kind": {"hip"}, "return": {path}})
	assert.Contains(t, page, "Hip-belt pocket")
	page = s.follow(path+"/zones/hip/remove", url.Values{"version": {versionOn(page)}, "return": {path}})
	assert.NotContains(t, page, "Hip-belt pocket</a>")
	code, body, _ := s.post(path+"/zones/body/remove", url.Values{"version": {versionOn(page)}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "exactly one")
	page = s.follow("/trips/1/pack",
		url.Values{"version": {"1"}, "pack": {"shelf:" + strings.TrimPrefix(path, "/packs/")}, "return": {"/trips/1/shrink"}})
	assert.Contains(t, page, "too much", regexp.MustCompile(`(?s)<h1.*?</p>`).FindString(page))
}
