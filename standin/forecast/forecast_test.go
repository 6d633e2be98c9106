package forecast_test

import (
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/standin/forecast"
	"tornister/weather"
)

func service(t *testing.T, mode forecast.Mode) weather.Service {
	server := httptest.NewServer(forecast.New(mode,
		func() time.Time { return time.Date(2026, 9, 1, 10, 30, 0, 0, time.UTC) }))
	t.Cleanup(server.Close)
	return weather.Service{URL: server.URL, Timeout: 300 * time.Millisecond}
}

func TestAForecastAndEveryWayToHaveNone(t *testing.T) {
	t.Parallel()
	from := time.Date(2026, 9, 4, 0, 0, 0, 0, time.UTC)
	fine := service(t, forecast.Fine)
	f, err := fine.Ask(t.Context(), "Orlava Plateau", from, 4)
	require.NoError(t, err)
	require.Len(t, f.Days, 4)
	assert.Equal(t, "2026-09-04", f.Days[0].Date)
	assert.Equal(t, time.Date(2026, 9, 1, 10, 0, 0, 0, time.UTC), f.Issued)
	again, err := fine.Ask(t.Context(), "Orlava Plateau", from, 4)
	require.NoError(t, err)
	assert.Equal(t, f, again)
	low, high, rain := f.Extremes()
	for _, d := range f.Days {
		assert.LessOrEqual(t, low, d.LowC)
		assert.GreaterOrEqual(t, high, d.HighC)
		assert.GreaterOrEqual(t, rain, d.Rain)
	}
	_, err = fine.Ask(t.Context(), "somewhere else", from, 4)
	assert.ErrorIs(t, err, weather.ErrRefused)
	assert.ErrorContains(t, err, "Orlava")

	for mode, want := range map[forecast.Mode]error{forecast.Refused: weather.ErrRefused, forecast.Slow: weather.ErrSlow,
		forecast.Broken: weather.ErrBroken} {
		_, err := service(t, mode).Ask(t.Context(), "Orlava", from, 2)
		assert.ErrorIs(t, err, want)
	}
	_, err = weather.Service{URL: "http://127.0.0.1:1"}.Ask(t.Context(), "Orlava", from, 2)
	assert.ErrorIs(t, err, weather.ErrAway)
	_, err = weather.Service{}.Ask(t.Context(), "Orlava", from, 2)
	assert.ErrorIs(t, err, weather.ErrNowhere)
}
