package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
)

// kept is a database with one trip of the given name, closed.
func kept(t *testing.T, name string) string {
	path := filepath.Join(t.TempDir(), "kept.db")
	s, err := Open(path)
	require.NoError(t, err)
	addTrip(t, s, name)
	require.NoError(t, s.Close())
	return path
}

func addTrip(t testing.TB, s *Store, name string) uint {
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	b.Doc.Object("trip")["name"] = name
	id, err := s.Create(t.Context(), b.Doc)
	require.NoError(t, err)
	return id
}

// names are those of the trips in a file.
func names(t *testing.T, path string) (list []string) {
	s, err := Open(path)
	require.NoError(t, err)
	defer s.Close()
	trips, err := s.Trips(t.Context())
	require.NoError(t, err)
	for _, trip := range trips {
		_, err := s.Trip(t.Context(), trip.ID)
		require.NoError(t, err)
		list = append(list, trip.Name)
	}
	return list
}

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

// A journal that was left beside a database, or where one was, never gets into what is restored.
func TestRestoreBesideAJournalLeftOver(t *testing.T) {
	t.Parallel()
	saved := kept(t, "saved")
	for _, gone := range []bool{false, true} {
		path := filepath.Join(t.TempDir(), "kept.db")
		s, err := Open(path)
		require.NoError(t, err)
		addTrip(t, s, "only in the journal")
		crashed := filepath.Join(t.TempDir(), "crashed.db") // as a machine that stops leaves it: the journal not written in
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

func TestAReplacedFileIsNotWrittenTo(t *testing.T) {
	t.Parallel()
	path, other := kept(t, "open"), kept(t, "other")
	s, err := Open(path)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, os.Rename(other, path))
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	_, err = s.Create(t.Context(), b.Doc)
	assert.ErrorIs(t, err, ErrReplaced)
	assert.ErrorIs(t, s.Alive(t.Context()), ErrReplaced)
	require.NoError(t, os.Remove(path))
	assert.ErrorIs(t, s.Trouble(), ErrReplaced)
}

func TestForeignFilesAreLeftAlone(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	foreign := filepath.Join(folder, "diary.db")
	run(t, foreign, "CREATE TABLE diary (day text)", "INSERT INTO diary VALUES ('Monday')", "CREATE TABLE migrations (id text)")
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
	run(t, path, "INSERT INTO migrations VALUES ('0099-tomorrow')", "UPDATE properties SET value = '9.9' WHERE key = 'program'", "PRAGMA wal_checkpoint(TRUNCATE)")
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
	for _, step := range []int{1, 2} {
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
	list, err := column(t.Context(), db, "SELECT m.name || '.' || c.name || ' ' || lower(c.type) FROM sqlite_master m JOIN pragma_table_info(m.name) c WHERE m.type = 'table'")
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

func TestBackupLeavesNothingHalf(t *testing.T) {
	t.Parallel()
	s, err := Open(kept(t, "open"))
	require.NoError(t, err)
	defer s.Close()
	folder := t.TempDir()
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	assert.Error(t, s.Backup(ctx, filepath.Join(folder, "never.db")))
	assert.Error(t, s.Backup(t.Context(), filepath.Join(folder, "no", "such", "folder.db")))
	entries, err := os.ReadDir(folder)
	require.NoError(t, err)
	assert.Empty(t, entries)
	whole := filepath.Join(folder, "whole.db")
	require.NoError(t, s.Backup(t.Context(), whole))
	entries, err = os.ReadDir(folder)
	require.NoError(t, err)
	assert.Len(t, entries, 1, "and no part of it is left beside it")
	assert.NoError(t, soundFile(t.Context(), whole))
}

func TestACopyADaySevenKept(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 1, 8, 0, 0, 0, time.UTC)
	path := filepath.Join(t.TempDir(), "kept.db")
	s, err := open(path, func() time.Time { return now })
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Daily(t.Context()))
	assert.Empty(t, Copies(path), "of nothing no copy is kept")
	addTrip(t, s, "day one")
	for day := range 10 {
		now = time.Date(2026, 11, 1+day, 8, 0, 0, 0, time.UTC)
		require.NoError(t, s.Daily(t.Context()))
		now = now.Add(3 * time.Hour)
		require.NoError(t, s.Daily(t.Context()), "once a day")
	}
	copies := Copies(path)
	require.Len(t, copies, keptCopies)
	assert.Contains(t, copies[0], "2026-11-04")
	now = time.Date(2026, 10, 1, 8, 0, 0, 0, time.UTC) // a clock that was set back takes no copy away but its own
	require.NoError(t, s.Daily(t.Context()))
	assert.Contains(t, Copies(path)[keptCopies-1], "2026-11-10")
	assert.Equal(t, []string{"day one"}, names(t, copies[3]))
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
	for _, name := range []string{folder, filepath.Dir(folder), filepath.Dir(program), filepath.Dir(filepath.Dir(program))} {
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

func TestARemovedTripIsGoneFromTheFile(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "kept.db")
	s, err := Open(path)
	require.NoError(t, err)
	defer s.Close()
	addTrip(t, s, "stays")
	id := addTrip(t, s, "Zanzibarwanderung")
	edit := func(version int, name string) {
		require.NoError(t, s.Change(t.Context(), id, version, "called "+name, func(d bundle.Doc) error {
			d.Object("pack")["name"] = "Rucksack " + name
			return d.EditItem("pot", func(item map[string]any) error { item["name"] = "Topf " + name; return nil })
		}))
	}
	for version := 1; version <= 60; version++ {
		edit(version, fmt.Sprintf("Quittenmus%d", version))
	}
	require.NoError(t, s.giveBack(t.Context()))
	full, err := os.Stat(path)
	require.NoError(t, err)
	var packs int64
	require.NoError(t, s.reader.Model(&Pack{}).Count(&packs).Error)
	assert.EqualValues(t, 2, packs, "packs that no trip has any more do not pile up")

	require.NoError(t, s.Remove(t.Context(), id, 61))
	for _, tail := range []string{"", "-wal"} {
		whole, err := os.ReadFile(path + tail)
		require.NoError(t, err)
		for _, word := range []string{"Zanzibarwanderung", "Quittenmus"} {
			assert.NotContains(t, string(whole), word, "in "+tail)
		}
	}
	for table, want := range map[string]int64{"items": 49, "packs": 1, "revisions": 1, "kit_lines": 49} {
		var n int64
		require.NoError(t, s.reader.Table(table).Count(&n).Error)
		if table == "items" || table == "kit_lines" {
			trip, err := s.Trip(t.Context(), 1)
			require.NoError(t, err)
			want = int64(len(trip.Doc.List("items")))
		}
		assert.Equal(t, want, n, table)
	}
	after, err := os.Stat(path)
	require.NoError(t, err)
	assert.Less(t, after.Size(), full.Size()*3/4, "its room comes back")
	assert.Equal(t, []string{"stays"}, tripNames(t, s))
}

func tripNames(t *testing.T, s *Store) (list []string) {
	trips, err := s.Trips(t.Context())
	require.NoError(t, err)
	for _, trip := range trips {
		list = append(list, trip.Name)
	}
	return list
}

// Twenty editors of two programs at once: each edit is taken or stale, and none finds the database locked.
func TestTwentyEditorsFindNothingLocked(t *testing.T) {
	t.Parallel()
	path := kept(t, "busy")
	var stores []*Store
	for range 2 {
		s, err := Open(path)
		require.NoError(t, err)
		defer s.Close()
		stores = append(stores, s)
	}
	var taken, stale atomic.Int64
	var wait sync.WaitGroup
	for editor := range 20 {
		wait.Go(func() {
			s := stores[editor%2]
			for n := range 5 {
				version, err := s.Version(t.Context(), 1)
				if !assert.NoError(t, err) {
					return
				}
				err = s.Change(t.Context(), 1, version, "edit", func(d bundle.Doc) error {
					return d.EditItem("pot", func(item map[string]any) error {
						item["mass_g"] = bundle.Number(float64(100*editor + n + 1))
						return nil
					})
				})
				if errors.Is(err, ErrStale) {
					stale.Add(1)
				} else if assert.NoError(t, err) {
					taken.Add(1)
				}
				state, err := s.Trip(t.Context(), 1) // of one moment: it always passes the checks
				if assert.NoError(t, err) {
					_, err = bundle.FromDoc(state.Doc)
					assert.NoError(t, err)
				}
			}
		})
	}
	wait.Wait()
	assert.EqualValues(t, 100, taken.Load()+stale.Load())
	version, err := stores[0].Version(t.Context(), 1)
	require.NoError(t, err)
	assert.EqualValues(t, 1+taken.Load(), version, "each that was taken counts once")
}

// A journal torn off anywhere, with rubbish behind, gives back every edit that was acknowledged before that place, and
// nothing half (SQLite's checksums of frames; the tear is what a power cut leaves of a write that was under way).
func TestATornJournalLosesNothingAcknowledged(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "kept.db")
	s, err := Open(path)
	require.NoError(t, err)
	defer s.Close()
	addTrip(t, s, "torn")
	require.NoError(t, s.giveBack(t.Context())) // the trip stands in the file, the edits only in the journal
	require.NoError(t, s.writer.Exec("PRAGMA wal_autocheckpoint = 0").Error)
	watcher := s.reader.Begin() // who reads the state of now keeps the journal from being written into the file
	require.NoError(t, watcher.Exec("SELECT count(*) FROM trips").Error)
	defer watcher.Rollback()
	var sizes []int64
	for version := 1; version <= 12; version++ {
		require.NoError(t, s.Change(t.Context(), 1, version, "edit", func(d bundle.Doc) error {
			return d.EditItem("pot", func(item map[string]any) error { item["mass_g"] = bundle.Number(float64(version)); return nil })
		}))
		info, err := os.Stat(path + "-wal")
		require.NoError(t, err)
		sizes = append(sizes, info.Size())
	}
	for try := range 40 {
		torn := filepath.Join(t.TempDir(), "torn.db")
		require.NoError(t, copyFile(path, torn))
		require.NoError(t, copyFile(path+"-wal", torn+"-wal"))
		at := sizes[len(sizes)-1] * int64(try) / 40
		file, err := os.OpenFile(torn+"-wal", os.O_RDWR, 0)
		require.NoError(t, err)
		require.NoError(t, file.Truncate(at))
		_, err = file.WriteAt([]byte(strings.Repeat("\x5a\x01", 700)), at)
		require.NoError(t, err)
		require.NoError(t, file.Close())
		acknowledged := 1
		for i, size := range sizes {
			if size <= at {
				acknowledged = i + 2
			}
		}
		again, err := Open(torn)
		require.NoError(t, err, "torn at %d", at)
		if version, err := again.Version(t.Context(), 1); assert.NoError(t, err) {
			assert.GreaterOrEqual(t, version, acknowledged, "torn at %d", at)
		}
		pool, err := again.writer.DB()
		require.NoError(t, err)
		assert.NoError(t, sound(t.Context(), pool))
		require.NoError(t, again.Close())
	}
}
