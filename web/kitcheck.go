package web

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/web/draw"
)

// kitCheckView is the kit check: each bearer's list, line by line, and who has signed it off.
type kitCheckView struct {
	Bearers []checkedBearer
	Chosen  *checkedBearer
	By      field
	Day     string
}

type checkedBearer struct {
	ID, Name, Kind, Href    string
	Swatch                  template.HTML
	Lines                   []kitCheckRow
	Open, Wrong             int
	State, Word             string
	Signed                  string   // who and when
	Why                     []string // it does not hold any more
	Chosen, Away, CanBeDone bool
}

type kitCheckRow struct {
	ID, Name, Word string
	Answers        []option
}

var checkAnswers = []option{{string(bundle.HasIt), "has it", false}, {string(bundle.Lent), "lent", false},
	{string(bundle.Missing), "missing", false}, {string(bundle.NotGood), "not good", false}}

func (s *Server) showKitCheck(c *gin.Context) {
	s.show(c, func(t *trip) { s.render(c, http.StatusOK, kitCheckPage(t, c.Query("bearer"))) })
}

func kitCheckPage(t *trip, chosen string) page {
	p := t.shell("check", "Kit check")
	v := &kitCheckView{By: field{Name: "by", Label: "Signed off by"}, Day: time.Now().Format(time.DateOnly)}
	p.Body = v
	group := t.Doc.Party()
	if group == nil {
		p.Headline, p.Detail = "You walk alone.", "The kit check is for a party. Add who walks along first."
		return p
	}
	if group.Bearer(chosen) == nil {
		chosen = group.Bearers[0].ID
	}
	done, open := 0, 0
	for i := range group.Bearers {
		b := &group.Bearers[i]
		one := checkedBearer{ID: b.ID, Name: b.Name, Kind: kindWord(b.Kind),
			Href: fmt.Sprintf("/trips/%d/check?", t.ID) + url.Values{"bearer": {b.ID}}.Encode(), Chosen: b.ID == chosen,
			Away: b.Away, Swatch: draw.HatchSwatch(draw.BearerHatch(i), "").SVG}
		for _, line := range t.Doc.CheckLines(b.ID) {
			name := line.Name
			if line.Count > 1 {
				name = fmt.Sprintf("%d × %s", line.Count, name)
			}
			row := kitCheckRow{ID: line.ID, Name: name, Answers: options(checkAnswers, string(line.State)),
				Word: "not looked at"}
			for _, a := range row.Answers {
				if a.Chosen {
					row.Word = a.Label
				}
			}
			switch line.State {
			case "":
				one.Open++
			case bundle.Missing, bundle.NotGood:
				one.Wrong++
			}
			one.Lines = append(one.Lines, row)
		}
		one.say(t)
		if one.State == "settled" {
			done++
		} else if !b.Away {
			open++
		}
		v.Bearers = append(v.Bearers, one)
		if one.Chosen {
			v.Chosen = &v.Bearers[len(v.Bearers)-1]
		}
	}
	p.Headline = fmt.Sprintf("%d of %d kits signed off.", done, done+open)
	p.Detail = "Has it, lent by the centre, missing, or not good: line by line. A kit that changes afterwards has to be signed off again."
	return p
}

// say says how the check of a bearer stands.
func (b *checkedBearer) say(t *trip) {
	signed, why := t.Doc.SignedOff(b.ID)
	if signed != nil {
		at := signed.At
		if when, err := time.Parse(time.RFC3339, at); err == nil {
			at = when.Format("2 January 2006, 15:04")
		}
		b.Signed, b.Why = fmt.Sprintf("%s, %s", signed.By, at), why
	}
	switch {
	case b.Away:
		b.Word = "away"
	case signed != nil && len(why) == 0:
		b.State, b.Word = "settled", "signed off by "+b.Signed
	case signed != nil:
		b.State, b.Word = "look", "changed since "+signed.By+" signed it off"
	case b.Wrong > 0:
		b.State, b.Word = "stop", fmt.Sprintf("%d missing or not good", b.Wrong)
	case b.Open > 0:
		b.State, b.Word = "look", fmt.Sprintf("%d not looked at", b.Open)
	default:
		b.State, b.Word = "look", "all there, not signed off"
	}
}

// checkRefused shows the kit check again with what is wrong.
func (s *Server) checkRefused(c *gin.Context, status int, text string) {
	s.show(c, func(t *trip) {
		p := kitCheckPage(t, c.PostForm("bearer"))
		p.Notice = &notice{Kind: "wrong", Text: text}
		p.Body.(*kitCheckView).By.Value = c.PostForm("by")
		s.render(c, status, p)
	})
}

func (s *Server) changeCheck(c *gin.Context, label string, edit func(bundle.Doc) error) {
	s.change(c, label, edit, func(problems bundle.Problems, stale bool) {
		if stale {
			s.checkRefused(c, http.StatusConflict, staleNotice().Text)
			return
		}
		s.checkRefused(c, http.StatusUnprocessableEntity, mendOf(problems))
	})
}

// checkLine keeps what was said of a line, or that all that were not looked at are there.
func (s *Server) checkLine(c *gin.Context) {
	bearer, line, state := c.PostForm("bearer"), c.PostForm("line"), bundle.CheckState(c.PostForm("state"))
	s.changeCheck(c, "kit check", func(doc bundle.Doc) error {
		ids := []string{line}
		if line == "" {
			ids = nil
			for _, l := range doc.CheckLines(bearer) {
				if l.State == "" {
					ids = append(ids, l.ID)
				}
			}
		}
		return doc.Check(bearer, state, ids...)
	})
}

// signKit signs a kit off.
func (s *Server) signKit(c *gin.Context) {
	bearer, by := c.PostForm("bearer"), clip(strings.TrimSpace(c.PostForm("by")), 100)
	s.changeCheck(c, "sign off", func(doc bundle.Doc) error {
		return doc.Sign(bearer, by,
			time.Now().Format(time.RFC3339))
	})
}
