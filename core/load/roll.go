package load

import (
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// Roll is a liner that is rolled shut: after which step of the loading order, at which height.
type Roll struct {
	Zone  *rucksack.Zone
	Bag   *dry.Bag
	After int     // place in Plan.Placed of the last thing below, from 0
	Cm    float64 // above the foot of the pack: the top of what must stay dry
}

// above says what lies over the liner of the body: the last things of its order, which go in after all that must stay
// dry, when the liner is rolled shut (common practice: wet tent, rain clothes, a water bag on top).
func (p *Plan) above(task *job.Task) map[kit.Piece]bool {
	pack := task.Dryness()
	pack.Open = p.Open
	body := task.Pack.Of(rucksack.Body)
	if pack.LinerOf(body) == nil {
		return nil
	}
	last := -1
	var order []*Placement
	for i := range p.Placed {
		pl := &p.Placed[i]
		if pl.Inside != "" && mustStayDry(pl) && len(order) > 0 && order[len(order)-1] == p.Outer(i) {
			last = len(order)
		}
		if pl.Box == nil || pl.Zone.Kind != rucksack.Body && !p.Open {
			continue
		}
		order = append(order, pl)
		if mustStayDry(pl) {
			last = len(order)
		}
	}
	above := map[kit.Piece]bool{}
	if last > 0 {
		for _, pl := range order[last:] {
			above[pl.Piece] = true
		}
	}
	return above
}

func mustStayDry(p *Placement) bool { return dry.Need(p.Piece.Item) == 2 && !dry.Cased(p.Piece.Item) }

// Outer is what the thing at position i lies in, the outermost of them; it is the thing itself when that is nested in
// nothing.
func (p *Plan) Outer(i int) *Placement {
	for ; i > 0 && p.Placed[i].Inside != ""; i-- {
	}
	return &p.Placed[i]
}

// Around lists what a thing lies in, the innermost first.
func (p *Plan) Around(i int) (outer []*Placement) {
	for k := i; k >= 0 && p.Placed[i].Inside != ""; k-- {
		if p.Placed[k].Piece.ID == p.Placed[i].Inside {
			i = k
			outer = append(outer, &p.Placed[k])
		}
	}
	return outer
}

// BagsRound is how many kit bags are to be opened for a thing.
func (p *Plan) BagsRound(i int) (bags int) {
	for _, outer := range p.Around(i) {
		bags += count(outer.Piece.IsBag())
	}
	return bags
}

// Rolls lists the liners that are rolled shut on the way, of the plan as package dry sees it.
func (p *Plan) Rolls(pack *dry.Pack) (rolls []Roll) {
	for i := range pack.Pack.Zones {
		z := &pack.Pack.Zones[i]
		if !z.Solid() || !pack.LinerShuts(z) || p.Open && z.Kind == rucksack.Bottom {
			continue
		}
		roll, top := Roll{Zone: z, Bag: pack.LinerOf(z), After: -1}, 0.0
		for k, l := range pack.Things {
			pl := &p.Placed[k]
			if pl.Zone != z && !(p.Open && pl.Zone.Solid()) || l.Above {
				continue
			}
			roll.After = k
			if pl.Box != nil {
				top = max(top, pl.Box.Max[2])
				if mustStayDry(pl) {
					roll.Cm = max(roll.Cm, pl.Box.Max[2])
				}
			}
		}
		if roll.Cm == 0 {
			roll.Cm = top
		}
		if roll.After >= 0 {
			rolls = append(rolls, roll)
		}
	}
	return rolls
}
