package stuff

import "math/bits"

// FillLine is the layer above the highest cell that anything owns.
func (t *Trial) FillLine() int {
	for k := t.space.Solid.Size[2] - 1; k >= 0; k-- {
		for _, owner := range t.Owner[t.space.columns*k : t.space.columns*(k+1)] {
			if owner >= 0 {
				return k + 1
			}
		}
	}
	return 0
}

// Hollow is a patch of covered air: its cells and their middle, in cells of the grid.
type Hollow struct {
	Cells  int
	Middle [3]float64
}

// Hollows finds the patches of air that have something above them, largest first in the order of the grid, with at
// least the given number of cells. total counts every covered cell of layers from up to, but not with, to.
func (t *Trial) Hollows(from, to, least int) (patches []Hollow, total int) {
	columns := t.space.columns
	covered := make([]bool, len(t.Owner))
	for c := range columns {
		under := false
		for k := to - 1; k >= from; k-- {
			cell := c + columns*k
			switch {
			case t.Owner[cell] >= 0:
				under = true
			case t.Owner[cell] == Air && under:
				covered[cell] = true
				total++
			}
		}
	}
	for start := range covered {
		var patch Hollow
		t.flood(start, covered, func(x, y, k int) {
			patch.Cells++
			for axis, v := range [3]int{x, y, k} {
				patch.Middle[axis] += float64(v) + 0.5
			}
		})
		if patch.Cells > 0 && patch.Cells >= least {
			for axis := range patch.Middle {
				patch.Middle[axis] /= float64(patch.Cells)
			}
			patches = append(patches, patch)
		}
	}
	return patches, total
}

// flood visits the marked cells that hang together with one of them by their faces, and takes their marks away.
func (t *Trial) flood(start int, marked []bool, visit func(x, y, z int)) {
	if !marked[start] {
		return
	}
	size, columns := t.space.Solid.Size, t.space.columns
	marked[start] = false
	t.stack = append(t.stack[:0], start)
	for len(t.stack) > 0 {
		cell := t.stack[len(t.stack)-1]
		t.stack = t.stack[:len(t.stack)-1]
		x, y, k := cell%size[0], cell/size[0]%size[1], cell/columns
		visit(x, y, k)
		for _, near := range [6]struct {
			in   bool
			cell int
		}{{x > 0, cell - 1}, {x+1 < size[0], cell + 1}, {y > 0, cell - size[0]}, {y+1 < size[1], cell + size[0]}, {k > 0,
			cell - columns}, {k+1 < size[2], cell + columns}} {
			if near.in && marked[near.cell] {
				marked[near.cell] = false
				t.stack = append(t.stack, near.cell)
			}
		}
	}
}

// each visits every owned cell in the order of the grid.
func (t *Trial) each(visit func(owner int16, x, y, z int)) {
	size, cell := t.space.Solid.Size, 0
	for z := range size[2] {
		for y := range size[1] {
			for x := range size[0] {
				if owner := t.Owner[cell]; owner >= 0 {
					visit(owner, x, y, z)
				}
				cell++
			}
		}
	}
}

// Bounds gives, for each of a number of things, the box round its cells; empty for what owns none.
func (t *Trial) Bounds(things int) []Box {
	list := make([]Box, things)
	t.each(func(owner int16, x, y, z int) {
		b, at := &list[owner], [3]int{x, y, z}
		if b.Max[2] == 0 {
			b.Min = at
		}
		for axis := range at {
			b.Min[axis], b.Max[axis] = min(b.Min[axis], at[axis]), max(b.Max[axis], at[axis]+1)
		}
	})
	return list
}

// Set is a set of things.
type Set []uint64

func newSet(n int) Set { return make(Set, (n+63)/64) }

// Has reports whether thing i is in the set.
func (s Set) Has(i int) bool { return s[i/64]>>(i%64)&1 == 1 }

// Len counts the things in the set.
func (s Set) Len() (n int) {
	for _, word := range s {
		n += bits.OnesCount64(word)
	}
	return n
}

func (s Set) add(i int) { s[i/64] |= 1 << (i % 64) }
