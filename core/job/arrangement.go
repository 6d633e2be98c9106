package job

import (
	"slices"

	"tornister/core/kit"
)

// Arrangement is where everything is, in loading order, first in first: a plan, or what a hand has made of it.
type Arrangement []Spot

// Spot is the place of one piece.
type Spot struct {
	Item  string `json:"item"`
	Piece int    `json:"piece"`
	Zone  string `json:"zone"` // "" when it is left out
}

// At is the place of a piece.
func At(p kit.Piece, zone string) Spot { return Spot{p.ID, p.Number, zone} }

// Of reports whether it is the place of a piece.
func (s Spot) Of(p kit.Piece) bool { return s.Item == p.ID && s.Piece == p.Number }

// Turns gives the turn of a piece in the arrangement, and whether it is in it.
func (a Arrangement) Turns() func(kit.Piece) (turn int, in bool) {
	type which struct {
		item  string
		piece int
	}
	turns := make(map[which]int, len(a))
	for turn, s := range a {
		turns[which{s.Item, s.Piece}] = turn
	}
	return func(p kit.Piece) (int, bool) {
		turn, in := turns[which{p.ID, p.Number}]
		return turn, in
	}
}

// ZoneOf is the zone of a piece, and whether the arrangement knows the piece at all.
func (a Arrangement) ZoneOf(p kit.Piece) (zone string, known bool) {
	i := slices.IndexFunc(a, func(s Spot) bool { return s.Of(p) })
	if i < 0 {
		return "", false
	}
	return a[i].Zone, true
}
