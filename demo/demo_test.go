package demo_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
)

func TestGenericPacksMakeSense(t *testing.T) {
	t.Parallel()
	assert.Len(t, demo.Packs(), 10)
	least, most := 1e9, 0.0
	for _, p := range demo.Packs() {
		var object map[string]any
		require.NoError(t, json.Unmarshal(p.JSON, &object))
		pack, err := bundle.CheckPack(object)
		require.NoError(t, err, p.ID)
		assert.Empty(t, pack.Sense(), p.ID)
		least, most = min(least, pack.StatedL()), max(most, pack.StatedL())
	}
	assert.InDelta(t, 18, least, 0.5)
	assert.InDelta(t, 85, most, 0.5)
}

// The lines of the walk that follow the trip are those that are worked out from it.
func TestTheLoneWalkerFollowsHerTrip(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	doc := b.Doc.Clone()
	require.NoError(t, doc.Follow())
	assert.Equal(t, b.Doc, doc)
}
