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
	return !slices.ContainsFunc(before, func(i int) bool { return things[i].Bag == th.Bag && things[i].Region == th.Region })
}

// placeBag packs all things of a bag that are among order: those that keep their shape first, so that the soft ones
// close round them. If they find no room together, in one piece, all of them are out.
func (t *Trial) placeBag(things []Thing, order []int, bag int, squeeze float64) {
	var members []int
	cells, wish := 0, Wish{}
	for _, rigid := range []bool{true, false} {
		for _, i := range order {
			th := &things[i]
			if th.Bag != bag || th.Rigid() != rigid {
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
	t.within = whole
	if !placed {
		t.undo(members)
	}
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
	for cell, owner := range t.Owner {
		if owner >= 0 && slices.Contains(members, int(owner)) {
			t.Owner[cell] = Air
		}
	}
	for _, i := range members {
		t.Boxes[i] = Box{}
	}
	copy(t.top, t.before.top)
	t.covered = append(t.covered[:0], t.before.covered...)
}

// inOnePiece reports whether the cells of the things hang together by their faces.
func (t *Trial) inOnePiece(members []int) bool {
	if t.marked == nil {
		t.marked = make([]bool, len(t.Owner))
	}
	total, start := 0, 0
	for cell, owner := range t.Owner {
		if owner >= 0 && slices.Contains(members, int(owner)) {
			t.marked[cell] = true
			total++
			start = cell
		}
	}
	met := 0
	t.flood(start, t.marked, func(int, int, int) { met++ })
	if met < total {
		clear(t.marked)
	}
	return met == total
}
