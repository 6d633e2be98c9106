package draw

import "html/template"

// RoomBar draws tight and loose litres against the room of the pack: a scale from nothing to the larger of the two.
func RoomBar(tight, loose, room float64) template.HTML {
	const width, height = 298.0, 46.0
	most := max(loose, room, 1)
	at := func(l float64) float64 { return 1 + l/most*(width-2) }
	var s sheet
	s.open("svg", "class", "room-bar", "viewBox", "0 0 "+num(width)+" "+num(height), "aria-hidden", "true", "focusable",
		"false")
	s.el("rect", "class", "pocket", "x", 1, "y", 14, "width", at(room)-1, "height", 18)
	s.el("rect", "x", 1, "y", 17, "width", at(tight)-1, "height", 12, "fill", "url(#"+hatchID(ByWeight, 4)+")", "class",
		"edge")
	s.el("path", "class", "fill-line", "d", path("M", at(tight), 23, "H", at(loose), "M", at(loose), 17, "V", 29))
	s.text(at(tight), 43, "caption", "tight", "text-anchor", "middle")
	s.text(min(at(loose), width-12), 43, "caption", "loose", "text-anchor", "middle")
	s.text(min(at(room), width-2), 11, "caption", "the pack", "text-anchor", "end")
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
