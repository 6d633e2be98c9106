package assign

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// pockets is a pack with one of each zone that prices tell apart; the body's middle is 10 cm behind the spine.
func pockets() rucksack.Pack {
	zone := func(id string, kind rucksack.ZoneKind, litres float64, at [3]float64) rucksack.Zone {
		return rucksack.Zone{ID: id, Name: id, Kind: kind, VolumeL: litres, SizeCm: [3]float64{20, 10, 30}, AtCm: at,
			Weather: rucksack.Covered, Reach: rucksack.Off}
	}
	body := zone("body", rucksack.Body, 30, [3]float64{0, 10, 30})
	body.SizeCm, body.Reach = [3]float64{28, 20, 54}, rucksack.Opened
	mesh := zone("mesh", rucksack.Front, 3, [3]float64{0, 25, 30})
	mesh.Weather = rucksack.Open
	right := zone("right", rucksack.Side, 2, [3]float64{17, 10, 20})
	straps := zone("straps", rucksack.Straps, 8, [3]float64{0, 24, 10})
	straps.Face, straps.Weather, straps.MaxMassG = "bottom", rucksack.Open, 700
	return rucksack.Pack{ID: "p", Zones: []rucksack.Zone{body, zone("bottom", rucksack.Bottom, 10, [3]float64{0, 10, 8}),
		zone("lid", rucksack.Lid, 3, [3]float64{0, 10, 60}), mesh, right, zone("hip", rucksack.Hip, 0.5, [3]float64{18, 5, 10}),
		zone("sleeve", rucksack.Sleeve, 3, [3]float64{0, 2, 30}), straps}}
}

func one(it kit.Item) kit.Piece {
	it.Count, it.Carry = max(1, it.Count), kit.Pack
	return kit.Pieces([]kit.Item{it}, kit.Pack)[0]
}

// of is the price of a thing in a zone, rule by rule.
func of(t *job.Task, it kit.Item, zone string) map[Rule]float64 {
	p := one(it)
	t.Items = append(t.Items, *p.Item)
	a := New(t, []kit.Piece{p}, nil, false)
	prices := map[Rule]float64{}
	for _, term := range terms(t, a.Choices[0], t.Pack.Zone(zone)) {
		prices[term.rule] += term.cost
	}
	return prices
}

func soft(litres float64) kit.Shape {
	return kit.Shape{Kind: kit.Soft, LooseL: litres, TightL: litres, GapCm: 2}
}

// The prices by hand, as docs/model.md gives them: seconds a day.
func TestPricesByHand(t *testing.T) {
	t.Parallel()
	bottle := kit.Shape{Kind: kit.Cylinder, DiameterCm: 8, LengthCm: 25}
	flat := kit.Shape{Kind: kit.Flat, SizeCm: [3]float64{30, 20, 2}}
	tent := func(when kit.When, wet bool, s kit.Shape) kit.Item {
		return kit.Item{Functions: []string{"shelter"}, Use: kit.Use{When: when}, Water: kit.Water{ReturnsWet: wet}, Shape: s}
	}
	for name, c := range map[string]struct {
		it   kit.Item
		zone string
		rule Rule
		want float64
		task func(*job.Task)
	}{
		"a shelter that is to be on top, below": {tent(kit.Arrival, false, soft(3)), "bottom", RuleShelter, 40, shelter("top")},
		"on top it is":                          {tent(kit.Arrival, false, soft(3)), "lid", RuleShelter, 0, shelter("top")},
		"its pegs lie where they like":          {tent(kit.Arrival, false, bottle), "bottom", RuleShelter, 0, shelter("top")},
		"and what of it is wanted later":        {tent(kit.Camp, false, soft(3)), "bottom", RuleShelter, 0, shelter("top")},
		"no shelter at all":                     {kit.Item{Use: kit.Use{When: kit.Arrival}, Shape: soft(3)}, "bottom", RuleShelter, 0, shelter("top")},
		"one that is to be deep, in the lid":    {tent(kit.Arrival, false, soft(3)), "lid", RuleShelter, 150, shelter("deep")},
		"unless it comes back wet":              {tent(kit.Arrival, true, soft(3)), "lid", RuleShelter, 0, shelter("deep")},
		"deep it may lie at the bottom":         {tent(kit.Arrival, false, soft(3)), "bottom", RuleShelter, 0, shelter("deep")},
		"nothing is wanted":                     {kit.Item{MassG: 100, Shape: soft(1)}, "lid", RuleReach, 0, nil},
		"half a litre of two squeezed ones": {kit.Item{Shape: kit.Shape{Kind: kit.Soft, LooseL: 3, TightL: 1}}, "body", RuleRoom,
			0.8 * 2, nil},
		"no room to pay for in a pocket":        {kit.Item{Shape: soft(2)}, "lid", RuleRoom, 0, nil},
		"a kilo 15 cm behind the body's middle": {kit.Item{MassG: 1000, Shape: soft(1)}, "mesh", RuleSwing, 9.81 * 0.15 * 6, nil},
		"before the middle nothing swings":      {kit.Item{MassG: 1000, Shape: soft(1)}, "sleeve", RuleSwing, 0, nil},
		"a kilo above the band of 0.45 to 0.65": {kit.Item{MassG: 1000, Shape: soft(1)}, "lid", RuleHeight,
			9.81 * (60.0/84 - 0.65) * 84 / 100 * 3, nil},
		"a kilo below it":                         {kit.Item{MassG: 1000, Shape: soft(1)}, "hip", RuleHeight, 9.81 * (0.45 - 10.0/84) * 84 / 100 * 3, nil},
		"in the band of those who load low":       {kit.Item{MassG: 1000, Shape: soft(1)}, "body", RuleHeight, 0, schoolOf("low")},
		"a camp thing in the hip pocket":          {kit.Item{Use: kit.Use{When: kit.Camp}, Shape: soft(0.3)}, "hip", RuleCamp, 60, nil},
		"in the lid":                              {kit.Item{Use: kit.Use{When: kit.Camp}, Shape: soft(0.3)}, "lid", RuleCamp, 6, nil},
		"one for need at the side":                {kit.Item{Use: kit.Use{When: kit.Need}, Shape: soft(0.3)}, "right", RuleCamp, 6, nil},
		"in the body it belongs":                  {kit.Item{Use: kit.Use{When: kit.Camp}, Shape: soft(0.3)}, "body", RuleCamp, 0, nil},
		"urgent things may lie anywhere":          {kit.Item{Use: kit.Use{When: kit.Need, Urgent: true}, Shape: soft(0.3)}, "right", RuleCamp, 0, nil},
		"one that comes back wet dries there":     {kit.Item{Use: kit.Use{When: kit.Camp}, Water: kit.Water{ReturnsWet: true}, Shape: soft(0.3)}, "right", RuleCamp, 6, nil},
		"a pen in open mesh":                      {kit.Item{Shape: soft(0.1)}, "mesh", RuleMesh, 300, nil},
		"a jacket in open mesh":                   {kit.Item{Shape: soft(1)}, "mesh", RuleMesh, 0, nil},
		"a radio in open mesh":                    {kit.Item{Traits: []kit.Trait{kit.Electronic}, Shape: soft(1)}, "mesh", RuleMesh, 300, nil},
		"a wet rag slips through and may":         {kit.Item{Water: kit.Water{ReturnsWet: true}, Shape: soft(0.1)}, "mesh", RuleMesh, 0, nil},
		"first aid in the body":                   {kit.Item{Functions: []string{"first-aid"}, Shape: soft(1)}, "body", RuleFound, 400, nil},
		"first aid in the lid":                    {kit.Item{Functions: []string{"first-aid"}, Shape: soft(1)}, "lid", RuleFound, 0, nil},
		"a leaking thing in the rain, shut in":    {kit.Item{Water: kit.Water{Leaks: true}, Shape: soft(1)}, "lid", RuleWet, 40 * 0.75, rain(0.5)},
		"in its sleeve it may leak":               {kit.Item{Water: kit.Water{Leaks: true}, Shape: soft(1)}, "sleeve", RuleWet, 0, rain(0.5)},
		"outside it may leak":                     {kit.Item{Water: kit.Water{Leaks: true}, Shape: soft(1)}, "mesh", RuleWet, 0, rain(0.5)},
		"a full bottle in the body":               {kit.Item{Consumable: "water", Shape: bottle}, "body", RuleWater, 25, nil},
		"in the lid half of it":                   {kit.Item{Consumable: "water", Shape: bottle}, "lid", RuleWater, 12.5, nil},
		"at the side nothing":                     {kit.Item{Consumable: "water", Shape: bottle}, "right", RuleWater, 0, nil},
		"in the lid for those who use bottles":    {kit.Item{Consumable: "water", Shape: bottle}, "lid", RuleWater, 150, water("bottles")},
		"a water bag that is to be in the sleeve": {kit.Item{Consumable: "water", Shape: flat}, "body", RuleWater, 150, water("sleeve")},
		"and is":                   {kit.Item{Consumable: "water", Shape: flat}, "sleeve", RuleWater, 0, water("sleeve")},
		"one that is to be on top": {kit.Item{Consumable: "water", Shape: flat}, "sleeve", RuleWater, 150, water("top")},
		"a foam mat in the body, against the mat": {kit.Item{Traits: []kit.Trait{kit.Foam}, Shape: soft(4)}, "body", RuleMat, 150, nil},
		"under the wrong straps":                  {kit.Item{Traits: []kit.Trait{kit.Foam}, Shape: soft(4)}, "straps", RuleMat, 75, mat("top")},
		"under the right ones":                    {kit.Item{Traits: []kit.Trait{kit.Foam}, Shape: soft(4)}, "straps", RuleMat, 0, mat("bottom")},
		"what must not hang":                      {kit.Item{Shape: soft(4)}, "straps", RuleOutside, 500, mat("bottom")},
		"what may":                                {kit.Item{Traits: []kit.Trait{kit.MayHangOutside}, Shape: soft(4)}, "straps", RuleOutside, 0, outside("light")},
		"not where only foam may":                 {kit.Item{Traits: []kit.Trait{kit.MayHangOutside}, Shape: soft(4)}, "straps", RuleOutside, 500, outside("foam")},
	} {
		task := &job.Task{Pack: pockets(), Method: method.Method{Heavy: "close", Outside: "foam"}}
		if c.task != nil {
			c.task(task)
		}
		c.it.ID, c.it.Name = "it", "It"
		assert.InDelta(t, c.want, of(task, c.it, c.zone)[c.rule], 1e-9, name)
	}
}

func schoolOf(heavy string) func(*job.Task) {
	return func(t *job.Task) { t.Method.Heavy, t.Pack.Zones[0].AtCm[2] = heavy, 30 }
}
func shelter(answer string) func(*job.Task)  { return func(t *job.Task) { t.Method.Shelter = answer } }
func rain(share float64) func(*job.Task)     { return func(t *job.Task) { t.Trip.Rain = share } }
func water(answer string) func(*job.Task)    { return func(t *job.Task) { t.Method.Water = answer } }
func mat(answer string) func(*job.Task)      { return func(t *job.Task) { t.Method.Mat = answer } }
func outside(answer string) func(*job.Task)  { return func(t *job.Task) { t.Method.Outside = answer } }
func lowestIs(answer string) func(*job.Task) { return func(t *job.Task) { t.Method.Lowest = answer } }

// What the school wants lowest is asked into the bottom compartment, and everything but camp things out of it.
func TestWhatBelongsLowest(t *testing.T) {
	t.Parallel()
	things := map[string]kit.Item{
		"sleeping-bag":  {Group: "sleep", Shape: soft(6), Use: kit.Use{When: kit.Camp}},
		"shelter":       {Group: "shelter", Shape: soft(4), Use: kit.Use{When: kit.Arrival}},
		"rain-suit":     {Functions: []string{"rain"}, Shape: soft(1), Use: kit.Use{When: kit.Moving}},
		"spare-clothes": {Group: "clothing", Shape: soft(2), Use: kit.Use{When: kit.Camp}},
	}
	for answer := range things {
		for name, it := range things {
			it.ID = name
			task := func() *job.Task {
				t := &job.Task{Pack: pockets()}
				lowestIs(answer)(t)
				return t
			}
			assert.Equal(t, name == answer, Lowest(task().Method, &it), "%s when %s is asked", name, answer)
			above, below := 0.0, 0.0
			if name == answer {
				above = 40
			} else if it.Use.When != kit.Camp {
				below = 20
			}
			assert.Equal(t, above, of(task(), it, "lid")[RuleLowest], "%s in the lid when %s is asked", name, answer)
			assert.Equal(t, below, of(task(), it, "bottom")[RuleLowest], "%s in the bottom when %s is asked", name, answer)
		}
	}
	mat := kit.Item{Group: "sleep", Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{30, 10, 10}}}
	assert.False(t, Lowest(method.Method{Lowest: "sleeping-bag"}, &mat), "a hard mat is no cushion")
	mat.Shape.Gives = 2
	assert.True(t, Lowest(method.Method{Lowest: "sleeping-bag"}, &mat), "a sack that yields is")
	hurry := kit.Item{Functions: []string{"rain"}, Use: kit.Use{Urgent: true}}
	assert.False(t, Lowest(method.Method{Lowest: "rain-suit"}, &hurry), "what comes out in a hurry lies at hand")
}

// Leaving something out costs its bulk and, what life may hang on, ten times as much. What lies in it goes out
// with it, at a tenth.
func TestLeavingOut(t *testing.T) {
	t.Parallel()
	assert.InDelta(t, 5080, leaveCost(one(kit.Item{Shape: soft(2)})), 1e-9)
	assert.InDelta(t, 10*5080, leaveCost(one(kit.Item{Shape: soft(2), Functions: []string{"warmth"}})), 1e-9)
	assert.InDelta(t, 10*5080, leaveCost(one(kit.Item{Shape: soft(2), Traits: []kit.Trait{kit.Food}})), 1e-9)
	pot := one(kit.Item{ID: "pot", Shape: soft(2)})
	spoon := one(kit.Item{ID: "spoon", Shape: soft(0.5)})
	holds := New(&job.Task{Pack: pockets()}, []kit.Piece{pot}, map[kit.Piece][]kit.Piece{pot: {spoon}}, false)
	assert.InDelta(t, 5080+502, holds.Choices[0].Leave, 1e-9)
}

// A rule that is broken is dearer than the seconds it saves: what must stay dry in the rain, rescue kit apart.
func TestBreaches(t *testing.T) {
	t.Parallel()
	down := kit.Item{ID: "quilt", Shape: soft(2), Water: kit.Water{Absorbs: true, Suffers: true}}
	assert.True(t, dry.Exposed(&down))
	wet := &job.Task{Pack: pockets(), Trip: trail.Trip{Rain: 0.3}}
	assert.Equal(t, 500.0, of(wet, down, "mesh")[RuleRain])
	assert.Zero(t, of(wet, down, "lid")[RuleRain])
	assert.Zero(t, of(&job.Task{Pack: pockets()}, down, "mesh")[RuleRain], "no rain, no breach")

	shovel := kit.Item{ID: "shovel", Shape: soft(2), Traits: []kit.Trait{kit.Rescue}}
	other := kit.Item{ID: "shirt", Shape: soft(1)}
	ski := func() *job.Task {
		t := &job.Task{Pack: pockets()}
		t.Pack.Zone("mesh").RescueUse = true
		return t
	}
	assert.Equal(t, 500.0, of(ski(), shovel, "body")[RuleRescue], "not in one pull")
	assert.Zero(t, of(ski(), other, "mesh")[RuleRescue], "nobody carries rescue kit")
	with := ski()
	with.Items = []kit.Item{*one(shovel).Item}
	assert.Equal(t, 60.0, of(with, other, "mesh")[RuleRescue])
}

// A dry bag has to be opened where a thing needs one and one is owned that is not kept for wet things.
func TestBarriersOnTheWay(t *testing.T) {
	t.Parallel()
	down := kit.Item{ID: "quilt", Shape: soft(2), Water: kit.Water{Absorbs: true, Suffers: true}}
	pan := kit.Item{ID: "pan", Shape: soft(2)}
	for name, c := range map[string]struct {
		it   kit.Item
		bags []dry.Bag
		want int
	}{
		"down in its bag":       {down, []dry.Bag{{ID: "b", Kind: "dry-bag", VolumeL: 8}}, 1},
		"a pan needs none":      {pan, []dry.Bag{{ID: "b", Kind: "dry-bag", VolumeL: 8}}, 0},
		"no bag is owned":       {down, nil, 0},
		"one for wet things":    {down, []dry.Bag{{ID: "b", Kind: "dry-bag", VolumeL: 8, For: "wet"}}, 0},
		"a cover is no dry bag": {down, []dry.Bag{{ID: "b", Kind: "cover", VolumeL: 60}}, 0},
	} {
		task := &job.Task{Pack: pockets(), Bags: c.bags, Trip: trail.Trip{Rain: 0.3}}
		assert.Equal(t, c.want, barriers(task, one(c.it), task.Pack.Zone("mesh")), name)
	}
}

// A tube saves the hands: a water bag in its sleeve is a sip of three seconds, whatever lies over it.
func TestDrunkThroughATube(t *testing.T) {
	t.Parallel()
	bag := kit.Item{ID: "bag", Consumable: "water", MassG: 2000, Use: kit.Use{When: kit.Moving, PerDay: 10},
		Shape: kit.Shape{Kind: kit.Flat, SizeCm: [3]float64{30, 20, 2}}}
	task := &job.Task{Pack: pockets()}
	assert.InDelta(t, 30, of(task, bag, "sleeve")[RuleReach], 1e-9)
	assert.Greater(t, of(task, bag, "body")[RuleReach], 100.0)
	task.Method.Water = "top"
	assert.InDelta(t, 30, of(task, bag, "body")[RuleReach], 1e-9)
	bag.Shape = kit.Shape{Kind: kit.Cylinder, DiameterCm: 8, LengthCm: 25}
	assert.False(t, DrunkThroughTube(task.Method, &bag, task.Pack.Zone("sleeve")), "a bottle has no tube")
}

// A side that pulls harder costs ten seconds a newton-metre, either way.
func TestSides(t *testing.T) {
	t.Parallel()
	pack := pockets()
	assert.InDelta(t, 9.81*0.17, sideMoment(pack.Zone("right"), 1000), 1e-9)
	assert.InDelta(t, 16.677, sideCost(sideMoment(pack.Zone("right"), 1000)), 1e-9)
	assert.InDelta(t, 16.677, sideCost(-1.6677), 1e-9)
	assert.False(t, math.Signbit(sideCost(0)))
}
