package load_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/demo"
	"tornister/internal/sample"
)

// Three boxes that each fill the body from wall to wall: the lowest comes out after two others through the top, at
// once through a front zip, and a bottom compartment opens at the front (common practice).
func TestDiggingGoesToTheNearestOpening(t *testing.T) {
	t.Parallel()
	lowest := func(openings ...string) int {
		task := boxTask(20, 15, 30, []kit.Item{boxItem("a", 20, 15, 10), boxItem("b", 20, 15, 10), boxItem("c", 20, 15, 10)})
		task.Pack.Zones[0].Openings = openings
		most := 0
		plan := load.Make(task, load.Options{Seed: 1, Effort: little})
		require.True(t, plan.Fits())
		for _, p := range plan.Placed {
			most = max(most, p.LiftedOut)
		}
		return most
	}
	assert.Equal(t, 2, lowest(), "a body that says nothing opens at the top")
	assert.Equal(t, 2, lowest("top"))
	assert.Zero(t, lowest("top", "front"))
	bottom := rucksack.Zone{Kind: rucksack.Bottom}
	assert.True(t, bottom.Opens("front"))
	assert.False(t, bottom.Opens("top"))
}

// A taller body never needs clearly more squeeze, whichever way the divider is.
func TestATallerBodySqueezesNoMore(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	last := 1.0
	for _, more := range []float64{0, 4, 14} {
		task := walker(t)
		task.Pack = task.Pack.Grown(more)
		plan := load.Make(task, load.Options{Seed: 1, Effort: little})
		if !plan.Fits() {
			continue
		}
		assert.LessOrEqual(t, plan.Squeeze, last+0.1, "%v cm taller", more)
		last = min(last, plan.Squeeze)
	}
	assert.Less(t, last, 0.2, "with room the divider is opened and nothing is squeezed much")
}

// On every demo kit: no point lies against what it would hole and no fuel against food; what goes on in the rain is
// not in the body, under dry things; where shovel and probe have their own compartment nothing is before them that is
// not wanted as quickly.
func TestWhatMustNotTouchDoesNot(t *testing.T) {
	t.Parallel()
	for _, text := range demo.Trips[:min(len(demo.Trips), sample.Of(t, 1, len(demo.Trips)))] {
		task, plan := thorough(t, text)
		for _, p := range plan.Placed {
			for _, o := range p.Beside {
				assert.False(t, p.Piece.Has(kit.Sharp) && load.Holed(o), "%s: %s against %s", task.Pack.Name, p.Piece.Name, o.Name)
				assert.False(t, p.Piece.Has(kit.Fuel) && o.Has(kit.Food), "%s: %s against %s", task.Pack.Name, p.Piece.Name, o.Name)
			}
			if p.Piece.Serves("rain") && p.Piece.Use.Urgent {
				assert.False(t, p.Zone.Solid(), "%s: %s", task.Pack.Name, p.Piece.Name)
			}
			if p.Zone.RescueUse && !p.Piece.Has(kit.Rescue) {
				assert.True(t, p.Piece.Use.Urgent || p.Piece.Use.When == kit.Moving, "%s: %s lies with the rescue kit",
					task.Pack.Name, p.Piece.Name)
			}
		}
	}
}

// A bag that cannot lie in one piece is torn: its things go in all the same and its dryness is not counted. Twelve
// litres of clothes in two shafts, left and right of a box that reaches from the back to the front and to the top.
func TestATornBagIsSaid(t *testing.T) {
	t.Parallel()
	task := boxTask(30, 10, 40, []kit.Item{boxItem("chest", 10, 10, 40)})
	for _, id := range []string{"left-clothes", "right-clothes"} {
		k, _ := kit.KindOf("spare-clothes")
		task.Items = append(task.Items, kit.Item{ID: id, Name: id, Kind: k.ID, Group: k.Group, Count: 1, MassG: 800,
			Carry: kit.Pack, Use: k.Use, Water: k.Water,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 4, TightL: 3.9, GapCm: 2}})
	}
	task.Items[0].Use.When = kit.Camp
	task.Pins = []job.Pin{{Item: "chest", Place: 1}}
	bags, err := bundle.Read([]byte(`{"format":"tornister","version":1,"pack":{"id":"p","name":"p","zones":[{"id":"body","kind":"body","size_cm":[30,20,40]}]},"items":[],
		"bags":[{"id":"blue","name":"Blue","kind":"dry-bag","volume_l":12,"mass_g":60}]}`))
	require.NoError(t, err)
	task.Bags, task.Method.Dry = bags.Task.Bags, "two-questions"
	plan := load.Make(task, load.Options{Seed: 1, Effort: little})
	require.True(t, plan.Fits(), "bags never keep anything out")
	barriers := load.Dryness(task, plan).Plan()
	if chest := placed(t, plan, "chest"); chest.Box.Min[0] > -15 && chest.Box.Max[0] < 15 {
		assert.Empty(t, barriers.Used)
		require.Len(t, barriers.Torn, 1)
		assert.Len(t, barriers.Weak, 2)
		assert.Contains(t, fmt.Sprint(barriers.Weak[0].Why), "dry.torn")
	} else {
		require.Len(t, barriers.Used, 1)
		assert.Empty(t, barriers.Weak)
	}
	task.Bags[0].VolumeL = 3 // smaller than any of the things
	small := load.Dryness(task, load.Make(task, load.Options{Seed: 1, Quick: true})).Plan()
	assert.Empty(t, small.Used)
	assert.Len(t, small.Weak, 2)
	assert.Contains(t, fmt.Sprint(small.Weak[0].Mend), "dry.bag [5]")
}

// What is on the list several times is packed in one place: three pairs of socks, three shirts and two towels lie one
// after another among a dozen other things (common practice: like with like).
func TestLikeLiesWithLike(t *testing.T) {
	t.Parallel()
	several, apart := map[string]int{"socks": 3, "base-top": 3, "towel": 2}, 0
	for _, pack := range touring[:min(2, sample.Of(t, 1, 2))] {
		task := packed(t, pack, with(camp, "socks", "base-top", "fleece", "wash-kit", "towel", "book", "mug", "medicine"))
		for i := range task.Items {
			task.Items[i].Count = max(1, several[task.Items[i].Kind])
		}
		plan := load.Make(task, load.Options{Seed: 1})
		require.True(t, plan.Fits())
		last, zone := map[string]int{}, map[string]string{}
		for i, p := range plan.Placed {
			if at, met := last[p.Piece.ID]; met && p.Zone.Solid() && zone[p.Piece.ID] == p.Zone.ID {
				apart += i - at - 1
			}
			last[p.Piece.ID], zone[p.Piece.ID] = i, p.Zone.ID
		}
	}
	assert.LessOrEqual(t, apart, 2, "things between pieces of one line, in both packs")
}

// Poles that would not stand on the sleeping bag go in before it; that is no reason for whatever else is stiff to go in
// before it too (common practice: the bag at the foot, round what reaches down there).
func TestLongPolesAloneComeBeforeTheBag(t *testing.T) {
	t.Parallel()
	bag, _ := kit.KindOf("down-sleeping-bag")
	items := []kit.Item{{ID: "bag", Name: bag.Name, Kind: bag.ID, Group: bag.Group, Count: 1, MassG: bag.MassG,
		Carry: kit.Pack, Shape: bag.Shape, Use: bag.Use, Water: bag.Water}, boxItem("poles", 60, 6, 6)}
	for i := range 12 {
		items = append(items, boxItem(fmt.Sprintf("tin-%02d", i), 11, 9, 7))
	}
	for i := range items {
		items[i].Use.When = kit.Camp
	}
	task := boxTask(30, 22, 62, items)
	task.Method.Lowest = "sleeping-bag"
	for _, quick := range []bool{true, false}[:min(2, sample.Of(t, 1, 2))] {
		plan := load.Make(task, load.Options{Seed: 1, Quick: quick})
		require.True(t, plan.Fits())
		at := slices.IndexFunc(plan.Placed, func(p load.Placement) bool { return p.Piece.ID == "bag" })
		for _, p := range plan.Placed[:at] {
			assert.Equal(t, "poles", p.Piece.ID, "quick %v: before the bag", quick)
		}
	}
}
