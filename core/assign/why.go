package assign

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// lightG is the mass below which nobody lays a thing into the body for the sake of where weight rides well (our
// estimate).
const lightG = 300

// WhyZone compares the chosen zone with the one a packer would ask about: the body for what lies elsewhere, the next
// best zone for what lies in the body. The rule that speaks most for the choice is the reason; false when there is none
// that a packer would give.
func (a *Assignment) WhyZone(c *Choice) (Reason, bool) {
	next := Out
	for i := range a.Zones {
		if a.Open && a.Zones[i].Solid() && a.Zones[c.Zone].Solid() {
			continue // one room
		}
		if a.Zones[i].Kind == rucksack.Body && i != c.Zone && !math.IsInf(c.Price[i], 1) {
			next = i
			break
		}
		if i != c.Zone && !math.IsInf(c.Price[i], 1) && a.Zones[i].Kind != a.Zones[c.Zone].Kind &&
			(next == Out || c.Price[i] < c.Price[next]) {
			next = i
		}
	}
	if next == Out {
		return Reason{"only", fact.Of("load.only")}, true
	}
	here, there := map[Rule]float64{}, terms(a.Task, c, &a.Zones[next])
	for _, t := range terms(a.Task, c, &a.Zones[c.Zone]) {
		here[t.rule] += t.cost
	}
	var rule Rule
	most := Gain
	onlyHeight := false
	for _, t := range there {
		switch d := t.cost - here[t.rule]; {
		case d <= most:
		case t.rule == RuleHeight && c.Mass < lightG && a.Zones[c.Zone].Solid():
			onlyHeight = true
		default:
			rule, most = t.rule, d
		}
	}
	if rule == "" && c.stays == c.Zone {
		return Reason{string(RuleStay), fact.Of("load.stays")}, true
	}
	if rule == "" && onlyHeight {
		return Reason{}, false
	}
	if rule == "" {
		return Reason{string(RuleSqueeze), fact.Of("load.better-full", fact.Small(a.Zones[next].Name))}, true
	}
	why := a.zoneFact(rule, c, next)
	return Reason{string(rule), why}, !why.None()
}

// zoneFact is what a deciding rule found; every figure comes from the thing and the two zones compared.
func (a *Assignment) zoneFact(rule Rule, c *Choice, next int) fact.Fact {
	z, other := &a.Zones[c.Zone], &a.Zones[next]
	there := fact.Small(other.Name)
	switch rule {
	case RuleReach:
		if DrunkThroughTube(a.Task.Method, c.Item, z) {
			return fact.Of("load.tube")
		}
		nearer := seconds(a.Task, c.Piece, other) - seconds(a.Task, c.Piece, z)
		return fact.Of("load.reach", fact.TimesADay(c.Use.PerDay), nearer, there)
	case RuleUrgent:
		return fact.Of("load.urgent", seconds(a.Task, c.Piece, z), seconds(a.Task, c.Piece, other), there)
	case RuleFound:
		return fact.Of("load.found")
	case RuleDrill:
		tightest := slices.MinFunc(c.Limits, func(a, b reach.Limit) int { return cmp.Compare(a.S, b.S) })
		return fact.Of("load.drill", inHand(a.Task, c.Piece, z), there, inHand(a.Task, c.Piece, other), tightest.S)
	case RuleDug:
		return fact.Of("load.dug", there)
	case RuleCamp:
		if z.Solid() {
			return fact.Of("load.camp")
		}
		return fact.Of("load.camp-less", there)
	case RuleSleeve:
		return fact.Of("load.to-water", there)
	case RuleMesh:
		return fact.Of("load.mesh", there)
	case RuleSwing:
		return fact.Of("load.swing", fact.Grams(c.Mass), there)
	case RuleHeight:
		return fact.Of("load.height", fact.Grams(c.Mass))
	case RuleWet:
		return fact.Of("load.wet-apart")
	case RuleRain:
		return fact.Of("load.weather", there)
	case RuleRescue:
		if !c.Has(kit.Rescue) {
			return fact.Of("load.to-rescue", there)
		}
		return fact.Of("load.rescue")
	case RuleWater:
		if c.Shape.Rigid() && a.Task.Method.Water != "bottles" {
			return fact.Of("load.bottle-outside")
		}
		return waterFacts[a.Task.Method.Water]
	case RuleLowest:
		if Lowest(a.Task.Method, c.Item) {
			return fact.Of("load.lowest")
		}
		if a.Task.Trip.Nights == 0 {
			return fact.Of("load.bottom-for-unwanted")
		}
		return fact.Of("load.bottom-for-camp")
	case RuleShelter:
		return fact.Of("load.shelter-top")
	case RuleMat:
		return fact.Of("load.foam-outside")
	case RuleOutside:
		return fact.Of("load.not-outside", there)
	case RuleRoom:
		return fact.Of("load.saves", fact.Litres(c.Shape.Litres(0.5)), there)
	}
	return fact.Fact{}
}

// WhyNowhere says why not even an empty pack takes the thing, and what would.
func (a *Assignment) WhyNowhere(c *Choice) (why, least fact.Fact) {
	if c.Pin != nil && c.Pin.Zone != "" {
		return fact.Of("load.pinned-never", a.Task.Pack.Zone(c.Pin.Zone).Name, Measure(c.Shape)), fact.Of("load.unpin")
	}
	if c.Shape.Kind == kit.Soft {
		roomiest := 0.0
		for i := range a.Zones {
			roomiest = max(roomiest, a.Zones[i].CapacityL())
		}
		return fact.Of("load.no-zone", fact.Litres(c.Shape.TightL), fact.Litres(roomiest)),
			fact.Of("load.larger-zone", fact.Litres(c.Shape.TightL-roomiest))
	}
	sides := a.Task.Pack.Of(rucksack.Body).Sides()
	d := c.Shape.Dimensions()
	for i := range d {
		if d[i] > sides[i] {
			return fact.Of("load.too-long", fact.SizeCm(d[:]), fact.SizeCm(sides[:])),
				fact.Of("load.longer-pack", fact.Cm(d[i]-sides[i]))
		}
	}
	return fact.Of("load.no-mouth", Measure(c.Shape)), fact.Of("load.wider-mouth")
}

// LetHang says which straps would take a thing that is left out if the school let light things ride outside; none when
// that would not help.
func (a *Assignment) LetHang(c *Choice) fact.Fact {
	light := a.Task.Method
	light.Outside = "light"
	if c.Pin != nil || MayHang(a.Task.Method, c.Item) || !MayHang(light, c.Item) {
		return fact.Fact{}
	}
	for i := range a.Zones {
		z, f, limit := &a.Zones[i], &a.fills[i], a.massLimit(i)
		if z.Kind == rucksack.Straps && c.Lies[i].Goes && c.Lies[i].rigid <= a.room(i, 1)-f.need(1)+LitreSlack &&
			(limit == 0 || f.mass+c.Mass <= limit+LitreSlack) {
			return fact.Of("load.let-hang", fact.Small(z.Name))
		}
	}
	return fact.Fact{}
}

// Broken lists the rules that the finished plan does not keep.
func (a *Assignment) Broken() []Broken {
	var list []Broken
	for _, c := range a.Choices {
		if c.Zone == Out {
			continue
		}
		z := &a.Zones[c.Zone]
		for _, t := range terms(a.Task, c, z) {
			if why := breachOf(t.rule, c, z); t.cost >= breach && !why.None() {
				list = append(list, Broken{string(t.rule), []string{c.ID}, why})
			}
		}
		if c.IsBag() && c.food > 0 && c.fuel > 0 {
			list = append(list, Broken{string(RuleFuel), append([]string{c.ID}, kit.IDs(c.Inside)...),
				fact.Of("load.food-with-fuel-in-bag", fact.Small(c.Name))})
		}
		if c.NestIn != "" {
			list = append(list, Broken{RuleNest, []string{c.ID, c.NestIn},
				fact.Of("load.not-nested", c.Name, fact.Small(a.Task.NameOf(c.NestIn)))})
		}
	}
	for i := range a.Zones {
		f, z := &a.fills[i], &a.Zones[i]
		if z.Solid() {
			continue
		}
		if f.food > 0 && f.fuel > 0 {
			list = append(list, Broken{string(RuleFuel), a.idsIn(i, func(c *Choice) bool { return c.food+c.fuel > 0 }),
				fact.Of("load.food-with-fuel", fact.Small(z.Name))})
		}
		if f.wet > 0 && f.spoilt > 0 {
			list = append(list, Broken{string(RuleWet), a.idsIn(i, func(c *Choice) bool { return c.Wet+c.Spoilt > 0 }),
				fact.Of("load.wet-by-dry", fact.Small(z.Name))})
		}
	}
	return list
}

func (a *Assignment) idsIn(zone int, want func(*Choice) bool) []string {
	var ids []string
	for _, c := range a.Choices {
		if c.Zone == zone && want(c) && !slices.Contains(ids, c.ID) {
			ids = append(ids, c.ID)
		}
	}
	return ids
}

// breachOf says which rule a thing breaks where it is. The others have prices only, and a high price breaks none: four
// litres of water that are wanted twelve times a day lie in the body where nothing else takes them.
func breachOf(rule Rule, c *Choice, z *rucksack.Zone) fact.Fact {
	zone := fact.Small(z.Name)
	switch rule {
	case RuleRain:
		return fact.Of("load.rained-on", c.Name, zone)
	case RuleRescue:
		return fact.Of("load.not-one-pull", c.Name, zone)
	case RuleOutside:
		return fact.Of("load.hangs-outside", c.Name, zone)
	}
	return fact.Fact{}
}

// Reason is a rule that decided, and how.
type Reason struct {
	Rule string
	fact.Fact
}

// Broken is a rule of the trade that the plan could not keep although everything named is in.
type Broken struct {
	Rule  string
	Items []string
	Why   fact.Fact
}

// Measure is what stands against a place for a thing: its litres when it is soft, else its sides.
func Measure(s kit.Shape) fact.Fact {
	if s.Kind == kit.Soft {
		return fact.Of("load.even-tight", fact.Litres(s.TightL))
	}
	d := s.Dimensions()
	return fact.Of("load.sides", fact.SizeCm(d[:]))
}

var waterFacts = map[string]fact.Fact{
	"sleeve": fact.Of("load.water-sleeve"), "top": fact.Of("load.water-top"), "bottles": fact.Of("load.water-bottles"),
}
