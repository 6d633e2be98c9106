package campaign

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"

	"tornister/bundle"
	"tornister/demo"
)

// hostileNumbers and hostileTexts are put in the place of others.
var (
	hostileNumbers = []string{
		"0",
		"-1",
		"1e-9",
		"3",
		"0.5",
		"300",
		"1e308",
		"1e-320",
		"1e999999999",
		"-0",
		"0.1",
		"999999",
		strings.Repeat("7", 40),
		"2.9999999999",
		"1e5",
	}
	hostileTexts = []string{
		"",
		"Ölflasche",
		"P\u202eot",
		"a\u0000b",
		"<script>alert(1)</script>",
		"'; DROP TABLE trips; --",
		"=1+1",
		strings.Repeat("x", 201),
		strings.Repeat("ä", 199),
		"../../etc",
		"🎒",
		"\u0085",
		"body",
		"none",
		" ",
	}
)

// Mutants makes changed bundles out of the demo ones.
type Mutants struct {
	seeds  []map[string]any
	values map[string][]any // what stands under each field name anywhere in the seeds
}

// NewMutants reads the demo bundles.
func NewMutants() (*Mutants, error) {
	m := &Mutants{values: map[string][]any{}}
	for _, text := range demo.Trips {
		tree, err := parse(text)
		if err != nil {
			return nil, err
		}
		m.seeds = append(m.seeds, tree)
		m.collect(tree)
	}
	return m, nil
}

func parse(text []byte) (tree map[string]any, err error) {
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	return tree, decoder.Decode(&tree)
}

func (m *Mutants) collect(tree any) {
	switch t := tree.(type) {
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(t)) {
			m.values[key] = append(m.values[key], t[key])
			m.collect(t[key])
		}
	case []any:
		for _, v := range t {
			m.collect(v)
		}
	}
}

// Make is the mutant of a number: a part of a demo kit with a few changes. The same number gives the same mutant.
func (m *Mutants) Make(seed, number uint64) []byte {
	r := rand.New(rand.NewPCG(seed, number))
	text, _ := json.Marshal(m.seeds[r.IntN(len(m.seeds))])
	tree, _ := parse(text)
	items := tree["items"].([]any)
	r.Shuffle(len(items), func(i, j int) { items[i], items[j] = items[j], items[i] })
	tree["items"] = items[:min(len(items), 2+r.IntN(16))]
	for range r.IntN(7) {
		m.change(r, tree)
	}
	text, _ = json.Marshal(tree)
	text = bytes.ReplaceAll(text, []byte(`"#number `), nil) // numbers that no encoder would write
	text = bytes.ReplaceAll(text, []byte(` number#"`), nil)
	if r.IntN(25) == 0 && len(text) > 2 {
		at := r.IntN(len(text))
		switch r.IntN(3) {
		case 0:
			text[at] = byte(r.IntN(256))
		case 1:
			text = text[:at]
		default:
			text = append(text[:at:at], append([]byte{byte(r.IntN(256))}, text[at:]...)...)
		}
	}
	return text
}

// change changes one place of a tree, chosen by going down at random.
func (m *Mutants) change(r *rand.Rand, tree map[string]any) {
	object := tree
	for {
		keys := slices.Sorted(maps.Keys(object))
		if len(keys) == 0 {
			return
		}
		key := keys[r.IntN(len(keys))]
		next := object[key]
		if list, ok := next.([]any); ok && len(list) > 0 && r.IntN(5) > 0 {
			if inner, ok := list[r.IntN(len(list))].(map[string]any); ok {
				object = inner
				continue
			}
		}
		if inner, ok := next.(map[string]any); ok && r.IntN(5) > 0 {
			object = inner
			continue
		}
		object[key] = m.other(r, object, key)
		return
	}
}

// other is something in the place of what stands under a key: most often something like it.
func (m *Mutants) other(r *rand.Rand, object map[string]any, key string) any {
	now := object[key]
	switch n := r.IntN(20); {
	case n == 0:
		delete(object, keyBeside(r, object))
		return now
	case n == 1:
		object[fmt.Sprintf("extra-%d", r.IntN(9))] = now
		return now
	case n == 2:
		return []any{nil, true, "text", json.Number("1"), []any{}, map[string]any{}, []any{now, now}}[r.IntN(7)]
	case n < 8 && len(m.values[key]) > 0:
		return m.like(r, key)
	}
	switch v := now.(type) {
	case json.Number:
		if r.IntN(4) == 0 {
			return "#number " + hostileNumbers[r.IntN(len(hostileNumbers))] + " number#"
		}
		f, _ := v.Float64()
		return f * []float64{0.1, 0.5, 0.9, 1.1, 2, 5, 10, -1}[r.IntN(8)]
	case string:
		if r.IntN(3) == 0 {
			return hostileTexts[r.IntN(len(hostileTexts))]
		}
		if len(m.values[key]) > 0 {
			return m.like(r, key)
		}
	case bool:
		return !v
	case []any:
		if len(v) > 0 && r.IntN(2) == 0 {
			return append(slices.Clone(v), v[r.IntN(len(v))])
		}
		return v[:len(v)/2]
	}
	return now
}

// like is something that stands under a field name elsewhere, as a copy: the next change must not reach where it
// comes from.
func (m *Mutants) like(r *rand.Rand, key string) any {
	same := m.values[key]
	copied := bundle.Doc{"": same[r.IntN(len(same))]}.Clone()
	return copied[""]
}

func keyBeside(r *rand.Rand, object map[string]any) string {
	keys := slices.Sorted(maps.Keys(object))
	return keys[r.IntN(len(keys))]
}
