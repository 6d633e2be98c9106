package load

import (
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// plan turns the finished search into a Plan without reasons.
func (s *search) plan(p *packing) *Plan {
	a, plan := s.assignment, &Plan{}
	for i := range a.zones {
		plan.Zones = append(plan.Zones, a.zoneFill(i))
	}
	p.fillZones(plan)
	for i := range plan.Zones {
		if plan.Zones[i].Zone.Solid() {
			plan.Squeeze = max(plan.Squeeze, plan.Zones[i].Squeeze)
		}
	}
	for _, c := range a.loadingOrder(p) {
		z := &a.zones[c.zone]
		pinned := c.pin != nil && (c.pin.Zone != "" || c.pin.Place > 0 || c.pin.Lane != Full)
		plan.Placed = append(plan.Placed,
			Placement{Piece: c.Piece, Zone: z, Pinned: pinned, VolumeL: c.Shape.Litres(plan.Zones[c.zone].Squeeze),
				OutCm: c.lies[c.zone].outCm})
		for k, q := range c.inside {
			plan.Placed = append(plan.Placed, Placement{Piece: q, Zone: z, Inside: c.insideOf[k]})
		}
	}
	p.describePlaces(plan)
	a.leftOut(plan)
	plan.Broken = append(a.broken(), plan.pinsNotKept(s.task)...)
	plan.State = a.state(plan)
	return plan
}

func (a *assignment) zoneFill(i int) ZoneFill {
	f := &a.fills[i]
	zf := ZoneFill{Zone: &a.zones[i], MassG: f.mass}
	zf.Squeeze = a.squeeze(i)
	zf.CapacityL = a.room(i, zf.Squeeze)
	zf.NeedLooseL, zf.NeedTightL = f.need(0), f.need(1)
	zf.State = stateFor(zf.NeedLooseL, zf.CapacityL, zf.Squeeze)
	for _, c := range a.choices {
		if c.zone == i {
			zf.Pieces = append(zf.Pieces, c.Piece)
		}
	}
	return zf
}

// state is that of the fullest solid zone: it is the body that has to close. A tight pocket shows in its own state.
func (a *assignment) state(plan *Plan) State {
	if len(plan.LeftOut) > 0 {
		return TooMuch
	}
	rank := []State{Roomy, Snug, Squeezed, Crammed, TooMuch}
	worst := 0
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if r := slices.Index(rank, z.State); z.Zone.Solid() && len(z.Pieces) > 0 {
			worst = max(worst, r)
		}
	}
	return rank[worst]
}

// leftOut lists what is not in. What only lacks room is told how much once that is known.
func (a *assignment) leftOut(plan *Plan) {
	for _, c := range a.choices {
		if c.zone != out {
			continue
		}
		var why, least fact.Fact
		switch {
		case c.stuck:
			why, least = a.whyNowhere(c)
		case c.pin != nil && c.pin.Zone != "":
			why, least = fact.Of("load.pinned-full", a.task.Pack.Zone(c.pin.Zone).Name), fact.Of("load.unpin")
		case c.rigid > 0:
			why = fact.Of("load.no-place", measure(c.Shape))
		default:
			why = fact.Of("load.no-room", fact.Litres(c.Shape.Litres(1)))
		}
		plan.leave(c, why, least)
	}
}

func (p *Plan) leave(c *choice, why, least fact.Fact) {
	p.LeftOut = append(p.LeftOut, LeftOut{c.Piece, why, least, c.stuck})
	for _, q := range c.inside {
		p.LeftOut = append(p.LeftOut,
			LeftOut{q, fact.Of("load.goes-with", c.Name), fact.Of("load.carry-outside", fact.Small(c.Name)), false})
	}
}

// whyNowhere says why not even an empty pack takes the thing, and what would.
func (a *assignment) whyNowhere(c *choice) (why, least fact.Fact) {
	if c.pin != nil && c.pin.Zone != "" {
		return fact.Of("load.pinned-never", a.task.Pack.Zone(c.pin.Zone).Name, measure(c.Shape)), fact.Of("load.unpin")
	}
	if c.Shape.Kind == kit.Soft {
		roomiest := 0.0
		for i := range a.zones {
			roomiest = max(roomiest, a.zones[i].CapacityL())
		}
		return fact.Of("load.no-zone", fact.Litres(c.Shape.TightL), fact.Litres(roomiest)),
			fact.Of("load.larger-zone", fact.Litres(c.Shape.TightL-roomiest))
	}
	sides := a.task.Pack.Of(rucksack.Body).Sides()
	d := c.Shape.Dimensions()
	for i := range d {
		if d[i] > sides[i] {
			return fact.Of("load.too-long", fact.SizeCm(d[:]), fact.SizeCm(sides[:])),
				fact.Of("load.longer-pack", fact.Cm(d[i]-sides[i]))
		}
	}
	return fact.Of("load.no-mouth", measure(c.Shape)), fact.Of("load.wider-mouth")
}

// measure is what stands against a place for a thing: its litres when it is soft, else its sides.
func measure(s kit.Shape) fact.Fact {
	if s.Kind == kit.Soft {
		return fact.Of("load.even-tight", fact.Litres(s.TightL))
	}
	d := s.Dimensions()
	return fact.Of("load.sides", fact.SizeCm(d[:]))
}

// broken lists the rules that the finished plan does not keep.
func (a *assignment) broken() []Broken {
	var list []Broken
	for _, c := range a.choices {
		if c.zone == out {
			continue
		}
		z := &a.zones[c.zone]
		for _, t := range terms(a.task, c, z) {
			if t.cost >= breach {
				list = append(list, Broken{string(t.rule), []string{c.ID}, breachOf(t.rule, c, z)})
			}
		}
		if c.IsBag() && c.food > 0 && c.fuel > 0 {
			list = append(list, Broken{string(RuleFuel), append([]string{c.ID}, kit.IDs(c.inside)...),
				fact.Of("load.food-with-fuel-in-bag", fact.Small(c.Name))})
		}
		if c.NestIn != "" {
			list = append(list, Broken{RuleNest, []string{c.ID, c.NestIn},
				fact.Of("load.not-nested", c.Name, fact.Small(a.task.nameOf(c.NestIn)))})
		}
	}
	for i := range a.zones {
		f, z := &a.fills[i], &a.zones[i]
		if z.Solid() {
			continue
		}
		if f.food > 0 && f.fuel > 0 {
			list = append(list, Broken{string(RuleFuel), a.idsIn(i, func(c *choice) bool { return c.food+c.fuel > 0 }),
				fact.Of("load.food-with-fuel", fact.Small(z.Name))})
		}
		if f.wet > 0 && f.spoilt > 0 {
			list = append(list, Broken{string(RuleWet), a.idsIn(i, func(c *choice) bool { return c.wet+c.spoilt > 0 }),
				fact.Of("load.wet-by-dry", fact.Small(z.Name))})
		}
	}
	return list
}

// pinsNotKept lists the lanes and places that were pinned and that the trial packing did not give.
func (p *Plan) pinsNotKept(task *Task) []Broken {
	var list []Broken
	inZone := map[string]int{}
	for i := range p.Placed {
		pl := &p.Placed[i]
		if pl.Inside != "" {
			if pin := task.PinFor(pl.Piece); pin != nil && pin.Zone != "" && pin.Zone != pl.Zone.ID {
				why := fact.Of("load.pinned-apart", pl.Piece.Name, fact.Small(task.Pack.Zone(pin.Zone).Name),
					fact.Small(task.nameOf(pl.Inside)))
				list = append(list, Broken{string(RulePin), []string{pl.Piece.ID, pl.Inside}, why})
			}
			continue
		}
		inZone[pl.Zone.ID]++
		pin := task.PinFor(pl.Piece)
		switch {
		case pin == nil:
		case pin.Lane != Full && pl.Box != nil && pl.Lane != pin.Lane:
			list = append(list, Broken{string(RulePin), []string{pl.Piece.ID},
				fact.Of("load.lane-not-kept", pl.Piece.Name, laneFact(pin.Lane))})
		case pin.Place > 0 && !between(inZone[pl.Zone.ID], min(pin.Place, p.countIn(pl.Zone)), pin.Place+pl.Piece.Count-1):
			list = append(list, Broken{string(RulePin), []string{pl.Piece.ID},
				fact.Of("load.turn-not-kept", pl.Piece.Name, pin.Place, inZone[pl.Zone.ID])})
		}
	}
	return list
}

// between reports whether a turn is one of those that a line of several things may have when it is pinned to the
// first of them.
func between(turn, first, last int) bool { return turn >= first && turn <= max(first, last) }

// countIn counts the things in a zone, without those nested.
func (p *Plan) countIn(z *rucksack.Zone) (n int) {
	for i := range p.Placed {
		n += count(p.Placed[i].Zone == z && p.Placed[i].Inside == "")
	}
	return n
}

func (a *assignment) idsIn(zone int, want func(*choice) bool) []string {
	var ids []string
	for _, c := range a.choices {
		if c.zone == zone && want(c) && !slices.Contains(ids, c.ID) {
			ids = append(ids, c.ID)
		}
	}
	return ids
}

// breachOf says which rule a thing breaks where it is.
func breachOf(rule Rule, c *choice, z *rucksack.Zone) fact.Fact {
	zone := fact.Small(z.Name)
	switch rule {
	case RuleRain:
		return fact.Of("load.rained-on", c.Name, zone)
	case RuleRescue:
		return fact.Of("load.not-one-pull", c.Name, zone)
	case RuleOutside:
		return fact.Of("load.hangs-outside", c.Name, zone)
	}
	return fact.Of("load.breaks", c.Name, zone, string(rule))
}
