package kit

import (
	"slices"
	"sync"
)

// Kind is a generic sort of thing with typical figures: our estimates, meant to be replaced by measuring.
type Kind struct {
	ID         string
	Name       string
	Also       []string // other names people type for it
	Group      string
	MassG      float64
	Shape      Shape
	Spread     float64 // relative standard uncertainty of mass and litres among things of the kind; 0 means GuessSpread
	Use        Use
	Water      Water
	Traits     []Trait
	Functions  []string
	Consumable string  // food, fuel or water
	EmptyL     float64 // litres that it would hold, of bags that are carried empty and named by that
	HoldsL     float64 // litres of content that MassG and Shape include, of things that are named by what they hold
	Cord       bool    // sold by diameter and length
	Pieces     float64 // how many small pieces the mass and shape are of, of things that are counted in a bag
	AreaM2     float64 // spread out, of cloths that are named by their sides
	ByMass     bool    // its room goes with its mass without bounds, as that of loose food does
	MAh        float64 // of a battery that is named by it
	Days       bool    // "for 3 days" means three of it
	Carry      Carry   // how people walk with it; "" for packed
	Poles      float64 // share of the mass that is poles, of a whole tent
	Child      bool    // belongs to a child
}

// GuessSpread is the relative standard uncertainty of litres that are only guessed from the kind (our estimate).
const GuessSpread = 0.25

// Uncertain is the relative standard uncertainty of the kind's figures.
func (k Kind) Uncertain() float64 {
	if k.Spread > 0 {
		return k.Spread
	}
	return GuessSpread
}

// The table is written as sentences: of(…).also(…).as(…).gives(…). Each step returns a changed copy.

func of(id, name, group string, massG float64, shape Shape, use Use, water Water) Kind {
	return Kind{ID: id, Name: name, Group: group, MassG: massG, Shape: shape, Use: use, Water: water}
}

func (k Kind) also(names ...string) Kind      { k.Also = names; return k }
func (k Kind) as(traits ...Trait) Kind        { k.Traits = traits; return k }
func (k Kind) gives(functions ...string) Kind { k.Functions = functions; return k }
func (k Kind) spread(share float64) Kind      { k.Spread = share; return k }
func (k Kind) usedUp(what string) Kind        { k.Consumable = what; return k }
func (k Kind) empty(litres float64) Kind      { k.EmptyL = litres; return k }
func (k Kind) holding(litres float64) Kind    { k.HoldsL = litres; return k }
func (k Kind) cord() Kind                     { k.Cord = true; return k }
func (k Kind) forChild() Kind                 { k.Child = true; return k }
func (k Kind) pieces(n float64) Kind          { k.Pieces = n; return k }
func (k Kind) spreadOut(m2 float64) Kind      { k.AreaM2 = m2; return k }
func (k Kind) byMass() Kind                   { k.ByMass = true; return k }
func (k Kind) charge(mAh float64) Kind        { k.MAh = mAh; return k }
func (k Kind) byDays() Kind                   { k.Days = true; return k }
func (k Kind) on(carry Carry) Kind            { k.Carry = carry; return k }
func (k Kind) withPoles(share float64) Kind   { k.Poles = share; return k }

func soft(loose, tight, gap float64) Shape {
	return Shape{Kind: Soft, LooseL: loose, TightL: tight, GapCm: gap}
}
func box(l, w, h float64) Shape  { return Shape{Kind: Box, SizeCm: [3]float64{l, w, h}} }
func flat(l, w, t float64) Shape { return Shape{Kind: Flat, SizeCm: [3]float64{l, w, t}} }
func lump(l, w, h, litres float64) Shape {
	return Shape{Kind: Lump, SizeCm: [3]float64{l, w, h}, VolumeL: litres}
}
func cylinder(d, l float64) Shape {
	return Shape{Kind: Cylinder, DiameterCm: d, LengthCm: l}
}
func vesselOf(d, l, inside float64) Shape {
	return Shape{Kind: Vessel, DiameterCm: d, LengthCm: l, InsideL: inside, MouthCm: d - 1}
}

func moving(perDay float64) Use  { return Use{When: Moving, PerDay: perDay} }
func halt(perDay float64) Use    { return Use{When: Halt, PerDay: perDay} }
func arrival(perDay float64) Use { return Use{When: Arrival, PerDay: perDay} }
func camp(perDay float64) Use    { return Use{When: Camp, PerDay: perDay} }
func need(perDay float64) Use    { return Use{When: Need, PerDay: perDay} }
func (u Use) atOnce() Use        { u.Urgent = true; return u }

var (
	dryFabric = Water{Absorbs: true, Suffers: true}
	wetFabric = Water{Absorbs: true, ReturnsWet: true}
	rainproof = Water{Absorbs: true}
	comesWet  = Water{ReturnsWet: true}
	careless  = Water{}
	circuits  = Water{Suffers: true, Case: "IPX4"}
	paper     = Water{Absorbs: true, Suffers: true}
)

// Unknown is the kind of a thing of which nothing is known. It is as dense as the things of the table are in the
// middle: a litre weighs 200 g, of those of at least 600 g (of all 250 g); a third of them are half as dense or twice.
var Unknown = of("thing", "Thing", "other", 200, soft(1, 0.7, 2), camp(1), careless).byMass().spread(0.5)

// Kinds is the table of generic things, in the order in which a kit is laid out.
var Kinds = slices.Concat(sleeping, shelters, kitchen, provisions, clothes, carefulness, wayfinding, upkeep, luxuries,
	snow, children, parties)

var kindsByID = func() map[string]*Kind {
	byID := make(map[string]*Kind, len(Kinds))
	for i := range Kinds {
		byID[Kinds[i].ID] = &Kinds[i]
	}
	return byID
}()

// KindOf finds a kind by its id.
func KindOf(id string) (Kind, bool) {
	if k := kindsByID[id]; k != nil {
		return *k, true
	}
	return Unknown, false
}

// Functions are what things of the table are for, by alphabet: a thing may have any of them, a second one as well.
var Functions = sync.OnceValue(func() (list []string) {
	for i := range Kinds {
		for _, f := range Kinds[i].Functions {
			if !slices.Contains(list, f) {
				list = append(list, f)
			}
		}
	}
	slices.Sort(list)
	return list
})
