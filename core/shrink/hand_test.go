package shrink

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/trail"
)

// What a sack with straps is for, one condition after the other.
func TestWhatASackIsFor(t *testing.T) {
	t.Parallel()
	lofty := func(change func(*kit.Item)) *Move {
		it := of(t, "down-sleeping-bag")
		it.Shape = kit.Shape{Kind: kit.Soft, LooseL: 11, TightL: 6, GapCm: 4}
		if change != nil {
			change(it)
		}
		return sack(it)
	}
	require.NotNil(t, lofty(nil))
	assert.NotNil(t, lofty(func(it *kit.Item) { it.Shape.LooseL, it.Shape.TightL = 1.5, 1 }), "a litre is worth it")
	for name, change := range map[string]func(*kit.Item){
		"less than a litre":   func(it *kit.Item) { it.Shape.TightL = 0.99 },
		"hardly lofty":        func(it *kit.Item) { it.Shape.LooseL = 8.99 },
		"a box":               func(it *kit.Item) { it.Shape.Kind = kit.Box },
		"what may get wet":    func(it *kit.Item) { it.Water.Suffers = false },
		"wanted in a hurry":   func(it *kit.Item) { it.Use.Urgent = true },
		"food":                func(it *kit.Item) { it.Traits = append(it.Traits, kit.Food) },
		"what is used up":     func(it *kit.Item) { it.Consumable = "fuel" },
		"in a sack by a hand": func(it *kit.Item) { it.MadeSmall = []string{"sack"} },
	} {
		assert.Nil(t, lofty(change), name)
	}
}

// Of a pair one can stay, of three one; of what is used up none.
func TestOneOfSeveral(t *testing.T) {
	t.Parallel()
	socks := of(t, "socks")
	for count, want := range map[int]int{1: 0, 2: 1, 3: 2} {
		socks.Count = count
		if m := fewer(socks); want == 0 {
			assert.Nil(t, m)
		} else {
			assert.Equal(t, want, m.Change.Count)
		}
	}
	socks.Consumable = "fuel"
	assert.Nil(t, fewer(socks))
}

// Comforts go first: 1 and a tenth of their uses a day, never more than a half. An inner tent costs what a spare does
// though nothing else shelters: the fly does.
func TestWhatALeavingCosts(t *testing.T) {
	t.Parallel()
	task := &job.Task{}
	for perDay, want := range map[float64]float64{0: 1, 2: 1.2, 5: 1.5, 20: 1.5} {
		m := leave(&kit.Item{Kind: "chair", Use: kit.Use{PerDay: perDay}}, nil, task)
		assert.InDelta(t, want, m.Cost, 1e-9, "%v a day", perDay)
		assert.Equal(t, "shrink.comfort", m.Why.Code)
	}
	inner := &kit.Item{Kind: "tent-inner", Functions: []string{"shelter"}}
	m := leave(inner, nil, task)
	require.NotNil(t, m)
	assert.InDelta(t, 6, m.Cost, 1e-9)
	assert.Equal(t, "shrink.fly-alone", m.Why.Code)
	assert.Nil(t, leave(&kit.Item{Kind: "tarp", Functions: []string{"shelter"}}, nil, task), "the only shelter stays")
	inner.History = kit.History{Carried: 3}
	m = leave(inner, nil, task)
	assert.InDelta(t, 1, m.Cost, 1e-9, "three times carried and never used")
	assert.Equal(t, "shrink.never-used", m.Why.Code)
	inner.History = kit.History{Carried: 1}
	assert.InDelta(t, 6, leave(inner, nil, task).Cost, 1e-9, "one trip says little")
}

// What a trip makes necessary (common practice): on snow, or with skis along, what one needs there; dry clothes for
// camp where the night is cold and there is one.
func TestWhatATripNeeds(t *testing.T) {
	t.Parallel()
	crampons := &kit.Item{Kind: "crampons"}
	assert.True(t, needed(&kit.Item{Kind: "whistle"}, &job.Task{}))
	assert.False(t, needed(crampons, &job.Task{}))
	snow := &job.Task{Trip: trail.Trip{Legs: []trail.Leg{{}, {Snow: true}}}}
	assert.True(t, needed(crampons, snow))
	assert.False(t, needed(&kit.Item{Kind: "chair"}, snow))
	for _, kind := range []string{"skis", "ski-skins"} {
		tour := &job.Task{Items: []kit.Item{{Kind: "mug", Carry: kit.Pack}, {Kind: kind, Carry: kit.Hand}}}
		assert.True(t, needed(crampons, tour), kind)
		tour.Items[1].Carry = kit.Left
		assert.False(t, needed(crampons, tour), "%s at home", kind)
	}
	dry := kit.Item{Group: "clothing", Water: kit.Water{Suffers: true}, Use: kit.Use{When: kit.Camp}}
	cold := &job.Task{Trip: trail.Trip{Nights: 1, NightLowC: 9.9}}
	assert.True(t, needed(&dry, cold))
	for name, change := range map[string]func(*kit.Item, *trail.Trip){
		"no night":        func(_ *kit.Item, trip *trail.Trip) { trip.Nights = 0 },
		"a warm one":      func(_ *kit.Item, trip *trail.Trip) { trip.NightLowC = 10 },
		"no clothing":     func(it *kit.Item, _ *trail.Trip) { it.Group = "sleep" },
		"may get wet":     func(it *kit.Item, _ *trail.Trip) { it.Water.Suffers = false },
		"worn on the way": func(it *kit.Item, _ *trail.Trip) { it.Use.When = kit.Moving },
	} {
		it, task := dry, *cold
		change(&it, &task.Trip)
		assert.False(t, needed(&it, &task), name)
	}
}

// A thing from the shelf for one that is packed: of the same kind or marked as standing for it, smaller by more than a
// hair, and not along already. Two of them save twice.
func TestSwapsByHand(t *testing.T) {
	t.Parallel()
	soft := func(litres float64) kit.Shape { return kit.Shape{Kind: kit.Soft, LooseL: litres, TightL: litres} }
	old := &kit.Item{ID: "a", Kind: "towel", Shelf: "large", Count: 2, MassG: 200, Shape: soft(1), Carry: kit.Pack}
	small := kit.Item{ID: "b", Kind: "towel", Shelf: "small", Count: 1, MassG: 80, Shape: soft(0.4)}
	list := swaps(old, []kit.Item{*old}, []kit.Item{small})
	require.Len(t, list, 1)
	assert.InDelta(t, 1.2, list[0].Litres, 1e-9)
	assert.InDelta(t, 240, list[0].Grams, 1e-9)
	assert.InDelta(t, 2, list[0].Cost, 1e-9)
	assert.Equal(t, "swap:a:small", list[0].Key())
	for name, change := range map[string]func(*kit.Item){
		"itself":            func(s *kit.Item) { s.Shelf = "large" },
		"hardly smaller":    func(s *kit.Item) { s.Shape = soft(0.98) },
		"another kind":      func(s *kit.Item) { s.Kind = "mug" },
		"of no known kind":  func(s *kit.Item) { s.Kind = "" },
		"marked for others": func(s *kit.Item) { s.Kind, s.Instead = "mug", "cups" },
	} {
		other := small
		change(&other)
		assert.Empty(t, swaps(old, []kit.Item{*old}, []kit.Item{other}), name)
	}
	along := small
	along.Carry = kit.Worn
	assert.Empty(t, swaps(old, []kit.Item{*old, along}, []kit.Item{small}), "it is worn already")
	along.Carry = kit.Left
	assert.Len(t, swaps(old, []kit.Item{*old, along}, []kit.Item{small}), 1, "it stays at home")
	small.Kind, small.Instead, old.Instead = "quilt", "rag", "rag"
	assert.Len(t, swaps(old, []kit.Item{*old}, []kit.Item{small}), 1, "the packer says so")
	old.Kind, small.Kind, old.Instead, small.Instead = "", "", "", ""
	assert.Empty(t, swaps(old, []kit.Item{*old}, []kit.Item{small}), "two unknown things are not alike")
}

// Of three lights all of which may be left, two are; where one stays anyway, nothing limits it. A vessel takes one
// thing more.
func TestLimitsByHand(t *testing.T) {
	t.Parallel()
	light := func(id string, carry kit.Carry) kit.Item {
		return kit.Item{ID: id, Group: "light", Functions: []string{"light"}, Carry: carry}
	}
	task := &job.Task{Items: []kit.Item{light("a", kit.Pack), light("b", kit.Pack), light("c", kit.Pack),
		light("home", kit.Left)}}
	left := []Move{{Way: Leave, Item: "a"}, {Way: Leave, Item: "b"}, {Way: Leave, Item: "c"}}
	assert.Equal(t, []Limit{{[]string{"leave:a", "leave:b", "leave:c"}, 2}}, Limits(task, left))
	assert.Empty(t, Limits(task, left[:2]), "the third is there whatever is left")
	task.Items[2].Carry = kit.Worn
	assert.Empty(t, Limits(task, left[:2]))
	nested := []Move{{Way: Nest, Item: "a", With: "mug"}, {Way: Nest, Item: "b", With: "mug"},
		{Way: Nest, Item: "c", With: "pot"}}
	assert.Equal(t, []Limit{{[]string{"nest:a:mug", "nest:b:mug"}, 1}}, Limits(task, nested))
}
