// Package load packs a kit for trial: every thing in its zone, in an order in which all goes in, and says why.
//
// The road through the package: the pieces of a job.Task, small ones in vessels, get their zones from package assign;
// packing tries what goes into body and bottom in the solid (package stuff), in the order that the times of need
// suggest, and fit (climb.go) looks for another order when that does not do; what the trial shows not to go in is told
// to the assignment as room lost, and the round begins again (alternate.go, make.go); bags.go makes every dry bag of
// the barrier plan (package dry) one body; seek.go looks for an order that costs less by the bill of bill.go; grow.go
// finds how much too much a kit is; confidence.go asks how sure it is; explain.go turns what decided into reasons.
// moment.go is for plans that begin from another and for judging what a hand has arranged, advise.go for what would
// make that better. Everything is deterministic: pieces are first sorted by id, ties fall to the smaller id, so
// shuffling the kit list changes nothing.
package load

import (
	"slices"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// Placement is one thing in its place.
type Placement struct {
	Piece   kit.Piece
	Zone    *rucksack.Zone
	Lane    job.Lane
	Inside  string // id of the vessel it is nested in, "" when it lies in the zone itself
	Pinned  bool
	VolumeL float64 // at the squeeze of its zone; 0 inside a vessel, whose outside counts
	Reasons []assign.Reason
	OutCm   float64 // that stand out above the rim of its pocket

	// Of things in body and bottom, from the trial packing.
	Box       *Box        // in the pack frame; of a soft thing the box round its cells
	MiddleCm  [3]float64  // of what it takes up, in the pack frame; of things in pockets the middle of the pocket
	LiftedOut int         // things that must come out first
	Over      []kit.Piece // what these are
	Beside    []kit.Piece // what it touches sideways
	AtSpine   float64     // square centimetres of it that touch the back panel
	aim       aim         // why it is out of its turn
	Owner     int16       // its number in the cells of the plan; -1 for what is in no cell
}

// Box is a box in the pack frame, in centimetres.
type Box struct {
	Min [3]float64 `json:"min"`
	Max [3]float64 `json:"max"`
}

// LeftOut is a thing for which there was no room.
type LeftOut struct {
	Piece       kit.Piece
	Why         fact.Fact
	LeastChange fact.Fact // none until OverL is known for what only lacks room
	Stuck       bool      // no zone would take it even if it were empty
}

// Barred reports whether litres would not help: no zone could hold it even if it were empty, or no body however tall.
func (l *LeftOut) Barred() bool { return l.Stuck || l.LeastChange.Code == "load.other-pack" }

// Guess says what of a thing left out is only guessed, so that it is looked at before anything else is done about it:
// none where somebody has measured it.
func (l *LeftOut) Guess() fact.Fact {
	switch {
	case l.Piece.Measured != kit.Guess || l.Why.Code == "load.goes-with":
		return fact.Fact{}
	case l.Piece.Shape.Kind == kit.Soft:
		return fact.Of("load.guessed-litres")
	case slices.Contains([]kit.ShapeKind{kit.Lump, kit.Cylinder}, l.Piece.Shape.Kind) &&
		!l.Piece.Has(kit.Hard) && !l.Piece.Has(kit.Sharp):
		return fact.Of("load.guessed-shape")
	}
	return fact.Of("load.guessed-size")
}

// Plan is the answer to a Task. Placed is in loading order, first in first.
type Plan struct {
	Placed   []Placement
	Zones    []assign.ZoneFill
	LeftOut  []LeftOut
	Broken   []assign.Broken
	State    assign.State
	Squeeze  float64 // the least, 0 to 1, at which all is in body and bottom; pockets have their own
	OverL    float64 // litres the body would have to grow, rounded up to 0.1; 0 when all is in
	FillCm   float64 // height of the highest thing in body or bottom, from the foot of the pack
	Open     bool    // the divider between bottom and body was opened
	Hollows  []Hollow
	Cells    *Cells
	Sure     *Confidence // nil unless it was asked for
	Proof    assign.Proof
	Bill     float64 // what the order costs, in seconds a day
	Starts   int     // searches for the order that were begun from different orders; 0 when the first that fits was taken
	Spread   float64 // by how much dearer the worst of their ends was than the best, as a share
	Trials   int     // trial packings made
	CutShort bool    // the clock ended the search before its budget did

	asked      *job.Task          // as it was put
	assignment *assign.Assignment // the program
	search     *search            // that made it
	packing    *packing
	dry        string   // the school of dryness that it was made for
	unsacked   bool     // a compression sack was asked for, and less goes in with it
	torn       []string // bags that do not go in as one
}

// Hollow is a patch of air with something above it.
type Hollow struct {
	Litres float64
	AtCm   [3]float64 // its middle, in the pack frame
}

// Cells is the trial packing itself.
type Cells struct {
	Solid  *rucksack.Solid
	Owner  []int16 // by cell, a number out of Things, or stuff.Air or stuff.Outside
	Things []kit.Piece
	// Pockets are the filled ones that lie in the body; their cells are outside of it.
	Pockets []Pocket
}

// Pocket is what a pocket that lies in the body takes of its cells.
type Pocket struct {
	Zone  string // id
	Cells []int
}

// Fits reports whether everything is in.
func (p *Plan) Fits() bool { return len(p.LeftOut) == 0 }

// Options bound a search.
type Options struct {
	Seed   int64
	Quick  bool            // only a first answer: no search for a better order once one fits
	Sure   bool            // also how sure it is, given what is not known of the litres, and the proof to its end
	Effort float64         // of the search for an order, or for room as a hand would, as part of the usual one; 0 is that
	Rough  bool            // asked is whether it fits: by how much not is reckoned in litres, not tried
	From   job.Arrangement // where things are now; nil for a pack that is empty
	Like   []Lay           // the lanes and poses that an arrangement that is priced begins with, or nil
	Past   *Plan           // an earlier plan for this kit and pack before something changed, or nil
	Moving float64         // what it costs to put a thing elsewhere than From has it, in seconds a day
	Stop   func() bool     // ends the search when it says so, asked by several at once; what is found so far is kept

	patient bool // only room is looked for, with the budget of a draw
}

// clock tells when a search is to end; nil never does.
type clock func() bool

func (c clock) ended() bool { return c != nil && c() }
