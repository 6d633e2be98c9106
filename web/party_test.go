package web_test

import (
	"context"
	"encoding/json"
	"io"
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
	"tornister/internal/sample"
	"tornister/store"
	"tornister/web"
)

// course is a site with the field course as its trip.
func course(t *testing.T) (*site, *store.Store, uint) {
	t.Helper()
	s, kept := siteWithOptions(t, web.Options{CardsAt: "http://127.0.0.1:1"},
		string(demo.FieldCourse))
	return s, kept, 1
}

func docOf(t *testing.T, kept *store.Store, id uint) bundle.Doc {
	t.Helper()
	state, err := kept.Trip(context.Background(), id)
	require.NoError(t, err)
	return state.Doc
}

// The course is shared from the room: shown first, with proof, then taken; a part is given to another; who drops out
// leaves parts that are shared anew with few changes.
func TestTheRoomParty(t *testing.T) {
	t.Parallel()
	s, kept, id := course(t)
	_, page := s.get("/trips/1/party")
	assert.Contains(t, page, "40 parts")
	assert.Contains(t, page, "not carried by anybody yet")
	_, page = s.get("/trips/1/party?try=fair")
	assert.Contains(t, page, "nobody carries more than 70 % of the own limit, and every pack closes by its trial packing (6 tried)")
	assert.Contains(t, page, "Proved: there is no fairer one")
	code, _, _ := s.post("/trips/1/party/share", form(page, "/trips/1/party/share"))
	require.Equal(t, http.StatusSeeOther, code)
	agreed := docOf(t, kept, id).Party().Agreed
	assert.Len(t, agreed, 40)
	_, page = s.get("/trips/1/party")
	assert.Contains(t, page, "Everything is carried, and every pack closes.")

	_, page = s.get("/trips/1/party?part=group-shelter")
	fields := form(page, "/trips/1/party/give")
	fields.Set("bearer", "ravna")
	code, _, _ = s.post("/trips/1/party/give", fields)
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "ravna", docOf(t, kept, id).Party().Agreed["group-shelter"])

	_, page = s.get("/trips/1/party?bearer=tomas")
	fields = form(page, "/trips/1/party/bearers/tomas")
	fields.Set("away", "1")
	code, _, _ = s.post("/trips/1/party/bearers/tomas", fields)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/party?try=few")
	assert.Contains(t, page, "Parts are nobody's, or of somebody who has dropped out")
	assert.Contains(t, page, "from Tomas to")
	before := docOf(t, kept, id).Party().Agreed
	code, _, _ = s.post("/trips/1/party/share", form(page, "/trips/1/party/share"))
	require.Equal(t, http.StatusSeeOther, code)
	for part, holder := range docOf(t, kept, id).Party().Agreed {
		if before[part] != "tomas" {
			assert.Equal(t, before[part], holder, "%s stays where it was", part)
		}
		assert.NotEqual(t, "tomas", holder)
	}
}

// The road shows the pack on the floor, and another one's after a switch; undo puts the first one back.
func TestAnotherPackOnTheFloor(t *testing.T) {
	t.Parallel()
	s, kept, id := course(t)
	_, page := s.get("/trips/1/layout")
	assert.Contains(t, page, `data-line-of="notes"`)
	fields := form(page, "/trips/1/party/switch")
	fields.Set("bearer", "pelle")
	code, _, _ := s.post("/trips/1/party/switch", fields)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/layout")
	assert.Contains(t, page, "Soft toy")
	assert.NotContains(t, page, `data-line-of="notes"`)
	assert.Contains(t, page, "pack of Pelle on the floor")
	code, _, _ = s.post("/trips/1/undo", form(page, "/trips/1/undo"))
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "ravna", docOf(t, kept, id).Party().Now)
}

// What cannot be is said, and nothing is lost.
func TestTheRoomPartyRefuses(t *testing.T) {
	t.Parallel()
	s, _, _ := course(t)
	_, page := s.get("/trips/1/party?bearer=ilka")
	fields := form(page, "/trips/1/party/bearers/ilka")
	fields.Set("limit", "0")
	code, answer, _ := s.post("/trips/1/party/bearers/ilka", fields)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "give more than nothing")

	_, page = s.get("/trips/1/party?part=stove-1")
	tie := form(page, "/trips/1/party/ties")
	tie.Set("rule", "apart")
	tie.Set("with", "gas.1")
	code, _, _ = s.post("/trips/1/party/ties", tie)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/party?try=fair")
	assert.Contains(t, page, "to be carried together and apart at once")

	_, page = s.get("/trips/1/party")
	fields = form(page, "/trips/1/party/group")
	fields.Set("lines", "tarp 3x3m\n-5 g nonsense 7 q\n2 lantern 200 g")
	code, answer, _ = s.post("/trips/1/party/group", fields)
	assert.Contains(t, []int{http.StatusUnprocessableEntity, http.StatusSeeOther}, code)
	assert.NotContains(t, answer, "panic")
}

// Twelve may walk along, and no more.
func TestTheRoomPartyIsFull(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	s, kept, id := course(t)
	for _, name := range []string{"a", "b", "c", "d", "e", "f"} {
		_, page := s.get("/trips/1/party")
		fields := form(page, "/trips/1/party/bearers")
		fields.Set("name", name)
		code, _, _ := s.post("/trips/1/party/bearers", fields)
		require.Equal(t, http.StatusSeeOther, code)
	}
	_, page := s.get("/trips/1/party")
	fields := form(page, "/trips/1/party/bearers")
	fields.Set("name", "thirteenth")
	code, answer, _ := s.post("/trips/1/party/bearers", fields)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "12 walk along already")
	assert.Len(t, docOf(t, kept, id).Party().Bearers, 12)
}

// A kit that is signed off and changed afterwards is not signed off any more, and it says why.
func TestKitCheck(t *testing.T) {
	t.Parallel()
	s, _, _ := course(t)
	_, page := s.get("/trips/1/check?bearer=pelle")
	sign := form(page, "/trips/1/check/sign")
	sign.Set("by", "Ravna")
	code, answer, _ := s.post("/trips/1/check/sign", sign)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "not looked at yet")
	all := url.Values{"version": sign["version"], "return": {"/trips/1/check?bearer=pelle"}, "bearer": {"pelle"},
		"state": {"has"}}
	code, _, _ = s.post("/trips/1/check", all)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/check?bearer=pelle")
	sign = form(page, "/trips/1/check/sign")
	sign.Set("by", "Ravna")
	code, _, _ = s.post("/trips/1/check/sign", sign)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/check?bearer=pelle")
	assert.Contains(t, page, "Signed off by Ravna")
	assert.Contains(t, page, "1 of 6 kits signed off")

	lamp := url.Values{"version": form(page, "/trips/1/check/sign")["version"],
		"return": {"/trips/1/check?bearer=pelle"}, "bearer": {"pelle"}, "line": {"lamp"}, "state": {"bad"}}
	code, _, _ = s.post("/trips/1/check", lamp)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/check?bearer=pelle")
	assert.Contains(t, page, "It has to be looked at again")
	assert.Contains(t, page, "1 × Headlamp: has, now 1 × Headlamp: bad")
	assert.Contains(t, page, "0 of 6 kits signed off")
}

// A link shows one card and takes its ticks, and nothing else; a guessed one, another site's page, an ended one
// and one of somebody who has left are refused.
func TestCardsByLink(t *testing.T) {
	t.Parallel()
	s, kept, id := course(t)
	cards := httptest.NewServer(s.handler.(*web.Server).Cards())
	t.Cleanup(cards.Close)
	code, _, _ := s.post("/trips/1/cards", url.Values{"bearer": {"pelle"}, "do": {"make"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get("/trips/1/cards")
	token := regexp.MustCompile(`/c/([A-Z0-9]{26})/`).FindStringSubmatch(page)[1]
	ask := func(method, path, body string, headers ...string) (int, string) {
		r, err := http.NewRequestWithContext(t.Context(), method, cards.URL+path, strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		for i := 0; i+1 < len(headers); i += 2 {
			r.Header.Set(headers[i], headers[i+1])
		}
		answer, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, string(text)
	}
	home := "/c/" + token + "/"
	code, text := ask("GET", home, "")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Soft toy")
	key := regexp.MustCompile(`data-key="([^"]*toy[^"]*)"`).FindStringSubmatch(text)[1]
	tick, _ := json.Marshal(map[string]any{"ticks": []any{map[string]any{"key": key, "state": "in", "ago_ms": 1000},
		map[string]any{"key": "no such step", "state": "in"}}})
	for range 2 { // sent twice: home once
		code, text = ask("POST", home+"ticks", string(tick))
		assert.Equal(t, http.StatusOK, code)
	}
	assert.Contains(t, text, `"ticks":{"`+key+`":"in"}`)
	states, err := kept.Ticks(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"pelle/" + key: "in"}, states)

	for path, want := range map[string]int{"/": 404, "/trips/1/party": 404, "/c/GUESSED/": 404, "/c/GUESSED/ticks": 404,
		home + "party": 404, home + "../../trips/1/load": 404, home + "worker.js": 200} {
		code, text = ask("GET", path, "")
		assert.Equal(t, want, code, "%s: %s", path, text)
	}
	code, _ = ask("POST", home+"ticks", string(tick), "Origin", "http://evil.example")
	assert.Equal(t, http.StatusForbidden, code, "a page of another site")
	code, _ = ask("POST", home+"ticks", "{", "Content-Type", "application/json")
	assert.Equal(t, http.StatusBadRequest, code)
	code, _ = s.get(home)
	assert.Equal(t, http.StatusNotFound, code, "the interface itself knows no cards")

	require.NoError(t, kept.Change(t.Context(), id, store.AnyVersion, "leaves",
		func(d bundle.Doc) error { return d.RemoveBearer("pelle") }))
	code, _ = ask("GET", home, "")
	assert.Equal(t, http.StatusGone, code)
	_, err = kept.MakeCardLink(t.Context(), id, "pelle", time.Now().Add(-time.Hour))
	require.NoError(t, err)
	code, _ = ask("GET", home, "")
	assert.Equal(t, http.StatusNotFound, code, "taken back by the new one")
	links, err := kept.CardLinks(t.Context(), id)
	require.NoError(t, err)
	code, _ = ask("GET", "/c/"+links["pelle"].Token+"/", "")
	assert.Equal(t, http.StatusGone, code, "the trip is over")
	for range 20 {
		code, _ = ask("GET", "/c/GUESSED/", "")
	}
	assert.Equal(t, http.StatusTooManyRequests, code)
}

// The centre's shelf: what is typed is counted, handed out and taken back; a party is told what is short, and why.
func TestTheCentresShelf(t *testing.T) {
	t.Parallel()
	s, kept, _ := course(t)
	code, answer, _ := s.post("/stock", url.Values{"lines": {""}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "Type how many and what")
	code, _, _ = s.post("/stock", url.Values{"lines": {"3 x group shelter"}})
	require.Equal(t, http.StatusSeeOther, code)
	stocks, err := kept.Stocks(t.Context())
	require.NoError(t, err)
	require.NotEmpty(t, stocks)
	label := stocks[0].Code
	code, _, _ = s.post("/stock", url.Values{"lines": {"2 x tent for two"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get("/stock")
	assert.Contains(t, page, "Tent for two")
	assert.NotContains(t, page, "Tent for two, cloth", "a tent is lent whole")
	_, page = s.get("/stock?code=" + strings.ToLower(label))
	assert.Contains(t, page, "Hand out")
	_, page = s.get("/stock?code=NOTHING")
	assert.Contains(t, page, "Nothing here has the code NOTHING")
	code, answer, _ = s.post("/stock/out", url.Values{"code": {label}, "pieces": {"99"}, "borrower": {"Ona"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "are here")
	code, answer, _ = s.post("/stock/out",
		url.Values{"code": {label}, "pieces": {"1"}, "borrower": {"Ona"}, "due": {"tomorrow"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, answer, "YYYY-MM-DD")
	code, _, _ = s.post("/stock/out",
		url.Values{"code": {label}, "pieces": {"2"}, "borrower": {"Ona"}, "due": {"2026-01-02"}})
	require.Equal(t, http.StatusSeeOther, code)

	_, page = s.get("/trips/1/party")
	take := form(page, "/trips/1/party/centre")
	take.Set("stock", label)
	take.Set("pieces", "3")
	code, _, _ = s.post("/trips/1/party/centre", take)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.get("/trips/1/party")
	assert.Regexp(t, `3 needed, \d there; 2 out to Ona, due 2026-01-02`, page)
	code, _, _ = s.post("/trips/1/party/handout", url.Values{})
	require.Equal(t, http.StatusSeeOther, code)
	stocks, err = kept.Stocks(t.Context())
	require.NoError(t, err)
	assert.Zero(t, stocks[0].Here())
	_, page = s.get("/stock?labels=1")
	assert.Contains(t, page, `class="qr"`)
}
