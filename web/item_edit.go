package web

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
)

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
	for _, name := range []string{"uncertainty", "carried", "used", "day"} {
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
	if day, given := p.c.GetPostForm("day"); given && day != before.Day.Value {
		delete(item, "day")
		if day != "" {
			item["day"] = bundle.Number(p.plain("day"))
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
	var traits []string
	for _, t := range kit.Traits {
		traits = append(traits, string(t))
	}
	if list, changed := p.ticked("traits", traits, func(t string) bool { return now.Has(kit.Trait(t)) }); changed {
		item["traits"] = list
	}
	p.applyFunctions(item, now)
	p.applyNeeds(item, now)
	p.applyShape(item, now, before)
	return nil
}

// ticked lists what is ticked of a choice, and says whether that differs from how it was.
func (p *itemPatch) ticked(name string, all []string, was func(string) bool) (list []any, changed bool) {
	list = []any{}
	for _, value := range all {
		chosen := slices.Contains(p.c.PostFormArray(name), value)
		if chosen {
			list = append(list, value)
		}
		changed = changed || chosen != was(value)
	}
	return list, changed
}

// applyFunctions sets what the thing is for, where that was changed; what is not in our table stays.
func (p *itemPatch) applyFunctions(item map[string]any, now *kit.Item) {
	list, changed := p.ticked("functions", kit.Functions(), now.Serves)
	if !changed {
		return
	}
	var own []any
	for _, f := range now.Functions {
		if !slices.Contains(kit.Functions(), f) {
			own = append(own, f)
		}
	}
	item["functions"] = append(own, list...)
}

// applyNeeds sets what the thing is of no use without, where that was changed.
func (p *itemPatch) applyNeeds(item map[string]any, now *kit.Item) {
	if list, changed := p.ticked("needs", kit.Needs(), now.Wants); changed {
		item["needs"] = list
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
		"limit_c": "limit", "r_value": "rvalue", "use/per_day": "per_day", "water/case": "case", "day": "day"}
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
	fields := []*field{&e.NameField, &e.Count, &e.Mass, &e.PerDay, &e.Case, &e.Expires, &e.Uncertain, &e.Carried, &e.Used,
		&e.Day}
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
