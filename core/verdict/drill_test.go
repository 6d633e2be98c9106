package verdict_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/verdict"
	"tornister/demo"
)

// On every demo kit under every way of packing (facts of the trade, common practice): the rain jacket comes to hand
// in seconds without the liner being opened, a companion finds the first aid kit, shovel and probe come out in one
// pull.
func TestWhatIsWantedInAHurryComesToHand(t *testing.T) {
	t.Parallel()
	for _, text := range demo.Trips {
		for _, preset := range method.Presets {
			b, err := bundle.Read(text)
			require.NoError(t, err)
			b.Task.Method = preset.Method
			plan := load.Make(&b.Task, load.Options{Seed: 1, Quick: true})
			lies, worn := verdict.Lies(&b.Task, plan)
			at := b.Doc.Name() + ", " + preset.ID
			for _, l := range lies {
				if l.Piece.Serves("rain") && l.Piece.Kind != "rain-trousers" {
					assert.False(t, l.Liner, "%s: the rain jacket lies in %s", at, l.Zone.Name)
					assert.LessOrEqual(t, reach.Seconds(l.Zone, 0, 0), 20.0, at)
				}
				if l.Piece.Has(kit.Rescue) {
					assert.True(t, l.Zone.OnePull(), "%s: %s in %s", at, l.Piece.Name, l.Zone.Name)
					assert.Empty(t, l.Over, at)
				}
			}
			for i := range reach.Drills {
				if d := &reach.Drills[i]; d.Told {
					if r := reach.Run(d, lies, worn); !r.Missing {
						assert.True(t, r.Found(lies), "%s: told as %v", at, r.Where)
					}
				}
			}
		}
	}
}

// What a pin to a nearer zone is said to do to a drill, it does.
func TestASuggestionDoesWhatItSays(t *testing.T) {
	t.Parallel()
	b := read(t)
	b.Task.Pins = []job.Pin{{Item: "shell", Zone: "body"}}
	in := func() float64 {
		plan := load.Make(&b.Task, load.Options{Seed: 1, Quick: true})
		for _, r := range verdict.Rehearsed(&b.Task, plan, nil) {
			if r.Drill.ID == "rain" {
				return r.InHandS
			}
		}
		return 0
	}
	before := in()
	b.Task.Pins[0].Zone = "lid"
	after := in()
	assert.Less(t, after, before)
	lid := b.Task.Pack.Of(rucksack.Lid)
	assert.GreaterOrEqual(t, after, reach.Seconds(lid, 0, 0)-1e-9)
}
