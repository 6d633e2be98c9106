package shrink_test

import (
	"errors"
	"fmt"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/shrink"
	"tornister/core/trail"
	"tornister/internal/outside"
)

// program draws a set of moves, some of them to the same thing.
func program(t *rapid.T) shrink.Program {
	n := rapid.IntRange(1, 40).Draw(t, "moves")
	p := shrink.Program{}
	total := 0.0
	ways := []shrink.Way{shrink.Sack, shrink.Repack, shrink.Wear, shrink.Leave}
	for i := range n {
		m := shrink.Move{Way: ways[i%4], Item: fmt.Sprintf("thing-%d", rapid.IntRange(0, n).Draw(t, "thing")),
			With:   strconv.Itoa(i),
			Litres: float64(rapid.IntRange(0, 300).Draw(t, "litres")) / 100,
			Cost:   float64(rapid.IntRange(1, 80).Draw(t, "cost")) / 10, Grams: float64(rapid.IntRange(-100, 900).
				Draw(t, "grams"))}
		p.Moves = append(p.Moves, m)
		total += m.Litres
	}
	p.NeedL = total * rapid.Float64Range(0.05, 0.8).Draw(t, "share")
	if n > 8 && rapid.Bool().Draw(t, "limit") {
		p.Limits = []shrink.Limit{{Moves: []string{p.Moves[3].Key(), p.Moves[5].Key(), p.Moves[7].Key()}, Most: 1}}
	}
	if rapid.Bool().Draw(t, "must") {
		p.Must = []string{p.Moves[0].Item}
	}
	return p
}

// Sets as cheap as glpsol's optimum of the exported program (GLPK, an independent solver), and both agree when there
// is none.
func TestLeastIsTheSolversOptimum(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	rapid.Check(t, func(t *rapid.T) {
		p := program(t)
		want, err := outside.Glpsol(dir, p.WriteLP)
		set, ok := p.Least(nil)
		require.Equal(t, !errors.Is(err, outside.ErrInfeasible), ok, "%v", err)
		if !ok {
			return
		}
		require.True(t, set.Proven)
		cost := 0.0
		for _, m := range set.Moves {
			cost += m.Cost - 1e-7*m.Grams
		}
		assert.LessOrEqual(t, cost, want+1e-6)
		assert.GreaterOrEqual(t, cost, want-outside.Overlooked(want)-1e-6)
		keepsTheRows(t, p, set)
	})
}

// keepsTheRows checks a set against the program by hand: what is cheaper than the solver's optimum has to be allowed.
func keepsTheRows(t *rapid.T, p shrink.Program, set shrink.Set) {
	assert.GreaterOrEqual(t, set.Litres, p.NeedL-1e-6)
	touched, keys := map[string]bool{}, map[string]bool{}
	for _, m := range set.Moves {
		assert.False(t, touched[m.Item], "two moves to %s", m.Item)
		touched[m.Item], keys[m.Key()] = true, true
	}
	for _, item := range p.Must {
		assert.True(t, touched[item], "%s is left alone", item)
	}
	for _, l := range p.Limits {
		together := 0
		for _, key := range l.Moves {
			if keys[key] {
				together++
			}
		}
		assert.LessOrEqual(t, together, l.Most)
	}
}

// task is a pack of one body and a kit that is too much for it.
func task(litres float64) *job.Task {
	items := []kit.Item{}
	for _, id := range []string{"down-sleeping-bag", "air-mat", "foam-mat", "tent-inner", "tent-fly", "pegs", "pot",
		"gas-stove", "spare-clothes", "camp-shoes", "wash-kit", "book",
		"first-aid-kit", "headlamp", "spare-light", "rain-jacket", "insulated-jacket", "dinner", "food-day", "power-bank",
		"towel", "walking-poles"} {
		k, _ := kit.KindOf(id)
		items = append(items, kit.Item{ID: id, Name: k.Name, Kind: id, Group: k.Group, Count: 1, MassG: k.MassG,
			Shape: k.Shape, Measured: kit.Label, Carry: kit.Pack,
			Use: k.Use, Water: k.Water, Traits: k.Traits, Functions: k.Functions, Consumable: k.Consumable})
	}
	pack := rucksack.Pack{ID: "p", Name: "Pack", MassG: 1000,
		Zones: []rucksack.Zone{{ID: "body", Kind: rucksack.Body, VolumeL: litres,
			SizeCm: rucksack.SizeFor(rucksack.Body, litres),
			Form:   "rounded", Openings: []string{"top"}, Weather: rucksack.Covered, Reach: rucksack.Opened}}}
	return &job.Task{Pack: pack, Items: items,
		Trip:   trail.Trip{Days: 2, Nights: 1, Carrier: trail.Carrier{MassKg: 70, HeightCm: 175, Age: 30}},
		Method: method.Default()}
}

func moves(task *job.Task, shelf []kit.Item) []shrink.Move {
	return shrink.Moves(task, load.Make(task, load.Options{Seed: 1, Quick: true}), shelf)
}

// What no litres help, a chest as wide and deep as a body whose corners are round, has a move of its own in every set;
// it is not waited for with more and more litres.
func TestWhatLitresDoNotHelpGoesFirst(t *testing.T) {
	t.Parallel()
	kitTask := task(60)
	sides := kitTask.Pack.Zones[0].SizeCm
	kitTask.Items = append(kitTask.Items, kit.Item{ID: "chest", Name: "Chest", Kind: "book", Group: "other", Count: 1,
		MassG: 900, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{sides[0], sides[1], sides[0]}}, Carry: kit.Pack,
		Use: kit.Use{When: kit.Camp, PerDay: 0.2}})
	options := load.Options{Seed: 1, Quick: true}
	plan := load.Make(kitTask, options)
	require.Len(t, plan.LeftOut, 1)
	require.True(t, plan.LeftOut[0].Barred())
	a := shrink.Fit(kitTask, plan, nil, options)
	require.True(t, a.Enough)
	require.Len(t, a.Set.Moves, 1)
	assert.Equal(t, "leave:chest", a.Set.Moves[0].Key())
	assert.Equal(t, []string{"chest"}, a.Program.Must)
}

func TestTheSetMakesItFit(t *testing.T) {
	t.Parallel()
	kitTask := task(24)
	plan := load.Make(kitTask, load.Options{Seed: 1, Quick: true})
	require.False(t, plan.Fits())
	a := shrink.Fit(kitTask, plan, nil, load.Options{Seed: 1, Quick: true})
	require.True(t, a.Enough)
	assert.True(t, load.Make(shrink.Apply(kitTask, a.Set.Moves), load.Options{Seed: 1, Quick: true}).Fits())
	want, ok := a.Program.Least(nil)
	require.True(t, ok)
	assert.Equal(t, want.Cost, a.Set.Cost, "it is the optimum of the program it came from")
}

func TestNothingThatLifeHangsOnIsLeft(t *testing.T) {
	t.Parallel()
	kitTask := task(20)
	for _, m := range moves(kitTask, nil) {
		if m.Way == shrink.Leave {
			assert.NotContains(t, []string{"first-aid-kit", "food-day", "dinner", "rain-jacket", "tent-fly", "gas-stove",
				"pot", "down-sleeping-bag", "insulated-jacket"}, m.Item)
		}
		assert.GreaterOrEqual(t, m.Litres, -1e-9, m.Key())
		assert.Positive(t, m.Cost, m.Key())
	}
	limits := shrink.Limits(kitTask, moves(kitTask, nil))
	assert.Contains(t, limits, shrink.Limit{Moves: []string{"leave:headlamp", "leave:spare-light"}, Most: 1},
		"one light of the two stays in")
	kitTask.Items[13].Carry = kit.Left // the headlamp: now the spare light is the only one
	for _, m := range moves(kitTask, nil) {
		assert.NotEqual(t, "leave:spare-light", m.Key())
	}
}

// Meals out of their pouches take about a third less room (common practice); a thing once made smaller is not offered
// again.
func TestRepackingFood(t *testing.T) {
	t.Parallel()
	kitTask := task(30)
	for _, m := range moves(kitTask, nil) {
		if m.Way == shrink.Repack {
			after := shrink.Apply(kitTask, []shrink.Move{m})
			for i := range after.Items {
				if after.Items[i].ID == m.Item {
					assert.InDelta(t, kitTask.Items[i].Shape.LooseL*2/3, after.Items[i].Shape.LooseL, 0.01)
					assert.Empty(t, kitTask.Items[i].MadeSmall, "the kit itself is untouched")
				}
			}
			for _, again := range moves(after, nil) {
				assert.NotEqual(t, m.Key(), again.Key())
			}
		}
	}
}

func TestSwapsComeFromTheShelf(t *testing.T) {
	t.Parallel()
	kitTask := task(30)
	kitTask.Items[0].Shelf, kitTask.Items[0].Instead = "old-bag", "bags"
	quilt, _ := kit.KindOf("down-quilt")
	shelf := []kit.Item{{ID: "q", Name: "Thin quilt", Kind: quilt.ID, Group: quilt.Group, Count: 1, MassG: quilt.MassG,
		Shape: quilt.Shape, Functions: quilt.Functions, Shelf: "quilt", Instead: "bags"},
		{ID: "l", Name: "Thin liner", Kind: "bag-liner", Group: "sleep", Count: 1, MassG: 140,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 0.9, TightL: 0.6, GapCm: 2}, Functions: quilt.Functions, Shelf: "liner"},
		{ID: "b", Name: "The same bag", Kind: "down-sleeping-bag", Group: "sleep", Count: 1, MassG: 900,
			Shape: kitTask.Items[0].Shape, Functions: quilt.Functions, Shelf: "old-bag"}}
	var swaps []shrink.Move
	for _, m := range moves(kitTask, shelf) {
		if m.Way == shrink.Swap && m.Item == "down-sleeping-bag" {
			swaps = append(swaps, m)
		}
	}
	require.Len(t, swaps, 1)
	assert.Equal(t, "quilt", swaps[0].With)
	assert.InDelta(t, 6-4.6, swaps[0].Litres, 1e-9)
	after := shrink.Apply(kitTask, swaps)
	assert.Equal(t, "down-sleeping-bag", after.Items[0].ID, "it keeps its place on the list")
	assert.Equal(t, "Thin quilt", after.Items[0].Name)
}

func TestTheSmallestPackThatTakesIt(t *testing.T) {
	t.Parallel()
	kitTask := task(24)
	var packs []rucksack.Pack
	for _, litres := range []float64{80, 30, 45, 60, 20} {
		packs = append(packs, task(litres).Pack)
	}
	i, plan := shrink.SmallestPack(kitTask, packs, load.Options{Seed: 1, Quick: true})
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, plan.Fits())
	for j := range packs {
		if packs[j].StatedL() < packs[i].StatedL() {
			other := *kitTask
			other.Pack = packs[j]
			assert.False(t, load.Make(&other, load.Options{Seed: 1, Quick: true}).Fits(), "%v L would have done",
				packs[j].StatedL())
		}
	}
}

func BenchmarkLeast(b *testing.B) {
	kitTask := task(20)
	p := shrink.Program{Moves: moves(kitTask, nil), NeedL: 6}
	for b.Loop() {
		if _, ok := p.Least(nil); !ok {
			b.Fatal("no set")
		}
	}
}

// A mug holds a sponge, a pot the socks (common practice): one thing more into a vessel, through its mouth, and the
// plan puts it there.
func TestNestingIsProposed(t *testing.T) {
	t.Parallel()
	kitTask := task(30)
	var into []shrink.Move
	for _, m := range moves(kitTask, nil) {
		if m.Way == shrink.Nest {
			into = append(into, m)
			assert.NotContains(t, []string{"first-aid-kit", "rain-jacket", "dinner"}, m.Item)
		}
	}
	require.NotEmpty(t, into)
	for _, m := range into {
		after := load.Make(shrink.Apply(kitTask, []shrink.Move{m}), load.Options{Seed: 1, Quick: true})
		for i := range after.Placed {
			if p := &after.Placed[i]; p.Piece.ID == m.Item {
				assert.Equal(t, m.With, p.Inside, m.Key())
			}
		}
	}
}
