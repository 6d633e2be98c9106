package web

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/learn"
	"tornister/core/unit"
	"tornister/words"
)

// backView is the step Look back.
type backView struct {
	Now       *backRow
	Rows      []backRow
	Asked     int
	Answers   []option
	Left      []field
	Missing   string
	Learned   []learnedRow
	Proposals []string
	Counted   bool
	Can       bool // there is something to count
	Error     string
}

type backRow struct {
	Key, Name, Answer string
	Choices           []answerChoice
}

type answerChoice struct {
	Value, Label, Press string
	Chosen              bool
}

var answerWords = map[learn.Answer]struct{ label, press string }{learn.Used: {"used", "y"},
	learn.Unused: {"not used", "x"}, learn.Missed: {"was not there", "m"}, learn.RanOut: {"ran out", "o"},
	learn.Broke: {"broke", "b"}, learn.GotWet: {"got wet", "w"}, learn.Moved: {"lay elsewhere", "z"}}

func (s *Server) showBack(c *gin.Context) {
	s.show(c, func(t *trip) { s.renderBack(c, t, http.StatusOK, "", nil) })
}

func (s *Server) renderBack(c *gin.Context, t *trip, status int, wrong string, r *reading) {
	p := t.shell("back", "Look back")
	l := t.Doc.LookBack()
	v := &backView{Error: wrong, Missing: strings.Join(l.Missing, "\n"), Counted: l.Counted, Can: len(l.Items) > 0}
	for i := range t.task().Items {
		it := &t.task().Items[i]
		if it.Carry == kit.Left {
			continue
		}
		row := backRow{Key: it.ID, Name: it.Name, Answer: string(l.Items[it.ID])}
		for _, a := range learn.Answers {
			row.Choices = append(row.Choices,
				answerChoice{string(a), answerWords[a].label, answerWords[a].press, l.Items[it.ID] == a})
		}
		if row.Answer != "" {
			v.Asked++
		} else if v.Now == nil {
			now := row
			v.Now = &now
		}
		v.Rows = append(v.Rows, row)
	}
	v.leftOver(t, l, r)
	v.Learned = s.learned(c, t)
	v.propose(t, l)
	p.Headline = fmt.Sprintf("%d of %d lines looked back on.", v.Asked, len(v.Rows))
	if v.Now == nil && len(v.Rows) > 0 {
		p.Headline = "All lines are looked back on."
	}
	p.Detail = "One key a thing. What is not answered stays not known, and never counts as not used."
	p.Body = v
	s.render(c, status, p)
}

// leftOver are the fields for what was left.
func (v *backView) leftOver(t *trip, l bundle.LookBack, r *reading) {
	u := unitsOf(t.system)
	grams := func(name, label string, g *float64) field {
		f := field{Name: name, Label: label, Unit: u.mass}
		if g != nil {
			f.Value = inUnit(*g, u.mass, unit.Ounce)
		}
		return f
	}
	drunk := field{Name: "drunk", Label: "Water drunk in all, with what was cooked", Unit: u.litre}
	if l.DrunkL != nil {
		drunk.Value = inUnit(*l.DrunkL, u.litre, unit.CubicInch)
	}
	v.Left = []field{grams("food", "Food left over", l.FoodG),
		grams("gas", "Gas left (weigh the canister, less the empty one)", l.GasG), drunk}
	if t.ruleHours() > 0 {
		walked := field{Name: "walked", Label: "Hours walked in all, without long rests", Unit: "h"}
		if l.WalkedH != nil {
			walked.Value = short(*l.WalkedH)
		}
		v.Left = append(v.Left, walked)
	}
	if r == nil {
		return
	}
	for i := range v.Left {
		f := &v.Left[i]
		if value, given := r.c.GetPostForm(f.Name); given {
			f.Value = value
		}
		f.Error = r.wrong[f.Name]
	}
}

// propose lists what the next trip could leave, and what it should have.
func (v *backView) propose(t *trip, l bundle.LookBack) {
	for i := range t.task().Items {
		it := &t.task().Items[i]
		carried, used := it.History.Carried, it.History.Used
		if !l.Counted && l.Items[it.ID] != "" {
			carried++
			if l.Items[it.ID] != learn.Unused {
				used++
			}
		}
		if it.Carry != kit.Left && it.Consumable == "" && learn.Stays(carried, used, it.Vital() || it.Group == "aid") {
			v.Proposals = append(v.Proposals,
				fmt.Sprintf("%s could stay: carried on %s, never used.", it.Name, count(carried, "trip")))
		}
		switch l.Items[it.ID] {
		case learn.Missed:
			v.Proposals = append(v.Proposals, fmt.Sprintf("%s was missed: pack it next time.", it.Name))
		case learn.RanOut:
			v.Proposals = append(v.Proposals, fmt.Sprintf("%s ran out: take more.", it.Name))
		case learn.Broke:
			v.Proposals = append(v.Proposals, fmt.Sprintf("%s broke: mend or replace it.", it.Name))
		case learn.GotWet:
			v.Proposals = append(v.Proposals, fmt.Sprintf("%s got wet: look at its layers on Keep dry.", it.Name))
		}
	}
	for _, name := range l.Missing {
		v.Proposals = append(v.Proposals, fmt.Sprintf("%s was not on the list: put it there next time.", name))
	}
}

// answerBack keeps what became of a thing; the same answer again takes it away.
func (s *Server) answerBack(c *gin.Context) {
	item, answer := c.PostForm("item"), learn.Answer(c.PostForm("answer"))
	s.change(c, "look back on "+s.nameOf(c, item), func(doc bundle.Doc) error {
		if !slices.Contains(learn.Answers, answer) {
			return bundle.Problems{{Pointer: "/look_back", What: "there is no such answer", Mend: "choose one of the buttons"}}
		}
		if err := doc.EditItem(item, func(map[string]any) error { return nil }); err != nil { // it has to be on the list
			return err
		}
		l := doc.LookBack()
		if l.Items[item] == answer {
			delete(l.Items, item)
		} else {
			l.Items[item] = answer
		}
		return doc.SetLookBack(l)
	}, s.backAgain(c, nil))
}

func (s *Server) backAgain(c *gin.Context, r *reading) func(bundle.Problems, bool) {
	return func(problems bundle.Problems, stale bool) {
		s.show(c, func(t *trip) {
			if stale {
				s.renderBack(c, t, http.StatusConflict, staleNotice().Text, r)
				return
			}
			s.renderBack(c, t, http.StatusUnprocessableEntity, mendOf(problems), r)
		})
	}
}

// leftBack keeps what was left over, and what was missing.
func (s *Server) leftBack(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	u := unitsOf(r.system)
	amount := func(name string, parse func(text, bare string) (float64, error), unitName string) *float64 {
		v, given := r.optional(name, parse, unitName)
		if !given {
			return nil
		}
		v = roundTo(v, 2)
		return &v
	}
	food, gas := amount("food", unit.Mass, u.mass), amount("gas", unit.Mass, u.mass)
	drunk := amount("drunk", unit.Volume, bare(u.litre))
	var walked *float64
	if r.text("walked") != "" {
		hours := r.plain("walked")
		if hours < 0 {
			r.wrong["walked"] = "cannot be negative"
		}
		hours = roundTo(hours, 2)
		walked = &hours
	}
	if len(r.wrong) > 0 {
		s.show(c, func(t *trip) {
			s.renderBack(c, t, http.StatusUnprocessableEntity, "Not kept yet: see the marked fields.", r)
		})
		return
	}
	s.change(c, "what was left over", func(doc bundle.Doc) error {
		l := doc.LookBack()
		l.FoodG, l.GasG, l.DrunkL, l.WalkedH, l.Missing = food, gas, drunk, walked, nil
		for line := range strings.Lines(c.PostForm("missing")) {
			if name := strings.TrimSpace(line); name != "" {
				l.Missing = append(l.Missing, clip(name, 100))
			}
		}
		return doc.SetLookBack(l)
	}, s.backAgain(c, r))
}

// countBack takes what became of things to their histories.
func (s *Server) countBack(c *gin.Context) {
	s.change(c, "count into the histories", func(doc bundle.Doc) error { return doc.Count() }, s.backAgain(c, nil))
}

// beginWith begins a trip from a document, with the packer's factors and what they make necessary.
func (s *Server) beginWith(c *gin.Context, doc bundle.Doc, step string) {
	h, err := s.beliefs(c)
	if err == nil {
		err = doc.SetHand(h)
	}
	if err != nil {
		s.refuseHome(c, err)
		return
	}
	text, err := doc.JSON()
	if err != nil {
		s.refuse(c, err)
		return
	}
	s.begin(c, text, step)
}

// lookedBack says how the step stands.
func (t *trip) lookedBack() (state, word string) {
	n := len(t.Doc.LookBack().Items)
	if n == 0 {
		return "", "after the trip"
	}
	return "settled", words.Things(n) + " looked at"
}
