// Package campaign tries to break the program, in ways that can be done again: bundles changed at random, forms
// filled with rubbish, kills, torn files, crowds. Each try has a number; the same number under the same seed is the
// same try. What a try must never do stands in one place, Oracle.
package campaign

import (
	"os"
	"strconv"
	"testing"
)

// Size is how many tries a campaign makes: a few as part of the tests, many when TORNISTER_CAMPAIGN is set.
func Size(t testing.TB, short, full int) int {
	t.Helper()
	if n, err := strconv.Atoi(os.Getenv("TORNISTER_CAMPAIGN")); err == nil && n > 0 {
		return n
	}
	if os.Getenv("TORNISTER_CAMPAIGN") != "" {
		return full
	}
	return short
}

// Seed is where a campaign begins; TORNISTER_SEED begins it elsewhere.
func Seed() uint64 {
	if n, err := strconv.ParseUint(os.Getenv("TORNISTER_SEED"), 10, 64); err == nil {
		return n
	}
	return 20261126
}

// Only is the number of the one try that is to be made again (TORNISTER_TRY), -1 for all.
func Only() int {
	if n, err := strconv.Atoi(os.Getenv("TORNISTER_TRY")); err == nil {
		return n
	}
	return -1
}
