package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/crypto/bcrypt"

	"tornister/bundle"
	"tornister/demo"
	"tornister/store"
	"tornister/weather"
	"tornister/web"
)

// siteWithOptions is a site that is served in some way, with its store.
func siteWithOptions(t testing.TB, o web.Options, docs ...string) (*site, *store.Store) {
	return siteOf(t, weather.Service{}, o, docs...)
}

// siteOf is a site with a forecast service. Unless the options say otherwise it is asked for by the name that httptest
// gives requests, and plans in haste.
func siteOf(t testing.TB, forecast weather.Service, o web.Options, docs ...string) (*site, *store.Store) {
	if o.Hosts == nil {
		o.Hosts = []string{"example.com"}
	}
	if o.Planner.Patience == 0 {
		o.Planner = hasty
	}
	kept, err := store.Open(filepath.Join(t.TempDir(), "site.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = kept.Close() })
	for _, text := range docs {
		b, err := bundle.Read([]byte(text))
		require.NoError(t, err)
		_, err = kept.Create(t.Context(), b.Doc)
		require.NoError(t, err)
	}
	handler, err := web.New(kept, forecast, o)
	require.NoError(t, err)
	t.Cleanup(handler.Close)
	return &site{t, handler}, kept
}

func TestOnlyOurOwnNamesAreAnswered(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{Hosts: []string{"kit.local", "192.0.2.7"}})
	for host, want := range map[string]int{
		"127.0.0.1:7352": 200, "localhost": 200, "[::1]:7352": 200, "LOCALHOST:80": 200, "localhost.": 200,
		"127.9.9.9": 200, "kit.local:7352": 200, "192.0.2.7": 200,
		"evil.example": 421, "localhost.evil.example": 421, "192.0.2.8": 421, "": 421, "127.0.0.1.evil.example:7352": 421,
		"kit.local.evil.example": 421,
	} {
		for _, method := range []string{http.MethodGet, http.MethodPost} {
			r := httptest.NewRequest(method, "/", nil)
			r.Host = host
			code, body, _ := s.do(r)
			if method == http.MethodPost && want == 200 {
				continue
			}
			assert.Equal(t, want, code, "%s %q", method, host)
			assert.NotContains(t, body, "<script>", host)
		}
	}
}

func TestReturnAddressesStayWithin(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	for _, address := range []string{"//evil.example", "/\\evil.example", "/\t/evil.example", "\t//evil.example",
		"/\n/evil.example", "https://evil.example", "javascript:alert(1)", "/trips\\..\\x", "/\u0085/evil.example", "",
		"evil"} {
		code, _, header := s.post("/settings", url.Values{"theme": {"dark"}, "return": {address}})
		assert.Equal(t, http.StatusSeeOther, code)
		assert.Equal(t, "/", header.Get("Location"), "%q", address)
	}
	_, _, header := s.post("/settings", url.Values{"theme": {"dark"}, "return": {"/trips/1/load?thing=pot&plane=3"}})
	assert.Equal(t, "/trips/1/load?thing=pot&plane=3", header.Get("Location"))
}

func TestThePasswordIsAskedFor(t *testing.T) {
	t.Parallel()
	hash, err := bcrypt.GenerateFromPassword([]byte("dry socks first"), bcrypt.MinCost)
	require.NoError(t, err)
	s, _ := siteWithOptions(
		t,
		web.Options{Password: hash, Secure: true},
		string(demo.LoneWalker),
	)
	for _, path := range []string{"/", "/trips/1/load", "/trips/1/bundle.json", "/shelf", "/schema.json",
		"/trips/1/progress"} {
		code, body, header := s.do(httptest.NewRequest(http.MethodGet, path, nil))
		assert.Equal(t, http.StatusSeeOther, code, path)
		assert.Equal(t, "/sign-in?return="+url.QueryEscape(path), header.Get("Location"))
		assert.NotContains(t, body, "Orlava")
	}
	code, body, _ := s.post("/trips/1/remove", url.Values{"version": {"1"}})
	assert.Equal(t, http.StatusUnauthorized, code)
	assert.Contains(t, body, `name="password"`)
	for _, path := range []string{"/static/tornister.css", "/healthz", "/sign-in"} {
		code, _ := s.get(path)
		assert.Equal(t, http.StatusOK, code, path)
	}

	code, body, _ = s.post("/sign-in", url.Values{"password": {"wet socks"}, "return": {"/shelf"}})
	assert.Equal(t, http.StatusUnauthorized, code)
	assert.Contains(t, body, "That is not the password")
	code, _, header := s.post("/sign-in", url.Values{"password": {"dry socks first"}, "return": {"//evil.example"}})
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/", header.Get("Location"))
	cookie, err := http.ParseSetCookie(header.Get("Set-Cookie"))
	require.NoError(t, err)
	assert.True(t, cookie.HttpOnly && cookie.Secure)
	assert.GreaterOrEqual(t, len(cookie.Value), 43, "256 bits")
	with := func(method, path string) (int, string) {
		r := httptest.NewRequest(method, path, nil)
		r.AddCookie(cookie)
		code, body, _ := s.do(r)
		return code, body
	}
	code, body = with(http.MethodGet, "/")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, body, "Sign out")
	code, _ = with(http.MethodPost, "/sign-out")
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = with(http.MethodGet, "/")
	assert.Equal(t, http.StatusSeeOther, code, "a session that was left is over")
}

func TestGuessesAreFew(t *testing.T) {
	t.Parallel()
	hash, err := bcrypt.GenerateFromPassword([]byte("dry socks first"), bcrypt.MinCost)
	require.NoError(t, err)
	s, _ := siteWithOptions(t, web.Options{Password: hash})
	refused := 0
	for range 12 {
		code, _, header := s.post("/sign-in", url.Values{"password": {"guess"}})
		if code == http.StatusTooManyRequests {
			refused++
			assert.Equal(t, "10", header.Get("Retry-After"))
		}
	}
	assert.Equal(t, 7, refused, "five at once, then no more")
	code, _, _ := s.post("/sign-in", url.Values{"password": {"dry socks first"}})
	assert.Equal(t, http.StatusTooManyRequests, code, "not even the right one")
}

func TestAnOpenOneSaysSoOnEveryPage(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{Open: true}, string(demo.LoneWalker))
	for _, path := range []string{"/", "/shelf", "/packs", "/trips/1/load", "/nothing"} {
		_, body := s.get(path)
		assert.Contains(t, body, "no password is asked for", path)
	}
}

// The list of trips plans nothing: it shows what was found of each, and the same number of goroutines run before and
// after.
func TestTheListOfTripsPlansNothing(t *testing.T) {
	docs := make([]string, 70)
	for i := range docs {
		docs[i] = strings.Replace(string(demo.ChildNight), `"name": "`, fmt.Sprintf(`"name": "%d `, i), 1)
	}
	s, _ := siteWithOptions(t, web.Options{}, docs...)
	before := runtime.NumGoroutine()
	start := time.Now()
	for range 5 {
		code, body := s.get("/")
		require.Equal(t, http.StatusOK, code)
		assert.Equal(t, 70, strings.Count(body, "Not packed for trial yet"))
	}
	assert.Less(t, time.Since(start), 5*time.Second)
	assert.LessOrEqual(t, runtime.NumGoroutine(), before+1)

	s.get("/trips/7/load")
	s.do(httptest.NewRequest(http.MethodGet, "/trips/7/progress", nil)) // ends with the search
	_, body := s.get("/")
	assert.Equal(t, 69, strings.Count(body, "Not packed for trial yet"))
	assert.Regexp(t, `It fits|fits`, body)
	_, page := s.get("/trips/7/layout")
	s.follow(
		"/trips/7/items",
		url.Values{
			"version": form(page, "/trips/7/items")["version"],
			"lines":   {"Storm lantern 1 kg 0.8 l"},
			"return":  {"/"},
		},
	)
	_, body = s.get("/")
	assert.Contains(
		t,
		body,
		"Changed since it was last packed for trial",
		"an old verdict is not shown as the present one",
	)
}

// A trip that an older program kept and that is refused today can be taken out, taken back and removed.
func TestATripThatIsRefusedTodayIsNotLost(t *testing.T) {
	t.Parallel()
	s, kept := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	body := b.Doc.Object("pack")["zones"].([]any)[0].(map[string]any)
	body["size_cm"] = []any{bundle.Number(30), bundle.Number(0.5), bundle.Number(49)}
	id, err := kept.Create(t.Context(), b.Doc) // the store keeps what it is given here; only what comes in is checked
	require.NoError(t, err)
	path := fmt.Sprintf("/trips/%d", id)
	for _, step := range []string{"/load", "/layout", "/shrink", "/dry", "/rehearse", "/trip", "/compare", "/plan.json",
		"/card.txt"} {
		code, page := s.get(path + step)
		assert.Equal(t, http.StatusUnprocessableEntity, code, step)
		assert.Contains(t, page, "0.5 cm is too little for the body", step)
		assert.Contains(t, page, "Take it out as a file", step)
	}
	code, text := s.get(path + "/bundle.json")
	assert.Equal(t, http.StatusOK, code)
	assert.True(t, json.Valid([]byte(text)))
	code, _, header := s.post(path+"/remove", url.Values{"version": {"1"}})
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/", header.Get("Location"))
	code, _ = s.get(path + "/load")
	assert.Equal(t, http.StatusNotFound, code)
}

func TestRemovingAStaleTripPlansNothing(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, body, _ := s.post("/trips/1/remove", url.Values{"version": {"9"}})
	assert.Equal(t, http.StatusConflict, code)
	assert.Contains(t, body, "it was not removed")
	assert.Contains(t, body, "Not packed for trial yet")
}

func TestAReplacedFileIsSaidOnEveryPage(t *testing.T) {
	t.Parallel()
	s, kept := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	code, body := s.get("/healthz")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, body, `"ok"`)
	require.NoError(t, os.Rename(kept.Path(), kept.Path()+".away"))
	code, body = s.get("/healthz")
	assert.Equal(t, http.StatusServiceUnavailable, code)
	assert.Contains(t, body, "replaced")
	_, body = s.get("/")
	assert.Contains(t, body, "nothing is written any more")
	code, _, _ = s.post("/trips", url.Values{"name": {"Into nowhere"}})
	assert.Equal(t, http.StatusServiceUnavailable, code)
}

// What the program is doing is told to its own machine only.
func TestFiguresStayHere(t *testing.T) {
	t.Parallel()
	s, _ := siteWithOptions(t, web.Options{}, string(demo.LoneWalker))
	for remote, want := range map[string]int{"192.0.2.7:4711": http.StatusNotFound, "127.0.0.1:4711": http.StatusOK,
		"[::1]:4711": http.StatusOK, "": http.StatusNotFound} {
		r := httptest.NewRequest(http.MethodGet, "/debug/vars", nil)
		r.RemoteAddr = remote
		code, body, _ := s.do(r)
		assert.Equal(t, want, code, remote)
		if code == http.StatusOK {
			var figures struct {
				Tornister map[string]int `json:"tornister"`
			}
			require.NoError(t, json.Unmarshal([]byte(body), &figures))
			assert.Positive(t, figures.Tornister["goroutines"])
			assert.Contains(t, figures.Tornister, "searches")
		}
	}
}

func TestRequestsAndErrorsAreLogged(t *testing.T) {
	t.Parallel()
	var out bytes.Buffer
	s, kept := siteWithOptions(
		t,
		web.Options{Log: slog.New(slog.NewJSONHandler(&out, nil))},
	)
	s.get("/shelf")
	require.NoError(t, kept.Close())
	code, _ := s.get("/packs")
	assert.Equal(t, http.StatusInternalServerError, code)
	lines := strings.Split(strings.TrimSpace(out.String()), "\n")
	require.Len(t, lines, 2)
	assert.Regexp(t, `"level":"INFO".*"path":"/shelf","status":200`, lines[0])
	assert.Regexp(t, `"level":"ERROR".*"path":"/packs","status":500.*"error":"`, lines[1])
}

// A name is what it looks like: what is not seen does not come in by a form.
func TestHiddenCharactersDoNotComeIn(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	code, _, header := s.post("/trips", url.Values{"name": {"Night\u202e on\u200f the\x07 rim\xff"}})
	require.Equal(t, http.StatusSeeOther, code)
	_, page := s.get(header.Get("Location"))
	assert.Contains(t, page, "Night on the rim")
	s.follow(
		"/shelf",
		url.Values{"name": {"Storm\u2066 lantern"}, "lines": {"Storm\u2066 lantern 1 kg"}, "return": {"/shelf"}},
	)
	_, page = s.get("/shelf")
	assert.Contains(t, page, "Storm lantern")
	assert.NotContains(t, page, "\u2066")
}

// Pictures are refused by what their head says, before anything is decoded.
func TestPicturesAreBoundedBeforeDecoding(t *testing.T) {
	t.Parallel()
	var small bytes.Buffer
	require.NoError(t, png.Encode(&small, image.NewGray(image.Rect(0, 0, 3, 2))))
	claims := func(width, height string) []byte { // the size stands in the head, in front of its checksum
		data := bytes.Clone(small.Bytes())
		copy(data[16:], width)
		copy(data[20:], height)
		return data
	}
	s := newSite(t)
	s.follow("/shelf", url.Values{"lines": {"Storm lantern 1 kg"}, "name": {"Storm lantern"}, "return": {"/shelf"}})
	_, page := s.get("/shelf")
	thing := regexp.MustCompile(`/shelf/s-[a-z0-9]+`).FindString(page)
	require.NotEmpty(t, thing)
	postPhoto := func(data []byte) (int, string) {
		code, body, _ := s.upload(thing+"/photo", "photo", "x.png", data)
		return code, body
	}
	for name, data := range map[string][]byte{"points": claims("\x00\x00\xff\xff", "\x00\x00\xff\xff"),
		"side": claims("\x7f\xff\xff\xff", "\x00\x00\x00\x01"), "overflow": claims("\x40\x00\x00\x00", "\x40\x00\x00\x00")} {
		code, body := postPhoto(data)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Regexp(t, regexp.MustCompile(`larger than 6 MB|no picture`), body, name)
	}
	code, _ := postPhoto(small.Bytes())
	assert.Equal(t, http.StatusSeeOther, code)
}
