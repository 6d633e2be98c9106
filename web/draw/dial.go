package draw

import (
	"fmt"
	"html/template"
	"math"

	"tornister/core/unit"
)

// The dial in pixels, and how far its needle goes round.
const (
	dialSize  = 300.0
	dialR     = 128.0
	dialFrom  = -135.0 // degrees from upright, clockwise
	dialSweep = 270.0
)

// Dial draws the face of a hanging scale up to so many grams, with its needle at zero; what sends it turns the
// element needle by its data: degrees a gram, and where zero stands.
func Dial(mostG float64, system unit.System) template.HTML {
	var s sheet
	s.open("svg", "class", "dial", "viewBox", fmt.Sprintf("0 0 %g %g", dialSize, dialSize-16), "role", "img",
		"aria-label", "The dial of the scale; its reading stands below in figures")
	c := dialSize / 2
	s.el("circle", "class", "dial-face", "cx", c, "cy", c, "r", dialR)
	step, each, name, factor := 1000.0, 5, "kg", 1000.0
	if system == unit.Customary {
		step, each, name, factor = 2*unit.Pound, 5, "lb", unit.Pound
	}
	for n := 0; float64(n)*step <= mostG+1e-6; n++ {
		a := (dialFrom + dialSweep*float64(n)*step/mostG) * math.Pi / 180
		inner := dialR - 10
		if n%each == 0 {
			inner = dialR - 18
			s.text(c+math.Sin(a)*(dialR-34), c-math.Cos(a)*(dialR-34)+4, "dial-figure",
				fmt.Sprintf("%.0f", float64(n)*step/factor), "text-anchor", "middle")
		}
		s.el("path", "class", "dial-mark", "d",
			path("M", c+math.Sin(a)*inner, c-math.Cos(a)*inner, "L", c+math.Sin(a)*(dialR-4), c-math.Cos(a)*(dialR-4)))
	}
	s.text(c, c+58, "caption", name, "text-anchor", "middle")
	s.open("g", "id", "needle", "class", "needle", "data-zero", dialFrom, "data-turn", num(dialSweep/mostG*1000),
		"data-most", num(mostG), "data-x", num(c), "data-y", num(c), "transform",
		fmt.Sprintf("rotate(%g %g %g)", dialFrom, c, c))
	s.el("path", "d", path("M", c-3, c+22, "L", c, c-dialR+22, "L", c+3, c+22, "Z"))
	s.close("g")
	s.el("circle", "class", "dial-hub", "cx", c, "cy", c, "r", 7)
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
