package bundle

import (
	"encoding/json"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever pattern of the schema a text breaks, it is said what the text is not and how to write it, and what is
// given as an example of it would be taken.
func TestEveryPatternHasItsWords(t *testing.T) {
	t.Parallel()
	var schema any
	require.NoError(t, json.Unmarshal(Schema, &schema))
	patterns := map[string]bool{}
	var walk func(any)
	walk = func(v any) {
		switch v := v.(type) {
		case map[string]any:
			if text, is := v["pattern"].(string); is {
				patterns[text] = true
			}
			for _, inner := range v {
				walk(inner)
			}
		case []any:
			for _, inner := range v {
				walk(inner)
			}
		}
	}
	walk(schema)
	require.Greater(t, len(patterns), 4)
	example := regexp.MustCompile(`such as (\S+?),? ?(or .*)?$`)
	for pattern := range patterns {
		why, mend := wrongText("x\ty", pattern)
		assert.NotContains(t, why, "not written as it should be", pattern)
		if found := example.FindStringSubmatch(mend); found != nil {
			assert.Regexp(t, pattern, found[1])
		}
	}
	_, err := Read([]byte(`{"format":"tornister","version":1,"items":[],"trip":{"start":"2026-10-09"},"pack":{"id":"p","name":"P","zones":[]}}`))
	assert.ErrorContains(t, err, `"2026-10-09" is no date with a time of day`)
	assert.ErrorContains(t, err, "YYYY-MM-DDThh:mm")
}
