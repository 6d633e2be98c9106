package draw

import (
	"fmt"
	"html/template"
	"strings"

	"tornister/core/dry"
)

// Shelter is a thing with what stands between it and the rain, from outside to inside.
type Shelter struct {
	Item   string
	Name   string
	Need   int
	Layers []ShelterLayer
	Dry    bool
}

// ShelterLayer is one layer: what it is, in which column it stands, and whether it only keeps from soaking.
type ShelterLayer struct {
	Column int // 0 cover, 1 fabric, 2 liner, 3 bag, 4 case
	Word   string
	Colour string
	Thin   bool
}

// The columns of the layers, from thing to rain, in pixels.
const (
	layersWidth = 780.0
	layerRow    = 21.0
	layerTop    = 34.0
	thingEnd    = 214.0
	layerFirst  = 256.0 // of the innermost, the thing's own case
	layerStep   = 84.0
	rainStart   = 690.0
)

// layerX is where a layer stands; the outermost, the cover, has column 0.
func layerX(column int) float64 {
	return layerFirst + layerStep*float64(len(layerWords)-1-column)
}

var layerWords = []string{"cover", "fabric", "liner", "dry bag", "own case"}

// Layers draws each thing on a line of its own: rain comes from the right and is stopped by the first layer that
// holds.
func Layers(things []Shelter) template.HTML {
	var s sheet
	height := layerTop + layerRow*float64(len(things)) + 8
	s.open("svg", "class", "layers", "viewBox", "0 0 "+num(layersWidth)+" "+num(height), "role", "img")
	s.open("title")
	s.WriteString("What stands between rain and each thing that must not get wet; the list beside it names the weak points.")
	s.close("title")
	s.text(rainStart+40, 18, "strip-date", "rain", "text-anchor", "middle")
	for i, word := range layerWords {
		s.text(layerX(i), 18, "caption", word, "text-anchor", "middle")
	}
	s.text(22, 18, "strip-date", "thing")
	for i := range things {
		s.shelter(&things[i], layerTop+layerRow*float64(i))
	}
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

func (s *sheet) shelter(t *Shelter, y float64) {
	middle := y + layerRow/2
	stop := thingEnd + 8
	for _, l := range t.Layers {
		if !l.Thin || t.Need == 1 {
			stop = layerX(l.Column) + 5
			break
		}
	}
	class := "rain"
	if !t.Dry && stop < layerFirst {
		class += " through"
	}
	s.open("g", "data-line", t.Item, "class", "shelter")
	s.el("rect", "class", "shelter-row", "x", 0, "y", y, "width", layersWidth, "height", layerRow)
	s.el("path", "class", class, "d", path("M", layersWidth-8, middle, "H", stop))
	for x := rainStart; x < layersWidth-10; x += 13 {
		s.el("path", "class", class+" drop", "d", path("M", x+4, y+3, "L", x, y+layerRow-3))
	}
	for _, l := range t.Layers {
		x := layerX(l.Column)
		layer := "layer " + ColourClass(l.Colour)
		if l.Thin {
			layer = "layer-thin"
		}
		s.el("rect", "class", layer, "x", x-4, "y", y+1.5, "width", 8, "height", layerRow-3)
		if l.Word != "" {
			s.text(x-8, middle+3.5, "caption", clipped(l.Word, layerStep-16), "text-anchor", "end")
		}
	}
	mark := "mark-settled"
	if !t.Dry {
		mark = "mark-stop"
	}
	const x = 12.0
	if t.Dry {
		s.el("circle", "class", mark, "cx", x, "cy", middle, "r", 4)
	} else {
		s.el("path", "class", mark, "d", path("M", x-2, middle-5, "H", x+2, "L", x+5, middle-2, "V", middle+2, "L", x+2,
			middle+5, "H", x-2, "L", x-5, middle+2, "V", middle-2, "Z"))
	}
	words := t.Name
	if !t.Dry {
		words += ", weak"
	}
	s.text(22, middle+4, "shelter-word", clipped(words, thingEnd-18))
	s.close("g")
}

// bagColours are the colours that a bag can be drawn in; others are drawn plain, with their word.
var bagColours = []string{"red", "blue", "green", "yellow", "orange", "black", "white", "grey", "purple"}

// ColourClass is the class that draws a bag in its colour.
func ColourClass(colour string) string {
	low := strings.ToLower(colour)
	for _, known := range bagColours {
		if low == known {
			return "bag-" + known
		}
	}
	return "bag-plain"
}

// BagPicture draws a bag rolled shut, filled as far as it is.
func BagPicture(b *dry.Bag, share float64) template.HTML {
	const width, height = 84.0, 104.0
	var s sheet
	s.open("svg", "class", "bag-picture", "viewBox", "0 0 "+num(width)+" "+num(height), "width", width, "height", height,
		"aria-hidden", "true", "focusable", "false")
	full := min(share, 1)
	level := 96 - 70*full
	s.el("path", "class", "bag-fill "+ColourClass(b.Colour), "d",
		path("M", 12, level, "H", 72, "V", 88, "Q", 72, 98, 62, 98, "H", 22, "Q", 12, 98, 12, 88, "Z"))
	s.el("path", "class", "bag-line", "d", path("M", 12, 24, "V", 88, "Q", 12, 98, 22, 98, "H", 62, "Q", 72, 98, 72, 88,
		"V", 24, "Z"))
	s.el("rect", "class", "bag-roll", "x", 8, "y", 14, "width", 68, "height", 11, "rx", 5)
	s.el("path", "class", "bag-most", "d", path("M", 12, 96-70*dry.FullShare, "H", 72))
	s.text(42, 66, "bag-share", fmt.Sprintf("%.0f %%", 100*share), "text-anchor", "middle")
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
