package draw

import (
	"fmt"
	"html/template"
	"strings"

	"tornister/core/trail"
	"tornister/core/unit"
)

// Days is what the strip of days shows.
type Days struct {
	Trip   *trail.Trip
	System unit.System
}

// The strip in pixels: a column a day, and its rows.
const (
	dayLeast     = 118.0
	stripWidth   = 780.0
	stripHeight  = 186.0
	dateRow      = 16.0
	mealRow      = 33.0
	legRow       = 56.0
	legHeight    = 15.0
	stretchRow   = 112.0
	nightRow     = 152.0
	walkingHours = 5.0 // that fill a column, unless a day has more
)

// Strip draws the days of a trip side by side: date and meals, the legs as bars as long as they take, the water to
// carry for each stretch between sources, and the nights. A trip longer than the sheet is drawn as wide as it needs.
func Strip(d Days) template.HTML {
	var s sheet
	meals := d.Trip.Meals()
	days := max(len(meals), 1)
	column := max(dayLeast, stripWidth/float64(days))
	width := column * float64(days)
	class := "strip"
	if width > stripWidth {
		class += " strip-long" // its words would become too small if it were fitted to the page
	}
	s.open("svg", "class", class, "viewBox", "0 0 "+num(width)+" "+num(stripHeight), "width", width, "height",
		stripHeight, "role", "img")
	s.open("title")
	fmt.Fprintf(&s, "The trip day by day: meals, legs with hours, water to carry and nights; the tables below say the same.")
	s.close("title")
	start, _, dated := d.Trip.Times()
	for i := range days {
		x := float64(i) * column
		if i > 0 {
			s.el("path", "class", "strip-rule", "d", path("M", x, 4, "V", stripHeight-6))
		}
		label := fmt.Sprintf("Day %d", i+1)
		if dated {
			label += start.AddDate(0, 0, i).Format(", Mon 2 Jan")
		}
		s.text(x+8, dateRow, "strip-date", label)
		if i < len(meals) {
			s.text(x+8, mealRow, "caption", mealWords(meals[i]))
		}
	}
	ends := s.legs(d, column, days)
	s.stretches(d, ends)
	s.nights(d, column, days)
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

func mealWords(meals []trail.Meal) string {
	words := make([]string, len(meals))
	for i, m := range meals {
		words[i] = string(m)
	}
	if len(words) == 0 {
		return "no meal"
	}
	return strings.Join(words, ", ")
}

// legs draws each day's legs one after the other and gives where each begins and ends.
func (s *sheet) legs(d Days, column float64, days int) (ends [][2]float64) {
	hours := map[int]float64{}
	for _, leg := range d.Trip.Legs {
		hours[leg.Day] += leg.Walking()
	}
	most := walkingHours
	for _, h := range hours {
		most = max(most, h)
	}
	scale := (column - 16) / most
	at := map[int]float64{}
	for i, leg := range d.Trip.Legs {
		x := float64(min(leg.Day, days)-1)*column + 8 + at[leg.Day]
		wide := max(3, leg.Walking()*scale)
		at[leg.Day] += wide
		s.el("rect", "class", "strip-leg", "x", x, "y", legRow, "width", wide, "height", legHeight, "fill",
			"url(#"+hatchID(ByNeed, 0)+")")
		s.text(x+2, legRow-4, "caption", clipped(fmt.Sprintf("%d", i+1), wide+8))
		if leg.Water || leg.Shop {
			s.drop(x+wide, legRow+legHeight+9)
		}
		if wide > 46 {
			s.text(x+wide/2, legRow+legHeight+13, "caption", clipped(d.System.Distance(leg.Km), wide-14), "text-anchor",
				"middle")
		}
		ends = append(ends, [2]float64{x, x + wide})
	}
	return ends
}

// drop is the mark of a source of water.
func (s *sheet) drop(x, y float64) {
	s.el("path", "class", "strip-drop", "d", path("M", x, y-7, "C", x+6, y+1, x+4, y+6, x, y+6, "C", x-4, y+6, x-6, y+1,
		x, y-7, "Z"))
}

// stretches draws what must be carried between the sources.
func (s *sheet) stretches(d Days, ends [][2]float64) {
	thirsty, _ := d.Trip.Thirstiest()
	for _, st := range d.Trip.Stretches() {
		from, to := ends[st.From][0], ends[st.To][1]
		class := "strip-stretch"
		if st == thirsty {
			class += " most"
		}
		s.el("path", "class", class, "d", path("M", from+1, stretchRow-5, "V", stretchRow, "H", to-1, "V", stretchRow-5))
		s.text((from+to)/2, stretchRow+13, "caption", d.System.Drink(st.Litres), "text-anchor", "middle")
	}
	if len(ends) == 0 {
		s.text(8, stretchRow, "caption",
			fmt.Sprintf("No legs yet: %s of water are planned for a day.", d.System.Drink(d.Trip.WaterL())))
	}
}

// nights draws a dark bar between two days for each night.
func (s *sheet) nights(d Days, column float64, days int) {
	for n := range days - 1 {
		x := float64(n+1) * column
		words := fmt.Sprintf("night %d, %s", n+1, d.System.Temperature(d.Trip.NightLowC))
		if n < len(d.Trip.Camps) && d.Trip.Camps[n].Place != "" {
			words = d.Trip.Camps[n].Place
		}
		wide := min(column-10, 116)
		s.el("rect", "class", "strip-night", "x", x-wide/2, "y", nightRow-12, "width", wide, "height", 18, "rx", 9)
		s.text(x, nightRow+1, "strip-night-word", clipped(words, wide-8), "text-anchor", "middle")
	}
}
