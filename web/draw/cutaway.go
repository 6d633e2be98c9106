package draw

import (
	"fmt"
	"html/template"
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// Scene is what a cutaway shows.
type Scene struct {
	Pack    *rucksack.Pack
	Plan    *load.Plan
	Balance Balance
	Chosen  string // id of the item to bring out, "" for none
	View    View
	Plane   float64 // where the section lies, 0 to 1 through the pack; negative for the usual place
	Upto    int     // only the first so many steps are loaded; 0 for all
	Colour  Colour
	Rolls   []load.Roll            // liners, each rolled shut at its height
	Bags    map[kit.Piece]*dry.Bag // of things that lie in a dry bag
	Hidden  map[kit.Piece]bool     // out of the pack just now; those in body and bottom are air in its cells
	System  unit.System
	Name    func(*load.Placement) string
	Hatch   map[string]string // by item; when it is not nil, things that are not in it stay plain
}

// Balance is where the weight lies, for the side view: the centre in the pack frame, and the load band as heights, in
// centimetres.
type Balance struct {
	Centre    [3]float64
	Low, High float64
}

// View is a side from which the pack is seen.
type View string

// The views.
const (
	FromSide   View = "side"
	FromBehind View = "behind"
	FromAbove  View = "above"
)

// Views lists them.
var Views = []View{FromSide, FromBehind, FromAbove}

// ViewOf reads a view; anything unknown is from the side.
func ViewOf(word string) View {
	if v := View(word); v == FromBehind || v == FromAbove {
		return v
	}
	return FromSide
}

// The sheets in pixels: the large view between its two columns of labels, and the small one.
const (
	mainWidth    = 618.0
	sheetHeight  = 548.0
	labelColumn  = 138.0
	smallWidth   = 150.0
	smallHeight  = 262.0
	aboveHeight  = 120.0
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
	pockets     map[int]int16 // by cell of a pocket that lies in the body, the step of what is in it
	left, right []label
	height      float64        // of the sheet
	shown       map[int16]bool // owners that the section meets
}

// perspective is one view on the sheet: where u = 0, z = 0 of the pack lies in pixels and how large a centimetre is.
// From the side u is the pack's y, otherwise its x; from above its y stands for z.
type perspective struct {
	View
	k, u0, foot float64
	named       bool // names stand in the columns
}

func newCutaway(scene Scene) *cutaway {
	c := &cutaway{Scene: scene, body: scene.Pack.Of(rucksack.Body), byZone: map[string][]stuffing{},
		shown: map[int16]bool{}}
	if _, known := classWords[c.Colour]; !known {
		c.Colour = ByNeed
	}
	for i := range scene.Plan.Placed {
		p := &scene.Plan.Placed[i]
		if p.Inside == "" && p.Owner < 0 && !c.Hidden[p.Piece] && (c.Upto == 0 || i < c.Upto) {
			c.byZone[p.Zone.ID] = append(c.byZone[p.Zone.ID], stuffing{p, i + 1, p.VolumeL})
		}
	}
	c.pockets = c.inPockets()
	return c
}

// inPockets deals the cells of each pocket that lies in the body to the things in it: from below, by their litres.
func (c *cutaway) inPockets() map[int]int16 {
	steps := map[int]int16{}
	for _, pocket := range c.Plan.Cells.Pockets {
		things := c.byZone[pocket.Zone]
		litres := 0.0
		for _, th := range things {
			litres += th.litres
		}
		cells := slices.Clone(pocket.Cells)
		layer := c.Plan.Cells.Solid.Size[0] * c.Plan.Cells.Solid.Size[1]
		slices.SortStableFunc(cells, func(a, b int) int { return a/layer - b/layer })
		from, sum := 0, 0.0
		for _, th := range things {
			sum += th.litres
			to := int(math.Round(float64(len(cells)) * sum / max(litres, 1e-9)))
			for _, cell := range cells[from:to] {
				steps[cell] = int16(th.step)
			}
			from = to
		}
	}
	return steps
}

// pocketOwner marks the owner of a cell of a pocket; the step of the thing comes on top.
const pocketOwner = 1 << 13

// Drawing is a cutaway, where it is cut, and the names of the things in body and bottom that the cut does not meet.
type Drawing struct {
	SVG    template.HTML
	Missed []string
	Plane  float64 // where the section lies, 0 to 1 through the pack
}

// Cutaway draws the pack cut open along a plane, every thing in its place in the trial packing and its name in a
// column beside it. Pockets, which are not packed on cells, show their things stacked in loading order, each with its
// own volume but not its own shape.
func Cutaway(scene Scene) Drawing {
	c := newCutaway(scene)
	c.begin("cutaway", mainWidth, sheetHeight,
		fmt.Sprintf("%s cut open, %s, %d things in loading order; the list beside it says the same in words.",
			scene.Pack.Name, viewWords[c.View], len(scene.Plan.Placed)))
	c.draw(c.place(c.View, labelColumn, mainWidth-labelColumn, topMargin, sheetHeight-footMargin, true))
	c.settle(mainWidth)
	c.close("svg")
	plane := (float64(c.planeOf(c.View)) + 0.5) / float64(c.Plan.Cells.Solid.Size[cutAxis[c.View]])
	return Drawing{template.HTML(c.String()), c.missed(), plane} //nolint:gosec // built from escaped parts
}

// Small draws the same small and without names, for a link to that view.
func Small(scene Scene) template.HTML {
	c := newCutaway(scene)
	height := smallHeight
	if c.View == FromAbove {
		height = aboveHeight
	}
	c.begin("cutaway-small", smallWidth, height, "The pack "+viewWords[c.View])
	c.draw(c.place(c.View, 4, smallWidth-4, 4, height-footMargin, false))
	c.close("svg")
	return template.HTML(c.String()) //nolint:gosec // built from escaped parts
}

var viewWords = map[View]string{FromSide: "from the side", FromBehind: "from behind", FromAbove: "from above"}

func (c *cutaway) begin(class string, width, height float64, title string) {
	c.height = height
	c.open("svg", "class", "cutaway "+class, "viewBox", path(0, 0, width, height), "role", "img", "aria-label", title)
}

// deep is the depth of the solid in centimetres.
func (c *cutaway) deep() float64 {
	solid := c.Plan.Cells.Solid
	return float64(solid.Size[1]) * solid.CellCm
}

// draw draws the whole pack in one view.
func (c *cutaway) draw(v perspective) {
	if v.View == FromAbove {
		c.solid(v)
		caption := viewWords[FromAbove]
		if v.named {
			caption += ", " + c.System.Length(float64(c.planeOf(FromAbove))*c.Plan.Cells.Solid.CellCm) + " up, the spine below"
		}
		c.text(v.u0, c.height-5, "caption", caption, "text-anchor", "middle")
		return
	}
	wide, from := c.deep(), 0.0
	if v.View == FromBehind {
		wide = c.body.SizeCm[0]
		from = -wide / 2
	}
	top := c.Pack.HeightCm()
	left, right := v.u0+from*v.k, v.u0+(from+wide)*v.k
	if v.View == FromSide {
		c.harness(v, top)
	}
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, v.View)
		if !drawn || z.InBody() {
			continue
		}
		switch z.Kind {
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
	c.solid(v)
	if floor := c.Pack.FloorCm(c.body); floor > 0 {
		class := "divider"
		if c.Plan.Open {
			class = "divider open"
		}
		c.el("path", "class", class, "d", path("M", left, v.foot-floor*v.k, "H", right))
	}
	c.el("path", "class", "collar", "d", path("M", left-4, v.foot-(top-c.body.CollarCm)*v.k, "H", right+4))
	for i := range c.Rolls {
		c.liner(&c.Rolls[i], left, right, v)
	}
	c.hollows(v)
	c.fillLine(left, right, v)
	c.balance(left, v)
	c.ghosts(left, right, v)
	caption := viewWords[v.View] + ", " + c.planeWords(v.View)
	if !v.named {
		caption = viewWords[v.View]
	}
	c.text((left+right)/2, c.height-5, "caption", caption, "text-anchor", "middle")
}

// planeWords says where the section lies.
func (c *cutaway) planeWords(view View) string {
	solid := c.Plan.Cells.Solid
	at := (float64(c.planeOf(view)) + 0.5) * solid.CellCm
	if view == FromBehind {
		return c.System.Length(math.Round(at)) + " from the spine"
	}
	at += solid.Origin[0]
	switch {
	case at > 0.9:
		return c.System.Length(math.Round(at)) + " right of the middle"
	case at < -0.9:
		return c.System.Length(math.Round(-at)) + " left of the middle"
	}
	return "on the midline"
}

// liner marks a bag inside its compartment, rolled shut above what is in it.
func (c *cutaway) liner(r *load.Roll, left, right float64, v perspective) {
	if c.Upto > 0 && c.Upto <= r.After {
		return // it stands open as yet
	}
	const in = 3
	y := v.foot - min(r.Cm+1, c.Pack.HeightCm())*v.k
	foot := v.foot
	if !c.Plan.Open {
		foot -= c.Pack.FloorCm(r.Zone) * v.k
	}
	c.el("path", "class", "liner", "d", path("M", left+in, y, "V", foot-in-2, "Q", left+in, foot-in, left+in+4, foot-in,
		"H", right-in-4,
		"Q", right-in, foot-in, right-in, foot-in-4, "V", y, "Z"))
	if v.named && r.Cm < c.Plan.FillCm-2 {
		c.right = append(c.right, label{words: "liner rolled " + c.System.Length(math.Round(r.Cm)), x: right - in, y: y,
			plain: true, fixed: 1})
	}
}

// hollows marks hollow spots near the section.
func (c *cutaway) hollows(v perspective) {
	if !v.named || c.Upto > 0 {
		return
	}
	axis, across := 0, 1
	if v.View == FromBehind {
		axis, across = 1, 0
	}
	solid := c.Plan.Cells.Solid
	plane := solid.Origin[axis] + (float64(c.planeOf(v.View))+0.5)*solid.CellCm
	for _, h := range c.Plan.Hollows {
		if math.Abs(h.AtCm[axis]-plane) > 4 {
			continue
		}
		x, y, r := v.u0+h.AtCm[across]*v.k, v.foot-h.AtCm[2]*v.k, math.Cbrt(h.Litres*1000)/2*v.k
		c.el("circle", "class", "hollow", "cx", x, "cy", y, "r", max(r, 5))
		c.left = append(c.left, label{words: "hollow, " + c.System.Volume(h.Litres), x: x, y: y, plain: true})
	}
}

// balance marks the load band, the middle of the weight and its lever to the back panel.
func (c *cutaway) balance(left float64, v perspective) {
	if v.View != FromSide || c.Upto > 0 || c.Balance.High == 0 {
		return
	}
	low, high := v.foot-c.Balance.Low*v.k, v.foot-c.Balance.High*v.k
	x, y := v.u0+c.Balance.Centre[1]*v.k, v.foot-c.Balance.Centre[2]*v.k
	c.el("rect", "class", "band", "x", left-11, "y", high, "width", 5, "height", low-high)
	c.el("path", "class", "lever", "d", path("M", left-6, y, "H", x))
	r := max(5, 1.3*v.k)
	c.el("circle", "class", "centre", "cx", x, "cy", y, "r", r)
	c.el("path", "class", "centre-quarter", "d", path("M", x, y, "V", y-r, "A", r, r, 0, 0, 1, x+r, y, "Z", "M", x, y,
		"V", y+r, "A", r, r, 0, 0, 1, x-r, y, "Z"))
	if v.named {
		c.left = append(c.left, label{words: "weight, " + c.System.Length(math.Round(c.Balance.Centre[1])) + " out",
			x: left - 8, y: y, plain: true, chosen: true, fixed: -1})
	}
}

// overflow is how high what is left out would stand above the closing line, in centimetres.
func (c *cutaway) overflow() float64 {
	litres := 0.0
	for _, l := range c.Plan.LeftOut {
		litres += l.Piece.Shape.Litres(1)
	}
	return min(30, litres*1000/(c.body.SizeCm[0]*c.body.SizeCm[1]))
}

// ghosts draws what is left out above the closing line, as high as it would stand there.
func (c *cutaway) ghosts(left, right float64, v perspective) {
	if len(c.Plan.LeftOut) == 0 {
		return
	}
	var things []stuffing
	litres := 0.0
	placements := make([]load.Placement, len(c.Plan.LeftOut))
	for i, l := range c.Plan.LeftOut {
		placements[i] = load.Placement{Piece: l.Piece, Zone: c.body, Owner: -1}
		t := stuffing{&placements[i], 0, l.Piece.Shape.Litres(1)}
		things = append(things, t)
		litres += t.litres
	}
	base := v.foot - (c.Pack.HeightCm()+c.lidHeight()+2)*v.k
	across := (right - left) / v.k
	area := litres * 1000 / max(c.overflow(), 0.1)
	for _, cell := range rows(things, across, area, v.View == FromBehind) {
		x, y, w, h := left+cell.u*v.k, base-(cell.v+cell.dv)*v.k, cell.du*v.k, cell.dv*v.k
		c.el("rect", "class", "ghost", "x", x, "y", y, "width", max(w-1, 1), "height", max(h-1, 1), "rx", 3)
		if v.named {
			c.left = append(c.left, label{words: clipped("out: "+c.Name(cell.entry), labelColumn-14), x: x + w/2, y: y + h/2,
				chosen: true, item: cell.entry.Piece.ID})
		}
	}
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

// fillLine marks how high the body is filled, and the closing line.
func (c *cutaway) fillLine(left, right float64, v perspective) {
	if c.Upto > 0 || c.Plan.FillCm <= c.Pack.FloorCm(c.body) {
		return
	}
	y := v.foot - c.Plan.FillCm*v.k
	c.el("path", "class", "fill-line", "d", path("M", left-5, y, "H", right+5))
	if v.named {
		c.right = append(c.right, label{words: "filled to " + c.System.Length(math.Round(c.Plan.FillCm)), x: right + 5,
			y: y, chosen: true, plain: true, fixed: 1})
		if top := c.Pack.HeightCm(); top-c.Plan.FillCm > 3 {
			c.right = append(c.right, label{words: "closing line " + c.System.Length(top), x: right, y: v.foot - top*v.k,
				plain: true, fixed: 1})
		}
	}
}
