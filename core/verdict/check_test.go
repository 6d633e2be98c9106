package verdict

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// codes are the facts of a check's reasons, in order.
func codes(c Check) (list []string) {
	for _, r := range c.Reasons {
		list = append(list, r.Code)
	}
	return list
}

// How heavy a pack may be, by hand: a quarter of the body goes without a word, three tenths with a look; children a
// fifth and a quarter (common practice). No one lifts more than 25 kg alone; a harness has its own word.
func TestWeightByHand(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		share   float64
		age     int
		assumed bool
		massG   float64
		comfort float64
		state   CheckState
		says    []string
	}{
		"a quarter":                 {0.25, 40, false, 15_000, 0, Settled, []string{"weight.within"}},
		"above a quarter":           {0.251, 40, false, 15_000, 0, Look, []string{"weight.above-common"}},
		"three tenths":              {0.30, 40, false, 15_000, 0, Look, []string{"weight.above-common"}},
		"above three tenths":        {0.301, 40, false, 15_000, 0, Stop, []string{"weight.above-upper"}},
		"a body that is assumed":    {0.25, 40, true, 15_000, 0, Settled, []string{"weight.no-body"}},
		"too much for such a body":  {0.31, 40, true, 15_000, 0, Look, []string{"weight.no-body"}},
		"sixteen is grown up":       {0.21, 16, false, 9_000, 0, Settled, []string{"weight.within"}},
		"a child with a fifth":      {0.20, 15, false, 5_000, 0, Settled, []string{"weight.child"}},
		"a child with more":         {0.21, 15, false, 5_000, 0, Look, []string{"weight.child"}},
		"a child with a quarter":    {0.25, 8, false, 5_000, 0, Look, []string{"weight.child"}},
		"a child with too much":     {0.26, 8, false, 5_000, 0, Stop, []string{"weight.child"}},
		"25 kg are lifted":          {0.2, 40, false, 25_000, 0, Settled, []string{"weight.within"}},
		"more by two":               {0.2, 40, false, 25_001, 0, Look, []string{"weight.within", "weight.heavy-lift"}},
		"as much as the harness":    {0.2, 40, false, 13_500, 12_000, Settled, []string{"weight.within"}},
		"more than the harness":     {0.2, 40, false, 13_501, 12_000, Look, []string{"weight.within", "weight.harness"}},
		"too heavy stays a stop":    {0.4, 40, false, 30_000, 12_000, Stop, []string{"weight.above-upper", "weight.heavy-lift", "weight.harness"}},
		"a harness of which nobody": {0.2, 40, false, 24_000, 0, Settled, []string{"weight.within"}},
	} {
		task := &job.Task{Pack: rucksack.Pack{MassG: 1500, ComfortLoadG: c.comfort},
			Trip: trail.Trip{Carrier: trail.Carrier{MassKg: 70, Age: c.age}, BodyAssumed: c.assumed}}
		check := weightCheck(task, &load.Plan{}, Balance{MassG: c.massG, BodyShare: c.share})
		assert.Equal(t, c.state, check.State, name)
		assert.Equal(t, c.says, codes(check), name)
		assert.Equal(t, c.assumed, check.Detail.None(), "%s: no share of a body that nobody has weighed", name)
	}
	heavy := weightCheck(&job.Task{Trip: trail.Trip{Carrier: trail.Carrier{MassKg: 120, Age: 40}}}, &load.Plan{},
		Balance{MassG: 26_000, BodyShare: 0.2})
	assert.Contains(t, fmt.Sprint(heavy.Reasons), "weight.heavy-lift [26000 25]")
	out := &load.Plan{LeftOut: []load.LeftOut{{}}}
	check := weightCheck(&job.Task{Trip: trail.Trip{Carrier: trail.Carrier{MassKg: 70, Age: 40}}}, out, Balance{})
	assert.Contains(t, codes(check), "weight.without")
}

func piece(id string) kit.Piece {
	return kit.Pieces([]kit.Item{{ID: id, Name: id, Count: 1, Carry: kit.Pack}}, kit.Pack)[0]
}

// What the check of fit says of a plan, by hand.
func TestFitByHand(t *testing.T) {
	t.Parallel()
	task := &job.Task{Items: []kit.Item{{ID: "tent", Name: "Tent"}}}
	out := []load.LeftOut{{Piece: piece("tent"), Why: fact.Of("load.no-room"), LeastChange: fact.Of("load.unpin")}}
	full := rucksack.Zone{ID: "body", Name: "Body"}
	for name, c := range map[string]struct {
		plan   load.Plan
		state  CheckState
		figure string
		detail string
		says   []string
	}{
		"all loose": {load.Plan{State: assign.Roomy}, Settled, "fit.state", "", []string{"fit.loose"}},
		"crammed":   {load.Plan{State: assign.Crammed, Squeeze: 0.8}, Look, "fit.state", "", []string{"fit.crammed"}},
		"squeezed":  {load.Plan{State: assign.Squeezed}, Settled, "fit.state", "", []string{"fit.loose"}},
		"out":       {load.Plan{State: assign.TooMuch, LeftOut: out, OverL: 3}, Stop, "fit.out", "fit.over", []string{"fit.left-out"}},
		"out, and no litres would do": {load.Plan{State: assign.TooMuch, LeftOut: out}, Stop, "fit.out", "",
			[]string{"fit.left-out"}},
		"a pin that is not kept": {load.Plan{Broken: []assign.Broken{{Rule: string(assign.RulePin), Why: fact.Of("load.unpin")}}}, Look,
			"fit.state", "", []string{"load.unpin"}},
		"a rule that is safety's": {load.Plan{Broken: []assign.Broken{{Rule: string(assign.RuleFuel), Why: fact.Of("load.unpin")}}}, Settled,
			"fit.state", "", []string{"fit.loose"}},
		"sure":         {load.Plan{Sure: &load.Confidence{Share: 0.996, MeasureNext: "tent"}}, Settled, "fit.in-100", "fit.state", []string{"fit.sure"}},
		"nearly sure":  {load.Plan{Sure: &load.Confidence{Share: 0.8, MeasureNext: "tent"}}, Settled, "fit.in-100", "fit.state", []string{"fit.sure-measure"}},
		"not so sure":  {load.Plan{Sure: &load.Confidence{Share: 0.79, MeasureNext: "tent"}}, Look, "fit.in-100", "fit.state", []string{"fit.sure-measure"}},
		"none to ask":  {load.Plan{Sure: &load.Confidence{Share: 0.79}}, Look, "fit.in-100", "fit.state", []string{"fit.sure"}},
		"surely not":   {load.Plan{Sure: &load.Confidence{Share: 0.004, MeasureNext: "tent"}}, Look, "fit.in-100", "fit.state", []string{"fit.sure"}},
		"three spots":  {load.Plan{Hollows: make([]load.Hollow, 4)}, Settled, "fit.state", "", []string{"fit.hollow", "fit.hollow", "fit.hollow"}},
		"a full zone":  {load.Plan{Zones: []assign.ZoneFill{{Zone: &full, Squeeze: 0.1, Pieces: make([]kit.Piece, 1)}}}, Settled, "fit.state", "", []string{"fit.zone"}},
		"a loose zone": {load.Plan{Zones: []assign.ZoneFill{{Zone: &full, Pieces: make([]kit.Piece, 1)}}}, Settled, "fit.state", "", []string{"fit.loose"}},
		"an empty one": {load.Plan{Zones: []assign.ZoneFill{{Zone: &full, Squeeze: 0.1}}}, Settled, "fit.state", "", []string{"fit.loose"}},
	} {
		check := fitCheck(task, &c.plan)
		assert.Equal(t, c.state, check.State, name)
		assert.Equal(t, c.figure, check.Figure.Code, name)
		assert.Equal(t, c.detail, check.Detail.Code, name)
		assert.Equal(t, c.says, codes(check), name)
		if sure := c.plan.Sure; sure != nil {
			assert.Contains(t, fmt.Sprint(check.Reasons[0].Fact), fmt.Sprint("[", 100*sure.Share), name)
		}
	}
}

// How a pack rides, by hand: in its band to half a hundredth, sides apart by less than 400 g, standing from five
// degrees.
func TestRideByHand(t *testing.T) {
	t.Parallel()
	good := Balance{Band: [2]float64{0.45, 0.65}, Height: 0.5, Stands: true, TipDeg: 9}
	for name, c := range map[string]struct {
		change func(*Balance)
		state  CheckState
		says   []string
	}{
		"in the band":          {func(*Balance) {}, Settled, []string{"balance.where", "balance.sides", "balance.stands"}},
		"at its foot":          {func(b *Balance) { b.Height = 0.446 }, Settled, []string{"balance.where"}},
		"below it":             {func(b *Balance) { b.Height = 0.444 }, Look, []string{"balance.too-low"}},
		"at its top":           {func(b *Balance) { b.Height = 0.654 }, Settled, []string{"balance.where"}},
		"above it":             {func(b *Balance) { b.Height = 0.656 }, Look, []string{"balance.too-high"}},
		"a little to the left": {func(b *Balance) { b.SideG = -399 }, Settled, []string{"balance.sides"}},
		"right":                {func(b *Balance) { b.SideG = 400 }, Look, []string{"balance.right-heavy"}},
		"left":                 {func(b *Balance) { b.SideG = -400 }, Look, []string{"balance.left-heavy"}},
		"falls over":           {func(b *Balance) { b.Stands = false }, Look, []string{"balance.tips"}},
	} {
		b := good
		c.change(&b)
		check := balanceCheck(b)
		assert.Equal(t, c.state, check.State, name)
		assert.Subset(t, codes(check), c.says, name)
		assert.Len(t, check.Reasons, 4, name)
	}
	pack := rucksack.Pack{Zones: []rucksack.Zone{{Kind: rucksack.Body, SizeCm: [3]float64{30, 20, 50}}}}
	assert.Equal(t, 30.0, SidesApart(&pack), "the width of the body where there are no side pockets")
	for x, kind := range map[float64]rucksack.ZoneKind{-17: rucksack.Side, 18: rucksack.Side, 25: rucksack.Hip} {
		pack.Zones = append(pack.Zones, rucksack.Zone{Kind: kind, AtCm: [3]float64{x}})
	}
	assert.Equal(t, 35.0, SidesApart(&pack))
}

// The kit in sums, by hand: what is worn and in the hand apart, base weight without what is eaten, burnt and drunk.
func TestKitSumsByHand(t *testing.T) {
	t.Parallel()
	shape := kit.Shape{Kind: kit.Soft, LooseL: 3, TightL: 2}
	k := KitOf([]kit.Item{
		{Count: 2, MassG: 500, Carry: kit.Pack, Shape: shape},
		{Count: 1, MassG: 800, Carry: kit.Pack, Consumable: "food"},
		{Count: 1, MassG: 900, Carry: kit.Worn}, {Count: 2, MassG: 230, Carry: kit.Hand},
		{Count: 1, MassG: 70, Carry: kit.Left},
	}, &rucksack.Pack{MassG: 1500})
	assert.Equal(t, Sum{MassG: 1800, LooseL: 6, TightL: 4, Pieces: 3}, k.Packed)
	assert.Equal(t, []float64{900, 460, 70}, []float64{k.Worn.MassG, k.Hand.MassG, k.Left.MassG})
	assert.Equal(t, []float64{2500, 800}, []float64{k.BaseG, k.ConsumableG})
	assert.Equal(t, []float64{1.2, 0.1}, []float64{round1(1.24), rounded([3]float64{0.126})[0]})
}

// A stop is never softened, and a look not by what needs nothing.
func TestStatesOnlyRise(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		raised []CheckState
		want   CheckState
	}{{[]CheckState{Settled, Look, Settled}, Look}, {[]CheckState{Look, Stop, Look}, Stop},
		{[]CheckState{Settled}, Settled}, {[]CheckState{Stop, Settled}, Stop}} {
		check := Check{State: Settled}
		for _, s := range c.raised {
			check.raise(s, fact.Of("fit.loose"))
		}
		assert.Equal(t, c.want, check.State, c.raised)
	}
}

// What comes to hand in time, by hand: up to half a minute is well, up to a minute wants a look, more is too late; the
// figure is the slowest of what is urgent, and what is not urgent has no say. With nothing urgent it is said how
// quickly the nearest zone gives something.
func TestReachByHand(t *testing.T) {
	t.Parallel()
	zone := rucksack.Zone{ID: "lid", Name: "Lid", Kind: rucksack.Lid}
	task := &job.Task{Pack: rucksack.Pack{Zones: []rucksack.Zone{{ID: "body", Name: "Body", Kind: rucksack.Body}, zone}}}
	step := func(name string, urgent bool, seconds float64, lifted int) Step {
		it := &kit.Item{ID: name, Name: name, Count: 1, Carry: kit.Pack, Use: kit.Use{Urgent: urgent}}
		lies := &load.Placement{Piece: kit.Piece{Item: it, Number: 1}, Zone: &zone}
		return Step{Placement: lies, ReachS: seconds, LiftedOut: lifted}
	}
	for name, c := range map[string]struct {
		steps          []Step
		state          CheckState
		figure, reason string
	}{
		"in time":    {[]Step{step("shell", true, 30, 0), step("book", false, 300, 9)}, Settled, "reach.seconds [30", "reach.urgent [shell 30"},
		"a look":     {[]Step{step("shell", true, 60, 2), step("kit", true, 12, 0)}, Look, "reach.seconds [60", "reach.urgent-under [shell 60"},
		"too late":   {[]Step{step("kit", true, 12, 0), step("shell", true, 61, 2)}, Stop, "reach.seconds [61", "reach.too-late"},
		"not urgent": {[]Step{step("book", false, 300, 9)}, Settled, "reach.nothing-urgent", "reach.none-marked"},
	} {
		check := reachCheck(task, c.steps)
		assert.Equal(t, c.state, check.State, name)
		assert.Contains(t, fmt.Sprint(check.Figure), c.figure, name)
		assert.Contains(t, fmt.Sprint(check.Reasons), c.reason, name)
	}
	lid, body := reach.Seconds(&zone, 0, 0), reach.Seconds(&task.Pack.Zones[0], 0, 0)
	assert.NotEqual(t, lid, body)
	assert.InDelta(t, min(lid, body), quickest(&task.Pack), 1e-12)
	slices.Reverse(task.Pack.Zones)
	assert.InDelta(t, min(lid, body), quickest(&task.Pack), 1e-12, "whichever is named first")
}

// What is lifted out before a thing, by hand: a bag with all that is in it once, the bag that the thing itself is in
// not at all, and every loose thing.
func TestLiftedByHand(t *testing.T) {
	t.Parallel()
	own, other := &dry.Bag{ID: "own"}, &dry.Bag{ID: "other"}
	sock, hat, book, map1, map2, shell := piece("sock"), piece("cap"), piece("book"), piece("map-1"), piece("map-2"), piece("shell")
	b := &bagging{in: map[kit.Piece]*dry.Bag{sock: own, hat: own, map1: other, map2: other}}
	for want, over := range [][]kit.Piece{{}, {map1, map2}, {map1, hat, shell, map2}, {shell, book, map1, hat}} {
		assert.Equal(t, want, b.lifted(&load.Placement{Piece: sock, Over: over}), "%d", want)
	}
	assert.Equal(t, 1, b.lifted(&load.Placement{Piece: shell, Over: []kit.Piece{sock, hat}}), "a loose thing under one bag")
}
