package sheet

import (
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/kit"
)

// Every field that the format has for an item has a column, so that nothing is lost on the way through a spreadsheet.
// Dimensions are one list there and columns here; what belongs to a trip or to the program itself stays behind.
func TestEveryFieldHasAColumn(t *testing.T) {
	t.Parallel()
	text, err := os.ReadFile("../schema.json")
	require.NoError(t, err)
	var schema struct {
		Defs map[string]object `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(text, &schema))
	byHand := []string{"name", "kind", "group", "count", "mass_g", "carry", "shape/kind", "shape/size_cm", "shape/length_cm"}
	stays := []string{"mass_guess", "party_part"}
	seen := 0
	for path := range schema.Defs["item"].leaves(schema.Defs, "") {
		seen++
		if slices.Contains(byHand, path) || slices.Contains(stays, path) {
			continue
		}
		one := slices.ContainsFunc(Fields, func(f Field) bool {
			return f.path == path && f.read != nil && f.write != nil || f.size != nil && measures(f, strings.TrimPrefix(path, "shape/"))
		})
		assert.True(t, one, "%s has no column", path)
	}
	assert.Greater(t, seen, 40)
}

// measures reports whether a column is a measure of the shape by its name in the format.
func measures(f Field, key string) bool {
	var s kit.Shape
	*f.size(&s) = 7
	text, err := json.Marshal(s)
	return err == nil && strings.Contains(string(text), `"`+key+`":7`)
}

type object struct {
	Ref        string            `json:"$ref"`
	Properties map[string]object `json:"properties"`
}

// leaves are the paths of what has no parts.
func (o object) leaves(defs map[string]object, at string) map[string]bool {
	if _, name, ref := strings.Cut(o.Ref, "#/$defs/"); ref {
		o = defs[name]
	}
	if len(o.Properties) == 0 {
		return map[string]bool{at: true}
	}
	all := map[string]bool{}
	for key, part := range o.Properties {
		for path := range part.leaves(defs, strings.TrimPrefix(at+"/"+key, "/")) {
			all[path] = true
		}
	}
	return all
}
