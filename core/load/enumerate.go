package load

import (
	"math"
	"slices"
)

// enumerate looks through all assignments whose reduced costs together are less than the gap: no other can be better
// than the best known. It walks the things in the order of how much they lose by not taking their cheapest zone, and
// cuts off where the sum reaches the gap or a zone overflows. It reports whether it came to an end within the nodes, in
// which case the best assignment is optimal; a better one found on the way is kept.
func (a *assignment) enumerate(bound float64, at *prices, nodes int) bool {
	e := &enumeration{assignment: a, at: at, best: a.total(), keep: a.zonesNow(), bound: bound, limit: nodes}
	for _, c := range a.choices {
		o := options{choice: c}
		for z := range a.zones {
			if v := a.reduced(c, z, at); !math.IsInf(v, 1) {
				o.list = append(o.list, option{z, v})
			}
		}
		o.list = append(o.list, option{out, c.leave})
		slices.SortStableFunc(o.list, func(x, y option) int { return compareDescending(y.cost, x.cost) })
		least := o.list[0].cost
		for i := range o.list {
			o.list[i].cost -= least
		}
		e.options = append(e.options, o)
	}
	slices.SortStableFunc(e.options, func(x, y options) int { return compareDescending(x.weight(e), y.weight(e)) })
	for i := 1; i < len(e.options); i++ {
		e.options[i].twin = e.options[i].twinOf(&e.options[i-1])
	}
	e.picked = make([]int, len(e.options))
	e.left, e.right = make([]float64, len(e.options)+1), make([]float64, len(e.options)+1)
	for i := len(e.options) - 1; i >= 0; i-- {
		left, right := e.options[i].pull(e)
		e.left[i], e.right[i] = e.left[i+1]+left, e.right[i+1]+right
	}
	for _, c := range a.choices {
		a.put(c, out)
	}
	ended := e.walk(0, 0)
	for i, c := range a.choices {
		a.put(c, e.keep[i])
	}
	return ended
}

type option struct {
	zone int
	cost float64 // above the cheapest
}

type options struct {
	choice *choice
	list   []option
	twin   bool // equal in all to the thing before: exchanging the two makes no other assignment
}

func (o *options) twinOf(before *options) bool {
	a, b := o.choice, before.choice
	return a.ID == b.ID && len(a.inside)+len(b.inside) == 0 && slices.Equal(o.list, before.list)
}

// regret is what the second cheapest zone costs more.
func (o *options) regret() float64 {
	if len(o.list) < 2 {
		return math.Inf(1)
	}
	return o.list[1].cost
}

// pull is by how many newton-metres the thing may pull to the left (negative) and to the right.
func (o *options) pull(e *enumeration) (left, right float64) {
	for _, option := range o.list {
		m := 0.0
		if option.zone != out {
			m = sideMoment(&e.zones[option.zone], o.choice.mass)
		}
		left, right = min(left, m), max(right, m)
	}
	return left, right
}

// weight is how much there is to decide about the thing: what it loses by another zone, or can do to the balance of the
// sides.
func (o *options) weight(e *enumeration) float64 {
	left, right := o.pull(e)
	return o.regret() + perSideNm*(right-left)
}

// lopsided is what the sides must still cost, above what the prices have counted: the pull so far, and what the things
// from a depth on can do about it.
func (e *enumeration) lopsided(depth int) float64 {
	low, high := e.moment+e.left[depth], e.moment+e.right[depth]
	if low <= 0 && high >= 0 {
		return 0
	}
	m := low
	if high < 0 {
		m = high
	}
	return sideCost(m) - e.at.side*m
}

type enumeration struct {
	*assignment
	at      *prices
	options []options
	bound   float64
	best    float64
	keep    []int
	nodes   int
	limit   int
	picked  []int     // by depth, the number of the option under trial
	left    []float64 // by depth, the newton-metres that the things from there on may pull to the left, negative
	right   []float64 // and to the right
}

func (e *enumeration) walk(depth int, above float64) (ended bool) {
	if e.nodes++; e.nodes > e.limit || e.nodes%256 == 0 && e.ended() {
		return false
	}
	if depth == len(e.options) {
		if total := e.total(); total < e.best-gain {
			e.best, e.keep = total, e.zonesNow()
		}
		return true
	}
	o := &e.options[depth]
	first := 0
	if o.twin {
		first = e.picked[depth-1]
	}
	for k, option := range o.list[first:] {
		if e.bound+above+option.cost >= e.best-gain {
			return true
		}
		e.picked[depth] = first + k
		ended = true
		e.put(o.choice, option.zone)
		if e.bound+above+option.cost+e.lopsided(depth+1) >= e.best-gain {
			e.put(o.choice, out)
			continue
		}
		ended = option.zone == out || e.roomLeft(option.zone)
		if ended {
			ended = e.walk(depth+1, above+option.cost)
		} else {
			ended = true // overfull: nothing below can mend it
		}
		e.put(o.choice, out)
		if !ended {
			return false
		}
	}
	return true
}

// roomLeft reports whether a zone, and the one it draws on, can still hold what is in them, tight.
func (e *enumeration) roomLeft(zone int) bool {
	if math.IsInf(e.zoneCost(zone), 1) {
		return false
	}
	target := e.drawnOn[zone]
	return target < 0 || !math.IsInf(e.zoneCost(target), 1)
}

// total is the cost of the assignment as it stands: the objective of the program.
func (a *assignment) total() float64 {
	sum := sideCost(a.moment)
	for z := range a.zones {
		sum += a.zoneCost(z)
	}
	for _, c := range a.choices {
		sum += c.cost(c.zone)
	}
	return sum
}

func (a *assignment) zonesNow() []int {
	zones := make([]int, len(a.choices))
	for i, c := range a.choices {
		zones[i] = c.zone
	}
	return zones
}
