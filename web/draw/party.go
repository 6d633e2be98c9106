package draw

import (
	"fmt"
	"html/template"
	"strconv"

	"tornister/core/unit"
)

// MostBearers is how many bearers have a hatch of their own.
const MostBearers = 12

// BearerHatch is the name of the hatch of the n-th bearer of a party.
func BearerHatch(n int) string { return "bearer" + strconv.Itoa(n%MostBearers) }

// defineBearers writes the hatches of bearers: a colour each, and lines that differ between neighbours.
func (s *sheet) defineBearers() {
	for n := range MostBearers {
		s.pattern(BearerHatch(n), hatchLines[n%len(hatchLines)])
	}
}

// Share is what one bearer carries of the own limit.
type Share struct {
	OwnG, MassG, BeforeG, LimitG float64 // BeforeG is 0 when nothing is set against it
	Hatch                        string
}

// The bar of a share in pixels.
const (
	shareWidth  = 236.0
	shareHeight = 26.0
	shareFull   = 188.0 // where the limit is
)

// ShareBar draws a share: what is one's own, what is the group's, the limit, and where it was before.
func ShareBar(b Share, system unit.System) template.HTML {
	var s sheet
	at := func(g float64) float64 { return min(g/b.LimitG*shareFull, shareWidth-2) }
	s.open("svg", "class", "share-bar", "viewBox", path(0, 0, shareWidth, shareHeight), "width", shareWidth, "height",
		shareHeight, "role", "img",
		"aria-label", fmt.Sprintf("%s of a limit of %s; %s of it one's own", system.Mass(b.MassG), system.Mass(b.LimitG),
			system.Mass(b.OwnG)))
	s.el("rect", "class", "share-trough", "x", 0.5, "y", 5.5, "width", shareFull, "height", 15)
	s.el("rect", "class", "share-own", "x", 0.5, "y", 5.5, "width", at(b.OwnG), "height", 15)
	s.el("rect", "class", "edge", "x", 0.5+at(b.OwnG), "y", 5.5, "width", max(0, at(b.MassG)-at(b.OwnG)), "height", 15,
		"fill", "url(#hatch-"+b.Hatch+")")
	s.el("path", "class", "share-limit", "d", path("M", shareFull+0.5, 1, "V", shareHeight-1))
	if b.BeforeG > 0 {
		s.el("path", "class", "share-before", "d", path("M", 0.5+at(b.BeforeG), 5, "l -4 -5 h 8 Z"))
	}
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
