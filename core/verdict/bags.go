package verdict

import (
	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
)

// bagging knows which bag each thing is in. Things in one bag come out as one.
type bagging struct {
	pack  *dry.Pack
	in    map[kit.Piece]*dry.Bag
	lying map[kit.Piece]dry.Lying
}

func newBagging(pack *dry.Pack, barriers *dry.Barriers) *bagging {
	b := &bagging{pack, barriers.ByPiece(), map[kit.Piece]dry.Lying{}}
	for _, l := range pack.Things {
		b.lying[l.Piece] = l
	}
	return b
}

// of names the innermost bag of a thing, and counts the barriers to be opened on the way to it.
func (b *bagging) of(p *load.Placement) (bag string, opened int) {
	if b.pack.Lined(b.lying[p.Piece]) {
		bag, opened = b.pack.LinerOf(p.Zone).ID, 1
	}
	if own := b.in[p.Piece]; own != nil {
		bag, opened = own.ID, opened+1
	}
	return bag, opened
}

// lifted counts what has to come out before a thing: a bag with all that is in it as one, and nothing of the bag that
// the thing itself is in.
func (b *bagging) lifted(p *load.Placement) int {
	own, seen, n := b.in[p.Piece], map[*dry.Bag]bool{}, 0
	for _, over := range p.Over {
		bag := b.in[over]
		if bag != nil && (bag == own || seen[bag]) {
			continue
		}
		seen[bag] = bag != nil
		n++
	}
	return n
}
