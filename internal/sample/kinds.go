package sample

import (
	"math/rand/v2"
	"slices"

	"tornister/core/kit"
)

// later are kinds that the table got after kits were first drawn from it. Kits without them stay what they were, and so
// does what is written down of their plans.
var later = []string{"emergency-medicine", "pressure-bandage", "spectacles", "packraft", "paddle", "buoyancy-vest", "drysuit"}

// kinds are those that kits are drawn from.
var kinds = slices.DeleteFunc(slices.Clone(kit.Kinds), func(k kit.Kind) bool { return slices.Contains(later, k.ID) })

// Kind draws a kind of the table.
func Kind(r *rand.Rand) kit.Kind { return kinds[r.IntN(len(kinds))] }
