package load

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"tornister/core/assign"
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
