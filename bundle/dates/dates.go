// Package dates takes the dates of a kit out as a calendar (iCalendar, RFC 5545): when things expire, with a
// reminder.
package dates

import (
	"io"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Dated is something with a day on which it ends.
type Dated struct {
	Key  string // names it for good: a calendar that takes the file again changes its entry
	Name string
	Day  string // YYYY-MM-DD
	Note string
}

// reminder is how long before the day one is reminded.
const reminder = "-P30D"

// Write writes a calendar with one whole-day entry for each thing. Days that are no dates are passed over. The stamp
// says when the file was made.
func Write(w io.Writer, things []Dated, stamp time.Time) error {
	cal := ics.NewCalendarFor("Tornister")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName("Dates of the kit")
	for _, d := range things {
		day, err := time.Parse(time.DateOnly, d.Day)
		if err != nil {
			continue
		}
		event := cal.AddEvent(d.Key + "@tornister.invalid")
		event.SetDtStampTime(stamp)
		event.SetAllDayStartAt(day)
		event.SetAllDayEndAt(day.AddDate(0, 0, 1))
		event.SetSummary(oneLine(d.Name) + ": good until today")
		if d.Note != "" {
			event.SetDescription(oneLine(d.Note))
		}
		alarm := event.AddAlarm()
		alarm.SetAction(ics.ActionDisplay)
		alarm.SetTrigger(reminder)
		alarm.SetDescription(oneLine(d.Name) + " ends in a month")
	}
	return cal.SerializeTo(w, ics.WithNewLineWindows)
}

func oneLine(text string) string { return strings.Join(strings.Fields(text), " ") }
