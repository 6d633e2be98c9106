package store

import (
	"path/filepath"
	"testing"
	"time"
	"tornister/bundle"
	"tornister/demo"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A link is for one bearer, ends by itself or when it is taken back, and cannot be guessed.
func TestCardLinks(t *testing.T) {
	t.Parallel()
	s, trip := withTrip(t)
	now := time.Date(2026, 7, 8, 12, 0, 0, 0, time.UTC)
	s.now = func() time.Time { return now }
	ctx := t.Context()
	one, err := s.MakeCardLink(ctx, trip, "mila", now.Add(48*time.Hour))
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(one.Token)*5, 128, "base32: five random bits a letter")
	found, err := s.CardLink(ctx, one.Token)
	require.NoError(t, err)
	assert.Equal(t, "mila", found.Bearer)
	_, err = s.CardLink(ctx, "guessed")
	require.ErrorIs(t, err, ErrNotFound)

	other, err := s.MakeCardLink(ctx, trip, "mila", now.Add(48*time.Hour))
	require.NoError(t, err)
	_, err = s.CardLink(ctx, one.Token)
	require.ErrorIs(t, err, ErrNotFound, "a new link takes the place of the old one")
	links, err := s.CardLinks(ctx, trip)
	require.NoError(t, err)
	assert.Len(t, links, 1)

	now = now.Add(49 * time.Hour)
	_, err = s.CardLink(ctx, other.Token)
	require.ErrorIs(t, err, ErrLinkOver)
	require.NoError(t, s.EndCardLink(ctx, trip, "mila"))
	_, err = s.CardLink(ctx, other.Token)
	require.ErrorIs(t, err, ErrNotFound)
}

// Ticks come home once, and what was said later stands, also when it arrives first.
func TestTicksComeHome(t *testing.T) {
	t.Parallel()
	s, trip := withTrip(t)
	now := time.Date(2026, 7, 8, 12, 0, 0, 0, time.UTC)
	s.now = func() time.Time { return now }
	ctx := t.Context()
	require.NoError(t, s.SetTicks(ctx, trip, []LaterTick{{"a", TickIn, 10 * time.Minute}, {"b", TickIn, time.Minute}}))
	require.NoError(t, s.SetTicks(ctx, trip, []LaterTick{{"a", "", 20 * time.Minute}, {"b", "", 0}})) // another phone
	states, err := s.Ticks(ctx, trip)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"a": TickIn}, states)
	require.NoError(t, s.SetTicks(ctx, trip, []LaterTick{{"b", TickIn, time.Minute}})) // the first one again
	states, err = s.Ticks(ctx, trip)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"a": TickIn}, states)
	require.ErrorIs(t, s.SetTicks(ctx, 99, nil), ErrNotFound)
}

func withTrip(t *testing.T) (s *Store, trip uint) {
	t.Helper()
	s, err := Open(filepath.Join(t.TempDir(), "kept.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	b, err := bundle.Read(demo.ChildNight)
	require.NoError(t, err)
	trip, err = s.Create(t.Context(), b.Doc)
	require.NoError(t, err)
	return s, trip
}
