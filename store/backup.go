package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

// keptCopies is how many of the copies kept by itself stay, of each kind.
const keptCopies = 7

// Backup writes the whole database as it stands into a new file, while others may go on working with it. The file is
// there whole and sound or not at all, and never over another one.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Lstat(path); err == nil {
		return fmt.Errorf("%s exists already; name a new file", path)
	}
	part := fmt.Sprintf("%s.part-%d", path, os.Getpid())
	file, err := os.OpenFile(part, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600) // SQLite fills an empty file
	if err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	defer func() {
		for _, tail := range withTails {
			_ = os.Remove(part + tail)
		}
	}()
	if err := errors.Join(file.Chmod(0o600), file.Close()); err != nil {
		return fmt.Errorf("backup: %w", err)
	}
	if err := writeInto(ctx, s.path, part); err != nil {
		return fmt.Errorf("backup: %w", said(err))
	}
	if err := soundFile(ctx, part); err != nil {
		return fmt.Errorf("backup: what was written is not sound: %w", err)
	}
	if err := flushed(part); err != nil {
		return fmt.Errorf("backup: %w", said(err))
	}
	if err := os.Link(part, path); err != nil { // unlike rename, never over a file
		return fmt.Errorf("backup: %w", err)
	}
	return flushed(filepath.Dir(path))
}

// writeInto writes a database as it stands into an empty file, over a connection that cannot change it.
func writeInto(ctx context.Context, from, to string) error {
	db, err := watch(from)
	if err != nil {
		return err
	}
	defer db.Close()
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", to)
	return err
}

// soundFile checks a database file through and through without changing it.
func soundFile(ctx context.Context, path string) error {
	db, err := watch(path)
	if err != nil {
		return err
	}
	defer db.Close()
	return sound(ctx, db)
}

// flushed sees to it that a file, or the entries of a folder, are on the disk.
func flushed(path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(file.Sync(), file.Close())
}

// keepCopy writes a copy of the database beside it, named for the occasion and the day, and lets the oldest of that
// occasion go. A copy that is there already is left alone.
func (s *Store) keepCopy(ctx context.Context, occasion string) error {
	folder := backupFolder(s.path)
	if err := Folder(folder); err != nil {
		return said(err)
	}
	path := s.copyPath(occasion)
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := s.Backup(ctx, path); err != nil {
		return err
	}
	list, err := filepath.Glob(strings.Replace(path, s.day(), "????-??-??", 1))
	if err != nil {
		return err
	}
	slices.Sort(list)
	for len(list) > keptCopies {
		if err := os.Remove(list[0]); err != nil {
			return err
		}
		list = list[1:]
	}
	return nil
}

func (s *Store) day() string { return s.now().Format("2006-01-02") }

func (s *Store) copyPath(occasion string) string {
	return copyNamed(s.path, occasion+"-"+s.day())
}

// copyNamed is the copy of a database with something behind its name.
func copyNamed(path, behind string) string {
	name := strings.TrimSuffix(filepath.Base(path), filepath.Ext(path))
	return filepath.Join(backupFolder(path), name+"-"+behind+".db")
}

// Daily keeps a copy of the database for this day, unless there is one or nothing has been entered yet. The last
// seven days stay.
func (s *Store) Daily(ctx context.Context) error {
	if s.readOnly {
		return nil
	}
	var n int64
	if err := s.reader.WithContext(ctx).
		Raw("SELECT (SELECT count(*) FROM trips) + (SELECT count(*) FROM things) + (SELECT count(*) FROM shelf_packs)").Scan(&n).Error; err != nil || n == 0 {
		return said(err)
	}
	if err := s.Trouble(); err != nil {
		return err
	}
	return s.keepCopy(ctx, "daily")
}

// Copies lists the copies that the program has kept of a database by itself, oldest first.
func Copies(path string) []string {
	list, _ := filepath.Glob(copyNamed(path, "*"))
	slices.Sort(list)
	return list
}
