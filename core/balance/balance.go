// Package balance says how a loaded pack rides: where its weight lies, how far it makes its walker lean, which side
// pulls, and whether it stands up by itself.
package balance

import "math"

// Mass is something heavy at a place in the pack frame, in grams and centimetres.
type Mass struct {
	G  float64
	At [3]float64
}

// Centre is the sum of masses and the middle of their weight.
func Centre(masses []Mass) Mass {
	var sum Mass
	for _, m := range masses {
		sum.G += m.G
		for axis := range sum.At {
			sum.At[axis] += m.G * m.At[axis]
		}
	}
	if sum.G > 0 {
		for axis := range sum.At {
			sum.At[axis] /= sum.G
		}
	}
	return sum
}

// Segment figures after Winter, Biomechanics and Motor Control of Human Movement (from memory).
const (
	trunkShare    = 0.678 // trunk, head and arms, of body mass
	trunkMiddle   = 0.626 // height of their middle above the hip, of the way from hip to shoulder
	hipToShoulder = 0.288 // of body height: shoulder at 0.818, hip at 0.530
	panelCm       = 10    // the back panel behind the axis of the hips
)

// LeanDeg is the angle in degrees by which the trunk leans forward so that its weight and the pack's together stand
// over the hips: tan(lean) = m_p d / (m_t h_t + m_p h_p). The centre is that of the pack, whose foot is taken at hip
// height. It is a comparison between plans, not a promise.
func LeanDeg(centre Mass, bodyKg, bodyCm float64) float64 {
	pack := centre.G / 1000
	trunk := trunkShare * bodyKg
	behind := (panelCm + centre.At[1]) / 100
	up := trunk*trunkMiddle*hipToShoulder*bodyCm/100 + pack*max(0, centre.At[2])/100
	if up <= 0 {
		return 0
	}
	return math.Atan2(pack*behind, up) * 180 / math.Pi
}

// TipDeg is the least angle in degrees by which a standing pack must be tipped to fall, over the edges of a foot that
// is wide across and deep from the back panel outward. Negative: it does not stand at all.
func TipDeg(centre Mass, wide, deep float64) float64 {
	edge := min(wide/2-math.Abs(centre.At[0]), centre.At[1], deep-centre.At[1])
	return math.Atan2(edge, max(centre.At[2], 1e-9)) * 180 / math.Pi
}

// StandsDeg is the least tipping angle at which a pack is said to stand (our estimate).
const StandsDeg = 5

// SideG is how many grams would have to go from one side to the other, across the given distance in centimetres, for
// the weight to lie on the midline. Positive: the right side is heavier.
func SideG(centre Mass, acrossCm float64) float64 {
	return centre.G * centre.At[0] / acrossCm
}

// EffortW is the metabolic rate in watts of walking under a load, after Pandolf, Givoni and Goldman (1977): masses in
// kg, speed in m/s, grade in per cent, eta the terrain factor (1 on a road). It was measured on healthy men up to
// some 70 kg of load on level and rising ground; it is for comparing days and shares, not for planning food.
func EffortW(bodyKg, loadKg, speed, grade, eta float64) float64 {
	w, l := bodyKg, loadKg
	return 1.5*w + 2*(w+l)*(l/w)*(l/w) + eta*(w+l)*(1.5*speed*speed+0.35*speed*grade)
}
