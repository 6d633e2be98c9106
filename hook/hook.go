// Package hook reads a hanging scale that serves its samples as newline-delimited JSON over HTTP.
package hook

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"time"

	"tornister/core/weigh"
)

// Service is where a scale is found; an empty URL means none.
type Service struct {
	URL       string
	Simulated bool // it is the stand-in, which is told what hangs on it
}

// States of the line beside those of the needle.
const (
	Silent  weigh.State = "silent"  // nothing has come for a while
	Rubbish weigh.State = "rubbish" // lines that cannot be read
	Gone    weigh.State = "gone"    // no scale answers
)

// Event is how the needle stands.
type Event struct {
	State  weigh.State `json:"state"`
	G      float64     `json:"g"`
	Pounds bool        `json:"pounds,omitempty"`
}

// Of the line: how long it may be silent, how long a line may be, how many lines may be rubbish one after another,
// and how long a weighing may last.
const (
	silence     = 1500 * time.Millisecond
	longest     = 4096
	mostWrong   = 6
	wrongWeighs = 3
	longestRun  = 5 * time.Minute
)

// Watch follows the scale until the context ends and tells of each sample. The query goes to the scale as it is.
// It ends with Gone when no scale answers.
func (s Service) Watch(ctx context.Context, stepG float64, query url.Values, tell func(Event)) error {
	ctx, cancel := context.WithTimeout(ctx, longestRun)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, s.URL+"/scale?"+query.Encode(), nil)
	if err != nil {
		return fmt.Errorf("the scale's address: %w", err)
	}
	client := &http.Client{Transport: &http.Transport{ResponseHeaderTimeout: 3 * time.Second, DisableKeepAlives: true}}
	response, err := client.Do(request)
	if err != nil {
		tell(Event{State: Gone})
		return fmt.Errorf("no scale answers: %w", err)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		tell(Event{State: Gone})
		return fmt.Errorf("the scale answers with %s", response.Status)
	}
	lines := make(chan string)
	go func() {
		defer close(lines)
		in := bufio.NewScanner(response.Body)
		in.Buffer(make([]byte, longest), longest)
		for in.Scan() {
			select {
			case lines <- in.Text():
			case <-ctx.Done():
				return
			}
		}
	}()
	needle := &weigh.Needle{StepG: stepG}
	wrong := 0
	quiet := time.NewTimer(silence)
	defer quiet.Stop()
	for {
		select {
		case <-ctx.Done():
			return nil
		case <-quiet.C:
			tell(Event{State: Silent})
			needle = &weigh.Needle{StepG: stepG}
			quiet.Reset(silence)
		case line, open := <-lines:
			if !open {
				tell(Event{State: Gone})
				return nil
			}
			quiet.Reset(silence)
			var sample weigh.Sample
			if json.Unmarshal([]byte(line), &sample) != nil {
				if wrong = min(wrong+wrongWeighs, 2*mostWrong); wrong >= mostWrong {
					tell(Event{State: Rubbish})
				}
				needle = &weigh.Needle{StepG: stepG} // what is between broken lines is not to be trusted
				continue
			}
			wrong = max(0, wrong-1)
			state, g := needle.Add(sample)
			tell(Event{state, g, needle.Pounds})
		}
	}
}
