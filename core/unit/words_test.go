package unit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every word for a unit and its exact factor (NIST SP 811, appendix B.8; US gallon of 231 cubic inches).
func TestEveryWordOfAUnit(t *testing.T) {
	t.Parallel()
	for _, group := range []struct {
		parse func(text, bare string) (float64, error)
		words map[string]float64
		known map[string]float64
	}{
		{Mass, map[string]float64{"g": 1, "gram": 1, "grams": 1, "kg": 1000, "kilo": 1000, "kilos": 1000, "mg": 0.001,
			"lb": 453.59237, "lbs": 453.59237, "pound": 453.59237, "pounds": 453.59237, "oz": 28.349523125, "ounce": 28.349523125,
			"ounces": 28.349523125}, masses},
		{Volume, map[string]float64{"l": 1, "litre": 1, "litres": 1, "liter": 1, "liters": 1, "dl": 0.1, "cl": 0.01, "ml": 0.001,
			"cm3": 0.001, "cc": 0.001, "cuin": 0.016387064, "in3": 0.016387064, "ci": 0.016387064, "gal": 3.785411784,
			"qt": 0.946352946, "floz": 0.0295735295625}, volumes},
		{Length, map[string]float64{"cm": 1, "mm": 0.1, "m": 100, "in": 2.54, "inch": 2.54, "inches": 2.54, `"`: 2.54, "ft": 30.48,
			"foot": 30.48, "feet": 30.48, "'": 30.48}, lengths},
		{Distance, map[string]float64{"km": 1, "m": 0.001, "mi": 1.609344, "mile": 1.609344, "miles": 1.609344, "ft": 0.0003048,
			"feet": 0.0003048, "'": 0.0003048}, distances},
	} {
		assert.Len(t, group.words, len(group.known), "no word without its factor here")
		for word, factor := range group.words {
			for _, text := range []string{"4 " + word, "4" + word, "4,0 " + word} {
				got, err := group.parse(text, word)
				require.NoError(t, err, text)
				assert.InEpsilon(t, 4*factor, got, 1e-12, text)
			}
		}
	}
}

// Fractions as they are written on labels, and what is none.
func TestFractionsOfUnits(t *testing.T) {
	t.Parallel()
	for text, want := range map[string]float64{"1/2 l": 0.5, "½ l": 0.5, "1 1/2 l": 1.5, "1½ l": 1.5, "2 3/4 l": 2.75, "-3 l": -3,
		"−3 l": -3, ".5 l": 0.5, "1 l 20 cl": 1.2} {
		got, err := Volume(text, "l")
		require.NoError(t, err, text)
		assert.InDelta(t, want, got, 1e-12, text)
	}
	for _, bad := range []string{"1/0 l", "1//2 l", "1.2.3 l", "1,2,3 l", "l 1"} {
		_, err := Volume(bad, "l")
		assert.ErrorIs(t, err, ErrQuantity, bad)
	}
}

// Where the number of decimals changes: never more than are known, never fewer than are needed.
func TestEveryFormat(t *testing.T) {
	t.Parallel()
	for want, got := range map[string]string{
		"0.09 L": Metric.Volume(0.094), "0.1 L": Metric.Volume(0.095), "0.0 L": Metric.Volume(0), "52.0 L": Metric.Volume(52),
		"9.9 cu in": Customary.Volume(9.94 * CubicInch), "10 cu in": Customary.Volume(9.96 * CubicInch),
		"2.5 L": Metric.Drink(2.5), "85 fl oz": Customary.Drink(2.5), "34 fl oz": Customary.Drink(1),
		"12 cm": Metric.Length(12), "4.5 cm": Metric.Length(4.5), "4.7 in": Customary.Length(12), "1 in": Customary.Length(2.54),
		"13.4 × 7.1 in": Customary.Size(34, 18), "9.99 kg": Metric.Mass(9994), "10.0 kg": Metric.Mass(9995), "999 g": Metric.Mass(999),
	} {
		assert.Equal(t, want, got)
	}
}
