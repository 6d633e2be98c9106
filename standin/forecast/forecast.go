// Package forecast is a simulated weather service for the invented Orlava Plateau. It takes the place of a real one
// in demonstrations and tests, and can be told to fail in the ways that real ones do.
package forecast

import (
	"encoding/json"
	"hash/fnv"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"tornister/weather"
)

// Mode is how the service behaves.
type Mode string

// The modes: as it should; turning everybody away; answering after a minute; answering with half a forecast.
const (
	Fine    Mode = "fine"
	Refused Mode = "refused"
	Slow    Mode = "slow"
	Broken  Mode = "broken"
)

// Modes lists them.
var Modes = []Mode{Fine, Refused, Slow, Broken}

// delay of the slow mode; a client gives up long before.
const delay = time.Minute

// Source is the name that the service gives itself.
const Source = "made-up forecast for the Orlava Plateau"

// New builds the service. The clock says when a forecast was issued.
func New(mode Mode, now func() time.Time) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /forecast", func(w http.ResponseWriter, r *http.Request) {
		switch mode {
		case Refused:
			refuse(w, http.StatusServiceUnavailable, "closed for today")
			return
		case Slow:
			select {
			case <-r.Context().Done():
				return
			case <-time.After(delay):
			}
		case Broken:
			w.Header().Set("Content-Type", "application/json")
			_, _ = w.Write([]byte(`{"source": "made-up", "issued": "yesterday", "days": [{"date": "so`))
			return
		}
		answer(w, r, now())
	})
	return mux
}

func refuse(w http.ResponseWriter, status int, why string) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(map[string]string{"error": why})
}

func answer(w http.ResponseWriter, r *http.Request, now time.Time) {
	place := r.FormValue("place")
	if !strings.Contains(strings.ToLower(place), "orlava") {
		refuse(w, http.StatusNotFound, "only the Orlava Plateau is known here; name it as the place")
		return
	}
	from, err := time.Parse(time.DateOnly, r.FormValue("from"))
	days, err2 := strconv.Atoi(r.FormValue("days"))
	if err != nil || err2 != nil || days < 1 || days > 60 {
		refuse(w, http.StatusBadRequest, "from wants a date, days a number from 1 to 60")
		return
	}
	f := weather.Forecast{Source: Source, Place: place, Issued: now.Truncate(time.Hour).UTC()}
	for i := range days {
		f.Days = append(f.Days, day(from.AddDate(0, 0, i)))
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(f)
}

// day makes up a day's weather: a yearly wave of an upland, and a whim that is the same whenever the day is asked
// for.
func day(date time.Time) weather.Day {
	wave := -math.Cos(2 * math.Pi * float64(date.YearDay()-20) / 365)
	h := fnv.New32a()
	_, _ = h.Write([]byte(date.Format(time.DateOnly)))
	whim := float64(h.Sum32()%1000) / 1000
	mean := 6 + 9*wave + 6*(whim-0.5)
	return weather.Day{Date: date.Format(time.DateOnly), LowC: math.Round(mean - 5),
		HighC: math.Round(mean + 6 - 4*whim), Rain: math.Round(10*(0.15+0.7*whim)) / 10}
}
