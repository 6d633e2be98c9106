package load

import (
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/kit"
)

func TestGatherKeepsEverythingAndBringsBagsTogether(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 30).Draw(t, "things")
		p := &packing{bags: []int{}, order: rapid.Permutation(sequence(n)).Draw(t, "order")}
		for range n {
			p.inside = append(p.inside, &assign.Choice{})
			p.bags = append(p.bags, rapid.IntRange(-1, 3).Draw(t, "bag"))
		}
		before := slices.Clone(p.order)
		p.gather()
		assert.ElementsMatch(t, before, p.order)
		left := map[int]bool{} // bags that are over
		for k, i := range p.order {
			b := p.bags[i]
			assert.False(t, b >= 0 && left[b], "bag %d comes twice", b)
			if next := k + 1; next < len(p.order) && b >= 0 && p.bags[p.order[next]] != b {
				left[b] = true
			}
		}
	})
}

func sequence(n int) []int {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	return list
}

// What goes into one dry bag of a pocket goes in one after the other, when the last of it has its turn: a hand fills
// the bag and packs it.
func TestADryBagIsPackedAtOnce(t *testing.T) {
	t.Parallel()
	var list []*assign.Choice
	for i := range 6 {
		list = append(list, &assign.Choice{Piece: kit.Piece{Item: &kit.Item{ID: strconv.Itoa(i)}, Number: 1}})
	}
	bag := func(things ...int) (b dry.Barrier) {
		b.Bag = &dry.Bag{}
		for _, i := range things {
			b.Things = append(b.Things, list[i].Piece)
		}
		return b
	}
	chosen := dry.Barriers{Used: []dry.Barrier{bag(0, 3)}, Wet: []dry.Barrier{bag(1, 4)}}
	bagByBag(list, chosen.ByPiece())
	order := ""
	for _, c := range list {
		order += c.ID
	}
	assert.Equal(t, "203145", order)
	bagByBag(list, nil)
	assert.Equal(t, "2", list[0].ID, "without bags all stays as it is")
}
