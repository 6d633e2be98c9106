package bundle

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/unit"
)

// Defaults for what a bundle leaves out.
const (
	defaultGapCm     = 2.0
	tightShare       = 0.6 // tight litres of a soft thing of which only the loose ones are known
	vesselShare      = 0.8 // inside of a vessel of which only the outside is known
	lumpShare        = 0.6 // litres displaced by a lump of which only the outside is known
	defaultRain      = 0.3
	defaultNightLowC = 5.0
	packMassG        = 1500.0
	drawShare        = 1.0
)

// complete fills the gaps of a valid document and makes its task.
func complete(doc Doc) (*Bundle, error) {
	b := &Bundle{Doc: doc}
	filled := struct {
		Pack   *rucksack.Pack  `json:"pack"`
		Items  *[]kit.Item     `json:"items"`
		Bags   *[]dry.Bag      `json:"bags"`
		Trip   *trail.Trip     `json:"trip"`
		Method *method.Method  `json:"method"`
		Pins   json.RawMessage `json:"pins"`
	}{&b.Task.Pack, &b.Task.Items, &b.Task.Bags, &b.Task.Trip, &b.Task.Method, nil}
	b.Task.Method = method.Default()
	b.Task.Trip = trail.Trip{Days: 2, Nights: 1, NightLowC: defaultNightLowC, Rain: defaultRain, Terrain: "path",
		Carrier: trail.Carrier{MassKg: 70, HeightCm: 172, Age: 35}}
	text, err := json.Marshal(doc)
	if err != nil {
		return nil, fmt.Errorf("bundle: %w", err)
	}
	if err := json.Unmarshal(text, &filled); err != nil {
		return nil, problem("", err.Error(), "compare the file with the published schema")
	}
	if len(filled.Pins) > 0 {
		if err := json.Unmarshal(filled.Pins, &b.Task.Pins); err != nil {
			return nil, problem("/pins", err.Error(), "compare the file with the published schema")
		}
	}
	h := doc.Hand()
	if h.Room != nil {
		b.Task.Room = h.Room.Mean
	}
	if h.Pace != nil {
		for i := range b.Task.Trip.Legs {
			b.Task.Trip.Legs[i].Pace = h.Pace.Mean
		}
	}
	a := &assumptions{named: series{}}
	a.pack(&b.Task.Pack, doc["pack"].(map[string]any))
	a.trip(&b.Task.Trip, doc["trip"])
	a.days = b.Task.Trip.Days
	for i, raw := range doc.List("items") {
		it := &b.Task.Items[i]
		it.Name = cmp.Or(it.Name, title(it.ID))
		a.named.add(it.Name)
		kind, _, _ := kindOf(it, raw)
		a.poles = a.poles || kind.ID == "tent-poles"
	}
	for i, raw := range doc.List("items") {
		a.item(&b.Task.Items[i], raw, pointer2("/items", i))
	}
	a.method(b.Task.Method, doc["method"])
	for i := range b.Task.Bags {
		if bag := &b.Task.Bags[i]; bag.Name == "" {
			bag.Name = title(bag.ID)
		}
	}
	b.Assumed = a.list
	if b.Task.Others, err = doc.others(); err != nil {
		return nil, problem("/party/bearers", err.Error(), "compare the file with the published schema")
	}
	return b, nil
}

// assumptions collects the defaults taken.
type assumptions struct {
	list  []string
	days  int    // of the trip
	named series // of all things
	poles bool   // of a tent are a thing by themselves
}

// kindOf is the kind that a thing says, or its name where it says none, not even an empty one.
func kindOf(it *kit.Item, raw map[string]any) (kind kit.Kind, known, byName bool) {
	if kind, known = kit.KindOf(it.Kind); !known && raw["kind"] == nil {
		kind, byName = kit.KindNamed(it.Name)
	}
	return kind, known || byName, byName
}

func (a *assumptions) note(pointer string, value any) {
	a.list = append(a.list, fmt.Sprintf("%s: %v", pointer, value))
}

// missing tells whether a field of the raw object was left out, and notes the default when it was.
func (a *assumptions) missing(raw map[string]any, key, at string, value any) bool {
	if raw[key] != nil {
		return false
	}
	a.note(at+"/"+key, value)
	return true
}

func (a *assumptions) pack(p *rucksack.Pack, raw map[string]any) {
	if p.Name == "" {
		p.Name = title(p.ID)
	}
	if a.missing(raw, "mass_g", "/pack", packMassG) {
		p.MassG = packMassG
	}
	if a.missing(raw, "frame", "/pack", "internal") {
		p.Frame = "internal"
	}
	zones := objects(raw["zones"])
	nameZones(p.Zones)
	for i := range p.Zones {
		a.zone(&p.Zones[i], zones[i], pointer2("/pack/zones", i))
	}
	for i := range p.Zones {
		z := &p.Zones[i]
		at := pointer2("/pack/zones", i)
		if zones[i]["at_cm"] == nil {
			z.AtCm = p.PlaceFor(z)
			if !z.Solid() {
				a.note(at+"/at_cm", strings.ReplaceAll(unit.Metric.Size(z.AtCm[:]...), " × ", ", "))
			}
		}
	}
}

func (a *assumptions) zone(z *rucksack.Zone, raw map[string]any, at string) {
	weather, reach := rucksack.Typical(z.Kind)
	if a.missing(raw, "weather", at, weather) {
		z.Weather = weather
	}
	if a.missing(raw, "reach", at, reach) {
		z.Reach = reach
	}
	if z.Solid() && raw["form"] == nil {
		z.Form = "rounded"
	}
	if z.DrawsOn != nil && raw["draws_on"].(map[string]any)["share"] == nil {
		z.DrawsOn.Share = drawShare
		a.note(at+"/draws_on/share", drawShare)
	}
	switch {
	case raw["size_cm"] == nil && raw["volume_l"] == nil: // straps only
		z.SizeCm = rucksack.SizeFor(z.Kind, 19.2)
		a.note(at+"/size_cm", unit.Metric.Size(z.SizeCm[:]...))
		z.VolumeL = unit.BoxL(z.SizeCm[0], z.SizeCm[1], z.SizeCm[2])
	case raw["size_cm"] == nil:
		z.SizeCm = rucksack.SizeFor(z.Kind, z.VolumeL)
		a.note(at+"/size_cm", unit.Metric.Size(z.SizeCm[:]...))
	case raw["volume_l"] == nil:
		z.VolumeL = z.FormL()
		if z.Kind != rucksack.Straps {
			a.note(at+"/volume_l", round(z.VolumeL, 2))
		}
	}
}

func (a *assumptions) item(it *kit.Item, raw map[string]any, at string) {
	it.Name = cmp.Or(it.Name, title(it.ID))
	kind, known, byName := kindOf(it, raw)
	if byName {
		it.Kind = kind.ID
		a.note(at+"/kind", kind.ID+" (by its name)")
	}
	if a.poles || strings.Contains(strings.ToLower(it.Name), "cloth") {
		kind = kind.Cloth()
	}
	from := ""
	if known {
		from = " (" + unit.Small(kind.Name) + ", our estimate)"
	}
	it.Name = cmp.Or(it.Name, kind.Name) // of what is on a shelf and has no id
	if it.Count == 0 {
		it.Count = 1
	}
	if it.Carry == "" {
		it.Carry = kit.Pack
	}
	if it.Group == "" {
		it.Group = kind.Group
	}
	if raw["traits"] == nil {
		it.Traits = kind.Traits
	}
	if raw["functions"] == nil {
		it.Functions = kind.Functions
	}
	if raw["consumable"] == nil {
		it.Consumable = kind.Consumable
	}
	if raw["mass_g"] == nil {
		it.MassG = kind.MassG
		a.note(at+"/mass_g", plain(kind.MassG)+from)
	}
	a.use(it, raw, kind, at, from)
	if raw["water"] == nil {
		it.Water = kind.Water
		a.note(at+"/water", waterWords(kind.Water)+from)
	}
	if shape, given := raw["shape"].(map[string]any); given {
		a.shape(&it.Shape, shape, at+"/shape")
	} else {
		it.Shape = kind.ShapeFor(it.MassG)
		it.Measured = kit.Guess
		if raw["uncertainty"] == nil {
			it.Spread = kind.Spread
		}
		a.note(at+"/shape", fmt.Sprintf("%s, %s%s", it.Shape.Kind, unit.Metric.Volume(it.Shape.Litres(0)), from))
	}
	if it.Measured == "" {
		it.Measured = kit.Dimensions
		if it.Shape.Kind == kit.Soft {
			it.Measured = kit.Label
		}
		a.note(at+"/measured", it.Measured)
	}
}

// use fills in when a thing is wanted, and how often. Food has a day, which its name may say; what is not for the first
// day is not wanted on the way then.
func (a *assumptions) use(it *kit.Item, raw map[string]any, kind kit.Kind, at, from string) {
	if raw["day"] == nil {
		if it.Day = dayNamed(it, a.named, a.days); it.Day > 0 {
			a.note(at+"/day", fmt.Sprintf("%d (by its name)", it.Day))
		}
	}
	given, ok := raw["use"].(map[string]any)
	if !ok {
		it.Use, it.UseUnsaid = kind.Use, kind.ID == kit.Unknown.ID
		if day, ok := it.UseOn(1); ok {
			it.Use, it.UseUnsaid = day, false
			from = fmt.Sprintf(" (food for day %d, our estimate)", it.Day)
		}
		a.note(at+"/use", fmt.Sprintf("%s, %s a day%s", it.Use.When, plain(it.Use.PerDay), from))
		return
	}
	if a.missing(given, "when", at+"/use", kind.Use.When) {
		it.Use.When = kind.Use.When
	}
	if a.missing(given, "per_day", at+"/use", kind.Use.PerDay) {
		it.Use.PerDay = kind.Use.PerDay
	}
}

func (a *assumptions) shape(s *kit.Shape, raw map[string]any, at string) {
	switch s.Kind {
	case kit.Soft:
		if raw["tight_l"] == nil {
			s.TightL = tightShare * s.LooseL
			a.note(at+"/tight_l", round(s.TightL, 2))
		}
		if raw["loose_l"] == nil {
			s.LooseL = s.TightL / tightShare
			a.note(at+"/loose_l", round(s.LooseL, 2))
		}
		if a.missing(raw, "gap_cm", at, defaultGapCm) {
			s.GapCm = defaultGapCm
		}
	case kit.Lump:
		if raw["volume_l"] == nil {
			s.VolumeL = lumpShare * s.BoxL()
			a.note(at+"/volume_l", round(s.VolumeL, 2))
		}
	case kit.Vessel:
		if raw["inside_l"] == nil {
			s.InsideL = vesselShare * s.Litres(0)
			a.note(at+"/inside_l", round(s.InsideL, 2))
		}
		if raw["mouth_cm"] == nil {
			s.MouthCm = max(1, s.Dimensions()[1]-1)
			a.note(at+"/mouth_cm", s.MouthCm)
		}
	}
}

func (a *assumptions) trip(t *trail.Trip, given any) {
	raw, _ := given.(map[string]any)
	if start, end, ok := t.Times(); ok {
		t.Days, t.Nights = trail.Span(start, end)
	} else {
		a.missing(raw, "days", "/trip", t.Days)
		if a.missing(raw, "nights", "/trip", max(0, t.Days-1)) {
			t.Nights = max(0, t.Days-1)
		}
	}
	if raw["pack_outside_at_night"] == nil && len(t.Camps) > 0 {
		t.PackOutsideAtNight = slices.ContainsFunc(t.Camps, func(c trail.Camp) bool { return c.PackOutside })
		raw = maps.Clone(raw)
		raw["pack_outside_at_night"] = t.PackOutsideAtNight // known from the camps
	}
	a.missing(raw, "night_low_c", "/trip", t.NightLowC)
	a.missing(raw, "rain", "/trip", t.Rain)
	a.missing(raw, "pack_outside_at_night", "/trip", t.PackOutsideAtNight)
	carrier, _ := raw["carrier"].(map[string]any)
	a.missing(carrier, "mass_kg", "/trip/carrier", t.Carrier.MassKg)
	t.BodyAssumed = carrier["mass_kg"] == nil
	a.missing(carrier, "height_cm", "/trip/carrier", t.Carrier.HeightCm)
	a.missing(carrier, "age", "/trip/carrier", t.Carrier.Age)
}

func (a *assumptions) method(m method.Method, given any) {
	raw, _ := given.(map[string]any)
	for _, q := range method.Questions {
		a.missing(raw, q.Key, "/method", m.Answer(q.Key))
	}
}

func waterWords(w kit.Water) string {
	switch {
	case w.Absorbs && w.Suffers:
		return "takes up water and suffers by it"
	case w.Absorbs:
		return "takes up water"
	case w.Suffers:
		return "suffers by water"
	}
	return "does not mind water"
}

// title makes a name of an id: "bag-blue" becomes "Bag blue".
func title(id string) string {
	words := strings.NewReplacer("-", " ", "_", " ").Replace(id)
	if words == "" {
		return id
	}
	return unit.Capital(words)
}

// nameOf is what an object of the tree is called: its name, else what follows from its id.
func nameOf(object map[string]any) string {
	id, _ := object["id"].(string)
	name, _ := object["name"].(string)
	return cmp.Or(name, title(id))
}

func round(v float64, decimals int) float64 {
	scale := math.Pow10(decimals)
	return math.Round(v*scale) / scale
}

func number(v any) (float64, bool) {
	switch n := v.(type) {
	case json.Number:
		f, err := n.Float64()
		return f, err == nil
	case float64:
		return n, true
	case int:
		return float64(n), true
	}
	return 0, false
}

func numbers(v any) []float64 {
	list, _ := v.([]any)
	found := make([]float64, 0, len(list))
	for _, e := range list {
		if f, ok := number(e); ok {
			found = append(found, f)
		}
	}
	return found
}

// CompleteItem fills the gaps of a single item's object, as reading a bundle would.
func CompleteItem(object map[string]any) (*kit.Item, error) {
	text, err := json.Marshal(object)
	if err != nil {
		return nil, fmt.Errorf("item: %w", err)
	}
	var it kit.Item
	if err := json.Unmarshal(text, &it); err != nil {
		return nil, fmt.Errorf("item: %w", err)
	}
	(&assumptions{}).item(&it, object, "")
	return &it, nil
}
