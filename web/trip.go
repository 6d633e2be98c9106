package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/answer"
	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/planner"
	"tornister/store"
	"tornister/words"
)

// trip is a trip with its plan, ready to be shown.
type trip struct {
	*store.State
	bundle *bundle.Bundle
	judged *verdict.Judged
	plan   *load.Plan     // the one that is judged
	answer *answer.Answer // in the reader's units
	system unit.System    // these
	job    *planner.Job[tripRead]
	stage  planner.Stage // how far the search for a better plan has come
	scale  *bundle.Weighed
}

func (t *trip) task() *job.Task { return &t.bundle.Task }

// index finds an item's place in the kit list by id, -1 when it is not there.
func (t *trip) index(id string) int {
	for i := range t.task().Items {
		if t.task().Items[i].ID == id {
			return i
		}
	}
	return -1
}

// trip reads the trip that the address names, with the best plan there is of it by now.
func (s *Server) trip(c *gin.Context) (*trip, error) {
	id, err := tripID(c)
	if err != nil {
		return nil, err
	}
	t, err := s.planned(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	return t.in(settingsOf(c).Units), nil
}

// in is the trip with its sentences in a system of units.
func (t *trip) in(system unit.System) *trip {
	if system == t.system {
		return t
	}
	return t.judge(t.judged, system)
}

// judge is the trip with a judged plan, told in a system of units.
func (t *trip) judge(judged *verdict.Judged, system unit.System) *trip {
	other := *t
	other.judged, other.plan, other.system = judged, judged.Plan, system
	other.answer = answer.Of(judged, t.bundle.Assumed, system)
	return &other
}

func (t *trip) units() unit.System { return t.system }

// searching reports whether more is still to come.
func (t *trip) searching() bool { return t.stage != planner.Ended }

// unfinished reports whether a first answer was cut short before everything was in: it may still go in.
func (t *trip) unfinished() bool {
	return t.stage == planner.First && t.plan.CutShort && !t.plan.Fits()
}

// sentence is the verdict in words.
func (t *trip) sentence() string {
	if t.unfinished() {
		return "Not everything is in yet; it is being packed further."
	}
	return answer.Sentence(t.answer.Verdict, len(t.answer.LeftOut), t.system)
}

// planned gives a trip with its plan: the thorough one when it is done, else a quick one, and then sees to it that
// the thorough one is being looked for.
func (s *Server) planned(ctx context.Context, id uint) (*trip, error) {
	version, err := s.store.Version(ctx, id)
	if err != nil {
		return nil, err
	}
	job := s.planner.Known(id, version)
	if job == nil {
		state, err := s.store.Trip(ctx, id)
		if err != nil {
			return nil, err
		}
		b, err := bundle.FromDoc(state.Doc)
		if err != nil {
			return nil, &brokenTrip{state, err}
		}
		job = s.planner.Begin(id, state.Version, &b.Task, tripRead{state, b})
	}
	t := &trip{State: job.About.State, bundle: job.About.bundle, job: job}
	judged, stage := job.Best()
	if judged == nil {
		return nil, errors.New("the plan of this trip failed; what you entered is kept")
	}
	t.stage = stage
	return t.judge(judged, unit.Metric), nil
}

// tripRead is a trip as it was read for planning.
type tripRead struct {
	*store.State
	bundle *bundle.Bundle
}

// brokenTrip is a trip whose document does not pass the checks any more: it can be taken out, mended and brought in
// again.
type brokenTrip struct {
	*store.State
	problems error
}

// lines say what is wrong, naming things and zones as the packer does.
func (b *brokenTrip) lines() (list []string) {
	var problems bundle.Problems
	if !errors.As(b.problems, &problems) {
		return []string{sentence(b.problems.Error())}
	}
	for _, p := range problems {
		list = append(list, fmt.Sprintf("%s: %s. %s.", b.Doc.Place(p.Pointer), p.What, unit.Capital(p.Mend)))
	}
	return list
}

func (b *brokenTrip) Error() string { return b.problems.Error() }

func (b *brokenTrip) Unwrap() error { return b.problems }

func tripID(c *gin.Context) (uint, error) {
	id, err := strconv.ParseUint(c.Param("trip"), 10, 32)
	if err != nil || id == 0 {
		return 0, store.ErrNotFound
	}
	return uint(id), nil
}

// show runs a page of a trip, with the errors that all of them share.
func (s *Server) show(c *gin.Context, page func(*trip)) {
	t, err := s.trip(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	page(t)
}

// brokenView shows a trip that does not pass the checks any more.
type brokenView struct {
	ID      uint
	Version int
	Undo    string
	Lines   []string
}

// refuse answers an error that no form can show.
func (s *Server) refuse(c *gin.Context, err error) {
	if broken := new(brokenTrip); errors.As(err, &broken) {
		name := bundle.Plain(broken.Doc.Name())
		s.render(c, http.StatusUnprocessableEntity,
			page{Title: name, Name: "broken", Headline: fmt.Sprintf("%s cannot be packed as it stands.", name),
				Detail: "It was kept by an older program, or says something that cannot be. Nothing of it is lost.", Here: "/",
				Body: &brokenView{broken.ID, broken.Version, broken.Undo, broken.lines()}})
		return
	}
	if !errors.Is(err, store.ErrNotFound) && !errors.As(err, new(bundle.Problems)) {
		_ = c.Error(err)
	}
	status := http.StatusInternalServerError
	tooLarge := new(http.MaxBytesError)
	switch {
	case errors.Is(err, store.ErrNotFound):
		status = http.StatusNotFound
	case errors.As(err, &tooLarge):
		status = http.StatusRequestEntityTooLarge
	case errors.As(err, new(bundle.Problems)):
		status = http.StatusUnprocessableEntity
	case errors.Is(err, store.ErrBusy), errors.Is(err, store.ErrReplaced), errors.Is(err, store.ErrReadOnly):
		status = http.StatusServiceUnavailable
	case errors.Is(err, store.ErrFull):
		status = http.StatusInsufficientStorage
	}
	s.fail(c, status, err)
}

// pageOf is the page on which the form of an address that only takes forms stands.
func pageOf(path string) string {
	part := strings.Split(strings.Trim(path, "/"), "/")
	home := "/"
	switch {
	case part[0] == "trips" && len(part) > 2:
		step := map[string]string{"items": "layout", "bulk": "layout", "twice": "layout", "list": "layout",
			"shelve": "layout", "legs": "trip", "supplies": "trip", "forecast": "trip",
			"drills": "rehearse", "bags": "dry", "weighings": "weigh", "back": "back", "masses": "weigh", "tare": "weigh",
			"seen": "weigh", "way": "way", "pack": "shrink", "party": "party", "check": "check"}[part[2]]
		home = "/trips/" + part[1] + "/" + cmp.Or(step, "load")
		if part[2] == "items" && len(part) > 3 {
			home += "?" + url.Values{"item": {part[3]}}.Encode()
		}
	case part[0] == "packs" && len(part) > 3 && part[2] == "zones":
		home = "/packs/" + part[1] + "?" + url.Values{"zone": {part[3]}}.Encode()
	case (part[0] == "packs" || part[0] == "shelf") && len(part) > 2:
		home = "/" + part[0] + "/" + part[1]
	case part[0] == "shelf":
		home = "/shelf"
	case part[0] == "stock":
		home = "/stock"
	case part[0] == "practice":
		home = "/practice"
	}
	return home
}

// onlyForms answers somebody who asks to see an address that only takes forms, as a reload does after a refusal.
func (s *Server) onlyForms(c *gin.Context) {
	if c.Request.Method != http.MethodGet {
		s.missing(c)
		return
	}
	c.Redirect(http.StatusSeeOther, pageOf(c.Request.URL.Path))
}

func (s *Server) missing(c *gin.Context) {
	s.fail(c, http.StatusNotFound, fmt.Errorf("no page %s", c.Request.URL.Path))
}

// tripView is the trip in the shell.
type tripView struct {
	ID         uint
	Version    int
	Name       string
	Undo, Redo string
	Things     []string // names, to find one by
	Bearers    []option // of its party, the one whose pack is on the floor chosen
}

// stepView is a step of the road.
type stepView struct {
	Number  int
	Name    string
	Href    string // "" for a step that does not exist yet
	State   string
	Word    string
	Current bool
}

// checkView is one of the six checks in the strip.
type checkView struct {
	Name, State, Figure, Detail string
	Findings                    []string
}

// steps of the road; those without a page have no path.
var steps = []struct{ name, path string }{
	{"Trip", "trip"}, {"Lay out", "layout"}, {"Shrink", "shrink"}, {"Keep dry", "dry"}, {"Load", "load"},
	{"Rehearse", "rehearse"}, {"Weigh in", "weigh"}, {"On the way", "way"}, {"Look back", "back"},
}

// shell fills what is around every page of a trip.
func (t *trip) shell(name, title string) page {
	p := page{Title: title + " · " + t.Doc.Name(), Name: name, Searching: t.searching(), Better: t.stage == planner.Better,
		Trip: &tripView{ID: t.ID, Version: t.Version, Name: t.Doc.Name(), Undo: t.Undo, Redo: t.Redo,
			Things: namesOnList(t.task().Items)}}
	if group := t.Doc.Party(); group != nil {
		for i := range group.Bearers {
			p.Trip.Bearers = append(p.Trip.Bearers,
				option{group.Bearers[i].ID, group.Bearers[i].Name, group.Bearers[i].ID == group.Now})
		}
	}
	for i, step := range steps {
		v := stepView{Number: i + 1, Name: step.name, Word: "not built yet", Current: step.path == name}
		if step.path != "" {
			v.Href = fmt.Sprintf("/trips/%d/%s", t.ID, step.path)
			v.State, v.Word = t.stepState(step.path)
		}
		p.Road = append(p.Road, v)
	}
	for _, name := range verdict.Names {
		p.Checks = append(p.Checks, t.check(name))
	}
	return p
}

// stepState says how a step stands.
func (t *trip) stepState(step string) (state, word string) {
	if step == "trip" {
		if _, _, ok := t.task().Trip.Times(); !ok {
			return "look", "no dates yet"
		}
		return "settled", count(t.task().Trip.Days, "day") + ", " + count(t.task().Trip.Nights, "night")
	}
	if step == "rehearse" {
		return t.rehearsed()
	}
	if step == "weigh" {
		return t.weighed()
	}
	if step == "back" {
		return t.lookedBack()
	}
	if step == "way" {
		return "", count(len(t.task().Trip.Legs), "leg")
	}
	if step == "dry" {
		check := t.check("dry")
		return check.State, check.Figure
	}
	if step == "shrink" {
		if t.plan.Fits() {
			return "settled", "nothing has to"
		}
		if t.unfinished() {
			return "", "not known yet"
		}
		return "stop", unit.Small(t.lacking(t.units()))
	}
	if step == "layout" {
		guesses := 0
		for i := range t.task().Items {
			if it := &t.task().Items[i]; it.Carry == kit.Pack && it.Measured == kit.Guess {
				guesses++
			}
		}
		if guesses > 0 {
			return "look", fmt.Sprintf("%s guessed", words.Things(guesses))
		}
		return "settled", "all measured"
	}
	if t.unfinished() {
		return "", "not all in yet"
	}
	fit := t.check("fit")
	return fit.State, fit.Figure
}

// check finds a check of the answer; one that is not computed is shown as that.
func (t *trip) check(name string) checkView {
	for _, c := range t.answer.Checks {
		if c.Check != name {
			continue
		}
		v := checkView{Name: unit.Capital(name), State: string(c.State), Figure: c.Figure, Detail: c.Detail}
		for _, r := range c.Reasons {
			v.Findings = append(v.Findings, r.Text)
		}
		return v
	}
	return checkView{Name: unit.Capital(name)}
}

// sentence makes an error's text a sentence.
func sentence(text string) string {
	if text == "" {
		return ""
	}
	text = unit.Capital(text)
	if !strings.HasSuffix(text, ".") {
		text += "."
	}
	return text
}
