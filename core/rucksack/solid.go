package rucksack

import "math"

// Cells counts cells along x, y and z.
type Cells [3]int

// Total is the number of cells.
func (c Cells) Total() int { return c[0] * c[1] * c[2] }

// Solid is the inside of body, bottom compartment and collar on a grid of cubes. Cell (i, j, k) stands at index
// i + Size[0]*(j + Size[1]*k); its lower corner lies at Origin plus (i, j, k) times CellCm, in the pack frame.
type Solid struct {
	CellCm float64
	Origin [3]float64
	Size   Cells
	Inside []bool
	Floor  int // the layer at which the body begins; the bottom compartment lies below
}

// litres is the volume of one cell.
func (s *Solid) litres() float64 { return s.CellCm * s.CellCm * s.CellCm / 1000 }

// Litres is the volume of the cells in layers from up to, but not with, to.
func (s *Solid) Litres(from, to int) float64 {
	n, layer := 0, s.Size[0]*s.Size[1]
	for _, in := range s.Inside[from*layer : to*layer] {
		if in {
			n++
		}
	}
	return float64(n) * s.litres()
}

// Solid builds the grid at the given cell size: 1 cm to confirm, coarser to search. A box form has exactly its size,
// in whole cells. A rounded form has its front corners rounded, with a radius of a quarter of the width, and narrows
// to narrowestShare of its width at the foot of the pack; where litres are stated its depth is scaled until the cells
// make them. The collar goes on upward from the top of the body.
func (p *Pack) Solid(cellCm float64) *Solid {
	body, bottom := p.Of(Body), p.Of(Bottom)
	bodyForm := newForm(body, bottom == nil, cellCm)
	forms := []*form{bodyForm}
	floor := 0
	if bottom != nil {
		bottomForm := newForm(bottom, true, cellCm)
		floor = bottomForm.layers
		forms = []*form{bottomForm, bodyForm}
	}
	s := &Solid{CellCm: cellCm, Floor: floor}
	for _, f := range forms {
		s.Size[0] = max(s.Size[0], f.across)
		s.Size[1] = max(s.Size[1], f.deepest())
		s.Size[2] += f.layers + f.collar
	}
	s.Origin[0] = -float64(s.Size[0]) * cellCm / 2
	s.Inside = make([]bool, s.Size.Total())
	layer := 0
	for _, f := range forms {
		for k := range f.layers + f.collar {
			for i := range s.Size[0] {
				x := s.Origin[0] + (float64(i)+0.5)*cellCm
				for j := range f.depthAt(x, k, f.depth) {
					s.Inside[i+s.Size[0]*(j+s.Size[1]*layer)] = true
				}
			}
			layer++
		}
	}
	return s
}

// narrowestShare is the width at the foot of a rounded form, as a share of its full width.
const narrowestShare = 0.9

// form is the shape of one solid zone, in cells of its grid.
type form struct {
	cell           float64
	width, depth   float64 // cm
	layers, collar int
	across         int
	rounded        bool
	tapered        bool
}

func newForm(z *Zone, lowest bool, cellCm float64) *form {
	f := &form{cell: cellCm, width: z.SizeCm[0], depth: z.SizeCm[1], rounded: z.Form != "box", tapered: lowest}
	f.layers = max(1, whole(z.SizeCm[2]/cellCm))
	f.collar = whole((z.SizeCm[2]+z.CollarCm)/cellCm) - f.layers
	f.across = max(1, whole(z.SizeCm[0]/cellCm))
	if f.rounded && z.VolumeL > 0 {
		f.scaleDepth(z.VolumeL)
	}
	return f
}

// whole counts the whole cells in a length; a hair is forgiven.
func whole(cells float64) int { return int(math.Floor(cells + 1e-6)) }

// deepest is the number of cells from the back panel to the furthest point of the front.
func (f *form) deepest() int { return max(1, f.depthAt(0, f.layers, f.depth)) }

// depthAt is the number of cells from the back panel to the front at x, in a layer of the form.
func (f *form) depthAt(x float64, layer int, depth float64) int {
	if !f.rounded {
		if math.Abs(x) > float64(f.across)*f.cell/2 {
			return 0
		}
		return whole(depth / f.cell)
	}
	half := f.width / 2
	if f.tapered {
		half *= narrowestShare + (1-narrowestShare)*min(1, 2*(float64(layer)+0.5)/float64(f.layers))
	}
	if math.Abs(x) > half {
		return 0
	}
	radius := min(f.width/4, depth)
	if over := math.Abs(x) - (half - radius); over > 0 {
		depth -= radius - math.Sqrt(max(0, radius*radius-over*over))
	}
	return int(depth/f.cell + 0.5) // cells whose middle is inside
}

// count is the number of cells below the collar at a depth.
func (f *form) count(depth float64) int {
	inLayer := func(layer int) (n int) {
		for i := range f.across {
			n += f.depthAt((float64(i)+0.5-float64(f.across)/2)*f.cell, layer, depth)
		}
		return n
	}
	straight := 0 // the first layer from which on all are alike
	if f.tapered {
		straight = (f.layers + 1) / 2
	}
	n := 0
	for layer := range straight {
		n += inLayer(layer)
	}
	return n + (f.layers-straight)*inLayer(f.layers-1)
}

// scaleDepth finds the depth at which the cells make the stated litres, to within a layer of cells.
func (f *form) scaleDepth(litres float64) {
	want := int(litres*1000/(f.cell*f.cell*f.cell) + 0.5)
	low, high := 0.0, f.depth+f.cell
	for f.count(high) < want && high < 40*f.depth {
		high *= 1.5
	}
	for range 40 {
		middle := (low + high) / 2
		if f.count(middle) < want {
			low = middle
		} else {
			high = middle
		}
	}
	f.depth = high
	if above, below := f.count(high)-want, want-f.count(low); below < above {
		f.depth = low
	}
}
