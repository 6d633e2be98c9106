package web

import (
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/party"
	"tornister/core/unit"
	"tornister/store"
	"tornister/words"
)

// partyRefused shows the room again with what is wrong.
func (s *Server) partyRefused(c *gin.Context, status int, fill func(v *partyView), text string) {
	s.show(c, func(t *trip) {
		p, err := s.partyPage(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		if fill != nil {
			fill(p.Body.(*partyView))
		}
		if text != "" {
			p.Notice = &notice{Kind: "wrong", Text: text}
		}
		s.render(c, status, p)
	})
}

// changeParty applies an edit of the party.
func (s *Server) changeParty(c *gin.Context, label string, edit func(bundle.Doc) error) {
	s.change(c, label, edit, func(problems bundle.Problems, stale bool) {
		if stale {
			s.partyRefused(c, http.StatusConflict, nil, staleNotice().Text)
			return
		}
		s.partyRefused(c, http.StatusUnprocessableEntity, nil, mendOf(problems))
	})
}

// editParty changes the party itself.
func editParty(edit func(*bundle.Party) error) func(bundle.Doc) error {
	return func(doc bundle.Doc) error {
		p := doc.Party()
		if p == nil {
			return bundle.Problems{{Pointer: "/party", What: "nobody else walks along", Mend: "add somebody first"}}
		}
		if err := edit(p); err != nil {
			return err
		}
		return doc.SetParty(p)
	}
}

// takeShare settles a sharing that was shown.
func (s *Server) takeShare(c *gin.Context) {
	few := c.PostForm("mode") == "few"
	s.show(c, func(t *trip) {
		shared, err := t.Doc.Sharing()
		if err != nil {
			s.refuse(c, err)
			return
		}
		found := s.sharing(t, shared, few)
		if blocked := new(party.Blocked); errors.As(found.err, &blocked) {
			s.partyRefused(c, http.StatusUnprocessableEntity, nil,
				sentence("it cannot be shared: "+words.Blocked(blocked, shared.Name)))
			return
		}
		s.changeParty(c, map[bool]string{true: "share anew with few changes", false: "share fairly"}[few],
			func(doc bundle.Doc) error { return doc.Share(found.answer.Holder) })
	})
}

// givePart gives a part to a bearer, or with none back to the ground.
func (s *Server) givePart(c *gin.Context) {
	part, to := c.PostForm("part"), c.PostForm("bearer")
	s.changeParty(c, "give a part away", func(doc bundle.Doc) error {
		p := doc.Party()
		if p == nil || to != "" && p.Bearer(to) == nil ||
			!slices.ContainsFunc(p.Parts(), func(one bundle.Part) bool { return one.ID == part }) {
			return bundle.Problems{{Pointer: "/party/agreed", What: "the party has no such part or bearer any more",
				Mend: "choose again from the newest list"}}
		}
		holder := p.Agreed
		if holder == nil {
			holder = map[string]string{}
		}
		if holder[part] = to; to == "" {
			delete(holder, part)
		}
		return doc.Share(holder)
	})
}

// keepFree says how much room every pack keeps.
func (s *Server) keepFree(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	litres := r.quantity("litres", unit.Volume, bare(unitsOf(r.system).litre))
	if litres > 50 {
		r.wrong["litres"] = "no pack here keeps so much free"
	}
	if r.wrong["litres"] != "" {
		s.partyRefused(c, http.StatusUnprocessableEntity,
			func(v *partyView) { v.Keep.Value, v.Keep.Error = c.PostForm("litres"), r.wrong["litres"] }, "")
		return
	}
	s.changeParty(c, "room that each pack keeps",
		editParty(func(p *bundle.Party) error { p.KeepL = roundTo(litres, 2); return nil }))
}

// switchBearer puts another's pack on the floor. It stays on the step one is at.
func (s *Server) switchBearer(c *gin.Context) {
	to := c.PostForm("bearer")
	label := "another's pack"
	if t, err := s.trip(c); err == nil {
		if p := t.Doc.Party(); p != nil && p.Bearer(to) != nil {
			label = "the pack of " + p.Bearer(to).Name + " on the floor"
		}
	}
	s.changeParty(c, label, func(doc bundle.Doc) error { return doc.Switch(to) })
}

// whoIs reads the form of a bearer.
func (r *reading) whoIs(b *bundle.Bearer) (carrier map[string]any) {
	u := unitsOf(r.system)
	b.Name, b.Kind = r.text("name"), party.Kind(r.text("kind"))
	if b.Name == "" {
		r.wrong["name"] = "give a name"
	}
	if !slices.ContainsFunc(words.BearerKinds, func(k struct {
		Kind party.Kind
		Word string
	}) bool {
		return k.Kind == b.Kind
	}) {
		b.Kind = party.Adult
	}
	b.Leads, b.Away = r.ticked("leads"), r.ticked("away")
	carrier = map[string]any{}
	if grams, given := r.optional("mass", unit.Mass, bare(u.body)); given {
		kg := grams / 1000
		if kg < 5 || kg > 250 {
			r.wrong["mass"] = fmt.Sprintf("give between %s and %s", r.system.Body(5), r.system.Body(250))
		}
		carrier["mass_kg"] = bundle.Number(roundTo(kg, 2))
	}
	if cm, given := r.optional("height", unit.Length, u.length); given {
		if cm < 50 || cm > 250 {
			r.wrong["height"] = fmt.Sprintf("give between %s and %s", r.system.Length(50), r.system.Length(250))
		}
		carrier["height_cm"] = bundle.Number(roundTo(cm, 1))
	}
	if text := r.text("age"); text != "" {
		age, err := strconv.Atoi(text)
		if err != nil || age < 0 || age > 120 {
			r.wrong["age"] = "give whole years from 0 to 120"
		}
		carrier["age"] = bundle.Number(float64(age))
	}
	if grams, given := r.optional("limit", unit.Mass, bare(u.body)); given {
		kg := grams / 1000
		if kg <= 0 || kg > 90 {
			r.wrong["limit"] = fmt.Sprintf("give more than nothing, and at most %s; left empty, the usual share is taken",
				r.system.Body(90))
		}
		b.LimitG = roundTo(kg*1000, 0)
	}
	return carrier
}

// addBearer lets somebody join.
func (s *Server) addBearer(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	var b bundle.Bearer
	carrier := r.whoIs(&b)
	again := func(v *partyView) {
		v.Add.Kinds = bearerKinds(b.Kind)
		v.Add.From = options(v.Add.From, r.text("from"))
		for _, f := range []*field{&v.Add.Name, &v.Add.Mass, &v.Add.Age} {
			f.Value, f.Error = c.PostForm(f.Name), r.wrong[f.Name]
		}
	}
	if len(r.wrong) > 0 {
		s.partyRefused(c, http.StatusUnprocessableEntity, again, "")
		return
	}
	if len(carrier) > 0 {
		b.Carrier = carrier
	}
	var from bundle.Doc
	same := r.text("from") == "same"
	if id, err := strconv.ParseUint(r.text("from"), 10, 32); err == nil {
		other, err := s.store.Trip(c.Request.Context(), uint(id))
		if err != nil {
			s.partyRefused(c, http.StatusUnprocessableEntity, again,
				"The trip whose kit is to come along is no more. Choose another.")
			return
		}
		from = other.Doc
	}
	s.changeParty(c, b.Name+" walks along", func(doc bundle.Doc) error {
		if same {
			from = doc
		}
		_, err := doc.AddBearer(b, from)
		return err
	})
}

// changeBearer changes who somebody is.
func (s *Server) changeBearer(c *gin.Context) {
	id := c.Param("bearer")
	r := readForm(c, settingsOf(c).Units)
	var said bundle.Bearer
	carrier := r.whoIs(&said)
	if len(r.wrong) > 0 {
		c.Request.URL.RawQuery = "bearer=" + id
		s.partyRefused(c, http.StatusUnprocessableEntity, func(v *partyView) {
			if v.Bearer == nil {
				return
			}
			v.Bearer.Kinds = bearerKinds(said.Kind)
			for _, f := range []*field{&v.Bearer.Name, &v.Bearer.Mass, &v.Bearer.Height, &v.Bearer.Age, &v.Bearer.Limits} {
				f.Value, f.Error = c.PostForm(f.Name), r.wrong[f.Name]
			}
		}, "")
		return
	}
	s.changeParty(c, "who "+said.Name+" is", func(doc bundle.Doc) error {
		p := doc.Party()
		if p == nil || p.Bearer(id) == nil {
			return bundle.Problems{{Pointer: "/party/bearers", What: "that one does not walk along any more",
				Mend: "look at the newest list"}}
		}
		b := p.Bearer(id)
		b.Name, b.Kind, b.Leads, b.Away, b.LimitG = said.Name, said.Kind, said.Leads, said.Away, said.LimitG
		if b.ID == p.Now {
			trip := doc.Object("trip")
			was, _ := trip["carrier"].(map[string]any)
			trip["carrier"] = withOther(was, carrier)
		} else {
			b.Carrier = withOther(b.Carrier, carrier)
		}
		return doc.SetParty(p)
	})
}

// withOther is an object with some of its fields said anew.
func withOther(old, said map[string]any) map[string]any {
	fields := map[string]any{}
	maps.Copy(fields, old)
	for _, key := range []string{"mass_kg", "height_cm", "age"} {
		delete(fields, key)
	}
	maps.Copy(fields, said)
	return fields
}

// removeBearer lets somebody leave for good.
func (s *Server) removeBearer(c *gin.Context) {
	s.changeParty(c, "somebody leaves the party",
		func(doc bundle.Doc) error { return doc.RemoveBearer(c.Param("bearer")) })
}

// addGroup puts typed things on the ground in the middle.
func (s *Server) addGroup(c *gin.Context) {
	all, tooMany := s.understand(c, c.PostForm("lines"))
	var bad, wrong []string
	var things []map[string]any
	for _, one := range all {
		if one.err != nil {
			bad, wrong = append(bad, one.line), append(wrong, fmt.Sprintf("%s: %s.", one.line, one.err))
			continue
		}
		thing := one.item
		if len(one.more) > 0 {
			parts := []any{}
			taken := map[string]bool{}
			for _, part := range append([]map[string]any{one.item}, one.more...) {
				own := bundle.Own(part)
				name, _ := own["name"].(string)
				own["id"] = bundle.FreeID(name, "part", taken)
				taken[own["id"].(string)] = true
				parts = append(parts, own)
			}
			thing = map[string]any{"name": one.told.Name, "parts": parts}
		}
		things = append(things, thing)
	}
	if tooMany != nil {
		wrong = append(wrong, sentence(tooMany.Error()))
	}
	if len(all) == 0 {
		wrong = append(wrong, "Type what the group shares: tent for two 2.9 kg, gas canister 380 g")
	}
	again := func(v *partyView) { v.Lines, v.Wrong = strings.Join(bad, "\n"), wrong }
	if len(things) == 0 {
		s.partyRefused(c, http.StatusUnprocessableEntity, again, "")
		return
	}
	add := editParty(func(p *bundle.Party) error {
		for _, thing := range things {
			p.AddThing(thing)
		}
		return nil
	})
	if len(wrong) == 0 {
		s.changeParty(c, "what the group shares", add)
		return
	}
	id, err := tripID(c)
	if err == nil {
		err = s.store.Change(c.Request.Context(), id, store.AnyVersion, "what the group shares", add)
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	s.partyRefused(c, http.StatusUnprocessableEntity, again, "")
}

// removeGroup takes a thing of the group's away, with its parts from all lists.
func (s *Server) removeGroup(c *gin.Context) {
	id := c.PostForm("thing")
	s.changeParty(c, "without a thing of the group's", func(doc bundle.Doc) error {
		err := editParty(func(p *bundle.Party) error {
			p.Group = slices.DeleteFunc(p.Group, func(thing map[string]any) bool { return thing["id"] == id })
			known := map[string]bool{}
			for _, thing := range p.Group {
				of, _ := thing["id"].(string)
				known[of] = true
			}
			for _, part := range p.Parts() {
				known[part.ID] = true
			}
			for part := range p.Agreed {
				if !known[part] {
					delete(p.Agreed, part)
				}
			}
			for i := range p.Ties {
				p.Ties[i].Parts = slices.DeleteFunc(p.Ties[i].Parts, func(name string) bool { return !known[name] })
			}
			p.Ties = slices.DeleteFunc(p.Ties, func(tie bundle.Tie) bool {
				return len(tie.Parts) == 0 || len(tie.Parts) == 1 && tie.Bearer == "" && tie.Who == ""
			})
			return nil
		})(doc)
		if err != nil {
			return err
		}
		return doc.Share(doc.Party().Agreed)
	})
}

// addTie ties the chosen part, or takes the ties that are common practice.
func (s *Server) addTie(c *gin.Context) {
	if c.PostForm("usual") != "" {
		s.changeParty(c, "the usual ties",
			editParty(func(p *bundle.Party) error { p.Ties = append(p.Ties, p.UsualTies()...); return nil }))
		return
	}
	tie := bundle.Tie{Rule: party.Rule(c.PostForm("rule")), Parts: []string{c.PostForm("part")}}
	switch tie.Rule {
	case party.Together, party.Apart:
		tie.Parts = append(tie.Parts, c.PostForm("with"))
		if tie.Parts[0] == tie.Parts[1] {
			s.partyRefused(c, http.StatusUnprocessableEntity, nil, "A part cannot be tied to itself. Choose another one.")
			return
		}
	default:
		kind, who, _ := strings.Cut(c.PostForm("whom"), ":")
		if kind == "bearer" {
			tie.Bearer = who
		} else {
			tie.Who = who
		}
	}
	s.changeParty(c, "a tie", editParty(func(p *bundle.Party) error { p.Ties = append(p.Ties, tie); return nil }))
}

// removeTie takes a tie away.
func (s *Server) removeTie(c *gin.Context) {
	at, err := strconv.Atoi(c.PostForm("at"))
	s.changeParty(c, "a tie less", editParty(func(p *bundle.Party) error {
		if err != nil || at < 0 || at >= len(p.Ties) {
			return bundle.Problems{{Pointer: "/party/ties", What: "there is no such tie any more",
				Mend: "look at the newest list"}}
		}
		p.Ties = slices.Delete(p.Ties, at, at+1)
		return nil
	}))
}
