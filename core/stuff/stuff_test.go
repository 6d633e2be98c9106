package stuff

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

func boxPack(w, d, h float64) *rucksack.Pack {
	return &rucksack.Pack{Zones: []rucksack.Zone{{ID: "body", Kind: rucksack.Body, Form: "box",
		SizeCm: [3]float64{w, d, h}}}}
}

func roundPack() *rucksack.Pack {
	return &rucksack.Pack{Zones: []rucksack.Zone{
		{ID: "body", Kind: rucksack.Body, SizeCm: [3]float64{30, 20, 48}, VolumeL: 28, CollarCm: 12},
		{ID: "bottom", Kind: rucksack.Bottom, SizeCm: [3]float64{30, 20, 16}, VolumeL: 9}}}
}

func box(l, w, h float64) kit.Shape { return kit.Shape{Kind: kit.Box, SizeCm: [3]float64{l, w, h}} }

// check verifies a trial cell by cell: boxes are exact and supported, nobody owns a cell twice or outside, soft
// things own just their cells, and what is out owns nothing.
func check(t require.TestingT, s *Space, things []Thing, trial *Trial, squeeze float64) {
	counts := make([]int, len(things))
	for cell, owner := range trial.Owner {
		if s.blank[cell] == Outside {
			require.Equal(t, Outside, owner, "a cell outside the pack is owned")
			continue
		}
		if owner >= 0 {
			counts[owner]++
		}
	}
	nx, columns := s.Solid.Size[0], s.columns
	for i := range things {
		th := &things[i]
		if slices.Contains(trial.Out, i) {
			require.Zero(t, counts[i], "thing %d is out and owns cells", i)
			continue
		}
		require.Equal(t, th.Cells(squeeze), counts[i], "thing %d", i)
		if !th.Rigid() {
			continue
		}
		b := trial.Boxes[i]
		require.Contains(t, th.Poses, [3]int{b.Max[0] - b.Min[0], b.Max[1] - b.Min[1], b.Max[2] - b.Min[2]})
		stands := false
		for y := b.Min[1]; y < b.Max[1]; y++ {
			for x := b.Min[0]; x < b.Max[0]; x++ {
				c := x + nx*y
				for k := b.Min[2]; k < b.Max[2]; k++ {
					require.Equal(t, int16(i), trial.Owner[c+columns*k], "the box of thing %d is all its own", i)
				}
				if below := b.Min[2] - 1; int(s.regions[th.Region].base[c]) == b.Min[2] || below >= 0 &&
					trial.Owner[c+columns*below] >= 0 {
					stands = true
				}
			}
		}
		require.True(t, stands, "thing %d hangs in the air", i)
	}
	inOnePiece(t, things, trial)
}

// inOnePiece verifies that the things of each bag are all in or all out, and that their cells hang together: a second
// way to find that out, by merging neighbours.
func inOnePiece(t require.TestingT, things []Thing, trial *Trial) {
	size := trial.space.Solid.Size
	root := indices(len(trial.Owner))
	find := func(c int) int {
		for root[c] != c {
			root[c] = root[root[c]]
			c = root[c]
		}
		return c
	}
	bagAt := func(c int) int {
		if trial.Owner[c] < 0 {
			return 0
		}
		return things[trial.Owner[c]].Bag
	}
	bodies := map[int]map[int]bool{}
	for c := range trial.Owner {
		for axis, stride := range [3]int{1, size[0], size[0] * size[1]} {
			if c/stride%size[axis] > 0 && bagAt(c) > 0 && bagAt(c) == bagAt(c-stride) {
				root[find(c)] = find(c - stride)
			}
		}
	}
	for c := range trial.Owner {
		if bag := bagAt(c); bag > 0 {
			if bodies[bag] == nil {
				bodies[bag] = map[int]bool{}
			}
			bodies[bag][find(c)] = true
		}
	}
	for bag, pieces := range bodies {
		require.Len(t, pieces, 1, "bag %d is torn", bag)
	}
	for _, i := range trial.Out {
		for j := range things {
			require.False(t, things[i].Bag > 0 && things[j].Bag == things[i].Bag && !slices.Contains(trial.Out, j),
				"half of a bag is in")
		}
	}
}

// A bag lies in the lane that one of its things wants, as one block: three litres of clothes and a tin are no wider
// than a bag of that size, and a small bag holds its clothes tighter than the rest of the pack.
func TestABagIsOneBody(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(30, 20, 40).Solid(1), false)
	soft := s.ThingOf(kit.Shape{Kind: kit.Soft, LooseL: 2, TightL: 1, GapCm: 2}, Body, Wish{})
	tin := s.ThingOf(box(8, 8, 6), Body, Wish{Deep: 1, Across: 0.5, Firm: 0.3})
	soft.Bag, tin.Bag, soft.Held = 1, 1, 0.5
	things := []Thing{soft, s.ThingOf(box(30, 20, 4), Body, Wish{}), soft, tin}
	trial := s.NewTrial(len(things))
	require.True(t, trial.Run(things, []int{0, 1, 2, 3}, 0.25))
	check(t, s, things, trial, 0.25)
	bounds := trial.Bounds(len(things))
	assert.Equal(t, 1500, things[0].Cells(0.25), "held at 0.5")
	for _, i := range []int{0, 2, 3} {
		assert.LessOrEqual(t, bounds[i].Max[0]-bounds[i].Min[0], 18, "no wider than a bag of 3.4 L")
		assert.Less(t, bounds[i].Min[2], bounds[1].Max[2], "all of the bag went in at its first turn, before the box")
	}
}

func TestTrialIsExact(t *testing.T) {
	t.Parallel()
	spaces := map[bool]*Space{}
	for _, open := range []bool{false, true} {
		spaces[open] = NewSpace(roundPack().Solid(1), open)
		spaces[open].Carve(Pocket{Litres: 2, WidthCm: 20, TopCm: 50, Back: true})
	}
	rapid.Check(t, func(t *rapid.T) {
		s := spaces[rapid.Bool().Draw(t, "divider open")]
		var things []Thing
		for range rapid.IntRange(0, 50).Draw(t, "things") {
			k := rapid.SampledFrom(kit.Kinds).Draw(t, "kind")
			wish := Wish{rapid.Float64Range(0, 1).Draw(t, "deep"), 0.5, rapid.SampledFrom([]float64{0, 0.3}).Draw(t, "firm")}
			th := s.ThingOf(k.Shape, Region(rapid.IntRange(0, 1).Draw(t, "region")), wish)
			if bag := rapid.IntRange(-6, 3).Draw(t, "bag"); bag > 0 {
				th.Bag, th.Held = 2*bag+int(th.Region), rapid.Float64Range(0, 0.5).Draw(t, "held")
			}
			things = append(things, th)
		}
		order := rapid.Permutation(indices(len(things))).Draw(t, "order")
		squeeze := rapid.Float64Range(0, 1).Draw(t, "squeeze")
		trial := s.NewTrial(len(things))
		trial.Run(things, order, squeeze)
		check(t, s, things, trial, squeeze)
		again := s.NewTrial(len(things))
		again.Run(things, order, squeeze)
		assert.Equal(t, trial.Owner, again.Owner, "the same trial twice")
	})
}

// A bag that finds no place in one piece in its window leaves nothing behind in the covered air beside it.
func TestBagIsTakenOutWhole(t *testing.T) {
	t.Parallel()
	s := NewSpace(roundPack().Solid(1), true)
	s.Carve(Pocket{Litres: 2, WidthCm: 20, TopCm: 50, Back: true})
	var things []Thing
	add := func(id string, region Region, bag int, held float64, wish Wish) {
		i := slices.IndexFunc(kit.Kinds, func(k kit.Kind) bool { return k.ID == id })
		th := s.ThingOf(kit.Kinds[i].Shape, region, wish)
		th.Bag, th.Held = bag, held
		things = append(things, th)
	}
	add("synthetic-sleeping-bag", Bottom, 2, 0, Wish{1, 0.5, 0})
	add("mat-pump", Bottom, 2, 0.5, Wish{1, 0.5, 0})
	add("groundsheet", Bottom, 0, 0, Wish{0, 0.5, 0})
	add("self-inflating-mat", Body, 0, 0, Wish{1, 0.5, 0})
	add("tea-coffee", Body, 5, 0.5, Wish{0.5, 0.5, 0.3})
	trial := s.NewTrial(len(things))
	trial.Run(things, indices(len(things)), 0)
	check(t, s, things, trial, 0)
}

// Eight boxes cut from a cube by three cuts through it go back into the cube; every box stands in it in some pose,
// and no two overlap (geometry).
func TestBlocks(t *testing.T) {
	t.Parallel()
	for seed := range uint64(20) {
		r := rand.New(rand.NewPCG(seed, 8))
		var cuts [3]int
		for axis := range cuts {
			cuts[axis] = 5 + r.IntN(20)
		}
		var sizes [][3]int
		for k := range 8 {
			size := [3]int{cuts[0], cuts[1], cuts[2]}
			for axis := range size {
				if k>>axis&1 == 1 {
					size[axis] = 30 - size[axis]
				}
			}
			sizes = append(sizes, turned(size, permutations[r.IntN(6)]))
		}
		boxes, _ := Blocks(sizes, [3]int{30, 30, 30}, 200_000, r, nil)
		require.Len(t, boxes, 8, "seed %d", seed)
		owner := map[[3]int]int{}
		for i, b := range boxes {
			assert.Equal(t, sorted(sizes[i]), sorted([3]int{b.Max[0] - b.Min[0], b.Max[1] - b.Min[1], b.Max[2] - b.Min[2]}))
			for x := b.Min[0]; x < b.Max[0]; x++ {
				for y := b.Min[1]; y < b.Max[1]; y++ {
					for z := b.Min[2]; z < b.Max[2]; z++ {
						owner[[3]int{x, y, z}]++
					}
				}
			}
		}
		assert.Len(t, owner, 27000, "all cells, none twice")
	}
	boxes, _ := Blocks([][3]int{{4, 4, 4}, {4, 4, 4}}, [3]int{4, 4, 7}, 10, rand.New(rand.NewPCG(1, 1)), nil)
	assert.Nil(t, boxes, "more than the room")
	boxes, _ = Blocks(nil, [3]int{4, 4, 4}, 10, rand.New(rand.NewPCG(1, 1)), nil)
	assert.Nil(t, boxes)
	cubes := slices.Repeat([][3]int{{4, 4, 4}}, 11) // ten stand in a row 40 long; by litres 30 would go in
	boxes, looked := Blocks(cubes, [3]int{7, 7, 40}, 500, rand.New(rand.NewPCG(1, 1)), nil)
	assert.Nil(t, boxes)
	assert.Less(t, looked, 5000, "it ends when it has looked at as many joints as it may, and the try that is under way")
	assert.GreaterOrEqual(t, looked, 500)
}

func indices(n int) []int {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	return list
}

// A soft thing of exactly the litres of the body fills it to the last cell (Archimedes); one cell more does not go
// in.
func TestSoftFillsEveryCorner(t *testing.T) {
	t.Parallel()
	s := NewSpace(roundPack().Solid(1), false)
	room := int(s.Solid.Litres(16, 76)*1000 + 0.5)
	trial := s.NewTrial(1)
	full := []Thing{{Region: Body, Loose: room, Tight: room, Gap: 4}}
	assert.True(t, trial.Run(full, []int{0}, 0))
	check(t, s, full, trial, 0)
	full[0].Loose++
	assert.False(t, trial.Run(full, []int{0}, 0))
}

// What is narrower than its gap stays empty: two towers 3 cm apart, and a sleeping bag that needs 4 cm.
func TestGapsStayOpen(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(23, 10, 40).Solid(1), false)
	things := []Thing{s.ThingOf(box(10, 10, 30), Body, Wish{0, 0, 1}), s.ThingOf(box(10, 10, 30), Body, Wish{0, 1, 1}),
		{Region: Body, Loose: 690, Tight: 690, Gap: 4}}
	trial := s.NewTrial(3)
	require.True(t, trial.Run(things, []int{0, 1, 2}, 0))
	check(t, s, things, trial, 0)
	_, hollow := trial.Hollows(0, 40, 1)
	assert.Equal(t, 3*10*30, hollow)
	things[2].Gap = 3
	require.True(t, trial.Run(things, []int{0, 1, 2}, 0))
	_, hollow = trial.Hollows(0, 40, 1)
	assert.Less(t, hollow, 3*10*30/3, "only the deepest of the shaft stays hollow")
}

func TestHeavyLiesWhereItIsWanted(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(30, 20, 40).Solid(1), false)
	trial := s.NewTrial(1)
	for _, deep := range []float64{0, 1} {
		require.True(t, trial.Run([]Thing{s.ThingOf(box(10, 10, 10), Body, Wish{deep, 0.5, 0.5})}, []int{0}, 0))
		assert.Equal(t, int(deep*10), trial.Boxes[0].Min[1])
	}
}

func TestCarveTakesLitres(t *testing.T) {
	t.Parallel()
	for _, pocket := range []Pocket{{TopCm: 54, Back: true}, {TopCm: 54}, {HangsCm: 14, Back: true}} {
		s := NewSpace(roundPack().Solid(1), false)
		before := countAir(s)
		pocket.Litres, pocket.WidthCm = 2.4, 24
		taken := s.Carve(pocket)
		assert.InDelta(t, 2400, before-countAir(s), 1)
		assert.Len(t, taken, before-countAir(s))
		for _, cell := range taken {
			layer := cell / s.columns
			assert.Less(t, layer, 54+s.Solid.Size[2]*int(pocket.HangsCm), "stands")
			assert.GreaterOrEqual(t, layer, s.Solid.Floor)
			if pocket.HangsCm > 0 {
				assert.GreaterOrEqual(t, layer, s.Solid.Size[2]-14, "hangs from the rim")
			}
		}
		trial := s.NewTrial(1)
		things := []Thing{{Region: Body, Loose: 20000, Tight: 20000, Gap: 2}}
		require.True(t, trial.Run(things, []int{0}, 0))
		check(t, s, things, trial, 0)
	}
}

func countAir(s *Space) (n int) {
	for _, owner := range s.blank {
		if owner == Air {
			n++
		}
	}
	return n
}

func BenchmarkTrial(b *testing.B) {
	s := NewSpace(roundPack().Solid(1), false)
	var things []Thing
	for _, k := range kit.Kinds {
		if k.Shape.Litres(0) < 5 {
			things = append(things, s.ThingOf(k.Shape, Body, Wish{0, 0.5, 0.3}))
		}
	}
	things = things[:34] // as much as goes in
	trial := s.NewTrial(len(things))
	order := indices(len(things))
	for b.Loop() {
		trial.Run(things, order, 0.5)
	}
}

// A stuffed sack keeps its litres however it is pressed: its section to at most what it gives, its length by a tenth
// (common practice); a cell is forgiven on each side.
func TestASackKeepsItsLitres(t *testing.T) {
	s := NewSpace(boxPack(40, 40, 80).Solid(1), false)
	for _, litres := range []float64{3, 6, 9, 14} {
		for _, gives := range []float64{1.3, 2} {
			shape := kit.Sack(litres, 1.4, gives)
			assert.InDelta(t, litres, unit.CylinderL(shape.DiameterCm, shape.LengthCm), 0.02*litres)
			th := s.ThingOf(shape, Body, Wish{})
			require.NotEmpty(t, th.Poses)
			flat := 1.0
			for _, p := range th.Poses {
				sides := []int{p[0], p[1], p[2]}
				slices.Sort(sides)
				assert.InDelta(t, litres, float64(p[0]*p[1]*p[2])/1000, 0.1*litres, "%v, in whole cells", p)
				assert.LessOrEqual(t, float64(sides[1]-1), gives*float64(sides[0]+1), "%v", p)
				assert.LessOrEqual(t, float64(sides[2]), shape.LengthCm+1, "%v", p)
				assert.GreaterOrEqual(t, float64(sides[2]), 0.9*shape.LengthCm-1, "%v", p)
				flat = max(flat, float64(sides[1])/float64(sides[0]))
			}
			assert.Greater(t, flat, 1+0.5*(gives-1), "it is tried flat as well")
		}
	}
	assert.Empty(t, kit.Shape{Kind: kit.Cylinder, DiameterCm: 15, LengthCm: 40}.Pressed(), "a hard thing does not give")
	assert.Empty(t, kit.Shape{Kind: kit.Vessel, SizeCm: [3]float64{10, 10, 10}, Gives: 2}.Pressed(), "nor does a pot")
}
