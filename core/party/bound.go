package party

import (
	"cmp"
	"slices"
)

// bound is a score that no completion of a state goes below. The rest is taken as something that can be poured: in
// any completion at least so many bearers reach a level as are needed to hold it all when the others stay one
// level lower.
func (t *table) bound(s *state, rest int64, depth int) score {
	return t.ordered(t.levels(s, rest, depth), s.changes)
}

// levels are those of a bound; the lumps from depth on in the order of the search are to be placed yet.
func (t *table) levels(s *state, rest int64, depth int) []int {
	n := len(s.load)
	levels := make([]int, n)
	for b, load := range s.load {
		levels[b] = level(load, t.limit[b])
	}
	top := slices.Max(levels)
	for t.room(s, top, depth) < rest { // everybody up to the water's surface
		top++
	}
	forced := t.narrowest(s, top, depth) // by what only some may carry
	top = max(top, forced)
	out := make([]int, 0, n)
	gains := make([]int64, n)
	hold := t.room(s, top, depth)
	for v := top; len(out) < n; v-- {
		// All who are not counted yet stand at v at most. How many of them must stand at v?
		already := 0
		var lost int64
		for b := range s.load {
			gains[b] = t.roomOf(s, b, v, depth) - t.roomOf(s, b, v-1, depth)
			lost += gains[b]
			if levels[b] >= v {
				already++
			}
		}
		slices.SortFunc(gains, func(x, y int64) int { return cmp.Compare(y, x) })
		need := len(out)
		if v == top && forced == top {
			already = max(already, 1)
		}
		kept := hold - lost
		for i := range need {
			kept += gains[i]
		}
		for need < n && (need < already || kept < rest) {
			kept += gains[need]
			need++
		}
		for len(out) < need {
			out = append(out, v)
		}
		hold = kept
		if v <= 0 {
			for len(out) < n {
				out = append(out, 0)
			}
		}
	}
	return out
}

// narrowest is the level that somebody must reach because some lumps are for a few bearers only, 0 when that says
// nothing above a known level.
func (t *table) narrowest(s *state, known, depth int) (forced int) {
	for _, set := range t.narrow {
		var mass, largest int64
		for _, l := range set.lumps {
			if s.holder[l] < 0 {
				mass += t.lumps[l].mass
				largest = max(largest, t.lumps[l].mass)
			}
		}
		if mass == 0 {
			continue
		}
		v := max(known, forced)
		enough := func() bool {
			var sum, most int64
			for _, b := range set.bearers {
				room := t.roomOf(s, b, v, depth)
				sum, most = sum+room, max(most, room)
			}
			return sum >= mass && most >= largest
		}
		for !enough() {
			v++
			forced = v
		}
	}
	return forced
}

// roomOf is how much of what is to be placed yet can come to a bearer up to a level: the largest sum of such lumps
// that is not above it.
func (t *table) roomOf(s *state, b, level, depth int) int64 {
	room := (t.limit[b]*int64(level)/Full - s.load[b]) / t.unit
	if room <= 0 {
		return 0
	}
	sums := t.sums[depth]
	return int64(sums[min(room, int64(len(sums)-1))]) * t.unit
}

func (t *table) room(s *state, level, depth int) (sum int64) {
	for b := range s.load {
		sum += t.roomOf(s, b, level, depth)
	}
	return sum
}

// mostSums bounds the tables of sums.
const mostSums = 4_000_000

// tabulate fills, for each depth of the search, the largest sum of the lumps from there on that is not above a
// mass, in units of the largest mass that all lumps are multiples of.
func (t *table) tabulate(order []int) {
	t.unit = 0
	total := int64(0)
	for _, l := range order {
		t.unit = gcd(t.unit, t.lumps[l].mass)
		total += t.lumps[l].mass
	}
	t.unit = max(1, t.unit)
	size := total/t.unit + 1
	exact := size*int64(len(order)+1) <= mostSums
	t.sums = make([][]int32, len(order)+1)
	reached := make([]bool, size)
	reached[0] = true
	known := int64(0)
	for depth := len(order); depth >= 0; depth-- {
		if depth < len(order) {
			mass := t.lumps[order[depth]].mass / t.unit
			for at := known; at >= 0 && exact; at-- {
				if reached[at] {
					reached[at+mass] = true
				}
			}
			known += mass
		}
		if !exact && depth < len(order) && depth > 0 {
			continue
		}
		t.sums[depth] = make([]int32, known+1)
		last := int32(0)
		for at := range t.sums[depth] {
			if reached[at] || !exact {
				last = int32(at)
			}
			t.sums[depth][at] = last
		}
	}
	for depth := 1; depth < len(order) && !exact; depth++ {
		t.sums[depth] = t.sums[0]
	}
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
