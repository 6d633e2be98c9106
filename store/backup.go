package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// ErrBackup is wrapped by what is wrong with a file that is to be restored.
var ErrBackup = errors.New("not a backup of Tornister")

// Backup writes the whole database as it stands into a new file, while others may go on working with it.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s exists already; name a new file", path)
	}
	if err := s.db.WithContext(ctx).Exec("VACUUM INTO ?", path).Error; err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	return os.Chmod(path, 0o600)
}

// Restore puts a backup in the place of a database that nobody has open. The backup is looked through first; the database
// that was there is kept beside it under the name that is returned, "" when there was none.
func Restore(ctx context.Context, backup, path string) (kept string, err error) {
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return "", err
	}
	fresh := path + ".restoring"
	defer os.Remove(fresh)
	if err := copyFile(backup, fresh); err != nil {
		return "", err
	}
	if err := looksGood(ctx, fresh); err != nil {
		return "", err
	}
	if _, err := os.Stat(path); err == nil {
		kept = path + ".before-restore"
		if err := os.Rename(path, kept); err != nil {
			return "", err
		}
		for _, tail := range []string{"-wal", "-shm"} { // what belongs to it goes with it
			if err := os.Rename(path+tail, kept+tail); err != nil && !errors.Is(err, os.ErrNotExist) {
				return kept, err
			}
		}
	}
	return kept, os.Rename(fresh, path)
}

// looksGood opens a file as a database, which brings it up to date, and reads every trip of it.
func looksGood(ctx context.Context, path string) error {
	head := make([]byte, 16)
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	_, err = io.ReadFull(file, head)
	file.Close()
	if err != nil || string(head) != "SQLite format 3\x00" {
		return fmt.Errorf("%w: it is no database", ErrBackup)
	}
	s, err := Open(path)
	if err != nil {
		return fmt.Errorf("%w: %w", ErrBackup, err)
	}
	defer s.Close()
	var sound string
	if err := s.db.WithContext(ctx).Raw("PRAGMA integrity_check").Scan(&sound).Error; err != nil || sound != "ok" {
		return fmt.Errorf("%w: it is damaged (%s)", ErrBackup, sound)
	}
	trips, err := s.Trips(ctx)
	if err != nil {
		return fmt.Errorf("%w: %w", ErrBackup, err)
	}
	for _, t := range trips {
		if _, err := s.Trip(ctx, t.ID); err != nil {
			return fmt.Errorf("%w: the trip %q cannot be read: %w", ErrBackup, t.Name, err)
		}
	}
	return s.db.Exec("PRAGMA wal_checkpoint(TRUNCATE)").Error
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}
