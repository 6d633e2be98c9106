package practice

import (
	"slices"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// What counts as heavy, and as large enough to leave room hollow (our estimates).
const (
	heavyG = 500
	largeL = 0.4
)

// propose lists moves that may make a fault of a kind. What lies in another thing stays there, and what is pinned.
func (s *spoiler) propose(kind string) (list []Move) {
	body := s.task.Pack.Of(rucksack.Body)
	last := len(s.now)
	placed := s.judged.Plan.Placed
	add := func(p *load.Placement, zone *rucksack.Zone, turn int) {
		list = append(list, Move{Kind: kind, Item: p.Piece.ID, Piece: p.Piece.Number, Zone: zone.ID, Turn: turn})
	}
	for i := range placed {
		p := &placed[i]
		if p.Inside != "" || p.Pinned || p.Piece.IsBag() {
			continue
		}
		switch kind {
		case Deep:
			if early(p.Piece) {
				add(p, body, 0)
			}
		case Over:
			if !early(p.Piece) && p.Zone.Solid() && p.VolumeL > 0.5 {
				add(p, body, last)
			}
		case Beside:
			if p.Piece.Has(kit.Fuel) || p.Piece.Has(kit.Sharp) {
				for _, turn := range s.turnsBy(p) {
					add(p, body, turn)
				}
			}
		case Wet:
			if dry.Need(p.Piece.Item) == 2 && !dry.Cased(p.Piece.Item) {
				s.each(func(z *rucksack.Zone) {
					if !z.Solid() && !z.InBody() && z != p.Zone {
						add(p, z, last)
					}
				})
			}
		case Heavy:
			if p.Piece.MassG >= heavyG && !early(p.Piece) { // a jacket that is needed rides high, and rightly
				add(p, body, 0)
				add(p, body, last)
				s.each(func(z *rucksack.Zone) {
					if z.Kind == rucksack.Front || z.Kind == rucksack.Lid || z.Kind == rucksack.Straps || z.Kind == rucksack.Bottom {
						add(p, z, last)
					}
				})
			}
		case Sides:
			if p.Piece.MassG >= heavyG {
				s.each(func(z *rucksack.Zone) {
					if z.AtCm[0] != 0 && !z.Solid() && z != p.Zone {
						add(p, z, last)
					}
				})
			}
		case Hollow:
			if p.Zone.Solid() && p.Piece.Shape.Rigid() && p.VolumeL >= largeL {
				add(p, body, 0)
				add(p, body, last/2)
			}
		}
	}
	return list
}

// early reports whether a thing is needed before camp, or in a hurry.
func early(p kit.Piece) bool {
	switch p.Use.When {
	case kit.Moving, kit.Halt:
		return true
	case kit.Camp, kit.Arrival:
		return false
	}
	return len(reach.Limits(p.Item)) > 0 && p.Group != "shelter"
}

// each goes through the zones of the pack.
func (s *spoiler) each(do func(z *rucksack.Zone)) {
	for i := range s.task.Pack.Zones {
		do(&s.task.Pack.Zones[i])
	}
}

// turnsBy are the turns beside what a thing spoils.
func (s *spoiler) turnsBy(p *load.Placement) (turns []int) {
	rest := slices.DeleteFunc(slices.Clone(s.now), func(sp job.Spot) bool { return sp.Of(p.Piece) })
	for turn, spot := range rest {
		z := s.task.Pack.Zone(spot.Zone)
		at := slices.IndexFunc(s.judged.Plan.Placed, func(o load.Placement) bool { return spot.Of(o.Piece) })
		if z == nil || !z.Solid() || at < 0 {
			continue
		}
		o := s.judged.Plan.Placed[at].Piece
		if p.Piece.Has(kit.Fuel) && o.Has(kit.Food) || p.Piece.Has(kit.Sharp) && load.Holed(o) {
			turns = append(turns, turn, turn+1)
		}
	}
	return turns
}
