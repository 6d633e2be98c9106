package shrink

import (
	"bufio"
	"cmp"
	"fmt"
	"io"
	"math"
	"slices"

	"tornister/core/kit"
	"tornister/core/load"
)

// Program is the choice of moves as a 0-1 program: the least cost at which the moves taken save NeedL litres together,
// at most one move is made to each thing, the Limits hold, and each thing of Must (which no zone takes as it is) has
// one made that helps.
type Program struct {
	Moves  []Move
	NeedL  float64
	Must   []string
	Limits []Limit
}

// helps reports whether a move may free the plan of a thing that no zone takes: its outside changes or it is not
// packed.
func helps(m Move) bool { return m.Way == Wear || m.Way == Swap || m.Way == Leave }

// Set is a choice of moves.
type Set struct {
	Moves  []Move
	Litres float64
	Grams  float64
	Cost   float64
	Proven bool // the search ended: no cheaper set saves as much
}

// maxNodes and maxSteps bound the search, in nodes and in moves looked at; a hundred moves take some thousands of
// nodes.
const (
	maxNodes = 3_000_000
	maxSteps = 300_000_000
)

// Least finds the cheapest set, exactly, by branch and bound; of equally cheap ones that which saves most weight. ok is
// false when all moves together do not save enough. Stop, which may be nil, ends the search; the best found so far is
// then not proven.
func (p *Program) Least(stop func() bool) (set Set, ok bool) {
	s := &cover{program: p, best: math.Inf(1), most: min(maxNodes, maxSteps/(len(p.Moves)+1)), stop: stop}
	s.order = make([]int, len(p.Moves))
	for i := range s.order {
		s.order[i] = i
	}
	// Cheapest a litre first: then the fractional cover is a bound that can be read off.
	slices.SortStableFunc(s.order, func(a, b int) int {
		return cmp.Or(cmp.Compare(p.Moves[a].ratio(), p.Moves[b].ratio()), compareKeys(p.Moves[a], p.Moves[b]))
	})
	s.touched = map[string]bool{}
	s.branch(0, p.NeedL, 0)
	if math.IsInf(s.best, 1) {
		return Set{}, false
	}
	set = sum(s.chosen, p.Moves)
	set.Proven = s.nodes < s.most
	return set, true
}

func sum(chosen []int, moves []Move) Set {
	var set Set
	slices.Sort(chosen)
	for _, i := range chosen {
		set.Moves = append(set.Moves, moves[i])
		set.Litres += moves[i].Litres
		set.Grams += moves[i].Grams
		set.Cost += moves[i].Cost
	}
	return set
}

// Objective is what the program says of a set: its cost, less a hair's breadth for the weight saved.
func (s *Set) Objective() (sum float64) {
	for _, m := range s.Moves {
		sum += m.price()
	}
	return sum
}

// price is the cost with a hair's breadth for weight, so that ties fall to the lighter set.
func (m Move) price() float64 { return m.Cost - 1e-7*m.Grams }

func (m Move) ratio() float64 {
	if m.Litres <= 0 {
		return math.Inf(1)
	}
	return m.price() / m.Litres
}

type cover struct {
	program *Program
	order   []int
	touched map[string]bool
	taken   []int
	chosen  []int
	best    float64
	nodes   int
	most    int // nodes
	stop    func() bool
}

// slack forgives the last digit of litres.
const slack = 1e-9

func (s *cover) branch(at int, need, cost float64) {
	if s.nodes++; s.nodes%1024 == 0 && s.stop != nil && s.stop() {
		s.nodes = s.most
	}
	if s.nodes >= s.most || cost+s.bound(at, need) >= s.best-1e-10 {
		return
	}
	if need <= slack && s.mustDone() {
		s.best, s.chosen = cost, slices.Clone(s.taken)
		return
	}
	if at == len(s.order) {
		return
	}
	i := s.order[at]
	m := s.program.Moves[i]
	if !s.touched[m.Item] && s.within(m) {
		s.touched[m.Item] = true
		s.taken = append(s.taken, i)
		s.branch(at+1, need-m.Litres, cost+m.price())
		s.taken = s.taken[:len(s.taken)-1]
		s.touched[m.Item] = false
	}
	s.branch(at+1, need, cost)
}

// bound is the cost of covering what is still needed with fractions of the moves that are left, of each thing its best
// alone; a lower bound of every way to go on.
func (s *cover) bound(at int, need float64) float64 {
	low := s.mustBound(at)
	if need <= slack {
		return low
	}
	price := 0.0
	for _, i := range s.order[at:] {
		m := &s.program.Moves[i]
		if s.touched[m.Item] || m.Litres <= 0 {
			continue
		}
		if m.Litres >= need {
			return max(low, price+m.price()*need/m.Litres)
		}
		need -= m.Litres
		price += m.price()
	}
	return math.Inf(1)
}

// within reports whether one more move keeps the limits.
func (s *cover) within(m Move) bool {
	key := m.Key()
	for _, l := range s.program.Limits {
		if !slices.Contains(l.Moves, key) {
			continue
		}
		made := 0
		for _, i := range s.taken {
			if slices.Contains(l.Moves, s.program.Moves[i].Key()) {
				made++
			}
		}
		if made >= l.Most {
			return false
		}
	}
	return true
}

func (s *cover) mustDone() bool {
	for _, item := range s.program.Must {
		if !slices.ContainsFunc(s.taken, func(i int) bool { return s.program.Moves[i].Item == item && helps(s.program.Moves[i]) }) {
			return false
		}
	}
	return true
}

// mustBound is the dearest of the things that must still be helped, each at its cheapest.
func (s *cover) mustBound(at int) float64 {
	low := 0.0
	for _, item := range s.program.Must {
		if slices.ContainsFunc(s.taken, func(i int) bool { return s.program.Moves[i].Item == item && helps(s.program.Moves[i]) }) {
			continue
		}
		least := math.Inf(1)
		for _, i := range s.order[at:] {
			if m := &s.program.Moves[i]; m.Item == item && helps(*m) && !s.touched[item] {
				least = min(least, m.price())
			}
		}
		low = max(low, least)
	}
	return low
}

// WriteLP writes the program in CPLEX LP format, one binary variable a move, for any outside solver.
func (p *Program) WriteLP(out io.Writer) error {
	w := bufio.NewWriter(out)
	fmt.Fprintf(w, "\\ the cheapest set of moves that saves %.3f litres; each variable is one move\n", p.NeedL)
	for i, m := range p.Moves {
		fmt.Fprintf(w, "\\ m%d: %s, %.3f L\n", i, m.Key(), m.Litres)
	}
	fmt.Fprint(w, "Minimize\n cost: 0 none")
	for i, m := range p.Moves {
		fmt.Fprintf(w, "\n %s m%d", signed(m.price()), i)
	}
	fmt.Fprint(w, "\nSubject To\n room: 0 none")
	for i, m := range p.Moves {
		fmt.Fprintf(w, "\n %s m%d", signed(m.Litres), i)
	}
	fmt.Fprintf(w, " >= %.12g\n", p.NeedL-slack)
	row := func(name string, suits func(Move) bool, bound string) {
		fmt.Fprintf(w, " %s: 0 none", name)
		for i, m := range p.Moves {
			if suits(m) {
				fmt.Fprintf(w, " + m%d", i)
			}
		}
		fmt.Fprintf(w, " %s\n", bound)
	}
	var seen []string
	for _, m := range p.Moves {
		if !slices.Contains(seen, m.Item) {
			seen = append(seen, m.Item)
			row(fmt.Sprintf("one%d", len(seen)), func(other Move) bool { return other.Item == m.Item }, "<= 1")
		}
	}
	for i, item := range p.Must {
		row(fmt.Sprintf("must%d", i+1), func(m Move) bool { return m.Item == item && helps(m) }, ">= 1")
	}
	for i, l := range p.Limits {
		row(fmt.Sprintf("limit%d", i+1), func(m Move) bool { return slices.Contains(l.Moves, m.Key()) }, fmt.Sprintf("<= %d", l.Most))
	}
	fmt.Fprint(w, "Bounds\n none = 0\nBinary\n")
	for i := range p.Moves {
		fmt.Fprintf(w, " m%d", i)
	}
	fmt.Fprint(w, "\nEnd\n")
	return w.Flush()
}

func signed(v float64) string {
	if v < 0 {
		return fmt.Sprintf("- %.12g", -v)
	}
	return fmt.Sprintf("+ %.12g", v)
}

// Answer is what Fit found.
type Answer struct {
	Set     Set
	Program Program    // the last one solved, whose optimum is Set
	Plan    *load.Plan // of the kit after the set; it fits when Enough
	Enough  bool
	// CutShort says that the clock ended the search: there may be a set, or a cheaper one.
	CutShort bool
	ShortL   float64 // what all moves together do not save, when not Enough
}

// How often Fit packs for trial: going up until a set fits, then back down between the last that did not and it.
const (
	goingUp   = 14
	goingDown = 4
)

// Fit finds the cheapest set of moves after which the trial packing takes the kit. The plan is that of the kit as it
// is. How many litres must be saved is not known beforehand: litres of different things do not weigh alike in a trial.
// So the program is solved for what the plan lacks, its set is packed for trial, and the requirement raised or lowered
// by what comes out. Set is the optimum of Program, and no program with a requirement less by more than the last step
// gave a set that fits.
func Fit(task *load.Task, plan *load.Plan, shelf []kit.Item, options load.Options) Answer {
	moves := Moves(task, plan, shelf)
	must, limits := stuck(plan), Limits(task, moves)
	if plan.Fits() {
		return Answer{Plan: plan, Enough: true, Program: Program{Moves: moves}}
	}
	need := max(plan.OverL, 0.05)
	low, high := 0.0, 0.0
	over := func() bool { return options.Stop != nil && options.Stop() }
	found := Answer{Plan: plan, Program: Program{Moves: moves, NeedL: need, Must: must, Limits: limits}}
	rough := options
	rough.Rough = true
	try := func(need float64) (a Answer, ok bool) {
		program := Program{Moves: moves, NeedL: need, Must: must, Limits: limits}
		set, ok := program.Least(options.Stop)
		if !ok {
			return Answer{}, false
		}
		after := load.Make(Apply(task, set.Moves), rough)
		return Answer{Set: set, Program: program, Plan: after, Enough: after.Fits()}, true
	}
	for range goingUp {
		if over() {
			found.CutShort = true
			return found
		}
		a, ok := try(need)
		if !ok {
			break
		}
		found = a
		if a.Enough {
			high = need
			break
		}
		low = need
		need = max(a.Set.Litres, need) + max(0.1, a.Plan.OverL/2)
	}
	if !found.Enough && over() {
		found.CutShort = true
		return found
	}
	if !found.Enough {
		return short(task, moves, need, options)
	}
	for range goingDown {
		middle := (low + high) / 2
		if middle <= low || high-low < 0.1 {
			break
		}
		if over() {
			found.CutShort = true
			break
		}
		if a, ok := try(middle); ok && a.Enough {
			found, high = a, middle
		} else {
			low = middle
		}
	}
	return found
}

// short is the answer when no set is enough: as much as can be saved, and what is lacking then.
func short(task *load.Task, moves []Move, need float64, options load.Options) Answer {
	program := Program{Moves: moves, NeedL: need, Limits: Limits(task, moves)}
	s := &cover{program: &program, touched: map[string]bool{}}
	order := make([]int, len(moves))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(moves[b].Litres, moves[a].Litres) })
	for _, i := range order {
		if m := moves[i]; !s.touched[m.Item] && s.within(m) {
			s.touched[m.Item] = true
			s.taken = append(s.taken, i)
		}
	}
	set := sum(s.taken, moves)
	plan := load.Make(Apply(task, set.Moves), options)
	return Answer{Set: set, Program: program, Plan: plan, Enough: plan.Fits(), ShortL: plan.OverL}
}

// stuck lists the things that no zone could hold even if it were empty.
func stuck(plan *load.Plan) []string {
	var items []string
	for _, l := range plan.LeftOut {
		if l.Stuck && !slices.Contains(items, l.Piece.ID) {
			items = append(items, l.Piece.ID)
		}
	}
	return items
}
