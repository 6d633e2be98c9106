package unit

import (
	"math"
	"strconv"
	"strings"
)

// System chooses the units in which figures are shown. What is stored and computed never depends on it.
type System string

// The two systems. The zero value prints as Metric.
const (
	Metric    System = "metric"
	Customary System = "customary"
)

// Mass prints grams: "85 g", "1.24 kg", "13.2 kg"; or "3.0 oz", "2 lb 12 oz", "29.1 lb".
func (s System) Mass(g float64) string {
	if s == Customary {
		switch a := math.Abs(g); {
		case a < Pound:
			return number(g/Ounce, 1) + " oz"
		case a < 10*Pound:
			ounces := math.Round(g / Ounce)
			pounds := math.Trunc(ounces / 16)
			return number(pounds, 0) + " lb " + number(math.Abs(ounces-16*pounds), 0) + " oz"
		default:
			return number(g/Pound, 1) + " lb"
		}
	}
	switch a := math.Abs(g); {
	case a < 999.5:
		return number(g, 0) + " g"
	case a < 9995:
		return number(g/1000, 2) + " kg"
	default:
		return number(g/1000, 1) + " kg"
	}
}

// Volume prints litres: "0.05 L", "2.2 L", "52 L"; or cubic inches "134 cu in".
func (s System) Volume(l float64) string {
	if s == Customary {
		cubic := l / CubicInch
		if math.Abs(cubic) < 9.95 {
			return number(cubic, 1) + " cu in"
		}
		return number(cubic, 0) + " cu in"
	}
	if a := math.Abs(l); a < 0.095 && a > 0 {
		return number(l, 2) + " L"
	}
	return number(l, 1) + " L"
}

// Drink prints litres of water: "2.5 L"; or fluid ounces "85 fl oz".
func (s System) Drink(l float64) string {
	if s == Customary {
		return number(l/FluidOunce, 0) + " fl oz"
	}
	return number(l, 1) + " L"
}

// Length prints centimetres: "12 cm", "4.5 cm"; or "4.7 in".
func (s System) Length(cm float64) string {
	if s == Customary {
		return trimmed(cm/Inch, 1) + " in"
	}
	return trimmed(cm, 1) + " cm"
}

// Size prints dimensions in centimetres: "34 x 18 x 4 cm".
func (s System) Size(cm ...float64) string {
	parts := make([]string, len(cm))
	for i, c := range cm {
		if s == Customary {
			c /= Inch
		}
		parts[i] = trimmed(c, 1)
	}
	joined := strings.Join(parts, " × ")
	if s == Customary {
		return joined + " in"
	}
	return joined + " cm"
}

// Distance prints kilometres: "12.5 km"; or "7.8 mi".
func (s System) Distance(km float64) string {
	if s == Customary {
		return trimmed(km/Mile, 1) + " mi"
	}
	return trimmed(km, 1) + " km"
}

// Climb prints metres of height: "620 m"; or "2030 ft".
func (s System) Climb(m float64) string {
	if s == Customary {
		return number(m*100/Foot, 0) + " ft"
	}
	return number(m, 0) + " m"
}

// Body prints kilograms of a person: "71 kg" or "157 lb".
func (s System) Body(kg float64) string {
	if s == Customary {
		return number(kg*1000/Pound, 0) + " lb"
	}
	return trimmed(kg, 1) + " kg"
}

// Degrees prints a difference of temperature: "4 °C"; or "7 °F".
func (s System) Degrees(c float64) string {
	if s == Customary {
		return number(c*9/5, 0) + " °F"
	}
	return number(c, 0) + " °C"
}

// Temperature prints degrees Celsius: "-2 °C" or "28 °F".
func (s System) Temperature(c float64) string {
	if s == Customary {
		return number(Fahrenheit(c), 0) + " °F"
	}
	return number(c, 0) + " °C"
}

// number prints with a fixed count of decimals, a true minus sign and never "-0".
func number(v float64, decimals int) string {
	text := strconv.FormatFloat(v, 'f', decimals, 64)
	if strings.HasPrefix(text, "-") {
		if strings.Trim(text, "-0.") == "" {
			return text[1:]
		}
		return "−" + text[1:]
	}
	return text
}

// trimmed prints with at most the given decimals and no zero at the end.
func trimmed(v float64, decimals int) string {
	text := number(v, decimals)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	return text
}
