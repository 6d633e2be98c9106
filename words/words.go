// Package words puts into sentences what the core found. The core gives a code and typed values (package fact); here
// each code has its sentence, and each type its way to be written in the reader's units.
package words

import (
	"fmt"
	"maps"
	"math"
	"strings"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/unit"
)

// catalogue has the sentence of every code, with a verb of package fmt for each value: %s for what is written in
// words or with its unit, %.0f and %d for plain numbers.
var catalogue = merged(
	loadWords, aimWords, leftOutWords, brokenWords, schoolWords, changeWords, dryWords, trailWords, packWords,
	reachWords, shrinkWords,
	fitWords, weightWords, balanceWords, safeWords, practiceWords,
)

func merged(parts ...map[string]string) map[string]string {
	all := map[string]string{}
	for _, part := range parts {
		maps.Copy(all, part)
	}
	return all
}

// Say is a fact in words, its figures in a system of units. Nothing is said of what is none. A code that has no
// words, which the tests do not let happen, is given as it is.
func Say(f fact.Fact, system unit.System) string {
	if f.None() {
		return ""
	}
	sentence, known := catalogue[f.Code]
	if !known {
		return f.Code
	}
	values := make([]any, len(f.Values))
	for i, v := range f.Values {
		values[i] = value(v, system)
	}
	return fmt.Sprintf(sentence, values...)
}

// NotKept joins why a choice of a school is not kept or changes nothing, and what would keep it, if that is known.
func NotKept(why, would string) string {
	said := unit.Capital(why) + "."
	if would != "" {
		said += " What would keep it: " + would + "."
	}
	return said
}

// Closing says what is left to do when everything is in; nothing when not everything is.
func Closing(facts []fact.Fact, system unit.System) string {
	var said []string
	for _, f := range facts {
		said = append(said, Say(f, system))
	}
	return strings.Join(said, " ")
}

// value writes a value that has a unit or words; plain numbers are left to the sentence.
func value(v any, system unit.System) any {
	switch v := v.(type) {
	case fact.Fact:
		return Say(v, system)
	case fact.Litres:
		return system.Volume(float64(v))
	case fact.WholeLitres:
		return wholeLitres(math.Ceil(float64(v)), system)
	case fact.Water:
		return system.Drink(float64(v))
	case fact.Grams:
		return system.Mass(float64(v))
	case fact.BodyKg:
		return system.Body(float64(v))
	case fact.Cm:
		return system.Length(float64(v))
	case fact.SizeCm:
		return system.Size(v...)
	case fact.Celsius:
		return system.Temperature(float64(v))
	case fact.Degrees:
		return system.Degrees(float64(v))
	case fact.Small:
		return unit.Small(string(v))
	case fact.Numbered:
		if v.Number > 0 {
			return fmt.Sprintf("%s (%d)", v.Name, v.Number)
		}
		return v.Name
	case fact.Names:
		return named(v)
	case fact.Part:
		return Part(float64(v))
	case fact.Things:
		return Things(int(v))
	case fact.TimesADay:
		return often(float64(v))
	}
	return v
}

func wholeLitres(litres float64, system unit.System) string {
	if system == unit.Customary {
		return system.Volume(litres)
	}
	return fmt.Sprintf("%.0f L", litres)
}

// mostNames is how many names a line takes.
const mostNames = 3

func named(names fact.Names) string {
	small := make([]string, len(names))
	for i, name := range names {
		small[i] = unit.Small(name)
	}
	if len(small) > mostNames {
		return fmt.Sprintf("%s and %d more", strings.Join(small[:mostNames], ", "), len(small)-mostNames)
	}
	return strings.Join(small, ", ")
}

// Things counts in words: "1 thing", "4 things".
func Things(n int) string {
	if n == 1 {
		return "1 thing"
	}
	return fmt.Sprintf("%d things", n)
}

// Part says a share in words: 0.31 is "a third of the way".
func Part(share float64) string {
	parts := []struct {
		share float64
		words string
	}{
		{0.1, "a tenth of the way"}, {0.25, "a quarter of the way"}, {1. / 3, "a third of the way"},
		{0.5, "half of the way"}, {2. / 3, "two thirds of the way"}, {0.75, "three quarters of the way"},
		{0.9, "nine tenths of the way"}, {1, "as tight as it goes"},
	}
	if share < 0.05 {
		return "a little"
	}
	best := parts[0]
	for _, p := range parts {
		if math.Abs(p.share-share) < math.Abs(best.share-share) {
			best = p
		}
	}
	return best.words
}

func often(perDay float64) string {
	switch {
	case perDay >= 1.5:
		return fmt.Sprintf("%.0f times a day", perDay)
	case perDay >= 0.75:
		return "once a day"
	}
	return "now and then"
}

// Piece is what a piece is called: by its number too where its line stands for several.
func Piece(p kit.Piece) string {
	if p.Count > 1 {
		return fmt.Sprintf("%s, %d of %d", p.Name, p.Number, p.Count)
	}
	return p.Name
}
