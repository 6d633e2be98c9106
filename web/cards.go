package web

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"

	"tornister/bundle"
	"tornister/card"
	"tornister/core/unit"
	"tornister/store"
	"tornister/web/draw"
)

// cardsView is the page of the load cards: one a bearer, on paper, as a file, or by a link on the local network.
type cardsView struct {
	Rows  []cardRow
	On    bool // links are served
	Plain bool // without encryption
	At    string
}

type cardRow struct {
	Bearer, Name, Verdict, State string
	Swatch                       template.HTML
	Query                        string
	Link, Until                  string
	Code                         template.HTML
	Done, Steps                  int
}

func (s *Server) showCards(c *gin.Context) {
	s.show(c, func(t *trip) {
		v := &cardsView{On: s.options.CardsAt != "", Plain: strings.HasPrefix(s.options.CardsAt, "http://"),
			At: s.options.CardsAt}
		p := t.shell("cards", "Load cards")
		p.Headline, p.Detail = "A card for each bearer.", "Order, places, bags, weights, drills and cautions: on one sheet, as a file that works without network, or by a link to read and tick."
		p.Body = v
		links, err := s.store.CardLinks(c.Request.Context(), t.ID)
		if err != nil {
			s.refuse(c, err)
			return
		}
		ticks, err := s.store.Ticks(c.Request.Context(), t.ID)
		if err != nil {
			s.refuse(c, err)
			return
		}
		trips, names, ids := []*trip{t}, []string{"You"}, []string{""}
		if group := t.Doc.Party(); group != nil {
			if trips, err = s.everybody(t, group); err != nil {
				s.refuse(c, err)
				return
			}
			names, ids = nil, nil
			for i := range group.Bearers {
				names, ids = append(names, group.Bearers[i].Name), append(ids, group.Bearers[i].ID)
			}
		}
		for i, one := range trips {
			row := cardRow{Bearer: ids[i], Name: names[i], Verdict: one.sentence(), State: one.check("fit").State}
			if ids[i] != "" {
				row.Query, row.Swatch = "?bearer="+ids[i], draw.HatchSwatch(draw.BearerHatch(i), "").SVG
			}
			for _, step := range alongSteps(one.card(), t.ID) {
				row.Steps++
				if ticks[tickPrefix(ids[i])+step.Key] == store.TickIn {
					row.Done++
				}
			}
			if link, made := links[ids[i]]; made && v.On {
				row.Link = strings.TrimSuffix(s.options.CardsAt, "/") + "/c/" + link.Token + "/"
				row.Until, row.Code = link.Until.Format("2 January 2006, 15:04"), squares(row.Link)
			}
			v.Rows = append(v.Rows, row)
		}
		s.render(c, http.StatusOK, p)
	})
}

// squares draws a QR code (ISO/IEC 18004) of a text.
func squares(text string) template.HTML {
	code, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return ""
	}
	size := code.Bounds().Dx()
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="qr" viewBox="-4 -4 %d %d" role="img" aria-label="The link as a QR code"><rect x="-4" y="-4" width="%d" height="%d" fill="#fff"></rect><path fill="#000" d="`, size+8, size+8, size+8, size+8)
	for y := range size {
		for x := range size {
			if dark, _, _, _ := code.At(x, y).RGBA(); dark == 0 {
				fmt.Fprintf(&b, "M%d %dh1v1h-1z", x, y)
			}
		}
	}
	b.WriteString(`"></path></svg>`)
	return template.HTML(b.String()) //nolint:gosec // numbers only
}

// linkAfter is how long a link lasts after the trip, and linkWithout where the trip has no dates.
const (
	linkAfter   = 24 * time.Hour
	linkWithout = 30 * 24 * time.Hour
)

// changeCardLink makes a bearer's link, or takes it back.
func (s *Server) changeCardLink(c *gin.Context) {
	s.show(c, func(t *trip) {
		bearer := c.PostForm("bearer")
		if group := t.Doc.Party(); (group == nil) != (bearer == "") || group != nil && group.Bearer(bearer) == nil {
			s.refuse(c, bundle.Problems{{Pointer: "/party/bearers", What: "that one does not walk along any more",
				Mend: "go back to the cards"}})
			return
		}
		until := time.Now().Add(linkWithout)
		if _, end, ok := t.task().Trip.Times(); ok {
			until = end.Add(linkAfter)
			if tomorrow := time.Now().Add(linkAfter); until.Before(tomorrow) {
				until = tomorrow // a trip that is over: for looking back
			}
		}
		var err error
		if c.PostForm("do") == "end" {
			err = s.store.EndCardLink(c.Request.Context(), t.ID, bearer)
		} else {
			_, err = s.store.MakeCardLink(c.Request.Context(), t.ID, bearer, until)
		}
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/cards", t.ID))
	})
}

// How fast one address may ask for cards, a second and at once; and how many links that are none it may try at
// once, and then one in so long.
const (
	cardsASecond = 10
	cardsBurst   = 120
	wrongBurst   = 10
	wrongEvery   = 10 * time.Second
)

// cardPolicy lets a card use its own style, script, worker and ticks.
const cardPolicy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; connect-src 'self'; worker-src 'self'; form-action 'none'; base-uri 'none'; frame-ancestors 'none'"

// cards serves load cards to those who hold a link, and nothing else.
type cards struct {
	s            *Server
	rates, wrong *lru.Cache[string, *rate.Limiter] // by address
}

// Cards is the handler for links to load cards: it knows no other page. Whoever holds a link can read one card and
// tick it. Requests that another site's page makes are refused.
func (s *Server) Cards() http.Handler {
	rates, _ := lru.New[string, *rate.Limiter](mostIn) // fails only for sizes below one
	wrong, _ := lru.New[string, *rate.Limiter](mostIn)
	k := &cards{s, rates, wrong}
	r := http.NewServeMux()
	r.HandleFunc("GET /c/{token}/{$}", k.known(k.show))
	r.HandleFunc("GET /c/{token}/card.css", k.known(linkedFile("card.css", "text/css; charset=utf-8", card.Style())))
	r.HandleFunc("GET /c/{token}/card.js", k.known(linkedFile("card.js", "text/javascript; charset=utf-8", card.Script())))
	r.HandleFunc("GET /c/{token}/worker.js",
		k.known(linkedFile("worker.js", "text/javascript; charset=utf-8", card.Worker())))
	r.HandleFunc("POST /c/{token}/ticks", k.known(k.ticks))
	r.HandleFunc("/", func(w http.ResponseWriter, _ *http.Request) {
		cardError(w, http.StatusNotFound, "There is nothing here. Open the link that you were given.")
	})
	return http.NewCrossOriginProtection().Handler(http.HandlerFunc(func(w http.ResponseWriter, q *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", cardPolicy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cache-Control", "no-store")
		if !limiter(k.rates, q, cardsASecond, cardsBurst).
			Allow() || limiter(k.wrong, q, rate.Every(wrongEvery), wrongBurst).Tokens() < 1 {
			h.Set("Retry-After", "10")
			cardError(w, http.StatusTooManyRequests, "Too many requests from this device. Wait a little.")
			return
		}
		q.Body = http.MaxBytesReader(w, q.Body, 256<<10)
		r.ServeHTTP(w, q)
	}))
}

// limiter is that of the device that asks.
func limiter(all *lru.Cache[string, *rate.Limiter], q *http.Request, every rate.Limit, burst int) *rate.Limiter {
	host, _, err := net.SplitHostPort(q.RemoteAddr)
	if err != nil {
		host = q.RemoteAddr
	}
	if l, known := all.Get(host); known {
		return l
	}
	l := rate.NewLimiter(every, burst)
	all.Add(host, l)
	return l
}

func cardError(w http.ResponseWriter, status int, text string) {
	w.Header().Set("Content-Type", "text/plain; charset=utf-8")
	w.WriteHeader(status)
	_, _ = w.Write([]byte(text + "\n"))
}

func linkedFile(name, mediaType, text string) func(http.ResponseWriter, *http.Request, *trip, string) {
	return func(w http.ResponseWriter, q *http.Request, _ *trip, _ string) {
		w.Header().Set("Content-Type", mediaType)
		http.ServeContent(w, q, name, time.Time{}, strings.NewReader(text))
	}
}

// known goes on with a link that holds, for the trip as it is for its bearer.
func (k *cards) known(next func(http.ResponseWriter, *http.Request, *trip, string)) http.HandlerFunc {
	return func(w http.ResponseWriter, q *http.Request) {
		link, err := k.s.store.CardLink(q.Context(), q.PathValue("token"))
		switch {
		case errors.Is(err, store.ErrLinkOver):
			cardError(w, http.StatusGone, "This link has ended with the trip. Ask for a new one.")
			return
		case errors.Is(err, store.ErrNotFound):
			limiter(k.wrong, q, rate.Every(wrongEvery), wrongBurst).Allow()
			cardError(w, http.StatusNotFound, "There is no such card. The link may have been taken back; ask for a new one.")
			return
		case err != nil:
			cardError(w, http.StatusServiceUnavailable, "The cards cannot be read just now. Try again.")
			return
		}
		t, err := k.s.planned(q.Context(), link.TripID)
		if err == nil && link.Bearer != "" {
			group := t.Doc.Party()
			if group == nil || group.Bearer(link.Bearer) == nil {
				cardError(w, http.StatusGone, "That bearer is not of the party any more. Ask for a new link.")
				return
			}
			t, err = k.s.ofBearer(t, group, link.Bearer)
		}
		if err != nil {
			cardError(w, http.StatusServiceUnavailable, "This trip cannot be planned just now. Ask who sent the link.")
			return
		}
		next(w, q, t.in(unit.Metric), link.Bearer)
	}
}

// planOf names what a card says, so that a change of the plan is seen.
func planOf(k *card.Card) string {
	sum := sha256.Sum256(fmt.Append(nil, k.Groups, k.LeftOut))
	return hex.EncodeToString(sum[:8])
}

func (k *cards) show(w http.ResponseWriter, _ *http.Request, t *trip, _ string) {
	one := t.card()
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	if err := one.HTML(w, &card.Live{Home: "ticks", Plan: planOf(one)}); err != nil {
		k.s.log.Error("card", "error", err)
	}
}

// ticks takes ticks that come home and tells all there are of this card.
func (k *cards) ticks(w http.ResponseWriter, q *http.Request, t *trip, bearer string) {
	var said struct {
		Ticks []struct {
			Key   string `json:"key"`
			State string `json:"state"`
			AgoMs int64  `json:"ago_ms"`
		} `json:"ticks"`
	}
	if q.Header.Get("Content-Type") != "application/json" || json.NewDecoder(q.Body).Decode(&said) != nil {
		cardError(w, http.StatusBadRequest, "That could not be understood. Reload the card.")
		return
	}
	one := t.card()
	steps := map[string]bool{}
	for _, step := range alongSteps(one, t.ID) {
		steps[step.Key] = true
	}
	prefix := tickPrefix(bearer)
	var later []store.LaterTick
	for _, tick := range said.Ticks {
		if steps[tick.Key] && (tick.State == "" || tick.State == store.TickIn) { // a step that is no more is passed over
			ago := time.Duration(min(max(0, tick.AgoMs), int64(linkWithout/time.Millisecond))) * time.Millisecond
			later = append(later, store.LaterTick{Key: prefix + tick.Key, State: tick.State, Ago: ago})
		}
	}
	err := k.s.store.SetTicks(q.Context(), t.ID, later)
	all, errAll := k.s.store.Ticks(q.Context(), t.ID)
	if err := errors.Join(err, errAll); err != nil {
		cardError(w, http.StatusServiceUnavailable, "The ticks cannot be kept just now. They stay on this device.")
		return
	}
	told := struct {
		Plan  string            `json:"plan"`
		Ticks map[string]string `json:"ticks"`
	}{planOf(one), map[string]string{}}
	for key := range steps {
		if state := all[prefix+key]; state != "" {
			told.Ticks[key] = state
		}
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(told)
}
