package web

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
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
		Low: field{Name: "low", Label: "Coldest night", Unit: u.degree,
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
	w := tr.Wanted()
	v.Warmth = []string{fmt.Sprintf("A sleeping bag comfortable at %s or below (EN ISO 23537-1).",
		system.Temperature(w.ComfortC)),
		fmt.Sprintf("Mats of R %.1f together (common practice; R values add up, ASTM F3340).", w.MatR)}
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
	detail = fmt.Sprintf("Most water at once: %s. Coldest night: %s.", system.Drink(tr.WaterL()),
		system.Temperature(tr.NightLowC))
	if _, _, ok := tr.Times(); !ok {
		detail = "Start and end are not known yet: the first day is taken to begin before lunch, the last to end after it. " + detail
	}
	return headline, detail
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

// changeRoute takes the whole form of the step.
func (s *Server) changeRoute(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	if r.text("name") == "" {
		r.wrong["name"] = "give the trip a name"
	}
	edit := r.route()
	if len(r.wrong) > 0 {
		s.routeAgain(c, r, nil, false)
		return
	}
	s.change(c, "change the trip", func(doc bundle.Doc) error {
		edit(doc)
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) { s.routeAgain(c, r, problems, stale) })
}

// route reads the form and gives the edit it asks for.
func (r *reading) route() func(bundle.Doc) {
	u := unitsOf(r.system)
	type entry struct {
		keys  []string
		value any
	}
	var sets []entry
	set := func(value any, keys ...string) { sets = append(sets, entry{keys, value}) }
	number := func(v float64, ok bool, keys ...string) {
		if ok {
			set(bundle.Number(roundTo(v, 6)), keys...)
		} else {
			set(nil, keys...)
		}
	}
	for _, key := range []string{"name", "place", "season", "start", "end"} {
		var value any
		if text := r.text(key); text != "" {
			value = text
		}
		set(value, key)
	}
	set(cmp.Or(r.text("terrain"), "path"), "terrain")
	low, ok := r.temperature("low")
	number(low, ok, "night_low_c")
	high, ok := r.temperature("high")
	number(high, ok, "day_high_c")
	if r.text("rain") != "" {
		number(r.plain("rain")/100, true, "rain")
	} else {
		number(0, false, "rain")
	}
	mass, ok := r.optional("mass", unit.Mass, u.body)
	number(mass/1000, ok, "carrier", "mass_kg")
	height, ok := r.optional("height", unit.Length, u.length)
	number(height, ok, "carrier", "height_cm")
	torso, ok := r.optional("torso", unit.Length, u.length)
	number(torso, ok, "carrier", "torso_cm")
	if r.text("age") != "" {
		number(r.plain("age"), true, "carrier", "age")
	} else {
		number(0, false, "carrier", "age")
	}
	grams, ok := r.optional("grams", unit.Mass, u.mass)
	number(grams, ok, "eating", "g_per_day")
	kcal := 0.0
	if r.text("kcal") != "" {
		kcal = r.plain("kcal")
	}
	number(kcal, kcal != 0, "eating", "kcal_per_day")
	efficiency := 0.0
	if r.text("efficiency") != "" {
		efficiency = r.plain("efficiency") / 100
	}
	number(efficiency, efficiency != 0, "eating", "stove_efficiency")
	drink, ok := r.optional("drink", unit.Volume, bare(u.litre))
	number(drink, ok, "eating", "water_l_per_hour")
	legs, camps := r.legs(), r.camps()
	provide := r.ticked("provide")
	return func(doc bundle.Doc) {
		trip := doc.Object("trip")
		for _, e := range sets {
			object := trip
			if len(e.keys) > 1 {
				nested, ok := trip[e.keys[0]].(map[string]any)
				if !ok {
					if e.value == nil {
						continue
					}
					nested = map[string]any{}
					trip[e.keys[0]] = nested
				}
				object = nested
			}
			key := e.keys[len(e.keys)-1]
			if e.value == nil {
				delete(object, key)
			} else {
				object[key] = e.value
			}
		}
		if trip["start"] != nil && trip["end"] != nil { // they decide
			delete(trip, "days")
			delete(trip, "nights")
		}
		setList(trip, "legs", legs)
		setList(trip, "camps", camps)
		if len(camps) > 0 {
			delete(trip, "pack_outside_at_night")
		}
		trip["provide"] = provide
		if !provide {
			delete(trip, "provide")
		}
	}
}

func setList(object map[string]any, key string, list []any) {
	if len(list) == 0 {
		delete(object, key)
		return
	}
	object[key] = list
}

func roundTo(v float64, decimals int) float64 {
	text := strconv.FormatFloat(v, 'f', decimals, 64)
	v, _ = strconv.ParseFloat(text, 64)
	return v
}

// mostRows bounds the legs and camps of a form.
const mostRows = 60

func (r *reading) legs() []any {
	u := unitsOf(r.system)
	var legs []any
	for i := range mostRows {
		name := func(key string) string { return fmt.Sprintf("leg-%d-%s", i, key) }
		if _, given := r.c.GetPostForm(name("day")); !given {
			break
		}
		leg := map[string]any{"day": bundle.Number(r.plain(name("day")))}
		if text := r.text(name("name")); text != "" {
			leg["name"] = text
		}
		if km, ok := r.optional(name("km"), unit.Distance, u.distance); ok {
			leg["km"] = bundle.Number(roundTo(km, 4))
		}
		if climb, ok := r.optional(name("climb"), unit.Length, u.climb); ok && climb > 0 {
			leg["climb_m"] = bundle.Number(roundTo(climb/100, 2))
		}
		if r.text(name("hours")) != "" {
			leg["hours"] = bundle.Number(r.plain(name("hours")))
		}
		for _, key := range []string{"water", "shop", "snow"} {
			if r.ticked(name(key)) {
				leg[key] = true
			}
		}
		legs = append(legs, leg)
	}
	return legs
}

func (r *reading) camps() []any {
	var camps []any
	said := false
	for i := range mostRows {
		name := func(key string) string { return fmt.Sprintf("camp-%d-%s", i, key) }
		if _, given := r.c.GetPostForm(name("place")); !given {
			break
		}
		camp := map[string]any{}
		if text := r.text(name("place")); text != "" {
			camp["place"] = text
		}
		for _, key := range []string{"pack_outside", "animals", "food_locker"} {
			if r.ticked(name(key)) {
				camp[key] = true
			}
		}
		said = said || len(camp) > 0
		camps = append(camps, camp)
	}
	if !said {
		return nil
	}
	return camps
}

// routeAgain shows the step after a refusal with what was entered and each message at its field.
func (s *Server) routeAgain(c *gin.Context, r *reading, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		p := s.routePage(t, r.system)
		v := p.Body.(*routeView)
		messages := r.wrong
		for _, problem := range problems {
			if name := routeField(problem.Pointer); name != "" {
				messages[name] = problem.What + "; " + problem.Mend
			} else {
				p.Notice = &notice{Kind: "wrong", Text: "Not saved: " + problem.What + "; " + problem.Mend + "."}
			}
		}
		fields := []*field{&v.Name, &v.Place, &v.Start, &v.End, &v.Low, &v.High, &v.Rain, &v.Mass, &v.Height, &v.Age,
			&v.Torso, &v.Grams, &v.Kcal, &v.Efficiency, &v.Drink}
		for i := range v.Legs {
			l := &v.Legs[i]
			fields = append(fields, &l.Name, &l.Day, &l.Km, &l.Climb, &l.Hours)
		}
		for i := range v.Camps {
			fields = append(fields, &v.Camps[i].Place)
		}
		for _, f := range fields {
			if value, given := c.GetPostForm(f.Name); given {
				f.Value = value
			}
			f.Error = messages[f.Name]
		}
		status := http.StatusUnprocessableEntity
		if p.Notice == nil {
			p.Notice = &notice{Kind: "wrong",
				Text: "Not saved yet: something in the form cannot be right. Everything you entered is still in it."}
		}
		if stale {
			status, p.Notice = http.StatusConflict, staleNotice()
		}
		p.Here = localPath(c.PostForm("return"), "/")
		s.render(c, status, p)
	})
}

// routeField names the form field of a place in the trip's object.
func routeField(pointer string) string {
	rest, ok := strings.CutPrefix(pointer, "/trip/")
	if !ok {
		return ""
	}
	known := map[string]string{"start": "start", "end": "end", "name": "name", "place": "place", "night_low_c": "low",
		"day_high_c": "high", "rain": "rain",
		"carrier/mass_kg": "mass", "carrier/height_cm": "height", "carrier/torso_cm": "torso", "carrier/age": "age",
		"eating/g_per_day": "grams", "eating/kcal_per_day": "kcal",
		"eating/stove_efficiency": "efficiency", "eating/water_l_per_hour": "drink"}
	if name := known[rest]; name != "" {
		return name
	}
	parts := strings.Split(rest, "/")
	if len(parts) == 3 && parts[0] == "legs" {
		key := map[string]string{"climb_m": "climb"}[parts[2]]
		return "leg-" + parts[1] + "-" + cmp.Or(key, parts[2])
	}
	return ""
}

// addLeg puts a leg behind the others, on the day after the last.
func (s *Server) addLeg(c *gin.Context) {
	s.change(c, "add a leg", func(doc bundle.Doc) error {
		trip := doc.Object("trip")
		legs, _ := trip["legs"].([]any)
		day := 1.0
		b, err := bundle.FromDoc(doc)
		if err != nil {
			return err
		}
		if n := len(b.Task.Trip.Legs); n > 0 {
			day = float64(min(b.Task.Trip.Legs[n-1].Day+1, b.Task.Trip.Days))
		}
		trip["legs"] = append(slices.Clone(legs),
			map[string]any{"day": bundle.Number(day), "km": bundle.Number(10), "water": true})
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) {
		s.routeAgain(c, readForm(c, settingsOf(c).Units), problems, stale)
	})
}

func (s *Server) removeLeg(c *gin.Context) {
	n, _ := strconv.Atoi(c.Param("leg"))
	s.change(c, fmt.Sprintf("remove leg %d", n), func(doc bundle.Doc) error {
		trip := doc.Object("trip")
		if legs, ok := trip["legs"].([]any); ok && n >= 1 && n <= len(legs) {
			setList(trip, "legs", slices.Delete(slices.Clone(legs), n-1, n))
		}
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) {
		s.routeAgain(c, readForm(c, settingsOf(c).Units), problems, stale)
	})
}

// supply puts a supply on the list, takes it off, or lets its line follow the trip again.
func (s *Server) supply(c *gin.Context) {
	key, want := c.PostForm("key"), c.PostForm("want")
	s.change(c, map[string]string{"off": "take off the list", "on": "put on the list",
		"follow": "follow the trip again"}[want], func(doc bundle.Doc) error {
		trip := doc.Object("trip")
		var without []any
		old, _ := trip["without"].([]any)
		for _, k := range old {
			if k != key {
				without = append(without, k)
			}
		}
		for _, item := range doc.List("items") {
			if item["follows"] != key {
				continue
			}
			delete(item, "fixed")
			if want == "off" {
				without = append(without, key)
				if err := doc.RemoveItem(item["id"].(string)); err != nil {
					return err
				}
			}
		}
		setList(trip, "without", without)
		if want == "on" {
			trip["provide"] = true
		}
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) {
		s.routeAgain(c, readForm(c, settingsOf(c).Units), problems, stale)
	})
}
