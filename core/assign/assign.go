// Package assign decides which zone of the pack each thing goes into: the cheapest assignment under the litres of the
// zones, proved as far as the effort goes.
//
// A Choice is a piece with its price in every zone. What a price is made of stands in cost.go, rule by rule, in seconds
// a day; how a thing lies in a pocket in pocket.go; how full a zone is in fill.go. Solve begins with a local search
// (local.go) and goes on with the mixed-integer program (program.go) that package mip solves and WriteLP writes. why.go
// turns the prices that decided into facts. What the zones really hold only a trial packing shows: package load tells
// what it found by Loss, and solves again.
package assign

import (
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// Out is the index of no zone: the thing is left out.
const Out = -1

// Choice is a piece with everything the search needs of it, what it carries inside counted in.
type Choice struct {
	kit.Piece
	Mass        float64 // g, with what is nested inside
	Rigid       float64 // litres of the box round it; 0 for a soft thing
	food, fuel  int
	Wet, Spoilt int
	Pin         *job.Pin  // or nil
	Zone        int       // index into the pack's zones, or Out
	Price       []float64 // by zone, seconds a day; +Inf where it cannot be
	Lies        []Fit     // by zone, how it lies there
	Leave       float64   // seconds a day that leaving it out costs
	Stuck       bool      // no zone at all takes it
	stays       int       // the zone it is in now, or Out
	Inside      []kit.Piece
	InsideOf    []string      // beside inside, the id of what each lies in
	Limits      []reach.Limit // of the drills that ask for it
}

// Assignment is the state of the search for the cheapest zones.
type Assignment struct {
	Task    *job.Task
	Zones   []rucksack.Zone
	rooms   []rucksack.Zone // what the zones hold: the same, or body and bottom as one room
	Open    bool            // the divider between them is taken to be open
	Choices []*Choice
	nested  map[kit.Piece][]kit.Piece
	fills   []fill
	moment  float64 // N·m to the right
	drawers [][]int // by zone, the zones that draw on it
	drawnOn []int   // by zone, the zone it draws on, or -1
	Proof   Proof
	From    job.Arrangement // where things are now, or nil
	Loss    []float64       // litres of each zone that trial packings have shown to be lost
	Stop    func() bool     // ends the search; what is found so far is kept
	weighed int             // pairs, so far
	kept    *Choice         // stays where it is while the rest is moved, or nil
}

// New is an assignment in which everything is left out, of pieces that need a place of their own and what is nested
// in them; open when the divider between body and bottom is taken to be.
func New(task *job.Task, loose []kit.Piece, nested map[kit.Piece][]kit.Piece, open bool) *Assignment {
	a := &Assignment{Task: task, Zones: task.Pack.Zones, rooms: task.Pack.Zones, nested: nested, Open: open}
	if open {
		a.rooms = opened(a.Zones)
	}
	a.fills = make([]fill, len(a.Zones))
	a.drawers = make([][]int, len(a.Zones))
	a.drawnOn = make([]int, len(a.Zones))
	a.Loss = make([]float64, len(a.Zones))
	for i := range a.Zones {
		a.drawnOn[i] = -1
		if d := a.rooms[i].DrawsOn; d != nil {
			for j := range a.Zones {
				if a.Zones[j].ID == d.Zone {
					a.drawers[j] = append(a.drawers[j], i)
					a.drawnOn[i] = j
				}
			}
		}
	}
	for _, p := range loose {
		a.Choices = append(a.Choices, a.newChoice(p))
	}
	return a
}

// OfKind is the index of the first zone of a kind, -1 for none.
func OfKind(zones []rucksack.Zone, kind rucksack.ZoneKind) int {
	return slices.IndexFunc(zones, func(z rucksack.Zone) bool { return z.Kind == kind })
}

// opened joins body and bottom compartment, whose divider is open: each may hold what goes into both together, and
// what lies in the bottom takes its litres from the body.
func opened(zones []rucksack.Zone) []rucksack.Zone {
	rooms := slices.Clone(zones)
	body := OfKind(rooms, rucksack.Body)
	bottom := OfKind(rooms, rucksack.Bottom)
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

func (a *Assignment) newChoice(p kit.Piece) *Choice {
	c := &Choice{Piece: p, Zone: Out, stays: Out, Leave: leaveCost(p), Pin: a.Task.PinFor(p), Limits: reach.Limits(p.Item)}
	c.Inside, c.InsideOf = job.NestedIn(p, a.nested)
	if p.Shape.Kind != kit.Soft {
		c.Rigid = p.Shape.BoxL()
	}
	for _, q := range c.Inside {
		c.Leave += leaveInside * leaveCost(q)
	}
	c.Lies = make([]Fit, len(a.Zones))
	for _, q := range append([]kit.Piece{p}, c.Inside...) {
		c.Mass += q.MassG
		c.food += asOne(q.Has(kit.Food))
		c.fuel += asOne(q.Has(kit.Fuel))
		c.Wet += asOne(q.Water.Leaks || q.Water.ReturnsWet)
		c.Spoilt += asOne(dry.Need(q.Item) == 2 && !dry.Cased(q.Item))
	}
	c.Price = make([]float64, len(a.Zones))
	for i := range a.Zones {
		z := &a.Zones[i]
		c.Lies[i] = Lie(&a.Task.Pack, &a.rooms[i], c.Shape, c.Mass)
		switch {
		case c.Pin != nil && c.Pin.Zone != "" && c.Pin.Zone != z.ID, !c.Lies[i].Goes, a.Open && a.OneRoom(c, z),
			z.Kind == rucksack.Straps && !c.pinnedTo(z) && !MayHang(a.Task.Method, c.Item):
			c.Price[i] = math.Inf(1)
		default:
			for _, t := range terms(a.Task, c, z) {
				c.Price[i] += t.cost
			}
		}
	}
	if !slices.ContainsFunc(c.Price, func(v float64) bool { return !math.IsInf(v, 1) }) {
		c.Stuck = true
	}
	return c
}

// OneRoom reports whether a thing is not asked for in the bottom compartment, which with its divider open is part of
// the body: two names for one room would make the program hard for nothing. Where it lies is looked up when it is
// packed.
func (a *Assignment) OneRoom(c *Choice, z *rucksack.Zone) bool {
	return z.Kind == rucksack.Bottom && !c.pinnedTo(z) && OfKind(a.Zones, rucksack.Body) >= 0
}

// NameBottom lets things lie in the bottom compartment by name again. The program keeps its prices.
func (a *Assignment) NameBottom() {
	bottom := OfKind(a.Zones, rucksack.Bottom)
	for _, c := range a.Choices {
		if z := &a.Zones[bottom]; a.OneRoom(c, z) && c.Lies[bottom].Goes && (c.Pin == nil || c.Pin.Zone == "") {
			c.Price = slices.Clone(c.Price)
			c.Price[bottom] = 0
			for _, t := range terms(a.Task, c, z) {
				c.Price[bottom] += t.cost
			}
		}
	}
}

func (c *Choice) pinnedTo(z *rucksack.Zone) bool { return c.Pin != nil && c.Pin.Zone == z.ID }

// room is the capacity of a zone after what the pockets that draw on it take, when these are squeezed that much.
func (a *Assignment) room(zone int, squeeze float64) float64 {
	return max(0, a.capacity(zone)-a.drawn(zone, squeeze))
}

// zoneCost prices what lies together in a zone; +Inf when even tight it is too much.
func (a *Assignment) zoneCost(zone int) float64 { return a.zoneCostAt(zone, math.Inf(1), math.Inf(1)) }

// zoneCostAt prices what lies together in a zone when a litre, or on straps a gram, too many costs so much.
func (a *Assignment) zoneCostAt(zone int, litre, gram float64) float64 {
	f := &a.fills[zone]
	tight, loose := f.need(1)+a.drawn(zone, 1), f.need(0)+a.drawn(zone, 0)
	capacity := a.capacity(zone)
	cost := a.squeezePrice(zone) * max(0, loose-capacity)
	if tight > capacity+LitreSlack {
		cost += litre * (tight - capacity)
	}
	if limit := a.massLimit(zone); limit > 0 && f.mass > limit+LitreSlack {
		cost += gram * (f.mass - limit)
	}
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
func (a *Assignment) drawn(zone int, squeeze float64) (sum float64) {
	for _, d := range a.drawers[zone] {
		if a.fills[d].count > 0 {
			sum += a.rooms[d].DrawsOn.Share * a.fills[d].need(squeeze)
		}
	}
	return sum
}

// Used reports whether anything lies in a zone.
func (a *Assignment) Used(zone int) bool { return a.fills[zone].count > 0 }

// NeedNow is the litres that what lies in a zone takes there, squeezed as far as it has to be.
func (a *Assignment) NeedNow(zone int) float64 { return a.fills[zone].need(min(1, a.squeeze(zone))) }

func (a *Assignment) squeeze(zone int) float64 {
	f := &a.fills[zone]
	loose, tight := f.need(0)-a.room(zone, 0), f.need(1)-a.room(zone, 1)
	return SqueezeFor(loose, tight, 0)
}

// Around prices the zones that a move from one to another can touch; either may be Out.
func (a *Assignment) Around(from, to int) float64 {
	sum := sideCost(a.moment)
	zones, n := a.touched(from, to)
	for _, z := range zones[:n] {
		sum += a.zoneCost(z)
	}
	return sum
}

// touched lists the zones that a move from one to another touches, each once: themselves and what they draw on.
func (a *Assignment) touched(from, to int) (zones [4]int, n int) {
	add := func(z int) {
		if z != Out && !slices.Contains(zones[:n], z) {
			zones[n] = z
			n++
		}
	}
	for _, z := range [2]int{from, to} {
		if add(z); z != Out {
			add(a.drawnOn[z])
		}
	}
	return zones, n
}

func (c *Choice) cost(zone int) float64 {
	if zone == Out {
		return c.Leave
	}
	return c.Price[zone]
}

// Put moves a choice to a zone without asking what it costs.
func (a *Assignment) Put(c *Choice, zone int) {
	if c.Zone != Out {
		a.fills[c.Zone].add(c, c.Zone, -1)
		a.moment -= sideMoment(&a.Zones[c.Zone], c.Mass)
	}
	c.Zone = zone
	if zone != Out {
		a.fills[zone].add(c, zone, 1)
		a.moment += sideMoment(&a.Zones[zone], c.Mass)
	}
}

// capacity is the litres of a zone before anything draws on it.
func (a *Assignment) capacity(zone int) float64 {
	return max(0, a.rooms[zone].CapacityL()-a.Loss[zone])
}

// massLimit is the grams that straps may hold, 0 for no limit.
func (a *Assignment) massLimit(zone int) float64 {
	if z := &a.Zones[zone]; z.Kind == rucksack.Straps {
		return z.MaxMassG
	}
	return 0
}

// squeezePrice is what a litre that must be squeezed costs in a zone.
func (a *Assignment) squeezePrice(zone int) float64 {
	if a.Zones[zone].Kind == rucksack.Straps {
		return 0
	}
	return PerSqueezeL
}

// Total is the cost of the assignment as it stands: the objective of the program.
func (a *Assignment) Total() float64 {
	sum := a.zonesCost()
	for _, c := range a.Choices {
		sum += c.cost(c.Zone)
	}
	return sum
}

// ZonesNow lists the zone of every choice, for PutAll.
func (a *Assignment) ZonesNow() []int {
	zones := make([]int, len(a.Choices))
	for i, c := range a.Choices {
		zones[i] = c.Zone
	}
	return zones
}

// Attempt makes a change and keeps it if that says so; else every thing goes back into the zone that it was in.
func (a *Assignment) Attempt(change func() (keep bool)) (kept bool) {
	before := a.ZonesNow()
	if kept = change(); !kept {
		a.PutAll(before)
	}
	return kept
}

// PutAll puts every thing into the zone that was kept of it. What the zones hold is summed up anew: it is the same to
// the last digit, whatever was tried on the way.
func (a *Assignment) PutAll(zones []int) {
	clear(a.fills)
	a.moment = 0
	for i, c := range a.Choices {
		c.Zone = Out
		a.Put(c, zones[i])
	}
}
