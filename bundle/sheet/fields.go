package sheet

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"tornister/bundle"
	"tornister/core/kit"
)

// Field is what a column can mean.
type Field struct {
	Key   string // of the mapping
	Word  string
	Kind  string   // mass, litres, length or "" for words and plain numbers
	Names []string // headings, lower case, in the languages that kit lists come in
	cell
}

// Fields lists them, in the order of an export; what is not used comes first. The first name of each is the heading
// that Write uses. A new field of an item is one entry here.
var Fields = []Field{
	{"", "not used", "", nil, nothing},
	{"name", "name", "", []string{"name", "item", "thing", "gear", "article", "what", "product", "description", "gegenstand", "bezeichnung",
		"artikel", "ausrüstung", "was", "nom", "objet", "matériel", "article", "désignation", "nombre", "objeto",
		"artículo", "equipo", "nome", "oggetto", "articolo", "voorwerp", "naam", "artikel", "název", "věc",
		"předmět", "nazwa", "rzecz"},
		of(func(it *kit.Item) string { return it.Name })},
	{"group", "section", "", []string{"section", "group", "category", "kategorie", "gruppe", "bereich", "catégorie", "categoría", "categoria",
		"groep", "kategorie"},
		of(func(it *kit.Item) string { return it.Group })},
	{"count", "how many", "", []string{"count", "qty", "quantity", "number", "pieces", "pcs", "#", "how many", "anzahl", "stück", "stk", "menge",
		"quantité", "qté", "nombre", "cantidad", "quantità", "pezzi", "aantal", "počet", "ks", "ilość", "sztuk"},
		of(func(it *kit.Item) string { return strconv.Itoa(it.Count) })},
	{"mass", "weight of one", "mass", []string{"weight", "mass", "weight each", "unit weight", "gewicht", "masse", "einzelgewicht", "poids", "peso",
		"gewicht", "hmotnost", "váha", "waga"},
		figure(func(it *kit.Item) float64 { return it.MassG })},
	{"mass_from", "weight known from", "", []string{"weight known from"},
		word("mass_from", func(it *kit.Item) string { return it.MassFrom })},
	{"total", "weight of all", "mass", []string{"total weight", "weight total", "sum", "total", "gesamtgewicht", "gesamt", "poids total", "peso total",
		"peso totale", "totaal gewicht", "celkem"},
		nothing},
	{"carry", "carried", "", []string{"carried", "carry", "worn", "getragen", "trageweise", "porté", "llevado", "indossato", "gedragen"},
		of(func(it *kit.Item) string { return string(it.Carry) })},
	{"shape", "shape", "", []string{"shape"},
		of(func(it *kit.Item) string { return string(it.Shape.Kind) })},
	{"loose", "room, loose", "litres", []string{"loose", "volume", "litres", "liters", "capacity", "room", "volumen", "liter", "loses volumen", "volume",
		"litri", "litros", "objem"},
		size(func(s *kit.Shape) *float64 { return &s.LooseL })},
	{"tight", "room, tight", "litres", []string{"tight", "packed volume", "pack size", "packed", "packmaß", "packmass", "gepackt", "comprimé", "compressed"},
		size(func(s *kit.Shape) *float64 { return &s.TightL })},
	{"gap", "narrowest gap", "length", []string{"gap"},
		size(func(s *kit.Shape) *float64 { return &s.GapCm })},
	{"length", "length", "length", []string{"length", "long", "länge", "longueur", "largo", "lunghezza", "lengte", "délka"},
		side(func(s *kit.Shape) float64 { return max(s.LengthCm, s.SizeCm[0]) })},
	{"width", "width", "length", []string{"width", "wide", "breite", "largeur", "ancho", "larghezza", "breedte", "šířka"},
		side(func(s *kit.Shape) float64 { return s.SizeCm[1] })},
	{"height", "height", "length", []string{"height", "high", "thickness", "höhe", "hauteur", "alto", "altezza", "hoogte", "výška"},
		side(func(s *kit.Shape) float64 { return s.SizeCm[2] })},
	{"diameter", "diameter", "length", []string{"diameter", "durchmesser", "diamètre", "diámetro", "diametro", "průměr"},
		size(func(s *kit.Shape) *float64 { return &s.DiameterCm })},
	{"displaced", "litres displaced", "litres", []string{"displaced", "displacement"},
		size(func(s *kit.Shape) *float64 { return &s.VolumeL })},
	{"inside", "holds", "litres", []string{"holds", "inside", "fassungsvermögen", "inhalt", "contenance"},
		size(func(s *kit.Shape) *float64 { return &s.InsideL })},
	{"mouth", "mouth", "length", []string{"mouth"},
		size(func(s *kit.Shape) *float64 { return &s.MouthCm })},
	{"gives", "gives", "", []string{"presses flat to"},
		size(func(s *kit.Shape) *float64 { return &s.Gives })},
	{"measured", "known from", "", []string{"known from", "measured"},
		word("measured", func(it *kit.Item) string { return string(it.Measured) })},
	{"uncertainty", "give or take", "", []string{"give or take"},
		number("uncertainty", func(it *kit.Item) float64 { return it.Spread })},
	{"when", "when needed", "", []string{"needed"},
		word("use/when", func(it *kit.Item) string { return string(it.Use.When) })},
	{"per_day", "times a day", "", []string{"times a day", "per day"},
		number("use/per_day", func(it *kit.Item) float64 { return it.Use.PerDay }).orElse("0")},
	{"urgent", "in seconds", "", []string{"urgent"},
		yes("use/urgent", func(it *kit.Item) bool { return it.Use.Urgent })},
	{"absorbs", "takes up water", "", []string{"takes up water", "absorbs"},
		yes("water/absorbs", func(it *kit.Item) bool { return it.Water.Absorbs })},
	{"suffers", "suffers by water", "", []string{"suffers by water", "suffers"},
		yes("water/suffers", func(it *kit.Item) bool { return it.Water.Suffers })},
	{"case", "own case", "", []string{"own case"},
		word("water/case", func(it *kit.Item) string { return it.Water.Case }).upper()},
	{"leaks", "may leak", "", []string{"may leak", "leaks"},
		yes("water/leaks", func(it *kit.Item) bool { return it.Water.Leaks })},
	{"returns_wet", "comes back wet", "", []string{"comes back wet"},
		yes("water/returns_wet", func(it *kit.Item) bool { return it.Water.ReturnsWet })},
	{"traits", "traits", "", []string{"traits"},
		list("traits", func(it *kit.Item) []string { return texts(it.Traits) }).orElse("-")},
	{"functions", "functions", "", []string{"functions"},
		list("functions", func(it *kit.Item) []string { return it.Functions }).orElse("-")},
	{"needs", "needs", "", []string{"needs"},
		list("needs", func(it *kit.Item) []string { return it.Needs })},
	{"consumable", "used up", "", []string{"used up", "consumable", "verbrauch"},
		word("consumable", func(it *kit.Item) string { return it.Consumable })},
	{"nest_in", "inside of", "", []string{"inside of"},
		word("nest_in", func(it *kit.Item) string { return it.NestIn })},
	{"day", "for day", "", []string{"for day"},
		number("day", func(it *kit.Item) float64 { return float64(it.Day) })},
	{"expires", "good until", "", []string{"good until", "expires", "expiry", "best before", "ablaufdatum", "haltbar bis", "date limite", "caducidad",
		"scadenza"},
		word("expires", func(it *kit.Item) string { return it.Expires }).dated()},
	{"carried", "trips carried", "", []string{"trips carried"},
		number("history/carried", func(it *kit.Item) float64 { return float64(it.History.Carried) })},
	{"used", "trips used", "", []string{"trips used"},
		number("history/used", func(it *kit.Item) float64 { return float64(it.History.Used) })},
	{"follows", "follows the trip", "", []string{"follows"},
		word("follows", func(it *kit.Item) string { return it.Follows })},
	{"fixed", "fixed", "", []string{"fixed"},
		yes("fixed", func(it *kit.Item) bool { return it.Fixed }).onlyYes()},
	{"made_small", "made small", "", []string{"made small"},
		list("made_small", func(it *kit.Item) []string { return it.MadeSmall })},
	{"instead", "alternatives", "", []string{"alternatives"},
		word("instead", func(it *kit.Item) string { return it.Instead })},
	{"comfort_c", "comfort, °C", "", []string{"comfort °c"},
		degrees("comfort_c", func(it *kit.Item) *float64 { return it.ComfortC })},
	{"limit_c", "limit, °C", "", []string{"limit °c"},
		degrees("limit_c", func(it *kit.Item) *float64 { return it.LimitC })},
	{"r_value", "insulation R", "", []string{"insulation r", "r-value"},
		number("r_value", func(it *kit.Item) float64 { return it.RValue })},
	{"kind", "kind", "", []string{"kind"},
		of(func(it *kit.Item) string { return it.Kind })},
	{"id", "id", "", []string{"id"},
		word("id", func(it *kit.Item) string { return it.ID })},
	{"shelf", "shelf key", "", []string{"shelf"},
		word("shelf", func(it *kit.Item) string { return it.Shelf })},
}

// FieldOf finds a field by its key.
func FieldOf(key string) (Field, bool) {
	i := slices.IndexFunc(Fields, func(f Field) bool { return f.Key == key })
	if i < 0 {
		return Field{}, false
	}
	return Fields[i], true
}

// cell is how a field stands in a cell. What has a path is read as it stands; the rest together with other fields, by
// the methods of reader.
type cell struct {
	write func(it *kit.Item, factor float64) string // the factor of the column's unit; nil: it is not written
	path  string                                    // in the object of an item
	read  func(r *reader, text string) (any, error) // what goes there; nil for nothing
	size  func(*kit.Shape) *float64                 // of a measure of the shape
}

var nothing cell

func of(text func(*kit.Item) string) cell {
	return cell{write: func(it *kit.Item, _ float64) string { return text(it) }}
}

func figure(v func(*kit.Item) float64) cell {
	return cell{write: func(it *kit.Item, factor float64) string { return plain(rounded(v(it) / factor)) }}
}

func side(cm func(*kit.Shape) float64) cell {
	return cell{write: func(it *kit.Item, factor float64) string {
		return orNothing(rounded(cm(&it.Shape) / factor))
	}}
}

func size(measure func(*kit.Shape) *float64) cell {
	c := side(func(s *kit.Shape) float64 { return *measure(s) })
	c.size = measure
	return c
}

func word(path string, text func(*kit.Item) string) cell {
	c := of(text)
	c.path, c.read = path, func(_ *reader, text string) (any, error) { return text, nil }
	return c
}

func (c cell) upper() cell {
	c.read = func(_ *reader, text string) (any, error) { return strings.ToUpper(text), nil }
	return c
}

func (c cell) dated() cell {
	c.read = func(_ *reader, text string) (any, error) { return isoDate(text), nil }
	return c
}

func number(path string, v func(*kit.Item) float64) cell {
	return cell{path: path, write: func(it *kit.Item, _ float64) string { return orNothing(v(it)) },
		read: func(r *reader, text string) (any, error) {
			v, err := r.number(text)
			return bundle.Number(v), err
		}}
}

// orElse writes something where there is nothing.
func (c cell) orElse(otherwise string) cell {
	write := c.write
	c.write = func(it *kit.Item, factor float64) string { return cmp.Or(write(it, factor), otherwise) }
	return c
}

func degrees(path string, v func(*kit.Item) *float64) cell {
	c := number(path, nil)
	c.write = func(it *kit.Item, _ float64) string {
		if c := v(it); c != nil {
			return plain(*c)
		}
		return ""
	}
	return c
}

func yes(path string, is func(*kit.Item) bool) cell {
	return cell{path: path, write: func(it *kit.Item, _ float64) string { return map[bool]string{true: "yes", false: "no"}[is(it)] },
		read: func(_ *reader, text string) (any, error) {
			switch strings.ToLower(text) {
			case "yes", "true", "1", "x":
				return true, nil
			case "no", "false", "0":
				return false, nil
			}
			return nil, nil
		}}
}

// onlyYes writes no no, and reads none.
func (c cell) onlyYes() cell {
	write, read := c.write, c.read
	c.write = func(it *kit.Item, factor float64) string { return strings.TrimSuffix(write(it, factor), "no") }
	c.read = func(r *reader, text string) (any, error) {
		if is, err := read(r, text); is == true {
			return is, err
		}
		return nil, nil
	}
	return c
}

// list is words in one cell. A dash is a list of none, which is something else than nothing said.
func list(path string, words func(*kit.Item) []string) cell {
	return cell{path: path, write: func(it *kit.Item, _ float64) string {
		if list := words(it); list == nil || len(list) > 0 {
			return strings.Join(list, " ")
		}
		return "-"
	}, read: func(_ *reader, text string) (any, error) {
		list := []any{}
		for _, w := range strings.Fields(text) {
			if w != "-" {
				list = append(list, w)
			}
		}
		return list, nil
	}}
}

func texts[T ~string](list []T) (words []string) {
	for _, w := range list {
		words = append(words, string(w))
	}
	return words
}

func plain(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func orNothing(v float64) string {
	if v == 0 {
		return ""
	}
	return plain(v)
}
