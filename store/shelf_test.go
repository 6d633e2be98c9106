package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/store"
)

func keyOf(t *testing.T, s *store.Store, trip uint, item string) string {
	state, err := s.Trip(t.Context(), trip)
	require.NoError(t, err)
	for _, it := range state.Doc.List("items") {
		if it["id"] == item {
			key, _ := it["shelf"].(string)
			return key
		}
	}
	return ""
}

func versionOf(t *testing.T, s *store.Store, trip uint) int {
	v, err := s.Version(t.Context(), trip)
	require.NoError(t, err)
	return v
}

// shared gives two trips that carry the same things of the shelf.
func shared(t *testing.T) (*store.Store, uint, uint) {
	s, _ := open(t)
	first := withDemo(t, s)
	n, err := s.Shelve(t.Context(), first, 1, nil)
	require.NoError(t, err)
	require.Greater(t, n, 30)
	state, err := s.Trip(t.Context(), first)
	require.NoError(t, err)
	second, err := s.Create(t.Context(), state.Doc.Clone())
	require.NoError(t, err)
	return s, first, second
}

func TestAThingIsSharedBetweenTrips(t *testing.T) {
	t.Parallel()
	s, first, second := shared(t)
	require.NoError(t, s.Change(t.Context(), first, versionOf(t, s, first), "weighed the pot", setMass(222)))
	assert.Equal(t, "222", potMass(t, s, second), "what was weighed on one trip is known on the other")
	key := keyOf(t, s, first, "pot")
	thing, err := s.Thing(t.Context(), key)
	require.NoError(t, err)
	assert.EqualValues(t, "222", thing.Object["mass_g"])
	assert.Len(t, thing.Trips, 1, "both trips have the same name")

	require.NoError(t, s.Change(t.Context(), second, versionOf(t, s, second), "leave the pot", func(d bundle.Doc) error {
		return d.EditItem("pot", func(item map[string]any) error { item["carry"] = "left"; return nil })
	}))
	before, err := s.Trip(t.Context(), first)
	require.NoError(t, err)
	for _, it := range before.Doc.List("items") {
		if it["id"] == "pot" {
			assert.NotEqual(t, "left", it["carry"], "where it travels belongs to the trip")
		}
	}

	_, err = s.Undo(t.Context(), first, versionOf(t, s, first))
	require.NoError(t, err)
	assert.Equal(t, potMass(t, s, first), potMass(t, s, second), "undo reaches the other trip too")
	assert.NotEqual(t, "222", potMass(t, s, second))
}

func TestChangingTheShelfChangesTheTrips(t *testing.T) {
	t.Parallel()
	s, first, second := shared(t)
	key := keyOf(t, s, first, "pot")
	thing, err := s.Thing(t.Context(), key)
	require.NoError(t, err)
	weigh := func(t *store.ShelfThing) error {
		t.Object["mass_g"] = bundle.Number(333)
		t.Status = store.Lent
		return nil
	}
	require.NoError(t, s.ChangeThing(t.Context(), key, thing.Version, weigh))
	assert.ErrorIs(t, s.ChangeThing(t.Context(), key, thing.Version, weigh), store.ErrStale)
	for _, trip := range []uint{first, second} {
		assert.Equal(t, "333", potMass(t, s, trip))
		state, err := s.Trip(t.Context(), trip)
		require.NoError(t, err)
		assert.Contains(t, state.Undo, "changed on the shelf")
	}
	err = s.ChangeThing(t.Context(), key, thing.Version+1,
		func(t *store.ShelfThing) error { t.Object["mass_g"] = bundle.Number(-3); return nil })
	var problems bundle.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "/mass_g", problems[0].Pointer)
	list, err := s.Things(t.Context(), store.Query{Words: "pot", Status: "lent"})
	require.NoError(t, err)
	require.Len(t, list, 1)
	require.NoError(t, s.RemoveThing(t.Context(), key, thing.Version+1))
	assert.Empty(t, keyOf(t, s, first, "pot"), "the trip keeps it as its own")
	assert.Equal(t, "333", potMass(t, s, first))
	_, err = s.Thing(t.Context(), key)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestWhatIsMadeSmallForOneTripStaysElsewhere(t *testing.T) {
	t.Parallel()
	s, first, second := shared(t)
	before := potMass(t, s, second)
	require.NoError(t, s.Change(t.Context(), first, versionOf(t, s, first), "cut down", func(d bundle.Doc) error {
		return d.EditItem("pot", func(item map[string]any) error {
			item["mass_g"], item["made_small"] = bundle.Number(11), []any{"half"}
			return nil
		})
	}))
	assert.Equal(t, before, potMass(t, s, second))
}

func TestSearchOnTheShelf(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	keys, err := s.AddThings(t.Context(),
		[]map[string]any{{"name": "100 % wool_hat", "group": "clothing"},
			{"name": "Down bag", "kind": "down-sleeping-bag", "expires": "2027-01-01"}})
	require.NoError(t, err)
	for words, want := range map[string]int{"": 2, "wool": 1, "%": 1, "_": 1, "down bag": 1, "nothing": 0, "sleep": 1} {
		list, err := s.Things(t.Context(), store.Query{Words: words})
		require.NoError(t, err)
		assert.Len(t, list, want, words)
	}
	dated, err := s.Things(t.Context(), store.Query{Status: "dated"})
	require.NoError(t, err)
	assert.Len(t, dated, 1)
	require.NoError(t, s.BulkThings(t.Context(), keys, func(t *store.ShelfThing) { t.Status = store.Retired }))
	retired, err := s.Things(t.Context(), store.Query{Status: "retired"})
	require.NoError(t, err)
	assert.Len(t, retired, 2)
	require.NoError(t, s.SetPhoto(t.Context(), keys[0], []byte{1, 2, 3}, "image/png"))
	data, kind, err := s.Photo(t.Context(), keys[0])
	require.NoError(t, err)
	assert.Equal(t, []byte{1, 2, 3}, data)
	assert.Equal(t, "image/png", kind)
	_, err = s.AddThings(t.Context(), []map[string]any{{"name": "good"}, {"name": "bad", "mass_g": bundle.Number(-1)}})
	assert.Error(t, err)
	list, err := s.Things(t.Context(), store.Query{})
	require.NoError(t, err)
	assert.Len(t, list, 2, "all or none")
}

func TestAPackChangesWithItsTrips(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	key, err := s.AddPack(t.Context(), b.Doc["pack"].(map[string]any))
	require.NoError(t, err)
	pack, err := s.PackOf(t.Context(), key)
	require.NoError(t, err)
	doc := b.Doc.Clone()
	doc.SetPack(pack.Object)
	id, err := s.Create(t.Context(), doc)
	require.NoError(t, err)
	require.NoError(t, s.ChangePack(t.Context(), key, 1,
		func(o map[string]any) error { o["mass_g"] = bundle.Number(999); return nil }))
	state, err := s.Trip(t.Context(), id)
	require.NoError(t, err)
	assert.EqualValues(t, "999", state.Doc["pack"].(map[string]any)["mass_g"])
	assert.ErrorIs(t, s.ChangePack(t.Context(), key, 1, func(map[string]any) error { return nil }), store.ErrStale)
	assert.Error(t, s.ChangePack(t.Context(), key, 2, func(o map[string]any) error { o["zones"] = []any{}; return nil }))
	require.NoError(t, s.RemovePack(t.Context(), key, 2))
	assert.ErrorIs(t, s.RemovePack(t.Context(), key, 2), store.ErrNotFound)
}

// A thing that has no name of its own on the list keeps on the shelf the one it was shown under.
func TestAThingWithoutANameOfItsOwn(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	b, err := bundle.Read(demo.SkiTour)
	require.NoError(t, err)
	trip, err := s.Create(t.Context(), b.Doc)
	require.NoError(t, err)
	_, err = s.Shelve(t.Context(), trip, 1, []string{"probe", "first-aid"})
	require.NoError(t, err)
	for id, name := range map[string]string{"probe": "Probe", "first-aid": "First aid"} {
		thing, err := s.Thing(t.Context(), keyOf(t, s, trip, id))
		require.NoError(t, err)
		assert.Equal(t, name, thing.Name)
	}
}
