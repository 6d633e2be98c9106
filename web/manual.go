package web

import (
	"bytes"
	"fmt"
	"html/template"
	"net/http"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/parser"

	"tornister/demo/seed"
	"tornister/docs"
	"tornister/words"
)

// manualView is the manual as it is read in the application.
type manualView struct {
	Parts    []manualPart
	Text     template.HTML
	Examples []example
	Glossary []words.Term
}

type manualPart struct{ ID, Name string }

// example is a line that may be typed, and what the program makes of it.
type example struct{ Line, Means string }

var exampleLines = []string{"down bag 950 g 7 l", "2 x bottle 1 l", "1/2 l thermos", "rope 9mm 25m", "pot 12 x 10 cm",
	"12 tent pegs", "tarp 3x3m",
	"2 kg rice", "food for 3 days", "sleeping bag 1100", "power bank 20000 mAh", "socks worn",
	"insulated jacket 1 lb 4 oz", "Stirnlampe 80 g"}

// manualText is the manual without its title, with its headings.
var manualText = sync.OnceValues(func() (text template.HTML, parts []manualPart) {
	_, body, _ := bytes.Cut(docs.Manual, []byte("\n"))
	body = bytes.ReplaceAll(body, []byte("](spreadsheets.md)"), []byte("](#typing)"))
	var out bytes.Buffer
	markdown := goldmark.New(goldmark.WithParserOptions(parser.WithAutoHeadingID()))
	if err := markdown.Convert(body, &out); err != nil {
		panic("manual: " + err.Error()) // the file is embedded
	}
	for line := range strings.Lines(string(body)) {
		if name, heading := strings.CutPrefix(strings.TrimSpace(line), "## "); heading {
			parts = append(parts, manualPart{strings.ReplaceAll(strings.ToLower(name), " ", "-"), name})
		}
	}
	return template.HTML(out.String()), parts //nolint:gosec // our own file, without raw HTML
})

func (s *Server) manual(c *gin.Context) {
	v := &manualView{Glossary: words.Glossary}
	v.Text, v.Parts = manualText()
	for _, line := range exampleLines {
		v.Examples = append(v.Examples, example{line, viewOf(read(line, nil), settingsOf(c).Units).Text})
	}
	s.render(c, http.StatusOK, page{Title: "Manual", Name: "manual", Headline: "How it works.",
		Detail: "The road, the six checks, what you may type, and the words of the trade.", Body: v})
}

// openDemo begins the made-up trip in this database, beside what is there.
func (s *Server) openDemo(c *gin.Context) {
	id, err := seed.Open(c.Request.Context(), s.store)
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/load", id))
}
