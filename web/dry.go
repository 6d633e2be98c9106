package web

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/web/draw"
	"tornister/words"
)

// dryView is the step Keep dry.
type dryView struct {
	Drawing              template.HTML
	Careless             string // names of what does not mind
	Bags                 []bagView
	Idle                 []bagView
	Weak                 []weakRow
	Sources              []string
	Schools              []schoolRow
	Trial                *schoolTrial
	Liner                string
	Questions            []questionRow
	NightWords, NightOut string
	Night                []string
	Add                  bagForm
	Kinds                []option
}

type bagView struct {
	ID, Name, Words, Zone, Things string
	Picture                       template.HTML
}

type weakRow struct{ Href, Name, Why, Mend string }

type schoolRow struct {
	Value, Name, Figures string
	Try                  string // address that shows its effect on all checks
	Chosen, Key          bool   // Key: the one that the key for trying takes
}

// schoolTrial is another school of dryness and what it does to all checks, planned anew.
type schoolTrial struct {
	Value, Name string
	Effect      *trialView
}

// tryDry plans with the school that an address names; nil for none, or for the one that is chosen.
func (t *trip) tryDry(school string, system unit.System, options load.Options) *schoolTrial {
	task := *t.task()
	if !task.Method.Set("dry", school) || task.Method == t.task().Method {
		return nil
	}
	return &schoolTrial{school, unit.Capital(words.School("dry", school)), t.sideBySide(&task, options, system)}
}

// questionRow answers the two questions for things alike.
type questionRow struct {
	Name, Words string
	Things      string
	Count       int
}

type bagForm struct {
	Name, Litres, Mass, Colour field
	Kind                       []option
}

var bagKinds = []option{{Value: "dry-bag", Label: "dry bag"}, {Value: "liner", Label: "liner"},
	{Value: "cover", Label: "cover over the pack"}, {Value: "scent-bag", Label: "scent-tight bag"}}

func (s *Server) showDry(c *gin.Context) {
	s.show(c, func(t *trip) {
		system := settingsOf(c).Units
		p := s.dryPage(t, system)
		p.Body.(*dryView).Trial = t.tryDry(c.Query("try"), system, s.planner.Quickly())
		s.render(c, http.StatusOK, p)
	})
}

func (s *Server) dryPage(t *trip, system unit.System) page {
	p := t.shell("dry", "Keep dry")
	pack, barriers := t.judged.Pack, t.judged.Barriers
	v := &dryView{Add: newBagForm(system), Kinds: bagKinds}
	v.shelters(pack, &barriers)
	v.bags(pack, &barriers, system)
	for _, w := range barriers.Weak {
		v.Weak = append(v.Weak, weakRow{fmt.Sprintf("/trips/%d/layout?item=%s", t.ID, w.Piece.ID), w.Piece.Name,
			words.Say(w.Why, system), words.Say(w.Mend, system)})
	}
	for _, source := range pack.Sources(&barriers) {
		found := fmt.Sprintf("%s: %s", source.Piece.Name, words.Say(source.Why, system))
		if len(source.Threatens) > 0 {
			found += ", with no barrier to " + namesOf(source.Threatens, 4)
		} else {
			found += ", with a barrier to all that must stay dry"
		}
		v.Sources = append(v.Sources, found+".")
	}
	v.schools(t, system)
	v.questions(t)
	v.night(t, pack, system)
	body := t.task().Pack.Of(rucksack.Body)
	switch {
	case pack.Liner() == nil:
	case pack.LinerShuts(body):
		v.Liner = fmt.Sprintf("The liner holds %s; %s are needed to roll it shut with a hand's width.",
			system.Volume(pack.Liner().VolumeL), system.Volume(pack.LinerNeedL(body)))
	default:
		v.Liner = fmt.Sprintf("The liner holds only %s; %s are needed to roll it shut with a hand's width.",
			system.Volume(pack.Liner().VolumeL), system.Volume(pack.LinerNeedL(body)))
	}
	name, _ := schoolsOf(t, "dry")
	p.Headline = "All dry in steady rain."
	if n := len(barriers.Weak); n > 0 {
		p.Headline = fmt.Sprintf("%s in steady rain.", unit.Capital(count(n, "weak point")))
	}
	p.Detail = fmt.Sprintf("School: %s. %s in use, %s.", name, unit.Capital(count(len(barriers.Used), "dry bag")),
		system.Mass(bagMass(barriers.Used)))
	if len(barriers.Used) > 0 && barriers.Proven {
		p.Detail += " No fewer would do."
	}
	p.Body = v
	return p
}

func bagMass(used []dry.Barrier) (g float64) {
	for _, b := range used {
		g += b.Bag.MassG
	}
	return g
}

// shelters lists what must not get wet, weak things first, then by need.
func (v *dryView) shelters(pack *dry.Pack, barriers *dry.Barriers) {
	in, weak := map[kit.Piece]*dry.Bag{}, map[kit.Piece]bool{}
	for _, b := range barriers.Used {
		for _, piece := range b.Things {
			in[piece] = b.Bag
		}
	}
	for _, w := range barriers.Weak {
		weak[w.Piece] = true
	}
	var list []draw.Shelter
	var careless []kit.Piece
	for _, l := range pack.Things {
		need := dry.Need(l.Piece.Item)
		if need == 0 {
			careless = append(careless, l.Piece)
			continue
		}
		sh := draw.Shelter{Item: l.Piece.ID, Name: l.Piece.Name, Need: need, Dry: !weak[l.Piece]}
		for _, layer := range pack.Layers(l) {
			column, word := 4, layer.Name
			switch {
			case layer.Thin:
				column, word = 1, ""
			case layer.Name == "sealed zone":
				column = 1
			case pack.Liner() != nil && layer.Name == pack.Liner().ID:
				column, word = 2, ""
			case strings.HasPrefix(layer.Name, "IP"):
			default:
				column, word = 0, ""
			}
			sh.Layers = append(sh.Layers, draw.ShelterLayer{Column: column, Word: word, Thin: layer.Thin})
		}
		if bag := in[l.Piece]; bag != nil {
			sh.Layers = append(sh.Layers, draw.ShelterLayer{Column: 3, Word: cmp.Or(bag.Colour, bag.Name), Colour: bag.Colour})
		}
		slices.SortStableFunc(sh.Layers, func(a, b draw.ShelterLayer) int { return cmp.Compare(a.Column, b.Column) })
		list = append(list, sh)
	}
	slices.SortStableFunc(list, func(a, b draw.Shelter) int {
		rank := map[bool]int{false: 0, true: 1}
		return cmp.Or(cmp.Compare(rank[a.Dry], rank[b.Dry]), cmp.Compare(b.Need, a.Need))
	})
	v.Drawing = draw.Layers(list)
	v.Careless = namesOf(careless, 12)
}

// bags lists those in use as pictures, and those that are not.
func (v *dryView) bags(pack *dry.Pack, barriers *dry.Barriers, system unit.System) {
	used := map[string]bool{}
	for _, b := range slices.Concat(barriers.Used, barriers.Wet) {
		used[b.Bag.ID] = true
		v.Bags = append(v.Bags, bagView{ID: b.Bag.ID, Name: b.Bag.Name, Zone: unit.Small(pack.Pack.Zone(b.Zone).Name),
			Things: namesOf(b.Things, 20),
			Words: fmt.Sprintf("%s of %s, in the %s", system.Volume(b.Litres), system.Volume(b.Bag.VolumeL),
				unit.Small(pack.Pack.Zone(b.Zone).Name)), Picture: draw.BagPicture(b.Bag, b.Share())})
	}
	for i := range pack.Bags {
		b := &pack.Bags[i]
		if used[b.ID] {
			continue
		}
		said := labelFor(bagKinds, b.Kind)
		if b.VolumeL > 0 {
			said += ", " + system.Volume(b.VolumeL)
		}
		if b.MassG > 0 {
			said += ", " + system.Mass(b.MassG)
		}
		if liner := pack.Liner(); liner != nil && liner.ID == b.ID {
			said += ", in use"
		}
		v.Idle = append(v.Idle, bagView{ID: b.ID, Name: b.Name, Words: said})
	}
}

// night says which scent-tight bags keep from animals what they come for, where they come.
func (v *dryView) night(t *trip, pack *dry.Pack, system unit.System) {
	where := ""
	for i, c := range t.task().Trip.Camps {
		if c.Animals && !c.FoodLocker && where == "" {
			where = cmp.Or(c.Place, fmt.Sprintf("night %d", i+1))
		}
	}
	n := pack.AtNight()
	if where == "" && len(n.Program.Bags) == 0 {
		return
	}
	v.NightWords = "Nobody says that animals come for food where you sleep."
	if where != "" {
		v.NightWords = fmt.Sprintf("Animals come for food at %s.", where)
	}
	for _, b := range n.Bags {
		v.Night = append(v.Night, fmt.Sprintf("%s: %s, %s of %s.", b.Bag.Name, namesOf(b.Things, 12),
			system.Volume(b.Litres), system.Volume(b.Bag.VolumeL)))
	}
	if len(n.Out) > 0 {
		v.NightOut = fmt.Sprintf("In none: %s, %s. A scent-tight bag of %s would take it; or a food canister, or a line to hang it.", namesOf(n.Out, 12), system.Volume(n.Litres), system.Volume(dry.BuyL(n.Litres)))
	}
}

// schools shows what each would ask for, with the things where they lie now.
func (v *dryView) schools(t *trip, system unit.System) {
	for _, q := range method.Questions {
		if q.Key != "dry" {
			continue
		}
		for _, a := range q.Answers {
			other := *t.task()
			other.Method.Dry = a
			_, barriers := load.Barriers(&other, t.plan)
			v.Schools = append(v.Schools, schoolRow{Value: a, Name: unit.Capital(words.School(q.Key, a)),
				Figures: fmt.Sprintf("%s, %s, %s", count(len(barriers.Weak), "weak point"),
					count(len(barriers.Used), "bag"), system.Mass(bagMass(barriers.Used))),
				Try: fmt.Sprintf("/trips/%d/dry?try=%s#trial", t.ID, a), Chosen: a == t.task().Method.Dry})
		}
	}
	if first := slices.IndexFunc(v.Schools, func(r schoolRow) bool { return !r.Chosen }); first >= 0 {
		v.Schools[first].Key = true
	}
}

// questions sorts the kit by the two questions.
func (v *dryView) questions(t *trip) {
	rows := []questionRow{{Name: "Takes up water and suffers", Words: "must stay dry, or be kept from soaking"},
		{Name: "Suffers, takes up none", Words: "electronics"},
		{Name: "Takes up water, does not suffer", Words: "may get wet"}, {Name: "Neither", Words: "does not mind"}}
	names := make([][]kit.Piece, len(rows))
	for _, piece := range kit.Pieces(t.task().Items, kit.Pack) {
		w := piece.Water
		at := 3
		switch {
		case w.Absorbs && w.Suffers:
			at = 0
		case w.Suffers:
			at = 1
		case w.Absorbs:
			at = 2
		}
		names[at] = append(names[at], piece)
	}
	for i := range rows {
		rows[i].Count = len(names[i])
		rows[i].Things = namesOf(names[i], 40)
	}
	v.Questions = rows
}

func newBagForm(system unit.System) bagForm {
	u := unitsOf(system)
	return bagForm{Name: field{Name: "name", Label: "Name"},
		Litres: field{Name: "litres", Label: "Holds", Unit: u.litre},
		Mass:   field{Name: "mass", Label: "Weighs", Unit: u.mass}, Colour: field{Name: "colour", Label: "Colour"},
		Kind: options(bagKinds, "dry-bag")}
}

// addBag puts a bag among those owned.
func (s *Server) addBag(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	u := unitsOf(r.system)
	kind, name := r.text("kind"), r.text("name")
	if name == "" {
		r.wrong["name"] = "give it a name"
	}
	litres, sized := r.optional("litres", unit.Volume, bare(u.litre))
	mass, weighed := r.optional("mass", unit.Mass, u.mass)
	if !sized && kind != "cover" {
		r.wrong["litres"] = "give its litres"
	}
	again := func(status int, told *notice) {
		s.show(c, func(t *trip) {
			p := s.dryPage(t, r.system)
			v := p.Body.(*dryView)
			v.Add.Kind = options(bagKinds, kind)
			for _, f := range []*field{&v.Add.Name, &v.Add.Litres, &v.Add.Mass, &v.Add.Colour} {
				f.Value, f.Error = c.PostForm(f.Name), r.wrong[f.Name]
			}
			p.Notice, p.Here = told, localPath(c.PostForm("return"), "/")
			s.render(c, status, p)
		})
	}
	if len(r.wrong) > 0 {
		again(http.StatusUnprocessableEntity, nil)
		return
	}
	s.change(c, "a bag more: "+name, func(doc bundle.Doc) error {
		bag := map[string]any{"id": doc.FreshBagID(name), "name": name, "kind": kind}
		if sized {
			bag["volume_l"] = bundle.Number(roundTo(litres, 3))
		}
		if weighed {
			bag["mass_g"] = bundle.Number(roundTo(mass, 2))
		}
		if colour := strings.ToLower(r.text("colour")); colour != "" {
			bag["colour"] = colour
		}
		doc.SetBags(append(doc.List("bags"), bag))
		return nil
	}, func(problems bundle.Problems, stale bool) {
		if stale {
			again(http.StatusConflict, staleNotice())
			return
		}
		again(http.StatusUnprocessableEntity,
			&notice{Kind: "wrong", Text: "Not added: " + problems[0].What + "; " + problems[0].Mend + "."})
	})
}

func (s *Server) removeBag(c *gin.Context) {
	id := c.Param("bag")
	s.change(c, "a bag less", func(doc bundle.Doc) error {
		bags := slices.DeleteFunc(slices.Clone(doc.List("bags")), func(b map[string]any) bool { return b["id"] == id })
		if len(bags) == len(doc.List("bags")) {
			return bundle.Problems{{Pointer: "/bags", What: "there is no such bag any more", Mend: "look at the newest list"}}
		}
		doc.SetBags(bags)
		return nil
	}, func(problems bundle.Problems, stale bool) {
		s.show(c, func(t *trip) {
			p := s.dryPage(t, settingsOf(c).Units)
			p.Notice = staleNotice()
			p.Here = localPath(c.PostForm("return"), "/")
			s.render(c, http.StatusConflict, p)
		})
	})
}

// exportBarrierLP gives the choice of bags as a program for an outside solver.
func (s *Server) exportBarrierLP(c *gin.Context) {
	s.show(c, func(t *trip) {
		attachment(c, "text/plain; charset=utf-8", "bags.lp")
		if err := t.judged.Barriers.Program.WriteLP(c.Writer); err != nil {
			_ = c.Error(err)
		}
	})
}
