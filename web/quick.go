package web

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/store"
)

// mostLines bounds what may be typed at once.
const mostLines = 200

// typed is a thing of a line as it was understood.
type typed struct {
	line string
	at   int              // which line; some stand for several things
	item map[string]any   // without an id
	more []map[string]any // what else the thing comes in
	told kit.Told
	from *store.ShelfThing
	err  error
}

// understand reads typed lines: the name of a thing of the shelf is that thing, everything else is read by kit.Quick.
func (s *Server) understand(c *gin.Context, text string) ([]typed, error) {
	things, err := s.store.Things(c.Request.Context(), store.Query{Status: "here"})
	if err != nil {
		return nil, err
	}
	byName := map[string]*store.ShelfThing{}
	for i := range things {
		byName[strings.ToLower(things[i].Name)] = &things[i]
	}
	var all []typed
	var tooMany error
	lines := 0
	for line := range strings.SplitSeq(strings.ReplaceAll(text, "\r", "\n"), "\n") {
		line = strings.TrimSpace(line)
		if line == "" {
			continue
		}
		if lines == mostLines {
			tooMany = fmt.Errorf("more than %d lines at once; the rest is still in the box", mostLines)
			break
		}
		for _, t := range read(line, byName) {
			t.at = lines
			all = append(all, t)
		}
		lines++
	}
	if err := s.asLast(c, all); err != nil {
		return nil, err
	}
	return all, tooMany
}

// asLast makes lines of what comes from the shelf, carried as it was last.
func (s *Server) asLast(c *gin.Context, all []typed) error {
	var keys []string
	for _, t := range all {
		if t.from != nil {
			keys = append(keys, t.from.Key)
		}
	}
	if len(keys) == 0 {
		return nil
	}
	last, err := s.store.HowLast(c.Request.Context(), keys)
	if err != nil {
		return err
	}
	for i := range all {
		if thing := all[i].from; thing != nil {
			all[i].item = bundle.Again(thing.Object, last[thing.Key])
		}
	}
	return nil
}

func read(line string, shelf map[string]*store.ShelfThing) []typed {
	if len(line) > 200 {
		return []typed{{line: line, err: errors.New("it is longer than 200 letters; a thing a line")}}
	}
	if thing := shelf[strings.ToLower(line)]; thing != nil {
		return []typed{{line: line, from: thing}} // asLast makes the line of it
	}
	things, err := kit.Line(line)
	if err != nil {
		return []typed{{line: line, err: err}}
	}
	var all []typed
	for _, told := range things {
		t := typed{line: line, item: itemOf(told), told: told}
		for i, part := range told.Parts() {
			if i == 0 {
				t.item = itemOf(part)
			} else {
				t.more = append(t.more, itemOf(part))
			}
		}
		all = append(all, t)
	}
	return all
}

// itemOf makes a thing's object of what a line says. What was not said is left out where the kind gives it, so that
// it is shown as a guess.
func itemOf(told kit.Told) map[string]any {
	item := map[string]any{"name": told.Name}
	if told.Known {
		item["kind"] = told.Kind.ID
	}
	if told.Count > 1 {
		item["count"] = bundle.Number(float64(told.Count))
	}
	if told.Weighed || told.Measured != kit.Guess || told.MassG != told.Kind.MassG || told.Shape != told.Kind.Shape {
		item["mass_g"] = bundle.Number(told.MassG)
		if !told.Weighed {
			item["mass_guess"] = true
		}
		item["shape"] = bundle.ShapeObject(told.Shape)
		item["measured"] = string(told.Measured)
	}
	if told.Carry != "" {
		item["carry"] = string(told.Carry)
	}
	return item
}

// addItem puts typed things on the list. Lines that cannot be read stay in the box, each with its reason; the others
// are added.
func (s *Server) addItem(c *gin.Context) {
	all, tooMany := s.understand(c, c.PostForm("lines"))
	form := addForm{}
	var bad []string
	var good []typed
	for _, t := range all {
		if t.err != nil {
			bad = append(bad, t.line)
			form.Errors = append(form.Errors, fmt.Sprintf("%s: %s.", t.line, t.err))
			continue
		}
		good = append(good, t)
	}
	if tooMany != nil {
		form.Errors = append(form.Errors, sentence(tooMany.Error()))
	}
	if len(all) == 0 {
		form.Errors = []string{"Type what it is, then what you know of it: down bag 950 g 7 l"}
	}
	form.Lines = strings.Join(bad, "\n")
	refused := func(status int) {
		s.show(c, func(t *trip) {
			p := s.layoutPage(c, t, "")
			p.Body.(*layoutView).Add = form
			p.Here = localPath(c.PostForm("return"), "/")
			s.render(c, status, p)
		})
	}
	if len(good) == 0 {
		refused(http.StatusUnprocessableEntity)
		return
	}
	label := fmt.Sprint("add ", good[0].item["name"])
	if len(good) > 1 {
		label = fmt.Sprintf("add %d things", len(good))
	}
	id, err := tripID(c)
	if err == nil {
		// Whatever else has changed in the meantime, things can be added to it.
		err = s.store.Change(c.Request.Context(), id, store.AnyVersion, label, func(doc bundle.Doc) error {
			items := doc.List("items")
			for _, t := range good {
				for _, item := range append([]map[string]any{t.item}, t.more...) {
					item["id"] = doc.FreshID(item["name"].(string))
					items = append(items, item)
					doc.SetItems(items)
				}
			}
			return nil
		})
	}
	if err == nil && len(form.Errors) > 0 {
		refused(http.StatusUnprocessableEntity) // the good ones are on the list; the rest is in the box
		return
	}
	s.answer(c, err, func(problems bundle.Problems, _ bool) {
		form.Lines = c.PostForm("lines")
		form.Errors = []string{mendOf(problems)}
		refused(http.StatusUnprocessableEntity)
	})
}

// quickView is what a line would become, shown while it is typed.
type quickView struct {
	Text, Guessed, Error string
}

// previewItem answers with how the line is understood so far.
func (s *Server) previewItem(c *gin.Context) {
	var view quickView
	all, err := s.understand(c, c.Query("lines"))
	if err == nil && len(all) > 0 {
		last := all[slices.IndexFunc(all, func(t typed) bool { return t.at == all[len(all)-1].at }):]
		view = viewOf(last, settingsOf(c).Units)
	}
	s.fragment(c, "layout", "told", view)
}

// viewOf shows the things of one line: of several, each with what it would be, and once how far they are guessed.
func viewOf(things []typed, system unit.System) (all quickView) {
	for i, t := range things {
		v := t.view(system)
		if i == 0 {
			all = v
			continue
		}
		all.Text += " + " + v.Text
		if all.Guessed+v.Guessed != "" {
			all.Guessed = "Weights and rooms are guessed where none was typed."
		}
	}
	return all
}

func (t typed) view(system unit.System) quickView {
	if t.err != nil {
		return quickView{Error: sentence(t.err.Error())}
	}
	it, err := bundle.CompleteItem(t.item)
	if err != nil {
		return quickView{Error: sentence(err.Error())}
	}
	many := ""
	if it.Count > 1 {
		many = fmt.Sprintf("%d × ", it.Count)
	}
	v := quickView{Text: fmt.Sprintf("%s%s, %s, %s", many, it.Name, system.Mass(it.MassG),
		litresOf(&kit.Item{Count: 1, Shape: it.Shape}, system))}
	if t.from != nil {
		v.Text += ", from the shelf"
		return v
	}
	if t.told.Known {
		v.Text += fmt.Sprintf(" (taken for: %s)", unit.Small(t.told.Kind.Name))
	}
	if len(t.more) > 0 {
		v.Text += ", and its poles on a line of their own"
	}
	if it.Carry != kit.Pack {
		v.Text += ", " + labelFor(carryWords, string(it.Carry))
	}
	switch {
	case !t.told.Known && t.told.Measured == kit.Guess:
		v.Guessed = "Nothing like it is known: its room is a guess. Add it, then say what it is, or measure it."
	case t.told.Measured == kit.Guess && !t.told.Weighed:
		v.Guessed = fmt.Sprintf("Weight and room are guessed, give or take %.0f in 100.", 100*t.told.Kind.Uncertain())
	case t.told.Measured == kit.Guess:
		v.Guessed = fmt.Sprintf("Its room is guessed, give or take %.0f in 100.", 100*t.told.Kind.Uncertain())
	case !t.told.Weighed:
		v.Guessed = "Its weight is guessed."
	}
	return v
}
