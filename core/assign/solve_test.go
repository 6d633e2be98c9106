package assign

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// few draws some things of all sorts, so bulky that they hardly go into a small pack.
func few(t *rapid.T) *job.Task {
	task := &job.Task{Pack: pockets(), Method: method.Method{Heavy: "close", Outside: "foam"}, Trip: trail.Trip{Rain: 0.3}}
	task.Pack.Zones = append(task.Pack.Zones[:1:1], task.Pack.Zones[2], task.Pack.Zones[3], task.Pack.Zones[4])
	task.Pack.Zones[0].VolumeL = rapid.Float64Range(4, 12).Draw(t, "body")
	if rapid.Bool().Draw(t, "shares cloth") {
		task.Pack.Zones[2].DrawsOn = &rucksack.Draw{Zone: "body", Share: rapid.Float64Range(0.2, 1).Draw(t, "share")}
	}
	for i := range rapid.IntRange(2, 6).Draw(t, "things") {
		it := kit.Item{ID: fmt.Sprint(i), Count: 1, Carry: kit.Pack, MassG: rapid.Float64Range(20, 2000).Draw(t, "g"),
			Use: kit.Use{When: rapid.SampledFrom([]kit.When{kit.Moving, kit.Halt, kit.Camp, kit.Need}).Draw(t, "when"),
				PerDay: rapid.Float64Range(0, 6).Draw(t, "uses")}}
		litres := rapid.Float64Range(0.1, 5).Draw(t, "litres")
		it.Shape = kit.Shape{Kind: kit.Soft, LooseL: litres, TightL: litres * rapid.Float64Range(0.4, 1).Draw(t, "tight"), GapCm: 2}
		if rapid.Bool().Draw(t, "stiff") {
			it.Shape = box(litres*3, 8, 8)
		}
		if rapid.Bool().Draw(t, "something") {
			it.Traits = []kit.Trait{rapid.SampledFrom([]kit.Trait{kit.Food, kit.Fuel, kit.Electronic}).Draw(t, "trait")}
			it.Water.ReturnsWet = rapid.Bool().Draw(t, "wet")
		}
		if rapid.Bool().Draw(t, "down") {
			it.Water = kit.Water{Absorbs: true, Suffers: true}
		}
		task.Items = append(task.Items, it)
	}
	return task
}

// What is called proved is the cheapest of all assignments there are, gone through one by one.
func TestNoAssignmentIsCheaper(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		task := few(t)
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.Solve(Thoroughly)
		found := a.Total()
		require.InDelta(t, found, a.Proof.Objective, 1e-6)
		assert.InDelta(t, found, a.Proof.Bound, 1e-6*found, "so few things are proved")
		least := math.Inf(1)
		var all func(i int)
		all = func(i int) {
			if i == len(a.Choices) {
				least = min(least, a.Total())
				return
			}
			for zone := Out; zone < len(a.Zones); zone++ {
				if zone == Out || !math.IsInf(a.Choices[i].Price[zone], 1) {
					a.Put(a.Choices[i], zone)
					all(i + 1)
				}
			}
			a.Put(a.Choices[i], Out)
		}
		for _, c := range a.Choices {
			a.Put(c, Out)
		}
		all(0)
		assert.InDelta(t, least, found, 1e-6*least)
	})
}

// The program says of any assignment what it costs, and that it can be, exactly as the assignment itself does.
func TestTheProgramIsTheAssignment(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		task := few(t)
		task.Pack.Zones = append(task.Pack.Zones, pockets().Zones[7]) // straps, which bear so many grams
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		p := a.toProgram()
		for _, c := range a.Choices {
			zone := rapid.IntRange(Out, len(a.Zones)-1).Draw(t, "zone")
			if zone == Out || !math.IsInf(c.Price[zone], 1) {
				a.Put(c, zone)
			}
		}
		values, cost := p.values(), 0.0
		for i := range p.Columns {
			cost += p.Columns[i].Cost * values[i]
		}
		can := true
		for i := range p.Rows {
			sum := 0.0
			for _, term := range p.Rows[i].Terms {
				sum += term.Factor * values[term.Column]
			}
			can = can && sum >= p.Rows[i].Low-1e-6 && sum <= p.Rows[i].High+1e-6
		}
		assert.Equal(t, !math.IsInf(a.Total(), 1), can)
		if can {
			assert.InDelta(t, a.Total(), cost, 1e-6*(1+cost))
		}
		before := a.ZonesNow()
		p.take(values)
		assert.Equal(t, before, a.ZonesNow(), "and back")
	})
}

// What lies together in a zone is counted, and not any more when it is taken out.
func TestWhatLiesTogether(t *testing.T) {
	t.Parallel()
	items := []kit.Item{
		{ID: "bread", Count: 1, Carry: kit.Pack, MassG: 500, Shape: soft(1), Traits: []kit.Trait{kit.Food}},
		{ID: "gas", Count: 1, Carry: kit.Pack, MassG: 400, Shape: soft(1), Traits: []kit.Trait{kit.Fuel}},
		{ID: "rag", Count: 1, Carry: kit.Pack, MassG: 100, Shape: soft(1), Water: kit.Water{ReturnsWet: true}},
		{ID: "tube", Count: 1, Carry: kit.Pack, MassG: 100, Shape: soft(1), Water: kit.Water{Leaks: true}},
		{ID: "down", Count: 1, Carry: kit.Pack, MassG: 300, Shape: soft(1), Water: kit.Water{Absorbs: true, Suffers: true}},
		{ID: "cased", Count: 1, Carry: kit.Pack, MassG: 300, Shape: soft(1), Water: kit.Water{Absorbs: true, Suffers: true, Case: "IPX8"}},
	}
	task := &job.Task{Pack: pockets(), Items: items}
	task.Pack.Zones[2].VolumeL = 9
	a := New(task, kit.Pieces(items, kit.Pack), nil, false)
	lid := &a.fills[2]
	put := func(ids ...string) float64 {
		for _, c := range a.Choices {
			a.Put(c, Out)
		}
		for _, c := range a.Choices {
			for _, id := range ids {
				if c.ID == id {
					a.Put(c, 2)
				}
			}
		}
		return a.zoneCost(2)
	}
	assert.Equal(t, 500.0, put("bread", "gas"))
	assert.Equal(t, 500.0, put("rag", "down"))
	assert.Equal(t, 500.0, put("tube", "down"))
	assert.Zero(t, put("bread", "rag"))
	assert.Zero(t, put("rag", "cased"), "a case keeps it dry")
	assert.Equal(t, 1000.0, put("bread", "gas", "rag", "down"))
	assert.Equal(t, []int{1, 1, 1, 1, 4}, []int{lid.food, lid.fuel, lid.wet, lid.spoilt, lid.count})
	put()
	assert.Equal(t, fill{}, *lid)
	assert.InDelta(t, 1.0/6, spoiledShare(task), 1e-9, "one of six")
	assert.False(t, carriesRescue(task))
}

// A local search ends where no one move, and no exchange, is cheaper; what it reckons as it goes is what all costs.
func TestALocalSearchEndsInAValley(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		task := few(t)
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.begin()
		before := a.Total()
		require.False(t, math.IsInf(before, 1))
		for _, c := range a.Choices {
			from := c.Zone
			for zone := range a.Zones {
				if !math.IsInf(c.Price[zone], 1) {
					a.Put(c, zone)
					assert.GreaterOrEqual(t, a.Total(), before-1e-6, "thing %s in zone %d", c.ID, zone)
				}
			}
			a.Put(c, from)
		}
		assert.InDelta(t, before, a.Total(), 1e-6)
	})
}

// largeOrSmall is a body that one large thing fills, or ten small ones of a tenth of its room, and what these cost to
// leave out.
func largeOrSmall(litres, leaveLarge, leaveSmall float64) (a *Assignment, large *Choice) {
	task := &job.Task{Pack: pockets()}
	task.Pack.Zones = task.Pack.Zones[:1]
	task.Pack.Zones[0].VolumeL *= 5 / New(task, nil, nil, false).capacity(0)
	for i := range 11 {
		it := kit.Item{ID: fmt.Sprint(i), Count: 1, Carry: kit.Pack, MassG: 100, Shape: soft(0.5)}
		if i == 10 {
			it.Shape = soft(litres)
		}
		task.Items = append(task.Items, it)
	}
	a = New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
	for _, c := range a.Choices {
		c.Leave = leaveSmall
	}
	large = a.Choices[10]
	large.Leave = leaveLarge
	return a, large
}

// One large thing is in, and ten small ones that are worth more together are out: no move, no exchange of two and no
// making room for one gains anything, and the large one is worth its litres best. A kick finds the way there and back.
func TestOneThingForMany(t *testing.T) {
	t.Parallel()
	a, large := largeOrSmall(4.7, 4800, 500)
	a.begin()
	assert.Equal(t, 0, large.Zone)
	assert.InDelta(t, 5000, a.OutCost(), 1e-9, "a valley")
	a.kick()
	assert.Equal(t, Out, large.Zone)
	assert.InDelta(t, 4800, a.OutCost(), 1e-9)

	a, _ = largeOrSmall(4.7, 5200, 500)
	for _, c := range a.Choices[:10] {
		a.Put(c, 0)
	}
	a.improve()
	assert.InDelta(t, 5200, a.OutCost(), 1e-9, "a valley: one thing makes room by four others at most")
	a.kick()
	assert.InDelta(t, 5000, a.OutCost(), 1e-9)
}

// Bulky things first leaves out what together is worth more; what is most worth its litres does not.
func TestWhatIsWorthItsLitresFirst(t *testing.T) {
	t.Parallel()
	a, large := largeOrSmall(5, 4500, 1000)
	a.beginWith((*Choice).urgency)
	assert.Equal(t, 0, large.Zone, "bulky things first")
	a.beginWithWorth(usualPower)
	assert.InDelta(t, 4500, a.OutCost(), 1e-9)
	a.beginWithWorth(0)
	assert.InDelta(t, 4500, a.OutCost(), 1e-9, "what is worse is not taken")

	a, large = largeOrSmall(5, 4500, 1000)
	large.Pin = &job.Pin{Item: large.ID, Zone: "body"}
	a.beginWithWorth(usualPower)
	assert.Equal(t, 0, large.Zone, "what is pinned goes in before anything")
}

func solved(t *testing.T, task *job.Task, from job.Arrangement) *Assignment {
	t.Helper()
	a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
	if from != nil {
		a.Stay(from, 30)
	}
	a.Solve(Thoroughly)
	return a
}

// A pin is kept, and what is pinned where it never goes is stuck.
func TestPinsBindTheAssignment(t *testing.T) {
	t.Parallel()
	task := &job.Task{Pack: pockets(), Pins: []job.Pin{{Item: "jacket", Zone: "lid"}, {Item: "tent", Zone: "hip"}},
		Items: []kit.Item{
			{ID: "jacket", Name: "Jacket", Count: 1, Carry: kit.Pack, Shape: soft(2), Use: kit.Use{When: kit.Camp}},
			{ID: "tent", Name: "Tent", Count: 1, Carry: kit.Pack, Shape: box(40, 12, 12)},
		}}
	a := solved(t, task, nil)
	jacket, tent := a.Choices[0], a.Choices[1]
	assert.Equal(t, "lid", a.Zones[jacket.Zone].ID)
	assert.Equal(t, Out, tent.Zone)
	assert.True(t, tent.Stuck)
	why, least := a.WhyNowhere(tent)
	assert.Equal(t, []string{"load.pinned-never", "load.unpin"}, []string{why.Code, least.Code})
	assert.Equal(t, []int{OfKind(a.Zones, rucksack.Lid)}, a.Cheapest(jacket), "no other zone is open to it")
	assert.Same(t, tent, a.ChoiceOf(tent.Piece))
}

// What is packed already stays, unless it is much better elsewhere: thirty seconds a day here.
func TestWhatIsPackedStays(t *testing.T) {
	t.Parallel()
	map_ := kit.Item{ID: "map", Name: "Map", Count: 1, Carry: kit.Pack, MassG: 80, Shape: soft(0.2), Use: kit.Use{When: kit.Moving}}
	for _, c := range []struct {
		uses float64
		from string
		want string
	}{{0.5, "right", "right"}, {20, "body", "hip"}, {0.5, "", "hip"}} {
		map_.Use.PerDay = c.uses
		task := &job.Task{Pack: pockets(), Items: []kit.Item{map_}}
		task.Pack.Zone("hip").Reach = rucksack.Walking
		a := solved(t, task, job.Arrangement{{Item: "map", Piece: 1, Zone: c.from}})
		assert.Equal(t, c.want, a.Zones[a.Choices[0].Zone].ID, "%v uses a day, packed in %q", c.uses, c.from)
	}
}

// The reason for a zone is the rule that speaks most for it against the body, or that there is no other.
func TestReasonsForAZone(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		it         kit.Item
		rule, zone string
	}{
		"wanted often":     {kit.Item{Shape: soft(0.3), Use: kit.Use{When: kit.Moving, PerDay: 12}}, "reach", "hip"},
		"first aid":        {kit.Item{Shape: soft(0.8), Functions: []string{"first-aid"}}, "companion", "lid"},
		"in a hurry":       {kit.Item{Shape: soft(0.4), Use: kit.Use{When: kit.Need, Urgent: true}}, "urgent", "hip"},
		"too long for all": {kit.Item{Shape: box(52, 5, 5)}, "only", "body"},
	} {
		c.it.ID, c.it.Count, c.it.Carry = "it", 1, kit.Pack
		task := &job.Task{Pack: pockets(), Items: []kit.Item{c.it}}
		task.Pack.Zone("hip").Reach = rucksack.Walking
		a := solved(t, task, nil)
		assert.Equal(t, c.zone, a.Zones[a.Choices[0].Zone].ID, name)
		why, said := a.WhyZone(a.Choices[0])
		assert.True(t, said, name)
		assert.Equal(t, c.rule, why.Rule, name)
	}
}

// That a light thing rides better there is no reason to lay it into the body, and is not said; of a heavy one it is.
func TestALightThingIsNotSaidToRideWell(t *testing.T) {
	t.Parallel()
	for massG, rule := range map[float64]string{lightG - 100: "", 3000: "height"} {
		task := &job.Task{Pack: pockets(), Method: method.Method{Heavy: "close"}, Items: []kit.Item{
			{ID: "it", Name: "It", Count: 1, Carry: kit.Pack, MassG: massG, Shape: soft(0.2)}}}
		task.Pack.Zones = []rucksack.Zone{*task.Pack.Zone("body"), *task.Pack.Zone("lid")}
		task.Pack.Zones[0].AtCm[2] = 50 // in the band of weight that is carried close
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		a.Put(a.Choices[0], 0)
		why, said := a.WhyZone(a.Choices[0])
		assert.Equal(t, rule, why.Rule, "%v g", massG)
		assert.Equal(t, rule != "", said, "%v g", massG)
	}
}

// What is left out and would hang under straps for whoever lets light things ride outside is said so: not what is
// pinned, may hang anyway, is too heavy for the straps or may never hang.
func TestWhatStrapsWouldTake(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		massG   float64
		traits  []kit.Trait
		outside string
		pins    []job.Pin
		want    string
	}{
		"a light mat":            {500, []kit.Trait{kit.MayHangOutside}, "foam", nil, "load.let-hang"},
		"one too heavy for them": {900, []kit.Trait{kit.MayHangOutside}, "foam", nil, ""},
		"one that may hang":      {500, []kit.Trait{kit.MayHangOutside}, "light", nil, ""},
		"one that never may":     {500, nil, "foam", nil, ""},
		"one pinned elsewhere":   {500, []kit.Trait{kit.MayHangOutside}, "foam", []job.Pin{{Item: "it", Zone: "lid"}}, ""},
	} {
		task := &job.Task{Pack: pockets(), Method: method.Method{Outside: c.outside}, Pins: c.pins, Items: []kit.Item{
			{ID: "it", Name: "It", Count: 1, Carry: kit.Pack, MassG: c.massG, Traits: c.traits, Shape: soft(4)}}}
		a := New(task, kit.Pieces(task.Items, kit.Pack), nil, false)
		assert.Equal(t, c.want, a.LetHang(a.Choices[0]).Code, name)
	}
}

// What is broken is said: food beside fuel in a pocket where there is nowhere else, what was to be in a pot and is not.
func TestBrokenRulesAreSaid(t *testing.T) {
	t.Parallel()
	task := &job.Task{Pack: pockets(), Pins: []job.Pin{{Item: "bread", Zone: "lid"}, {Item: "gas", Zone: "lid"}},
		Items: []kit.Item{
			{ID: "bread", Name: "Bread", Count: 1, Carry: kit.Pack, Shape: soft(1), Traits: []kit.Trait{kit.Food}},
			{ID: "gas", Name: "Gas", Count: 1, Carry: kit.Pack, Shape: box(11, 11, 6), Traits: []kit.Trait{kit.Fuel}, NestIn: "pot"},
		}}
	a := solved(t, task, nil)
	of := map[string][]string{}
	for _, b := range a.Broken() {
		of[b.Rule] = b.Items
	}
	assert.Equal(t, map[string][]string{string(RuleFuel): {"bread", "gas"}, RuleNest: {"gas", "pot"}}, of)
	task.Pins = task.Pins[:1]
	task.Items[1].NestIn = ""
	assert.Empty(t, solved(t, task, nil).Broken(), "the gas has somewhere else to go")

	task = &job.Task{Pack: pockets(), Pins: []job.Pin{{Item: "tarp", Zone: "lid"}, {Item: "down", Zone: "lid"}},
		Items: []kit.Item{
			{ID: "tarp", Name: "Tarp", Count: 1, Carry: kit.Pack, Shape: soft(1), Water: kit.Water{ReturnsWet: true}},
			{ID: "down", Name: "Down", Count: 1, Carry: kit.Pack, Shape: soft(1), Water: kit.Water{Absorbs: true, Suffers: true}},
			{ID: "map", Name: "Map", Count: 1, Carry: kit.Pack, Shape: soft(0.1), Use: kit.Use{When: kit.Moving, PerDay: 9}},
		}}
	wet := solved(t, task, nil).Broken()
	require.Len(t, wet, 1)
	assert.Equal(t, "load.wet-by-dry", wet[0].Why.Code)
	assert.ElementsMatch(t, []string{"tarp", "down"}, wet[0].Items)
}
