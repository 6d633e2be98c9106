package campaign

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/internal/sample"
	"tornister/store"
)

// A crowd of fifty readers, each looking at a page every second or so, and twenty editors, each changing something
// every few seconds, on six trips.
const (
	crowdReaders = 50
	crowdEditors = 20
	crowdTrips   = 6
	readerRest   = 1200 * time.Millisecond
	editorRest   = 4 * time.Second
)

// A crowd for some time: no error, pages in time, memory flat, and afterwards as many goroutines as before. The
// seconds are five among the tests; the figures of a minute stand in docs/hardening.md.
func TestACrowd(t *testing.T) {
	sample.Whole(t)
	seconds := Size(t, 3, 60)
	path := filepath.Join(t.TempDir(), "kept.db")
	kept, err := store.Open(path)
	require.NoError(t, err)
	for n := range crowdTrips {
		b, err := bundle.Read(demo.Trips[n%len(demo.Trips)])
		require.NoError(t, err)
		_, err = kept.Create(t.Context(), b.Doc)
		require.NoError(t, err)
	}
	require.NoError(t, kept.Close())
	s := serve(t, path)
	c := client()
	before := goroutines(t, c, s)

	ctx, cancel := context.WithTimeout(t.Context(), time.Duration(seconds)*time.Second)
	defer cancel()
	var mu sync.Mutex
	var times []time.Duration
	var edits, conflicts int
	var wrong []string
	note := func(took time.Duration, status int, what string, err error) {
		mu.Lock()
		defer mu.Unlock()
		switch {
		case ctx.Err() != nil:
		case err != nil:
			wrong = append(wrong, fmt.Sprintf("%s: %v", what, err))
		case status == http.StatusConflict:
			conflicts++ // two editors of one trip: said, nothing overwritten
		case status >= 400:
			wrong = append(wrong, fmt.Sprintf("%s: %d", what, status))
		case status == http.StatusSeeOther:
			edits++
		default:
			times = append(times, took)
		}
	}
	var wait sync.WaitGroup
	for n := range crowdReaders {
		r := rand.New(rand.NewPCG(Seed(), uint64(n)))
		wait.Go(func() {
			for rest(ctx, r, readerRest) {
				page := []string{"load", "layout", "dry", "trip", "load", "load?view=behind", "load?thing=pot"}[r.IntN(7)]
				address := fmt.Sprintf("%s/trips/%d/%s", s.address, 1+r.IntN(crowdTrips), page)
				if r.IntN(8) == 0 {
					address = s.address + "/"
				}
				status, took, _, err := fetch(ctx, c, address)
				note(took, status, address, err)
			}
		})
	}
	for n := range crowdEditors {
		r := rand.New(rand.NewPCG(Seed(), uint64(1000+n)))
		wait.Go(func() {
			for rest(ctx, r, editorRest) {
				trip := fmt.Sprintf("%s/trips/%d", s.address, 1+r.IntN(crowdTrips))
				status, took, page, err := fetch(ctx, c, trip+"/layout")
				note(took, status, trip, err)
				version := regexp.MustCompile(`name="version" value="(\d+)"`).FindStringSubmatch(page)
				if version == nil {
					continue
				}
				fields := url.Values{
					"version": {version[1]},
					"return":  {"/"},
					"lines":   {fmt.Sprintf("Scarf %d 90 g 0.3 l", n)},
				}
				action := trip + "/items"
				if r.IntN(2) == 0 {
					action = trip + "/undo"
				}
				start := time.Now()
				answer, err := c.PostForm(action, fields)
				if err != nil {
					note(0, 0, action, err)
					continue
				}
				_ = answer.Body.Close()
				note(time.Since(start), answer.StatusCode, action, nil)
			}
		})
	}
	var memory []int
	tick := time.NewTicker(time.Second)
	defer tick.Stop()
	for running := true; running; {
		select {
		case <-tick.C:
			memory = append(memory, resident(s.cmd.Process.Pid))
		case <-ctx.Done():
			running = false
		}
	}
	wait.Wait()
	c.CloseIdleConnections()
	slices.Sort(times)
	at := func(share float64) time.Duration {
		return times[int(share*float64(len(times)-1))].Round(time.Millisecond)
	}
	require.NotEmpty(t, times)
	t.Logf(
		"%d s, %d readers, %d editors: %d pages, p50 %v, p90 %v, p99 %v, longest %v; %d edits, %d conflicts said, %d errors; MB by second %v",
		seconds,
		crowdReaders,
		crowdEditors,
		len(times),
		at(0.5),
		at(0.9),
		at(0.99),
		at(1),
		edits,
		conflicts,
		len(wrong),
		memory,
	)
	require.Empty(t, wrong)
	if seconds >= 30 { // in a few seconds on a machine that is busy with other tests an editor may not come to it
		require.Positive(t, edits)
	}
	require.Eventually(t, func() bool { return goroutines(t, c, s) <= before+4 }, time.Minute, time.Second,
		"as many goroutines as before, when the searches have ended")
	if len(memory) > 15 { // from the tenth second on
		late := memory[10:]
		require.Less(t, float64(late[len(late)-1]), 1.2*float64(slices.Max(late[:5])), "MB")
	}
}

func rest(ctx context.Context, r *rand.Rand, mean time.Duration) bool {
	select {
	case <-time.After(time.Duration((0.5 + r.Float64()) * float64(mean))): // a reader reads
		return true
	case <-ctx.Done():
		return false
	}
}

func fetch(
	ctx context.Context,
	c *http.Client,
	address string,
) (status int, took time.Duration, page string, err error) {
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return 0, 0, "", err
	}
	start := time.Now()
	answer, err := c.Do(request)
	if err != nil {
		return 0, 0, "", err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	return answer.StatusCode, time.Since(start), string(text), err
}

// resident is the room that a process takes, in MB; 0 where the system does not tell.
func resident(pid int) int { return status(pid, "VmRSS:") >> 10 }

// goroutines is how many run in a server.
func goroutines(t *testing.T, c *http.Client, s *server) int {
	var health struct{ Goroutines int }
	answer, err := c.Get(s.address + "/healthz")
	require.NoError(t, err)
	defer answer.Body.Close()
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&health))
	require.Positive(t, health.Goroutines)
	return health.Goroutines
}

func status(pid int, field string) (value int) {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for line := range strings.SplitSeq(string(text), "\n") {
		if rest, ok := strings.CutPrefix(line, field); ok {
			_, _ = fmt.Sscan(rest, &value)
		}
	}
	return value
}
