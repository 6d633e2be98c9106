package draw

import (
	"strings"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/unit"
)

// Colour is what the colours of a drawing mean.
type Colour string

// The three meanings. Each has five classes with a hatch of their own, so that none rests on hue alone.
const (
	ByNeed   Colour = "need"
	ByWeight Colour = "weight"
	ByDry    Colour = "dry"
)

// classes are the words of each meaning, by class.
var classWords = map[Colour][5]string{
	ByNeed:   {"on the move", "at a halt", "on arrival", "in camp", "only in need"},
	ByWeight: {}, // by the limits of weightClasses
	ByDry:    {"does not mind", "keep from soaking", "must stay dry", "comes back wet", "leaks"},
}

// hatchLines are the lines of each class within a tile of 8 by 8 pixels; none is dots.
var hatchLines = [5]string{"M0 8 L8 0 M-2 2 L2 -2 M6 10 L10 6", "", "M0 4 H8", "M0 0 L8 8 M-2 6 L2 10 M6 -2 L10 2",
	"M1.5 4 H6.5 M4 1.5 V6.5"}

// weightClasses are the grams below which a thing belongs to each class of weight but the heaviest.
var weightClasses = [4]float64{100, 300, 600, 1000}

// weightWords says the classes in a system of units.
func weightWords(system unit.System) (words [5]string) {
	limit := func(class int) string {
		return strings.Replace(system.Mass(weightClasses[class]), ".00", "",
			1)
	} // round by choice
	words[0], words[4] = "under "+limit(0), limit(3)+" and more"
	for class := 1; class < 4; class++ {
		words[class] = limit(class-1) + " to " + limit(class)
	}
	return words
}

// classOf says which class a thing belongs to.
func classOf(colour Colour, it *kit.Item) int {
	switch colour {
	case ByWeight:
		for class, below := range weightClasses {
			if it.MassG < below {
				return class
			}
		}
		return 4
	case ByDry:
		switch {
		case it.Water.Leaks:
			return 4
		case it.Water.ReturnsWet:
			return 3
		}
		return dry.Need(it)
	}
	for class, when := range kit.Whens {
		if when == it.Use.When {
			return class
		}
	}
	return 0
}

func hatchID(colour Colour, class int) string {
	return "hatch-" + string(colour) + string(rune('0'+class))
}

// fillOf is the hatch of a placed thing.
func (c *cutaway) fillOf(p *load.Placement) string {
	if c.Hatch != nil {
		if hatch := c.Hatch[p.Piece.Item.ID]; hatch != "" {
			return "url(#hatch-" + hatch + ")"
		}
		return "var(--hairline)"
	}
	return "url(#" + hatchID(c.Colour, classOf(c.Colour, p.Piece.Item)) + ")"
}

// WhenName is the word for a moment of the day, as legends use it.
func WhenName(when kit.When) string {
	return classWords[ByNeed][classOf(ByNeed, &kit.Item{Use: kit.Use{When: when}})]
}

// defineHatches writes the pattern definitions; the colours are custom properties of the page.
func (s *sheet) defineHatches() {
	s.open("defs")
	for _, colour := range []Colour{ByNeed, ByWeight, ByDry} {
		for class, line := range hatchLines {
			s.pattern(string(colour)+string(rune('0'+class)), line)
		}
	}
	s.defineBearers()
	s.close("defs")
}

// pattern writes one hatch; without a line it is dots.
func (s *sheet) pattern(name, line string) {
	s.open("pattern", "id", "hatch-"+name, "width", 8, "height", 8, "patternUnits", "userSpaceOnUse")
	s.el("rect", "width", 8, "height", 8, "class", "tint ink-"+name)
	if line == "" {
		s.el("circle", "cx", 2, "cy", 2, "r", 1, "class", "dots ink-"+name)
		s.el("circle", "cx", 6, "cy", 6, "r", 1, "class", "dots ink-"+name)
	} else {
		s.el("path", "d", line, "class", "lines ink-"+name)
	}
	s.close("pattern")
}

// Legend is a row of swatches with their words, for the page under a drawing.
func Legend(colour Colour, system unit.System) []Swatch {
	if _, known := classWords[colour]; !known {
		colour = ByNeed
	}
	list := make([]Swatch, 0, 5)
	words := classWords[colour]
	if colour == ByWeight {
		words = weightWords(system)
	}
	for class, word := range words {
		list = append(list, Swatch{Word: word, SVG: swatch(hatchID(colour, class))})
	}
	return list
}
