package bundle_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/party"
	"tornister/demo"
)

func course(t *testing.T) bundle.Doc {
	t.Helper()
	b, err := bundle.Read(demo.FieldCourse)
	require.NoError(t, err)
	return b.Doc
}

// ids are the ids of a list, and whether a part of the group's kit is among them.
func ids(items []map[string]any) (list []string, parts int) {
	for _, item := range items {
		list = append(list, item["id"].(string))
		if item[bundle.PartMark] != nil {
			parts++
		}
	}
	return list, parts
}

// Whose pack is on the floor changes, and back again: nothing is lost on the way.
func TestSwitchLosesNothing(t *testing.T) {
	t.Parallel()
	doc := course(t)
	before, err := doc.JSON()
	require.NoError(t, err)
	for _, id := range []string{"pelle", "tomas", "ravna"} {
		require.NoError(t, doc.Switch(id))
		assert.Equal(t, id, doc.Party().Now)
		_, err := bundle.FromDoc(doc.Clone())
		require.NoError(t, err)
	}
	after, err := doc.JSON()
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
	require.Error(t, doc.Switch("nobody"))
}

// A sharing puts each part on one list, and the next one takes it from there.
func TestShareBringsTheListsUpToDate(t *testing.T) {
	t.Parallel()
	doc := course(t)
	shared, err := doc.Sharing()
	require.NoError(t, err)
	found, err := party.Fair(shared.Problem, nil, party.Options{})
	require.NoError(t, err)
	require.NoError(t, doc.Share(found.Holder))
	again, err := doc.Sharing()
	require.NoError(t, err)
	assert.Equal(t, shared.Problem.Bearers, again.Problem.Bearers, "what is one's own does not count the group's")
	total := 0
	for _, l := range found.Loads {
		one, err := doc.Of(l.Bearer)
		require.NoError(t, err)
		_, parts := ids(one.List("items"))
		assert.Equal(t, len(l.Parts), parts, l.Bearer)
		total += parts
		b, err := bundle.FromDoc(one)
		require.NoError(t, err)
		g := b.Task.Pack.MassG
		for i := range b.Task.Items {
			g += b.Task.Items[i].TotalG()
		}
		assert.InDelta(t, l.MassG, g, 0.5, "everything is packed, so the list weighs what the share says")
	}
	assert.Len(t, shared.Parts, total)
	found.Holder["gas.1"] = "tomas"
	require.NoError(t, doc.Share(found.Holder))
	one, _ := doc.Of("tomas")
	list, _ := ids(one.List("items"))
	assert.Contains(t, list, "gas-1")
	text, err := doc.JSON()
	require.NoError(t, err)
	_, err = bundle.Read(text)
	require.NoError(t, err, "what was settled is a bundle again")
}

// What is corrected on a bearer's list goes along when the part goes to another; what is taken off a list there is
// nobody's; and what a bundle says is agreed stands on the lists once it is read.
func TestPartsAreAsTheyStandOnLists(t *testing.T) {
	t.Parallel()
	doc := course(t)
	require.NoError(t, doc.Share(map[string]string{"line": "ravna", "repair": "ravna"}))
	require.NoError(t, doc.EditItem("line",
		func(item map[string]any) error { item["mass_g"] = bundle.Number(555); return nil }))
	shared, err := doc.Sharing()
	require.NoError(t, err)
	assert.InDelta(t, 555, shared.Item("line").TotalG(), 1e-9)
	require.NoError(t, doc.Share(map[string]string{"line": "tomas", "repair": "ravna"}))
	one, err := doc.Of("tomas")
	require.NoError(t, err)
	require.NoError(t, one.EditItem("line", func(item map[string]any) error {
		assert.Equal(t, json.Number("555"), item["mass_g"])
		return nil
	}))
	require.NoError(t, doc.RemoveItem("repair"))
	assert.Equal(t, map[string]string{"line": "tomas"}, doc.Party().Agreed)

	text := strings.Replace(string(compact(t)), `"bearers":[`, `"agreed":{"aid":"ravna","line":"tomas"},"bearers":[`, 1)
	b, err := bundle.Read([]byte(text))
	require.NoError(t, err)
	list, parts := ids(b.Doc.List("items"))
	assert.Contains(t, list, "aid")
	assert.Equal(t, 1, parts)
	assert.Len(t, b.Task.Items, len(list), "and the plan is made with it")
}

// The ties that are common practice are proposed until they are there.
func TestUsualTies(t *testing.T) {
	t.Parallel()
	p := course(t).Party()
	had := p.Ties
	p.Ties = nil
	proposed := p.UsualTies()
	assert.Contains(t, proposed, bundle.Tie{Rule: party.Must, Parts: []string{"aid"}, Who: "leader"})
	assert.Contains(t, proposed, bundle.Tie{Rule: party.Together, Parts: []string{"stove-1", "gas.1"}})
	assert.Contains(t, proposed, bundle.Tie{Rule: party.Apart, Parts: []string{"aid", "aid-2"}})
	p.Ties = proposed
	assert.Empty(t, p.UsualTies())
	p.Ties = had
	assert.Empty(t, p.UsualTies(), "the course has them")
}

// Somebody joins from another trip without what was the group's there, and leaves; the last one walks alone.
func TestJoinAndLeave(t *testing.T) {
	t.Parallel()
	doc := course(t)
	other, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	alone := other.Doc
	id, err := alone.AddBearer(bundle.Bearer{Name: "Ona", Kind: party.Child}, doc)
	require.NoError(t, err)
	assert.Equal(t, "ona", id)
	assert.Len(t, alone.Party().Bearers, 2)
	require.NoError(t, alone.Switch("ona"))
	mine, _ := ids(alone.List("items"))
	theirs, _ := ids(doc.List("items"))
	assert.Subset(t, mine, theirs, "and the food that the trip works out")
	require.NoError(t, alone.RemoveBearer("ona"))
	assert.Equal(t, "packer", alone.Party().Now)
	require.NoError(t, alone.RemoveBearer("packer"))
	assert.Nil(t, alone.Party())
	for range 6 {
		_, err = doc.AddBearer(bundle.Bearer{Name: "Ona"}, nil)
		require.NoError(t, err)
	}
	_, err = doc.AddBearer(bundle.Bearer{Name: "Ona"}, nil)
	assert.ErrorContains(t, err, "12 walk along already")
}

// What a party names must be there; the message says where.
func TestPartyProblems(t *testing.T) {
	t.Parallel()
	for change, want := range map[string]string{
		`"now":"ravna"|"now":"nobody"`:                          "/party/now",
		`"parts":["aid"]|"parts":["lantern"]`:                   "/party/ties/0/parts/0",
		`"who":"leader"|"x":"leader"`:                           "/party/ties/0",
		`"id":"jarek"|"id":"ravna"`:                             "/party/bearers/1/id",
		`"id":"jarek"|"limit_g":0,"id":"jarek"`:                 "/party/bearers/1/limit_g",
		`"id":"fly"|"id":"inner"`:                               "/parts/",
		`"bearers":[|"agreed":{"aid":"nobody"},"bearers":[`:     "/party/agreed/aid",
		`"keep_l":1|"keep_l":1,"checked":{"ravna":{"bag":"?"}}`: "/party/checked/ravna/bag",
		`"id":"stove-1"|"shape":{"kind":"box"},"id":"stove-1"`:  "/party/group (stove-1)/shape",
	} {
		text := string(compact(t))
		old, with, _ := strings.Cut(change, "|")
		require.Contains(t, text, old)
		_, err := bundle.Read([]byte(strings.Replace(text, old, with, 1)))
		var problems bundle.Problems
		require.ErrorAs(t, err, &problems, change)
		assert.Contains(t, problems.Error(), want)
	}
}

func compact(t *testing.T) []byte {
	t.Helper()
	var tree any
	require.NoError(t, json.Unmarshal(demo.FieldCourse, &tree))
	text, err := json.Marshal(tree)
	require.NoError(t, err)
	return text
}
