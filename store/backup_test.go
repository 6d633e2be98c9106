package store_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/store"
)

func TestBackupWhileOthersWork(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	id := withDemo(t, s)
	saved := filepath.Join(t.TempDir(), "saved.db")
	require.NoError(t, s.Backup(t.Context(), saved))
	require.NoError(t, s.Change(t.Context(), id, 1, "after", setMass(999)))
	assert.Error(t, s.Backup(t.Context(), saved), "never over another file")

	target := filepath.Join(t.TempDir(), "new", "kept.db")
	before, err := store.Restore(t.Context(), saved, target)
	require.NoError(t, err)
	assert.Empty(t, before)
	again, err := store.Open(target)
	require.NoError(t, err)
	assert.NotEqual(t, "999", potMass(t, again, id), "as it was when it was saved")
	require.NoError(t, again.Change(t.Context(), id, 1, "later", setMass(123)))
	require.NoError(t, again.Close())

	before, err = store.Restore(t.Context(), saved, target)
	require.NoError(t, err)
	kept, err := store.Open(before)
	require.NoError(t, err)
	assert.Equal(t, "123", potMass(t, kept, id), "what was there is kept")
	require.NoError(t, kept.Close())
}

func TestWhatIsNoBackupRestoresNothing(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	target := filepath.Join(folder, "kept.db")
	s, err := store.Open(target)
	require.NoError(t, err)
	id := withDemo(t, s)
	require.NoError(t, s.Close())
	whole, err := os.ReadFile(target)
	require.NoError(t, err)
	for name, data := range map[string][]byte{"text": []byte("hello"), "nothing": {}, "half": whole[:len(whole)/2]} {
		bad := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(bad, data, 0o600))
		_, err := store.Restore(t.Context(), bad, target)
		assert.ErrorIs(t, err, store.ErrBackup, name)
	}
	s, err = store.Open(target)
	require.NoError(t, err)
	defer s.Close()
	_, err = s.Trip(t.Context(), id)
	assert.NoError(t, err)
}
