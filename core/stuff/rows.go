package stuff

import "math/bits"

// rows is a set of columns, a bit each, row by row of the foot: wide operations on many columns at once.
type rows struct {
	words int // of a row
	bits  []uint64
}

const wordBits = 64

func newRows(nx, ny int) rows {
	words := (nx + wordBits - 1) / wordBits
	return rows{words, make([]uint64, words*ny)}
}

func (r rows) row(y int) []uint64 { return r.bits[r.words*y : r.words*(y+1)] }

func (r rows) set(x, y int) { r.bits[r.words*y+x/wordBits] |= 1 << (x % wordBits) }

func (r rows) has(x, y int) bool { return r.bits[r.words*y+x/wordBits]>>(x%wordBits)&1 == 1 }

// around writes into out the columns that lie beside those of the set, along x or along y.
func (r rows) around(out rows) {
	for w, word := range r.bits {
		beside := word<<1 | word>>1
		if w%r.words > 0 {
			beside |= r.bits[w-1] >> (wordBits - 1)
		}
		if w%r.words+1 < r.words {
			beside |= r.bits[w+1] << (wordBits - 1)
		}
		if w >= r.words {
			beside |= r.bits[w-r.words]
		}
		if w+r.words < len(r.bits) {
			beside |= r.bits[w+r.words]
		}
		out.bits[w] = beside
	}
}

// setAround adds the columns beside one.
func (r rows) setAround(x, y, nx int) {
	if x > 0 {
		r.set(x-1, y)
	}
	if x+1 < nx {
		r.set(x+1, y)
	}
	if y > 0 {
		r.set(x, y-1)
	}
	if r.words*(y+1) < len(r.bits) {
		r.set(x, y+1)
	}
}

// mask is the bits of a word of a row that lie from one column up to, but not with, another.
func mask(word, from, to int) uint64 {
	from, to = max(0, from-word*wordBits), min(wordBits, to-word*wordBits)
	if from >= to {
		return 0
	}
	return ^uint64(0) >> (wordBits - (to - from)) << from
}

// count counts the columns of a window.
func (r rows) count(w window) (n int) {
	if r.words == 1 {
		in := mask(0, w.x0, w.x1)
		for _, word := range r.bits[w.y0:w.y1] {
			n += bits.OnesCount64(word & in)
		}
		return n
	}
	for y := w.y0; y < w.y1; y++ {
		for k, word := range r.row(y) {
			n += bits.OnesCount64(word & mask(k, w.x0, w.x1))
		}
	}
	return n
}

// all reports whether all columns of a window are in the set.
func (r rows) all(w window) bool {
	if r.words == 1 {
		in := mask(0, w.x0, w.x1)
		for _, word := range r.bits[w.y0:w.y1] {
			if word&in != in {
				return false
			}
		}
		return true
	}
	return r.count(w) == w.area()
}

// opener finds what is wide enough: the morphological opening of a set by a line along x and by one along y. A column
// stays when it lies in a run of at least so many columns both ways.
type opener struct {
	size    [2]int
	eroded  rows
	along   rows
	scratch []uint64
}

func newOpener(nx, ny int) *opener {
	r := newRows(nx, ny)
	return &opener{[2]int{nx, ny}, r, newRows(nx, ny), make([]uint64, 2*r.words)}
}

// open writes the opening of a set by a gap into out.
func (o *opener) open(in rows, gap int, out rows) {
	ny := o.size[1]
	if in.words == 1 {
		for y, word := range in.bits[:ny] {
			out.bits[y] = openWord(word, gap)
		}
	} else {
		for y := range ny { // along x: erode, then dilate
			copy(out.row(y), in.row(y))
			o.along1(out.row(y), gap, shiftDown, func(a, b uint64) uint64 { return a & b })
			o.along1(out.row(y), gap, shiftUp, func(a, b uint64) uint64 { return a | b })
		}
	}
	// Along y: where so many rows from here on are in, all of these are wide enough.
	clear(o.along.bits)
	for y := 0; y+gap <= ny; y++ {
		eroded := o.eroded.row(y)
		copy(eroded, in.row(y))
		for k := 1; k < gap; k++ {
			for w, word := range in.row(y + k) {
				eroded[w] &= word
			}
		}
		for k := range gap {
			to := o.along.row(y + k)
			for w, word := range eroded {
				to[w] |= word
			}
		}
	}
	for w, word := range o.along.bits {
		out.bits[w] &= word
	}
}

// openWord is the opening of one word by a line of gap bits.
func openWord(word uint64, gap int) uint64 {
	for done := 1; done < gap; {
		more := min(done, gap-done)
		word &= word >> more
		done += more
	}
	for done := 1; done < gap; {
		more := min(done, gap-done)
		word |= word << more
		done += more
	}
	return word
}

// along1 joins a row with itself shifted by 0, 1, ... gap-1 columns: doubling the run each time.
func (o *opener) along1(row []uint64, gap int, shift func(from, to []uint64, by int), join func(a, b uint64) uint64) {
	shifted := o.scratch[:len(row)]
	for done := 1; done < gap; {
		more := min(done, gap-done)
		shift(row, shifted, more)
		for w := range row {
			row[w] = join(row[w], shifted[w])
		}
		done += more
	}
}

// shiftDown moves bits towards column 0.
func shiftDown(from, to []uint64, by int) {
	skip, rest := by/wordBits, by%wordBits
	for w := range to {
		to[w] = 0
		if w+skip < len(from) {
			to[w] = from[w+skip] >> rest
		}
		if rest > 0 && w+skip+1 < len(from) {
			to[w] |= from[w+skip+1] << (wordBits - rest)
		}
	}
}

// shiftUp moves bits away from column 0.
func shiftUp(from, to []uint64, by int) {
	skip, rest := by/wordBits, by%wordBits
	for w := range to {
		to[w] = 0
		if w >= skip {
			to[w] = from[w-skip] << rest
		}
		if rest > 0 && w > skip {
			to[w] |= from[w-skip-1] >> (wordBits - rest)
		}
	}
}
