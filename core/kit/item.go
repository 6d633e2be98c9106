// Package kit describes the things a packer carries: what they weigh, how much room they take loose and squeezed,
// when they are wanted, what water does to them, and the traits that decide where they may lie.
//
// An Item is a line of the kit list; its Count says how many equal things the line stands for. Shape turns
// measurements into litres. Kinds is the table from which missing measurements are guessed.
package kit

import (
	"slices"
	"strconv"
)

// Carry says where a thing travels.
type Carry string

// The four ways. Only Pack things are loaded; Worn and Hand things are on the walker; Left things stay at home.
const (
	Pack Carry = "pack"
	Worn Carry = "worn"
	Hand Carry = "hand"
	Left Carry = "left"
)

// When says at what moment of the day a thing is next needed.
type When string

// The five moments, from the one that leaves least time to the one that may never come.
const (
	Moving  When = "moving"
	Halt    When = "halt"
	Arrival When = "arrival"
	Camp    When = "camp"
	Need    When = "need"
)

// Whens lists the moments in the order of the day.
var Whens = []When{Moving, Halt, Arrival, Camp, Need}

// Use says when and how often a thing is taken out.
type Use struct {
	When   When    `json:"when"`
	PerDay float64 `json:"per_day"`
	Urgent bool    `json:"urgent,omitempty"` // must come to hand in seconds
}

// Water says what water does to a thing, and the thing to its neighbours.
type Water struct {
	Absorbs    bool   `json:"absorbs"`
	Suffers    bool   `json:"suffers"`
	Case       string `json:"case,omitempty"` // IP code of its own case (IEC 60529), or ""
	Leaks      bool   `json:"leaks,omitempty"`
	ReturnsWet bool   `json:"returns_wet,omitempty"`
}

// Trait marks a property that a rule of loading looks at.
type Trait string

// The traits of the open format.
const (
	Hard           Trait = "hard"
	Sharp          Trait = "sharp"
	Fuel           Trait = "fuel"
	Food           Trait = "food"
	Scented        Trait = "scented"
	Crushable      Trait = "crushable"
	Electronic     Trait = "electronic"
	Foam           Trait = "foam"
	Rescue         Trait = "rescue"
	MayHangOutside Trait = "may-hang-outside"
)

// Traits lists every trait, in the order of the format.
var Traits = []Trait{Hard, Sharp, Fuel, Food, Scented, Crushable, Electronic, Foam, Rescue, MayHangOutside}

// Groups lists the sections in which a kit is laid out.
var Groups = []string{"sleep", "shelter", "kitchen", "food", "water", "clothing", "aid", "light", "navigation",
	"electronics", "care", "tools", "winter", "other"}

// Item is one line of the kit list: Count equal things of MassG grams each.
type Item struct {
	ID         string   `json:"id"`
	Name       string   `json:"name"`
	Kind       string   `json:"kind,omitempty"`
	Group      string   `json:"group,omitempty"`
	Count      int      `json:"count"`
	MassG      float64  `json:"mass_g"`
	MassFrom   string   `json:"mass_from,omitempty"` // weighed, label or guess
	Shape      Shape    `json:"shape"`
	Measured   Measured `json:"measured"`
	Spread     float64  `json:"uncertainty,omitempty"` // relative standard uncertainty of the litres; 0 follows Measured
	Carry      Carry    `json:"carry"`
	Use        Use      `json:"use"`
	UseUnsaid  bool     `json:"-"` // nobody said when it is wanted, and its name does not tell: Use is that of a camp thing
	Water      Water    `json:"water"`
	Traits     []Trait  `json:"traits,omitempty"`
	Functions  []string `json:"functions,omitempty"`
	Needs      []string `json:"needs,omitzero"`       // what it is of no use without; nil for what its kind needs
	Consumable string   `json:"consumable,omitempty"` // food, fuel or water
	NestIn     string   `json:"nest_in,omitempty"`    // id of the vessel it is carried in
	Day        int      `json:"day,omitempty"`        // the day a food bag is for
	Expires    string   `json:"expires,omitempty"`    // date, YYYY-MM-DD
	Follows    string   `json:"follows,omitempty"`    // the supply of the trip that this line follows
	Fixed      bool     `json:"fixed,omitempty"`      // set by the packer: it follows no more
	Shelf      string   `json:"shelf,omitempty"`      // key of the thing on the shelf
	ComfortC   *float64 `json:"comfort_c,omitempty"`  // of a sleeping bag (EN ISO 23537-1)
	LimitC     *float64 `json:"limit_c,omitempty"`    // its lower limit
	RValue     float64  `json:"r_value,omitempty"`    // insulation of a mat (ASTM F3340)
	History    History  `json:"history,omitzero"`
	Instead    string   `json:"instead,omitempty"`    // the name of the alternatives that it belongs to
	MadeSmall  []string `json:"made_small,omitempty"` // what was already done to it: sack, repack, half
}

// History is what earlier trips say of a thing.
type History struct {
	Carried int `json:"carried,omitempty"` // trips on which it was packed
	Used    int `json:"used,omitempty"`    // of these, trips on which it was taken out
}

// Has reports whether the thing carries the trait.
func (it *Item) Has(t Trait) bool {
	for _, have := range it.Traits {
		if have == t {
			return true
		}
	}
	return false
}

// KitBag is the kind of a bag in which things of one purpose are kept: it goes in as one, with what lies in it.
const KitBag = "kit-bag"

// IsBag reports whether the thing is a bag that is as large as its contents.
func (it *Item) IsBag() bool { return it.Kind == KitBag }

// Keeps reports whether a thing is kept in another, or in what is kept in it, given the id of what each lies in.
func Keeps(in map[string]string, outer, inner string) bool {
	for range in { // no chain is longer
		if inner = in[inner]; inner == "" {
			return false
		}
		if inner == outer {
			return true
		}
	}
	return false
}

// Serves reports whether the thing serves the function, such as "light" or "water".
func (it *Item) Serves(function string) bool {
	for _, have := range it.Functions {
		if have == function {
			return true
		}
	}
	return false
}

// Uncertain is the relative standard uncertainty of the litres: what is set, or what the way of measuring gives.
func (it *Item) Uncertain() float64 {
	if it.Spread > 0 {
		return it.Spread
	}
	return it.Measured.Uncertainty()
}

// KeepsFood reports whether it is a box that keeps food from animals.
func (it *Item) KeepsFood() bool { return it.Kind == "food-box" }

// TotalG is the mass of all things of the line.
func (it *Item) TotalG() float64 { return float64(it.Count) * it.MassG }

// Piece is one physical thing: an item and, where the line stands for several, which of them.
type Piece struct {
	*Item
	Number int // 1 to Count
}

// Key names the piece: the id of its line, with its number where the line stands for several.
func (p Piece) Key() string {
	if p.Count > 1 {
		return p.ID + ":" + strconv.Itoa(p.Number)
	}
	return p.ID
}

// Pieces lists the things with the given carry, one entry for each of a line's count.
func Pieces(items []Item, carry Carry) []Piece {
	var pieces []Piece
	for i := range items {
		if items[i].Carry != carry {
			continue
		}
		for n := 1; n <= items[i].Count; n++ {
			pieces = append(pieces, Piece{&items[i], n})
		}
	}
	return pieces
}

// IDs lists the ids of the lines that pieces are of, each once.
func IDs(pieces []Piece) (ids []string) {
	for _, p := range pieces {
		if !slices.Contains(ids, p.ID) {
			ids = append(ids, p.ID)
		}
	}
	return ids
}
