package bundle_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/learn"
	"tornister/core/trail"
	"tornister/demo"
)

// What a hand says is planned with, and goes with it; what the packer said himself stays.
func TestAHandIsTakenOffWhole(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	doc := b.Doc
	before, _ := doc.Object("trip")["eating"].(map[string]any)
	gas := trail.GasG(1, trail.StreamC, false, 0.6)
	require.NoError(t, doc.SetHand(bundle.Hand{Food: &learn.Belief{Mean: 900, Sd: 0.1, N: 2},
		Gas: &learn.Belief{Mean: gas, Sd: 0.1, N: 2}, Pace: &learn.Belief{Mean: 1.3, Sd: 0.1, N: 2}}))
	with, err := bundle.FromDoc(doc)
	require.NoError(t, err)
	assert.InDelta(t, 900, with.Task.Trip.Eating.GramsADay, 1e-9)
	assert.InDelta(t, 0.6, with.Task.Trip.Eating.Efficiency, 1e-3)
	for i, leg := range with.Task.Trip.Legs {
		own := b.Task.Trip.Legs[i]
		if own.Hours == 0 {
			assert.InDelta(t, 1.3*own.Walking(), leg.Walking(), 1e-9, "slower than the rule by three tenths")
		}
	}
	require.NoError(t, doc.SetHand(bundle.Hand{}))
	after, _ := doc.Object("trip")["eating"].(map[string]any)
	assert.Len(t, after, len(before))
	assert.Nil(t, after["stove_efficiency"])
	assert.Nil(t, doc["hand"])
}
