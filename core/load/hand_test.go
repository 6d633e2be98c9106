package load

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// lies is a thing of a plan in a zone, from one height to another.
func lies(it kit.Item, zone rucksack.ZoneKind, from, to float64) Placement {
	return Placement{Piece: kit.Piece{Item: &it}, Zone: &rucksack.Zone{ID: string(zone), Kind: zone},
		Box: &Box{Min: [3]float64{0, 0, from}, Max: [3]float64{20, 20, to}}, MiddleCm: [3]float64{10, 10, (from + to) / 2}}
}

// Whether what belongs lowest lies lowest, by hand: a pot wholly under a quilt says that it does not, one beside it, in
// it or hardly lower does not say that, nor anything under what has the bottom to itself.
func TestWhatBelongsLowest(t *testing.T) {
	t.Parallel()
	quilt := kit.Item{ID: "quilt", Name: "Quilt", Group: "sleep", Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	pot := kit.Item{ID: "pot", Name: "Pot", Group: "kitchen", Carry: kit.Pack}
	liner := kit.Item{ID: "liner", Name: "Liner", Group: "sleep", Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 1, TightL: 0.7}}
	inside := lies(pot, rucksack.Body, 0, 5)
	inside.Inside = "mug"
	for name, c := range map[string]struct {
		placed []Placement
		want   string
	}{
		"a pot wholly under it":   {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 10)}, "load.school-lower"},
		"a centimetre up into it": {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 11)}, "load.school-lower"},
		"a pot beside it":         {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 12)}, ""},
		"a pot over it":           {[]Placement{lies(quilt, rucksack.Body, 0, 10), lies(pot, rucksack.Body, 10, 20)}, ""},
		"hardly lower":            {[]Placement{lies(quilt, rucksack.Body, 3, 5), lies(pot, rucksack.Body, 0, 2)}, ""},
		"in the bottom":           {[]Placement{lies(quilt, rucksack.Bottom, 10, 20), lies(pot, rucksack.Bottom, 0, 10)}, ""},
		"in something else":       {[]Placement{lies(quilt, rucksack.Body, 10, 20), inside}, ""},
		"in a side pocket":        {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Side, 0, 10)}, ""},
		"its like under it":       {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(liner, rucksack.Body, 0, 10)}, ""},
		"a quilt in the lid":      {[]Placement{lies(quilt, rucksack.Lid, 50, 60), lies(pot, rucksack.Body, 0, 10)}, "load.school-lies"},
	} {
		task := &job.Task{Items: []kit.Item{quilt, pot, liner}, Method: method.Default()}
		require.True(t, task.Method.Set("lowest", "sleeping-bag"))
		look := &schooled{plan: &Plan{Placed: c.placed}, task: task, pack: &task.Pack}
		assert.Equal(t, c.want, look.lowest().Why.Code, name)
		task.Items = task.Items[1:2]
		assert.Equal(t, "load.school-nothing", look.lowest().Why.Code, "no bed along")
	}
}

// Whether the sleeping bag is packed as asked for: with no bed along the answer changes nothing; a bag that had to do
// without its sack is named, and no other thing.
func TestASackThatIsNotUsed(t *testing.T) {
	t.Parallel()
	quilt := kit.Item{ID: "quilt", Name: "Quilt", Group: "sleep", Carry: kit.Pack, Functions: []string{"warmth"},
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	sacked := quilt
	sacked.Shape = kit.Shape{Kind: kit.Lump, SizeCm: [3]float64{20, 20, 24}, VolumeL: 6}
	mug := kit.Item{ID: "mug", Group: "kitchen", Carry: kit.Pack, Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	look := func(sack bool, unsacked bool, items ...kit.Item) NotKept {
		task := &job.Task{Items: items}
		if sack {
			task.Method.SleepingBag = "sack"
		}
		s := &schooled{plan: &Plan{unsacked: unsacked}, task: task}
		return s.sleepingBag()
	}
	assert.Equal(t, "load.school-nothing", look(true, false, mug).Why.Code)
	assert.True(t, look(true, false, quilt).Why.None())
	assert.True(t, look(false, false, quilt).Why.None())
	got := look(false, true, mug, quilt)
	assert.Equal(t, "load.school-only-loose", got.Why.Code)
	assert.Equal(t, []string{"quilt"}, got.Items)
	quilt.Carry = kit.Worn
	assert.Equal(t, "load.school-nothing", look(true, false, quilt).Why.Code, "it is not in the pack")
}

// A hand that shoves things aside lets go of what the plan only wished for, and leaves in its lane what the packer
// pinned there: eight boxes that fill the body to the last cell go in where none is wished into the middle.
func TestShovingLetsGoOfWishes(t *testing.T) {
	t.Parallel()
	body := rucksack.Zone{ID: "body", Kind: rucksack.Body, SizeCm: [3]float64{20, 20, 20}, VolumeL: 8, Form: "box",
		Openings: []string{"top"}}
	task := &job.Task{Pack: rucksack.Pack{Zones: []rucksack.Zone{body}}, Method: method.Default()}
	for i := range 8 {
		id := fmt.Sprintf("box-%d", i)
		task.Items = append(task.Items, kit.Item{ID: id, Name: id, Count: 1, MassG: 300, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{10, 10, 10}}})
	}
	task.Pins = []job.Pin{{Item: "box-3", Zone: "body", Lane: job.Front}}
	s := newSearch(task, Options{Seed: 1})
	a := assign.New(task, s.loose, s.nested, false)
	for _, c := range a.Choices {
		a.Put(c, 0)
	}
	p := newPacking(a, s.solid, false, s.budget)
	p.plannedOrder()
	pinned := slices.IndexFunc(p.inside, func(c *assign.Choice) bool { return c.ID == "box-3" })
	require.GreaterOrEqual(t, pinned, 0)
	want := p.things[pinned].Wish
	require.NotZero(t, want)
	for i := range p.things {
		if i != pinned {
			p.things[i].Wish = stuff.Wish{Across: 0.5, Deep: 0.5, Firm: firm}
		}
	}
	p.run(1)
	require.NotEmpty(t, p.trial.Out)
	s.budget.left = 0
	p.shove(s.random)
	assert.Empty(t, p.trial.Out)
	assert.Equal(t, want, p.things[pinned].Wish)
}
