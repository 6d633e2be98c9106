package weather

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestWhatIsNoWeatherIsNotTaken(t *testing.T) {
	t.Parallel()
	for name, body := range map[string]string{
		"no days":     `{"issued":"2026-09-01T10:00:00Z","days":[]}`,
		"not issued":  `{"days":[{"date":"2026-09-04","low_c":1,"high_c":5}]}`,
		"hot":         `{"issued":"2026-09-01T10:00:00Z","days":[{"date":"2026-09-04","low_c":1,"high_c":500}]}`,
		"upside down": `{"issued":"2026-09-01T10:00:00Z","days":[{"date":"2026-09-04","low_c":9,"high_c":5}]}`,
		"rain of 50":  `{"issued":"2026-09-01T10:00:00Z","days":[{"date":"2026-09-04","low_c":1,"high_c":5,"rain":50}]}`,
		"no date":     `{"issued":"2026-09-01T10:00:00Z","days":[{"date":"soon","low_c":1,"high_c":5}]}`,
		"a list":      `[1,2,3]`,
		"a huge field": `{"source":"` + strings.Repeat("x",
			500) + `","issued":"2026-09-01T10:00:00Z","days":[{"date":"2026-09-04","low_c":1,"high_c":5}]}`,
		"endless": `"` + strings.Repeat("x", mostBytes+10) + `"`,
		"nothing": ``,
	} {
		server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
			_,
				_ = w.Write([]byte(body))
		}))
		_, err := Service{URL: server.URL}.Ask(t.Context(), "x", time.Now(), 1)
		server.Close()
		assert.ErrorIs(t, err, ErrBroken, name)
	}
}
