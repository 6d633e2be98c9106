package store

import (
	"database/sql"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
)

// run makes statements in a file, past the store.
func run(t *testing.T, path string, statements ...string) {
	db, err := sql.Open("sqlite3", path)
	require.NoError(t, err)
	defer db.Close()
	for _, s := range statements {
		_, err := db.Exec(s)
		require.NoError(t, err, s)
	}
}

func TestForeignFilesAreLeftAlone(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	foreign := filepath.Join(folder, "diary.db")
	run(
		t,
		foreign,
		"CREATE TABLE diary (day text)",
		"INSERT INTO diary VALUES ('Monday')",
		"CREATE TABLE migrations (id text)",
	)
	marked := filepath.Join(folder, "marked.db")
	run(t, marked, "PRAGMA application_id = 7")
	text := filepath.Join(folder, "letter.txt")
	require.NoError(t, os.WriteFile(text, []byte("Dear instructor, the kit list is as follows."), 0o644))
	for _, path := range []string{foreign, marked, text, folder} {
		before, _ := os.ReadFile(path)
		_, err := Open(path)
		assert.ErrorIs(t, err, ErrForeign, path)
		after, _ := os.ReadFile(path)
		assert.Equal(t, before, after, "not a byte of it is changed")
		_, err = Restore(t.Context(), path, filepath.Join(t.TempDir(), "kept.db"))
		if path != folder {
			assert.ErrorIs(t, err, ErrBackup, path)
		}
	}
}

func TestANewerProgramsFileIsLeftAlone(t *testing.T) {
	t.Parallel()
	path := kept(t, "from tomorrow")
	run(
		t,
		path,
		"INSERT INTO migrations VALUES ('0099-tomorrow')",
		"UPDATE properties SET value = '9.9' WHERE key = 'program'",
		"PRAGMA wal_checkpoint(TRUNCATE)",
	)
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	_, err = Open(path)
	require.ErrorIs(t, err, ErrNewer)
	assert.Contains(t, err.Error(), "9.9")
	_, err = Restore(t.Context(), path, filepath.Join(t.TempDir(), "kept.db"))
	assert.ErrorIs(t, err, ErrBackup)
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}

// Files as older programs left them come up to date with all that was in them, and a copy of how they were is kept.
func TestOlderFilesComeUpToDate(t *testing.T) {
	t.Parallel()
	for _, step := range []int{1, 2, 3, 4, 5, 6} {
		path := filepath.Join(t.TempDir(), "kept.db")
		require.NoError(t, copyFile(fmt.Sprintf("testdata/step-%d.db", step), path))
		s, err := Open(path)
		require.NoError(t, err)
		state, err := s.Trip(t.Context(), 1)
		require.NoError(t, err)
		assert.Equal(t, "Night on the rim", state.Doc.Name())
		assert.Equal(t, "kept as it is", state.Doc.List("items")[1]["note"])
		require.NoError(t, s.Change(t.Context(), 1, 1, "leave the pot", func(d bundle.Doc) error {
			return d.EditItem("pot", func(item map[string]any) error { item["carry"] = "left"; return nil })
		}))
		require.NoError(t, s.Close())
		fresh, err := Open(filepath.Join(t.TempDir(), "fresh.db"))
		require.NoError(t, err)
		assert.ElementsMatch(t, columnsOf(t, fresh.path), columnsOf(t, path), "the same tables as in a new file")
		require.NoError(t, fresh.Close())
		copies := Copies(path)
		require.Len(t, copies, 1)
		assert.Contains(t, copies[0], fmt.Sprintf("before-step-%d", step+1))
		was, err := look(copies[0])
		require.NoError(t, err)
		assert.Len(t, was.steps, step)
	}
}

// columnsOf lists all columns of a file as table and name.
func columnsOf(t *testing.T, path string) []string {
	db, err := sql.Open("sqlite3", path)
	require.NoError(t, err)
	defer db.Close()
	list, err := column(
		t.Context(),
		db,
		"SELECT m.name || '.' || c.name || ' ' || lower(c.type) FROM sqlite_master m JOIN pragma_table_info(m.name) c WHERE m.type = 'table'",
	)
	require.NoError(t, err)
	return list
}

func TestMigrationsAreAllOrNothing(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "kept.db")
	require.NoError(t, copyFile("testdata/step-2.db", path))
	run(t, path, "CREATE TABLE verdicts (in_the_way text)") // the last step cannot make its table
	_, err := Open(path)
	require.Error(t, err)
	db, err := sql.Open("sqlite3", path)
	require.NoError(t, err)
	defer db.Close()
	found, err := column(t.Context(), db, "SELECT name FROM sqlite_master WHERE name = 'properties'")
	require.NoError(t, err)
	assert.Empty(t, found, "nothing of the step stays")
}

// Somebody without the right to write, in a process of its own since the owner of this one may be allowed everything.
func TestAWriteProtectedDatabaseIsReadAndBackedUp(t *testing.T) {
	if folder := os.Getenv("TORNISTER_WRITE_PROTECTED"); folder != "" {
		path := filepath.Join(folder, "kept.db")
		_, err := Open(path)
		require.ErrorIs(t, err, ErrReadOnly)
		s, err := OpenReading(path)
		require.NoError(t, err)
		defer s.Close()
		assert.True(t, s.ReadOnly())
		trips, err := s.Trips(t.Context())
		require.NoError(t, err)
		require.Len(t, trips, 1)
		assert.ErrorIs(t, s.Remove(t.Context(), trips[0].ID, AnyVersion), ErrReadOnly)
		saved := filepath.Join(t.TempDir(), "saved.db")
		require.NoError(t, s.Backup(t.Context(), saved))
		assert.NoError(t, soundFile(t.Context(), saved))
		return
	}
	t.Parallel()
	folder := filepath.Dir(kept(t, "read only"))
	program := filepath.Join(t.TempDir(), "test-program")
	whole, err := os.ReadFile(os.Args[0])
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(program, whole, 0o755))
	for _, name := range []string{folder, filepath.Dir(folder), filepath.Dir(program),
		filepath.Dir(filepath.Dir(program))} {
		require.NoError(t, os.Chmod(name, 0o755))
	}
	require.NoError(t, os.Chmod(filepath.Join(folder, "kept.db"), 0o444))
	require.NoError(t, os.Remove(filepath.Join(folder, "kept.db.lock")))
	require.NoError(t, os.Chmod(folder, 0o555))
	t.Cleanup(func() { _ = os.Chmod(folder, 0o755) })
	cmd := exec.Command(program, "-test.run", "^TestAWriteProtectedDatabaseIsReadAndBackedUp$", "-test.v")
	cmd.Env, cmd.Dir = append(os.Environ(), "TORNISTER_WRITE_PROTECTED="+folder), "/"
	if os.Getuid() == 0 {
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
	}
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	assert.Contains(t, string(out), "--- PASS")
}

// Whatever the umask, nobody else reads what is entered.
func TestFilesAreTheOwnersAlone(t *testing.T) {
	for _, mask := range []int{0o000, 0o077} {
		before := syscall.Umask(mask)
		folder := filepath.Join(t.TempDir(), "new")
		require.NoError(t, Folder(folder))
		path := filepath.Join(folder, "kept.db")
		s, err := Open(path)
		require.NoError(t, err)
		addTrip(t, s, "private")
		require.NoError(t, s.Daily(t.Context()))
		require.NoError(t, s.Backup(t.Context(), filepath.Join(folder, "saved.db")))
		syscall.Umask(before)
		seen := 0
		require.NoError(t, filepath.WalkDir(folder, func(name string, entry fs.DirEntry, err error) error {
			info, infoErr := entry.Info()
			require.NoError(t, infoErr)
			want := fs.FileMode(0o600)
			if entry.IsDir() {
				want = 0o700
			}
			assert.Equal(t, want, info.Mode().Perm(), name)
			seen++
			return err
		}))
		assert.GreaterOrEqual(t, seen, 7, "database, journal, index, lock, backup, copy and folders")
		require.NoError(t, s.Close())
	}
	old := filepath.Join(t.TempDir(), "old.db") // one that an older program made is closed to others
	require.NoError(t, copyFile("testdata/step-2.db", old))
	require.NoError(t, os.Chmod(old, 0o644))
	s, err := Open(old)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	info, err := os.Stat(old)
	require.NoError(t, err)
	assert.Equal(t, fs.FileMode(0o600), info.Mode().Perm())
}
