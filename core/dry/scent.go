package dry

import (
	"slices"

	"tornister/core/kit"
	"tornister/core/rucksack"
)

// Night is what animals come for, and the scent-tight bags that keep it from them.
type Night struct {
	Bags    []Barrier
	Out     []kit.Piece // what goes into none of them
	Litres  float64     // of what is out
	Program Program
	Proven  bool // no choice holds more, or as much in fewer or lighter bags
}

// smells reports whether animals come for the thing: food, and all that is scented (common practice).
func smells(it *kit.Item) bool {
	return it.Has(kit.Food) || it.Has(kit.Scented) || it.Consumable == "food"
}

// AtNight puts what smells into the fewest scent-tight bags owned, exactly, as on the first night, when there is most
// of it. By day it lies where the plan has it; at night it comes together from all zones.
func (p *Pack) AtNight() Night {
	camp := &rucksack.Zone{ID: "camp", Name: "Camp"}
	var n Night
	for _, l := range p.Things {
		if smells(l.Piece.Item) {
			n.Program.Things = append(n.Program.Things, Lying{Piece: l.Piece, Zone: camp, Litres: l.Litres})
		}
	}
	for i := range p.Bags {
		if b := &p.Bags[i]; b.Kind == "scent-bag" && b.VolumeL > 0 {
			n.Program.Bags = append(n.Program.Bags, b)
		}
	}
	n.Program.sort()
	n.Bags, n.Proven = n.Program.solve(p.Stop)
	in := map[kit.Piece]bool{}
	for _, b := range n.Bags {
		for _, piece := range b.Things {
			in[piece] = true
		}
	}
	for _, l := range n.Program.Things {
		if !in[l.Piece] {
			n.Out = append(n.Out, l.Piece)
			n.Litres += l.Litres
		}
	}
	slices.SortFunc(n.Out, comparePieces)
	return n
}
