package scale_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/weigh"
	"tornister/standin/scale"
)

// The period of a pendulum of 0.6 m is 1.554 s (2 pi root (l / g), any textbook of mechanics).
func TestPeriod(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 1.554, scale.Period(), 0.001)
	quiet := rand.New(rand.NewPCG(1, 1))
	var peaks []float64
	last, rising := 0.0, false
	for ms := 10; ms < 2500; ms += 10 {
		g := 0.0
		for range 400 { // the noise averages out
			g += scale.At(float64(ms)/1000, 20_000, scale.None, quiet).G / 400
		}
		if g < last-3 && rising {
			peaks = append(peaks, float64(ms-10)/1000)
			rising = false
		} else if g > last+3 {
			rising = true
		}
		last = g
	}
	if assert.GreaterOrEqual(t, len(peaks), 2) {
		assert.InDelta(t, scale.Period()/2, peaks[1]-peaks[0], 0.06, "the pull peaks twice a swing")
	}
}

// Each fault is seen for what it is; what has settled is within a step of the truth.
func TestFaultsAgainstTheNeedle(t *testing.T) {
	t.Parallel()
	ends := func(fault scale.Fault, load float64) (weigh.State, float64) {
		n := &weigh.Needle{StepG: 50}
		noise := rand.New(rand.NewPCG(3, 3))
		state, g := weigh.Waiting, 0.0
		for i := range 150 {
			state, g = n.Add(scale.At(float64(i)/10, load, fault, noise))
			if i < 10 && fault == scale.None {
				assert.NotEqual(t, weigh.Settled, state, "nothing has settled in the first second")
			}
		}
		return state, g
	}
	for fault, wanted := range map[scale.Fault]weigh.State{scale.None: weigh.Settled, scale.Pounds: weigh.Settled,
		scale.BadLift: weigh.Settled,
		scale.Zero:    weigh.Settled, scale.Ground: weigh.Drifting, scale.Overload: weigh.Overload,
		scale.Negative: weigh.Negative} {
		state, g := ends(fault, 14_230)
		assert.Equal(t, wanted, state, fault)
		if fault == scale.None || fault == scale.Pounds {
			assert.InDelta(t, 14_230, g, 50, fault)
		}
	}
	state, g := ends(scale.Zero, 0)
	assert.Equal(t, weigh.Settled, state)
	assert.InDelta(t, 350, g, 50, "an empty hook shows what the zero is off by")
	assert.True(t, math.Abs(g) > 0)
}
