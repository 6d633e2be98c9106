package load

import (
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/stuff"
)

// stuffedSqueeze is how far a soft thing is squeezed in a bag that was pushed full by hand (our estimate).
const stuffedSqueeze = 0.5

// perApartCm is the price of a centimetre between a thing and the middle of its dry bag, in seconds a day: a bag is one
// thing, and what is in it should lie together.
const perApartCm = 8

// Lying is a placed piece as package dry sees it; litres is the room it takes where it lies.
func Lying(p kit.Piece, l dry.Lying) dry.Lying {
	l.Piece, l.BagL = p, p.Shape.Litres(stuffedSqueeze)
	return l
}

// bag says for every thing in body and bottom which dry bag it goes into, -1 for none, as package dry will plan it.
func (p *packing) bag(a *assignment) {
	pack := dry.Pack{Pack: &a.task.Pack, Bags: a.task.Bags, School: a.task.Method.Dry, Trip: &a.task.Trip}
	for _, c := range a.choices {
		if c.zone == out {
			continue
		}
		for _, piece := range append([]kit.Piece{c.Piece}, c.inside...) {
			pack.Things = append(pack.Things, Lying(piece, dry.Lying{Zone: &a.zones[c.zone], Litres: piece.Shape.Litres(stuffedSqueeze)}))
		}
	}
	plan := pack.Plan()
	in := map[kit.Piece]int{}
	for i, b := range slices.Concat(plan.Used, plan.Wet) {
		for _, piece := range b.Things {
			in[piece] = i
		}
	}
	p.bags = make([]int, len(p.inside))
	for i, c := range p.inside {
		p.bags[i] = -1
		if b, bagged := in[c.Piece]; bagged {
			p.bags[i] = b
		}
	}
}

// gather brings the things of each bag next to each other in the order, at the turn of the first of them.
func (p *packing) gather() {
	if p.bags == nil {
		return
	}
	var order []int
	done := map[int]bool{}
	for _, i := range p.order {
		b := p.bags[i]
		if b < 0 {
			order = append(order, i)
			continue
		}
		if done[b] {
			continue
		}
		done[b] = true
		for _, j := range p.order {
			if p.bags[j] == b {
				order = append(order, j)
			}
		}
	}
	p.order = order
	p.hold()
}

// apart is what it costs that things of one bag lie apart.
func (p *packing) apart(cells []int, middles [][3]float64) float64 {
	sum := 0.0
	for b := range slices.Max(append([]int{-1}, p.bags...)) + 1 {
		var middle [3]float64
		n := 0.0
		for i, bag := range p.bags {
			if bag == b && cells[i] > 0 {
				n++
				for axis := range middle {
					middle[axis] += middles[i][axis]
				}
			}
		}
		if n < 2 {
			continue
		}
		for i, bag := range p.bags {
			if bag == b && cells[i] > 0 {
				square := 0.0
				for axis := range middle {
					d := middles[i][axis] - middle[axis]/n
					square += d * d
				}
				sum += perApartCm * math.Sqrt(square) * p.space.Solid.CellCm
			}
		}
	}
	return sum
}

// lifts counts what has to come out before a thing, a bag with all that is in it as one, and nothing of its own bag.
func (p *packing) lifts(over stuff.Set, of int) int {
	if p.bags == nil {
		return over.Len()
	}
	n := 0
	seen := map[int]bool{}
	for i, b := range p.bags {
		switch {
		case !over.Has(i), b >= 0 && (b == p.bags[of] || seen[b]):
			continue
		case b >= 0:
			seen[b] = true
		}
		n++
	}
	return n
}
