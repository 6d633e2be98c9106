package method

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestEveryAnswerCanBeSet(t *testing.T) {
	t.Parallel()
	for _, q := range Questions {
		for _, a := range q.Answers {
			m := Default()
			assert.True(t, m.Set(q.Key, a))
			assert.Equal(t, a, m.Answer(q.Key))
		}
		m := Default()
		assert.False(t, m.Set(q.Key, "sideways"))
		assert.Equal(t, Default(), m)
	}
}

func TestPresetsAnswerEveryQuestion(t *testing.T) {
	t.Parallel()
	for _, p := range Presets {
		for _, q := range Questions {
			m := Default()
			assert.True(t, m.Set(q.Key, p.Method.Answer(q.Key)), "%s: %s", p.ID, q.Key)
		}
	}
	ski, _ := PresetOf("ski-tour")
	frame, _ := PresetOf("external")
	_, skiTop := ski.Method.Band()
	frameFoot, _ := frame.Method.Band()
	assert.Less(t, skiTop, frameFoot, "low on skis, high on an external frame (common practice)")
}

// The load bands of the three schools (common practice), as shares of the way from hip belt to shoulder.
func TestBands(t *testing.T) {
	t.Parallel()
	for heavy, want := range map[string][2]float64{"close": {0.45, 0.65}, "low": {0.25, 0.45}, "high": {0.60, 0.80}} {
		low, high := Method{Heavy: heavy}.Band()
		assert.Equal(t, want, [2]float64{low, high}, heavy)
	}
}
