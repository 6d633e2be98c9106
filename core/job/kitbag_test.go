package job

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
)

// A bag of soft things is soft: their litres and its cloth, by hand. With something hard in it, it keeps a shape that
// holds the longest thing and all litres.
func TestBagShapeByHand(t *testing.T) {
	t.Parallel()
	shirt := &kit.Item{Count: 2, Shape: kit.Shape{Kind: kit.Soft, LooseL: 1, TightL: 0.6, GapCm: 2}}
	trousers := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Soft, LooseL: 1.5, TightL: 1, GapCm: 3}}
	soft := bagShape([]*kit.Item{shirt, trousers})
	assert.Equal(t, kit.Soft, soft.Kind)
	assert.InDelta(t, 3.55, soft.LooseL, 1e-9)
	assert.InDelta(t, 2.25, soft.TightL, 1e-9)
	assert.Equal(t, 3.0, soft.GapCm)

	spoon := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{20, 4, 1}}}
	hard := bagShape([]*kit.Item{shirt, trousers, spoon})
	assert.Equal(t, kit.Lump, hard.Kind)
	assert.InDelta(t, 0.05+2*0.8+1.25+0.08, hard.VolumeL, 1e-9)
	assert.Equal(t, 20.0, hard.SizeCm[0], "as long as the spoon")
	assert.InDelta(t, hard.VolumeL/bagLies, hard.BoxL(), 0.1, "as round as it can be")
	pot := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Vessel, DiameterCm: 12, LengthCm: 10, InsideL: 0.9}}
	assert.GreaterOrEqual(t, bagShape([]*kit.Item{pot}).BoxL(), 1.44, "round the pot's box, 12 x 12 x 10 cm")
}

// A bag is as round as what is in it lets it be, by hand: across first, up to its length, then a cube.
func TestBagsAreRound(t *testing.T) {
	t.Parallel()
	rod := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{30, 1, 1}}}
	cube := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{10, 10, 10}}}
	slab := &kit.Item{Count: 1, Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{30, 20, 1}}}
	clothes := func(litres float64) *kit.Item { return &kit.Item{Count: 1, Shape: soft(litres, litres)} }
	for name, c := range map[string]struct {
		in   []*kit.Item
		want [3]float64
	}{
		"a rod in 4 L":    {[]*kit.Item{rod, clothes(4)}, [3]float64{30, 12.6, 12.6}},     // 4.08 L over 0.85 is 4800 cm3, over 30 cm 12.65 squared
		"a slab in 4 L":   {[]*kit.Item{slab, clothes(4)}, [3]float64{30, 20, 9.1}},       // 4.65 L over 0.85 is 5471 cm3, over 600 cm2
		"a cube in 40 L":  {[]*kit.Item{cube, clothes(40)}, [3]float64{36.4, 36.4, 36.4}}, // 41.05 L over 0.85 is 48,294 cm3
		"nothing but one": {[]*kit.Item{cube}, [3]float64{10.7, 10.7, 10.7}},              // 1.05 L over 0.85
	} {
		got := bagShape(c.in)
		assert.InDeltaSlice(t, c.want[:], got.SizeCm[:], 0.11, name)
		assert.Equal(t, kit.Lump, got.Kind)
	}
}

// What is in a bag decides what it is: one thing is enough; an empty one, or one left at home, stays as it is.
func TestWhatIsInABag(t *testing.T) {
	t.Parallel()
	own := soft(0.3, 0.2)
	of := func(bag kit.Item, contents ...kit.Item) kit.Item {
		bag.ID, bag.Kind, bag.Count, bag.Shape = "bag", kit.KitBag, 1, own
		for i := range contents {
			contents[i].ID, contents[i].NestIn, contents[i].Count, contents[i].Carry = string(rune('a'+i)), "bag", 1, kit.Pack
		}
		return (&Task{Items: append([]kit.Item{bag}, contents...)}).Filled().Items[0]
	}
	here := kit.Item{Carry: kit.Pack}
	assert.Equal(t, own, of(here).Shape)
	assert.Equal(t, own, of(kit.Item{Carry: kit.Left}, kit.Item{Shape: soft(2, 1)}).Shape)
	assert.InDelta(t, 2.05, of(here, kit.Item{Shape: soft(2, 1)}).Shape.LooseL, 1e-9)
	wet := kit.Item{Shape: soft(1, 1), Water: kit.Water{ReturnsWet: true}}
	leaks := kit.Item{Shape: soft(1, 1), Water: kit.Water{Leaks: true}}
	dry := kit.Item{Shape: soft(1, 1)}
	assert.Equal(t, kit.Water{ReturnsWet: true}, of(here, dry, wet).Water)
	assert.Equal(t, kit.Water{Leaks: true}, of(here, leaks, dry).Water)
	urgent := kit.Item{Shape: soft(1, 1), Use: kit.Use{When: kit.Need, Urgent: true}}
	assert.True(t, of(here, urgent, dry).Use.Urgent)
	assert.True(t, of(here, dry, urgent).Use.Urgent)
	assert.False(t, of(here, dry, dry).Use.Urgent)

	shut := kit.Item{Carry: kit.Pack, Water: kit.Water{Case: "IPX6"}}
	cases := func(bag kit.Item) string {
		bag.ID, bag.Kind, bag.Count, bag.Shape = "bag", kit.KitBag, 1, own
		paper := kit.Item{ID: "map", NestIn: "bag", Count: 1, Carry: kit.Pack, Shape: soft(1, 1)}
		return (&Task{Items: []kit.Item{bag, paper}}).Filled().Items[1].Water.Case
	}
	assert.Equal(t, "IPX6", cases(shut), "a bag that keeps water out is a case for what is in it")
	shut.Carry = kit.Left
	assert.Empty(t, cases(shut), "but not from home")

	for room, want := range map[float64]float64{0: 4, 1: 4, 2: 8, 0.5: 2} {
		task := &Task{Room: room, Items: []kit.Item{{ID: "fleece", Shape: soft(4, 3)}}}
		assert.InDelta(t, want, task.Filled().Items[0].Shape.LooseL, 1e-9, "a factor of %v", room)
	}
}

// A bag is wanted when what is most wanted in it is; it is wet when something in it is; what is left at home is not
// in it.
func TestABagIsWhatIsInIt(t *testing.T) {
	t.Parallel()
	task := &Task{Items: []kit.Item{
		{ID: "bag", Kind: kit.KitBag, Count: 1, Carry: kit.Pack},
		{ID: "map", NestIn: "bag", Count: 1, Carry: kit.Pack, Use: kit.Use{When: kit.Moving, PerDay: 5},
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 1, TightL: 1}},
		{ID: "tin", NestIn: "bag", Count: 1, Carry: kit.Pack, Use: kit.Use{When: kit.Camp, PerDay: 9},
			Water: kit.Water{Leaks: true}, Shape: kit.Shape{Kind: kit.Soft, LooseL: 1, TightL: 1}},
		{ID: "pen", NestIn: "bag", Count: 1, Carry: kit.Left, Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 9}},
	}}
	bag := task.Filled().Items[0]
	assert.Equal(t, kit.Use{When: kit.Moving, PerDay: 5}, bag.Use)
	assert.True(t, bag.Water.Leaks)
	assert.InDelta(t, 2.05, bag.Shape.LooseL, 1e-9)
	assert.Equal(t, kit.Shape{}, task.Items[0].Shape, "the task given is not changed")
}
