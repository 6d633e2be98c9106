package load

import (
	"math"
	"slices"

	"tornister/core/job"
	"tornister/core/stuff"
)

// shoveBudget bounds, in things placed, how often a hand pushes something aside for what does not go in.
const shoveBudget = 20_000

// shove packs the order as it is, and where that leaves things out, as a hand would go on without unpacking anything:
// squeezed otherwise, in other lanes, turned round. Zones and turns stay. It gives the squeeze at which the fewest are
// out, and is packed at it.
func (p *packing) shove(random *source) (squeeze float64) {
	least := math.Inf(1)
	var best []stuff.Thing
	try := func(at float64) bool {
		p.run(at)
		if m := p.missing(); m < least {
			least, squeeze, best = m, at, cloneThings(p.things)
		}
		return least == 0
	}
	squeezes := []float64{1, 0.8, 0.6, 0.4, 0.2, 0}
	if try(squeezes[0]) || slices.ContainsFunc(squeezes[1:], try) {
		return squeeze
	}
	for i, c := range p.inside {
		if c.Pin == nil || c.Pin.Lane == job.Full {
			p.things[i].Wish = stuff.Wish{}
		}
	}
	_ = slices.ContainsFunc(squeezes, try)
	for least > 0 && p.budget.spend(len(p.things)) {
		copy(p.things, cloneThings(best))
		i := random.below(len(p.things))
		if out := p.trial.Out; len(out) > 0 && random.below(2) == 0 {
			i = out[random.below(len(out))]
		}
		if poses := p.things[i].Poses; len(poses) > 1 && random.below(3) == 0 {
			k := random.below(len(poses))
			poses[0], poses[k] = poses[k], poses[0]
		} else if pin := p.inside[i].Pin; pin == nil || pin.Lane == job.Full {
			p.things[i].Wish = stuff.Wish{Deep: float64(random.below(2)), Across: float64(random.below(3)) / 2, Firm: firm}
		}
		try(squeeze)
	}
	copy(p.things, best)
	p.run(squeeze)
	return squeeze
}

func cloneThings(things []stuff.Thing) []stuff.Thing {
	list := slices.Clone(things)
	for i := range list {
		list[i].Poses = slices.Clone(list[i].Poses)
	}
	return list
}
