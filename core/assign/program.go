package assign

import (
	"cmp"
	"fmt"
	"io"
	"math"
	"slices"

	"tornister/core/mip"
)

// program is the zone assignment as a mixed-integer program.
//
// x_i_z is 1 when thing i goes into zone z, o_i when it is left out; out is how many are left out: branching on it
// closes most of the gap of a kit that does not fit. s_z is the litres that zone z is overfull
// loose; m is the newton-metres by which one side is heavier; food_z, fuel_z, wet_z, dry_z say that such things lie
// in pocket z, and meet_z, soak_z that they lie there together. Costs are seconds a day.
type program struct {
	mip.Program
	assignment *Assignment
	in         [][]int // by thing and zone, its column; -1 where it cannot be
	left       []int   // by thing, the column of leaving it out
	out        int     // the column of how many are
	squeezed   []int   // by zone, the column of its litres too many; -1 for none
	side       int
	meetings   []meeting
	annealing  *annealing // of what mend finds, or nil
}

// pair is two classes of things that must not meet in a pocket.
type pair struct {
	first, second, both string // names of columns
	of                  func(*Choice) (first, second bool)
	count               func(*fill) (first, second int)
}

var pairs = [...]pair{
	{"food", "fuel", "meet", func(c *Choice) (bool, bool) { return c.food > 0, c.fuel > 0 },
		func(f *fill) (int, int) { return f.food, f.fuel }},
	{"wet", "dry", "soak", func(c *Choice) (bool, bool) { return c.Wet > 0, c.Spoilt > 0 },
		func(f *fill) (int, int) { return f.wet, f.spoilt }},
}

// meeting is the columns of a pair in a pocket: whether the first is there, the second, and both.
type meeting struct {
	pair *pair
	zone int
	is   [2]int
	both int
}

// program writes down the assignment.
func (a *Assignment) toProgram() *program {
	p := &program{assignment: a}
	p.Title = append(p.Title, "Zone assignment: seconds a day, litres, grams, newton-metres.")
	for i, c := range a.Choices {
		p.Title = append(p.Title, fmt.Sprintf("thing %d is %s, piece %d", i, c.ID, c.Number))
	}
	for z := range a.Zones {
		p.Title = append(p.Title, fmt.Sprintf("zone %d is %s", z, a.Zones[z].ID))
	}
	p.columns()
	p.once()
	for z := range a.Zones {
		p.capacities(z)
	}
	p.sides()
	p.pockets()
	return p
}

func (p *program) columns() {
	a := p.assignment
	for i, c := range a.Choices {
		row := make([]int, len(a.Zones))
		for z := range a.Zones {
			if row[z] = -1; !math.IsInf(c.Price[z], 1) {
				row[z] = p.Binary(fmt.Sprintf("x_%d_%d", i, z), c.Price[z])
			}
		}
		p.in = append(p.in, row)
	}
	for i, c := range a.Choices {
		p.left = append(p.left, p.Binary(fmt.Sprintf("o_%d", i), c.Leave))
	}
	p.out = p.Add(mip.Column{Name: "out", High: float64(len(a.Choices)), Whole: true})
	for z := range a.Zones {
		column := -1
		if price := a.squeezePrice(z); price > 0 {
			column = p.Add(mip.Column{Name: fmt.Sprintf("s_%d", z), Cost: price})
		}
		p.squeezed = append(p.squeezed, column)
	}
	p.side = p.Add(mip.Column{Name: "m", Cost: perSideNm})
}

// once says that each thing lies in one zone, or in none, and counts the latter.
func (p *program) once() {
	for i := range p.in {
		row := []mip.Term{{Column: p.left[i], Factor: 1}}
		for _, column := range p.in[i] {
			if column >= 0 {
				row = append(row, mip.Term{Column: column, Factor: 1})
			}
		}
		p.Exactly(fmt.Sprintf("once_%d", i), 1, row...)
	}
	all := []mip.Term{{Column: p.out, Factor: -1}}
	for _, column := range p.left {
		all = append(all, mip.Term{Column: column, Factor: 1})
	}
	p.Exactly("left_out", 0, all...)
}

// capacities say how much goes into a zone: tight, loose at a price, and in grams on straps. What draws on a zone
// takes its share.
func (p *program) capacities(zone int) {
	a := p.assignment
	litres := func(squeeze float64) (row []mip.Term) {
		for i, c := range a.Choices {
			for z, column := range p.in[i] {
				switch {
				case column < 0:
				case z == zone:
					row = append(row, mip.Term{Column: column, Factor: c.RoomIn(z, squeeze)})
				case a.drawnOn[z] == zone:
					row = append(row, mip.Term{Column: column, Factor: a.rooms[z].DrawsOn.Share * c.RoomIn(z, squeeze)})
				}
			}
		}
		return row
	}
	p.AtMost(fmt.Sprintf("tight_%d", zone), a.capacity(zone), litres(1)...)
	if s := p.squeezed[zone]; s >= 0 {
		row := litres(0)
		p.Columns[s].High = max(0, sumOf(row)-a.capacity(zone)) // as if all lay there
		p.AtMost(fmt.Sprintf("loose_%d", zone), a.capacity(zone), append(row, mip.Term{Column: s, Factor: -1})...)
	}
	if limit := a.massLimit(zone); limit > 0 {
		var row []mip.Term
		for i, c := range a.Choices {
			if column := p.in[i][zone]; column >= 0 {
				row = append(row, mip.Term{Column: column, Factor: c.Mass})
			}
		}
		p.AtMost(fmt.Sprintf("mass_%d", zone), limit, row...)
	}
}

func sumOf(row []mip.Term) (sum float64) {
	for _, t := range row {
		sum += t.Factor
	}
	return sum
}

// sides say by how much one side is heavier.
func (p *program) sides() {
	a := p.assignment
	for _, side := range []struct {
		name string
		sign float64
	}{{"side_right", 1}, {"side_left", -1}} {
		var row []mip.Term
		most := 0.0
		for i, c := range a.Choices {
			for z, column := range p.in[i] {
				if moment := side.sign * sideMoment(&a.Zones[z], c.Mass); column >= 0 && moment != 0 {
					row = append(row, mip.Term{Column: column, Factor: moment})
					most += max(0, moment)
				}
			}
		}
		p.Columns[p.side].High = max(p.Columns[p.side].High, most)
		p.AtMost(side.name, 0, append(row, mip.Term{Column: p.side, Factor: -1})...)
	}
}

// pockets say what must not share one. A pocket that only one class of a pair could go into needs no rule.
func (p *program) pockets() {
	a := p.assignment
	for z := range a.Zones {
		for k := range pairs {
			var of [2][]int
			for i, c := range a.Choices {
				if p.in[i][z] < 0 || !a.pocket(z) {
					continue
				}
				first, second := pairs[k].of(c)
				if first {
					of[0] = append(of[0], i)
				}
				if second {
					of[1] = append(of[1], i)
				}
			}
			if len(of[0]) > 0 && len(of[1]) > 0 {
				p.apart(&pairs[k], z, of)
			}
		}
	}
}

// apart prices two classes of things in one pocket.
func (p *program) apart(pair *pair, zone int, of [2][]int) {
	m := meeting{pair: pair, zone: zone}
	for side, name := range [2]string{pair.first, pair.second} {
		m.is[side] = p.Binary(fmt.Sprintf("%s_%d", name, zone), 0)
		for _, i := range of[side] {
			p.AtMost(fmt.Sprintf("%s_%d_%d", name, i, zone), 0, mip.Term{Column: p.in[i][zone], Factor: 1},
				mip.Term{Column: m.is[side], Factor: -1})
		}
	}
	m.both = p.Add(mip.Column{Name: fmt.Sprintf("%s_%d", pair.both, zone), Cost: breach, High: 1})
	p.AtMost(fmt.Sprintf("%ss_%d", pair.both, zone), 1, mip.Term{Column: m.is[0], Factor: 1},
		mip.Term{Column: m.is[1], Factor: 1}, mip.Term{Column: m.both, Factor: -1})
	p.meetings = append(p.meetings, m)
}

// Proof says how good a zone assignment is: what it costs, and what no assignment can cost less than. Both belong to
// the mixed-integer program that WriteLP writes.
type Proof struct {
	Objective float64 `json:"objective"`
	Bound     float64 `json:"bound"`
}

// Gap is the part of the objective that is not proved to be necessary.
func (p Proof) Gap() float64 {
	if p.Objective <= 0 {
		return 0
	}
	return max(0, (p.Objective-p.Bound)/p.Objective)
}

// Effort bounds the work of solving an assignment, in pivots times the square of the rows of its program, which is what
// they cost: 300 million take about a second.
type Effort int

// A quick answer, what the search for a place begins with, and a thorough one.
const (
	Quickly    Effort = 4_000_000
	Searching  Effort = 100_000_000
	Thoroughly Effort = 800_000_000
)

// Solve finds the cheapest zones: a local search begins, the program goes on from there, and where it is not proved and
// things are left out, another search goes on from its end. What is lacking in the proof is said by it.
func (a *Assignment) Solve(e Effort) {
	a.begin()
	a.Prove(e)
	if e > Quickly && a.OutCost() > 0 && a.Proof.Gap() > 0 {
		a.kick()
		a.Proof.Objective = a.Total()
	}
}

// How the zones of a kit are proved of which something is left out: anew from the best as long as little effort finds
// a better one, some times at most, since a tree that begins with a good one is much smaller. Then, for whoever waits
// for it, with several times the usual effort, and once more if that finds a better one, where so little is lacking,
// and the things are so few, that it can be closed. Of more things a proof takes long and is not closed: it gets less,
// and only once the plan is there, which is not to wait for it.
const (
	anewEffort   = Thoroughly / 4
	manyEffort   = Thoroughly / 16
	mostAnew     = 4
	nearlyProved = 0.05
	mostProved   = 60
	nearlyEffort = 2 * Thoroughly
	mostNearly   = 2
)

// ProveAnew goes on from the present zones, with an effort that is over before a search for an order beside it is.
func (a *Assignment) ProveAnew() {
	switch {
	case a.OutCost() == 0:
		a.Prove(Thoroughly)
	case len(a.Choices) <= mostProved:
		a.proveAnew(anewEffort, mostAnew)
	}
}

// ProveOn goes on to the end where that can be reached, which may take some ten seconds, and a little where there are
// too many things for that.
func (a *Assignment) ProveOn() {
	switch {
	case a.OutCost() == 0:
	case len(a.Choices) > mostProved:
		a.proveAnew(manyEffort, mostAnew)
	case a.Proof.Gap() < nearlyProved:
		a.proveAnew(nearlyEffort, mostNearly)
	}
}

// proveAnew proves from the best on, so many times at most, as long as that finds a better one.
func (a *Assignment) proveAnew(e Effort, most int) {
	for better := true; better && most > 0 && a.Proof.Gap() > 0 && !a.Ended(); most-- {
		before := a.Total()
		a.Prove(e)
		better = a.Total() < before-Gain
	}
}

// Fit finds zones for everything, not the cheapest: the program is asked only when the local search leaves something
// out.
func (a *Assignment) Fit(e Effort) {
	a.begin()
	if a.OutCost() > 0 {
		a.Prove(e)
	}
}

// mostRows is the size of program up to which it is solved: some three hundred things. Beyond, the local search has
// the last word, and only the simplest bound is proved.
const mostRows = 800

// simplestBound lets every thing lie where it costs least, whatever else lies there.
func (a *Assignment) simplestBound() (sum float64) {
	for _, c := range a.Choices {
		sum += min(c.Leave, slices.Min(c.Price))
	}
	return sum
}

// Prove solves the program from the present zones on, and takes over what is better.
func (a *Assignment) Prove(e Effort) {
	p := a.toProgram()
	if e > Quickly && a.OutCost() > 0 {
		p.annealing = a.toAnneal()
	}
	if len(p.Rows) > mostRows {
		a.Proof = Proof{Objective: a.Total(), Bound: min(a.Total(), a.simplestBound())}
		return
	}
	found := p.Solve(mip.Options{Start: p.values(), Work: int(e), Stop: a.Stop, Mend: p.mend})
	before, cost := a.ZonesNow(), a.Total()
	if found.Values != nil {
		p.take(found.Values)
	}
	if !(a.Total() < cost) { // also when rounding says that it does not go in
		a.PutAll(before)
	}
	a.Proof = Proof{Objective: a.Total(), Bound: min(max(0, found.Bound), a.Total())}
	if found.Status == mip.Optimal {
		a.Proof.Bound = a.Proof.Objective
	}
}

// values are the columns of the program at the present zones.
func (p *program) values() []float64 {
	a := p.assignment
	list := make([]float64, len(p.Columns))
	for i, c := range a.Choices {
		if c.Zone == Out {
			list[p.left[i]] = 1
			list[p.out]++
		} else {
			list[p.in[i][c.Zone]] = 1
		}
	}
	for z, column := range p.squeezed {
		if column >= 0 {
			list[column] = max(0, a.fills[z].need(0)+a.drawn(z, 0)-a.capacity(z))
		}
	}
	list[p.side] = math.Abs(a.moment)
	for _, m := range p.meetings {
		f := &a.fills[m.zone]
		first, second := m.pair.count(f)
		list[m.is[0]], list[m.is[1]] = float64(min(1, first)), float64(min(1, second))
		list[m.both] = max(0, list[m.is[0]]+list[m.is[1]]-1)
	}
	return list
}

// take puts every thing into the zone that the values say.
func (p *program) take(values []float64) {
	zones := make([]int, len(p.in))
	for i := range zones {
		zones[i] = Out
		for z, column := range p.in[i] {
			if column >= 0 && values[column] > 0.5 {
				zones[i] = z
			}
		}
	}
	p.assignment.PutAll(zones)
}

// mend makes a whole assignment out of a relaxation: each thing goes where most of it lies, the surest first, as far
// as there is room; then it is annealed where things are left out and there is time, and improved by moves and
// exchanges. The assignment itself stays as it is.
func (p *program) mend(relaxed []float64) []float64 {
	a := p.assignment
	before := a.ZonesNow()
	defer a.PutAll(before)
	type part struct {
		choice, zone int
		share        float64
	}
	var parts []part
	for i, c := range a.Choices {
		a.Put(c, Out)
		best := part{i, Out, relaxed[p.left[i]]}
		for z, column := range p.in[i] {
			if column >= 0 && relaxed[column] > best.share {
				best.zone, best.share = z, relaxed[column]
			}
		}
		parts = append(parts, best)
	}
	slices.SortStableFunc(parts, func(x, y part) int { return cmp.Compare(y.share, x.share) })
	for _, part := range parts {
		if c := a.Choices[part.choice]; part.zone != Out {
			if a.Put(c, part.zone); math.IsInf(a.Around(part.zone, Out), 1) {
				a.Put(c, Out)
			}
		}
	}
	if p.annealing != nil {
		p.annealing.run()
	}
	a.improve()
	return p.values()
}

// pocket reports whether things in a zone lie so close that it matters what lies beside what.
func (a *Assignment) pocket(zone int) bool { return !a.Zones[zone].Solid() }

// WriteLP writes the program in CPLEX LP format.
func (a *Assignment) WriteLP(w io.Writer) error { return a.toProgram().WriteLP(w) }
