package load

import (
	"cmp"
	"slices"

	"tornister/core/kit"
	"tornister/core/rucksack"
)

// heavyG is the mass from which a thing is heavy enough to be laid with care (our estimate: most kits have three to six).
const heavyG = 500

// depth says how high in its zone a thing wants to lie, 0 at the very bottom to 1 on top, and which rule says so.
func depth(task *Task, p kit.Piece, mass float64) (float64, string) {
	m := task.Method
	switch {
	case lowest(m, p.Item):
		return 0, "lowest"
	case p.Use.Urgent:
		return 1, "urgent"
	case isWater(p.Item) && m.Water == "top":
		return 0.97, "water-top"
	case p.Serves("shelter") && p.Use.When == kit.Arrival && m.Shelter == "top":
		return 0.9, "shelter-top"
	case (p.Use.When == kit.Camp || p.Use.When == kit.Need) && mass >= heavyG && dense(p):
		low, high := m.Band()
		return (low + high) / 2, "heavy"
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

// dense things are heavier than a stuffed sleeping bag: above 0.25 kg a litre (our estimate).
func dense(p kit.Piece) bool { return p.MassG >= 250*p.Shape.Litres(0.5) }

// order sorts the plan into loading order: solids first from the bottom up, then pockets as the pack names them, straps
// last. Within a zone pinned places hold, the rest goes by depth, heavier first, ties by id; what is nested follows its
// vessel.
func order(task *Task, plan *Plan) {
	mass := map[kit.Piece]float64{}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		mass[p.Piece] += p.Piece.MassG
	}
	rank := func(p *Placement) int {
		switch p.Zone.Kind {
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
	position := map[string]int{}
	for i := range task.Pack.Zones {
		position[task.Pack.Zones[i].ID] = i
	}
	outer := slices.DeleteFunc(slices.Clone(plan.Placed), func(p Placement) bool { return p.Inside != "" })
	slices.SortStableFunc(outer, func(p, q Placement) int {
		a, _ := depth(task, p.Piece, mass[p.Piece])
		b, _ := depth(task, q.Piece, mass[q.Piece])
		return cmp.Or(cmp.Compare(rank(&p), rank(&q)), cmp.Compare(position[p.Zone.ID], position[q.Zone.ID]),
			cmp.Compare(a, b), cmp.Compare(mass[q.Piece], mass[p.Piece]), comparePieces(p.Piece, q.Piece))
	})
	outer = holdPlaces(task, outer)
	lanes(task, outer)
	ordered := make([]Placement, 0, len(plan.Placed))
	for _, p := range outer {
		ordered = append(ordered, p)
		for _, q := range plan.Placed {
			if q.Inside == p.Piece.ID && q.Zone == p.Zone && nestedWith(plan.Placed, p, q) {
				ordered = append(ordered, q)
			}
		}
	}
	plan.Placed = ordered
}

// nestedWith tells the contents of equal vessels apart: those listed right after the vessel belong to it.
func nestedWith(placed []Placement, vessel, inner Placement) bool {
	owner := kit.Piece{}
	for _, p := range placed {
		if p.Inside == "" {
			owner = p.Piece
		}
		if p.Piece == inner.Piece {
			return owner == vessel.Piece
		}
	}
	return false
}

// holdPlaces moves things with a pinned place to that place of their zone.
func holdPlaces(task *Task, placed []Placement) []Placement {
	for i := range placed {
		pin := task.pinFor(placed[i].Piece)
		if pin == nil || pin.Place < 1 {
			continue
		}
		p := placed[i]
		first := slices.IndexFunc(placed, func(q Placement) bool { return q.Zone == p.Zone })
		n := 0
		for _, q := range placed {
			n += count(q.Zone == p.Zone)
		}
		p.Pinned = true
		placed = slices.Delete(placed, i, i+1)
		placed = slices.Insert(placed, first+min(pin.Place, n)-1, p)
	}
	return placed
}

// lanes lays heavy things of the body to the back and their neighbours in the order to the front, or the other way
// round where the school wants something soft at the spine.
func lanes(task *Task, placed []Placement) {
	heavyLane, softLane := Back, Front
	if task.Method.Spine == "soft" {
		heavyLane, softLane = Front, Back
	}
	for i := 0; i < len(placed); i++ {
		p := &placed[i]
		if p.Zone.Kind != rucksack.Body {
			continue
		}
		if !(p.Piece.MassG >= heavyG && dense(p.Piece)) {
			continue
		}
		p.Lane = heavyLane
		if i+1 < len(placed) && placed[i+1].Zone == p.Zone && !dense(placed[i+1].Piece) {
			placed[i+1].Lane = softLane
			i++
		}
	}
}
