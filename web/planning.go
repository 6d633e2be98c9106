package web

import (
	"net/http"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"
)

// progress tells a page how the search goes, as server-sent events: progress with the number of trial packings, better
// when there is a better plan than the first, and done. A page that shows the better one already asks for the rest.
func (s *Server) progress(c *gin.Context) {
	s.show(c, func(t *trip) {
		better := t.job.Better()
		if c.Query("better") != "" {
			better = nil
		}
		events(c, better, t.job.Done(), t.job.Trials())
	})
}

// events sends a search's progress as server-sent events until it is done or the page has gone.
func events(c *gin.Context, better, done <-chan struct{}, trials *atomic.Int64) {
	tick := time.NewTicker(200 * time.Millisecond)
	defer tick.Stop()
	for {
		event := "progress"
		select {
		case <-done:
			event = "done"
		case <-better:
			event, better = "better", nil
		case <-tick.C:
		case <-c.Request.Context().Done():
			return
		}
		c.SSEvent(event, trials.Load())
		c.Writer.Flush()
		if event == "done" {
			return
		}
	}
}

// stopSearch ends the search under way; what it has found so far is kept.
func (s *Server) stopSearch(c *gin.Context) {
	s.show(c, func(t *trip) {
		t.job.Stop()
		<-t.job.Done()
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/"))
	})
}
