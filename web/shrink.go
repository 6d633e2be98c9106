package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/shrink"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/words"
)

// shrinkView is the step Shrink.
type shrinkView struct {
	Waiting      bool // the search is not done yet
	Fits, Enough bool
	Set          []moveRow
	SetWords     string
	TrySet       string // address that tries the whole set
	Groups       []moveGroup
	Trial        *trialView
	Nested       []string
	Pack         string
	PackValue    string
	PackWords    string
}

type moveGroup struct {
	Name  string
	Moves []moveRow
}

type moveRow struct {
	Key, Text, Why, Litres, Grams, Cost string
	InSet, Tried                        bool
}

// trialView is the effect of some moves on the six checks, before they are taken.
type trialView struct {
	Words  string
	Out    bool // something does not go in
	Keys   []string
	Checks []checkChange
	Moves  []string
}

type checkChange struct {
	Name          string
	Before, After checkView
	Changed       bool
}

var wayNames = []struct {
	way  shrink.Way
	name string
}{{shrink.Nest, "Nest in what is carried anyway"}, {shrink.Repack, "Repack food"}, {shrink.Sack,
	"Squeeze with straps"}, {shrink.Half, "Take a part"}, {shrink.Fewer, "Take fewer"}, {shrink.Wear,
	"Wear or hold"}, {shrink.Swap, "Swap for something on the shelf"}, {shrink.Leave, "Leave at home"}}

func (s *Server) showShrink(c *gin.Context) {
	s.show(c, func(t *trip) { s.renderShrink(c, t, http.StatusOK, nil) })
}

func (s *Server) renderShrink(c *gin.Context, t *trip, status int, told *notice) {
	known, err := s.shrinkingOf(c, t)
	if err != nil {
		s.refuse(c, err)
		return
	}
	system := settingsOf(c).Units
	p := t.shell("shrink", "Shrink")
	if !known.wait(s.planner.Patient(patience)) {
		p.Headline = t.lacking(system) + ". Looking for the moves that make it fit."
		if t.plan.Fits() {
			p.Headline = "It fits as it is. Looking for the smallest pack that would take it."
		}
		p.Detail = "Every set of moves that is tried is packed for trial; that takes some seconds."
		p.Body, p.Searching = &shrinkView{Waiting: true}, false // one search is told at a time
		p.Notice = told
		s.render(c, status, p)
		return
	}
	tried := c.QueryArray("try")
	v := &shrinkView{Fits: t.plan.Fits(), Enough: known.answer.Enough}
	inSet := map[string]bool{}
	query := url.Values{}
	if !v.Fits {
		for _, m := range known.answer.Set.Moves {
			inSet[m.Key()] = v.Enough
			query.Add("try", m.Key())
		}
	}
	v.TrySet = fmt.Sprintf("/trips/%d/shrink?%s#trial", t.ID, query.Encode())
	for _, w := range wayNames {
		group := moveGroup{Name: w.name}
		for _, m := range known.answer.Program.Moves {
			if m.Way != w.way {
				continue
			}
			row := moveRow{m.Key(), words.Say(m.What, system), words.Say(m.Why, system),
				saved(system.Volume(m.Litres), m.Litres), saved(system.Mass(m.Grams), m.Grams), fmt.Sprintf("%.1f", m.Cost),
				inSet[m.Key()], slices.Contains(tried, m.Key())}
			group.Moves = append(group.Moves, row)
			if row.InSet {
				v.Set = append(v.Set, row)
			}
		}
		if len(group.Moves) > 0 {
			v.Groups = append(v.Groups, group)
		}
	}
	for _, n := range shrink.Nested(t.plan) {
		v.Nested = append(v.Nested, fmt.Sprintf("%s in the %s: %s.", joined(n.Inside), unit.Small(n.Name),
			system.Volume(n.SavedL)))
	}
	v.packWords(known, t, system)
	if len(tried) > 0 {
		v.Trial = t.try(known, tried, system, s.planner.Quickly())
	}
	p.Headline, p.Detail = v.words(t, known, system)
	p.Notice = told
	p.Body = v
	s.render(c, status, p)
}

// saved prints what is saved; what comes on top has its own sign.
func saved(text string, v float64) string {
	switch {
	case v > 0:
		return "−" + text
	case v < 0:
		return "+" + strings.TrimPrefix(text, "−")
	}
	return text
}

func joined(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

func (v *shrinkView) words(t *trip, known *shrinking, system unit.System) (headline, detail string) {
	set := known.answer.Set
	moves := count(len(set.Moves), "move")
	switch {
	case v.Fits:
		return "It fits as it is.", "Nothing has to shrink. What stands below would make it smaller or lighter still; try shows the effect before anything is taken."
	case v.Enough:
		proof := "no cheaper set of moves saves as much"
		switch spared := known.answer.Spared; {
		case !set.Proven || known.answer.CutShort:
			proof = "the search was cut short: there may be a cheaper set"
		case len(spared) == 1:
			proof = fmt.Sprintf("packed for trial, it needs none less; “%s” turned out not to be needed",
				words.Say(spared[0].What, system))
		case len(spared) > 1:
			proof = fmt.Sprintf("packed for trial, it needs none less; %d other moves turned out not to be needed", len(spared))
		}
		v.SetWords = fmt.Sprintf("%s less room and %s less weight at %.1f points of inconvenience; %s.",
			system.Volume(set.Litres), system.Mass(set.Grams), set.Cost, proof)
		return fmt.Sprintf("%s. %s %s it fit.", t.lacking(system), unit.Capital(moves), does(len(set.Moves), "make")),
			v.SetWords
	}
	if known.answer.CutShort {
		return t.lacking(system) + ". The search for moves was ended before it found a set.", "Take what is surely not needed off the list first; then it goes quicker."
	}
	return t.lacking(system) + ", and all moves together are not enough.",
		fmt.Sprintf("With everything below done, %s. Take a larger pack, carry less food or water between shops, or share with somebody.", stillOut(known.answer.Plan, system))
}

// lacking says by how much a kit does not fit: in litres, or in things where litres would not help.
func (t *trip) lacking(system unit.System) string {
	if t.plan.OverL > 0 {
		return system.Volume(t.plan.OverL) + " too much"
	}
	if len(t.plan.LeftOut) == 1 {
		return "One thing does not go in"
	}
	return unit.Capital(count(len(t.plan.LeftOut), "thing")) + " do not go in"
}

// stillOut says what a plan leaves out.
func stillOut(plan *load.Plan, system unit.System) string {
	var names []string
	for i := range plan.LeftOut {
		if name := plan.LeftOut[i].Piece.Name; !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) > 3 {
		names = append(names[:3], fmt.Sprintf("%d more", len(names)-3))
	}
	text := fmt.Sprintf("%s would still be out", joined(names))
	if plan.OverL > 0 {
		text += fmt.Sprintf(", %s too much", system.Volume(plan.OverL))
	}
	return text
}

// clearlySmallerL is by how much a pack must be smaller for it to be worth a change, in litres.
const clearlySmallerL = 1.0

func (v *shrinkView) packWords(known *shrinking, t *trip, system unit.System) {
	if known.best < 0 {
		v.PackWords = "No pack on the shelf and none of the generic ones takes the kit as it is."
		return
	}
	best := known.packs[known.best]
	now := t.task().Pack.StatedL()
	if t.plan.Fits() && best.Litres > now-clearlySmallerL {
		v.PackWords = fmt.Sprintf("No pack on the shelf and none of the generic ones is clearly smaller than the %s, %s, and takes the kit as it is.", t.task().Pack.Name, system.Volume(now))
		return
	}
	whose := "a generic pack"
	if best.Owned {
		whose = "on your shelf"
	}
	v.Pack, v.PackValue = best.Name, best.Value
	v.PackWords = fmt.Sprintf("The smallest that takes the kit as it is: %s, %s, %s. Now it is in the %s, %s.",
		best.Name, system.Volume(best.Litres), whose, t.task().Pack.Name, system.Volume(now))
}

// sideBySide sets the six checks of the trip beside those of a task that it would become. Both are planned alike,
// so that like is compared with like.
func (t *trip) sideBySide(task *job.Task, options load.Options, system unit.System) *trialView {
	after := &trip{bundle: t.bundle}
	after = after.judge(verdict.Of(task, options), system)
	return beside(t.judge(verdict.Of(t.task(), options), system), after)
}

// beside sets the six checks of two plans side by side.
func beside(before, after *trip) *trialView {
	v := &trialView{Words: after.sentence(), Out: !after.plan.Fits()}
	for _, name := range verdict.Names {
		ch := checkChange{Name: unit.Capital(name), Before: before.check(name), After: after.check(name)}
		ch.Changed = ch.Before.State != ch.After.State || ch.Before.Figure != ch.After.Figure
		v.Checks = append(v.Checks, ch)
	}
	return v
}

// try plans the kit after some moves and sets the checks side by side.
func (t *trip) try(known *shrinking, keys []string, system unit.System, options load.Options) *trialView {
	moves := pick(known.answer.Program.Moves, keys)
	if len(moves) == 0 {
		return nil
	}
	task := shrink.Apply(t.task(), moves)
	v := t.sideBySide(task, options, system)
	if packed := known.answer.Plan; known.answer.Enough && v.Out && sameMoves(moves, known.answer.Set.Moves) {
		after := &trip{bundle: t.bundle} // found with more patience than the quick plan has
		v = beside(t, after.judge(verdict.Judge(task, packed), system))
	}
	for _, m := range moves {
		v.Keys = append(v.Keys, m.Key())
		v.Moves = append(v.Moves, words.Say(m.What, system))
	}
	return v
}

// sameMoves reports whether two lists are of the same moves.
func sameMoves(a, b []shrink.Move) bool {
	return len(a) == len(b) && !slices.ContainsFunc(a, func(m shrink.Move) bool {
		return !slices.ContainsFunc(b, func(o shrink.Move) bool { return o.Key() == m.Key() })
	})
}

// pick chooses moves by key, at most one to each thing.
func pick(moves []shrink.Move, keys []string) []shrink.Move {
	var found []shrink.Move
	touched := map[string]bool{}
	for _, m := range moves {
		if slices.Contains(keys, m.Key()) && !touched[m.Item] {
			touched[m.Item] = true
			found = append(found, m)
		}
	}
	return found
}

// takeMoves makes moves to the kit.
func (s *Server) takeMoves(c *gin.Context) {
	s.show(c, func(t *trip) {
		known, err := s.shrinkingOf(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		<-known.done
		moves := pick(known.answer.Program.Moves, c.PostFormArray("take"))
		if len(moves) == 0 {
			s.renderShrink(c, t, http.StatusUnprocessableEntity,
				&notice{Kind: "wrong", Text: "Nothing was taken: tick a move first. The list may have changed since you opened it."})
			return
		}
		label := "shrink: " + words.Say(moves[0].What, settingsOf(c).Units)
		if len(moves) > 1 {
			label = fmt.Sprintf("shrink by %d moves", len(moves))
		}
		s.change(c, label, func(doc bundle.Doc) error { return doc.Take(moves, known.shelf) },
			func(problems bundle.Problems, stale bool) { s.shrinkAgain(c, problems, stale) })
	})
}

func (s *Server) shrinkAgain(c *gin.Context, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		status, told := http.StatusUnprocessableEntity, (*notice)(nil)
		for _, problem := range problems {
			told = &notice{Kind: "wrong", Text: "Not done: " + problem.What + "; " + problem.Mend + "."}
		}
		if stale {
			status, told = http.StatusConflict, staleNotice()
		}
		s.renderShrink(c, t, status, told)
	})
}

// exportShrinkLP gives the choice of moves as a program for an outside solver.
func (s *Server) exportShrinkLP(c *gin.Context) {
	s.show(c, func(t *trip) {
		known, err := s.shrinkingOf(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		<-known.done
		attachment(c, "text/plain; charset=utf-8", "shrink.lp")
		if err := known.answer.Program.WriteLP(c.Writer); err != nil {
			_ = c.Error(err)
		}
	})
}
