// Package card makes the load card of a trip: what to put where, in which order, with boxes to tick; where the
// first aid is; the drills; the cautions. It is one sheet to print, in words, as HTML that works without network,
// or as PDF.
package card

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"tornister/answer"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
	"tornister/words"
)

// Card is what stands on the sheet.
type Card struct {
	Trip, Pack, Verdict, Detail string
	Checks                      []Check
	Groups                      []Group
	LeftOut, Broken             []string
	FirstAid                    string
	Drills                      []string
	Sums                        string
	Cautions                    []string
	Hand                        []string      // what an order of one's own is worth
	Drawing                     template.HTML // the cutaway from the side
	Steps                       int
}

// Check is one of the six.
type Check struct{ Name, State, Figure string }

// Group is a zone with the steps that fill it.
type Group struct {
	Zone, Figure string
	Lines        []Line
}

// Line is a step of the order: a thing, or a bag with what is in it below.
type Line struct {
	Step        int
	Key         string // names the piece in the open format: item, or item:number
	Name, Place string
	Mass, Why   string
	Reasons     []string
	Bag         string // heads the line, where another bag begins
	In          int    // so many bags and other things round it
	After       string // to be done after it, such as rolling the liner shut
}

// cautions stand on every card.
var cautions = []string{
	"Lift a heavy pack on to the knee first, then one shoulder.",
	"This is advice: local rules, makers' instructions and licensed guides go first.",
}

// Of makes the card of a judged plan.
func Of(trip string, judged *verdict.Judged, a *answer.Answer, system unit.System) *Card {
	task, plan := judged.Task, judged.Plan
	c := &Card{Trip: trip, Pack: task.Pack.Name, Verdict: answer.Sentence(a.Verdict, len(a.LeftOut), system),
		Cautions: cautions, Steps: len(plan.Placed)}
	for _, check := range a.Checks {
		c.Checks = append(c.Checks, Check{unit.Capital(check.Check), string(check.State),
			strings.TrimSuffix(check.Figure+", "+check.Detail, ", ")})
	}
	bags := judged.Barriers.ByPiece()
	last := ""
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if n := len(c.Groups); n == 0 || c.Groups[n-1].Zone != p.Zone.Name {
			c.Groups = append(c.Groups, Group{Zone: p.Zone.Name, Figure: zoneFigure(plan, p, system)})
			last = ""
		}
		l := Line{Step: i + 1, Key: p.Piece.Key(), Name: words.Piece(p.Piece), Place: string(p.Lane),
			Mass: system.Mass(p.Piece.MassG), In: len(plan.Around(i))}
		if n := len(p.Reasons); n > 0 {
			l.Why = words.Say(p.Reasons[n-1].Fact, system)
			for _, r := range p.Reasons {
				l.Reasons = append(l.Reasons, words.Say(r.Fact, system))
			}
		}
		if bag := bags[p.Piece]; bag != nil {
			if l.In++; bag.Name != last {
				l.Bag = bag.Name
			}
			last = bag.Name
		} else if p.Inside == "" {
			last = ""
		}
		for _, r := range judged.Rolls {
			if r.After == i {
				l.After = fmt.Sprintf("Roll the %s shut at %s.", unit.Small(r.Bag.Name), system.Length(math.Round(r.Cm)))
			}
		}
		if i == len(plan.Placed)-1 && a.Closing != "" {
			l.After = strings.TrimSpace(l.After + " " + a.Closing)
		}
		if c.FirstAid == "" && p.Piece.Serves("first-aid") {
			c.FirstAid = fmt.Sprintf("%s: %s.", p.Piece.Name, unit.Small(p.Zone.Name))
		}
		group := &c.Groups[len(c.Groups)-1]
		group.Lines = append(group.Lines, l)
	}
	if c.FirstAid == "" {
		c.FirstAid = "No first aid kit is in this pack."
		for i := range judged.Task.Others {
			if it := &judged.Task.Others[i]; it.Serves("first-aid") && it.Carry != kit.Left {
				c.FirstAid = fmt.Sprintf("Not in this pack: %s is with somebody else of the party.", unit.Small(it.Name))
				break
			}
		}
	}
	for _, l := range plan.LeftOut {
		c.LeftOut = append(c.LeftOut,
			strings.TrimSpace(fmt.Sprintf("%s %s: %s. It would take %s.", words.Say(l.Guess(), system), words.Piece(l.Piece),
				words.Say(l.Why, system), words.Say(l.LeastChange, system))))
	}
	for _, b := range plan.Broken {
		c.Broken = append(c.Broken, unit.Capital(words.Say(b.Why, system)))
	}
	for _, check := range a.Checks {
		if check.Check == "reach" {
			for _, r := range check.Reasons {
				c.Drills = append(c.Drills, r.Text)
			}
		}
	}
	sums := verdict.KitOf(task.Items, &task.Pack)
	c.Sums = fmt.Sprintf("On the back %s; food, fuel and water of it %s; worn %s, in hand %s.",
		system.Mass(a.Balance.MassG), system.Mass(sums.ConsumableG), system.Mass(sums.Worn.MassG),
		system.Mass(sums.Hand.MassG))
	c.hand(a, judged)
	shoulder := task.Pack.ShoulderCm()
	c.Drawing = draw.Cutaway(draw.Scene{Pack: &task.Pack, Plan: plan, View: draw.FromSide, Plane: -1,
		Rolls: judged.Rolls, Bags: bags, System: system,
		Balance: draw.Balance{Centre: a.Balance.CentreCm, Low: a.Balance.Band[0] * shoulder,
			High: a.Balance.Band[1] * shoulder},
		Name: func(p *load.Placement) string { return words.Piece(p.Piece) }}).SVG
	return c
}

func zoneFigure(plan *load.Plan, p *load.Placement, system unit.System) string {
	for i := range plan.Zones {
		if f := &plan.Zones[i]; f.Zone == p.Zone {
			if f.CapacityL <= 0 {
				return system.Mass(f.MassG)
			}
			return fmt.Sprintf("%s of %s", system.Volume(f.NeedLooseL+f.Squeeze*(f.NeedTightL-f.NeedLooseL)),
				system.Volume(f.CapacityL))
		}
	}
	return ""
}

// part is a list under the order.
type part struct {
	title string
	lines []string
}

// parts are the lists that are not empty.
func (c *Card) parts() (list []part) {
	for _, p := range []part{{"Not in", c.LeftOut}, {"Rules not kept", c.Broken}, {"Your own order", c.Hand},
		{"To hand", c.Drills},
		{"Weight and care", append([]string{c.Sums}, c.Cautions...)}} {
		if len(p.lines) > 0 {
			list = append(list, p)
		}
	}
	return list
}

// hand says what an order that was given is worth, and what would help.
func (c *Card) hand(a *answer.Answer, judged *verdict.Judged) {
	if a.Hand == nil {
		return
	}
	names := map[string]string{}
	for i := range judged.Task.Items {
		names[judged.Task.Items[i].ID] = judged.Task.Items[i].Name
	}
	c.Hand = append(c.Hand, fmt.Sprintf("It costs %.0f s a day by our prices; the planned one %.0f s.", a.Hand.CostS,
		a.Hand.PlannedS))
	for _, s := range a.Hand.Misfit {
		c.Hand = append(c.Hand, fmt.Sprintf("%s does not go into the %s as arranged.", names[s.Item],
			unit.Small(judged.Task.Pack.Zone(s.Zone).Name)))
	}
	for _, change := range a.Hand.Changes {
		c.Hand = append(c.Hand, change.Text)
	}
	if len(a.Hand.Changes) == 0 {
		c.Hand = append(c.Hand, "No single change that was tried would help.")
	}
}
