package verdict

import (
	"math"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/trail"
)

// CheckState is how a check stands.
type CheckState string

// Settled needs nothing, Look wants a thought, Stop must be mended before the trip.
const (
	Settled CheckState = "settled"
	Look    CheckState = "look"
	Stop    CheckState = "stop"
)

// Check is one of the six judgements that are always in view.
type Check struct {
	Check   string
	State   CheckState
	Figure  fact.Fact
	Detail  fact.Fact // none when the figure says all
	Reasons []Finding
}

// Finding is a reason for a check's state, and the things it is about.
type Finding struct {
	fact.Fact
	Items []string
}

// raise adds a finding and lifts the state to at least its own.
func (c *Check) raise(state CheckState, what fact.Fact, items ...string) {
	if state == Stop || c.State == Settled {
		c.State = state
	}
	c.Reasons = append(c.Reasons, Finding{what, items})
}

func fitCheck(task *job.Task, plan *load.Plan) Check {
	c := Check{Check: "fit", State: Settled, Figure: stateFact(plan.State)}
	if plan.Sure != nil {
		c.Figure, c.Detail = fact.Of("fit.in-100", 100*plan.Sure.Share), c.Figure
	}
	switch {
	case !plan.Fits():
		c.Figure, c.Detail = fact.Of("fit.out", fact.Things(len(plan.LeftOut))), fact.Fact{}
		if plan.OverL > 0 {
			c.Detail = fact.Of("fit.over", fact.Litres(plan.OverL))
		}
		for _, l := range plan.LeftOut {
			c.raise(Stop, fact.Of("fit.left-out", l.Piece.Name, l.Why, l.LeastChange), l.Piece.ID)
		}
	case plan.State == assign.Crammed:
		c.raise(Look, fact.Of("fit.crammed", fact.Part(plan.Squeeze)))
	}
	for _, b := range plan.Broken {
		if b.Rule == string(assign.RulePin) || b.Rule == assign.RuleNest {
			c.raise(Look, b.Why, b.Items...)
		}
	}
	if sure := plan.Sure; sure != nil {
		sureness := fact.Of("fit.sure", 100*sure.Share)
		if sure.MeasureNext != "" && sure.Share > 0.005 && sure.Share < 0.995 {
			sureness = fact.Of("fit.sure-measure", 100*sure.Share, fact.Small(itemOf(task, sure.MeasureNext).Name))
		}
		state := Settled
		if plan.Fits() && sure.Share < 0.8 {
			state = Look
		}
		c.raise(state, sureness)
	}
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if z.Squeeze > 0 && len(z.Pieces) > 0 {
			c.raise(Settled, fact.Of("fit.zone", z.Zone.Name, fact.Litres(z.NeedLooseL),
				fact.Litres(z.CapacityL), fact.Part(min(1, z.Squeeze))))
		}
	}
	for i, h := range plan.Hollows {
		if i < 3 {
			c.raise(Settled, fact.Of("fit.hollow", fact.Litres(h.Litres),
				fact.Cm(math.Round(h.AtCm[2])), fact.Cm(math.Round(h.AtCm[1]))))
		}
	}
	if len(c.Reasons) == 0 {
		c.Reasons = []Finding{{Fact: fact.Of("fit.loose")}}
	}
	return c
}

// weightCheck compares with the walker's body mass and with what the harness carries well.
func weightCheck(task *job.Task, plan *load.Plan, b Balance) Check {
	c := Check{Check: "weight", State: Settled, Figure: fact.Of("weight.mass", fact.Grams(b.MassG))}
	body := fact.Grams(1000 * task.Trip.Carrier.MassKg)
	if !task.Trip.BodyAssumed {
		c.Detail = fact.Of("weight.of-body", 100*b.BodyShare)
	}
	switch age := task.Trip.Carrier.Age; {
	case age < grownUp:
		childLoad(&c, b.BodyShare, age, body)
	case task.Trip.BodyAssumed:
		state := Settled
		if b.BodyShare > trail.CommonShare {
			state = Look
		}
		c.raise(state, fact.Of("weight.no-body", 100*b.BodyShare, body))
	case b.BodyShare > trail.UpperShare:
		c.raise(Stop, fact.Of("weight.above-upper", 100*b.BodyShare, body, 100*trail.UpperShare))
	case b.BodyShare > trail.CommonShare:
		c.raise(Look, fact.Of("weight.above-common", 100*b.BodyShare, body, 100*trail.UpperShare))
	default:
		c.raise(Settled, fact.Of("weight.within", 100*b.BodyShare, body))
	}
	if b.MassG > liftTogetherG {
		c.raise(Look, fact.Of("weight.heavy-lift", fact.Grams(b.MassG), fact.BodyKg(liftTogetherG/1000)))
	}
	if comfort := task.Pack.ComfortLoadG; comfort > 0 && b.MassG-task.Pack.MassG > comfort {
		c.raise(Look, fact.Of("weight.harness", fact.Grams(b.MassG-task.Pack.MassG), fact.Grams(comfort)))
	}
	if n := len(plan.LeftOut); n > 0 {
		c.raise(Settled, fact.Of("weight.without", fact.Things(n)))
	}
	return c
}

// From this age on the limits for grown walkers are used; above this mass nobody should lift alone (common practice).
const (
	grownUp       = 16
	liftTogetherG = 25_000
)

// Limits for children: up to a quarter of body mass (common practice); published advice for school bags is 10 to 20
// per cent (American Academy of Pediatrics, from memory). Both are said.
const (
	childCommon = 0.25
	childSchool = 0.20
)

func childLoad(c *Check, share float64, age int, body fact.Grams) {
	state := Settled
	switch {
	case share > childCommon:
		state = Stop
	case share > childSchool:
		state = Look
	}
	c.raise(state, fact.Of("weight.child", 100*share, body, age))
}

// stateFact is how full the pack is.
func stateFact(s assign.State) fact.Fact { return fact.Of("fit.state", string(s)) }
