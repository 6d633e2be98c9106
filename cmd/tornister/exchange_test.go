package main

import (
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/internal/outside"
	"tornister/internal/sample"
)

func write(t *testing.T, name, text string) string {
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	return file
}

func TestInOutBackupAndBack(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	database, saved := filepath.Join(folder, "a", "kept.db"), filepath.Join(folder, "saved.db")
	list := write(t, "list.csv", "Item,Weight (oz)\nRain jacket,13.4\nPot,5\n")
	code, out, problems := run(t, "", "import", "--database", database, write(t, "walk.json", string(demo.LoneWalker)),
		list)
	require.Zero(t, code, problems)
	assert.Contains(t, out, "1 trips and 2 things")
	code, out, _ = run(t, "", "export", "--database", database)
	assert.Zero(t, code)
	assert.Contains(t, out, "1\tOrlava, three nights")
	code, out, _ = run(t, "", "export", "--database", database, "--trip", "1")
	assert.Zero(t, code)
	assert.JSONEq(t, string(demo.LoneWalker), out)
	csv := filepath.Join(folder, "out.csv")
	code, _, _ = run(t, "", "export", "--database", database, "--trip", "1", "--format", "csv", "-o", csv)
	assert.Zero(t, code)
	text, err := os.ReadFile(csv)
	require.NoError(t, err)
	assert.Contains(t, string(text), "Down sleeping bag")
	code, out, _ = run(t, "", "export", "--database", database, "--trip", "1", "--format", "ics")
	assert.Zero(t, code)
	assert.Contains(t, out, "BEGIN:VCALENDAR")

	code, _, problems = run(t, "", "backup", "--database", database, saved)
	require.Zero(t, code, problems)
	code, _, _ = run(t, "", "backup", "--database", database, saved)
	assert.NotZero(t, code, "a backup is never written over")
	other := filepath.Join(folder, "b", "kept.db")
	code, _, problems = run(t, "", "restore", "--database", other, saved)
	require.Zero(t, code, problems)
	code, out, _ = run(t, "", "export", "--database", other, "--trip", "1")
	assert.Zero(t, code)
	assert.JSONEq(t, string(demo.LoneWalker), out)
	code, out, _ = run(t, "", "restore", "--database", other, saved)
	assert.Zero(t, code)
	assert.Contains(t, out, "before-restore")
}

func TestBadFilesChangeNothing(t *testing.T) {
	t.Parallel()
	database := filepath.Join(t.TempDir(), "kept.db")
	bad := write(t, "list.csv", "Item,Weight\nRain jacket,380\nPot,heavy\n")
	for name, arguments := range map[string][]string{
		"a bad row":       {"import", "--database", database, write(t, "w.json", string(demo.LoneWalker)), bad},
		"no list":         {"import", "--database", database, write(t, "x.bin", "\x00\x01")},
		"a bad bundle":    {"import", "--database", database, write(t, "b.json", `{"format":"tornister"}`)},
		"no such trip":    {"export", "--database", database, "--trip", "9"},
		"no such format":  {"export", "--database", database, "--format", "doc"},
		"no backup":       {"restore", "--database", database, bad},
		"no such file":    {"restore", "--database", database, filepath.Join(t.TempDir(), "none")},
		"no mode":         {"forecast", "--mode", "sunny"},
		"shrink nonsense": {"shrink", write(t, "s.json", `[]`)},
	} {
		code, out, problems := run(t, "", arguments...)
		assert.Equal(t, 2, code, name)
		assert.Empty(t, out, name)
		assert.NotEmpty(t, problems, name)
	}
	code, out, _ := run(t, "", "export", "--database", database)
	assert.Zero(t, code)
	assert.Empty(t, out, "nothing came in")
	code, _, problems := run(t, "", "import", "--without-unreadable", "--database", database, bad)
	assert.Zero(t, code)
	assert.Contains(t, problems, "row 3")
}

// The least-cost set of a kit that is too large is the optimum of glpsol on the exported program, and with it the kit
// fits.
func TestShrinkAgainstGlpsol(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	small := strings.NewReplacer(`"size_cm": [30, 22, 49]`, `"size_cm": [28, 19, 46]`, `"volume_l": 30`,
		`"volume_l": 20`, `"collar_cm": 12`, `"collar_cm": 6`).Replace(string(demo.LoneWalker))
	lp := filepath.Join(t.TempDir(), "s.lp")
	code, out, problems := run(t, small, "shrink", "-", "--seconds", "0", "--lp", lp)
	require.Zero(t, code, problems)
	var found shrinkAnswer
	require.NoError(t, json.Unmarshal([]byte(out), &found))
	require.False(t, found.Fits)
	require.True(t, found.Enough)
	text, err := os.ReadFile(lp)
	require.NoError(t, err)
	optimum, err := outside.Glpsol(t.TempDir(), func(w io.Writer) error { _, err := w.Write(text); return err })
	require.NoError(t, err)
	assert.InDelta(t, optimum, found.Objective, 1e-6)
	cost := 0.0
	for _, m := range append(found.Set, found.Spared...) {
		cost += m.Cost
	}
	assert.InDelta(t, optimum, cost, 0.01)
	assert.LessOrEqual(t, found.Cost, cost+1e-9)
}
