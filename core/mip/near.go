package mip

import "math"

// When the neighbourhood of the best solution is searched, and how: after the root and when the tree has grown to
// twice what it was, with a part of the work done so far or a smaller one of all that is allowed, where enough columns
// agree for the rest to be small.
const (
	nearPart   = 10  // one part of the work done in so many
	nearLeast  = 20  // of that allowed
	nearNodes  = 200 // of its tree
	leastAgree = 0.4 // of the columns that must be whole
)

// near looks for a better solution near the best one: columns that are worth the same in it and in the relaxation are
// fixed, and the rest is solved as a program of its own (relaxation induced neighbourhood search: Danna, Rothberg and
// Le Pape, 2005). It reports whether it found one.
func (s *solver) near() bool {
	if s.best == nil || s.nested || s.nodes < s.nextNear {
		return false
	}
	s.nextNear = max(1, 2*s.nodes)
	fixed, agree := make([]bool, len(s.Columns)), 0
	for _, j := range s.integers {
		if math.Abs(s.relaxation.value[j]-s.best[j]) <= whole {
			fixed[j] = true
			agree++
		}
	}
	if float64(agree) < leastAgree*float64(len(s.integers)) || agree == len(s.integers) {
		return false
	}
	rest, kept := s.fixedAt(fixed)
	options := Options{Nodes: nearNodes, Stop: s.options.Stop,
		Work: max(1, s.relaxation.work/nearPart, s.options.Work/nearLeast)}
	if s.options.Work > 0 {
		options.Work = max(1, min(options.Work, s.options.Work-s.relaxation.work))
	}
	sub := newSolver(rest, options)
	sub.nested = true
	start := make([]float64, len(kept))
	for k, j := range kept {
		start[k] = s.best[j]
	}
	sub.offer(start)
	sub.run()
	s.relaxation.work += sub.relaxation.work
	s.relaxation.pivots += sub.relaxation.pivots
	if sub.best == nil {
		return false
	}
	values := append(make([]float64, 0, len(s.best)), s.best...)
	for k, j := range kept {
		values[j] = sub.best[k]
	}
	return s.offer(values)
}

// fixedAt is the program of the columns that are not fixed, the others being what they are in the best solution, and
// which columns of the whole these are.
func (s *solver) fixedAt(fixed []bool) (rest *Program, kept []int) {
	rest = &Program{}
	at := make([]int, len(s.Columns))
	for j := range s.Columns {
		if !fixed[j] {
			c := s.Columns[j]
			c.Low, c.High = max(c.Low, s.root.low[j]), min(c.High, s.root.high[j])
			at[j] = rest.Add(c)
			kept = append(kept, j)
		}
	}
	for i := range s.Rows {
		row := Row{Name: s.Rows[i].Name, Low: s.Rows[i].Low, High: s.Rows[i].High}
		for _, t := range s.Rows[i].Terms {
			if fixed[t.Column] {
				row.Low -= t.Factor * s.best[t.Column]
				row.High -= t.Factor * s.best[t.Column]
			} else {
				row.Terms = append(row.Terms, Term{at[t.Column], t.Factor})
			}
		}
		if len(row.Terms) > 0 {
			rest.Rows = append(rest.Rows, row)
		}
	}
	return rest, kept
}
