package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
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

// A journal torn off anywhere, with rubbish behind, gives back every edit that was acknowledged before that place,
// and nothing half (SQLite's checksums of frames; the tear is what a power cut leaves of a write that was under way).
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
			return d.EditItem(
				"pot",
				func(item map[string]any) error { item["mass_g"] = bundle.Number(float64(version)); return nil },
			)
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
