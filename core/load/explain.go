package load

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
)

// Reworded is the plan with its sentences in the units of a task, which is otherwise the one that was planned.
func (p *Plan) Reworded(task *Task) *Plan {
	a, other := *p.final, *p
	a.task = task
	other.Placed = slices.Clone(p.Placed)
	for i := range other.Placed {
		other.Placed[i].Reasons = nil
	}
	other.LeftOut = nil
	a.leftOut(&other)
	other.sayOver(task)
	explain(task, &a, &other)
	return &other
}

// explain gives every placement its reasons: the rule whose price differs most from the next best zone, and the rule
// that decided the height.
func explain(task *Task, a *assignment, plan *Plan) {
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Inside != "" {
			p.Reasons = []Reason{{"nest", fmt.Sprintf("inside: %s of room it would take elsewhere", task.Trip.Units.Volume(p.Piece.Shape.Litres(1)))}}
			continue
		}
		c := a.choiceOf(p.Piece)
		if p.Pinned {
			p.Reasons = append(p.Reasons, Reason{string(RulePin), "pinned by you"})
		} else if r, ok := a.whyZone(c); ok {
			p.Reasons = append(p.Reasons, r)
		}
		if p.Zone.Solid() {
			p.Reasons = append(p.Reasons, whyTurn(task, c, p, outOfTurn(task, a, plan, i)))
		}
		if len(p.Reasons) == 0 {
			p.Reasons = []Reason{{string(RuleRoom), "there is room, and nothing asks for another place"}}
		}
	}
}

// whyZone compares the chosen zone with the one a packer would ask about: the body for what lies elsewhere, the next
// best zone for what lies in the body. The rule that speaks most for the choice is the reason.
func (a *assignment) whyZone(c *choice) (Reason, bool) {
	next := out
	for i := range a.zones {
		if a.zones[i].Kind == rucksack.Body && i != c.zone && !math.IsInf(c.price[i], 1) {
			next = i
			break
		}
		if i != c.zone && !math.IsInf(c.price[i], 1) && a.zones[i].Kind != a.zones[c.zone].Kind && (next == out || c.price[i] < c.price[next]) {
			next = i
		}
	}
	if next == out {
		return Reason{"only", "the only zone that takes it"}, true
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
		return Reason{string(RuleStay), "stays where it is"}, true
	}
	if rule == "" {
		return Reason{string(RuleSqueeze), fmt.Sprintf("%s would suit it better, but has no room", lower(a.zones[next].Name))}, true
	}
	text := a.zoneText(rule, c, next)
	return Reason{string(rule), text}, text != ""
}

// zoneText puts a deciding rule into words; every figure comes from the thing and the two zones compared.
func (a *assignment) zoneText(rule Rule, c *choice, next int) string {
	z, other := &a.zones[c.zone], &a.zones[next]
	switch rule {
	case RuleReach:
		if DrunkThroughTube(c.Item, z) {
			return "drunk through the tube, without taking it out"
		}
		return fmt.Sprintf("wanted %s: %.0f s nearer than in the %s", often(c.Use.PerDay), seconds(a.task, c.Piece, other)-seconds(a.task, c.Piece, z), lower(other.Name))
	case RuleUrgent:
		return fmt.Sprintf("must come to hand at once: %.0f s, against %.0f s in the %s", seconds(a.task, c.Piece, z), seconds(a.task, c.Piece, other), lower(other.Name))
	case RuleFound:
		return "where a companion who is told in five words finds it"
	case RuleDrill:
		tightest := slices.MinFunc(c.limits, func(a, b reach.Limit) int { return cmp.Compare(a.S, b.S) })
		return fmt.Sprintf("in hand after %.0f s, in the %s after %.0f s: a drill leaves %.0f s", inHand(a.task, c.Piece, z), lower(other.Name), inHand(a.task, c.Piece, other), tightest.S)
	case RuleDug:
		return fmt.Sprintf("not dug for in the rain from the %s, where dry things would get wet", lower(other.Name))
	case RuleCamp:
		return "leaves the pockets to what the day needs"
	case RuleSwing:
		return fmt.Sprintf("%s would pull backwards in the %s", a.task.Trip.Units.Mass(c.mass), lower(other.Name))
	case RuleHeight:
		return fmt.Sprintf("%s nearer the height where weight rides well", a.task.Trip.Units.Mass(c.mass))
	case RuleWet:
		return "comes back wet or leaks: kept from dry things"
	case RuleRain:
		return fmt.Sprintf("must stay dry, and rain gets into the %s", lower(other.Name))
	case RuleRescue:
		if !c.Has(kit.Rescue) {
			return fmt.Sprintf("leaves the %s to rescue kit", lower(other.Name))
		}
		return "rescue kit: out with one pull"
	case RuleWater:
		return map[string]string{"sleeve": "water goes into the sleeve first", "top": "water on top, to refill without unpacking", "bottles": "bottles ride in the side pockets"}[a.task.Method.Water]
	case RuleLowest:
		if lowest(a.task.Method, c.Item) {
			return "lowest in the pack, as chosen"
		}
		return "the bottom is for what only camp needs"
	case RuleShelter:
		return "shelter on top: first thing up in rain"
	case RuleMat:
		return "foam may ride outside"
	case RuleOutside:
		return fmt.Sprintf("not to hang outside on the %s", lower(other.Name))
	case RuleRoom:
		return fmt.Sprintf("saves %s in the %s", a.task.Trip.Units.Volume(c.Shape.Litres(0.5)), lower(other.Name))
	}
	return ""
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
func whyTurn(task *Task, c *choice, p *Placement, apart int) Reason {
	_, rule := depth(task, c.Piece, c.mass)
	text := map[string]string{
		"lowest": "goes in first", "urgent": "on top: wanted in a hurry", "water-top": "last in, to refill without unpacking",
		"shelter-top": "on top: first thing up in rain", "camp": "deep: only camp needs it", "need": "deep: only in need",
		"arrival": "above the night things: wanted on arrival", "halt": "high: wanted at halts", "moving": "near the top: wanted on the move",
	}[rule]
	if rule == "heavy" {
		where := map[string]string{"close": "at mid-height", "low": "low", "high": "high"}[task.Method.Heavy]
		text = fmt.Sprintf("%s, so %s", task.Trip.Units.Mass(c.mass), where)
	}
	switch {
	case p.Pinned && c.pin.Place > 0:
		rule, text = "pin", "at the turn you chose"
	case apart < 0:
		rule, text = "trial", "deeper than its turn"+aimWords[p.aim]
	case apart > 0:
		rule, text = "trial", "higher than its turn"+aimWords[p.aim]
	}
	if lane := laneWords[p.Lane]; lane != "" {
		text += ", " + lane
	}
	return Reason{"depth-" + rule, text}
}

var laneWords = map[Lane]string{Back: "against the spine", Front: "to the front", Left: "on the left", Right: "on the right"}

func often(perDay float64) string {
	switch {
	case perDay >= 1.5:
		return fmt.Sprintf("%.0f times a day", perDay)
	case perDay >= 0.75:
		return "once a day"
	}
	return "now and then"
}

func lower(name string) string { return strings.ToLower(name) }
