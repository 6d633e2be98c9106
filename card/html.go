package card

import (
	"bytes"
	_ "embed"
	"fmt"
	"html/template"
	"io"

	"tornister/web/draw"
)

//go:embed card.html
var page string

//go:embed card.css
var style string

//go:embed card.js
var script string

// Style is the stylesheet of a card and its drawing, for a page that links it.
func Style() string { return style + draw.PrintStyle() }

// Script remembers the ticks of a card that stands alone.
func Script() string { return script }

var sheet = template.Must(template.New("card").Parse(page))

// view is a card on a page of its own.
type view struct {
	*Card
	Style   template.CSS
	Script  template.JS
	Picture template.HTML
	Linked  bool // style and script are linked, not on the page
}

// HTML writes the card as one file that needs nothing else, or, linked, as a page of the application.
func (c *Card) HTML(w io.Writer, linked bool) error {
	v := view{Card: c, Linked: linked, Picture: draw.Hatches() + c.Drawing}
	if !linked {
		v.Style, v.Script = template.CSS(Style()), template.JS(script) //nolint:gosec // our own files
	}
	var out bytes.Buffer
	if err := sheet.Execute(&out, v); err != nil {
		return fmt.Errorf("the card cannot be written: %w", err)
	}
	_, err := w.Write(out.Bytes())
	return err
}
