package load_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/load"
	"tornister/internal/sample"
)

// Whoever puts the rain jacket and the first aid kit first into the body is told so: the changes named are those two
// (common practice), each saves what it says, and a plan of our own is not found fault with.
func TestAdviceOnABadOrder(t *testing.T) {
	t.Parallel()
	task := walker(t)
	options := load.Options{Seed: 1, Quick: true, Rough: true}
	plan := load.Make(task, options)
	options.Like = plan.Lays() // as who packs by hand is judged: with the lanes of the plan
	good := plan.Arrangement()
	bad := slices.Clone(good)
	for _, id := range []string{"first-aid", "shell"} {
		i := slices.IndexFunc(bad, func(s job.Spot) bool { return s.Item == id })
		spot := bad[i]
		spot.Zone = "body"
		bad = slices.Insert(slices.Delete(bad, i, i+1), 0, spot)
	}
	before := load.Price(task, bad, options).Cost()
	most := 3
	if sample.Small() {
		most = 2
	}
	changes := load.Advise(task, bad, most, options)
	require.GreaterOrEqual(t, len(changes), 2)
	var moved []string
	left := before
	for i, c := range changes {
		if slices.Contains([]string{"first-aid", "shell"}, c.Piece.ID) {
			assert.NotEqual(t, "body", c.To)
		}
		assert.Greater(t, c.SavesS, left/50)
		left -= c.SavesS
		assert.True(t, i == 0 || c.SavesS <= changes[i-1].SavesS+1e-6 || i > 1)
		moved = append(moved, c.Piece.ID)
	}
	assert.Subset(t, moved, []string{"first-aid", "shell"})
	spent := slices.Clone(bad)
	first := changes[0]
	i := slices.IndexFunc(spent, func(s job.Spot) bool { return s.Item == first.Piece.ID })
	spent = append(slices.Delete(spent, i, i+1),
		job.Spot{Item: first.Piece.ID, Piece: first.Piece.Number, Zone: first.To})
	if first.Before == nil {
		assert.InDelta(t, before-first.SavesS, load.Price(task, spent, options).Cost(), 1e-6, "it saves what it says")
	}
	assert.Less(t, len(load.Advise(task, good, 1, load.Options{Seed: 1, Stop: func() bool { return true }})), 1, "stopped")
}

// What does not go in where it was put is not priced but said so; what was forgotten comes in first.
func TestAdviceOnWhatDoesNotGoIn(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	task := walker(t)
	options := load.Options{Seed: 1, Quick: true, Rough: true}
	order := load.Make(task, options).Arrangement()
	for i := range order {
		if order[i].Item == "poles" {
			order[i].Zone = "lid"
		}
	}
	changes := load.Advise(task, order, 1, options)
	require.Len(t, changes, 1)
	assert.Equal(t, "poles", changes[0].Piece.ID)
	assert.True(t, changes[0].Misfit)
	assert.Equal(t, "load.change-fits", changes[0].Fact(&task.Pack).Code)
	order = slices.DeleteFunc(order, func(s job.Spot) bool { return s.Item == "poles" })
	changes = load.Advise(task, order, 1, options)
	require.Len(t, changes, 1)
	assert.Equal(t, "load.change-in", changes[0].Fact(&task.Pack).Code)
}
