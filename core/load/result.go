package load

import (
	"io"
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/rucksack"
)

// plan turns the finished search into a Plan without reasons.
func (s *search) plan(p *packing) *Plan {
	a, plan := s.assignment, &Plan{}
	for i := range a.Zones {
		plan.Zones = append(plan.Zones, a.ZoneFill(i))
	}
	p.fillZones(plan)
	for i := range plan.Zones {
		if plan.Zones[i].Zone.Solid() {
			plan.Squeeze = max(plan.Squeeze, plan.Zones[i].Squeeze)
		}
	}
	for _, c := range loadingOrder(a, p) {
		z := &a.Zones[c.Zone]
		pinned := c.Pin != nil && (c.Pin.Zone != "" || c.Pin.Place > 0 || c.Pin.Lane != job.Full)
		plan.Placed = append(plan.Placed,
			Placement{Piece: c.Piece, Zone: z, Pinned: pinned, VolumeL: c.Shape.Litres(plan.Zones[c.Zone].Squeeze),
				OutCm: c.Lies[c.Zone].OutCm})
		for k, q := range c.Inside {
			plan.Placed = append(plan.Placed, Placement{Piece: q, Zone: z, Inside: c.InsideOf[k]})
		}
	}
	p.describePlaces(plan)
	plan.leftOut(a)
	plan.Broken = append(a.Broken(), plan.pinsNotKept(s.task)...)
	plan.State = plan.state()
	return plan
}

// state is that of the fullest solid zone: it is the body that has to close. A tight pocket shows in its own state.
func (p *Plan) state() assign.State {
	if len(p.LeftOut) > 0 {
		return assign.TooMuch
	}
	rank := []assign.State{assign.Roomy, assign.Snug, assign.Squeezed, assign.Crammed, assign.TooMuch}
	worst := 0
	for i := range p.Zones {
		z := &p.Zones[i]
		if r := slices.Index(rank, z.State); z.Zone.Solid() && len(z.Pieces) > 0 {
			worst = max(worst, r)
		}
	}
	return rank[worst]
}

// leftOut lists what is not in. What only lacks room is told how much once that is known.
func (p *Plan) leftOut(a *assign.Assignment) {
	for _, c := range a.Choices {
		if c.Zone != assign.Out {
			continue
		}
		var why, least fact.Fact
		switch {
		case c.Stuck:
			why, least = a.WhyNowhere(c)
		case c.Pin != nil && c.Pin.Zone != "":
			why, least = fact.Of("load.pinned-full", a.Task.Pack.Zone(c.Pin.Zone).Name), fact.Of("load.unpin")
		case c.Rigid > 0:
			why = fact.Of("load.no-place", assign.Measure(c.Shape))
		default:
			why = fact.Of("load.no-room", fact.Litres(c.Shape.Litres(1)))
		}
		p.leave(c, why, least)
	}
}

func (p *Plan) leave(c *assign.Choice, why, least fact.Fact) {
	p.LeftOut = append(p.LeftOut, LeftOut{c.Piece, why, least, c.Stuck})
	for _, q := range c.Inside {
		p.LeftOut = append(p.LeftOut,
			LeftOut{q, fact.Of("load.goes-with", c.Name), fact.Of("load.carry-outside", fact.Small(c.Name)), false})
	}
}

// pinsNotKept lists the lanes and places that were pinned and that the trial packing did not give.
func (p *Plan) pinsNotKept(task *job.Task) []assign.Broken {
	var list []assign.Broken
	inZone := map[string]int{}
	for i := range p.Placed {
		pl := &p.Placed[i]
		if pl.Inside != "" {
			if pin := task.PinFor(pl.Piece); pin != nil && pin.Zone != "" && pin.Zone != pl.Zone.ID {
				why := fact.Of("load.pinned-apart", pl.Piece.Name, fact.Small(task.Pack.Zone(pin.Zone).Name),
					fact.Small(task.NameOf(pl.Inside)))
				list = append(list, assign.Broken{Rule: string(assign.RulePin), Items: []string{pl.Piece.ID, pl.Inside}, Why: why})
			}
			continue
		}
		inZone[pl.Zone.ID]++
		pin := task.PinFor(pl.Piece)
		switch {
		case pin == nil:
		case pin.Lane != job.Full && pl.Box != nil && pl.Lane != pin.Lane:
			list = append(list, assign.Broken{Rule: string(assign.RulePin), Items: []string{pl.Piece.ID},
				Why: fact.Of("load.lane-not-kept", pl.Piece.Name, laneFact(pin.Lane))})
		case pin.Place > 0 && !between(inZone[pl.Zone.ID], min(pin.Place, p.countIn(pl.Zone)), pin.Place+pl.Piece.Count-1):
			list = append(list, assign.Broken{Rule: string(assign.RulePin), Items: []string{pl.Piece.ID},
				Why: fact.Of("load.turn-not-kept", pl.Piece.Name, pin.Place, inZone[pl.Zone.ID])})
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

// Proved tells what the proof is of: whether it counts on less room than the zones have, as trial packings found it,
// and of how many things the plan differs from what was proved. The trial packing has the last word.
func (p *Plan) Proved() (lessRoom bool, otherwise int) {
	a := p.assignment
	body, bottom := assign.OfKind(a.Zones, rucksack.Body), assign.OfKind(a.Zones, rucksack.Bottom)
	oneRoom := func(zone int) int {
		if p.Open && zone == bottom && zone >= 0 {
			return body
		}
		return zone
	}
	for i, c := range p.search.assignment.Choices {
		otherwise += count(oneRoom(c.Zone) != oneRoom(a.Choices[i].Zone))
	}
	return slices.Max(a.Loss) > 0, otherwise
}

// ProveOn goes on with the proof of the zone assignment where that is likely to close it, until it is stopped.
func (p *Plan) ProveOn(options Options) {
	on := p.assignment.CopyOfProgram()
	on.Stop = options.Stop
	on.ProveOn()
	p.Proof, p.assignment = on.Proof, on
}

// Assure works out how sure a plan is, nil where that was ended, and goes on with its proof beside that: what nobody
// waits for who wants to pack. Make does it where it is asked how sure its plan is.
func (p *Plan) Assure(options Options) {
	var proof sideBySide
	proof.Go(func() { p.ProveOn(options) })
	p.Sure = p.Confidence(options)
	proof.Wait()
}

// WriteLP writes the zone assignment of a plan in CPLEX LP format. Its optimum lies between bound and objective of
// the plan's Proof.
func (p *Plan) WriteLP(w io.Writer) error { return p.assignment.WriteLP(w) }
