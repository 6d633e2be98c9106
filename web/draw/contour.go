package draw

import (
	"math"
	"strings"
)

// A mask is a raster of what belongs to a thing in a section, row by row from below.
type mask struct {
	wide, high int
	in         []bool
}

func newMask(wide, high int) *mask { return &mask{wide, high, make([]bool, wide*high)} }

func (m *mask) at(x, y int) bool {
	return x >= 0 && y >= 0 && x < m.wide && y < m.high && m.in[x+m.wide*y]
}

// Contours are found on a finer raster than the cells: fine parts a cell, blurred a number of times so that soft
// things look stuffed and the steps between cells go.
const fine = 3

// point is a place in cells of the mask.
type point struct{ x, y float64 }

// contours traces the outlines of a mask, blurred so many times. The level lies a little above one half, so that
// neighbours keep a hair's breadth apart. The raster is the part of the mask that is in use, with a margin of two
// fine parts all round.
func (m *mask) contours(blurs int, level float64) [][]point {
	const margin = 2
	left, right, low, high := m.bounds()
	if right < left {
		return nil
	}
	w, h := (right-left+1)*fine+2*margin, (high-low+1)*fine+2*margin
	field := make([]float64, w*h)
	for y := range h - 2*margin {
		for x := range w - 2*margin {
			if m.in[left+x/fine+m.wide*(low+y/fine)] {
				field[x+margin+w*(y+margin)] = 1
			}
		}
	}
	row := make([]float64, max(w, h))
	for range blurs {
		blur(field, row, w, h)
	}
	return trace(field, w, h, level, func(x, y float64) point {
		return point{float64(left) + (x-margin+0.5)/fine, float64(low) + (y-margin+0.5)/fine}
	})
}

// bounds are the first and last column and row in use; right is less than left for an empty mask.
func (m *mask) bounds() (left, right, low, high int) {
	left, right, low, high = m.wide, -1, m.high, -1
	for y := range m.high {
		for x := range m.wide {
			if m.in[x+m.wide*y] {
				left, right, low, high = min(left, x), max(right, x), min(low, y), max(high, y)
			}
		}
	}
	return left, right, low, high
}

// blur averages each value with its neighbours, weights 1 2 1 both ways; row is scratch room for a line.
func blur(field, row []float64, w, h int) {
	pass := func(start, stride, n int) {
		for k := range n {
			before, after := 0.0, 0.0
			if k > 0 {
				before = field[start+(k-1)*stride]
			}
			if k+1 < n {
				after = field[start+(k+1)*stride]
			}
			row[k] = (before + 2*field[start+k*stride] + after) / 4
		}
		for k := range n {
			field[start+k*stride] = row[k]
		}
	}
	for y := range h {
		pass(w*y, 1, w)
	}
	for x := range w {
		pass(x, w, h)
	}
}

// edge names a side of a raster square: the one below (x, y) going right, or the one left of it going up.
type edge struct {
	x, y int
	up   bool
}

// trace walks the lines on which a field has a level (marching squares) and gives them as closed rings, what is
// inside on the left.
func trace(field []float64, w, h int, level float64, place func(x, y float64) point) [][]point {
	next := map[edge]edge{}
	var starts []edge
	join := func(from, to edge) {
		next[from] = to
		starts = append(starts, from)
	}
	for y := 0; y+1 < h; y++ {
		for x := 0; x+1 < w; x++ {
			a, b, c, d := field[x+w*y] >= level, field[x+1+w*y] >= level, field[x+1+w*(y+1)] >= level, field[x+w*(y+1)] >= level
			below, right, above, left := edge{x, y, false}, edge{x + 1, y, true}, edge{x, y + 1, false}, edge{x, y, true}
			code := 0
			for bit, in := range [4]bool{a, b, c, d} {
				if in {
					code |= 1 << bit
				}
			}
			switch code {
			case 1:
				join(below, left)
			case 2:
				join(right, below)
			case 3:
				join(right, left)
			case 4:
				join(above, right)
			case 5:
				join(below, left)
				join(above, right)
			case 6:
				join(above, below)
			case 7:
				join(above, left)
			case 8:
				join(left, above)
			case 9:
				join(below, above)
			case 10:
				join(right, below)
				join(left, above)
			case 11:
				join(right, above)
			case 12:
				join(left, right)
			case 13:
				join(below, right)
			case 14:
				join(left, below)
			}
		}
	}
	var rings [][]point
	for _, start := range starts {
		var ring []point
		for at := start; ; {
			to, more := next[at]
			if !more {
				break
			}
			delete(next, at)
			ring = append(ring, crossing(field, w, at, level, place))
			at = to
		}
		if len(ring) > 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}

// crossing is where the field has the level on an edge.
func crossing(field []float64, w int, e edge, level float64, place func(x, y float64) point) point {
	from := field[e.x+w*e.y]
	x, y := float64(e.x), float64(e.y)
	if e.up {
		to := field[e.x+w*(e.y+1)]
		return place(x, y+share1(level-from, to-from))
	}
	to := field[e.x+1+w*e.y]
	return place(x+share1(level-from, to-from), y)
}

func share1(part, whole float64) float64 {
	if whole == 0 {
		return 0.5
	}
	return max(0, min(1, part/whole))
}

// area is the surface inside a ring, in square cells; holes are negative.
func area(ring []point) (sum float64) {
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		sum += p.x*q.y - q.x*p.y
	}
	return sum / 2
}

// smoothPath draws rings as curves through the middles of their sides, leaving out points that add nothing.
func smoothPath(rings [][]point, to func(point) (x, y float64)) string {
	var b strings.Builder
	for _, ring := range rings {
		ring = thin(ring)
		if len(ring) < 3 {
			continue
		}
		middle := func(i int) (float64, float64) {
			p, q := ring[i%len(ring)], ring[(i+1)%len(ring)]
			return to(point{(p.x + q.x) / 2, (p.y + q.y) / 2})
		}
		x, y := middle(0)
		b.WriteString(path("M", x, y))
		for i := 1; i <= len(ring); i++ {
			cx, cy := to(ring[i%len(ring)])
			x, y := middle(i)
			b.WriteString(path("Q", cx, cy, x, y))
		}
		b.WriteString("Z")
	}
	return b.String()
}

// thin leaves out points that lie within a small distance of the line through their neighbours.
func thin(ring []point) []point {
	const tolerance = 0.08
	var kept []point
	for i, p := range ring {
		if len(kept) == 0 {
			kept = append(kept, p)
			continue
		}
		a, b := kept[len(kept)-1], ring[(i+1)%len(ring)]
		length := math.Hypot(b.x-a.x, b.y-a.y)
		off := math.Abs((b.x-a.x)*(a.y-p.y) - (a.x-p.x)*(b.y-a.y))
		if length == 0 || off/length > tolerance || math.Hypot(p.x-a.x, p.y-a.y) > 3 {
			kept = append(kept, p)
		}
	}
	return kept
}

// deepest finds a place well inside a mask for a numeral or a dot: the cell furthest from any edge, ties to the
// middle.
func (m *mask) deepest() (p point, depth int) {
	var cx, cy, n float64
	for y := range m.high {
		for x := range m.wide {
			if m.in[x+m.wide*y] {
				cx, cy, n = cx+float64(x), cy+float64(y), n+1
			}
		}
	}
	if n == 0 {
		return p, 0
	}
	cx, cy = cx/n, cy/n
	best := math.Inf(1)
	for y := range m.high {
		for x := range m.wide {
			if !m.in[x+m.wide*y] {
				continue
			}
			d := m.inset(x, y)
			off := math.Hypot(float64(x)-cx, float64(y)-cy)
			if d > depth || d == depth && off < best {
				depth, best = d, off
				p = point{float64(x) + 0.5, float64(y) + 0.5}
			}
		}
	}
	return p, depth
}

// inset is how many cells a cell lies from the nearest one outside, at most three.
func (m *mask) inset(x, y int) int {
	for d := 1; d <= 3; d++ {
		for k := -d; k <= d; k++ {
			if !m.at(x+k, y-d) || !m.at(x+k, y+d) || !m.at(x-d, y+k) || !m.at(x+d, y+k) {
				return d
			}
		}
	}
	return 4
}
