package unit

import (
	"fmt"
	"math"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// GNU units is the outside table of conversions (its data follow NIST SP 811).
func TestConversionsAgreeWithGNUUnits(t *testing.T) {
	t.Parallel()
	program, err := exec.LookPath("units")
	require.NoError(t, err, "GNU units is missing; make test installs it")
	for _, c := range []struct {
		from, to string
		ours     float64
	}{
		{"1 lb", "g", Pound}, {"1 oz", "g", Ounce}, {"1 inch", "cm", Inch}, {"1 ft", "cm", Foot},
		{"1 in^3", "l", CubicInch}, {"1 gallon", "l", Gallon}, {"1 quart", "l", Quart}, {"1 floz", "l", FluidOunce},
	} {
		out, err := exec.Command(program, "-t", "-o", "%.12g", c.from, c.to).CombinedOutput()
		require.NoError(t, err, "%s", out)
		theirs, err := strconv.ParseFloat(strings.TrimSpace(string(out)), 64)
		require.NoError(t, err, "%s", out)
		assert.InEpsilon(t, theirs, c.ours, 1e-9, "%s in %s", c.from, c.to)
	}
}

func TestTemperature(t *testing.T) {
	t.Parallel()
	// Fixed points: ice and steam.
	assert.InDelta(t, 0, Celsius(32), 1e-12)
	assert.InDelta(t, 100, Celsius(212), 1e-12)
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.Float64Range(-80, 80).Draw(t, "c")
		assert.InDelta(t, c, Celsius(Fahrenheit(c)), 1e-9)
	})
}

// A rope of 9 mm by 25 m is pi/4 x 0.009^2 x 25 m3 = 1.59 L as a solid (geometry).
func TestRopeAsSolid(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 1.59, CylinderL(0.9, 2500), 0.005)
	assert.InDelta(t, 1000*math.Pi/4, 1000*CylinderL(10, 10), 0.001)
}

func TestParse(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		text string
		want float64
	}{
		{"850", 850}, {"0.85 kg", 850}, {"0,85 kg", 850}, {"1 lb 4 oz", Pound + 4*Ounce}, {"2lb", 2 * Pound},
		{" 12 OZ ", 12 * Ounce}, {"1.5kg", 1500},
	} {
		got, err := Mass(c.text, "g")
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.want, got, 1e-9, c.text)
	}
	litres, err := Volume("134 cu in", "l")
	require.NoError(t, err)
	assert.InDelta(t, 2.2, litres, 0.005)
	litres, err = Volume("850 cm³", "l")
	require.NoError(t, err)
	assert.InDelta(t, 0.85, litres, 1e-9)
	height, err := Length("5 ft 8 in", "cm")
	require.NoError(t, err)
	assert.InDelta(t, 172.72, height, 1e-9)
	for _, bad := range []string{"", "kg", "1 stone", "1 kg 2", "NaN", "1e999", "--5", "1,2,3 kg", "5 l"} {
		_, err := Mass(bad, "g")
		assert.ErrorIs(t, err, ErrQuantity, "%q", bad)
	}
}

func TestFormat(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "85 g", Metric.Mass(85))
	assert.Equal(t, "1.00 kg", Metric.Mass(999.6))
	assert.Equal(t, "13.2 kg", Metric.Mass(13240))
	assert.Equal(t, "2 lb 12 oz", Customary.Mass(44*Ounce))
	assert.Equal(t, "3 lb 0 oz", Customary.Mass(47.9*Ounce), "ounces carry into pounds")
	assert.Equal(t, "0.05 L", Metric.Volume(0.054))
	assert.Equal(t, "134 cu in", Customary.Volume(2.2))
	assert.Equal(t, "−2 °C", Metric.Temperature(-2))
	assert.Equal(t, "0 °C", Metric.Temperature(-0.2))
	assert.Equal(t, "34 × 18 × 4.5 cm", Metric.Size(34, 18, 4.5))
}

func FuzzQuantity(f *testing.F) {
	for _, seed := range []string{"1 lb 4 oz", "0,85 kg", "12", "5 ft 8 in", "850 cm³", "\xff",
		"9999999999999999999999 kg"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, parse := range []func(string, string) (float64, error){Mass, Volume, Length} {
			if v, err := parse(text, "g"); err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
				t.Errorf("%q gives %v", text, v)
			}
		}
	})
}

func ExampleSystem_Mass() {
	fmt.Println(Metric.Mass(1240), Customary.Mass(1240))
	// Output: 1.24 kg 2 lb 12 oz
}

// GNU units and NIST SP 811: a mile is 1.609344 km, a foot 0.3048 m, 32 °F is 0 °C, -40 is the same in both.
func TestDistancesAndTemperatures(t *testing.T) {
	t.Parallel()
	for text, km := range map[string]float64{"12.5 km": 12.5, "7.5 mi": 7.5 * 1.609344, "600 m": 0.6, "2000 ft": 0.6096,
		"12,5": 12.5} {
		got, err := Distance(text, "km")
		require.NoError(t, err, text)
		assert.InDelta(t, km, got, 1e-9, text)
	}
	for text, c := range map[string]float64{"-5": -5, "−5 °C": -5, "23 F": -5, "32°F": 0, "-40 f": -40} {
		got, err := Temperature(text, Metric)
		require.NoError(t, err, text)
		assert.InDelta(t, c, got, 1e-9, text)
	}
	got, err := Temperature("50", Customary)
	require.NoError(t, err)
	assert.InDelta(t, 10, got, 1e-9)
	for _, text := range []string{"", "cold", "5 K", "NaN", "inf"} {
		_, err := Temperature(text, Metric)
		assert.ErrorIs(t, err, ErrQuantity, text)
	}
	assert.Equal(t, "7.8 mi", Customary.Distance(12.5))
	assert.Equal(t, "2034 ft", Customary.Climb(620))
	assert.Equal(t, "157 lb", Customary.Body(71))
}

// Names begin with any letter there is, and are never cut inside one.
func TestLettersOfNames(t *testing.T) {
	t.Parallel()
	for name, want := range map[string][2]string{
		"Ölflasche": {"Ölflasche", "ölflasche"}, "überhandschuhe": {"Überhandschuhe", "überhandschuhe"},
		"Éponge":   {"Éponge", "éponge"},
		"LED lamp": {"LED lamp", "LED lamp"}, "": {"", ""}, "氷斧": {"氷斧", "氷斧"}, "\xff": {"\xff", "\xff"}, "X": {"X", "x"},
	} {
		assert.Equal(t, want[0], Capital(name), name)
		assert.Equal(t, want[1], Small(name), name)
	}
}

// What is printed at the edges between units, and what only one side of a switch says.
func TestFormatAtTheEdges(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "3.0 oz", Customary.Mass(3*Ounce))
	assert.Equal(t, "9.9 cu in", Customary.Volume(9.94*CubicInch))
	assert.Equal(t, "10 cu in", Customary.Volume(9.96*CubicInch))
	assert.Equal(t, "12 cu in", Customary.Volume(12.2*CubicInch))
	assert.Equal(t, "4.5 cm", Metric.Length(4.5))
	assert.Equal(t, "1.8 in", Customary.Length(4.5))
	assert.Equal(t, "4 × 2.5 in", Customary.Size(4*Inch, 2.5*Inch))
	assert.Equal(t, "71.5 kg", Metric.Body(71.5))
	assert.Equal(t, "157 lb", Customary.Body(71.2))
	assert.Equal(t, "5 °C", Metric.Degrees(5))
	assert.Equal(t, "9 °F", Customary.Degrees(5))
	assert.InDelta(t, 1.57, CylinderL(10, 20), 0.001, "a tin of 10 cm and 20 cm: 1.57 L (geometry)")
	assert.InDelta(t, 2.4, BoxL(20, 12, 10), 1e-12)
	feet, err := Distance("1000 ft", "km")
	assert.NoError(t, err)
	assert.InDelta(t, 0.3048, feet, 1e-9)
	_, err = Mass("9e999 kg", "g")
	assert.Error(t, err)
}
