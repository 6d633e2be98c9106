package load

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// A folded mat as wide as the body stands where that has its full width, from the middle up, on something soft, and not
// at its foot: it is not said of it that no height helps. A centimetre more is too wide at any height.
func TestWhatStandsHighUpIsTakenAlone(t *testing.T) {
	t.Parallel()
	body := rucksack.Zone{ID: "body", Kind: rucksack.Body, SizeCm: [3]float64{28, 17, 60}, VolumeL: 28, Form: "rounded",
		Openings: []string{"top"}}
	pack := rucksack.Pack{Zones: []rucksack.Zone{body}}
	for wide, want := range map[float64]bool{20: true, 28: true, 29: false} {
		mat := kit.Item{ID: "mat", Name: "Mat", Count: 1, MassG: 280, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{wide, 12, 30}}}
		task := &job.Task{Pack: pack, Items: []kit.Item{mat}, Method: method.Default()}
		s := newSearch(task, Options{Seed: 1})
		a := assign.New(task, s.loose, s.nested, false)
		a.Put(a.Choices[0], 0)
		p := newPacking(a, s.solid, false, s.budget)
		assert.Equal(t, want, p.takesAlone(p.things[0]), "%v cm", wide)
		assert.Equal(t, wide == 20, p.space.NewTrial(1).Fits(p.things, []int{0}, 1), "%v cm at the foot", wide)
	}
	stopped := newSearch(&job.Task{Pack: pack}, Options{Stop: func() bool { return true }})
	p := newPacking(assign.New(stopped.task, nil, nil, false), stopped.solid, false, stopped.budget)
	huge := kit.Shape{Kind: kit.Box, SizeCm: [3]float64{99, 99, 99}}
	assert.True(t, p.takesAlone(p.space.ThingOf(huge, stuff.Body, stuff.Wish{})), "when the clock ends the search it is not known")
}
