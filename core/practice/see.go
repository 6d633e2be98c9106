package practice

import (
	"math"
	"slices"

	"tornister/core/balance"
	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/verdict"
)

// seen is what is worse for each of the moves: how a packing is judged without them, and with. A move that shows
// nothing has no What.
func seen(good, bad *verdict.Judged, moves []Move) (faults []Fault) {
	for _, m := range moves {
		f := Fault{Move: m}
		if step := slices.IndexFunc(bad.Steps, func(s verdict.Step) bool { return m.of(s.Piece) }); step >= 0 {
			f.Moved = bad.Steps[step].Piece
			f.see(good, bad, moves)
		}
		faults = append(faults, f)
	}
	return faults
}

// see finds what is worse for the fault's move, one of several.
func (f *Fault) see(good, bad *verdict.Judged, moves []Move) {
	var worse float64
	switch f.Kind {
	case Deep:
		worse = f.deep(good, bad)
	case Over:
		worse = f.over(good, bad, moves)
	case Beside:
		worse = f.beside(good, bad)
	case Wet:
		worse = f.wet(good, bad)
	case Heavy:
		worse = f.heavy(good, bad)
	case Sides:
		worse = f.sides(good, bad)
	case Hollow:
		worse = f.hollow(good, bad)
	}
	if f.size = worse / worth[f.Kind]; f.size < 1 {
		f.What = fact.Fact{}
	}
}

// at is where a piece stands in a plan, -1 for what is not in.
func at(j *verdict.Judged, p kit.Piece) int {
	return slices.IndexFunc(j.Steps, func(s verdict.Step) bool { return s.Piece.ID == p.ID && s.Piece.Number == p.Number })
}

// stepOf is the step of a piece in a plan, nil for what is not in.
func stepOf(j *verdict.Judged, p kit.Piece) *verdict.Step {
	if i := at(j, p); i >= 0 {
		return &j.Steps[i]
	}
	return nil
}

// deep is by how many seconds it comes to hand later.
func (f *Fault) deep(good, bad *verdict.Judged) float64 {
	was, is := stepOf(good, f.Moved), stepOf(bad, f.Moved)
	if was == nil || is == nil {
		return 0
	}
	where := fact.Of("practice.in", fact.Small(is.Zone.Name))
	if is.LiftedOut > 0 {
		where = fact.Of("practice.under", fact.Small(is.Zone.Name), fact.Things(is.LiftedOut))
	}
	f.What = fact.Of("practice.deep", f.name(), where, is.ReachS, was.ReachS)
	return is.ReachS - was.ReachS
}

// over is by how many seconds something that is needed before comes to hand later, with this over it. The one that is
// worst off is named. What was moved itself is another fault.
func (f *Fault) over(good, bad *verdict.Judged, moves []Move) (worst float64) {
	for i := range bad.Steps {
		is := &bad.Steps[i]
		if !early(is.Piece) || is.Inside != "" || !slices.ContainsFunc(is.Over, f.of) ||
			slices.ContainsFunc(moves, func(m Move) bool { return m.of(is.Piece) }) {
			continue
		}
		was := stepOf(good, is.Piece)
		if was == nil || slices.ContainsFunc(was.Over, f.of) {
			continue
		}
		if more := is.ReachS - was.ReachS; more > worst {
			worst = more
			f.What = fact.Of("practice.over", f.name(), fact.Small(is.Piece.Name), is.ReachS, was.ReachS)
		}
	}
	return worst
}

// beside counts what it lies against and must not. Who names that has found the fault too.
func (f *Fault) beside(good, bad *verdict.Judged) (found float64) {
	was := good.Check("safe").Reasons
	for _, r := range bad.Check("safe").Reasons {
		same := func(o verdict.Finding) bool { return o.Code == r.Code && slices.Equal(o.Items, r.Items) }
		if r.Code != "safe.fuel-by-food" && r.Code != "safe.sharp" || !slices.Contains(r.Items, f.Item) ||
			slices.ContainsFunc(was, same) {
			continue
		}
		f.What = r.Fact
		for _, id := range r.Items {
			if id != f.Item && !slices.Contains(f.With, id) {
				f.With = append(f.With, id)
			}
		}
		found++
	}
	return found
}

// wet is one where it would get wet, and did not.
func (f *Fault) wet(good, bad *verdict.Judged) float64 {
	weak := func(j *verdict.Judged) bool {
		return slices.ContainsFunc(j.Dry, func(d verdict.Dry) bool {
			return d.Item == f.Item && d.Piece == verdict.NumberOf(f.Moved) && !d.Dry
		})
	}
	is := stepOf(bad, f.Moved)
	if is == nil || weak(good) || !weak(bad) {
		return 0
	}
	f.What = fact.Of("practice.wet", f.name(), fact.Small(is.Zone.Name))
	return 1
}

// heavy is by how much this thing alone moves the middle of the whole pack away from the back, or out of the school's
// band of height.
func (f *Fault) heavy(good, bad *verdict.Judged) float64 {
	moved := f.shift(good, bad)
	b := bad.Balance
	mass := fact.Grams(f.Moved.MassG)
	band := fact.Of("practice.band", 100*b.Height, 100*b.Band[0], 100*b.Band[1])
	up := 0.0
	switch {
	case b.Height > b.Band[1]:
		up = moved[2]
	case b.Height < b.Band[0]:
		up = -moved[2]
	}
	switch {
	case moved[1] >= up:
		f.What = fact.Of("practice.back", f.name(), mass, fact.Cm(math.Round(10*moved[1])/10))
		return moved[1]
	case b.Height > b.Band[1]:
		f.What = fact.Of("practice.high", f.name(), mass, fact.Cm(math.Round(10*up)/10), band)
	default:
		f.What = fact.Of("practice.low", f.name(), mass, fact.Cm(math.Round(10*up)/10), band)
	}
	return up
}

// shift is by how much this thing's move alone moves the middle of the whole pack, in the pack frame, in centimetres.
func (f *Fault) shift(good, bad *verdict.Judged) (by [3]float64) {
	was, is := middleOf(good, f.Moved), middleOf(bad, f.Moved)
	if was == nil || is == nil {
		return by
	}
	for axis := range by {
		by[axis] = f.Moved.MassG / bad.Balance.MassG * (is[axis] - was[axis])
	}
	return by
}

func middleOf(j *verdict.Judged, p kit.Piece) *[3]float64 {
	i := at(j, p)
	if i < 0 {
		return nil
	}
	return &j.Plan.Outer(i).MiddleCm
}

// sides is how many grams more one side has for it, where that side is the heavier now.
func (f *Fault) sides(good, bad *verdict.Judged) float64 {
	across := f.shift(good, bad)[0]
	pack := &bad.Task.Pack
	g := balance.SideG(balance.Mass{G: bad.Balance.MassG, At: [3]float64{across}}, verdict.SidesApart(pack))
	more := fact.Grams(math.Abs(bad.Balance.SideG))
	if g*bad.Balance.SideG <= 0 || more < verdict.SideLooksG {
		return 0
	}
	f.What = fact.Of("practice.right", f.name(), fact.Grams(f.Moved.MassG), more)
	if g < 0 {
		f.What = fact.Of("practice.left", f.name(), fact.Grams(f.Moved.MassG), more)
	}
	return math.Abs(g)
}

// hollow is by how many litres the hollow spots grow, in all and at this thing: the lesser of the two.
func (f *Fault) hollow(good, bad *verdict.Judged) float64 {
	step := stepOf(bad, f.Moved)
	if step == nil || step.Box == nil {
		return 0
	}
	was, is, here := 0.0, 0.0, 0.0
	for _, h := range good.Plan.Hollows {
		was += h.Litres
	}
	for _, h := range bad.Plan.Hollows {
		if is += h.Litres; by(step.Box, h.AtCm) {
			here += h.Litres
		}
	}
	zone := fact.Small(step.Zone.Name)
	f.What = fact.Of("practice.hollow", f.name(), zone, fact.Litres(here), fact.Litres(is), fact.Litres(was))
	return min(is-was, here)
}

// nearCm is how far from a thing a hollow spot still is one beside or under it.
const nearCm = 6

func by(box *load.Box, spot [3]float64) bool {
	for axis := range spot {
		if spot[axis] < box.Min[axis]-nearCm || spot[axis] > box.Max[axis]+nearCm {
			return false
		}
	}
	return true
}

// name is that of the piece that was moved, with its number where there are several.
func (f *Fault) name() fact.Numbered {
	return fact.Numbered{Name: f.Moved.Name, Number: verdict.NumberOf(f.Moved)}
}
