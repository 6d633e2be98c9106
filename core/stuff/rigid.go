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
	for _, pose := range th.Poses {
		if pose[0] <= t.space.Solid.Size[0] {
			widest = max(widest, pose[0])
		}
	}
	t.double(widest)
	t.stamp++
	best := choice{score: math.Inf(1)}
	across, lowest := 0, int16(0)
	for _, pose := range th.Poses {
		if pose[0] > t.space.Solid.Size[0] || pose[1] > t.space.Solid.Size[1] {
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
	if support, roofed := t.foot(s.X, s.Y, s.Pose[0], s.Pose[1], z, int(z)+s.Pose[2]); support < leastSupport || roofed {
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
	nx, ny, w := t.space.Solid.Size[0], t.space.Solid.Size[1], t.within
	a, b, h := pose[0], pose[1], pose[2]
	most := int(t.region.highest) - h
	first, at := math.Inf(1), -1
	for j := w.y0; j+b <= w.y1; j++ {
		for i := w.x0; i+a <= w.x1; i++ {
			if z := int(t.high[i+nx*j]); z <= most {
				if score := float64(z) + th.Wish.distance(i, j, a, b, nx, ny); score < first {
					first, at = score, i+nx*j
				}
			}
		}
	}
	if at < 0 {
		return
	}
	t.weigh(th, at%nx, at/nx, pose, best)
	for j := w.y0; j+b <= w.y1; j++ {
		for i := w.x0; i+a <= w.x1; i++ {
			if int(t.high[i+nx*j]) <= most {
				t.weigh(th, i, j, pose, best)
			}
		}
	}
}

// weigh compares one place with the best so far.
func (t *Trial) weigh(th *Thing, i, j int, pose [3]int, best *choice) {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	a, b, h := pose[0], pose[1], pose[2]
	z := t.high[i+nx*j]
	score := float64(z) + th.Wish.distance(i, j, a, b, nx, ny)
	if score-snugWorth >= best.score {
		return
	}
	snug := t.snug(i, j, a, b, z)
	score -= snugWorth * snug
	if score >= best.score-1e-9 {
		return
	}
	support, roofed := t.foot(i, j, a, b, z, int(z)+h)
	if support < leastSupport || roofed {
		return
	}
	if score += supportWorth * (1 - support); score < best.score-1e-9 {
		*best = choice{score, Box{[3]int{i, j, int(z)}, [3]int{i + a, j + b, int(z) + h}}}
	}
}

// distance is what lying away from the wish costs, in layers.
func (w Wish) distance(i, j, a, b, nx, ny int) float64 {
	if w.Firm == 0 {
		return 0
	}
	across := math.Abs(float64(i) - w.Across*float64(nx-a))
	deep := math.Abs(float64(j) - w.Deep*float64(ny-b))
	return w.Firm * (deep + 0.5*across)
}

// double finds, for every column, the highest of 1, 2, 4, ... columns from it along x, up to the widest needed. Two
// of these, overlapping, give the highest of any number: sliding-window maxima without a branch.
func (t *Trial) double(widest int) {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	copy(t.doubled[0], t.top)
	for level := 1; level < bits.Len(uint(widest)); level++ {
		half := 1 << (level - 1)
		from, to := t.doubled[level-1], t.doubled[level]
		for j := range ny {
			row, out := from[nx*j:nx*j+nx], to[nx*j:nx*j+nx]
			for i := 0; i+2*half <= nx; i++ {
				out[i] = max(row[i], row[i+half])
			}
		}
	}
}

// widen finds the highest of a columns along x, from every column, and the lowest of these.
func (t *Trial) widen(a int) (lowest int16) {
	lowest = closed
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	level := bits.Len(uint(a)) - 1
	from, shift := t.doubled[level], a-1<<level
	for j := range ny {
		row, out := from[nx*j:nx*j+nx], t.wide[nx*j:nx*j+nx]
		for i := 0; i+a <= nx; i++ {
			h := max(row[i], row[i+shift])
			out[i], lowest = h, min(lowest, h)
		}
	}
	return lowest
}

// deepen finds the highest column under a foot of a by b columns, for every place: the same along y.
func (t *Trial) deepen(a, b int) {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	places := nx - a + 1
	from, done := t.wide, 1
	for done < b {
		more := min(done, b-done)
		to := t.high
		for j := 0; j+done+more <= ny; j++ {
			near, far, out := from[nx*j:nx*j+places], from[nx*(j+more):nx*(j+more)+places], to[nx*j:nx*j+places]
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
func (t *Trial) foot(i, j, a, b int, z int16, top int) (support float64, roofed bool) {
	n := 0
	level, under := t.at(z).level, t.under(int16(top-1))
	for y := j; y < j+b; y++ {
		n += level.count(y, i, i+a)
		if !under.all(y, i, i+a) {
			return 0, true
		}
	}
	return float64(n) / float64(a*b), false
}

// snug is the share of the thing's sides, at its foot, that touch a wall or a neighbour.
func (t *Trial) snug(i, j, a, b int, z int16) float64 {
	nx, ny := t.space.Solid.Size[0], t.space.Solid.Size[1]
	higher := t.at(z).higher
	n := 0
	for _, y := range [2]int{j - 1, j + b} {
		if y < 0 || y >= ny {
			n += a
		} else {
			n += higher.count(y, i, i+a)
		}
	}
	for _, x := range [2]int{i - 1, i + a} {
		if x < 0 || x >= nx {
			n += b
			continue
		}
		for y := j; y < j+b; y++ {
			if higher.has(x, y) {
				n++
			}
		}
	}
	return float64(n) / float64(2*(a+b))
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
