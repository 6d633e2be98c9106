package web

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"sync"
	"time"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/core/weigh"
	"tornister/hook"

	"github.com/gin-gonic/gin"
)

// held is what the scale last settled at, by trip, and the tare that is taken off.
type held struct {
	mu      sync.Mutex
	settled map[uint]settledAt
	tare    map[uint]float64
}

type settledAt struct {
	g  float64
	at time.Time
}

// hookG is what no pack weighs: a reading below it is of the empty hook, or of a single thing.
const hookG = 1000.0

// heldFor is how long a settled reading may be taken.
const heldFor = time.Minute

func (h *held) put(trip uint, g float64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.settled == nil {
		h.settled = map[uint]settledAt{}
	}
	h.settled[trip] = settledAt{g, time.Now()}
}

// drop forgets a reading that does not stand any more.
func (h *held) drop(trip uint) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.settled, trip)
}

// net is the settled reading less the tare; ok is false when nothing has settled, or too long ago.
func (h *held) net(trip uint) (g float64, ok bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	s, there := h.settled[trip]
	return s.g - h.tare[trip], there && time.Since(s.at) < heldFor
}

func (h *held) tareOf(trip uint) float64 {
	h.mu.Lock()
	defer h.mu.Unlock()
	return h.tare[trip]
}

// setTare takes what hangs now off what is read from now on; false when nothing has settled.
func (h *held) setTare(trip uint, away bool) bool {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.tare == nil {
		h.tare = map[uint]float64{}
	}
	s, there := h.settled[trip]
	if away {
		delete(h.tare, trip)
		return true
	}
	if !there || time.Since(s.at) > heldFor {
		return false
	}
	h.tare[trip] = s.g
	return true
}

// needle passes the scale's needle to the page as server-sent events.
func (s *Server) needle(c *gin.Context) {
	s.show(c, func(t *trip) {
		if s.options.Scale.URL == "" {
			s.missing(c)
			return
		}
		query := url.Values{}
		if s.options.Scale.Simulated {
			query.Set("load", strconv.FormatFloat(t.simulatedG(c.Query("load")), 'f', 0, 64))
			query.Set("fault", c.Query("fault"))
		}
		c.Header("Content-Type", "text/event-stream")
		err := s.options.Scale.Watch(c.Request.Context(), weigh.Hanging.StepG(), query, func(e hook.Event) {
			if e.State == weigh.Settled {
				s.held.put(t.ID, e.G)
			} else {
				s.held.drop(t.ID)
			}
			e.G -= s.held.tareOf(t.ID)
			c.SSEvent("needle", map[string]any{"state": e.State, "g": e.G, "says": needleWords(e, t.system),
				"mass": t.system.Mass(e.G)})
			c.Writer.Flush()
		})
		if err != nil {
			s.log.Info("the scale", "error", err)
		}
	})
}

// simulatedG is what hangs on the simulated scale: the pack as it would be found to weigh, a part of it, or
// nothing. It is made up: things are a little off their lists, and one thing was forgotten on it.
func (t *trip) simulatedG(what string) float64 {
	const forgottenG, offBy = 620.0, 1.004
	if what == "" || what == "nothing" {
		return 0
	}
	resolved, ok := t.weighable(what)
	if !ok {
		return 0
	}
	sum := 0.0
	ids, _ := resolved.([]any)
	for i := range t.task().Items {
		it := &t.task().Items[i]
		if it.Carry == kit.Pack && (resolved == "pack" || slices.Contains(ids, any(it.ID))) {
			sum += it.TotalG()
		}
	}
	if resolved == "pack" {
		sum += t.task().Pack.MassG + t.bagsG() + forgottenG
	}
	return sum * offBy
}

// needleWords say how the needle stands.
func needleWords(e hook.Event, system unit.System) string {
	switch e.State {
	case weigh.Settled:
		words := "settled at " + system.Mass(e.G)
		if math.Abs(e.G) < hookG {
			words += ": if the hook is empty, its zero is off by that; take it as tare"
		}
		if e.Pounds {
			words += "; the scale sends pounds, which are turned into grams"
		}
		return words
	case weigh.Swinging:
		return "swinging: wait until it hangs still"
	case weigh.Waiting:
		return "nothing hangs on it"
	case weigh.Drifting:
		return "it creeps: a strap touches the ground, or somebody holds on to it"
	case weigh.Overload:
		return "more hangs on it than it can weigh: weigh in parts"
	case weigh.Negative:
		return "less than nothing: its zero is off; empty the hook and take it as tare"
	case hook.Silent:
		return "the scale has fallen silent"
	case hook.Rubbish:
		return "what comes from the scale cannot be read: look at the line"
	case hook.Gone:
		return "no scale answers"
	}
	return "no pack weighs that: look at the scale's unit"
}

// tare takes what hangs now off all readings to come, or takes the tare away.
func (s *Server) tare(c *gin.Context) {
	s.show(c, func(t *trip) {
		if !s.held.setTare(t.ID, c.PostForm("away") != "") {
			s.renderWeigh(c, t, http.StatusUnprocessableEntity, "No tare was taken: the needle has not settled.")
			return
		}
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), fmt.Sprintf("/trips/%d/weigh", t.ID)))
	})
}
