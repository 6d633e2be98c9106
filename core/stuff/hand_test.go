package stuff

import (
	"encoding/binary"
	"hash/fnv"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
)

// A thing stands and lies as the pack lets it: 20 wide, 15 deep, 40 high.
func TestPosesThatThePackTakes(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(20, 15, 40).Solid(1), false)
	for _, c := range []struct {
		shape kit.Shape
		poses [][3]int
	}{
		{box(30, 10, 5), [][3]int{{10, 5, 30}, {5, 10, 30}}}, // longer than the pack is wide and deep
		{box(18, 10, 5), [][3]int{{18, 10, 5}, {18, 5, 10}, {10, 5, 18}, {5, 10, 18}}},
		{box(5, 5, 5), [][3]int{{5, 5, 5}}},
		{box(45, 10, 5), [][3]int{{45, 10, 5}}}, // one that no trial will place
		{kit.Shape{Kind: kit.Flat, SizeCm: [3]float64{30, 20, 2}}, [][3]int{{20, 2, 30}}},
	} {
		assert.Equal(t, c.poses, s.ThingOf(c.shape, Body, Wish{}).Poses, "%+v", c.shape)
	}
}

// What is higher than any pack finds no place, however high.
func TestATowerFindsNoPlace(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(20, 15, 40).Solid(1), false)
	trial := s.NewTrial(1)
	for _, high := range []int{41, 1000, 40_000, 100_000} {
		assert.False(t, trial.Run([]Thing{{Region: Body, Poses: [][3]int{{5, 2, high}}}}, []int{0}, 0), "%d", high)
	}
	assert.True(t, trial.Run([]Thing{{Region: Body, Poses: [][3]int{{5, 2, 40}}}}, []int{0}, 0))
}

// A pocket takes its litres from its wall inward, the middle first: here seven columns of ten cells a row.
func TestAPocketDrawsOnItsWall(t *testing.T) {
	t.Parallel()
	for _, back := range []bool{false, true} {
		s := NewSpace(boxPack(10, 8, 20).Solid(1), false)
		rows := map[int]int{}
		for _, cell := range s.Carve(Pocket{Litres: 0.1, WidthCm: 6, TopCm: 10, Back: back}) {
			rows[cell%s.columns/10]++
			assert.Less(t, cell/s.columns, 10)
			assert.GreaterOrEqual(t, cell%10, 2)
			assert.LessOrEqual(t, cell%10, 8)
		}
		assert.Equal(t, map[bool]map[int]int{false: {7: 70, 6: 30}, true: {0: 70, 1: 30}}[back], rows, "at the back: %v", back)
	}
	s := NewSpace(boxPack(10, 8, 20).Solid(1), false)
	assert.Len(t, s.Carve(Pocket{Litres: 0.06, WidthCm: 2, TopCm: 30}), 60, "columns to their ceiling")
	assert.Equal(t, int16(closed), s.regions[Body].base[5+10*7], "nothing is left of the column")
	assert.Equal(t, int16(0), s.regions[Body].base[5+10*6])
	s = NewSpace(boxPack(10, 8, 20).Solid(1), false)
	for _, cell := range s.Carve(Pocket{Litres: 0.02, WidthCm: 6, HangsCm: 4, Back: true}) {
		assert.GreaterOrEqual(t, cell/s.columns, 16, "it hangs from the rim")
		assert.Zero(t, cell%s.columns/10)
	}
	assert.Equal(t, int16(16), s.regions[Body].ceil[5])
}

// Air with something above it, by hand: five cells under one thing, one under another.
func TestHollowsByHand(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(4, 4, 6).Solid(1), false)
	trial := s.NewTrial(1)
	trial.Run(nil, nil, 0)
	trial.Owner[s.columns*5], trial.Owner[15+s.columns] = 0, 0
	deep, single := Hollow{5, [3]float64{0.5, 0.5, 2.5}}, Hollow{1, [3]float64{3.5, 3.5, 0.5}}
	for _, c := range []struct {
		from, to, least, total int
		patches                []Hollow
	}{
		{0, 6, 0, 6, []Hollow{single, deep}},
		{0, 6, 1, 6, []Hollow{single, deep}},
		{0, 6, 2, 6, []Hollow{deep}},
		{0, 6, 5, 6, []Hollow{deep}},
		{0, 6, 6, 6, nil},
		{2, 6, 1, 3, []Hollow{{3, [3]float64{0.5, 0.5, 3.5}}}},
		{0, 5, 1, 1, []Hollow{single}},
	} {
		patches, total := trial.Hollows(c.from, c.to, c.least)
		assert.ElementsMatch(t, c.patches, patches, "%+v", c)
		assert.Equal(t, c.total, total, "%+v", c)
	}
}

// A run goes on from the last state kept that its order shares.
func TestRunsGoOnWhereTheyDiffer(t *testing.T) {
	t.Parallel()
	s := NewSpace(boxPack(12, 12, 12).Solid(1), false)
	var things []Thing
	for range 11 {
		things = append(things, s.ThingOf(box(3, 2, 2), Body, Wish{}))
	}
	trial := s.NewTrial(len(things))
	trial.Keep(things, indices(11), 0.5)
	for differs, shared := range map[int]int{0: 0, 3: 0, 4: 4, 7: 4, 8: 8, 9: 8} {
		order := indices(11)
		order[differs], order[10] = order[10], order[differs]
		trial.lay(things, order)
		assert.Equal(t, shared, trial.resume(things, 0.5), "orders that differ in turn %d", differs)
		assert.Zero(t, trial.resume(things, 0.6), "at another squeeze")
	}
}

// The blocks that drawn boxes are joined into are those of always: what one step of the joining weighs moves the sum.
func TestBlocksAreTheSame(t *testing.T) {
	t.Parallel()
	hash, joined := fnv.New64a(), 0
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 31))
		room := [3]int{14 + r.IntN(10), 10 + r.IntN(8), 20 + r.IntN(20)}
		var sizes [][3]int
		for left := 0.6 * float64(room[0]*room[1]*room[2]); left > 0; {
			size := [3]int{2 + r.IntN(9), 2 + r.IntN(7), 3 + r.IntN(9)}
			sizes = append(sizes, size)
			left -= float64(size[0] * size[1] * size[2])
		}
		boxes, looked := Blocks(sizes, room, 10_000, r, nil)
		if boxes != nil {
			joined++
		}
		_ = binary.Write(hash, binary.LittleEndian, int64(looked))
		for _, b := range boxes {
			for axis := range 3 {
				_ = binary.Write(hash, binary.LittleEndian, [2]int64{int64(b.Min[axis]), int64(b.Max[axis])})
			}
		}
	}
	assert.Greater(t, joined, 4)
	assert.Less(t, joined, 40)
	assert.Equal(t, uint64(0x2ec2156cdfddb7b6), hash.Sum64())
}
