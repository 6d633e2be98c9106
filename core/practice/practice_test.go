package practice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/practice"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/internal/sample"
)

var plain = load.Options{Seed: 1}

// planned is a demo kit with its first plan.
func planned(t testing.TB, text []byte) (*job.Task, *verdict.Judged) {
	b, err := bundle.Read(text)
	require.NoError(t, err)
	judged := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true})
	require.True(t, judged.Plan.Fits())
	return &b.Task, judged
}

func stepOf(j *verdict.Judged, item string, piece int) *verdict.Step {
	i := slices.IndexFunc(j.Steps, func(s verdict.Step) bool { return s.Piece.ID == item && s.Piece.Number == piece })
	if i < 0 {
		return nil
	}
	return &j.Steps[i]
}

func hollowL(j *verdict.Judged) (sum float64) {
	for _, h := range j.Plan.Hollows {
		sum += h.Litres
	}
	return sum
}

// Whatever is put wrong is wrong when the whole packing is judged: each fault by what the checks themselves say, all
// still goes in, and nothing else was moved.
func TestEveryFaultIsOne(t *testing.T) {
	t.Parallel()
	kinds := map[string]int{}
	for _, text := range demo.Trips[:min(3, sample.Of(t, 1, 3))] {
		task, plan := planned(t, text)
		from := plan.Plan.Arrangement()
		for seed := range uint64(min(2, sample.Of(t, 1, 2))) {
			for level := practice.Easiest; level <= practice.Hardest; level++ {
				n := practice.Faults(level)
				s := practice.Spoil(task, from, n, level, nil, seed, plain)
				require.NotEmpty(t, s.Faults, "%s, seed %d", task.Pack.Name, seed)
				require.LessOrEqual(t, len(s.Faults), n)
				assert.True(t, s.Bad.Plan.Fits())
				assert.Greater(t, load.Price(task, s.Now, plain).Cost(), load.Price(task, from, plain).Cost())
				moved := map[string]bool{}
				for _, f := range s.Faults {
					kinds[f.Kind]++
					require.False(t, f.What.None(), "%s of %s says nothing", f.Kind, f.Item)
					assert.False(t, moved[f.Item], "%s is moved twice", f.Item)
					moved[f.Item] = true
					assert.True(t, f.Named(f.Moved))
					holds(t, s, &f)
				}
				unmoved := func(a job.Arrangement) job.Arrangement {
					return slices.DeleteFunc(slices.Clone(a), func(sp job.Spot) bool { return moved[sp.Item] })
				}
				assert.Equal(t, unmoved(from), unmoved(s.Now))
				again := practice.Again(task, from, s.Now, s.Moves, plain)
				assert.Equal(t, s.Faults, again.Faults, "the same when it is looked at again")
			}
		}
	}
	if sample.Small() {
		return
	}
	for _, kind := range []string{practice.Deep, practice.Over, practice.Wet, practice.Beside} {
		assert.Positive(t, kinds[kind], "%s never came", kind)
	}
}

// holds says of a fault what the checks show of it.
func holds(t *testing.T, s *practice.Spoiled, f *practice.Fault) {
	is, was := stepOf(s.Bad, f.Item, f.Piece), stepOf(s.Good, f.Item, f.Piece)
	require.NotNil(t, is)
	require.NotNil(t, was)
	switch f.Kind {
	case practice.Deep:
		assert.GreaterOrEqual(t, is.ReachS, was.ReachS+15)
	case practice.Over:
		assert.True(t, slices.ContainsFunc(s.Bad.Steps, func(o verdict.Step) bool {
			over := func(p kit.Piece) bool { return p.ID == f.Item && p.Number == f.Piece }
			before := stepOf(s.Good, o.Piece.ID, o.Piece.Number)
			return slices.ContainsFunc(o.Over, over) && o.ReachS >= before.ReachS+8
		}))
	case practice.Wet:
		dry := func(j *verdict.Judged) bool {
			return slices.ContainsFunc(j.Dry, func(d verdict.Dry) bool { return d.Item == f.Item && d.Dry })
		}
		assert.True(t, dry(s.Good))
		assert.False(t, dry(s.Bad))
	case practice.Beside:
		assert.Greater(t, len(s.Bad.Check("safe").Reasons), len(s.Good.Check("safe").Reasons)-1)
		assert.NotEqual(t, verdict.Settled, s.Bad.Check("safe").State)
		assert.NotEmpty(t, f.With, "what it spoils may be named too")
	case practice.Heavy:
		assert.GreaterOrEqual(t, is.Piece.MassG, 500.0)
		assert.NotEqual(t, s.Good.Balance.CentreCm, s.Bad.Balance.CentreCm)
	case practice.Sides:
		assert.NotEqual(t, verdict.Settled, s.Bad.Check("balance").State)
	case practice.Hollow:
		assert.GreaterOrEqual(t, hollowL(s.Bad), hollowL(s.Good)+0.6)
	default:
		assert.Fail(t, "unknown kind", f.Kind)
	}
}

// What somebody missed comes first, where the kit gives it.
func TestMissedFaultsComeFirst(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	task, plan := planned(t, demo.LoneWalker)
	for _, kind := range []string{practice.Deep, practice.Beside} {
		for seed := range uint64(2) {
			s := practice.Spoil(task, plan.Plan.Arrangement(), 1, practice.Easiest, []string{kind}, seed, plain)
			require.Len(t, s.Faults, 1)
			assert.Equal(t, kind, s.Faults[0].Kind)
		}
	}
}

// On the hardest level a thing lies not as deep as on the easiest.
func TestHarderFaultsAreLess(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	task, plan := planned(t, demo.LoneWalker)
	later := func(level int) (sum float64) {
		for seed := range uint64(3) {
			s := practice.Spoil(task, plan.Plan.Arrangement(), 1, level, []string{practice.Deep}, seed, plain)
			f := s.Faults[0]
			sum += stepOf(s.Bad, f.Item, f.Piece).ReachS - stepOf(s.Good, f.Item, f.Piece).ReachS
		}
		return sum
	}
	assert.Greater(t, later(practice.Easiest), later(practice.Hardest))
}

// A pack with one thing in it gives no faults, and no endless search.
func TestAKitWithoutFaults(t *testing.T) {
	t.Parallel()
	task, plan := planned(t, demo.ChildNight)
	task.Items = task.Items[:1]
	var from job.Arrangement
	for _, spot := range plan.Plan.Arrangement() {
		if spot.Item == task.Items[0].ID {
			from = append(from, spot)
		}
	}
	s := practice.Spoil(task, from, 4, practice.Hardest, nil, 1, plain)
	assert.LessOrEqual(t, len(s.Faults), 1)
}

// The answer of a question is where the plan has the thing; a companion's answer is one of several, once.
func TestQuestionsAskWhatIsThere(t *testing.T) {
	t.Parallel()
	for _, text := range demo.Trips {
		_, plan := planned(t, text)
		list := practice.Asked(plan)
		require.NotEmpty(t, list)
		keys := map[string]bool{}
		for i := range list {
			q := &list[i]
			assert.False(t, keys[q.Key()], q.Key())
			keys[q.Key()] = true
			assert.Equal(t, stepOf(plan, q.Piece.ID, q.Piece.Number).Zone.ID, q.Zone)
			if !q.Told {
				continue
			}
			for seed := range uint64(5) {
				places := practice.Places(q, list, seed)
				right := 0
				for at, place := range places {
					if assert.ObjectsAreEqual(place, q.Place) {
						right++
					}
					for _, other := range places[:at] {
						assert.NotEqual(t, other, place)
					}
				}
				assert.Equal(t, 1, right)
				assert.GreaterOrEqual(t, len(places), 3)
			}
		}
	}
}

func TestDueQuestionsAreDrawnFirst(t *testing.T) {
	t.Parallel()
	_, plan := planned(t, demo.LoneWalker)
	list := practice.Asked(plan)
	due := []string{list[7].Key(), "gone/thing", list[2].Key()}
	drawn := practice.Draw(list, due, 4, 3)
	require.Len(t, drawn, 4)
	assert.Equal(t, []string{list[7].Key(), list[2].Key()}, []string{drawn[0].Key(), drawn[1].Key()})
	assert.Len(t, practice.Draw(list, due, 1, 3), 1)
	assert.Len(t, practice.Draw(list, due, 1000, 3), len(list), "as many as there are, each once")
	assert.NotEqual(t, practice.Draw(list, nil, 5, 1), practice.Draw(list, nil, 5, 2), "another seed asks otherwise")
	assert.Equal(t, practice.Draw(list, nil, 5, 1), practice.Draw(list, nil, 5, 1))
}

// What was missed comes after 1, 3, 7 and 21 days, and once more missed begins anew (the steps are common practice).
func TestRepeating(t *testing.T) {
	t.Parallel()
	step, days := practice.After(2, false)
	assert.Equal(t, []int{0, 1}, []int{step, days})
	var all []int
	for days > 0 {
		all = append(all, days)
		step, days = practice.After(step, true)
	}
	assert.Equal(t, []int{1, 3, 7, 21}, all)
}

func TestPointsAndLevels(t *testing.T) {
	t.Parallel()
	assert.Equal(t, 67, practice.Points(2, 0, 3))
	assert.Equal(t, 33, practice.Points(2, 1, 3), "a wrong word takes one away")
	assert.Equal(t, 0, practice.Points(1, 3, 3))
	assert.Equal(t, 0, practice.Points(0, 0, 0))
	assert.Equal(t, 3, practice.Next(2, 85))
	assert.Equal(t, 2, practice.Next(2, 84))
	assert.Equal(t, 2, practice.Next(2, 50))
	assert.Equal(t, 1, practice.Next(2, 49))
	assert.Equal(t, practice.Easiest, practice.Next(practice.Easiest, 0))
	assert.Equal(t, practice.Hardest, practice.Next(practice.Hardest, 100))
	for level, faults := range map[int]int{1: 2, 2: 3, 3: 4, 4: 4} {
		assert.Equal(t, faults, practice.Faults(level))
	}
	assert.Equal(t, []int{6, 12}, []int{practice.Questions(practice.Easiest), practice.Questions(practice.Hardest)})
}

// A plan packed again has all points; a check that is one state worse takes half of a sixth, and what is left beside
// takes its part of all.
func TestComparing(t *testing.T) {
	t.Parallel()
	task, plan := planned(t, demo.LoneWalker)
	assert.Equal(t, 100, practice.Compare(plan, plan))
	worse := *plan
	worse.Checks = slices.Clone(plan.Checks)
	at := slices.IndexFunc(worse.Checks, func(c verdict.Check) bool { return c.State == verdict.Settled })
	worse.Checks[at].State = verdict.Look
	assert.Equal(t, 92, practice.Compare(plan, &worse), "11 of 12 halves")
	worse.Checks[at].State = verdict.Stop
	assert.Equal(t, 83, practice.Compare(plan, &worse))
	assert.Equal(t, 100, practice.Compare(&worse, plan), "better than the plan is not more than all")
	nothing, _ := practice.Judge(task, nil, plain)
	assert.Zero(t, practice.Compare(plan, nothing))
}
