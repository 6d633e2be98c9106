package mip

import (
	"container/heap"
	"math"
	"slices"
)

// change is the bounds that a branch gives to a column.
type change struct {
	column    int
	low, high float64
}

// node is a part of the tree that is still to be searched: the changes on the way to it, and what it costs at least.
type node struct {
	bound   float64
	number  int
	changes []change
	// What the branch that leads here changed, for its pseudo-cost.
	column   int
	distance float64
	up       bool
}

// queue holds open nodes, the one of least bound first, the older of two alike; package heap keeps it in order.
type queue []*node

func (q queue) Len() int { return len(q) }

func (q queue) Less(i, j int) bool {
	return q[i].bound < q[j].bound || q[i].bound == q[j].bound && q[i].number < q[j].number
}

func (q queue) Swap(i, j int) { q[i], q[j] = q[j], q[i] }

// Push and Pop are for package heap.
func (q *queue) Push(n any) { *q = append(*q, n.(*node)) }

func (q *queue) Pop() any {
	list := *q
	last := list[len(list)-1]
	*q = list[:len(list)-1]
	return last
}

// mostBack is how often a search goes back to the last sibling before it goes on at the node of least bound: deep
// down there are solutions, and what closes a branch there is learnt.
const mostBack = 8

// The primal heuristic is asked at each of the first nodes, and later at one of some: early on a better solution closes
// most.
const (
	mendAlways = 100
	mendSeldom = 8
)

// search goes through the tree: from a node down to its better child as long as that is worth it, some times back to
// the last sibling left on the way, and then on at the open node of least bound.
func (s *solver) search() Status {
	n := &node{bound: s.bound, column: -1}
	var siblings []*node
	for back := 0; n != nil; {
		var dive, other *node
		if n.bound < s.cutoff() {
			ended := s.nodes >= s.options.Nodes || s.stopped()
			if !ended {
				s.nodes++
				dive, other, ended = s.expand(n)
			}
			if ended {
				for _, left := range append(siblings, n) {
					heap.Push(&s.open, left)
				}
				return s.cut()
			}
		}
		if other != nil {
			siblings = append(siblings, other)
		}
		switch last := len(siblings) - 1; {
		case dive != nil:
			n = dive
		case last >= 0 && back < mostBack:
			n, siblings = siblings[last], siblings[:last]
			back++
		default:
			for _, left := range siblings {
				heap.Push(&s.open, left)
			}
			n, siblings, back = nil, siblings[:0], 0
			if len(s.open) > 0 {
				n = heap.Pop(&s.open).(*node)
			}
		}
	}
	if s.best == nil {
		return Infeasible
	}
	return Optimal
}

// cut is the end of a search whose tree is not searched through: the least bound of what is open is proved.
func (s *solver) cut() Status {
	s.bound = Inf
	for _, n := range s.open {
		s.bound = min(s.bound, n.bound)
	}
	return s.unproved()
}

// enter brings the relaxation to a node; false when its bounds leave nothing over.
func (s *solver) enter(changes []change) bool {
	s.now.copyFrom(s.root)
	for _, c := range changes {
		s.now.low[c.column], s.now.high[c.column] = max(s.now.low[c.column], c.low), min(s.now.high[c.column], c.high)
		if s.now.low[c.column] > s.now.high[c.column] {
			return false
		}
	}
	if !s.propagate(s.now) {
		return false
	}
	s.apply(s.now)
	return true
}

// expand solves a node and gives the children that are worth a look, the better one first. Ended says that it could
// not be solved in time.
func (s *solver) expand(n *node) (dive, other *node, ended bool) {
	if !s.enter(n.changes) {
		return nil, nil, false
	}
	r := s.relaxation
	got := s.solve(s.cutoff())
	switch got {
	case infeasible, above:
		s.learn(got)
		return nil, nil, false
	case unended:
		if s.stopped() {
			return nil, nil, true
		}
		r.reset() // the basis is of no use: begin again, and branch without a new bound
		r.settle()
	}
	bound := n.bound
	if got == optimal {
		bound = max(bound, r.objective())
		if n.column >= 0 {
			s.pseudo.learn(n.column, n.up, (bound-n.bound)/n.distance)
		}
	}
	if bound >= s.cutoff() {
		return nil, nil, false
	}
	found := false
	if got == optimal && s.fractional() == 0 {
		if settled, ended := s.settleWhole(); settled || ended {
			return nil, nil, ended
		}
	}
	if s.nodes < mendAlways || s.nodes%mendSeldom == 0 {
		found = s.mend()
	}
	if got == optimal {
		found = s.near() || found
	}
	if found {
		s.fixByRoot()
		if !s.enter(n.changes) {
			return nil, nil, false
		}
		switch s.solve(s.cutoff()) {
		case infeasible, above:
			return nil, nil, false
		case unended: // nothing is proved of this node
			return nil, nil, true
		}
	}
	changes := s.fixedHere(n)
	column, down, up := s.branchOn(bound)
	if column < 0 {
		return nil, nil, got != optimal
	}
	value := r.value[column]
	floor := below(value, r.low[column])
	low := &node{bound: max(bound, down), number: 2 * s.nodes, column: column, distance: max(value-floor, whole),
		changes: append(slices.Clone(changes), change{column, math.Inf(-1), floor})}
	high := &node{bound: max(bound, up), number: 2*s.nodes + 1, column: column, distance: max(floor+1-value, whole),
		up:      true,
		changes: append(slices.Clone(changes), change{column, floor + 1, math.Inf(1)})}
	if low.bound < high.bound || low.bound == high.bound && value-floor < 0.5 {
		return s.worth(low), s.worth(high), false
	}
	return s.worth(high), s.worth(low), false
}

// settleWhole takes the whole values of a relaxation as a solution, with the other columns solved once more for them
// rounded: a column may be away from a whole value by the tolerance. It is not settled when rounding leaves nothing
// over, or when rows held back that the rounded values do not keep make the relaxation another; ended says that there
// was no time for it.
func (s *solver) settleWhole() (settled, ended bool) {
	r := s.relaxation
	for {
		cost := r.objective()
		s.shot.take(r)
		for _, j := range s.integers {
			v := math.Round(r.value[j])
			r.bound(j, v, v)
		}
		solved := r.solve(Inf, s.mostPivots(), s.stopped) == optimal
		var lacking []int
		if solved {
			lacking = s.notKept()
			s.offer(r.value[:r.structural])
		}
		s.shot.restore(r)
		if !s.bringIn(lacking) {
			return solved && s.cost <= cost+1e-6*(1+math.Abs(cost)), false
		}
		switch s.solve(Inf) {
		case unended:
			return false, true
		case infeasible:
			return true, false
		}
		if s.fractional() > 0 {
			return false, false
		}
	}
}

func (s *solver) worth(n *node) *node {
	if n.bound >= s.cutoff() {
		return nil
	}
	return n
}

// fixedHere adds to the changes of a node the columns that reduced costs fix below it.
func (s *solver) fixedHere(n *node) []change {
	changes := n.changes
	if s.best == nil || s.relaxation.moved {
		return changes
	}
	r, gap := s.relaxation, s.cutoff()-s.relaxation.objective()
	own := false
	for _, j := range s.integers {
		if r.place[j] >= 0 || r.low[j] == r.high[j] || math.Abs(r.reduced[j]) <= gap || r.free[j] {
			continue
		}
		if !own {
			changes, own = slices.Clone(changes), true
		}
		changes = append(changes, change{j, r.value[j], r.value[j]})
	}
	return changes
}
