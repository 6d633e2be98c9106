package web

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A session ends when nobody comes for half a day, and after a week in any case, also when the clock is set back.
func TestSessionsEnd(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)
	d := newDoor(&Options{Password: []byte("x")}, func() time.Time { return now })
	come := func() *http.Request {
		w := httptest.NewRecorder()
		c, _ := gin.CreateTestContext(w)
		d.open(c)
		cookie, err := http.ParseSetCookie(w.Header().Get("Set-Cookie"))
		require.NoError(t, err)
		r := httptest.NewRequest(http.MethodGet, "/", nil)
		r.AddCookie(cookie)
		return r
	}
	r := come()
	for range 13 { // every eleven hours: never away for half a day
		now = now.Add(11 * time.Hour)
		require.True(t, d.in(r), now)
	}
	for range 3 {
		now = now.Add(11 * time.Hour)
	}
	assert.False(t, d.in(r), "after a week")

	r = come()
	now = now.Add(13 * time.Hour)
	assert.False(t, d.in(r), "after half a day")
	now = now.Add(-12 * time.Hour)
	assert.False(t, d.in(r), "what is over stays over")

	r = come()
	now = now.Add(-time.Hour)
	assert.False(t, d.in(r), "a session from tomorrow is none")
}
