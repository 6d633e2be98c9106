package store

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func practising(t *testing.T) *Store {
	day := time.Date(2026, 7, 1, 10, 0, 0, 0, time.UTC)
	s, err := open(filepath.Join(t.TempDir(), "kept.db"), func() time.Time { day = day.Add(time.Second); return day })
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// A step that is sent twice counts once, and one that has ended takes no more.
func TestAnExerciseGoesOnOnce(t *testing.T) {
	t.Parallel()
	s, ctx := practising(t), t.Context()
	one := &Exercise{Person: "Ona", Kit: "demo/ski-tour", Name: "Ski tour", Kind: "where", Level: 2, Seed: 7, State: "a"}
	require.NoError(t, s.BeginExercise(ctx, one, []byte(`{"kept": true}`)))
	read, kit, err := s.Exercise(ctx, one.ID)
	require.NoError(t, err)
	assert.JSONEq(t, `{"kept": true}`, string(kit))
	assert.Equal(t, []any{"Ona", "a", int64(7), 2}, []any{read.Person, read.State, read.Seed, read.Level})
	read.State = "b"
	missed := ToRepeat{Kit: "demo/ski-tour", Key: "hurt/first-aid", Due: "2026-07-02"}
	require.NoError(t, s.GoOnExercise(ctx, read, "a", missed))
	require.ErrorIs(t, s.GoOnExercise(ctx, read, "a"), ErrStale)
	ended := s.Now()
	read.State, read.Ended, read.Of, read.Right, read.Score, read.Seconds = "c", &ended, 6, 5, 83, 41.5
	require.NoError(t, s.GoOnExercise(ctx, read, "b"))
	require.ErrorIs(t, s.GoOnExercise(ctx, read, "c"), ErrStale)
	list, err := s.Exercises(ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, []any{6, 5, 83, 41.5}, []any{list[0].Of, list[0].Right, list[0].Score, list[0].Seconds})
	assert.NotNil(t, list[0].Ended)
	_, _, err = s.Exercise(ctx, 99)
	assert.ErrorIs(t, err, ErrNotFound)
}

// What was missed is asked again on its day, later when it was known, and not any more when it is known for good.
func TestWhatWasMissedComesAgain(t *testing.T) {
	t.Parallel()
	s, ctx := practising(t), t.Context()
	one := &Exercise{Person: "Ona", State: "0"}
	require.NoError(t, s.BeginExercise(ctx, one, []byte("{}")))
	state := one.State
	say := func(r ...ToRepeat) []ToRepeat {
		one.State += "+"
		require.NoError(t, s.GoOnExercise(ctx, one, state, r...))
		state = one.State
		list, err := s.ToRepeat(ctx, "Ona")
		require.NoError(t, err)
		return list
	}
	list := say(ToRepeat{Key: "deep", Due: "2026-07-05"}, ToRepeat{Kit: "trip/1", Key: "rain/jacket", Due: "2026-07-02"})
	require.Len(t, list, 2)
	assert.Equal(t, ToRepeat{Person: "Ona", Kit: "trip/1", Key: "rain/jacket", Due: "2026-07-02"}, list[0])
	list = say(ToRepeat{Kit: "trip/1", Key: "rain/jacket", Step: 1, Due: "2026-07-09"})
	assert.Equal(t, []string{"deep", "rain/jacket"}, []string{list[0].Key, list[1].Key})
	list = say(ToRepeat{Key: "deep"})
	require.Len(t, list, 1)
	other, err := s.ToRepeat(ctx, "Per")
	require.NoError(t, err)
	assert.Empty(t, other)
	require.NoError(t, s.ForgetPractice(ctx, "Ona"))
	list, err = s.ToRepeat(ctx, "Ona")
	require.NoError(t, err)
	all, err := s.Exercises(ctx)
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.Empty(t, all)
}

// Of a person who practises much the last exercises keep their kits; the results of all stay.
func TestOldKitsAreLetGo(t *testing.T) {
	t.Parallel()
	s, ctx := practising(t), t.Context()
	for range keptKits + 3 {
		require.NoError(t, s.BeginExercise(ctx, &Exercise{Person: "Ona"}, []byte("{}")))
	}
	require.NoError(t, s.BeginExercise(ctx, &Exercise{Person: "Per"}, []byte("{}")))
	list, err := s.Exercises(ctx)
	require.NoError(t, err)
	require.Len(t, list, keptKits+4)
	for i, one := range list {
		_, kit, err := s.Exercise(ctx, one.ID)
		require.NoError(t, err)
		assert.Equal(t, i < 3, kit == nil, "exercise %d", i)
	}
}

// Nothing of a trip that is removed stays in what was practised with it but what came of that.
func TestARemovedTripIsGoneFromPractice(t *testing.T) {
	t.Parallel()
	s, trip := withTrip(t)
	ctx := t.Context()
	one := &Exercise{Person: "Ona", Kit: KitOfTrip(trip), Name: "Zanzibarwanderung", Score: 70, State: "a"}
	require.NoError(t, s.BeginExercise(ctx, one, []byte(`{"kept": true}`)))
	require.NoError(t, s.GoOnExercise(ctx, one, "a", ToRepeat{Kit: KitOfTrip(trip), Key: "rain/jacket", Due: "2026-07-02"},
		ToRepeat{Key: "deep", Due: "2026-07-02"}))
	require.NoError(t, s.Remove(ctx, trip, AnyVersion))
	read, kit, err := s.Exercise(ctx, one.ID)
	require.NoError(t, err)
	assert.Nil(t, kit)
	assert.Equal(t, []any{"a trip that is removed", "", 70}, []any{read.Name, read.State, read.Score})
	list, err := s.ToRepeat(ctx, "Ona")
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "deep", list[0].Key)
}
