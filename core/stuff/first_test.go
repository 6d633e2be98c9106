package stuff

import (
	"encoding/binary"
	"hash/fnv"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tornister/core/kit"
)

// drawn is a packing from a seed: things of every kind, some in bags, in a pack with or without its divider.
func drawn(seed uint64) (*Space, []Thing, []int, float64) {
	r := rand.New(rand.NewPCG(seed, 5))
	s := NewSpace(roundPack().Solid(1), r.IntN(2) == 0)
	if r.IntN(2) == 0 {
		s.Carve(Pocket{Litres: 2, WidthCm: 20, TopCm: 50, Back: true})
	}
	var things []Thing
	for range r.IntN(60) {
		k := kit.Kinds[r.IntN(40)]
		th := s.ThingOf(k.Shape, Region(r.IntN(2)), Wish{r.Float64(), 0.5, []float64{0, 0.3}[r.IntN(2)]})
		if bag := r.IntN(10) - 6; bag > 0 {
			th.Bag, th.Held = 2*bag+int(th.Region), r.Float64()/2
		}
		things = append(things, th)
	}
	return s, things, r.Perm(len(things)), r.Float64()
}

// Three hundred packings, cell by cell, as the first way made them, which looked at every column under every place
// one by one (its answers were hashed before it was replaced). Six of them differ since: the first way pushed things of
// a bag beyond its window, and left some of it there when the bag was taken out again.
func TestSameAsTheFirstWay(t *testing.T) {
	t.Parallel()
	hash := fnv.New64a()
	for seed := range uint64(300) {
		s, things, order, squeeze := drawn(seed)
		trial := s.NewTrial(len(things))
		trial.Run(things, order, squeeze)
		for _, owner := range trial.Owner {
			_ = binary.Write(hash, binary.LittleEndian, owner)
		}
	}
	assert.Equal(t, uint64(0xcde43b920699776a), hash.Sum64())
}

// Sets of columns, told column by column: what lies beside them, and how many of a window are in.
func TestColumnsOfASet(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		nx, ny := rapid.IntRange(1, 150).Draw(t, "nx"), rapid.IntRange(1, 12).Draw(t, "ny")
		in, near, grown := newRows(nx, ny), newRows(nx, ny), newRows(nx, ny)
		for y := range ny {
			for x := range nx {
				if rapid.IntRange(0, 7).Draw(t, "in") == 0 {
					in.set(x, y)
					grown.setAround(x, y, nx)
				}
			}
		}
		in.around(near)
		is := func(x, y int) bool { return x >= 0 && y >= 0 && x < nx && y < ny && in.has(x, y) }
		x0, y0 := rapid.IntRange(0, nx-1).Draw(t, "x0"), rapid.IntRange(0, ny-1).Draw(t, "y0")
		w := window{x0, y0, rapid.IntRange(x0+1, nx).Draw(t, "x1"), rapid.IntRange(y0+1, ny).Draw(t, "y1")}
		n := 0
		for y := range ny {
			for x := range nx {
				beside := is(x-1, y) || is(x+1, y) || is(x, y-1) || is(x, y+1)
				assert.Equal(t, beside, near.has(x, y), "column %d, %d", x, y)
				assert.Equal(t, beside, grown.has(x, y), "column %d, %d", x, y)
				if w.has(x, y) && is(x, y) {
					n++
				}
			}
		}
		assert.Equal(t, n, in.count(w))
		assert.Equal(t, n == w.area(), in.all(w))
	})
}

// What is wide enough, told column by column: the run of open columns that it lies in, along x and along y.
func TestOpeningIsRuns(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		nx, ny := rapid.IntRange(1, 150).Draw(t, "nx"), rapid.IntRange(1, 12).Draw(t, "ny")
		gap := rapid.IntRange(2, 9).Draw(t, "gap")
		in, out := newRows(nx, ny), newRows(nx, ny)
		for y := range ny {
			for x := range nx {
				if rapid.IntRange(0, 7).Draw(t, "open") > 0 {
					in.set(x, y)
				}
			}
		}
		newOpener(nx, ny).open(in, gap, out)
		run := func(x, y, dx, dy int) (n int) {
			for ; x >= 0 && y >= 0 && x < nx && y < ny && in.has(x, y); x, y = x+dx, y+dy {
				n++
			}
			return n
		}
		for y := range ny {
			for x := range nx {
				wide := run(x, y, 1, 0)+run(x, y, -1, 0)-1 >= gap && run(x, y, 0, 1)+run(x, y, 0, -1)-1 >= gap
				assert.Equal(t, wide, out.has(x, y), "column %d, %d", x, y)
			}
		}
	})
}

// Support and snugness of a foot, counted column by column.
func TestFootIsCounted(t *testing.T) {
	t.Parallel()
	for seed := range uint64(60) {
		s, things, order, squeeze := drawn(seed)
		trial := s.NewTrial(len(things))
		trial.Run(things, order, squeeze)
		trial.stamp++
		r := rand.New(rand.NewPCG(seed, 6))
		nx, ny := s.Solid.Size[0], s.Solid.Size[1]
		a, b := 1+r.IntN(nx), 1+r.IntN(ny)
		i, j, z := r.IntN(nx-a+1), r.IntN(ny-b+1), int16(r.IntN(s.Solid.Size[2]))
		rests, touched, sides := 0, 0, 0
		for y := j - 1; y <= j+b; y++ {
			for x := i - 1; x <= i+a; x++ {
				outside := x < 0 || y < 0 || x >= nx || y >= ny
				switch inX, inY := x >= i && x < i+a, y >= j && y < j+b; {
				case inX && inY:
					rests += map[bool]int{true: 1}[trial.top[x+nx*y] == z]
				case inX || inY:
					sides++
					touched += map[bool]int{true: 1}[outside || trial.top[max(0, min(nx*ny-1, x+nx*y))] > z]
				}
			}
		}
		assert.InDelta(t, float64(touched)/float64(sides), trial.snug(window{i, j, i + a, j + b}, z), 1e-12)
		if support, roofed := trial.foot(window{i, j, i + a, j + b}, z, 1); !roofed {
			assert.InDelta(t, float64(rests)/float64(a*b), support, 1e-12)
		}
	}
}
