package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// explain gives every placement its reasons: the rule whose price differs most from the next best zone, and the rule
// that decided the height.
func explain(task *Task, a *assignment, plan *Plan) {
	above := plan.above(task)
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Inside != "" {
			if i > 0 && bagged(task, p.Inside) {
				p.Reasons = []Reason{{"bag", fact.Of("load.in-bag", fact.Small(task.nameOf(p.Inside)))}}
				continue
			}
			p.Reasons = []Reason{{"nest", fact.Of("load.nest", fact.Litres(p.Piece.Shape.Litres(1)))}}
			continue
		}
		c := a.choiceOf(p.Piece)
		if p.Pinned {
			p.Reasons = append(p.Reasons, Reason{string(RulePin), fact.Of("load.pinned")})
		} else if r, ok := a.whyZone(c); ok {
			p.Reasons = append(p.Reasons, r)
		}
		if p.Zone.Solid() {
			p.Reasons = append(p.Reasons, whyTurn(task, c, p, outOfTurn(task, a, plan, i), above[p.Piece]))
		}
		if a.before(c.zone, plan.Squeeze) && c.Shape.Rigid() {
			p.Reasons = append(p.Reasons, Reason{"before", fact.Of("load.turn-before")})
		}
		if len(p.Reasons) == 0 {
			p.Reasons = []Reason{{string(RuleRoom), fact.Of("load.room")}}
		}
	}
}

// bagged reports whether the item of an id is a kit bag.
func bagged(task *Task, id string) bool {
	return slices.ContainsFunc(task.Items, func(it kit.Item) bool { return it.ID == id && it.IsBag() })
}

// whyZone compares the chosen zone with the one a packer would ask about: the body for what lies elsewhere, the next
// best zone for what lies in the body. The rule that speaks most for the choice is the reason.
func (a *assignment) whyZone(c *choice) (Reason, bool) {
	next := out
	for i := range a.zones {
		if a.open && a.zones[i].Solid() && a.zones[c.zone].Solid() {
			continue // one room
		}
		if a.zones[i].Kind == rucksack.Body && i != c.zone && !math.IsInf(c.price[i], 1) {
			next = i
			break
		}
		if i != c.zone && !math.IsInf(c.price[i], 1) && a.zones[i].Kind != a.zones[c.zone].Kind &&
			(next == out || c.price[i] < c.price[next]) {
			next = i
		}
	}
	if next == out {
		return Reason{"only", fact.Of("load.only")}, true
	}
	here, there := map[Rule]float64{}, terms(a.task, c, &a.zones[next])
	for _, t := range terms(a.task, c, &a.zones[c.zone]) {
		here[t.rule] += t.cost
	}
	var rule Rule
	most := gain
	for _, t := range there {
		if d := t.cost - here[t.rule]; d > most {
			rule, most = t.rule, d
		}
	}
	if rule == "" && c.stays == c.zone {
		return Reason{string(RuleStay), fact.Of("load.stays")}, true
	}
	if rule == "" {
		return Reason{string(RuleSqueeze), fact.Of("load.better-full", fact.Small(a.zones[next].Name))}, true
	}
	why := a.zoneFact(rule, c, next)
	return Reason{string(rule), why}, !why.None()
}

// zoneFact is what a deciding rule found; every figure comes from the thing and the two zones compared.
func (a *assignment) zoneFact(rule Rule, c *choice, next int) fact.Fact {
	z, other := &a.zones[c.zone], &a.zones[next]
	there := fact.Small(other.Name)
	switch rule {
	case RuleReach:
		if DrunkThroughTube(a.task.Method, c.Item, z) {
			return fact.Of("load.tube")
		}
		nearer := seconds(a.task, c.Piece, other) - seconds(a.task, c.Piece, z)
		return fact.Of("load.reach", fact.TimesADay(c.Use.PerDay), nearer, there)
	case RuleUrgent:
		return fact.Of("load.urgent", seconds(a.task, c.Piece, z), seconds(a.task, c.Piece, other), there)
	case RuleFound:
		return fact.Of("load.found")
	case RuleDrill:
		tightest := slices.MinFunc(c.limits, func(a, b reach.Limit) int { return cmp.Compare(a.S, b.S) })
		return fact.Of("load.drill", inHand(a.task, c.Piece, z), there, inHand(a.task, c.Piece, other), tightest.S)
	case RuleDug:
		return fact.Of("load.dug", there)
	case RuleCamp:
		if z.Solid() {
			return fact.Of("load.camp")
		}
		return fact.Of("load.camp-less", there)
	case RuleMesh:
		return fact.Of("load.mesh", there)
	case RuleSwing:
		return fact.Of("load.swing", fact.Grams(c.mass), there)
	case RuleHeight:
		return fact.Of("load.height", fact.Grams(c.mass))
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
		if c.Shape.Rigid() && a.task.Method.Water != "bottles" {
			return fact.Of("load.bottle-outside")
		}
		return waterFacts[a.task.Method.Water]
	case RuleLowest:
		if lowest(a.task.Method, c.Item) {
			return fact.Of("load.lowest")
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

var waterFacts = map[string]fact.Fact{
	"sleeve": fact.Of("load.water-sleeve"), "top": fact.Of("load.water-top"), "bottles": fact.Of("load.water-bottles"),
}

// turnsApart is by how much of a zone's order a thing must lie away from its planned turn for that to need a reason.
const turnsApart = 0.3

// outOfTurn reports whether the thing at position i of the plan lies clearly deeper (-1) or higher (1) in its zone
// than its time of need alone would put it: something else then had the last word.
func outOfTurn(task *Task, a *assignment, plan *Plan, i int) int {
	p := &plan.Placed[i]
	var zone []*choice
	at := -1
	for k := range plan.Placed {
		q := &plan.Placed[k]
		if q.Zone == p.Zone && q.Inside == "" {
			if k == i {
				at = len(zone)
			}
			zone = append(zone, a.choiceOf(q.Piece))
		}
	}
	planned := 0
	for _, c := range zone {
		if compareInLoading(task, c, zone[at]) < 0 {
			planned++
		}
	}
	apart := float64(at-planned) / float64(len(zone))
	switch {
	case len(zone) < 5: // too few for a turn to mean much
	case apart > turnsApart:
		return 1
	case apart < -turnsApart:
		return -1
	}
	return 0
}

// choiceOf finds the choice of a piece.
func (a *assignment) choiceOf(p kit.Piece) *choice {
	i, _ := slices.BinarySearchFunc(a.choices, p, func(c *choice, p kit.Piece) int { return comparePieces(c.Piece, p) })
	return a.choices[i]
}

// whyTurn says what decided how deep it lies.
func whyTurn(task *Task, c *choice, p *Placement, apart int, overLiner bool) Reason {
	_, rule := depth(task, c.Piece, c.mass)
	why := turnFacts[rule]
	if rule == "over-liner" && !overLiner {
		why = fact.Of("load.turn-wet")
	}
	if rule == "heavy" {
		why = fact.Of("load.turn-heavy", fact.Grams(c.mass), heavyFacts[task.Method.Heavy])
	}
	switch {
	case p.Pinned && c.pin.Place > 0:
		rule, why = "pin", fact.Of("load.turn-pinned")
	case apart < 0:
		rule, why = "trial", fact.Of("load.deeper", aimFacts[p.aim])
	case apart > 0:
		rule, why = "trial", fact.Of("load.higher", aimFacts[p.aim])
	}
	if p.Lane != Full {
		why = fact.Of("load.turn-and-lane", why, laneFact(p.Lane))
	}
	return Reason{"depth-" + rule, why}
}

// turnFacts say what the planned depth of a thing comes from, by the rule of depth.
var turnFacts = map[string]fact.Fact{
	"lowest": fact.Of("load.turn-lowest"), "urgent": fact.Of("load.turn-urgent"),
	"water-top":   fact.Of("load.turn-water-top"),
	"shelter-top": fact.Of("load.turn-shelter-top"), "camp": fact.Of("load.turn-camp"), "need": fact.Of("load.turn-need"),
	"arrival": fact.Of("load.turn-arrival"), "food-day": fact.Of("load.turn-food-day"),
	"over-liner": fact.Of("load.turn-over-liner"), "halt": fact.Of("load.turn-halt"),
	"moving": fact.Of("load.turn-moving"),
}

var heavyFacts = map[string]fact.Fact{
	"close": fact.Of("load.heavy-close"), "low": fact.Of("load.heavy-low"), "high": fact.Of("load.heavy-high"),
}

func laneFact(l Lane) fact.Fact {
	return map[Lane]fact.Fact{
		Back: fact.Of("load.lane-back"), Front: fact.Of("load.lane-front"),
		Left: fact.Of("load.lane-left"), Right: fact.Of("load.lane-right"),
	}[l]
}
