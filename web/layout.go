package web

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// layoutView is the kit laid out: the groundsheet, the same as a list, and beside it the sums, what is missing, and
// the chosen thing's form.
type layoutView struct {
	Sheet    template.HTML
	Packed   bool
	Other    string // address of the sheet the other way
	Sections []section
	Totals   []total
	Room     template.HTML
	RoomText string
	Duties   []dutyRow
	Dates    []string
	Behind   []string
	List     *checklistView
	Lists    []option
	Editor   *editor
	Add      addForm
	Known    []string // names to choose from while typing
	Legend   []draw.Swatch
	Assumed  []string
	KitBags  []kitBagView
	NotShelf int    // things that are not on the shelf
	Words    string // that the list is searched for
	Sorts    []option
	Bulk     []option
	Begins   bool // nothing was typed yet: the line for new things has the focus
}

type section struct {
	Name, Mass, Litres string
	Rows               []itemRow
}

type itemRow struct {
	Key, Name, Count, Mass, Litres, When string
	Swatch                               any
	Carry                                []option
	Guess, MassGuess, Chosen, Left       bool
	Unknown                              bool // nothing like it is known, and nothing measured
	Follows                              bool
	Href                                 string
	massG, litres                        float64
}

type total struct{ Name, Mass, Note string }

// dutyRow is a duty that is not met as it should be.
type dutyRow struct{ State, Word, Text string }

// addForm is what was typed for new things, when some of it was refused.
type addForm struct {
	Lines  string
	Errors []string
}

// Many reports whether what was refused is more than one line, which the single input cannot hold.
func (f addForm) Many() bool { return strings.Contains(f.Lines, "\n") }

// First is the refused line for the single input.
func (f addForm) First() string {
	if f.Many() {
		return ""
	}
	return f.Lines
}

var carryWords = []option{{Value: "pack", Label: "packed"}, {Value: "worn", Label: "worn"},
	{Value: "hand", Label: "in hand"}, {Value: "left", Label: "left"}}

// showLayout is the step Lay out.
func (s *Server) showLayout(c *gin.Context) {
	s.show(c, func(t *trip) { s.render(c, http.StatusOK, s.layoutPage(c, t, c.Query("item"))) })
}

func (s *Server) layoutPage(c *gin.Context, t *trip, chosen string) page {
	system := settingsOf(c).Units
	p := t.shell("layout", "Lay out")
	items := t.task().Items
	view := &layoutView{Packed: c.Query("soft") == "packed", Legend: draw.Legend(draw.ByNeed, t.units()),
		Assumed: t.bundle.Assumed}
	base := fmt.Sprintf("/trips/%d/layout", t.ID)
	view.Other = base + "?soft=packed"
	if view.Packed {
		view.Other = base
	}
	lay := draw.Lay{Packed: view.Packed, Chosen: chosen, System: system}
	for _, name := range kit.Sections {
		sec, things := t.section(name, chosen, system)
		if len(things) > 0 {
			view.Sections = append(view.Sections, sec)
			lay.Sections = append(lay.Sections, draw.LaySection{Name: sec.Name, Figure: sec.Mass, Things: things})
		}
	}
	view.Begins = !slices.ContainsFunc(items, func(it kit.Item) bool { return it.Follows == "" })
	view.Words, view.Bulk = clip(strings.TrimSpace(c.Query("q")), 100), bulkOptions()
	view.Sorts = options(sortWords, c.Query("sort"))
	view.Sections = searched(view.Sections, view.Words, c.Query("sort"), system)
	if c.Request.Method == http.MethodGet {
		p.Packs = s.packOptions(c, t)
	}
	if len(items) > 0 {
		view.Sheet = draw.FlatLay(lay)
	}
	if i := t.index(chosen); i >= 0 {
		view.Editor = newEditor(&items[i], system)
		view.Editor.keptIn(items, &items[i])
		view.Editor.shelf(s, c, &items[i])
	}
	if view.Editor == nil {
		view.KitBags = t.kitBags(c.Query("bag"), s.planner.Quickly())
	}
	view.sums(t, system)
	view.checks(s, c, t)
	sums := verdict.KitOf(items, &t.task().Pack)
	p.Headline = fmt.Sprintf("%s to pack: %s loose, %s tight, for %s of pack.", words.Things(sums.Packed.Pieces),
		system.Volume(sums.Packed.LooseL), system.Volume(sums.Packed.TightL), system.Volume(t.task().Pack.StatedL()))
	p.Detail = t.sentence() + " " + leftOutWords(t)
	p.Body, p.Twice = view, t.twice()
	return p
}

// sums fills in the weights and the room at a glance.
func (v *layoutView) sums(t *trip, system unit.System) {
	pack := &t.task().Pack
	sums := verdict.KitOf(t.task().Items, pack)
	// What is on the back is what the strip above says: the pack, what is in it, and the bags in use.
	left := 0.0
	for i := range t.plan.LeftOut {
		left += t.plan.LeftOut[i].Piece.MassG
	}
	bags := t.bagsG()
	note := "with the pack"
	if bags >= 1 {
		note += " and its dry bags, " + system.Mass(bags)
	}
	v.Totals = []total{
		{"On the back", system.Mass(t.judged.Balance.MassG), note},
		{"Base", system.Mass(sums.BaseG + bags), "pack and kit, without food, fuel and water"},
		{"Food, fuel, water", system.Mass(sums.ConsumableG), "at the start"},
		{"Worn and in hand", system.Mass(sums.Worn.MassG + sums.Hand.MassG),
			words.Things(sums.Worn.Pieces + sums.Hand.Pieces)},
		{"In all", system.Mass(pack.MassG + bags + sums.Packed.MassG + sums.Worn.MassG + sums.Hand.MassG),
			"everything that is to walk"},
	}
	if left > 0 {
		v.Totals = append(v.Totals, total{"Not in", system.Mass(left), "does not go into the pack as it is"})
	}
	if sums.Left.Pieces > 0 {
		v.Totals = append(v.Totals, total{"Left at home", system.Mass(sums.Left.MassG), words.Things(sums.Left.Pieces)})
	}
	room := 0.0
	for i := range pack.Zones {
		if z := &pack.Zones[i]; z.Kind != "straps" && z.DrawsOn == nil {
			room += z.CapacityL()
		}
	}
	v.Room = draw.RoomBar(sums.Packed.TightL, sums.Packed.LooseL, room)
	v.RoomText = fmt.Sprintf("%s tight, %s loose, for %s with collar and pockets. Litres are not the verdict: shapes decide, and the trial packing looks at them.",
		system.Volume(sums.Packed.TightL), system.Volume(sums.Packed.LooseL), system.Volume(room))
}

// checks fills in what is missing, only there once, doubled, out of date or left behind last time, and the ready-made
// list.
func (v *layoutView) checks(s *Server, c *gin.Context, t *trip) {
	items := t.task().Items
	if len(items) > 0 {
		for _, d := range kit.ServedBy(items, t.task().Trip.Nights) {
			duty := words.Duty(d.Function)
			switch {
			case d.Missing():
				v.Duties = append(v.Duties, dutyRow{"stop", "missing", fmt.Sprintf("%s: %s.", unit.Capital(duty.Name), duty.Words)})
			case d.Single():
				v.Duties = append(v.Duties,
					dutyRow{"look", "one only", fmt.Sprintf("%s: only %s; take %s.", unit.Capital(duty.Name), d.By[0], duty.Words)})
			case d.Doubled():
				v.Duties = append(v.Duties,
					dutyRow{"look", "doubled", fmt.Sprintf("%s: %s.", unit.Capital(duty.Name), strings.Join(d.By, ", "))})
			}
		}
	}
	day := time.Now().Format(time.DateOnly)
	if _, end, ok := t.task().Trip.Times(); ok {
		day = end.Format(time.DateOnly)
	}
	for i := range items {
		if it := &items[i]; it.Carry != kit.Left && it.OutOfDate(day) {
			v.Dates = append(v.Dates, fmt.Sprintf("%s is out of date since %s.", it.Name, it.Expires))
		}
		if items[i].Shelf == "" && items[i].Consumable == "" {
			v.NotShelf++
		}
	}
	if behind, err := s.store.LeftBehind(c.Request.Context(), t.ID); err == nil {
		v.Behind = behind
	}
	v.List = t.checklist()
	v.Lists = append(v.Lists, option{"", "choose a list", v.List == nil})
	for _, l := range kit.Checklists {
		v.Lists = append(v.Lists, option{l.ID, l.Name, v.List != nil && v.List.ID == l.ID})
	}
	v.Known = s.knownNames(c)
}

// knownNames are the shelf's things and the kinds, to choose from while typing.
func (s *Server) knownNames(c *gin.Context) []string {
	var names []string
	if things, err := s.store.Things(c.Request.Context(), store.Query{Status: "here"}); err == nil {
		for _, t := range things {
			names = append(names, t.Name)
		}
	}
	for _, k := range kit.Kinds {
		names = append(names, k.Name)
	}
	slices.Sort(names)
	return slices.Compact(names)
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
		return fmt.Sprintf("Nothing left out of the %s.", unit.Small(t.task().Pack.Name))
	case len(names) > 4:
		return fmt.Sprintf("Left out: %s and %d more.", strings.Join(names[:4], ", "), len(names)-4)
	}
	return "Left out: " + strings.Join(names, ", ") + "."
}

func (t *trip) section(name kit.Section, chosen string, system unit.System) (section, []*kit.Item) {
	sec := section{Name: string(name)}
	var things []*kit.Item
	raw := t.Doc.List("items")
	mass, litres := 0.0, 0.0
	for i := range t.task().Items {
		it := &t.task().Items[i]
		if it.Section() != name {
			continue
		}
		things = append(things, it)
		if it.Carry != kit.Left {
			mass += it.TotalG()
			litres += float64(it.Count) * it.Shape.Litres(0)
		}
		row := itemRow{Key: it.ID, Name: it.Name, Mass: system.Mass(it.TotalG()), Litres: litresOf(it, system),
			Swatch: draw.SwatchFor(it.Use.When),
			When:   draw.WhenName(it.Use.When), Guess: it.Measured == kit.Guess, MassGuess: raw[i]["mass_g"] == nil ||
				raw[i]["mass_guess"] == true,
			Chosen: it.ID == chosen, Left: it.Carry == kit.Left, Follows: it.Follows != "" && !it.Fixed,
			Href: fmt.Sprintf("/trips/%d/layout?item=%s", t.ID, it.ID)}
		if it.Count > 1 {
			row.Count = fmt.Sprintf("%d ×", it.Count)
		}
		row.massG, row.litres = it.TotalG(), float64(it.Count)*it.Shape.Litres(0)
		row.Carry = options(carryWords, string(it.Carry))
		row.Unknown = row.Guess && notKnown(it)
		sec.Rows = append(sec.Rows, row)
	}
	sec.Mass, sec.Litres = system.Mass(mass), system.Volume(litres)
	return sec, things
}

var sortWords = []option{{Value: "", Label: "sections"}, {Value: "weight", Label: "weight, heaviest first"},
	{Value: "room", Label: "room, largest first"}, {Value: "name", Label: "name"},
	{Value: "guess", Label: "guesses, largest first"}}

// searched keeps the lines of a list that are called so, and puts them in an order.
func searched(sections []section, wanted, order string, system unit.System) []section {
	called := func(row itemRow) bool {
		name := strings.ToLower(row.Name)
		for _, w := range strings.Fields(strings.ToLower(wanted)) {
			if !strings.Contains(name, w) {
				return false
			}
		}
		return order != "guess" || row.Guess
	}
	var kept []section
	all := section{Name: "All"}
	for _, sec := range sections {
		sec.Rows = slices.DeleteFunc(slices.Clone(sec.Rows), func(row itemRow) bool { return !called(row) })
		if len(sec.Rows) > 0 {
			kept = append(kept, sec)
			all.Rows = append(all.Rows, sec.Rows...)
		}
	}
	compare := map[string]func(a, b itemRow) int{
		"weight": func(a, b itemRow) int { return cmp.Compare(b.massG, a.massG) },
		"room":   func(a, b itemRow) int { return cmp.Compare(b.litres, a.litres) },
		"guess":  func(a, b itemRow) int { return cmp.Compare(b.litres, a.litres) },
		"name":   func(a, b itemRow) int { return strings.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)) },
	}[order]
	if compare == nil || len(all.Rows) == 0 {
		return kept
	}
	slices.SortStableFunc(all.Rows, compare)
	mass, litres := 0.0, 0.0
	for _, row := range all.Rows {
		if !row.Left {
			mass, litres = mass+row.massG, litres+row.litres
		}
	}
	all.Mass, all.Litres = system.Mass(mass), system.Volume(litres)
	return []section{all}
}

// litresOf is the room of a line: one figure for what keeps its shape, loose and tight for what gives way.
func litresOf(it *kit.Item, system unit.System) string {
	n := float64(it.Count)
	if it.Shape.Kind == kit.Soft {
		return system.Volume(n*it.Shape.LooseL) + " → " + system.Volume(n*it.Shape.TightL)
	}
	return system.Volume(n * it.Shape.Litres(0))
}

// checklistView is a ready-made list against the kit.
type checklistView struct {
	ID, Name          string
	Have, Not, Missed int
	Lines             []checkLineRow
}

type checkLineRow struct {
	Kind, Word, State, By string // State have, not or missing
}

// checklist answers the list that the trip has chosen; nil when it has none.
func (t *trip) checklist() *checklistView {
	trip, _ := t.Doc["trip"].(map[string]any)
	chosen, _ := trip["checklist"].(map[string]any)
	id, _ := chosen["list"].(string)
	list, ok := kit.ChecklistOf(id)
	if !ok {
		return nil
	}
	not, _ := chosen["not_needed"].([]any)
	v := &checklistView{ID: list.ID, Name: list.Name}
	for _, line := range list.Lines {
		row := checkLineRow{Kind: line.Kinds[0], Word: line.Word, State: "missing", By: line.MetBy(t.task().Items)}
		switch {
		case row.By != "":
			row.State = "have"
			v.Have++
		case slices.Contains(not, any(row.Kind)):
			row.State = "not"
			v.Not++
		default:
			v.Missed++
		}
		v.Lines = append(v.Lines, row)
	}
	rank := map[string]int{"missing": 0, "not": 1, "have": 2}
	slices.SortStableFunc(v.Lines, func(a, b checkLineRow) int { return cmp.Compare(rank[a.State], rank[b.State]) })
	return v
}
