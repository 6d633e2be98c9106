package verdict

import (
	"maps"
	"math"
	"slices"
	"strings"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// safety collects what the Safe check finds. Each rule is a method; it says what it found, from which source, and the
// mend.
type safety struct {
	Check
	task *job.Task
	plan *load.Plan
	bags *bagging
}

// safeCheck goes through the rules of safety. What it does not know (a bag without a comfort temperature, a trip
// without dates or legs) it does not judge.
func safeCheck(task *job.Task, plan *load.Plan, bags *bagging) Check {
	s := &safety{Check{Check: "safe", State: Settled, Figure: fact.Of("safe.none")}, task, plan, bags}
	for _, b := range plan.Broken {
		if b.Rule == string(assign.RulePin) || b.Rule == assign.RuleNest {
			continue // no matter of safety: the check of fit says it
		}
		s.raise(Stop, b.Why, b.Items...)
	}
	s.second()
	s.dates()
	s.warmth()
	s.beside()
	s.above()
	s.upright()
	s.animals()
	s.worn()
	s.needs()
	s.held()
	s.water()
	if n := len(s.Reasons); n > 0 {
		s.Figure = fact.Of("safe.findings", n)
		if n == 1 {
			s.Figure = fact.Of("safe.finding")
		}
		return s.Check
	}
	s.Reasons = []Finding{{Fact: fact.Of("safe.nothing")}}
	return s.Check
}

// spared are the functions for which there must be a second way, since life hangs on them (common practice).
var spared = map[string]fact.Fact{
	"light": fact.Of("safe.second-light"), "water-treatment": fact.Of("safe.second-treatment"),
	"navigation": fact.Of("safe.second-way"), "fire": fact.Of("safe.second-fire"),
}

// second looks for what there is only one of, and for both of two in the same place: what is lost with the lid is
// lost twice.
func (s *safety) second() {
	if s.task.Trip.Nights == 0 {
		return
	}
	for _, function := range slices.Sorted(maps.Keys(spared)) {
		n := 0
		places := map[string]bool{}
		for i := range s.task.Items {
			if it := &s.task.Items[i]; it.Serves(function) && it.Carry != kit.Left {
				n += it.Count
				if it.Carry != kit.Pack {
					places["walker"] = true
				}
			}
		}
		for i := range s.task.Others {
			if it := &s.task.Others[i]; function != "light" && it.Serves(function) &&
				it.Carry != kit.Left { // each needs an own light
				n += it.Count
				places["another walker"] = true
			}
		}
		var where string
		for i := range s.plan.Placed {
			if p := &s.plan.Placed[i]; p.Piece.Serves(function) {
				where = p.Zone.Name
				places[p.Zone.ID] = true
			}
		}
		work := strings.ReplaceAll(function, "-", " ")
		switch {
		case n == 1:
			s.raise(Look, fact.Of("safe.only-one", work, spared[function]))
		case n > 1 && len(places) == 1 && where != "":
			s.raise(Look, fact.Of("safe.one-place", work, fact.Small(where)))
		}
	}
}

// dates compares what has a date with the end of the trip.
func (s *safety) dates() {
	_, end, ok := s.task.Trip.Times()
	if !ok {
		return
	}
	day := end.Format("2006-01-02")
	for i := range s.task.Items {
		it := &s.task.Items[i]
		if it.Carry == kit.Left || !it.OutOfDate(day) {
			continue
		}
		state := Look
		if it.Serves("first-aid") || it.Serves("medicine") || it.Has(kit.Rescue) {
			state = Stop
		}
		s.raise(state, fact.Of("safe.out-of-date", it.Name, it.Expires, day), it.ID)
	}
}

// linerWarmsC is what a thin bag liner is worth (common practice).
const linerWarmsC = 4.0

// warmth compares the sleeping bag's figures (EN ISO 23537-1) and the mats' (ASTM F3340, they add up) with the night.
func (s *safety) warmth() {
	if s.task.Trip.Nights == 0 {
		return
	}
	var bag *kit.Item
	liner, mats := 0.0, 0.0
	var thin []string
	for i := range s.task.Items {
		it := &s.task.Items[i]
		if it.Carry == kit.Left {
			continue
		}
		if it.Kind == "bag-liner" {
			liner = linerWarmsC
		}
		if it.RValue > 0 {
			mats += it.RValue * float64(it.Count)
			thin = append(thin, it.ID)
		}
		if it.ComfortC != nil && (bag == nil || *it.ComfortC < *bag.ComfortC) {
			bag = it
		}
	}
	low := s.task.Trip.NightLowC
	wanted := s.task.Trip.Wanted()
	if bag != nil {
		comfort := *bag.ComfortC - liner
		limit := comfort - 6 // between the two lie some six degrees (from memory)
		if bag.LimitC != nil {
			limit = *bag.LimitC - liner
		}
		var with fact.Fact
		if liner > 0 {
			with = fact.Of("safe.with-liner", fact.Degrees(liner))
		}
		switch {
		case low < limit:
			s.raise(Stop, fact.Of("safe.below-limit", fact.Celsius(low), fact.Small(bag.Name), fact.Celsius(limit), with),
				bag.ID)
		case low < comfort:
			s.raise(Look, fact.Of("safe.below-comfort", fact.Celsius(low), fact.Small(bag.Name), fact.Celsius(comfort), with),
				bag.ID)
		}
	}
	if mats > 0 && mats < wanted.MatR-0.05 {
		s.raise(Look, fact.Of("safe.thin-mats", mats, fact.Celsius(low), wanted.MatR), thin...)
	}
}

// beside looks at what touches: food and fuel, sharp things and what they would hole.
func (s *safety) beside() {
	for i := range s.plan.Placed {
		p := &s.plan.Placed[i]
		if p.Inside != "" {
			continue
		}
		for _, o := range p.Beside {
			switch {
			case p.Piece.Has(kit.Fuel) && o.Has(kit.Food):
				s.raise(Look, fact.Of("safe.fuel-by-food", p.Piece.Name, fact.Small(o.Name)), p.Piece.ID, o.ID)
			case p.Piece.Has(kit.Sharp) && load.Holed(o):
				s.raise(Look, fact.Of("safe.sharp", p.Piece.Name, fact.Small(o.Name)), p.Piece.ID, o.ID)
			}
		}
	}
}

// above looks for water over what must stay dry. A liner that is rolled shut keeps it from what is inside.
func (s *safety) above() {
	lined := func(piece kit.Piece) bool { return s.bags.pack.Lined(s.bags.lying[piece]) }
	for i := range s.plan.Placed {
		p := &s.plan.Placed[i]
		if dry.Need(p.Piece.Item) < 2 || dry.Cased(p.Piece.Item) || s.bags.in[p.Piece] != nil {
			continue
		}
		for _, o := range p.Over {
			if o.Water.Leaks && (lined(o) || !lined(p.Piece)) {
				s.raise(Look, fact.Of("safe.leaks-over", o.Name, fact.Small(p.Piece.Name)), o.ID, p.Piece.ID)
			}
		}
	}
}

// upright looks how bottles of liquid fuel stand.
func (s *safety) upright() {
	for i := range s.plan.Placed {
		p := &s.plan.Placed[i]
		if !p.Piece.Has(kit.Fuel) || !p.Piece.Water.Leaks || p.Box == nil || !p.Piece.Shape.Round() {
			continue
		}
		if p.Box.Max[2]-p.Box.Min[2] < math.Floor(p.Piece.Shape.LengthCm) {
			s.raise(Look, fact.Of("safe.on-side", p.Piece.Name), p.Piece.ID)
		}
	}
}

// animals looks whether food can be kept from them at night.
func (s *safety) animals() {
	if !slices.ContainsFunc(s.task.Items, func(it kit.Item) bool {
		return it.Carry != kit.Left && (it.Has(kit.Food) || it.Has(kit.Scented))
	}) {
		return
	}
	at := slices.IndexFunc(s.task.Trip.Camps, func(c trail.Camp) bool { return c.Animals && !c.FoodLocker })
	if at < 0 {
		return
	}
	if slices.ContainsFunc(s.task.Everything(), func(it kit.Item) bool {
		return it.Carry != kit.Left && (it.Kind == "hang-kit" || it.KeepsFood() || it.Kind == "rope" ||
			it.Kind == "cord")
	}) {
		return
	}
	place := fact.Of("safe.night", at+1)
	if name := s.task.Trip.Camps[at].Place; name != "" {
		place = fact.Of("safe.place", name)
	}
	night := s.bags.pack.AtNight()
	switch {
	case len(night.Bags) == 0:
		s.raise(Look, fact.Of("safe.animals", place))
	case len(night.Out) > 0:
		s.raise(Look, fact.Of("safe.scent-full", place, named(night.Out), fact.Litres(dry.BuyL(night.Litres))),
			kit.IDs(night.Out)...)
	}
}

// worn looks for what is of no use in the pack.
func (s *safety) worn() {
	for i := range s.task.Items {
		if it := &s.task.Items[i]; it.Kind == "transceiver" && it.Carry != kit.Left && it.Carry != kit.Worn {
			s.raise(Stop, fact.Of("safe.transceiver", it.Name), it.ID)
		}
	}
	for i := range s.plan.Placed {
		p := &s.plan.Placed[i]
		if p.Piece.Kind == "whistle" && p.Zone.Kind != rucksack.Shoulder {
			s.raise(Look, fact.Of("safe.whistle", p.Piece.Name), p.Piece.ID)
		}
	}
}

// needs looks for what is of no use without something else.
func (s *safety) needs() {
	all := s.task.Everything() // what somebody else carries is with the party
	for _, u := range kit.UnmetBy(all) {
		if !slices.ContainsFunc(s.task.Items, func(it kit.Item) bool { return it.ID == u.Of.ID && it.Name == u.Of.Name }) {
			continue
		}
		s.raise(Look, fact.Of("safe.needs", u.Of.Name, needFacts[u.Need]), u.Of.ID)
	}
}

// held looks for poles that hold up a shelter where more than one night is spent: between the nights one walks without
// them, or strikes it first.
func (s *safety) held() {
	place, ok := s.task.Trip.Stays()
	shelter, poles := kit.Held(s.task.Items)
	if ok && shelter != nil {
		s.raise(Look, fact.Of("safe.held", poles.Name, fact.Small(shelter.Name), place), poles.ID, shelter.ID)
	}
}

var needFacts = map[string]fact.Fact{
	"poles": fact.Of("safe.need-poles"), "pegs": fact.Of("safe.need-pegs"),
	"walking-poles": fact.Of("safe.need-walking-poles"),
	"gas":           fact.Of("safe.need-gas"), "spirit": fact.Of("safe.need-spirit"), "petrol": fact.Of("safe.need-petrol"),
	"fire": fact.Of("safe.need-fire"), "pot": fact.Of("safe.need-pot"), "bottle": fact.Of("safe.need-bottle"),
	"light": fact.Of("safe.need-light"), "power": fact.Of("safe.need-power"),
}

// fullBottleG is what a litre of water weighs with a light bottle round it (our estimate).
const fullBottleG = 1080

// water compares what is carried with what the thirstiest stretch takes.
func (s *safety) water() {
	stretch, ok := s.task.Trip.Thirstiest()
	if !ok {
		return
	}
	litres := 0.0
	for i := range s.task.Items {
		it := &s.task.Items[i]
		if it.Consumable != "water" || it.Carry == kit.Left {
			continue
		}
		each := it.MassG / fullBottleG // full, with a light bottle round it
		if kind, known := kit.KindOf(it.Kind); known && kind.HoldsL > 0 && kind.MassG > 0 {
			each = kind.HoldsL * it.MassG / kind.MassG
		}
		litres += each * float64(it.Count)
	}
	if litres < stretch.Litres-0.1 {
		state := Look
		if litres < stretch.Litres/2 {
			state = Stop
		}
		s.raise(state, fact.Of("safe.water", fact.Water(litres), fact.Water(stretch.Litres), stretch.Legs()))
	}
}
