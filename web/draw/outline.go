package draw

import "tornister/core/rucksack"

// pocketPath is the outline of a pocket: open above, round below.
func pocketPath(v perspective, f frame) string {
	x, y, w, h := v.u0+f.u*v.k, v.foot-(f.z+f.dz)*v.k, f.du*v.k, f.dz*v.k
	r := min(w, h) / 4
	return path("M", x, y, "H", x+w, "V", y+h-r, "Q", x+w, y+h+1, x+w-r, y+h+1, "H", x+r, "Q", x, y+h+1, x, y+h-r, "Z")
}

// lidPath is the outline of the lid pocket: flat below, vaulted above.
func lidPath(v perspective, f frame) string {
	x, base, w, h := v.u0+f.u*v.k, v.foot-f.z*v.k, f.du*v.k, f.dz*v.k
	return path("M", x-1, base+1, "C", x-3, base-h*0.7, x-2, base-h-4, x+w*0.18, base-h-4, "H", x+w*0.8,
		"C", x+w+2, base-h-4, x+w+3, base-h*0.6, x+w+1, base+1, "Z")
}

// straps draws what holds things outside.
func (c *cutaway) straps(z *rucksack.Zone, f frame, v perspective) {
	switch z.Face {
	case "front":
		for _, share := range []float64{0.22, 0.66} {
			y := v.foot - (f.z+f.dz*share)*v.k
			c.el("path", "class", "strap", "d", path("M", v.u0+c.deep()*v.k, y, "H", v.u0+(f.u+f.du)*v.k))
		}
	default:
		for _, share := range []float64{0.2, 0.8} {
			x := v.u0 + (f.u+f.du*share)*v.k
			c.el("path", "class", "strap", "d", path("M", x, v.foot-f.z*v.k, "V", v.foot-(f.z+f.dz)*v.k))
		}
	}
}

// harness draws the back panel, the shoulder strap and the hip belt at the left of the side view.
func (c *cutaway) harness(v perspective, topCm float64) {
	k, x := v.k, v.u0
	at := func(share float64) float64 { return v.foot - topCm*share*k }
	out := harnessWidth / 6 * k
	c.el("path", "class", "strap-outline", "d", path("M", x-3, at(0.86), "C", x-out*0.9, at(0.8), x-out*0.95, at(0.3),
		x-5, at(0.14)))
	c.el("path", "class", "panel", "d", path("M", x-4, at(0.9), "C", x-7, at(0.55), x-1, at(0.35), x-4, at(0.03)))
	c.el("path", "class", "pocket", "d", path("M", x-4, at(0.16), "C", x-out*0.5, at(0.15), x-out, at(0.11), x-out,
		at(0.1),
		"C", x-out*0.8, at(0.06), x-out*0.4, at(0.07), x-4, at(0.08), "Z"))
}
