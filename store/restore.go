package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"time"
)

// ErrBackup is wrapped by what is wrong with a file that is to be restored.
var ErrBackup = errors.New("not a backup of Tornister")

// Restore puts a backup in the place of a database that no program has open; one that has it open gives ErrInUse. The
// backup is copied and the copy checked through and through, brought up to date and read before anything else is
// touched; then it takes the place of the database in one step. What was there, with its journal, is kept beside it
// under a dated name that is returned, "" when there was nothing. When the result is not sound, what was there comes
// back.
func Restore(ctx context.Context, backup, path string) (kept string, err error) {
	return restore(ctx, backup, path, time.Now())
}

func restore(ctx context.Context, backup, path string, now time.Time) (kept string, err error) {
	if err := Folder(filepath.Dir(path)); err != nil {
		return "", said(err)
	}
	lock, err := claimFile(path)
	if err != nil {
		return "", err
	}
	defer lock.Close()
	fresh, err := prepared(ctx, backup, path)
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(filepath.Dir(fresh))
	if kept, err = setAside(path, now); err != nil {
		return "", fmt.Errorf("keep what is there: %w", err)
	}
	err = os.Rename(fresh, path)
	if err == nil {
		err = errors.Join(flushed(filepath.Dir(path)), soundFile(ctx, path))
	}
	if err != nil && kept != "" {
		if back := putBack(kept, path); back != nil {
			return kept, fmt.Errorf("%w; what was there lies in %s: %w", err, kept, back)
		}
		return "", err
	}
	return kept, err
}

// prepared copies a backup, with a journal that lies beside it, into a folder next to the database, and checks the
// copy, brings it up to date and reads every trip of it. It returns the copy, a single file that is on the disk in
// full.
func prepared(ctx context.Context, backup, path string) (fresh string, err error) {
	folder, err := os.MkdirTemp(filepath.Dir(path), ".restoring-")
	if err != nil {
		return "", said(err)
	}
	defer func() {
		if err != nil {
			_ = os.RemoveAll(folder)
		}
	}()
	fresh = filepath.Join(folder, "restored.db")
	if err := copyDatabase(backup, fresh); err != nil {
		return "", err
	}
	if err := readThrough(ctx, fresh); err != nil {
		return "", fmt.Errorf("%w: %w", ErrBackup, err)
	}
	return fresh, flushed(fresh)
}

// readThrough checks a database before and after it is brought up to date, reads every trip of it and empties its
// journal.
func readThrough(ctx context.Context, path string) error {
	found, err := look(path)
	if err != nil {
		return err
	}
	if found.fresh {
		return errors.New("there is nothing in it")
	}
	if err := soundFile(ctx, path); err != nil {
		return err
	}
	s := &Store{path: path, now: time.Now}
	defer func() { _ = s.Close() }()
	if err := s.begin(); err != nil {
		return err
	}
	trips, err := s.Trips(ctx)
	if err != nil {
		return err
	}
	for _, t := range trips {
		if _, err := s.Trip(ctx, t.ID); err != nil {
			return fmt.Errorf("the trip %q cannot be read: %w", t.Name, err)
		}
	}
	pool, err := s.writer.DB()
	if err != nil {
		return err
	}
	if err := emptyJournal(ctx, pool); err != nil {
		return err
	}
	return sound(ctx, pool)
}

// setAside keeps the database that lies at a path, and what belongs to it, under a dated name that nothing has yet.
// Until the new one takes its place the old one stays, so that a crash in between leaves one of the two. It returns
// "" when there was nothing.
func setAside(path string, now time.Time) (kept string, err error) {
	kept = freeName(path + ".before-restore-" + now.Format("20060102-150405"))
	emptied(path)
	any := false
	for _, tail := range withTails {
		switch err := keptAs(path+tail, kept+tail); {
		case err == nil:
			any = true
		case !errors.Is(err, os.ErrNotExist):
			return "", err
		}
	}
	for _, tail := range tails { // a journal left behind would be played into the new database
		if err := os.Remove(path + tail); err != nil && !errors.Is(err, os.ErrNotExist) {
			return "", err
		}
	}
	if !any {
		return "", nil
	}
	return kept, flushed(filepath.Dir(path))
}

// keptAs gives a file a second name; where the disk knows no second names, a copy.
func keptAs(path, name string) error {
	err := os.Link(path, name)
	if err == nil || errors.Is(err, os.ErrNotExist) {
		return err
	}
	return copyFile(path, name)
}

// emptied writes the journal of a database into it where that can be done, so that it is one file. A database that
// cannot be opened is kept with its journal as it is.
func emptied(path string) {
	if _, err := look(path); err != nil {
		return
	}
	if _, err := os.Stat(path); err != nil {
		return
	}
	db, err := sql.Open("sqlite3", address(path, url.Values{"mode": {"rw"}}))
	if err != nil {
		return
	}
	_ = emptyJournal(context.Background(), db) // what is not written in is kept beside it
	_ = db.Close()
}

// putBack makes what was set aside the database again.
func putBack(kept, path string) error {
	for _, tail := range withTails {
		if err := os.Rename(kept+tail, path+tail); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// freeName is the name, or the first with a number behind it that no file has.
func freeName(name string) string {
	taken := func(name string) bool {
		for _, tail := range withTails {
			if _, err := os.Lstat(name + tail); err == nil {
				return true
			}
		}
		return false
	}
	free := name
	for n := 2; taken(free); n++ {
		free = fmt.Sprintf("%s-%d", name, n)
	}
	return free
}

// copyDatabase copies a database with the journal that lies beside it; the index of the journal is made anew.
func copyDatabase(from, to string) error {
	for _, tail := range withTails {
		if tail == "-shm" {
			continue
		}
		if err := copyFile(from+tail, to+tail); err != nil && (tail == "" || !errors.Is(err, os.ErrNotExist)) {
			return err
		}
	}
	return nil
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Chmod(0o600), out.Sync(), out.Close())
}
