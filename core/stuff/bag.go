package stuff

import "slices"

// A bag with what is in it is one body: its things lie in one window of columns, one against the other, and go in
// together or not at all. Its window is tried small first, so that it comes out as a bag and not as a layer; the last
// is the whole room.
var spreads = [...]float64{compact, 1.4, 1.8}

// before is the state of a trial ahead of a bag.
type before struct {
	top     []int16
	covered []span
}

// firstOfBag reports whether none of the things before is in the bag of this one.
func firstOfBag(things []Thing, before []int, th *Thing) bool {
	return !slices.ContainsFunc(before,
		func(i int) bool { return things[i].Bag == th.Bag && things[i].Region == th.Region })
}

// placeBag packs the things of a bag: those that keep their shape first, so that the soft ones close round them. If
// they find no room together, in one piece, all of them are out.
func (t *Trial) placeBag(things []Thing, order []int, squeeze float64) {
	var members []int
	cells, wish := 0, Wish{}
	for _, rigid := range []bool{true, false} {
		for _, i := range order {
			th := &things[i]
			if th.Rigid() != rigid {
				continue
			}
			members = append(members, i)
			cells += th.Cells(squeeze)
			if th.Wish.Firm > wish.Firm {
				wish = th.Wish
			}
		}
	}
	t.before.top = append(t.before.top[:0], t.top...)
	t.before.covered = append(t.before.covered[:0], t.covered...)
	whole := t.within
	for _, spread := range spreads {
		if w, _ := t.lowest(wish, cells, spread); w != whole && t.placeWithin(w, things, members, squeeze) {
			return
		}
	}
	if !t.placeWithin(whole, things, members, squeeze) {
		t.Out = append(t.Out, members...)
	}
}

// placeWithin packs things into a window; when that does not go, everything is as it was.
func (t *Trial) placeWithin(w window, things []Thing, members []int, squeeze float64) bool {
	whole := t.within
	t.within = w
	placed := t.placeAll(things, members, squeeze) && t.inOnePiece(members)
	if !placed {
		t.undo(members)
	}
	t.within = whole
	return placed
}

func (t *Trial) placeAll(things []Thing, members []int, squeeze float64) bool {
	for _, i := range members {
		if !t.place(&things[i], i, squeeze) {
			return false
		}
	}
	return true
}

// undo takes the things of a bag out again.
func (t *Trial) undo(members []int) {
	columns := t.space.columns
	t.ofBag(members, func(column, z int) { t.Owner[column+columns*z] = Air })
	for _, i := range members {
		t.Boxes[i] = Box{}
	}
	copy(t.top, t.before.top)
	t.covered = append(t.covered[:0], t.before.covered...)
}

// ofBag visits the cells of a bag's things, which lie in the window.
func (t *Trial) ofBag(members []int, visit func(column, z int)) {
	is := resizeBool(&t.isMember, len(t.Boxes))
	clear(is)
	for _, i := range members {
		is[i] = true
	}
	w, nx := t.within, t.space.Solid.Size[0]
	from, to := t.layersOfBag()
	for z := from; z < to; z++ {
		for y := w.y0; y < w.y1; y++ {
			first, at := nx*y+w.x0, t.space.columns*z
			for k, owner := range t.Owner[first+at : first+at+w.x1-w.x0] {
				if owner >= 0 && is[owner] {
					visit(first+k, z)
				}
			}
		}
	}
}

// layersOfBag is the layers between which a bag's things lie in the window: from the ground that they found, or the air
// under it that they were pushed into, up to what lies highest now.
func (t *Trial) layersOfBag() (from, to int) {
	w, nx := t.within, t.space.Solid.Size[0]
	low, high := int16(closed), int16(0)
	for y := w.y0; y < w.y1; y++ {
		for c := w.x0 + nx*y; c < w.x1+nx*y; c++ {
			if t.top[c] != closed {
				low, high = min(low, t.before.top[c]), max(high, t.top[c])
			}
		}
	}
	for _, s := range t.before.covered {
		low = min(low, s.from)
	}
	return int(min(low, high)), int(high)
}

func resizeBool(list *[]bool, n int) []bool {
	if cap(*list) < n {
		*list = make([]bool, n)
	}
	return (*list)[:n]
}

// inOnePiece reports whether the cells of the things hang together by their faces: what is reached from one of them
// grows row by row, upward and downward through the layers, until nothing new is reached.
func (t *Trial) inOnePiece(members []int) bool {
	size := t.space.Solid.Size
	if t.bag.bits == nil {
		t.bag, t.reached = newRows(size[0], size[1]*size[2]), newRows(size[0], size[1]*size[2])
	}
	clear(t.bag.bits)
	clear(t.reached.bits)
	start := -1
	words, columns := t.bag.words, t.space.columns
	t.ofBag(members, func(column, z int) {
		t.bag.bits[words*size[1]*z+int(t.space.word[column])] |= t.space.bit[column]
		start = column + columns*z
	})
	if start < 0 {
		return true
	}
	t.reached.set(start%size[0], start/size[0])
	last := size[1]*size[2] - 1
	for grew := true; grew; {
		grew = false
		for row := range last + 1 {
			grew = t.reach(row, size[1]) || grew
		}
		for row := last; row >= 0; row-- {
			grew = t.reach(row, size[1]) || grew
		}
	}
	for w, word := range t.bag.bits {
		if word != t.reached.bits[w] {
			return false
		}
	}
	return true
}

// reach lets what is reached in a row grow: along the row, and from the rows beside, above and below it. Rows are
// numbered through all layers, of deep rows each.
func (t *Trial) reach(row, deep int) (grew bool) {
	in := t.bag.row(row)
	now := t.reached.row(row)
	for w, open := range in {
		if open&^now[w] == 0 {
			continue
		}
		seed := now[w]
		for _, other := range [4]struct {
			is bool
			by int
		}{{row%deep > 0, -1}, {row%deep+1 < deep, 1}, {row >= deep, -deep}, {row+deep < len(t.bag.bits)/t.bag.words, deep}} {
			if other.is {
				seed |= t.reached.row(row + other.by)[w]
			}
		}
		if w > 0 {
			seed |= now[w-1] >> (wordBits - 1)
		}
		if w+1 < len(now) {
			seed |= now[w+1] << (wordBits - 1)
		}
		seed &= open
		for { // along the row
			next := (seed | seed<<1 | seed>>1) & open
			if next == seed {
				break
			}
			seed = next
		}
		if seed != now[w] {
			now[w], grew = seed, true
		}
	}
	return grew
}
