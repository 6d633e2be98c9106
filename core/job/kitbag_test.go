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
