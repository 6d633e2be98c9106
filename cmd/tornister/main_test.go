package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/answer"
	"tornister/demo"
	"tornister/internal/outside"
	"tornister/internal/sample"
)

// TestMain lets the test binary stand in for the program: with the variable set it runs main.
func TestMain(m *testing.M) {
	if os.Getenv("TORNISTER_RUN_MAIN") != "" {
		main()
		return
	}
	os.Exit(m.Run())
}

// program is the command itself, as a process of its own.
func program(arguments ...string) *exec.Cmd {
	cmd := exec.Command(os.Args[0], arguments...)
	cmd.Env = append(os.Environ(), "TORNISTER_RUN_MAIN=1")
	return cmd
}

// run gives exit code, standard output and standard error.
func run(t *testing.T, input string, arguments ...string) (code int, out, problems string) {
	cmd := program(arguments...)
	cmd.Stdin = strings.NewReader(input)
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	if err := cmd.Run(); err != nil {
		require.ErrorAs(t, err, new(*exec.ExitError))
	}
	return cmd.ProcessState.ExitCode(), stdout.String(), stderr.String()
}

// The choice of dry bags of the lone walker costs what glpsol's optimum of the exported program does, under every
// school.
func TestBagsOfTheLoneWalkerAgainstGlpsol(t *testing.T) {
	t.Parallel()
	for _, school := range []string{"liner", "cover", "bags", "two-questions", "double"} {
		file := filepath.Join(t.TempDir(), "bags.lp")
		_, out, problems := run(t, string(demo.LoneWalker), "plan", "-", "--quick", "--seconds", "30", "--method", "dry="+school,
			"--bags-lp",
			file)
		require.Empty(t, problems)
		var answer answer.Answer
		require.NoError(t, json.Unmarshal([]byte(out), &answer))
		program, err := os.ReadFile(file)
		require.NoError(t, err)
		optimum, err := outside.Glpsol(t.TempDir(), func(w io.Writer) error { _, err := w.Write(program); return err })
		require.NoError(t, err)
		assert.InDelta(t, optimum, answer.BagCost, 1e-6*(1+optimum), school)
	}
}

func TestPlanFits(t *testing.T) {
	t.Parallel()
	code, out, problems := run(t, string(demo.LoneWalker), "plan", "-")
	assert.Zero(t, code)
	assert.Empty(t, problems)
	var answer answer.Answer
	require.NoError(t, json.Unmarshal([]byte(out), &answer))
	assert.Equal(t, "tornister-plan", answer.Format)
	assert.True(t, answer.Verdict.Fits)
	assert.Len(t, answer.Load, 49)
	assert.Positive(t, answer.Verdict.Seconds)
}

func TestPlanDoesNotFit(t *testing.T) {
	t.Parallel()
	small := strings.NewReplacer(`"size_cm": [30, 22, 49]`, `"size_cm": [26, 17, 40]`, `"volume_l": 30`,
		`"volume_l": 13`, `"collar_cm": 12`, `"collar_cm": 0`).Replace(string(demo.LoneWalker))
	code, out, _ := run(t, small, "plan", "-", "--seconds", "2")
	assert.Equal(t, 3, code)
	var answer answer.Answer
	require.NoError(t, json.Unmarshal([]byte(out), &answer))
	assert.Len(t, answer.Load, 49-len(answer.LeftOut))
	assert.Positive(t, answer.Verdict.OverL)
}

func TestPlanRefusesBadInput(t *testing.T) {
	t.Parallel()
	for _, arguments := range [][]string{{"plan", "-"}, {"check", "-"},
		{"plan", filepath.Join(t.TempDir(), "none.json")}, {"plan"}, {"plan", "-", "--no-such-flag"}} {
		code, out, problems := run(t, `{"format":"tornister","version":1,"items":[]}`, arguments...)
		assert.Equal(t, 2, code, arguments)
		assert.Empty(t, out, arguments)
		assert.NotEmpty(t, problems, arguments)
	}
	code, _, problems := run(t, string(demo.LoneWalker), "plan", "-", "--method", "heavy=sideways")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "close, low, high")
	code, _, problems = run(t, string(demo.LoneWalker), "plan", "-", "--units", "cubits")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "metric or customary")
	_, card, _ := run(t, string(demo.LoneWalker), "plan", "-", "--quick", "--text", "--units", "customary")
	assert.Contains(t, card, "oz nearer the height where weight rides well", "sentences too")
}

// 200 MB of nothing are refused before they are read.
func TestPlanRefusesHugeInput(t *testing.T) {
	t.Parallel()
	huge := filepath.Join(t.TempDir(), "huge.json")
	file, err := os.Create(huge)
	require.NoError(t, err)
	require.NoError(t, file.Truncate(200<<20))
	require.NoError(t, file.Close())
	code, out, problems := run(t, "", "plan", huge)
	assert.Equal(t, 2, code)
	assert.Empty(t, out)
	assert.Contains(t, problems, "larger than")
}

func TestCardInWords(t *testing.T) {
	t.Parallel()
	code, out, _ := run(t, string(demo.LoneWalker), "plan", "-", "--quick", "--text", "--units", "customary")
	assert.Zero(t, code)
	assert.Contains(t, out, "Loading order")
	assert.Contains(t, out, "Down sleeping bag")
	assert.Regexp(t, `On the back [0-9.]+ lb`, out)
}

// The card goes to a file as its ending says; another ending is refused before anything is planned.
func TestCardAsAFile(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	endings := map[string]string{"pdf": "%PDF-", "txt": "CHILD'S PACK"}
	if !sample.Small() {
		endings["html"], endings["svg"], endings["png"] = "<!doctype html>", "<svg xmlns", "\x89PNG"
	}
	for ending, begins := range endings {
		name := filepath.Join(folder, "card."+ending)
		code, _, problems := run(t, string(demo.ChildNight), "card", "-", "--out", name)
		assert.Zero(t, code, problems)
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(string(data), begins), ending)
	}
	code, _, problems := run(t, string(demo.LoneWalker), "card", "-", "--out", "card.doc")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, ".pdf")
}

// The days of a trip, with what-ifs; weighings against the list; bad words are refused with what is understood.
func TestDaysAndWeigh(t *testing.T) {
	t.Parallel()
	code, out, problems := run(t, string(demo.LoneWalker), "days", "-", "--if", "rain")
	assert.Zero(t, code, problems)
	var told struct {
		Stops   []struct{ Kind string }
		Hardest map[string]int
	}
	require.NoError(t, json.Unmarshal([]byte(out), &told))
	assert.Len(t, told.Stops, 9)
	assert.Contains(t, told.Hardest, "weight")
	code, _, problems = run(t, string(demo.LoneWalker), "days", "-", "--if", "dry=77")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "dry=LEG")
	code, _, problems = run(t, string(demo.LoneWalker), "weigh", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "/weighings")
	with := strings.Replace(string(demo.LoneWalker), `"format": "tornister"`,
		`"weighings": [{"what": "pack", "g": 19400}, {"what": ["pot"], "scale": "kitchen", "g": 150}], "format": "tornister"`, 1)
	code, out, problems = run(t, with, "weigh", "-")
	assert.Equal(t, exitNoFit, code, problems)
	assert.Contains(t, out, `"foreign_g"`)
	code, _, problems = run(t, strings.Replace(with, "19400", "300000", 1), "weigh", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, problems, "/weighings/0/g")
}

// An order is judged: what it costs beside the planned one, and a bad one is refused with place and mend.
func TestJudgeAnOrder(t *testing.T) {
	t.Parallel()
	order := filepath.Join(t.TempDir(), "order.json")
	require.NoError(t, os.WriteFile(order,
		[]byte(`[{"item": "sleeping-bag", "zone": "bottom"}, {"item": "first-aid", "zone": "body"}]`), 0o600))
	code, out, _ := run(t, string(demo.LoneWalker), "plan", "-", "--quick", "--order", order)
	assert.Equal(t, exitNoFit, code, "nearly all is out")
	var a answer.Answer
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	require.NotNil(t, a.Hand)
	assert.Len(t, a.Load, 2)
	assert.Greater(t, a.Hand.CostS, a.Hand.PlannedS)
	require.NotEmpty(t, a.Hand.Changes)
	assert.Contains(t, a.Hand.Changes[0].Text, "left out")
	require.NoError(t, os.WriteFile(order, []byte(`[{"item": "anvil", "zone": "body"}]`), 0o600))
	code, _, problems := run(t, string(demo.LoneWalker), "plan", "-", "--order", order)
	assert.Equal(t, exitBadArgs, code)
	assert.Contains(t, problems, "/0/item")
	assert.Contains(t, problems, "anvil")
}

// Kill the server with SIGKILL straight after an acknowledged edit: the edit is there.
func TestAcknowledgedEditSurvivesKill(t *testing.T) {
	t.Parallel()
	database := filepath.Join(t.TempDir(), "kept.db")
	server, address := start(t, database)
	jar := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	made, err := jar.PostForm(address+"trips", url.Values{"name": {"Night on the rim"}})
	require.NoError(t, err)
	require.NoError(t, made.Body.Close())
	layout := strings.TrimSuffix(address, "/") + made.Header.Get("Location")
	added, err := jar.PostForm(strings.Replace(layout, "/layout", "/items", 1),
		url.Values{"version": {"1"}, "lines": {"Storm lantern 1 lb 0.8 l"}, "return": {"/"}})
	require.NoError(t, err)
	require.NoError(t, added.Body.Close())
	require.Equal(t, http.StatusSeeOther, added.StatusCode, "the edit was acknowledged")
	require.NoError(t, server.Process.Kill())
	_ = server.Wait()

	again, address := start(t, database)
	defer func() { _ = again.Process.Kill(); _ = again.Wait() }()
	page, err := http.Get(address + "trips/1/layout")
	require.NoError(t, err)
	defer page.Body.Close()
	text, err := io.ReadAll(page.Body)
	require.NoError(t, err)
	assert.Contains(t, string(text), "Storm lantern")
	assert.Contains(t, string(text), "454 g")
}

// start runs the server on a free port and waits for the address it prints.
func start(t *testing.T, database string) (*exec.Cmd, string) {
	server := program("serve", "--address", "127.0.0.1:0", "--database", database)
	out, err := server.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, server.Start())
	t.Cleanup(func() { _ = server.Process.Kill() })
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if found := regexp.MustCompile(`http://\S+`).FindString(lines.Text()); found != "" {
			return server, found
		}
	}
	require.Fail(t, "the server printed no address")
	return nil, ""
}

// The first answer from a cold start: process, schema, reading and planning.
func BenchmarkColdStart(b *testing.B) {
	file := filepath.Join(b.TempDir(), "kit.json")
	if err := os.WriteFile(file, demo.LoneWalker, 0o600); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if err := program("plan", "--quick", file).Run(); err != nil {
			b.Fatal(err)
		}
	}
}
