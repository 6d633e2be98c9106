package verdict

import (
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
)

// Lies is a plan as drills see it: every thing with what has to come out before it, its bag, and whether rain would
// spoil it on the ground; and the things on the walker. What is nested lies where its vessel does, in the vessel.
func Lies(task *job.Task, plan *load.Plan) (lies []reach.Lie, worn []kit.Piece) {
	pack, barriers := load.Barriers(task, plan)
	bags := newBagging(pack, &barriers)
	over := map[string][]kit.Piece{}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Inside == "" {
			over[p.Piece.ID] = p.Over
		}
	}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		l := reach.Lie{Piece: p.Piece, Zone: p.Zone, Over: p.Over, Liner: pack.Lined(bags.lying[p.Piece])}
		if p.Inside != "" {
			l.Over = over[plan.Outer(i).Piece.ID]
		}
		if bag := bags.in[p.Piece]; bag != nil {
			l.Bag = bag.ID
		}
		if outer := plan.Outer(i).Piece; p.Inside != "" && l.Bag == "" && outer.IsBag() {
			l.Bag = outer.ID
		}
		l.Spoils = dry.Need(p.Piece.Item) == 2 && !dry.Cased(p.Piece.Item) && l.Bag == ""
		lies = append(lies, l)
	}
	worn = append(kit.Pieces(task.Items, kit.Worn), kit.Pieces(task.Items, kit.Hand)...)
	return lies, worn
}

// Rehearsed runs every drill that the kit has something for, and those that must be possible anyway.
func Rehearsed(task *job.Task, plan *load.Plan, own []reach.Drill) []reach.Result {
	lies, worn := Lies(task, plan)
	var results []reach.Result
	for i := range reach.Drills {
		d := &reach.Drills[i]
		r := reach.Run(d, lies, worn)
		if r.Missing && optional[d.ID] {
			continue // no rescue kit, no child: nothing to rehearse
		}
		results = append(results, r)
	}
	for i := range own {
		results = append(results, reach.Run(&own[i], lies, worn))
	}
	return results
}

var optional = map[string]bool{"avalanche": true, "child": true, "night-call": true, "camp-in-rain": true,
	"cold-halt": true}
