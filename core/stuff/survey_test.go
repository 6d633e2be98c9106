package stuff

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
)

// What one sweep tells of each thing is what a look at every pair of cells tells.
func TestSurveyAgainstEveryCell(t *testing.T) {
	t.Parallel()
	s := NewSpace(roundPack().Solid(2), true)
	s.Carve(Pocket{Litres: 1, WidthCm: 12, TopCm: 40, Back: true})
	for seed := range uint64(4) {
		r := rand.New(rand.NewPCG(seed, 3))
		var things []Thing
		for range 70 { // more than one word of a set
			k := kit.Kinds[r.IntN(len(kit.Kinds))]
			things = append(things, s.ThingOf(k.Shape, Body, Wish{r.Float64(), r.Float64(), 0.3 * r.Float64()}))
		}
		trial := s.NewTrial(len(things))
		trial.Run(things, r.Perm(len(things)), 0.5)
		looked := survey{trial, map[string]bool{}, map[string]int{}, 0}
		looked.look()
		got := trial.Survey(len(things), true, true)
		assert.Equal(t, looked.hollow, got.Hollow)
		for i := range things {
			at := fmt.Sprint(i)
			assert.Equal(t, looked.count[at], got.Cells[i], at)
			assert.Equal(t, looked.count[at+" spine"], got.Spine[i], at)
			for axis := range 3 {
				want := 0.0
				if n := looked.count[at]; n > 0 {
					want = float64(looked.count[fmt.Sprint(at, " sum ", axis)])/float64(n) + 0.5
				}
				assert.InDelta(t, want, got.Middles[i][axis], 1e-9, at)
			}
			for j := range things {
				for how, set := range map[string][]Set{"above": got.Above, "front": got.Front, "beside": got.Beside} {
					assert.Equal(t, looked.is[fmt.Sprint(j, " ", how, " ", i)], set[i].Has(j), "%d %s %d", j, how, i)
				}
			}
		}
	}
}

// survey is what every cell of a trial, and every pair of cells in a line, tells.
type survey struct {
	*Trial
	is     map[string]bool
	count  map[string]int
	hollow int
}

func (s *survey) at(x, y, z int) int {
	size := s.space.Solid.Size
	return int(s.Owner[x+size[0]*(y+size[1]*z)])
}

func (s *survey) look() {
	size := s.space.Solid.Size
	for x := range size[0] {
		for y := range size[1] {
			for z := range size[2] {
				s.cell(x, y, z)
			}
		}
	}
}

func (s *survey) cell(x, y, z int) {
	size, own := s.space.Solid.Size, s.at(x, y, z)
	is := func(other int, how string) {
		if own >= 0 && other >= 0 && own != other {
			s.is[fmt.Sprint(other, " ", how, " ", own)] = true
		}
	}
	covered := false
	for k := z + 1; k < size[2]; k++ {
		is(s.at(x, y, k), "above")
		covered = covered || s.at(x, y, k) >= 0
	}
	if covered && own == int(Air) {
		s.hollow++
	}
	for k := y + 1; k < size[1]; k++ {
		is(s.at(x, k, z), "front")
	}
	for _, near := range [][2]int{{x - 1, y}, {x + 1, y}, {x, y - 1}, {x, y + 1}} {
		if near[0] >= 0 && near[0] < size[0] && near[1] >= 0 && near[1] < size[1] {
			is(s.at(near[0], near[1], z), "beside")
		}
	}
	if own < 0 {
		return
	}
	at := fmt.Sprint(own)
	s.count[at]++
	for axis, v := range [3]int{x, y, z} {
		s.count[fmt.Sprint(at, " sum ", axis)] += v
	}
	if y == 0 {
		s.count[at+" spine"]++
	}
}

// Two things are alike to a trial only where nothing of them differs.
func TestAlikeInEverything(t *testing.T) {
	t.Parallel()
	one := Thing{Region: Body, Poses: [][3]int{{1, 2, 3}}, Loose: 4, Tight: 3, Gap: 2, Wish: Wish{0.5, 0.5, 1}, Bag: 1,
		Held: 0.3}
	same := one
	assert.True(t, alike(&one, &same))
	for n, change := range []func(*Thing){
		func(o *Thing) { o.Region = Bottom },
		func(o *Thing) { o.Poses = [][3]int{{1, 3, 2}} },
		func(o *Thing) { o.Loose++ },
		func(o *Thing) { o.Tight-- },
		func(o *Thing) { o.Gap++ },
		func(o *Thing) { o.Wish.Deep = 0 },
		func(o *Thing) { o.Stand = &Stand{} },
		func(o *Thing) { o.Bag = 2 },
		func(o *Thing) { o.Held = 0 },
	} {
		other := one
		change(&other)
		assert.False(t, alike(&one, &other), "change %d", n)
	}
}

// A block goes into a room turned as needed, each of its sides against one of the room's.
func TestABlockGoesInTurned(t *testing.T) {
	t.Parallel()
	b := builder{sorted: [3]int{10, 20, 30}}
	for size, goes := range map[[3]int]bool{{30, 10, 20}: true, {30, 20, 10}: true, {10, 15, 25}: true,
		{21, 10, 30}: false, {10, 31, 10}: false, {11, 11, 11}: false, {10, 20, 31}: false} {
		assert.Equal(t, goes, b.goesIn(size), "%v", size)
	}
}

// A thing that is to stand somewhere lies on the highest of what is under it, all of it within the pack.
func TestAThingStandsWhereItIsTold(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(12, 12, 20).Solid(1), false)
	trial := s.NewTrial(2)
	plate := Thing{Region: Body, Poses: [][3]int{{12, 4, 5}}, Stand: &Stand{Pose: [3]int{12, 4, 5}}}
	on := func(x, y int, pose [3]int) (int, bool) {
		things := []Thing{plate, {Region: Body, Poses: [][3]int{pose}, Stand: &Stand{Pose: pose, X: x, Y: y}}}
		fits := trial.Run(things, []int{0, 1}, 0)
		return trial.Boxes[1].Min[2], fits
	}
	for _, c := range []struct {
		x, y  int
		pose  [3]int
		floor int
		fits  bool
	}{
		{0, 4, [3]int{12, 8, 6}, 0, true},   // beside the plate
		{0, 0, [3]int{12, 4, 6}, 5, true},   // on it
		{0, 0, [3]int{12, 6, 6}, 5, true},   // two thirds of it on it
		{0, 0, [3]int{12, 12, 6}, 5, false}, // a third is too little to stand on
		{1, 4, [3]int{12, 8, 6}, 0, false},  // out of the pack
		{0, 5, [3]int{12, 8, 6}, 0, false},
		{0, 0, [3]int{12, 4, 16}, 5, false}, // too high on the plate
	} {
		floor, fits := on(c.x, c.y, c.pose)
		if assert.Equal(t, c.fits, fits, "%+v", c) && fits {
			assert.Equal(t, c.floor, floor, "%+v", c)
		}
	}
}
