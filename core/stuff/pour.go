package stuff

import (
	"math"
	"math/bits"
)

// compact is how far a soft thing spreads: the side of the square it is poured into, relative to the side of a cube
// of its volume (our estimate: stuffed clothes lie a little flatter than a cube).
const compact = 1.15

// tall is how high a soft thing stands at most, relative to the side of the square it is poured into: it does not run
// down a long shaft.
const tall = 2.0

// pour lets a soft thing of n cells fill the air that is wide enough for it, lowest first, in a square where it comes
// to lie lowest and nearest its wish; what does not go in there fills the rest of the region. At last it is pushed
// sideways into covered air that it touches. When it does not find room it leaves everything as it was.
func (t *Trial) pour(th *Thing, owner, n int) bool {
	if n > t.openAir() {
		return false
	}
	copy(t.saved, t.top)
	t.kept = append(t.kept[:0], t.covered...)
	t.poured = t.poured[:0]
	clear(t.mine.bits)
	w, low := t.lowest(th.Wish, n, compact)
	left := n - t.fillLayers(owner, n, th.Gap, w, low)
	if left > 0 {
		left -= t.fillLayers(owner, left, th.Gap, t.within, 0)
	}
	if left > 0 {
		for _, cell := range t.poured {
			t.Owner[cell] = Air
		}
		copy(t.top, t.saved)
		t.covered = append(t.covered[:0], t.kept...)
		return false
	}
	t.pushIn(owner, th.Gap)
	return true
}

// openAir counts the cells of air that nothing lies over.
func (t *Trial) openAir() (n int) {
	for c, top := range t.top {
		n += max(0, int(t.region.ceil[c])-int(top))
	}
	return n
}

// lowest chooses the window into which n cells are poured, of a side relative to that of their cube: where their
// surface would come to lie lowest, nearest to the wish, and the layer below which they do not reach. What would
// cover most of the room gets all of it.
func (t *Trial) lowest(wish Wish, n int, spread float64) (window, int16) {
	room := t.within
	nx := t.space.Solid.Size[0]
	wide, deep := room.x1-room.x0, room.y1-room.y0
	side := int(math.Ceil(spread * math.Cbrt(float64(n))))
	a, b := min(side, wide), min(side, deep)
	if b < side { // shallow packs: the same area, wider
		a = min(wide, (side*side+b-1)/b)
	}
	if 5*a*b >= 4*wide*deep {
		return room, 0
	}
	t.sumHeights()
	t.apart(wish, a, b)
	stride := nx + 1
	best, surface, found := math.Inf(1), 0.0, room
	for y := room.y0; y+b <= room.y1; y++ {
		for x := room.x0; x+a <= room.x1; x++ {
			p, q, r, s := x+stride*y, x+a+stride*y, x+stride*(y+b), x+a+stride*(y+b)
			inside := t.count[s] - t.count[q] - t.count[r] + t.count[p]
			if 4*inside < 3*int32(a*b) {
				continue
			}
			level := float64(t.sum[s]-t.sum[q]-t.sum[r]+t.sum[p]+int32(n)) / float64(inside)
			if score := level + wish.Firm*(t.deep[y]+t.across[x]); score < best-1e-9 {
				best, surface, found = score, level, window{x, y, x + a, y + b}
			}
		}
	}
	if math.IsInf(best, 1) {
		return room, 0
	}
	return found, int16(max(0, surface-tall*float64(side)))
}

// sumHeights makes the summed-area tables of the heights of columns, and of the columns that are inside.
func (t *Trial) sumHeights() {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	stride := nx + 1
	clear(t.sum[:stride])
	clear(t.count[:stride])
	for y := range ny {
		var rowSum, rowCount int32
		t.sum[stride*(y+1)], t.count[stride*(y+1)] = 0, 0
		for x := range nx {
			if h := t.top[x+nx*y]; h != closed {
				rowSum += int32(h)
				rowCount++
			}
			t.sum[x+1+stride*(y+1)] = t.sum[x+1+stride*y] + rowSum
			t.count[x+1+stride*(y+1)] = t.count[x+1+stride*y] + rowCount
		}
	}
}

// fillLayers fills open air inside a window from a layer upward, lowest first, and says how many cells it filled.
// What is open at a layer stays open at the next; so the columns are sorted by height once, and each layer adds its
// own.
func (t *Trial) fillLayers(owner, n, gap int, w window, from int16) int {
	nx, columns := t.space.Solid.Size[0], t.space.columns
	low := int16(closed)
	for y := w.y0; y < w.y1; y++ {
		for x := w.x0; x < w.x1; x++ {
			low = min(low, t.top[x+nx*y])
		}
	}
	first := max(low, from)
	if first >= t.region.highest {
		return 0
	}
	t.openUpTo(first)
	filled, fresh := 0, true
	wide, top, cells, poured := t.air, t.top, t.Owner, t.poured
	for z := first; z < t.region.highest && filled < n; z++ {
		if z > first {
			fresh = t.openAt(z)
		}
		if gap > 1 && fresh {
			t.opener.open(t.air, gap, t.wideAir)
		}
		if gap > 1 {
			wide = t.wideAir
		}
		under := t.under(z)
		layer := cells[columns*int(z) : columns*int(z+1)]
		for y := w.y0; y < w.y1 && filled < n; y++ {
			for k, word := range wide.row(y) {
				word &= under.bits[under.words*y+k] & mask(k, w.x0, w.x1)
				t.mine.bits[under.words*y+k] |= word
				for word != 0 && filled < n {
					c := k*wordBits + bits.TrailingZeros64(word) + nx*y
					word &= word - 1
					if top[c] < z {
						t.covered = append(t.covered, span{int32(c), top[c], z})
					}
					layer[c] = int16(owner)
					poured = append(poured, int32(c+columns*int(z)))
					top[c] = z + 1
					filled++
				}
			}
		}
	}
	t.poured = poured
	return filled
}

// openUpTo makes the set of columns that are open at layer z, and links the others by their heights.
func (t *Trial) openUpTo(z int16) {
	for k := range t.byHeight {
		t.byHeight[k] = -1
	}
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	words := t.air.words
	for y := range ny {
		heights := t.top[nx*y : nx*(y+1)]
		for w := range words {
			var word uint64
			for k, h := range heights[w*wordBits : min(nx, (w+1)*wordBits)] {
				if h <= z {
					word |= 1 << k
				} else if c := nx*y + w*wordBits + k; int(h) < len(t.byHeight) {
					t.next[c], t.byHeight[h] = t.byHeight[h], int32(c)
				}
			}
			t.air.bits[words*y+w] = word
		}
	}
}

// openAt adds the columns that are open from layer z on, and reports whether there are any.
func (t *Trial) openAt(z int16) (any bool) {
	for c := t.byHeight[z]; c >= 0; c = t.next[c] {
		t.air.bits[t.space.word[c]] |= t.space.bit[c]
		any = true
	}
	return any
}

// pushIn pushes the thing just poured sideways into covered air that it touches and that is high enough for it. What
// goes in there comes off its top. Of a bag it stays in its window.
func (t *Trial) pushIn(owner, gap int) {
	if len(t.covered) == 0 {
		return
	}
	nx, columns := t.space.Solid.Size[0], t.space.columns
	t.mine.around(t.near)
	still := t.covered[:0]
	for _, s := range t.covered {
		c := int(s.column)
		if int(s.to-s.from) >= gap && t.near.has(c%nx, c/nx) && t.within.has(c%nx, c/nx) &&
			t.touches(c, nx, s, int16(owner)) {
			for s.from < s.to && t.lower() {
				t.Owner[c+columns*int(s.from)] = int16(owner)
				s.from++
			}
			t.near.setAround(c%nx, c/nx, nx)
		}
		if s.from < s.to {
			still = append(still, s)
		}
	}
	t.covered = still
}

// lower takes the cell poured last off the top of its column; false when that is not the top any more.
func (t *Trial) lower() bool {
	if len(t.poured) < 2 {
		return false
	}
	cell := int(t.poured[len(t.poured)-1])
	column, z := cell%t.space.columns, int16(cell/t.space.columns)
	if t.top[column] != z+1 || z == 0 || t.Owner[cell-t.space.columns] != t.Owner[cell] {
		return false
	}
	t.poured = t.poured[:len(t.poured)-1]
	t.Owner[cell] = Air
	t.top[column] = z
	return true
}

// touches reports whether covered air lies beside a cell of the thing.
func (t *Trial) touches(c, nx int, s span, owner int16) bool {
	x, y, ny := c%nx, c/nx, t.space.Solid.Size[1]
	for z := s.from; z < s.to; z++ {
		cell := c + t.space.columns*int(z)
		if x > 0 && t.Owner[cell-1] == owner || x+1 < nx && t.Owner[cell+1] == owner ||
			y > 0 && t.Owner[cell-nx] == owner || y+1 < ny && t.Owner[cell+nx] == owner {
			return true
		}
	}
	return false
}
