package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/core/kit"
)

// namesOnList are the names of the things of a trip, each once.
func namesOnList(items []kit.Item) []string {
	var names []string
	for i := range items {
		names = append(names, items[i].Name)
	}
	slices.Sort(names)
	return slices.Compact(names)
}

// find goes to the thing of the trip that somebody looks for: in the order on Load, on the list elsewhere.
func (s *Server) find(c *gin.Context) {
	s.show(c, func(t *trip) {
		wanted := strings.TrimSpace(c.Query("q"))
		found := kit.Find(t.task().Items, wanted)
		if found == nil {
			p := s.layoutPage(c, t, "")
			p.Notice = &notice{Kind: "wrong", Text: fmt.Sprintf("Nothing on the list is called \"%s\" or much like it.", wanted)}
			p.Here = fmt.Sprintf("/trips/%d/layout", t.ID)
			s.render(c, http.StatusNotFound, p)
			return
		}
		step := "layout?item=" + url.QueryEscape(found.ID)
		if c.Query("from") == "load" {
			for i := range t.plan.Placed {
				if p := &t.plan.Placed[i]; p.Piece.ID == found.ID {
					step = "load?thing=" + url.QueryEscape(thingKey(p))
					break
				}
			}
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/%s", t.ID, step))
	})
}
