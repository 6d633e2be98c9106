package web

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
)

// editor is the form of one thing.
type editor struct {
	Key, Name                         string
	NameField, Count, Mass            field
	Group, Carry, When, Shape, Source []option
	In                                []option // bags and vessels that it may be kept in; none on the shelf
	Holds                             string   // of a bag: what is kept in it
	Kinds                             []option // what it may be, of a thing that was not measured
	Unknown                           bool
	PerDay                            field
	Urgent                            bool
	Measures                          []field
	Volume                            string
	Absorbs, Suffers, Leaks, Wet      bool
	Case                              field
	Traits, Functions, Needs          []option
	Consumable                        []option
	Expires, Uncertain                field
	Carried, Used                     field
	Warmth                            []field // comfort and limit of a sleeping bag, R of a mat
	Measure                           measureForm
	Shelf                             shelfLine
}

// warmthFields are the figures that the night is compared with, of things that have them.
func warmthFields(it *kit.Item, system unit.System) []field {
	degrees := func(c *float64) string {
		switch {
		case c == nil:
			return ""
		case system == unit.Customary:
			return short(unit.Fahrenheit(*c))
		}
		return short(*c)
	}
	u := unitsOf(system)
	switch {
	case it.Group == "sleep" && it.Serves("warmth") && it.Kind != "bag-liner":
		return []field{{Name: "comfort", Label: "Comfort", Unit: u.degree, Value: degrees(it.ComfortC)},
			{Name: "limit", Label: "Limit", Unit: u.degree, Value: degrees(it.LimitC)}}
	case it.Serves("insulation"):
		return []field{{Name: "rvalue", Label: "Insulation R", Value: orEmpty(it.RValue, "", 1)}}
	}
	return nil
}

// measureForm are the readings of a measuring at home, kept when they were refused.
type measureForm struct {
	Ways                []option
	Side1, Side2, Side3 field
	Before, After       field
	With, Without       field
	Error               string
	Given               bool
}

// shelfLine says whether the thing stands on the shelf.
type shelfLine struct {
	On    bool
	Key   string
	Trips string
}

var wayWords = []option{{Value: "", Label: "choose"}, {Value: "box", Label: "three sides with a rule"},
	{Value: "cylinder", Label: "diameter and length"}, {Value: "sack", Label: "its stuffed sack"},
	{Value: "water", Label: "water risen in a marked vessel"}, {Value: "filling", Label: "how much of a bag it fills"}}

func newMeasureForm(u formUnits) measureForm {
	return measureForm{Ways: options(wayWords, ""),
		Side1:   field{Name: "side-1", Label: "Length or across", Unit: u.length},
		Side2:   field{Name: "side-2", Label: "Width or height", Unit: u.length},
		Side3:   field{Name: "side-3", Label: "Height", Unit: u.length},
		Before:  field{Name: "before", Label: "Mark without it", Unit: u.litre},
		After:   field{Name: "after", Label: "Mark with it", Unit: u.litre},
		With:    field{Name: "with", Label: "Scale with it", Unit: u.body},
		Without: field{Name: "without", Label: "Scale without", Unit: u.body}}
}

// keep puts refused readings back.
func (m *measureForm) keep(c *gin.Context) {
	m.Given = true
	m.Ways = options(wayWords, c.PostForm("way"))
	for _, f := range []*field{&m.Side1, &m.Side2, &m.Side3, &m.Before, &m.After, &m.With, &m.Without} {
		f.Value = c.PostForm(f.Name)
	}
}

// shelf says on which other trips the thing goes.
func (e *editor) shelf(s *Server, c *gin.Context, it *kit.Item) {
	if it.Shelf == "" {
		return
	}
	if thing, err := s.store.Thing(c.Request.Context(), it.Shelf); err == nil {
		e.Shelf = shelfLine{true, it.Shelf, strings.Join(thing.Trips, ", ")}
	}
}

var (
	shapeWords = []option{{Value: "soft", Label: "soft, gives way"}, {Value: "box", Label: "box"},
		{Value: "cylinder", Label: "cylinder or rod"}, {Value: "flat", Label: "flat, bends"},
		{Value: "lump", Label: "lump, uneven"}, {Value: "vessel", Label: "vessel, holds things"}}
	whenWords = []option{{Value: "moving", Label: "on the move"}, {Value: "halt", Label: "at a halt"},
		{Value: "arrival", Label: "on arrival"}, {Value: "camp", Label: "in camp"}, {Value: "need", Label: "only in need"}}
	sourceWords = []option{{Value: "displacement", Label: "displaced water, 3 %"},
		{Value: "dimensions", Label: "measured, 5 %"}, {Value: "label", Label: "from its label, 10 %"},
		{Value: "guess", Label: "guessed, 25 %"}}
	eatenWords = []option{{Value: "", Label: "no"}, {Value: "food", Label: "food"}, {Value: "fuel", Label: "fuel"},
		{Value: "water", Label: "water"}}
)

// measure is a measurement that a shape needs: its form field, its name in the format and its kind of unit.
type measure struct {
	name, key, label string
	litres           bool
	axis             int // within size_cm, -1 otherwise; aspect for what is no length either
}

// aspect stands for a measure that is a plain number and need not be given.
const aspect = -2

// measuresOf lists what has to be measured of a shape.
func measuresOf(kind kit.ShapeKind, round bool) []measure {
	size := []measure{{"length", "size_cm", "Length", false, 0}, {"width", "size_cm", "Width", false, 1},
		{"height", "size_cm", "Height", false, 2}}
	cylinder := []measure{{"diameter", "diameter_cm", "Diameter", false, -1}, {"long", "length_cm", "Length", false, -1}}
	outside := size
	if round {
		outside = cylinder
	}
	gives := measure{"gives", "gives", "Pressed flat to", false, aspect}
	switch kind {
	case kit.Soft:
		return []measure{{"loose", "loose_l", "Loose", true, -1}, {"tight", "tight_l", "Tight", true, -1},
			{"gap", "gap_cm", "Narrowest gap", false, -1}}
	case kit.Cylinder:
		return append(cylinder, gives)
	case kit.Lump:
		return append(outside, measure{"displaced", "volume_l", "Displaces", true, -1}, gives)
	case kit.Box:
		return append(size, gives)
	case kit.Vessel:
		return append(outside, measure{"inside", "inside_l", "Holds", true, -1},
			measure{"mouth", "mouth_cm", "Mouth", false, -1})
	}
	return size
}

// valueOf reads a measurement of a shape, in litres or centimetres.
func (m measure) valueOf(s kit.Shape) float64 {
	switch m.key {
	case "size_cm":
		return s.SizeCm[m.axis]
	case "diameter_cm":
		return s.DiameterCm
	case "length_cm":
		return s.LengthCm
	case "loose_l":
		return s.LooseL
	case "tight_l":
		return s.TightL
	case "gap_cm":
		return s.GapCm
	case "volume_l":
		return s.VolumeL
	case "inside_l":
		return s.InsideL
	case "gives":
		return s.Gives
	}
	return s.MouthCm
}

func newEditor(it *kit.Item, system unit.System) *editor {
	u := unitsOf(system)
	e := &editor{Key: it.ID, Name: it.Name,
		NameField:  field{Name: "name", Label: "Name", Value: it.Name},
		Count:      field{Name: "count", Label: "How many", Value: strconv.Itoa(it.Count)},
		Mass:       field{Name: "mass", Label: "Weight of one", Value: inUnit(it.MassG, u.mass, unit.Ounce), Unit: u.mass},
		PerDay:     field{Name: "per_day", Label: "Times a day", Value: short(it.Use.PerDay)},
		Carry:      options(carryWords, string(it.Carry)),
		When:       options(whenWords, string(it.Use.When)),
		Shape:      options(shapeWords, string(it.Shape.Kind)),
		Source:     options(sourceWords, string(it.Measured)),
		Consumable: options(eatenWords, it.Consumable),
		Urgent:     it.Use.Urgent, Absorbs: it.Water.Absorbs, Suffers: it.Water.Suffers, Leaks: it.Water.Leaks,
		Wet:       it.Water.ReturnsWet,
		Case:      field{Name: "case", Label: "Own case", Value: it.Water.Case},
		Expires:   field{Name: "expires", Label: "Good until", Value: it.Expires},
		Uncertain: field{Name: "uncertainty", Label: "Give or take", Unit: "in 100", Value: short(100 * it.Uncertain())},
		Carried:   field{Name: "carried", Label: "Trips carried", Value: orEmpty(float64(it.History.Carried), "", 1)},
		Used:      field{Name: "used", Label: "of them used", Value: orEmpty(float64(it.History.Used), "", 1)},
		Measure:   newMeasureForm(u),
	}
	e.Warmth = warmthFields(it, system)
	e.Unknown = notKnown(it)
	if it.Measured == kit.Guess && !it.IsBag() {
		e.Kinds = kindOptions(it.Kind)
	}
	groups := kit.Groups
	if !slices.Contains(groups, it.Group) {
		groups = append(slices.Clone(groups), it.Group)
	}
	for _, g := range groups {
		e.Group = append(e.Group, option{g, unit.Capital(g), g == it.Group})
	}
	for _, f := range kit.Functions() {
		e.Functions = append(e.Functions, option{f, strings.ReplaceAll(f, "-", " "), it.Serves(f)})
	}
	for _, n := range kit.Needs() {
		e.Needs = append(e.Needs, option{n, strings.ReplaceAll(n, "-", " "), it.Wants(n)})
	}
	for _, t := range kit.Traits {
		e.Traits = append(e.Traits, option{string(t), strings.ReplaceAll(string(t), "-", " "), it.Has(t)})
	}
	for _, m := range measuresOf(it.Shape.Kind, it.Shape.Round()) {
		f := field{Name: m.name, Label: m.label, Unit: u.length, Value: inUnit(m.valueOf(it.Shape), u.length, unit.Inch)}
		if m.axis == aspect {
			f.Unit, f.Value = "to 1", orEmpty(m.valueOf(it.Shape), "", 1)
		} else if m.litres {
			f.Unit, f.Value = u.litre, inUnit(m.valueOf(it.Shape), u.litre, unit.CubicInch)
		}
		e.Measures = append(e.Measures, f)
	}
	e.Volume = litresOf(it, system)
	return e
}

// itemPatch is what a form says of a thing: the values to set, and what was entered where it could not be read.
type itemPatch struct {
	*reading
	kind kit.ShapeKind
}

func readItemForm(c *gin.Context, system unit.System) *itemPatch {
	p := &itemPatch{readForm(c, system), kit.ShapeKind(c.PostForm("shape"))}
	if strings.TrimSpace(c.PostForm("name")) == "" {
		p.wrong["name"] = "give it a name"
	}
	p.quantity("mass", unit.Mass, unitsOf(system).mass)
	p.plain("count")
	p.plain("per_day")
	for _, name := range []string{"uncertainty", "carried", "used"} {
		if p.text(name) != "" {
			p.plain(name)
		}
	}
	for _, m := range p.measures() {
		p.measure(m)
	}
	p.temperature("comfort")
	p.temperature("limit")
	if p.text("rvalue") != "" {
		p.plain("rvalue")
	}
	return p
}

// measures are those of the shape whose fields the form had: the shape before a change of its kind.
func (p *itemPatch) measures() []measure {
	_, round := p.c.GetPostForm("diameter")
	var list []measure
	for _, m := range measuresOf(p.kind, round) {
		if _, given := p.c.GetPostForm(m.name); given {
			list = append(list, m)
		}
	}
	return list
}

func (p *itemPatch) measure(m measure) float64 {
	u := unitsOf(p.system)
	if m.axis == aspect {
		if p.text(m.name) == "" {
			return 0
		}
		return p.plain(m.name)
	}
	if m.litres {
		return p.quantity(m.name, unit.Volume, bare(u.litre))
	}
	return p.quantity(m.name, unit.Length, u.length)
}

// keptIn offers the bags and vessels of a kit to keep a thing in.
func (e *editor) keptIn(items []kit.Item, it *kit.Item) {
	if it.IsBag() {
		e.Holds = "Nothing is kept in it yet: choose a thing, and this bag under “Kept in”."
		var names []string
		for i := range items {
			if items[i].NestIn == it.ID {
				names = append(names, items[i].Name)
			}
		}
		if len(names) > 0 {
			e.Holds = "Kept in it: " + strings.Join(names, ", ") + ". It is as large as they are, and goes in as one."
		}
		return
	}
	e.In = []option{{Value: "", Label: "nothing, or as planned", Chosen: it.NestIn == ""}}
	for i := range items {
		if o := &items[i]; o.ID != it.ID && o.Carry == kit.Pack && (o.IsBag() || o.Shape.Kind == kit.Vessel) {
			e.In = append(e.In, option{o.ID, o.Name, it.NestIn == o.ID})
		}
	}
}

// apply writes the form into the item's object. Only what differs from what the form was made of is touched, so that
// a rounded figure that nobody changed does not overwrite a precise one.
func (p *itemPatch) apply(item map[string]any) error {
	now, err := bundle.CompleteItem(item)
	if err != nil {
		return err
	}
	changed := p.c.PostForm
	parts := map[string]map[string]any{
		"use":   {"when": string(now.Use.When), "per_day": bundle.Number(now.Use.PerDay)},
		"water": {"absorbs": now.Water.Absorbs, "suffers": now.Water.Suffers},
	}
	set := func(part, key string, now, value any) {
		if now == value {
			return
		}
		if part == "" {
			item[key] = value
		} else {
			object(item, part, parts[part])[key] = value
		}
	}
	set("", "name", now.Name, strings.TrimSpace(changed("name")))
	if p.guessAnew(item, now) {
		return nil // the other fields are of what it was taken for before
	}
	set("", "group", now.Group, changed("group"))
	set("", "carry", string(now.Carry), changed("carry"))
	if in, given := p.c.GetPostForm("nest_in"); given && in != now.NestIn {
		item["nest_in"] = in
		if in == "" {
			delete(item, "nest_in")
		}
	}
	set("", "measured", string(now.Measured), changed("measured"))
	set("", "consumable", now.Consumable, changed("consumable"))
	before := newEditor(now, p.system)
	if changed("mass") != before.Mass.Value {
		item["mass_g"] = bundle.Number(p.quantity("mass", unit.Mass, unitsOf(p.system).mass))
		delete(item, "mass_guess")
		own(item)
	}
	if changed("count") != before.Count.Value {
		item["count"] = bundle.Number(p.plain("count"))
		own(item)
	}
	set("", "expires", now.Expires, strings.TrimSpace(changed("expires")))
	if v := p.text("uncertainty"); v != before.Uncertain.Value {
		delete(item, "uncertainty")
		if v != "" {
			item["uncertainty"] = bundle.Number(p.plain("uncertainty") / 100)
		}
	}
	p.applyHistory(item, now)
	p.applyWarmth(item, before)
	if changed("per_day") != before.PerDay.Value {
		object(item, "use", parts["use"])["per_day"] = bundle.Number(p.plain("per_day"))
	}
	set("use", "when", string(now.Use.When), changed("when"))
	set("use", "urgent", now.Use.Urgent, changed("urgent") != "")
	set("water", "absorbs", now.Water.Absorbs, changed("absorbs") != "")
	set("water", "suffers", now.Water.Suffers, changed("suffers") != "")
	set("water", "leaks", now.Water.Leaks, changed("leaks") != "")
	set("water", "returns_wet", now.Water.ReturnsWet, changed("returns_wet") != "")
	set("water", "case", now.Water.Case, strings.ToUpper(strings.TrimSpace(changed("case"))))
	var traits []any
	for _, t := range kit.Traits {
		if slices.Contains(p.c.PostFormArray("traits"), string(t)) {
			traits = append(traits, string(t))
		}
	}
	if len(traits) != len(now.Traits) ||
		slices.ContainsFunc(traits, func(t any) bool { return !now.Has(kit.Trait(t.(string))) }) {
		item["traits"] = traits
	}
	p.applyFunctions(item, now)
	p.applyNeeds(item, now)
	p.applyShape(item, now, before)
	return nil
}

// applyFunctions sets what the thing is for, where that was changed; what is not in our table stays.
func (p *itemPatch) applyFunctions(item map[string]any, now *kit.Item) {
	var functions []any
	changed := false
	for _, f := range now.Functions {
		if !slices.Contains(kit.Functions(), f) {
			functions = append(functions, f)
		}
	}
	for _, f := range kit.Functions() {
		chosen := slices.Contains(p.c.PostFormArray("functions"), f)
		if chosen {
			functions = append(functions, f)
		}
		changed = changed || chosen != now.Serves(f)
	}
	if changed {
		item["functions"] = functions
	}
}

// applyNeeds sets what the thing is of no use without, where that was changed.
func (p *itemPatch) applyNeeds(item map[string]any, now *kit.Item) {
	needs, changed := []any{}, false
	for _, n := range kit.Needs() {
		wanted := slices.Contains(p.c.PostFormArray("needs"), n)
		if wanted {
			needs = append(needs, n)
		}
		changed = changed || wanted != now.Wants(n)
	}
	if changed {
		item["needs"] = needs
	}
}

func (p *itemPatch) applyWarmth(item map[string]any, before *editor) {
	keys := map[string]string{"comfort": "comfort_c", "limit": "limit_c", "rvalue": "r_value"}
	for _, f := range before.Warmth {
		if _, given := p.c.GetPostForm(f.Name); !given || p.c.PostForm(f.Name) == f.Value {
			continue
		}
		delete(item, keys[f.Name])
		if p.text(f.Name) == "" {
			continue
		}
		if f.Name == "rvalue" {
			item[keys[f.Name]] = bundle.Number(p.plain(f.Name))
		} else if c, ok := p.temperature(f.Name); ok {
			item[keys[f.Name]] = bundle.Number(roundTo(c, 2))
		}
	}
}

func (p *itemPatch) applyHistory(item map[string]any, now *kit.Item) {
	var was, is kit.History
	was = now.History
	for name, n := range map[string]*int{"carried": &is.Carried, "used": &is.Used} {
		if p.text(name) != "" {
			*n = int(p.plain(name))
		}
	}
	if was == is {
		return
	}
	delete(item, "history")
	if is != (kit.History{}) {
		item["history"] = map[string]any{"carried": bundle.Number(float64(is.Carried)),
			"used": bundle.Number(float64(is.Used))}
	}
}

func (p *itemPatch) applyShape(item map[string]any, now *kit.Item, before *editor) {
	if p.kind != now.Shape.Kind {
		item["shape"] = shapeLike(p.kind, now.Shape)
		item["measured"] = string(kit.Guess)
		own(item)
		return
	}
	for _, m := range p.measures() {
		i := slices.IndexFunc(before.Measures, func(f field) bool { return f.Name == m.name })
		if i >= 0 && before.Measures[i].Value == p.c.PostForm(m.name) {
			continue
		}
		shape := object(item, "shape", shapeLike(now.Shape.Kind, now.Shape))
		value := bundle.Number(p.measure(m))
		own(item)
		if m.axis == aspect && p.text(m.name) == "" {
			delete(shape, m.key)
			continue
		}
		if m.axis < 0 {
			shape[m.key] = value
			continue
		}
		sides := make([]any, 3)
		for axis := range sides {
			sides[axis] = bundle.Number(now.Shape.SizeCm[axis])
		}
		if given, ok := shape[m.key].([]any); ok && len(given) == 3 {
			copy(sides, given)
		}
		sides[m.axis] = value
		shape[m.key] = sides
	}
}

// object finds a nested object, or puts the given one there.
func object(item map[string]any, key string, otherwise map[string]any) map[string]any {
	found, ok := item[key].(map[string]any)
	if !ok {
		found = otherwise
		item[key] = found
	}
	return found
}

// shapeLike describes a shape of another kind with about the same litres, for somebody to measure.
func shapeLike(kind kit.ShapeKind, s kit.Shape) map[string]any {
	litres := max(s.Litres(0), 0.001)
	side := bundle.Number(math.Round(math.Cbrt(litres*1000)*10) / 10)
	shape := map[string]any{"kind": string(kind)}
	switch kind {
	case kit.Soft:
		shape["loose_l"], shape["tight_l"], shape["gap_cm"] = bundle.Number(litres), bundle.Number(math.Round(litres*600)/1000), bundle.Number(2)
	case kit.Cylinder, kit.Vessel:
		d := math.Cbrt(litres * 1000 * 4 / math.Pi)
		shape["diameter_cm"], shape["length_cm"] = bundle.Number(math.Round(d*10)/10), bundle.Number(math.Round(d*10)/10)
	default:
		shape["size_cm"] = []any{side, side, side}
	}
	return shape
}

// keep puts what was entered back into the form after a refusal, with each message at its field.
func (e *editor) keep(p *itemPatch, problems bundle.Problems, at string) {
	errors := map[string]string{}
	for name, text := range p.wrong {
		errors[name] = text
	}
	byKey := map[string]string{"mass_g": "mass", "count": "count", "name": "name", "expires": "expires",
		"uncertainty": "uncertainty", "history/carried": "carried", "history/used": "used", "comfort_c": "comfort",
		"limit_c": "limit", "r_value": "rvalue", "use/per_day": "per_day", "water/case": "case"}
	for _, m := range measuresOf(p.kind, true) {
		byKey["shape/"+m.key] = m.name
		if m.axis >= 0 {
			byKey[fmt.Sprintf("shape/%s/%d", m.key, m.axis)] = m.name
		}
	}
	for _, problem := range problems {
		if name := byKey[strings.TrimPrefix(problem.Pointer, at)]; name != "" {
			errors[name] = problem.What + "; " + problem.Mend
		}
	}
	fields := []*field{&e.NameField, &e.Count, &e.Mass, &e.PerDay, &e.Case, &e.Expires, &e.Uncertain, &e.Carried, &e.Used}
	for i := range e.Measures {
		fields = append(fields, &e.Measures[i])
	}
	for i := range e.Warmth {
		fields = append(fields, &e.Warmth[i])
	}
	for _, f := range fields {
		if v, given := p.c.GetPostForm(f.Name); given {
			f.Value = v
		}
		f.Error = errors[f.Name]
	}
	for name, choices := range map[string]*[]option{"nest_in": &e.In, "group": &e.Group, "carry": &e.Carry,
		"when": &e.When, "measured": &e.Source, "consumable": &e.Consumable} {
		*choices = options(*choices, p.c.PostForm(name))
	}
	e.Urgent, e.Absorbs, e.Suffers = p.c.PostForm("urgent") != "", p.c.PostForm("absorbs") != "", p.c.PostForm("suffers") != ""
	e.Leaks, e.Wet = p.c.PostForm("leaks") != "", p.c.PostForm("returns_wet") != ""
	for i := range e.Functions {
		e.Functions[i].Chosen = slices.Contains(p.c.PostFormArray("functions"), e.Functions[i].Value)
	}
	for i := range e.Needs {
		e.Needs[i].Chosen = slices.Contains(p.c.PostFormArray("needs"), e.Needs[i].Value)
	}
	for i := range e.Traits {
		e.Traits[i].Chosen = slices.Contains(p.c.PostFormArray("traits"), e.Traits[i].Value)
	}
}
