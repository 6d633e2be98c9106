package draw

import (
	"fmt"
	"html/template"
	"math"

	"tornister/core/unit"
)

// WayStop is a stop of a trip as the picture of the way shows it.
type WayStop struct {
	Name    string
	Parts   []float64 // grams from below, in the order of the legend
	Squeeze float64   // 0 to 1
	Fill    float64   // how high it is filled, as a share of the pack's height
	Fits    bool
	State   string
	Chosen  bool
	Night   bool // a night lies between this stop and the next
}

// WayParts names the parts of a stop's mass, and how each is drawn.
var WayParts = []struct{ Name, Hatch string }{{"base", "weight0"}, {"food", "need1"}, {"fuel", "need4"},
	{"water", "need0"}, {"wet", "dry4"}, {"rubbish", "need2"}}

// The picture in pixels.
const (
	wayWidth  = 780.0
	wayHeight = 250.0
	wayLeft   = 44.0
	wayFoot   = 178.0
	wayTop    = 16.0
)

// Way draws the stops side by side: the mass on the back stacked by what it is, a dot for how far the pack is
// squeezed, and the names under it. Each stop has its number as data, so that it can be chosen.
func Way(stops []WayStop, system unit.System) template.HTML {
	var s sheet
	s.open("svg", "class", "way-picture", "viewBox", path(0, 0, wayWidth, wayHeight), "role", "img", "aria-label",
		"Mass on the back and squeeze at each stop; the table below says the same")
	most := 1.0
	for _, stop := range stops {
		most = max(most, total(stop.Parts))
	}
	step := 5000.0
	factor, name := 1000.0, "kg"
	if system == unit.Customary {
		step, factor, name = 10*unit.Pound, unit.Pound, "lb"
	}
	k := (wayFoot - wayTop) / most
	for g := 0.0; g <= most; g += step {
		y := wayFoot - g*k
		s.el("path", "class", "way-rule", "d", path("M", wayLeft, y, "H", wayWidth))
		s.text(wayLeft-6, y+4, "caption", fmt.Sprintf("%.0f", g/factor), "text-anchor", "end")
	}
	s.text(4, wayTop-4, "caption", name+" on the back")
	column := (wayWidth - wayLeft) / float64(max(1, len(stops)))
	for i, stop := range stops {
		x := wayLeft + float64(i)*column
		wide := min(46, column*0.62)
		left := x + (column-wide)/2
		class := "way-stop"
		if stop.Chosen {
			class += " chosen"
		}
		s.open("g", "class", class, "data-stop", i)
		s.el("rect", "class", "way-ground", "x", x, "y", wayTop, "width", column, "height", wayHeight-wayTop)
		y := wayFoot
		for part, g := range stop.Parts {
			if g < 1 || part >= len(WayParts) {
				continue
			}
			h := g * k
			y -= h
			s.el("rect", "class", "way-part", "x", left, "y", y, "width", wide, "height", h, "fill",
				"url(#hatch-"+WayParts[part].Hatch+")")
		}
		squeezed := wayFoot - (wayFoot-wayTop)*min(1, stop.Squeeze)
		dot := "way-squeeze"
		if !stop.Fits {
			dot += " way-over"
		}
		s.el("circle", "class", dot, "cx", left+wide+6, "cy", squeezed, "r", 4)
		s.el("path", "class", "way-fill", "d", path("M", left+wide+1, wayFoot-(wayFoot-wayTop)*min(1, stop.Fill), "h", 10))
		s.text(x+column/2, wayFoot+15, "way-number", fmt.Sprint(i+1), "text-anchor", "middle")
		for n, line := range wrapped(stop.Name, column-6) {
			if n < 3 {
				s.text(x+column/2, wayFoot+30+13*float64(n), "caption", line, "text-anchor", "middle")
			}
		}
		if stop.Night {
			s.el("path", "class", "way-night", "d", path("M", x+column, wayTop, "V", wayFoot))
		}
		s.close("g")
	}
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

func total(parts []float64) (sum float64) {
	for _, v := range parts {
		sum += math.Max(0, v)
	}
	return sum
}
