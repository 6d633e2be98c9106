package load

import (
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
)

// explain gives every placement its reasons: the rule whose price differs most from the next best zone, and the rule
// that decided the height.
func explain(task *job.Task, a *assign.Assignment, plan *Plan) {
	above := plan.above(task)
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Inside != "" {
			if i > 0 && bagged(task, p.Inside) {
				p.Reasons = []assign.Reason{{Rule: "bag", Fact: fact.Of("load.in-bag", fact.Small(task.NameOf(p.Inside)))}}
				continue
			}
			p.Reasons = []assign.Reason{{Rule: "nest", Fact: fact.Of("load.nest", fact.Litres(p.Piece.Shape.Litres(1)))}}
			continue
		}
		c := a.ChoiceOf(p.Piece)
		if p.Pinned {
			p.Reasons = append(p.Reasons, assign.Reason{Rule: string(assign.RulePin), Fact: fact.Of("load.pinned")})
		} else if r, ok := a.WhyZone(c); ok {
			p.Reasons = append(p.Reasons, r)
		}
		if p.Zone.Solid() {
			r := whyTurn(task, c, p, outOfTurn(task, a, plan, i), above[p.Piece])
			if r.Rule == "depth-lowest" && !firstIn(plan, i) {
				r.Fact = inLane(fact.Of("load.turn-among-lowest"), p.Lane)
			}
			p.Reasons = append(p.Reasons, r)
		}
		if before(a, c.Zone, plan.Squeeze) && c.Shape.Rigid() {
			p.Reasons = append(p.Reasons, assign.Reason{Rule: "before", Fact: fact.Of("load.turn-before")})
		}
		if len(p.Reasons) == 0 {
			p.Reasons = []assign.Reason{{Rule: string(assign.RuleRoom), Fact: fact.Of("load.room")}}
		}
	}
}

// bagged reports whether the item of an id is a kit bag.
func bagged(task *job.Task, id string) bool {
	return slices.ContainsFunc(task.Items, func(it kit.Item) bool { return it.ID == id && it.IsBag() })
}

// turnsApart is by how much of a zone's order a thing must lie away from its planned turn for that to need a reason.
const turnsApart = 0.3

// outOfTurn reports whether the thing at position i of the plan lies clearly deeper (-1) or higher (1) in its zone
// than its time of need alone would put it: something else then had the last word.
func outOfTurn(task *job.Task, a *assign.Assignment, plan *Plan, i int) int {
	p := &plan.Placed[i]
	var zone []*assign.Choice
	at := -1
	for k := range plan.Placed {
		q := &plan.Placed[k]
		if q.Zone == p.Zone && q.Inside == "" {
			if k == i {
				at = len(zone)
			}
			zone = append(zone, a.ChoiceOf(q.Piece))
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

// whyTurn says what decided how deep it lies.
func whyTurn(task *job.Task, c *assign.Choice, p *Placement, apart int, overLiner bool) assign.Reason {
	_, rule := depth(task, c.Piece, c.Mass)
	why := turnFacts[rule]
	if rule == "over-liner" && !overLiner {
		why = fact.Of("load.turn-wet")
	}
	if rule == "heavy" {
		why = fact.Of("load.turn-heavy", fact.Grams(c.Mass), heavyFacts[task.Method.Heavy])
	}
	switch {
	case p.Pinned && c.Pin.Place > 0:
		rule, why = "pin", fact.Of("load.turn-pinned")
	case apart < 0:
		rule, why = "trial", fact.Of("load.deeper", aimFacts[p.aim])
	case apart > 0:
		rule, why = "trial", fact.Of("load.higher", aimFacts[p.aim])
	}
	return assign.Reason{Rule: "depth-" + rule, Fact: inLane(why, p.Lane)}
}

// inLane adds the lane to why something lies as deep as it does.
func inLane(why fact.Fact, lane job.Lane) fact.Fact {
	if lane == job.Full {
		return why
	}
	return fact.Of("load.turn-and-lane", why, laneFact(lane))
}

// firstIn reports whether nothing goes into the zone of a placement before it.
func firstIn(plan *Plan, i int) bool {
	return !slices.ContainsFunc(plan.Placed[:i], func(p Placement) bool {
		return p.Zone == plan.Placed[i].Zone && p.Inside == ""
	})
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

func laneFact(l job.Lane) fact.Fact {
	return map[job.Lane]fact.Fact{
		job.Back: fact.Of("load.lane-back"), job.Front: fact.Of("load.lane-front"),
		job.Left: fact.Of("load.lane-left"), job.Right: fact.Of("load.lane-right"),
	}[l]
}
