package load

import (
	"fmt"
	"slices"
	"strings"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/unit"
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
		plan.Placed = append(plan.Placed, Placement{Piece: c.Piece, Zone: z, Pinned: pinned, VolumeL: c.Shape.Litres(plan.Zones[c.zone].Squeeze)})
		for _, q := range c.inside {
			plan.Placed = append(plan.Placed, Placement{Piece: q, Zone: z, Inside: c.ID})
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
		why, least := "", ""
		switch {
		case c.stuck:
			why, least = a.whyNowhere(c)
		case c.pin != nil && c.pin.Zone != "":
			why, least = fmt.Sprintf("is pinned to %s, which is full", a.task.Pack.Zone(c.pin.Zone).Name), "taking the pin out"
		case c.rigid > 0:
			why = fmt.Sprintf("keeps its shape, %s, and no place of that shape is left", describe(c.Shape, a.task.Trip.Units))
		default:
			why = fmt.Sprintf("takes %s even tight, and no zone that may hold it has that much left", a.task.Trip.Units.Volume(c.Shape.Litres(1)))
		}
		plan.leave(c, why, least)
	}
}

func (p *Plan) leave(c *choice, why, least string) {
	p.LeftOut = append(p.LeftOut, LeftOut{c.Piece, why, least, c.stuck})
	for _, q := range c.inside {
		p.LeftOut = append(p.LeftOut, LeftOut{q, "goes with " + c.Name + ", which is left out", "carrying it outside the " + c.Name, false})
	}
}

// whyNowhere says why not even an empty pack takes the thing, and what would.
func (a *assignment) whyNowhere(c *choice) (why, least string) {
	units := a.task.Trip.Units
	if c.pin != nil && c.pin.Zone != "" {
		return fmt.Sprintf("is pinned to %s, which cannot hold it: %s", a.task.Pack.Zone(c.pin.Zone).Name, describe(c.Shape, units)), "taking the pin out"
	}
	if c.Shape.Kind == kit.Soft {
		roomiest := 0.0
		for i := range a.zones {
			roomiest = max(roomiest, a.zones[i].CapacityL())
		}
		return fmt.Sprintf("takes %s even tight, and the roomiest zone has %s", units.Volume(c.Shape.TightL), units.Volume(roomiest)),
			fmt.Sprintf("a zone %s larger", units.Volume(c.Shape.TightL-roomiest))
	}
	sides := a.task.Pack.Of(rucksack.Body).Sides()
	d := c.Shape.Dimensions()
	for i := range d {
		if d[i] > sides[i] {
			return fmt.Sprintf("measures %s, and the body is %s inside", units.Size(d[:]...), units.Size(sides[:]...)),
				fmt.Sprintf("a pack with %s more room that way, or a way to carry it outside", units.Length(d[i]-sides[i]))
		}
	}
	return fmt.Sprintf("does not pass any mouth: %s", describe(c.Shape, units)), "a pack with a wider mouth"
}

func describe(s kit.Shape, units unit.System) string {
	if s.Kind == kit.Soft {
		return units.Volume(s.TightL) + " even tight"
	}
	d := s.Dimensions()
	return units.Size(d[:]...)
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
				list = append(list, Broken{string(t.rule), []string{c.ID}, breachText(t.rule, c, z)})
			}
		}
		if c.NestIn != "" {
			list = append(list, Broken{"nest", []string{c.ID, c.NestIn}, c.Name + " was to go inside " + c.NestIn + ", which has no room for it or is not in the pack."})
		}
	}
	for i := range a.zones {
		f, z := &a.fills[i], &a.zones[i]
		if z.Solid() {
			continue
		}
		if f.food > 0 && f.fuel > 0 {
			list = append(list, Broken{string(RuleFuel), a.idsIn(i, func(c *choice) bool { return c.food+c.fuel > 0 }),
				"Food and fuel lie together in the " + strings.ToLower(z.Name) + "; move one of them to another zone."})
		}
		if f.wet > 0 && f.spoilt > 0 {
			list = append(list, Broken{string(RuleWet), a.idsIn(i, func(c *choice) bool { return c.wet+c.spoilt > 0 }),
				"Something wet or leaking lies beside what must stay dry in the " + strings.ToLower(z.Name) + "."})
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
			continue
		}
		inZone[pl.Zone.ID]++
		pin := task.PinFor(pl.Piece)
		switch {
		case pin == nil:
		case pin.Lane != Full && pl.Box != nil && pl.Lane != pin.Lane:
			list = append(list, Broken{string(RulePin), []string{pl.Piece.ID}, fmt.Sprintf("%s was pinned %s, and the trial packing had to lay it elsewhere: load it earlier, or take the pin out.", pl.Piece.Name, laneWords[pin.Lane])})
		case pin.Place > 0 && !between(inZone[pl.Zone.ID], min(pin.Place, p.countIn(pl.Zone)), pin.Place+pl.Piece.Count-1):
			list = append(list, Broken{string(RulePin), []string{pl.Piece.ID}, fmt.Sprintf("%s was pinned to turn %d, and goes in at turn %d: other pins or its dry bag ask for that.", pl.Piece.Name, pin.Place, inZone[pl.Zone.ID])})
		}
	}
	return list
}

// between reports whether a turn is one of those that a line of several things may have when it is pinned to the first
// of them.
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

func breachText(rule Rule, c *choice, z *rucksack.Zone) string {
	zone := strings.ToLower(z.Name)
	switch rule {
	case RuleRain:
		return c.Name + " must stay dry, and rain comes into the " + zone + "."
	case RuleRescue:
		return c.Name + " must come out with one pull, and the " + zone + " has to be opened first."
	case RuleOutside:
		return c.Name + " hangs outside on the " + zone + ", which the chosen way of packing does not allow."
	}
	return c.Name + " in the " + zone + " breaks the rule " + string(rule) + "."
}
