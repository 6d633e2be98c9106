package kit

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"tornister/core/unit"
)

// Told is what a typed line such as "down bag 950 g 7 l" says of a thing, with everything else filled in from its
// kind.
type Told struct {
	Name     string
	Kind     Kind
	Known    bool // the name is that of a kind of the table
	Count    int
	MassG    float64
	Weighed  bool // the mass was typed; otherwise it is a guess
	Shape    Shape
	Measured Measured // Guess when nothing about its room was typed
	Carry    Carry    // "worn" was typed, or people walk with it so; "" for packed
}

// How much of a stuffed sack is squeezed: things pushed into their own sack by hand are taken to lie halfway between
// loose and tight (our estimate). And a coiled cord: what it takes up of the solid cord's volume.
const (
	sackSqueeze = 0.5
	coiledLoose = 1.9
	coiledTight = 1.4
	cordDensity = 1.0 // g/cm³, sheathed nylon with its air
)

// longestLine bounds a typed line, in bytes: no thing takes so many words.
const longestLine = 600

// Quick reads one typed line: a count ("2 x"), a name, and in any order a weight ("950 g", "1 lb 4 oz"), litres ("7
// l", "7 l loose", "4 l tight") and dimensions ("12 x 10 cm", "18x9x6cm", "9mm 25m" of a cord). Litres of a soft
// thing are those of its own stuffed sack unless loose or tight is said; of a bottle or a pot, what it holds. What is
// not said comes from the kind, scaled to what is. The error names what could not be read.
func Quick(line string) (Told, error) {
	if len(line) > longestLine {
		return Told{}, &QuickError{fmt.Sprintf("the line is %d bytes long", len(line)), "type one thing a line"}
	}
	line = bullet.ReplaceAllString(line, "")
	r := newReader(line)
	if err := r.read(); err != nil {
		return Told{}, err
	}
	if made := listed.FindString(line); made != "" {
		outside := newReader(strings.Replace(line, made, " ", 1))
		if outside.read() == nil && len(outside.name) > 0 {
			r.meant = strings.Join(withoutPair(outside.name), " ")
			if r.days == 0 && r.bare == 0 {
				r.name = []string{r.meant, made}
			}
		}
	}
	return r.finish()
}

func newReader(line string) *reader {
	r := &reader{}
	r.words, r.commas = split(line)
	r.told.Count = 1
	return r
}

// bullet is what begins a line of a list and is no part of what it lists: a dash, a box to tick, the line's own number.
var bullet = regexp.MustCompile(`^\s*(?:(?:[-*•·–—☐☑✓✔]|\[[ xX]?\]|\d{1,3}[.)])\s+)+`)

// listed is what a thing is made of, in brackets: a tent (poles, pegs, fly) is a tent.
var listed = regexp.MustCompile(`(?i)\((?:[^()]*[,+&][^()]*|(?:and|with|plus|incl|und|mit|et|avec|con|och|med)\b[^()]*)\)`)

// thousands are numbers with a mark between them: 20'000 mAh.
var thousands = regexp.MustCompile(`(\d)['’](\d{3})`)

// QuickError says what of a typed line could not be understood, and what to type.
type QuickError struct{ What, Mend string }

func (e *QuickError) Error() string { return e.What + "; " + e.Mend }

type reader struct {
	words          []string
	commas         []bool // whether one stands behind a word
	told           Told
	name           []string
	named          int    // the place behind the last word of the name
	meant          string // the name without what is listed in brackets; "" where nothing is
	litres         float64
	loose, tight   float64
	sides          []float64 // cm
	crossed        bool      // the sides were joined by x
	massG          float64
	mAh, days      float64
	daysAt         int      // where the days stand in the name
	sized          []string // the words that the sides were read from
	unitless       bool     // the sides had no unit
	bare           float64  // a last number without a unit
	countGiven     bool
	noTimes        bool // the count is a number before the name, without an x
	lastWasLitres  bool
	lastLitresRead float64
}

// split parts a line into words: numbers, units and names apart, so that "950g" and "12x10cm" are read like "950 g"
// and "12 x 10 cm". It says behind which a comma stood.
func split(line string) (words []string, commas []bool) {
	line = strings.NewReplacer("×", " x ", ";", " ", "(", " ", ")", " ", "³", "3").Replace(line)
	line = thousands.ReplaceAllString(line, "$1$2")
	var now strings.Builder
	flush := func() {
		if word := strings.Trim(now.String(), ","); word != "" {
			words = append(words, word)
			commas = append(commas, strings.HasSuffix(now.String(), ","))
		} else if now.Len() > 0 && len(commas) > 0 {
			commas[len(commas)-1] = true
		}
		now.Reset()
	}
	runes := []rune(line)
	for i, r := range runes {
		switch {
		case unicode.IsSpace(r):
			flush()
			continue
		case i > 0 && boundary(runes, i):
			flush()
		}
		now.WriteRune(r)
	}
	flush()
	return words, commas
}

// boundary reports whether a number ends or begins between two runes: "950g" parts, "t-shirt" and "m2x" do not.
func boundary(runes []rune, i int) bool {
	before, r := runes[i-1], runes[i]
	if unicode.IsDigit(before) && !unicode.IsDigit(r) && !strings.ContainsRune(".,-/:", r) {
		return true
	}
	return unicode.IsDigit(r) && (before == 'x' || before == 'X') && i > 1 &&
		(unicode.IsDigit(runes[i-2]) || unicode.IsSpace(runes[i-2]))
}

func (r *reader) read() error {
	for i := 0; i < len(r.words); {
		used, err := r.times(i)
		if used == 0 && err == nil {
			used, err = r.quantity(i)
		}
		if err != nil {
			return err
		}
		if used == 0 {
			r.word(i)
			used = 1
		}
		i += used
	}
	return nil
}

// at is a word in small letters, without the point behind it; "" beyond the last.
func (r *reader) at(i int) string {
	if i >= len(r.words) {
		return ""
	}
	return strings.ToLower(strings.TrimSuffix(r.words[i], "."))
}

// amount reports whether a text is a weight or litres.
func amount(text string) bool {
	if strings.HasSuffix(text, " ") {
		return false
	}
	_, mass := unit.Mass(text, "")
	_, litres := unit.Volume(text, "")
	return mass == nil || litres == nil
}

// call takes a word for one of the name, with the comma between it and the word of the name right before it.
func (r *reader) call(i int) {
	if len(r.name) > 0 && r.named == i && r.commas[i-1] {
		r.name[len(r.name)-1] += ","
	}
	r.name, r.named = append(r.name, r.words[i]), i+1
}

// word takes a word that is no quantity.
func (r *reader) word(i int) {
	w := r.words[i]
	low := strings.ToLower(w)
	switch {
	case r.lastWasLitres && low == "loose":
		r.loose, r.litres = r.lastLitresRead, 0
	case r.lastWasLitres && (low == "tight" || low == "packed"):
		r.tight, r.litres = r.lastLitresRead, 0
	case low == "worn" && len(r.name) > 0:
		r.told.Carry = Worn
	case !strings.ContainsFunc(w, func(c rune) bool { return unicode.In(c, unicode.L, unicode.N, unicode.S) || c == '&' }):
		// a dash between name and figures
	default:
		r.call(i)
	}
	r.lastWasLitres = false
}

// quantity reads a number with what follows it and says how many words that took; 0 when there is no number.
func (r *reader) quantity(i int) (int, error) {
	value, ok := plainNumber(r.words[i])
	if !ok {
		return 0, nil
	}
	if smallUnits[r.at(i+1)] && inThousands.MatchString(r.words[i]) {
		value *= 1000
	}
	if i+1 < len(r.words) && value == math.Trunc(value) {
		if part, more := plainNumber(r.words[i+1]); more && part < 1 && strings.Contains(r.words[i+1], "/") { // "1 1/2 l"
			r.words[i+1] = strconv.FormatFloat(value+part, 'f', -1, 64)
			used, err := r.quantity(i + 1)
			return used + 1, err
		}
	}
	name, span := r.at(i+1), 2
	if joined := name + r.at(i+2); name != "" && (joined == "cuin" || joined == "floz") {
		name, span = joined, 3
	}
	text := strconv.FormatFloat(value, 'f', -1, 64) + " " + name
	if g, err := unit.Mass(text, ""); err == nil && name != "" {
		r.massG += g
		r.told.Weighed, r.lastWasLitres = true, false
		return span, nil
	}
	if l, err := unit.Volume(text, ""); err == nil && name != "" {
		r.litres, r.lastLitresRead, r.lastWasLitres = l, l, true
		return span, nil
	}
	switch {
	case name == "mah":
		r.mAh, r.lastWasLitres = value, false
		return 2, nil
	case slices.Contains(dayWords, name) && value == math.Trunc(value) && value >= 1 && value <= 30:
		r.days, r.lastWasLitres, r.daysAt = value, false, len(r.name)
		r.call(i)
		r.call(i + 1)
		return 2, nil
	}
	if used, ok := r.sizes(i); ok {
		r.lastWasLitres = false
		return used, nil
	}
	if i == 0 && len(r.words) > 1 && value == math.Trunc(value) && value <= mostOfALine && !measures[r.at(i+1)] {
		r.noTimes = true
		return 1, r.count(value)
	}
	r.lastWasLitres = false
	if i == len(r.words)-1 {
		r.bare = value
	}
	r.call(i) // a number that belongs to the name
	return 1, nil
}

// sizes reads "12 x 10 cm", "18 x 9 x 6 in" or a single "25 m".
func (r *reader) sizes(i int) (used int, ok bool) {
	var values []float64
	var factors []float64
	crossed := false
	at := i
	for at < len(r.words) {
		v, number := plainNumber(r.words[at])
		if !number {
			break
		}
		at++
		factor := 0.0
		if at < len(r.words) {
			if cm, err := unit.Length("1 "+strings.ToLower(r.words[at]), ""); err == nil {
				factor = cm
				at++
			}
		}
		values, factors = append(values, v), append(factors, factor)
		if at+1 < len(r.words) && strings.EqualFold(r.words[at], "x") {
			if _, number := plainNumber(r.words[at+1]); number && !amount(r.at(at+1)+" "+r.at(at+2)) {
				crossed = true
				at++
				continue
			}
		}
		break
	}
	last := 0.0
	for k := len(factors) - 1; k >= 0; k-- { // a unit holds for the numbers before it
		if factors[k] == 0 {
			factors[k] = last
		}
		last = factors[k]
	}
	if len(values) == 0 || last == 0 && len(values) < 2 {
		return 0, false
	}
	for k, v := range values {
		factor := factors[k]
		if factor == 0 {
			factor = 1 // "12 x 10": centimetres
		}
		r.sides = append(r.sides, v*factor)
	}
	r.crossed = r.crossed || crossed
	r.sized = append(r.sized, r.words[i:at]...)
	r.unitless = last == 0
	return at - i, true
}

// A comma or a point before three digits parts thousands where what is counted is small: 20,000 mAh, 1.250 g.
var (
	inThousands = regexp.MustCompile(`^[1-9]\d{0,2}[,.]\d{3}$`)
	smallUnits  = map[string]bool{"g": true, "gr": true, "gram": true, "grams": true, "ml": true, "mah": true}
)

func plainNumber(word string) (float64, bool) {
	if word == "" || !unicode.IsDigit([]rune(word)[0]) && word[0] != '.' {
		return 0, false
	}
	if strings.Count(word, ",") == 1 && !strings.Contains(word, ".") {
		word = strings.Replace(word, ",", ".", 1)
	}
	if above, below, fraction := strings.Cut(word, "/"); fraction {
		a, errA := strconv.Atoi(above)
		b, errB := strconv.Atoi(below)
		return float64(a) / float64(b), errA == nil && errB == nil && b != 0
	}
	v, err := strconv.ParseFloat(word, 64)
	return v, err == nil && !math.IsInf(v, 0)
}

// finish puts the name, the kind and the figures together.
func (r *reader) finish() (Told, error) {
	t := r.told
	t.Name = strings.Join(withoutPair(r.name), " ")
	if t.Name == "" {
		return Told{}, &QuickError{"there is no name in it",
			`type what it is, then what you know of it: "down bag 950 g 7 l"`}
	}
	if len(r.sides) > 3 {
		return Told{}, &QuickError{"it has more than three dimensions",
			"give length, width and height, or diameter and length"}
	}
	for _, v := range append([]float64{r.massG, r.litres * 1000, r.loose * 1000, r.tight * 1000}, r.sides...) {
		if v > 100_000 {
			return Told{}, &QuickError{"a figure in it is far too large to carry", "look at its unit"}
		}
	}
	if t.Kind, t.Known = kindMeant(cmp.Or(r.meant, t.Name)); !t.Known && r.meant != "" {
		t.Kind, t.Known = kindMeant(t.Name)
	}
	r.bareMass(&t)
	r.unfold(&t)
	t.Name = unit.Capital(t.Name)
	t.Measured = Guess
	t.MassG = t.Kind.MassG
	t.Shape = t.Kind.Shape
	if t.Carry == "" {
		t.Carry = t.Kind.Carry
	}
	if r.days > 0 && t.Kind.Days && !r.countGiven {
		t.Count = int(r.days)
		r.aDay(&t)
	}
	r.together(&t)
	share := 1.0 // of the kind's room
	switch {
	case t.Kind.EmptyL > 0 && r.litres > 0 && len(r.sides) == 0: // its cloth goes with the square of its sides
		r.grow(&t, math.Pow(r.litres/t.Kind.EmptyL, 2.0/3))
	case t.Kind.AreaM2 > 0 && r.spread() > 0:
		r.grow(&t, r.spread()/t.Kind.AreaM2)
	case t.Kind.Pieces > 0 && t.Count > 1 && r.litres == 0 && len(r.sides) == 0:
		r.grow(&t, float64(t.Count)/t.Kind.Pieces)
		t.Name, t.Count = fmt.Sprintf("%d %s", t.Count, unit.Small(t.Name)), 1
	case t.Kind.MAh > 0 && r.mAh > 0:
		r.grow(&t, r.mAh/t.Kind.MAh)
		if !strings.Contains(t.Name, "mAh") {
			t.Name += fmt.Sprintf(" %.0f mAh", r.mAh)
		}
	case t.Kind.Cord && len(r.sides) > 0:
		r.coil(&t)
	case t.Kind.HoldsL > 0 && r.litres > 0:
		share = r.litres / t.Kind.HoldsL
		t.Shape = holding(t.Kind, r.litres)
		t.MassG = t.Kind.contentG(r.litres) + t.Kind.emptyG()*math.Pow(share, 2.0/3)
		t.Measured = Label
	case len(r.sides) > 0:
		t.Shape, t.Measured = r.shaped(r.form(&t)), Dimensions
		share = t.Shape.Litres(0) / t.Kind.Shape.Litres(0)
		t.MassG *= clamp(share, 0.3, 3)
	case r.litres > 0 || r.loose > 0 || r.tight > 0:
		t.Shape, t.Measured = r.roomy(t.Kind.Shape), Label
		share = t.Shape.Litres(0) / t.Kind.Shape.Litres(0)
		t.MassG *= clamp(share, 0.3, 3)
	case t.Weighed && t.Kind.Consumable != "" && t.Kind.HoldsL > 0 && r.massG > t.Kind.MassG/2: // else it is empty
		t.Shape = holding(t.Kind, t.Kind.HoldsL*r.massG/t.Kind.MassG)
	case t.Weighed && t.Kind.MassG > 0 && t.Kind.HoldsL == 0:
		t.Shape = t.Kind.ShapeFor(r.massG)
	}
	if t.Weighed {
		t.MassG = r.massG
	}
	t.MassG = math.Round(t.MassG)
	return t, nil
}
