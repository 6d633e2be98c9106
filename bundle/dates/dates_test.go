package dates_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle/dates"
)

func TestACalendarOfDates(t *testing.T) {
	t.Parallel()
	var out bytes.Buffer
	stamp := time.Date(2026, 9, 1, 8, 0, 0, 0, time.UTC)
	require.NoError(t, dates.Write(&out,
		[]dates.Dated{{"s-1", "First aid kit; dressings, \n new", "2027-03-01", "On the shelf"},
			{"s-2", "No date", "soon", ""}}, stamp))
	cal, err := ics.ParseCalendar(strings.NewReader(out.String()))
	require.NoError(t, err)
	require.Len(t, cal.Events(), 1)
	event := cal.Events()[0]
	start, err := event.GetAllDayStartAt()
	require.NoError(t, err)
	assert.Equal(t, "2027-03-01", start.Format(time.DateOnly))
	assert.Equal(t, "s-1@tornister.invalid", event.Id())
	assert.Contains(t, out.String(), "TRIGGER:-P30D")
	for _, line := range strings.Split(strings.TrimSuffix(out.String(), "\r\n"), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "RFC 5545 folds lines at 75 octets: %q", line)
	}
}
