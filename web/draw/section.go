package draw

import (
	"fmt"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/stuff"
)

// section is a plane through the cells of a trial packing: what each thing shows of itself there.
type section struct {
	wide, high int
	masks      map[int16]*mask
	inside     *mask
	owners     []int16 // that the plane meets, in order of the cells
}

// cut takes the section of a view at a plane, counted in cells: from the side at an x, from behind at a y, from above
// at a z.
func (c *cutaway) cut(view View, plane int) *section {
	cells := c.Plan.Cells
	size := cells.Solid.Size
	s := &section{masks: map[int16]*mask{}}
	var index func(u, v int) int
	layer := size[0] * size[1]
	switch view {
	case FromSide:
		s.wide, s.high = size[1], size[2]
		index = func(u, v int) int { return plane + size[0]*u + layer*v }
	case FromBehind:
		s.wide, s.high = size[0], size[2]
		index = func(u, v int) int { return u + size[0]*plane + layer*v }
	default:
		s.wide, s.high = size[0], size[1]
		index = func(u, v int) int { return u + size[0]*v + layer*plane }
	}
	s.inside = newMask(s.wide, s.high)
	for v := range s.high {
		for u := range s.wide {
			cell := index(u, v)
			s.inside.in[u+s.wide*v] = cells.Solid.Inside[cell]
			owner := cells.Owner[cell]
			if step, in := c.pockets[cell]; in {
				owner = pocketOwner + step
			}
			if owner < 0 {
				continue
			}
			m := s.masks[owner]
			if m == nil {
				m = newMask(s.wide, s.high)
				s.masks[owner] = m
				s.owners = append(s.owners, owner)
			}
			m.in[u+s.wide*v] = true
		}
	}
	return s
}

// cutAxis is the axis of the pack frame across which a view is cut.
var cutAxis = map[View]int{FromSide: 0, FromBehind: 1, FromAbove: 2}

// planeOf is the plane of a view in cells: the one asked for, else through the middle of the thing that is chosen or
// just being loaded, else the midline, or a third of the pack's depth.
func (c *cutaway) planeOf(view View) int {
	solid := c.Plan.Cells.Solid
	axis := cutAxis[view]
	plane := solid.Size[axis] / 2
	focus := c.focus()
	switch {
	case c.Plane >= 0 && view == c.View:
		plane = int(float64(solid.Size[axis]) * c.Plane)
	case focus != nil:
		plane = int((focus.MiddleCm[axis] - solid.Origin[axis]) / solid.CellCm)
	case view == FromAbove:
		plane = int(float64(solid.Size[2]) * 0.45)
	case view == FromBehind:
		plane = solid.Size[1] / 3
	}
	return min(max(plane, 0), solid.Size[axis]-1)
}

// focus is the thing in body or bottom that is being loaded, else the chosen one; nil when there is none.
func (c *cutaway) focus() *load.Placement {
	for i := range c.Plan.Placed {
		p := &c.Plan.Placed[i]
		if p.Owner > stuff.Air && (c.Upto == i+1 || c.Upto == 0 && c.Chosen != "" && p.Piece.ID == c.Chosen) {
			return p
		}
	}
	return nil
}

// solid draws the trial packing in a view and notes the names of what it shows.
func (c *cutaway) solid(v perspective) {
	s := c.cut(v.View, c.planeOf(v.View))
	solid := c.Plan.Cells.Solid
	axis := 0
	if v.View == FromSide {
		axis = 1
	}
	place := func(p point) (x, y float64) {
		return v.u0 + (solid.Origin[axis]+p.x*solid.CellCm)*v.k, v.foot - p.y*solid.CellCm*v.k
	}
	c.el("path", "class", "shell", "d", smoothPath(s.inside.contours(3, 0.45), place))
	byOwner := map[int16]int{}
	for i := range c.Plan.Placed {
		if owner := c.ownerOf(i); owner > stuff.Air {
			byOwner[owner] = i
		}
	}
	slices.SortFunc(s.owners, func(a, b int16) int { return byOwner[a] - byOwner[b] })
	for _, owner := range s.owners {
		i, known := byOwner[owner]
		if !known || c.Upto > 0 && i+1 > c.Upto {
			continue
		}
		c.cutThing(s.masks[owner], i, place, v)
		c.shown[owner] = true
	}
	c.bags(s, byOwner, place, v)
}

// ownerOf is the number of the thing of a placement in the cells that are drawn; stuff.Air for one that has none.
func (c *cutaway) ownerOf(placement int) int16 {
	p := &c.Plan.Placed[placement]
	switch {
	case p.Inside != "":
		return stuff.Air
	case p.Zone.InBody():
		return pocketOwner + int16(placement+1)
	}
	return p.Owner
}

// bags draws round what a section meets of each dry bag.
func (c *cutaway) bags(s *section, byOwner map[int16]int, place func(point) (float64, float64), v perspective) {
	masks := map[*dry.Bag]*mask{}
	var order []*dry.Bag
	for _, owner := range s.owners {
		i, known := byOwner[owner]
		if !known || c.Upto > 0 && i+1 > c.Upto {
			continue
		}
		bag := c.Bags[c.Plan.Placed[i].Piece]
		if bag == nil {
			continue
		}
		m := masks[bag]
		if m == nil {
			m = newMask(s.wide, s.high)
			masks[bag] = m
			order = append(order, bag)
		}
		for at, in := range s.masks[owner].in {
			m.in[at] = m.in[at] || in
		}
	}
	for _, bag := range order {
		m := masks[bag]
		c.el("path", "class", "bag-outline", "d", smoothPath(m.contours(2, 0.5), place))
		if v.named {
			_, right, _, high := m.bounds()
			x, y := place(point{float64(right) - 1, float64(high) - 0.5})
			c.right = append(c.right, label{words: clipped(bag.Name, labelColumn-14), x: x, y: y, plain: true})
		}
	}
}

// cutThing draws what a section shows of one thing.
func (c *cutaway) cutThing(m *mask, index int, place func(point) (float64, float64), v perspective) {
	p := &c.Plan.Placed[index]
	blurs, level := 4, 0.53
	if p.Piece.Shape.Rigid() {
		blurs, level = 1, 0.53
	} else if p.Piece.Shape.Kind == kit.Flat {
		blurs = 2
	}
	rings := m.contours(blurs, level)
	if len(rings) == 0 { // too thin to survive the blur
		rings = m.contours(1, 0.45)
	}
	largest := 0.0
	for _, r := range rings {
		largest = max(largest, area(r))
	}
	rings = slices.DeleteFunc(rings, func(r []point) bool { a := area(r); return a > 0 && a < 0.25 && a < largest })
	step := index + 1
	class := "thing"
	if p.Piece.ID == c.Chosen {
		class += " chosen"
	}
	c.open("g", "class", class, "data-item", p.Piece.ID, "data-step", step)
	c.open("path", "d", smoothPath(rings, place), "fill", c.fillOf(p))
	c.tooltip(step, p, p.VolumeL)
	c.close("path")
	at, depth := m.deepest()
	x, y := place(at)
	room := float64(2*depth-1) * v.k * c.Plan.Cells.Solid.CellCm
	numbered := room >= 13
	if numbered {
		c.numeral(step, x, y)
	}
	c.close("g")
	if v.named {
		l := label{words: clipped(c.Name(p), labelColumn-14), x: x, y: y, chosen: p.Piece.ID == c.Chosen, item: p.Piece.ID,
			plain: numbered}
		if numbered {
			l.inset = stepWidth(step) / 2
		}
		c.left = append(c.left, l)
	}
}

// missed names the things in body and bottom that the section does not meet.
func (c *cutaway) missed() []string {
	var names []string
	for i := range c.Plan.Placed {
		if owner := c.ownerOf(i); owner > stuff.Air && !c.shown[owner] && (c.Upto == 0 || i < c.Upto) {
			names = append(names, fmt.Sprintf("%d %s", i+1, c.Name(&c.Plan.Placed[i])))
		}
	}
	return names
}
