package load_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/internal/sample"
)

// twoRooms is a box of a pack, 28 x 20 cm and so high, with a removable divider at 20 cm, or without any.
func twoRooms(divided bool, high float64, items []kit.Item) *job.Task {
	task := boxTask(28, 20, high, items)
	if !divided {
		return task
	}
	body := task.Pack.Zones[0]
	body.SizeCm[2], body.VolumeL, body.AtCm = high-20, 28*20*(high-20)/1000, [3]float64{0, 10, 10 + high/2}
	bottom := body
	bottom.ID, bottom.Name, bottom.Kind, bottom.Divider = "bottom", "Bottom", rucksack.Bottom, "removable"
	bottom.SizeCm[2], bottom.VolumeL, bottom.AtCm = 20, 28*20*20/1000.0, [3]float64{0, 10, 10}
	task.Pack.Zones = []rucksack.Zone{body, bottom}
	return task
}

// A divider that can be taken out is never a reason for less to go in: a few big stiff things and little else, in a
// room with the divider and in the same room without, of 40 to 80 litres. TORNISTER_KITS says how many.
func TestADividerIsNeverWorseThanNone(t *testing.T) {
	t.Parallel()
	fitted, kits := 0, sample.Of(t, 20, 60)
	for seed := range uint64(kits) {
		r := rand.New(rand.NewPCG(seed, 13))
		var items []kit.Item
		high := float64(72 + r.IntN(71)) // 40 to 80 litres
		for i := range int(high/22) + r.IntN(3) {
			items = append(items, boxItem(fmt.Sprintf("stiff-%d", i), float64(15+r.IntN(40)), float64(10+r.IntN(16)),
				float64(6+r.IntN(14))))
		}
		for i := range r.IntN(4) {
			tight := 0.5 + 3*r.Float64()
			items = append(items, kit.Item{ID: fmt.Sprintf("soft-%d", i), Name: "soft", Count: 1, MassG: 300, Carry: kit.Pack,
				Shape: kit.Shape{Kind: kit.Soft, LooseL: 1.5 * tight, TightL: tight, GapCm: 2}})
		}
		without := load.Make(twoRooms(false, high, items), load.Options{Seed: 1, Quick: true, Rough: true})
		with := load.Make(twoRooms(true, high, items), load.Options{Seed: 1, Quick: true, Rough: true})
		if without.Fits() {
			fitted++
			assert.True(t, with.Fits(), "kit %d", seed)
		}
	}
	assert.Greater(t, fitted, kits/4)
	assert.Less(t, fitted, kits)
}

// A thing taller than either compartment goes in when the divider comes out; what lies low is said to be in the
// bottom, and what lies high in the body. A pin to the bottom holds.
func TestOneRoomIsNamedByWhereThingsLie(t *testing.T) {
	t.Parallel()
	items := []kit.Item{boxItem("tall", 60, 12, 10), boxItem("low", 26, 7, 15), boxItem("high", 16, 14, 8),
		boxItem("flat", 16, 14, 9)}
	task := twoRooms(true, 66, items)
	plan := load.Make(task, load.Options{Seed: 1, Effort: little})
	require.True(t, plan.Fits())
	assert.True(t, plan.Open)
	for _, p := range plan.Placed {
		want := "body"
		if p.MiddleCm[2] < 20 {
			want = "bottom"
		}
		assert.Equal(t, want, p.Zone.ID, "%s at %v", p.Piece.ID, p.MiddleCm)
	}
	assert.Equal(t, "body", placed(t, plan, "tall").Zone.ID)
	task.Pack.Zones[1].Divider = "fixed"
	assert.False(t, load.Make(task, load.Options{Seed: 1, Effort: little}).Fits(), "with a divider that stays the tall one has no room")
}
