package load

import (
	"math"
	"slices"
)

// The bound of file bound.go lets every thing choose its zone and prices the litres; it is as weak as the linear
// relaxation, since half a stove does not go into a hip pocket. Here it is the other way round: every zone chooses its
// contents, whole things that go in together, and what is priced is that a thing lies in just one zone. A zone's best
// contents are a knapsack problem, solved exactly by dynamic programming on a grid of litres. Rounding the litres of
// things down can only allow more, so the bound stays a bound.

// A zone's capacity is divided into steps of knapsackStepL litres, but into no fewer than fewSteps and no more than
// manySteps.
const (
	knapsackStepL = 0.015
	fewSteps      = 1500
	manySteps     = 2000
)

// knapsack finds the contents of zones.
type knapsack struct {
	*assignment
	steps  []int // by zone
	value  []float64
	chosen []bool // by thing and step
	weight [][]int
	part   []float64
	best   []bool
}

func newKnapsack(a *assignment) *knapsack {
	k := &knapsack{assignment: a, value: make([]float64, manySteps+1), chosen: make([]bool, len(a.choices)*(manySteps+1)),
		steps: make([]int, len(a.zones)), weight: make([][]int, len(a.zones))}
	for z := range a.zones {
		capacity := a.capacity(z) + litreSlack
		k.steps[z] = max(fewSteps, min(manySteps, int(capacity/knapsackStepL)))
		k.weight[z] = make([]int, len(a.choices))
		for i, c := range a.choices {
			k.weight[z][i] = int(math.Floor(c.room(1) / capacity * float64(k.steps[z])))
		}
	}
	return k
}

// contents finds the contents of a zone with the largest gain and marks them. In a pocket, food with fuel and wet
// things with dry ones cost a breach; so the best of a few fillings counts, each without one of every such pair or with
// the price of having both.
func (k *knapsack) contents(zone int, gain []float64, in []bool) float64 {
	best := k.fill(zone, gain, in)
	if !k.pocket(zone) {
		return best
	}
	var has [4]bool
	for i, taken := range in {
		for class, of := range classes {
			has[class] = has[class] || taken && of(k.choices[i])
		}
	}
	meets, soaks := has[0] && has[1], has[2] && has[3]
	if !meets && !soaks {
		return best
	}
	best -= breach * float64(count(meets)+count(soaks))
	k.best = append(k.best[:0], in...)
	for _, first := range without(meets, 0, 1) {
		for _, second := range without(soaks, 2, 3) {
			if first == both && second == both {
				continue // that is the filling above
			}
			k.part = append(k.part[:0], gain...)
			for i, c := range k.choices {
				if first != both && classes[first](c) || second != both && classes[second](c) {
					k.part[i] = 0
				}
			}
			value := k.fill(zone, k.part, in) - breach*float64(count(meets && first == both)+count(soaks && second == both))
			if value > best {
				best = value
				k.best = append(k.best[:0], in...)
			}
		}
	}
	copy(in, k.best)
	return best
}

// classes of things that must not meet in a pocket: the first two, and the last two.
var classes = [4]func(*choice) bool{
	func(c *choice) bool { return c.food > 0 }, func(c *choice) bool { return c.fuel > 0 },
	func(c *choice) bool { return c.wet > 0 }, func(c *choice) bool { return c.spoilt > 0 },
}

// both stands for leaving out neither class.
const both = -1

// without lists what can be left out so that a pair does not meet; nothing has to be where it does not.
func without(meet bool, a, b int) []int {
	if meet {
		return []int{both, a, b}
	}
	return []int{both}
}

// fill finds the contents of a zone with the largest gain and marks them; gain is by thing, NaN for what cannot be
// there.
func (k *knapsack) fill(zone int, gain []float64, in []bool) float64 {
	steps := k.steps[zone]
	width := steps + 1
	clear(k.value[:width])
	for i, g := range gain {
		if !(g > 0) || k.weight[zone][i] > steps {
			continue
		}
		w, row := k.weight[zone][i], k.chosen[i*width:(i+1)*width]
		clear(row)
		for c := steps; c >= w; c-- {
			if v := k.value[c-w] + g; v > k.value[c] {
				k.value[c], row[c] = v, true
			}
		}
	}
	c := steps
	for i := len(gain) - 1; i >= 0; i-- {
		in[i] = false
		if !(gain[i] > 0) || k.weight[zone][i] > c {
			continue
		}
		if k.chosen[i*width+c] {
			in[i] = true
			c -= k.weight[zone][i]
		}
	}
	return k.value[steps]
}

// tighten raises the bound: it starts from the prices of litres found before and moves what each thing pays for its one
// place. Every few rounds the contents that the zones chose are mended into an assignment; a better one is kept.
func (a *assignment) tighten(bound float64, at *prices, rounds int) float64 {
	k := newKnapsack(a)
	n := len(a.choices)
	pay := make([]float64, n) // what a thing pays to lie somewhere
	for i, c := range a.choices {
		pay[i] = c.leave
		for z := range a.zones {
			pay[i] = min(pay[i], a.reduced(c, z, at))
		}
	}
	gain, in := make([]float64, n), make([]bool, n)
	times, where := make([]int, n), make([]int, n)
	best, bestPay, now := bound, slices.Clone(pay), at.clone()
	use, before := newUsage(a), newUsage(a)
	direction := make([]float64, n)
	pace, stale := 1.0, 0
	for round := range rounds {
		if a.ended() {
			break
		}
		value := -a.worth(now)
		use.clear()
		for i, c := range a.choices {
			value += pay[i]
			times[i], where[i] = 0, out
			if c.leave < pay[i] {
				value -= pay[i] - c.leave
				times[i]++
			}
		}
		for z := range a.zones {
			for i, c := range a.choices {
				gain[i] = pay[i] - a.reduced(c, z, now)
			}
			value -= k.contents(z, gain, in)
			for i := range in {
				if in[i] {
					times[i]++
					use.add(a.choices[i], z)
					if where[i] == out || a.choices[i].price[z] < a.choices[i].price[where[i]] {
						where[i] = z
					}
				}
			}
		}
		if value > best+1e-9 {
			best, stale = value, 0
			copy(bestPay, pay)
			at = now.clone()
		} else if stale++; stale > 50 {
			pace, stale = pace*0.6, 0
			copy(pay, bestPay)
			now = at.clone()
			clear(direction)
			before.clear()
			continue
		}
		if round%mendEvery == mendEvery-1 {
			a.mend(where)
		}
		use.excess()
		use.follow(before)
		norm := use.square(now)
		for i := range times {
			direction[i] = deflect*direction[i] + float64(1-times[i])
			norm += direction[i] * direction[i]
		}
		upper := a.total()
		if norm == 0 || pace < 1e-3 || upper-best < closeEnough*upper {
			break
		}
		step := pace * max(upper-value, 1e-4*upper) / norm
		for i := range pay {
			pay[i] += step * direction[i]
		}
		use.move(now, step)
	}
	return best
}

// mendEvery is the number of rounds between two attempts to make an assignment of what the zones chose.
const mendEvery = 7

// mend puts things where they were chosen as far as they go in, improves, and goes back when that is no better.
func (a *assignment) mend(where []int) {
	before, cost := a.zonesNow(), a.total()
	for _, c := range a.choices {
		a.put(c, out)
	}
	for i, c := range a.choices {
		if z := where[i]; z != out {
			a.put(c, z)
			if math.IsInf(a.around(z), 1) {
				a.put(c, out)
			}
		}
	}
	a.improve()
	if a.total() > cost-gain {
		for i, c := range a.choices {
			a.put(c, before[i])
		}
	}
}
