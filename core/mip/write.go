package mip

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"strconv"
)

// WriteLP writes the program in CPLEX LP format, which outside solvers read, every number to its last digit. A row
// bounded on both sides becomes two rows; a row without terms is given a column that is 0.
func (p *Program) WriteLP(out io.Writer) error {
	w := &writer{Writer: bufio.NewWriter(out), program: p}
	for _, line := range p.Title {
		fmt.Fprintf(w, "\\ %s\n", line)
	}
	fmt.Fprint(w, "Minimize\n cost:")
	w.terms = 0
	for i := range p.Columns {
		w.term(p.Columns[i].Cost, p.Columns[i].Name)
	}
	if w.terms == 0 {
		w.nothing()
	}
	fmt.Fprint(w, "\nSubject To\n")
	for i := range p.Rows {
		switch r := &p.Rows[i]; {
		case r.Low == r.High:
			w.row(r.Name, r, "=", r.Low)
		case math.IsInf(r.Low, -1) && !math.IsInf(r.High, 1):
			w.row(r.Name, r, "<=", r.High)
		case math.IsInf(r.High, 1) && !math.IsInf(r.Low, -1):
			w.row(r.Name, r, ">=", r.Low)
		case !math.IsInf(r.Low, -1):
			w.row(r.Name+"_low", r, ">=", r.Low)
			w.row(r.Name+"_high", r, "<=", r.High)
		}
	}
	if len(p.Rows) == 0 {
		w.row("idle", &Row{}, "<=", 0)
	}
	w.bounds()
	fmt.Fprint(w, "End\n")
	return w.Flush()
}

type writer struct {
	*bufio.Writer
	program *Program
	terms   int
	idle    bool // the column that is 0 was used
}

// perLine is how many terms stand on a line, since the format limits their length.
const perLine = 6

func (w *writer) term(factor float64, name string) {
	if factor == 0 {
		return
	}
	if w.terms > 0 && w.terms%perLine == 0 {
		fmt.Fprint(w, "\n  ")
	}
	w.terms++
	sign := "+"
	if factor < 0 {
		sign, factor = "-", -factor
	}
	fmt.Fprintf(w, " %s %s %s", sign, exact(factor), name)
}

// nothing stands for a sum without terms.
func (w *writer) nothing() {
	w.idle = true
	fmt.Fprint(w, " 0 none")
}

func (w *writer) row(name string, r *Row, relation string, limit float64) {
	fmt.Fprintf(w, " %s:", name)
	w.terms = 0
	for _, t := range gather(r.Terms) {
		w.term(t.Factor, w.program.Columns[t.Column].Name)
	}
	if w.terms == 0 {
		w.nothing()
	}
	fmt.Fprintf(w, " %s %s\n", relation, exact(limit))
}

// exact prints a number so that reading it gives the same float.
func exact(v float64) string {
	switch {
	case math.IsInf(v, 1):
		return "+inf"
	case math.IsInf(v, -1):
		return "-inf"
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

func (w *writer) bounds() {
	fmt.Fprint(w, "Bounds\n")
	if w.idle {
		fmt.Fprint(w, " none = 0\n")
	}
	var binary, general []string
	for i := range w.program.Columns {
		c := &w.program.Columns[i]
		switch {
		case c.Whole && c.Low == 0 && c.High == 1:
			binary = append(binary, c.Name)
			continue
		case c.Whole:
			general = append(general, c.Name)
		}
		switch {
		case math.IsInf(c.Low, -1) && math.IsInf(c.High, 1):
			fmt.Fprintf(w, " %s free\n", c.Name)
		case c.Low == c.High:
			fmt.Fprintf(w, " %s = %s\n", c.Name, exact(c.Low))
		case c.Low != 0 || !math.IsInf(c.High, 1):
			fmt.Fprintf(w, " %s <= %s <= %s\n", exact(c.Low), c.Name, exact(c.High))
		}
	}
	for _, list := range []struct {
		head  string
		names []string
	}{{"General", general}, {"Binary", binary}} {
		if len(list.names) > 0 {
			fmt.Fprintln(w, list.head)
		}
		for _, name := range list.names {
			fmt.Fprintf(w, " %s\n", name)
		}
	}
}
