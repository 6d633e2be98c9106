package assign

import (
	"math"

	"tornister/core/kit"
	"tornister/core/rucksack"
)

// How things that keep their outside lie in pockets (common practice). Cloth gives a little round what is round; what
// is long may stand out of an open-topped side pocket by a third of its length, and by half where a strap above holds
// it.
const (
	clothGives    = 1.25 // of the smaller side of a pocket's section, for the diameter of what is round
	outFree       = 1. / 3
	outUnderStrap = 0.5
	elbowsCm      = 55 // between the elbows of somebody who walks (our estimate)
)

// Fit is how a thing lies in a zone.
type Fit struct {
	Goes  bool    // it goes in at all
	rigid float64 // litres that it takes if it keeps its outside, 0 for a soft thing
	OutCm float64 // of its length stand out above the rim
}

// Lie finds how a thing with a shape and a mass lies in an empty zone of a pack: dimensions, mouth, litres and, on
// straps, mass. In a pocket a round thing needs its round section and its litres; elsewhere its box.
func Lie(pack *rucksack.Pack, z *rucksack.Zone, s kit.Shape, massG float64) Fit {
	var l Fit
	if s.Kind == kit.Soft {
		l.Goes = s.Litres(1) <= z.CapacityL()+LitreSlack && !z.TooHeavy(massG)
		return l
	}
	l.rigid = s.BoxL()
	if !s.Passes(z.MouthCm) {
		return l
	}
	switch {
	case z.Kind == rucksack.Straps:
		l.onStraps(z, s)
		l.Goes = l.Goes && s.Rigid() && !z.TooHeavy(massG)
		return l
	case z.Solid():
		l.Goes = s.Within(z.Sides()) && s.Litres(1) <= z.CapacityL()+LitreSlack
		return l
	}
	if s.Round() {
		l.rigid = s.Litres(1)
	}
	l.Goes = s.Within(z.Sides()) || s.Round() && roundIn(z, s)
	if !l.Goes && (z.Kind == rucksack.Side || z.Kind == rucksack.Long) {
		l.standOut(pack, z, s)
	}
	l.Goes = l.Goes && l.rigid <= z.CapacityL()+LitreSlack
	return l
}

// onStraps holds a thing with straps. On top and below it may be longer than they are wide, as far as the elbows; what
// sticks out takes nothing of their room.
func (l *Fit) onStraps(z *rucksack.Zone, s kit.Shape) {
	if l.Goes = s.Within(z.Sides()); l.Goes || z.Face != "top" && z.Face != "bottom" {
		return
	}
	across, long := z.Sides(), s.Dimensions()[0]
	across[0] = max(across[0], elbowsCm)
	if l.Goes = s.Within(across); l.Goes {
		l.rigid *= min(1, z.Sides()[0]/long)
	}
}

// roundIn reports whether a round thing that is no disc goes into a pocket with its axis along one of the pocket's
// sides.
func roundIn(z *rucksack.Zone, s kit.Shape) bool {
	for axis := range 3 {
		wide, deep := z.SizeCm[(axis+1)%3], z.SizeCm[(axis+2)%3]
		if s.LengthCm >= s.DiameterCm && s.LengthCm <= z.SizeCm[axis] && s.DiameterCm <= girth(wide, deep) {
			return true
		}
	}
	return false
}

// girth is the diameter of the roundest thing that goes into a section of cloth: its cloth goes round it, and it does
// not bulge by more than cloth gives.
func girth(wide, deep float64) float64 {
	return min(2*(wide+deep)/math.Pi, clothGives*min(wide, deep))
}

// standOut stands a thing upright in a pocket with an open top. What stands above the rim takes none of its litres.
func (l *Fit) standOut(pack *rucksack.Pack, z *rucksack.Zone, s kit.Shape) {
	d := s.Dimensions()
	wide, deep := max(z.SizeCm[0], z.SizeCm[1]), min(z.SizeCm[0], z.SizeCm[1])
	stands := d[1] <= wide && d[2] <= deep || s.Round() && s.LengthCm >= s.DiameterCm && s.DiameterCm <= girth(wide, deep)
	out := d[0] - z.SizeCm[2]
	most := outFree
	if strapAbove(pack, z) {
		most = outUnderStrap
	}
	if stands && out <= most*d[0]+1e-9 {
		l.Goes, l.OutCm = true, max(0, out)
		l.rigid *= 1 - l.OutCm/d[0]
	}
}

// strapAbove reports whether there are straps on the side of a pocket.
func strapAbove(pack *rucksack.Pack, pocket *rucksack.Zone) bool {
	for i := range pack.Zones {
		z := &pack.Zones[i]
		if z.Kind == rucksack.Straps && z.Face == "side" && (z.Side == "" || z.Side == pocket.Side) {
			return true
		}
	}
	return false
}
