// Package stuff packs things into the solid of a rucksack for trial: one after another in loading order, on a grid
// of cells.
//
// The inside of the pack is kept as a height map: for each column of cells, the layer above which all is air. A
// rigid thing takes the pose and place where it rests lowest and nearest to where the plan wants it; the highest
// column under each possible place is found for all places at once by sliding-window maxima. A soft thing is poured
// in: it fills layer by layer the air that is wide enough for it, lowest first. The things of a bag are packed one
// after another into one window and hang together, or none of them is in (bag.go). What ends up covered by something
// and is still air is hollow. Without bags a trial allocates nothing; 45 things in 50 litres take about a
// millisecond at 1 cm.
//
// The state after a trial is exact: every rigid thing owns all the cells of its box (its dimensions in some pose,
// rounded up to whole cells), every soft thing owns as many cells as its litres make, no cell has two owners.
package stuff

import (
	"math"
	"sync"

	"tornister/core/rucksack"
)

// Region is a part of the solid with a floor of its own.
type Region int

// The two regions.
const (
	Bottom Region = iota
	Body
)

// closed is the height of a column that is not inside the region at all.
const closed = math.MaxInt16

// Space is the inside of a pack, ready for trials. It is not changed by them and may be shared.
type Space struct {
	Solid   *rucksack.Solid
	columns int
	regions [2]region
	blank   []int16 // owner of every cell before a trial: Air or Outside
	ceiled  sync.Once
	word    []int32 // by column, where it is in a set of columns
	bit     []uint64
}

// region gives, for each column, the layers [base, ceil) that it has there.
type region struct {
	base, ceil []int16
	lowest     int16
	highest    int16
	under      []rows // by layer, the columns whose ceiling is above it; made by the first trial
}

// Owners of cells that no thing has.
const (
	Air     int16 = -1
	Outside int16 = -2
)

// NewSpace prepares a solid. With the divider open the two regions are one room: what is in the bottom may reach up
// into the body, and the body begins on top of it.
func NewSpace(solid *rucksack.Solid, open bool) *Space {
	s := &Space{Solid: solid, columns: solid.Size[0] * solid.Size[1], blank: make([]int16, solid.Size.Total())}
	for i, in := range solid.Inside {
		s.blank[i] = Outside
		if in {
			s.blank[i] = Air
		}
	}
	r := newRows(solid.Size[0], solid.Size[1])
	for c := range s.columns {
		x, y := c%solid.Size[0], c/solid.Size[0]
		s.word, s.bit = append(s.word, int32(r.words*y+x/wordBits)), append(s.bit, 1<<(x%wordBits))
	}
	top := solid.Size[2]
	if open {
		s.regions[Bottom] = s.region(0, top)
		s.regions[Body] = s.region(0, top)
	} else {
		s.regions[Bottom] = s.region(0, solid.Floor)
		s.regions[Body] = s.region(solid.Floor, top)
	}
	return s
}

func (s *Space) region(from, to int) region {
	r := region{base: make([]int16, s.columns), ceil: make([]int16, s.columns), lowest: closed}
	for column := range s.columns {
		r.base[column] = closed
		for k := from; k < to; k++ {
			if !s.Solid.Inside[column+s.columns*k] {
				if r.base[column] != closed {
					break // a ledge: the column ends here
				}
				continue
			}
			if r.base[column] == closed {
				r.base[column] = int16(k)
			}
			r.ceil[column] = int16(k + 1)
		}
		r.lowest = min(r.lowest, r.base[column])
		r.highest = max(r.highest, r.ceil[column])
	}
	return r
}

// CellsOf is the number of cells that litres make, rounded to the nearest.
func (s *Space) CellsOf(litres float64) int {
	return int(litres*1000/(s.Solid.CellCm*s.Solid.CellCm*s.Solid.CellCm) + 0.5)
}

// SideOf is the number of cells that a length takes, rounded up; a hair is forgiven.
func (s *Space) SideOf(cm float64) int {
	return max(1, int(math.Ceil(cm/s.Solid.CellCm-1e-6)))
}

// Pocket is a pocket that draws on the body: litres of it, as wide and as high as the pocket is. One at the back
// stands on the floor of the body or, a small one, hangs from its upper rim; others draw on the front.
type Pocket struct {
	Litres, WidthCm float64
	TopCm           float64 // of one that stands
	HangsCm         float64 // down from the rim; 0 for one that stands
	Back            bool
}

// Carve takes a pocket's litres out of the body, column by column from its wall inward, the middle first, and gives
// the cells that it took. It must be called before any trial.
func (s *Space) Carve(pocket Pocket) (taken []int) {
	want := s.CellsOf(pocket.Litres)
	nx, ny := s.Solid.Size[0], s.Solid.Size[1]
	half := min(nx, s.SideOf(pocket.WidthCm)) / 2
	for step := 0; step < ny && want > len(taken); step++ {
		for offset := 0; offset <= 2*half && want > len(taken); offset++ {
			i := nx/2 + (offset+1)/2*(1-2*(offset%2))
			if i < 0 || i >= nx {
				continue
			}
			taken = s.carveColumn(s.nth(i, step, pocket.Back), &pocket, want-len(taken), taken)
		}
	}
	return taken
}

// nth finds the column at i that is the step-th from the back or from the front of what is inside the body; -1 when
// there is none.
func (s *Space) nth(i, step int, fromBack bool) int {
	nx, ny := s.Solid.Size[0], s.Solid.Size[1]
	if fromBack {
		return i + nx*step
	}
	for j := ny - 1; j >= 0; j-- {
		column := i + nx*j
		if s.regions[Body].ceil[column] > 0 {
			if step == 0 {
				return column
			}
			step--
		}
	}
	return -1
}

// carveColumn takes up to so many cells out of one column, from its floor upward or from its ceiling down.
func (s *Space) carveColumn(column int, pocket *Pocket, most int, taken []int) []int {
	if column < 0 || s.regions[Body].base[column] == closed {
		return taken
	}
	r := &s.regions[Body]
	base := max(r.base[column], int16(s.Solid.Floor))
	from, to := base, min(r.ceil[column], int16(pocket.TopCm/s.Solid.CellCm+0.5), base+int16(most))
	if pocket.HangsCm > 0 {
		to = r.ceil[column]
		from = max(base, to-int16(s.SideOf(pocket.HangsCm)), to-int16(most))
	}
	if to <= from {
		return taken
	}
	for k := from; k < to; k++ {
		cell := column + s.columns*int(k)
		s.blank[cell] = Outside
		taken = append(taken, cell)
	}
	if below := &s.regions[Bottom]; below.ceil[column] > from { // divider open: nothing up past the pocket
		below.ceil[column] = from
	}
	if pocket.HangsCm > 0 {
		r.ceil[column] = from
	} else {
		r.base[column] = to
	}
	if r.base[column] >= r.ceil[column] {
		r.base[column] = closed
	}
	return taken
}

// ceilings makes the sets of columns by layer that reach above it.
func (s *Space) ceilings(r *region) {
	nx, ny, nz := s.Solid.Size[0], s.Solid.Size[1], s.Solid.Size[2]
	r.under = make([]rows, nz)
	for z := range r.under {
		r.under[z] = newRows(nx, ny)
	}
	for c, ceil := range r.ceil {
		for z := range int(ceil) {
			r.under[z].bits[s.word[c]] |= s.bit[c]
		}
	}
}

// Room is the number of cells inside both regions, after carving.
func (s *Space) Room() int { return s.RoomBetween(0, s.Solid.Size[2]) }

// RoomBetween is the number of cells inside, after carving, in layers from up to, but not with, to.
func (s *Space) RoomBetween(from, to int) (n int) {
	for _, owner := range s.blank[from*s.columns : to*s.columns] {
		if owner == Air {
			n++
		}
	}
	return n
}
