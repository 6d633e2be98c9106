// Package shrink makes a kit smaller. Moves lists what could be done to each thing, with the litres and grams it
// saves and what it costs in inconvenience; Least chooses the cheapest set of moves that saves enough, exactly; Fit
// lets the trial packing say how much is enough; SmallestPack looks for the smallest pack that takes the kit as it
// is.
//
// Costs are points of inconvenience: our estimates, on a scale on which a thing put somewhere else is 1 and a comfort
// missed on every evening is 4 to 6. They only order the moves; a packer who sees it differently forbids or forces
// one.
package shrink

import (
	"cmp"
	"slices"

	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
)

// Way is a manner of making a kit smaller.
type Way string

// The ways. The planner itself nests hard things of one section that are wanted together, and hangs outside what the
// school lets hang: that costs nothing and is already counted. Nest is for what it would not decide alone.
const (
	Nest   Way = "nest"   // inside a vessel that is carried anyway
	Sack   Way = "sack"   // squeeze it with straps
	Repack Way = "repack" // out of the maker's packaging
	Half   Way = "half"   // take a part of it
	Fewer  Way = "fewer"  // one of several less
	Wear   Way = "wear"   // on the walker or in the hand
	Swap   Way = "swap"   // another thing from the shelf for it
	Leave  Way = "leave"  // at home
)

// Move is one thing that could be done.
type Move struct {
	Way    Way
	Item   string // id of the thing it is done to
	With   string // key of the shelf thing that comes instead, of a swap; id of the vessel, of a nesting
	What   fact.Fact
	Why    fact.Fact
	Litres float64 // saved in the pack, squeezed tight
	Grams  float64 // off the back
	Cost   float64
	Change Change
}

// Key names a move within its kit.
func (m Move) Key() string {
	key := string(m.Way) + ":" + m.Item
	if m.With != "" {
		key += ":" + m.With
	}
	return key
}

// Change is what a move does to the item's line. Nil and empty fields stay as they are.
type Change struct {
	Carry  kit.Carry
	Count  int
	MassG  *float64
	Shape  *kit.Shape
	Mark   string
	NestIn string
	Like   *kit.Item // of a swap: everything about the thing, but not its place on the list
}

// Apply makes the change to an item.
func (c Change) Apply(it *kit.Item) {
	if c.Like != nil {
		old := *it
		*it = *c.Like
		it.ID, it.Count, it.Carry, it.Day = old.ID, old.Count, old.Carry, old.Day
	}
	if c.Carry != "" {
		it.Carry = c.Carry
	}
	if c.Count > 0 {
		it.Count = c.Count
	}
	if c.MassG != nil {
		it.MassG = *c.MassG
	}
	if c.Shape != nil {
		it.Shape = *c.Shape
	}
	if c.NestIn != "" {
		it.NestIn = c.NestIn
	}
	if c.Mark != "" {
		it.MadeSmall = append(slices.Clone(it.MadeSmall), c.Mark)
	}
}

// Apply gives the task as it is after the moves. The task given is not changed.
func Apply(task *job.Task, moves []Move) *job.Task {
	after := *task
	after.Items = slices.Clone(task.Items)
	for _, m := range moves {
		for i := range after.Items {
			if after.Items[i].ID == m.Item {
				m.Change.Apply(&after.Items[i])
			}
		}
	}
	return &after
}

// Moves lists what could be done to the things that are packed. What the plan hangs outside or carries inside
// something else saves no litres. The shelf holds what else the packer owns; things that are out of the house are not
// to be in it.
func Moves(task *job.Task, plan *load.Plan, shelf []kit.Item) []Move {
	var moves []Move
	lie, alike, hollow := inTheWay(task, plan), pools(task.Items), vessels(plan)
	for i := range task.Items {
		it := &task.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		for _, m := range []*Move{sack(it), repack(it), half(it), fewer(it), wear(it), leave(it, alike, task)} {
			if m != nil && !(m.Way == Sack && job.Sacks(task.Method, it)) {
				moves = append(moves, *m)
			}
		}
		moves = append(moves, swaps(it, task.Items, shelf)...)
		moves = append(moves, nests(it, hollow)...)
		if !lie[it.ID] {
			for m := range moves {
				if moves[m].Item == it.ID {
					moves[m].Litres = 0
				}
			}
		}
	}
	slices.SortStableFunc(moves, func(a, b Move) int { return compareKeys(a, b) })
	return moves
}

// inTheWay are the things that take room in the pack: all but those on straps and within others.
func inTheWay(task *job.Task, plan *load.Plan) map[string]bool {
	lie := map[string]bool{}
	for i := range task.Items {
		lie[task.Items[i].ID] = true
	}
	for i := range plan.Placed {
		if p := &plan.Placed[i]; p.Inside != "" || p.Zone.Kind == rucksack.Straps {
			lie[p.Piece.ID] = false
		}
	}
	return lie
}

func compareKeys(a, b Move) int { return cmp.Compare(a.Key(), b.Key()) }

// Vessel is a vessel of the plan with what lies in it.
type Vessel struct {
	Name   string
	Inside []string
	SavedL float64 // outside litres of what lies in it: room it would take elsewhere
}

// Nested lists what the plan carries inside something else.
func Nested(plan *load.Plan) []Vessel {
	var vessels []Vessel
	at := map[string]int{}
	names := map[string]string{}
	for i := range plan.Placed {
		names[plan.Placed[i].Piece.ID] = plan.Placed[i].Piece.Name
	}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Inside == "" {
			continue
		}
		v, known := at[p.Inside]
		if !known {
			v = len(vessels)
			at[p.Inside] = v
			vessels = append(vessels, Vessel{Name: names[p.Inside]})
		}
		vessels[v].Inside = append(vessels[v].Inside, p.Piece.Name)
		vessels[v].SavedL += p.Piece.Shape.Litres(1)
	}
	return vessels
}

// SmallestPack finds the smallest of the packs, by stated litres, that takes the kit as it is; -1 when none does.
// Packs smaller than the kit is at its tightest are not tried.
func SmallestPack(task *job.Task, packs []rucksack.Pack, options load.Options) (index int, plan *load.Plan) {
	order := make([]int, len(packs))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return int(1000 * (packs[a].StatedL() - packs[b].StatedL())) })
	need := 0.0
	for _, p := range kit.Pieces(task.Items, kit.Pack) {
		need += p.Shape.Litres(1)
	}
	for _, i := range order {
		room := 0.0
		for z := range packs[i].Zones {
			room += packs[i].Zones[z].CapacityL()
		}
		if room < 0.7*need {
			continue
		}
		if options.Stop != nil && options.Stop() {
			break
		}
		other := *task
		other.Pack = packs[i]
		other.Pins = nil // they name zones of another pack
		if plan := load.Make(&other, options); plan.Fits() {
			return i, plan
		}
	}
	return -1, nil
}
