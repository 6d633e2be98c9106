package load

import (
	"math"
	"slices"
	"sync"

	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// Prices of an order, in seconds a day.
const (
	perHollowL = 4.0  // a litre of hollow spot
	perSpineCm = 0.02 // a square centimetre of something hard against the spine
	perTurn    = 1.5  // a turn in the order away from the planned one
	topUses    = 2.0  // uses a day that what is wanted on top counts as
	perDeepCm  = 0.3  // a centimetre of height of what is wanted deep
	perKg      = 3.0  // a kilogram a centimetre outside the load band
	perSoaked  = 15.0 // something that must stay dry and is rained on in a drill in which nothing may be
	perBandCm  = 8.0  // a centimetre of the whole pack's centre outside the load band
	perBeside  = 30.0 // something against what it would spoil: sharp things and air mats, fuel and food
)

// plannedOrder sorts things by how deep they want to lie, bottom compartment first; pinned places hold.
func (p *packing) plannedOrder() {
	slices.SortStableFunc(p.order, func(i, j int) int {
		a, b := p.inside[i], p.inside[j]
		if r := int(p.things[i].Region) - int(p.things[j].Region); r != 0 {
			return r
		}
		return compareInLoading(p.task, a, b)
	})
	p.hold()
}

// hold puts things with a pinned place at that place among the things of their zone, and their bag with them.
func (p *packing) hold() {
	for i, c := range p.inside {
		if c.pin == nil || c.pin.Place < 1 {
			continue
		}
		if !slices.Contains(p.order, i) {
			continue
		}
		unit := p.takeUnit(i)
		at, seen := len(p.order), 0
		for k, j := range p.order {
			if p.things[j].Region != p.things[i].Region {
				continue
			}
			if seen++; seen == c.pin.Place {
				at = k
				break
			}
			at = k + 1
		}
		p.order = slices.Insert(p.order, at, unit...)
	}
}

// takeUnit takes a thing out of the order, with its bag, and gives what was taken, the thing first.
func (p *packing) takeUnit(i int) []int {
	unit := []int{i}
	for _, j := range p.unit(i) {
		if j != i {
			unit = append(unit, j)
		}
	}
	p.order = slices.DeleteFunc(p.order, func(j int) bool { return slices.Contains(unit, j) })
	return unit
}

// improve looks for an order that costs less, at the squeeze found or a smaller one, as long as the budget lasts. Each round
// tries two changes side by side, one thing moved in the order or into another lane, and keeps the better if it is better
// than what there is and everything still goes in.
func (p *packing) improve(random *source) {
	if len(p.order) < 2 {
		return
	}
	home := p.turns()
	best := p.cost(home)
	var tries [climbers]*try
	for k := range tries {
		tries[k] = &try{packing: *p, cost: math.Inf(1)}
		tries[k].trial = p.space.NewTrial(len(p.things))
		tries[k].things = slices.Clone(p.things)
	}
	for p.budget.spendTurn(climbers, len(p.things)) {
		var wait sync.WaitGroup
		for _, t := range tries {
			t.order = append(t.order[:0:0], p.order...)
			copy(t.things, p.things)
			t.squeeze = p.squeeze
			t.change(random)
			wait.Go(func() {
				t.cost = math.Inf(1)
				if t.run(t.squeeze) {
					t.cost = t.packing.cost(home)
				}
			})
		}
		wait.Wait()
		better := tries[0]
		for _, t := range tries[1:] {
			if t.cost < better.cost {
				better = t
			}
		}
		if better.cost >= best-gain {
			continue
		}
		best = better.cost
		copy(p.order, better.order)
		copy(p.things, better.things)
		if looser := p.squeeze - 1.0/32; looser >= 0 && p.budget.spend(len(p.things)) && p.run(looser) {
			p.squeeze, best = looser, p.cost(home)
		}
	}
	p.run(p.squeeze)
}

// try is a changed order under trial.
type try struct {
	packing
	cost float64
}

// change moves one thing to another turn, most often near by, or gives it another lane.
func (t *try) change(random *source) {
	i := t.order[random.below(len(t.order))]
	c := t.inside[i]
	chosenLane := isHeavy(c.Piece, c.mass) || c.pin != nil && c.pin.Lane != Full
	if random.below(4) == 0 && !chosenLane {
		w := stuff.Wish{Deep: float64(random.below(2)), Across: float64(random.below(3)) / 2, Firm: firm}
		for _, j := range t.unit(i) {
			t.things[j].Wish = w
		}
		return
	}
	from, to := slices.Index(t.order, i), random.below(len(t.order))
	if random.below(2) == 0 {
		to = max(0, min(len(t.order)-1, from+random.below(7)-3))
	}
	unit := t.takeUnit(i)
	t.order = slices.Insert(t.order, min(to, len(t.order)), unit...)
	t.gather()
}

// turns gives for every thing the turn that its time of need asks for.
func (p *packing) turns() []int {
	now := slices.Clone(p.order)
	p.plannedOrder()
	p.gather()
	turns := make([]int, len(p.things))
	for turn, i := range p.order {
		turns[i] = turn
	}
	p.order = now
	return turns
}

// cost prices the last trial: digging, the load band, weight away from the spine, hard things at the spine, hollows, and
// turns other than the times of need ask for.
func (p *packing) cost(home []int) float64 {
	cells, middles := p.trial.Middles(len(p.things))
	above, front, spine := p.trial.Over(len(p.things))
	cm := p.space.Solid.CellCm
	mass, height, lever, sum := 0.0, 0.0, 0.0, 0.0
	low, high := p.bandCm()
	for i, c := range p.inside {
		if cells[i] == 0 {
			continue
		}
		inWay := p.inWay(i, above, front)
		lifted := p.lifts(inWay, i)
		uses := uses(c.Use)
		exposed := p.task.Trip.Rain * float64(p.exposed(inWay))
		sum += perExposedS * uses * reach.PerLift * exposed
		for _, limit := range c.limits {
			if limit.NoneWet {
				sum += perSoaked * exposed
			}
			sum += perOverS * max(0, reach.InHand(&p.task.Pack.Zones[c.zone], float64(lifted), p.barriers(i))-limit.S)
		}
		if c.Serves("shelter") && c.Use.When == kit.Arrival {
			if p.task.Method.Shelter == "top" {
				uses += topUses
			} else { // only camp needs it: no word against lying deep
				uses = 0
				sum += perDeepCm * middles[i][2] * cm
			}
		}
		sum += reach.PerLift * uses * float64(lifted)
		softSpine := p.task.Method.Spine == "soft" && isHeavy(c.Piece, c.mass)
		if c.Has(kit.Hard) || c.Has(kit.Sharp) || softSpine {
			sum += perSpineCm * cm * cm * float64(spine[i])
		}
		mass += c.mass
		height += c.mass * middles[i][2] * cm
		lever += c.mass * middles[i][1] * cm
		if lowest(p.task.Method, c.Item) { // the school's word against digging
			sum += perDeepCm * middles[i][2] * cm
		}
		if isHeavy(c.Piece, c.mass) {
			z := middles[i][2] * cm
			sum += perKg * c.mass / 1000 * max(0, low-z, z-high)
		}
	}
	sum += perBeside * float64(p.beside())
	centre := (p.elsewhereMoment + height) / max(1, p.elsewhereG+mass)
	sum += perBandCm * max(0, low-centre, centre-high)
	for turn, i := range p.order {
		sum += perTurn * math.Abs(float64(turn-home[i]))
	}
	_, hollow := p.trial.Hollows(0, p.space.Solid.Size[2], math.MaxInt)
	sum += perHollowL * float64(hollow) * cm * cm * cm / 1000
	if mass > 0 && p.task.Method.Spine != "soft" {
		sum += lever / mass / 100 * gravity * mass / 1000 * perNewtonM / 2
	}
	return sum
}

// exposed counts the things of a set that rain would spoil once they lie on the ground: in no bag.
func (p *packing) exposed(set stuff.Set) (n int) {
	for i, c := range p.inside {
		if set.Has(i) && c.spoilt > 0 && (p.bags == nil || p.bags[i] == none) {
			n++
		}
	}
	return n
}

// barriers counts what has to be opened on the way to a thing: liner and dry bag.
func (p *packing) barriers(i int) int {
	n := count(p.lined)
	if p.bags != nil && p.bags[i] != none {
		n++
	}
	return n
}

// beside counts the pairs that touch sideways and should not.
func (p *packing) beside() (n int) {
	if !slices.ContainsFunc(p.inside, func(c *choice) bool { return c.Has(kit.Sharp) || c.Has(kit.Fuel) }) {
		return 0
	}
	for i, touched := range p.trial.Beside(len(p.things)) {
		for j, c := range p.inside {
			if touched.Has(j) && (p.inside[i].Has(kit.Fuel) && c.Has(kit.Food) || p.inside[i].Has(kit.Sharp) && Holed(c.Piece)) {
				n++
			}
		}
	}
	return n
}

// Holed reports whether a point would ruin the thing: what holds water or air, and thin food bags.
func Holed(p kit.Piece) bool {
	return p.Water.Leaks || p.Has(kit.Crushable) && p.Serves("insulation") || p.Has(kit.Food) && p.Shape.Kind == kit.Soft
}

// inWay is what has to come out before a thing, towards that opening of its zone for which it is least. Through an open divider
// the bottom compartment is reached from the top too.
func (p *packing) inWay(i int, above, front []stuff.Set) stuff.Set {
	z := &p.task.Pack.Zones[p.inside[i].zone]
	fromTop := z.Opens("top") || z.Kind == rucksack.Bottom && p.open
	if z.Opens("front") && (!fromTop || p.lifts(front[i], i) < p.lifts(above[i], i)) {
		return front[i]
	}
	return above[i]
}

// bandCm is the load band of the school as heights above the foot of the pack.
func (p *packing) bandCm() (low, high float64) {
	low, high = p.task.Method.Band()
	shoulder := p.task.Pack.ShoulderCm()
	return low * shoulder, high * shoulder
}

// fillZones adds to the litres of body and bottom what only the trial knows.
func (p *packing) fillZones(plan *Plan) {
	solid := p.space.Solid
	litres := solid.CellCm * solid.CellCm * solid.CellCm / 1000
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if !z.Zone.Solid() {
			continue
		}
		region, from, to := stuff.Body, solid.Floor, solid.Size[2]
		if z.Zone.Kind == rucksack.Bottom {
			region, from, to = stuff.Bottom, 0, solid.Floor
		}
		z.CapacityL = float64(p.space.RoomBetween(from, to)) * litres
		z.NeedLooseL, z.NeedTightL = 0, 0
		for k := range p.things {
			if p.things[k].Region == region && slices.Contains(p.order, k) {
				z.NeedLooseL += float64(p.things[k].Cells(0)) * litres
				z.NeedTightL += float64(p.things[k].Cells(1)) * litres
			}
		}
		_, hollow := p.trial.Hollows(from, to, math.MaxInt)
		z.HollowL = float64(hollow) * litres
		z.Squeeze = p.squeeze
		z.State = stateFor(z.NeedLooseL, z.CapacityL, z.Squeeze)
		if z.NeedLooseL == 0 {
			z.State, z.Squeeze = Roomy, 0
		}
	}
	patches, _ := p.trial.Hollows(0, solid.Size[2], p.space.CellsOf(leastHollowL))
	slices.SortStableFunc(patches, func(a, b stuff.Hollow) int { return b.Cells - a.Cells })
	for _, h := range patches {
		at := solid.Origin
		for axis := range at {
			at[axis] += h.Middle[axis] * solid.CellCm
		}
		plan.Hollows = append(plan.Hollows, Hollow{float64(h.Cells) * litres, at})
	}
	plan.FillCm = float64(p.trial.FillLine()) * solid.CellCm
	plan.Open = p.open
}

// leastHollowL is the smallest hollow spot that is named.
const leastHollowL = 0.15

// describePlaces writes into the placements where the trial put things.
func (p *packing) describePlaces(plan *Plan) {
	solid := p.space.Solid
	cells, middles := p.trial.Middles(len(p.things))
	bounds := p.trial.Bounds(len(p.things))
	above, front, spine := p.trial.Over(len(p.things))
	beside := p.trial.Beside(len(p.things))
	at := map[kit.Piece]int{}
	for i, c := range p.inside {
		at[c.Piece] = i
	}
	frame := func(cell float64, axis int) float64 { return solid.Origin[axis] + cell*solid.CellCm }
	for k := range plan.Placed {
		pl := &plan.Placed[k]
		pl.Owner = -1
		pl.MiddleCm = pl.Zone.AtCm
		i, in := at[pl.Piece]
		if !in || cells[i] == 0 || pl.Inside != "" {
			continue
		}
		pl.Owner = int16(i)
		pl.Box = &Box{}
		for axis := range 3 {
			pl.Box.Min[axis], pl.Box.Max[axis] = frame(float64(bounds[i].Min[axis]), axis), frame(float64(bounds[i].Max[axis]), axis)
			pl.MiddleCm[axis] = frame(middles[i][axis], axis)
		}
		inWay := p.inWay(i, above, front)
		pl.LiftedOut, pl.Over, pl.Beside = inWay.Len(), p.pieces(inWay), p.pieces(beside[i])
		pl.AtSpine = float64(spine[i]) * solid.CellCm * solid.CellCm
		if pl.Piece.Shape.Kind == kit.Soft {
			pl.VolumeL = float64(cells[i]) * solid.CellCm * solid.CellCm * solid.CellCm / 1000
		}
		pl.Lane = p.lane(pl, solid)
	}
	plan.Cells = &Cells{Solid: solid, Owner: slices.Clone(p.trial.Owner)}
	for _, c := range p.inside {
		plan.Cells.Things = append(plan.Cells.Things, c.Piece)
	}
}

// pieces lists the things of a set, in loading order.
func (p *packing) pieces(set stuff.Set) []kit.Piece {
	var list []kit.Piece
	for _, i := range p.order {
		if set.Has(i) {
			list = append(list, p.inside[i].Piece)
		}
	}
	return list
}

// lane names where in the body a thing lies, when it clearly lies to one side of it.
func (p *packing) lane(pl *Placement, solid *rucksack.Solid) Lane {
	deep, wide := float64(solid.Size[1])*solid.CellCm, float64(solid.Size[0])*solid.CellCm
	switch {
	case pl.Box.Max[1] < deep*0.75 && pl.MiddleCm[1] < deep*0.42:
		return Back
	case pl.Box.Min[1] > deep*0.25 && pl.MiddleCm[1] > deep*0.58:
		return Front
	case pl.Box.Max[0] < wide*0.12:
		return Left
	case pl.Box.Min[0] > -wide*0.12:
		return Right
	}
	return Full
}
