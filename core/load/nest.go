package load

import (
	"cmp"
	"slices"

	"tornister/core/kit"
)

// RoomBesides is the share of a vessel's inside that several things together may take: hard things in a round pot
// never fill it (our estimate). One thing alone only has to pass the mouth and fit the depth.
const RoomBesides = 0.7

// vessel is a piece with what is carried inside it.
type vessel struct {
	kit.Piece
	inside []kit.Piece
	filled float64 // litres
}

func (v *vessel) takes(p kit.Piece) bool {
	if v.IsBag() {
		return true // it is as large as what is named for it
	}
	if !p.Shape.Nests(v.Shape) {
		return false
	}
	return len(v.inside) == 0 || v.filled+p.Shape.Litres(1) <= RoomBesides*v.Shape.InsideL
}

func (v *vessel) add(p kit.Piece) {
	v.inside = append(v.inside, p)
	v.filled += p.Shape.Litres(1)
}

// nest puts things into vessels: first those the packer asked for, then hard things of the vessel's own group that
// are wanted at the same time, largest first. A thing is nested at most once and a filled vessel is not nested
// itself. It returns the contents by vessel and the pieces that need a place of their own.
func nest(pieces []kit.Piece) (map[kit.Piece][]kit.Piece, []kit.Piece) {
	var vessels []*vessel
	for _, p := range pieces {
		if (p.Shape.Kind == kit.Vessel || p.IsBag()) && p.NestIn == "" {
			vessels = append(vessels, &vessel{Piece: p})
		}
	}
	slices.SortStableFunc(vessels, func(a, b *vessel) int { return cmp.Compare(b.Shape.InsideL, a.Shape.InsideL) })

	bySize := slices.Clone(pieces)
	slices.SortStableFunc(bySize, func(a, b kit.Piece) int { return cmp.Compare(b.Shape.Litres(1), a.Shape.Litres(1)) })
	in := map[kit.Piece]bool{}
	put := func(wanted func(*vessel, kit.Piece) bool) {
		for _, p := range bySize {
			for _, v := range vessels {
				if !in[p] && p != v.Piece && !in[v.Piece] && wanted(v, p) && v.takes(p) {
					v.add(p)
					in[p] = true
				}
			}
		}
	}
	put(func(v *vessel, p kit.Piece) bool { return p.NestIn == v.ID })
	put(func(v *vessel, p kit.Piece) bool {
		return p.NestIn == "" && p.Shape.Kind != kit.Vessel && p.Shape.Rigid() && !p.Has(kit.Food) &&
			!v.IsBag() && !p.IsBag() && p.Group == v.Group && p.Use.When == v.Use.When
	})

	nested := map[kit.Piece][]kit.Piece{}
	for _, v := range vessels {
		if len(v.inside) > 0 {
			nested[v.Piece] = v.inside
		}
	}
	return nested, slices.DeleteFunc(slices.Clone(pieces), func(p kit.Piece) bool { return in[p] })
}
