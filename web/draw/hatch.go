package draw

import "tornister/core/kit"

// A hatch says by its lines what its colour says by hue: when a thing is next needed.
type hatch struct {
	when kit.When
	name string
	line string // path within a tile of 8 by 8 pixels
}

var hatches = []hatch{
	{kit.Moving, "on the move", "M0 8 L8 0 M-2 2 L2 -2 M6 10 L10 6"},
	{kit.Halt, "at a halt", ""}, // dots
	{kit.Arrival, "on arrival", "M0 4 H8"},
	{kit.Camp, "in camp", "M0 0 L8 8 M-2 6 L2 10 M6 -2 L10 2"},
	{kit.Need, "only in need", "M1.5 4 H6.5 M4 1.5 V6.5"},
}

// WhenName is the word for a moment of the day, as legends use it.
func WhenName(when kit.When) string {
	for _, h := range hatches {
		if h.when == when {
			return h.name
		}
	}
	return string(when)
}

// defineHatches writes the pattern definitions; the colours are custom properties of the page.
func (s *sheet) defineHatches(prefix string) {
	s.open("defs")
	for _, h := range hatches {
		s.open("pattern", "id", prefix+string(h.when), "width", 8, "height", 8, "patternUnits", "userSpaceOnUse")
		s.el("rect", "width", 8, "height", 8, "class", "tint tint-"+string(h.when))
		if h.line == "" {
			s.el("circle", "cx", 2, "cy", 2, "r", 1, "class", "dots-"+string(h.when))
			s.el("circle", "cx", 6, "cy", 6, "r", 1, "class", "dots-"+string(h.when))
		} else {
			s.el("path", "d", h.line, "class", "lines lines-"+string(h.when))
		}
		s.close("pattern")
	}
	s.close("defs")
}

// Legend is a row of swatches with their words, for the page under a drawing.
func Legend() []Swatch {
	list := make([]Swatch, len(hatches))
	for i, h := range hatches {
		list[i] = Swatch{Word: h.name, SVG: SwatchFor(h.when)}
	}
	return list
}
