package dry

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
	"tornister/core/rucksack"
)

// The two questions, asked of generic things by hand (common practice).
func TestNeed(t *testing.T) {
	t.Parallel()
	for id, want := range map[string]int{
		"down-sleeping-bag": 2, "synthetic-sleeping-bag": 2, "spare-clothes": 2, "socks": 2, "insulated-jacket": 2,
		"tent-inner":    2,
		"first-aid-kit": 2, "power-bank": 2, "headlamp": 2, "phone": 2, "map": 2, "water-tablets": 2,
		"tent-fly": 0, "rain-jacket": 0, "pot": 0, "foam-mat": 0, "bottle": 0, "water-bag": 0, "rope": 0, "compass": 0,
	} {
		k, known := kit.KindOf(id)
		assert.True(t, known, id)
		assert.Equal(t, want, Need(&kit.Item{Water: k.Water, Use: k.Use, Shape: k.Shape, Traits: k.Traits}), id)
	}
	worn := kit.Item{Water: kit.Water{Absorbs: true, Suffers: true}, Use: kit.Use{When: kit.Moving},
		Shape: kit.Shape{Kind: kit.Soft}}
	assert.Equal(t, 1, Need(&worn), "what is used on the move is wetted by use")
}

// IEC 60529: the second figure 4 is splashing from all sides, 7 is lying in water.
func TestCased(t *testing.T) {
	t.Parallel()
	for code, want := range map[string]bool{"": false, "IPX1": false, "IPX3": false, "IPX4": true, "IPX7": true,
		"IP67": true, "IP": false, "IP5X": false} {
		assert.Equal(t, want, Cased(&kit.Item{Water: kit.Water{Case: code}}), code)
	}
}

// What is cased, which liner counts, and which rooms share their water.
func TestCasesLinersAndRooms(t *testing.T) {
	t.Parallel()
	for code, cased := range map[string]bool{"IPX4": true, "IPX9": true, "IPX3": false, "IP67": true, "IPX": false,
		"": false} {
		assert.Equal(t, cased, Cased(&kit.Item{Water: kit.Water{Case: code}}), code)
	}
	small, large, first := Bag{ID: "s", Kind: "liner", VolumeL: 40}, Bag{ID: "l", Kind: "liner",
		VolumeL: 60}, Bag{ID: "f", Kind: "liner", VolumeL: 60}
	assert.Equal(t, "f", largest([]Bag{small, first, large}, "liner").ID, "of two alike the first")
	assert.Nil(t, largest([]Bag{small}, "cover"))
	exact := Bag{Kind: "liner", VolumeL: 8 + 6}
	p := packing("liner", []Bag{exact}, of("down-sleeping-bag", bodyZone, 8))
	assert.True(t, p.LinerShuts(bodyZone), "just large enough is enough: 8 L and 10 x 30 x 20 cm")
	sleeve := &rucksack.Zone{ID: "sleeve", Kind: rucksack.Sleeve}
	assert.False(t, p.sameRoom(of("book", bodyZone, 1), of("book", sleeve, 1)), "the liner is between")
	above := of("book", bodyZone, 1)
	above.Above = true
	assert.True(t, p.sameRoom(above, of("book", sleeve, 1)), "over the liner there is none between")
	assert.False(t, p.sameRoom(above, of("book", bodyZone, 1)), "a rolled liner lets nothing down")
	assert.Equal(t, "l", packing("liner", []Bag{small, large}).Liner().ID, "the largest is in use")
	assert.Nil(t, packing("cover", []Bag{small, large}).Liner(), "no school of liners")
	bottomZone := &rucksack.Zone{ID: "bottom", Kind: rucksack.Bottom}
	assert.False(t, p.room(bodyZone, bottomZone))
	p.Open = true
	assert.True(t, p.room(bodyZone, bottomZone))
	assert.False(t, p.room(bodyZone, lidZone))
	p.Open = false
	two := of("book", bodyZone, 1).Piece
	assert.Equal(t, "Book", describe(two))
	two.Item = &kit.Item{Name: "Book", Count: 3}
	two.Number = 2
	assert.Equal(t, "Book 2", describe(two))
	p.Bags = nil
	assert.True(t, p.sameRoom(of("book", bodyZone, 1), of("book", sleeve, 1)))
	assert.False(t, p.sameRoom(of("book", bodyZone, 1), of("book", lidZone, 1)))
	assert.True(t, p.sameRoom(of("book", lidZone, 1), of("book", lidZone, 1)))
	both := Program{ByKind: true}
	assert.True(t, both.apart(of("book", bodyZone, 1), of("socks", bodyZone, 1)), "each kind has its colour")
	both.ByKind = false
	assert.False(t, both.apart(of("book", bodyZone, 1), of("socks", bodyZone, 1)))
	assert.True(t, both.apart(of("book", lidZone, 1), of("book", bodyZone, 1)))
	inPot := of("book", bodyZone, 1)
	inPot.Inside = "pot"
	assert.True(t, both.apart(inPot, of("book", bodyZone, 1)))
	for kind, why := range map[string]string{"phone": "dry.electronics", "down-sleeping-bag": "dry.absorbs-suffers"} {
		assert.Equal(t, why, Why(of(kind, bodyZone, 1).Piece.Item).Code)
	}
}

// A liner lines one compartment, body before bottom; through an open divider one goes through both, and two line both
// (common practice). What lies above the roll is not in it, and is not counted for its litres.
func TestALinerLinesOneCompartment(t *testing.T) {
	t.Parallel()
	bottom := &rucksack.Zone{ID: "bottom", Kind: rucksack.Bottom, SizeCm: [3]float64{30, 20, 15}, VolumeL: 9}
	large, small := Bag{ID: "large", Kind: "liner", VolumeL: 60}, Bag{ID: "small", Kind: "liner", VolumeL: 20}
	p := packing("liner", []Bag{small, large}, of("down-sleeping-bag", bodyZone, 8))
	pack := *testPack
	pack.Zones = append(slices.Clone(pack.Zones), *bottom)
	p.Pack = &pack
	assert.Equal(t, "large", p.LinerOf(bodyZone).ID)
	assert.Equal(t, "small", p.LinerOf(bottom).ID)
	assert.Nil(t, p.LinerOf(lidZone))
	p.Bags = p.Bags[1:]
	assert.Nil(t, p.LinerOf(bottom), "the divider is shut")
	p.Open = true
	assert.Equal(t, "large", p.LinerOf(bottom).ID)
	before := p.LinerNeedL(bodyZone)
	wet := of("tent-fly", bodyZone, 4)
	wet.Above = true
	p.Things = append(p.Things, wet)
	assert.InDelta(t, before, p.LinerNeedL(bodyZone), 1e-9)
	assert.False(t, p.Lined(wet))
	assert.True(t, p.Lined(p.Things[0]))
}
