package load

import (
	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/rucksack"
)

// bulging is the squeeze from which a full body bulges into the pockets that share its cloth (our estimate).
const bulging = 0.5

// before reports whether a pocket is filled before the body: it shares its cloth, holds something that keeps its
// shape, and would not take it any more once the body bulges (common practice).
func before(a *assign.Assignment, zone int, squeeze float64) bool {
	z := &a.Zones[zone]
	if z.Kind != rucksack.Side && z.Kind != rucksack.Front || z.DrawsOn == nil || squeeze < bulging {
		return false
	}
	for _, c := range a.Choices {
		if c.Zone == zone && c.Shape.Rigid() {
			return true
		}
	}
	return false
}

// Closing is what is left to do when everything is in: straps, what hangs outside, and a look from outside (common
// practice).
func (p *Plan) Closing() []fact.Fact {
	if len(p.Placed) == 0 || !p.Fits() {
		return nil
	}
	list := []fact.Fact{fact.Of("load.closing-straps")}
	var outside fact.Names
	for i := range p.Placed {
		if pl := &p.Placed[i]; pl.Zone.Kind == rucksack.Straps && pl.Inside == "" {
			outside = append(outside, pl.Piece.Name)
		}
	}
	if len(outside) > 0 {
		list = append(list, fact.Of("load.closing-outside", outside))
	}
	return append(list, fact.Of("load.closing-lift"))
}
