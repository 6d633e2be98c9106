package shrink

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/trail"
)

// of makes an item of a kind, as the quick line would.
func of(t *testing.T, kind string) *kit.Item {
	t.Helper()
	k, known := kit.KindOf(kind)
	require.True(t, known, kind)
	return &kit.Item{ID: kind, Name: k.Name, Kind: k.ID, Group: k.Group, Count: 1, MassG: k.MassG, Shape: k.Shape,
		Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits,
		Functions: k.Functions, Consumable: k.Consumable}
}

// What each way saves, weighs and costs, by hand.
func TestWaysByHand(t *testing.T) {
	t.Parallel()
	bag := of(t, "down-sleeping-bag")
	bag.Shape = kit.Shape{Kind: kit.Soft, LooseL: 11, TightL: 6, GapCm: 4}
	m := sack(bag)
	require.NotNil(t, m)
	assert.InDelta(t, 0.72, m.Litres, 1e-9, "12 % of 6 L")
	assert.Equal(t, -60.0, m.Grams, "the sack weighs")
	assert.Equal(t, 1.5, m.Cost)
	assert.InDelta(t, 5.28, m.Change.Shape.TightL, 1e-9)
	assert.InDelta(t, 6, m.Change.Shape.LooseL, 1e-9)
	bag.Shape.LooseL = 8.9
	assert.Nil(t, sack(bag), "not lofty: less than half as much again")
	bag.Shape.LooseL, bag.MadeSmall = 11, []string{"sack"}
	assert.Nil(t, sack(bag), "once is enough")

	food := of(t, "food-day")
	food.MassG, food.Shape = 600, kit.Shape{Kind: kit.Soft, LooseL: 1.8, TightL: 1.5, GapCm: 2}
	m = repack(food)
	assert.InDelta(t, 0.5, m.Litres, 1e-9, "a third of 1.5 L")
	assert.Equal(t, 48.0, m.Grams, "8 % of 600 g of packaging")
	assert.Equal(t, 1.0, m.Cost)
	food.Follows = "food-1"
	assert.Nil(t, repack(food), "what follows the trip is packed as it is worked out")

	wash := of(t, "wash-kit")
	wash.MassG, wash.Shape = 300, kit.Shape{Kind: kit.Soft, LooseL: 1.4, TightL: 1.2, GapCm: 2}
	m = half(wash)
	assert.InDelta(t, 0.6, m.Litres, 1e-9)
	assert.Equal(t, 150.0, m.Grams)
	assert.Equal(t, 1.5, m.Cost)
	wash.Shape = kit.Shape{Kind: kit.Box, SizeCm: [3]float64{20, 10, 8}}
	assert.InDelta(t, 0.8, half(wash).Litres, 0.02, "half of a box, side by side")

	socks := of(t, "socks")
	socks.Count, socks.MassG, socks.Shape = 3, 70, kit.Shape{Kind: kit.Soft, LooseL: 0.5, TightL: 0.3, GapCm: 1}
	m = fewer(socks)
	assert.InDelta(t, 0.3, m.Litres, 1e-9)
	assert.Equal(t, 70.0, m.Grams)
	assert.Equal(t, 2, m.Change.Count)
	assert.Equal(t, 2.5, m.Cost)
	socks.Count = 1
	assert.Nil(t, fewer(socks))

	poles, whistle := wear(of(t, "walking-poles")), wear(of(t, "whistle"))
	assert.Equal(t, kit.Hand, poles.Change.Carry)
	assert.Equal(t, kit.Worn, whistle.Change.Carry)
	assert.Nil(t, wear(of(t, "pot")))
}

// What it costs to leave something: 3 and its uses, up to three more; 3 more where it is the spare, 2 for dry
// clothing, 1 in all when it was never used.
func TestLeavingByHand(t *testing.T) {
	t.Parallel()
	none, task := map[string]int{}, &job.Task{}
	assert.Equal(t, 1.1, leave(&kit.Item{Kind: "book", Use: kit.Use{PerDay: 1}}, none, task).Cost, "comforts go first")
	book := of(t, "frying-pan")
	book.Functions, book.Group, book.Use.PerDay = nil, "kitchen", 1
	assert.Equal(t, 4.0, leave(book, none, task).Cost)
	book.Use.PerDay = 8
	assert.Equal(t, 6.0, leave(book, none, task).Cost)
	book.Group = "other"
	assert.Equal(t, 2.0, leave(book, none, task).Cost)
	book.History = kit.History{Carried: 2}
	assert.Equal(t, 1.0, leave(book, none, task).Cost)
	book.History = kit.History{Carried: 2, Used: 1}
	assert.Equal(t, 2.0, leave(book, none, task).Cost)

	spare := of(t, "spare-light")
	spare.Use.PerDay = 0
	key := pool(spare, spare.Functions[0])
	assert.Nil(t, leave(spare, map[string]int{key: 1}, task), "the only one stays")
	assert.Equal(t, 6.0, leave(spare, map[string]int{key: 2}, task).Cost)

	clothes := of(t, "spare-clothes")
	clothes.Functions, clothes.Use.PerDay = nil, 1
	assert.Equal(t, 6.0, leave(clothes, none, task).Cost)
	task.Trip.Nights, task.Trip.NightLowC = 1, 9
	clothes.Use.When = kit.Camp
	assert.Nil(t, leave(clothes, none, task), "dry clothes below 10 degrees stay (common practice)")
	axe := &kit.Item{Kind: "ice-axe"}
	assert.NotNil(t, leave(axe, none, task))
	task.Trip.Legs = []trail.Leg{{Snow: true}}
	assert.Nil(t, leave(axe, none, task), "on snow it stays (common practice)")
	for _, kind := range []string{"map", "compass", "whistle", "first-aid-kit", "pot", "survival-bag", "food-day",
		"gas-canister", "avalanche-probe"} {
		if k, known := kit.KindOf(kind); known {
			it := of(t, k.ID)
			assert.Nil(t, leave(it, map[string]int{}, task), kind)
		}
	}
}

// A thing goes into a vessel that takes it; into one that is opened for it at twice the price.
func TestNestingByHand(t *testing.T) {
	t.Parallel()
	mug := of(t, "mug")
	mug.Shape = kit.Shape{Kind: kit.Vessel, DiameterCm: 9, LengthCm: 10, InsideL: 0.5, MouthCm: 8.5}
	sponge := of(t, "book")
	sponge.Shape, sponge.Use = kit.Shape{Kind: kit.Soft, LooseL: 0.2, TightL: 0.15, GapCm: 1}, mug.Use
	moves := nests(sponge, []hollowed{{Piece: kit.Piece{Item: mug}, empty: true}})
	require.Len(t, moves, 1)
	assert.Equal(t, 0.5, moves[0].Cost)
	assert.InDelta(t, 0.15, moves[0].Litres, 1e-9)
	assert.Equal(t, "mug", moves[0].Change.NestIn)
	sponge.Use.When = kit.Need
	assert.Equal(t, 1.0, nests(sponge, []hollowed{{Piece: kit.Piece{Item: mug}, empty: true}})[0].Cost)
	assert.Empty(t, nests(sponge, []hollowed{{Piece: kit.Piece{Item: mug}, litres: 0.36}}),
		"0.51 L are more than half a litre")
	sponge.Use.Urgent = true
	assert.Empty(t, nests(sponge, []hollowed{{Piece: kit.Piece{Item: mug}, empty: true}}))
}

// Sums of a set, by hand; a move is found by its key.
func TestSumsOfASet(t *testing.T) {
	t.Parallel()
	moves := []Move{{Way: Leave, Item: "book", Litres: 0.5, Grams: 300, Cost: 1}, {Way: Sack, Item: "quilt", Litres: 1, Grams: -60, Cost: 1.5},
		{Way: Swap, Item: "pot", With: "mug", Litres: 0.7, Grams: 90, Cost: 2}}
	set := sum([]int{2, 0}, moves)
	assert.Equal(t, "leave:book", set.Moves[0].Key(), "in the order of the moves")
	assert.Equal(t, "swap:pot:mug", set.Moves[1].Key())
	assert.InDelta(t, 1.2, set.Litres, 1e-9)
	assert.InDelta(t, 390, set.Grams, 1e-9)
	assert.InDelta(t, 3, set.Cost, 1e-9)
	assert.InDelta(t, 3-390e-7, set.Objective(), 1e-12)
	a := Answer{Set: set, Spared: moves[1:2]}
	assert.InDelta(t, 4.5-330e-7, a.Objective(), 1e-12)
	assert.True(t, a.has(moves[0]))
	assert.False(t, a.has(moves[1]))
}

// What may be hidden in a vessel, one condition after the other.
func TestWhatIsNested(t *testing.T) {
	t.Parallel()
	mug := of(t, "mug")
	mug.Shape = kit.Shape{Kind: kit.Vessel, DiameterCm: 9, LengthCm: 10, InsideL: 0.5, MouthCm: 8.5}
	hollow := []hollowed{{Piece: kit.Piece{Item: mug}, empty: true}}
	cloth := func(tightL float64, change func(*kit.Item)) *kit.Item {
		it := &kit.Item{ID: "cloth", Name: "Cloth", Count: 1, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: tightL, TightL: tightL, GapCm: 1}}
		if change != nil {
			change(it)
		}
		return it
	}
	assert.Len(t, nests(cloth(0.1, nil), hollow), 1)
	assert.Len(t, nests(cloth(0.03, nil), hollow), 1)
	assert.Empty(t, nests(cloth(0.029, nil), hollow), "nothing gained")
	for name, change := range map[string]func(*kit.Item){
		"two of them":       func(it *kit.Item) { it.Count = 2 },
		"nested by a hand":  func(it *kit.Item) { it.NestIn = "pot" },
		"rescue kit":        func(it *kit.Item) { it.Traits = []kit.Trait{kit.Rescue} },
		"food":              func(it *kit.Item) { it.Traits = []kit.Trait{kit.Food} },
		"fuel":              func(it *kit.Item) { it.Consumable = "fuel" },
		"what leaks":        func(it *kit.Item) { it.Water.Leaks = true },
		"what a drill asks": func(it *kit.Item) { it.Functions = []string{"first-aid"} },
		"the mug in itself": func(it *kit.Item) { it.ID = "mug" },
	} {
		assert.Empty(t, nests(cloth(0.1, change), hollow), name)
	}
	hollow[0].empty, hollow[0].litres = false, 0.2
	assert.Len(t, nests(cloth(0.29, nil), hollow), 1, "just what is left besides")
	assert.Empty(t, nests(cloth(0.31, nil), hollow))
	tin := func(litres float64) func(*kit.Item) {
		return func(it *kit.Item) { it.Shape = kit.Shape{Kind: kit.Box, SizeCm: [3]float64{5, 5, 40 * litres}} }
	}
	assert.Len(t, nests(cloth(0, tin(0.2)), hollow), 1, "of what is left a hard thing takes seven tenths")
	assert.Empty(t, nests(cloth(0, tin(0.22)), hollow))
}

// How often it would be missed, in words with their limits.
func TestHowOftenItIsMissed(t *testing.T) {
	t.Parallel()
	for perDay, want := range map[float64]string{0: "shrink.missed-hardly", 0.29: "shrink.missed-hardly", 0.3: "shrink.missed-daily",
		1.49: "shrink.missed-daily", 1.5: "shrink.missed-often", 4: "shrink.missed-often"} {
		assert.Equal(t, want, missed(perDay).Code, "%v a day", perDay)
	}
}

// Vessels of the plan: those that stand by themselves, with what is in them.
func TestVesselsOfThePlan(t *testing.T) {
	t.Parallel()
	pot, mug, twin := of(t, "pot"), of(t, "mug"), of(t, "bowl")
	pot.Shape.Kind, mug.Shape.Kind, twin.Shape.Kind, twin.Count = kit.Vessel, kit.Vessel, kit.Vessel, 2
	sponge := &kit.Item{ID: "sponge", Count: 1, Shape: kit.Shape{Kind: kit.Soft, LooseL: 0.2, TightL: 0.1}}
	plan := &load.Plan{Placed: []load.Placement{{Piece: kit.Piece{Item: pot}}, {Piece: kit.Piece{Item: mug}, Inside: "pot"},
		{Piece: kit.Piece{Item: twin}}, {Piece: kit.Piece{Item: sponge}, Inside: "pot"}, {Piece: kit.Piece{Item: sponge}}}}
	list := vessels(plan)
	require.Len(t, list, 1, "not what is nested itself, not one of two, not what is no vessel")
	assert.Equal(t, "pot", list[0].ID)
	assert.False(t, list[0].empty)
	assert.InDelta(t, mug.Shape.Litres(1)/0.7+0.1, list[0].litres, 1e-9, "hard things fill seven tenths of it")
}

// What the school compresses anyway is not offered a second time.
func TestNoSackForWhatTheSchoolSacks(t *testing.T) {
	t.Parallel()
	bag := of(t, "down-sleeping-bag")
	bag.Shape = kit.Shape{Kind: kit.Soft, LooseL: 11, TightL: 6, GapCm: 4}
	task := &job.Task{Items: []kit.Item{*bag}}
	sacked := func() (n int) {
		for _, m := range Moves(task, &load.Plan{}, nil) {
			if m.Way == Sack {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 1, sacked())
	task.Method.SleepingBag = "sack"
	assert.Zero(t, sacked())
}
