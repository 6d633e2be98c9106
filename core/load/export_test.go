package load

import (
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
)

// Assign solves only the zone assignment of a task, thoroughly, for benchmarks.
func Assign(task *job.Task) assign.Proof {
	pieces := kit.Pieces(task.Items, kit.Pack)
	slices.SortFunc(pieces, job.ComparePieces)
	nested, loose := job.Nest(pieces)
	a := assign.New(task, loose, nested, false)
	a.Solve(assign.Thoroughly)
	return a.Proof
}
