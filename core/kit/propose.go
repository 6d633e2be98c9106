package kit

import (
	"cmp"
	"slices"
)

// Proposal is a kit bag that would hold together what lies loose on the list.
type Proposal struct {
	Purpose string // kitchen, clothes, electronics, toilet, wash or ditty
	Items   []string
}

// purpose is what a kit bag is for, and what goes into it (common practice).
type purpose struct {
	name   string
	fewest int // pieces that are worth a bag
	takes  func(*Item) bool
}

// The largest thing that goes into a bag of small things, and into the one for the dozen smallest, in litres (our
// estimates).
const (
	smallL = 1.0
	tinyL  = 0.3
)

func small(it *Item, litres float64) bool {
	return it.Shape.Kind != Vessel && !it.Has(Sharp) && it.Shape.Litres(0) <= litres
}

// ForToilet reports whether a thing goes with one behind the bush: such things have a bag of their own, apart from all
// others.
func ForToilet(it *Item) bool {
	return slices.Contains([]string{"trowel-kit", "trowel", "toilet-paper"}, it.Kind)
}

// purposes in the order in which they take things. Fuel goes into none, food neither: they have their own places.
var purposes = []purpose{
	{"kitchen", 3, func(it *Item) bool { return it.Group == "kitchen" && small(it, smallL) }},
	{"clothes", 2, func(it *Item) bool { return it.Group == "clothing" && it.Shape.Kind == Soft && it.Use.When == Camp }},
	{"electronics", 2, func(it *Item) bool { return it.Has(Electronic) && it.Use.When == Camp && small(it, smallL) }},
	{"toilet", 2, ForToilet},
	{"wash", 2, func(it *Item) bool { return it.Group == "care" && it.Use.When == Camp && small(it, smallL) }},
	{"ditty", 3, func(it *Item) bool { return (it.Use.When == Camp || it.Use.When == Need) && small(it, tinyL) }},
}

// apartAlways are functions of which never all means lie in one bag.
var apartAlways = []string{"fire", "light", "navigation", "water-treatment"}

// ProposeBags finds what people keep in bags by purpose and what lies loose here: one pulls the bag, then looks inside
// (common practice). Nothing is proposed that must come at once, is first aid, or is kept in something already; of what
// every trip needs twice the last means stays out.
func ProposeBags(items []Item) (list []Proposal) {
	taken := map[string]bool{}
	loose := func(it *Item) bool {
		return it.Carry == Pack && it.NestIn == "" && !it.IsBag() && (!it.Use.Urgent || ForToilet(it)) && !taken[it.ID] && it.Follows == "" &&
			!it.Has(Food) && it.Consumable == "" &&
			!slices.ContainsFunc([]string{"first-aid", "medicine", "rescue", "signal"}, it.Serves)
	}
	often := make([]*Item, len(items)) // the most often used go in first, so that the spare stays out
	for i := range items {
		often[i] = &items[i]
	}
	slices.SortStableFunc(often, func(a, b *Item) int { return cmp.Compare(b.Use.PerDay, a.Use.PerDay) })
	for _, p := range purposes {
		found := Proposal{Purpose: p.name}
		pieces := 0
		for _, it := range often {
			if loose(it) && p.takes(it) && !lastMeans(items, it, found.Items) {
				found.Items = append(found.Items, it.ID)
				pieces += it.Count
			}
		}
		if pieces < p.fewest || len(found.Items) < 2 {
			continue
		}
		for _, id := range found.Items {
			taken[id] = true
		}
		list = append(list, found)
	}
	return list
}

// lastMeans reports whether with a thing a bag would hold every means of a function.
func lastMeans(items []Item, it *Item, bag []string) bool {
	return slices.ContainsFunc(apartAlways, func(f string) bool {
		return it.Serves(f) && !slices.ContainsFunc(items, func(o Item) bool {
			return o.ID != it.ID && o.Carry != Left && o.Serves(f) && !slices.Contains(bag, o.ID)
		})
	})
}
