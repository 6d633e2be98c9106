package stuff

import (
	"slices"
	"tornister/core/kit"
)

// Thing is what a trial needs to know of a piece, measured in cells of its space.
type Thing struct {
	Region       Region
	Poses        [][3]int // of a rigid thing: across, deep, high; none for a soft one
	Loose, Tight int      // cells of a soft thing
	Gap          int      // the narrowest gap it can be pushed into
	Wish         Wish
	Stand        *Stand  // of a rigid thing: the only place that is looked at, or nil
	Bag          int     // number of the bag it is in, from 1; 0 for none. Things of one bag go in as one
	Held         float64 // of a soft thing, the squeeze at which its bag holds it anyway
}

// Wish is where the plan would like a thing within its region.
type Wish struct {
	Deep   float64 // 0 at the spine, 1 at the front
	Across float64 // 0 left, 1 right
	Firm   float64 // how many cells of height one cell of distance is worth; 0 for anywhere
}

// Rigid reports whether the thing keeps its outside.
func (t *Thing) Rigid() bool { return t.Poses != nil }

// Cells is the room the thing takes at a squeeze; a bag holds it tighter than that if it is small.
func (t *Thing) Cells(squeeze float64) int {
	if t.Rigid() {
		p := t.Poses[0]
		return p[0] * p[1] * p[2]
	}
	return t.Loose - int(max(squeeze, t.Held)*float64(t.Loose-t.Tight)+0.5)
}

// Bulk is the cells of the thing, tight: a measure by which large things are packed first.
func (t *Thing) Bulk() int { return t.Cells(1) }

// Longest is the longest side of a rigid thing, in cells.
func (t *Thing) Longest() int {
	if !t.Rigid() {
		return 0
	}
	p := t.Poses[0]
	return max(p[0], p[1], p[2])
}

// Footprint is the largest side face of a rigid thing, in cells.
func (t *Thing) Footprint() int {
	if !t.Rigid() {
		return 0
	}
	p := t.Poses[0]
	return p[0] * p[1] * p[2] / min(p[0], p[1], p[2])
}

// ThingOf measures a shape for a space. Poses of the same width stand together, since they share a part of the work.
// Flat things stand against the back or front if they can.
func (s *Space) ThingOf(shape kit.Shape, region Region, wish Wish) Thing {
	t := Thing{Region: region, Wish: wish}
	if shape.Kind == kit.Soft {
		t.Loose, t.Tight = max(1, s.CellsOf(shape.LooseL)), max(1, s.CellsOf(shape.TightL))
		t.Gap = max(1, int(shape.GapCm/s.Solid.CellCm+0.5))
		return t
	}
	if boxes := shape.Pressed(); boxes != nil {
		cells := s.CellsOf(shape.Litres(0))
		for _, d := range boxes {
			long, wide := s.nearest(d[0]), s.nearest(d[1])
			s.stand(&t, long, wide, (cells+long*wide-1)/(long*wide))
		}
		slices.SortStableFunc(t.Poses, func(p, q [3]int) int { return p[0]*p[1]*p[2] - q[0]*q[1]*q[2] })
		return t
	}
	d := shape.Dimensions()
	a, b, c := s.SideOf(d[0]), s.SideOf(d[1]), s.SideOf(d[2]) // longest first
	if shape.Kind == kit.Flat {
		s.stands(&t, [][3]int{{b, c, a}, {a, c, b}, {a, b, c}, {b, a, c}, {c, a, b}, {c, b, a}})
	} else {
		s.stand(&t, a, b, c)
	}
	return t
}

// nearest is the number of cells nearest to a length that can be pressed to it.
func (s *Space) nearest(cm float64) int { return max(1, int(cm/s.Solid.CellCm+0.5)) }

// stand lets a thing of these sides stand and lie every way.
func (s *Space) stand(t *Thing, a, b, c int) {
	s.stands(t, [][3]int{{a, b, c}, {a, c, b}, {b, a, c}, {b, c, a}, {c, a, b}, {c, b, a}})
}

// stands adds the poses for which the pack is large enough; one of them even when it is too small for all, so that no
// trial will place the thing.
func (s *Space) stands(t *Thing, poses [][3]int) {
	for _, p := range poses {
		if p[0] <= s.Solid.Size[0] && p[1] <= s.Solid.Size[1] && p[2] <= s.Solid.Size[2] && !slices.Contains(t.Poses, p) {
			t.Poses = append(t.Poses, p)
		}
	}
	if t.Poses == nil {
		t.Poses = poses[:1]
	}
}
