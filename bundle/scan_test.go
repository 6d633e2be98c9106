package bundle_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
)

// Each of these stopped or slowed the program, or was taken in silence.
func TestHostileTextsAreRefusedEarly(t *testing.T) {
	t.Parallel()
	long := func(n int, entry string) string { return strings.TrimSuffix(strings.Repeat(entry+",", n), ",") }
	for name, c := range map[string]struct{ text, pointer, word string }{
		"endless power":    {broken("900", "1e999999999"), "/items/0/mass_g", "beyond what a number can be"},
		"million digits":   {broken("900", strings.Repeat("9", 1_000_000)), "/items/0/mass_g", "1000000 characters"},
		"next to nothing":  {broken("900", "1e-320"), "/items/0/mass_g", "next to nothing"},
		"digits behind":    {broken("900", "0."+strings.Repeat("3", 40)), "/items/0/mass_g", "42 characters"},
		"in a spare field": {broken(`"id":"pot"`, `"id":"pot","x":[{"y":1e999999999}]`), "/items/1/x/0/y", "beyond"},
		"numbers as zones": {broken(`"zones":[`, `"zones":[`+long(1_000_000, "1")+","), "/pack/zones", "1000001 entries"},
		"many fields":      {broken(`"id":"pot"`, `"id":"pot",`+manyFields(3000)), "/items/1", "entries"},
		"many values": {broken(`"id":"pot"`, `"id":"pot","x":[`+long(1500, "["+long(400, "1")+"]")+"]"), "/items/1/x",
			"too many values"},
		"too deep": {broken(`"id":"pot"`, `"id":"pot","x":`+strings.Repeat(`{"a":`, 40)+"1"+strings.Repeat("}",
			40)), "/items/1/x", "deep"},
		"a key twice":      {broken(`"mass_g":200`, `"mass_g":200,"mass_g":2000`), "/items/1/mass_g", "second time"},
		"right to left":    {broken(`"Pot"`, `"P\u202eot"`), "/items/1/name", "U+202E"},
		"deleted":          {broken(`"Pot"`, "\"P\x7fot\""), "/items/1/name", "U+007F"},
		"a C1 control":     {broken(`"Pot"`, `"P\u0085ot"`), "/items/1/name", "U+0085"},
		"in a key":         {broken(`"id":"pot"`, `"id":"pot","a\u2066b":1`), "/items/1", "U+2066"},
		"no UTF-8":         {broken(`"Pot"`, "\"P\xffot\""), "/items/1/name", "UTF-8"},
		"half a surrogate": {broken(`"Pot"`, `"P\ud800ot"`), "/items/1/name", "UTF-8"},
	} {
		start := time.Now()
		_, err := bundle.Read([]byte(c.text))
		var problems bundle.Problems
		require.ErrorAs(t, err, &problems, name)
		assert.True(t, strings.HasPrefix(problems[0].Pointer, c.pointer), "%s: %s", name, problems[0].Pointer)
		assert.Contains(t, problems.Error(), c.word, name)
		assert.NotEmpty(t, problems[0].Mend, name)
		assert.Less(t, time.Since(start), 2*time.Second, name)
	}
	_, err := bundle.Read([]byte("\xef\xbb\xbf" + minimal))
	assert.NoError(t, err, "a byte order mark may stand before")
}

func manyFields(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, `"f%d":1,`, i)
	}
	return strings.TrimSuffix(b.String(), ",")
}

func TestPlainTextHidesNothing(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "Ölflasche, Überhandschuhe 🎒", bundle.Plain("Ölflasche, Überhandschuhe 🎒"))
	assert.Equal(t, "a�b�c�", bundle.Plain("a\x1bb\u202ec\xff"))
}
