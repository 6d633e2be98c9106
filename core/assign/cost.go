package assign

import (
	"math"
	"slices"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// Rule names a price. The names appear in reasons and in broken rules.
type Rule string

// The rules of the zone assignment. Costs are seconds a day unless said otherwise; the exchange rates below are ours.
const (
	RuleReach   Rule = "reach"          // time to hand times uses a day
	RuleUrgent  Rule = "urgent"         // what must come in seconds
	RuleFound   Rule = "companion"      // first aid where a companion finds it
	RuleDrill   Rule = "drill"          // what a drill asks for within its limit
	RuleDug     Rule = "exposure"       // dry things that lie in the rain while one digs
	RuleCamp    Rule = "camp"           // what only camp needs leaves the pockets to the day
	RuleSleeve  Rule = "sleeve"         // the back slot is for the water bag, or a pad as the pack's back
	RuleMesh    Rule = "mesh"           // what is small, precious or electric is lost out of open mesh
	RuleSwing   Rule = "swing"          // weight away from the back pulls
	RuleHeight  Rule = "height"         // weight outside the load band of the school
	RuleWet     Rule = "wet-apart"      // wet and leaking things away from dry ones
	RuleRain    Rule = "weather"        // what must stay dry out of the rain (never broken without a pin)
	RuleRescue  Rule = "rescue"         // rescue kit in a zone of one pull
	RuleFuel    Rule = "food-from-fuel" // food apart from fuel
	RuleWater   Rule = "water-school"
	RuleLowest  Rule = "lowest-school"
	RuleShelter Rule = "shelter-school"
	RuleMat     Rule = "mat-school"
	RuleOutside Rule = "outside-school"
	RuleRoom    Rule = "room" // litres of the body are dear
	RuleSqueeze Rule = "squeeze"
	RulePin     Rule = "pin"
	RuleStay    Rule = "stay" // what is packed already stays where it is
)

// RuleNest is the rule that a thing lies in the vessel or bag that it was to be in; it has no price.
const RuleNest = "nest"

// Prices in seconds a day.
const (
	breach       = 500.0  // a rule of the trade broken: only when nothing else is possible
	LeaveOut     = 5000.0 // a thing left out: above any sum of breaches a single thing can cause
	leaveVital   = 10.0   // times that for a thing life may hang on: no few comforts are worth one
	leaveInside  = 0.1    // times that for what lies in a thing that is left out: it may be packed without it
	PerNewtonM   = 6.0    // a newton-metre of pull away from the back
	perSideNm    = 10.0   // a newton-metre of difference between the sides
	PerSqueezeL  = 8.0    // a litre that is squeezed away
	perBodyLitre = 0.8    // a litre in the body or bottom
	schoolAsks   = 40.0   // going against the chosen school, where it is a matter of more or less
	schoolBinds  = 150.0  // and where it names a place: above the seconds that any other place saves
	hidden       = 400.0  // first aid where a companion who is told in five words does not find it
	campInPocket = 60.0   // a camp thing in a pocket for the day: above any second that it saves
	campInLid    = 6.0    // and in the lid
	inSleeve     = 60.0   // something else in the sleeve: it lies at the spine, and the water bag on it
	meshLoses    = 300.0  // something small, precious or electric in open mesh
	meshL        = 0.15   // litres below which a thing slips out of open mesh (our estimate)
	bottleInBody = 25.0   // a full bottle in the body, while a side pocket could hold it; half of it in the lid
	inRescuesWay = 60.0   // something else in the compartment for shovel and probe
	underDry     = 120.0  // what is put on in the rain in the body, under dry things that get wet while one digs
	PerOverS     = 2.0    // a second over the limit of a drill: each is taken to happen twice a day
	PerExposedS  = 1.0    // a second that something lies in the rain that must not get wet
	Gravity      = 9.81   // m/s2
)

// TubeSeconds is a sip through the tube of a water bag in its sleeve (our estimate).
const TubeSeconds = 3.0

// expectedLifts is how many things an assignment, which knows no order yet, expects to lie over a thing in the body.
const expectedLifts = 1.5

// lifts is how many things are expected to lie over a thing in a zone.
func lifts(z *rucksack.Zone) float64 {
	if z.Solid() {
		return expectedLifts
	}
	return 0
}

// barriers is how many have to be opened on the way to a thing in a zone: the liner, and the dry bag that it needs
// there if there are any.
func barriers(task *job.Task, p kit.Piece, z *rucksack.Zone) int {
	pack := task.Dryness()
	pack.Open = task.Pack.Opens()
	n := asOne(pack.LinerShuts(z))
	bagged := slices.ContainsFunc(task.Bags, func(b dry.Bag) bool { return b.Kind == "dry-bag" && b.For == "" })
	return n + asOne(bagged && pack.Short(dry.Lying{Piece: p, Zone: z}) == 1)
}

// seconds is the time to hand of a thing in a zone, before the order is known.
func seconds(task *job.Task, p kit.Piece, z *rucksack.Zone) float64 {
	if DrunkThroughTube(task.Method, p.Item, z) {
		return TubeSeconds
	}
	return reach.Seconds(z, lifts(z), barriers(task, p, z)) + lookInside(p.Item)
}

// lookInside is the seconds it takes to find something in a bag.
func lookInside(it *kit.Item) float64 {
	if it.IsBag() {
		return reach.LookS
	}
	return 0
}

// inHand is the time until it is in the hand.
func inHand(task *job.Task, p kit.Piece, z *rucksack.Zone) float64 {
	return reach.InHand(z, lifts(z), barriers(task, p, z)) + lookInside(p.Item)
}

// spoiledShare is the share of what is packed that must not get wet and has no case.
func spoiledShare(t *job.Task) float64 {
	all, spoiled := 0.0, 0.0
	for i := range t.Items {
		if it := &t.Items[i]; it.Carry == kit.Pack {
			all++
			spoiled += float64(asOne(dry.Need(it) == 2 && !dry.Cased(it)))
		}
	}
	return spoiled / max(1, all)
}

// carriesRescue reports whether there is rescue kit in the pack.
func carriesRescue(t *job.Task) bool {
	return slices.ContainsFunc(t.Items, func(it kit.Item) bool { return it.Carry == kit.Pack && it.Has(kit.Rescue) })
}

// DrunkThroughTube reports whether the thing is a water bag in the sleeve, or on top of the body where its school wants
// it: it is used without being taken out.
func DrunkThroughTube(m method.Method, it *kit.Item, z *rucksack.Zone) bool {
	return (z.Kind == rucksack.Sleeve || m.Water == "top" && z.Kind == rucksack.Body) && isWaterBag(it)
}

func isWaterBag(it *kit.Item) bool { return it.Shape.Kind == kit.Flat && IsWater(it) }

// IsWater reports whether a thing is water, or holds it.
func IsWater(it *kit.Item) bool { return it.Serves("water") || it.Consumable == "water" }

// term is one rule's share of the cost of a choice.
type term struct {
	rule Rule
	cost float64
}

// leaveCost is the price of leaving a piece out: bulk goes before many small things, luxury before what life hangs
// on.
func leaveCost(p kit.Piece) float64 {
	cost := LeaveOut + 40*p.Shape.Litres(1)
	if p.Vital() || p.Has(kit.Food) {
		cost *= leaveVital
	}
	return cost
}

// terms prices a piece in a zone, rule by rule, without regard to what else lies there.
func terms(task *job.Task, p *Choice, z *rucksack.Zone) []term {
	var list []term
	add := func(rule Rule, cost float64) {
		if cost != 0 {
			list = append(list, term{rule, cost})
		}
	}
	kilos := p.Mass / 1000
	toHand := seconds(task, p.Piece, z)
	add(RuleReach, p.Use.PerDay*toHand*p.Use.Attention())
	if p.Use.Urgent {
		add(RuleUrgent, kit.UrgentUses*toHand)
	}
	if !DrunkThroughTube(task.Method, p.Item, z) {
		takes := inHand(task, p.Piece, z)
		for _, limit := range p.Limits {
			add(RuleDrill, PerOverS*max(0, takes-limit.S))
		}
	}
	if z.Solid() {
		dug := PerExposedS * task.Trip.Rain * p.Use.ADay() * reach.PerLift * expectedLifts * spoiledShare(task)
		if p.Serves("rain") && p.Use.Urgent {
			dug += underDry
		}
		add(RuleDug, dug)
	}
	if p.Serves("first-aid") && (z.Solid() || z.Kind == rucksack.Inner || z.Kind == rucksack.Sleeve) {
		add(RuleFound, hidden)
	}
	add(RuleCamp, campCost(p, z))
	if z.Kind == rucksack.Sleeve && !p.Has(kit.Foam) && !isWaterBag(p.Item) {
		add(RuleSleeve, inSleeve)
	}
	if z.Weather == rucksack.Open && z.Kind != rucksack.Straps && slips(p) {
		add(RuleMesh, meshLoses)
	}
	body := task.Pack.Of(rucksack.Body)
	add(RuleSwing, kilos*Gravity*max(0, z.AtCm[1]-body.AtCm[1])/100*PerNewtonM)
	add(RuleHeight, heightCost(task, z, kilos))
	add(RuleWet, wetCost(task, p, z))
	if z.Weather == rucksack.Open && dry.Exposed(p.Item) && task.Trip.Rain > 0 {
		add(RuleRain, breach)
	}
	switch {
	case p.Has(kit.Rescue) && !z.OnePull():
		add(RuleRescue, breach)
	case z.RescueUse && !p.Has(kit.Rescue) && carriesRescue(task):
		add(RuleRescue, inRescuesWay)
	}
	if z.Solid() {
		add(RuleRoom, perBodyLitre*p.Shape.Litres(0.5))
	}
	schoolTerms(task.Method, p, z, add)
	return list
}

// campCost keeps the pockets to what the day needs: hip, side, shoulder and front altogether, but for what comes back
// wet, which dries out there.
func campCost(p *Choice, z *rucksack.Zone) float64 {
	switch {
	case z.Solid() || z.Kind == rucksack.Straps || p.Use.Urgent:
		return 0
	case p.Use.When == kit.Camp && p.Wet == 0 && z.Kind != rucksack.Lid && z.Kind != rucksack.Inner &&
		z.Kind != rucksack.Sleeve:
		return campInPocket
	case p.Use.When == kit.Camp || p.Use.When == kit.Need:
		return campInLid
	}
	return 0
}

// precious are kinds that nobody wants to lose, beside what is electric.
var precious = []string{"wallet", "medicine", "emergency-medicine", "spectacles", "sunglasses", "compass", "whistle"}

// slips reports whether a thing must not ride in open mesh.
func slips(p *Choice) bool {
	return p.Has(kit.Electronic) || slices.Contains(precious, p.Kind) || p.Shape.Litres(1) < meshL && p.Wet == 0
}

// heightCost is the moment of a mass about the nearer edge of the load band, as if tipping the walker.
func heightCost(task *job.Task, z *rucksack.Zone, kilos float64) float64 {
	low, high := task.Method.Band()
	top := task.Pack.HeightCm()
	share := z.AtCm[2] / top
	away := max(low-share, share-high, 0)
	return kilos * Gravity * away * top / 100 * PerNewtonM / 2
}

// wetCost keeps what returns wet or leaks away from dry things; leaking water in its own sleeve is where it belongs.
func wetCost(task *job.Task, p *Choice, z *rucksack.Zone) float64 {
	if p.Wet == 0 || z.Weather == rucksack.Open || z.Kind == rucksack.Sleeve {
		return 0
	}
	return 40 * (0.25 + task.Trip.Rain)
}

// schoolTerms adds what the chosen schools ask.
func schoolTerms(m method.Method, p *Choice, z *rucksack.Zone, add func(Rule, float64)) {
	if IsWater(p.Item) {
		flat := p.Shape.Kind == kit.Flat
		switch {
		case m.Water == "sleeve" && flat && z.Kind != rucksack.Sleeve,
			m.Water == "top" && z.Kind != rucksack.Body && flat,
			m.Water == "bottles" && z.Kind != rucksack.Side && z.Kind != rucksack.Shoulder:
			add(RuleWater, schoolBinds)
		case p.Shape.Rigid() && z.Solid():
			add(RuleWater, bottleInBody)
		case p.Shape.Rigid() && z.Kind == rucksack.Lid:
			add(RuleWater, bottleInBody/2)
		}
	}
	if Lowest(m, p.Item) && z.Kind != rucksack.Bottom {
		add(RuleLowest, schoolAsks)
	} else if !Lowest(m, p.Item) && z.Kind == rucksack.Bottom && p.Use.When != kit.Camp {
		add(RuleLowest, schoolAsks/2)
	}
	if p.Serves("shelter") && p.Use.When == kit.Arrival && !p.Shape.Rigid() {
		switch {
		case m.Shelter == "top" && z.Kind == rucksack.Bottom:
			add(RuleShelter, schoolAsks)
		case m.Shelter == "deep" && z.Kind == rucksack.Lid && !p.Water.ReturnsWet:
			add(RuleShelter, schoolBinds)
		}
	}
	if z.Kind == rucksack.Straps {
		outsideTerms(m, p, z, add)
	} else if p.Has(kit.Foam) && m.Outside != "nothing" {
		add(RuleMat, schoolBinds)
	}
}

// outsideTerms prices the straps: permitted things only, the foam mat where its school wants it.
func outsideTerms(m method.Method, p *Choice, z *rucksack.Zone, add func(Rule, float64)) {
	if !MayHang(m, p.Item) {
		add(RuleOutside, breach)
	}
	if p.Has(kit.Foam) && z.Face != MatFace[m.Mat] {
		add(RuleMat, schoolBinds/2)
	}
}

// MayHang reports whether the school lets the thing ride outside.
func MayHang(m method.Method, it *kit.Item) bool {
	return m.Outside == "foam" && it.Has(kit.Foam) || m.Outside == "light" &&
		(it.Has(kit.Foam) || it.Has(kit.MayHangOutside))
}

// Lowest reports whether the school wants the thing at the very bottom.
func Lowest(m method.Method, it *kit.Item) bool {
	switch m.Lowest {
	case "sleeping-bag":
		return it.Group == "sleep" && (it.Shape.Kind == kit.Soft || it.Shape.Yields())
	case "shelter":
		return it.Group == "shelter" && it.Shape.Kind == kit.Soft
	case "rain-suit":
		return it.Serves("rain") && !it.Use.Urgent
	case "spare-clothes":
		return it.Group == "clothing" && it.Use.When == kit.Camp
	}
	return false
}

// sideMoment is the newton-metres by which a mass in a zone pulls to the right.
func sideMoment(z *rucksack.Zone, grams float64) float64 {
	return grams / 1000 * Gravity * z.AtCm[0] / 100
}

func sideCost(moment float64) float64 { return math.Abs(moment) * perSideNm }

// MatFace is the face of the straps on which each school wants the mat.
var MatFace = map[string]string{"upright": "front", "top": "top", "bottom": "bottom"}
