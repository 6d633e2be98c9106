package draw

import (
	"cmp"
	"math"
	"slices"
)

// label names a thing beside the drawing; a leader line runs from its dot in the thing to the text.
type label struct {
	words  string
	x, y   float64 // of the middle of the thing
	inset  float64 // how far the dot lies from the middle, towards its column
	at     float64 // height of the text, after spread
	chosen bool
	item   string
	plain  bool    // no dot: the line ends at a numeral or a line
	fixed  float64 // -1 or 1 for a label that belongs to the left or right column, 0 for either
}

// share divides labels between a left and a right column: things clearly on one side of the drawing go there, those
// in the middle to the column that has fewer.
func share(labels []label) (left, right []label) {
	least, most := math.Inf(1), math.Inf(-1)
	for _, l := range labels {
		if l.fixed == 0 {
			least, most = min(least, l.x), max(most, l.x)
		}
	}
	var middle []label
	for _, l := range labels {
		switch third := (most - least) / 3; {
		case l.fixed < 0, l.fixed == 0 && l.x < least+third:
			left = append(left, l)
		case l.fixed > 0, l.x > most-third:
			right = append(right, l)
		default:
			middle = append(middle, l)
		}
	}
	slices.SortStableFunc(middle, byHeight)
	for _, l := range middle {
		if len(left) <= len(right) {
			left = append(left, l)
		} else {
			right = append(right, l)
		}
	}
	return left, right
}

func byHeight(a, b label) int { return cmp.Compare(a.y, b.y) }

// spread gives each label of a column a height, as near its dot as the line spacing allows, none above top or below
// bottom as long as they fit in between. It keeps the order of the dots, so that leader lines to one column do not
// cross.
func spread(labels []label, top, bottom, spacing float64) {
	slices.SortStableFunc(labels, byHeight)
	if n := len(labels); n > 1 {
		spacing = min(spacing, (bottom-top)/float64(n-1))
	}
	type run struct{ from, to int } // labels that touch each other
	var runs []run
	place := func(r run) float64 { // first height of a run, centred on its dots
		sum := 0.0
		for i := r.from; i < r.to; i++ {
			sum += labels[i].y - float64(i-r.from)*spacing
		}
		high := bottom - float64(r.to-r.from-1)*spacing
		return max(top, min(high, sum/float64(r.to-r.from)))
	}
	for i := range labels {
		runs = append(runs, run{i, i + 1})
		for len(runs) > 1 {
			last, before := runs[len(runs)-1], runs[len(runs)-2]
			if place(before)+float64(before.to-before.from)*spacing <= place(last) {
				break
			}
			runs = append(runs[:len(runs)-2], run{before.from, last.to})
		}
	}
	for _, r := range runs {
		first := place(r)
		for i := r.from; i < r.to; i++ {
			labels[i].at = first + float64(i-r.from)*spacing
		}
	}
}

// column draws labels and their leader lines; side is -1 for texts that end at x, 1 for texts that begin there.
func (s *sheet) column(labels []label, x, side float64) {
	anchor := "start"
	if side < 0 {
		anchor = "end"
	}
	for _, l := range labels {
		class := "leader"
		if l.chosen {
			class += " chosen"
		}
		dot := l.x + side*l.inset
		s.el("path", "class", class, "d", path("M", dot, l.y, "L", x-side*12, l.at-4, "H", x-side*4))
		if !l.plain {
			s.el("circle", "class", "leader-dot", "cx", dot, "cy", l.y, "r", 1.7)
		}
		s.text(x, l.at, class+"-word", l.words, "text-anchor", anchor, "data-item", l.item)
	}
}

// clipped shortens a name that is wider than its column. 4.9 pixels is a little more than the mean advance of the
// label face at its size, measured over the names of the demo kit.
func clipped(words string, width float64) string {
	most := int(width / 4.9)
	if runes := []rune(words); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return words
}
