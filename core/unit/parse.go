package unit

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode"
)

// ErrQuantity is wrapped by every error of the Parse functions.
var ErrQuantity = errors.New("not a quantity")

var (
	masses = map[string]float64{
		"g": 1, "gram": 1, "grams": 1, "kg": 1000, "kilo": 1000, "kilos": 1000, "mg": 0.001,
		"lb": Pound, "lbs": Pound, "pound": Pound, "pounds": Pound, "oz": Ounce, "ounce": Ounce, "ounces": Ounce,
	}
	volumes = map[string]float64{
		"l": 1, "litre": 1, "litres": 1, "liter": 1, "liters": 1, "dl": 0.1, "cl": 0.01, "ml": 0.001, "cm3": 0.001,
		"cc":   0.001,
		"cuin": CubicInch, "in3": CubicInch, "ci": CubicInch, "gal": Gallon, "qt": Quart, "floz": FluidOunce,
	}
	lengths = map[string]float64{
		"cm": 1, "mm": 0.1, "m": 100, "in": Inch, "inch": Inch, "inches": Inch, `"`: Inch, "ft": Foot, "'": Foot,
		"foot": Foot, "feet": Foot,
	}
)

var distances = map[string]float64{"km": 1, "m": 0.001, "mi": Mile, "mile": Mile, "miles": Mile, "ft": Foot / 100_000,
	"feet": Foot / 100_000, "'": Foot / 100_000}

// Mass reads "1.2 kg", "850", "1 lb 4 oz" and gives grams. A bare number is taken in the unit named by bare.
func Mass(text, bare string) (float64, error) { return quantity(text, bare, masses) }

// Volume reads "2.2 L", "134 cu in", "850 ml" and gives litres. A bare number is taken in the unit named by bare.
func Volume(text, bare string) (float64, error) { return quantity(text, bare, volumes) }

// Length reads "34 cm", "13.4 in", "5 ft 8 in" and gives centimetres. A bare number is taken in the unit named by
// bare.
func Length(text, bare string) (float64, error) { return quantity(text, bare, lengths) }

// Distance reads "12 km", "7.5 mi", "600 m", "2000 ft" and gives kilometres. A bare number is taken in the unit named
// by bare.
func Distance(text, bare string) (float64, error) { return quantity(text, bare, distances) }

// Temperature reads "-5", "-5 °C", "23 F" and gives degrees Celsius. A bare number is taken in degrees of the system.
func Temperature(text string, system System) (float64, error) {
	plain := strings.ToLower(strings.NewReplacer("°", "", "º", "", " ", "").Replace(strings.TrimSpace(text)))
	fahrenheit := system == Customary
	if cut, ok := strings.CutSuffix(plain, "f"); ok {
		plain, fahrenheit = cut, true
	} else if cut, ok := strings.CutSuffix(plain, "c"); ok {
		plain, fahrenheit = cut, false
	}
	v, err := decimal(plain)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, fmt.Errorf("%w: %q is no temperature", ErrQuantity, strings.TrimSpace(text))
	}
	if fahrenheit {
		v = Celsius(v)
	}
	return v, nil
}

// Small units are read with thousands: nobody gives thousandths of a gram, so "9,000 cu in" is nine thousand, while
// "1,250 kg" is one and a quarter.
var (
	small = map[string]bool{"g": true, "mg": true, "ml": true, "cm3": true, "cc": true, "mm": true, "cuin": true,
		"in3": true, "ci": true}
	thousands = regexp.MustCompile(`^\d{1,3}(,\d{3})+$`)
	fraction  = regexp.MustCompile(`(?:(\d+)\s+)?(\d+)\s*/\s*(\d+)`)
	signs     = strings.NewReplacer("½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅓", " 1/3", "⅔", " 2/3", "⅛", " 1/8", "⅜",
		" 3/8", "⅝", " 5/8", "⅞", " 7/8", "⁄", "/")
)

// fractions writes "12 1/2" and "12½" as "12.5".
func fractions(text string) string {
	return fraction.ReplaceAllStringFunc(strings.TrimSpace(signs.Replace(text)), func(found string) string {
		part := fraction.FindStringSubmatch(found)
		whole, _ := strconv.ParseFloat("0"+part[1], 64)
		above, _ := strconv.ParseFloat(part[2], 64)
		below, _ := strconv.ParseFloat(part[3], 64)
		if below == 0 {
			return found
		}
		return strconv.FormatFloat(whole+above/below, 'f', -1, 64)
	})
}

// quantity adds up "number unit" pairs. The decimal mark is a point or a single comma.
func quantity(text, bare string, factors map[string]float64) (float64, error) {
	rest := fractions(strings.TrimSpace(strings.ToLower(text)))
	if rest == "" {
		return 0, fmt.Errorf("%w: nothing was given", ErrQuantity)
	}
	total, parts := 0.0, 0
	for rest != "" {
		digits, after := split(rest, func(r rune) bool { return unicode.IsDigit(r) || strings.ContainsRune(".,+-−", r) })
		word, next := split(strings.TrimSpace(after), func(r rune) bool {
			return unicode.IsLetter(r) || r == '"' || r == '\'' || r == '³' || r == ' '
		})
		name := strings.ReplaceAll(strings.ReplaceAll(word, " ", ""), "³", "3")
		if strings.HasPrefix(next, "3") && (name == "cm" || name == "in") {
			name, next = name+"3", next[1:]
		}
		if name == "" {
			if parts > 0 {
				return 0, fmt.Errorf("%w: %q has a number without a unit", ErrQuantity, strings.TrimSpace(text))
			}
			name = bare
		}
		if small[name] && thousands.MatchString(digits) {
			digits = strings.ReplaceAll(digits, ",", "")
		}
		value, err := decimal(digits)
		if err != nil {
			return 0, fmt.Errorf("%w: %q is not a number", ErrQuantity, strings.TrimSpace(text))
		}
		factor, known := factors[name]
		if !known {
			return 0, fmt.Errorf("%w: the unit %q is not known here", ErrQuantity, name)
		}
		total += value * factor
		parts++
		rest = strings.TrimSpace(next)
	}
	if math.IsNaN(total) || math.IsInf(total, 0) {
		return 0, fmt.Errorf("%w: %q is out of range", ErrQuantity, strings.TrimSpace(text))
	}
	return total, nil
}

func decimal(digits string) (float64, error) {
	digits = strings.Replace(digits, "−", "-", 1)
	if strings.Count(digits, ",") == 1 && !strings.Contains(digits, ".") {
		digits = strings.Replace(digits, ",", ".", 1)
	}
	return strconv.ParseFloat(digits, 64)
}

// split cuts text after its longest prefix of runes for which in holds.
func split(text string, in func(rune) bool) (prefix, rest string) {
	for i, r := range text {
		if !in(r) {
			return text[:i], text[i:]
		}
	}
	return text, ""
}
