package bundle

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/unit"
)

// checkReferences finds what a schema cannot say: equal ids, references into nothing, measurements that contradict
// each other. The document has passed the schema.
func checkReferences(doc Doc) Problems {
	c := &checker{doc: doc}
	c.pack()
	c.items()
	c.bags()
	c.pins()
	c.trip()
	c.party()
	return c.found
}

type checker struct {
	doc   Doc
	zones map[string]bool
	count map[string]int // by item id
	found Problems
}

func (c *checker) report(pointer, what, mend string) {
	c.found = append(c.found, Problem{pointer, what, mend})
}

// unique reports ids that stand twice and gives the set of them.
func (c *checker) unique(list []map[string]any, at string) map[string]bool {
	seen := map[string]bool{}
	for i, o := range list {
		id, _ := o["id"].(string)
		if seen[id] {
			c.report(pointer2(at, i)+"/id", fmt.Sprintf("the id %q stands twice", id),
				"give each its own id, or use count for equal things")
		}
		seen[id] = true
	}
	return seen
}

func pointer2(at string, i int) string { return fmt.Sprintf("%s/%d", at, i) }

func (c *checker) pack() {
	pack, _ := c.doc["pack"].(map[string]any)
	zones := objects(pack["zones"])
	c.zones = c.unique(zones, "/pack/zones")
	kinds := map[string]int{}
	for i, z := range zones {
		at := pointer2("/pack/zones", i)
		kind, _ := z["kind"].(string)
		kinds[kind]++
		if kind != "straps" && z["size_cm"] == nil && z["volume_l"] == nil {
			c.report(at, "has neither size_cm nor volume_l", "give one of them; the other follows")
		}
		c.room(z, at)
		if draws, ok := z["draws_on"].(map[string]any); ok {
			target, _ := draws["zone"].(string)
			if !c.zones[target] || target == z["id"] {
				c.report(at+"/draws_on/zone", fmt.Sprintf("%q is no other zone of this pack", target),
					"name a zone: "+names(c.zones))
			}
		}
	}
	if kinds["body"] != 1 {
		c.report("/pack/zones", fmt.Sprintf("has %d zones of kind body", kinds["body"]),
			"a pack has exactly one; describe what else it has as bottom or pockets")
	}
	if kinds["bottom"] > 1 {
		c.report("/pack/zones", fmt.Sprintf("has %d zones of kind bottom", kinds["bottom"]), "a pack has at most one")
	}
}

// What litres may be beside the box of the sizes: a pocket that lies flat has less, cloth that bellies more. Beyond
// that one of the two is a slip (our estimate).
const (
	leastOfBox = 1.0 / 3
	mostOfBox  = 1.5
)

// leastSideCm is the least side of body and bottom: a hand must get in. mostL is as much as a pack can have.
const (
	leastSideCm = 3
	mostL       = 300
)

// room checks that sizes and litres of a zone can be true together.
func (c *checker) room(zone map[string]any, at string) {
	size, litres := numbers(zone["size_cm"]), zone["volume_l"]
	if kind, _ := zone["kind"].(string); len(size) != 3 {
		if v, given := number(litres); given && (kind == "body" || kind == "bottom") &&
			slices.Min(sides(kind, v)) < leastSideCm {
			c.report(at+"/volume_l", fmt.Sprintf("%v L is too little for the %s", litres, kind),
				"give its litres; a body of 3 L is a small one")
		}
		return
	}
	if zone["kind"] == "body" || zone["kind"] == "bottom" {
		for axis, side := range size {
			if side < leastSideCm {
				c.report(fmt.Sprintf("%s/size_cm/%d", at, axis),
					fmt.Sprintf("%v cm is too little for the %s", side, zone["kind"]),
					fmt.Sprintf("give at least %d cm; sizes are in centimetres", leastSideCm))
				return
			}
		}
	}
	box := unit.BoxL(size[0], size[1], size[2])
	if box > mostL && zone["kind"] != "straps" {
		c.report(at+"/size_cm", fmt.Sprintf("%s make %.4g L", unit.Metric.Size(size...), box),
			fmt.Sprintf("a zone has at most %d L; sizes are in centimetres", mostL))
		return
	}
	v, given := number(litres)
	wrong := ""
	switch {
	case given && v > mostOfBox*box:
		wrong = "%v L do not go into %s, which make %.3g L"
	case given && v < leastOfBox*box:
		wrong = "%v L is too little for %s, which make %.3g L"
	}
	if wrong != "" {
		c.report(at+"/volume_l", fmt.Sprintf(wrong, litres, unit.Metric.Size(size...), box),
			"measure again, or leave one of the two out and the other follows")
	}
}

// sides are those that a zone of so many litres has when nothing else is known.
func sides(kind string, litres float64) []float64 {
	size := rucksack.SizeFor(rucksack.ZoneKind(kind), litres)
	return size[:]
}

func (c *checker) items() {
	items := c.doc.List("items")
	c.unique(items, "/items")
	c.count = map[string]int{}
	vessels, bags := map[string]bool{}, map[string]bool{}
	pieces := 0
	for i, it := range items {
		id, _ := it["id"].(string)
		n := Count(it)
		c.count[id] = n
		if date, _ := it["expires"].(string); date != "" {
			if _, err := time.Parse(time.DateOnly, date); err != nil {
				c.report(pointer2("/items", i)+"/expires", fmt.Sprintf("%q is no day of the calendar", date),
					"write a date as YYYY-MM-DD")
			}
		}
		pieces += n
		bags[id] = it["kind"] == kit.KitBag
		shape, _ := it["shape"].(map[string]any)
		if shape != nil {
			c.shape(shape, pointer2("/items", i)+"/shape")
			vessels[id] = shape["kind"] == "vessel" || it["kind"] == kit.KitBag
		} else if kind, ok := it["kind"].(string); ok {
			known, _ := kit.KindOf(kind)
			vessels[id] = known.Shape.Kind == kit.Vessel || kind == kit.KitBag
		}
	}
	if pieces > MaxPieces {
		c.report("/items", fmt.Sprintf("counts %d pieces in all", pieces), fmt.Sprintf("give at most %d", MaxPieces))
	}
	for i, it := range items {
		in, _ := it["nest_in"].(string)
		if in != "" && (!vessels[in] || in == it["id"]) {
			c.report(pointer2("/items", i)+"/nest_in", fmt.Sprintf("%q is no vessel or bag of this kit", in),
				"name an item whose shape kind is vessel or whose kind is kit-bag, or leave it empty")
		}
		if in != "" && it["kind"] == kit.KitBag && !bags[in] {
			c.report(pointer2("/items", i)+"/nest_in", "a bag lies in a vessel", "name another bag, or give it a place of its own")
		}
	}
	c.noBagInItself(items, bags)
}

// noBagInItself reports bags that lie in each other all the way round; of such a ring just the first.
func (c *checker) noBagInItself(items []map[string]any, bags map[string]bool) {
	in := map[string]string{}
	for _, it := range items {
		if id, _ := it["id"].(string); bags[id] {
			in[id], _ = it["nest_in"].(string)
		}
	}
	for i, it := range items {
		if id, _ := it["id"].(string); in[id] != id && kit.Keeps(in, id, id) {
			c.report(pointer2("/items", i)+"/nest_in", fmt.Sprintf("%q lies in itself, by way of %q", id, in[id]),
				"take one of the bags out of the other")
			return
		}
	}
}

// shape checks that the measurements a kind of shape needs are there and agree.
func (c *checker) shape(s map[string]any, at string) {
	kind := s["kind"].(string)
	has := func(keys ...string) bool {
		return !slices.ContainsFunc(keys, func(k string) bool { return s[k] == nil })
	}
	switch kind {
	case "soft":
		loose, l := number(s["loose_l"])
		tight, t := number(s["tight_l"])
		if !l && !t {
			c.report(at, "a soft thing has neither loose_l nor tight_l", "give one of them; the other is guessed")
		}
		if l && t && tight > loose {
			c.report(at+"/tight_l", fmt.Sprintf("%v L tight is more than %v L loose", s["tight_l"], s["loose_l"]),
				"tight is the smaller of the two")
		}
	case "box", "flat":
		if !has("size_cm") {
			c.report(at, "a "+kind+" lacks size_cm", "give [length, width, height] in centimetres")
		}
	case "cylinder":
		if !has("diameter_cm", "length_cm") {
			c.report(at, "a cylinder lacks diameter_cm or length_cm", "give both in centimetres")
		}
	default:
		if !has("size_cm") && !has("diameter_cm", "length_cm") {
			c.report(at, "a "+kind+" lacks its outside", "give size_cm, or diameter_cm and length_cm")
			return
		}
		c.inner(s, kind, at)
	}
}

// inner checks that what a lump displaces or a vessel holds is no more than its outside.
func (c *checker) inner(s map[string]any, kind, at string) {
	outside := 0.0
	if size := numbers(s["size_cm"]); len(size) == 3 {
		outside = unit.BoxL(size[0], size[1], size[2])
	} else {
		d, _ := number(s["diameter_cm"])
		l, _ := number(s["length_cm"])
		outside = unit.CylinderL(d, l)
	}
	key := map[string]string{"lump": "volume_l", "vessel": "inside_l"}[kind]
	if v, ok := number(s[key]); ok && v > outside*1.001 {
		c.report(at+"/"+key, fmt.Sprintf("%v L is more than the outside, %.2f L", s[key], outside),
			"measure again: the inside is smaller than the outside")
	}
}

// trip checks the times and that legs and camps lie within them.
func (c *checker) trip() {
	raw, _ := c.doc["trip"].(map[string]any)
	var times [2]time.Time
	given := 0
	for i, key := range []string{"start", "end"} {
		text, _ := raw[key].(string)
		if text == "" {
			continue
		}
		t, err := trail.ParseTime(text)
		if err != nil {
			c.report("/trip/"+key, fmt.Sprintf("%q is no date and time", text), "write it as 2026-09-04T13:00")
			return
		}
		times[i] = t
		given++
	}
	days := 0
	if n, ok := number(raw["days"]); ok {
		days = int(n)
	}
	if given == 2 {
		if !times[1].After(times[0]) {
			c.report("/trip/end", "the trip ends before it starts", "give an end after "+raw["start"].(string))
			return
		}
		span, nights := trail.Span(times[0], times[1])
		if span > 400 {
			c.report("/trip/end", fmt.Sprintf("the trip takes %d days", span), "give at most 400; look at the years")
			return
		}
		if days != 0 && days != span {
			c.report("/trip/days", fmt.Sprintf("says %d days, but from start to end it is %d", days, span),
				"leave days out, or mend start or end")
		}
		if n, ok := number(raw["nights"]); ok && int(n) != nights {
			c.report("/trip/nights", fmt.Sprintf("says %d nights, but from start to end it is %d", int(n), nights),
				"leave nights out, or mend start or end")
		}
		days = span
	}
	before := 1
	for i, leg := range objects(raw["legs"]) {
		at := pointer2("/trip/legs", i)
		day, _ := number(leg["day"])
		if days > 0 && int(day) > days {
			c.report(at+"/day", fmt.Sprintf("day %d of a trip of %d days", int(day), days),
				"give a day of the trip, or make the trip longer")
		}
		if int(day) < before {
			c.report(at+"/day", fmt.Sprintf("day %d comes after day %d", int(day), before),
				"put the legs in the order they are walked")
		}
		before = int(day)
	}
}

func (c *checker) bags() {
	c.unique(c.doc.List("bags"), "/bags")
}

func (c *checker) pins() {
	for i, p := range c.doc.List("pins") {
		at := pointer2("/pins", i)
		item, _ := p["item"].(string)
		if c.count[item] == 0 {
			c.report(at+"/item", fmt.Sprintf("%q is not in the kit", item), "name an item's id, or take the pin out")
		} else if piece, ok := number(p["piece"]); ok && int(piece) > c.count[item] {
			c.report(at+"/piece", fmt.Sprintf("there are only %d of %q", c.count[item], item),
				"give a smaller piece number, or a larger count")
		}
		if zone, ok := p["zone"].(string); ok && !c.zones[zone] {
			c.report(at+"/zone", fmt.Sprintf("the pack has no zone %q", zone), "name a zone: "+names(c.zones))
		}
	}
}

func names(set map[string]bool) string {
	list := make([]string, 0, len(set))
	for n := range set {
		list = append(list, n)
	}
	slices.Sort(list)
	return strings.Join(list, ", ")
}

// foreignUnits are suffixes by which a quantity may be given in a unit that the format does not use.
var foreignUnits = []string{"g", "kg", "mg", "lb", "lbs", "oz", "l", "ml", "cl", "cm3", "in3", "cm", "mm", "m", "in",
	"ft", "c", "f", "k"}

// wrongUnits finds unknown fields that are a known quantity with another unit in its name, such as mass_kg for
// mass_g. Keeping them silently would lose a measurement.
func wrongUnits(doc Doc) Problems {
	var found Problems
	look := func(o any, like any, at string) {
		object, ok := o.(map[string]any)
		if !ok {
			return
		}
		known := jsonFields(reflect.TypeOf(like))
		for key := range object {
			cut := strings.LastIndex(key, "_")
			if known[key] || cut < 0 || !slices.Contains(foreignUnits, key[cut+1:]) {
				continue
			}
			for _, suffix := range foreignUnits {
				if right := key[:cut+1] + suffix; known[right] && object[right] == nil {
					found = append(found, Problem{at + "/" + key, fmt.Sprintf("%s is not a field here", key),
						fmt.Sprintf("give %s, in %s", right, unitOf(right))})
				}
			}
		}
	}
	look(doc["pack"], rucksack.Pack{}, "/pack")
	if pack, ok := doc["pack"].(map[string]any); ok {
		for i, z := range objects(pack["zones"]) {
			look(z, rucksack.Zone{}, pointer2("/pack/zones", i))
		}
	}
	for i, it := range doc.List("items") {
		look(it, kit.Item{}, pointer2("/items", i))
		look(it["shape"], kit.Shape{}, pointer2("/items", i)+"/shape")
	}
	for i, b := range doc.List("bags") {
		look(b, dry.Bag{}, pointer2("/bags", i))
	}
	look(doc["trip"], trail.Trip{}, "/trip")
	if trip, ok := doc["trip"].(map[string]any); ok {
		look(trip["carrier"], trail.Carrier{}, "/trip/carrier")
		for i, leg := range objects(trip["legs"]) {
			look(leg, trail.Leg{}, pointer2("/trip/legs", i))
		}
	}
	for i, p := range doc.List("pins") {
		look(p, job.Pin{}, pointer2("/pins", i))
	}
	slices.SortFunc(found, func(a, b Problem) int { return strings.Compare(a.Pointer, b.Pointer) })
	return found
}

func jsonFields(t reflect.Type) map[string]bool {
	fields := map[string]bool{}
	for i := range t.NumField() {
		fields[fieldName(t.Field(i))] = true
	}
	return fields
}

// fieldName is what a field of a struct is called in the format.
func fieldName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}
