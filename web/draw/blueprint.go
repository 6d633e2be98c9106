package draw

import (
	"fmt"
	"html/template"
	"math"

	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// The blueprint in pixels: two views between columns of names.
const (
	blueWidth  = 780.0
	blueHeight = 500.0
	blueNames  = 150.0
	blueMiddle = 404.0
)

// Blueprint draws an empty pack to scale, from the side and from behind, with its zones, their litres, and its
// measures; the zone with the id chosen is brought out.
func Blueprint(pack *rucksack.Pack, chosen string, system unit.System) template.HTML {
	empty := kit.Piece{Item: &kit.Item{}, Number: 1}
	plan := &load.Plan{Cells: &load.Cells{Solid: pack.Solid(1)}}
	scene := Scene{Pack: pack, Plan: plan, System: system, Chosen: chosen}
	c := newCutaway(scene)
	for i := range pack.Zones { // every zone is drawn as if it were full
		z := &pack.Zones[i]
		c.byZone[z.ID] = []stuffing{{&load.Placement{Piece: empty, Zone: z}, 0, z.CapacityL()}}
	}
	side := c.placed(FromSide, blueNames, blueMiddle-14)
	behind := c.placed(FromBehind, blueMiddle+14, blueWidth-blueNames)
	k := min(side.k, behind.k) // one scale for both, standing on one ground
	side, behind = c.scaled(side, k), c.scaled(behind, k)
	side.foot = min(side.foot, behind.foot)
	behind.foot = side.foot
	top := blueHeight
	for _, v := range []perspective{side, behind} {
		_, _, _, high := c.extent(v.View)
		top = min(top, v.foot-high*v.k-10)
	}
	c.open("svg", "class", "cutaway blueprint", "viewBox", path(0, top, blueWidth, blueHeight-top), "role", "img",
		"aria-label",
		fmt.Sprintf("%s drawn to scale, from the side and from behind; the table beside it has its measures.", pack.Name))
	c.blueView(side)
	c.blueView(behind)
	spread(c.left, top+topMargin, blueHeight-footMargin, labelSpacing)
	spread(c.right, top+topMargin, blueHeight-footMargin, labelSpacing)
	c.column(c.left, blueNames, -1)
	c.column(c.right, blueWidth-blueNames, 1)
	c.close("svg")
	return template.HTML(c.String()) //nolint:gosec // built from escaped parts
}

func (c *cutaway) placed(view View, left, right float64) perspective {
	c.height = blueHeight
	return c.place(view, left, right, topMargin+16, blueHeight-footMargin-22, true)
}

// scaled is the same view at another scale, its middle and its foot where they were.
func (c *cutaway) scaled(v perspective, k float64) perspective {
	from, to, low, _ := c.extent(v.View)
	middle := v.u0 + (from+to)/2*v.k
	foot := v.foot - low*v.k
	v.k = k
	v.u0 = middle - (from+to)/2*k
	v.foot = foot + low*k
	return v
}

// blueView draws one view: the zones, the solid's silhouette, the measures.
func (c *cutaway) blueView(v perspective) {
	if v.View == FromSide {
		c.harness(v, c.Pack.HeightCm())
	}
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, v.View)
		if !drawn {
			continue
		}
		x, y := v.u0+f.u*v.k, v.foot-(f.z+f.dz)*v.k
		class := "pocket"
		if z.ID == c.Chosen {
			class += " picked"
		}
		switch z.Kind {
		case rucksack.Lid:
			c.el("path", "class", class, "d", lidPath(v, f))
		case rucksack.Straps:
			c.el("rect", "class", "strap", "x", x, "y", y, "width", f.du*v.k, "height", f.dz*v.k, "fill", "none")
		case rucksack.Sleeve, rucksack.Inner: // drawn over the silhouette
		default:
			c.el("path", "class", class, "d", pocketPath(v, f))
		}
	}
	c.silhouette(v)
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, v.View)
		if drawn && z.InBody() {
			c.el("rect", "class", "strap", "x", v.u0+f.u*v.k, "y", v.foot-(f.z+f.dz)*v.k, "width", f.du*v.k, "height",
				f.dz*v.k, "fill", "none")
		}
		if z.Solid() {
			low := c.Pack.FloorCm(z)
			f, drawn = frame{-c.body.SizeCm[0] / 2, low, c.body.SizeCm[0], z.SizeCm[2]}, v.View == FromSide
			if drawn {
				f = frame{0, low, c.deep(), z.SizeCm[2]}
			}
		}
		if !drawn || v.View == FromBehind && z.Kind == rucksack.Lid {
			continue
		}
		words := z.Name
		if z.Kind != rucksack.Straps {
			words = fmt.Sprintf("%s, %s", z.Name, c.System.Volume(z.CapacityL()))
		}
		l := label{words: clipped(words, blueNames-10), chosen: z.ID == c.Chosen, x: v.u0 + (f.u+f.du/2)*v.k,
			y: v.foot - (f.z+f.dz/2)*v.k}
		if v.View == FromSide {
			c.left = append(c.left, l)
		} else {
			c.right = append(c.right, l)
		}
	}
	c.measures(v)
	c.text(v.u0+c.middleOf(v)*v.k, blueHeight-5, "caption", viewWords[v.View]+", to scale", "text-anchor", "middle")
}

func (c *cutaway) middleOf(v perspective) float64 {
	if v.View == FromSide {
		return c.deep() / 2
	}
	return 0
}

// silhouette is the outline of body, bottom and collar, layer by layer of their cells.
func (c *cutaway) silhouette(v perspective) {
	solid := c.Plan.Cells.Solid
	var near, far []float64
	for k := range solid.Size[2] {
		low, high := math.Inf(1), math.Inf(-1)
		for j := range solid.Size[1] {
			for i := range solid.Size[0] {
				if !solid.Inside[i+solid.Size[0]*(j+solid.Size[1]*k)] {
					continue
				}
				at := float64(j) * solid.CellCm
				if v.View == FromBehind {
					at = solid.Origin[0] + float64(i)*solid.CellCm
				}
				low, high = min(low, at), max(high, at+solid.CellCm)
			}
		}
		near, far = append(near, low), append(far, high)
	}
	parts := []any{"M"}
	y := func(k int) float64 { return v.foot - float64(k)*solid.CellCm*v.k }
	for k := range near {
		if k > 0 {
			parts = append(parts, "L")
		}
		parts = append(parts, v.u0+near[k]*v.k, y(k), "L", v.u0+near[k]*v.k, y(k+1))
	}
	for k := len(far) - 1; k >= 0; k-- {
		parts = append(parts, "L", v.u0+far[k]*v.k, y(k+1), "L", v.u0+far[k]*v.k, y(k))
	}
	c.el("path", "class", "shell", "d", path(append(parts, "Z")...))
	left, right := v.u0+near[len(near)-1]*v.k, v.u0+far[len(far)-1]*v.k
	if floor := c.Pack.FloorCm(c.body); floor > 0 {
		c.el("path", "class", "divider", "d", path("M", left, v.foot-floor*v.k, "H", right))
	}
	if c.body.CollarCm > 0 {
		y := v.foot - (c.Pack.HeightCm()-c.body.CollarCm)*v.k
		c.el("path", "class", "collar", "d", path("M", left, y, "H", right))
	}
	if v.View == FromSide {
		c.el("path", "class", "panel", "d", path("M", left, v.foot, "V", v.foot-c.Pack.HeightCm()*v.k))
	}
}

// measures writes how high, wide and deep the solid is.
func (c *cutaway) measures(v perspective) {
	from, wide := 0.0, c.deep()
	if v.View == FromBehind {
		wide = c.body.SizeCm[0]
		from = -wide / 2
	}
	left, right := v.u0+from*v.k, v.u0+(from+wide)*v.k
	y := v.foot + 14
	c.el("path", "class", "measure-line", "d", path("M", left, y-4, "V", y+4, "M", left, y, "H", right, "M", right, y-4,
		"V", y+4))
	c.text((left+right)/2, y+14, "caption", c.System.Length(math.Round(wide*10)/10), "text-anchor", "middle")
	if v.View == FromBehind {
		top := v.foot - c.Pack.HeightCm()*v.k
		middle := (left + right) / 2
		c.el("path", "class", "measure-line", "d", path("M", middle-4, top, "H", middle+4, "M", middle, top, "V", v.foot,
			"M", middle-4, v.foot, "H", middle+4))
		c.text(middle+5, (top+v.foot)/2, "caption", c.System.Length(c.Pack.HeightCm()))
	}
}
