package stuff

import (
	"math"
	"math/bits"
)

// What a place is worth, in layers of height.
const (
	supportWorth = 3.0 // a foot that stands in full over one that hardly does
	snugWorth    = 1.5 // sides that touch something all round over sides that touch nothing
)

// placeRigid finds the best pose and place and takes its cells. A pose that could win nothing even if it stood where
// it would lie lowest, snug on all sides and where it is wanted, is not looked at closely.
func (t *Trial) placeRigid(th *Thing, owner int) bool {
	if th.Stand != nil {
		return t.placeThere(th.Stand, owner)
	}
	widest := 0
	wide, deep := t.within.x1-t.within.x0, t.within.y1-t.within.y0
	for _, pose := range th.Poses {
		if pose[0] <= wide {
			widest = max(widest, pose[0])
		}
	}
	t.double(widest)
	t.stamp++
	best := choice{score: math.Inf(1)}
	across, lowest := 0, int16(0)
	for _, pose := range th.Poses {
		if pose[0] > wide || pose[1] > deep {
			continue
		}
		if pose[0] != across {
			across = pose[0]
			lowest = t.widen(across)
		}
		if float64(lowest)-snugWorth >= best.score {
			continue
		}
		t.deepen(across, pose[1])
		t.bestPlace(th, pose, &best)
	}
	if math.IsInf(best.score, 1) {
		return false
	}
	t.take(best.box, owner)
	return true
}

// placeThere lets a thing down at the place where it is to stand.
func (t *Trial) placeThere(s *Stand, owner int) bool {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	if s.X < 0 || s.Y < 0 || s.X+s.Pose[0] > nx || s.Y+s.Pose[1] > ny {
		return false
	}
	z := int16(0)
	for y := s.Y; y < s.Y+s.Pose[1]; y++ {
		for _, h := range t.top[s.X+nx*y : s.X+s.Pose[0]+nx*y] {
			z = max(z, h)
		}
	}
	if int(z)+s.Pose[2] > int(t.region.highest) {
		return false
	}
	t.stamp++
	foot := window{s.X, s.Y, s.X + s.Pose[0], s.Y + s.Pose[1]}
	if support, roofed := t.foot(foot, z, int(z)+s.Pose[2]); support < leastSupport || roofed {
		return false
	}
	t.take(Box{[3]int{s.X, s.Y, int(z)}, [3]int{s.X + s.Pose[0], s.Y + s.Pose[1], int(z) + s.Pose[2]}}, owner)
	return true
}

// choice is the best place so far.
type choice struct {
	score float64
	box   Box
}

// bestPlace looks through all places of one pose. The place that rests best without regard to its support is tried
// first, so that most of the others need not be looked at closely.
func (t *Trial) bestPlace(th *Thing, pose [3]int, best *choice) {
	nx, w := t.space.Solid.Size[0], t.within
	a, b := pose[0], pose[1]
	from, to := w.x0, w.x1-a+1
	if pose[2] > int(t.region.highest) {
		return
	}
	most := t.region.highest - int16(pose[2])
	t.apart(th.Wish, a, b)
	first, i0, j0 := math.Inf(1), -1, -1
	for j := w.y0; j+b <= w.y1; j++ {
		high, rests, deep := t.high[nx*j+from:nx*j+to], t.rests[nx*j+from:nx*j+to], t.deep[j]
		for i, across := range t.across[from:to] {
			rests[i] = math.Inf(1)
			if high[i] > most {
				continue
			}
			score := float64(high[i]) + th.Wish.Firm*(deep+across)
			if rests[i] = score; score < first {
				first, i0, j0 = score, from+i, j
			}
		}
	}
	if j0 < 0 {
		return
	}
	t.weigh(first, i0, j0, pose, best)
	for j := w.y0; j+b <= w.y1; j++ {
		for i, score := range t.rests[nx*j+from : nx*j+to] {
			if score-snugWorth < best.score {
				t.weigh(score, from+i, j, pose, best)
			}
		}
	}
}

// weigh compares one place, where a thing rests at a score, with the best so far.
func (t *Trial) weigh(score float64, i, j int, pose [3]int, best *choice) {
	foot, z := window{i, j, i + pose[0], j + pose[1]}, t.high[i+t.space.Solid.Size[0]*j]
	top := int(z) + pose[2]
	support, roofed := t.foot(foot, z, top)
	unstable := supportWorth * (1 - support)
	if support < leastSupport || roofed || score-snugWorth+unstable >= best.score {
		return
	}
	score -= snugWorth * t.snug(foot, z)
	if score += unstable; score < best.score-1e-9 {
		*best = choice{score, Box{[3]int{foot.x0, foot.y0, int(z)}, [3]int{foot.x1, foot.y1, top}}}
	}
}

// apart says for each column along x and each row along y how far a foot of a by b that begins there lies from the
// wish: their sum, by how firm it is, is what that costs, in layers.
func (t *Trial) apart(wish Wish, a, b int) {
	for i := range t.across {
		t.across[i] = 0.5 * math.Abs(float64(i)-wish.Across*float64(len(t.across)-a))
	}
	for j := range t.deep {
		t.deep[j] = math.Abs(float64(j) - wish.Deep*float64(len(t.deep)-b))
	}
}

// double finds, for every column of the window, the highest of 1, 2, 4, ... columns from it along x, up to the widest
// needed. Two of these, overlapping, give the highest of any number: sliding-window maxima without a branch.
func (t *Trial) double(widest int) {
	nx, w := t.space.Solid.Size[0], t.within
	copy(t.doubled[0], t.top)
	for level := 1; level < bits.Len(uint(widest)); level++ {
		half := 1 << (level - 1)
		from, to := t.doubled[level-1], t.doubled[level]
		for j := w.y0; j < w.y1; j++ {
			row, out := from[nx*j+w.x0:nx*j+w.x1], to[nx*j+w.x0:nx*j+w.x1]
			for i := 0; i+2*half <= len(row); i++ {
				out[i] = max(row[i], row[i+half])
			}
		}
	}
}

// widen finds the highest of a columns along x, from every column of the window, and the lowest of these.
func (t *Trial) widen(a int) (lowest int16) {
	lowest = closed
	nx, w := t.space.Solid.Size[0], t.within
	level := bits.Len(uint(a)) - 1
	from, shift := t.doubled[level], a-1<<level
	for j := w.y0; j < w.y1; j++ {
		row, out := from[nx*j+w.x0:nx*j+w.x1], t.wide[nx*j+w.x0:nx*j+w.x1]
		for i := 0; i+a <= len(row); i++ {
			h := max(row[i], row[i+shift])
			out[i], lowest = h, min(lowest, h)
		}
	}
	return lowest
}

// deepen finds the highest column under a foot of a by b columns, for every place in the window: the same along y.
func (t *Trial) deepen(a, b int) {
	nx, w := t.space.Solid.Size[0], t.within
	places := w.x1 - w.x0 - a + 1
	from, done := t.wide, 1
	for done < b {
		more := min(done, b-done)
		to := t.high
		for j := w.y0; j+done+more <= w.y1; j++ {
			at, next := nx*j+w.x0, nx*(j+more)+w.x0
			near, far, out := from[at:at+places], from[next:next+places], to[at:at+places]
			for i := range out {
				out[i] = max(near[i], far[i])
			}
		}
		from, done = to, done+more
	}
	if done == 1 || b == 1 {
		copy(t.high, t.wide)
	}
}

// layer is the columns at one height, for the rigid thing under work.
type layer struct {
	stamp         int
	level, higher rows // whose air begins just there, and higher
}

// at makes the sets of a layer if they were not made since the last thing was placed.
func (t *Trial) at(z int16) *layer {
	l := &t.layers[z]
	if l.stamp == t.stamp {
		return l
	}
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	if l.level.bits == nil {
		l.level, l.higher = newRows(nx, ny), newRows(nx, ny)
	}
	l.stamp = t.stamp
	words := l.level.words
	for y := range ny {
		heights := t.top[nx*y : nx*(y+1)]
		for w := range words {
			var level, higher uint64
			for k, h := range heights[w*wordBits : min(nx, (w+1)*wordBits)] {
				if h == z {
					level |= 1 << k
				} else if h > z {
					higher |= 1 << k
				}
			}
			l.level.bits[words*y+w], l.higher.bits[words*y+w] = level, higher
		}
	}
	return l
}

// foot says which share of a foot stands on something at height z, and whether a column of it ends below the top of
// the thing.
func (t *Trial) foot(w window, z int16, top int) (support float64, roofed bool) {
	return float64(t.at(z).level.count(w)) / float64(w.area()), !t.under(int16(top - 1)).all(w)
}

// snug is the share of the thing's sides, at its foot, that touch a wall or a neighbour.
func (t *Trial) snug(w window, z int16) float64 {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	higher := t.at(z).higher
	n := 0
	for _, y := range [2]int{w.y0 - 1, w.y1} {
		if y < 0 || y >= ny {
			n += w.x1 - w.x0
		} else {
			n += higher.count(window{w.x0, y, w.x1, y + 1})
		}
	}
	for _, x := range [2]int{w.x0 - 1, w.x1} {
		if x < 0 || x >= nx {
			n += w.y1 - w.y0
		} else {
			n += higher.count(window{x, w.y0, x + 1, w.y1})
		}
	}
	return float64(n) / float64(2*(w.x1-w.x0+w.y1-w.y0))
}

// take gives the cells of a box to a thing.
func (t *Trial) take(box Box, owner int) {
	nx := t.space.Solid.Size[0]
	for y := box.Min[1]; y < box.Max[1]; y++ {
		for x := box.Min[0]; x < box.Max[0]; x++ {
			c := x + nx*y
			if int(t.top[c]) < box.Min[2] {
				t.covered = append(t.covered, span{int32(c), t.top[c], int16(box.Min[2])})
			}
			for k := box.Min[2]; k < box.Max[2]; k++ {
				t.Owner[c+t.space.columns*k] = int16(owner)
			}
			t.top[c] = int16(box.Max[2])
		}
	}
	t.Boxes[owner] = box
}

// under is the columns of the region that reach above a layer.
func (t *Trial) under(z int16) rows { return t.region.under[z] }
