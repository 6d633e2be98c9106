package web_test

import (
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAgainstAReadyMadeList(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	page := s.follow("/trips/1/list", url.Values{"version": {"1"}, "list": {"winter"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "<b>missing</b> ice axe")
	page = s.follow("/trips/1/list",
		url.Values{"version": {"2"}, "not_needed": {"ice-axe"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "<b>not needed</b> ice axe")
	page = s.follow("/trips/1/list", url.Values{"version": {"3"}, "add": {"goggles"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "<b>have</b> goggles")
}

func TestASpreadsheetIsLookedAtBeforeItComesIn(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, _, header := s.upload("/trips/1/sheet", "sheet", "liste.csv",
		[]byte("Gegenstand;Gewicht (kg);Anzahl\nHut <b>;0,06;1\nTopf;schwer;1\nTasse;0,065;2\n"))
	require.Equal(t, http.StatusSeeOther, code)
	path := header.Get("Location")
	_, page := s.get(path)
	assert.Contains(t, page, "Two rows can be brought in, 1 cannot")
	assert.Contains(t, page, "Hut &lt;b&gt;")
	assert.Contains(t, page, "60 g")
	assert.Contains(t, page, "is not a number")
	_, page = s.get(path + "?u1=g")
	assert.Contains(t, page, "0 g", "the mapping can be changed")
	code, body, _ := s.post(path, url.Values{"version": {"1"}, "return": {"/trips/1/layout"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "Nothing was brought in")
	_, refused := s.get(path + "/refused.csv")
	assert.Contains(t, refused, "Topf,schwer")
	page = s.follow(path, url.Values{"version": {"1"}, "without": {"1"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "Tasse")
	assert.Contains(t, page, "bring in 2 rows")
	_, csv := s.get("/trips/1/kit.csv")
	code, _, header = s.upload("/trips/1/sheet", "sheet", "kit.csv", []byte(csv))
	require.Equal(t, http.StatusSeeOther, code)
	page = s.follow(header.Get("Location"), url.Values{"version": {"2"}, "replace": {"1"}, "return": {"/trips/1/layout"}})
	assert.Contains(t, page, "Tasse")
	_, again := s.get("/trips/1/kit.csv")
	assert.Equal(t, csv, again, "what comes back is what went out")
	for name, data := range map[string]string{"empty.csv": "", "broken.xlsx": "PK\x03\x04nothing",
		"picture.png": "\x89PNG\x00"} {
		code, body, _ := s.upload("/trips/1/sheet", "sheet", name, []byte(data))
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Contains(t, body, "not a usable spreadsheet", name)
	}
	code, _ = s.get("/trips/1/sheet/nothing-here")
	assert.Equal(t, http.StatusNotFound, code)
}
