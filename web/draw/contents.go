package draw

import (
	"fmt"
	"html/template"
	"math"
	"tornister/core/load"
	"tornister/core/rucksack"
)

// contents draws what lies in a zone. What stands out of a pocket stands beside the rest, above its rim; a roll on
// straps across the pack is seen end-on.
func (c *cutaway) contents(z *rucksack.Zone, f frame, v perspective) {
	things := c.byZone[z.ID]
	if len(things) == 0 {
		return
	}
	litres := 0.0
	for _, t := range things {
		litres += t.litres
	}
	room := max(c.capacity(z), litres)
	var lying []stuffing
	for _, t := range things {
		if t.entry.OutCm <= 0 {
			lying = append(lying, t)
			continue
		}
		wide := f.du * t.litres / room
		c.named(t, v.u0+f.u*v.k, v.foot-(f.z+f.dz+t.entry.OutCm)*v.k, wide*v.k, (f.dz+t.entry.OutCm)*v.k, v)
		f.u, f.du, room = f.u+wide, f.du-wide, room-t.litres
	}
	across := z.Kind == rucksack.Straps && (z.Face == "top" || z.Face == "bottom")
	for _, cell := range rows(lying, f.du, room*1000/f.dz, v.View == FromBehind) {
		x, y := v.u0+(f.u+cell.u)*v.k, v.foot-(f.z+cell.v+cell.dv)*v.k
		w, h := cell.du*v.k, cell.dv*v.k
		if shape := cell.entry.Piece.Shape; across && shape.Round() {
			d := min(shape.DiameterCm*v.k, w)
			x, y, w, h = x+(w-d)/2, y+(h-d)/2, d, d
		}
		c.named(cell.stuffing, x, y, w, h, v)
	}
}

// named draws a thing and, where a view names them, its name.
func (c *cutaway) named(t stuffing, x, y, w, h float64, v perspective) {
	c.thing(t, x, y, w, h)
	if v.named {
		c.name(t, x, y, w, h)
	}
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
	switch endOn := piece.Shape.Round() && math.Abs(w-h) < 0.01; {
	case endOn:
		round = w / 2
	case piece.Shape.Rigid():
		round = min(w/2, h/2, 1)
	}
	class := "thing"
	if piece.ID == c.Chosen {
		class += " chosen"
	}
	c.open("g", "class", class, "data-item", piece.ID, "data-step", t.step)
	c.open("rect", "x", x+0.4, "y", y+0.4, "width", max(w-0.8, 0.4), "height", max(h-0.8, 0.4), "rx", round, "fill",
		c.fillOf(t.entry))
	c.tooltip(t.step, t.entry, t.litres)
	c.close("rect")
	if numbered(t, w, h) {
		c.numeral(t.step, x+w/2, y+h/2)
	}
	c.close("g")
}

// tooltip names a thing for those who rest on it.
func (c *cutaway) tooltip(step int, p *load.Placement, litres float64) {
	c.open("title")
	c.WriteString(template.HTMLEscapeString(fmt.Sprintf("%d  %s, %s, %s", step, c.Name(p), c.System.Mass(p.Piece.MassG),
		c.System.Volume(litres))))
	c.close("title")
}

// numeral writes a step's number on a quiet ground.
func (c *cutaway) numeral(step int, x, y float64) {
	wide := stepWidth(step)
	c.el("rect", "class", "step-ground", "x", x-wide/2, "y", y-6.5, "width", wide, "height", 13, "rx", 2)
	c.text(x, y+4, "step", fmt.Sprint(step), "text-anchor", "middle")
}

// name notes a thing for the column on its side of the drawing. The dot keeps clear of the numeral.
func (c *cutaway) name(t stuffing, x, y, w, h float64) {
	l := label{words: clipped(c.Name(t.entry), labelColumn-14), x: x + w/2, y: y + h/2,
		chosen: t.entry.Piece.ID == c.Chosen, item: t.entry.Piece.ID}
	if numbered(t, w, h) {
		l.inset, l.plain = stepWidth(t.step)/2, true
		if w > stepWidth(t.step)+14 {
			l.inset, l.plain = w/2-5, false
		}
	}
	c.left = append(c.left, l)
}
