package draw

import (
	"fmt"
	"html/template"
	"math"

	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// Scene is what a cutaway shows.
type Scene struct {
	Pack   *rucksack.Pack
	Plan   *load.Plan
	Chosen string // id of the item to bring out, "" for none
	View   View
	System unit.System
	Name   func(*load.Placement) string
}

// View is a side from which the pack is seen.
type View string

// The two views.
const (
	FromSide   View = "side"
	FromBehind View = "behind"
)

// The sheets in pixels: the large view between its two columns of labels, and the small one.
const (
	mainWidth    = 618.0
	sheetHeight  = 566.0
	labelColumn  = 138.0
	smallWidth   = 150.0
	smallHeight  = 300.0
	harnessWidth = 44.0
	topMargin    = 12.0
	footMargin   = 22.0
	labelSpacing = 15.0
)

// cutaway is a drawing under way.
type cutaway struct {
	sheet
	Scene
	body        *rucksack.Zone
	byZone      map[string][]stuffing
	left, right []label
	height      float64 // of the sheet
}

// perspective is one view on the sheet: where u = 0, z = 0 of the pack lies in pixels and how large a centimetre is.
// From the side u is the pack's y, from behind its x.
type perspective struct {
	View
	k, u0, foot float64
	named       bool // names stand in the columns
}

func newCutaway(scene Scene) *cutaway {
	c := &cutaway{Scene: scene, body: scene.Pack.Of(rucksack.Body), byZone: map[string][]stuffing{}}
	if c.View != FromBehind {
		c.View = FromSide
	}
	for i := range scene.Plan.Placed {
		p := &scene.Plan.Placed[i]
		if p.Inside == "" {
			c.byZone[p.Zone.ID] = append(c.byZone[p.Zone.ID], stuffing{p, i + 1, p.VolumeL})
		}
	}
	return c
}

// Cutaway draws the pack cut open, seen from the side or from behind, with every thing in its zone in loading order and
// its name in a column beside it. The area of a thing, times the depth of the view, is its volume; its shape is not its
// real one.
func Cutaway(scene Scene) template.HTML {
	c := newCutaway(scene)
	c.begin("cutaway", mainWidth, sheetHeight, fmt.Sprintf("%s cut open, %s, %d things in loading order; the list beside it says the same in words.", scene.Pack.Name, viewWords[c.View], len(scene.Plan.Placed)))
	c.draw(c.place(c.View, labelColumn, mainWidth-labelColumn, topMargin, sheetHeight-footMargin, true))
	c.settle(mainWidth)
	c.close("svg")
	return template.HTML(c.String()) //nolint:gosec // built from escaped parts
}

// Small draws the same small and without names, for a link to that view.
func Small(scene Scene) template.HTML {
	c := newCutaway(scene)
	c.begin("cutaway-small", smallWidth, smallHeight, "The pack "+viewWords[c.View])
	c.draw(c.place(c.View, 4, smallWidth-4, 4, smallHeight-footMargin, false))
	c.close("svg")
	return template.HTML(c.String()) //nolint:gosec // built from escaped parts
}

var viewWords = map[View]string{FromSide: "from the side", FromBehind: "from behind"}

// Other is the view that is not the given one.
func Other(v View) View {
	if v == FromBehind {
		return FromSide
	}
	return FromBehind
}

func (c *cutaway) begin(class string, width, height float64, title string) {
	c.height = height
	c.open("svg", "class", "cutaway "+class, "viewBox", path(0, 0, width, height), "role", "img", "aria-label", title)
}

// extent is how far the pack reaches in a view, in centimetres: harness, pockets and straps in use included.
func (c *cutaway) extent(view View) (from, to, low, high float64) {
	high = c.Pack.HeightCm() + 1.5
	from, to = -c.body.SizeCm[0]/2, c.body.SizeCm[0]/2
	if view == FromSide {
		from, to = 0, c.body.SizeCm[1]+1
	}
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, view)
		if !drawn {
			continue
		}
		from, to = min(from, f.u), max(to, f.u+f.du)
		low, high = min(low, f.z), max(high, f.z+f.dz+1)
	}
	return from, to, low, high
}

// place fits a view between the given pixels.
func (c *cutaway) place(view View, left, right, top, bottom float64, named bool) perspective {
	from, to, low, high := c.extent(view)
	harness := 0.0
	if view == FromSide {
		harness = harnessWidth
	}
	k := (bottom - top) / (high - low)
	if wide := (right - left - 8) / (to - from + harness/6); wide < k {
		k = wide
	}
	harness *= k / 6
	slack := (right - left - harness - (to-from)*k) / 2
	return perspective{view, k, left + harness + slack - from*k, bottom + low*k, named}
}

// frame is a zone's rectangle in one view: its lower corner near u = -inf, and its sides, in centimetres.
type frame struct{ u, z, du, dz float64 }

// frameOf says where a zone is drawn in a view; drawn is false for zones that the view does not show.
func (c *cutaway) frameOf(z *rucksack.Zone, view View) (f frame, drawn bool) {
	deep, wide := c.body.SizeCm[1], c.body.SizeCm[0]
	floor, top := c.Pack.FloorCm(c.body), c.Pack.HeightCm()
	used := len(c.byZone[z.ID]) > 0
	centred := max(0, z.AtCm[2]-z.SizeCm[2]/2)
	side := view == FromSide
	switch {
	case z.Kind == rucksack.Body && side:
		sleeve := c.sleeveDepth()
		return frame{sleeve, floor, deep - sleeve, top - floor}, true
	case z.Kind == rucksack.Body:
		return frame{-wide / 2, floor, wide, top - floor}, true
	case z.Kind == rucksack.Bottom && side:
		return frame{0, 0, deep, z.SizeCm[2]}, true
	case z.Kind == rucksack.Bottom:
		return frame{-wide / 2, 0, wide, z.SizeCm[2]}, true
	case z.Kind == rucksack.Lid && side:
		return frame{0, top + 0.6, deep + 1, z.SizeCm[2]}, true
	case z.Kind == rucksack.Lid:
		return frame{-wide/2 - 0.5, top + 0.6, wide + 1, z.SizeCm[2]}, true
	case z.Kind == rucksack.Sleeve:
		return frame{0, floor, c.sleeveDepth(), min(z.SizeCm[2], top-floor)}, side && used
	case z.Kind == rucksack.Inner:
		return frame{0.5, top - c.body.CollarCm - z.SizeCm[2], max(z.SizeCm[1], 2), z.SizeCm[2]}, side && used
	case z.Kind == rucksack.Front:
		return frame{deep + 0.3, centred, z.SizeCm[1], z.SizeCm[2]}, side
	case z.Kind == rucksack.Straps && z.Face == "bottom":
		return frame{deep/2 - z.SizeCm[1]/2, -z.SizeCm[2], z.SizeCm[1], z.SizeCm[2]}, side && used
	case z.Kind == rucksack.Straps && z.Face == "front":
		return frame{c.frontOf(), centred, c.thickness(z), z.SizeCm[2]}, side && used
	case z.Kind == rucksack.Straps && z.Face == "top":
		return frame{0, top + c.lidHeight() + 1, z.SizeCm[1], z.SizeCm[2]}, side && used
	case z.Kind == rucksack.Side, z.Kind == rucksack.Long:
		f = frame{wide/2 + 0.3, centred, z.SizeCm[0], z.SizeCm[2]}
	case z.Kind == rucksack.Shoulder:
		f = frame{wide/2 + 1, top * 0.75, z.SizeCm[0], z.SizeCm[2]}
		if !used {
			return f, false
		}
	case z.Kind == rucksack.Hip:
		f = frame{wide/2 + 0.3, -4.5, min(z.SizeCm[0], wide/2), 4}
		if !used {
			return f, false
		}
	default:
		return frame{}, false
	}
	if z.Side == "left" {
		f.u = -f.u - f.du
	}
	return f, !side
}

// sleeveDepth is how far a filled sleeve comes out from the back panel.
func (c *cutaway) sleeveDepth() float64 {
	if sleeve := c.Pack.Of(rucksack.Sleeve); sleeve != nil && len(c.byZone[sleeve.ID]) > 0 {
		return min(sleeve.SizeCm[1], c.body.SizeCm[1]/3)
	}
	return 0
}

// frontOf is the y at which straps over the front begin: over a front pocket.
func (c *cutaway) frontOf() float64 {
	y := c.body.SizeCm[1] + 0.8
	if front := c.Pack.Of(rucksack.Front); front != nil {
		y += front.SizeCm[1]
	}
	return y
}

// thickness is how far what hangs on front straps stands out.
func (c *cutaway) thickness(z *rucksack.Zone) float64 {
	out := 2.0
	for _, t := range c.byZone[z.ID] {
		out = max(out, t.entry.Piece.Shape.Dimensions()[2])
	}
	return min(out, z.SizeCm[1])
}

func (c *cutaway) lidHeight() float64 {
	if lid := c.Pack.Of(rucksack.Lid); lid != nil {
		return lid.SizeCm[2]
	}
	return 0
}

// draw draws the whole pack in one view.
func (c *cutaway) draw(v perspective) {
	wide, from := c.body.SizeCm[1], 0.0
	if v.View == FromBehind {
		wide = c.body.SizeCm[0]
		from = -wide / 2
	}
	top := c.Pack.HeightCm()
	left, right := v.u0+from*v.k, v.u0+(from+wide)*v.k
	if v.View == FromSide {
		c.harness(v, top)
	}
	c.shell(left, right, v.foot-top*v.k, v.foot)
	filled := 0.0
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, v.View)
		if !drawn {
			continue
		}
		switch z.Kind {
		case rucksack.Body:
			filled = c.contents(z, f, v)
			continue
		case rucksack.Lid:
			c.el("path", "class", "pocket", "d", lidPath(v, f))
		case rucksack.Front, rucksack.Side, rucksack.Hip, rucksack.Long, rucksack.Shoulder:
			c.el("path", "class", "pocket", "d", pocketPath(v, f))
		}
		c.contents(z, f, v)
		if z.Kind == rucksack.Straps {
			c.straps(z, f, v)
		}
	}
	if floor := c.Pack.FloorCm(c.body); floor > 0 {
		c.el("path", "class", "divider", "d", path("M", left, v.foot-floor*v.k, "H", right))
	}
	c.el("path", "class", "collar", "d", path("M", left, v.foot-(top-c.body.CollarCm)*v.k, "H", right))
	c.fillLine(filled, left, right, v)
	c.text((left+right)/2, c.height-5, "caption", viewWords[v.View], "text-anchor", "middle")
}

// contents draws what lies in a zone and says how high it reaches.
func (c *cutaway) contents(z *rucksack.Zone, f frame, v perspective) (topCm float64) {
	things := c.byZone[z.ID]
	if len(things) == 0 {
		return f.z
	}
	litres := 0.0
	for _, t := range things {
		litres += t.litres
	}
	area := max(c.capacity(z), litres) * 1000 / f.dz
	for _, cell := range rows(things, f.du, area, v.View == FromBehind) {
		x, y := v.u0+(f.u+cell.u)*v.k, v.foot-(f.z+cell.v+cell.dv)*v.k
		w, h := cell.du*v.k, cell.dv*v.k
		c.thing(cell.stuffing, x, y, w, h)
		if v.named {
			c.name(cell.stuffing, x, y, w, h)
		}
		topCm = max(topCm, f.z+cell.v+cell.dv)
	}
	return topCm
}

// capacity is the litres of a zone after what draws on it.
func (c *cutaway) capacity(z *rucksack.Zone) float64 {
	for i := range c.Plan.Zones {
		if c.Plan.Zones[i].Zone.ID == z.ID {
			return c.Plan.Zones[i].CapacityL
		}
	}
	return z.CapacityL()
}

// stepWidth is the room a step's numeral takes in its thing, in pixels.
func stepWidth(step int) float64 { return 7*float64(len(fmt.Sprint(step))) + 3 }

// numbered reports whether the thing's numeral fits into its rectangle.
func numbered(t stuffing, w, h float64) bool { return h >= 13 && w >= stepWidth(t.step)+4 }

// thing draws one rectangle: round corners for what gives way, hard ones for what keeps its shape.
func (c *cutaway) thing(t stuffing, x, y, w, h float64) {
	piece := t.entry.Piece
	round := min(w/2, h/2, 5)
	if piece.Shape.Rigid() {
		round = min(w/2, h/2, 1)
	}
	class := "thing"
	if piece.ID == c.Chosen {
		class += " chosen"
	}
	c.open("g", "class", class, "data-item", piece.ID, "data-step", t.step)
	c.open("rect", "x", x+0.4, "y", y+0.4, "width", max(w-0.8, 0.4), "height", max(h-0.8, 0.4), "rx", round, "fill", "url(#hatch-"+string(piece.Use.When)+")")
	c.open("title")
	c.WriteString(template.HTMLEscapeString(fmt.Sprintf("%d  %s, %s, %s", t.step, c.Name(t.entry), c.System.Mass(piece.MassG), c.System.Volume(t.litres))))
	c.close("title")
	c.close("rect")
	if numbered(t, w, h) {
		wide := stepWidth(t.step)
		c.el("rect", "class", "step-ground", "x", x+w/2-wide/2, "y", y+h/2-6.5, "width", wide, "height", 13, "rx", 2)
		c.text(x+w/2, y+h/2+4, "step", fmt.Sprint(t.step), "text-anchor", "middle")
	}
	c.close("g")
}

// name notes a thing for the column on its side of the drawing. The dot keeps clear of the numeral.
func (c *cutaway) name(t stuffing, x, y, w, h float64) {
	l := label{words: clipped(c.Name(t.entry), labelColumn-14), x: x + w/2, y: y + h/2, chosen: t.entry.Piece.ID == c.Chosen, item: t.entry.Piece.ID}
	if numbered(t, w, h) {
		l.inset, l.plain = stepWidth(t.step)/2, true
		if w > stepWidth(t.step)+14 {
			l.inset, l.plain = w/2-5, false
		}
	}
	c.left = append(c.left, l)
}

// settle shares the labels between the columns, as evenly as their dots allow, and draws them.
func (c *cutaway) settle(right float64) {
	all := append(c.left, c.right...)
	c.left, c.right = share(all)
	spread(c.left, topMargin+8, sheetHeight-footMargin, labelSpacing)
	spread(c.right, topMargin+8, sheetHeight-footMargin, labelSpacing)
	c.column(c.left, labelColumn, -1)
	c.column(c.right, right-labelColumn, 1)
}

// fillLine marks how high the body is filled.
func (c *cutaway) fillLine(filled, left, right float64, v perspective) {
	if filled <= c.Pack.FloorCm(c.body) {
		return
	}
	y := v.foot - filled*v.k
	c.el("path", "class", "fill-line", "d", path("M", left-5, y, "H", right+5))
	if v.named {
		c.right = append(c.right, label{words: "filled to " + c.System.Length(math.Round(filled)), x: right + 5, y: y, chosen: true, plain: true, fixed: 1})
	}
}
