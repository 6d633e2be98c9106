package stuff

// Survey is what one sweep over the cells of a trial tells of each thing. It belongs to the trial and is overwritten
// by its next.
type Survey struct {
	Cells   []int        // by thing
	Middles [][3]float64 // in cells of the grid; 0 of what is out
	Above   []Set        // what lies over it in the same columns
	Front   []Set        // what lies before it towards the front, at the same height; nil unless asked for
	Spine   []int        // cells of it that touch the back panel
	Beside  []Set        // what touches it sideways; nil unless asked for
	Hollow  int          // cells of air with something above them

	front, beside []Set // kept for the next time
	met           Set
}

// Survey sweeps over the last trial of a number of things, column by column from the top.
func (t *Trial) Survey(things int, front, beside bool) *Survey {
	s := &t.survey
	s.reset(things, front, beside)
	size, columns := t.space.Solid.Size, t.space.columns
	met := s.met
	for c := range columns {
		clear(met)
		x, y := float64(c%size[0])+0.5, float64(c/size[0])+0.5
		last, from, any := int16(Air), size[2], false
		end := func(to int) { // the run of one owner, layers [to, from)
			n := from - to
			m := &s.Middles[last]
			s.Cells[last] += n
			m[0] += x * float64(n)
			m[1] += y * float64(n)
			m[2] += float64(to+from) * float64(n) / 2
			above := s.Above[last]
			for w := range met {
				above[w] |= met[w]
			}
			met.add(int(last))
			if c < size[0] {
				s.Spine[last] += n
			}
		}
		cell := c + columns*(size[2]-1)
		for k := size[2] - 1; k >= 0; k, cell = k-1, cell-columns {
			owner := t.Owner[cell]
			if owner == Air && any {
				s.Hollow++
			}
			if owner == last {
				continue
			}
			if last >= 0 {
				end(k + 1)
			}
			last, from = owner, k+1
			any = any || owner >= 0
		}
		if last >= 0 {
			end(0)
		}
	}
	for i, n := range s.Cells {
		for axis := range 3 {
			if n > 0 {
				s.Middles[i][axis] /= float64(n)
			}
		}
		s.Above[i][i/64] &^= 1 << (i % 64) // a thing does not lie over itself
	}
	if front {
		t.sweepFront(s)
	}
	if beside {
		t.sweepSides(s)
	}
	return s
}

func (s *Survey) reset(things int, front, beside bool) {
	if len(s.Cells) != things {
		*s = Survey{Cells: make([]int, things), Middles: make([][3]float64, things), Spine: make([]int, things),
			met: newSet(things)}
		s.Above, s.front, s.beside = sets(things), sets(things), sets(things)
	}
	clear(s.Cells)
	clear(s.Middles)
	clear(s.Spine)
	s.Hollow, s.Front, s.Beside = 0, nil, nil
	if front {
		s.Front = s.front
	}
	if beside {
		s.Beside = s.beside
	}
	for _, list := range [][]Set{s.Above, s.Front, s.Beside} {
		for _, set := range list {
			clear(set)
		}
	}
}

func sets(n int) []Set {
	list := make([]Set, n)
	for i := range list {
		list[i] = newSet(n)
	}
	return list
}

// sweepFront goes through the rows from the front to the back.
func (t *Trial) sweepFront(s *Survey) {
	size, columns := t.space.Solid.Size, t.space.columns
	for k := range size[2] {
		for i := range size[0] {
			clear(s.met)
			last := int16(Air)
			cell := i + size[0]*(size[1]-1) + columns*k
			for range size[1] {
				if owner := t.Owner[cell]; owner >= 0 && owner != last {
					front := s.Front[owner]
					for w := range s.met {
						front[w] |= s.met[w]
					}
					s.met.add(int(owner))
					last = owner
				}
				cell -= size[0]
			}
		}
	}
	for i := range s.Front {
		s.Front[i][i/64] &^= 1 << (i % 64)
	}
}

// sweepSides finds what touches sideways.
func (t *Trial) sweepSides(s *Survey) {
	size := t.space.Solid.Size
	meet := func(a, b int16) {
		if a != b && a >= 0 && b >= 0 {
			s.Beside[a].add(int(b))
			s.Beside[b].add(int(a))
		}
	}
	for z := range size[2] {
		for y := range size[1] {
			row := t.Owner[size[0]*(y+size[1]*z):][:size[0]]
			for x := 1; x < size[0]; x++ {
				if row[x] != row[x-1] {
					meet(row[x-1], row[x])
				}
			}
			if y == 0 {
				continue
			}
			before := t.Owner[size[0]*(y-1+size[1]*z):][:size[0]]
			for x, owner := range row {
				if owner != before[x] {
					meet(before[x], owner)
				}
			}
		}
	}
}
