package web

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/practice"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// The keys of kits: of the demo, or a trip's (store.KitOfTrip).
const demoKit, tripKit = "demo/", "trip/"

// practiceView is the room beside the road in which one practises.
type practiceView struct {
	Person    string
	Persons   []string
	Rows      []exerciseRow
	Trips     []option
	Kinds     []option
	Repeat    []string // what is to be asked again today
	Open      []exerciseLink
	Plot      template.HTML
	Course    []courseRow // of all who practise, for a sheet
	KindNames []string
}

// exerciseRow is an exercise that can be begun.
type exerciseRow struct{ Kit, Kind, Name, KindName, Level, Last string }

type exerciseLink struct{ Href, Name string }

// courseRow is one who practises, with the last result of each kind.
type courseRow struct {
	Person, Href string
	Cells        []courseCell
	Repeat       int
}

type courseCell struct {
	Done, Score int
	Level       string
	Took        string
}

func (s *Server) showPractice(c *gin.Context) { s.practicePage(c, http.StatusOK, nil) }

// personCookie keeps who practises in this browser.
const personCookie = "practises"

// personOf is who practises: as asked for, or as last time in this browser.
func personOf(c *gin.Context) string {
	person, asked := c.GetQuery("person")
	if !asked {
		person, _ = c.Cookie(personCookie)
	}
	if named, err := personName(person); err == nil {
		return named
	}
	return ""
}

// longestPerson bounds the name of somebody who practises.
const longestPerson = 60

// personName reads the name of somebody who practises.
func personName(text string) (string, error) {
	text = strings.Join(strings.Fields(text), " ")
	switch {
	case text == "":
		return "", bundle.Problems{{Pointer: "/person", What: "nobody is named",
			Mend: "say who practises: results are kept by name, and any name will do"}}
	case len([]rune(text)) > longestPerson, strings.ContainsFunc(text, bundle.Hidden):
		return "", bundle.Problems{{Pointer: "/person", What: "that is no name",
			Mend: fmt.Sprintf("use at most %d letters", longestPerson)}}
	}
	return text, nil
}

func (s *Server) practicePage(c *gin.Context, status int, told *notice) {
	list, err := s.store.Exercises(c.Request.Context())
	if err != nil {
		s.refuse(c, err)
		return
	}
	v := &practiceView{Person: personOf(c)}
	if typed := c.PostForm("person"); typed != "" {
		v.Person = clip(strings.Join(strings.Fields(bundle.Plain(typed)), " "), longestPerson)
	}
	mine := slices.DeleteFunc(slices.Clone(list), func(e store.Exercise) bool { return e.Person != v.Person })
	for _, kind := range practice.Kinds {
		v.Kinds = append(v.Kinds, option{string(kind), words.Exercise(string(kind)).Name, string(kind) == c.PostForm("kind")})
		v.KindNames = append(v.KindNames, words.Exercise(string(kind)).Name)
	}
	for _, e := range shippedExercises {
		kit, name := demoKit+e.Kit, shippedKits()[e.Kit].Doc.Name()
		level := levelWords(levelFor(mine, kit, e.Kind, e.Level))
		v.Rows = append(v.Rows, exerciseRow{kit, string(e.Kind), name, words.Exercise(string(e.Kind)).Name, level,
			lastOf(mine, kit, e.Kind)})
	}
	for _, trip := range s.tripOptions(c) {
		trip.Value = tripKit + trip.Value
		trip.Chosen = trip.Value == tripKit+c.Query("trip") || trip.Value == c.PostForm("kit")
		v.Trips = append(v.Trips, trip)
	}
	for i := range mine {
		if mine[i].Ended == nil {
			v.Open = append(v.Open, exerciseLink{exerciseHref(mine[i].ID),
				fmt.Sprintf("%s: %s", words.Exercise(mine[i].Kind).Name, mine[i].Name)})
		}
	}
	if n := len(v.Open) - mostOpen; n > 0 {
		v.Open = v.Open[n:]
	}
	v.Plot = plotOf(mine)
	repeats, err := s.course(c, v, list)
	if err != nil {
		s.refuse(c, err)
		return
	}
	p := page{Title: "Practice", Name: "practice", Headline: "Practise until hands know it.",
		Detail: "Find what is needed, see what was packed wrong, load a pack by hand: against the planner, and the clock.",
		Notice: told, Body: v}
	if v.Person != "" {
		p.Headline = practiceHeadline(v.Person, mine, repeats)
	}
	s.render(c, status, p)
}

// mostOpen is how many exercises under way are offered to be gone on with.
const mostOpen = 3

func practiceHeadline(person string, mine []store.Exercise, repeats int) string {
	done := 0
	for i := range mine {
		if mine[i].Ended != nil {
			done++
		}
	}
	if repeats > 0 {
		return fmt.Sprintf("%s: %s to repeat today.", person, count(repeats, "thing"))
	}
	return fmt.Sprintf("%s: %s done, nothing to repeat today.", person, count(done, "exercise"))
}

// course fills in what all have done, and what the chosen one is to repeat; it gives how much that is today.
func (s *Server) course(c *gin.Context, v *practiceView, list []store.Exercise) (repeats int, err error) {
	today := s.store.Now().Format(time.DateOnly)
	for i := range list {
		if e := &list[i]; !slices.Contains(v.Persons, e.Person) {
			v.Persons = append(v.Persons, e.Person)
		}
	}
	slices.Sort(v.Persons)
	for _, person := range v.Persons {
		due, err := s.store.ToRepeat(c.Request.Context(), person)
		if err != nil {
			return 0, err
		}
		due = slices.DeleteFunc(due, func(r store.ToRepeat) bool { return r.Due > today })
		row := courseRow{Person: person, Repeat: len(due), Href: "/practice?" + url.Values{"person": {person}}.Encode()}
		for _, kind := range practice.Kinds {
			row.Cells = append(row.Cells, cellOf(list, person, kind))
		}
		v.Course = append(v.Course, row)
		if person == v.Person {
			repeats, v.Repeat = len(due), s.repeatWords(c, due)
		}
	}
	return repeats, nil
}

// repeatWords say what is due, by kit, and which kinds of faults.
func (s *Server) repeatWords(c *gin.Context, due []store.ToRepeat) (list []string) {
	kits := map[string]int{}
	var order []string
	for _, r := range due {
		if r.Kit == "" {
			list = append(list, "In Find the fault: "+words.FaultKind(r.Key)+".")
			continue
		}
		if kits[r.Kit]++; kits[r.Kit] == 1 {
			order = append(order, r.Kit)
		}
	}
	for _, kit := range order {
		list = append(list, fmt.Sprintf("In Where is it: %s of %s.", count(kits[kit], "question"), s.kitName(c, kit)))
	}
	return list
}

// kitName is the name of a kit by its key.
func (s *Server) kitName(c *gin.Context, kit string) string {
	if b, shipped := shippedKits()[strings.TrimPrefix(kit, demoKit)]; shipped {
		return b.Doc.Name()
	}
	for _, trip := range s.tripOptions(c) {
		if tripKit+trip.Value == kit {
			return trip.Label
		}
	}
	return "a trip"
}

func cellOf(list []store.Exercise, person string, kind practice.Kind) (cell courseCell) {
	for i := range list {
		if e := &list[i]; e.Person == person && e.Kind == string(kind) && e.Ended != nil {
			cell.Done++
			cell.Score, cell.Level, cell.Took = e.Score, levelWords(e.Level), tookWords(e.Seconds)
		}
	}
	return cell
}

// lastDone is the last exercise of a kit and kind that was done, nil for none.
func lastDone(mine []store.Exercise, kit string, kind practice.Kind) *store.Exercise {
	for i := range slices.Backward(mine) {
		if e := &mine[i]; e.Kit == kit && e.Kind == string(kind) && e.Ended != nil {
			return e
		}
	}
	return nil
}

// levelFor is the level of the next exercise of a kit and kind, after those that were done.
func levelFor(mine []store.Exercise, kit string, kind practice.Kind, first int) int {
	if e := lastDone(mine, kit, kind); e != nil {
		return practice.Next(e.Level, e.Score)
	}
	return first
}

// tookWords is how long something took.
func tookWords(seconds float64) string {
	if seconds < 100 {
		return fmt.Sprintf("%.0f s", seconds)
	}
	return fmt.Sprintf("%d min %02d s", int(seconds)/60, int(seconds)%60)
}

func levelWords(level int) string { return fmt.Sprintf("%d of %d", level, practice.Hardest) }

// lastOf says how the last exercise of a kit and kind went.
func lastOf(mine []store.Exercise, kit string, kind practice.Kind) string {
	e := lastDone(mine, kit, kind)
	if e == nil {
		return ""
	}
	return fmt.Sprintf("%d of 100 in %s", e.Score, tookWords(e.Seconds))
}

func plotOf(mine []store.Exercise) template.HTML {
	var marks []draw.Mark
	for i := range mine {
		if e := &mine[i]; e.Ended != nil {
			marks = append(marks, draw.Mark{Kind: slices.Index(practice.Kinds, practice.Kind(e.Kind)), Score: e.Score,
				Seconds: e.Seconds, Day: e.Ended.Format(time.DateOnly)})
		}
	}
	if len(marks) == 0 {
		return ""
	}
	return draw.Progress(marks[max(0, len(marks)-draw.MostMarks):])
}

// forgetPractice removes all that is kept of somebody's practice.
func (s *Server) forgetPractice(c *gin.Context) {
	if err := s.store.ForgetPractice(c.Request.Context(), c.PostForm("person")); err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/practice?person=")
}

func exerciseHref(id uint) string { return fmt.Sprintf("/practice/%d", id) }
