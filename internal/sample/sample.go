// Package sample says how much of a test is run: a few tries as one writes code (make test, go test -short), the usual
// number where all must pass (make test ALL=1, go test), and as many as one likes by TORNISTER_KITS.
package sample

import (
	"os"
	"strconv"
	"testing"
)

// Of is how many kits, parties or the like a test tries: TORNISTER_KITS, else few of them under -short and otherwise
// the usual number.
func Of(t testing.TB, few, usual int) int {
	t.Helper()
	if n, err := strconv.Atoi(os.Getenv("TORNISTER_KITS")); err == nil && n > 0 {
		return n
	}
	if Small() {
		return few
	}
	return usual
}

// Asked reports whether a number of kits was asked for: then nothing is left out on the way either.
func Asked() bool { return os.Getenv("TORNISTER_KITS") != "" }

// Small reports whether tests run in small.
func Small() bool { return testing.Short() && !Asked() }

// Whole leaves a long test to the whole run: others try the same in small.
func Whole(t testing.TB) {
	t.Helper()
	if Small() {
		t.Skip("long: make test ALL=1 runs it")
	}
}
