package bundle_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/demo"
)

const minimal = `{"format":"tornister","version":1,
 "pack":{"id":"p","name":"Plain bag","mass_g":600,"zones":[{"id":"body","kind":"body","size_cm":[28,18,45],"openings":["top"]}]},
 "items":[{"id":"bag","name":"Sleeping bag","mass_g":900,"shape":{"kind":"soft","loose_l":10,"tight_l":6}},
  {"id":"pot","name":"Pot","mass_g":200,"shape":{"kind":"cylinder","diameter_cm":14,"length_cm":11}}]}`

// broken replaces a part of the minimal bundle.
func broken(old, with string) string { return strings.Replace(minimal, old, with, 1) }

func TestMinimalListsWhatItAssumes(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(minimal))
	require.NoError(t, err)
	assert.Contains(t, b.Assumed, "/trip/rain: 0.3")
	assert.Contains(t, b.Assumed, "/pack/zones/0/weather: covered")
	assert.Contains(t, b.Assumed, "/method/heavy: close")
	assert.Equal(t, 2.0, b.Task.Items[0].Shape.GapCm)
	assert.Equal(t, kit.Pack, b.Task.Items[0].Carry)
}

// A thing without a kind is what its name, or its id, says; what is given of it stands.
func TestANameSaysTheKind(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(`{"format":"tornister","version":1,
		"pack":{"id":"p","zones":[{"id":"body","kind":"body","size_cm":[28,18,45]}]},"items":[
		{"id":"a","name":"Blue rain jacket","mass_g":410,"shape":{"kind":"soft","loose_l":2,"tight_l":1}},
		{"id":"head-torch"},
		{"id":"c","name":"First aid","use":{"when":"camp","per_day":1},"traits":[],"functions":[]},
		{"id":"d","name":"Bottle","kind":""},
		{"id":"e","name":"Whatsit"}]}`))
	require.NoError(t, err)
	items := b.Task.Items
	jacket, torch, aid, bottle, thing := &items[0], &items[1], &items[2], &items[3], &items[4]
	assert.True(t, jacket.Use.Urgent && jacket.Serves("rain"))
	assert.Equal(t, 410.0, jacket.MassG)
	assert.Equal(t, 1.0, jacket.Shape.TightL)
	assert.True(t, torch.Serves("light"), "by its id")
	assert.Equal(t, "first-aid-kit", aid.Kind)
	assert.Equal(t, kit.Camp, aid.Use.When)
	assert.Empty(t, aid.Functions)
	assert.Empty(t, bottle.Kind)
	assert.Equal(t, kit.Unknown.Use, bottle.Use)
	assert.Empty(t, thing.Kind)
	assert.Contains(t, b.Assumed, "/items/0/kind: rain-jacket (by its name)")
	assert.Contains(t, b.Assumed, "/items/1/kind: headlamp (by its name)")
	assert.NotContains(t, strings.Join(b.Assumed, "\n"), "/items/4/kind")
}

// A name of a kind is enough: the rest is our estimate and said so.
func TestKindAloneIsEnough(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(broken(`"mass_g":900,"shape":{"kind":"soft","loose_l":10,"tight_l":6}`,
		`"kind":"down-sleeping-bag"`)))
	require.NoError(t, err)
	assert.Equal(t, 950.0, b.Task.Items[0].MassG)
	assert.Equal(t, kit.Guess, b.Task.Items[0].Measured)
	assert.Contains(t, strings.Join(b.Assumed, "\n"), "/items/0/mass_g: 950 (down sleeping bag, our estimate)")
}

// Where the mass is told and the shape is not, a heavier thing of a kind is a larger one, as where its line is typed;
// of what has no kind each kilogram is five litres.
func TestTheHeavierTheLarger(t *testing.T) {
	t.Parallel()
	of := func(what string) kit.Item {
		b, err := bundle.Read([]byte(broken(`"mass_g":900,"shape":{"kind":"soft","loose_l":10,"tight_l":6}`, what)))
		require.NoError(t, err)
		return b.Task.Items[0]
	}
	usual, heavy := of(`"kind":"down-sleeping-bag"`), of(`"kind":"down-sleeping-bag","mass_g":1425`)
	assert.InDelta(t, 1.5*usual.Shape.LooseL, heavy.Shape.LooseL, 0.01)
	assert.InDelta(t, 1.5*usual.Shape.TightL, heavy.Shape.TightL, 0.01)
	unknown := of(`"kind":"","mass_g":3000`)
	assert.InDelta(t, 15, unknown.Shape.LooseL, 0.01)
	assert.InDelta(t, 0.5, unknown.Uncertain(), 1e-9)
}

func TestRefusalsNamePlaceAndMend(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct{ text, pointer, word string }{
		"not JSON":          {`{"format":`, "", "line 1"},
		"NaN":               {broken("900", "NaN"), "", "line 3, column"},
		"not an object":     {`[1,2]`, "", "not a JSON object"},
		"two objects":       {minimal + "{}", "", "after the end"},
		"other format":      {broken(`"tornister"`, `"sandwich"`), "/format", "not this format"},
		"newer version":     {broken(`"version":1`, `"version":2`), "/version", "version 2 is not known"},
		"lacks a field":     {broken(`"id":"bag",`, ``), "/items/0", "add id"},
		"lacks shape parts": {broken(`,"length_cm":11`, ``), "/items/1/shape", "length_cm"},
		"negative":          {broken("900", "-900"), "/items/0/mass_g", "0 grams or more"},
		"huge":              {broken("900", "1e300"), "/items/0/mass_g", "100000 grams or less"},
		"beyond a float":    {broken("900", "1e999"), "/items/0/mass_g", "beyond what a number can be"},
		"text for a number": {broken("900", `"900 g"`), "/items/0/mass_g", "without quotes or unit"},
		"another unit":      {broken(`"mass_g":900`, `"mass_kg":0.9`), "/items/0/mass_kg", "give mass_g, in grams"},
		"equal ids":         {broken(`"id":"pot"`, `"id":"bag"`), "/items/1/id", "stands twice"},
		"tight over loose":  {broken(`"tight_l":6`, `"tight_l":60`), "/items/0/shape/tight_l", "tight is the smaller"},
		"zero size":         {broken("[28,18,45]", "[28,0,45]"), "/pack/zones/0/size_cm/1", "more than 0"},
		"half a centimetre": {broken("[28,18,45]", "[28,0.5,45]"), "/pack/zones/0/size_cm/1", "at least 3 cm"},
		"too few litres": {broken(`"size_cm":[28,18,45]`, `"size_cm":[28,18,45],"volume_l":7`), "/pack/zones/0/volume_l",
			"7 L is too little for 28 × 18 × 45 cm, which make 22.7 L"},
		"too many litres": {broken(`"size_cm":[28,18,45]`, `"size_cm":[28,18,45],"volume_l":35`),
			"/pack/zones/0/volume_l", "35 L do not go into 28 × 18 × 45 cm"},
		"hardly any litres": {broken(`"size_cm":[28,18,45]`, `"size_cm":[28,18,45],"volume_l":1e-9`),
			"/pack/zones/0/volume_l", "too little for"},
		"next to nothing": {broken(`"size_cm":[28,18,45]`, `"volume_l":1e-9`), "/pack/zones/0/volume_l",
			"too little for the body"},
		"a house":      {broken("[28,18,45]", "[190,190,190]"), "/pack/zones/0/size_cm", "at most 300 L"},
		"no body":      {broken(`"kind":"body"`, `"kind":"lid"`), "/pack/zones", "exactly one"},
		"unknown word": {broken(`"kind":"cylinder"`, `"kind":"sphere"`), "/items/1/shape/kind", "box, cylinder, lump"},
		"pin to nothing": {broken(`"items"`, `"pins":[{"item":"pot","zone":"attic"}],"items"`), "/pins/0/zone",
			"name a zone: body"},
		"pin of nothing": {broken(`"items"`, `"pins":[{"item":"pan"}],"items"`), "/pins/0/item", "not in the kit"},
		"nest in a bag":  {broken(`"name":"Pot"`, `"name":"Pot","nest_in":"bag"`), "/items/1/nest_in", "vessel"},
		"a bag in itself": {broken(`"items":[`, `"items":[{"id":"a","name":"A","kind":"kit-bag","nest_in":"b"},`+
			`{"id":"b","name":"B","kind":"kit-bag","nest_in":"c"},{"id":"c","name":"C","kind":"kit-bag","nest_in":"b"},`),
			"/items/1/nest_in", "in itself"},
		"a bag in itself, at once": {broken(`"items":[`, `"items":[{"id":"a","name":"A","kind":"kit-bag","nest_in":"a"},`),
			"/items/0/nest_in", "no vessel or bag"},
		"a bag in a pot": {broken(`"items":[`, `"items":[{"id":"a","name":"A","kind":"kit-bag","nest_in":"v"},`+
			`{"id":"v","name":"V","shape":{"kind":"vessel","diameter_cm":12,"length_cm":10,"inside_l":0.9}},`),
			"/items/0/nest_in", "lies in a vessel"},
		"control letters": {broken(`"Pot"`, `"P\u0000t"`), "/items/1/name", "control characters"},
		"deep nesting":    {strings.Repeat("[", 100000), strings.Repeat("/0", 24), "25 deep"},
		"nothing at all":  {``, "", "not JSON"},
	} {
		_, err := bundle.Read([]byte(c.text))
		var problems bundle.Problems
		require.ErrorAs(t, err, &problems, name)
		assert.Equal(t, c.pointer, problems[0].Pointer, name)
		assert.NotEmpty(t, problems[0].Mend, name)
		assert.Contains(t, problems.Error(), c.word, name)
	}
}

func TestTooManyAndTooLarge(t *testing.T) {
	t.Parallel()
	lines := make([]string, 100_000)
	for i := range lines {
		lines[i] = fmt.Sprintf(`{"id":"i%d"}`, i)
	}
	_, err := bundle.Read([]byte(`{"format":"tornister","version":1,"pack":{},"items":[` + strings.Join(lines,
		",") + `]}`))
	assert.ErrorContains(t, err, "100000 entries")
	_, err = bundle.Read(make([]byte, bundle.MaxBytes+1))
	assert.ErrorContains(t, err, "larger than 8 MB")
}

func TestUnknownFieldsSurvive(t *testing.T) {
	t.Parallel()
	text := broken(`"name":"Pot"`, `"name":"Pot","bought":{"year":2019,"price":12.50}`)
	b, err := bundle.Read([]byte(text))
	require.NoError(t, err)
	out, err := b.Doc.JSON()
	require.NoError(t, err)
	assert.JSONEq(t, text, string(out))
	assert.Contains(t, string(out), "12.50", "numbers stay as they were written")
}

func TestSchemaIsValidAndDemoFollowsIt(t *testing.T) {
	t.Parallel()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(bundle.Schema))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("urn:test", doc))
	schema, err := compiler.Compile("urn:test")
	require.NoError(t, err)
	demoDoc, err := jsonschema.UnmarshalJSON(bytes.NewReader(demo.LoneWalker))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(demoDoc))
	for _, p := range demo.Packs() {
		text, err := json.Marshal(map[string]any{"format": "tornister", "version": 1, "pack": p.JSON, "items": []any{}})
		require.NoError(t, err)
		_, err = bundle.Read(text)
		assert.NoError(t, err, p.ID)
	}
}

func TestEditsKeepTheBundleWhole(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	doc := b.Doc.Clone()
	doc.Pin(job.Pin{Item: "bottle", Piece: 2, Zone: "front"})
	doc.Pin(job.Pin{Item: "pot", Zone: "body", Lane: job.Back, Place: 3})
	require.NoError(t, doc.DuplicateItem("pot"))
	require.NoError(t, doc.EditItem("gas", func(item map[string]any) error { item["nest_in"] = "pot"; return nil }))
	_, err = bundle.FromDoc(doc)
	require.NoError(t, err)
	require.NoError(t, doc.RemoveItem("pot"))
	b2, err := bundle.FromDoc(doc)
	require.NoError(t, err, "a removed vessel leaves no reference behind")
	assert.Len(t, b2.Task.Pins, 1)
	doc.Pin(job.Pin{Item: "bottle", Piece: 2})
	assert.Empty(t, doc.List("pins"))
	assert.ErrorContains(t, doc.RemoveItem("pot"), "not on the list")
	assert.Equal(t, "rain-jacket", doc.FreshID("  Rain jacket! "))
	assert.Equal(t, "bottle-2", doc.FreshID("Bottle"))
	assert.Equal(t, "thing", doc.FreshID("雨衣"))
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(minimal))
	f.Add(demo.LoneWalker)
	f.Add([]byte(`{"format":"tornister","version":1,"pack":null,"items":[null]}`))
	// A few torn demo files as further seeds.
	r := rand.New(rand.NewPCG(1, 2))
	for range 5 {
		f.Add(demo.LoneWalker[:r.IntN(len(demo.LoneWalker))])
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		b, err := bundle.Read(data)
		if err != nil {
			require.ErrorAs(t, err, new(bundle.Problems), "every refusal is of the input")
			return
		}
		out, err := b.Doc.JSON()
		require.NoError(t, err)
		_, err = bundle.Read(out)
		require.NoError(t, err, "what was read can be written and read again")
	})
}

func BenchmarkRead(b *testing.B) {
	for b.Loop() {
		if _, err := bundle.Read(demo.LoneWalker); err != nil {
			b.Fatal(err)
		}
	}
}

func TestPlacesAreNamed(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read([]byte(minimal))
	require.NoError(t, err)
	for pointer, want := range map[string]string{"/items/1/mass_g": "Pot (/items/1/mass_g)",
		"/pack/zones/0/size_cm/1": "body (/pack/zones/0/size_cm/1)",
		"/pack/mass_g":            "Plain bag (/pack/mass_g)", "/trip/days": "/trip/days", "/items/9/mass_g": "/items/9/mass_g",
		"": ""} {
		assert.Equal(t, want, b.Doc.Place(pointer))
	}
}
