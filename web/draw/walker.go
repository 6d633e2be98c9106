package draw

import (
	"fmt"
	"html/template"
	"math"

	"tornister/core/rucksack"
	"tornister/core/unit"
)

// Walker is who carries a pack, for a drawing from the side to scale.
type Walker struct {
	HeightCm, TorsoCm float64
	LeanDeg           float64
	Pack              *rucksack.Pack
	CentreCm          [3]float64 // of the pack and what is in it, in the pack frame
	System            unit.System
}

// Of a grown body, as shares of its height (Drillis and Contini 1966, from memory): hip joint, shoulder, chin; and
// the length from the seventh neck bone to the hip bones when it was not measured.
const (
	hipShare      = 0.53
	shoulderShare = 0.818
	headShare     = 0.065 // half its height
	torsoShare    = 0.285
	walkerWidth   = 300.0
	walkerHeight  = 330.0
)

// TorsoCm is the length of a back that was not measured.
func TorsoCm(heightCm float64) float64 { return math.Round(heightCm * torsoShare) }

// Carried draws a walker from the side to scale, leaning as far as the load asks, with the pack on the back, the
// heights of hip belt and shoulder, and where the weight lies.
func Carried(w Walker) template.HTML {
	var s sheet
	s.open("svg", "class", "walker", "viewBox", path(0, 0, walkerWidth, walkerHeight), "role", "img",
		"aria-label", fmt.Sprintf("The walker from the side, to scale, leaning %.0f degrees, with the pack", w.LeanDeg))
	top := w.HeightCm*1.06 + 6
	k := (walkerHeight - 40) / max(top, 120)
	ground, hipX := walkerHeight-24.0, walkerWidth*0.56
	hip := w.HeightCm * hipShare
	lean := w.LeanDeg * math.Pi / 180
	// at turns a point of the upright trunk, forward and up from the hip joint, about it. The walker looks to the
	// left.
	at := func(forward, up float64) (x, y float64) {
		f, u := forward*math.Cos(lean)+up*math.Sin(lean), up*math.Cos(lean)-forward*math.Sin(lean)
		return hipX - f*k, ground - (hip+u)*k
	}
	line := func(class string, points ...float64) {
		d := ""
		for i := 0; i < len(points); i += 2 {
			x, y := at(points[i], points[i+1])
			word := "L"
			if i == 0 {
				word = "M"
			}
			d += path(word, x, y) + " "
		}
		s.el("path", "class", class, "d", d)
	}
	s.el("path", "class", "way-rule", "d", path("M", 10, ground, "H", walkerWidth-10))
	foot := hipX - 3*k
	s.el("path", "class", "walker-limb", "d", path("M", hipX, ground-hip*k, "L", foot, ground-hip*k*0.48, "L", foot+2*k,
		ground))
	shoulder := w.HeightCm*shoulderShare - hip
	line("walker-limb", 0, 0, 0, shoulder)
	hx, hy := at(w.HeightCm*0.02, shoulder+w.HeightCm*(0.06+headShare))
	s.el("circle", "class", "walker-head", "cx", hx, "cy", hy, "r", w.HeightCm*headShare*k)
	// The pack hangs behind the trunk: its hip belt at the hip bones, a little above the joint.
	belt := 0.04 * w.HeightCm
	thick := 0.055 * w.HeightCm
	body := w.Pack.Of(rucksack.Body)
	deep, high := body.SizeCm[1], w.Pack.HeightCm()
	line("walker-pack", -thick, belt-4, -thick, belt-4+high, -thick-deep, belt-4+high, -thick-deep, belt-4, -thick, belt-4)
	line("walker-belt", -thick, belt, thick*0.9, belt)
	torso := w.TorsoCm
	if torso <= 0 {
		torso = TorsoCm(w.HeightCm)
	}
	line("walker-belt", -thick, belt+torso*0.93, thick*0.4, belt+torso)
	cx, cy := at(-thick-w.CentreCm[1], belt-4+w.CentreCm[2])
	bx, by := at(-thick, belt-4+w.CentreCm[2])
	s.el("path", "class", "lever", "d", path("M", bx, by, "L", cx, cy))
	s.el("circle", "class", "centre", "cx", cx, "cy", cy, "r", 6)
	s.el("path", "class", "centre-quarter", "d", path("M", cx, cy, "V", cy-6, "A", 6, 6, 0, 0, 1, cx+6, cy, "Z", "M", cx,
		cy, "V", cy+6, "A", 6, 6, 0, 0, 1, cx-6, cy, "Z"))
	lx, ly := at(thick, belt)
	s.text(lx-8, ly+4, "leader-word", "hip belt, "+w.System.Length(math.Round(hip+belt))+" up", "text-anchor", "end")
	sx, sy := at(thick*0.6, belt+torso)
	s.text(sx-8, sy+4, "leader-word", "shoulder, "+w.System.Length(math.Round(hip+belt+torso)), "text-anchor", "end")
	s.text(hipX, walkerHeight-6, "caption",
		fmt.Sprintf("lean %.0f°, weight %s out", w.LeanDeg, w.System.Length(math.Round(w.CentreCm[1]))), "text-anchor",
		"middle")
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}
