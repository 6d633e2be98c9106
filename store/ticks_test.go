package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/store"
)

// Ticks stay through changes and undo of the trip, and go with it.
func TestTicks(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	require.NoError(t, s.SetTick(t.Context(), id, "pot", store.TickIn))
	require.NoError(t, s.SetTick(t.Context(), id, "mug", store.TickIn))
	require.NoError(t, s.SetTick(t.Context(), id, "mug", store.TickOut))
	require.NoError(t, s.Change(t.Context(), id, 1, "heavier pot", setMass(222)))
	_, err := s.Undo(t.Context(), id, 2)
	require.NoError(t, err)
	ticks, err := s.Ticks(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"pot": "in", "mug": "out"}, ticks)
	require.NoError(t, s.SetTick(t.Context(), id, "mug", ""))
	ticks, err = s.Ticks(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"pot": "in"}, ticks)
	assert.ErrorIs(t, s.SetTick(t.Context(), 99, "pot", store.TickIn), store.ErrNotFound)
	require.NoError(t, s.ClearTicks(t.Context(), id))
	require.NoError(t, s.SetTick(t.Context(), id, "pot", store.TickIn))
	require.NoError(t, s.Remove(t.Context(), id, store.AnyVersion))
	ticks, err = s.Ticks(t.Context(), id)
	require.NoError(t, err)
	assert.Empty(t, ticks)
}
