package campaign

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"tornister/internal/sample"
	"tornister/store"
)

// editors is how many write to a server while it is killed.
const editors = 4

// The program is killed at any moment under several writers, again and again, in five databases: every edit that it
// acknowledged is there afterwards, and the file is sound.
func TestKillsUnderWriters(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	kills, seed := Size(t, 10, 1000), Seed()
	const databases = 5
	var lost, acknowledged atomic.Int64
	begin := time.Now()
	var wait sync.WaitGroup
	places := make(chan struct{}, 2)
	for d := range databases {
		wait.Go(func() {
			r := rand.New(rand.NewPCG(seed, uint64(d)))
			path := filepath.Join(t.TempDir(), "kept.db")
			known := map[string]bool{} // names of trips that were acknowledged
			for round := range kills / databases {
				places <- struct{}{}
				for name := range edited(t, path, fmt.Sprintf("%d.%d", d, round), time.Duration(20+r.IntN(300))*time.Millisecond) {
					known[name] = true
				}
				there := examined(t, path)
				<-places
				for name := range known {
					if !there[name] {
						lost.Add(1)
						t.Errorf("seed %d, database %d, kill %d: %q was acknowledged and is gone", seed, d, round, name)
					}
				}
				if len(known) > 300 { // smaller files are killed in more ways
					acknowledged.Add(int64(len(known)))
					known, path = map[string]bool{}, filepath.Join(t.TempDir(), "kept.db")
				}
			}
			acknowledged.Add(int64(len(known)))
		})
	}
	wait.Wait()
	t.Logf(
		"seed %d: %d kills over %d databases in %v, %d edits acknowledged, %d lost",
		seed,
		kills/databases*databases,
		databases,
		time.Since(begin).Round(time.Second),
		acknowledged.Load(),
		lost.Load(),
	)
	require.Positive(t, acknowledged.Load())
}

// edited lets writers add trips to a server until it is killed after a while, and gives the names that were
// acknowledged.
func edited(t *testing.T, path, prefix string, after time.Duration) map[string]bool {
	s := serve(t, path)
	var mu sync.Mutex
	names := map[string]bool{}
	var wait sync.WaitGroup
	for e := range editors {
		wait.Go(func() {
			c := client()
			defer c.CloseIdleConnections()
			for n := 0; ; n++ {
				name := fmt.Sprintf("trip %s.%d.%d", prefix, e, n)
				answer, err := c.PostForm(s.address+"/trips", url.Values{"name": {name}})
				if err != nil {
					return // killed
				}
				_ = answer.Body.Close()
				if answer.StatusCode == http.StatusSeeOther {
					mu.Lock()
					names[name] = true
					mu.Unlock()
				}
			}
		})
	}
	time.Sleep(after) // the moment of the kill is the point of the campaign
	s.kill()
	wait.Wait()
	return names
}

// examined opens a database that was killed and gives the names of its trips; it must be sound.
func examined(t *testing.T, path string) map[string]bool {
	for _, f := range store.Examine(t.Context(), path) {
		if f.Bad {
			t.Errorf("%s: %s", path, f.Text)
		}
	}
	s, err := store.Open(path)
	if err != nil {
		t.Error(err)
		return nil
	}
	defer s.Close()
	trips, err := s.Trips(t.Context())
	if err != nil {
		t.Error(err)
	}
	names := map[string]bool{}
	for _, trip := range trips {
		names[trip.Name] = true
	}
	return names
}
