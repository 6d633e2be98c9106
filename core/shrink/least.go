package shrink

import (
	"cmp"
	"fmt"
	"io"
	"slices"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/mip"
)

// Program is the choice of moves as a 0-1 program: the least cost at which the moves taken save NeedL litres
// together, at most one move is made to each thing, the Limits hold, and each thing of Must (which no zone takes as
// it is) has one made that helps.
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

// Least finds the cheapest set, exactly; of equally cheap ones that which saves most weight. ok is false when all
// moves together do not save enough. Stop, which may be nil, ends the search; the best found so far is then not
// proven.
func (p *Program) Least(stop func() bool) (set Set, ok bool) {
	found := p.mip().Solve(mip.Options{Stop: stop})
	if found.Values == nil {
		return Set{}, false
	}
	var chosen []int
	for i := range p.Moves {
		if found.Values[i] > 0.5 {
			chosen = append(chosen, i)
		}
	}
	set = sum(chosen, p.Moves)
	set.Proven = found.Status == mip.Optimal
	return set, true
}

func sum(chosen []int, moves []Move) Set {
	var list []Move
	slices.Sort(chosen)
	for _, i := range chosen {
		list = append(list, moves[i])
	}
	return setOf(list)
}

func setOf(moves []Move) Set {
	set := Set{Moves: moves}
	for _, m := range moves {
		set.Litres += m.Litres
		set.Grams += m.Grams
		set.Cost += m.Cost
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

// slack forgives the last digit of litres.
const slack = 1e-9

// mip writes the program down: one column a move, in the order of Moves.
func (p *Program) mip() *mip.Program {
	out := &mip.Program{Title: []string{fmt.Sprintf("the cheapest set of moves that saves %.3f litres; each variable is one move", p.NeedL)}}
	for i, m := range p.Moves {
		out.Title = append(out.Title, fmt.Sprintf("m%d: %s, %.3f L", i, m.Key(), m.Litres))
		out.Binary(fmt.Sprintf("m%d", i), m.price())
	}
	row := func(suits func(Move) bool) (terms []mip.Term) {
		for i, m := range p.Moves {
			if suits(m) {
				terms = append(terms, mip.Term{Column: i, Factor: 1})
			}
		}
		return terms
	}
	var room []mip.Term
	for i, m := range p.Moves {
		room = append(room, mip.Term{Column: i, Factor: m.Litres})
	}
	out.AtLeast("room", p.NeedL-slack, room...)
	var seen []string
	for _, m := range p.Moves {
		if !slices.Contains(seen, m.Item) {
			seen = append(seen, m.Item)
			out.AtMost(fmt.Sprintf("one%d", len(seen)), 1, row(func(other Move) bool { return other.Item == m.Item })...)
		}
	}
	for i, item := range p.Must {
		out.AtLeast(fmt.Sprintf("must%d", i+1), 1, row(func(m Move) bool { return m.Item == item && helps(m) })...)
	}
	for i, l := range p.Limits {
		out.AtMost(fmt.Sprintf("limit%d", i+1), float64(l.Most),
			row(func(m Move) bool { return slices.Contains(l.Moves, m.Key()) })...)
	}
	return out
}

// WriteLP writes the program in CPLEX LP format, one binary variable a move, for any outside solver.
func (p *Program) WriteLP(out io.Writer) error { return p.mip().WriteLP(out) }

// Answer is what Fit found.
type Answer struct {
	Set     Set        // what is to be done
	Program Program    // the last one solved, whose optimum is Set and Spared together
	Spared  []Move     // what the optimum has, and the trial packing does not need
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
// is. How many litres must be saved is not known beforehand: litres of different things do not weigh alike in a
// trial. So the program is solved for what the plan lacks, its set is packed for trial, and the requirement raised or
// lowered by what comes out. Then what the trial does not need after all is taken back, move by move and in pairs,
// dearest first: the kit does not go in without any two of the moves that are left. No program with a requirement
// less by more than the last step gave a set that fits.
func Fit(task *job.Task, plan *load.Plan, shelf []kit.Item, options load.Options) Answer {
	moves := Moves(task, plan, shelf)
	must, limits := stuck(plan), Limits(task, moves)
	if plan.Fits() {
		return Answer{Plan: plan, Enough: true, Program: Program{Moves: moves}}
	}
	need := max(plan.OverL, 0.05)
	low, high := 0.0, 0.0
	found := Answer{Plan: plan, Program: Program{Moves: moves, NeedL: need, Must: must, Limits: limits}}
	packer := &packer{options: options}
	packer.options.Rough = true
	try := func(need float64) (a Answer, ok bool) {
		program := Program{Moves: moves, NeedL: need, Must: must, Limits: limits}
		set, ok := program.Least(options.Stop)
		if !ok {
			return Answer{}, false
		}
		after := packer.plan(Apply(task, set.Moves))
		return Answer{Set: set, Program: program, Plan: after, Enough: after.Fits()}, true
	}
	for range goingUp {
		if packer.over() {
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
	if !found.Enough && packer.over() {
		found.CutShort = true
		return found
	}
	if !found.Enough {
		reached := low // with less than that quick plans found no place for something
		if found = short(task, plan, moves, need, options, packer.over); !found.Enough {
			return found
		}
		packer.patient = true
		low, high = 0, reached
	}
	for range goingDown {
		middle := (low + high) / 2
		if middle <= low || high-low < 0.1 {
			break
		}
		if packer.over() {
			found.CutShort = true
			break
		}
		if a, ok := try(middle); ok && a.Enough {
			found, high = a, middle
		} else {
			low = middle
		}
	}
	for {
		found.spare(task, packer)
		if len(found.Spared) == 0 {
			break
		}
		// The room that is left may be had by a cheaper set.
		a, ok := try(found.Set.Litres)
		if !ok || !a.Enough || a.Set.Cost > found.Set.Cost-slack || packer.over() {
			break
		}
		found = a
	}
	if packer.patient && !packer.over() { // in a good order, like other plans
		options.Quick = false
		if ordered := load.Make(Apply(task, found.Set.Moves), options); ordered.Fits() {
			found.Plan = ordered
		}
	}
	return found
}

// packer packs kits for trial: quickly, and with patience what does not go in quickly, once that is asked for.
type packer struct {
	options load.Options
	patient bool
}

// over reports whether the clock ends the search.
func (p *packer) over() bool { return p.options.Stop != nil && p.options.Stop() }

func (p *packer) plan(task *job.Task) *load.Plan {
	plan := load.Make(task, p.options)
	if p.patient && !plan.Fits() && !p.over() {
		return load.Patient(task, p.options.Stop)
	}
	return plan
}

// spare takes moves back whose room the trial packing does not need.
func (a *Answer) spare(task *job.Task, packer *packer) {
	dearest := slices.Clone(a.Set.Moves)
	slices.SortStableFunc(dearest, func(x, y Move) int { return cmp.Compare(y.Cost, x.Cost) })
	without := func(back ...Move) bool {
		if packer.over() {
			a.CutShort = true
			return false
		}
		rest := slices.DeleteFunc(slices.Clone(a.Set.Moves), func(m Move) bool {
			return slices.ContainsFunc(back, func(b Move) bool { return b.Key() == m.Key() })
		})
		plan := packer.plan(Apply(task, rest))
		if !plan.Fits() {
			return false
		}
		proven := a.Set.Proven
		a.Set = setOf(rest)
		a.Set.Proven, a.Plan, a.Spared = proven, plan, append(a.Spared, back...)
		return true
	}
	for before := -1; before != len(a.Set.Moves); { // what went on lying badly before may lie well after others
		before = len(a.Set.Moves)
		for _, m := range dearest {
			if a.has(m) {
				without(m)
			}
		}
		for i, m := range dearest {
			if len(a.Set.Moves) <= 2 {
				break
			}
			if packer.over() {
				a.CutShort = true
				return
			}
			for _, other := range dearest[i+1:] {
				if a.has(m) && a.has(other) && len(a.Set.Moves) > 2 {
					without(m, other)
				}
			}
		}
	}
}

// has reports whether a move is in the set.
func (a *Answer) has(m Move) bool {
	return slices.ContainsFunc(a.Set.Moves, func(o Move) bool { return o.Key() == m.Key() })
}

// Objective is the optimum of the program: of what is to be done and what was spared.
func (a *Answer) Objective() float64 {
	whole := setOf(append(slices.Clone(a.Set.Moves), a.Spared...))
	return whole.Objective()
}

// short is the answer when no set was enough: as much as can be saved, and what is lacking then. Where that is more
// than the plan lacks, it is packed for trial with patience too.
func short(task *job.Task, plan *load.Plan, moves []Move, need float64, options load.Options, over func() bool) Answer {
	program := Program{Moves: moves, NeedL: need, Limits: Limits(task, moves)}
	most := program.mip()
	most.Rows = most.Rows[1:] // all but the requirement
	for i := range moves {
		most.Columns[i].Cost = -moves[i].Litres
	}
	var chosen []int
	for i, v := range most.Solve(mip.Options{Stop: options.Stop}).Values {
		if v > 0.5 {
			chosen = append(chosen, i)
		}
	}
	set := sum(chosen, moves)
	after := load.Make(Apply(task, set.Moves), options)
	if !after.Fits() && set.Litres > plan.OverL && !over() {
		options.Quick = false
		after = load.Make(Apply(task, set.Moves), options)
	}
	cut := !after.Fits() && over()
	return Answer{Set: set, Program: program, Plan: after, Enough: after.Fits(), CutShort: cut, ShortL: after.OverL}
}

// stuck lists the things that no zone could hold even if it were empty, and those that litres do not help.
func stuck(plan *load.Plan) []string {
	var items []string
	for _, l := range plan.LeftOut {
		if l.Barred() && !slices.Contains(items, l.Piece.ID) {
			items = append(items, l.Piece.ID)
		}
	}
	return items
}
