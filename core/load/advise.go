package load

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/fact"
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
func Advise(task *Task, arrangement Arrangement, most int, options Options) (changes []Change) {
	options.Quick = true
	plan := Make(task, options)
	price := func(a Arrangement) float64 {
		_, _, j := arrange(task, a, options)
		return j.Cost()
	}
	now := slices.Clone(arrangement)
	cost := price(now)
	candidates := plan.candidates()
	for range most {
		var tried []candidate
		for _, c := range candidates {
			if options.Stop != nil && options.Stop() {
				return changes
			}
			c.change, c.after = now.with(plan, c.at, c.zone)
			if c.change.SavesS = cost - price(c.after); c.change.SavesS > 0 {
				tried = append(tried, c)
			}
		}
		slices.SortStableFunc(tried, func(x, y candidate) int { return cmp.Compare(y.change.SavesS, x.change.SavesS) })
		if len(tried) == 0 || tried[0].change.SavesS < worthwhile*cost {
			break
		}
		changes = append(changes, tried[0].change)
		now, cost = tried[0].after, cost-tried[0].change.SavesS
		candidates = tried[1:min(shortlist, len(tried))]
	}
	return changes
}

// candidate is a thing, by its position in a plan, and a zone to put it into.
type candidate struct {
	at     int
	zone   string
	change Change
	after  Arrangement
}

func (p *Plan) candidates() (list []candidate) {
	for i := range p.Placed {
		if p.Placed[i].Inside != "" {
			continue
		}
		for _, zone := range p.search.assignment.suits(&p.Placed[i]) {
			list = append(list, candidate{at: i, zone: zone})
		}
	}
	return list
}

// suits lists the zone of a placement, and the others that are cheapest for its thing.
func (a *assignment) suits(pl *Placement) []string {
	zones := []string{pl.Zone.ID}
	for _, z := range a.cheapest(a.choiceOf(pl.Piece)) {
		if len(zones) <= elsewhere && a.zones[z].ID != pl.Zone.ID {
			zones = append(zones, a.zones[z].ID)
		}
	}
	return zones
}

// with is the arrangement with the thing at position i of a plan put into a zone: where the plan has it, before the
// first of those that follow it there, else last.
func (a Arrangement) with(plan *Plan, i int, zone string) (Change, Arrangement) {
	pl := &plan.Placed[i]
	from, _ := a.zoneOf(pl.Piece)
	change := Change{Piece: pl.Piece, From: from, To: zone}
	next := slices.DeleteFunc(slices.Clone(a),
		func(s Spot) bool { return s.Item == pl.Piece.ID && s.Piece == pl.Piece.Number })
	at := len(next)
	for k := i + 1; k < len(plan.Placed) && change.Before == nil && zone == pl.Zone.ID; k++ {
		after := &plan.Placed[k]
		if after.Zone != pl.Zone || after.Inside != "" {
			continue
		}
		if spot := slices.Index(next, Spot{after.Piece.ID, after.Piece.Number, pl.Zone.ID}); spot >= 0 {
			at, change.Before = spot, &after.Piece
		}
	}
	return change, slices.Insert(next, at, Spot{pl.Piece.ID, pl.Piece.Number, zone})
}

// Fact says what a change is.
func (c *Change) Fact(pack *rucksack.Pack) fact.Fact {
	saves, name := math.Round(c.SavesS), numbered(c.Piece)
	switch {
	case c.From == "":
		return fact.Of("load.change-in", name, fact.Small(pack.Zone(c.To).Name), saves)
	case c.From != c.To:
		return fact.Of("load.change-zone", name, fact.Small(pack.Zone(c.From).Name), fact.Small(pack.Zone(c.To).Name), saves)
	case c.Before == nil:
		return fact.Of("load.change-last", name, fact.Small(pack.Zone(c.To).Name), saves)
	}
	before := numbered(*c.Before)
	before.Name = unit.Small(before.Name)
	return fact.Of("load.change-turn", name, before, saves)
}

func numbered(p kit.Piece) fact.Numbered {
	if p.Count > 1 {
		return fact.Numbered{Name: p.Name, Number: p.Number}
	}
	return fact.Numbered{Name: p.Name}
}
