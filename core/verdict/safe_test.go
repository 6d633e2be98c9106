package verdict_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/trail"
	"tornister/core/verdict"
	"tornister/demo"
)

func read(t testing.TB) *bundle.Bundle {
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	return b
}

func degrees(c float64) *float64 { return &c }

// A liner that is rolled shut keeps off the water that lies over it (common practice), and four litres of water that no
// pocket takes break no rule, however often they are wanted.
func TestWaterOverTheRolledLiner(t *testing.T) {
	t.Parallel()
	text := `{"format":"tornister","version":1,"method":{"dry":"%s"},
		"pack":{"id":"p","zones":[{"id":"body","kind":"body","size_cm":[30,20,50],"openings":["top"]}]},
		"items":[{"id":"quilt","name":"Quilt","shape":{"kind":"soft","loose_l":9,"tight_l":6}},
			{"id":"water","name":"Water bag 4 L","mass_g":4080,"shape":{"kind":"soft","loose_l":4.2,"tight_l":4.1}}],
		"bags":[{"id":"liner","kind":"liner","volume_l":60}],
		"pins":[{"item":"quilt","zone":"body","place":1},{"item":"water","zone":"body","place":2}]}`
	for school, told := range map[string]bool{"liner": false, "two-questions": true} {
		b, err := bundle.Read(fmt.Appendf(nil, text, school))
		require.NoError(t, err)
		judged := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true})
		require.True(t, judged.Plan.Fits())
		assert.Empty(t, judged.Plan.Broken)
		assert.Equal(t, told, strings.Contains(fmt.Sprint(judged.Checks), "safe.leaks-over"), school)
	}
}

// Each rule of the Safe check by its name, its source beside it.
func TestRulesOfSafety(t *testing.T) {
	t.Parallel()
	item := func(task *job.Task, id string) *kit.Item {
		for i := range task.Items {
			if task.Items[i].ID == id {
				return &task.Items[i]
			}
		}
		require.Fail(t, id)
		return nil
	}
	for name, c := range map[string]struct {
		change func(*job.Task)
		state  verdict.CheckState
		says   string
	}{
		"out of date (common practice)": {func(task *job.Task) { item(task, "first-aid").Expires = "2026-09-12" },
			verdict.Stop, "2026-09-12"},
		"in date": {func(task *job.Task) { item(task, "first-aid").Expires = "2026-09-13" },
			verdict.Settled, "safe.nothing"},
		"below the limit is a stop (EN ISO 23537-1)": {func(task *job.Task) {
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").
				LimitC, task.Trip.NightLowC = degrees(2), degrees(-4), -9
		}, verdict.Stop, "safe.below-limit"},
		"between comfort and limit is a look; a liner is worth 4 degrees (common practice)": {func(task *job.Task) {
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").
				LimitC, task.Trip.NightLowC = degrees(2), degrees(-4), -3
		}, verdict.Look, "safe.below-comfort [-3 Down sleeping bag -2"},
		"without a limit it lies six degrees below (from memory), here at -8": {func(task *job.Task) {
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").LimitC = degrees(2), nil
			task.Trip.NightLowC = -8.5
		}, verdict.Stop, "safe.below-limit [-8.5 Down sleeping bag -8"},
		"and at it a coat helps": {func(task *job.Task) {
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").LimitC = degrees(2), nil
			task.Trip.NightLowC = -8
		}, verdict.Look, "safe.below-comfort [-8 "},
		"comfort 2 becomes -2 with a liner (common practice)": {func(task *job.Task) {
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").
				LimitC, task.Trip.NightLowC = degrees(2), degrees(-4), -2
			item(task, "air-mat").RValue = 5
		}, verdict.Settled, "safe.nothing"},
		"mats add up: R 2 and R 3 make R 5 (ASTM F3340)": {func(task *job.Task) {
			item(task, "air-mat").RValue, item(task, "foam-mat").RValue, task.Trip.NightLowC = 3, 2, -12
			item(task, "sleeping-bag").ComfortC, item(task, "sleeping-bag").LimitC = degrees(-15), degrees(-22)
		}, verdict.Look, "safe.thin-mats [5 "},
		"animals at night": {func(task *job.Task) { task.Trip.Camps = []trail.Camp{{Place: "Dry Cave", Animals: true}} },
			verdict.Look, "safe.animals"},
		"a locker will do": {func(task *job.Task) { task.Trip.Camps = []trail.Camp{{Animals: true, FoodLocker: true}} },
			verdict.Settled, "safe.nothing"},
		"a scent-tight bag that is too small": {func(task *job.Task) {
			task.Trip.Camps = []trail.Camp{{Animals: true}}
			task.Bags = append(task.Bags, dry.Bag{ID: "scent", Kind: "scent-bag", VolumeL: 8})
		}, verdict.Look, "safe.scent-full"},
		"one that holds all of it will do": {func(task *job.Task) {
			task.Trip.Camps = []trail.Camp{{Animals: true}}
			task.Bags = append(task.Bags, dry.Bag{ID: "scent", Kind: "scent-bag", VolumeL: 16})
		}, verdict.Settled, "safe.nothing"},
		"water below need": {func(task *job.Task) { item(task, "bottle").Carry = kit.Left }, verdict.Look, "safe.water"},
		"hardly any water": {func(task *job.Task) {
			item(task, "bottle").Carry = kit.Left
			item(task, "water-bag").
				Carry = kit.Left
		}, verdict.Stop, "safe.water [0 "},
		"a stove without a fire": {func(task *job.Task) {
			item(task, "lighter").Carry, item(task, "matches").Carry = kit.Left, kit.Left
		}, verdict.Look, "safe.needs [Gas stove"},
		"a transceiver is worn": {func(task *job.Task) {
			k, _ := kit.KindOf("transceiver")
			task.Items = append(task.Items, kit.Item{ID: "transceiver", Name: k.Name, Kind: k.ID, Count: 1, MassG: k.MassG,
				Shape: k.Shape, Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits})
		}, verdict.Stop, "safe.transceiver"},
	} {
		b := read(t)
		b.Task.Trip.Camps = nil
		item(&b.Task, "repair").Traits = nil // the knife is sheathed, and no stove lies by food: only the rule at hand speaks
		item(&b.Task, "spare-meal").Carry = kit.Left
		c.change(&b.Task)
		safe := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true}).Check("safe")
		assert.Equal(t, c.state, safe.State, "%s: %v", name, safe.Reasons)
		found := false
		for _, r := range safe.Reasons {
			found = found || strings.Contains(fmt.Sprint(r.Fact), c.says)
		}
		assert.True(t, found, "%s: %v", name, safe.Reasons)
		if want := "safe.findings"; safe.State != verdict.Settled {
			if len(safe.Reasons) == 1 {
				want = "safe.finding"
			}
			assert.Equal(t, want, safe.Figure.Code, name)
		}
	}
}

// A child of 50 lb carries at most 12.5 lb (common practice); school bags 10 to 20 % (American Academy of Pediatrics,
// from memory): both are said.
func TestWhatAChildMayCarry(t *testing.T) {
	t.Parallel()
	for kg, want := range map[float64]verdict.CheckState{120: verdict.Settled, 80: verdict.Look, 60: verdict.Stop} {
		b := read(t)
		b.Task.Trip.Carrier = trail.Carrier{MassKg: kg, HeightCm: 150, Age: 12}
		judged := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true})
		weight := judged.Check("weight")
		assert.Equal(t, want, weight.State, "%v kg: %v", kg, judged.Balance.BodyShare)
		assert.Equal(t, "weight.child", weight.Reasons[0].Code)
	}
}
