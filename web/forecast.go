package web

import (
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/unit"
	"tornister/weather"
)

// forecastView is what is known of the weather, and how old it is.
type forecastView struct {
	Days       []forecastDay
	Source     string
	Age        string
	Can        string // why it cannot be asked, "" when it can
	Differs    bool   // the trip is planned with other figures
	Low, High  string
	Rain       string
	AnyService bool
}

type forecastDay struct{ Date, Low, High, Rain string }

func (s *Server) forecastOf(t *trip, system unit.System) forecastView {
	v := forecastView{AnyService: s.weather.URL != ""}
	tr := &t.task().Trip
	_, _, ok := tr.Times()
	switch {
	case !v.AnyService:
		v.Can = "No forecast service is set. The step works without: enter what you know."
	case !ok:
		v.Can = "Give start and end first: a forecast is asked for by its dates."
	case tr.Place == "" && tr.Name == "":
		v.Can = "Say where first."
	}
	k := t.Doc.Forecast()
	if k == nil {
		return v
	}
	v.Source = k.Source
	v.Age = fmt.Sprintf("issued %s, asked %s", ago(k.Issued), ago(k.Asked))
	for _, d := range k.Days {
		date := d.Date
		if parsed, err := time.Parse(time.DateOnly, d.Date); err == nil {
			date = parsed.Format("Mon 2 Jan")
		}
		v.Days = append(v.Days, forecastDay{date, system.Temperature(d.LowC), system.Temperature(d.HighC),
			fmt.Sprintf("%.0f in 100", d.Rain*100)})
	}
	low, high, rain := extremes(k)
	v.Low, v.High, v.Rain = system.Temperature(low), system.Temperature(high), fmt.Sprintf("%.0f in 100", rain*100)
	v.Differs = tr.NightLowC != low || tr.DayHigh == nil || *tr.DayHigh != high || tr.Rain != rain
	return v
}

// extremes are the lowest night, the highest day and the likeliest rain of a forecast.
func extremes(k *bundle.Forecast) (low, high, rain float64) {
	var f weather.Forecast
	for _, day := range k.Days {
		f.Days = append(f.Days, weather.Day(day))
	}
	return f.Extremes()
}

// ago says how long since, in the largest whole unit.
func ago(then time.Time) string {
	since := time.Since(then)
	switch {
	case then.IsZero():
		return "at an unknown time"
	case since < time.Minute:
		return "just now"
	case since < time.Hour:
		return fmt.Sprintf("%d min ago", int(since.Minutes()))
	case since < 48*time.Hour:
		return fmt.Sprintf("%d h ago", int(since.Hours()))
	}
	return fmt.Sprintf("%d days ago", int(since.Hours()/24))
}

// askForecast fetches the forecast and keeps it with the trip. When that fails, the trip stays as it is and the page
// says why.
func (s *Server) askForecast(c *gin.Context) {
	s.show(c, func(t *trip) {
		tr := &t.task().Trip
		start, _, ok := tr.Times()
		var f *weather.Forecast
		err := fmt.Errorf("start and end of the trip are not known")
		if ok {
			place := tr.Place
			if place == "" {
				place = tr.Name
			}
			f, err = s.weather.Ask(c.Request.Context(), place, start, tr.Days)
		}
		if err != nil {
			p := s.routePage(t, settingsOf(c).Units)
			p.Notice = &notice{Kind: "wrong", Text: "No new forecast: " + strings.TrimSuffix(bundle.Plain(err.Error()),
				".") + ". Nothing was changed; what the trip is planned with stays, and you can enter figures yourself."}
			p.Here = localPath(c.PostForm("return"), "/")
			s.render(c, http.StatusBadGateway, p)
			return
		}
		s.change(c, "ask the forecast", func(doc bundle.Doc) error {
			k := &bundle.Forecast{Source: f.Source, Asked: time.Now().UTC().Truncate(time.Second), Issued: f.Issued}
			for _, day := range f.Days {
				k.Days = append(k.Days, bundle.ForecastDay(day))
			}
			return doc.KeepForecast(k)
		}, func(problems bundle.Problems, stale bool) {
			s.routeAgain(c, readForm(c, settingsOf(c).Units), problems, stale)
		})
	})
}

// takeForecast plans the trip with the forecast that it keeps.
func (s *Server) takeForecast(c *gin.Context) {
	s.change(c, "plan with the forecast", func(doc bundle.Doc) error {
		k := doc.Forecast()
		if k == nil {
			return nil
		}
		trip := doc.Object("trip")
		low, high, rain := extremes(k)
		trip["night_low_c"], trip["day_high_c"], trip["rain"] = bundle.Number(low), bundle.Number(high), bundle.Number(rain)
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) {
		s.routeAgain(c, readForm(c, settingsOf(c).Units), problems, stale)
	})
}
