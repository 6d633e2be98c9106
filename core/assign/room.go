package assign

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// CopyOfProgram keeps what the program is made of; where its things lie does not belong to it.
func (a *Assignment) CopyOfProgram() *Assignment {
	program := *a
	program.fills = slices.Clone(a.fills)
	program.Loss = slices.Clone(a.Loss)
	program.Choices = make([]*Choice, len(a.Choices))
	for i, c := range a.Choices {
		twin := *c
		program.Choices[i] = &twin
	}
	return &program
}

// Cheapest lists the zones that could hold a thing, cheapest first.
func (a *Assignment) Cheapest(c *Choice) []int {
	var zones []int
	for z := range a.Zones {
		if !math.IsInf(c.Price[z], 1) {
			zones = append(zones, z)
		}
	}
	slices.SortStableFunc(zones, func(x, y int) int { return cmp.Compare(c.Price[x], c.Price[y]) })
	return zones
}

// OutCost is the price of what is left out.
func (a *Assignment) OutCost() (sum float64) {
	for _, c := range a.Choices {
		if c.Zone == Out {
			sum += c.Leave
		}
	}
	return sum
}

// Room is the litres a thing takes in body or bottom.
func (c *Choice) Room(squeeze float64) float64 {
	if c.Rigid > 0 {
		return c.Rigid
	}
	return c.Shape.Litres(squeeze)
}

// RoomIn is the litres it takes in a zone, which may be a pocket.
func (c *Choice) RoomIn(zone int, squeeze float64) float64 {
	if c.Rigid > 0 {
		return c.Lies[zone].rigid
	}
	return c.Shape.Litres(squeeze)
}

// AloneInBody is the room to take off each zone so that pockets in the body hold no more than their largest thing.
func (a *Assignment) AloneInBody() []float64 {
	slack := make([]float64, len(a.Zones))
	for z := range a.Zones {
		if a.Zones[z].InBody() {
			slack[z] = a.Zones[z].CapacityL()
		}
	}
	for _, c := range a.Choices {
		if c.Zone != Out && a.Zones[c.Zone].InBody() {
			z := &a.Zones[c.Zone]
			slack[c.Zone] = max(0, min(slack[c.Zone], z.CapacityL()-c.RoomIn(c.Zone, 1)))
		}
	}
	return slack
}

// LessOfSolid is the room to take off each zone for a share of body and bottom not to be counted on.
func (a *Assignment) LessOfSolid(share float64) []float64 {
	slack := make([]float64, len(a.Zones))
	for z := range a.Zones {
		if a.Zones[z].Solid() {
			slack[z] = share * a.Zones[z].VolumeL
		}
	}
	return slack
}

// OutL is the litres of what is left out, tight.
func (a *Assignment) OutL() (sum float64) {
	for _, c := range a.Choices {
		if c.Zone == Out && !c.Stuck {
			sum += c.Room(1)
		}
	}
	return sum
}

// RoomOf is a zone as bags see it: with the divider open from the start, body and bottom are one.
func (a *Assignment) RoomOf(zone int) *rucksack.Zone {
	if a.Open && a.Zones[zone].Solid() {
		return &a.Zones[OfKind(a.Zones, rucksack.Body)]
	}
	return &a.Zones[zone]
}

// ChoiceOf finds the choice of a piece.
func (a *Assignment) ChoiceOf(p kit.Piece) *Choice {
	i, _ := slices.BinarySearchFunc(a.Choices, p, func(c *Choice, p kit.Piece) int {
		return job.ComparePieces(c.Piece, p)
	})
	return a.Choices[i]
}

// Stay makes it dearer to put things elsewhere than an arrangement has them.
func (a *Assignment) Stay(from job.Arrangement, moving float64) {
	a.From = from
	for _, c := range a.Choices {
		zone, known := from.ZoneOf(c.Piece)
		if !known || zone == "" {
			continue
		}
		for z := range a.Zones {
			if a.Zones[z].ID != zone {
				c.Price[z] += moving
			} else {
				c.stays = z
			}
		}
	}
}

// ZoneFill is what a zone holds.
func (a *Assignment) ZoneFill(i int) ZoneFill {
	f := &a.fills[i]
	zf := ZoneFill{Zone: &a.Zones[i], MassG: f.mass}
	zf.Squeeze = a.squeeze(i)
	zf.CapacityL = a.room(i, zf.Squeeze)
	zf.NeedLooseL, zf.NeedTightL = f.need(0), f.need(1)
	zf.State = StateFor(zf.NeedLooseL, zf.CapacityL, zf.Squeeze)
	for _, c := range a.Choices {
		if c.Zone == i {
			zf.Pieces = append(zf.Pieces, c.Piece)
		}
	}
	return zf
}
