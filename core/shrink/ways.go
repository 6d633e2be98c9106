package shrink

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/trail"
)

// How much each way saves. Straps squeeze a lofty thing a little beyond what hands do in the pack (our estimate).
// Food taken out of its maker's pouches takes about a third less room (common practice). Of what is decanted or cut
// down a half remains.
const (
	sackSaves   = 0.12
	sackG       = 60
	sackLoft    = 1.5 // loose to tight from which a sack is worth it
	repackSaves = 1.0 / 3
	repackLight = 0.08
	halfRemains = 0.5
)

func tight(it *kit.Item) float64 { return float64(it.Count) * it.Shape.Litres(1) }

func marked(it *kit.Item, way Way) bool { return slices.Contains(it.MadeSmall, string(way)) }

func sack(it *kit.Item) *Move {
	s := it.Shape
	if s.Kind != kit.Soft || s.LooseL < sackLoft*s.TightL || s.TightL < 1 || !it.Water.Suffers || it.Use.Urgent ||
		marked(it, Sack) || it.Has(kit.Food) || it.Consumable != "" {
		return nil
	}
	after := s
	after.LooseL, after.TightL = s.TightL, hundredths(s.TightL*(1-sackSaves))
	mass := it.MassG + sackG
	return &Move{Way: Sack, Item: it.ID, What: fact.Of("shrink.sack", it.Name),
		Why: fact.Of("shrink.stiff-lump"), Litres: tight(it) - float64(it.Count)*after.TightL,
		Grams: -sackG * float64(it.Count), Cost: 1.5, Change: Change{Shape: &after, MassG: &mass, Mark: string(Sack)}}
}

func repack(it *kit.Item) *Move {
	if !it.Has(kit.Food) || it.Shape.Kind != kit.Soft || it.Follows != "" || marked(it, Repack) {
		return nil
	}
	after := it.Shape
	after.LooseL, after.TightL = hundredths(after.LooseL*(1-repackSaves)), hundredths(after.TightL*(1-repackSaves))
	mass := math.Round(it.MassG * (1 - repackLight))
	return &Move{Way: Repack, Item: it.ID, What: fact.Of("shrink.repack", it.Name), Why: fact.Of("shrink.third-less"),
		Litres: tight(it) - float64(it.Count)*after.TightL, Grams: float64(it.Count) * (it.MassG - mass), Cost: 1,
		Change: Change{Shape: &after, MassG: &mass, Mark: string(Repack)}}
}

// half is for what is used up by the drop and what may be cut down.
func half(it *kit.Item) *Move {
	if it.Group != "care" || !it.Has(kit.Scented) || marked(it, Half) {
		return nil
	}
	f := math.Cbrt(halfRemains)
	after := it.Shape
	for i := range after.SizeCm {
		after.SizeCm[i] = math.Round(after.SizeCm[i]*f*10) / 10
	}
	after.DiameterCm, after.LengthCm = math.Round(after.DiameterCm*f*10)/10, math.Round(after.LengthCm*f*10)/10
	for _, litres := range []*float64{&after.LooseL, &after.TightL, &after.VolumeL} {
		*litres = hundredths(*litres * halfRemains)
	}
	mass := math.Round(it.MassG * halfRemains)
	return &Move{Way: Half, Item: it.ID, What: fact.Of("shrink.half", it.Name), Why: fact.Of("shrink.small-bottles"),
		Litres: tight(it) - float64(it.Count)*after.Litres(1), Grams: float64(it.Count) * (it.MassG - mass), Cost: 1.5,
		Change: Change{Shape: &after, MassG: &mass, Mark: string(Half)}}
}

func fewer(it *kit.Item) *Move {
	if it.Count < 2 || it.Consumable != "" {
		return nil
	}
	return &Move{Way: Fewer, Item: it.ID, What: fact.Of("shrink.fewer", it.Name, it.Count-1, it.Count),
		Why:    fact.Of("shrink.missed-least"),
		Litres: it.Shape.Litres(1), Grams: it.MassG, Cost: 2.5, Change: Change{Count: it.Count - 1}}
}

// onBody are the kinds that can as well be worn or held; true is held.
var onBody = map[string]bool{"walking-poles": true, "whistle": false, "compass": false, "phone": false,
	"altimeter": false, "knife": false, "sun-hat": false,
	"sunglasses": false, "wind-jacket": false, "walking-boots": false, "trousers": false, "softshell": false,
	"neck-tube": false, "camera": true, "lip-balm": false,
	"tick-tool": false, "wallet": false, "gps": true, "transceiver": false, "gaiters": false}

func wear(it *kit.Item) *Move {
	held, can := onBody[it.Kind]
	if !can {
		return nil
	}
	m := &Move{Way: Wear, Item: it.ID, What: fact.Of("shrink.wear", it.Name), Why: fact.Of("shrink.on-walker"),
		Litres: tight(it), Grams: it.TotalG(), Cost: 1, Change: Change{Carry: kit.Worn}}
	if held {
		m.What, m.Change.Carry = fact.Of("shrink.hold", it.Name), kit.Hand
	}
	return m
}

// interchangeable are the functions for which one thing can stand for another of the same section. Everything else is
// done only by its like: a jacket does not make a sleeping bag, a fly without poles no tent.
var interchangeable = []string{"insulation", "light", "navigation", "water-treatment", "sun", "repair", "fire"}

// never are kinds that stay in whatever else there is (common practice): map, compass and whistle for everyone.
var never = []string{"map", "compass", "whistle", "first-aid-kit", "pot", "spoon", "survival-bag", "medicine",
	"transceiver", "wallet"}

// onSnow are kinds without which nobody goes on snow or ice, nor on a ski tour (common practice).
var onSnow = []string{
	"ice-axe", "crampons", "light-crampons", "snowshoes", "ski-skins", "ski-crampons", "skis", "ski-boots", "helmet",
	"goggles",
	"sunglasses", "avalanche-shovel", "avalanche-probe",
}

// comforts are kinds that go first (common practice).
var comforts = []string{
	"chair", "book", "e-reader", "mug", "insulated-mug", "camp-shoes", "camera", "tripod", "binoculars", "cards",
	"instrument",
	"headphones", "pillow", "lantern", "guide-book", "umbrella", "swimwear",
}

// coldC is the night's low below which dry clothes are not left at home (common practice).
const coldC = 10

// needed reports whether the trip itself makes a thing necessary.
func needed(it *kit.Item, task *job.Task) bool {
	trip := &task.Trip
	snowy := slices.ContainsFunc(trip.Legs, func(l trail.Leg) bool { return l.Snow }) ||
		slices.ContainsFunc(task.Items,
			func(o kit.Item) bool { return o.Carry != kit.Left && (o.Kind == "ski-skins" || o.Kind == "skis") })
	return slices.Contains(never, it.Kind) || snowy && slices.Contains(onSnow, it.Kind) ||
		trip.Nights > 0 && trip.NightLowC < coldC && it.Group == "clothing" && it.Water.Suffers && it.Use.When == kit.Camp
}

// pool names the things that can stand for one another in a function.
func pool(it *kit.Item, function string) string {
	if !slices.Contains(interchangeable, function) {
		return function + " " + cmp.Or(it.Kind, it.ID)
	}
	switch it.Group {
	case "light", "navigation", "electronics":
		return function + " light-and-way"
	case "kitchen", "tools":
		return function + " kitchen-and-tools"
	}
	return function + " " + it.Group
}

// pools counts the things with the walker in each pool.
func pools(items []kit.Item) map[string]int {
	n := map[string]int{}
	for i := range items {
		if items[i].Carry != kit.Left {
			for _, f := range items[i].Functions {
				n[pool(&items[i], f)]++
			}
		}
	}
	return n
}

// Limit says that of some moves, by key, at most so many may be made: of things that do the same not all are left,
// and a vessel takes one thing more.
type Limit struct {
	Moves []string
	Most  int
}

// Limits lists them for the moves of a kit.
func Limits(task *job.Task, moves []Move) []Limit {
	n := pools(task.Items)
	members, inside := map[string][]string{}, map[string][]string{}
	for _, m := range moves {
		if m.Way == Nest {
			inside[m.With] = append(inside[m.With], m.Key())
		}
		if m.Way != Leave {
			continue
		}
		for i := range task.Items {
			if it := &task.Items[i]; it.ID == m.Item {
				for _, f := range it.Functions {
					members[pool(it, f)] = append(members[pool(it, f)], m.Key())
				}
			}
		}
	}
	var limits []Limit
	for _, key := range slices.Sorted(maps.Keys(members)) {
		if len(members[key]) >= n[key] && n[key] > 1 {
			limits = append(limits, Limit{members[key], n[key] - 1})
		}
	}
	for _, vessel := range slices.Sorted(maps.Keys(inside)) {
		if len(inside[vessel]) > 1 {
			limits = append(limits, Limit{inside[vessel], 1})
		}
	}
	return limits
}

// hollowed is a vessel of the plan with what it holds already.
type hollowed struct {
	kit.Piece
	litres float64
	empty  bool
}

// vessels lists those of the plan that are not nested themselves.
func vessels(plan *load.Plan) []hollowed {
	var list []hollowed
	for i := range plan.Placed {
		p := &plan.Placed[i]
		if p.Piece.Shape.Kind != kit.Vessel || p.Inside != "" || p.Piece.Count > 1 {
			continue
		}
		v := hollowed{Piece: p.Piece, empty: true}
		for j := range plan.Placed {
			if in := &plan.Placed[j]; in.Inside == p.Piece.ID {
				v.litres += job.RoomInside(in.Piece.Item)
				v.empty = false
			}
		}
		list = append(list, v)
	}
	return list
}

// nests offers to carry a thing inside a vessel: small things that are not wanted in a hurry, neither eaten nor
// burnt, and that do not need the vessel clean (common practice: a mug holds a sponge, a bowl a towel, a helmet
// goggles and a hat).
func nests(it *kit.Item, hollow []hollowed) []Move {
	if it.Count > 1 || it.Shape.Kind == kit.Vessel || it.NestIn != "" || it.Use.Urgent || it.Has(kit.Rescue) ||
		it.Has(kit.Food) || it.Consumable != "" || it.Water.Leaks || tight(it) < 0.03 || len(reach.Limits(it)) > 0 {
		return nil // what a drill asks for is not hidden in a mug
	}
	var moves []Move
	for _, v := range hollow {
		if v.ID == it.ID || !it.Shape.Nests(v.Shape) || !v.empty &&
			v.litres+job.RoomInside(it) > v.Shape.InsideL {
			continue
		}
		why := fact.Of("shrink.no-room")
		cost := 0.5
		if it.Use.When != v.Use.When {
			cost, why = 1, fact.Of("shrink.vessel-opened")
		}
		moves = append(moves, Move{Way: Nest, Item: it.ID, With: v.ID,
			What: fact.Of("shrink.nest", it.Name, fact.Small(v.Name)), Why: why, Litres: tight(it), Cost: cost,
			Change: Change{NestIn: v.ID}})
	}
	return moves
}

// leave offers to leave at home what nothing hangs on: never food, drink or fuel, never rescue kit, never the only
// thing that serves a function.
func leave(it *kit.Item, alike map[string]int, task *job.Task) *Move {
	if it.Consumable != "" || it.Has(kit.Food) || it.Has(kit.Rescue) || needed(it, task) {
		return nil
	}
	doubled := ""
	for _, f := range it.Functions {
		if it.Kind == "tent-inner" && f == "shelter" {
			continue // the fly shelters without it
		}
		if alike[pool(it, f)] < 2 {
			return nil
		}
		doubled = f
	}
	m := &Move{Way: Leave, Item: it.ID, What: fact.Of("shrink.leave", fact.Small(it.Name)), Litres: tight(it),
		Grams: it.TotalG(), Change: Change{Carry: kit.Left}}
	m.Cost = 3 + min(3, it.Use.PerDay)
	m.Why = missed(it.Use.PerDay)
	switch {
	case it.History.Carried >= 2 && it.History.Used == 0:
		m.Cost = 1
		m.Why = fact.Of("shrink.never-used", it.History.Carried)
	case slices.Contains(comforts, it.Kind):
		m.Cost = 1 + min(0.5, it.Use.PerDay/10)
		m.Why = fact.Of("shrink.comfort")
	case doubled != "":
		m.Cost += 3
		m.Why = fact.Of("shrink.no-spare", strings.ReplaceAll(doubled, "-", " "))
	case it.Kind == "tent-inner":
		m.Cost += 3
		m.Why = fact.Of("shrink.fly-alone")
	case it.Group == "clothing" && it.Water.Suffers:
		m.Cost += 2
		m.Why = fact.Of("shrink.dry-clothing")
	case it.Group == "other":
		m.Cost = 2
		m.Why = fact.Of("shrink.comfort")
	}
	return m
}

// missed says how often a thing would be missed on which nothing hangs.
func missed(aDay float64) fact.Fact {
	switch {
	case aDay < 0.3:
		return fact.Of("shrink.missed-hardly")
	case aDay < 1.5:
		return fact.Of("shrink.missed-daily")
	}
	return fact.Of("shrink.missed-often", aDay)
}

// swaps offers smaller things from the shelf: of the same kind, or marked as alternatives by the packer.
func swaps(it *kit.Item, on, shelf []kit.Item) []Move {
	var moves []Move
	for i := range shelf {
		s := &shelf[i]
		if s.Shelf == it.Shelf || slices.ContainsFunc(on,
			func(o kit.Item) bool { return o.Shelf == s.Shelf && o.Carry != kit.Left }) {
			continue
		}
		saved := tight(it) - float64(it.Count)*s.Shape.Litres(1)
		if saved < 0.05 || !alike(it, s) {
			continue
		}
		like := *s
		moves = append(moves, Move{Way: Swap, Item: it.ID, With: s.Shelf,
			What: fact.Of("shrink.swap", s.Name, fact.Small(it.Name)), Why: fact.Of("shrink.from-shelf"),
			Litres: saved, Grams: float64(it.Count) * (it.MassG - s.MassG), Cost: 2, Change: Change{Like: &like}})
	}
	return moves
}

// alike reports whether one thing can stand for the other.
func alike(a, b *kit.Item) bool {
	return a.Kind != "" && a.Kind == b.Kind || a.Instead != "" && a.Instead == b.Instead
}

func hundredths(v float64) float64 { return math.Round(v*100) / 100 }
