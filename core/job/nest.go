package job

import (
	"cmp"
	"slices"

	"tornister/core/kit"
)

// roomBesides is the share of a vessel's inside that several hard things together may take: in a round pot they never
// fill it (our estimate). One thing alone only has to pass the mouth and fit the depth.
const roomBesides = 0.7

// RoomInside is how many litres of a vessel's inside a thing takes beside others: a soft one is pushed into what the
// others leave.
func RoomInside(it *kit.Item) float64 {
	if it.Shape.Kind == kit.Soft {
		return it.Shape.Litres(1)
	}
	return it.Shape.Litres(1) / roomBesides
}

// vessel is a piece with what is carried inside it.
type vessel struct {
	kit.Piece
	inside []kit.Piece
	filled float64 // litres of its inside
	bag    string  // id of the kit bag that it is kept in itself, "" for none
}

func (v *vessel) takes(p kit.Piece) bool {
	if v.IsBag() {
		return true // it is as large as what is named for it
	}
	if !p.Shape.Nests(v.Shape) {
		return false
	}
	return len(v.inside) == 0 || v.filled+RoomInside(p.Item) <= v.Shape.InsideL
}

// suits reports whether a thing goes into the vessel unasked: into what keeps food from animals what is eaten or smells
// in camp, never fuel; into any other the hard things of its own group.
func (v *vessel) suits(p kit.Piece) bool {
	if p.Use.When != v.Use.When {
		return false
	}
	if v.KeepsFood() {
		return (p.Has(kit.Food) || p.Has(kit.Scented)) && !p.Has(kit.Fuel)
	}
	return (p.Shape.Rigid() || p.Has(kit.Hard)) && !p.Has(kit.Food) && p.Group == v.Group
}

func (v *vessel) add(p kit.Piece) {
	v.inside = append(v.inside, p)
	v.filled += RoomInside(p.Item)
}

// Nested is Nest of what goes into the pack, in the order that decides where two would do. The bags of the task must be
// filled.
func (t *Task) Nested() (inside map[kit.Piece][]kit.Piece, loose []kit.Piece) {
	pieces := kit.Pieces(t.Items, kit.Pack)
	slices.SortFunc(pieces, ComparePieces)
	return Nest(pieces)
}

// Nest puts things into vessels: first those the packer asked for, then what suits the vessel and is wanted at the same
// time, largest first; then into kit bags what is kept in them. A thing is nested at most
// once. A filled vessel lies in no other, but it may lie in a kit bag, and that in another: then what it holds lies in
// the bag too. It returns the contents by vessel and the pieces that need a place of their own.
func Nest(pieces []kit.Piece) (map[kit.Piece][]kit.Piece, []kit.Piece) {
	var vessels []*vessel
	for _, p := range pieces {
		if p.Shape.Kind == kit.Vessel || p.IsBag() {
			if bag := bagOf(pieces, p); bag != "" || p.NestIn == "" || p.IsBag() {
				vessels = append(vessels, &vessel{Piece: p, bag: bag})
			}
		}
	}
	slices.SortStableFunc(vessels, func(a, b *vessel) int { return cmp.Compare(b.Shape.InsideL, a.Shape.InsideL) })

	bySize := slices.Clone(pieces)
	slices.SortStableFunc(bySize, func(a, b kit.Piece) int { return cmp.Compare(b.Shape.Litres(1), a.Shape.Litres(1)) })
	in := map[kit.Piece]bool{}
	put := func(wanted func(*vessel, kit.Piece) bool) {
		for _, p := range bySize {
			for _, v := range vessels {
				if !in[p] && p != v.Piece && (!in[v.Piece] || v.bag != "") && wanted(v, p) && v.takes(p) {
					v.add(p)
					in[p] = true
				}
			}
		}
	}
	put(func(v *vessel, p kit.Piece) bool { return p.NestIn == v.ID && !v.IsBag() })
	put(func(v *vessel, p kit.Piece) bool {
		return p.NestIn == v.bag && p.Shape.Kind != kit.Vessel && !v.IsBag() && !p.IsBag() && v.suits(p)
	})
	put(func(v *vessel, p kit.Piece) bool { return p.NestIn == v.ID })

	nested := map[kit.Piece][]kit.Piece{}
	for _, v := range vessels {
		if len(v.inside) > 0 {
			nested[v.Piece] = v.inside
		}
	}
	return nested, slices.DeleteFunc(slices.Clone(pieces), func(p kit.Piece) bool { return in[p] })
}

// bagOf is the id of the kit bag that a piece is kept in, "" for none.
func bagOf(pieces []kit.Piece, p kit.Piece) string {
	kept := func(o kit.Piece) bool { return o.ID == p.NestIn && o.IsBag() }
	if !slices.ContainsFunc(pieces, kept) {
		return ""
	}
	return p.NestIn
}

// NestedIn lists what lies in an outer thing: the contents of a vessel in a bag right after the vessel, each with the
// id of what it lies in.
func NestedIn(outer kit.Piece, nested map[kit.Piece][]kit.Piece) (pieces []kit.Piece, in []string) {
	for _, p := range nested[outer] {
		pieces, in = append(pieces, p), append(in, outer.ID)
		deeper, ids := NestedIn(p, nested)
		pieces, in = append(pieces, deeper...), append(in, ids...)
	}
	return pieces, in
}
