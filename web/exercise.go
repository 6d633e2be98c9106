package web

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/practice"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/planner"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// exerciseState is how an exercise stands.
type exerciseState struct {
	From  job.Arrangement // as planned
	Lays  []load.Lay      // the same
	Since *time.Time      // the clock runs since then
	TookS float64         // so far

	Asked []askedQuestion // of Where is it
	Shown bool            // the answer of the last that was answered is shown

	Now   job.Arrangement // of Find the fault: with the faults
	Moves []practice.Move
	Named []string // items

	Order job.Arrangement // of Load it by hand
	Lanes map[string]job.Lane
}

func (st *exerciseState) text() string {
	text, err := json.Marshal(st)
	if err != nil {
		panic(err) // it holds nothing that cannot be written
	}
	return string(text)
}

// exercise is one that somebody is at, or has done.
type exercise struct {
	*store.Exercise
	state   exerciseState
	raw     string // as the state was read
	bundle  *bundle.Bundle
	spoiled *practice.Spoiled
	good    *trip // the kit as planned
}

// exerciseRead is what is worked out once for an exercise.
type exerciseRead struct {
	bundle  *bundle.Bundle
	spoiled *practice.Spoiled
}

// exercise reads the one that the address names.
func (s *Server) exercise(c *gin.Context) (*exercise, error) {
	id, err := strconv.ParseUint(c.Param("exercise"), 10, 32)
	if err != nil {
		return nil, store.ErrNotFound
	}
	one, kit, err := s.store.Exercise(c.Request.Context(), uint(id))
	if err != nil {
		return nil, err
	}
	if kit == nil {
		return nil, kitGone{one}
	}
	e := &exercise{Exercise: one, raw: one.State}
	if err := json.Unmarshal([]byte(one.State), &e.state); err != nil {
		return nil, fmt.Errorf("exercise %d: %w", id, err)
	}
	read := s.exercises.of(fmt.Sprint(id, one.Begun), func() *exerciseRead {
		b, err := bundle.Read(kit)
		if err != nil {
			return nil
		}
		st := &e.state
		options := s.planner.Within(longestSpoil)
		options.Like = st.Lays
		return &exerciseRead{b, practice.Again(&b.Task, st.From, st.Now, st.Moves, options)}
	})
	if read == nil {
		return nil, kitGone{one}
	}
	e.bundle, e.spoiled = read.bundle, read.spoiled
	e.good = e.asTrip(e.spoiled.Good, settingsOf(c).Units)
	return e, nil
}

// kitGone says that an exercise has its kit no more.
type kitGone struct{ *store.Exercise }

func (k kitGone) Error() string {
	return fmt.Sprintf("the exercise of %s with %s has ended, and its kit is not kept any more", k.Person, k.Name)
}

func (k kitGone) Is(target error) bool { return target == store.ErrNotFound }

// asTrip lets a packing of the exercise be shown like a plan of a trip.
func (e *exercise) asTrip(judged *verdict.Judged, system unit.System) *trip {
	t := &trip{State: &store.State{Doc: e.bundle.Doc}, bundle: e.bundle, stage: planner.Ended}
	return t.judge(judged, system)
}

// exerciseView is the page of an exercise; one of the kinds is not nil.
type exerciseView struct {
	Href    string
	Ready   bool   // it waits for the start
	Tells   string // what there is to do
	Running string // milliseconds on the clock, "" when it stands
	Where   *whereView
	Find    *findView
	Hand    *loadingView
	Done    *doneView
}

// doneView is what came of an exercise, and the way on.
type doneView struct {
	Person, Kit, Kind string
	Next              string // what the next one would be
	Back              string
}

func (s *Server) showExercise(c *gin.Context) {
	e, err := s.exercise(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	s.exercisePage(c, e, http.StatusOK, nil)
}

func (s *Server) exercisePage(c *gin.Context, e *exercise, status int, told *notice) {
	kind := words.Exercise(e.Kind)
	v := &exerciseView{Href: exerciseHref(e.ID), Ready: e.ready()}
	p := page{Title: kind.Name + " · " + e.Name, Name: "exercise", Headline: kind.Name,
		Detail: fmt.Sprintf("%s, %s, level %s.", e.Person, e.Name, levelWords(e.Level)), Notice: told, Body: v}
	switch practice.Kind(e.Kind) {
	case practice.Where:
		v.Tells = fmt.Sprintf("You are asked %s. The clock runs while you look for the zone, and stands while the answer is shown. Look at the plan first, if you like: it is covered then.",
			count(len(e.state.Asked), "question"))
		v.Where = e.whereView()
	case practice.Find:
		v.Tells = fmt.Sprintf("The pack was packed as planned, and then %s put elsewhere. Find what lies wrong: each thing that you name wrongly takes one away again. The clock runs.",
			count(len(e.state.Moves), "thing")+verbOf(len(e.state.Moves), " was", " were"))
		v.Find = e.findView(c)
	case practice.Hand:
		v.Tells = "The kit lies beside the empty pack. Put one thing after the other in, as your hands would, until all is in; then it is judged beside the plan, under the same school. The clock runs, and does not count."
		v.Hand = s.loadingView(c, e)
	}
	if !v.Ready && e.state.Since != nil {
		v.Running = strconv.FormatInt(s.elapsed(e).Milliseconds(), 10)
	}
	if e.Ended != nil {
		p.Headline = fmt.Sprintf("%d of 100, in %s.", e.Score, tookWords(e.Seconds))
		v.Done = &doneView{Person: e.Person, Kit: e.Kit, Kind: e.Kind, Back: "/practice",
			Next: "Once more, level " + levelWords(practice.Next(e.Level, e.Score))}
	}
	s.render(c, status, p)
}

// ready reports whether an exercise waits for its start.
func (e *exercise) ready() bool { return e.state.Since == nil && e.Ended == nil && !e.state.Shown }

// elapsed is what the clock shows.
func (s *Server) elapsed(e *exercise) time.Duration {
	took := time.Duration(e.state.TookS * float64(time.Second))
	if e.state.Since != nil {
		took += s.store.Now().Sub(*e.state.Since)
	}
	return took
}

// stopClock stops the clock and gives what it ran since it was started.
func (s *Server) stopClock(e *exercise) float64 {
	if e.state.Since == nil {
		return 0
	}
	ran := max(0, s.store.Now().Sub(*e.state.Since).Seconds())
	e.state.TookS += ran
	e.state.Since = nil
	return ran
}

// end ends an exercise with its points.
func (s *Server) end(e *exercise, right, of, score int) {
	s.stopClock(e)
	now := s.store.Now()
	e.Ended, e.Right, e.Of, e.Score, e.Seconds = &now, right, of, score, e.state.TookS
}

// repeat is when something is asked again that was answered now; known before says at which step it stands.
func (s *Server) repeat(known []store.ToRepeat, kit, key string, right bool) []store.ToRepeat {
	at := slices.IndexFunc(known, func(r store.ToRepeat) bool { return r.Kit == kit && r.Key == key })
	today := s.store.Now()
	switch {
	case at < 0 && right:
		return nil
	case at >= 0 && right && known[at].Due > today.Format(time.DateOnly):
		return nil // known before its day: that says nothing yet
	}
	step := 0
	if at >= 0 {
		step = known[at].Step
	}
	step, days := practice.After(step, right)
	r := store.ToRepeat{Kit: kit, Key: key, Step: step}
	if days > 0 {
		r.Due = today.AddDate(0, 0, days).Format(time.DateOnly)
	}
	return []store.ToRepeat{r}
}

// stepExercise takes what somebody does in an exercise.
func (s *Server) stepExercise(c *gin.Context) {
	e, err := s.exercise(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	if e.Ended != nil {
		c.Redirect(http.StatusSeeOther, exerciseHref(e.ID))
		return
	}
	known, err := s.store.ToRepeat(c.Request.Context(), e.Person)
	if err != nil {
		s.refuse(c, err)
		return
	}
	if c.PostForm("do") == "start" {
		if e.state.Since == nil {
			now := s.store.Now()
			e.state.Since, e.state.Shown = &now, false
		}
		s.keepStep(c, e, nil)
		return
	}
	var again []store.ToRepeat
	var told *notice
	switch practice.Kind(e.Kind) {
	case practice.Where:
		again = s.answerWhere(c, e, known)
	case practice.Find:
		again = s.answerFind(c, e, known)
	case practice.Hand:
		told = s.loadByHand(c, e)
	}
	if told != nil {
		s.exercisePage(c, e, http.StatusUnprocessableEntity, told)
		return
	}
	s.keepStep(c, e, again)
}

// keepStep keeps how an exercise stands; a step that was sent twice counts once.
func (s *Server) keepStep(c *gin.Context, e *exercise, again []store.ToRepeat) {
	e.State = e.state.text()
	err := s.store.GoOnExercise(c.Request.Context(), e.Exercise, e.raw, again...)
	if err != nil && !errors.Is(err, store.ErrStale) {
		s.refuse(c, err)
		return
	}
	href := exerciseHref(e.ID)
	if view := c.PostForm("look"); view != "" {
		href += "?" + url.Values{"view": {string(draw.ViewOf(view))}}.Encode()
	}
	c.Redirect(http.StatusSeeOther, href)
}
