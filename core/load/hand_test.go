package load

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/assign"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// lies is a thing of a plan in a zone, from one height to another.
func lies(it kit.Item, zone rucksack.ZoneKind, from, to float64) Placement {
	return Placement{Piece: kit.Piece{Item: &it}, Zone: &rucksack.Zone{ID: string(zone), Kind: zone},
		Box: &Box{Min: [3]float64{0, 0, from}, Max: [3]float64{20, 20, to}}, MiddleCm: [3]float64{10, 10, (from + to) / 2}}
}

// Whether what belongs lowest lies lowest, by hand: a pot wholly under a quilt says that it does not, one beside it, in
// it or hardly lower does not say that, nor anything under what has the bottom to itself.
func TestWhatBelongsLowest(t *testing.T) {
	t.Parallel()
	quilt := kit.Item{ID: "quilt", Name: "Quilt", Group: "sleep", Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	pot := kit.Item{ID: "pot", Name: "Pot", Group: "kitchen", Carry: kit.Pack}
	liner := kit.Item{ID: "liner", Name: "Liner", Group: "sleep", Carry: kit.Pack,
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 1, TightL: 0.7}}
	inside := lies(pot, rucksack.Body, 0, 5)
	inside.Inside = "mug"
	for name, c := range map[string]struct {
		placed []Placement
		want   string
	}{
		"a pot wholly under it":   {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 10)}, "load.school-lower"},
		"a centimetre up into it": {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 11)}, "load.school-lower"},
		"a pot beside it":         {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Body, 0, 12)}, ""},
		"a pot over it":           {[]Placement{lies(quilt, rucksack.Body, 0, 10), lies(pot, rucksack.Body, 10, 20)}, ""},
		"hardly lower":            {[]Placement{lies(quilt, rucksack.Body, 3, 5), lies(pot, rucksack.Body, 0, 2)}, ""},
		"in the bottom":           {[]Placement{lies(quilt, rucksack.Bottom, 10, 20), lies(pot, rucksack.Bottom, 0, 10)}, ""},
		"in something else":       {[]Placement{lies(quilt, rucksack.Body, 10, 20), inside}, ""},
		"in a side pocket":        {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(pot, rucksack.Side, 0, 10)}, ""},
		"its like under it":       {[]Placement{lies(quilt, rucksack.Body, 10, 20), lies(liner, rucksack.Body, 0, 10)}, ""},
		"a quilt in the lid":      {[]Placement{lies(quilt, rucksack.Lid, 50, 60), lies(pot, rucksack.Body, 0, 10)}, "load.school-lies"},
	} {
		task := &job.Task{Items: []kit.Item{quilt, pot, liner}, Method: method.Default()}
		require.True(t, task.Method.Set("lowest", "sleeping-bag"))
		look := &schooled{plan: &Plan{Placed: c.placed}, task: task, pack: &task.Pack}
		assert.Equal(t, c.want, look.lowest().Why.Code, name)
		task.Items = task.Items[1:2]
		assert.Equal(t, "load.school-nothing", look.lowest().Why.Code, "no bed along")
	}
}

// Whether the sleeping bag is packed as asked for: with no bed along the answer changes nothing; a bag that had to do
// without its sack is named, and no other thing.
func TestASackThatIsNotUsed(t *testing.T) {
	t.Parallel()
	quilt := kit.Item{ID: "quilt", Name: "Quilt", Group: "sleep", Carry: kit.Pack, Functions: []string{"warmth"},
		Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	sacked := quilt
	sacked.Shape = kit.Shape{Kind: kit.Lump, SizeCm: [3]float64{20, 20, 24}, VolumeL: 6}
	mug := kit.Item{ID: "mug", Group: "kitchen", Carry: kit.Pack, Shape: kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}}
	look := func(sack bool, unsacked bool, items ...kit.Item) NotKept {
		task := &job.Task{Items: items}
		if sack {
			task.Method.SleepingBag = "sack"
		}
		s := &schooled{plan: &Plan{unsacked: unsacked}, task: task}
		return s.sleepingBag()
	}
	assert.Equal(t, "load.school-nothing", look(true, false, mug).Why.Code)
	assert.True(t, look(true, false, quilt).Why.None())
	assert.True(t, look(false, false, quilt).Why.None())
	got := look(false, true, mug, quilt)
	assert.Equal(t, "load.school-only-loose", got.Why.Code)
	assert.Equal(t, []string{"quilt"}, got.Items)
	quilt.Carry = kit.Worn
	assert.Equal(t, "load.school-nothing", look(true, false, quilt).Why.Code, "it is not in the pack")
}

// look is how a school sees things that lie somewhere, in a pack whose shoulder straps begin at 45 cm.
func look(m method.Method, zones []rucksack.Zone, placed ...Placement) *schooled {
	body := rucksack.Zone{ID: "body", Kind: rucksack.Body, SizeCm: [3]float64{28, 18, 50}}
	task := &job.Task{Pack: rucksack.Pack{Zones: append([]rucksack.Zone{body}, zones...)}, Method: m}
	for i := range placed {
		task.Items = append(task.Items, *placed[i].Piece.Item)
	}
	return &schooled{plan: &Plan{Placed: placed}, task: task, pack: &task.Pack}
}

// Heavy things belong into a band of the back, a hand's width is given, and most of their weight decides; only what is
// heavy and dense and lies in the body counts.
func TestHeavyThingsInTheirBand(t *testing.T) {
	t.Parallel()
	m := method.Default()
	require.True(t, m.Set("heavy", "close"))
	low, high := m.Band()
	low, high = low*45-bandGivesCm, high*45+bandGivesCm
	thing := func(id string, grams, litres, middle float64) Placement {
		return lies(kit.Item{ID: id, Name: id, MassG: grams, Carry: kit.Pack, Shape: kit.Shape{Kind: kit.Soft, LooseL: litres,
			TightL: litres}}, rucksack.Body, middle-1, middle+1)
	}
	pocket := thing("c", 900, 1, 0)
	pocket.Zone = &rucksack.Zone{Kind: rucksack.Side}
	nested := thing("c", 900, 1, 0)
	nested.Inside = "pot"
	for name, c := range map[string]struct {
		placed []Placement
		code   string
		items  []string
	}{
		"in the band":           {[]Placement{thing("a", 900, 1, low+0.1), thing("b", 900, 1, high-0.1)}, "", nil},
		"too low":               {[]Placement{thing("a", 900, 1, low-0.1)}, "load.school-height", []string{"a"}},
		"too high":              {[]Placement{thing("a", 900, 1, high+0.1)}, "load.school-height", []string{"a"}},
		"half of the weight":    {[]Placement{thing("a", 900, 1, 0), thing("b", 900, 1, 22)}, "", nil},
		"most of the weight":    {[]Placement{thing("a", 901, 1, 0), thing("b", 900, 1, 22)}, "load.school-height", []string{"a"}},
		"light":                 {[]Placement{thing("a", 499, 1, 0)}, "load.school-nothing", nil},
		"large for its weight":  {[]Placement{thing("a", 900, 4, 0)}, "load.school-nothing", nil},
		"in a pocket, in a pot": {[]Placement{pocket, nested}, "load.school-nothing", nil},
	} {
		got := look(m, nil, c.placed...).heavy()
		assert.Equal(t, c.code, got.Why.Code, name)
		assert.Equal(t, c.items, got.Items, name)
	}
}

// Where water belongs, by the three answers: a water bag in its sleeve or on top of the body, bottles at the sides; and
// what would do where it lies elsewhere.
func TestWhereWaterLies(t *testing.T) {
	t.Parallel()
	item := func(kind kit.ShapeKind) kit.Item {
		return kit.Item{ID: "water", Name: "Water", Consumable: "water", Carry: kit.Pack, Shape: kit.Shape{Kind: kind}}
	}
	bag, bottle := item(kit.Flat), item(kit.Cylinder)
	under := lies(bag, rucksack.Body, 0, 5)
	under.Over = []kit.Piece{{Item: &kit.Item{ID: "a"}}, {Item: &kit.Item{ID: "b"}}}
	one := lies(bag, rucksack.Body, 0, 5)
	one.Over = []kit.Piece{{Item: &kit.Item{ID: "a"}}, {Item: &bag}}
	sleeve, side := rucksack.Zone{ID: "sleeve", Kind: rucksack.Sleeve}, rucksack.Zone{ID: "side", Kind: rucksack.Side}
	for _, c := range []struct {
		answer, why, would string
		zones              []rucksack.Zone
		placed             Placement
	}{
		{"sleeve", "", "", []rucksack.Zone{sleeve}, lies(bag, rucksack.Sleeve, 0, 30)},
		{"sleeve", "load.school-lies", "load.school-room", []rucksack.Zone{sleeve}, lies(bag, rucksack.Body, 0, 5)},
		{"sleeve", "load.school-lies", "load.school-pack", nil, lies(bag, rucksack.Body, 0, 5)},
		{"sleeve", "load.school-no-vessel", "load.school-water-bag", nil, lies(bottle, rucksack.Side, 0, 5)},
		{"bottles", "", "", []rucksack.Zone{side}, lies(bottle, rucksack.Side, 0, 30)},
		{"bottles", "", "", nil, lies(bottle, rucksack.Shoulder, 0, 30)},
		{"bottles", "load.school-lies", "load.school-room", []rucksack.Zone{side}, lies(bottle, rucksack.Body, 0, 5)},
		{"bottles", "load.school-lies", "load.school-pack", nil, lies(bottle, rucksack.Lid, 0, 5)},
		{"bottles", "load.school-no-vessel", "load.school-bottle", nil, lies(bag, rucksack.Body, 0, 5)},
		{"top", "", "", nil, lies(bag, rucksack.Body, 40, 50)},
		{"top", "", "", nil, one},
		{"top", "load.school-under", "", nil, under},
		{"top", "load.school-lies", "load.school-room", []rucksack.Zone{sleeve}, lies(bag, rucksack.Sleeve, 0, 30)},
	} {
		m := method.Default()
		require.True(t, m.Set("water", c.answer))
		got := look(m, c.zones, c.placed).water()
		assert.Equal(t, []string{c.why, c.would}, []string{got.Why.Code, got.Would.Code}, "%s in %s", c.answer, c.placed.Zone.ID)
	}
}

// What belongs at the spine, a mat on its straps, nothing outside: each by hand.
func TestSpineMatAndOutside(t *testing.T) {
	t.Parallel()
	m := method.Default()
	food := kit.Item{ID: "food", Name: "Food", MassG: 900, Carry: kit.Pack, Shape: kit.Shape{Kind: kit.Soft, LooseL: 2, TightL: 2}}
	off, at := lies(food, rucksack.Body, 20, 30), lies(food, rucksack.Body, 20, 30)
	at.AtSpine = 40
	sleeve := lies(food, rucksack.Sleeve, 0, 30)
	require.True(t, m.Set("spine", "soft"))
	assert.Equal(t, "load.school-at-spine", look(m, nil, at).spine().Why.Code)
	assert.True(t, look(m, nil, off).spine().Why.None())
	require.True(t, m.Set("spine", "heavy"))
	assert.True(t, look(m, nil, off, at).spine().Why.None(), "one of them is")
	assert.True(t, look(m, nil, off, sleeve).spine().Why.None(), "nothing comes between the sleeve and the back")
	assert.Equal(t, "load.school-off-spine", look(m, nil, off).spine().Why.Code)
	assert.Equal(t, "load.school-nothing", look(m, nil).spine().Why.Code)

	mat := kit.Item{ID: "mat", Name: "Mat", Traits: []kit.Trait{kit.Foam}, Carry: kit.Pack}
	onto := func(face string) Placement {
		p := lies(mat, rucksack.Straps, 0, 30)
		p.Zone.Face = face
		return p
	}
	front := rucksack.Zone{ID: "front", Kind: rucksack.Straps, Face: "front"}
	require.True(t, m.Set("mat", "upright"))
	m.Outside = "foam"
	assert.True(t, look(m, nil, onto("front")).mat().Why.None())
	assert.Equal(t, "load.school-lies", look(m, nil, onto("top")).mat().Why.Code)
	assert.Equal(t, "load.school-pack", look(m, nil, onto("top")).mat().Would.Code)
	assert.Equal(t, "load.school-room", look(m, []rucksack.Zone{front}, onto("top")).mat().Would.Code)
	assert.Equal(t, "load.school-lies", look(m, nil, lies(mat, rucksack.Body, 0, 30)).mat().Why.Code)
	assert.Equal(t, "load.school-nothing", look(m, nil, off).mat().Why.Code)
	pot := lies(kit.Item{ID: "pot", Name: "Pot", Carry: kit.Pack}, rucksack.Straps, 0, 10)
	assert.True(t, look(m, nil, onto("top")).outside().Why.None())
	assert.Equal(t, []string{"pot"}, look(m, nil, onto("top"), pot).outside().Items)
	m.Outside = "nothing"
	assert.Equal(t, "load.school-nothing-out", look(m, nil, onto("front")).mat().Why.Code)
	pinned := onto("front")
	pinned.Pinned = true
	assert.Equal(t, "load.school-unpin", look(m, nil, pinned).outside().Would.Code)
}

// A hand that shoves things aside lets go of what the plan only wished for, and leaves in its lane what the packer
// pinned there: eight boxes that fill the body to the last cell go in where none is wished into the middle.
func TestShovingLetsGoOfWishes(t *testing.T) {
	t.Parallel()
	body := rucksack.Zone{ID: "body", Kind: rucksack.Body, SizeCm: [3]float64{20, 20, 20}, VolumeL: 8, Form: "box",
		Openings: []string{"top"}}
	task := &job.Task{Pack: rucksack.Pack{Zones: []rucksack.Zone{body}}, Method: method.Default()}
	for i := range 8 {
		id := fmt.Sprintf("box-%d", i)
		task.Items = append(task.Items, kit.Item{ID: id, Name: id, Count: 1, MassG: 300, Carry: kit.Pack,
			Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{10, 10, 10}}})
	}
	task.Pins = []job.Pin{{Item: "box-3", Zone: "body", Lane: job.Front}}
	s := newSearch(task, Options{Seed: 1})
	a := assign.New(task, s.loose, s.nested, false)
	for _, c := range a.Choices {
		a.Put(c, 0)
	}
	p := newPacking(a, s.solid, false, s.budget)
	p.plannedOrder()
	pinned := slices.IndexFunc(p.inside, func(c *assign.Choice) bool { return c.ID == "box-3" })
	require.GreaterOrEqual(t, pinned, 0)
	want := p.things[pinned].Wish
	require.NotZero(t, want)
	for i := range p.things {
		if i != pinned {
			p.things[i].Wish = stuff.Wish{Across: 0.5, Deep: 0.5, Firm: firm}
		}
	}
	p.run(1)
	require.NotEmpty(t, p.trial.Out)
	s.budget.left = 0
	p.shove(s.random)
	assert.Empty(t, p.trial.Out)
	assert.Equal(t, want, p.things[pinned].Wish)
}

// From the foot up (common practice): what the school wants lowest, camp things, spare ones, the shelter, food of late
// days under that of early ones, what a halt asks for, the tent where it is pitched first, water on top, and over all
// what is wanted in a hurry. Nothing wants to lie out of the pack.
func TestFromTheFootUp(t *testing.T) {
	t.Parallel()
	use := func(when kit.When) kit.Item { return kit.Item{Use: kit.Use{When: when}} }
	food := func(day int) kit.Item {
		return kit.Item{Traits: []kit.Trait{kit.Food}, Day: day, Use: kit.Use{When: kit.Camp}}
	}
	bed := use(kit.Camp)
	bed.Group, bed.Shape = "sleep", kit.Shape{Kind: kit.Soft, LooseL: 9, TightL: 5}
	tent := use(kit.Arrival)
	tent.Functions = []string{"shelter"}
	water := use(kit.Moving)
	water.Consumable = "water"
	urgent := use(kit.Need)
	urgent.Use.Urgent = true
	task := &job.Task{Method: method.Default()}
	require.True(t, task.Method.Set("lowest", "sleeping-bag"))
	require.True(t, task.Method.Set("heavy", "close"))
	require.True(t, task.Method.Set("shelter", "top"))
	require.True(t, task.Method.Set("water", "top"))
	last, rules := -1.0, []string{}
	for _, it := range []kit.Item{bed, use(kit.Camp), use(kit.Need), food(mostDays + 5), use(kit.Arrival), food(4),
		food(1), use(kit.Halt), tent, water, urgent} {
		at, rule := depth(task, kit.Piece{Item: &it}, 100)
		assert.GreaterOrEqual(t, at, last, "%s after %v", rule, rules)
		assert.LessOrEqual(t, at, 1.0, rule)
		last, rules = at, append(rules, rule)
	}
	assert.Equal(t, []string{"lowest", "camp", "need", "food-day", "arrival", "food-day", "food-day", "halt", "shelter-top",
		"water-top", "urgent"}, rules)
	require.True(t, task.Method.Set("shelter", "deep"))
	require.True(t, task.Method.Set("water", "bottles"))
	_, rule := depth(task, kit.Piece{Item: &tent}, 100)
	assert.Equal(t, "arrival", rule)
	at, rule := depth(task, kit.Piece{Item: &water}, 100)
	assert.Equal(t, "moving", rule)
	assert.Greater(t, at, 0.8, "what one wants on the way lies high")
	var heavy []float64
	for _, answer := range []string{"low", "close", "high"} {
		require.True(t, task.Method.Set("heavy", answer))
		it := use(kit.Camp)
		it.MassG, it.Shape = 900, kit.Shape{Kind: kit.Box, SizeCm: [3]float64{10, 10, 20}}
		at, rule := depth(task, kit.Piece{Item: &it}, 900)
		assert.Equal(t, "heavy", rule)
		heavy = append(heavy, at)
		_, rule = depth(task, kit.Piece{Item: &it}, heavyG-1)
		assert.Equal(t, "camp", rule, "too light to matter")
	}
	assert.IsIncreasing(t, heavy)
}

// A thing within another says what room that spares: its own, squeezed; in a bag it says which.
func TestWhatIsInsideSaysWhy(t *testing.T) {
	t.Parallel()
	cloth := kit.Item{ID: "cloth", Name: "Cloth", Count: 1, Shape: kit.Shape{Kind: kit.Soft, LooseL: 0.5, TightL: 0.3}}
	pot := kit.Item{ID: "pot", Name: "Pot", Count: 1, Shape: kit.Shape{Kind: kit.Vessel}}
	bag := kit.Item{ID: "bag", Name: "Kitchen bag", Count: 1, Kind: kit.KitBag}
	task := &job.Task{Items: []kit.Item{pot, bag, cloth},
		Pack: rucksack.Pack{Zones: []rucksack.Zone{{ID: "body", Kind: rucksack.Body}}}}
	say := func(inside string) fact.Fact {
		in := lies(cloth, rucksack.Body, 0, 3)
		in.Inside = inside
		plan := &Plan{Placed: []Placement{lies(pot, rucksack.Body, 0, 12), in}}
		plan.Placed[0].Inside = "x"
		explain(task, nil, plan)
		require.Len(t, plan.Placed[1].Reasons, 1)
		return plan.Placed[1].Reasons[0].Fact
	}
	assert.Equal(t, fact.Of("load.nest", fact.Litres(0.3)), say("pot"))
	assert.Equal(t, fact.Of("load.in-bag", fact.Small("Kitchen bag")), say("bag"))
}
