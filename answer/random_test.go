package answer_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/answer"
	"tornister/bundle"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/demo"
	"tornister/internal/sample"
)

// anyTask is a generic pack with things of the generic kinds, bags, a way of packing and pins; the same seed gives
// the same.
func anyTask(t *testing.T, seed int) *job.Task {
	r := rand.New(rand.NewPCG(uint64(seed), 7))
	packs := demo.Packs()
	b, err := bundle.Read(fmt.Appendf(nil, `{"format":"tornister","version":1,"pack":%s,"items":[]}`,
		packs[seed%len(packs)].JSON))
	require.NoError(t, err)
	task := &b.Task
	for i := range 4 + r.IntN(30) {
		k := sample.Kind(r)
		if k.Shape.Litres(1) > 6 && r.IntN(4) > 0 {
			continue // else hardly any kit would fit
		}
		task.Items = append(task.Items, kit.Item{ID: fmt.Sprintf("%s-%d", k.ID, i), Name: k.Name, Kind: k.ID,
			Group: k.Group, Count: 1 + r.IntN(8)/6, MassG: k.MassG, Shape: k.Shape,
			Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits, Functions: k.Functions, Consumable: k.Consumable})
	}
	task.Bags = []dry.Bag{{ID: "liner", Name: "Liner", Kind: "liner", VolumeL: 90, MassG: 90}}
	for i := range r.IntN(6) {
		bag := dry.Bag{ID: fmt.Sprint("bag-", i), Name: fmt.Sprint("Bag ", i), Kind: "dry-bag",
			VolumeL: []float64{1, 2, 4, 8, 13, 20}[r.IntN(6)], MassG: 50}
		if r.IntN(4) == 0 {
			bag.For = "wet"
		}
		task.Bags = append(task.Bags, bag)
	}
	for _, q := range method.Questions {
		task.Method.Set(q.Key, q.Answers[r.IntN(len(q.Answers))])
	}
	task.Trip.Rain, task.Trip.Nights, task.Trip.Days = r.Float64(), 2, 3
	for range r.IntN(3) {
		if len(task.Items) > 0 {
			pin := job.Pin{Item: task.Items[r.IntN(len(task.Items))].ID, Place: r.IntN(5)}
			pin.Lane = []job.Lane{job.Full, job.Back, job.Front, job.Left, job.Right}[r.IntN(5)]
			if r.IntN(2) == 0 {
				pin.Zone = task.Pack.Zones[r.IntN(len(task.Pack.Zones))].ID
			}
			task.Pins = append(task.Pins, pin)
		}
	}
	return task
}

// Any kit in any pack, verified from the answer alone, cell by cell: every piece is placed once or left out, hard
// things own just the cells of their box in one of their poses, soft things as many cells as their litres say and
// between tight and loose, nothing lies outside the pack, bags lie in one piece and are not overfull, figures add up.
func TestAnyAnswerIsExact(t *testing.T) {
	t.Parallel()
	fits := 0
	kits := sample.Of(t, 8, 24)
	for seed := range kits {
		task := anyTask(t, seed)
		a, plan := planned(task, load.Options{Seed: 1, Quick: seed%8 > 0 || sample.Small()})
		a.Cells = answer.CellsOf(plan)
		text, err := json.Marshal(a)
		require.NoError(t, err)
		var read answer.Answer
		require.NoError(t, json.Unmarshal(text, &read), "the answer is read back")
		verify(t, fmt.Sprint("kit ", seed), task, &read)
		if read.Verdict.Fits {
			fits++
		}
		for i := range read.Barriers {
			assert.LessOrEqual(t, read.Barriers[i].Share, dry.FullShare+1e-3)
			if task.Pack.Zone(read.Barriers[i].Zone).Solid() {
				assert.Equal(t, 1, parts(plan, &read.Barriers[i]), "kit %d, %s", seed, read.Barriers[i].Bag)
			}
		}
	}
	assert.Greater(t, 24*fits, 5*kits, "more than five of 24 fit")
}

type key struct {
	item  string
	piece int
}

func verify(t *testing.T, at string, task *job.Task, a *answer.Answer) {
	items := map[string]*kit.Item{}
	expected := map[key]int{}
	for i := range task.Items {
		it := &task.Items[i]
		items[it.ID] = it
		for n := range it.Count {
			if it.Count == 1 {
				expected[key{it.ID, 0}]++
			} else {
				expected[key{it.ID, n + 1}]++
			}
		}
	}
	size := a.Cells.Size
	var owners []int
	for _, run := range a.Cells.Runs {
		owners = append(owners, slices.Repeat([]int{run[0]}, run[1])...)
	}
	require.Len(t, owners, size[0]*size[1]*size[2], at)
	solid := task.Pack.Solid(a.Cells.CellCm)
	cells := map[key][][3]int{}
	for i, owner := range owners {
		if owner < 0 {
			continue
		}
		require.True(t, solid.Inside[i], "%s: a cell outside the pack is taken", at)
		k := key{a.Cells.Owner[owner], a.Cells.Piece[owner]}
		cells[k] = append(cells[k], [3]int{i % size[0], i / size[0] % size[1], i / size[0] / size[1]})
	}
	litre := math.Pow(a.Cells.CellCm, 3) / 1000
	mass := task.Pack.MassG
	for _, l := range a.Load {
		k := key{l.Item, l.Piece}
		expected[k]--
		it := items[l.Item]
		mass += it.MassG
		z := task.Pack.Zone(l.Zone)
		require.NotNil(t, z, at)
		assert.NotEmpty(t, l.Reasons, at)
		if l.Inside != "" || !z.Solid() {
			assert.Empty(t, cells[k], "%s: %s lies in no cells", at, l.Item)
			continue
		}
		mine := cells[k]
		require.NotEmpty(t, mine, "%s: %v", at, k)
		low, high := mine[0], mine[0]
		for _, c := range mine {
			for axis := range c {
				low[axis], high[axis] = min(low[axis], c[axis]), max(high[axis], c[axis])
			}
		}
		box := 1
		var sides []int
		for axis := range low {
			box *= high[axis] + 1 - low[axis]
			sides = append(sides, high[axis]+1-low[axis])
			assert.InDelta(t, a.Cells.OriginCm[axis]+float64(low[axis])*a.Cells.CellCm, l.BoxCm.Min[axis], 1e-6, at)
			assert.InDelta(t, a.Cells.OriginCm[axis]+float64(high[axis]+1)*a.Cells.CellCm, l.BoxCm.Max[axis], 1e-6, at)
		}
		if it.Shape.Kind == kit.Soft {
			assert.InDelta(t, l.VolumeL, float64(len(mine))*litre, 1e-3, "%s: %s", at, l.Item)
			assert.GreaterOrEqual(t, l.VolumeL, it.Shape.TightL-2*litre, "%s: %s", at, l.Item)
			assert.LessOrEqual(t, l.VolumeL, it.Shape.LooseL+2*litre, "%s: %s", at, l.Item)
			continue
		}
		assert.Len(t, mine, box, "%s: the box of %s is all its own", at, l.Item)
		slices.Sort(sides)
		d := it.Shape.Dimensions()
		slices.Sort(d[:])
		for axis, side := range sides {
			assert.Equal(t, int(math.Ceil(d[axis]/a.Cells.CellCm-1e-6)), side, "%s: %s", at, l.Item)
		}
	}
	for _, l := range a.LeftOut {
		expected[key{l.Item, l.Piece}]--
		assert.NotEmpty(t, l.Why, at)
		assert.NotEmpty(t, l.LeastChange, at)
	}
	for k, n := range expected {
		assert.Zero(t, n, "%s: %v is there once, in or out", at, k)
	}
	for _, b := range a.Barriers {
		mass += bagNamed(task, b.Bag).MassG
	}
	if school := task.Method.Dry; school == "liner" || school == "double" {
		mass += bagNamed(task, "liner").MassG
	}
	assert.InDelta(t, mass, a.Balance.MassG, 1, "%s: nothing weighed twice or not at all", at)
	assert.Equal(t, len(a.LeftOut) == 0, a.Verdict.Fits, at)
	assert.LessOrEqual(t, a.Proof.Bound, a.Proof.Objective+1e-6, at)
	for _, pin := range task.Pins {
		if firstPin(task, pin.Item) != pin {
			continue
		}
		turns := map[string]int{}
		for _, l := range a.Load {
			if l.Inside != "" {
				continue
			}
			turns[l.Zone]++
			if l.Item != pin.Item {
				continue
			}
			if pin.Zone != "" {
				assert.Equal(t, pin.Zone, l.Zone, "%s: pinned", at)
			}
			kept := (pin.Place == 0 || turns[l.Zone] >= pin.Place && turns[l.Zone] < pin.Place+items[l.Item].Count) &&
				(pin.Lane == job.Full || l.BoxCm == nil || l.Lane == pin.Lane)
			said := slices.ContainsFunc(a.Broken,
				func(b answer.Broken) bool { return b.Rule == "pin" && slices.Contains(b.Items, pin.Item) })
			fewer := !slices.ContainsFunc(a.Load, func(o answer.Load) bool {
				return o.Step > l.Step && o.Zone == l.Zone &&
					o.Inside == ""
			}) // it is the last, and there are not so many turns
			assert.True(t, kept || said || fewer, "%s: a pin that is not kept is said: %v, turn %d, %s", at, pin,
				turns[l.Zone], l.Lane)
		}
	}
}

func firstPin(task *job.Task, item string) job.Pin {
	i := slices.IndexFunc(task.Pins, func(p job.Pin) bool { return p.Item == item })
	return task.Pins[i]
}

func bagNamed(task *job.Task, id string) dry.Bag {
	i := slices.IndexFunc(task.Bags, func(b dry.Bag) bool { return b.ID == id })
	if i < 0 {
		return dry.Bag{}
	}
	return task.Bags[i]
}

// A search that is stopped at any moment leaves an answer that is as exact, only not as good.
func TestAStoppedSearchIsExact(t *testing.T) {
	t.Parallel()
	for seed := range 16 {
		task := anyTask(t, seed)
		var asked atomic.Int64
		last := int64(1 + 25*seed)
		a, plan := planned(task, load.Options{Seed: 1, Stop: func() bool { return asked.Add(1) > last }})
		a.Cells = answer.CellsOf(plan)
		verify(t, fmt.Sprintf("kit %d, stopped after %d", seed, last), task, a)
	}
}

// What the first answer takes in, the thorough one does not leave out.
func TestThoroughIsNotWorseThanQuick(t *testing.T) {
	t.Parallel()
	for seed := range sample.Of(t, 2, 5) {
		task := anyTask(t, 100+seed)
		quick, _ := planned(task, load.Options{Seed: 1, Quick: true})
		if quick.Verdict.Fits {
			thorough, _ := planned(task, load.Options{Seed: 1, Effort: 0.05})
			assert.True(t, thorough.Verdict.Fits, "kit %d", seed)
		}
	}
}

// More room never leaves something out that was in.
func TestMoreRoomDoesNoHarm(t *testing.T) {
	t.Parallel()
	for seed := range sample.Of(t, 6, 12) {
		task := anyTask(t, seed)
		task.Pins = nil
		small, _ := planned(task, load.Options{Seed: 1, Quick: true})
		if !small.Verdict.Fits {
			continue
		}
		taller := *task
		taller.Pack = task.Pack.Grown(6)
		large, _ := planned(&taller, load.Options{Seed: 1, Quick: true})
		assert.True(t, large.Verdict.Fits, "kit %d", seed)
	}
}
