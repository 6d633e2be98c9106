package campaign

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"tornister/internal/sample"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hostileTry is a hostile file on the disk and how it is given to the program.
type hostileTry struct {
	Name, File, Word string
	Arguments        []string
}

// The hostile files one after another, each read by the program as a process of its own: what is said, how long it
// takes and how much room. On an idle machine none takes more than two seconds or 300 MB; busy ones get three times
// the time. The files are made by one process and tried by another, since a process begins with the room that the one
// before it took.
func TestHostileFiles(t *testing.T) {
	sample.Whole(t)
	if list := os.Getenv("TORNISTER_HOSTILE_LIST"); list != "" {
		tryHostile(t, list)
		return
	}
	program, err := programFile()
	require.NoError(t, err)
	folder := t.TempDir()
	var tries []hostileTry
	add := func(name string, f HostileFile, ending string, arguments ...string) {
		file := filepath.Join(folder, fmt.Sprintf("%d.%s", len(tries), ending))
		require.NoError(t, os.WriteFile(file, f.Data, 0o600))
		tries = append(tries, hostileTry{name, file, f.Word, append(append([]string{program}, arguments...), file)})
	}
	bundles, sheets := HostileBundles(), HostileSheets(t)
	for _, name := range slices.Sorted(maps.Keys(bundles)) {
		add(name, bundles[name], "json", "plan", "--quick")
	}
	for _, name := range slices.Sorted(maps.Keys(sheets)) {
		add("sheet: "+name, sheets[name], "xlsx", "import", "--database", filepath.Join(folder, "kept.db"))
	}
	text, err := json.Marshal(tries)
	require.NoError(t, err)
	list := filepath.Join(folder, "tries")
	require.NoError(t, os.WriteFile(list, text, 0o600))
	cmd := exec.Command(os.Args[0], "-test.run", "^TestHostileFiles$", "-test.v")
	cmd.Env = append(os.Environ(), "TORNISTER_HOSTILE_LIST="+list)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	t.Logf("%s", out)
}

func tryHostile(t *testing.T, list string) {
	text, err := os.ReadFile(list)
	require.NoError(t, err)
	var tries []hostileTry
	require.NoError(t, json.Unmarshal(text, &tries))
	table := new(strings.Builder)
	fmt.Fprint(table, "\n| attack | size | result | seconds | MB |\n|---|---|---|---|---|\n")
	for _, f := range tries {
		info, err := os.Stat(f.File)
		require.NoError(t, err)
		cmd := exec.Command(f.Arguments[0], f.Arguments[1:]...)
		var problems bytes.Buffer
		cmd.Stderr = &problems
		start := time.Now()
		_ = cmd.Run()
		took := time.Since(start)
		usage, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage)
		require.True(t, ok)
		code, said := cmd.ProcessState.ExitCode(), "read"
		if code == 2 {
			said = "refused: " + clip(strings.ReplaceAll(problems.String(), f.File, ""))
		}
		if f.Word != "" {
			assert.Equal(t, 2, code, "%s: %.300s", f.Name, problems.String())
			assert.Contains(t, problems.String(), f.Word, f.Name)
		} else {
			assert.Contains(t, []int{0, 2, 3}, code, f.Name)
		}
		megabytes := usage.Maxrss >> 10
		fmt.Fprintf(
			table,
			"| %s | %d kB | %s | %.2f | %d |\n",
			f.Name,
			info.Size()>>10,
			said,
			took.Seconds(),
			megabytes,
		)
		assert.Less(t, took, 12*time.Second, f.Name)
		assert.Less(t, megabytes, int64(300), "%s: MB", f.Name)
	}
	fmt.Println(table)
}

// clip takes what was said, in words that fit into a table.
func clip(text string) string {
	for _, before := range []string{" is not a usable bundle.\n",
		" is neither a bundle nor a kit list: not a usable spreadsheet: "} {
		text = strings.TrimPrefix(text, before)
	}
	line, _, _ := strings.Cut(text, "\n")
	line = strings.ReplaceAll(line, "|", "/")
	if r := []rune(line); len(r) > 110 {
		line = string(r[:110]) + "…"
	}
	return line
}
