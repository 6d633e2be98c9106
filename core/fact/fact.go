// Package fact is how the core says what it found without speaking a language: a code and the values that belong to
// it, each of a type that tells its unit. Package words, outside the core, makes sentences of them in the reader's
// units.
package fact

// Fact is something that was found: which, and about what. The zero value says nothing.
type Fact struct {
	Code   string // "load.only": the package that found it, and what
	Values []any  // of the types below, strings, whole numbers and plain numbers; a Fact may be part of another
}

// Of is the fact of a code with its values, in the order of its sentence.
func Of(code string, values ...any) Fact { return Fact{code, values} }

// None reports whether there is nothing to say.
func (f Fact) None() bool { return f.Code == "" }

// Values with a unit.
type (
	// Litres of room.
	Litres float64
	// WholeLitres are litres rounded up to whole ones, as bags are sold.
	WholeLitres float64
	// Water in litres.
	Water float64
	// Grams of gear.
	Grams float64
	// BodyKg is the mass of a person, in kilograms.
	BodyKg float64
	// Cm is a length in centimetres.
	Cm float64
	// SizeCm are the sides of a thing, in centimetres.
	SizeCm []float64
	// Celsius is a temperature.
	Celsius float64
	// Degrees is a difference of temperature, in degrees Celsius.
	Degrees float64
)

// Other values.
type (
	// Small is the name of a thing or zone within a sentence.
	Small string
	// Numbered is the name of one of several things of a line; its number is 0 where the line stands for one.
	Numbered struct {
		Name   string
		Number int
	}
	// Names are those of several things.
	Names []string
	// Part is a share from 0 to 1 of a way, told as "a third of the way".
	Part float64
	// Things is a count of things.
	Things int
	// TimesADay is how often something is wanted.
	TimesADay float64
)
