package dry

import (
	"math"
	"slices"
)

// maxNodes and maxSteps bound the search, in nodes and in bags looked at; a kit with a handful of bags takes some
// hundreds.
const (
	maxNodes = 400_000
	maxSteps = 10_000_000
)

// bagging chooses the bags by branch and bound: one thing after another goes into each bag that may take it, or into
// none; what the things still to come cost at least ends a branch.
type bagging struct {
	program  *Program
	room     []float64 // litres left, by bag
	first    []int     // the thing that opened the bag, -1 when it is not open
	in       []int     // bag by thing, -1 for none
	best     []int
	bestCost float64
	nodes    int
	most     int         // nodes
	class    []int       // by thing: those of one class may share a bag
	left     [][]float64 // by class and place in the order, litres of the things of the class from there on
	open     []float64   // by class, litres left in its open bags
	// What stays unprotected costs at least so much a thing and so much a litre.
	thingPenalty, litrePenalty float64
}

// classes finds which things may share a bag, and how many litres of each class are still to come at every place of the
// order.
func (s *bagging) classes() {
	things := s.program.Things
	var first []int
	for i := range things {
		c := slices.IndexFunc(first, func(f int) bool { return !s.program.apart(things[f], things[i]) })
		if c < 0 {
			c = len(first)
			first = append(first, i)
		}
		s.class = append(s.class, c)
	}
	s.open = make([]float64, len(first))
	s.left = make([][]float64, len(first))
	s.thingPenalty, s.litrePenalty = math.Inf(1), math.Inf(1)
	for c := range s.left {
		s.left[c] = make([]float64, len(things)+1)
		for i := len(things) - 1; i >= 0; i-- {
			s.left[c][i] = s.left[c][i+1]
			if s.class[i] == c {
				s.left[c][i] += things[i].Litres
			}
		}
	}
	for _, l := range things {
		s.thingPenalty = min(s.thingPenalty, l.penalty())
		if l.Litres > 0 {
			s.litrePenalty = min(s.litrePenalty, l.penalty()/l.Litres)
		}
	}
}

// bound is what the things from a place on cost at least: of each class, the litres for which its open bags have no
// room go into bags that are still closed, at least as many as if all were the largest, or a thing stays unprotected.
func (s *bagging) bound(at int) (sum float64) {
	least, rate, largest := math.Inf(1), math.Inf(1), 0.0
	for b, bag := range s.program.Bags {
		if s.first[b] < 0 {
			least, rate, largest = min(least, price(bag)), min(rate, price(bag)/s.room[b]), max(largest, s.room[b])
		}
	}
	for c, open := range s.open {
		over := s.left[c][at] - open - 1e-9
		if over <= 0 {
			continue
		}
		if largest == 0 {
			sum += max(s.thingPenalty, over*s.litrePenalty)
			continue
		}
		sum += min(s.thingPenalty, max(over*rate, math.Ceil(over/largest-1e-9)*least))
	}
	return sum
}

func (pr *Program) solve() (used []Barrier, proven bool) {
	s := &bagging{program: pr, most: min(maxNodes, maxSteps/(len(pr.Bags)+1)), bestCost: math.Inf(1), in: make([]int, len(pr.Things)), room: make([]float64, len(pr.Bags)), first: make([]int, len(pr.Bags))}
	for i, b := range pr.Bags {
		s.room[i], s.first[i] = FullShare*b.VolumeL, -1
	}
	s.classes()
	s.branch(0, 0)
	byBag := make([][]int, len(pr.Bags))
	for thing, bag := range s.best {
		if bag >= 0 {
			byBag[bag] = append(byBag[bag], thing)
		}
	}
	for i, things := range byBag {
		if len(things) == 0 {
			continue
		}
		b := Barrier{Bag: pr.Bags[i], Zone: pr.Things[things[0]].Zone.ID}
		for _, t := range things {
			b.Things = append(b.Things, pr.Things[t].Piece)
			b.Litres += pr.Things[t].Litres
		}
		used = append(used, b)
	}
	return used, s.nodes < s.most
}

// branch gives the thing at a place one bag after another, and none.
func (s *bagging) branch(at int, cost float64) {
	s.nodes++
	if s.nodes >= s.most || cost+s.bound(at) >= s.bestCost-1e-12 {
		return
	}
	if at == len(s.in) {
		s.bestCost, s.best = cost, slices.Clone(s.in)
		return
	}
	thing := s.program.Things[at]
	var opened *Bag // closed bags of the same size and weight are one choice, and stand side by side
	for b, bag := range s.program.Bags {
		if s.room[b]+1e-9 < thing.Litres {
			continue
		}
		opens, add := s.first[b] < 0, 0.0
		if opens {
			if opened != nil && opened.VolumeL == bag.VolumeL && opened.MassG == bag.MassG {
				continue
			}
			opened = bag
			s.open[s.class[at]] += s.room[b]
			add = price(bag)
			s.first[b] = at
		} else if s.program.apart(s.program.Things[s.first[b]], thing) { // what may lie with the first may lie with all
			continue
		}
		s.room[b] -= thing.Litres
		s.open[s.class[at]] -= thing.Litres
		s.in[at] = b
		s.branch(at+1, cost+add)
		s.room[b] += thing.Litres
		s.open[s.class[at]] += thing.Litres
		if opens {
			s.open[s.class[at]] -= s.room[b]
			s.first[b] = -1
		}
	}
	s.in[at] = -1
	s.branch(at+1, cost+thing.penalty())
}
