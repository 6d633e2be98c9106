// Package job says what is to be packed, in what, for whom and when: the Task, the same for another bearer or at
// another moment of the trip, and an Arrangement, which is where everything lies.
//
// It also says what is one thing to pack and what is several: small things lie in vessels (nest.go), kit bags are as
// large as what is kept in them (kitbag.go), and a sleeping bag in its compression sack is a lump (sack.go).
package job

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
	Room   float64    // the packer's factor on the litres of soft things, learned from trips; 0 is 1
	Others []kit.Item // what those who walk along carry; it is not packed here
}

// Pin is a wish of the packer that the plan must respect. Empty fields leave the choice to the planner.
type Pin struct {
	Item  string `json:"item"`
	Piece int    `json:"piece,omitempty"` // 0 is every piece of the line
	Zone  string `json:"zone,omitempty"`
	Lane  Lane   `json:"lane,omitempty"`
	Place int    `json:"place,omitempty"` // position in its zone, 1 goes in first
}

// Lane is the part of the body a thing is laid into.
type Lane string

// The lanes. Full is the whole width.
const (
	Full  Lane = ""
	Back  Lane = "back"  // against the spine
	Front Lane = "front" // away from the back
	Left  Lane = "left"
	Right Lane = "right"
)

// Everything is what this walker and those who walk along have with them.
func (t *Task) Everything() []kit.Item { return slices.Concat(t.Items, t.Others) }

// PinFor finds the packer's wish for a piece: one for just this piece goes before one for the whole line.
func (t *Task) PinFor(p kit.Piece) *Pin {
	var found *Pin
	for i := range t.Pins {
		pin := &t.Pins[i]
		if pin.Item == p.ID && (pin.Piece == p.Number || pin.Piece == 0 && found == nil) {
			found = pin
		}
	}
	return found
}

// NameOf is the name of an item by id, the id itself when there is none.
func (t *Task) NameOf(id string) string {
	for i := range t.Items {
		if t.Items[i].ID == id {
			return t.Items[i].Name
		}
	}
	return id
}

// ComparePieces sorts pieces by id and number: the order in which everything is gone through, so that shuffling a kit
// list changes nothing.
func ComparePieces(a, b kit.Piece) int {
	return cmp.Or(cmp.Compare(a.ID, b.ID), cmp.Compare(a.Number, b.Number))
}

// Dryness is the task as package dry sees it, with nothing in its place yet.
func (t *Task) Dryness() *dry.Pack {
	return &dry.Pack{Pack: &t.Pack, Bags: t.Bags, School: t.Method.Dry, Trip: &t.Trip}
}

// LinesThrough reports whether one liner goes through both compartments, so that the divider has to lie open.
func (t *Task) LinesThrough() bool {
	pack := t.Dryness()
	bottom := t.Pack.Of(rucksack.Bottom)
	return t.Pack.Opens() && pack.Liner() != nil && pack.LinerOf(bottom) == nil
}
