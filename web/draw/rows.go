package draw

import (
	"tornister/core/job"
	"tornister/core/load"
)

// stuffing is a thing to be drawn inside a zone.
type stuffing struct {
	entry  *load.Placement
	step   int
	litres float64
}

// cell is a thing's rectangle in one view, in centimetres from the near lower corner of its zone: u across the view,
// v up. du times dv times the depth of the view is the thing's volume.
type cell struct {
	stuffing
	u, v, du, dv float64
}

// rowHeight is how high, in centimetres, a row should at least become before the next begins, so that small things
// stand side by side instead of lying as slivers.
const rowHeight = 3.2

// rows lays things out in loading order from the bottom up, side by side where they are small. across is the width of
// the view and area the horizontal section of the zone in square centimetres, so that every rectangle, taken through
// the depth of the zone, has the thing's own volume. behind arranges a row as seen from behind, else from the side
// with the spine on the left.
func rows(things []stuffing, across, area float64, behind bool) []cell {
	var cells []cell
	v := 0.0
	for start := 0; start < len(things); {
		end, litres := start, 0.0
		for end < len(things) && (litres*1000/area < rowHeight || sameRow(things[end-1], things[end])) && end-start < 5 {
			litres += things[end].litres
			end++
		}
		dv := litres * 1000 / area
		u := 0.0
		for _, t := range arranged(things[start:end], behind) {
			du := across * t.litres / litres
			cells = append(cells, cell{t, u, v, du, dv})
			u += du
		}
		v += dv
		start = end
	}
	return cells
}

// sameRow keeps a thing at the spine together with what lies in front of it.
func sameRow(a, b stuffing) bool {
	return a.entry.Lane == job.Back && b.entry.Lane == job.Front || a.entry.Lane == job.Front &&
		b.entry.Lane == job.Back
}

// arranged sorts a row by lane, spine first, for the side view; from behind the order of loading stands.
func arranged(row []stuffing, behind bool) []stuffing {
	if behind {
		return row
	}
	var back, middle, front []stuffing
	for _, t := range row {
		switch t.entry.Lane {
		case job.Back:
			back = append(back, t)
		case job.Front:
			front = append(front, t)
		default:
			middle = append(middle, t)
		}
	}
	return append(append(back, middle...), front...)
}
