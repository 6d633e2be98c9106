package load_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
)

// said are the codes of all reasons of a plan, or of those of some things, those that stand inside others among them.
func said(plan *load.Plan, ids ...string) map[string]bool {
	codes := map[string]bool{}
	var add func(f fact.Fact)
	add = func(f fact.Fact) {
		codes[f.Code] = true
		for _, v := range f.Values {
			if inner, ok := v.(fact.Fact); ok {
				add(inner)
			}
		}
	}
	for i := range plan.Placed {
		if len(ids) > 0 && !slices.Contains(ids, plan.Placed[i].Piece.ID) {
			continue
		}
		for _, r := range plan.Placed[i].Reasons {
			add(r.Fact)
		}
	}
	return codes
}

// A day that ends at home has no camp, no night and no arrival, and nothing is said to lie where it does for these.
// Where something stays out, nothing lies where it does so that everything goes in.
func TestADayWithoutANight(t *testing.T) {
	t.Parallel()
	camp := []string{"load.turn-camp", "load.turn-arrival", "load.turn-on-arrival", "load.turn-over-some", "load.aim-deep",
		"load.bottom-for-camp"}
	home := []string{"load.turn-unwanted", "load.turn-late"}
	task := walker(t)
	overnight := said(load.Make(task, load.Options{Seed: 1, Quick: true}))
	assert.Subset(t, keys(overnight), camp[:1])
	task.Trip.Days, task.Trip.Nights, task.Trip.Camps = 1, 0, nil
	daily := said(load.Make(task, load.Options{Seed: 1, Quick: true}))
	assert.Subset(t, keys(daily), home)
	for _, code := range camp {
		assert.False(t, daily[code], code)
	}
	for _, code := range home {
		assert.False(t, overnight[code], code)
	}
	outs := 0
	for seed := range 6 {
		small := *task
		small.Items = kitOf(seed, 45)
		plan := load.Make(&small, load.Options{Seed: 1, Quick: true})
		codes := said(plan)
		if plan.Fits() {
			assert.False(t, codes["load.aim-more"], "kit %d", seed)
		} else {
			assert.False(t, codes["load.aim-room"], "kit %d", seed)
			outs++
		}
	}
	assert.Positive(t, outs)
}

func keys(set map[string]bool) (list []string) {
	for key := range set {
		list = append(list, key)
	}
	return list
}

// withoutFoam is the lone walker with nothing on the straps.
func withoutFoam(t *testing.T) *job.Task {
	task := walker(t)
	task.Items = slices.DeleteFunc(slices.Clone(task.Items), func(it kit.Item) bool { return it.Has(kit.Foam) })
	return task
}

// A helmet that finds no place is said to hang where there are straps for it and only the school is against it; and so
// it does when the school lets it.
func TestWhatMightHangIsSaid(t *testing.T) {
	t.Parallel()
	helmet := kit.Item{ID: "helmet", Name: "Helmet", Kind: "helmet", Count: 1, MassG: 320, Carry: kit.Pack,
		Shape:  kit.Shape{Kind: kit.Box, SizeCm: [3]float64{60, 20, 12}},
		Traits: []kit.Trait{kit.Hard, kit.MayHangOutside}, Use: kit.Use{When: kit.Moving, PerDay: 1}}
	make1 := func(change func(it *kit.Item)) (*load.Plan, *load.LeftOut) {
		task := withoutFoam(t)
		it := helmet
		change(&it)
		task.Items = append(task.Items, it)
		task.Method.Outside = "foam"
		plan := load.Make(task, load.Options{Seed: 1, Quick: true})
		for i := range plan.LeftOut {
			if plan.LeftOut[i].Piece.ID == "helmet" {
				return plan, &plan.LeftOut[i]
			}
		}
		return plan, nil
	}
	plan, left := make1(func(*kit.Item) {})
	require.NotNil(t, left, "it is longer than the body")
	require.Equal(t, "load.let-hang", left.LeastChange.Code)
	require.NotEmpty(t, plan.LeftOut)
	for name, change := range map[string]func(it *kit.Item){
		"heavier than any straps": func(it *kit.Item) { it.MassG = 9000 },
		"must not hang":           func(it *kit.Item) { it.Traits = []kit.Trait{kit.Hard} },
		"too wide for any straps": func(it *kit.Item) { it.Shape.SizeCm = [3]float64{60, 50, 40} },
	} {
		_, left := make1(change)
		require.NotNil(t, left, name)
		assert.NotEqual(t, "load.let-hang", left.LeastChange.Code, name)
	}
	task := withoutFoam(t)
	task.Items = append(task.Items, helmet)
	task.Method.Outside = "light"
	assert.Equal(t, left.LeastChange.Values[0], fact.Small(placed(t, load.Make(task, load.Options{Seed: 1, Quick: true}),
		"helmet").Zone.Name))
}

// Of a thing whose name tells nothing it is not claimed that only camp needs it; of one whose use was given it is.
func TestWhatNobodySaidOfAThing(t *testing.T) {
	t.Parallel()
	text := `{"format":"tornister","version":1,"pack":{"id":"p","zones":[{"id":"body","kind":"body","size_cm":[30,20,50]}]},
		"items":[{"id":"a","name":"Whatsit"%s},{"id":"b","name":"Dinner"},{"id":"c","name":"Sleeping bag"}]}`
	for use, want := range map[string]string{
		"": "load.turn-unsaid", `,"use":{"when":"camp","per_day":1}`: "load.turn-camp", `,"kind":"pot"`: "load.turn-camp",
	} {
		b, err := bundle.Read(fmt.Appendf(nil, text, use))
		require.NoError(t, err)
		plan := load.Make(&b.Task, load.Options{Seed: 1, Quick: true})
		assert.Contains(t, said(plan, "a"), want, use)
	}
}
