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
			r := whyTurn(task, c, p, outOfTurn(task, a, plan, i), plan, above[p.Piece])
			if other := instead(task, plan, i, r.Rule); !other.None() {
				r.Fact = inLane(other, p.Lane)
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
func whyTurn(task *job.Task, c *assign.Choice, p *Placement, apart int, plan *Plan, overLiner bool) assign.Reason {
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
		rule, why = "trial", fact.Of("load.deeper", plan.aimFact(task, p.aim))
	case apart > 0:
		rule, why = "trial", fact.Of("load.higher", plan.aimFact(task, p.aim))
	}
	return assign.Reason{Rule: "depth-" + rule, Fact: inLane(why, p.Lane)}
}

// aimFact says what a thing out of its turn is good for in this plan.
func (p *Plan) aimFact(task *job.Task, a aim) fact.Fact {
	switch {
	case a == aimRoom && !p.Fits():
		return fact.Of("load.aim-more")
	case a == aimDeep && task.Trip.Nights == 0:
		return fact.Of("load.aim-unwanted")
	}
	return aimFacts[a]
}

// inLane adds the lane to why something lies as deep as it does.
func inLane(why fact.Fact, lane job.Lane) fact.Fact {
	if lane == job.Full {
		return why
	}
	return fact.Of("load.turn-and-lane", why, laneFact(lane))
}

// instead is what is said of a thing in the place of what its rule of depth would have said, where that is not so in
// this plan: that it goes in first or last of its zone, over the night things, or over the food of later days; or that
// a camp wants it, on a day that ends without one or where nobody said so.
func instead(task *job.Task, plan *Plan, i int, rule string) fact.Fact {
	p := &plan.Placed[i]
	before, after := plan.around(i)
	night := func(o *Placement) bool { return o.Piece.Use.When == kit.Camp }
	fed := func(o *Placement) bool { return o.Piece.Has(kit.Food) && o.Piece.Day > 0 }
	switch {
	case rule == "depth-lowest" && len(before) > 0:
		return fact.Of("load.turn-among-lowest")
	case rule == "depth-water-top" && len(after) > 0:
		return fact.Of("load.turn-among-last")
	case rule == "depth-camp" && p.Piece.UseUnsaid:
		return fact.Of("load.turn-unsaid")
	case rule == "depth-camp" && task.Trip.Nights == 0:
		return fact.Of("load.turn-unwanted")
	case rule == "depth-arrival" && task.Trip.Nights == 0:
		return fact.Of("load.turn-late")
	case rule == "depth-arrival":
		switch under, over := counted(before, night), counted(after, night); {
		case under == 0:
			return fact.Of("load.turn-on-arrival")
		case over > 0:
			return fact.Of("load.turn-over-some", under, under+over)
		}
	case rule == "depth-food-day":
		wrong := func(o *Placement) bool { return fed(o) && o.Piece.Day < p.Piece.Day }
		later := func(o *Placement) bool { return fed(o) && o.Piece.Day > p.Piece.Day }
		if !slices.ContainsFunc(before, later) && !slices.ContainsFunc(after, wrong) || // there is no other
			slices.ContainsFunc(before, wrong) || slices.ContainsFunc(after, later) {
			return fact.Of("load.turn-food", p.Piece.Day)
		}
	}
	return fact.Fact{}
}

func counted(list []*Placement, is func(*Placement) bool) (n int) {
	for _, p := range list {
		n += count(is(p))
	}
	return n
}

// around are the things of the zone of a placement that go in before it and after it; what is nested is not among them.
func (p *Plan) around(i int) (before, after []*Placement) {
	for k := range p.Placed {
		switch o := &p.Placed[k]; {
		case k == i || o.Zone != p.Placed[i].Zone || o.Inside != "":
		case k < i:
			before = append(before, o)
		default:
			after = append(after, o)
		}
	}
	return before, after
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
