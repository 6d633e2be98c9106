package stuff

// Box is the place of a rigid thing in cells, from Min up to, but not with, Max.
type Box struct{ Min, Max [3]int }

// Trial is the scratch room and the result of one packing. Make one with NewTrial and use it again and again.
type Trial struct {
	space          *Space
	Owner          []int16 // by cell: index of a thing, Air or Outside
	Boxes          []Box   // by thing; empty for what is soft or out
	Out            []int   // things that found no place, in the order of trying
	top            []int16 // by column, the layer above which all is air
	saved          []int16
	doubled        [][]int16 // maxima of 1, 2, 4, ... columns along x, for the present heights
	wide           []int16   // maxima of the foot's width along x
	high           []int16   // maxima of the whole foot
	rests          []float64 // by place, what resting there costs without regard to support and neighbours
	across, deep   []float64 // distances from the wish, along x and along y
	sum            []int32   // summed-area tables of heights and of columns inside
	count          []int32
	air            rows // the columns open at a layer
	wideAir        rows // and those of them that are wide enough
	mine, near     rows // the columns that the thing poured last has cells in, and those beside them
	opener         *opener
	byHeight, next []int32 // columns that open at each layer, linked
	layers         []layer // of the rigid thing under work, by height
	stamp          int
	covered        []span // air with something above it
	kept           []span
	poured         []int32
	region         *region
	where          Region // which that is
	steps          []step // of the order under work
	members        []int
	base           kept // an order that others begin like
	survey         Survey
	bag, reached   rows // cells of a bag, and those of them that hang together
	isMember       []bool
	within         window // where things may go: the whole foot, or that of a bag
	before         before // the state to go back to when a bag finds no place
	stack          []int
}

// window is a rectangle of columns, from its nearest corner up to, but not with, its farthest.
type window struct{ x0, y0, x1, y1 int }

func (s *Space) foot() window { return window{0, 0, s.Solid.Size[0], s.Solid.Size[1]} }

func (w window) has(x, y int) bool { return x >= w.x0 && x < w.x1 && y >= w.y0 && y < w.y1 }

func (w window) area() int { return (w.x1 - w.x0) * (w.y1 - w.y0) }

// span is air in one column, from a layer up to another, that something lies over.
type span struct {
	column   int32
	from, to int16
}

// NewTrial makes scratch room for packings of up to a number of things.
func (s *Space) NewTrial(things int) *Trial {
	n, nx, ny, nz := s.columns, s.Solid.Size[0], s.Solid.Size[1], s.Solid.Size[2]
	columns := func() []int16 { return make([]int16, n) }
	t := &Trial{space: s, Owner: make([]int16, len(s.blank)), Boxes: make([]Box, things), Out: make([]int, 0, things),
		top: columns(), saved: columns(), wide: columns(), high: columns(),
		rests: make([]float64, n), across: make([]float64, nx), deep: make([]float64, ny),
		air: newRows(nx, ny), wideAir: newRows(nx, ny), mine: newRows(nx, ny), near: newRows(nx, ny),
		opener: newOpener(nx, ny), byHeight: make([]int32, nz+1),
		next: make([]int32, n), layers: make([]layer, nz+1),
		sum: make([]int32, n+s.Solid.Size[0]+s.Solid.Size[1]+1), count: make([]int32, n+s.Solid.Size[0]+s.Solid.Size[1]+1),
		covered: make([]span, 0, n), kept: make([]span, 0, n), poured: make([]int32, 0, len(s.blank))}
	s.ceiled.Do(func() {
		for r := range s.regions {
			s.ceilings(&s.regions[r])
		}
	})
	for width := 1; width <= nx; width *= 2 {
		t.doubled = append(t.doubled, columns())
	}
	return t
}

// Run packs the things in the given order at one squeeze and reports whether all found a place. Order lists indices
// of things; the bottom region is packed first whatever the order says.
func (t *Trial) Run(things []Thing, order []int, squeeze float64) bool {
	return t.pack(things, order, squeeze, false)
}

// Fits is Run, but ends at the first thing that finds no place: the trial is whole only when all did.
func (t *Trial) Fits(things []Thing, order []int, squeeze float64) bool {
	return t.pack(things, order, squeeze, true)
}

func (t *Trial) pack(things []Thing, order []int, squeeze float64, all bool) bool {
	t.lay(things, order)
	return t.goOn(things, squeeze, t.resume(things, squeeze), all, nil)
}

// step is one thing, or a bag with all its things, in its turn. Its things are members[from:to] of the trial.
type step struct{ from, to int }

// lay puts an order into steps: first those of the bottom.
func (t *Trial) lay(things []Thing, order []int) {
	t.steps, t.members = t.steps[:0], t.members[:0]
	for r := range t.space.regions {
		for turn, i := range order {
			th := &things[i]
			if th.Region != Region(r) || th.Bag > 0 && !firstOfBag(things, order[:turn], th) {
				continue
			}
			from := len(t.members)
			t.members = append(t.members, i)
			if th.Bag > 0 {
				for _, j := range order[turn+1:] {
					if things[j].Bag == th.Bag {
						t.members = append(t.members, j)
					}
				}
			}
			t.steps = append(t.steps, step{from, len(t.members)})
		}
	}
}

// goOn packs from a step on. What is there after each few steps is noted in keep, if that is given.
func (t *Trial) goOn(things []Thing, squeeze float64, from int, all bool, keep *kept) bool {
	if from == 0 {
		copy(t.Owner, t.space.blank)
		t.Out = t.Out[:0]
		clear(t.Boxes)
		t.covered = t.covered[:0]
		t.within = t.space.foot()
		t.enter(Bottom)
	}
	for k := from; k < len(t.steps); k++ {
		if all && len(t.Out) > 0 {
			return false
		}
		members := t.members[t.steps[k].from:t.steps[k].to]
		th := &things[members[0]]
		if th.Region != t.where {
			t.enter(th.Region)
		}
		switch {
		case th.Bag > 0:
			t.placeBag(things, members, squeeze)
		case !t.place(th, members[0], squeeze):
			t.Out = append(t.Out, members[0])
		}
		if keep != nil && (k+1)%noteEvery == 0 {
			keep.note(t, k+1)
		}
	}
	if t.where == Bottom {
		t.enter(Body)
	}
	return len(t.Out) == 0
}

// enter begins a region: what lies below is its ground.
func (t *Trial) enter(r Region) {
	t.where, t.region = r, &t.space.regions[r]
	if r == Bottom || t.region.lowest >= t.space.regions[Bottom].highest {
		copy(t.top, t.region.base)
	} else {
		t.mergeBase()
	}
}

// place finds a place for one thing.
func (t *Trial) place(th *Thing, owner int, squeeze float64) bool {
	if th.Rigid() {
		return t.placeRigid(th, owner)
	}
	return t.pour(th, owner, th.Cells(squeeze))
}

// mergeBase begins the body on top of what lies in the bottom, for an open divider.
func (t *Trial) mergeBase() {
	for c, base := range t.region.base {
		if base == closed {
			t.top[c] = closed
		} else {
			t.top[c] = max(t.top[c], base)
		}
	}
}

// leastSupport is the share of a thing's foot that must stand on something. Below it the thing would tip into the
// gap.
const leastSupport = 0.4
