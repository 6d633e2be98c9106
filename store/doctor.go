package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
)

// Finding is something that was found about a database file. Mend is what can be done; "" when nothing has to.
type Finding struct {
	Bad  bool
	Text string
	Mend string
}

// Examine looks at a database file from outside, without changing it, and says how it is. It works on files that
// cannot be opened.
func Examine(ctx context.Context, path string) []Finding {
	var list []Finding
	good := func(format string, values ...any) { list = append(list, Finding{Text: fmt.Sprintf(format, values...)}) }
	bad := func(mend, format string, values ...any) {
		list = append(list, Finding{true, fmt.Sprintf(format, values...), mend})
	}
	if InUse(path) {
		good("A program has it open, or is restoring it, just now.")
	}
	found, err := look(path)
	info, missing := os.Stat(path)
	switch {
	case errors.Is(missing, os.ErrNotExist) && err == nil:
		bad("tornister serve makes a new one; tornister restore brings a backup back", "There is no such file.")
	case errors.Is(err, ErrForeign):
		bad("name the right file with --database", "%s.", sentenceOf(err))
	case errors.Is(err, ErrNewer):
		bad("use the newer program, or restore a copy from before", "%s.", sentenceOf(err))
	case errors.Is(err, ErrDamaged):
		bad("restore the newest copy below; keep this file as it is", "%s.", sentenceOf(err))
	case err != nil:
		bad("mend that first", "It cannot be read: %v.", err)
	case found.fresh:
		good("There is nothing in it yet.")
	default:
		examineInside(ctx, path, found, good, bad)
	}
	if missing == nil && found != nil {
		examineRights(path, info, good, bad)
	}
	if journal, err := os.Stat(path + "-journal"); err == nil && journal.Size() > 0 {
		bad("leave it; the next program that opens the database takes it back",
			"A change was under way when the program or the machine stopped (%s).", journal.Name())
	}
	examineCopies(path, good, bad)
	return list
}

func examineInside(
	ctx context.Context,
	path string,
	found *state,
	good func(string, ...any),
	bad func(string, string, ...any),
) {
	program := "a program before 0.2"
	if found.program != "" {
		program = "version " + found.program
	}
	good(
		"It is a database of Tornister, last written by %s, with %d of %d steps of its tables.",
		program,
		len(found.steps),
		len(migrations),
	)
	if found.pending() {
		good("The next start brings it up to date and keeps a copy of how it is.")
	}
	db, err := watch(path)
	if err != nil {
		bad("try again", "It cannot be opened: %v.", err)
		return
	}
	defer db.Close()
	if err := sound(ctx, db); err != nil {
		bad("restore the newest copy below; keep this file as it is", "It is not sound: %v.", err)
		return
	}
	var trips, things int
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM trips").Scan(&trips); err == nil && len(found.steps) > 1 {
		_ = db.QueryRowContext(ctx, "SELECT count(*) FROM things").Scan(&things)
	}
	good("Its pages, indexes and references are sound. Trips: %d. Things on the shelf: %d.", trips, things)
}

func examineRights(path string, info fs.FileInfo, good func(string, ...any), bad func(string, string, ...any)) {
	if mode := info.Mode().Perm(); mode&0o077 != 0 {
		bad("the next start mends that; or: chmod 600", "Others on this machine can read or write it (%04o).", mode)
	}
	if file, err := os.OpenFile(path, os.O_RDWR, 0); err != nil {
		bad("it can be exported and backed up; to change it, give yourself the right to write", "It can only be read.")
	} else {
		_ = file.Close()
	}
	if room, err := os.CreateTemp(filepath.Dir(path), ".room-*"); err != nil {
		bad("give yourself the right to write there, or make room", "Nothing can be written beside it: %v.", err)
	} else {
		_, err := room.Write(make([]byte, 1<<20))
		_ = errors.Join(room.Close(), os.Remove(room.Name()))
		if err != nil {
			bad("make room on the disk", "There is hardly any room left beside it: %v.", err)
		} else {
			good("There is room to write beside it.")
		}
	}
}

func examineCopies(path string, good func(string, ...any), bad func(string, string, ...any)) {
	copies := Copies(path)
	if len(copies) == 0 {
		good(
			"No copies have been kept by the program itself yet; serve keeps one a day, and tornister backup writes one.",
		)
		return
	}
	for _, c := range copies {
		if found, err := look(c); err != nil || found.fresh {
			bad("remove it", "The copy %s cannot be used.", c)
			continue
		}
		good("A copy lies in %s; to go back to it: tornister restore %s", c, c)
	}
}

func sentenceOf(err error) string { return "It cannot be used: " + err.Error() }
