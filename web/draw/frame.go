package draw

import "tornister/core/rucksack"

// extent is how far the pack reaches in a view, in centimetres: harness, pockets and straps in use included.
func (c *cutaway) extent(view View) (from, to, low, high float64) {
	if view == FromAbove {
		solid := c.Plan.Cells.Solid
		return solid.Origin[0] - 1, -solid.Origin[0] + 1, -2, float64(solid.Size[1])*solid.CellCm + 1
	}
	high = c.Pack.HeightCm() + 1.5
	from, to = -c.body.SizeCm[0]/2, c.body.SizeCm[0]/2
	if view == FromSide {
		from, to = 0, c.deep()+1
	}
	if over := c.overflow(); over > 0 {
		high = c.Pack.HeightCm() + c.lidHeight() + over + 4
	}
	for i := range c.Pack.Zones {
		z := &c.Pack.Zones[i]
		f, drawn := c.frameOf(z, view)
		if !drawn {
			continue
		}
		from, to = min(from, f.u), max(to, f.u+f.du)
		low, high = min(low, f.z), max(high, f.z+f.dz+1)
		for _, t := range c.byZone[z.ID] {
			high = max(high, f.z+f.dz+t.entry.OutCm+1)
		}
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
	deep, wide := c.deep(), c.body.SizeCm[0]
	floor, top := c.Pack.FloorCm(c.body), c.Pack.HeightCm()
	if view == FromAbove {
		return frame{}, false
	}
	used := len(c.byZone[z.ID]) > 0
	centred := max(0, z.AtCm[2]-z.SizeCm[2]/2)
	side := view == FromSide
	switch {
	case z.Kind == rucksack.Lid && side:
		return frame{0, top + 0.6, deep + 1, z.SizeCm[2]}, true
	case z.Kind == rucksack.Lid:
		return frame{-wide/2 - 0.5, top + 0.6, wide + 1, z.SizeCm[2]}, true
	case z.Kind == rucksack.Sleeve:
		return frame{0, floor, z.SizeCm[1], min(z.SizeCm[2], top-floor)}, side
	case z.Kind == rucksack.Inner:
		return frame{0.5, top - z.SizeCm[2], max(z.SizeCm[1], 2), z.SizeCm[2]}, side
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

// frontOf is the y at which straps over the front begin: over a front pocket.
func (c *cutaway) frontOf() float64 {
	y := c.deep() + 0.8
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
