package load

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// A bag in a bag is as large as what is in it, one thing of the outer one: they lie in one place, the inner one is
// looked into after the outer one, and what keeps water out does so for both.
func TestABagInABag(t *testing.T) {
	t.Parallel()
	soft := func(l float64) kit.Shape { return kit.Shape{Kind: kit.Soft, LooseL: l, TightL: l, GapCm: 1} }
	items := []kit.Item{ // the outer one first, and last
		{ID: "box", Name: "Ditty bag", Kind: kit.KitBag, NestIn: "sack", Count: 1, Carry: kit.Pack},
		{ID: "needle", Name: "Needle", NestIn: "box", Count: 2, MassG: 5, Carry: kit.Pack, Shape: soft(0.1)},
		{ID: "shirt", Name: "Shirt", NestIn: "sack", Count: 1, MassG: 200, Carry: kit.Pack, Shape: soft(2)},
		{ID: "sack", Name: "Clothes bag", Kind: kit.KitBag, Count: 1, Carry: kit.Pack, Water: kit.Water{Case: "IPX6"}},
	}
	body := rucksack.Zone{ID: "body", Name: "Body", Kind: rucksack.Body, SizeCm: [3]float64{28, 20, 50}, VolumeL: 28}
	for range items {
		items = append(items[1:], items[0])
		task := &job.Task{Pack: rucksack.Pack{ID: "p", Zones: []rucksack.Zone{body}}, Items: items}
		for _, it := range task.Filled().Items {
			switch it.ID {
			case "box":
				assert.InDelta(t, 0.25, it.Shape.LooseL, 1e-9)
			case "sack":
				assert.InDelta(t, 2.30, it.Shape.LooseL, 1e-9)
			}
			assert.Equal(t, "IPX6", it.Water.Case, it.ID)
		}
		plan := Make(task, Options{Quick: true, Seed: 1})
		assert.Empty(t, plan.LeftOut)
		assert.Empty(t, plan.Broken)
		bags := map[string]int{}
		for i := range plan.Placed {
			assert.Equal(t, "sack", plan.Outer(i).Piece.ID)
			bags[plan.Placed[i].Piece.ID] = plan.BagsRound(i)
		}
		assert.Equal(t, map[string]int{"sack": 0, "shirt": 1, "box": 1, "needle": 2}, bags)
	}
	items[slices.IndexFunc(items, func(it kit.Item) bool { return it.ID == "sack" })].Carry = kit.Left
	plan := Make(&job.Task{Pack: rucksack.Pack{ID: "p", Zones: []rucksack.Zone{body}}, Items: items}, Options{Quick: true, Seed: 1})
	i := slices.IndexFunc(plan.Placed, func(p Placement) bool { return p.Piece.ID == "needle" })
	assert.Equal(t, 1, plan.BagsRound(i), "still in the inner one when the outer one stays at home")
}

// A kit bag that keeps water out does so for what is in it: a down bag in one lies dry in a pack without any liner.
func TestAKitBagKeepsWaterOut(t *testing.T) {
	t.Parallel()
	of := func(bagCase string) *Plan {
		down := kit.Item{ID: "quilt", Name: "Quilt", NestIn: "bag", Count: 1, MassG: 600, Carry: kit.Pack, Use: kit.Use{When: kit.Camp},
			Water: kit.Water{Absorbs: true, Suffers: true}, Shape: kit.Shape{Kind: kit.Soft, LooseL: 8, TightL: 4, GapCm: 2}}
		bag := kit.Item{ID: "bag", Name: "Bag", Kind: kit.KitBag, Count: 1, Carry: kit.Pack, Water: kit.Water{Case: bagCase}}
		body := rucksack.Zone{ID: "body", Name: "Body", Kind: rucksack.Body, SizeCm: [3]float64{28, 20, 50}, VolumeL: 28}
		return Make(&job.Task{Pack: rucksack.Pack{ID: "p", Zones: []rucksack.Zone{body}}, Items: []kit.Item{bag, down}}, Options{Quick: true, Seed: 1})
	}
	for _, c := range []struct {
		keeps string
		dry   bool
	}{{"", false}, {"IPX6", true}} {
		i := slices.IndexFunc(of(c.keeps).Placed, func(p Placement) bool { return p.Piece.ID == "quilt" })
		assert.Equal(t, c.dry, dry.Cased(of(c.keeps).Placed[i].Piece.Item), c.keeps)
	}
}
