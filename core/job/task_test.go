package job

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

func soft(loose, tight float64) kit.Shape {
	return kit.Shape{Kind: kit.Soft, LooseL: loose, TightL: tight, GapCm: 2}
}

func tin(d, l float64) kit.Shape {
	return kit.Shape{Kind: kit.Cylinder, DiameterCm: d, LengthCm: l}
}

// ids are the names of pieces, with their numbers from the second of a line on.
func ids(pieces []kit.Piece) (list []string) {
	for _, p := range pieces {
		list = append(list, p.Key())
	}
	return list
}

// What lies in a pot, by hand: what was asked for goes first, then hard things of its own group wanted at the same
// time, the largest first, up to seven tenths of it; food and soft things stay out.
func TestNestingByHand(t *testing.T) {
	t.Parallel()
	pot := kit.Item{ID: "pot", Group: "kitchen", Shape: kit.Shape{Kind: kit.Vessel, DiameterCm: 14, LengthCm: 12, MouthCm: 13, InsideL: 1.5}}
	camp := kit.Use{When: kit.Camp}
	pot.Use = camp
	kitchen := func(id string, s kit.Shape) kit.Item { return kit.Item{ID: id, Group: "kitchen", Use: camp, Shape: s} }
	salt := kitchen("salt", tin(4, 5))
	salt.Traits = []kit.Trait{kit.Food}
	lunch := kitchen("knife", tin(3, 9))
	lunch.Use.When = kit.Halt
	towel := kit.Item{ID: "towel", Group: "care", Use: camp, Shape: soft(0.3, 0.2), NestIn: "pot"}
	for name, c := range map[string]struct {
		with []kit.Item
		in   []string
	}{
		"a stove goes in":                   {[]kit.Item{kitchen("stove", tin(8, 8))}, []string{"stove"}},
		"two, the larger first":             {[]kit.Item{kitchen("a", tin(5, 5)), kitchen("b", tin(8, 8))}, []string{"b", "a"}},
		"no more than seven tenths of it":   {[]kit.Item{kitchen("a", tin(9, 9)), kitchen("b", tin(9, 9))}, []string{"a"}},
		"one alone may be larger than that": {[]kit.Item{kitchen("a", tin(12.5, 10))}, []string{"a"}},
		"not what does not pass its mouth":  {[]kit.Item{kitchen("a", tin(13.5, 4))}, nil},
		"no food of itself":                 {[]kit.Item{salt}, nil},
		"nothing for another time":          {[]kit.Item{lunch}, nil},
		"nothing soft of itself":            {[]kit.Item{kitchen("cloth", soft(0.3, 0.2))}, nil},
		"but what was asked for, first":     {[]kit.Item{kitchen("a", tin(9, 13)), towel}, []string{"towel"}},
	} {
		items := append([]kit.Item{pot}, c.with...)
		for i := range items {
			items[i].Count, items[i].Carry = 1, kit.Pack
		}
		pieces := kit.Pieces(items, kit.Pack)
		nested, loose := Nest(pieces)
		assert.Equal(t, c.in, ids(nested[pieces[0]]), name)
		assert.Len(t, loose, len(items)-len(c.in), name)
	}
}

// A box against animals takes what is eaten in camp and what smells there, soft as it is; no stove, no fuel beside food
// however it smells, and not the lunch, which is eaten before the box is opened (common practice).
func TestFoodGoesIntoItsBox(t *testing.T) {
	t.Parallel()
	thing := func(id string, when kit.When, traits ...kit.Trait) kit.Item {
		return kit.Item{ID: id, Count: 1, Carry: kit.Pack, Group: "kitchen", Use: kit.Use{When: when}, Shape: soft(1.5, 1), Traits: traits}
	}
	chest := thing("chest", kit.Camp, kit.Hard)
	chest.Kind, chest.Shape = "food-box", kit.Shape{Kind: kit.Vessel, DiameterCm: 22, LengthCm: 30, MouthCm: 21, InsideL: 10}
	stove := thing("stove", kit.Camp, kit.Hard, kit.Fuel)
	stove.Shape = tin(8, 8)
	pieces := kit.Pieces([]kit.Item{chest, stove, thing("paste", kit.Camp, kit.Scented), thing("dinner", kit.Camp, kit.Food),
		thing("gel", kit.Camp, kit.Scented, kit.Fuel), thing("lunch", kit.Halt, kit.Food), thing("towel", kit.Camp)}, kit.Pack)
	nested, loose := Nest(pieces)
	assert.ElementsMatch(t, []string{"paste", "dinner"}, ids(nested[pieces[0]]))
	assert.ElementsMatch(t, []string{"chest", "stove", "gel", "lunch", "towel"}, ids(loose))

	dinners := thing("dinners", kit.Camp, kit.Food)
	dinners.Count = 12
	_, loose = Nest(kit.Pieces([]kit.Item{chest, dinners}, kit.Pack))
	assert.Len(t, loose, 3, "ten litres take ten, and are full: soft things leave nothing between them")
}

// Whatever is nested in whatever, every piece is in one place.
func TestEveryPieceIsNestedOnce(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var items []kit.Item
		n := rapid.IntRange(1, 9).Draw(t, "things")
		for i := range n {
			it := kit.Item{ID: string(rune('a' + i)), Group: "kitchen", Carry: kit.Pack, Count: rapid.IntRange(1, 3).Draw(t, "count")}
			switch rapid.IntRange(0, 3).Draw(t, "what") {
			case 0:
				it.Shape, it.Count = kit.Shape{Kind: kit.Vessel, DiameterCm: 14, LengthCm: 12, MouthCm: 13, InsideL: 1.5}, 1
			case 1:
				it.Kind, it.Count = kit.KitBag, 1
			default:
				it.Shape = tin(rapid.Float64Range(2, 14).Draw(t, "d"), 8)
			}
			if i > 0 && rapid.Bool().Draw(t, "kept") {
				if in := items[rapid.IntRange(0, i-1).Draw(t, "in")]; in.IsBag() || in.Shape.Kind == kit.Vessel && it.Kind != kit.KitBag {
					it.NestIn = in.ID
				}
			}
			items = append(items, it)
		}
		pieces := kit.Pieces(items, kit.Pack)
		nested, loose := Nest(pieces)
		var all []kit.Piece
		for _, p := range loose {
			inside, of := NestedIn(p, nested)
			assert.Len(t, of, len(inside))
			all = append(append(all, p), inside...)
		}
		assert.ElementsMatch(t, ids(pieces), ids(all))
	})
}

// A sleeping bag in its compression sack is a lump of its tight litres; what is thin, or no thing to sleep in, is not.
func TestSacks(t *testing.T) {
	t.Parallel()
	items := []kit.Item{
		{ID: "quilt", Group: "sleep", Functions: []string{"warmth"}, Shape: soft(9, 5)},
		{ID: "liner", Group: "sleep", Functions: []string{"warmth"}, Shape: soft(0.8, 0.5)},
		{ID: "jacket", Group: "clothing", Functions: []string{"warmth"}, Shape: soft(9, 5)},
	}
	task := &Task{Items: items, Method: method.Method{SleepingBag: "sack"}}
	sacked := task.Sacked().Items
	assert.Equal(t, kit.Lump, sacked[0].Shape.Kind)
	assert.InDelta(t, 5, sacked[0].Shape.VolumeL, 1e-9)
	assert.True(t, sacked[0].Shape.Yields())
	assert.Equal(t, kit.Sack(5, 1.4, 1.3), sacked[0].Shape, "two fifths longer than wide, pressed by three tenths")
	assert.Equal(t, items[1:], sacked[1:])
	assert.Equal(t, kit.Soft, task.Items[0].Shape.Kind, "the task given is not changed")
	assert.True(t, Sacks(task.Method, &items[0]))
	for litres, stuffed := range map[float64]bool{2.9: false, 3: true} {
		small := &Task{Items: []kit.Item{items[0]}, Method: task.Method}
		small.Items[0].Shape = soft(litres, 1)
		assert.Equal(t, stuffed, small.Sacked().Items[0].Shape.Kind == kit.Lump, "%v L", litres)
	}
	task.Method.SleepingBag = "loose"
	assert.Same(t, task, task.Sacked())
	assert.False(t, Sacks(task.Method, &items[0]))
}

// A moment of the trip: what is eaten is gone, what is half empty is lighter and, when soft, smaller, and what came on
// the way is there.
func TestAMomentByHand(t *testing.T) {
	t.Parallel()
	task := &Task{Items: []kit.Item{
		{ID: "food", Count: 3, MassG: 700, Shape: soft(2, 1)},
		{ID: "gas", Count: 1, MassG: 380, Shape: tin(11, 8)},
		{ID: "tent", Count: 1, MassG: 1500, Shape: soft(6, 4)},
		{ID: "bread", Count: 1, MassG: 500},
	}}
	now := task.At(Moment{Left: map[string]Rest{"food": {Pieces: 2, Share: 0.5, MassG: 350}, "gas": {Pieces: 1, Share: 0.5, MassG: 270},
		"bread": {}}, More: []kit.Item{{ID: "apples", Count: 1}}})
	assert.Equal(t, []kit.Item{
		{ID: "food", Count: 2, MassG: 350, Shape: soft(1, 0.5)},
		{ID: "gas", Count: 1, MassG: 270, Shape: tin(11, 8)},
		{ID: "tent", Count: 1, MassG: 1500, Shape: soft(6, 4)},
		{ID: "apples", Count: 1},
	}, now.Items)
	assert.Len(t, task.Items, 4)
	assert.Equal(t, 700.0, task.Items[0].MassG, "the task given is not changed")
}

// Another bearer has a pack, a body and wishes of his own, and the same kit.
func TestAnotherBearer(t *testing.T) {
	t.Parallel()
	task := &Task{Items: []kit.Item{{ID: "tent"}}, Pins: []Pin{{Item: "tent", Zone: "lid"}}, Trip: trail.Trip{Nights: 2}}
	other := task.For(Bearer{Pack: rucksack.Pack{ID: "small"}, Body: trail.Carrier{MassKg: 52}})
	assert.Equal(t, "small", other.Pack.ID)
	assert.Equal(t, 52.0, other.Trip.Carrier.MassKg)
	assert.Equal(t, 2, other.Trip.Nights)
	assert.Empty(t, other.Pins)
	assert.Len(t, task.Pins, 1)
}

// A wish for one piece goes before one for its whole line; hands that stuff loosely make soft things larger, and
// nothing else.
func TestWishesAndHands(t *testing.T) {
	t.Parallel()
	task := &Task{Pins: []Pin{{Item: "bottle", Zone: "left"}, {Item: "bottle", Piece: 2, Zone: "right"}, {Item: "bottle", Zone: "lid"}},
		Items: []kit.Item{{ID: "bottle", Name: "Bottle", Count: 2, Carry: kit.Pack, Shape: tin(8, 25)},
			{ID: "fleece", Name: "Fleece", Count: 1, Carry: kit.Pack, Shape: soft(4, 2)}}, Room: 1.25}
	pieces := kit.Pieces(task.Items, kit.Pack)
	assert.Equal(t, "left", task.PinFor(pieces[0]).Zone)
	assert.Equal(t, "right", task.PinFor(pieces[1]).Zone)
	assert.Nil(t, task.PinFor(pieces[2]))
	filled := task.Filled()
	assert.Equal(t, tin(8, 25), filled.Items[0].Shape)
	assert.Equal(t, soft(5, 2.5), filled.Items[1].Shape)
	assert.Equal(t, 1.0, filled.Room, "and not twice")
	assert.Equal(t, "Fleece", task.NameOf("fleece"))
	assert.Equal(t, "yak", task.NameOf("yak"))

	now := Arrangement{At(pieces[2], "body"), At(pieces[1], "right"), At(pieces[0], "")}
	turn := now.Turns()
	at, in := turn(pieces[1])
	assert.Equal(t, 1, at)
	assert.True(t, in)
	_, in = turn(kit.Piece{Item: &kit.Item{ID: "yak"}, Number: 1})
	assert.False(t, in)
	zone, known := now.ZoneOf(pieces[0])
	assert.Equal(t, "", zone)
	assert.True(t, known, "left out, but known")
	_, known = now[:1].ZoneOf(pieces[0])
	assert.False(t, known)
}
