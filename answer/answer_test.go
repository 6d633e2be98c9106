package answer_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/answer"
	"tornister/bundle"
	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/demo"
)

func read(t testing.TB, old, with string) *bundle.Bundle {
	text := strings.Replace(string(demo.LoneWalker), old, with, 1)
	b, err := bundle.Read([]byte(text))
	require.NoError(t, err)
	return b
}

// planned is a task's answer, with its plan.
func planned(task *job.Task, options load.Options) (*answer.Answer, *load.Plan) {
	judged := verdict.Of(task, options)
	return answer.Of(judged, nil, unit.Metric), judged.Plan
}

func check(t testing.TB, a *answer.Answer, name string) answer.Check {
	for _, c := range a.Checks {
		if c.Check == name {
			return c
		}
	}
	require.Fail(t, name)
	return answer.Check{}
}

func bagOf(t *testing.T, b *bundle.Bundle, id string) dry.Bag {
	for _, bag := range b.Task.Bags {
		if bag.ID == id {
			return bag
		}
	}
	require.Fail(t, id)
	return dry.Bag{}
}

func TestLoneWalker(t *testing.T) {
	t.Parallel()
	b := read(t, "", "")
	a, plan := planned(&b.Task, load.Options{Seed: 1, Sure: true})
	require.NotNil(t, a.Verdict.Confidence)
	assert.True(t, a.Verdict.Fits)
	assert.Len(t, a.Checks, len(verdict.Names))
	mass := b.Task.Pack.MassG + 90 // and the liner
	for _, it := range b.Task.Items {
		if it.Carry == "pack" {
			mass += it.TotalG()
		}
	}
	for _, barrier := range a.Barriers {
		mass += bagOf(t, b, barrier.Bag).MassG
	}
	assert.InDelta(t, mass, a.Balance.MassG, 1, "nothing weighed twice or not at all")
	assert.Equal(t, verdict.Look, check(t, a, "weight").State,
		"26 % of body mass is above the usual quarter (common practice)")
	assert.Equal(t, verdict.Settled, check(t, a, "reach").State)
	assert.Equal(t, "all dry", check(t, a, "dry").Figure)
	in := map[string]string{}
	for _, barrier := range a.Barriers {
		assert.LessOrEqual(t, barrier.Share, 0.85)
		for _, item := range barrier.Items {
			in[item] = barrier.Bag
		}
	}
	assert.Contains(t, in, "first-aid", "it lies outside the liner")
	for _, l := range a.Load {
		if bag := in[l.Item]; bag != "" {
			assert.Equal(t, bag, l.Bag)
		}
	}

	b.Task.Bags = b.Task.Bags[:1] // the liner alone
	bare, _ := planned(&b.Task, load.Options{Seed: 1, Quick: true})
	weak := 0
	for _, d := range bare.Dry {
		if !d.Dry {
			weak++
			for _, l := range bare.Load {
				if l.Item == d.Item {
					assert.False(t, b.Task.Pack.Zone(l.Zone).Solid(), "what is in the liner is dry: %s", d.Item)
				}
			}
		}
	}
	assert.Contains(t, check(t, bare, "dry").Figure, "weak")
	assert.Positive(t, weak)

	cells := answer.CellsOf(plan)
	total := 0
	for _, run := range cells.Runs {
		total += run[1]
	}
	assert.Equal(t, cells.Size[0]*cells.Size[1]*cells.Size[2], total)

}

func TestSafeNamesWhatThereIsOnlyOneOf(t *testing.T) {
	t.Parallel()
	b := read(t, "", "")
	for i := range b.Task.Items {
		if b.Task.Items[i].ID == "spare-light" {
			b.Task.Items[i].Carry = "left"
		}
	}
	a, _ := planned(&b.Task, load.Options{Seed: 1, Quick: true})
	safe := check(t, a, "safe")
	assert.Equal(t, verdict.Look, safe.State)
	assert.Contains(t, safe.Reasons[0].Text, "a second light")
}

func TestSentences(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "It fits, squeezed a third of the way.",
		answer.Sentence(answer.Verdict{Fits: true, State: assign.Squeezed, Squeeze: 0.31}, 0, unit.Metric))
	assert.Equal(t, "It does not fit: 4.2 L too much.", answer.Sentence(answer.Verdict{OverL: 4.2}, 3, unit.Metric))
	assert.Equal(t, "It does not fit: 256 cu in too much.", answer.Sentence(answer.Verdict{OverL: 4.2}, 3, unit.Customary))
	for share, want := range map[float64]string{
		0.95: "It fits, snugly.",
		0.7:  "It probably fits, snugly: it closed in 70 of 100 tries with its litres as they may be.",
		0.12: "It may not fit: it closed in only 12 of 100 tries with its litres as they may be.",
	} {
		v := answer.Verdict{Fits: true, State: assign.Snug, Confidence: &share}
		assert.Equal(t, want, answer.Sentence(v, 0, unit.Metric))
	}
	assert.Equal(t, "It does not fit: 1 thing cannot go in.", answer.Sentence(answer.Verdict{}, 1, unit.Metric))
}

// A reader in customary units is told the same of the same plan, and no figure in a sentence is metric.
func TestTheUnitsChangeWordsOnly(t *testing.T) {
	t.Parallel()
	metric := regexp.MustCompile(`\d (g|kg|L|cm|m|km|°C)\b`)
	for _, grow := range []float64{0, -16} {
		b := read(t, "", "")
		b.Task.Pack = b.Task.Pack.Grown(grow)
		for i := range b.Task.Items {
			b.Task.Items[i].Name = b.Task.Items[i].ID // names keep the figures that are in them
		}
		judged := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true})
		a, other := answer.Of(judged, nil, unit.Metric), answer.Of(judged, nil, unit.Customary)
		said := texts(other)
		assert.NotEqual(t, texts(a), said)
		for _, text := range said {
			assert.NotRegexp(t, metric, text)
		}
		assert.Equal(t, len(texts(a)), len(said))
		a.Checks, a.Load, a.LeftOut = other.Checks, other.Load, other.LeftOut
		a.Broken, a.NotKept = other.Broken, other.NotKept
		assert.Equal(t, a, other)
	}
}

// texts are all sentences of an answer.
func texts(a *answer.Answer) (list []string) {
	for _, l := range a.Load {
		for _, r := range l.Reasons {
			list = append(list, r.Text)
		}
	}
	for _, l := range a.LeftOut {
		list = append(list, l.Why, l.LeastChange)
	}
	for _, n := range a.NotKept {
		list = append(list, n.Why, n.Would)
	}
	for _, c := range a.Checks {
		list = append(list, c.Figure, c.Detail)
		for _, r := range c.Reasons {
			list = append(list, r.Text)
		}
	}
	return list
}
