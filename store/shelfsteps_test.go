package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/store"
)

// What was done to the shelf is taken back, one change after another, and the trips follow back.
func TestUndoOnTheShelf(t *testing.T) {
	t.Parallel()
	s, id, _ := shared(t)
	key := keyOf(t, s, id, "pot")
	was, err := s.Thing(t.Context(), key)
	require.NoError(t, err)
	for range 8 { // whatever made the shelf
		if err := s.UndoShelf(t.Context(), store.ShelfRoom); err != nil {
			assert.ErrorIs(t, err, store.ErrNoUndo)
		}
	}
	require.NoError(t, s.ChangeThing(t.Context(), key, was.Version, func(th *store.ShelfThing) error {
		th.Object["name"] = "Dented pot"
		return nil
	}))
	require.NoError(t, s.BulkThings(t.Context(), []string{key}, func(th *store.ShelfThing) { th.Status = store.Lent }))
	now, err := s.Thing(t.Context(), key)
	require.NoError(t, err)
	require.NoError(t, s.RemoveThing(t.Context(), key, now.Version))
	added, err := s.AddThings(t.Context(), []map[string]any{{"name": "Kettle", "kind": "kettle"}})
	require.NoError(t, err)

	for _, label := range []string{"put a thing on the shelf", "take Dented pot off the shelf", "change a thing",
		"change " + was.Name} {
		said, err := s.LastShelfStep(t.Context(), store.ShelfRoom)
		require.NoError(t, err)
		assert.Equal(t, label, said)
		require.NoError(t, s.UndoShelf(t.Context(), store.ShelfRoom))
	}
	assert.ErrorIs(t, s.UndoShelf(t.Context(), store.ShelfRoom), store.ErrNoUndo)
	_, err = s.Thing(t.Context(), added[0])
	assert.ErrorIs(t, err, store.ErrNotFound)
	back, err := s.Thing(t.Context(), key)
	require.NoError(t, err)
	assert.Equal(t, was.Name, back.Name)
	assert.Equal(t, store.Here, back.Status)
}

// The same for packs: the trips that carry one follow its undo.
func TestUndoOfPacks(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	state, err := s.Trip(t.Context(), id)
	require.NoError(t, err)
	object, _ := state.Doc["pack"].(map[string]any)
	name := object["name"]
	key, err := s.AddPack(t.Context(), object)
	require.NoError(t, err)
	owned, err := s.PackOf(t.Context(), key)
	require.NoError(t, err)
	require.NoError(t, s.ChangePack(t.Context(), key, owned.Version,
		func(o map[string]any) error { o["name"] = "Patched pack"; return nil }))
	owned, err = s.PackOf(t.Context(), key)
	require.NoError(t, err)
	require.NoError(t, s.RemovePack(t.Context(), key, owned.Version))
	require.NoError(t, s.UndoShelf(t.Context(), store.PacksRoom))
	require.NoError(t, s.UndoShelf(t.Context(), store.PacksRoom))
	owned, err = s.PackOf(t.Context(), key)
	require.NoError(t, err)
	assert.Equal(t, name, owned.Name)
	require.NoError(t, s.UndoShelf(t.Context(), store.PacksRoom))
	_, err = s.PackOf(t.Context(), key)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.UndoShelf(t.Context(), store.PacksRoom), store.ErrNoUndo)
}
