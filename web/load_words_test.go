package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/load"
)

// The line under the verdict says what was proved, and how much of it the trial packing changed: two bars go in by
// their litres and do not lie beside each other.
func TestWhatIsProvedIsSaid(t *testing.T) {
	t.Parallel()
	provedOf := func(items string) string {
		b, err := bundle.Read([]byte(`{"format":"tornister","version":1,"pack":{"id":"p","name":"Box","zones":[{"id":"body",
			"kind":"body","form":"box","size_cm":[20,20,40],"openings":["top"]}]},"items":[` + items + `]}`))
		require.NoError(t, err)
		return provedWords(load.Make(&b.Task, load.Options{Seed: 1, Quick: true}))
	}
	bar := func(id string) string {
		return `{"id":"` + id + `","name":"Bar","mass_g":100,"shape":{"kind":"box","size_cm":[38,13,13]}}`
	}
	assert.Equal(t, "Which zone takes what: proved, there is nothing better.", provedOf(bar("one")))
	assert.Equal(t, "Which zone takes what: proved, there is nothing better. "+
		"This plan differs from that in 1 thing: the trial packing has the last word.", provedOf(bar("one")+","+bar("two")))
}
