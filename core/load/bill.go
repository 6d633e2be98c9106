package load

import (
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// Prices of an order, in seconds a day.
const (
	perHollowL  = 4.0  // a litre of hollow spot
	perSpineCm  = 0.02 // a square centimetre of something hard against the spine
	perTurn     = 1.5  // a turn in the order away from the planned one
	topUses     = 10.0 // uses a day that what is wanted on top counts as
	perDeepCm   = 0.3  // a centimetre of height of what is wanted deep
	perLowestCm = 2.0  // a centimetre of height of what the school wants lowest
	perKg       = 3.0  // a kilogram a centimetre outside the load band
	perSoaked   = 40.0 // something that must stay dry and is rained on in a drill in which nothing may be
	perBandCm   = 8.0  // a centimetre of the whole pack's centre outside the load band
	perDay      = 25.0 // a day's food under that of a later day
	perWetIn    = 60.0 // something wet or leaking in the liner, under things that must stay dry
	perBeside   = 30.0 // something against what it would spoil: sharp things and air mats, fuel and food
	perBetween  = 2.5  // a thing that goes in between two pieces of one line, of the first few of them
	fewBetween  = 6
)

// aim is something that an order is priced by.
type aim int

// The aims. What goes in only elsewhere is not a price but a must.
const (
	aimUnknown aim = iota
	aimRoom
	aimDig
	aimRain
	aimDrill
	aimDays
	aimWet
	aimBeside
	aimTogether
	aimBand
	aimSpine
	aimLever
	aimHollow
	aimDeep
	aimTurn
	aimSqueeze
	aims
)

// aimFacts say what a thing out of its turn is good for.
var aimFacts = [aims]fact.Fact{
	aimRoom: fact.Of("load.aim-room"), aimDig: fact.Of("load.aim-dig"), aimRain: fact.Of("load.aim-rain"),
	aimDrill: fact.Of("load.aim-drill"), aimDays: fact.Of("load.aim-days"), aimWet: fact.Of("load.aim-wet"),
	aimBeside: fact.Of("load.aim-beside"), aimTogether: fact.Of("load.aim-together"), aimBand: fact.Of("load.aim-band"),
	aimSpine: fact.Of("load.aim-spine"), aimLever: fact.Of("load.aim-lever"), aimHollow: fact.Of("load.aim-hollow"),
	aimDeep: fact.Of("load.aim-deep"), aimSqueeze: fact.Of("load.aim-squeeze"),
}

// bill is the price of an order by aims, in seconds a day.
type bill [aims]float64

func (b bill) sum() (sum float64) {
	for _, v := range b {
		sum += v
	}
	return sum
}

// minded is how far from its planned turn a thing must be for the difference to be looked into.
const minded = 3

// mind goes through the things that are clearly out of their turn: each is put back to it for trial. Where that costs
// less, it stays there; otherwise the aim that speaks most against it is the reason for where it is.
func (p *packing) mind(home []int) {
	p.aims = make([]aim, len(p.things))
	now := p.bill(home)
	for _, i := range slices.Clone(p.order) {
		turn := slices.Index(p.order, i)
		if max(turn-home[i], home[i]-turn) < minded {
			continue
		}
		if p.budget.over() {
			break
		}
		before := slices.Clone(p.order)
		unit := p.takeUnit(i)
		p.order = slices.Insert(p.order, min(home[i], len(p.order)), unit...)
		p.gather()
		p.budget.trials++
		if !p.goesIn(p.squeeze) {
			p.aims[i] = aimRoom
			if p.squeeze < 1 && p.goesIn(1) {
				p.aims[i] = aimSqueeze
			}
			p.order = before
			continue
		}
		there := p.bill(home)
		if there.sum() < now.sum()-assign.Gain {
			now = there
			continue
		}
		most := 0.0
		for a := range aimTurn {
			if more := there[a] - now[a]; more > most {
				p.aims[i], most = a, more
			}
		}
		p.order = before
	}
	p.run(p.squeeze)
}

// cost is the whole price of the last trial.
func (p *packing) cost(home []int) float64 { return p.bill(home).sum() }

// bill prices the last trial, aim by aim. Home is the turn of every thing that the times of need ask for.
func (p *packing) bill(home []int) (b bill) { return p.bills(home, nil) }

// share is what a thing has of the bill, and how much of it speaks for a later, higher place rather than an earlier
// one.
type share struct{ of, later float64 }

// shareOf is the part of a thing at a height in what its lines have added to the bill.
func shareOf(b, before *bill, z, low float64) share {
	s := share{of: b.sum() - before.sum()}
	s.later = s.of - 2*(b[aimDeep]-before[aimDeep]) - (b[aimSpine] - before[aimSpine])
	if z >= low { // as far as it is out of the band, it is above
		s.later -= 2 * (b[aimBand] - before[aimBand])
	}
	return s
}

// bills is bill, and writes into shares, if given, how much of it each thing has a part in.
func (p *packing) bills(home []int, shares []share) (b bill) {
	seen := p.trial.Survey(len(p.things), p.opensFront(), p.spoilers)
	cm := p.space.Solid.CellCm
	mass, height, lever := 0.0, 0.0, 0.0
	low, high := p.bandCm()
	for i, c := range p.inside {
		if seen.Cells[i] == 0 {
			continue
		}
		before := b
		z := seen.Middles[i][2] * cm
		p.dig(&b, i, seen, z)
		softSpine := p.task.Method.Spine == "soft" && isHeavy(c.Piece, c.Mass)
		if c.Has(kit.Hard) || c.Has(kit.Sharp) || softSpine {
			b[aimSpine] += perSpineCm * cm * cm * float64(seen.Spine[i])
		}
		mass += c.Mass
		height += c.Mass * z
		lever += c.Mass * seen.Middles[i][1] * cm
		if assign.Lowest(p.task.Method, c.Item) { // the school's word against digging
			b[aimDeep] += perLowestCm * z
		}
		if isHeavy(c.Piece, c.Mass) {
			b[aimBand] += perKg * c.Mass / 1000 * max(0, low-z, z-high)
		}
		if shares != nil {
			shares[i] = shareOf(&b, &before, z, low)
		}
	}
	if p.lined {
		p.wetInLiner(&b, shares)
	}
	if p.spoilers {
		b[aimBeside] = perBeside * float64(p.beside(seen, shares))
	}
	p.scattered(&b, shares)
	centre := (p.elsewhereMoment + height) / max(1, p.elsewhereG+mass)
	b[aimBand] += perBandCm * max(0, low-centre, centre-high)
	for turn, i := range p.order {
		away := perTurn * math.Abs(float64(turn-home[i]))
		b[aimTurn] += away
		if shares != nil {
			shares[i].of += away
			shares[i].later += float64(home[i]-turn) * perTurn
		}
	}
	b[aimSqueeze] = assign.PerSqueezeL * p.squeeze * p.givesL()
	b[aimHollow] = perHollowL * p.litres(seen.Hollow)
	if mass > 0 && p.task.Method.Spine != "soft" {
		b[aimLever] = lever / mass / 100 * assign.Gravity * mass / 1000 * assign.PerNewtonM / 2
	}
	return b
}

// scattered prices what goes in between the pieces of a line: three pairs of socks are looked for in one place.
func (p *packing) scattered(b *bill, shares []share) {
	for first, last := 0, 0; first < len(p.inside); first = last {
		for last = first; last < len(p.inside) && p.inside[last].ID == p.inside[first].ID; last++ {
		}
		if last-first == 1 {
			continue
		}
		turns := make([]int, 0, 8)
		for turn, i := range p.order {
			if i >= first && i < last && p.things[i].Region == p.things[first].Region {
				turns = append(turns, turn)
			}
		}
		for k := 1; k < len(turns); k++ {
			cost := perBetween * float64(min(fewBetween, turns[k]-turns[k-1]-1))
			b[aimTogether] += cost
			if shares != nil {
				shares[p.order[turns[k-1]]].of += cost / 2
				shares[p.order[turns[k]]].of += cost / 2
			}
		}
	}
}

// wetInLiner prices what is wet or leaks and goes in before something that must stay dry: it lies in the liner with
// it.
func (p *packing) wetInLiner(b *bill, shares []share) {
	dry := false
	for turn := len(p.order) - 1; turn >= 0; turn-- {
		i := p.order[turn]
		c := p.inside[i]
		if p.things[i].Region != p.things[p.order[len(p.order)-1]].Region {
			continue
		}
		if c.Spoilt > 0 && (p.bags == nil || p.bags[i] == none) {
			dry = true
		}
		if dry && c.Wet > 0 && c.Spoilt == 0 && (p.bags == nil || p.bags[i] == none) {
			b[aimWet] += perWetIn
			if shares != nil {
				shares[i].of += perWetIn
				shares[i].later += perWetIn
			}
		}
	}
}

// dig prices how a thing comes to hand, and what lies in the rain meanwhile.
func (p *packing) dig(b *bill, i int, seen *stuff.Survey, z float64) {
	c := p.inside[i]
	inWay := p.inWay(i, seen)
	lifted := p.lifts(inWay, i)
	if c.Has(kit.Food) && c.Day > 0 {
		for j, other := range p.inside {
			if inWay.Has(j) && other.Has(kit.Food) && other.Day > c.Day {
				b[aimDays] += perDay
			}
		}
	}
	uses := p.uses[i]
	if uses > 0 || len(c.Limits) > 0 {
		exposed := p.task.Trip.Rain * float64(p.exposed(inWay))
		b[aimRain] += assign.PerExposedS * uses * reach.PerLift * exposed
		for _, limit := range c.Limits {
			if limit.NoneWet {
				b[aimRain] += perSoaked * exposed
			}
			takes := reach.InHand(&p.task.Pack.Zones[c.Zone], float64(lifted), p.barriers(i))
			b[aimDrill] += assign.PerOverS * max(0, takes-limit.S)
		}
	}
	if c.Serves("shelter") && c.Use.When == kit.Arrival {
		if p.task.Method.Shelter == "top" {
			uses += topUses
		} else { // only camp needs it: no word against lying deep
			uses = 0
			b[aimDeep] += perDeepCm * z
		}
	}
	b[aimDig] += reach.PerLift * uses * float64(lifted)
}

// givesL is the litres that the soft things give way by from loose to tight.
func (p *packing) givesL() float64 {
	cells := 0
	for i := range p.things {
		cells += p.things[i].Cells(0) - p.things[i].Cells(1)
	}
	return p.litres(cells)
}

// opensFront reports whether things can be reached from the front.
func (p *packing) opensFront() bool {
	for i := range p.task.Pack.Zones {
		if z := &p.task.Pack.Zones[i]; z.Solid() && z.Opens("front") {
			return true
		}
	}
	return false
}

// exposed counts the things of a set that rain would spoil once they lie on the ground: in no bag.
func (p *packing) exposed(set stuff.Set) (n int) {
	for i, c := range p.inside {
		if set.Has(i) && c.Spoilt > 0 && (p.bags == nil || p.bags[i] == none) {
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
func (p *packing) beside(seen *stuff.Survey, shares []share) (n int) {
	for i, a := range p.inside {
		if !spoils(a) {
			continue
		}
		for j, c := range p.inside {
			if seen.Beside[i].Has(j) && (a.Has(kit.Fuel) && c.Has(kit.Food) || a.Has(kit.Sharp) && Holed(c.Piece)) {
				n++
				if shares != nil {
					shares[i].of += perBeside
					shares[j].of += perBeside
				}
			}
		}
	}
	return n
}

// spoils reports whether there is something that a thing must not touch.
func spoils(c *assign.Choice) bool { return c.Has(kit.Sharp) || c.Has(kit.Fuel) }

// Holed reports whether a point would ruin the thing: what holds water or air, and thin food bags.
func Holed(p kit.Piece) bool {
	return p.Water.Leaks || p.Has(kit.Crushable) && p.Serves("insulation") || p.Has(kit.Food) && p.Shape.Kind == kit.Soft
}

// inWay is what has to come out before a thing, towards that opening of its zone for which it is least. Through an
// open divider the bottom compartment is reached from the top too.
func (p *packing) inWay(i int, seen *stuff.Survey) stuff.Set {
	z := &p.task.Pack.Zones[p.inside[i].Zone]
	fromTop := z.Opens("top") || z.Kind == rucksack.Bottom && p.open
	if z.Opens("front") && (!fromTop || p.lifts(seen.Front[i], i) < p.lifts(seen.Above[i], i)) {
		return seen.Front[i]
	}
	return seen.Above[i]
}

// bandCm is the load band of the school as heights above the foot of the pack.
func (p *packing) bandCm() (low, high float64) {
	low, high = p.task.Method.Band()
	shoulder := p.task.Pack.ShoulderCm()
	return low * shoulder, high * shoulder
}
