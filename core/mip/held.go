package mip

import "math"

// heldBack are the rows of a program that its relaxation begins without: those of two columns with one side, which say
// that one thing asks for another ("food lies in this pocket if this bag does"). A program may have a hundred of them,
// most of which bind nowhere, and a pivot takes time by the square of its rows. They come in where a solved
// relaxation does not keep them, as lazy constraints.
type heldBack struct {
	rows    []int  // of the program
	in      []bool // by these: it is in the relaxation
	present []int  // by row of the relaxation behind the first ones, which of rows it is; -1 for a cut
}

// split parts a program into what its relaxation begins with and the rows that are held back.
func split(p *Program) (first *Program, held heldBack) {
	first = &Program{Columns: p.Columns}
	for i := range p.Rows {
		if r := &p.Rows[i]; len(r.Terms) == 2 && math.IsInf(r.Low, -1) != math.IsInf(r.High, 1) {
			held.rows = append(held.rows, i)
		} else {
			first.Rows = append(first.Rows, *r)
		}
	}
	held.in = make([]bool, len(held.rows))
	return first, held
}

// solve solves the relaxation together with the rows held back that it would not keep.
func (s *solver) solve(cutoff float64) outcome {
	for {
		got := s.relaxation.solve(cutoff, s.mostPivots(), s.stopped)
		if got != optimal || !s.bringIn(s.notKept()) {
			return got
		}
	}
}

// notKept lists the rows held back that the relaxation does not keep.
func (s *solver) notKept() (list []int) {
	value := s.relaxation.value
	for k, i := range s.held.rows {
		if s.held.in[k] {
			continue
		}
		row := &s.Rows[i]
		sum, size := 0.0, 1.0
		for _, t := range row.Terms {
			sum += t.Factor * value[t.Column]
			size = max(size, math.Abs(t.Factor*value[t.Column]))
		}
		if sum < row.Low-feasible/2*size || sum > row.High+feasible/2*size {
			list = append(list, k)
		}
	}
	return list
}

// bringIn adds rows held back to the relaxation, and reports whether there were any.
func (s *solver) bringIn(list []int) bool {
	for _, k := range list {
		row := &s.Rows[s.held.rows[k]]
		s.relaxation.addRow(gather(row.Terms), row.Low, row.High)
		s.held.in[k] = true
		s.held.present = append(s.held.present, k)
	}
	return len(list) > 0
}

// dropped notes which rows behind the first ones were taken out of the relaxation.
func (h *heldBack) dropped(drop []bool) {
	kept := h.present[:0]
	for at, k := range h.present {
		switch {
		case !drop[at]:
			kept = append(kept, k)
		case k >= 0:
			h.in[k] = false
		}
	}
	h.present = kept
}
