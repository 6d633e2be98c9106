package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// Change is a thing put elsewhere in an arrangement, and the seconds a day that this saves.
type Change struct {
	Piece  kit.Piece
	From   string     // id of its zone, "" when it is out
	To     string     // the same zone when it only goes in at another turn
	Before *kit.Piece // what it goes in before, nil when it is the last in its zone
	SavesS float64
	Misfit bool // it does not go in where it is arranged
	Frees  bool // something else that does not go in where it is arranged goes in then
}

// How a change is looked for.
const (
	elsewhere  = 3    // other zones, the cheapest first, that a thing is put into for trial
	shortlist  = 15   // changes of the first round that are tried again after one was made
	worthwhile = 0.02 // of the cost that a change must save to be named
)

// Advise looks for the changes of an arrangement that would help most, at most so many, each after those before it:
// for trial every thing is put where a plan made from nothing has it, in that zone or only at that turn, and last
// into the zones that suit it best. Less than a fiftieth of the cost is not worth a word.
func Advise(task *job.Task, arrangement job.Arrangement, most int, options Options) (changes []Change) {
	options.Quick = true
	plan := Make(task, options)
	if options.Like == nil {
		options.Like = plan.Lays()
	}
	now := slices.Clone(arrangement)
	_, like, j := arrange(task, now, nil, options)
	cost, misfit := j.Cost(), j.Misfit
	price := func(a job.Arrangement) float64 {
		_, _, j := arrange(task, a, like, options)
		return j.Cost()
	}
	candidates := plan.candidates(now)
	ended := false
	for !ended && len(changes) < most {
		var tried []candidate
		for _, c := range candidates {
			if ended = clock(options.Stop).ended(); ended {
				break // with what was found so far
			}
			c = candidate{at: c.at, zone: c.zone} // as judged before, it is of no use now
			c.change, c.after = moved(now, plan, c.at, c.zone)
			if c.change.SavesS = cost - price(c.after); c.change.SavesS > 0 {
				tried = append(tried, c)
			}
		}
		confirm(task, tried, cost, options)
		if len(tried) == 0 || tried[0].change.SavesS < worthwhile*cost {
			break
		}
		best, j := tried[0].change, tried[0].judged
		best.Misfit = slices.ContainsFunc(misfit, func(s job.Spot) bool { return s.Of(best.Piece) })
		best.Frees = !best.Misfit && len(j.Misfit) < len(misfit)
		now, cost, misfit, like = tried[0].after, j.Cost(), j.Misfit, tried[0].packed
		changes = append(changes, best)
		candidates = tried[1:min(shortlist, len(tried))]
	}
	return changes
}

// mostConfirmed is how many changes are judged in full to find the best one.
const mostConfirmed = 4

// confirm finds the change that saves most and judges it in full, as whoever makes it will be judged: what was packed
// before lends a trial its lanes and too much of its squeeze. It comes first in the list.
func confirm(task *job.Task, tried []candidate, cost float64, options Options) {
	for range min(mostConfirmed, len(tried)) {
		slices.SortStableFunc(tried, func(x, y candidate) int { return cmp.Compare(y.change.SavesS, x.change.SavesS) })
		best := &tried[0]
		if best.judged != nil {
			return
		}
		_, best.packed, best.judged = arrange(task, best.after, nil, options)
		best.change.SavesS = cost - best.judged.Cost()
	}
	slices.SortStableFunc(tried, func(x, y candidate) int {
		return cmp.Or(count(y.judged != nil)-count(x.judged != nil), cmp.Compare(y.change.SavesS, x.change.SavesS))
	})
}

// candidate is a thing, by its position in a plan, and a zone to put it into.
type candidate struct {
	at     int
	zone   string
	change Change
	after  job.Arrangement
	packed *packing   // nil until it is judged in full
	judged *Judgement // the same
}

// candidates are those of a plan: what an arrangement has elsewhere or not at all comes first.
func (p *Plan) candidates(now job.Arrangement) (list []candidate) {
	for i := range p.Placed {
		if p.Placed[i].Inside != "" {
			continue
		}
		for _, zone := range suits(p.search.assignment, &p.Placed[i]) {
			list = append(list, candidate{at: i, zone: zone})
		}
	}
	slices.SortStableFunc(list, func(x, y candidate) int { return p.strange(now, x) - p.strange(now, y) })
	return list
}

// strange ranks a candidate: what an arrangement does not have in, then what it has in another zone, then the rest.
func (p *Plan) strange(now job.Arrangement, c candidate) int {
	switch zone, known := now.ZoneOf(p.Placed[c.at].Piece); {
	case !known || zone == "":
		return 0
	case zone != p.Placed[c.at].Zone.ID && c.zone == p.Placed[c.at].Zone.ID:
		return 1
	}
	return 2
}

// suits lists the zone of a placement, and the others that are cheapest for its thing.
func suits(a *assign.Assignment, pl *Placement) []string {
	zones := []string{pl.Zone.ID}
	for _, z := range a.Cheapest(a.ChoiceOf(pl.Piece)) {
		if len(zones) <= elsewhere && a.Zones[z].ID != pl.Zone.ID {
			zones = append(zones, a.Zones[z].ID)
		}
	}
	return zones
}

// moved is an arrangement with the thing at position i of a plan put into a zone: where the plan has it, before the
// first of those that follow it there, else last.
func moved(a job.Arrangement, plan *Plan, i int, zone string) (Change, job.Arrangement) {
	pl := &plan.Placed[i]
	from, _ := a.ZoneOf(pl.Piece)
	change := Change{Piece: pl.Piece, From: from, To: zone}
	next := slices.DeleteFunc(slices.Clone(a), func(s job.Spot) bool { return s.Of(pl.Piece) })
	at := len(next)
	for k := i + 1; k < len(plan.Placed) && change.Before == nil && zone == pl.Zone.ID; k++ {
		after := &plan.Placed[k]
		if after.Zone != pl.Zone || after.Inside != "" {
			continue
		}
		if spot := slices.Index(next, job.At(after.Piece, pl.Zone.ID)); spot >= 0 {
			at, change.Before = spot, &after.Piece
		}
	}
	return change, slices.Insert(next, at, job.At(pl.Piece, zone))
}

// Fact says what a change is, and what it saves unless it is that something goes in at all: that has no price.
func (c *Change) Fact(pack *rucksack.Pack) fact.Fact {
	name, saves := numbered(c.Piece), math.Round(c.SavesS)
	to := fact.Small(pack.Zone(c.To).Name)
	switch {
	case c.From == "":
		return fact.Of("load.change-in", name, to)
	case c.From != c.To:
		from := fact.Small(pack.Zone(c.From).Name)
		return c.which(fact.Of("load.change-fits", name, from, to), fact.Of("load.change-room", name, from, to),
			fact.Of("load.change-zone", name, from, to, saves))
	case c.Before == nil:
		return c.which(fact.Of("load.change-fits-last", name, to), fact.Of("load.change-room-last", name, to),
			fact.Of("load.change-last", name, to, saves))
	}
	before := numbered(*c.Before)
	before.Name = unit.Small(before.Name)
	return c.which(fact.Of("load.change-fits-turn", name, before), fact.Of("load.change-room-turn", name, before),
		fact.Of("load.change-turn", name, before, saves))
}

// which chooses by what a change does: its own thing goes in, something else goes in, or it only saves.
func (c *Change) which(fits, room, saves fact.Fact) fact.Fact {
	switch {
	case c.Misfit:
		return fits
	case c.Frees:
		return room
	}
	return saves
}

func numbered(p kit.Piece) fact.Numbered {
	if p.Count > 1 {
		return fact.Numbered{Name: p.Name, Number: p.Number}
	}
	return fact.Numbered{Name: p.Name}
}
