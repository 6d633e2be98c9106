// Package store keeps packs, items and trips in an SQLite file through GORM.
//
// A trip is read and written as a bundle document: its rows (pack with zones, kit lines with items, pins) hold what
// is searched and sorted in columns and the whole object of the open format beside it, so that unknown fields survive
// and what was left out stays left out. Every change runs in one transaction, names the version of the trip it was
// made against, and leaves a revision behind, which is what undo goes back to.
//
// The file is looked at before it is touched (file.go): only a database of ours, and none of a newer program, is
// opened for writing. All writing goes through one connection, so that writers queue here and not in SQLite; readers
// have a pool of their own and each reading is of one moment. A lock beside the file keeps restore and the programs
// that have the file open apart (lock.go); a file that was replaced all the same is noticed and not written to.
package store

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"time"

	"github.com/gofrs/flock"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Errors of changes. A stale change was made against a version that is no longer the newest.
var (
	ErrNotFound error = gone("trip")
	ErrStale          = errors.New("the trip was changed elsewhere in the meantime")
	ErrNoUndo         = errors.New("there is nothing to take back")
)

// Store is an open database.
type Store struct {
	path     string
	writer   *gorm.DB // one connection: whoever writes waits here for the one before
	reader   *gorm.DB
	lock     *flock.Flock // nil for a file that is only read
	identity os.FileInfo  // of the file as it was opened
	now      func() time.Time
	copied   string // folder of the copy that is read instead of the file, "" for none
	readOnly bool
	pause    *time.Timer // writes the journal into the file when nothing has been written for a moment
}

// breath is the pause after which the journal is written into the file: whoever copies the file alone then has all of
// it.
const breath = 300 * time.Millisecond

// busyMs is how long a writer waits for another program that has the file open.
const busyMs = "15000"

// readers is how many connections read side by side.
const readers = 8

// Open opens or creates the database file and brings its tables up to date, keeping a copy of how they were. What a
// method of the store has returned from without error survives a crash of the program or the machine: the journal is
// written ahead and synced in full. A file that is not ours or was written by a newer program is left untouched; the
// error is then ErrForeign, ErrDamaged or ErrNewer.
func Open(path string) (*Store, error) { return open(path, time.Now) }

func open(path string, now func() time.Time) (*Store, error) {
	lock, err := joinLock(path)
	if err != nil {
		return nil, err
	}
	s := &Store{path: path, lock: lock, now: now}
	if err := s.begin(); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

// begin looks at the file, connects and brings the tables up to date.
func (s *Store) begin() error {
	found, err := look(s.path)
	if err != nil {
		return fmt.Errorf("open database %s: %w", s.path, err)
	}
	if err := private(s.path); err != nil {
		return fmt.Errorf("open database %s: %w", s.path, said(err))
	}
	// New pages of the file are given back when rows go (auto_vacuum), and what was in them is overwritten
	// (secure_delete).
	if s.writer, err = connect(s.path,
		url.Values{"_journal_mode": {"WAL"}, "_synchronous": {"FULL"}, "_txlock": {"immediate"},
			"_auto_vacuum": {"incremental"}, "_secure_delete": {"true"}}, 1); err != nil {
		return fmt.Errorf("open database %s: %w", s.path, said(err))
	}
	if s.identity, err = os.Stat(s.path); err != nil {
		return err
	}
	if err := s.migrate(found); err != nil {
		return fmt.Errorf("bring database %s up to date: %w", s.path, said(err))
	}
	if s.reader, err = connect(s.path, url.Values{"_query_only": {"true"}, "_txlock": {"deferred"}}, readers); err != nil {
		return fmt.Errorf("open database %s: %w", s.path, said(err))
	}
	s.pause = time.AfterFunc(breath, s.settle)
	return private(s.path)
}

// settle writes the journal into the file and empties it. When somebody reads just then, the next pause does it.
func (s *Store) settle() {
	if s.Trouble() != nil {
		return
	}
	if pool, err := s.writer.DB(); err == nil {
		_, _ = pool.Exec("PRAGMA busy_timeout = 100; PRAGMA wal_checkpoint(TRUNCATE); PRAGMA busy_timeout = " + busyMs)
	}
}

// connect opens a pool of connections to a file.
func connect(path string, options url.Values, most int) (*gorm.DB, error) {
	options.Set("_foreign_keys", "on")
	options.Set("_busy_timeout", busyMs)
	db, err := gorm.Open(sqlite.Open(address(path, options)),
		&gorm.Config{Logger: logger.Default.LogMode(logger.Silent), TranslateError: true})
	if err != nil {
		return nil, err
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(most)
	pool.SetMaxIdleConns(most)
	return db, nil
}

// address names a file to SQLite.
func address(path string, options url.Values) string {
	return (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: options.Encode()}).String()
}

// Path is the database file.
func (s *Store) Path() string { return s.path }

// ReadOnly reports whether the file can only be read.
func (s *Store) ReadOnly() bool { return s.readOnly }

// Close closes the file.
func (s *Store) Close() error {
	if s.pause != nil {
		s.pause.Stop()
	}
	var failed []error
	for _, db := range []*gorm.DB{s.reader, s.writer} {
		if db == nil {
			continue
		}
		pool, err := db.DB()
		if err == nil {
			err = pool.Close()
		}
		failed = append(failed, err)
	}
	if s.lock != nil {
		failed = append(failed, s.lock.Close())
	}
	if s.copied != "" {
		failed = append(failed, os.RemoveAll(s.copied))
	}
	return errors.Join(failed...)
}

// write runs a change in one transaction. It is committed only into the file that was opened.
func (s *Store) write(ctx context.Context, change func(tx *gorm.DB) error) error {
	if s.readOnly {
		return ErrReadOnly
	}
	err := s.writer.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := change(tx); err != nil {
			return err
		}
		return s.Trouble()
	})
	if err == nil {
		s.pause.Reset(breath)
	}
	return said(err)
}

// read runs what reads more than one table in one transaction, so that all of it is of one moment.
func (s *Store) read(ctx context.Context, look func(db *gorm.DB) error) error {
	return said(s.reader.WithContext(ctx).Transaction(look))
}

// Trouble is what keeps the store from writing: ErrReplaced when the file is no longer the one that was opened, nil
// while all is well.
func (s *Store) Trouble() error {
	now, err := os.Stat(s.path)
	if err != nil || !os.SameFile(now, s.identity) {
		return ErrReplaced
	}
	return nil
}

// Alive asks the database for an answer.
func (s *Store) Alive(ctx context.Context) error {
	if err := s.Trouble(); err != nil {
		return err
	}
	return said(s.reader.WithContext(ctx).Exec("SELECT count(*) FROM trips").Error)
}

// gone is the answer for what is not there: a trip, or a thing or a pack of the shelf.
type gone string

func (g gone) Error() string { return "there is no such " + string(g) + ", or not any more" }

// Is makes all of them ErrNotFound.
func (g gone) Is(target error) bool { return target == ErrNotFound }
