package dry

import (
	"cmp"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// FullShare is how full a bag may be and still be rolled shut (common practice).
const FullShare = 0.85

// Barrier is a bag in use: where it lies and what is in it.
type Barrier struct {
	Bag    *Bag
	Zone   string
	Things []kit.Piece
	Litres float64
	inside string // id of the vessel it lies in
}

// Share is how full the bag is, 0 to 1.
func (b *Barrier) Share() float64 { return b.Litres / b.Bag.VolumeL }

// Weak is a thing that does not have the layers its school asks for.
type Weak struct {
	Lying
	Short int
	Why   fact.Fact
	Mend  fact.Fact
}

// Barriers is which bag each thing goes into.
type Barriers struct {
	Used    []Barrier
	Torn    []Barrier // chosen, but they do not go into the pack as one
	Wet     []Barrier // bags kept for wet things, with those that threaten something
	Weak    []Weak
	Program Program
	Proven  bool // the search ended: no choice protects more, or as much with fewer or lighter bags
}

// ByPiece says which bag each thing in a bag is in.
func (b *Barriers) ByPiece() map[kit.Piece]*Bag {
	in := map[kit.Piece]*Bag{}
	for _, u := range slices.Concat(b.Used, b.Wet) {
		for _, piece := range u.Things {
			in[piece] = u.Bag
		}
	}
	return in
}

// Program is the choice of bags as a 0-1 program: least penalty for what stays unprotected, then fewest bags, then
// least weight. Each thing that lacks a layer goes into one bag or none; a bag lies in one zone, is filled to at most
// FullShare, and never holds a wet thing with a dry one (those are not among the things).
type Program struct {
	Things []Lying
	Bags   []*Bag // with litres, in the order of Used
	ByKind bool   // things of different sections do not share a bag
}

// apart says of which things a bag may not hold both: it lies in one place, in a zone or in a vessel there, and holds
// one kind where each has its colour. What is for the toilet shares a bag with nothing else.
func (pr *Program) apart(a, b Lying) bool {
	return a.Zone.ID != b.Zone.ID || a.Inside != b.Inside || pr.ByKind && a.Piece.Group != b.Piece.Group ||
		kit.ForToilet(a.Piece.Item) != kit.ForToilet(b.Piece.Item)
}

// The prices of the program: what stays unprotected costs far more than any number of bags; what the night hangs on
// three times as much.
const (
	unprotected = 100.0
	bagPrice    = 1.0
	gramPrice   = 1e-4
	litrePrice  = 1e-3 // of two that may stay unprotected the smaller
	nightWeighs = 3
)

func (l Lying) penalty() float64 {
	if Sleeping(l.Piece.Item) {
		return nightWeighs*unprotected + litrePrice*l.Litres
	}
	return unprotected + litrePrice*l.Litres
}

func price(b *Bag) float64 { return bagPrice + gramPrice*b.MassG }

// Plan chooses the fewest of the owned dry bags that give every thing the layers it lacks, exactly. One bag adds one
// layer; a thing that lacks two stays weak. In the school of bags, things of different sections do not share a bag,
// so that each kind has its colour.
func (p *Pack) Plan() Barriers {
	program := Program{ByKind: p.School == "bags"}
	for _, l := range p.Things {
		if p.Short(l) == 1 {
			program.Things = append(program.Things, l)
		}
	}
	for i := range p.Bags {
		if b := &p.Bags[i]; b.Kind == "dry-bag" && b.VolumeL > 0 && b.For == "" {
			program.Bags = append(program.Bags, b)
		}
	}
	program.sort()
	used, proven := program.solve(p.Stop)
	plan := Barriers{Used: used, Program: program, Proven: proven}
	plan.Used = plan.whole(used, p.Torn)
	plan.Weak = p.weak(&plan)
	plan.Wet = plan.whole(p.wetBags(&plan), p.Torn)
	return plan
}

// With is the plan with bags that were chosen before: where they lie now, and what is weak all the same.
func (p *Pack) With(chosen Barriers) Barriers {
	zones := map[kit.Piece]string{}
	for _, l := range p.Things {
		zones[l.Piece] = l.Zone.ID
	}
	placed := func(bags []Barrier) []Barrier {
		bags = slices.Clone(bags)
		for i := range bags {
			if zone, known := zones[bags[i].Things[0]]; known {
				bags[i].Zone = zone
			}
		}
		return bags
	}
	chosen.Used, chosen.Wet, chosen.Torn = placed(chosen.Used), placed(chosen.Wet), placed(chosen.Torn)
	chosen.Weak = p.weak(&chosen)
	return chosen
}

// sort brings things and bags into the order of the search, which does not depend on that of the kit: what the night
// hangs on and bulky things first, small bags first.
func (pr *Program) sort() {
	slices.SortStableFunc(pr.Things, func(a, b Lying) int {
		return cmp.Or(cmp.Compare(b.penalty(), a.penalty()), cmp.Compare(b.Litres, a.Litres), comparePieces(a.Piece, b.Piece))
	})
	slices.SortStableFunc(pr.Bags, func(a, b *Bag) int {
		return cmp.Or(cmp.Compare(a.VolumeL, b.VolumeL), cmp.Compare(a.MassG, b.MassG), cmp.Compare(a.ID, b.ID))
	})
}

// whole parts bags that go in as one from those that do not.
func (b *Barriers) whole(bags []Barrier, torn []string) []Barrier {
	return slices.DeleteFunc(bags, func(bag Barrier) bool {
		is := slices.Contains(torn, bag.Bag.ID)
		if is {
			b.Torn = append(b.Torn, bag)
		}
		return is
	})
}

func comparePieces(a, b kit.Piece) int {
	return cmp.Or(cmp.Compare(a.ID, b.ID), cmp.Compare(a.Number, b.Number))
}

// wetBags puts what threatens most into the bags that are kept for wet things, the largest first, each in the
// smallest bag that takes it.
func (p *Pack) wetBags(plan *Barriers) []Barrier {
	sources := p.Sources(plan)
	slices.SortStableFunc(sources, func(a, b Source) int {
		return cmp.Or(cmp.Compare(len(b.Threatens), len(a.Threatens)), cmp.Compare(b.Litres, a.Litres),
			comparePieces(a.Piece, b.Piece))
	})
	var wet []Barrier
	for i := range p.Bags {
		if b := &p.Bags[i]; b.For == "wet" && b.VolumeL > 0 {
			wet = append(wet, Barrier{Bag: b})
		}
	}
	slices.SortStableFunc(wet, func(a, b Barrier) int { return cmp.Compare(a.Bag.VolumeL, b.Bag.VolumeL) })
	for _, s := range sources {
		if len(s.Threatens) == 0 {
			continue
		}
		for i := range wet {
			b := &wet[i]
			if b.Litres+s.Litres <= FullShare*b.Bag.VolumeL &&
				(len(b.Things) == 0 || b.Zone == s.Zone.ID && b.inside == s.Inside) {
				b.inside, b.Zone, b.Litres, b.Things = s.Inside, s.Zone.ID, b.Litres+s.Litres, append(b.Things, s.Piece)
				break
			}
		}
	}
	return slices.DeleteFunc(wet, func(b Barrier) bool { return len(b.Things) == 0 })
}

// Cost is the objective of a choice, for comparison with an outside solver.
func (b *Barriers) Cost() float64 {
	cost := 0.0
	in := map[kit.Piece]bool{}
	for _, u := range slices.Concat(b.Used, b.Torn) {
		cost += price(u.Bag)
		for _, t := range u.Things {
			in[t] = true
		}
	}
	for _, l := range b.Program.Things {
		if !in[l.Piece] {
			cost += l.penalty()
		}
	}
	return cost
}

// weak lists what lacks layers after the bags, what the night hangs on first.
func (p *Pack) weak(plan *Barriers) []Weak {
	in, torn := map[kit.Piece]int{}, map[kit.Piece]*Bag{}
	for _, u := range plan.Used {
		for _, t := range u.Things {
			in[t]++
		}
	}
	for _, u := range plan.Torn {
		for _, t := range u.Things {
			torn[t] = u.Bag
		}
	}
	var list []Weak
	for _, l := range p.Things {
		short := p.Short(l) - in[l.Piece]
		if short <= 0 {
			continue
		}
		w := Weak{Lying: l, Short: short, Why: p.whyWeak(l), Mend: p.mend(l)}
		if bag := torn[l.Piece]; bag != nil {
			w.Why = fact.Of("dry.weak", Why(l.Piece.Item), fact.Of("dry.torn", bag.Name))
			w.Mend = fact.Of("dry.two-bags")
		}
		list = append(list, w)
	}
	slices.SortStableFunc(list, func(a, b Weak) int {
		return cmp.Or(cmp.Compare(b.penalty(), a.penalty()), cmp.Compare(b.Short, a.Short), cmp.Compare(b.Litres, a.Litres),
			comparePieces(a.Piece, b.Piece))
	})
	return list
}

func (p *Pack) whyWeak(l Lying) fact.Fact {
	around := fact.Of("dry.nothing-round")
	for _, layer := range p.Layers(l) {
		if layer.Thin {
			around = fact.Of("dry.fabric-round")
		} else {
			around = fact.Of("dry.one-round")
		}
	}
	if liner := p.LinerOf(l.Zone); liner != nil && !p.LinerShuts(l.Zone) {
		around = fact.Of("dry.liner-open", fact.Litres(liner.VolumeL), fact.Litres(p.LinerNeedL(l.Zone)))
	}
	return fact.Of("dry.weak", Why(l.Piece.Item), around)
}

// mend says what would do: a bag that is owned and not in use, one to buy, or the liner.
func (p *Pack) mend(l Lying) fact.Fact {
	switch {
	case l.Zone.Solid() && (p.School == "liner" || p.School == "double") && p.LinerOf(l.Zone) == nil:
		return fact.Of("dry.get-liner", fact.WholeLitres(p.LinerNeedL(l.Zone)))
	case p.LinerOf(l.Zone) != nil && !p.LinerShuts(l.Zone):
		return fact.Of("dry.larger-liner", fact.WholeLitres(p.LinerNeedL(l.Zone)))
	}
	most := 0.0
	for i := range p.Bags {
		if b := &p.Bags[i]; b.Kind == "dry-bag" {
			most = max(most, b.VolumeL)
		}
	}
	buy := fact.Of("dry.bag", fact.WholeLitres(BuyL(l.Litres)))
	if !l.Zone.Solid() && p.LinerShuts(p.Pack.Of(rucksack.Body)) {
		return fact.Of("dry.into-liner", buy)
	}
	if most*FullShare < l.Litres {
		return fact.Of("dry.none-large", buy)
	}
	return fact.Of("dry.all-used", buy)
}
