package verdict

import (
	"fmt"
	"math"
	"strings"

	"tornister/core/load"
	"tornister/core/trail"
	"tornister/core/unit"
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
	Check   string     `json:"check"`
	State   CheckState `json:"state"`
	Figure  string     `json:"figure"`
	Detail  string     `json:"detail,omitempty"`
	Reasons []Finding  `json:"reasons"`
}

// Finding is a reason for a check's state, and the things it is about.
type Finding struct {
	Text  string   `json:"text"`
	Items []string `json:"items,omitempty"`
}

// raise adds a finding and lifts the state to at least its own.
func (c *Check) raise(state CheckState, text string, items ...string) {
	if state == Stop || c.State == Settled {
		c.State = state
	}
	c.Reasons = append(c.Reasons, Finding{text, items})
}

// Names lists the six checks in the order in which they are shown.
var Names = []string{"fit", "weight", "balance", "dry", "reach", "safe"}

// Sentence is the verdict in words, its figures in a system of units.
func Sentence(v Verdict, leftOut int, system unit.System) string {
	switch {
	case !v.Fits && v.OverL > 0:
		return fmt.Sprintf("It does not fit: %s too much.", system.Volume(v.OverL))
	case !v.Fits:
		return fmt.Sprintf("It does not fit: %s cannot go in.", Things(leftOut))
	case v.State == load.Roomy:
		return "It fits, with room to spare."
	case v.State == load.Snug:
		return "It fits, snugly."
	case v.State == load.Squeezed:
		return fmt.Sprintf("It fits, squeezed %s.", Part(v.Squeeze))
	}
	return fmt.Sprintf("It just fits, crammed %s.", Part(v.Squeeze))
}

// Part says a share in words: 0.31 is "a third of the way".
func Part(share float64) string {
	parts := []struct {
		share float64
		words string
	}{{0.1, "a tenth of the way"}, {0.25, "a quarter of the way"}, {1. / 3, "a third of the way"}, {0.5, "half of the way"},
		{2. / 3, "two thirds of the way"}, {0.75, "three quarters of the way"}, {0.9, "nine tenths of the way"}, {1, "as tight as it goes"}}
	if share < 0.05 {
		return "a little"
	}
	best := parts[0]
	for _, p := range parts {
		if math.Abs(p.share-share) < math.Abs(best.share-share) {
			best = p
		}
	}
	return best.words
}

// Things counts in words: "1 thing", "4 things".
func Things(n int) string {
	if n == 1 {
		return "1 thing"
	}
	return fmt.Sprintf("%d things", n)
}

func fitCheck(task *load.Task, plan *load.Plan) Check {
	c := Check{Check: "fit", State: Settled, Figure: string(plan.State)}
	if plan.Sure != nil {
		c.Figure = fmt.Sprintf("%.0f in 100", 100*plan.Sure.Share)
		c.Detail = string(plan.State)
	}
	switch {
	case !plan.Fits():
		c.Figure, c.Detail = fmt.Sprintf("%s out", Things(len(plan.LeftOut))), ""
		if plan.OverL > 0 {
			c.Detail = task.Trip.Units.Volume(plan.OverL) + " over"
		}
		for _, l := range plan.LeftOut {
			c.raise(Stop, fmt.Sprintf("%s %s. It would take %s.", l.Piece.Name, l.Why, l.LeastChange), l.Piece.ID)
		}
	case plan.State == load.Crammed:
		c.raise(Look, fmt.Sprintf("Crammed %s: it takes a knee to close it.", Part(plan.Squeeze)))
	}
	for _, b := range plan.Broken {
		if b.Rule == string(load.RulePin) {
			c.raise(Look, b.Why, b.Items...)
		}
	}
	if sure := plan.Sure; sure != nil {
		text := fmt.Sprintf("It fits in %.0f of 100 draws of the litres, as they are known.", 100*sure.Share)
		if sure.MeasureNext != "" && sure.Share > 0.005 && sure.Share < 0.995 {
			text += fmt.Sprintf(" Measuring the %s would help most.", strings.ToLower(itemOf(task, sure.MeasureNext).Name))
		}
		state := Settled
		if plan.Fits() && sure.Share < 0.8 {
			state = Look
		}
		c.raise(state, text)
	}
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if z.Squeeze > 0 && len(z.Pieces) > 0 {
			c.raise(Settled, fmt.Sprintf("%s: %s loose into %s, squeezed %s.", z.Zone.Name,
				task.Trip.Units.Volume(z.NeedLooseL), task.Trip.Units.Volume(z.CapacityL), Part(min(1, z.Squeeze))))
		}
	}
	for i, h := range plan.Hollows {
		if i < 3 {
			c.raise(Settled, fmt.Sprintf("Hollow spot of %s, %s up and %s from the back: push something soft into it.", task.Trip.Units.Volume(h.Litres),
				task.Trip.Units.Length(math.Round(h.AtCm[2])), task.Trip.Units.Length(math.Round(h.AtCm[1]))))
		}
	}
	if len(c.Reasons) == 0 {
		c.Reasons = []Finding{{Text: "Everything is in without squeezing."}}
	}
	return c
}

// weightCheck compares with the walker's body mass and with what the harness carries well.
func weightCheck(task *load.Task, plan *load.Plan, b Balance) Check {
	c := Check{Check: "weight", State: Settled, Figure: task.Trip.Units.Mass(b.MassG), Detail: fmt.Sprintf("%.0f %% of body", 100*b.BodyShare)}
	say := func(state CheckState, format string, args ...any) { c.raise(state, fmt.Sprintf(format, args...)) }
	body := task.Trip.Units.Mass(1000 * task.Trip.Carrier.MassKg)
	switch age := task.Trip.Carrier.Age; {
	case age < grownUp:
		childLoad(&c, b.BodyShare, age, body)
	case b.BodyShare > trail.UpperShare:
		say(Stop, "%.0f %% of %s body mass; above 30 %% is too much for most (common practice).", 100*b.BodyShare, body)
	case b.BodyShare > trail.CommonShare:
		say(Look, "%.0f %% of %s body mass; a quarter is the usual limit, some say 30 %% (common practice).", 100*b.BodyShare, body)
	default:
		say(Settled, "%.0f %% of %s body mass, within the usual quarter (common practice).", 100*b.BodyShare, body)
	}
	if b.MassG > liftTogetherG {
		say(Look, "%s is a heavy lift: on to the knee first, then one shoulder; above about %s help each other (common practice).", task.Trip.Units.Mass(b.MassG), task.Trip.Units.Body(liftTogetherG/1000))
	}
	if comfort := task.Pack.ComfortLoadG; comfort > 0 && b.MassG-task.Pack.MassG > comfort {
		say(Look, "%s in the pack; its harness carries up to %s well.", task.Trip.Units.Mass(b.MassG-task.Pack.MassG), task.Trip.Units.Mass(comfort))
	}
	if n := len(plan.LeftOut); n > 0 {
		say(Settled, "Without what is left out, %s.", Things(n))
	}
	return c
}

// From this age on the limits for grown walkers are used; above this mass nobody should lift alone (common practice).
const (
	grownUp       = 16
	liftTogetherG = 25_000
)

// Limits for children: up to a quarter of body mass (common practice); published advice for school bags is 10 to 20 per
// cent (American Academy of Pediatrics, from memory). Both are said.
const (
	childCommon = 0.25
	childSchool = 0.20
)

func childLoad(c *Check, share float64, age int, body string) {
	state := Settled
	switch {
	case share > childCommon:
		state = Stop
	case share > childSchool:
		state = Look
	}
	c.raise(state, fmt.Sprintf("%.0f %% of %s body mass at the age of %d: up to a quarter is common practice, 10 to 20 %% is the advice for school bags (American Academy of Pediatrics, from memory). A doctor's word goes first.", 100*share, body, age))
}

func round1(v float64) float64 { return math.Round(v*10) / 10 }

func round3(v float64) float64 { return math.Round(v*1000) / 1000 }

func round4(v float64) float64 { return math.Round(v*10000) / 10000 }
