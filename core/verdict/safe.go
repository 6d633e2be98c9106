package verdict

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/trail"
	"tornister/core/unit"
)

// safety collects what the Safe check finds. Each rule is a method; it says what it found, from which source, and the
// mend.
type safety struct {
	Check
	task *load.Task
	plan *load.Plan
	bags *bagging
}

// safeCheck goes through the rules of safety. What it does not know (a bag without a comfort temperature, a trip
// without dates or legs) it does not judge.
func safeCheck(task *load.Task, plan *load.Plan, bags *bagging) Check {
	s := &safety{Check{Check: "safe", State: Settled, Figure: "no finding"}, task, plan, bags}
	for _, b := range plan.Broken {
		if b.Rule == string(load.RulePin) {
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
	s.water()
	if n := len(s.Reasons); n > 0 {
		s.Figure = Findings(n)
		return s.Check
	}
	s.Reasons = []Finding{{Text: "No rule of the trade is broken, and light, water treatment, way and fire have a second. Local rules and makers' instructions go first."}}
	return s.Check
}

// spared are the functions for which there must be a second way, since life hangs on them (common practice).
var spared = []struct{ function, words string }{
	{"light", "a second light"}, {"water-treatment", "a second way to treat water"}, {"navigation", "a second way to find the way"}, {"fire", "a second way to make fire"},
}

// second looks for what there is only one of, and for both of two in the same place: what is lost with the lid is lost
// twice.
func (s *safety) second() {
	if s.task.Trip.Nights == 0 {
		return
	}
	for _, f := range spared {
		n := 0
		places := map[string]bool{}
		for i := range s.task.Items {
			if it := &s.task.Items[i]; it.Serves(f.function) && it.Carry != kit.Left {
				n += it.Count
				if it.Carry != kit.Pack {
					places["on the walker"] = true
				}
			}
		}
		var where string
		for i := range s.plan.Placed {
			if p := &s.plan.Placed[i]; p.Piece.Serves(f.function) {
				where = p.Zone.Name
				places[p.Zone.ID] = true
			}
		}
		words := strings.ReplaceAll(f.function, "-", " ")
		switch {
		case n == 1:
			s.raise(Look, fmt.Sprintf("There is only one thing for %s: take %s (common practice).", words, f.words))
		case n > 1 && len(places) == 1 && where != "":
			s.raise(Look, fmt.Sprintf("Everything for %s is in one place, %s: put one elsewhere, so that both are not lost or wet together (common practice).", words, strings.ToLower(where)))
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
		s.raise(state, fmt.Sprintf("%s is good until %s, and the trip ends on %s: replace it.", it.Name, it.Expires, day), it.ID)
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
	temperature := s.task.Trip.Units.Temperature
	if bag != nil {
		comfort := *bag.ComfortC - liner
		limit := comfort - 6 // between the two lie some six degrees (from memory)
		if bag.LimitC != nil {
			limit = *bag.LimitC - liner
		}
		with := ""
		if liner > 0 {
			with = " with the liner's " + s.task.Trip.Units.Degrees(liner) + " (common practice)"
		}
		switch {
		case low < limit:
			s.raise(Stop, fmt.Sprintf("The night may have %s, below the limit of the %s, %s%s (EN ISO 23537-1): take a warmer one.", temperature(low), unit.Small(bag.Name), temperature(limit), with), bag.ID)
		case low < comfort:
			s.raise(Look, fmt.Sprintf("The night may have %s, below the comfort of the %s, %s%s (EN ISO 23537-1): sleep in more clothes, or take a warmer one.", temperature(low), unit.Small(bag.Name), temperature(comfort), with), bag.ID)
		}
	}
	if mats > 0 && mats < wanted.MatR-0.05 {
		s.raise(Look, fmt.Sprintf("The mats have R %.1f together; a night of %s wants R %.1f (common practice).", mats, temperature(low), wanted.MatR), thin...)
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
				s.raise(Look, fmt.Sprintf("%s lies against %s: put something between fuel and food, or the fuel into the pot (common practice).", p.Piece.Name, unit.Small(o.Name)), p.Piece.ID, o.ID)
			case p.Piece.Has(kit.Sharp) && load.Holed(o):
				s.raise(Look, fmt.Sprintf("%s lies against %s: sheathe it, or put something soft between (common practice).", p.Piece.Name, unit.Small(o.Name)), p.Piece.ID, o.ID)
			}
		}
	}
}

// above looks for water over what must stay dry.
func (s *safety) above() {
	for i := range s.plan.Placed {
		p := &s.plan.Placed[i]
		if dry.Need(p.Piece.Item) < 2 || dry.Cased(p.Piece.Item) || s.bags.in[p.Piece] != nil {
			continue
		}
		for _, o := range p.Over {
			if o.Water.Leaks {
				s.raise(Look, fmt.Sprintf("%s may leak and lies over %s: lay it lower, or bag what is below.", o.Name, unit.Small(p.Piece.Name)), o.ID, p.Piece.ID)
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
			s.raise(Look, fmt.Sprintf("%s lies on its side: carry it upright with its cap on, outside if there is a pocket (common practice).", p.Piece.Name), p.Piece.ID)
		}
	}
}

// animals looks whether food can be kept from them at night.
func (s *safety) animals() {
	at := slices.IndexFunc(s.task.Trip.Camps, func(c trail.Camp) bool { return c.Animals && !c.FoodLocker })
	if at < 0 {
		return
	}
	if slices.ContainsFunc(s.task.Items, func(it kit.Item) bool {
		return it.Carry != kit.Left && (it.Kind == "hang-kit" || it.Kind == "food-box" || it.Kind == "rope" || it.Kind == "cord")
	}) {
		return
	}
	place := s.task.Trip.Camps[at].Place
	if place == "" {
		place = fmt.Sprintf("night %d", at+1)
	}
	night := s.bags.pack.AtNight()
	switch {
	case len(night.Bags) == 0:
		s.raise(Look, fmt.Sprintf("Animals come for food at %s: take a scent-tight bag, a food canister or a line to hang food, rubbish and toiletries (common practice; local rules first).", place))
	case len(night.Out) > 0:
		s.raise(Look, fmt.Sprintf("Animals come for food at %s, and the scent-tight bags do not take %s: %s more, or a line to hang it (common practice; local rules first).",
			place, named(night.Out), s.task.Trip.Units.Volume(dry.BuyL(night.Litres))), idsOf(night.Out)...)
	}
}

func idsOf(pieces []kit.Piece) []string {
	var ids []string
	for _, p := range pieces {
		if !slices.Contains(ids, p.ID) {
			ids = append(ids, p.ID)
		}
	}
	return ids
}

// worn looks for what is of no use in the pack.
func (s *safety) worn() {
	for i := range s.task.Items {
		if it := &s.task.Items[i]; it.Kind == "transceiver" && it.Carry != kit.Left && it.Carry != kit.Worn {
			s.raise(Stop, fmt.Sprintf("%s belongs on the body, switched on, from the first snow to the last; the ground only for those with training.", it.Name), it.ID)
		}
	}
}

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
		each := it.MassG / 1080 // full, with a light bottle round it
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
		s.raise(state, fmt.Sprintf("%s of water for a stretch that takes %s (legs %d to %d): carry more, or find a source between.", s.task.Trip.Units.Drink(litres), s.task.Trip.Units.Drink(stretch.Litres), stretch.From+1, stretch.To+1))
	}
}
