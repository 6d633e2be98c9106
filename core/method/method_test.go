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
			assert.True(t, m.Set(q.Key, a.Value))
			assert.Equal(t, a.Value, m.Answer(q.Key))
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
