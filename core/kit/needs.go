package kit

import "slices"

// Requirement is what a thing is of no use without (common practice).
type Requirement struct {
	Name string   // "poles", "gas"
	Of   []string // kinds that need it
	by   func(*Item) bool
}

func anyKind(kinds ...string) func(*Item) bool {
	return func(it *Item) bool { return slices.Contains(kinds, it.Kind) }
}

var (
	gasStoves = []string{"gas-stove", "hose-stove"}
	stoves    = append([]string{"spirit-stove", "petrol-stove", "wood-stove"}, gasStoves...)
	tents     = []string{"tent-fly", "tent-inner"}
)

// Requirements lists them. A whole tent brings its own poles and pegs.
var Requirements = []Requirement{
	{"poles", tents, anyKind("tent-poles", "tent-one", "tent-two", "tent-three")},
	{"pegs", append([]string{"tarp", "pole-shelter"}, tents...), anyKind("pegs", "tent-one", "tent-two", "tent-three")},
	{"walking-poles", []string{"pole-shelter"}, anyKind("walking-poles", "tent-poles")},
	{"gas", gasStoves, func(it *Item) bool { return it.Has(Fuel) && it.Consumable == "fuel" }},
	{"spirit", []string{"spirit-stove"}, func(it *Item) bool { return it.Has(Fuel) && it.Consumable == "fuel" }},
	{"petrol", []string{"petrol-stove"}, func(it *Item) bool { return it.Has(Fuel) && it.Consumable == "fuel" }},
	{"fire", stoves, func(it *Item) bool { return it.Serves("fire") }},
	{"pot", stoves, anyKind("pot", "large-pot", "party-pots", "kettle", "frying-pan")},
	{"bottle", []string{"water-tablets"}, func(it *Item) bool { return it.Consumable == "water" }},
	{"light", nil, func(it *Item) bool { return it.Serves("light") }},
	{"power", nil, anyKind("power-bank")},
}

// Unmet is a need of a thing that nothing with the walker meets.
type Unmet struct {
	Need string
	Of   *Item
}

// Needs lists the names of all requirements.
func Needs() (names []string) {
	for i := range Requirements {
		names = append(names, Requirements[i].Name)
	}
	return names
}

// Held finds a shelter that is pitched on what is carried in the hand by day, and that: as long as the one stands the
// other is missing. Nil when there is no such pair, or poles of a tent are there to do it.
func Held(items []Item) (shelter, poles *Item) {
	for i := range items {
		it := &items[i]
		switch {
		case it.Carry == Left:
		case it.Wants("walking-poles"):
			shelter = it
		case it.Kind == "tent-poles":
			return nil, nil
		case it.Kind == "walking-poles":
			poles = it
		}
	}
	if shelter == nil || poles == nil {
		return nil, nil
	}
	return shelter, poles
}

// Wants reports whether a thing is of no use without something: as was said of it, or as its kind is.
func (it *Item) Wants(need string) bool {
	if it.Needs != nil {
		return slices.Contains(it.Needs, need)
	}
	return slices.ContainsFunc(Requirements, func(n Requirement) bool {
		return n.Name == need && slices.Contains(n.Of, it.Kind)
	})
}

// UnmetBy goes through the needs of what is with the walker.
func UnmetBy(items []Item) (list []Unmet) {
	with := slices.DeleteFunc(slices.Clone(items), func(it Item) bool { return it.Carry == Left })
	for i := range Requirements {
		n := &Requirements[i]
		needy := slices.IndexFunc(with, func(it Item) bool { return it.Wants(n.Name) })
		if needy >= 0 && !slices.ContainsFunc(with, func(it Item) bool { return n.by(&it) }) {
			list = append(list, Unmet{n.Name, &with[needy]})
		}
	}
	return list
}
