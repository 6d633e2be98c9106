package store

import (
	"errors"
	"fmt"
	"os"

	"github.com/gofrs/flock"
)

// ErrInUse is the answer when a file cannot be opened because it is being restored, or not restored because it is
// open.
var ErrInUse = errors.New("the database is in use")

// lockOf is the lock of a database. It is a file of its own, since the database itself is replaced by restore.
func lockOf(path string) *flock.Flock { return flock.New(path+".lock", flock.SetPermissions(0o600)) }

// joinLock says that the database is open here. Many programs may have it open at once, but none while it is
// restored.
func joinLock(path string) (*flock.Flock, error) {
	lock := lockOf(path)
	switch got, err := lock.TryRLock(); {
	case errors.Is(err, os.ErrPermission):
		return nil, fmt.Errorf("%s: %w", path, ErrReadOnly)
	case err != nil:
		return nil, fmt.Errorf("lock %s: %w", path, err)
	case !got:
		return nil, fmt.Errorf("%w: %s is being restored just now; try again in a moment", ErrInUse, path)
	}
	return lock, os.Chmod(lock.Path(), 0o600)
}

// claimFile keeps every other program out of the database until the lock is closed.
func claimFile(path string) (*flock.Flock, error) {
	lock := lockOf(path)
	switch got, err := lock.TryLock(); {
	case err != nil:
		return nil, fmt.Errorf("lock %s: %w", path, err)
	case !got:
		return nil, fmt.Errorf(
			"%w: a program has %s open; stop it first (Ctrl-C where tornister serve runs)",
			ErrInUse,
			path,
		)
	}
	return lock, os.Chmod(lock.Path(), 0o600)
}

// InUse reports whether a program has the database open, or is restoring it.
func InUse(path string) bool {
	if _, err := os.Stat(path + ".lock"); err != nil {
		return false
	}
	lock := lockOf(path)
	got, err := lock.TryLock()
	_ = lock.Close()
	return err == nil && !got
}
