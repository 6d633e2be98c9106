package web

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"tornister/bundle"
	"tornister/demo"
	"tornister/planner"
	"tornister/store"
	"tornister/weather"
)

// Whatever is asked for, the address to come back to is within the own pages, as a browser reads it.
func FuzzLocalPath(f *testing.F) {
	for _, seed := range []string{"/", "//evil.example", "/\\evil.example", "/\t/evil.example", "/trips/1?x=//y",
		"http:/x", "/\x00", "/%2f/evil"} {
		f.Add(seed)
	}
	base, _ := url.Parse("http://127.0.0.1:7352/trips/1")
	f.Fuzz(func(t *testing.T, path string) {
		got := localPath(path, "/")
		// A browser takes tabs and line breaks out and reads a backslash as a slash (WHATWG URL Standard, 4.4).
		seen := strings.NewReplacer("\t", "", "\n", "", "\r", "", "\\", "/").Replace(got)
		u, err := base.Parse(seen)
		if err != nil || u.Host != base.Host || u.Scheme != "http" {
			t.Fatalf("%q leads to %v (%v)", path, u, err)
		}
	})
}

// Whatever is sent to whichever page, it answers, and never with an error of its own.
func FuzzRequest(f *testing.F) {
	for _, seed := range []string{"POST /trips name=x", "GET /trips/1/load?thing=pot&plane=50",
		"POST /trips/1/items version=1&lines=2 x bottle 1 l&return=/",
		"POST /trips/1/pins version=1&item=pot&zone=lid&place=1",
		"POST /trips/1/method version=1&key=heavy&value=low", "POST /trips/1/trip version=1&start=2026-09-10T11:00&low=-3",
		"POST /packs kind=own&name=x", "GET /shelf?q=%25&status=lent", "POST /shelf name=x&mass=1e999",
		"POST /trips/1/bags version=1&name=b&litres=-1&kind=dry-bag",
		"POST /trips/1/items/pot version=1&name=P\u202et&mass=1&kind=pot", "GET /trips/1/rehearse?drill=x&at=99999",
		"POST /trips/1/drills version=1&name=x&items=pot", "GET /trips/99999999999999999999/load"} {
		f.Add(seed)
	}
	kept, err := store.Open(filepath.Join(f.TempDir(), "site.db"))
	if err != nil {
		f.Fatal(err)
	}
	b, err := bundle.Read(demo.ChildNight)
	if err != nil {
		f.Fatal(err)
	}
	if _, err := kept.Create(f.Context(), b.Doc); err != nil {
		f.Fatal(err)
	}
	s, err := New(
		kept,
		weather.Service{},
		Options{Hosts: []string{"example.com"}, Planner: planner.Options{Thorough: time.Millisecond}},
	)
	if err != nil {
		f.Fatal(err)
	}
	f.Cleanup(func() { s.Close(); _ = kept.Close() })
	f.Fuzz(func(t *testing.T, text string) {
		method, rest, _ := strings.Cut(text, " ")
		address, body, _ := strings.Cut(rest, " ")
		u, err := url.ParseRequestURI(address)
		if err != nil || u.Host != "" || !strings.HasPrefix(address, "/") ||
			method != http.MethodGet && method != http.MethodPost ||
			strings.HasSuffix(u.Path, "progress") {
			t.Skip()
		}
		r := &http.Request{
			Method:     method,
			URL:        u,
			Host:       "example.com",
			Header:     http.Header{"Content-Type": {"application/x-www-form-urlencoded"}},
			Body:       http.NoBody,
			RemoteAddr: "192.0.2.1:1",
			RequestURI: address,
		}
		if method == http.MethodPost {
			posted := httptest.NewRequest(method, "/", strings.NewReader(body))
			r.Body, r.ContentLength = posted.Body, posted.ContentLength
		}
		w := httptest.NewRecorder()
		start := time.Now()
		s.ServeHTTP(w, r.WithContext(t.Context()))
		if w.Code >= 500 && w.Code != http.StatusBadGateway ||
			time.Since(start) > 10*time.Second { // the forecast service is not there
			t.Fatalf("%d after %v: %.300s", w.Code, time.Since(start), w.Body.String())
		}
		if strings.Contains(w.Body.String(), "<script>") {
			t.Fatal("a script came in")
		}
	})
}
