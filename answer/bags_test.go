package answer_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/answer"
	"tornister/bundle"
	"tornister/core/dry"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/demo"
)

// What is in a dry bag hangs together in the trial, follows one another in the order, and does not fill the bag more
// than it can be filled, on every demo kit under every school of dryness.
func TestABagLiesInOnePiece(t *testing.T) {
	t.Parallel()
	bodies := 0
	for n, text := range demo.Trips {
		for k, school := range schoolsOfDryness(t) {
			b, err := bundle.Read(text)
			require.NoError(t, err)
			require.True(t, b.Task.Method.Set("dry", school))
			a, plan := planned(&b.Task, load.Options{Seed: 1, Quick: n+k > 0})
			litres, pieces := map[string]float64{}, map[string]int{}
			for _, bag := range a.Barriers {
				for _, l := range a.Load {
					if l.Bag == bag.Bag {
						litres[bag.Bag] += l.VolumeL
						pieces[bag.Bag]++
					}
				}
			}
			for i, bag := range a.Barriers {
				at := b.Doc.Name() + ", " + school + ", " + bag.Bag
				zone := b.Task.Pack.Zone(bag.Zone)
				if !zone.Solid() {
					continue
				}
				bodies++
				size := bagOf(t, b, bag.Bag).VolumeL
				assert.LessOrEqual(t, litres[bag.Bag], dry.FullShare*size+0.002*float64(pieces[bag.Bag]), at)
				assert.Equal(t, 1, parts(plan, &a.Barriers[i]), at)
				runs, last := 0, ""
				for _, l := range a.Load {
					if l.Inside == "" && l.Bag == bag.Bag && last != bag.Bag {
						runs++
					}
					if l.Inside == "" {
						last = l.Bag
					}
				}
				assert.Equal(t, 1, runs, "%s: goes in at one turn", at)
			}
		}
	}
	assert.Greater(t, bodies, 10, "there are bags in body and bottom at all")
}

// parts counts the pieces that the cells of a bag's things make.
func parts(plan *load.Plan, bag *answer.Barrier) int {
	mine := map[[3]int]bool{}
	size := plan.Cells.Solid.Size
	for cell, owner := range plan.Cells.Owner {
		if owner < 0 {
			continue
		}
		thing := plan.Cells.Things[owner]
		for i, id := range bag.Items {
			if thing.ID == id && (bag.Pieces[i] == 0 || bag.Pieces[i] == thing.Number) {
				mine[[3]int{cell % size[0], cell / size[0] % size[1], cell / size[0] / size[1]}] = true
			}
		}
	}
	n := 0
	for len(mine) > 0 {
		n++
		var stack [][3]int
		for cell := range mine {
			stack = append(stack, cell)
			break
		}
		for len(stack) > 0 {
			cell := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if !mine[cell] {
				continue
			}
			delete(mine, cell)
			for axis := range 3 {
				for _, step := range []int{-1, 1} {
					near := cell
					near[axis] += step
					stack = append(stack, near)
				}
			}
		}
	}
	return n
}

func schoolsOfDryness(t *testing.T) []string {
	for _, q := range method.Questions {
		if q.Key == "dry" {
			return q.Answers
		}
	}
	require.Fail(t, "no question of dryness")
	return nil
}
