package web_test

import (
	"net/http"
	"strings"
	"testing"

	"tornister/internal/sample"

	"github.com/stretchr/testify/assert"
)

// The way has a stop for the start, each leg's end and each morning; a what-if says what it changes; nonsense in the
// address shows the way as it is.
func TestOnTheWay(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	s := newSite(t)
	_, page := s.get("/trips/1/way")
	assert.Equal(t, 9, strings.Count(page, `class="stop-small"`))
	assert.Contains(t, page, "The hardest moment")
	assert.Contains(t, page, "Nothing: all is where it was")
	_, page = s.get("/trips/1/way?stop=3&if=rain")
	assert.Contains(t, page, "of wet")
	assert.Contains(t, page, "The difference")
	_, page = s.get("/trips/1/way?stop=2&if=companion")
	assert.Regexp(t, `Start: &#43;6\.\d+ kg`, page)
	_, page = s.get("/trips/1/way?if=dry-1")
	assert.Contains(t, page, "water runs out")
	_, page = s.get("/trips/1/way?if=night")
	assert.Contains(t, page, "one stop more")
	assert.Contains(t, page, "nothing to eat for")
	for _, query := range []string{"if=shut-99", "if=shut-x", "stop=99", "stop=x", "if=dry-900", "if=dry-x", "if=what"} {
		code, _ := s.get("/trips/1/way?" + query)
		assert.Equal(t, http.StatusOK, code, query)
	}
	_, calendar := s.get("/trips/1/dates.ics")
	assert.Contains(t, calendar, "Tarn halt to Stone Gate")
}
