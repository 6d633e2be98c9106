package trail

import (
	"fmt"
	"time"
)

// clockLayout is how times are written in the format: local, to the minute.
const clockLayout = "2006-01-02T15:04"

// ParseTime reads a local time such as 2026-09-04T13:00.
func ParseTime(text string) (time.Time, error) { return time.Parse(clockLayout, text) }

// FormatTime writes a time as the format has it.
func FormatTime(t time.Time) string { return t.Format(clockLayout) }

// Times gives start and end when both are known and in order.
func (t *Trip) Times() (start, end time.Time, ok bool) {
	start, err1 := ParseTime(t.Start)
	end, err2 := ParseTime(t.End)
	return start, end, err1 == nil && err2 == nil && end.After(start)
}

// Span counts the calendar days on which the trip is under way, and the nights between them.
func Span(start, end time.Time) (days, nights int) {
	midnight := func(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC) }
	nights = int(midnight(end).Sub(midnight(start)).Hours()/24 + 0.5)
	return nights + 1, nights
}

// Meal is one of the three of a day.
type Meal string

// The meals.
const (
	Breakfast Meal = "breakfast"
	Lunch     Meal = "lunch"
	Dinner    Meal = "dinner"
)

// table is when meals are taken (our estimate): a trip that starts after one does not carry it, one that ends before
// it neither.
var table = []struct {
	meal         Meal
	hour, minute int
}{{Breakfast, 7, 30}, {Lunch, 12, 30}, {Dinner, 19, 0}}

// MealTime is when a meal is taken, such as "12:30".
func MealTime(m Meal) string {
	for _, t := range table {
		if t.meal == m {
			return fmt.Sprintf("%d:%02d", t.hour, t.minute)
		}
	}
	return ""
}

// Meals lists for each day of the trip, the first at 0, the meals that fall within it. With times unknown, the first
// day has lunch and dinner, the last breakfast and lunch.
func (t *Trip) Meals() [][]Meal {
	start, end, ok := t.Times()
	if !ok {
		start = time.Date(2000, 1, 1, 9, 0, 0, 0, time.UTC)
		end = start.AddDate(0, 0, max(0, t.Days-1)).Add(7 * time.Hour)
	}
	days, _ := Span(start, end)
	all := make([][]Meal, min(days, 400))
	for d := range all {
		for _, m := range table {
			at := time.Date(start.Year(), start.Month(), start.Day()+d, m.hour, m.minute, 0, 0, time.UTC)
			if at.After(start) && at.Before(end) {
				all[d] = append(all[d], m.meal)
			}
		}
	}
	return all
}

// Count counts how often each meal is taken.
func Count(days [][]Meal) map[Meal]int {
	n := map[Meal]int{}
	for _, meals := range days {
		for _, m := range meals {
			n[m]++
		}
	}
	return n
}
