package mip

import (
	"fmt"
	"math"
	"slices"
)

// Status is how a search ended.
type Status int

// Optimal and Infeasible and Unbounded are proved. Feasible has a solution and a bound below it, Open has a bound
// only: both were ended by Nodes, Work or Stop. Wrong is a program that is none; Solution.Why says what is wrong.
const (
	Optimal Status = iota
	Feasible
	Infeasible
	Unbounded
	Open
	Wrong
)

var statusNames = [...]string{"optimal", "feasible", "infeasible", "unbounded", "open", "wrong"}

func (s Status) String() string { return statusNames[s] }

// Options bound a search and help it.
type Options struct {
	Start []float64                    // a solution that is known, or nil
	Nodes int                          // of the tree; 0 for defaultNodes
	Work  int                          // pivots times the square of rows, which is what they cost; 0 for no limit
	Stop  func() bool                  // ends the search when it says so
	Mend  func(at []float64) []float64 // makes a solution out of the values of a relaxation, or nil: a primal heuristic
}

// Solution is the best that was found, and what is proved about it.
type Solution struct {
	Status    Status
	Why       string    // of Wrong
	Values    []float64 // by column; nil without a solution
	Objective float64   // of Values; Inf without
	Bound     float64   // no solution costs less
	Nodes     int
	Pivots    int
	Cuts      int
}

// defaultNodes ends a search that does not get anywhere.
const defaultNodes = 100_000

// Solve finds the values of least cost that keep all rows. It never cycles: pivots are bounded, and a node whose
// relaxation could not be solved keeps the bound of the node above it.
func (p *Program) Solve(options Options) Solution {
	if why := p.trouble(); why != "" {
		return Solution{Status: Wrong, Why: why, Objective: Inf, Bound: -Inf}
	}
	s := newSolver(p, options)
	s.offer(options.Start)
	status := s.run()
	out := Solution{Status: status, Values: s.best, Objective: s.cost, Bound: s.bound, Nodes: s.nodes,
		Pivots: s.relaxation.pivots, Cuts: s.cutsIn()}
	switch {
	case status == Optimal:
		out.Bound = s.cost
	case s.best != nil:
		out.Bound = min(out.Bound, s.cost)
	}
	return out
}

// solver is one search under way.
type solver struct {
	*Program
	options    Options
	first      *Program // with the rows that the relaxation begins with
	held       heldBack
	limits     []limit // the rows, and behind them those learnt on the way
	learnt     int     // rows, those that were let go among them
	relaxation *relaxation
	root       box // bounds that hold everywhere
	now        box // at the node under work
	trial      box // at a branch that is tried there
	best       []float64
	cost       float64 // of best
	bound      float64
	nodes      int
	rootValue  float64
	rootCosts  []float64 // reduced costs at the root, by column
	rootUpper  []bool
	pseudo     pseudoCosts
	open       queue
	shot       snapshot
	integers   []int // columns that must be whole
	nested     bool  // it searches a neighbourhood for another
	nextNear   int   // nodes from which the neighbourhood of the best is searched again
}

func newSolver(p *Program, options Options) *solver {
	n := len(p.Columns)
	s := &solver{Program: p, options: options, cost: Inf, bound: -Inf,
		root: newBox(n), now: newBox(n), trial: newBox(n), limits: limitsOf(p)}
	if s.options.Nodes == 0 {
		s.options.Nodes = defaultNodes
	}
	for i := range p.Columns {
		c := &p.Columns[i]
		s.root.low[i], s.root.high[i] = c.Low, c.High
		if c.Whole {
			s.root.low[i], s.root.high[i] = math.Ceil(c.Low-whole), math.Floor(c.High+whole)
			s.integers = append(s.integers, i)
		}
	}
	s.pseudo = newPseudoCosts(n)
	s.first, s.held = split(p)
	return s
}

// hairOf is the difference of cost that counts for none: so much less than the best known is not looked for.
func hairOf(cost float64) float64 { return 1e-9 * (1 + math.Abs(cost)) }

// cutsIn counts the cuts in the relaxation.
func (s *solver) cutsIn() (n int) {
	for _, k := range s.held.present {
		if k < 0 {
			n++
		}
	}
	return n
}

// cutoff is the cost from which a node is of no use.
func (s *solver) cutoff() float64 {
	if s.best == nil {
		return Inf
	}
	return s.cost - hairOf(s.cost)
}

// stopped reports whether the caller, or the work it allowed, ends the search.
func (s *solver) stopped() bool {
	return s.options.Work > 0 && s.relaxation.work >= s.options.Work || s.options.Stop != nil && s.options.Stop()
}

// mostPivots bounds the work on one relaxation.
func (s *solver) mostPivots() int {
	return 2000 + 20*(len(s.relaxation.rows)+s.relaxation.structural)
}

// offer takes a solution that is better than the best. Whole columns are rounded, and every row is looked at.
func (s *solver) offer(values []float64) bool {
	if len(values) != len(s.Columns) {
		return false
	}
	list := append(make([]float64, 0, len(values)), values...)
	for _, j := range s.integers {
		list[j] = math.Round(list[j])
	}
	if cost := s.Cost(list); cost < s.cutoff() && s.Broken(list) == "" {
		s.best, s.cost = list, cost
		return true
	}
	return false
}

// mend asks the primal heuristic.
func (s *solver) mend() bool {
	if s.options.Mend == nil {
		return false
	}
	return s.offer(s.options.Mend(slices.Clone(s.relaxation.value[:s.relaxation.structural])))
}

// run solves the root, tightens it, and searches the tree.
func (s *solver) run() Status {
	for j := range s.root.low {
		if s.root.low[j] > s.root.high[j] {
			s.relaxation = newRelaxation(&Program{})
			return Infeasible
		}
	}
	s.relaxation = newRelaxation(s.first)
	if !s.propagate(s.root) {
		return Infeasible
	}
	s.applyRoot()
	r := s.relaxation
	switch s.solve(Inf) {
	case infeasible:
		if s.best != nil { // only rounding can say so
			return Feasible
		}
		return Infeasible
	case unended:
		return s.unproved()
	}
	if s.unbounded() {
		return Unbounded
	}
	s.bound = r.objective()
	s.tightenRoot()
	if s.bound >= s.cutoff() {
		return Optimal
	}
	return s.search()
}

// unproved is the answer when the search was ended before its time.
func (s *solver) unproved() Status {
	if s.best != nil {
		return Feasible
	}
	return Open
}

// unbounded reports whether a column stands at a bound that is not its own.
func (s *solver) unbounded() bool {
	for j := range s.Columns {
		if s.relaxation.free[j] && math.Abs(s.relaxation.value[j]) >= artificial*(1-1e-6) {
			return true
		}
	}
	return false
}

// applyRoot hands the bounds that hold everywhere to the relaxation.
func (s *solver) applyRoot() { s.apply(s.root) }

func (s *solver) apply(b box) {
	for j := range b.low {
		low, high := b.low[j], b.high[j]
		if s.relaxation.free[j] {
			low, high = max(low, s.relaxation.low[j]), min(high, s.relaxation.high[j])
		}
		s.relaxation.bound(j, low, high)
	}
}

// How the root is tightened: rounds of cuts until so many in a row have closed hardly anything of the gap.
const (
	cutRounds   = 40
	staleRounds = 6
	leastClosed = 0.01 // of the gap, or of the bound while there is no solution
	mendEvery   = 5    // rounds between two questions to the primal heuristic
)

// tightenRoot adds cuts and fixes columns whose reduced cost is more than the gap.
func (s *solver) tightenRoot() {
	g := newRounder(s.first, s.relaxation)
	s.mend()
	s.fixAtRoot()
	stale := 0
	for round := range cutRounds {
		if s.bound >= s.cutoff() || s.fractional() == 0 || stale >= staleRounds || s.stopped() {
			break
		}
		s.dropSlackCuts(g)
		g.ready()
		list := slices.Concat(g.covers(), g.single(), g.tableau())
		chosen := choose(list, 10+len(s.first.Rows)/3)
		if len(chosen) == 0 {
			break
		}
		for _, c := range chosen {
			s.relaxation.addRow(c.terms, c.low, Inf)
			s.held.present = append(s.held.present, -1)
		}
		before := s.bound
		if s.solveRoot() != optimal {
			break
		}
		gap := s.cost - before
		if math.IsInf(gap, 1) {
			gap = math.Abs(before)
		}
		if s.bound-before < leastClosed*gap {
			stale++
		} else {
			stale = 0
		}
		if round%mendEvery == mendEvery-1 {
			s.mend()
		}
		s.fixAtRoot()
	}
	s.offer(s.relaxation.value[:s.relaxation.structural])
	s.keepRootCosts()
}

// solveRoot solves the relaxation of the root again. A root without a solution better than the best ends the search.
func (s *solver) solveRoot() outcome {
	got := s.solve(s.cutoff())
	switch got {
	case optimal:
		s.bound = max(s.bound, s.relaxation.objective())
	case above:
		s.bound = max(s.bound, s.cutoff())
	case infeasible:
		if s.best != nil {
			s.bound = s.cost
		}
	}
	return got
}

// fractional counts the columns that should be whole and are not.
func (s *solver) fractional() (n int) {
	for _, j := range s.integers {
		if v := s.relaxation.value[j]; math.Abs(v-math.Round(v)) > whole {
			n++
		}
	}
	return n
}

// choose takes the cuts that cut deepest and not all in the same direction.
func choose(list []cut, most int) (chosen []cut) {
	slices.SortStableFunc(list, func(a, b cut) int {
		switch {
		case a.efficacy > b.efficacy:
			return -1
		case a.efficacy < b.efficacy:
			return 1
		}
		return len(a.terms) - len(b.terms)
	})
	for _, c := range list {
		if len(chosen) == most {
			break
		}
		if !slices.ContainsFunc(chosen, func(d cut) bool { return parallel(c, d) > mostParallel }) {
			chosen = append(chosen, c)
		}
	}
	return chosen
}

// mostParallel is the cosine of the angle from which two cuts say the same.
const mostParallel = 0.9

func parallel(a, b cut) float64 {
	product, first, second := 0.0, 0.0, 0.0
	for i, j := 0, 0; i < len(a.terms) && j < len(b.terms); {
		switch {
		case a.terms[i].Column < b.terms[j].Column:
			i++
		case a.terms[i].Column > b.terms[j].Column:
			j++
		default:
			product += a.terms[i].Factor * b.terms[j].Factor
			i, j = i+1, j+1
		}
	}
	if product == 0 {
		return 0
	}
	for _, t := range a.terms {
		first += t.Factor * t.Factor
	}
	for _, t := range b.terms {
		second += t.Factor * t.Factor
	}
	return product / math.Sqrt(first*second)
}

// dropSlackCuts takes out the cuts, and the rows that were held back, that bind nothing any more.
func (s *solver) dropSlackCuts(g *rounder) {
	r := s.relaxation
	slack := make([]bool, len(r.rows))
	n := 0
	for i := len(s.first.Rows); i < len(r.rows); i++ {
		if v := r.logical(i); r.place[v] >= 0 && r.value[v] < r.high[v]-feasible {
			slack[i] = true
			n++
		}
	}
	if n < 10 {
		return
	}
	r.dropRows(slack)
	s.held.dropped(slack[len(s.first.Rows):])
	g.wholeRow = g.wholeRow[:0]
}

// fixAtRoot fixes columns for good whose other values would cost more than the best solution: reduced-cost fixing.
func (s *solver) fixAtRoot() {
	if s.best == nil || s.relaxation.moved {
		return
	}
	s.keepRootCosts()
	s.fixByRoot()
}

func (s *solver) keepRootCosts() {
	r := s.relaxation
	if r.moved {
		return
	}
	s.rootValue = r.objective()
	s.rootCosts = append(s.rootCosts[:0], r.reduced[:r.structural]...)
	s.rootUpper = append(s.rootUpper[:0], r.upper[:r.structural]...)
	for j := range s.rootCosts {
		if r.place[j] >= 0 || r.free[j] {
			s.rootCosts[j] = 0
		}
	}
}

// fixByRoot applies the reduced costs kept of the root to the best solution known now.
func (s *solver) fixByRoot() {
	if s.best == nil {
		return
	}
	gap := s.cutoff() - s.rootValue
	for _, j := range s.integers {
		if j >= len(s.rootCosts) {
			return
		}
		d := math.Abs(s.rootCosts[j])
		if d < dualTolerance*s.relaxation.scale || s.root.low[j] == s.root.high[j] {
			continue
		}
		steps := math.Floor(gap/d + whole)
		if s.rootUpper[j] && s.rootCosts[j] < 0 {
			s.root.low[j] = max(s.root.low[j], s.root.high[j]-max(0, steps))
		} else if !s.rootUpper[j] && s.rootCosts[j] > 0 {
			s.root.high[j] = min(s.root.high[j], s.root.low[j]+max(0, steps))
		}
	}
	s.applyRoot()
}

func (s Solution) String() string {
	return fmt.Sprintf("%s: %v, bound %v, %d nodes, %d pivots, %d cuts", s.Status, s.Objective, s.Bound, s.Nodes,
		s.Pivots, s.Cuts)
}
