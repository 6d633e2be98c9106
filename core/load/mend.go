package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/assign"
)

// What is there for trying once more what stays out, however much the search before has spent; a quick search has
// less. A try may take half of what is left: of stiff things it does, of others it takes some trials.
const (
	mendBudget      = fitBudget / 10
	quickMendBudget = quickBudget / 4
	mendTry         = 0.5
)

// mostInstead bounds how many ways are tried to bring one thing in for others, and how many things are taken out so
// that others come in.
const mostInstead = 8

// giveUp takes out of the assignment what the trial could not place. Then a hand goes on with what lies beside the
// pack: a room that one long thing has given up takes many small ones, what matters comes in for what matters less,
// and one bulky thing goes out for several. Who asks roughly asks whether everything goes in: it does not when
// something goes out for others.
func (s *search) giveUp(p *packing) *packing {
	a := s.assignment
	p.leaveOut(a, 1)
	clear(a.Loss)
	if len(a.LeftOut()) == 0 {
		return p
	}
	budget := mendBudget
	if s.options.Quick || s.options.Rough {
		budget = quickMendBudget
	}
	s.budget.left = max(s.budget.left, budget)
	p = s.bringInFor(s.bringIn(p, nil))
	for better := !s.options.Rough; better && s.canMend(); {
		before := a.OutCost()
		p = s.bringInFor(s.bringIn(s.oneForOthers(p), nil))
		better = a.OutCost() < before-assign.Gain
	}
	p.run(1)
	return p
}

func (s *search) canMend() bool { return s.budget.left > 0 && !s.budget.over() }

// bringIn tries what is left out once more, but for one thing: room lost may have been counted too high. What life may
// hang on goes first, and then what is small.
func (s *search) bringIn(p *packing, but *assign.Choice) *packing {
	a := s.assignment
	left := a.LeftOut()
	slices.SortStableFunc(left, func(x, y *assign.Choice) int {
		return cmp.Or(cmp.Compare(math.Floor(y.Leave/assign.LeaveOut), math.Floor(x.Leave/assign.LeaveOut)),
			cmp.Compare(x.Room(1), y.Room(1)))
	})
	for _, c := range left {
		if c == but {
			continue
		}
		for _, zone := range a.Cheapest(c) {
			if !s.canMend() {
				return p
			}
			a.Put(c, zone)
			if math.IsInf(a.Around(zone, assign.Out), 1) {
				a.Put(c, assign.Out)
				continue
			}
			if next := s.packedAnew(p); next != nil && len(next.trial.Out) == 0 {
				p = next
				break
			}
			a.Put(c, assign.Out)
		}
	}
	return p
}

// bringInFor brings in what is dear to leave out for things of body and bottom that together are cheaper to leave out.
// A search by zones does that too, but what it counts on as room may not be where a large thing needs it.
func (s *search) bringInFor(p *packing) *packing {
	a := s.assignment
	for _, c := range a.LeftOut() {
		for _, zone := range a.Cheapest(c) {
			if !a.Zones[zone].Solid() {
				continue
			}
			if !s.canMend() {
				return p
			}
			if other := s.insteadOf(p, c, zone); other != nil {
				p = other
				break
			}
		}
	}
	return p
}

// insteadOf puts a thing into a zone for others that go out, those first that give most litres for what they cost, and
// brings in again what then still goes in; nil when that does not go, or costs as much. The assignment stays as it was
// then.
func (s *search) insteadOf(p *packing, c *assign.Choice, zone int) (other *packing) {
	a := s.assignment
	cost := a.OutCost()
	better := a.Attempt(func() bool {
		if other = s.forOthers(p, c, zone); other == nil {
			return false
		}
		other = s.bringIn(other, nil)
		return a.OutCost() < cost-assign.Gain
	})
	if !better {
		return nil
	}
	return other
}

// forOthers puts a thing into a zone for the fewest others that make the room, those first that give most litres for
// what they cost; nil when that does not go.
func (s *search) forOthers(p *packing, c *assign.Choice, zone int) *packing {
	a := s.assignment
	var others []*assign.Choice
	for _, o := range p.inside {
		if o.Pin == nil && o.Leave < c.Leave {
			others = append(others, o)
		}
	}
	slices.SortStableFunc(others, func(x, y *assign.Choice) int {
		return cmp.Compare(x.Leave/max(x.Room(1), 0.1), y.Leave/max(y.Room(1), 0.1))
	})
	tried, freed, lost := 0, p.litres(p.space.Room())-p.taken(), 0.0
	a.Put(c, zone)
	for _, o := range others {
		if lost+o.Leave >= c.Leave || tried == mostInstead {
			break
		}
		a.Put(o, assign.Out)
		freed, lost = freed+o.Room(1), lost+o.Leave
		if freed < c.Room(1) || math.IsInf(a.Around(zone, assign.Out), 1) {
			continue
		}
		tried++
		next := s.packedAnew(p)
		if next == nil {
			break
		}
		if len(next.trial.Out) == 0 {
			return next
		}
	}
	return nil
}

// oneForOthers takes the bulkiest things out, one after the other, and keeps those out for which so much comes in that
// less is lost.
func (s *search) oneForOthers(p *packing) *packing {
	a := s.assignment
	var bulky []*assign.Choice
	for _, c := range p.inside {
		if c.Pin == nil && c.Leave < a.OutCost() {
			bulky = append(bulky, c)
		}
	}
	slices.SortStableFunc(bulky, func(x, y *assign.Choice) int { return cmp.Compare(y.Room(1), x.Room(1)) })
	for _, c := range bulky[:min(mostInstead, len(bulky))] {
		if !s.canMend() || c.Leave >= a.OutCost() {
			break
		}
		cost, other := a.OutCost(), p
		if a.Attempt(func() bool {
			a.Put(c, assign.Out)
			other = s.bringIn(p, c)
			return a.OutCost() < cost-assign.Gain
		}) {
			p = other
		}
	}
	return p
}

// packedAnew packs the assignment as it is now in the order of another packing, or in one near it. It is nil when there
// is no budget left for that.
func (s *search) packedAnew(before *packing) *packing {
	most := int(math.Ceil(mendTry * float64(s.budget.left)))
	try := s.budget.part(most)
	defer func() {
		s.budget.left -= most - try.left
		s.budget.trials += try.trials
	}()
	next := newPacking(s.assignment, s.solid, before.open, try)
	next.orderLike(before)
	if !try.spend(len(next.things)) {
		return nil
	}
	if !next.run(1) {
		next.fitOtherwise(s.random)
	}
	next.budget = s.budget
	return next
}
