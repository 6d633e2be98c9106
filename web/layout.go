package web

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
)

// layoutView is the kit as a list in the sections people lay out, with the chosen thing's form beside it.
type layoutView struct {
	Sections []section
	Totals   []total
	Editor   *editor
	Add      addForm
	Legend   []draw.Swatch
	Assumed  []string
}

type section struct {
	Name, Mass, Litres string
	Rows               []itemRow
}

type itemRow struct {
	Key, Name, Count, Mass, Litres, When string
	Swatch                               any
	Carry                                []option
	CarryWord                            string
	Guess, Chosen, Left                  bool
	Href                                 string
}

type total struct{ Name, Mass, Note string }

// addForm is the line for a new thing, with what was entered when it was refused.
type addForm struct{ Name, Mass, Litres, Error string }

var carryWords = []option{{Value: "pack", Label: "packed"}, {Value: "worn", Label: "worn"}, {Value: "hand", Label: "in hand"}, {Value: "left", Label: "left"}}

// showLayout is the step Lay out.
func (s *Server) showLayout(c *gin.Context) {
	s.show(c, func(t *trip) {
		s.render(c, http.StatusOK, s.layoutPage(t, c.Query("item"), settingsOf(c).Units))
	})
}

func (s *Server) layoutPage(t *trip, chosen string, system unit.System) page {
	p := t.shell("layout", "Lay out")
	view := &layoutView{Legend: draw.Legend(draw.ByNeed), Assumed: t.bundle.Assumed}
	items := t.task().Items
	for _, group := range groupsOf(items) {
		view.Sections = append(view.Sections, t.section(group, chosen, system))
	}
	if i := t.index(chosen); i >= 0 {
		view.Editor = newEditor(&items[i], system)
	}
	sums := verdict.KitOf(items, &t.task().Pack)
	view.Totals = []total{
		{"On the back", system.Mass(t.task().Pack.MassG + sums.Packed.MassG), "with the pack"},
		{"Base", system.Mass(sums.BaseG), "pack and kit, without food, fuel and water"},
		{"Food, fuel, water", system.Mass(sums.ConsumableG), "at the start"},
		{"Worn and in hand", system.Mass(sums.Worn.MassG + sums.Hand.MassG), verdict.Things(sums.Worn.Pieces + sums.Hand.Pieces)},
	}
	p.Headline = fmt.Sprintf("%s to pack: %s loose, %s tight, for %s of pack.", verdict.Things(sums.Packed.Pieces),
		system.Volume(sums.Packed.LooseL), system.Volume(sums.Packed.TightL), system.Volume(t.task().Pack.StatedL()))
	p.Detail = verdict.Sentence(t.answer.Verdict, len(t.answer.LeftOut)) + " " + leftOutWords(t)
	p.Body = view
	return p
}

// leftOutWords names the things that are left out, as many as fit a line.
func leftOutWords(t *trip) string {
	var names []string
	for _, l := range t.plan.LeftOut {
		if !slices.Contains(names, l.Piece.Name) {
			names = append(names, l.Piece.Name)
		}
	}
	switch {
	case len(names) == 0:
		return fmt.Sprintf("Nothing left out of the %s.", strings.ToLower(t.task().Pack.Name[:1])+t.task().Pack.Name[1:])
	case len(names) > 4:
		return fmt.Sprintf("Left out: %s and %d more.", strings.Join(names[:4], ", "), len(names)-4)
	}
	return "Left out: " + strings.Join(names, ", ") + "."
}

// groupsOf lists the sections of the kit in their usual order, others behind by name.
func groupsOf(items []kit.Item) []string {
	var groups []string
	for i := range items {
		if g := items[i].Group; !slices.Contains(groups, g) {
			groups = append(groups, g)
		}
	}
	rank := func(g string) int {
		if i := slices.Index(kit.Groups, g); i >= 0 {
			return i
		}
		return len(kit.Groups)
	}
	slices.SortStableFunc(groups, func(a, b string) int {
		if rank(a) != rank(b) {
			return rank(a) - rank(b)
		}
		return strings.Compare(a, b)
	})
	return groups
}

func (t *trip) section(group, chosen string, system unit.System) section {
	sec := section{Name: capital(group)}
	mass, litres := 0.0, 0.0
	for i := range t.task().Items {
		it := &t.task().Items[i]
		if it.Group != group {
			continue
		}
		if it.Carry == kit.Pack {
			mass += it.TotalG()
			litres += float64(it.Count) * it.Shape.Litres(0)
		}
		row := itemRow{Key: it.ID, Name: it.Name, Mass: system.Mass(it.TotalG()), Litres: litresOf(it, system), Swatch: draw.SwatchFor(it.Use.When),
			When: draw.WhenName(it.Use.When), Guess: it.Measured == kit.Guess, Chosen: it.ID == chosen, Left: it.Carry == kit.Left,
			Href: fmt.Sprintf("/trips/%d/layout?item=%s", t.ID, it.ID)}
		if it.Count > 1 {
			row.Count = fmt.Sprintf("%d ×", it.Count)
		}
		for _, o := range carryWords {
			o.Chosen = o.Value == string(it.Carry)
			row.Carry = append(row.Carry, o)
		}
		sec.Rows = append(sec.Rows, row)
	}
	sec.Mass, sec.Litres = system.Mass(mass), system.Volume(litres)
	return sec
}

// litresOf is the room of a line: one figure for what keeps its shape, loose and tight for what gives way.
func litresOf(it *kit.Item, system unit.System) string {
	n := float64(it.Count)
	if it.Shape.Kind == kit.Soft {
		return system.Volume(n*it.Shape.LooseL) + " → " + system.Volume(n*it.Shape.TightL)
	}
	return system.Volume(n * it.Shape.Litres(0))
}

// addItem puts a new thing on the list. A name that is one of the generic kinds brings that kind's figures.
func (s *Server) addItem(c *gin.Context) {
	form := addForm{Name: strings.TrimSpace(c.PostForm("name")), Mass: strings.TrimSpace(c.PostForm("mass")), Litres: strings.TrimSpace(c.PostForm("litres"))}
	item, wrong := newItem(form, settingsOf(c).Units)
	refused := func(text string, status int) {
		s.show(c, func(t *trip) {
			p := s.layoutPage(t, "", settingsOf(c).Units)
			form.Error = text
			p.Body.(*layoutView).Add = form
			p.Here = localPath(c.PostForm("return"), "/")
			s.render(c, status, p)
		})
	}
	if wrong != "" {
		refused(wrong, http.StatusUnprocessableEntity)
		return
	}
	s.change(c, "add "+form.Name, func(doc bundle.Doc) error {
		item["id"] = doc.FreshID(form.Name)
		doc.SetItems(append(doc.List("items"), item))
		return nil
	}, func(problems bundle.Problems, stale bool) {
		if stale {
			refused("The trip was changed in another window; press Add again.", http.StatusConflict)
			return
		}
		refused(problems[0].What+"; "+problems[0].Mend, http.StatusUnprocessableEntity)
	})
}

// carryItem changes only where a thing travels.
func (s *Server) carryItem(c *gin.Context) {
	key := c.Param("item")
	s.change(c, "carry "+s.nameOf(c, key), func(doc bundle.Doc) error {
		return doc.EditItem(key, func(item map[string]any) error {
			item["carry"] = c.PostForm("carry")
			return nil
		})
	}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
}

func (s *Server) duplicateItem(c *gin.Context) {
	key := c.Param("item")
	s.change(c, "duplicate "+s.nameOf(c, key), func(doc bundle.Doc) error { return doc.DuplicateItem(key) },
		func(problems bundle.Problems, stale bool) { s.layoutAgain(c, key, nil, problems, stale) })
}

func (s *Server) removeItem(c *gin.Context) {
	key := c.Param("item")
	s.change(c, "remove "+s.nameOf(c, key), func(doc bundle.Doc) error { return doc.RemoveItem(key) },
		func(problems bundle.Problems, stale bool) { s.layoutAgain(c, key, nil, problems, stale) })
}

// changeItem takes the whole form of one thing.
func (s *Server) changeItem(c *gin.Context) {
	key := c.Param("item")
	patch := readItemForm(c, settingsOf(c).Units)
	if len(patch.wrong) > 0 {
		s.layoutAgain(c, key, patch, nil, false)
		return
	}
	s.change(c, "change "+s.nameOf(c, key), func(doc bundle.Doc) error { return doc.EditItem(key, patch.apply) },
		func(problems bundle.Problems, stale bool) { s.layoutAgain(c, key, patch, problems, stale) })
}

// layoutAgain shows Lay out after a refusal, with what was entered still in the form and the messages at their fields.
func (s *Server) layoutAgain(c *gin.Context, key string, patch *itemPatch, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		p := s.layoutPage(t, key, settingsOf(c).Units)
		status := http.StatusUnprocessableEntity
		view := p.Body.(*layoutView)
		if patch != nil && view.Editor != nil {
			view.Editor.keep(patch, problems, fmt.Sprintf("/items/%d/", t.index(key)))
		}
		for _, problem := range problems {
			p.Notice = &notice{Kind: "wrong", Text: "Not saved: " + problem.What + "; " + problem.Mend + "."}
		}
		if stale {
			status = http.StatusConflict
			p.Notice = staleNotice()
			if patch != nil && view.Editor != nil {
				p.Notice.Text = "The trip was changed in another window in the meantime; nothing of it was overwritten. What you entered is still in the form: save it again if you still want it."
			}
		}
		p.Here = localPath(c.PostForm("return"), "/")
		s.render(c, status, p)
	})
}
