package web

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/core/days"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
)

// stopsView is the step On the way.
type stopsView struct {
	Picture  template.HTML
	Legend   []draw.Swatch
	Stops    []stopRow
	Chosen   *stopView
	Hardest  []hardestRow
	Switches []switchRow
	Changed  []string // by the what-ifs, in words
	NoLegs   bool
}

type stopRow struct {
	Number                                        int
	Href, Name, Mass, Water, Food, Squeeze, Moves string
	State                                         string
	Chosen                                        bool
	Small                                         template.HTML
}

type stopView struct {
	Name, Verdict, Since string
	Drawing              template.HTML
	Moves                []string
	Checks               []checkView
	Effort               string
	Order                []string
	Swap                 *swapView // nil where nothing can change hands
}

type hardestRow struct{ Check, Words, Href, State string }

type switchRow struct {
	Name, Label string
	On          bool
}

// longestWay is how long a way may take. What is not looked for by then is packed as it comes.
const longestWay = 8 * time.Second

// whatIfOf reads the switches of an address.
func whatIfOf(c *gin.Context) (w days.WhatIf, query url.Values) {
	query = url.Values{}
	for _, on := range c.QueryArray("if") {
		what, leg, _ := strings.Cut(on, "-")
		n, notNumber := strconv.Atoi(leg)
		switch {
		case on == "rain":
			w.Rain = true
		case on == "full":
			w.Full = true
		case on == "companion":
			w.Companion = true
		case on == "night":
			w.Night = true
		case what == "dry" && notNumber == nil:
			w.Dry = append(w.Dry, n)
		case what == "shut" && notNumber == nil:
			w.Shut = append(w.Shut, n)
		default:
			continue
		}
		query.Add("if", on)
	}
	return w, query
}

// way goes through the trip's stops.
func (s *Server) way(c *gin.Context, t *trip, whatIf days.WhatIf, query url.Values) []days.Stop {
	defer s.planner.Wait()()
	return s.ways.of(fmt.Sprintf("%d %d %d %s", t.ID, t.Version, t.stage, query.Encode()), func() []days.Stop {
		return days.Stops(t.task(), whatIf, t.judged, s.planner.Within(longestWay))
	})
}

func (s *Server) showWay(c *gin.Context) { s.wayPage(c, http.StatusOK, nil) }

func (s *Server) wayPage(c *gin.Context, status int, told *notice) {
	s.show(c, func(t *trip) {
		whatIf, query := whatIfOf(c)
		stops := s.way(c, t, whatIf, query)
		chosen, err := strconv.Atoi(c.Query("stop"))
		if err != nil || chosen < 1 || chosen > len(stops) {
			chosen = 1
		}
		p := t.shell("way", "On the way")
		v := &stopsView{NoLegs: len(t.task().Trip.Legs) == 0}
		href := func(stop int) string {
			q := url.Values{"stop": {strconv.Itoa(stop)}, "if": query["if"]}
			return fmt.Sprintf("/trips/%d/way?%s", t.ID, q.Encode())
		}
		var drawn []draw.WayStop
		then := make([]*trip, len(stops))
		for i := range stops {
			then[i] = t.judge(stops[i].Judged, t.system)
			row, picture := t.stopRow(stops, i)
			row.Href, row.Chosen, picture.Chosen = href(i+1), i+1 == chosen, i+1 == chosen
			row.Small = draw.Small(then[i].stopScene(&stops[i]))
			v.Stops, drawn = append(v.Stops, row), append(drawn, picture)
		}
		v.Picture = draw.Way(drawn, t.system)
		for _, part := range draw.WayParts {
			v.Legend = append(v.Legend, draw.HatchSwatch(part.Hatch, part.Name))
		}
		v.Chosen = then[chosen-1].stopView(stops, chosen-1)
		for _, name := range verdict.Names {
			at := days.Hardest(stops, name)
			check := then[at].check(name)
			v.Hardest = append(v.Hardest,
				hardestRow{check.Name, fmt.Sprintf("%s: %s %s", stopName(stops, at), check.Figure, check.Detail), href(at + 1),
					check.State})
		}
		v.Switches = t.switches(whatIf)
		if len(query) > 0 {
			v.Changed = t.changed(s.way(c, t, days.WhatIf{}, url.Values{}), stops)
		}
		p.Headline, p.Detail = t.wayWords(stops)
		p.Body, p.Notice = v, told
		s.render(c, status, p)
	})
}

// stopScene is what there is to draw of a stop; the trip is as it stands there.
func (t *trip) stopScene(stop *days.Stop) draw.Scene {
	scene := t.scene(look{plane: -1}, t.system)
	scene.Pack = &stop.Task.Pack
	return scene
}

// stopName says where and when a stop is.
func stopName(stops []days.Stop, at int) string {
	s := &stops[at]
	switch s.Kind {
	case days.Start:
		return "Start"
	case days.Morning:
		return strings.TrimSuffix(fmt.Sprintf("Morning, day %d, %s", s.Day, s.Place), ", ")
	case days.Evening:
		return strings.TrimSuffix(fmt.Sprintf("Evening, day %d, %s", s.Day, s.Place), ", ")
	}
	if at == len(stops)-1 {
		return "The end"
	}
	return fmt.Sprintf("After leg %d, day %d", s.Leg, s.Day)
}

func (t *trip) stopRow(stops []days.Stop, i int) (stopRow, draw.WayStop) {
	s := &stops[i]
	plan := s.Judged.Plan
	state := string(s.Judged.Check("fit").State)
	row := stopRow{Number: i + 1, Name: stopName(stops, i), Mass: t.system.Mass(s.Judged.Balance.MassG),
		Water: t.system.Volume(s.Have.Water / 1000), Food: t.system.Mass(s.Have.Food),
		Squeeze: fmt.Sprintf("%.0f in 100", 100*plan.Squeeze), Moves: strconv.Itoa(len(s.Moves)), State: state}
	if !plan.Fits() {
		row.Squeeze = fmt.Sprintf("%s out", count(len(plan.LeftOut), "thing"))
	}
	night := i+1 < len(stops) && stops[i+1].Kind == days.Morning
	a := s.Have
	return row, draw.WayStop{Name: row.Name, Parts: []float64{a.Base, a.Food, a.Fuel, a.Water, a.Wet, a.Rubbish},
		Squeeze: plan.Squeeze, Fill: plan.FillCm / max(1, s.Task.Pack.HeightCm()), Fits: plan.Fits(), State: state,
		Night: night}
}

// stopView is the chosen stop, large; the trip is as it stands there.
func (t *trip) stopView(stops []days.Stop, i int) *stopView {
	s := &stops[i]
	v := &stopView{Name: stopName(stops, i), Verdict: t.sentence(), Drawing: draw.Cutaway(t.stopScene(s)).SVG}
	var since []string
	for _, part := range []struct {
		g    float64
		word string
	}{{s.Eaten, "eaten"}, {s.Burned, "of gas burned"}, {s.Drunk, "of water drunk"}, {s.Filled,
		"of water filled"}, {s.Bought, "of food bought"}, {s.Dried, "of wet dried out of the shelter at noon"}} {
		if part.g >= 1 {
			since = append(since, t.system.Mass(part.g)+" "+part.word)
		}
	}
	if len(since) > 0 {
		v.Since = "Since the stop before: " + strings.Join(since, ", ") + "."
	}
	if s.Have.Wet >= 1 {
		v.Since += fmt.Sprintf(" The shelter carries %s of wet.", t.system.Mass(s.Have.Wet))
	}
	for _, part := range []struct {
		ids  []string
		word string
	}{{s.Left, "Left here"}, {s.Taken, "Taken up here"}} {
		if len(part.ids) > 0 {
			v.Since += fmt.Sprintf(" %s: %s.", part.word, t.namesOfIDs(part.ids))
		}
	}
	if s.Hungry > 0 && t.feedsItself(stops) {
		v.Since += fmt.Sprintf(" There was nothing to eat for %s.", count(s.Hungry, "meal"))
	}
	if s.Empty {
		v.Since += fmt.Sprintf(" The water ran out on the way here: %s were lacking.", t.system.Volume(s.Short))
	}
	zones := map[string]string{"": "outside"}
	for j := range s.Task.Pack.Zones {
		zones[s.Task.Pack.Zones[j].ID] = unit.Small(s.Task.Pack.Zones[j].Name)
	}
	names := map[string]string{}
	for j := range s.Task.Items {
		names[s.Task.Items[j].ID] = s.Task.Items[j].Name
	}
	for _, m := range s.Moves {
		v.Moves = append(v.Moves, fmt.Sprintf("%s: from the %s to the %s.", names[m.Item], zones[m.From], zones[m.To]))
	}
	for _, name := range verdict.Names {
		v.Checks = append(v.Checks, t.check(name))
	}
	v.Swap = t.swapView(s, i == len(stops)-1)
	if s.NextW > 0 {
		v.Effort = fmt.Sprintf("The leg from here takes some %.0f W under this load (Pandolf, Givoni and Goldman 1977): to compare legs with, not to plan food.", s.NextW)
	}
	if s.Kind == days.Evening { // the last in comes out first
		placed := s.Judged.Plan.Placed
		for j := len(placed) - 1; j >= 0; j-- {
			if p := &placed[j]; p.Inside == "" && (p.Piece.Use.When == "arrival" || p.Piece.Use.When == "camp") &&
				len(v.Order) < 12 {
				v.Order = append(v.Order, fmt.Sprintf("%s, %s", placementName(p), unit.Small(p.Zone.Name)))
			}
		}
	}
	return v
}

// switches are the what-ifs that this trip has.
func (t *trip) switches(w days.WhatIf) []switchRow {
	list := []switchRow{{"rain", "It rains every day", w.Rain},
		{"companion", "A companion's load is taken over (6 kg, 16 L)", w.Companion},
		{"full", "All vessels are filled at every source", w.Full}}
	if t.task().Trip.Nights > 0 {
		list = append(list, switchRow{"night", "One night more, at the last camp", w.Night})
	}
	for i, leg := range t.task().Trip.Legs {
		if leg.Water && i < len(t.task().Trip.Legs)-1 {
			list = append(list, switchRow{fmt.Sprintf("dry-%d", i+1), "No water after " + legName(leg.Name, i),
				slices.Contains(w.Dry, i+1)})
		}
		if leg.Shop && i < len(t.task().Trip.Legs)-1 {
			list = append(list, switchRow{fmt.Sprintf("shut-%d", i+1), "The shop after " + legName(leg.Name, i) + " is shut",
				slices.Contains(w.Shut, i+1)})
		}
	}
	return list
}

func legName(name string, i int) string {
	if name == "" {
		return fmt.Sprintf("leg %d", i+1)
	}
	return name
}

// sameStop finds the stop of another way that one stands for: the end of the same leg, or the same morning; nil for
// none.
func sameStop(way []days.Stop, s *days.Stop) *days.Stop {
	for i := range way {
		if o := &way[i]; o.Leg == s.Leg && (s.Leg > 0 || o.Kind == s.Kind && o.Day == s.Day) {
			return o
		}
	}
	return nil
}

// changed says what the what-ifs change, stop by stop, as far as it matters.
func (t *trip) changed(before, after []days.Stop) (said []string) {
	for i := range after {
		a, b := sameStop(before, &after[i]), &after[i]
		if a == nil {
			said = append(said, fmt.Sprintf("%s: one stop more, %s on the back.", stopName(after, i),
				t.system.Mass(b.Have.Total())))
			continue
		}
		var words []string
		if d := b.Have.Total() - a.Have.Total(); d >= 100 || d <= -100 { // also what does not go in has to be carried
			words = append(words, signed(t.system.Mass, d))
		}
		if a.Judged.Plan.Fits() && !b.Judged.Plan.Fits() {
			words = append(words, fmt.Sprintf("it does not fit any more: %s out", count(len(b.Judged.Plan.LeftOut), "thing")))
		}
		if b.Empty && !a.Empty {
			words = append(words, fmt.Sprintf("the water runs out on the way: %s lacking", t.system.Volume(b.Short)))
		}
		if n := b.Hungry - a.Hungry; n > 0 && t.feedsItself(before) {
			words = append(words, fmt.Sprintf("nothing to eat for %s", count(n, "meal")))
		}
		if b.Bought-a.Bought >= 1 {
			words = append(words, fmt.Sprintf("%s of food more to buy", t.system.Mass(b.Bought-a.Bought)))
		}
		for _, name := range verdict.Names {
			was, is := a.Judged.Check(name).State, b.Judged.Check(name).State
			if was != is {
				words = append(words, fmt.Sprintf("%s %s instead of %s", name, is, was))
			}
		}
		if len(words) > 0 {
			said = append(said, fmt.Sprintf("%s: %s.", stopName(after, i), strings.Join(words, "; ")))
		}
	}
	if len(said) == 0 {
		said = []string{"Nothing that matters."}
	}
	return said
}

func (t *trip) wayWords(stops []days.Stop) (headline, detail string) {
	first, last := stops[0].Judged.Balance.MassG, stops[len(stops)-1].Judged.Balance.MassG
	out, empty, moves, hungry := 0, 0, 0, 0
	for i := range stops {
		if !stops[i].Judged.Plan.Fits() {
			out++
		}
		if stops[i].Empty {
			empty++
		}
		hungry += stops[i].Hungry
		moves += len(stops[i].Moves)
	}
	headline = fmt.Sprintf("%s on the back at the start, %s at the end.", t.system.Mass(first), t.system.Mass(last))
	if at := days.Hardest(stops, "weight"); stops[at].Judged.Balance.MassG > first+200 {
		headline = fmt.Sprintf("%s on the back at the start, %s at the most, %s at the end.", t.system.Mass(first),
			t.system.Mass(stops[at].Judged.Balance.MassG), t.system.Mass(last))
	}
	switch {
	case empty > 0:
		headline = fmt.Sprintf("The water runs out %s.", timesWord(empty))
	case hungry > 0 && t.feedsItself(stops):
		headline = fmt.Sprintf("There is nothing to eat for %s.", count(hungry, "meal"))
	case out > 0:
		headline = fmt.Sprintf("The pack does not close at %s.", count(out, "stop"))
	}
	detail = fmt.Sprintf("%s, each packed for trial from how it was packed before; %s in all.",
		unit.Capital(count(len(stops), "stop")), count(moves, "move"))
	if len(stops) >= days.MostStops {
		detail += " The rest of the trip is not gone through: a month is as far as it goes."
	}
	return headline, detail
}

// feedsItself reports whether meals that nothing is there for mean something: food is on the list, and nobody else's.
func (t *trip) feedsItself(stops []days.Stop) bool {
	return stops[0].Have.Food > 0 && t.Doc.Party() == nil
}

func timesWord(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}
