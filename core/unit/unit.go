// Package unit converts, parses and prints the quantities a packer meets: masses, volumes, lengths and temperatures.
//
// Inside Tornister every quantity is a float64 in one fixed unit, named in its field: grams (MassG), litres (LooseL),
// centimetres (SizeCm), degrees Celsius (NightLowC). This package is the only door to any other unit. Conversions are
// the exact ones of NIST SP 811, appendix B.8: the avoirdupois pound is 453.59237 g and the inch is 2.54 cm by
// definition, everything else follows from those two.
package unit

import "math"

// Grams, centimetres and litres in one of each customary unit.
const (
	Pound = 453.59237 // g, exact
	Ounce = Pound / 16
	Inch  = 2.54 // cm, exact
	Foot  = 12 * Inch
	Mile  = 5280 * Foot / 100_000 // km, exact

	CubicInch  = Inch * Inch * Inch / 1000 // L, exact
	Gallon     = 231 * CubicInch           // US liquid gallon
	Quart      = Gallon / 4
	FluidOunce = Gallon / 128
)

// Celsius converts degrees Fahrenheit.
func Celsius(fahrenheit float64) float64 { return (fahrenheit - 32) / 1.8 }

// Fahrenheit converts degrees Celsius.
func Fahrenheit(celsius float64) float64 { return celsius*1.8 + 32 }

// BoxL is the volume in litres of a box given in centimetres.
func BoxL(length, width, height float64) float64 { return length * width * height / 1000 }

// CylinderL is the volume in litres of a cylinder given in centimetres.
func CylinderL(diameter, length float64) float64 {
	return math.Pi / 4 * diameter * diameter * length / 1000
}
