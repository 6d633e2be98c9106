package load

import (
	"slices"

	"tornister/core/kit"
)

// Assign solves only the zone assignment of a task, thoroughly, for benchmarks.
func Assign(task *Task) Proof {
	pieces := kit.Pieces(task.Items, kit.Pack)
	slices.SortFunc(pieces, comparePieces)
	nested, loose := nest(pieces)
	a := newAssignment(task, loose, nested, false)
	a.solve(thoroughly)
	return a.proof
}
