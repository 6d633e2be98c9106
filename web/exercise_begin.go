package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/load"
	"tornister/core/practice"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/store"
)

// shippedExercise is an exercise with a kit of the demo, and the level somebody begins it at.
type shippedExercise struct {
	Kit   string
	Kind  practice.Kind
	Level int
}

// shippedExercises are graded: the easier first.
var shippedExercises = []shippedExercise{
	{"child-night", practice.Where, 1}, {"child-night", practice.Find, 1}, {"ski-tour", practice.Where, 1},
	{"child-night", practice.Hand, 2}, {"ski-tour", practice.Find, 2}, {"lone-walker", practice.Where, 2},
	{"field-course", practice.Where, 3}, {"lone-walker", practice.Find, 3}, {"ski-tour", practice.Hand, 3},
	{"field-course", practice.Find, 4}, {"lone-walker", practice.Hand, 4}, {"field-course", practice.Hand, 4},
}

// usualLevel is where a trip of one's own begins.
const usualLevel = 2

// beginPractice makes an exercise of a kit for somebody.
func (s *Server) beginPractice(c *gin.Context) {
	id, err := s.newExercise(c)
	var problems bundle.Problems
	if errors.As(err, &problems) {
		s.practicePage(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: mendOf(problems)})
		return
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, exerciseHref(id))
}

// newExercise makes what a form asks for, and keeps it.
func (s *Server) newExercise(c *gin.Context) (uint, error) {
	ctx := c.Request.Context()
	person, err := personName(c.PostForm("person"))
	if err != nil {
		return 0, err
	}
	kind := practice.Kind(c.PostForm("kind"))
	if !slices.Contains(practice.Kinds, kind) {
		return 0, bundle.Problems{{Pointer: "/kind", What: "there is no such exercise", Mend: "choose one of the list"}}
	}
	kit, err := s.kitFor(c, c.PostForm("kit"))
	if err != nil {
		return 0, err
	}
	all, err := s.store.Exercises(ctx)
	if err != nil {
		return 0, err
	}
	first := usualLevel
	for _, e := range shippedExercises {
		if demoKit+e.Kit == kit.key && e.Kind == kind {
			first = e.Level
		}
	}
	mine := slices.DeleteFunc(all, func(e store.Exercise) bool { return e.Person != person })
	due, err := s.store.ToRepeat(ctx, person)
	if err != nil {
		return 0, err
	}
	one := &store.Exercise{Person: person, Kit: kit.key, Name: bundle.Plain(kit.bundle.Doc.Name()), Kind: string(kind),
		Level: levelFor(mine, kit.key, kind, first), Seed: s.store.Now().UnixNano()}
	state, err := s.begun(one, kit, due)
	if err != nil {
		return 0, err
	}
	one.State = state.text()
	text, err := kit.bundle.Doc.JSON()
	if err != nil {
		return 0, err
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: personCookie, Value: url.QueryEscape(person), Path: "/practice",
		MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteLaxMode})
	err = s.store.BeginExercise(ctx, one, text)
	return one.ID, err
}

// shippedKits are the bundles that exercises ship with, by name.
var shippedKits = sync.OnceValue(func() map[string]*bundle.Bundle {
	kits := map[string]*bundle.Bundle{}
	for name, text := range map[string][]byte{"child-night": demo.ChildNight, "ski-tour": demo.SkiTour,
		"lone-walker": demo.LoneWalker, "field-course": demo.FieldCourse} {
		b, err := bundle.Read(text)
		if err != nil {
			panic(fmt.Sprintf("the kit %s: %v", name, err)) // it is embedded
		}
		kits[name] = b
	}
	return kits
})

// kitRead is a kit to practise with, and its plan.
type kitRead struct {
	key    string
	bundle *bundle.Bundle
	plan   *load.Plan
}

// longestShipped bounds the plan of a kit that ships, which is made once.
const longestShipped = 2 * time.Second

// kitFor finds a kit by its key: of the demo, or of a trip with the best plan there is of it.
func (s *Server) kitFor(c *gin.Context, key string) (*kitRead, error) {
	wrong := bundle.Problems{{Pointer: "/kit", What: "there is no such kit", Mend: "choose one of the list"}}
	if name, is := strings.CutPrefix(key, demoKit); is {
		b, known := shippedKits()[name]
		if !known {
			return nil, wrong
		}
		judged := s.drilled.of(name, func() *verdict.Judged { return verdict.Of(&b.Task, s.planner.Within(longestShipped)) })
		return &kitRead{key, b, judged.Plan}, nil
	}
	id, err := strconv.ParseUint(strings.TrimPrefix(key, tripKit), 10, 32)
	if err != nil || !strings.HasPrefix(key, tripKit) {
		return nil, wrong
	}
	t, err := s.planned(c.Request.Context(), uint(id))
	if errors.Is(err, store.ErrNotFound) {
		return nil, wrong
	}
	if err != nil {
		return nil, err
	}
	return &kitRead{key, t.bundle, t.plan}, nil
}

// longestSpoil bounds how long faults are looked for while somebody waits.
const longestSpoil = 4 * time.Second

// begun is how an exercise of a kit begins, with what is due of those that were missed.
func (s *Server) begun(one *store.Exercise, kit *kitRead, due []store.ToRepeat) (*exerciseState, error) {
	task := &kit.bundle.Task
	if !kit.plan.Fits() || len(kit.plan.Placed) < 3 {
		return nil, bundle.Problems{{Pointer: "/kit", What: "that kit is not one to practise with: it does not go into its pack, or is next to nothing",
			Mend: "make it fit, on Shrink, or choose another"}}
	}
	options := s.planner.Within(longestSpoil)
	st := &exerciseState{From: planOrder(kit.plan), Lays: kit.plan.Lays()}
	options.Like = st.Lays
	good, price := practice.Judge(task, st.From, options)
	if len(price.Misfit) > 0 { // another order with the same lanes: a first plan's may do
		plan := load.Make(task, s.planner.Quickly())
		st.From, st.Lays = planOrder(plan), plan.Lays()
		options.Like = st.Lays
		if good, price = practice.Judge(task, st.From, options); len(price.Misfit) > 0 {
			return nil, bundle.Problems{{Pointer: "/kit", What: "that kit goes in too tightly to be packed twice alike",
				Mend: "choose another, or a larger pack"}}
		}
	}
	today := s.store.Now().Format(time.DateOnly)
	var keys []string
	for _, r := range due {
		mine := r.Kit == one.Kit && one.Kind == string(practice.Where) || r.Kit == "" && one.Kind == string(practice.Find)
		if mine && r.Due <= today {
			keys = append(keys, r.Key)
		}
	}
	switch practice.Kind(one.Kind) {
	case practice.Where:
		for _, q := range practice.Draw(practice.Asked(good), keys, practice.Questions(one.Level), uint64(one.Seed)) {
			st.Asked = append(st.Asked, askedQuestion{Key: q.Key()})
		}
		if len(st.Asked) == 0 {
			return nil, bundle.Problems{{Pointer: "/kit", What: "nothing in that pack is needed in a hurry",
				Mend: "choose another"}}
		}
	case practice.Find:
		spoiled := practice.Spoil(task, st.From, practice.Faults(one.Level), one.Level, keys, uint64(one.Seed), options)
		if len(spoiled.Moves) == 0 {
			return nil, bundle.Problems{{Pointer: "/kit", What: "no fault was found that shows in that kit",
				Mend: "choose another"}}
		}
		st.Now, st.Moves = spoiled.Now, spoiled.Moves
	}
	return st, nil
}
