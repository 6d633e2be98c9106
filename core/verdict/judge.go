// Package verdict judges a plan: it goes through the six checks that are always in view, and what they stand on. It
// says what it found as facts; package words makes sentences of them, package answer the open answer format.
package verdict

import (
	"math"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
)

// Judged is a plan with what follows from it.
type Judged struct {
	Task     *job.Task
	Plan     *load.Plan
	Steps    []Step // beside Plan.Placed
	Balance  Balance
	Dry      []Dry
	Pack     *dry.Pack // the plan as far as dryness goes
	Barriers dry.Barriers
	Rolls    []load.Roll // liners that are rolled shut on the way
	Checks   []Check     // the six, in the order of Names
}

// Names lists the six checks in the order in which they are shown.
var Names = []string{"fit", "weight", "balance", "dry", "reach", "safe"}

// Step is one step of the loading order, with its bag and how the thing comes to hand again.
type Step struct {
	*load.Placement
	Bag       string  // id of the innermost bag, the liner too; "" for none
	ReachS    float64 // seconds
	LiftedOut int     // things that come out before it, a bag with all that is in it as one
}

// Of plans a task and judges the plan.
func Of(task *job.Task, options load.Options) *Judged { return Judge(task, load.Make(task, options)) }

// Judge goes through the checks of a plan of a task.
func Judge(task *job.Task, plan *load.Plan) *Judged {
	pack, barriers := load.Barriers(task, plan)
	j := &Judged{Task: task, Plan: plan, Pack: pack, Barriers: barriers, Rolls: plan.Rolls(pack)}
	bags := newBagging(pack, &j.Barriers)
	for i := range plan.Placed {
		j.Steps = append(j.Steps, step(task, plan, i, bags))
	}
	j.Dry = dryness(pack, &j.Barriers)
	j.Balance = weigh(task, plan, &j.Barriers)
	j.Checks = []Check{
		fitCheck(task, plan), weightCheck(task, plan, j.Balance), balanceCheck(j.Balance),
		dryCheck(pack, &j.Barriers, j.Dry), reachCheck(task, j.Steps), safeCheck(task, plan, bags),
	}
	return j
}

// Check is one of the six by name. It panics for a name that is not in Names.
func (j *Judged) Check(name string) *Check {
	for i := range j.Checks {
		if j.Checks[i].Check == name {
			return &j.Checks[i]
		}
	}
	panic("no check " + name)
}

// step is the one at position i. What lies in a vessel or a bag comes to hand with it; in a bag one has to look.
func step(task *job.Task, plan *load.Plan, i int, bags *bagging) Step {
	p := &plan.Placed[i]
	outer := plan.Outer(i)
	s := Step{Placement: p, LiftedOut: bags.lifted(outer)}
	var opened int
	s.Bag, opened = bags.of(p)
	s.ReachS = reach.Seconds(p.Zone, float64(s.LiftedOut), opened) +
		reach.LookS*float64(plan.BagsRound(i))
	if assign.DrunkThroughTube(task.Method, p.Piece.Item, p.Zone) {
		s.ReachS = assign.TubeSeconds
	}
	return s
}

// NumberOf is the piece's number where its line stands for several things, else 0.
func NumberOf(p kit.Piece) int {
	if p.Count > 1 {
		return p.Number
	}
	return 0
}

func rounded(at [3]float64) [3]float64 {
	for i := range at {
		at[i] = round1(at[i])
	}
	return at
}

func round1(v float64) float64 { return math.Round(v*10) / 10 }

func round3(v float64) float64 { return math.Round(v*1000) / 1000 }
