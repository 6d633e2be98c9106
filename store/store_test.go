package store_test

import (
	"context"
	"errors"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/store"
)

func open(t *testing.T) (*store.Store, string) {
	path := filepath.Join(t.TempDir(), "kept here.db")
	s, err := store.Open(path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s, path
}

func withDemo(t *testing.T, s *store.Store) uint {
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	id, err := s.Create(t.Context(), b.Doc)
	require.NoError(t, err)
	return id
}

func setMass(grams float64) func(bundle.Doc) error {
	return func(doc bundle.Doc) error {
		return doc.EditItem("pot", func(item map[string]any) error {
			item["mass_g"] = bundle.Number(grams)
			return nil
		})
	}
}

func potMass(t *testing.T, s *store.Store, id uint) string {
	state, err := s.Trip(t.Context(), id)
	require.NoError(t, err)
	for _, item := range state.Doc.List("items") {
		if item["id"] == "pot" {
			return string(item["mass_g"].(interface{ String() string }).String())
		}
	}
	return ""
}

func TestWhatGoesInComesOut(t *testing.T) {
	t.Parallel()
	s, path := open(t)
	id := withDemo(t, s)
	require.NoError(t, s.Close())
	again, err := store.Open(path)
	require.NoError(t, err)
	defer again.Close()
	state, err := again.Trip(t.Context(), id)
	require.NoError(t, err)
	out, err := state.Doc.JSON()
	require.NoError(t, err)
	assert.JSONEq(t, string(demo.LoneWalker), string(out))
	list, err := again.Trips(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "Orlava, three nights", list[0].Name)
	assert.Equal(t, 50, list[0].Things)
}

func TestStaleWindowIsToldNotObeyed(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	require.NoError(t, s.Change(t.Context(), id, 1, "first", setMass(200)))
	assert.ErrorIs(t, s.Change(t.Context(), id, 1, "second", setMass(300)), store.ErrStale)
	assert.Equal(t, "200", potMass(t, s, id))
	assert.ErrorIs(t, s.Change(t.Context(), 99, 1, "nowhere", setMass(1)), store.ErrNotFound)
}

func TestManyWindowsAtOnce(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	var mu sync.Mutex
	done := 0
	var wait sync.WaitGroup
	for i := range 8 {
		wait.Go(func() {
			err := s.Change(context.Background(), id, 1, "race", setMass(float64(500+i)))
			mu.Lock()
			defer mu.Unlock()
			if err == nil {
				done++
			} else if !errors.Is(err, store.ErrStale) {
				t.Error(err)
			}
		})
	}
	wait.Wait()
	assert.Equal(t, 1, done, "exactly one window wins")
}

func TestInvalidEditChangesNothing(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	err := s.Change(t.Context(), id, 1, "bad", setMass(-5))
	var problems bundle.Problems
	require.ErrorAs(t, err, &problems)
	state, err := s.Trip(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, 1, state.Version)
	assert.Empty(t, state.Undo)
}

func TestUndoAndRedo(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	before := potMass(t, s, id)
	require.NoError(t, s.Change(t.Context(), id, 1, "pot to 200", setMass(200)))
	require.NoError(t, s.Change(t.Context(), id, 2, "remove the mug",
		func(d bundle.Doc) error { return d.RemoveItem("mug") }))
	require.NoError(t, s.Change(t.Context(), id, 3, "nothing", setMass(200)), "an edit that changes nothing")
	label, err := s.Undo(t.Context(), id, 3)
	require.NoError(t, err)
	assert.Equal(t, "remove the mug", label)
	_, err = s.Undo(t.Context(), id, 4)
	require.NoError(t, err)
	assert.Equal(t, before, potMass(t, s, id))
	_, err = s.Undo(t.Context(), id, 5)
	assert.ErrorIs(t, err, store.ErrNoUndo)
	_, err = s.Redo(t.Context(), id, 5)
	require.NoError(t, err)
	assert.Equal(t, "200", potMass(t, s, id))
	require.NoError(t, s.Change(t.Context(), id, 6, "pot to 250", setMass(250)))
	state, err := s.Trip(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, "pot to 250", state.Undo)
	assert.Empty(t, state.Redo, "a new change ends what could be done again")
}

func TestRemove(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	assert.ErrorIs(t, s.Remove(t.Context(), id, 7), store.ErrStale)
	require.NoError(t, s.Remove(t.Context(), id, 1))
	_, err := s.Trip(t.Context(), id)
	assert.ErrorIs(t, err, store.ErrNotFound)
}
