package load

import (
	"hash/fnv"
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/stuff"
)

// The order search is an iterated local search (Lourenço, Martin and Stützle, 2003) with late acceptance (Burke and
// Bykov, 2017): a seeker tries changes to its present order, proposed mostly by what is dearest in the bill, and
// takes one that costs less than what it had some steps ago, until nothing better comes for a while. The first
// seekers begin from the order that is planned, each some changes away from it; how far their ends lie apart says
// how much another search might still find. Later ones begin from the best, with a part of it dealt anew: ruin and
// recreate (Schrimpf et al., 2000).
const (
	starts   = 4  // seekers that begin from the planned order
	abreast  = 2  // seekers at a time
	memory   = 5  // steps that late acceptance looks back
	wander   = 8  // changes by which each start is farther away than the one before
	ruined   = 3  // the part of the things that is dealt anew is one in so many, at most
	enough   = 10 // seekers in a row without anything better, after which the search ends: so many where starts agree,
	doubt    = 40 // and so many more where the dearest of their ends costs twice the best
	patience = 10 // trials a thing without anything better, after which a seeker ends
)

// seeker is one search, from its own start.
type seeker struct {
	packing
	random      *source
	home        []int
	now         []int
	nowThings   []stuff.Thing
	nowCost     float64
	best        []int
	bestThings  []stuff.Thing
	bestCost    float64
	bestSqueeze float64
	past        [memory]float64
	shares      []share // of the present order, what each thing has of the bill
	tried       []share // of the order under trial
	trials      int
	known       map[uint64]bool // orders it has tried
}

// improve looks for an order that costs less, at the squeeze found or a smaller one, as long as the budget lasts.
func (p *packing) improve(random *source) {
	if len(p.order) < 2 {
		return
	}
	home := p.turns()
	var ends []float64
	var best *seeker
	stale := 0 // seekers in a row that found nothing better
	for p.budget.left > 0 && stale < enough+int(doubt*p.spread) && !p.budget.over() {
		var pair [abreast]*seeker
		var wait sideBySide
		for k := range pair {
			if s := p.seeker(home, random); len(ends) < starts {
				s.wander((len(ends) + k) * wander)
				pair[k] = s
			} else {
				s.ruin(1 + s.random.below(max(1, len(s.order)/ruined)))
				pair[k] = s
			}
		}
		for _, s := range pair {
			wait.Go(func() { s.run(p.budget.left / abreast / p.budget.cost(len(p.things))) })
		}
		wait.Wait()
		for _, s := range pair {
			p.budget.left -= s.trials * p.budget.cost(len(p.things))
			p.budget.trials += s.trials
			stale++
			if ends = append(ends, s.bestCost); best == nil || s.bestCost < best.bestCost-assign.Gain {
				best, stale = s, 0
			}
		}
		if len(ends) == starts {
			p.starts = starts
			p.spread = (slices.Max(ends) - best.bestCost) / max(1, best.bestCost)
		}
		if len(ends) >= starts {
			p.settle(best)
		}
	}
	if best != nil {
		p.settle(best)
	}
	p.run(p.squeeze)
	p.mind(home)
}

// settle takes over the end of a search.
func (p *packing) settle(s *seeker) {
	copy(p.order, s.best)
	copy(p.things, s.bestThings)
	p.squeeze = s.bestSqueeze
}

// seeker begins from the present order.
func (p *packing) seeker(home []int, random *source) *seeker {
	s := &seeker{packing: *p, random: newSource(int64(random.Uint64() >> 1)), home: home, known: map[uint64]bool{},
		shares: make([]share, len(p.things)), tried: make([]share, len(p.things))}
	s.trial = p.space.NewTrial(len(p.things))
	s.things = slices.Clone(p.things)
	s.order = slices.Clone(p.order)
	s.now, s.nowThings = slices.Clone(p.order), slices.Clone(p.things)
	s.best, s.bestThings, s.bestCost = slices.Clone(p.order), slices.Clone(p.things), math.Inf(1)
	s.trial.Keep(s.things, s.order, s.squeeze)
	s.take(s.bills(home, s.shares).sum())
	return s
}

// wander makes changes without regard to what they cost, as long as all goes in.
func (s *seeker) wander(changes int) { s.stray(changes, s.change) }

// ruin deals things anew, without regard to what that costs: as many as said, one after another.
func (s *seeker) ruin(things int) {
	s.stray(things, func() {
		s.move(s.now[s.random.below(len(s.now))], s.random.below(len(s.now)))
		s.gather()
	})
}

func (s *seeker) stray(times int, change func()) {
	for range times {
		s.order = append(s.order[:0], s.now...)
		copy(s.things, s.nowThings)
		change()
		if s.trials++; s.goesIn(s.squeeze) {
			s.now = append(s.now[:0], s.order...)
			copy(s.nowThings, s.things)
		}
	}
	s.order = append(s.order[:0], s.now...)
	copy(s.things, s.nowThings)
	s.trial.Keep(s.things, s.order, s.squeeze)
	s.take(s.bills(s.home, s.shares).sum())
}

// take makes the order under trial the present one.
func (s *seeker) take(cost float64) {
	s.nowCost = cost
	s.now = append(s.now[:0], s.order...)
	copy(s.nowThings, s.things)
	if cost < s.bestCost-assign.Gain {
		s.bestCost, s.bestSqueeze = cost, s.squeeze
		s.best = append(s.best[:0], s.order...)
		copy(s.bestThings, s.things)
	}
}

// run makes a number of trials, fewer when nothing better comes.
func (s *seeker) run(trials int) {
	for k := range s.past {
		s.past[k] = s.nowCost
	}
	since, least := 0, s.nowCost
	for step := 0; s.trials < trials && since < patience*len(s.order)+memory && !s.budget.over(); step++ {
		s.order = append(s.order[:0], s.now...)
		copy(s.things, s.nowThings)
		s.change()
		since++
		if !s.news() {
			continue
		}
		s.trials++
		cost := math.Inf(1)
		if s.goesIn(s.squeeze) {
			cost = s.bills(s.home, s.tried).sum()
		}
		slot := &s.past[step%memory]
		if taken := cost <= s.nowCost || cost < *slot; taken && !math.IsInf(cost, 1) {
			if cost < s.bestCost-assign.Gain {
				cost = s.loosen(cost)
			}
			s.trial.Keep(s.things, s.order, s.squeeze)
			s.shares, s.tried = s.tried, s.shares
			s.take(cost)
		}
		if *slot = s.nowCost; s.nowCost < least-assign.Gain {
			least, since = s.nowCost, 0
		}
	}
}

// news reports whether the order under trial has not been tried by this seeker yet.
func (s *seeker) news() bool {
	h := fnv.New64a()
	var word [4]byte
	for _, i := range s.order {
		w := s.things[i].Wish
		word[0], word[1], word[2], word[3] = byte(i), byte(i>>8), byte(4*w.Deep), byte(4*w.Across)
		_, _ = h.Write(word[:])
	}
	sum := h.Sum64() ^ math.Float64bits(s.squeeze)
	if s.known[sum] {
		return false
	}
	s.known[sum] = true
	return true
}

// looser is the step by which less squeeze is tried.
const looser = 1.0 / 32

// loosen tries an order with less squeeze, and gives what it costs then.
func (s *seeker) loosen(cost float64) float64 {
	for s.squeeze >= looser {
		s.trials++
		s.squeeze -= looser
		less := math.Inf(1)
		if s.goesIn(s.squeeze) {
			less = s.bills(s.home, nil).sum()
		}
		if less > cost {
			s.squeeze += looser
			break
		}
		cost = less
	}
	return cost
}

// change makes one change to the order: most often to a thing that has a large share in the bill.
func (s *seeker) change() {
	switch n := s.random.below(20); {
	case n < 2:
		s.relane(s.pick())
	case n < 5: // two things change places
		i, j := s.order[s.random.below(len(s.order))], s.pick()
		at := slices.Index(s.order, j)
		s.move(i, at)
		s.move(j, slices.Index(s.now, i))
	case n < 7: // a few near each other are dealt anew
		at := s.random.below(len(s.order))
		for range 3 {
			i := s.order[min(len(s.order)-1, at+s.random.below(5))]
			s.move(i, max(0, at+s.random.below(9)-2))
		}
	case n < 10: // to the turn that its time of need asks for
		i := s.pick()
		s.move(i, s.home[i])
	case n < 15: // the way that its share in the bill speaks for
		i := s.pick()
		by := 1 + s.random.below(1+s.random.below(len(s.order)))
		if s.shares[i].later < 0 {
			by = -by
		}
		s.move(i, slices.Index(s.order, i)+by)
	case n < 17:
		i := s.pick()
		s.move(i, slices.Index(s.order, i)+s.random.below(9)-4)
	default:
		s.move(s.order[s.random.below(len(s.order))], s.random.below(len(s.order)))
	}
	s.gather()
}

// pick draws a thing, two times in three by its share in the bill.
func (s *seeker) pick() int {
	sum := 0.0
	for _, i := range s.now {
		sum += s.shares[i].of
	}
	if s.random.below(3) == 0 || sum <= 0 {
		return s.now[s.random.below(len(s.now))]
	}
	at := s.random.float() * sum
	for _, i := range s.now {
		if at -= s.shares[i].of; at <= 0 {
			return i
		}
	}
	return s.now[len(s.now)-1]
}

// move brings a thing, with its bag, to another turn.
func (s *seeker) move(i, to int) {
	unit := s.takeUnit(i)
	s.order = slices.Insert(s.order, max(0, min(to, len(s.order))), unit...)
}

// relane gives a thing another lane, if the school or the packer has not chosen one.
func (s *seeker) relane(i int) {
	c := s.inside[i]
	if isHeavy(c.Piece, c.Mass) || c.Pin != nil && c.Pin.Lane != job.Full {
		return
	}
	w := stuff.Wish{Deep: float64(s.random.below(2)), Across: float64(s.random.below(3)) / 2, Firm: firm}
	for _, j := range s.unit(i) {
		s.things[j].Wish = w
	}
}
