package web

import (
	"fmt"
	"net/http"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/core/load"
	"tornister/core/verdict"
)

// seed of every search started here, so that the same trip always gets the same plan.
const seed = 1

// plans keeps the newest plan of each trip, since every page shows its six checks, and the search for a better one.
type plans struct {
	mu   sync.Mutex
	last map[uint]*trip
}

// keptPlans bounds the memory of plans; a trip that falls out is planned again when it is next shown.
const keptPlans = 64

// planning is a thorough search under way.
type planning struct {
	trials  atomic.Int64 // trial packings so far
	stopped atomic.Bool
	done    chan struct{} // closed when it has ended
}

func (p *plans) get(id uint, version int) *trip {
	p.mu.Lock()
	defer p.mu.Unlock()
	if t := p.last[id]; t != nil && t.Version == version {
		return t
	}
	return nil
}

// atWork lets one thorough search run at a time: it keeps both cores busy by itself.
var atWork = make(chan struct{}, 1)

// begin keeps a quick plan and starts the search for a thorough one, which takes its place when it is done. A search for
// an older version of the trip is stopped. Of two that begin at once, the first is kept.
func (p *plans) begin(quick *trip) *trip {
	p.mu.Lock()
	defer p.mu.Unlock()
	if before := p.last[quick.ID]; before != nil {
		if before.Version == quick.Version {
			return before
		}
		if before.search != nil {
			before.search.stopped.Store(true)
		}
	}
	if p.last == nil || len(p.last) >= keptPlans {
		p.last = map[uint]*trip{}
	}
	quick.search = &planning{done: make(chan struct{})}
	p.last[quick.ID] = quick
	go p.finish(quick)
	return quick
}

// finish makes the thorough plan of a trip and puts it in the place of the quick one, unless it was stopped before it
// began or the trip has moved on.
func (p *plans) finish(quick *trip) {
	search := quick.search
	defer close(search.done)
	atWork <- struct{}{}
	defer func() { <-atWork }()
	if search.stopped.Load() {
		p.settle(quick, quick.answer, quick.plan)
		return
	}
	answer, plan := verdict.Of(quick.task(), quick.bundle.Assumed, load.Options{Seed: seed, Stop: func() bool {
		search.trials.Add(1)
		return search.stopped.Load()
	}})
	p.settle(quick, answer, plan)
}

func (p *plans) settle(quick *trip, answer *verdict.Answer, plan *load.Plan) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.last[quick.ID] == quick {
		p.last[quick.ID] = &trip{State: quick.State, bundle: quick.bundle, answer: answer, plan: plan}
	}
}

// stop ends all searches under way.
func (p *plans) stop() {
	p.mu.Lock()
	defer p.mu.Unlock()
	for _, t := range p.last {
		if t.search != nil {
			t.search.stopped.Store(true)
		}
	}
}

// progress tells a page how the search goes, as server-sent events: progress with the number of trial packings, then
// done.
func (s *Server) progress(c *gin.Context) {
	s.show(c, func(t *trip) {
		if t.search == nil {
			over := make(chan struct{})
			close(over)
			n := new(atomic.Int64)
			n.Store(int64(t.plan.Trials))
			events(c, over, n)
			return
		}
		events(c, t.search.done, &t.search.trials)
	})
}

// events sends a search's progress as server-sent events until it is done or the page has gone.
func events(c *gin.Context, done <-chan struct{}, trials *atomic.Int64) {
	c.Header("Content-Type", "text/event-stream")
	c.Status(http.StatusOK)
	send := func(event string) {
		fmt.Fprintf(c.Writer, "event: %s\ndata: %d\n\n", event, trials.Load())
		c.Writer.Flush()
	}
	tick := time.NewTicker(200 * time.Millisecond)
	defer tick.Stop()
	for {
		select {
		case <-done:
			send("done")
			return
		case <-c.Request.Context().Done():
			return
		case <-tick.C:
			send("progress")
		}
	}
}

// stopSearch ends the search under way; what it has found so far is kept.
func (s *Server) stopSearch(c *gin.Context) {
	s.show(c, func(t *trip) {
		if t.search != nil {
			t.search.stopped.Store(true)
			<-t.search.done
		}
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/"))
	})
}
