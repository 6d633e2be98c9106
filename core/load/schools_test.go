package load_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/internal/sample"
)

// kept reports whether an answer is kept in a plan.
type kept func(task *job.Task, plan *load.Plan) bool

// allOf reports whether something holds of every thing of a kind in a plan, and that there is one.
func allOf(plan *load.Plan, kind string, holds func(p *load.Placement) bool) bool {
	good := true
	return each(plan, kind, func(p *load.Placement) { good = good && holds(p) }) > 0 && good
}

func in(zones ...rucksack.ZoneKind) func(p *load.Placement) bool {
	return func(p *load.Placement) bool { return slices.Contains(zones, p.Zone.Kind) }
}

// matOn reports whether every foam mat is on the straps of a face.
func matOn(face string) kept {
	return func(_ *job.Task, plan *load.Plan) bool {
		return !slices.ContainsFunc(plan.Placed, func(p load.Placement) bool {
			return p.Piece.Has(kit.Foam) && (p.Zone.Kind != rucksack.Straps || p.Zone.Face != face)
		})
	}
}

// under reports whether at most so many things of other groups lie over one in body or bottom.
func under(most int) func(p *load.Placement) bool {
	return func(p *load.Placement) bool {
		return !p.Zone.Solid() && p.Zone.OnePull() || p.Zone.Solid() &&
			len(slices.DeleteFunc(slices.Clone(p.Over), func(o kit.Piece) bool { return o.Group == p.Piece.Group })) <= most
	}
}

// below reports whether nothing lies wholly under the things of a kind but things of its group.
func below(kind string) kept {
	return func(_ *job.Task, plan *load.Plan) bool {
		return allOf(plan, kind, func(p *load.Placement) bool {
			return p.Zone.Kind == rucksack.Bottom || p.Zone.Solid() &&
				!slices.ContainsFunc(plan.Placed, func(o load.Placement) bool {
					return o.Zone.Solid() && o.Box != nil && o.Piece.Group != p.Piece.Group && o.MiddleCm[2] < p.MiddleCm[2]-3 &&
						o.Box.Max[2] <= p.Box.Min[2]+1
				})
		})
	}
}

func every(kind string, holds func(p *load.Placement) bool) kept {
	return func(_ *job.Task, plan *load.Plan) bool { return allOf(plan, kind, holds) }
}

// heavyWithin reports whether most of what is heavy and dense lies in a band of the way from hip belt to shoulder, or a
// hand's width beside it.
func heavyWithin(low, high float64) kept {
	return func(task *job.Task, plan *load.Plan) bool {
		in, sum := 0.0, 0.0
		for _, p := range plan.Placed {
			if p.Zone.Solid() && p.Inside == "" && p.Piece.MassG >= 500 && p.Piece.MassG >= 250*p.Piece.Shape.Litres(0.5) {
				sum += p.Piece.MassG
				if z := p.MiddleCm[2]; z >= low*task.Pack.ShoulderCm()-8 && z <= high*task.Pack.ShoulderCm()+8 {
					in += p.Piece.MassG
				}
			}
		}
		return sum > 0 && in >= sum/2
	}
}

// schools are the answers to every question of packing, with what is seen of them in a plan (common practice).
var schools = []struct {
	key, answer string
	kinds       []string
	kept        kept // nil where no such kit can
}{
	{"water", "sleeve", with(camp, "water-bag"), every("water-bag", in(rucksack.Sleeve))},
	{"water", "top", with(camp, "water-bag"),
		every("water-bag", func(p *load.Placement) bool { return p.Zone.Kind == rucksack.Body && p.LiftedOut <= 1 })},
	{"water", "bottles", with(camp, "bottle:2"), every("bottle", in(rucksack.Side, rucksack.Shoulder))},
	{"lowest", "sleeping-bag", camp, below("down-sleeping-bag")},
	{"lowest", "shelter", camp, below("tent-inner")},
	{"lowest", "rain-suit", with(camp, "rain-trousers"), nil},
	{"lowest", "spare-clothes", with(camp, "spare-clothes"), below("spare-clothes")},
	{"sleeping_bag", "loose", camp,
		every("down-sleeping-bag", func(p *load.Placement) bool { return p.Piece.Shape.Kind == kit.Soft })},
	{"sleeping_bag", "sack", camp, every("down-sleeping-bag", func(p *load.Placement) bool {
		sides := [3]float64{}
		for axis := range sides {
			sides[axis] = p.Box.Max[axis] - p.Box.Min[axis]
		}
		slices.Sort(sides[:])
		return p.VolumeL < 6.7 && sides[1]/sides[0] <= 1.5 // of 6 to 11 L, and a lump
	})},
	{"shelter", "deep", camp, every("tent-inner", in(rucksack.Body, rucksack.Bottom))},
	{"shelter", "top", camp, every("tent-inner", under(2))},
	{"spine", "heavy", with(camp, "food-day:3"), every("food-day", func(p *load.Placement) bool { return true })},
	{"spine", "soft", with(camp, "food-day:3"), every("food-day", func(p *load.Placement) bool { return p.AtSpine == 0 })},
	{"heavy", "close", with(camp, "food-day:3"), heavyWithin(0.45, 0.65)},
	{"heavy", "low", with(camp, "food-day:3"), heavyWithin(0.25, 0.45)},
	{"heavy", "high", with(camp, "food-day:3"), heavyWithin(0.60, 0.80)},
	{"mat", "upright", with(camp, "foam-mat"), matOn("front")},
	{"mat", "top", with(camp, "foam-mat"), matOn("top")},
	{"mat", "bottom", with(camp, "foam-mat"), matOn("bottom")},
	{"outside", "nothing", with(camp, "foam-mat"),
		every("foam-mat", func(p *load.Placement) bool { return p.Zone.Kind != rucksack.Straps })},
	{"outside", "foam", with(camp, "foam-mat"), every("foam-mat", in(rucksack.Straps))},
	{"outside", "light", with(camp, "foam-mat"), every("foam-mat", in(rucksack.Straps))},
}

// Every answer to every question of packing is kept in a pack where it can be, and where it is not, the plan says so;
// what says that it is kept is counted here from the plan.
func TestSchoolsAreKeptOrSaid(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	tried := map[string]bool{}
	for _, s := range schools {
		tried[s.key+"."+s.answer] = true
		kept := 0
		packs := touring
		if s.key == "mat" {
			packs = slices.Concat(touring, []string{"child-18"}) // the only one with straps on top
		}
		for _, pack := range packs {
			kinds := s.kinds
			if pack == "child-18" {
				kinds = []string{"foam-mat"}
			}
			task := packed(t, pack, kinds)
			require.True(t, task.Method.Set(s.key, s.answer))
			task.Method.Outside = map[bool]string{true: s.answer, false: "foam"}[s.key == "outside"]
			plan := load.Make(task, load.Options{Seed: 1, Effort: little,
				Quick: slices.Contains([]string{"mat", "outside", "sleeping_bag"}, s.key)})
			at := slices.IndexFunc(plan.NotKept(), func(n load.NotKept) bool { return n.Question == s.key })
			switch {
			case at >= 0:
				n := plan.NotKept()[at]
				assert.Equal(t, s.answer, n.Answer)
				assert.False(t, n.Why.None(), "%s %s in %s: a reason", s.key, s.answer, pack)
			case s.kept != nil:
				assert.True(t, s.kept(task, plan), "%s %s in %s is kept, or said", s.key, s.answer, pack)
				kept++
			default:
				assert.Fail(t, "not said", "%s %s in %s", s.key, s.answer, pack)
			}
		}
		assert.Equal(t, s.kept != nil, kept > 0, "%s %s is kept in one of three packs", s.key, s.answer)
	}
	for _, q := range method.Questions {
		for _, answer := range q.Answers {
			assert.True(t, tried[q.Key+"."+answer] || q.Key == "dry" || q.Key == "food", "%s %s is tried", q.Key, answer)
		}
	}
}

// What cannot be kept is said with what would keep it; what changes nothing is said to; a compression sack that keeps
// things out is not used, and that is said.
func TestSchoolsThatCannotBeKept(t *testing.T) {
	t.Parallel()
	said := func(pack string, key, answer string, kinds []string, change func(*job.Task)) load.NotKept {
		task := packed(t, pack, kinds)
		require.True(t, task.Method.Set(key, answer))
		if change != nil {
			change(task)
		}
		plan := load.Make(task, load.Options{Seed: 1, Quick: true})
		for _, n := range plan.NotKept() {
			if n.Question == key {
				return n
			}
		}
		return load.NotKept{}
	}
	noSleeve := func(task *job.Task) {
		task.Pack.Zones = slices.DeleteFunc(slices.Clone(task.Pack.Zones),
			func(z rucksack.Zone) bool { return z.Kind == rucksack.Sleeve })
	}
	n := said("upland-52", "water", "sleeve", with(camp, "water-bag"), noSleeve)
	assert.Equal(t, "load.school-lies", n.Why.Code)
	assert.Equal(t, "load.school-pack", n.Would.Code)
	assert.Equal(t, "load.school-nothing", said("upland-52", "mat", "top", camp, nil).Why.Code)
	assert.Equal(t, "load.school-no-vessel", said("upland-52", "water", "bottles", with(camp, "water-bag"), nil).Why.Code)
	pinned := said("upland-52", "shelter", "deep", []string{"tent-inner"}, func(task *job.Task) {
		task.Items[0].Shape.LooseL, task.Items[0].Shape.TightL = 2, 1.5
		task.Pins = []job.Pin{{Item: task.Items[0].ID, Zone: "lid"}}
	})
	assert.Equal(t, "load.school-unpin", pinned.Would.Code)

	narrow := boxTask(14, 14, 46,
		[]kit.Item{{ID: "bag", Name: "Bag", Group: "sleep", Functions: []string{"warmth"}, Count: 1, MassG: 900,
			Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 10, TightL: 7, GapCm: 3}}})
	narrow.Method.SleepingBag = "sack"
	plan := load.Make(narrow, load.Options{Seed: 1, Quick: true})
	assert.True(t, plan.Fits(), "no school keeps something at home")
	at := slices.IndexFunc(plan.NotKept(), func(n load.NotKept) bool { return n.Question == "sleeping_bag" })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, "load.school-only-loose", plan.NotKept()[at].Why.Code)
	assert.Equal(t, "sack", plan.NotKept()[at].Answer, "what was asked for")
}

// A full water bag in the sleeve is the heaviest thing there is, and nothing comes between it and the back panel.
func TestWaterInTheSleeveLiesAtTheSpine(t *testing.T) {
	t.Parallel()
	task := packed(t, "upland-52", []string{"water-bag", "fleece", "rope"})
	task.Pins = []job.Pin{{Item: task.Items[2].ID, Zone: "body", Lane: job.Front}}
	plan := load.Make(task, load.Options{Seed: 1, Quick: true})
	require.True(t, slices.ContainsFunc(plan.Placed, func(p load.Placement) bool {
		return p.Piece.Kind == "water-bag" && p.Zone.Kind == rucksack.Sleeve
	}))
	for _, n := range plan.NotKept() {
		assert.NotEqual(t, "spine", n.Question)
	}
}
