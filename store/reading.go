package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"
)

// OpenReading opens a database that may be write-protected, for reading and for backing up. Where it can be written
// it is opened as by Open. Otherwise a copy of it, with its journal, is made in a temporary folder, brought up to
// date there and read; the copy goes when the store is closed.
func OpenReading(path string) (*Store, error) {
	s, err := Open(path)
	if !errors.Is(err, ErrReadOnly) {
		return s, err
	}
	folder, err := os.MkdirTemp("", "tornister-read-")
	if err != nil {
		return nil, err
	}
	s = &Store{path: filepath.Join(folder, "copy.db"), copied: folder, now: time.Now}
	if err := copyDatabase(path, s.path); err != nil {
		return nil, errors.Join(fmt.Errorf("read %s: %w", path, err), s.Close())
	}
	if err := s.begin(); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	s.readOnly = true
	return s, nil
}
