package draw

import (
	"fmt"
	"html/template"
	"math"
)

// Mark is one exercise that was done: which kind, its points of a hundred and how long it took.
type Mark struct {
	Kind    int
	Score   int
	Seconds float64
	Day     string
}

// MostMarks is how many exercises a drawing of them shows.
const MostMarks = 24

// The drawing of progress in pixels: points above, time below.
const (
	progressWidth  = 300.0
	progressHeight = 208.0
	progressLeft   = 38.0
	progressTop    = 22.0
	pointsHeight   = 96.0
	timeTop        = 136.0
	timeHeight     = 44.0
)

// Progress draws exercises one after the other: the points of each as a mark whose shape is its kind (circle, diamond,
// square), those of a kind joined; below how long each took.
func Progress(marks []Mark) template.HTML {
	var s sheet
	last := marks[len(marks)-1]
	s.open("svg", "class", "progress-plot", "viewBox", path(0, 0, progressWidth, progressHeight), "role", "img", "aria-label",
		fmt.Sprintf("%d exercises, the last on %s with %d of 100 points in %.0f seconds; the table says the same in words.",
			len(marks), last.Day, last.Score, last.Seconds))
	step := (progressWidth - progressLeft - 20) / float64(max(6, len(marks)))
	x := func(i int) float64 { return progressLeft + 10 + step*(float64(i)+0.5) }
	y := func(score int) float64 { return progressTop + pointsHeight*(1-float64(score)/100) }
	for _, score := range []int{0, 50, 100} {
		s.el("path", "class", "plot-line", "d", path("M", progressLeft, y(score), "H", progressWidth-10))
		s.text(progressLeft-5, y(score)+4, "caption", fmt.Sprint(score), "text-anchor", "end")
	}
	s.text(0, 9, "caption", "points of a hundred")
	longest := 1.0
	for _, m := range marks {
		longest = max(longest, m.Seconds)
	}
	longest = math.Ceil(longest/10) * 10
	before := map[int]int{}
	for i, m := range marks {
		if from, is := before[m.Kind]; is {
			s.el("path", "class", "plot-join", "d", path("M", x(from), y(marks[from].Score), "L", x(i), y(m.Score)))
		}
		before[m.Kind] = i
		high := timeHeight * m.Seconds / longest
		s.el("rect", "class", "plot-time", "x", x(i)-min(step/3, 9), "y", timeTop+timeHeight-high, "width", 2*min(step/3, 9),
			"height", high)
	}
	for i, m := range marks {
		s.mark(m.Kind, x(i), y(m.Score))
	}
	s.el("path", "class", "plot-line", "d", path("M", progressLeft, timeTop+timeHeight, "H", progressWidth-10))
	s.text(progressLeft-5, timeTop+8, "caption", fmt.Sprintf("%.0f s", longest), "text-anchor", "end")
	s.text(progressLeft-5, timeTop+timeHeight+4, "caption", "0 s", "text-anchor", "end")
	s.text(max(x(0), progressLeft+24), progressHeight-6, "caption", marks[0].Day, "text-anchor", "middle")
	if len(marks) > 1 {
		s.text(min(x(len(marks)-1), progressWidth-32), progressHeight-6, "caption", last.Day, "text-anchor", "middle")
	}
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

// mark draws the shape of a kind.
func (s *sheet) mark(kind int, x, y float64) {
	const r = 4.5
	switch kind {
	case 0:
		s.el("circle", "class", "plot-mark", "cx", x, "cy", y, "r", r)
	case 1:
		s.el("path", "class", "plot-mark", "d", path("M", x, y-r-1, "L", x+r+1, y, x, y+r+1, x-r-1, y, "Z"))
	default:
		s.el("rect", "class", "plot-mark", "x", x-r, "y", y-r, "width", 2*r, "height", 2*r)
	}
}

// KindMark is the shape of a kind of exercise, for a legend.
func KindMark(kind int) template.HTML {
	var s sheet
	s.open("svg", "class", "kind-mark", "viewBox", "0 0 14 14", "width", 14, "height", 14, "aria-hidden", "true")
	s.mark(kind, 7, 7)
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
