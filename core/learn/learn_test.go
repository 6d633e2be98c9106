package learn_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/learn"
)

// The closed form for n equal observations of a normal mean: precision 1/0.15² + n/0.10², mean weighed by
// precision (any textbook of Bayesian statistics). Three packs that would not close, each planned half squeezed:
// the log of the factor seen is 0.05 + 0.35/2 = 0.225.
func TestThreeThatWouldNotClose(t *testing.T) {
	t.Parallel()
	no := false
	b := learn.Room()
	for range 3 {
		seen, ok := learn.RoomSeen(learn.Packed{Fits: true, Squeeze: 0.5, Closes: &no})
		assert.True(t, ok)
		assert.InDelta(t, math.Exp(0.225), seen, 1e-12)
		b = learn.Update(b, seen, learn.SeenRoom)
	}
	prior, all := 1/(0.15*0.15), 3/(0.10*0.10)
	assert.InDelta(t, math.Exp(all*0.225/(prior+all)), b.Mean, 1e-12)
	assert.InDelta(t, math.Sqrt(1/(prior+all)), b.Sd, 1e-12)
	assert.Equal(t, 3, b.N)
}

func TestWhatAPackShows(t *testing.T) {
	t.Parallel()
	yes, no := true, false
	for _, c := range []struct {
		p    learn.Packed
		ok   bool
		more int // than 1, equal, less
	}{
		{learn.Packed{Fits: true, Squeeze: 0.3}, false, 0},
		{learn.Packed{Fits: true, Squeeze: 0.3, Closes: &yes}, true, 0},
		{learn.Packed{Fits: true, Squeeze: 1, Closes: &no}, true, 1},
		{learn.Packed{Fits: false, Closes: &yes}, true, -1},
		{learn.Packed{Fits: false, Closes: &no}, true, 0},
		{learn.Packed{Fits: true, FillCm: 60, SeenCm: 66, Closes: &yes}, true, 1},
		{learn.Packed{Fits: true, FillCm: 60, SeenCm: 54}, true, -1},
	} {
		seen, ok := learn.RoomSeen(c.p)
		assert.Equal(t, c.ok, ok, "%+v", c.p)
		assert.Equal(t, c.more, sign(seen-1), "%+v", c.p)
	}
}

func sign(v float64) int {
	switch {
	case v > 1e-12:
		return 1
	case v < -1e-12:
		return -1
	}
	return 0
}

func TestWhatMayStay(t *testing.T) {
	t.Parallel()
	assert.True(t, learn.Stays(2, 0, false))
	assert.False(t, learn.Stays(1, 0, false), "one trip says nothing")
	assert.False(t, learn.Stays(9, 1, false))
	assert.False(t, learn.Stays(9, 0, true), "a life may hang on it")
}

// What a packed pack shows, by hand: the fill line in proportion, at most 1.6 and at least 0.6 of the plan's; a pack
// that closed against the plan is a twentieth past its edge, one that closed when crammed half of that.
func TestFactorsByHand(t *testing.T) {
	t.Parallel()
	yes := true
	for _, c := range []struct {
		p    learn.Packed
		want float64
	}{
		{learn.Packed{FillCm: 60, SeenCm: 66}, 1.1},
		{learn.Packed{FillCm: 10, SeenCm: 60}, 1.6},
		{learn.Packed{FillCm: 60, SeenCm: 10}, 0.6},
		{learn.Packed{FillCm: 0.5, SeenCm: 0.55}, 1.1},
		{learn.Packed{FillCm: 60}, 1},
		{learn.Packed{Closes: &yes}, math.Exp(-0.05)},
		{learn.Packed{Closes: &yes, Fits: true, Squeeze: 0.95}, math.Exp(-0.025)},
		{learn.Packed{Closes: &yes, Fits: true, Squeeze: 0.9}, 1},
	} {
		seen, _ := learn.RoomSeen(c.p)
		assert.InDelta(t, c.want, seen, 1e-12, "%+v", c.p)
	}
	assert.Equal(t, learn.Belief{Mean: 1, Sd: 0.15}, learn.Room())
}
