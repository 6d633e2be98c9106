package web

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/card"
	"tornister/store"
)

// alongView is the order of loading as a hand goes through it: the next step large, what is done and what did not go
// in.
type alongView struct {
	Steps, Done int
	Percent     int
	Now         *alongStep
	Ahead       []alongStep
	Out         []alongStep
	Last        *alongStep // done last, to take back
	Behind      []alongStep
}

// alongStep is a step of the order: a thing to put in, or something to do such as rolling the liner shut.
type alongStep struct {
	Number                                      int // 0 for what is no thing
	Key, Name, Place, Bag, Why, Mass, Elsewhere string
}

// alongSteps lists a card's steps in their order.
func alongSteps(c *card.Card, trip uint) (list []alongStep) {
	for _, g := range c.Groups {
		bag := ""
		for _, l := range g.Lines {
			if l.Bag != "" {
				bag = l.Bag
			} else if l.In == 0 {
				bag = ""
			}
			place := g.Zone
			if l.Place != "" {
				place += ", " + l.Place
			}
			list = append(list, alongStep{l.Step, l.Key, l.Name, place, bag, l.Why, l.Mass,
				fmt.Sprintf("/trips/%d/load?thing=%s", trip, l.Key)})
			if l.After != "" {
				list = append(list, alongStep{Key: l.After, Name: l.After, Place: g.Zone})
			}
		}
	}
	return list
}

// card makes the load card of a trip; in a party it is that of whose pack is on the floor.
func (t *trip) card() *card.Card {
	name := t.Doc.Name()
	if p := t.Doc.Party(); p != nil {
		name += ", " + p.Bearer(p.Now).Name
	}
	return card.Of(name, t.judged, t.answer, t.system)
}

// floor is the bearer whose pack is on the floor, "" for who walks alone.
func (t *trip) floor() string {
	if p := t.Doc.Party(); p != nil {
		return p.Now
	}
	return ""
}

// tickPrefix keeps the ticks of bearers apart.
func tickPrefix(bearer string) string {
	if bearer == "" {
		return ""
	}
	return bearer + "/"
}

// ofQuery is the trip as it is for the bearer that an address names.
func (s *Server) ofQuery(c *gin.Context, t *trip) (*trip, error) {
	bearer, p := c.Query("bearer"), t.Doc.Party()
	if bearer == "" || p == nil {
		return t, nil
	}
	return s.ofBearer(t, p, bearer)
}

// showAlong is the checklist to pack along with.
func (s *Server) showAlong(c *gin.Context) {
	s.show(c, func(t *trip) {
		ticks, err := s.store.Ticks(c.Request.Context(), t.ID)
		if err != nil {
			s.refuse(c, err)
			return
		}
		steps := alongSteps(t.card(), t.ID)
		own := tickPrefix(t.floor())
		v := &alongView{Steps: len(steps)}
		for i := range steps {
			step := &steps[i]
			switch ticks[own+step.Key] {
			case store.TickIn:
				v.Done++
				v.Behind = append(v.Behind, *step)
				v.Last = step
			case store.TickOut:
				v.Out = append(v.Out, *step)
			default:
				if v.Now == nil {
					v.Now = step
				} else {
					v.Ahead = append(v.Ahead, *step)
				}
			}
		}
		if v.Steps > 0 {
			v.Percent = 100 * v.Done / v.Steps
		}
		p := t.shell("along", "Pack along")
		for i := range p.Road {
			p.Road[i].Current = steps != nil && p.Road[i].Name == "Load"
		}
		p.Headline = fmt.Sprintf("%d of %d steps done.", v.Done, v.Steps)
		if v.Now == nil && v.Steps > 0 {
			p.Headline = "All is in."
			if len(v.Out) > 0 {
				p.Headline = fmt.Sprintf("All is in but %s.", count(len(v.Out), "thing"))
			}
		}
		p.Detail = t.sentence()
		p.Body = v
		s.render(c, http.StatusOK, p)
	})
}

// tickAlong keeps what a hand says of a step.
func (s *Server) tickAlong(c *gin.Context) {
	id, err := tripID(c)
	if err == nil {
		key, state := clip(c.PostForm("key"), 300), c.PostForm("state")
		switch {
		case c.PostForm("all") == "away":
			err = s.store.ClearTicks(c.Request.Context(), id)
		case key == "" || state != "" && state != store.TickIn && state != store.TickOut:
			err = bundle.Problems{{Pointer: "/key", What: "there is no such step", Mend: "go back to the checklist"}}
		default:
			var t *trip
			if t, err = s.trip(c); err == nil {
				err = s.store.SetTick(c.Request.Context(), id, tickPrefix(t.floor())+key, state)
			}
		}
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/along", id))
}

// showCard is the load card as a page of its own, to tick and to print.
func (s *Server) showCard(c *gin.Context) {
	s.show(c, func(t *trip) {
		t, err := s.ofQuery(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.Header("Content-Type", "text/html; charset=utf-8")
		c.Status(http.StatusOK)
		if err := t.card().HTML(c.Writer, &card.Live{At: "/static/", Ways: cardWays(t.ID, c.Request.URL.RawQuery)}); err != nil {
			_ = c.Error(err)
		}
	})
}

// cardWays are where one goes from a trip's card; from that of one bearer back to the party.
func cardWays(trip uint, query string) []card.Way {
	of := fmt.Sprintf("/trips/%d/", trip)
	ways := []card.Way{{Name: "Back to Load", Href: of + "load"}, {Name: "Pack along", Href: of + "along"}}
	files := ""
	if query != "" {
		ways, files = []card.Way{{Name: "Back to the cards", Href: of + "cards"}}, "?"+query
	}
	return append(ways, card.Way{Name: "As PDF", Href: of + "card.pdf" + files},
		card.Way{Name: "As a file that works offline", Href: of + "card.html" + files})
}

// cardFile gives the load card as a file: HTML that works offline, PDF, words, or its drawing as SVG or PNG.
func (s *Server) cardFile(name, mediaType string, write func(*card.Card, *gin.Context) error) gin.HandlerFunc {
	return func(c *gin.Context) {
		s.show(c, func(t *trip) {
			t, err := s.ofQuery(c, t)
			if err != nil {
				s.refuse(c, err)
				return
			}
			if mediaType != "text/plain; charset=utf-8" {
				c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, name))
			}
			c.Header("Content-Type", mediaType)
			c.Status(http.StatusOK)
			if err := write(t.card(), c); err != nil {
				_ = c.Error(err)
			}
		})
	}
}
