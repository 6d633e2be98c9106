package balance

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestCentreByHand(t *testing.T) {
	t.Parallel()
	// 3 kg at 10 cm and 1 kg at 30 cm balance at 15 cm (lever law).
	c := Centre([]Mass{{3000, [3]float64{10, 0, 5}}, {1000, [3]float64{30, 4, 5}}})
	assert.InDelta(t, 15, c.At[0], 1e-9)
	assert.InDelta(t, 1, c.At[1], 1e-9)
	assert.Equal(t, 4000.0, c.G)
	assert.Zero(t, Centre(nil).G)
}

func TestLean(t *testing.T) {
	t.Parallel()
	// By hand: 70 kg and 175 cm, 14 kg at 10 cm from the panel and 36 cm up:
	// 14 x 0.20 / (0.678 x 70 x 0.626 x 0.288 x 1.75 + 14 x 0.36) = 2.8 / 20.01, 8.0 degrees.
	assert.InDelta(t, 8.0, LeanDeg(Mass{14000, [3]float64{0, 10, 36}}, 70, 175), 0.05)
	rapid.Check(t, func(t *rapid.T) {
		y, z := rapid.Float64Range(2, 25).Draw(t, "y"), rapid.Float64Range(5, 60).Draw(t, "z")
		g := rapid.Float64Range(1000, 30000).Draw(t, "g")
		near, far := LeanDeg(Mass{g, [3]float64{0, y, z}}, 70, 175), LeanDeg(Mass{g, [3]float64{0, y + 2, z}}, 70, 175)
		assert.Less(t, near, far, "weight further from the spine leans more (common practice)")
		assert.Greater(t, near, LeanDeg(Mass{g, [3]float64{0, y, z + 5}}, 70, 175), "and higher weight less")
	})
}

func TestTipping(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 45, TipDeg(Mass{1, [3]float64{0, 10, 10}}, 40, 20), 1e-9)
	assert.Negative(t, TipDeg(Mass{1, [3]float64{0, 25, 30}}, 30, 20), "behind its foot it falls at once")
}

func TestSide(t *testing.T) {
	t.Parallel()
	// 500 g too many on a side pocket 19 cm out: moving 250 g across mends it.
	c := Centre([]Mass{{1000, [3]float64{19, 0, 0}}, {500, [3]float64{-19, 0, 0}}})
	assert.InDelta(t, 250, SideG(c, 38), 1e-9)
}

func TestEffort(t *testing.T) {
	t.Parallel()
	// Standing without a load the equation gives 1.5 W a kilogram (its own first term).
	assert.InDelta(t, 105, EffortW(70, 0, 0, 0, 1), 1e-9)
	assert.Greater(t, EffortW(70, 20, 1.2, 5, 1), EffortW(70, 20, 1.2, 0, 1))
	// By hand, 70 kg under 20 kg at 1.2 m/s: 105 + 2 x 90 x (2/7)^2 + 90 x 1.5 x 1.44 = 105 + 14.69 + 194.4; 5 % of
	// climb add 90 x 0.35 x 1.2 x 5 = 189; snow at eta 1.6 takes the last two terms as often.
	assert.InDelta(t, 314.09, EffortW(70, 20, 1.2, 0, 1), 0.01)
	assert.InDelta(t, 503.09, EffortW(70, 20, 1.2, 5, 1), 0.01)
	assert.InDelta(t, 105+14.69+1.6*(194.4+189), EffortW(70, 20, 1.2, 5, 1.6), 0.01)
}

// A pack tips over its nearest edge: by hand, 6 cm to the side of a 30 cm foot, 8 cm before its back, 20 cm up.
func TestTippingOverTheNearestEdge(t *testing.T) {
	t.Parallel()
	deg := func(edge, up float64) float64 { return math.Atan2(edge, up) * 180 / math.Pi }
	assert.InDelta(t, deg(8, 20), TipDeg(Mass{1, [3]float64{6, 8, 20}}, 30, 20), 1e-9, "backwards")
	assert.InDelta(t, deg(3, 20), TipDeg(Mass{1, [3]float64{-12, 8, 20}}, 30, 20), 1e-9, "sideways")
	assert.InDelta(t, deg(4, 20), TipDeg(Mass{1, [3]float64{0, 16, 20}}, 30, 20), 1e-9, "forwards")
	assert.Equal(t, 5.0, float64(StandsDeg))
	assert.Zero(t, LeanDeg(Mass{}, 0, 0))
	assert.InDelta(t, 17.19, LeanDeg(Mass{20000, [3]float64{0, 18, 30}}, 60, 165), 0.01, "5.6 over 12.10 + 6, by hand")
	one := Centre([]Mass{{0.5, [3]float64{4, 2, 8}}})
	assert.Equal(t, [3]float64{4, 2, 8}, one.At)
}
