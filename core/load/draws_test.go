package load

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"tornister/core/kit"
)

// twelveLines is a sampler of lines from a tenth of a litre to half a litre.
func twelveLines(seed int64) *sampler {
	s := &sampler{random: newSource(seed), spreads: map[string]float64{}}
	for i := range 12 {
		id := string(rune('a' + i))
		s.ids, s.spreads[id] = append(s.ids, id), 0.1*math.Pow(1.15, float64(i))
	}
	return s.summed()
}

// Fifty draws have the quantiles of the normal distribution in their litres in all, each slice of it one of them.
// Wanted: the quantile function of gonum, at the edges of the slices.
func TestDrawsAreSpreadEvenly(t *testing.T) {
	for seed := range int64(4) {
		s := twelveLines(seed)
		sums := []float64{}
		for _, f := range s.evenly(50) {
			sums = append(sums, s.larger(f)/s.all)
		}
		assert.False(t, slices.IsSorted(sums), "the order is drawn by lot: a search cut short has some of all")
		slices.Sort(sums)
		for k := 1; k < 50; k++ {
			edge := distuv.UnitNormal.Quantile(float64(k) / 50)
			assert.LessOrEqual(t, sums[k-1], edge+0.05, "seed %d, slice %d", seed, k) // a line at three deviations gives way
			assert.GreaterOrEqual(t, sums[k], edge-0.05, "seed %d, slice %d", seed, k)
		}
	}
}

// Each line is drawn as if it were alone: standard normal, and of no other line a consequence. That the sum is spread
// evenly must not show in them.
func TestEvenDrawsLeaveEachLineFree(t *testing.T) {
	s := twelveLines(1)
	lines := map[string][]float64{}
	const rounds = 80
	for range rounds {
		for _, f := range s.evenly(50) {
			for _, id := range s.ids {
				lines[id] = append(lines[id], f[id])
			}
		}
	}
	const error = 5 / 63.2 // five standard errors of a mean or correlation of 4,000 draws
	for i, id := range s.ids {
		assert.InDelta(t, 0, stat.Mean(lines[id], nil), error, id)
		assert.InDelta(t, 1, stat.StdDev(lines[id], nil), error, id)
		other := s.ids[(i+1)%len(s.ids)]
		assert.InDelta(t, 0, stat.Correlation(lines[id], lines[other], nil), error, "%s and %s", id, other)
	}
}

// A kit whose litres are known exactly is drawn as it is, and nothing is divided by nothing.
func TestDrawsOfWhatIsKnownExactly(t *testing.T) {
	s := &sampler{random: newSource(1), ids: []string{"box"}, spreads: map[string]float64{"box": 0}}
	for _, f := range s.evenly(10) {
		assert.LessOrEqual(t, max(f["box"], -f["box"]), 3.0)
		assert.Zero(t, s.larger(f))
	}
}

// A pot measured at 16 by 12 cm stays of that size in most draws when its litres are known to a twentieth, is as often
// a centimetre more as less in the others, and takes on the average the cells that it takes as measured: were each side
// rounded up as the trial does, half of all draws would be 17 by 13, a quarter more litres.
func TestSidesOfDrawsAreRoundedToTheNearest(t *testing.T) {
	random := newSource(1)
	pot := kit.Shape{Kind: kit.Cylinder, DiameterCm: 16, LengthCm: 12}
	var cells []float64
	as := 0
	for range 4000 {
		drawn := scaled(pot, 1+0.05*random.NormFloat64())
		cells = append(cells, math.Ceil(drawn.DiameterCm)*math.Ceil(drawn.DiameterCm)*math.Ceil(drawn.LengthCm))
		as += count(drawn == pot)
	}
	assert.Greater(t, as, 3000)
	assert.InEpsilon(t, 16*16*12, stat.Mean(cells, nil), 0.01)

	thin := kit.Shape{Kind: kit.Flat, SizeCm: [3]float64{21, 15, 0.4}}
	for _, factor := range []float64{0.2, 0.5, 2} { // the least and more than any draw: no side goes
		drawn := scaled(thin, factor)
		assert.Positive(t, min(drawn.SizeCm[0], drawn.SizeCm[1], drawn.SizeCm[2]))
	}
	soft := kit.Shape{Kind: kit.Soft, LooseL: 2, TightL: 1}
	assert.Equal(t, kit.Shape{Kind: kit.Soft, LooseL: 3, TightL: 1.5}, scaled(soft, 1.5))
}
