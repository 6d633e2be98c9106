// Package load decides which zone of the pack each thing goes into and in what order, and says why.
//
// The road through the package: a Task is expanded into pieces; nest puts small things into vessels; assign gives every
// piece a zone by searching for the least cost under the capacities (cost.go names each rule and its price, fill.go
// knows the litres); order sorts what lies in the body by what is wanted when; explain turns the costs that decided
// into reasons. Everything is deterministic: pieces are first sorted by id, ties fall to the smaller id, so shuffling
// the kit list changes nothing.
package load

import (
	"cmp"
	"slices"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// Task is all that a plan depends on.
type Task struct {
	Pack   rucksack.Pack
	Items  []kit.Item
	Bags   []dry.Bag
	Trip   trail.Trip
	Method method.Method
	Pins   []Pin
}

// Pin is a wish of the packer that the plan must respect. Empty fields leave the choice to the planner.
type Pin struct {
	Item  string `json:"item"`
	Piece int    `json:"piece,omitempty"` // 0 is every piece of the line
	Zone  string `json:"zone,omitempty"`
	Place int    `json:"place,omitempty"` // position in its zone, 1 goes in first
}

// Lane is the part of the body a thing is laid into.
type Lane string

// The lanes. Full is the whole width.
const (
	Full  Lane = ""
	Back  Lane = "back"  // against the spine
	Front Lane = "front" // away from the back
)

// Placement is one thing in its place.
type Placement struct {
	Piece   kit.Piece
	Zone    *rucksack.Zone
	Lane    Lane
	Inside  string // id of the vessel it is nested in, "" when it lies in the zone itself
	Pinned  bool
	VolumeL float64 // at the squeeze of its zone; 0 inside a vessel, whose outside counts
	Reasons []Reason
}

// Reason is a rule that decided, in words.
type Reason struct {
	Rule string `json:"rule"`
	Text string `json:"text"`
}

// LeftOut is a thing for which there was no room.
type LeftOut struct {
	Piece       kit.Piece
	Why         string
	LeastChange string
}

// Broken is a rule of the trade that the plan could not keep although everything named is in.
type Broken struct {
	Rule  string   `json:"rule"`
	Items []string `json:"items"`
	Why   string   `json:"why"`
}

// Plan is the answer to a Task. Placed is in loading order, first in first.
type Plan struct {
	Placed  []Placement
	Zones   []ZoneFill
	LeftOut []LeftOut
	Broken  []Broken
	State   State
	Squeeze float64 // the least, 0 to 1, at which all that is placed is in
	OverL   float64 // litres the body would have to grow, rounded up to 0.1; 0 when all is in
}

// Fits reports whether everything is in.
func (p *Plan) Fits() bool { return len(p.LeftOut) == 0 }

// Make plans the task. It never fails: what does not go in is in LeftOut with its reason. The task must name at least
// one zone of kind body. Time grows with pieces squared times zones; 45 pieces take about a millisecond.
func Make(task *Task) *Plan {
	pieces := kit.Pieces(task.Items, kit.Pack)
	slices.SortFunc(pieces, comparePieces)
	nested, loose := nest(pieces)
	search := newAssignment(task, loose, nested)
	search.solve()
	plan := search.plan()
	order(task, plan)
	explain(task, search, plan)
	return plan
}

func comparePieces(a, b kit.Piece) int {
	return cmp.Or(cmp.Compare(a.ID, b.ID), cmp.Compare(a.Number, b.Number))
}

// pinFor finds the packer's wish for a piece: one for just this piece goes before one for the whole line.
func (t *Task) pinFor(p kit.Piece) *Pin {
	var found *Pin
	for i := range t.Pins {
		pin := &t.Pins[i]
		if pin.Item == p.ID && (pin.Piece == p.Number || pin.Piece == 0 && found == nil) {
			found = pin
		}
	}
	return found
}
