package store

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a centre lends is counted: more than is here does not go out, and what comes back not good waits to be mended.
func TestStockIsCounted(t *testing.T) {
	t.Parallel()
	s, trip := withTrip(t)
	ctx := t.Context()
	code, err := s.AddStock(ctx, "Shelter for two", map[string]any{"name": "Shelter for two", "kind": "tent-two"}, 3)
	require.NoError(t, err)
	one := func() *Stocked {
		list, err := s.Stocks(ctx)
		require.NoError(t, err)
		require.Len(t, list, 1)
		return &list[0]
	}
	require.NoError(t, s.HandOut(ctx, code, 2, "Ona", trip, "2026-07-11"))
	assert.Equal(t, 1, one().Here())
	require.ErrorContains(t, s.HandOut(ctx, code, 2, "Per", 0, ""), "1 of Shelter for two are here")
	loan := one().Loans[0].ID
	require.NoError(t, s.TakeBack(ctx, loan, 1, "one pole bent"))
	now := one()
	assert.Equal(t, [3]int{1, 1, 1}, [3]int{now.Here(), now.Away, now.Bad})
	require.ErrorContains(t, s.TakeBack(ctx, loan, 1, ""), "back already")
	require.ErrorContains(t, s.SetStock(ctx, code, 1, ""), "2 of it are out or out of use")
	for _, l := range now.Loans {
		if l.Back != nil {
			require.NoError(t, s.Mended(ctx, l.ID))
		} else {
			require.NoError(t, s.TakeBack(ctx, l.ID, 1, ""))
		}
	}
	now = one()
	assert.Equal(t, 3, now.Here())
	require.NoError(t, s.SetStock(ctx, code, 0, ""))
	list, err := s.Stocks(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.ErrorContains(t, s.HandOut(ctx, code, 1, "Per", 0, ""), "nothing with that code")
}
