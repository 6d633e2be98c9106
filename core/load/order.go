package load

import (
	"cmp"
	"slices"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// heavyG is the mass from which a thing is heavy enough to be laid with care (our estimate: most kits have three to
// six).
const heavyG = 500

// depth says how high in its zone a thing wants to lie, 0 at the very bottom to 1 on top, and which rule says so.
func depth(task *job.Task, p kit.Piece, mass float64) (float64, string) {
	m := task.Method
	switch {
	case assign.Lowest(m, p.Item):
		return 0, "lowest"
	case p.Use.Urgent:
		return 1, "urgent"
	case assign.IsWater(p.Item) && m.Water == "top":
		return 0.97, "water-top"
	case p.Serves("shelter") && p.Use.When == kit.Arrival && m.Shelter == "top":
		return 0.9, "shelter-top"
	case p.Water.ReturnsWet && m.Dry == "liner" && task.Dryness().Liner() != nil && p.Use.When != kit.Camp:
		return overLiner, "over-liner"
	case p.Has(kit.Food) && p.Day > 0:
		return dayTop[m.Heavy] - dayStep*float64(min(p.Day, mostDays)-1), "food-day"
	case (p.Use.When == kit.Camp || p.Use.When == kit.Need) && mass >= heavyG && dense(p):
		return map[string]float64{"low": 0.1, "close": 0.5, "high": 0.8}[m.Heavy], "heavy"
	}
	switch p.Use.When {
	case kit.Camp:
		return 0.15, "camp"
	case kit.Need:
		return 0.3, "need"
	case kit.Arrival:
		return 0.4, "arrival"
	case kit.Halt:
		return 0.75, "halt"
	}
	return 0.9, "moving"
}

// overLiner is where what comes back wet lies: over the liner, which is rolled shut below it.
const overLiner = 0.93

// The food of the first day lies highest, that of each day after it a step lower (common practice); where heavy
// things belong low, all of it lies lower.
const (
	dayStep  = 0.05
	mostDays = 10
)

var dayTop = map[string]float64{"low": 0.4, "close": 0.75, "high": 0.85}

// dense things are heavier than a stuffed sleeping bag: above 0.25 kg a litre (our estimate).
func dense(p kit.Piece) bool { return p.MassG >= 250*p.Shape.Litres(0.5) }

// compareInLoading says which of two things of a zone goes in first: the deeper, then the heavier, then the smaller
// id.
func compareInLoading(task *job.Task, a, b *assign.Choice) int {
	da, _ := depth(task, a.Piece, a.Mass)
	db, _ := depth(task, b.Piece, b.Mass)
	return cmp.Or(cmp.Compare(da, db), cmp.Compare(b.Mass, a.Mass), job.ComparePieces(a.Piece, b.Piece))
}

// rank is the turn in which a zone is loaded.
func rank(z *rucksack.Zone) int {
	switch z.Kind {
	case rucksack.Bottom:
		return 0
	case rucksack.Sleeve:
		return 1
	case rucksack.Body:
		return 2
	case rucksack.Inner:
		return 3
	case rucksack.Straps:
		return 5
	}
	return 4
}

// loadingOrder lists the placed things zone by zone: solids in the order of their trial, pockets by what is wanted
// when, the contents of a vessel right after it.
func loadingOrder(a *assign.Assignment, p *packing) []*assign.Choice {
	zones, turns := make([]int, len(a.Zones)), make([]int, len(a.Zones))
	for i := range zones {
		zones[i], turns[i] = i, rank(&a.Zones[i])
		if before(a, i, p.squeeze) {
			turns[i] = -1
		}
	}
	slices.SortStableFunc(zones, func(i, j int) int { return turns[i] - turns[j] })
	var list []*assign.Choice
	bags := p.bagPlan.ByPiece()
	for _, zone := range zones {
		if a.Zones[zone].Solid() {
			for _, i := range p.order {
				if p.inside[i].Zone == zone {
					list = append(list, p.inside[i])
				}
			}
			continue
		}
		first := len(list)
		for _, c := range a.Choices {
			if c.Zone == zone {
				list = append(list, c)
			}
		}
		slices.SortStableFunc(list[first:], func(x, y *assign.Choice) int { return compareInLoading(a.Task, x, y) })
		bagByBag(list[first:], bags)
		holdPlaces(list[first:])
	}
	return list
}

// bagByBag lets what goes into one dry bag go into its pocket together, at the turn of what is wanted first of it: the
// bag is one thing to the hand.
func bagByBag(list []*assign.Choice, in map[kit.Piece]*dry.Bag) {
	last := map[*dry.Bag]int{}
	for i, c := range list {
		last[in[c.Piece]] = i
	}
	turns := map[*assign.Choice]int{}
	for i, c := range list {
		turns[c] = i
		if bag := in[c.Piece]; bag != nil {
			turns[c] = last[bag]
		}
	}
	slices.SortStableFunc(list, func(x, y *assign.Choice) int { return turns[x] - turns[y] })
}

// holdPlaces moves things with a pinned place to that place.
func holdPlaces(list []*assign.Choice) {
	for _, c := range slices.Clone(list) {
		if c.Pin == nil || c.Pin.Place < 1 {
			continue
		}
		from := slices.Index(list, c)
		to := min(c.Pin.Place, len(list)) - 1
		for ; from < to; from++ {
			list[from] = list[from+1]
		}
		for ; from > to; from-- {
			list[from] = list[from-1]
		}
		list[to] = c
	}
}
