package load_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
	"tornister/core/load"
	"tornister/internal/sample"
)

// What is dear to leave out comes in for what is cheaper: two bars that do not stand beside each other, of which one is
// food. For food nothing else goes out that is as dear, and nothing that would not make room.
func TestDearThingsComeInForCheapOnes(t *testing.T) {
	t.Parallel()
	bar := func(id string, traits ...kit.Trait) kit.Item {
		it := boxItem(id, 38, 13, 13)
		it.Traits = traits
		return it
	}
	pebble := boxItem("pebble", 3, 3, 3)
	out := func(it ...kit.Item) []string {
		return load.BringInFor(boxTask(20, 20, 40, append(it, pebble)), it[0].ID)
	}
	assert.Equal(t, []string{"chair"}, out(bar("bread", kit.Food), bar("chair")), "the pebble would not make room")
	assert.Equal(t, []string{"bread"}, out(bar("bread", kit.Food), bar("stew", kit.Food)))
	assert.Equal(t, []string{"chair"}, out(bar("chair"), bar("bread", kit.Food)))
}

// A search that has spent its budget on a plank that does not go in has left the small things out that would have lain
// where it was to be. They come in, and the plank stays out.
func TestWhatOneLongThingGivesUpIsTaken(t *testing.T) {
	t.Parallel()
	task := boxTask(20, 20, 40, []kit.Item{boxItem("bar", 38, 13, 13), boxItem("plank", 38, 13, 13),
		boxItem("cup", 6, 6, 6), boxItem("tin", 6, 6, 6), boxItem("book", 15, 6, 3)})
	assert.Equal(t, []string{"plank"}, load.GiveUp(task, "plank", "cup", "tin", "book"))
}

// One bulky thing goes out for two that come in where it was, not for one, and not when it is food.
func TestOneBulkyThingGoesOutForTwo(t *testing.T) {
	t.Parallel()
	trunk, first, second := boxItem("trunk", 20, 20, 20), boxItem("first", 20, 20, 10), boxItem("second", 20, 20, 10)
	chest := boxItem("chest", 20, 20, 20)
	chest.Traits = []kit.Trait{kit.Food}
	task := boxTask(20, 20, 40, []kit.Item{chest, trunk, first, second})
	assert.Equal(t, []string{"trunk"}, load.GiveUp(task, "first", "second"))
	task = boxTask(20, 20, 40, []kit.Item{chest, trunk, boxItem("first", 20, 20, 20)})
	assert.Equal(t, []string{"first"}, load.GiveUp(task, "first"))
	task = boxTask(20, 20, 40, []kit.Item{chest, first, boxItem("third", 20, 20, 10), second, boxItem("fourth", 20, 20, 10)})
	assert.ElementsMatch(t, []string{"second", "fourth"}, load.GiveUp(task, "second", "fourth"))
}

// No few comforts are worth what keeps warm at night (common practice): of a sleeping bag and a dozen comforts in a bag
// that is too small it is comforts that stay out, however it is tried, and no more of them than litres ask for.
func TestTheSleepingBagStaysIn(t *testing.T) {
	t.Parallel()
	cloth := func(id string, litres float64) kit.Item {
		return kit.Item{ID: id, Name: id, Count: 1, MassG: 100 * litres, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: litres, TightL: litres, GapCm: 2}}
	}
	for tall := 24.0; tall <= 36; tall += 12 / float64(sample.Of(t, 1, 3)) {
		bag := cloth("bag", 6)
		bag.Functions = []string{"warmth"}
		items := []kit.Item{bag}
		for i := range 12 {
			items = append(items, cloth(fmt.Sprint("comfort ", i), 1))
		}
		plan := load.Make(boxTask(20, 20, tall, items), load.Options{Seed: 1, Effort: little})
		var out []string
		for _, l := range plan.LeftOut {
			out = append(out, l.Piece.ID)
			assert.Equal(t, len(plan.LeftOut) > 1, l.LeastChange.Code == "load.larger-body-all", "said of all or of the one")
		}
		assert.False(t, slices.ContainsFunc(out, func(id string) bool { return !strings.HasPrefix(id, "comfort") }), "%v", out)
		assert.LessOrEqual(t, float64(len(out)), 18-tall*0.4+2, "%v cm", tall)
	}
}
