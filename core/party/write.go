package party

import (
	"fmt"
	"io"

	"tornister/core/mip"
)

// Stage is one of the programs that an outside solver can solve one after another to find what Fair finds.
type Stage struct {
	Name string
	Want int // its least value, as found
	kind quantity
	k    int // of the k largest
	p    *mip.Program
}

// WriteLP writes the stage in CPLEX LP format: whole variables x_l_b for lump l with bearer b, u_b for the level of a
// bearer. Minimising the sum of the k largest levels for k = 1, 2, and so on, each kept for the next, gives the
// lexicographic order (Ogryczak and Śliwiński, 2003).
func (s *Stage) WriteLP(out io.Writer) error { return s.p.WriteLP(out) }

// quantity is what is made small in a group of stages.
type quantity string

const (
	levels  quantity = "levels"
	over    quantity = "over"
	changes quantity = "changes"
)

// Stages are the programs of an answer, in their order.
func (a *Answer) Stages() (stages []Stage) {
	n := len(a.Loads)
	type group struct {
		kind quantity
		n    int // entries of the score
	}
	all := []group{{levels, n}, {changes, 1}}
	if a.exact.keep {
		all = []group{{over, n}, {changes, 1}, {levels, n}}
	}
	at := 0
	for _, g := range all {
		sum := 0
		for k := 1; k <= g.n; k++ {
			sum += a.score[at]
			at++
			stage := Stage{Name: fmt.Sprintf("%s-%d", g.kind, k), Want: sum, kind: g.kind, k: k}
			stage.p = a.exact.program(&stage, stages)
			stages = append(stages, stage)
		}
	}
	return stages
}

// program writes one stage down: the rules, what the earlier stages reached, and what is to be least.
func (t *table) program(stage *Stage, earlier []Stage) *mip.Program {
	out := &mip.Program{Title: []string{"sharing of a party's kit, stage " + stage.Name}}
	n := len(t.own)
	var x [][]int
	var changed []mip.Term
	for l := range t.lumps {
		x = append(x, make([]int, n))
		var one []mip.Term
		for b := range n {
			x[l][b] = out.Binary(fmt.Sprintf("x_%d_%d", l, b), 0)
			one = append(one, mip.Term{Column: x[l][b], Factor: 1})
			if c := t.lumps[l].changes(b); c > 0 {
				changed = append(changed, mip.Term{Column: x[l][b], Factor: float64(c)})
			}
			if !t.lumps[l].allowed[b] {
				out.AtMost(fmt.Sprintf("not_%d_%d", l, b), 0, mip.Term{Column: x[l][b], Factor: 1})
			}
		}
		out.Exactly(fmt.Sprintf("one_%d", l), 1, one...)
	}
	for l := range t.lumps {
		for m := l + 1; m < len(t.lumps); m++ {
			for b := 0; b < n && t.lumps[l].apart>>m&1 == 1; b++ {
				out.AtMost(fmt.Sprintf("apart_%d_%d_%d", l, m, b), 1, mip.Term{Column: x[l][b], Factor: 1},
					mip.Term{Column: x[m][b], Factor: 1})
			}
		}
	}
	for i, no := range t.no {
		var terms []mip.Term
		for l := range t.lumps {
			if no.lumps>>l&1 == 1 {
				terms = append(terms, mip.Term{Column: x[l][no.bearer], Factor: 1})
			}
		}
		out.AtMost(fmt.Sprintf("fit_%d", i), float64(len(terms)-1), terms...)
	}
	reached := map[quantity][]int{levels: make([]int, n), over: make([]int, n)}
	for b := range n {
		u := out.Add(mip.Column{Name: fmt.Sprintf("u_%d", b), High: mip.Inf, Whole: true})
		reached[levels][b] = u
		terms := []mip.Term{{Column: u, Factor: float64(t.limit[b])}}
		for l := range t.lumps {
			terms = append(terms, mip.Term{Column: x[l][b], Factor: -float64(t.lumps[l].mass * Full)})
		}
		out.AtLeast(fmt.Sprintf("load_%d", b), float64(t.own[b]*Full), terms...)
		if t.keep {
			o := out.Add(mip.Column{Name: fmt.Sprintf("o_%d", b), High: mip.Inf})
			reached[over][b] = o
			out.AtLeast(fmt.Sprintf("over_%d", b), -Full, mip.Term{Column: o, Factor: 1}, mip.Term{Column: u, Factor: -1})
		}
	}
	for i := range earlier {
		if sum := earlier[i].sum(out, reached, changed); len(sum) > 0 {
			out.AtMost(fmt.Sprintf("kept_%d", i), float64(earlier[i].Want), sum...)
		}
	}
	for _, term := range stage.sum(out, reached, changed) {
		out.Columns[term.Column].Cost += term.Factor
	}
	return out
}

// sum are the terms of what a stage makes least; for the k largest it adds their threshold and what is above it.
func (s *Stage) sum(out *mip.Program, reached map[quantity][]int, changed []mip.Term) []mip.Term {
	if s.kind == changes {
		return changed
	}
	threshold := out.Add(mip.Column{Name: fmt.Sprintf("t_%s_%d", s.kind, s.k), High: mip.Inf})
	terms := []mip.Term{{Column: threshold, Factor: float64(s.k)}}
	for b, column := range reached[s.kind] {
		above := out.Add(mip.Column{Name: fmt.Sprintf("d_%s_%d_%d", s.kind, s.k, b), High: mip.Inf})
		out.AtLeast(fmt.Sprintf("above_%s_%d_%d", s.kind, s.k, b), 0, mip.Term{Column: above, Factor: 1},
			mip.Term{Column: threshold, Factor: 1}, mip.Term{Column: column, Factor: -1})
		terms = append(terms, mip.Term{Column: above, Factor: 1})
	}
	return terms
}
