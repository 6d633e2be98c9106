// Package weather asks a forecast service for the days of a trip. The service is somebody else's: it may be away,
// slow or broken, and then the error says which, in words for the packer. Nothing of a trip is sent but its place and
// dates.
package weather

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"time"
)

// Day is one day's forecast.
type Day struct {
	Date  string  `json:"date"` // YYYY-MM-DD
	LowC  float64 `json:"low_c"`
	HighC float64 `json:"high_c"`
	Rain  float64 `json:"rain"` // how likely, 0 to 1
}

// Forecast is an answer of the service.
type Forecast struct {
	Source string    `json:"source"`
	Place  string    `json:"place"`
	Issued time.Time `json:"issued"`
	Days   []Day     `json:"days"`
}

// Service is where to ask. The zero value asks nobody.
type Service struct {
	URL     string        // of the service, without a path
	Timeout time.Duration // 0 means DefaultTimeout
}

// DefaultTimeout is how long an answer is waited for.
const DefaultTimeout = 3 * time.Second

// Errors tell the ways to fail apart.
var (
	ErrNowhere = errors.New("no forecast service is set; start one with \"tornister forecast\" and name it with --forecast")
	ErrAway    = errors.New("the forecast service is not there")
	ErrSlow    = errors.New("the forecast service took too long to answer")
	ErrBroken  = errors.New("the forecast service answered with something that is no forecast")
	ErrRefused = errors.New("the forecast service refused")
)

// most bounds an answer, in bytes and in days.
const (
	mostBytes = 256 << 10
	mostDays  = 60
)

// Ask fetches the forecast of so many days (1 to 60) from a date on.
func (s Service) Ask(ctx context.Context, place string, from time.Time, days int) (*Forecast, error) {
	if s.URL == "" {
		return nil, ErrNowhere
	}
	timeout := s.Timeout
	if timeout == 0 {
		timeout = DefaultTimeout
	}
	ctx, cancel := context.WithTimeout(ctx, timeout)
	defer cancel()
	query := url.Values{"place": {place}, "from": {from.Format(time.DateOnly)},
		"days": {strconv.Itoa(min(max(days, 1), mostDays))}}
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, s.URL+"/forecast?"+query.Encode(), nil)
	if err != nil {
		return nil, fmt.Errorf("%w: %q is no address", ErrAway, s.URL)
	}
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		if ctx.Err() != nil {
			return nil, fmt.Errorf("%w (%v)", ErrSlow, timeout)
		}
		return nil, ErrAway
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(io.LimitReader(answer.Body, mostBytes))
	if err != nil {
		if ctx.Err() != nil {
			return nil, fmt.Errorf("%w (%v)", ErrSlow, timeout)
		}
		return nil, fmt.Errorf("%w: it broke off", ErrBroken)
	}
	if answer.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("%w: %s", ErrRefused, refusal(text, answer.Status))
	}
	return read(text)
}

// read makes a forecast of an answer and refuses one that cannot be weather.
func read(text []byte) (*Forecast, error) {
	var f Forecast
	if err := json.Unmarshal(text, &f); err != nil {
		return nil, ErrBroken
	}
	if err := f.check(); err != nil {
		return nil, err
	}
	return &f, nil
}

// refusal is the service's own word for why, or the status.
func refusal(text []byte, status string) string {
	var said struct{ Error string }
	if json.Unmarshal(text, &said) == nil && said.Error != "" && len(said.Error) < 200 {
		return said.Error
	}
	return status
}

// check refuses an answer that cannot be weather.
func (f *Forecast) check() error {
	if len(f.Days) == 0 || len(f.Days) > mostDays || f.Issued.IsZero() || len(f.Source) > 200 {
		return fmt.Errorf("%w: it names no days or not when it was issued", ErrBroken)
	}
	for _, d := range f.Days {
		if _, err := time.Parse(time.DateOnly, d.Date); err != nil {
			return fmt.Errorf("%w: %q is no date", ErrBroken, clip(d.Date))
		}
		for _, v := range []float64{d.LowC, d.HighC, d.Rain} {
			if math.IsNaN(v) || v < -80 || v > 65 {
				return fmt.Errorf("%w: %v on %s", ErrBroken, v, d.Date)
			}
		}
		if d.LowC > d.HighC || d.Rain < 0 || d.Rain > 1 {
			return fmt.Errorf("%w: its figures for %s contradict each other", ErrBroken, d.Date)
		}
	}
	return nil
}

func clip(text string) string {
	r := []rune(text)
	return string(r[:min(len(r), 20)])
}

// Extremes are what to pack for: the coldest night, the warmest day, and how likely rain is on the wettest day.
func (f *Forecast) Extremes() (lowC, highC, rain float64) {
	lowC, highC = math.Inf(1), math.Inf(-1)
	for _, d := range f.Days {
		lowC, highC, rain = min(lowC, d.LowC), max(highC, d.HighC), max(rain, d.Rain)
	}
	return lowC, highC, rain
}
