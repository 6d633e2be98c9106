package kit

import "math"

// Nests reports whether the thing goes into the empty vessel: through its mouth, and its box inside the vessel's
// inner space, taken as a cylinder as wide as the mouth that holds InsideL. Rod-like and soft things only need the
// litres and, for rods, the diagonal.
func (s Shape) Nests(vessel Shape) bool {
	if vessel.Kind != Vessel || vessel.InsideL <= 0 || s.Litres(1) > vessel.InsideL {
		return false
	}
	if s.Kind == Soft {
		return true
	}
	mouth := vessel.MouthCm
	if mouth == 0 {
		mouth = vessel.Dimensions()[1]
	}
	depth := vessel.InsideL * 1000 / (math.Pi / 4 * mouth * mouth)
	if s.Round() && s.DiameterCm <= mouth && s.LengthCm <= depth {
		return true
	}
	d := s.Dimensions()
	for long := range 3 { // each side in turn stands upright, the other two lie across the mouth
		a, b := d[(long+1)%3], d[(long+2)%3]
		if d[long] <= depth && math.Hypot(a, b) <= mouth {
			return true
		}
	}
	return false
}
