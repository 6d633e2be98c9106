package draw

import (
	"html/template"

	"tornister/core/kit"
)

// Swatch is a small hatched square and the word for it.
type Swatch struct {
	Word string
	SVG  template.HTML
}

// SwatchFor draws the hatch of one moment. It is decoration: the word stands beside it.
func SwatchFor(when kit.When) template.HTML {
	return SwatchOf(ByNeed, &kit.Item{Use: kit.Use{When: when}})
}

// SwatchOf draws the hatch that a thing has in drawings of a colour.
func SwatchOf(colour Colour, it *kit.Item) template.HTML {
	if _, known := classWords[colour]; !known {
		colour = ByNeed
	}
	return swatch(hatchID(colour, classOf(colour, it)))
}

// HatchSwatch is the swatch of a hatching by its name, such as need0.
func HatchSwatch(name, word string) Swatch { return Swatch{Word: word, SVG: swatch("hatch-" + name)} }

func swatch(hatch string) template.HTML {
	var s sheet
	s.open("svg", "class", "swatch", "viewBox", "0 0 16 16", "width", 16, "height", 16, "aria-hidden", "true",
		"focusable", "false")
	s.el("rect", "x", 0.5, "y", 0.5, "width", 15, "height", 15, "fill", "url(#"+hatch+")", "class", "edge")
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

// Hatches is an invisible drawing that holds the patterns all others on the page refer to.
func Hatches() template.HTML {
	var s sheet
	s.open("svg", "class", "hatches", "width", 0, "height", 0, "aria-hidden", "true", "focusable", "false")
	s.defineHatches()
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

// StateMark draws the shape of a check's state: a disc for settled, a diamond for look, an octagon for stop, and a
// ring for what is not computed.
func StateMark(state string) template.HTML {
	var s sheet
	s.open("svg", "class", "state-mark mark-"+state, "viewBox", "0 0 14 14", "width", 14, "height", 14, "aria-hidden",
		"true", "focusable", "false")
	switch state {
	case "settled":
		s.el("circle", "cx", 7, "cy", 7, "r", 5.5)
	case "look":
		s.el("path", "d", "M7 0.5 L13.5 7 L7 13.5 L0.5 7 Z")
	case "stop":
		s.el("path", "d", "M4.3 0.5 H9.7 L13.5 4.3 V9.7 L9.7 13.5 H4.3 L0.5 9.7 V4.3 Z")
	default:
		s.el("circle", "cx", 7, "cy", 7, "r", 4.5, "fill", "none", "stroke", "currentColor", "stroke-width", 1.2)
	}
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from constant parts
}
