package web

import (
	"cmp"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/unit"
)

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
		setList(trip, "legs", withRest(legs, trip["legs"]))
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

// withRest lets legs keep what the form does not show: what is left and taken up where they end.
func withRest(legs []any, before any) []any {
	old, _ := before.([]any)
	for i := range min(len(legs), len(old)) {
		was, _ := old[i].(map[string]any)
		for _, key := range []string{"leaves", "takes"} {
			if was[key] != nil {
				legs[i].(map[string]any)[key] = was[key]
			}
		}
	}
	return legs
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
