package job

import (
	"slices"

	"tornister/core/kit"
	"tornister/core/method"
)

// SleepsIn reports whether one sleeps in the thing and it can be stuffed.
func SleepsIn(it *kit.Item) bool {
	return it.Group == "sleep" && it.Serves("warmth") && it.Shape.Kind == kit.Soft && it.Shape.LooseL >= leastSackedL
}

// leastSackedL is from how many litres on something is put into a compression sack: a thin liner is not (our estimate).
const leastSackedL = 3.0

// sackGives is how far the round section of a compression sack can be pressed out of square, sackLong how much longer
// than wide it is (our estimates).
const (
	sackGives = 1.3
	sackLong  = 1.4
)

// Sacked is the task with what one sleeps in as its sack keeps it: as small as it gets, and a stiff lump.
func (t *Task) Sacked() *Task {
	if t.Method.SleepingBag != "sack" || !slices.ContainsFunc(t.Items, func(it kit.Item) bool { return SleepsIn(&it) }) {
		return t
	}
	other := *t
	other.Items = slices.Clone(t.Items)
	for i := range other.Items {
		if it := &other.Items[i]; SleepsIn(it) {
			it.Shape = kit.Sack(it.Shape.TightL, sackLong, sackGives)
		}
	}
	return &other
}

// Sacks reports whether a school has a thing in a compression sack already.
func Sacks(m method.Method, it *kit.Item) bool { return m.SleepingBag == "sack" && SleepsIn(it) }
