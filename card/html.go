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

//go:embed worker.js
var worker string

// Worker is the service worker of a card that is opened by a link.
func Worker() string { return worker }

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
	Live
}

// Live is a card that is part of something: where its style and script are, and where its ticks are at home.
type Live struct {
	At   string // the folder of style and script, with its slash
	Home string // takes ticks and tells them; "" keeps them in the browser only
	Plan string // changes when the plan does
	Ways []Way  // links over the card, which are not printed
}

// Way is a link over the card.
type Way struct{ Name, Href string }

// HTML writes the card as one file that needs nothing else, or, live, as a page of a server.
func (c *Card) HTML(w io.Writer, live *Live) error {
	v := view{Card: c, Linked: live != nil, Picture: draw.Hatches() + c.Drawing}
	if live != nil {
		v.Live = *live
	} else {
		v.Style, v.Script = template.CSS(Style()), template.JS(script) //nolint:gosec // our own files
	}
	var out bytes.Buffer
	if err := sheet.Execute(&out, v); err != nil {
		return fmt.Errorf("the card cannot be written: %w", err)
	}
	_, err := w.Write(out.Bytes())
	return err
}
