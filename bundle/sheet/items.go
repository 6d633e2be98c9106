package sheet

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
)

// Row is what a row of the sheet would become: an item's object, or the reason why it cannot.
type Row struct {
	Line   int
	Cells  []string
	Item   map[string]any // nil when Reason says why
	Reason string
}

// Items reads every row under a mapping. An item's object has an id only where the sheet gives one.
func Items(t *Table, m Mapping) []Row {
	rows := make([]Row, len(t.Rows))
	for i, cells := range t.Rows {
		rows[i] = Row{Line: t.Lines[i], Cells: cells}
		r := &reader{mapping: m, cells: cells, item: map[string]any{}}
		if err := r.read(); err != nil {
			rows[i].Reason = err.Error()
			continue
		}
		alone := maps.Clone(r.item)
		delete(alone, "nest_in") // names another row; the whole list is checked when it is brought in
		if err := bundle.CheckItem(alone); err != nil {
			rows[i].Reason = strings.ReplaceAll(strings.TrimSuffix(err.Error(), "\n"), "\n", " ")
			continue
		}
		rows[i].Item = r.item
	}
	return rows
}

// reader reads one row.
type reader struct {
	mapping Mapping
	cells   []string
	item    map[string]any
}

// cell gives the text of a field and the unit of its column.
func (r *reader) cell(field string) (text, unitName string) {
	for i, c := range r.mapping.Columns {
		if c.Field == field && i < len(r.cells) {
			return r.cells[i], c.Unit
		}
	}
	return "", ""
}

func (r *reader) word(field string) string {
	text, _ := r.cell(field)
	return text
}

func (r *reader) read() error {
	name := r.word("name")
	if name == "" {
		return fmt.Errorf("there is no name in it")
	}
	if isSum(name) {
		return fmt.Errorf("%q looks like a sum, not a thing", clip(name))
	}
	r.item["name"] = name
	if err := r.counts(); err != nil {
		return err
	}
	if err := r.shapes(); err != nil {
		return err
	}
	r.words()
	return r.asTheyStand()
}

var sums = []string{"total", "totals", "sum", "summe", "gesamt", "somme", "totale", "base weight", "basisgewicht",
	"celkem"}

func isSum(name string) bool {
	return slices.Contains(sums, strings.Trim(strings.ToLower(name), " :="))
}

// counts reads how many, and the weight of one or of all.
func (r *reader) counts() error {
	n := 1.0
	if text := r.word("count"); text != "" {
		v, err := r.number(strings.TrimRight(strings.ToLower(text), " x×"))
		if err != nil || v != float64(int(v)) || v < 1 || v > 100 {
			if err == nil && v == 0 {
				return fmt.Errorf("there are none of it (count 0)")
			}
			return fmt.Errorf("count %q is not a whole number from 1 to 100", clip(text))
		}
		if n = v; n != 1 {
			r.item["count"] = bundle.Number(n)
		}
	}
	for _, field := range []string{"mass", "total"} {
		if r.item["mass_g"] != nil {
			break
		}
		g, given, err := r.quantity(field, unit.Mass)
		if err != nil {
			return err
		}
		if given {
			if field == "total" {
				g /= n
			}
			r.item["mass_g"] = bundle.Number(rounded(g))
		}
	}
	return nil
}

// parsers read the figures of a shape by the kind of their column.
var parsers = map[string]func(text, bare string) (float64, error){"litres": unit.Volume, "length": unit.Length}

// shapes reads the litres and dimensions that there are and makes a shape of them.
func (r *reader) shapes() error {
	get := map[string]float64{}
	for _, f := range Fields {
		parse := parsers[f.Kind]
		if f.size != nil && parse == nil {
			parse = func(text, _ string) (float64, error) { return r.number(text) }
		}
		if parse == nil {
			continue
		}
		v, given, err := r.quantity(f.Key, parse)
		if err != nil {
			return err
		}
		if given && v > 0 {
			get[f.Key] = rounded(v)
		}
	}
	kind := r.word("shape")
	if len(get) == 0 && kind == "" {
		return nil
	}
	known, ok := kit.KindNamed(r.item["name"].(string))
	s := kit.Shape{Kind: kit.ShapeKind(kind)}
	for _, f := range Fields {
		if f.size != nil {
			*f.size(&s) = get[f.Key]
		}
	}
	switch {
	case get["diameter"] > 0:
		s.LengthCm = max(get["length"], get["height"])
	case get["length"] > 0:
		s.SizeCm = [3]float64{get["length"], get["width"], get["height"]}
	}
	measured := kit.Dimensions
	if s.Kind == "" {
		switch {
		case s.DiameterCm > 0 && s.LengthCm > 0:
			s.Kind = kit.Cylinder
		case s.SizeCm[0] > 0 && s.SizeCm[1] > 0 && s.SizeCm[2] > 0:
			s.Kind = kit.Box
		case s.LooseL > 0 || s.TightL > 0:
			measured = kit.Label
			if ok && known.Shape.Kind != kit.Soft { // a rigid thing of which only litres are known keeps its kind's form
				told, err := kit.Quick(fmt.Sprintf("%s %g l", known.Name, max(s.LooseL, s.TightL)))
				if err != nil {
					return err
				}
				s = told.Shape
				break
			}
			s = kit.Shape{Kind: kit.Soft, LooseL: s.LooseL, TightL: s.TightL, GapCm: s.GapCm}
		default:
			return nil // a length alone: not enough for a shape
		}
	}
	if s.Kind != kit.Soft {
		s.LooseL, s.TightL, s.GapCm = 0, 0, 0
	}
	r.item["shape"], r.item["measured"] = bundle.ShapeObject(s), string(measured)
	return nil
}

var carried = map[string]string{"pack": "pack", "packed": "pack", "worn": "worn", "hand": "hand", "in hand": "hand",
	"left": "left", "getragen": "worn", "porté": "worn", "indossato": "worn", "llevado": "worn", "gedragen": "worn",
	"x": "worn", "yes": "worn", "ja": "worn", "oui": "worn", "sí": "worn", "true": "worn", "1": "worn", "no": "pack",
	"nein": "pack", "non": "pack", "false": "pack", "0": "pack", "rucksack": "pack", "backpack": "pack"}

// words reads kind, section and how it is carried.
func (r *reader) words() {
	if id := r.word("kind"); id != "" {
		r.item["kind"] = id
	} else if kind, ok := kit.KindNamed(r.item["name"].(string)); ok {
		r.item["kind"] = kind.ID
	}
	if group := strings.ToLower(r.word("group")); group != "" {
		r.item["group"] = group
		if known := groupNamed(group); known != "" {
			r.item["group"] = known
		}
	}
	if carry := carried[strings.ToLower(r.word("carry"))]; carry != "" {
		r.item["carry"] = carry
	}
}

// groupNamed finds the section that a word in another language means.
func groupNamed(word string) string {
	if slices.Contains(kit.Groups, word) {
		return word
	}
	for _, pair := range [][2]string{{"schlaf", "sleep"}, {"sleep", "sleep"}, {"couchage", "sleep"}, {"dormir", "sleep"},
		{"zelt", "shelter"}, {"tent", "shelter"}, {"shelter", "shelter"}, {"abri", "shelter"}, {"küche", "kitchen"},
		{"cook", "kitchen"}, {"kitchen", "kitchen"}, {"cuisine", "kitchen"}, {"cocina", "kitchen"},
		{"essen", "food"}, {"food", "food"}, {"nourriture", "food"}, {"wasser", "water"}, {"water", "water"},
		{"eau", "water"}, {"kleid", "clothing"}, {"cloth", "clothing"}, {"vêtement", "clothing"}, {"ropa", "clothing"},
		{"erste hilfe", "aid"}, {"first aid", "aid"}, {"secours", "aid"}, {"licht", "light"}, {"navigation", "navigation"},
		{"electr", "electronics"}, {"elektr", "electronics"}, {"hygien", "care"}, {"hygièn", "care"}, {"werkzeug", "tools"},
		{"tool", "tools"}, {"winter", "winter"}} {
		if strings.Contains(word, pair[0]) {
			return pair[1]
		}
	}
	return ""
}

// isoDate brings the usual ways of writing a date to YYYY-MM-DD; what it does not know stays as it is and is refused.
func isoDate(text string) string {
	for _, layout := range []string{time.DateOnly, "02.01.2006", "2.1.2006", "2006/01/02", "02/01/2006"} {
		if t, err := time.Parse(layout, text); err == nil {
			return t.Format(time.DateOnly)
		}
	}
	if days, err := strconv.ParseFloat(text, 64); err == nil && days > 20000 &&
		days < 90000 { // a day number of a spreadsheet
		return time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(days)).Format(time.DateOnly)
	}
	return text
}

// asTheyStand reads the fields that depend on no other.
func (r *reader) asTheyStand() error {
	for _, f := range Fields {
		text := r.word(f.Key)
		if f.read == nil || text == "" {
			continue
		}
		v, err := f.read(r, text)
		if err != nil {
			return fmt.Errorf("%s: %q is not a number", f.Key, clip(text))
		}
		if v == nil {
			continue
		}
		in, key := r.item, f.path
		if part, of, within := strings.Cut(f.path, "/"); within {
			if in, _ = r.item[part].(map[string]any); in == nil {
				in = map[string]any{}
				r.item[part] = in
			}
			key = of
		}
		in[key] = v
	}
	return nil
}

// quantity reads a figure with or without a unit; given is false for an empty cell.
func (r *reader) quantity(field string, parse func(text, bare string) (float64, error)) (v float64, given bool,
	err error) {
	text, unitName := r.cell(field)
	text = strings.TrimLeft(text, "~≈<> ")
	if text == "" || text == "-" || text == "–" || text == "?" {
		return 0, false, nil
	}
	v, err = parse(r.points(text), unitName)
	f, _ := FieldOf(field)
	if err != nil {
		return 0, false, fmt.Errorf("%s: %s", f.Word, strings.TrimPrefix(err.Error(), unit.ErrQuantity.Error()+": "))
	}
	if v < 0 {
		return 0, false, fmt.Errorf("%s: %q is less than nothing", f.Word, clip(text))
	}
	return v, true, nil
}

// points writes the figures of a text with a decimal point and without parted thousands.
func (r *reader) points(text string) string {
	if r.mapping.DecimalComma {
		if strings.Contains(text, ",") {
			text = strings.ReplaceAll(text, ".", "") // 1.234,5
		}
		return strings.ReplaceAll(text, ",", ".")
	}
	return strings.ReplaceAll(text, ",", "")
}

func (r *reader) number(text string) (float64, error) {
	v, err := strconv.ParseFloat(strings.TrimSpace(r.points(text)), 64)
	if err == nil && (v != v || v > 1e9 || v < -1e9) {
		return 0, strconv.ErrRange
	}
	return v, err
}

// rounded keeps nine figures, so that a conversion there and back gives the same number.
func rounded(v float64) float64 {
	text := strconv.FormatFloat(v, 'g', 9, 64)
	v, _ = strconv.ParseFloat(text, 64)
	return v
}

// Into puts the readable rows on the list of a document, behind what is on it or, with replace, in its stead. Rows
// keep their ids where these are free; nest_in follows the ids.
func Into(doc bundle.Doc, rows []Row, replace bool) {
	if replace {
		doc.SetItems(nil)
		doc.SetPins(nil)
		delete(doc, "pins")
	}
	items := doc.List("items")
	taken := map[any]bool{}
	for _, item := range items {
		taken[item["id"]] = true
	}
	renamed := map[any]string{}
	first := len(items)
	for _, row := range rows {
		if row.Item == nil {
			continue
		}
		item := maps.Clone(row.Item)
		if id, ok := item["id"].(string); !ok || taken[id] {
			fresh := doc.FreshID(item["name"].(string))
			if ok {
				renamed[id] = fresh
			}
			item["id"] = fresh
		}
		taken[item["id"]] = true
		items = append(items, item)
		doc.SetItems(items)
	}
	for _, item := range items[first:] {
		if to, ok := renamed[item["nest_in"]]; ok {
			item["nest_in"] = to
		}
	}
}
