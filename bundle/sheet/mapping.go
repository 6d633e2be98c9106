package sheet

import (
	"regexp"
	"slices"
	"strings"
)

// Units that a column of a kind can be in, the first is the default.
var Units = map[string][]string{"mass": {"g", "kg", "oz", "lb"}, "litres": {"l", "ml", "cuin", "floz"},
	"length": {"cm", "mm", "in"}}

// Column says what a column means, and in which unit its bare numbers are.
type Column struct{ Field, Unit string }

// Mapping is what a sheet's columns mean, one entry each, and whether commas are decimal.
type Mapping struct {
	Columns      []Column
	DecimalComma bool
}

// unitWords are the words for units in headings and in cells, for which a bare number stands.
var unitWords = map[string]string{"g": "g", "gr": "g", "gramm": "g", "gram": "g", "grams": "g", "grammes": "g",
	"kg": "kg", "kilo": "kg", "oz": "oz", "ounces": "oz", "unzen": "oz", "lb": "lb", "lbs": "lb", "pounds": "lb",
	"l": "l", "liter": "l", "litre": "l", "litres": "l", "liters": "l", "litri": "l", "litros": "l", "ml": "ml",
	"cu in": "cuin", "cuin": "cuin", "in3": "cuin", "in³": "cuin", "fl oz": "floz", "floz": "floz",
	"cm": "cm", "mm": "mm", "in": "in", "inch": "in", "inches": "in", "zoll": "in"}

var headingUnit = regexp.MustCompile(`(?i)[(\[/,]\s*([\pL³ ]+?)\s*[)\]]?\s*$`)

// Propose guesses the mapping from the heading, and where that says nothing, from what stands in the columns.
func Propose(t *Table) Mapping {
	m := Mapping{Columns: make([]Column, len(t.Heading)), DecimalComma: decimalComma(t)}
	taken := map[string]bool{}
	for pass := range 2 { // whole headings first, then headings that begin with a known word
		for i, heading := range t.Heading {
			if m.Columns[i].Field != "" {
				continue
			}
			words, unitName := splitHeading(heading)
			for _, f := range Fields[1:] {
				if taken[f.Key] || !named(f, words, pass == 0) || !suits(f, t, i) {
					continue
				}
				m.Columns[i] = Column{f.Key, unitFor(f, unitName)}
				taken[f.Key] = true
				break
			}
			if m.Columns[i].Field == "" && unitName != "" && pass == 1 { // "grams" alone
				for _, f := range []string{"mass", "loose", "length"} {
					field, _ := FieldOf(f)
					if !taken[f] && slices.Contains(Units[field.Kind], unitName) {
						m.Columns[i] = Column{f, unitName}
						taken[f] = true
						break
					}
				}
			}
		}
	}
	if !taken["name"] { // the column with most different words
		best, most := -1, 0
		for i := range t.Heading {
			if n := wordy(t, i); m.Columns[i].Field == "" && n > most {
				best, most = i, n
			}
		}
		if best >= 0 {
			m.Columns[best] = Column{Field: "name"}
		}
	}
	return m
}

// splitHeading parts "Weight (oz)", "Gewicht in g" or "weight_g" into words and a unit.
func splitHeading(heading string) (words, unitName string) {
	low := strings.ToLower(strings.TrimSpace(strings.ReplaceAll(heading, "_", " ")))
	if found := headingUnit.FindStringSubmatch(low); found != nil {
		if u := unitWords[strings.TrimSpace(found[1])]; u != "" {
			return strings.TrimSpace(low[:strings.Index(low, found[0])]), u
		}
	}
	fields := strings.Fields(low)
	if n := len(fields); n > 0 {
		last := strings.Trim(fields[n-1], "()[].")
		if u := unitWords[last]; u != "" {
			return strings.TrimSuffix(strings.Join(fields[:n-1], " "), " in"), u
		}
	}
	return strings.Trim(low, " .:"), ""
}

func named(f Field, words string, whole bool) bool {
	for _, name := range f.Names {
		if words == name || !whole && len(name) > 2 && strings.HasPrefix(words, name) {
			return true
		}
	}
	return false
}

// suits keeps a heading that means two things in two languages from being taken for the wrong one: a column of
// figures is no name, a column of words no count.
func suits(f Field, t *Table, column int) bool {
	switch f.Key {
	case "name":
		return wordy(t, column) > 0
	case "count":
		return wordy(t, column) == 0 || 2*figures(t, column) > filledCells(t, column)
	case "mass", "total", "loose", "tight":
		return wordy(t, column) == 0 || figures(t, column) > 0
	}
	return true
}

// wordy counts the cells of a column that begin with a letter.
func wordy(t *Table, column int) (n int) {
	for _, row := range t.Rows {
		if c := row[column]; c != "" && !strings.ContainsAny(c[:1], "0123456789.,-+~≈<") {
			n++
		}
	}
	return n
}

// figures counts the cells of a column that have a figure in them.
func figures(t *Table, column int) (n int) {
	for _, row := range t.Rows {
		if strings.ContainsAny(row[column], "0123456789") {
			n++
		}
	}
	return n
}

func filledCells(t *Table, column int) (n int) {
	for _, row := range t.Rows {
		if row[column] != "" {
			n++
		}
	}
	return n
}

func unitFor(f Field, given string) string {
	units := Units[f.Kind]
	if len(units) == 0 {
		return ""
	}
	if slices.Contains(units, given) {
		return given
	}
	return units[0]
}

var commaNumber = regexp.MustCompile(`\d,\d`)
var thousands = regexp.MustCompile(`^\d{1,3}(,\d{3})+(\.\d+)?$`)

// decimalComma decides whether commas in figures part whole from broken: yes when a semicolon or a tab parts the
// columns, or when some figure with a comma cannot be one with parted thousands.
func decimalComma(t *Table) bool {
	for _, row := range t.Rows {
		for _, cell := range row {
			figure, _, _ := strings.Cut(cell, " ")
			if commaNumber.MatchString(figure) && !thousands.MatchString(figure) && !strings.ContainsAny(figure, "xX×") {
				return true
			}
		}
	}
	return t.comma
}
