package web

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/stuff"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
	"tornister/words"
)

// rehearseView is the step Rehearse: the drills with their results, and the one that is played.
type rehearseView struct {
	Drills  []drillRow
	Drill   *drillView
	Own     ownDrillForm
	Settled int
}

type drillRow struct {
	Href, Name, Figure, State string
	Chosen                    bool
}

// drillView is one drill, at one moment of it.
type drillView struct {
	ID, Name, Story       string
	Drawing               template.HTML
	Clock, Now            string
	At, Acts              int
	Before, Next, Start   string
	Whole                 string
	Ground                []groundRow
	Hand                  []string
	State, Verdict, Limit string
	Wet                   []string
	Told                  string
	Suggestions           []suggestion
	Trial                 *placeTrial
	Searched              bool
	Suggest               string // address that looks for suggestions, "" when they are shown
	Timed                 string
	Mine                  bool
}

type groundRow struct {
	Name string
	Wet  bool
}

// suggestion is a thing put elsewhere, and what that does to the drill.
type suggestion struct {
	Item, Zone, Text string
	Try              string // address that shows its effect on all checks
	Piece            int
	Key              bool
}

type ownDrillForm struct {
	Name, Limit field
	Items       []option
	Rain        bool
	Error       string
}

// expected is what a drill takes this packer: the estimate, moved by real times.
func (t *trip) expected(r *reach.Result) reach.Timed {
	return reach.WithTimes(r.InHandS, t.Doc.Times()[r.Drill.ID])
}

// stands says how a drill stands.
func (t *trip) stands(r *reach.Result, lies []reach.Lie) (state, figure string) {
	timed := t.expected(r)
	switch {
	case r.Missing:
		return "stop", "nothing for it"
	case r.Drill.NoneWet && len(r.Soaked) > 0:
		return "stop", fmt.Sprintf("%.0f s, %s %s wet", timed.EstimateS, count(len(r.Soaked), "dry thing"),
			does(len(r.Soaked), "get"))
	case r.Drill.Told && !r.Found(lies):
		return "look", fmt.Sprintf("%.0f s, hard to find", timed.EstimateS)
	case timed.EstimateS > 2*r.Drill.LimitS:
		return "stop", fmt.Sprintf("%.0f s of %.0f", timed.EstimateS, r.Drill.LimitS)
	case timed.EstimateS > r.Drill.LimitS:
		return "look", fmt.Sprintf("%.0f s of %.0f", timed.EstimateS, r.Drill.LimitS)
	}
	return "settled", fmt.Sprintf("%.0f s of %.0f", timed.EstimateS, r.Drill.LimitS)
}

// rehearsed says how the step stands.
func (t *trip) rehearsed() (state, word string) {
	results := verdict.Rehearsed(t.task(), t.plan, t.Doc.OwnDrills())
	lies, _ := verdict.Lies(t.task(), t.plan)
	state = "settled"
	good := 0
	for i := range results {
		switch now, _ := t.stands(&results[i], lies); now {
		case "settled":
			good++
		case "stop":
			state = "stop"
		default:
			if state != "stop" {
				state = "look"
			}
		}
	}
	return state, fmt.Sprintf("%d of %d drills", good, len(results))
}

func (s *Server) showRehearse(c *gin.Context) {
	s.show(c, func(t *trip) { s.renderRehearse(c, t, http.StatusOK, nil, nil) })
}

func (s *Server) renderRehearse(c *gin.Context, t *trip, status int, told *notice, form *ownDrillForm) {
	system := settingsOf(c).Units
	p := t.shell("rehearse", "Rehearse")
	results := verdict.Rehearsed(t.task(), t.plan, t.Doc.OwnDrills())
	lies, _ := verdict.Lies(t.task(), t.plan)
	v := &rehearseView{Own: newOwnDrillForm(t)}
	if form != nil {
		v.Own = *form
	}
	chosen := max(0, slices.IndexFunc(results, func(r reach.Result) bool { return r.Drill.ID == c.Query("drill") }))
	base := fmt.Sprintf("/trips/%d/rehearse", t.ID)
	for i := range results {
		row := drillRow{Href: base + "?drill=" + url.QueryEscape(results[i].Drill.ID),
			Name: words.Drill(results[i].Drill).Name, Chosen: i == chosen}
		row.State, row.Figure = t.stands(&results[i], lies)
		if row.State == "settled" {
			v.Settled++
		}
		v.Drills = append(v.Drills, row)
	}
	if len(results) > 0 {
		v.Drill = s.drill(c, t, &results[chosen], lies, system)
	}
	p.Headline = fmt.Sprintf("%d of %d drills go as they should.", v.Settled, len(results))
	p.Detail = "Seconds are our estimates until you time yourself; limits are ours too. They compare ways of packing."
	p.Notice, p.Body = told, v
	s.render(c, status, p)
}

// drill is the drill that is played, at the moment that the address names.
func (s *Server) drill(c *gin.Context, t *trip, r *reach.Result, lies []reach.Lie, system unit.System) *drillView {
	d := r.Drill
	base := fmt.Sprintf("/trips/%d/rehearse?drill=%s", t.ID, url.QueryEscape(d.ID))
	at, _ := strconv.Atoi(c.Query("at"))
	at = min(max(at, 0), len(r.Acts))
	told := words.Drill(d)
	v := &drillView{ID: d.ID, Name: told.Name, Story: cmp.Or(told.Words, "A drill of your own."), At: at,
		Acts: len(r.Acts), Whole: base, Limit: fmt.Sprintf("%.0f s", d.LimitS), Mine: d.Wants == nil}
	if len(r.Acts) > 0 {
		v.Start = base + "&at=1"
	}
	if at > 1 {
		v.Before = fmt.Sprintf("%s&at=%d", base, at-1)
	}
	if at > 0 && at < len(r.Acts) {
		v.Next = fmt.Sprintf("%s&at=%d", base, at+1)
	}
	gone := map[kit.Piece]bool{}
	view, plane := draw.FromSide, -1.0
	if at > 0 {
		act := r.Acts[at-1]
		v.Clock, v.Now = fmt.Sprintf("%.0f s", act.At), unit.Capital(words.Say(act.What, system))
		soaked := map[kit.Piece]bool{}
		for _, l := range lies {
			soaked[l.Piece] = l.Spoils && d.Rain
		}
		for _, piece := range act.Out {
			gone[piece] = true
			v.Ground = append(v.Ground, groundRow{piece.Name, soaked[piece]})
		}
		for _, piece := range act.InHand {
			gone[piece] = true
			v.Hand = append(v.Hand, piece.Name)
		}
		if act.Zone != nil && (act.Zone.Kind == rucksack.Side || act.Zone.Kind == rucksack.Hip ||
			act.Zone.Kind == rucksack.Long || act.Zone.Kind == rucksack.Shoulder) {
			view = draw.FromBehind
		}
	}
	focus := ""
	if len(r.Wanted) > 0 {
		focus = r.Wanted[0].ID
	}
	v.Drawing = draw.Cutaway(draw.Scene{Pack: &t.task().Pack, Plan: without(t.plan, gone), Hidden: gone, Chosen: focus,
		View: view, Plane: plane, System: system, Name: t.placedName}).SVG
	v.State, v.Verdict = t.stands(r, lies)
	if !r.Missing {
		v.Verdict = fmt.Sprintf("In hand after %.0f s, shut again after %.0f s; %s lifted out.", r.InHandS, r.ShutS,
			words.Things(len(r.Lifted)))
		if len(r.Wanted) == 0 {
			v.Verdict = "On the body: nothing to be opened."
		}
	} else {
		v.Verdict = "Nothing with the walker does it."
	}
	for _, w := range r.Soaked {
		v.Wet = append(v.Wet, fmt.Sprintf("%s lies in the rain for %.0f s and must stay dry", w.Piece.Name, w.For))
	}
	if d.Told && !r.Missing && len(r.Wanted) > 0 {
		where := strings.ToLower(words.Say(r.Where, system))
		v.Told = fmt.Sprintf("Told as “%s”, a companion finds it.", where)
		if !r.Found(lies) {
			v.Told = fmt.Sprintf("Told as “%s”, a companion does not find it in five words.", where)
		}
	}
	timed := t.expected(r)
	if timed.N > 0 {
		v.Timed = fmt.Sprintf("%s: %.0f s in the mean, give or take %.0f s. Expected now: %.0f s (the estimate of %.0f s counts as two times).", unit.Capital(count(timed.N, "real time")), timed.MeanS, timed.SdS, timed.EstimateS, r.InHandS)
	}
	if len(r.Wanted) > 0 {
		v.Suggest = base + "&suggest=1"
		v.Trial = t.tried(c.Query("put"), system, s.planner.Quickly())
		if c.Query("suggest") != "" {
			v.Suggestions, v.Searched = t.suggest(r, s.planner.Quickly()), true
			for i := range v.Suggestions {
				g := &v.Suggestions[i]
				g.Try = base + "&put=" + url.QueryEscape(g.Item+"@"+g.Zone)
			}
			v.Suggest = ""
		}
	}
	return v
}

// placedName is what a thing is called in drawings.
func (t *trip) placedName(p *load.Placement) string {
	if p.Piece.Count > 1 {
		return fmt.Sprintf("%s, %d", p.Piece.Name, p.Piece.Number)
	}
	return p.Piece.Name
}

// without is a plan whose cells are air where things are out of the pack.
func without(plan *load.Plan, gone map[kit.Piece]bool) *load.Plan {
	if len(gone) == 0 {
		return plan
	}
	hidden := map[int16]bool{}
	for i := range plan.Placed {
		if p := &plan.Placed[i]; gone[p.Piece] && p.Owner >= 0 {
			hidden[p.Owner] = true
		}
	}
	now, cells := *plan, *plan.Cells
	cells.Owner = slices.Clone(plan.Cells.Owner)
	for i, owner := range cells.Owner {
		if hidden[owner] {
			cells.Owner[i] = stuff.Air
		}
	}
	now.Cells = &cells
	now.Hollows = nil // they were those of the full pack
	return &now
}

// placeTrial is a thing put elsewhere and what that does to all checks.
type placeTrial struct {
	Item, Zone, Text string
	Effect           *trialView
}

// tried tries the place that an address names, item@zone; nil for none.
func (t *trip) tried(put string, system unit.System, options load.Options) *placeTrial {
	item, zone, _ := strings.Cut(put, "@")
	i, z := t.index(item), t.task().Pack.Zone(zone)
	if i < 0 || z == nil {
		return nil
	}
	name := t.task().Items[i].Name
	return &placeTrial{item, zone, fmt.Sprintf("%s in the %s", name, unit.Small(z.Name)),
		t.sideBySide(t.pinned(item, zone), options, system)}
}

// pinned is the task with a thing pinned to a zone.
func (t *trip) pinned(item, zone string) *job.Task {
	task := *t.task()
	task.Pins = append(slices.DeleteFunc(slices.Clone(task.Pins), func(p job.Pin) bool { return p.Item == item }),
		job.Pin{Item: item, Zone: zone})
	return &task
}

// mostSuggestions bounds the search: each is a plan of its own.
const mostSuggestions = 14

// suggest pins each wanted thing to each other zone in turn, plans, runs the drill again and keeps what makes it
// quicker, the best first.
func (t *trip) suggest(r *reach.Result, options load.Options) []suggestion {
	type better struct {
		suggestion
		seconds float64
	}
	own := t.Doc.OwnDrills()
	find := func(results []reach.Result) *reach.Result {
		for i := range results {
			if results[i].Drill.ID == r.Drill.ID {
				return &results[i]
			}
		}
		return nil
	}
	now := r.InHandS
	var found []better
	tried := 0
	for _, piece := range r.Wanted {
		for i := range t.task().Pack.Zones {
			z := &t.task().Pack.Zones[i]
			if tried > 0 && options.Stop != nil && options.Stop() {
				tried = mostSuggestions
			}
			if z.Kind == rucksack.Straps || z.Kind == rucksack.Sleeve || z.Kind == rucksack.Bottom || tried >= mostSuggestions {
				continue
			}
			tried++
			task := t.pinned(piece.ID, z.ID)
			plan := load.Make(task, options)
			if len(plan.LeftOut) > len(t.plan.LeftOut) {
				continue
			}
			after := find(verdict.Rehearsed(task, plan, own))
			if after == nil || after.InHandS > now-2 || len(after.Soaked) > len(r.Soaked) {
				continue
			}
			text := fmt.Sprintf("%s in the %s: %.0f s → %.0f s", piece.Name, unit.Small(z.Name), now, after.InHandS)
			found = append(found, better{suggestion{Item: piece.ID, Zone: z.ID, Text: text}, after.InHandS})
		}
	}
	slices.SortStableFunc(found, func(a, b better) int { return int(1000 * (a.seconds - b.seconds)) })
	var list []suggestion
	for _, b := range found[:min(4, len(found))] {
		b.Key = len(list) == 0
		list = append(list, b.suggestion)
	}
	return list
}

func newOwnDrillForm(t *trip) ownDrillForm {
	f := ownDrillForm{Name: field{Name: "name", Label: "What happens"},
		Limit: field{Name: "limit", Label: "Limit", Unit: "s", Value: "60"}}
	for i := range t.task().Items {
		if it := &t.task().Items[i]; it.Carry != kit.Left {
			f.Items = append(f.Items, option{it.ID, it.Name, false})
		}
	}
	return f
}

// addDrill keeps a drill of the packer's own.
func (s *Server) addDrill(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	name, items := r.text("name"), c.PostFormArray("items")
	if name == "" {
		r.wrong["name"] = "say what happens"
	}
	limit := r.plain("limit")
	problem := ""
	if len(items) == 0 {
		problem = "Choose at least one thing that is wanted."
	}
	again := func(status int, told *notice) {
		s.show(c, func(t *trip) {
			f := newOwnDrillForm(t)
			f.Name.Value, f.Limit.Value, f.Rain, f.Error = c.PostForm("name"), c.PostForm("limit"), r.ticked("rain"), problem
			f.Name.Error, f.Limit.Error = r.wrong["name"], r.wrong["limit"]
			for i := range f.Items {
				f.Items[i].Chosen = slices.Contains(items, f.Items[i].Value)
			}
			s.renderRehearse(c, t, status, told, &f)
		})
	}
	if len(r.wrong) > 0 || problem != "" {
		again(http.StatusUnprocessableEntity, nil)
		return
	}
	s.change(c, "a drill: "+name, func(doc bundle.Doc) error {
		return doc.AddDrill(bundle.Drill{Name: name, Items: items, LimitS: limit, Rain: r.ticked("rain")})
	}, func(problems bundle.Problems, stale bool) {
		if stale {
			again(http.StatusConflict, staleNotice())
			return
		}
		again(http.StatusUnprocessableEntity,
			&notice{Kind: "wrong", Text: "Not kept: " + problems[0].What + "; " + problems[0].Mend + "."})
	})
}

func (s *Server) removeDrill(c *gin.Context) {
	id := c.Param("drill")
	s.change(c, "a drill less", func(doc bundle.Doc) error {
		return doc.RemoveDrill(id)
	}, s.rehearseAgain(c))
}

func (s *Server) rehearseAgain(c *gin.Context) func(bundle.Problems, bool) {
	return func(problems bundle.Problems, stale bool) {
		s.show(c, func(t *trip) {
			told, status := staleNotice(), http.StatusConflict
			for _, p := range problems {
				told, status = &notice{Kind: "wrong",
					Text: "Not done: " + p.What + "; " + p.Mend + "."}, http.StatusUnprocessableEntity
			}
			s.renderRehearse(c, t, status, told, nil)
		})
	}
}

// addTime keeps a real time of a drill, or forgets all of them.
func (s *Server) addTime(c *gin.Context) {
	id := c.Param("drill")
	r := readForm(c, settingsOf(c).Units)
	forget := r.ticked("forget")
	var seconds float64
	if !forget {
		seconds = r.plain("seconds")
		if len(r.wrong) > 0 || seconds <= 0 || seconds > 3600 {
			s.show(c, func(t *trip) {
				s.renderRehearse(c, t, http.StatusUnprocessableEntity,
					&notice{Kind: "wrong", Text: fmt.Sprintf("%q is no time of a drill: give seconds, from 1 to 3600.",
						c.PostForm("seconds"))}, nil)
			})
			return
		}
	}
	s.change(c, "a real time", func(doc bundle.Doc) error {
		if forget {
			return doc.ForgetTimes(id)
		}
		return doc.AddTime(id, roundTo(seconds, 1))
	}, s.rehearseAgain(c))
}
