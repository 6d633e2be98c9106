// Package store keeps packs, items and trips in an SQLite file through GORM.
//
// A trip is read and written as a bundle document: its rows (pack with zones, kit lines with items, pins) hold what is
// searched and sorted in columns and the whole object of the open format beside it, so that unknown fields survive and
// what was left out stays left out. Every change runs in one transaction, names the version of the trip it was made
// against, and leaves a revision behind, which is what undo goes back to.
package store

import (
	"context"
	"errors"
	"fmt"
	"net/url"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Errors of changes. A stale change was made against a version that is no longer the newest.
var (
	ErrNotFound = errors.New("there is no such trip")
	ErrStale    = errors.New("the trip was changed elsewhere in the meantime")
	ErrNoUndo   = errors.New("there is nothing to take back")
)

// Store is an open database.
type Store struct{ db *gorm.DB }

// Open opens or creates the database file and brings its tables up to date. What a method of the store has returned
// from without error survives a crash of the program or the machine: the journal is written ahead and synced in full.
func Open(path string) (*Store, error) {
	options := url.Values{"_journal_mode": {"WAL"}, "_synchronous": {"FULL"}, "_foreign_keys": {"on"}, "_busy_timeout": {"5000"}, "_txlock": {"immediate"}}
	dsn := (&url.URL{Scheme: "file", Opaque: url.PathEscape(path), RawQuery: options.Encode()}).String()
	db, err := gorm.Open(sqlite.Open(dsn), &gorm.Config{Logger: logger.Default.LogMode(logger.Silent), TranslateError: true})
	if err != nil {
		return nil, fmt.Errorf("open database %s: %w", path, err)
	}
	if err := gormigrate.New(db, gormigrate.DefaultOptions, migrations).Migrate(); err != nil {
		return nil, fmt.Errorf("bring database %s up to date: %w", path, err)
	}
	return &Store{db}, nil
}

// Close closes the file.
func (s *Store) Close() error {
	db, err := s.db.DB()
	if err != nil {
		return err
	}
	return db.Close()
}

// write runs a change in one transaction.
func (s *Store) write(ctx context.Context, change func(tx *gorm.DB) error) error {
	return s.db.WithContext(ctx).Transaction(change)
}
