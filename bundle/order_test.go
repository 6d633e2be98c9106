package bundle_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
)

// An order is a list or an answer; what is wrong in it is named with its place and mend.
func TestReadOrder(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(minimal))
	require.NoError(t, err)
	list := `[{"item": "bag", "zone": "body"}]`
	for _, text := range []string{list, `{"format": "tornister-plan", "load": ` + list + `}`} {
		order, err := bundle.ReadOrder([]byte(text), &b.Task)
		require.NoError(t, err, text)
		assert.Equal(t, job.Arrangement{{Item: "bag", Piece: 1, Zone: "body"}}, order)
	}
	for text, place := range map[string]string{
		`[{"item": "nothing", "zone": "body"}]`:                              "/0/item",
		`{"load": [{"item": "bag", "zone": "attic"}]}`:                       "/load/0/zone",
		`[{"item": "bag", "zone": "body"}, {"item": "bag", "zone": "body"}]`: "/1/item",
		`[{"item": "bag", "piece": 7, "zone": "body"}]`:                      "/0/item",
		`{"items": []}`: "",
		`nothing`:       "",
	} {
		_, err := bundle.ReadOrder([]byte(text), &b.Task)
		var problems bundle.Problems
		require.ErrorAs(t, err, &problems, text)
		assert.Equal(t, place, problems[0].Pointer, text)
		assert.NotEmpty(t, problems[0].Mend)
	}
}
