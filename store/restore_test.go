package store

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A journal that was left beside a database, or where one was, never gets into what is restored.
func TestRestoreBesideAJournalLeftOver(t *testing.T) {
	t.Parallel()
	saved := kept(t, "saved")
	for _, gone := range []bool{false, true} {
		path := filepath.Join(t.TempDir(), "kept.db")
		s, err := Open(path)
		require.NoError(t, err)
		addTrip(t, s, "only in the journal")
		crashed := filepath.Join(
			t.TempDir(),
			"crashed.db",
		) // as a machine that stops leaves it: the journal not written in
		for _, tail := range []string{"", "-wal"} {
			require.NoError(t, copyFile(path+tail, crashed+tail))
		}
		require.NoError(t, s.Close())
		if gone {
			require.NoError(t, os.Remove(crashed))
		}
		before, err := Restore(t.Context(), saved, crashed)
		require.NoError(t, err)
		assert.Equal(t, []string{"saved"}, names(t, crashed))
		require.NotEmpty(t, before, "the journal is kept as well")
		if gone {
			assert.FileExists(t, before+"-wal")
		} else {
			assert.Equal(t, []string{"only in the journal"}, names(t, before))
		}
	}
}

func TestEveryRestoreKeepsWhatWasThere(t *testing.T) {
	t.Parallel()
	path := kept(t, "first")
	now := time.Date(2026, 11, 26, 15, 4, 5, 0, time.UTC)
	var before []string
	for _, name := range []string{"second", "third", "fourth"} { // all in one second
		was, err := restore(t.Context(), kept(t, name), path, now)
		require.NoError(t, err)
		before = append(before, was)
	}
	assert.Equal(t, []string{"fourth"}, names(t, path))
	for i, name := range []string{"first", "second", "third"} {
		assert.Contains(t, before[i], "before-restore-20261126-150405")
		assert.Equal(t, []string{name}, names(t, before[i]))
	}
}

func TestRestoreWaitsForNoServer(t *testing.T) {
	t.Parallel()
	path, saved := kept(t, "open"), kept(t, "saved")
	s, err := Open(path)
	require.NoError(t, err)
	other, err := Open(path)
	require.NoError(t, err, "two programs may have it open")
	require.NoError(t, other.Close())
	_, err = Restore(t.Context(), saved, path)
	assert.ErrorIs(t, err, ErrInUse)
	assert.True(t, InUse(path))
	addTrip(t, s, "acknowledged")
	require.NoError(t, s.Close())
	assert.False(t, InUse(path))
	assert.Equal(t, []string{"acknowledged", "open"}, names(t, path))

	lock, err := claimFile(path)
	require.NoError(t, err)
	_, err = Open(path)
	assert.ErrorIs(t, err, ErrInUse, "and nothing opens it while it is restored")
	require.NoError(t, lock.Close())
}
