// Package practice makes exercises out of a plan: where a thing lies that a moment asks for, what was put wrong into a
// packed bag, and loading it by hand. It says what was found, how hard the next one should be, and what is to be asked
// again.
package practice

import (
	"math"

	"tornister/core/verdict"
)

// Kind is what an exercise trains.
type Kind string

// The kinds of exercises.
const (
	Where Kind = "where" // where is what is needed now?
	Find  Kind = "find"  // what was put wrong?
	Hand  Kind = "hand"  // load it yourself
)

// Kinds lists them, the easiest first.
var Kinds = []Kind{Where, Find, Hand}

// The levels of difficulty.
const (
	Easiest = 1
	Hardest = 4
)

// Good enough to go on to the next level, and so bad that the one before is better, in points of a hundred (our
// estimates).
const (
	goOn   = 85
	goBack = 50
)

// Next is the level after an exercise of a level that brought so many points of a hundred.
func Next(level, score int) int {
	switch {
	case score >= goOn:
		level++
	case score < goBack:
		level--
	}
	return max(Easiest, min(Hardest, level))
}

// Questions is how many questions an exercise of a level asks.
func Questions(level int) int { return 4 + 2*level }

// Faults is how many faults an exercise of a level has: two to four.
func Faults(level int) int { return min(4, 1+level) }

// Points are so many right of so many, less what was wrongly said, as points of a hundred.
func Points(right, wrong, all int) int {
	if all == 0 {
		return 0
	}
	return int(math.Round(100 * float64(max(0, right-wrong)) / float64(all)))
}

// Intervals are the days until what was missed is asked again: after the miss, and after each time that it was known
// since. Known once more after the last, it is no longer asked (spaced repetition; the steps are common practice).
var Intervals = []int{1, 3, 7, 21}

// After is the step and the days until it comes again, of what was answered at a step of Intervals. Days are 0 for what
// is known for good.
func After(step int, right bool) (next, days int) {
	if !right {
		return 0, Intervals[0]
	}
	if next = step + 1; next >= len(Intervals) {
		return next, 0
	}
	return next, Intervals[next]
}

// Compare is how a packing stands to a plan under the same school, in points of a hundred: each of the six checks
// counts alike, in full where it stands at least as well, half where it is one state worse. Of what lies beside the
// pack all are a part less.
func Compare(plan, packed *verdict.Judged) int {
	rank := map[verdict.CheckState]float64{verdict.Stop: 0, verdict.Look: 1, verdict.Settled: 2}
	sum := 0.0
	for _, name := range verdict.Names {
		if less := rank[plan.Check(name).State] - rank[packed.Check(name).State]; less < 2 {
			sum += 1 - max(0, less)/2
		}
	}
	share := 1.0
	if in, out := len(packed.Plan.Placed), len(packed.Plan.LeftOut); in+out > 0 {
		share = float64(in) / float64(in+out)
	}
	return int(math.Round(100 * share * sum / float64(len(verdict.Names))))
}
