package web

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
)

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

// removeItem takes a line off the list; a line that followed the trip is not put back by it.
func (s *Server) removeItem(c *gin.Context) {
	key := c.Param("item")
	s.change(c, "remove "+s.nameOf(c, key), func(doc bundle.Doc) error {
		return removeLine(doc, key)
	}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, key, nil, problems, stale) })
}

func removeLine(doc bundle.Doc, key string) error {
	err := doc.EditItem(key, func(item map[string]any) error {
		if follows, ok := item["follows"].(string); ok && follows != "" {
			trip := doc.Object("trip")
			without, _ := trip["without"].([]any)
			trip["without"] = append(slices.Clone(without), follows)
		}
		return nil
	})
	if err != nil {
		return err
	}
	return doc.RemoveItem(key)
}

// changeItem takes the whole form of one thing. A line that followed the trip is the packer's own from then on.
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

// measureItem takes a reading and sets the litres, and how sure they are.
func (s *Server) measureItem(c *gin.Context) {
	key := c.Param("item")
	r := readForm(c, settingsOf(c).Units)
	u := unitsOf(r.system)
	reading := kit.Reading{Way: kit.Way(r.text("way"))}
	for i, name := range []string{"side-1", "side-2", "side-3"} {
		reading.Sides[i], _ = r.optional(name, unit.Length, u.length)
	}
	reading.Before, _ = r.optional("before", unit.Volume, bare(u.litre))
	reading.After, _ = r.optional("after", unit.Volume, bare(u.litre))
	with, weighed := r.optional("with", unit.Mass, u.body)
	without, _ := r.optional("without", unit.Mass, u.body)
	var wrong error
	for _, message := range r.wrong {
		wrong = fmt.Errorf("%s", message)
	}
	refused := func(text string, status int) {
		s.show(c, func(t *trip) {
			p := s.layoutPage(c, t, key)
			if view := p.Body.(*layoutView); view.Editor != nil {
				view.Editor.Measure.keep(c)
				view.Editor.Measure.Error = text
			}
			p.Here = localPath(c.PostForm("return"), "/")
			s.render(c, status, p)
		})
	}
	if wrong != nil {
		refused(sentence(wrong.Error()), http.StatusUnprocessableEntity)
		return
	}
	err := error(nil)
	s.change(c, "measure "+s.nameOf(c, key), func(doc bundle.Doc) error {
		return doc.EditItem(key, func(item map[string]any) error {
			now, e := bundle.CompleteItem(item)
			if e != nil {
				return e
			}
			if weighed {
				var mass float64
				if mass, err = kit.Without(with, without); err != nil {
					return bundle.Problems{{Pointer: "", What: err.Error(), Mend: "weigh again"}}
				}
				item["mass_g"] = bundle.Number(roundTo(mass, 1))
				delete(item, "mass_guess")
			}
			if reading.Way == "" && weighed {
				return nil
			}
			shape, how, e := kit.Measure(now.Shape, reading)
			if err = e; err != nil {
				return bundle.Problems{{Pointer: "", What: err.Error(), Mend: "measure again"}}
			}
			item["shape"], item["measured"] = bundle.ShapeObject(shape), string(how)
			delete(item, "uncertainty")
			own(item)
			return nil
		})
	}, func(problems bundle.Problems, stale bool) {
		if stale {
			refused(staleNotice().Text, http.StatusConflict)
			return
		}
		refused(mendOf(problems), http.StatusUnprocessableEntity)
	})
}

// own makes a line that follows the trip the packer's own.
func own(item map[string]any) {
	if follows, ok := item["follows"].(string); ok && follows != "" {
		item["fixed"] = true
	}
}

// chooseList checks the kit against a ready-made list, or marks a line of it as not needed.
func (s *Server) chooseList(c *gin.Context) {
	s.change(c, "check against a list", func(doc bundle.Doc) error {
		trip := doc.Object("trip")
		chosen, ok := trip["checklist"].(map[string]any)
		if !ok {
			chosen = map[string]any{}
		}
		if list, given := c.GetPostForm("list"); given {
			if list == "" {
				delete(trip, "checklist")
				return nil
			}
			if chosen["list"] != list {
				chosen = map[string]any{"list": list}
			}
		}
		if kind := c.PostForm("not_needed"); kind != "" {
			old, _ := chosen["not_needed"].([]any)
			not := slices.DeleteFunc(slices.Clone(old), func(k any) bool { return k == kind })
			if len(not) == len(old) {
				not = append(not, kind)
			}
			chosen["not_needed"] = not
		}
		trip["checklist"] = chosen
		if kind, known := kit.KindOf(c.PostForm("add")); known {
			item := map[string]any{"id": doc.FreshID(kind.Name), "name": kind.Name, "kind": kind.ID}
			if kind.Carry != "" {
				item["carry"] = string(kind.Carry)
			}
			doc.SetItems(append(doc.List("items"), item))
		}
		return nil
	}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
}

// layoutAgain shows Lay out after a refusal, with what was entered still in the form and the messages at their
// fields.
func (s *Server) layoutAgain(c *gin.Context, key string, patch *itemPatch, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		p := s.layoutPage(c, t, key)
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
