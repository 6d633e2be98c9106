package stuff

import (
	"math/rand/v2"
	"slices"
)

// Stand is where a rigid thing is to stand: its pose, and its nearest column.
type Stand struct {
	Pose [3]int
	X, Y int
}

// Blocks looks for a way to lay boxes into a room of cells without gaps to speak of, by joining two boxes or blocks
// again and again into a larger block, those first whose faces match: sawing turned round. Blocks are what the better
// ways of loading containers are made of (Fanslau and Bortfeldt, 2010). It tries again and again, each time a little
// differently, until it has looked at so many joints, and gives the corner and pose of every box, or nothing, and the
// joints that it looked at.
func Blocks(sizes [][3]int, room [3]int, most int, random *rand.Rand, stop func() bool) (boxes []Box, looked int) {
	b := &builder{room: room, sorted: sorted(room), random: random, spare: volume(room)}
	for i, size := range sizes {
		b.spare -= volume(size)
		b.start = append(b.start, &block{size: size, item: i})
	}
	if b.spare < 0 || len(sizes) == 0 {
		return nil, 0
	}
	for i := range b.start {
		b.first = b.joints(b.first, b.start, i)
	}
	for try := 0; b.looked < most; try++ {
		if try%8 == 7 && stop != nil && stop() {
			return nil, b.looked
		}
		if whole := b.build(); whole != nil {
			boxes = make([]Box, len(sizes))
			for _, p := range permutations {
				if size := turned(whole.size, p); size[0] <= room[0] && size[1] <= room[1] && size[2] <= room[2] {
					whole.lay([3]int{}, p, boxes)
					return boxes, b.looked
				}
			}
		}
	}
	return nil, b.looked
}

// block is a box, or two blocks joined along an axis, the second turned.
type block struct {
	size [3]int
	item int
	a, b *block
	axis int
	turn [3]int

	joined bool // into a larger block, in the present try
}

// joint is a way to join two blocks.
type joint struct {
	a, b    *block
	axis    int
	turn    [3]int
	size    [3]int
	waste   int
	contact float64 // the area of the faces that meet
	cost    float64 // of the present try
}

type builder struct {
	room, sorted [3]int
	spare        int // cells of the room beyond those of the boxes
	start        []*block
	first        []joint // of the boxes themselves
	random       *rand.Rand
	live         []*block
	open         []joint
	looked       int // at joints, in all tries
}

// Two blocks of many are joined only where that wastes no more than a share of the spare room.
const (
	fewBlocks  = 5
	wasteShare = 8
)

var permutations = [...][3]int{{0, 1, 2}, {0, 2, 1}, {1, 0, 2}, {1, 2, 0}, {2, 0, 1}, {2, 1, 0}}

func volume(size [3]int) int { return size[0] * size[1] * size[2] }

func sorted(size [3]int) [3]int {
	slices.Sort(size[:])
	return size
}

// turned is a size with its axes exchanged: axis k becomes what axis p[k] was.
func turned(size, p [3]int) [3]int { return [3]int{size[p[0]], size[p[1]], size[p[2]]} }

// joints adds the ways to join the block at a place of the list with those before it.
func (b *builder) joints(list []joint, blocks []*block, at int) []joint {
	two := blocks[at]
	limit := b.spare // as long as there are many blocks, hardly any of it is wasted
	if len(blocks) > fewBlocks {
		limit /= wasteShare
	}
	for _, one := range blocks[:at] {
		for k, p := range permutations {
			other := turned(two.size, p)
			if k > 0 && slices.ContainsFunc(permutations[:k], func(q [3]int) bool { return turned(two.size, q) == other }) {
				continue
			}
			for axis := range 3 {
				i, j := (axis+1)%3, (axis+2)%3
				size := [3]int{max(one.size[0], other[0]), max(one.size[1], other[1]), max(one.size[2], other[2])}
				size[axis] = one.size[axis] + other[axis]
				waste := volume(size) - volume(one.size) - volume(other)
				if waste > limit || !b.goesIn(size) {
					continue
				}
				contact := min(one.size[i], other[i]) * min(one.size[j], other[j])
				list = append(list, joint{one, two, axis, p, size, waste, float64(contact), 0})
			}
		}
	}
	return list
}

func (b *builder) goesIn(size [3]int) bool {
	s := sorted(size)
	return s[0] <= b.sorted[0] && s[1] <= b.sorted[1] && s[2] <= b.sorted[2]
}

// build joins until one block is left; nil when that cannot be done within the room.
func (b *builder) build() *block {
	b.live = append(b.live[:0], b.start...)
	b.open = append(b.open[:0], b.first...)
	for _, x := range b.start {
		x.joined = false
	}
	spare := b.spare
	dear := (2 + 20*b.random.Float64()) * float64(b.sorted[1]*b.sorted[2]) // how much waste counts against contact
	b.price(b.open, dear)
	b.looked += len(b.start) + len(b.open)
	for len(b.live) > 1 {
		best, kept := joint{}, b.open[:0]
		b.looked += len(b.open)
		for _, j := range b.open {
			if j.a.joined || j.b.joined || j.waste > spare {
				continue
			}
			kept = append(kept, j)
			if best.a == nil || j.cost < best.cost {
				best = j
			}
		}
		b.open = kept
		if best.a == nil {
			return nil
		}
		spare -= best.waste
		best.a.joined, best.b.joined = true, true
		b.live = slices.DeleteFunc(b.live, func(x *block) bool { return x.joined })
		b.live = append(b.live, &block{size: best.size, a: best.a, b: best.b, axis: best.axis, turn: best.turn})
		from := len(b.open)
		b.open = b.joints(b.open, b.live, len(b.live)-1)
		b.price(b.open[from:], dear)
	}
	return b.live[0]
}

// price gives joints their costs for one try: less the more they touch, more the more they waste, and some luck.
func (b *builder) price(list []joint, dear float64) {
	for k := range list {
		j := &list[k]
		j.cost = dear*float64(j.waste)/float64(volume(j.size)) - (0.2+0.5*b.random.Float64())*j.contact
	}
}

// lay writes the boxes of a block that stands at a corner with its axes exchanged.
func (b *block) lay(corner, p [3]int, boxes []Box) {
	if b.a == nil {
		size := turned(b.size, p)
		boxes[b.item] = Box{corner, [3]int{corner[0] + size[0], corner[1] + size[1], corner[2] + size[2]}}
		return
	}
	b.a.lay(corner, p, boxes)
	for k := range p {
		if p[k] == b.axis { // along this axis of the room
			corner[k] += b.a.size[b.axis]
		}
	}
	b.b.lay(corner, [3]int{b.turn[p[0]], b.turn[p[1]], b.turn[p[2]]}, boxes)
}

// Cuboid is the largest box of cells that is wholly inside a region from its lowest layer to its highest.
func (s *Space) Cuboid(r Region) Box {
	g := &s.regions[r]
	nx, ny := s.Solid.Size[0], s.Solid.Size[1]
	var best Box
	most := 0
	run := make([]int, nx) // how many columns inside lie one behind the other, up to this row
	for y := range ny {
		for x := range nx {
			if c := x + nx*y; g.base[c] <= g.lowest && g.ceil[c] >= g.highest {
				run[x]++
			} else {
				run[x] = 0
			}
		}
		for x := range nx {
			deep := ny
			for to := x; to < nx && run[to] > 0; to++ {
				deep = min(deep, run[to])
				if area := deep * (to - x + 1); area > most {
					most = area
					best = Box{[3]int{x, y - deep + 1, int(g.lowest)}, [3]int{to + 1, y + 1, int(g.highest)}}
				}
			}
		}
	}
	return best
}
