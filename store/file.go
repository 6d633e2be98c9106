package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/mattn/go-sqlite3"
)

// Errors of files. Each says what can be done.
var (
	ErrForeign  = errors.New("it is a file of something else")
	ErrDamaged  = errors.New("the file is damaged; tornister doctor says what can be done")
	ErrNewer    = errors.New("it was written by a newer Tornister")
	ErrReadOnly = errors.New("the database can only be read: its file or folder is write-protected")
	ErrReplaced = errors.New(
		"the database file was replaced or moved away while the program had it open; nothing is written any more. Stop the program and start it again",
	)
	ErrFull = errors.New(
		"nothing more can be written: the disk is full or its limit is reached. Nothing was changed; make room and try again",
	)
	ErrBusy = errors.New("another program keeps writing to the database; nothing was changed, try again")
)

// magic is how every SQLite file begins; applicationID is how ours are told from others (PRAGMA application_id,
// "Torn").
const (
	magic         = "SQLite format 3\x00"
	applicationID = 0x546f726e
)

// state is what a file was found to be.
type state struct {
	fresh   bool     // there is nothing in it yet
	steps   []string // of migration that it has been through
	program string   // the version that wrote it last, "" when it does not say
}

// pending reports whether tables are to be brought up to date.
func (f *state) pending() bool { return !f.fresh && len(f.steps) < len(migrations) }

// look finds out what a file is without changing a byte of it. A missing or empty file is fresh. One that is no
// database or somebody else's gives ErrForeign, one that SQLite cannot read ErrDamaged, one with steps of migration
// that this program does not know ErrNewer.
func look(path string) (*state, error) {
	info, err := os.Stat(path)
	switch {
	case errors.Is(err, os.ErrNotExist):
		if stray := strayTails(path); len(stray) > 0 {
			return nil, fmt.Errorf(
				"%w: %s lies there without its database. Put the database back beside it, or move it away",
				ErrDamaged,
				strings.Join(stray, " and "),
			)
		}
		return &state{fresh: true}, nil
	case err != nil:
		return nil, err
	case info.IsDir():
		return nil, foreign("a folder")
	case info.Size() == 0:
		return &state{fresh: true}, nil
	}
	if begins, err := begins(path, magic); err != nil || !begins {
		return nil, errors.Join(foreign("no database"), err)
	}
	db, err := watch(path)
	if err != nil {
		return nil, err
	}
	defer db.Close()
	return examine(context.Background(), db)
}

// watch opens a file over a connection that cannot change it.
func watch(path string) (*sql.DB, error) {
	return sql.Open("sqlite3", address(path, url.Values{"mode": {"ro"}, "_busy_timeout": {busyMs}}))
}

func foreign(is string) error {
	return fmt.Errorf("%w: %s. Name a database of Tornister, or a new file", ErrForeign, is)
}

// strayTails lists the journal files that lie beside a database that is not there.
func strayTails(path string) (stray []string) {
	for _, tail := range tails {
		if info, err := os.Stat(path + tail); err == nil && info.Size() > 0 {
			stray = append(stray, filepath.Base(path+tail))
		}
	}
	return stray
}

// tails are what SQLite keeps beside a database: the journal written ahead, its index, and the journal of a rollback.
var tails = []string{"-wal", "-shm", "-journal"}

// withTails are the endings of a database and of what belongs to it.
var withTails = append([]string{""}, tails...)

func begins(path, with string) (bool, error) {
	file, err := os.Open(path)
	if err != nil {
		return false, err
	}
	defer file.Close()
	head := make([]byte, len(with))
	n, _ := file.Read(head)
	return string(head[:n]) == with, nil
}

// examine reads from a database who wrote it and how far it has come.
func examine(ctx context.Context, db *sql.DB) (*state, error) {
	found := &state{}
	var id int64
	if err := db.QueryRowContext(ctx, "PRAGMA application_id").Scan(&id); err != nil {
		return nil, unreadable(err)
	}
	tables, err := column(ctx, db, "SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name")
	if err != nil {
		return nil, unreadable(err)
	}
	if id != applicationID && (id != 0 || len(tables) > 0 && !oursOfOld(tables)) {
		return nil, foreign("a database of another program")
	}
	if len(tables) == 0 {
		found.fresh = true
		return found, nil
	}
	if found.steps, err = column(ctx, db, "SELECT id FROM migrations ORDER BY id"); err != nil {
		return nil, unreadable(err)
	}
	if slices.Contains(tables, "properties") {
		if err := db.QueryRowContext(ctx,
			"SELECT value FROM properties WHERE key = 'program'").Scan(&found.program); err != nil &&
			!errors.Is(err, sql.ErrNoRows) {
			return nil, unreadable(err)
		}
	}
	for _, step := range found.steps {
		if !slices.ContainsFunc(migrations, func(m *migration) bool { return m.ID == step }) {
			version := "of a version not known here"
			if found.program != "" {
				version = found.program
			}
			return nil, fmt.Errorf(
				"%w, %s (it has been through step %s): use that program, or a backup from before",
				ErrNewer,
				version,
				step,
			)
		}
	}
	return found, nil
}

// oursOfOld reports whether tables are those of a database from before files were marked.
func oursOfOld(tables []string) bool {
	for _, table := range []string{"migrations", "trips", "packs", "kit_lines"} {
		if !slices.Contains(tables, table) {
			return false
		}
	}
	return true
}

func column(ctx context.Context, db *sql.DB, query string) (values []string, err error) {
	rows, err := db.QueryContext(ctx, query)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var value string
		if err := rows.Scan(&value); err != nil {
			return nil, err
		}
		values = append(values, value)
	}
	return values, rows.Err()
}

// unreadable tells a damaged file from one that could not be opened.
func unreadable(err error) error {
	if problem := said(err); !errors.Is(problem, err) || errors.Is(problem, ErrDamaged) {
		return problem
	}
	return fmt.Errorf("cannot read it: %w", err)
}

// sound checks a database through and through: its pages, its indexes and what refers to what.
func sound(ctx context.Context, db *sql.DB) error {
	found, err := column(ctx, db, "PRAGMA integrity_check(5)")
	if err != nil {
		return unreadable(err)
	}
	if len(found) != 1 || found[0] != "ok" {
		return fmt.Errorf("%w (%s)", ErrDamaged, strings.Join(found, "; "))
	}
	rows, err := db.QueryContext(ctx, "PRAGMA foreign_key_check")
	if err != nil {
		return unreadable(err)
	}
	defer rows.Close()
	if rows.Next() {
		return fmt.Errorf("%w (rows refer to rows that are not there)", ErrDamaged)
	}
	return rows.Err()
}

// private sees to it that nobody but the owner reads the database and what lies beside it, whatever the umask. A file
// that does not exist yet is made, so that SQLite never makes it with other rights.
func private(path string) error {
	file, err := os.OpenFile(path, os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	if err := errors.Join(file.Chmod(0o600), file.Close()); err != nil {
		return err
	}
	for _, tail := range tails {
		if err := os.Chmod(path+tail, 0o600); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// Folder makes a folder for the database, for its owner alone whatever the umask. One that is there already is left
// as it is.
func Folder(path string) error {
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := os.MkdirAll(path, 0o700); err != nil {
		return err
	}
	return os.Chmod(path, 0o700)
}

// said puts what SQLite or the system says into our words; other errors pass through.
func said(err error) error {
	var code sqlite3.Error
	if !errors.As(err, &code) {
		if errors.Is(err, os.ErrPermission) {
			return errors.Join(ErrReadOnly, err)
		}
		return err
	}
	for ours, theirs := range map[error][]sqlite3.ErrNo{
		ErrFull: {sqlite3.ErrFull, sqlite3.ErrIoErr}, ErrBusy: {sqlite3.ErrBusy, sqlite3.ErrLocked},
		ErrReadOnly: {sqlite3.ErrReadonly}, ErrDamaged: {sqlite3.ErrCorrupt, sqlite3.ErrNotADB},
	} {
		if slices.Contains(theirs, code.Code) {
			return fmt.Errorf("%w (%w)", ours, err)
		}
	}
	return err
}
