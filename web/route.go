package web

import (
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/core/balance"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/trail"
	"tornister/core/unit"
	"tornister/web/draw"
	"tornister/words"
)

// routeView is the step Trip: the form, the days drawn, and what the trip makes necessary.
type routeView struct {
	Strip                          template.HTML
	Pace                           string // of the rule for hours that are not given
	Name, Start, End, Place        field
	Low, High, Rain                field
	Mass, Height, Age, Torso       field
	Grams, Kcal, Efficiency, Drink field
	Season, Ground                 []option
	Legs                           []legRow
	Camps                          []campRow
	Supplies                       []supplyRow
	Provide                        bool
	Warmth                         []string
	Forecast                       forecastView
	School                         string
	Foods                          []option
}

type legRow struct {
	Index, Number               int
	Name, Day, Km, Climb, Hours field
	Water, Shop, Snow           bool
	Worked                      string // hours worked out, effort
}

type campRow struct {
	Index, Number            int
	Place                    field
	Outside, Animals, Locker bool
}

type supplyRow struct {
	Key, Name, Amount, Why string
	State                  string // on, fixed or off
	Words                  string
	Item                   string // id of its line
}

var (
	seasonWords = []option{{Value: "", Label: "not said"}, {Value: "spring", Label: "spring"},
		{Value: "summer", Label: "summer"}, {Value: "autumn", Label: "autumn"}, {Value: "winter", Label: "winter"}}
	groundWords = []option{{Value: "road", Label: "roads"}, {Value: "path", Label: "paths"},
		{Value: "rough", Label: "rough, no path"}, {Value: "scramble", Label: "scrambling"}, {Value: "snow", Label: "snow"},
		{Value: "ski", Label: "on skis"}, {Value: "bog", Label: "bog"}}
)

func (s *Server) showRoute(c *gin.Context) {
	s.show(c, func(t *trip) {
		p := s.routePage(t, settingsOf(c).Units)
		p.Packs, p.Twice = s.packOptions(c, t), t.twice()
		s.render(c, http.StatusOK, p)
	})
}

func (s *Server) routePage(t *trip, system unit.System) page {
	p := t.shell("trip", "Trip")
	tr := &t.task().Trip
	u := unitsOf(system)
	raw, _ := t.Doc["trip"].(map[string]any)
	carrier, _ := raw["carrier"].(map[string]any)
	given := func(object map[string]any, key string, value string) string {
		if object[key] == nil {
			return ""
		}
		return value
	}
	celsius := func(v float64) string {
		if system == unit.Customary {
			return short(unit.Fahrenheit(v))
		}
		return short(v)
	}
	high := ""
	if tr.DayHigh != nil {
		high = celsius(*tr.DayHigh)
	}
	v := &routeView{
		Strip: draw.Strip(draw.Days{Trip: tr, System: system}),
		Name:  field{Name: "name", Label: "Name", Value: tr.Name},
		Place: field{Name: "place", Label: "Where", Value: tr.Place},
		Start: field{Name: "start", Label: "Starts", Value: tr.Start}, End: field{Name: "end", Label: "Ends", Value: tr.End},
		Low: field{Name: "low", Label: coldest(tr), Unit: u.degree,
			Value: given(raw, "night_low_c", celsius(tr.NightLowC))},
		High: field{Name: "high", Label: "Warmest day", Unit: u.degree, Value: high},
		Rain: field{Name: "rain", Label: "Rain on a day", Unit: "in 100",
			Value: given(raw, "rain", short(tr.Rain*100))},
		Mass: field{Name: "mass", Label: "Weighs", Unit: u.body,
			Value: given(carrier, "mass_kg", inUnit(tr.Carrier.MassKg, u.body, unit.Pound/1000))},
		Torso: field{Name: "torso", Label: "Back, neck to hips", Unit: u.length,
			Value: given(carrier, "torso_cm", inUnit(tr.Carrier.TorsoCm, u.length, unit.Inch))},
		Height: field{Name: "height", Label: "Is tall", Unit: u.length,
			Value: given(carrier, "height_cm", inUnit(tr.Carrier.HeightCm, u.length, unit.Inch))},
		Age: field{Name: "age", Label: "Age", Value: given(carrier, "age", strconv.Itoa(tr.Carrier.Age))},
		Grams: field{Name: "grams", Label: "Food a day", Unit: u.mass,
			Value: orEmpty(tr.Eating.GramsADay, u.mass, unit.Ounce)},
		Kcal: field{Name: "kcal", Label: "Energy a day", Unit: "kcal", Value: orEmpty(tr.Eating.KcalADay, "", 1)},
		Efficiency: field{Name: "efficiency", Label: "Stove uses", Unit: "in 100",
			Value: orEmpty(tr.Eating.Efficiency*100, "", 1)},
		Drink: field{Name: "drink", Label: "Drinks an hour", Unit: u.litre,
			Value: orEmpty(tr.Eating.LitresAnHr, u.litre, unit.CubicInch)},
		Season: options(seasonWords, tr.Season), Ground: options(groundWords, tr.Terrain), Provide: tr.Provide,
	}
	if !slices.ContainsFunc(v.Ground, func(o option) bool { return o.Chosen }) {
		v.Ground = append(v.Ground, option{tr.Terrain, tr.Terrain, true})
	}
	v.School, v.Foods = schoolsOf(t, "food")
	v.Pace = fmt.Sprintf("%s an hour, and an hour more for each %s of climb", system.Distance(trail.PaceKmH),
		system.Climb(trail.ClimbMHour))
	if len(tr.Legs) > 0 && tr.Legs[0].Pace > 0 {
		v.Pace += fmt.Sprintf(", %.2f times that at the pace learned of you", tr.Legs[0].Pace)
	}
	for i, leg := range tr.Legs {
		v.Legs = append(v.Legs, newLegRow(i, leg, tr, t, system))
	}
	for n := range tr.Nights {
		camp := trail.Camp{}
		if n < len(tr.Camps) {
			camp = tr.Camps[n]
		}
		v.Camps = append(v.Camps, campRow{n, n + 1,
			field{Name: fmt.Sprintf("camp-%d-place", n), Label: fmt.Sprintf("Night %d at", n+1), Value: camp.Place},
			camp.PackOutside, camp.Animals, camp.FoodLocker})
	}
	for _, supply := range t.bundle.Supplies() {
		v.Supplies = append(v.Supplies, t.supplyRow(supply, system))
	}
	if w := tr.Wanted(); tr.Nights > 0 {
		v.Warmth = []string{fmt.Sprintf("A sleeping bag comfortable at %s or below (EN ISO 23537-1).",
			system.Temperature(w.ComfortC)),
			fmt.Sprintf("Mats of R %.1f together (common practice; R values add up, ASTM F3340).", w.MatR)}
	}
	v.Forecast = s.forecastOf(t, system)
	p.Headline, p.Detail = routeHeadline(t, system)
	p.Body = v
	return p
}

// routeHeadline says what is to be eaten, drunk and burnt.
func routeHeadline(t *trip, system unit.System) (headline, detail string) {
	tr := &t.task().Trip
	n := trail.Count(tr.Meals())
	headline = fmt.Sprintf("%s: %s, %s, %s and one spare meal.", unit.Capital(count(tr.Nights, "night")),
		count(n[trail.Dinner], "dinner"), count(n[trail.Breakfast], "breakfast"), count(n[trail.Lunch], "lunch"))
	if n[trail.Lunch] > 1 {
		headline = strings.Replace(headline, "lunchs", "lunches", 1)
	}
	detail = fmt.Sprintf("Most water at once: %s. %s: %s.", system.Drink(tr.WaterL()), coldest(tr),
		system.Temperature(tr.NightLowC))
	if _, _, ok := tr.Times(); !ok {
		detail = "Start and end are not known yet: the first day is taken to begin before lunch, the last to end after it. " + detail
	}
	return headline, detail
}

// coldest is what the least temperature of a trip is called.
func coldest(tr *trail.Trip) string {
	if tr.Nights == 0 {
		return "Coldest"
	}
	return "Coldest night"
}

// does is the form of a verb after a count.
func does(n int, verb string) string {
	if n == 1 {
		return verb + "s"
	}
	return verb
}

func count(n int, noun string) string {
	numbers := []string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"}
	number := strconv.Itoa(n)
	if n < len(numbers) {
		number = numbers[n]
	}
	if n != 1 {
		noun += "s"
	}
	return number + " " + noun
}

func orEmpty(v float64, unitName string, factor float64) string {
	if v == 0 {
		return ""
	}
	return inUnit(v, unitName, factor)
}

// schoolsOf gives the answers to a question of method, and the name of the one chosen.
func schoolsOf(t *trip, key string) (name string, answers []option) {
	for _, q := range method.Questions {
		if q.Key != key {
			continue
		}
		for _, a := range q.Answers {
			o := option{a, words.School(key, a), a == t.task().Method.Answer(key)}
			if o.Chosen {
				name = o.Label
			}
			answers = append(answers, o)
		}
	}
	return name, answers
}

func newLegRow(i int, leg trail.Leg, tr *trail.Trip, t *trip, system unit.System) legRow {
	u := unitsOf(system)
	name := func(key string) string { return fmt.Sprintf("leg-%d-%s", i, key) }
	row := legRow{Index: i, Number: i + 1, Name: field{Name: name("name"), Label: "Leg", Value: leg.Name},
		Day:   field{Name: name("day"), Label: "Day", Value: strconv.Itoa(leg.Day)},
		Km:    field{Name: name("km"), Label: "Far", Unit: u.distance, Value: inUnit(leg.Km, u.distance, unit.Mile)},
		Climb: field{Name: name("climb"), Label: "Climb", Unit: u.climb, Value: orEmpty(leg.ClimbM, u.climb, unit.Foot/100)},
		Hours: field{Name: name("hours"), Label: "Hours", Value: orEmpty(leg.Hours, "", 1)}, Water: leg.Water,
		Shop: leg.Shop, Snow: leg.Snow}
	row.Worked = fmt.Sprintf("%.1f h", leg.Walking())
	if speed, grade := leg.Speed(); speed > 0 && t.answer.Balance.MassG > 0 && !tr.BodyAssumed {
		row.Worked += fmt.Sprintf(", %.0f W", balance.EffortW(tr.Carrier.MassKg, t.answer.Balance.MassG/1000, speed, grade,
			trail.Roughness(tr.Terrain)))
	}
	return row
}

// supplyRow says whether a supply is on the list, and whether it still follows.
func (t *trip) supplyRow(s trail.Supply, system unit.System) supplyRow {
	row := supplyRow{Key: s.Key, Name: s.Name, Why: words.Say(s.Why, system), State: "off", Words: "not on the list"}
	kind, _ := kit.KindOf(s.Kind)
	if mine, _ := ownSupplies(t.task().Items, kind.Consumable); len(mine) > 0 && kind.Consumable != "" {
		row.Words = "yours instead: " + namesOfItems(mine)
	}
	row.Amount = system.Mass(float64(s.Count) * s.MassG)
	if s.Count > 1 {
		row.Amount = fmt.Sprintf("%d × %s", s.Count, system.Mass(s.MassG))
	}
	for i := range t.task().Items {
		it := &t.task().Items[i]
		if it.Follows != s.Key {
			continue
		}
		row.Item, row.State, row.Words = it.ID, "on", "on the list, follows the trip"
		if it.Fixed {
			row.State, row.Words = "fixed", "yours: "+system.Mass(it.TotalG())
		}
	}
	return row
}
