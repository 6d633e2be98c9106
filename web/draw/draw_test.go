package draw

import (
	"encoding/xml"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/bundle"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/demo"
)

// Labels of a column never collide, never leave the sheet, and keep the order of their dots.
func TestLabelsDoNotCollide(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		labels := make([]label, rapid.IntRange(0, 34).Draw(t, "labels"))
		for i := range labels {
			labels[i].y = rapid.Float64Range(-50, 700).Draw(t, "y")
		}
		spread(labels, 20, 540, 15)
		for i := range labels {
			assert.GreaterOrEqual(t, labels[i].at, 20-1e-6)
			assert.LessOrEqual(t, labels[i].at, 540+1e-6)
			if i > 0 {
				assert.GreaterOrEqual(t, labels[i].at-labels[i-1].at, 15-1e-6)
				assert.GreaterOrEqual(t, labels[i].y, labels[i-1].y)
			}
		}
	})
}

// The contour of a square has about its area (geometry), and a ring of cells has a hole.
func TestContours(t *testing.T) {
	t.Parallel()
	m := newMask(20, 20)
	for y := 5; y < 15; y++ {
		for x := 5; x < 15; x++ {
			m.in[x+20*y] = true
		}
	}
	rings := m.contours(1, 0.5)
	require.Len(t, rings, 1)
	assert.InDelta(t, 100, area(rings[0]), 3)
	for y := 8; y < 12; y++ {
		for x := 8; x < 12; x++ {
			m.in[x+20*y] = false
		}
	}
	rings = m.contours(1, 0.5)
	require.Len(t, rings, 2)
	assert.InDelta(t, 100-16, area(rings[0])+area(rings[1]), 4)
	at, depth := m.deepest()
	assert.True(t, m.at(int(at.x), int(at.y)))
	assert.Equal(t, 2, depth)
}

// Things stacked in a pocket keep their volume: their areas add up to what their litres make.
func TestRowsAreTrueToVolume(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var things []stuffing
		litres := 0.0
		for range rapid.IntRange(1, 30).Draw(t, "things") {
			l := rapid.Float64Range(0.01, 3).Draw(t, "litres")
			things = append(things, stuffing{&load.Placement{}, 0, l})
			litres += l
		}
		sum := 0.0
		for _, c := range rows(things, 20, 600, false) {
			sum += c.du * c.dv
			assert.InDelta(t, c.litres*1000/600*20, c.du*c.dv, 1e-6)
		}
		assert.InDelta(t, litres*1000/600*20, sum, 1e-6)
	})
}

// Every view of the demo kit is well-formed, without a coordinate that is not a number, and names what it shows.
func TestCutawayIsWellFormed(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(strings.Replace(string(demo.LoneWalker), "Mug 0.4 L", `Mug <0.4> & \"L\"`, 1)))
	require.NoError(t, err)
	plan := load.Make(&b.Task, load.Options{Seed: 1, Quick: true})
	scene := Scene{Pack: &b.Task.Pack, Plan: plan, Plane: -1, System: unit.Metric,
		Name: func(p *load.Placement) string { return p.Piece.Name }}
	seen := map[string]bool{}
	for _, view := range Views {
		for _, plane := range []float64{-1, 0, 0.5, 1} {
			scene.View, scene.Plane = view, plane
			d := Cutaway(scene)
			assert.NotContains(t, string(d.SVG), "NaN")
			assert.NotContains(t, string(d.SVG), "Inf")
			assert.NoError(t, xml.Unmarshal([]byte(d.SVG), new(struct{ XMLName xml.Name })))
			shown := strings.Count(string(d.SVG), `class="thing`)
			assert.Positive(t, shown)
			for _, found := range regexp.MustCompile(`data-item="([^"]+)"`).FindAllStringSubmatch(string(d.SVG), -1) {
				seen[found[1]] = true
			}
			assert.LessOrEqual(t, shown+len(d.Missed), len(plan.Placed))
		}
	}
	for i := range plan.Placed {
		if p := &plan.Placed[i]; p.Inside == "" && p.VolumeL > 1 {
			assert.True(t, seen[p.Piece.ID], "%s is seen in some view", p.Piece.ID)
		}
	}
	assert.False(t, math.IsNaN(plan.FillCm))
}

func BenchmarkCutaway(b *testing.B) {
	bb, err := bundle.Read(demo.LoneWalker)
	require.NoError(b, err)
	plan := load.Make(&bb.Task, load.Options{Seed: 1, Quick: true})
	scene := Scene{Pack: &bb.Task.Pack, Plan: plan, Plane: -1,
		Name: func(p *load.Placement) string { return p.Piece.Name }}
	for b.Loop() {
		Cutaway(scene)
	}
}

// What stands out of a pocket is drawn standing out of it: two things beside each other are as high as their pocket and
// what they stand out. A roll under the pack is seen end-on from the side.
func TestWhatStandsOutIsSeen(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	b.Task.Method.Mat = "bottom"
	for i := range b.Task.Pack.Zones {
		if z := &b.Task.Pack.Zones[i]; z.Kind == "side" {
			z.SizeCm[2] = 17
		}
	}
	plan := load.Make(&b.Task, load.Options{Seed: 1, Quick: true})
	out := map[string]float64{}
	for _, p := range plan.Placed {
		if p.OutCm > 0 {
			out[p.Piece.ID] = p.OutCm
		}
	}
	require.GreaterOrEqual(t, len(out), 2, "more than one stands out")
	behind := string(Cutaway(Scene{Pack: &b.Task.Pack, Plan: plan, View: FromBehind, Plane: -1, System: unit.Metric,
		Name: func(p *load.Placement) string { return p.Piece.Name }}).SVG)
	height := func(id string) float64 {
		found := regexp.MustCompile(`data-item="` + id + `"[^>]*><rect[^>]* height="([0-9.]+)"`).FindStringSubmatch(behind)
		require.NotNil(t, found, id)
		h, err := strconv.ParseFloat(found[1], 64)
		require.NoError(t, err)
		return h + 0.8
	}
	ids := slices.Sorted(maps.Keys(out))
	assert.InEpsilon(t, (17+out[ids[0]])/(17+out[ids[1]]), height(ids[0])/height(ids[1]), 0.01)

	side := string(Cutaway(Scene{Pack: &b.Task.Pack, Plan: plan, View: FromSide, Plane: -1, System: unit.Metric,
		Name: func(p *load.Placement) string { return p.Piece.Name }}).SVG)
	roll := regexp.MustCompile(`data-item="foam-mat"[^>]*><rect[^>]* width="([0-9.]+)" height="([0-9.]+)" rx="([0-9.]+)"`).FindStringSubmatch(side)
	require.NotNil(t, roll)
	assert.Equal(t, roll[1], roll[2])
	assert.NotEqual(t, "1", roll[3], "round")
}
