package load_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/internal/sample"
)

// Who leaves something at home is never told that more is too much than before, and who adds something never that less
// is: what an earlier plan found stands, as far as it can be said which of the two kits is the easier one.
func TestWhatWasTooMuchIsRemembered(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	const said = 3.3 // litres, as if the earlier plan had found that
	task := boxTask(28, 20, 40, []kit.Item{
		{ID: "tent", Name: "Tent", Count: 1, Carry: kit.Pack, MassG: 2000, Shape: kit.Shape{Kind: kit.Soft, LooseL: 16, TightL: 14, GapCm: 4}},
		{ID: "chest", Name: "Chest", Count: 2, Carry: kit.Pack, MassG: 900, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{20, 20, 15}}},
	})
	options := load.Options{Seed: 1, Effort: little, Rough: true}
	past := load.Make(task, options)
	require.Greater(t, past.OverL, 0.0)
	options.Past = past
	for name, tc := range map[string]struct {
		change   func(*job.Task)
		no, less bool // no more than was said, no less
	}{
		"as it was":           {func(*job.Task) {}, true, true},
		"a thing at home":     {func(o *job.Task) { o.Items = o.Items[1:] }, true, false},
		"one of two at home":  {func(o *job.Task) { o.Items[1].Count = 1 }, true, false},
		"more room":           {func(o *job.Task) { o.Pack = o.Pack.Grown(0.5) }, true, false},
		"softer":              {func(o *job.Task) { o.Items[1].Shape = kit.Shape{Kind: kit.Soft, LooseL: 6, TightL: 6, GapCm: 2} }, true, false},
		"bulkier":             {func(o *job.Task) { o.Items[1].Shape.SizeCm[0] += 2 }, false, true},
		"smaller":             {func(o *job.Task) { o.Items[0].Shape.LooseL, o.Items[0].Shape.TightL = 15, 13.5 }, true, false},
		"a thing more":        {func(o *job.Task) { o.Items[1].Count++ }, false, true},
		"less room":           {func(o *job.Task) { o.Pack = o.Pack.Grown(-1) }, false, true},
		"more room, one more": {func(o *job.Task) { o.Pack, o.Items[1].Count = o.Pack.Grown(0.5), 3 }, false, false},
		"another thing":       {func(o *job.Task) { o.Items[1].ID = "crate" }, false, false},
		"another school":      {func(o *job.Task) { o.Method.Heavy = "high" }, false, false},
	} {
		changed := *task
		changed.Items, changed.Pack.Zones = slices.Clone(task.Items), slices.Clone(task.Pack.Zones)
		tc.change(&changed)
		alone := load.Make(&changed, load.Options{Seed: 1, Effort: little, Rough: true}).OverL
		for _, figure := range []float64{said, 100} {
			past.OverL = figure
			want := alone
			if tc.no && want > 0 {
				want = min(want, figure)
			}
			if tc.less && want > 0 {
				want = max(want, figure)
			}
			plan := load.Make(&changed, options)
			assert.InDelta(t, want, plan.OverL, 1e-9, "%s: %.1f L alone, %.1f said before", name, alone, figure)
		}
	}
	past.OverL = said
	options.Quick = true
	quick := load.Make(task, options)
	assert.InDelta(t, said, quick.OverL, 1e-9, "a first answer is held to it")
	options.Quick, options.Past = false, quick
	quick.OverL = 0.2
	assert.Greater(t, load.Make(task, options).OverL, 0.2, "but is no witness itself")
}
