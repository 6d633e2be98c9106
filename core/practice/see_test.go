package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/verdict"
)

// thing is a line of one piece.
func thing(id string, grams float64, when kit.When, traits ...kit.Trait) kit.Piece {
	return kit.Piece{Item: &kit.Item{ID: id, Name: id, Count: 1, MassG: grams, Carry: kit.Pack, Traits: traits,
		Use: kit.Use{When: when, PerDay: 1}, Shape: kit.Shape{Kind: kit.Box}}, Number: 1}
}

// judgedOf is a packing of ten kilograms with so much of it placed and nothing worth a word.
func judgedOf(placed ...load.Placement) *verdict.Judged {
	j := &verdict.Judged{Task: &job.Task{}, Plan: &load.Plan{Placed: placed},
		Balance: verdict.Balance{MassG: 10000, Height: 0.5, Band: [2]float64{0.4, 0.6}}}
	for i := range placed {
		j.Steps = append(j.Steps, verdict.Step{Placement: &j.Plan.Placed[i]})
	}
	for _, name := range verdict.Names {
		j.Checks = append(j.Checks, verdict.Check{Check: name})
	}
	return j
}

func in(p kit.Piece, zone *rucksack.Zone, middle ...float64) load.Placement {
	placement := load.Placement{Piece: p, Zone: zone}
	copy(placement.MiddleCm[:], middle)
	return placement
}

var (
	bodyOf = &rucksack.Zone{ID: "body", Name: "Body", Kind: rucksack.Body}
	lidOf  = &rucksack.Zone{ID: "lid", Name: "Lid", Kind: rucksack.Lid}
)

// A kilogram of ten that goes ten centimetres away moves the middle of all by one: back, or out of the band, up where
// that is above it and down where it is below; what moves it as much both ways is said to move it back.
func TestHeavyByHand(t *testing.T) {
	t.Parallel()
	p := thing("rope", 1000, kit.Camp)
	for name, c := range map[string]struct {
		height float64
		to     [3]float64 // from the origin
		code   string
		by     float64
	}{
		"back":                   {0.5, [3]float64{0, 10, 40}, "practice.back", 1},
		"up, above the band":     {0.61, [3]float64{0, 5, 20}, "practice.high", 2},
		"up, in the band":        {0.6, [3]float64{0, 0, 20}, "practice.back", 0},
		"down, below it":         {0.39, [3]float64{0, 5, -30}, "practice.low", 3},
		"down, at its foot":      {0.4, [3]float64{0, 0, -30}, "practice.back", 0},
		"as much back as up":     {0.7, [3]float64{0, 20, 20}, "practice.back", 2},
		"down, above the band":   {0.7, [3]float64{0, 0, -20}, "practice.back", 0},
		"nearer the back and up": {0.7, [3]float64{0, -10, 20}, "practice.high", 2},
	} {
		f := Fault{Move: Move{Kind: Heavy, Item: "rope", Piece: 1}, Moved: p}
		bad := judgedOf(in(p, bodyOf, c.to[:]...))
		bad.Balance.Height = c.height
		assert.InDelta(t, c.by, f.heavy(judgedOf(in(p, bodyOf)), bad), 1e-9, name)
		assert.Equal(t, c.code, f.What.Code, name)
		assert.Equal(t, fact.Grams(1000), f.What.Values[1], name)
		if c.code != "practice.back" {
			assert.Equal(t, fact.Cm(c.by), f.What.Values[2], name)
			assert.Equal(t, []any{100 * c.height, 40.0, 60.0}, f.What.Values[3].(fact.Fact).Values, name)
		}
	}
	f := Fault{Moved: p}
	assert.Zero(t, f.heavy(judgedOf(), judgedOf(in(p, bodyOf, 0, 10, 0))), "it was nowhere before")
	assert.Zero(t, f.heavy(judgedOf(in(p, bodyOf, 0, 10, 0)), judgedOf()), "it is nowhere now")
}

// Two kilograms of ten from the middle to a pocket 20 cm to the right, of pockets 40 cm apart, are a kilogram more
// there. It is said where that side is the heavier now, by what one feels.
func TestSidesByHand(t *testing.T) {
	t.Parallel()
	p := thing("bottle", 2000, kit.Moving)
	for name, c := range map[string]struct {
		across, side float64
		code         string
		by           float64
	}{
		"right":              {20, 600, "practice.right", 1000},
		"left":               {-20, -600, "practice.left", 1000},
		"just felt":          {20, verdict.SideLooksG, "practice.right", 1000},
		"not felt":           {20, verdict.SideLooksG - 1, "", 0},
		"the other is heavy": {20, -600, "", 0},
		"not across":         {0, 600, "", 0},
	} {
		bad := judgedOf(in(p, bodyOf, c.across, 0, 0))
		bad.Balance.SideG = c.side
		bad.Task.Pack.Zones = []rucksack.Zone{{Kind: rucksack.Side, AtCm: [3]float64{-20}}, {Kind: rucksack.Side,
			AtCm: [3]float64{20}}}
		f := Fault{Moved: p}
		assert.InDelta(t, c.by, f.sides(judgedOf(in(p, bodyOf)), bad), 1e-9, name)
		assert.Equal(t, c.code, f.What.Code, name)
	}
}

// Of the hollow spots that grow, those count that lie within six centimetres of the thing.
func TestHollowByHand(t *testing.T) {
	t.Parallel()
	p := thing("pot", 300, kit.Camp)
	box := &load.Box{Min: [3]float64{0, 0, 10}, Max: [3]float64{10, 10, 20}}
	spot := func(litres, x, z float64) load.Hollow { return load.Hollow{Litres: litres, AtCm: [3]float64{x, 5, z}} }
	for name, c := range map[string]struct {
		was, is []load.Hollow
		here    float64
		want    float64
	}{
		"under it":           {nil, []load.Hollow{spot(0.9, 5, 4)}, 0.9, 0.9},
		"a little further":   {nil, []load.Hollow{spot(0.9, 5, 3.9)}, 0, 0},
		"beside it":          {nil, []load.Hollow{spot(0.9, 16, 15)}, 0.9, 0.9},
		"elsewhere":          {nil, []load.Hollow{spot(0.9, 16.1, 15)}, 0, 0},
		"there before":       {[]load.Hollow{spot(0.5, 5, 4)}, []load.Hollow{spot(0.9, 5, 4)}, 0.9, 0.4},
		"here and elsewhere": {nil, []load.Hollow{spot(0.2, 5, 4), spot(0.4, 5, 5), spot(1, 40, 5)}, 0.6, 0.6},
	} {
		good, bad := judgedOf(in(p, bodyOf)), judgedOf(in(p, bodyOf))
		bad.Steps[0].Box = box
		good.Plan.Hollows, bad.Plan.Hollows = c.was, c.is
		f := Fault{Moved: p}
		assert.InDelta(t, c.want, f.hollow(good, bad), 1e-9, name)
		assert.InDelta(t, c.here, float64(f.What.Values[2].(fact.Litres)), 1e-9, name)
	}
	f := Fault{Moved: p}
	assert.Zero(t, f.hollow(judgedOf(in(p, lidOf)), judgedOf(in(p, lidOf))), "in a pocket there are none")
}

// What comes to hand fifteen seconds later is deep; under nothing, nothing is said to lie over it.
func TestDeepByHand(t *testing.T) {
	t.Parallel()
	p := thing("jacket", 400, kit.Moving)
	good, bad := judgedOf(in(p, lidOf)), judgedOf(in(p, bodyOf))
	good.Steps[0].ReachS, bad.Steps[0].ReachS = 18, 42
	for lifted, want := range map[int]string{0: "practice.in", 1: "practice.under"} {
		bad.Steps[0].LiftedOut = lifted
		f := Fault{Moved: p}
		assert.InDelta(t, 24, f.deep(good, bad), 1e-9)
		assert.Equal(t, want, f.What.Values[1].(fact.Fact).Code)
	}
	assert.Zero(t, (&Fault{Moved: p}).deep(judgedOf(), bad))
	assert.Zero(t, (&Fault{Moved: p}).deep(good, judgedOf()))
}

// What lies over something early counts, of that which it did not lie over before, was not moved itself and lies in
// nothing; the worst off is named.
func TestOverByHand(t *testing.T) {
	t.Parallel()
	tent, map1, jacket, mug := thing("tent", 2000, kit.Camp), thing("map", 80, kit.Moving), thing("jacket", 400, kit.Halt),
		thing("mug", 90, kit.Camp)
	packs := func(seconds ...float64) *verdict.Judged {
		j := judgedOf(in(tent, bodyOf), in(map1, bodyOf), in(jacket, bodyOf), in(mug, bodyOf))
		for i, s := range seconds {
			j.Steps[i].ReachS = s
		}
		return j
	}
	good := packs(90, 20, 20, 30)
	bad := packs(30, 30, 32, 80)
	for i := 1; i < 4; i++ {
		bad.Plan.Placed[i].Over = []kit.Piece{tent}
	}
	moved := []Move{{Item: "tent", Piece: 1}}
	f := Fault{Move: moved[0], Moved: tent}
	assert.InDelta(t, 12, f.over(good, bad, moved), 1e-9, "the mug is for camp")
	assert.Equal(t, fact.Small("jacket"), f.What.Values[1])
	assert.InDelta(t, 10, f.over(good, bad, append(moved, Move{Item: "jacket", Piece: 1})), 1e-9, "the jacket was moved")
	good.Plan.Placed[2].Over = []kit.Piece{tent}
	assert.InDelta(t, 10, f.over(good, bad, moved), 1e-9, "it lay over the jacket before")
	bad.Plan.Placed[1].Inside = "bag"
	assert.Zero(t, f.over(good, bad, moved), "the map lies in a bag")
}

// A thing would get wet where it did not, each piece of a line by itself.
func TestWetByHand(t *testing.T) {
	t.Parallel()
	p := thing("socks", 80, kit.Camp)
	with := func(dry bool, item string, piece int) *verdict.Judged {
		j := judgedOf(in(p, lidOf))
		j.Dry = []verdict.Dry{{Item: item, Piece: piece, Dry: dry}}
		return j
	}
	f := Fault{Move: Move{Item: "socks", Piece: 1}, Moved: p}
	assert.InDelta(t, 1, f.wet(with(true, "socks", 0), with(false, "socks", 0)), 0)
	assert.Equal(t, "practice.wet", f.What.Code)
	assert.Zero(t, f.wet(with(false, "socks", 0), with(false, "socks", 0)), "it was wet before")
	assert.Zero(t, f.wet(with(true, "socks", 0), with(true, "socks", 0)))
	assert.Zero(t, f.wet(with(true, "socks", 0), with(false, "shirt", 0)), "another thing")
	assert.Zero(t, f.wet(with(true, "socks", 0), with(false, "socks", 1)), "another piece")
}

// What it lies against counts once a finding that was not there, and whoever names that has found the fault.
func TestBesideByHand(t *testing.T) {
	t.Parallel()
	p := thing("stove", 200, kit.Camp, kit.Fuel)
	finding := func(code string, items ...string) verdict.Finding {
		return verdict.Finding{Fact: fact.Fact{Code: code}, Items: items}
	}
	safe := func(list ...verdict.Finding) *verdict.Judged {
		j := judgedOf(in(p, bodyOf))
		j.Checks[len(j.Checks)-1].Reasons = list
		return j
	}
	f := Fault{Move: Move{Item: "stove", Piece: 1}, Moved: p}
	there := finding("safe.fuel-by-food", "stove", "bread")
	found := f.beside(safe(there), safe(there, finding("safe.fuel-by-food", "stove", "soup"),
		finding("safe.sharp", "stove", "soup"), finding("safe.sharp", "axe", "mat"), finding("safe.fire", "stove", "tent")))
	assert.InDelta(t, 2, found, 0)
	assert.Equal(t, []string{"soup"}, f.With)
}

// What is worse by less than what counts as a fault says nothing.
func TestWhatIsNoFaultSaysNothing(t *testing.T) {
	t.Parallel()
	p := thing("jacket", 400, kit.Moving)
	for seconds, none := range map[float64]bool{32.9: true, 33: false} {
		good, bad := judgedOf(in(p, lidOf)), judgedOf(in(p, bodyOf))
		good.Steps[0].ReachS, bad.Steps[0].ReachS = 18, seconds
		faults := seen(good, bad, []Move{{Kind: Deep, Item: "jacket", Piece: 1}, {Kind: Deep, Item: "gone", Piece: 1}})
		assert.Equal(t, none, faults[0].What.None(), "%v s against 18", seconds)
		assert.InDelta(t, (seconds-18)/15, faults[0].size, 1e-9)
		assert.True(t, faults[1].What.None(), "what is not in the pack")
	}
}

// Which moves are proposed, of a few things by hand: what is pinned, in something else or a bag stays where it is.
func TestMovesByHand(t *testing.T) {
	t.Parallel()
	zones := []rucksack.Zone{{ID: "body", Kind: rucksack.Body}, {ID: "lid", Kind: rucksack.Lid},
		{ID: "left", Kind: rucksack.Side, AtCm: [3]float64{-20}}, {ID: "front", Kind: rucksack.Front}}
	body, lid, left := &zones[0], &zones[1], &zones[2]
	fuel, bread := thing("gas", 400, kit.Camp, kit.Fuel), thing("bread", 400, kit.Halt, kit.Food)
	knife, water := thing("knife", 100, kit.Need, kit.Sharp), thing("water", 1000, kit.Moving)
	water.Water.Leaks = true
	pot, socks := thing("pot", 500, kit.Camp), thing("socks", 80, kit.Camp)
	socks.Water.Absorbs, socks.Water.Suffers, socks.Shape = true, true, kit.Shape{Kind: kit.Soft, LooseL: 0.3, TightL: 0.3}
	nested, pinned, bag := thing("nested", 900, kit.Moving), thing("pinned", 900, kit.Moving), thing("bag", 900, kit.Moving)
	bag.Kind, pinned.Water.Leaks = kit.KitBag, true
	placed := []load.Placement{in(fuel, body), in(bread, body), in(knife, body), in(pot, body), in(socks, body),
		in(water, left), in(nested, body), in(pinned, body), in(bag, lid)}
	placed[3].VolumeL, placed[0].VolumeL = 0.4, 0.51
	placed[6].Inside, placed[7].Pinned = "pot", true
	s := &spoiler{task: &job.Task{Pack: rucksack.Pack{Zones: zones}}}
	s.judged = &verdict.Judged{Plan: &load.Plan{Placed: placed}}
	for i := range placed {
		s.now = append(s.now, job.Spot{Item: placed[i].Piece.ID, Piece: 1, Zone: placed[i].Zone.ID})
	}
	last := len(placed)
	type move struct {
		item, zone string
		turn       int
	}
	for kind, want := range map[string][]move{
		Deep:   {{"bread", "body", 0}, {"water", "body", 0}},
		Over:   {{"gas", "body", last}},
		Beside: {{"gas", "body", 0}, {"gas", "body", 1}, {"knife", "body", 6}, {"knife", "body", 7}},
		Wet:    {{"socks", "lid", last}, {"socks", "left", last}, {"socks", "front", last}},
		Heavy:  {{"pot", "body", 0}, {"pot", "body", last}, {"pot", "lid", last}, {"pot", "front", last}},
		Sides:  {{"pot", "left", last}},
		Hollow: {{"gas", "body", 0}, {"gas", "body", last / 2}, {"pot", "body", 0}, {"pot", "body", last / 2}},
	} {
		var got []move
		for _, m := range s.propose(kind) {
			assert.Equal(t, kind, m.Kind)
			got = append(got, move{m.Item, m.Zone, m.Turn})
		}
		assert.Equal(t, want, got, kind)
	}
}
