package kit

import (
	"math"
	"slices"
	"strconv"

	"tornister/core/unit"
)

// times reads how many things of its kind there are: "2 x", "3 x 100 g" of each, "x 4", "4 pairs" behind the name. It
// says how many words that took; 0 when there is no count.
func (r *reader) times(i int) (int, error) {
	if r.countGiven || len(r.sides) > 0 {
		return 0, nil
	}
	value, number := plainNumber(r.words[i])
	after, more := plainNumber(r.at(i + 1))
	switch {
	case number && r.at(i+1) == "x":
		_, sized := plainNumber(r.at(i + 2))
		each := measures[r.at(i+3)] || amount(r.at(i+2)+" "+r.at(i+3))
		if whole := value == math.Trunc(value); (!sized || each) && (whole || len(r.name) == 0) {
			return 2, r.count(value)
		}
	case number && len(r.name) > 0 && slices.Contains(pairs, r.at(i+1)):
		return 2, r.count(value)
	case r.at(i) == "x" && more && len(r.name) > 0 && after == math.Trunc(after) && !amount(r.at(i+1)+" "+r.at(i+2)):
		if _, err := unit.Length("1 "+r.at(i+2), ""); err != nil && r.at(i+2) != "x" {
			return 2, r.count(after)
		}
	}
	return 0, nil
}

// mostOfALine is how many things a line may stand for. A larger number before a name is a part of it: 230 gas.
const mostOfALine = 100

func (r *reader) count(n float64) error {
	if n < 1 || n > mostOfALine || n != math.Trunc(n) {
		return &QuickError{strconv.FormatFloat(n, 'f', -1, 64) + " is no count",
			"give a whole number from 1 to 100 before the x"}
	}
	r.told.Count, r.countGiven = int(n), true
	return nil
}
