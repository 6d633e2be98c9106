package load

import (
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// out is the index of no zone: the thing is left out.
const out = -1

// choice is a piece with everything the search needs of it, what it carries inside counted in.
type choice struct {
	kit.Piece
	mass        float64 // g, with what is nested inside
	rigid       float64 // litres of the box round it; 0 for a soft thing
	food, fuel  int
	wet, spoilt int
	pin         *Pin
	zone        int       // index into the pack's zones, or out
	price       []float64 // by zone; +Inf where it cannot be
	lies        []lies    // by zone, how it lies there
	leave       float64
	stuck       bool // no zone at all takes it
	stays       int  // the zone it is in now, or out
	inside      []kit.Piece
	insideOf    []string      // beside inside, the id of what each lies in
	limits      []reach.Limit // of the drills that ask for it
}

// assignment is the state of the search for the cheapest zones.
type assignment struct {
	task    *Task
	zones   []rucksack.Zone
	rooms   []rucksack.Zone // what the zones hold: the same, or body and bottom as one room
	open    bool            // the divider between them is taken to be open
	choices []*choice
	nested  map[kit.Piece][]kit.Piece
	fills   []fill
	moment  float64 // N·m to the right
	drawers [][]int // by zone, the zones that draw on it
	drawnOn []int   // by zone, the zone it draws on, or -1
	proof   Proof
	from    Arrangement // where things are now, or nil
	proved  effort      // how much was spent on the proof
	loss    []float64   // litres of each zone that trial packings have shown to be lost
	stop    func() bool // ends the search; what is found so far is kept
}

func newAssignment(task *Task, loose []kit.Piece, nested map[kit.Piece][]kit.Piece, open bool) *assignment {
	a := &assignment{task: task, zones: task.Pack.Zones, rooms: task.Pack.Zones, nested: nested, open: open}
	if open {
		a.rooms = opened(a.zones)
	}
	a.fills = make([]fill, len(a.zones))
	a.drawers = make([][]int, len(a.zones))
	a.drawnOn = make([]int, len(a.zones))
	a.loss = make([]float64, len(a.zones))
	for i := range a.zones {
		a.drawnOn[i] = -1
		if d := a.rooms[i].DrawsOn; d != nil {
			for j := range a.zones {
				if a.zones[j].ID == d.Zone {
					a.drawers[j] = append(a.drawers[j], i)
					a.drawnOn[i] = j
				}
			}
		}
	}
	for _, p := range loose {
		a.choices = append(a.choices, a.newChoice(p))
	}
	return a
}

// ofKind is the index of the first zone of a kind, -1 for none.
func ofKind(zones []rucksack.Zone, kind rucksack.ZoneKind) int {
	return slices.IndexFunc(zones, func(z rucksack.Zone) bool { return z.Kind == kind })
}

// opened joins body and bottom compartment, whose divider is open: each may hold what goes into both together, and
// what lies in the bottom takes its litres from the body.
func opened(zones []rucksack.Zone) []rucksack.Zone {
	rooms := slices.Clone(zones)
	body := ofKind(rooms, rucksack.Body)
	bottom := ofKind(rooms, rucksack.Bottom)
	if body < 0 || bottom < 0 {
		return rooms
	}
	b, c := &rooms[body], &rooms[bottom]
	b.VolumeL += c.CapacityL()
	b.SizeCm[2] += c.SizeCm[2]
	c.VolumeL, c.StretchL, c.SizeCm = b.CapacityL(), 0, b.SizeCm
	c.DrawsOn = &rucksack.Draw{Zone: b.ID, Share: 1}
	return rooms
}

func (a *assignment) newChoice(p kit.Piece) *choice {
	c := &choice{Piece: p, zone: out, stays: out, leave: leaveCost(p), pin: a.task.PinFor(p), limits: reach.Limits(p.Item)}
	c.inside, c.insideOf = nestedIn(p, a.nested)
	if p.Shape.Kind != kit.Soft {
		c.rigid = p.Shape.BoxL()
	}
	c.lies = make([]lies, len(a.zones))
	for _, q := range append([]kit.Piece{p}, c.inside...) {
		c.mass += q.MassG
		c.food += count(q.Has(kit.Food))
		c.fuel += count(q.Has(kit.Fuel))
		c.wet += count(q.Water.Leaks || q.Water.ReturnsWet)
		c.spoilt += count(dry.Need(q.Item) == 2 && !dry.Cased(q.Item))
	}
	c.price = make([]float64, len(a.zones))
	for i := range a.zones {
		z := &a.zones[i]
		c.lies[i] = lie(&a.task.Pack, &a.rooms[i], c.Shape, c.mass)
		switch {
		case c.pin != nil && c.pin.Zone != "" && c.pin.Zone != z.ID, !c.lies[i].goes, a.open && a.oneRoom(c, z),
			z.Kind == rucksack.Straps && !c.pinnedTo(z) && !mayHang(a.task.Method, c.Item):
			c.price[i] = math.Inf(1)
		default:
			for _, t := range terms(a.task, c, z) {
				c.price[i] += t.cost
			}
		}
	}
	if !slices.ContainsFunc(c.price, func(v float64) bool { return !math.IsInf(v, 1) }) {
		c.stuck = true
	}
	return c
}

// oneRoom reports whether a thing is not asked for in the bottom compartment, which with its divider open is part of
// the body: two names for one room would make the program hard for nothing. Where it lies is looked up when it is
// packed.
func (a *assignment) oneRoom(c *choice, z *rucksack.Zone) bool {
	return z.Kind == rucksack.Bottom && !c.pinnedTo(z) && ofKind(a.zones, rucksack.Body) >= 0
}

// nameBottom lets things lie in the bottom compartment by name again. The program keeps its prices.
func (a *assignment) nameBottom() {
	bottom := ofKind(a.zones, rucksack.Bottom)
	for _, c := range a.choices {
		if z := &a.zones[bottom]; a.oneRoom(c, z) && c.lies[bottom].goes && (c.pin == nil || c.pin.Zone == "") {
			c.price = slices.Clone(c.price)
			c.price[bottom] = 0
			for _, t := range terms(a.task, c, z) {
				c.price[bottom] += t.cost
			}
		}
	}
}

func (c *choice) pinnedTo(z *rucksack.Zone) bool { return c.pin != nil && c.pin.Zone == z.ID }

// room is the capacity of a zone after what the pockets that draw on it take, when these are squeezed that much.
func (a *assignment) room(zone int, squeeze float64) float64 {
	return max(0, a.capacity(zone)-a.drawn(zone, squeeze))
}

// zoneCost prices what lies together in a zone; +Inf when even tight it is too much.
func (a *assignment) zoneCost(zone int) float64 {
	f := &a.fills[zone]
	tight, loose := f.need(1)+a.drawn(zone, 1), f.need(0)+a.drawn(zone, 0)
	capacity := a.capacity(zone)
	limit := a.massLimit(zone)
	if tight > capacity+litreSlack || limit > 0 && f.mass > limit+litreSlack {
		return math.Inf(1)
	}
	cost := a.squeezePrice(zone) * max(0, loose-capacity)
	if a.pocket(zone) {
		if f.food > 0 && f.fuel > 0 {
			cost += breach
		}
		if f.wet > 0 && f.spoilt > 0 {
			cost += breach
		}
	}
	return cost
}

// drawn is the litres that pockets take out of a zone at a squeeze.
func (a *assignment) drawn(zone int, squeeze float64) (sum float64) {
	for _, d := range a.drawers[zone] {
		if a.fills[d].count > 0 {
			sum += a.rooms[d].DrawsOn.Share * a.fills[d].need(squeeze)
		}
	}
	return sum
}

// squeezeNow is the squeeze of a zone as it is filled, 1 when it is overfull.
func (a *assignment) squeezeNow(zone int) float64 { return min(1, a.squeeze(zone)) }

func (a *assignment) squeeze(zone int) float64 {
	f := &a.fills[zone]
	loose, tight := f.need(0)-a.room(zone, 0), f.need(1)-a.room(zone, 1)
	return squeezeFor(loose, tight, 0)
}

// around prices the zones that a change in the given ones can touch.
func (a *assignment) around(zones ...int) float64 {
	sum := sideCost(a.moment)
	seen := make([]int, 0, 8)
	visit := func(i int) {
		if i != out && !slices.Contains(seen, i) {
			seen = append(seen, i)
			sum += a.zoneCost(i)
		}
	}
	for _, i := range zones {
		visit(i)
		if i == out || a.rooms[i].DrawsOn == nil {
			continue
		}
		for j, drawers := range a.drawers {
			if slices.Contains(drawers, i) {
				visit(j)
			}
		}
	}
	return sum
}

func (c *choice) cost(zone int) float64 {
	if zone == out {
		return c.leave
	}
	return c.price[zone]
}

// put moves a choice to a zone without asking what it costs.
func (a *assignment) put(c *choice, zone int) {
	if c.zone != out {
		a.fills[c.zone].add(c, c.zone, -1)
		a.moment -= sideMoment(&a.zones[c.zone], c.mass)
	}
	c.zone = zone
	if zone != out {
		a.fills[zone].add(c, zone, 1)
		a.moment += sideMoment(&a.zones[zone], c.mass)
	}
}

// capacity is the litres of a zone before anything draws on it.
func (a *assignment) capacity(zone int) float64 {
	return max(0, a.rooms[zone].CapacityL()-a.loss[zone])
}

// massLimit is the grams that straps may hold, 0 for no limit.
func (a *assignment) massLimit(zone int) float64 {
	if z := &a.zones[zone]; z.Kind == rucksack.Straps {
		return z.MaxMassG
	}
	return 0
}

// squeezePrice is what a litre that must be squeezed costs in a zone.
func (a *assignment) squeezePrice(zone int) float64 {
	if a.zones[zone].Kind == rucksack.Straps {
		return 0
	}
	return perSqueezeL
}

// total is the cost of the assignment as it stands: the objective of the program.
func (a *assignment) total() float64 {
	sum := sideCost(a.moment)
	for z := range a.zones {
		sum += a.zoneCost(z)
	}
	for _, c := range a.choices {
		sum += c.cost(c.zone)
	}
	return sum
}

func (a *assignment) zonesNow() []int {
	zones := make([]int, len(a.choices))
	for i, c := range a.choices {
		zones[i] = c.zone
	}
	return zones
}

// putAll puts every thing into the zone that was kept of it.
func (a *assignment) putAll(zones []int) {
	for i, c := range a.choices {
		a.put(c, zones[i])
	}
}
