package load_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/bundle"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/demo"
	"tornister/internal/sample"
)

// walker is the demo kit, freshly read.
func walker(t testing.TB) *job.Task {
	return taskOf(t, demo.LoneWalker)
}

func item(task *job.Task, id string) *kit.Item {
	for i := range task.Items {
		if task.Items[i].ID == id {
			return &task.Items[i]
		}
	}
	return nil
}

func placed(t testing.TB, plan *load.Plan, id string) load.Placement {
	for _, p := range plan.Placed {
		if p.Piece.ID == id {
			return p
		}
	}
	require.Fail(t, "not placed", id)
	return load.Placement{}
}

// kit of up to so many lines out of the generic kinds; the same seed gives the same kit. Planning takes too long for
// the usual hundred draws of a property.
func kitOf(seed, most int) []kit.Item {
	return rapid.Custom(func(t *rapid.T) []kit.Item { return drawKit(t, most) }).Example(seed)
}

func drawKit(t *rapid.T, most int) []kit.Item {
	n := rapid.IntRange(most/4, most).Draw(t, "lines")
	items := make([]kit.Item, n)
	for i := range items {
		k := rapid.SampledFrom(kit.Kinds).Draw(t, "kind")
		items[i] = kit.Item{ID: fmt.Sprintf("%s-%d", k.ID, i), Name: k.Name, Kind: k.ID, Group: k.Group,
			Count: rapid.IntRange(1, 2).Draw(t, "count"),
			MassG: k.MassG, Shape: k.Shape, Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits,
			Functions: k.Functions}
	}
	return items
}

// describe writes a plan so that two plans can be compared.
func describe(plan *load.Plan) []string {
	var lines []string
	for _, p := range plan.Placed {
		lines = append(lines, fmt.Sprint(p.Piece.ID, p.Piece.Number, " in ", p.Zone.ID, p.Lane, p.Inside))
	}
	for _, l := range plan.LeftOut {
		lines = append(lines, fmt.Sprint(l.Piece.ID, l.Piece.Number, " out"))
	}
	return lines
}

// sticksOut reports whether a thing on straps above or below is longer than they are, and not beyond the elbows.
func sticksOut(p *load.Placement) bool {
	sides := p.Zone.Sides()
	sides[0] = 55
	return p.Zone.Kind == rucksack.Straps && (p.Zone.Face == "top" || p.Zone.Face == "bottom") &&
		p.Piece.Shape.Within(sides)
}

func TestEveryPieceOnceAndNoZoneOverfull(t *testing.T) {
	t.Parallel()
	base := walker(t)
	for seed := range sample.Of(t, 5, 16) {
		task := *base
		task.Items = kitOf(seed, 45)
		plan := load.Make(&task, load.Options{Seed: 1, Quick: true})
		seen := map[string]int{}
		tight := map[string]float64{}
		for _, p := range plan.Placed {
			seen[p.Piece.Key()]++
			if p.Inside == "" {
				sides := p.Piece.Shape.Dimensions()
				inside := 1.0 // what stands out above the rim takes none of the litres below it
				if p.OutCm > 0 {
					inside -= p.OutCm / sides[0]
				}
				tight[p.Zone.ID] += inside * p.Piece.Shape.Litres(1)
				if p.Piece.Shape.Kind != kit.Soft {
					assert.True(t, p.Piece.Shape.Within(p.Zone.Sides()) || bulges(&p) || sticksOut(&p) || plan.Open &&
						p.Zone.Solid(), "%s in %s", p.Piece.ID, p.Zone.ID)
				}
			}
			assert.NotEmpty(t, p.Reasons, p.Piece.ID)
		}
		for _, l := range plan.LeftOut {
			seen[l.Piece.Key()]++
			assert.NotEmpty(t, l.Why)
			assert.NotEmpty(t, l.LeastChange)
		}
		for _, p := range kit.Pieces(task.Items, kit.Pack) {
			assert.Equal(t, 1, seen[p.Key()], p.Key())
		}
		for i := range task.Pack.Zones {
			z := &task.Pack.Zones[i]
			if z.Kind != rucksack.Straps && !(plan.Open && z.Solid()) {
				assert.LessOrEqual(t, tight[z.ID], z.CapacityL()+1e-6, z.ID)
			}
		}
		assert.Equal(t, len(plan.LeftOut) == 0, plan.Fits())
	}
}

// bulges reports whether a thing is in a pocket of which it presses the cloth out: a round thing whose circumference
// is that of the pocket's section at most, or one that stands out of a side pocket (common practice).
func bulges(p *load.Placement) bool {
	s, size := p.Piece.Shape, p.Zone.SizeCm
	if p.Zone.Solid() || p.Zone.Kind == rucksack.Straps {
		return false
	}
	if p.OutCm > 0 {
		return p.Zone.Kind == rucksack.Side && p.OutCm <= s.Dimensions()[0]/3+1e-9
	}
	slices.Sort(size[:])
	return s.Round() && s.LengthCm <= size[2] && math.Pi*s.DiameterCm <= 2*(size[1]+size[2]) &&
		s.DiameterCm <= 1.25*size[1]
}

func TestShufflingTheListChangesNothing(t *testing.T) {
	t.Parallel()
	base := walker(t)
	want := describe(load.Make(base, load.Options{Seed: 1, Quick: true}))
	for seed := range uint64(6) {
		task := *base
		task.Items = slices.Clone(base.Items)
		rand.New(rand.NewPCG(seed, 1)).Shuffle(len(task.Items),
			func(i, j int) { task.Items[i], task.Items[j] = task.Items[j], task.Items[i] })
		assert.Equal(t, want, describe(load.Make(&task, load.Options{Seed: 1, Quick: true})))
	}
}

func TestMoreThanTheRoomNeverFits(t *testing.T) {
	t.Parallel()
	base := walker(t)
	room := 0.0
	for i := range base.Pack.Zones {
		if z := &base.Pack.Zones[i]; z.Kind != rucksack.Straps {
			room += z.CapacityL()
		}
	}
	for seed := range sample.Of(t, 3, 10) {
		task := *base
		task.Items = kitOf(seed, 70)
		need := 0.0
		for _, p := range kit.Pieces(task.Items, kit.Pack) {
			if !p.Has(kit.Foam) {
				need += p.Shape.Litres(1)
			}
		}
		if plan := load.Make(&task, load.Options{Seed: 1, Quick: true}); need > room {
			assert.False(t, plan.Fits(), "%.1f L into %.1f L", need, room)
		}
	}
}

// The rules of the trade on the demo kit; all of them common practice.
func TestTradeRulesOnTheLoneWalker(t *testing.T) {
	t.Parallel()
	_, plan := thorough(t, demo.LoneWalker)
	require.True(t, plan.Fits())
	assert.Empty(t, plan.Broken)
	zone := func(id string) rucksack.ZoneKind { return placed(t, plan, id).Zone.Kind }
	assert.Equal(t, rucksack.Bottom, zone("sleeping-bag"), "what only camp needs is deep")
	assert.Equal(t, rucksack.Sleeve, zone("water-bag"), "school: water in the sleeve")
	assert.True(t, placed(t, plan, "shell").Zone.OnePull(), "rain shell always at hand")
	assert.True(t, placed(t, plan, "first-aid").Zone.OnePull(), "first aid at hand")
	assert.True(t, placed(t, plan, "map").Zone.OnePull(), "map at hand")
	assert.Equal(t, rucksack.Straps, zone("foam-mat"), "outside only foam")
	assert.Equal(t, "pot", placed(t, plan, "gas").Inside, "the canister goes into the pot")
	assert.NotEqual(t, rucksack.Bottom, zone("fly"), "a wet fly does not lie with the down bag")
	var sides []string
	for _, p := range plan.Placed {
		if p.Piece.ID == "bottle" {
			sides = append(sides, p.Zone.Side)
		}
	}
	assert.ElementsMatch(t, []string{"left", "right"}, sides, "sides balance: two bottles, one each side")
	for _, p := range plan.Placed {
		if p.Zone.Weather == rucksack.Open {
			assert.NotContains(t, []string{"sleeping-bag", "sleep-clothes", "warm-jacket", "inner"}, p.Piece.ID,
				"what must stay dry is not in open mesh")
		}
	}
}

// thorough is the usual thorough plan of a demo kit, made once for all tests that look at it.
func thorough(t testing.TB, text []byte) (*job.Task, *load.Plan) {
	made, _ := thoroughPlans.LoadOrStore(string(text), sync.OnceValue(func() *planned {
		b, err := bundle.Read(text)
		if err != nil {
			return &planned{err: err}
		}
		return &planned{&b.Task, load.Make(&b.Task, load.Options{Seed: 1}), nil}
	}))
	p := made.(func() *planned)()
	require.NoError(t, p.err)
	return p.task, p.plan
}

type planned struct {
	task *job.Task
	plan *load.Plan
	err  error
}

// little effort goes into an order where a test looks at what is decided before that, or is plain.
const little = 0.05

var thoroughPlans sync.Map // by text, a func() *planned

func TestPins(t *testing.T) {
	t.Parallel()
	task := walker(t)
	task.Pins = []job.Pin{{Item: "shell", Zone: "lid"}, {Item: "inner", Zone: "body", Place: 1},
		{Item: "sleep-clothes", Zone: "front"}}
	plan := load.Make(task, load.Options{Seed: 1, Quick: true})
	assert.Equal(t, "lid", placed(t, plan, "shell").Zone.ID)
	assert.True(t, placed(t, plan, "shell").Pinned)
	first := slices.IndexFunc(plan.Placed, func(p load.Placement) bool { return p.Zone.Kind == rucksack.Body })
	assert.Equal(t, "inner", plan.Placed[first].Piece.ID)
	require.Len(t, plan.Broken, 1, "dry things pinned into the rain are said so, not moved")
	assert.Equal(t, []string{"sleep-clothes"}, plan.Broken[0].Items)
}

func TestPinThatCannotBeKeptLeavesTheThingOut(t *testing.T) {
	t.Parallel()
	task := walker(t)
	task.Pins = []job.Pin{{Item: "poles", Zone: "hip-left"}}
	plan := load.Make(task, load.Options{Seed: 1, Quick: true})
	require.Len(t, plan.LeftOut, 1)
	assert.Equal(t, "poles", plan.LeftOut[0].Piece.ID)
	assert.Contains(t, fmt.Sprint(plan.LeftOut[0].Why), "Left hip pocket")
	assert.Equal(t, fact.Of("load.unpin"), plan.LeftOut[0].LeastChange)
}

func TestTooLongForAnyPose(t *testing.T) {
	t.Parallel()
	task := walker(t)
	task.Items = append(task.Items, kit.Item{ID: "ski", Name: "Ski", Count: 1, Carry: kit.Pack, MassG: 1500,
		Shape: kit.Shape{Kind: kit.Box, SizeCm: [3]float64{170, 10, 2}}})
	plan := load.Make(task, load.Options{Seed: 1, Quick: true})
	require.Len(t, plan.LeftOut, 1)
	assert.Contains(t, fmt.Sprint(plan.LeftOut[0].Why), "170")
	assert.Zero(t, plan.OverL, "litres would not help")
}

func TestOverfullSaysHowMuch(t *testing.T) {
	t.Parallel()
	task := walker(t)
	item(task, "sleeping-bag").Shape.LooseL, item(task, "sleeping-bag").Shape.TightL = 30, 28
	plan := load.Make(task, load.Options{Seed: 1, Effort: little, Quick: sample.Small()})
	require.False(t, plan.Fits())
	assert.Positive(t, plan.OverL)
	grown := *task
	grown.Pack.Zones = slices.Clone(task.Pack.Zones)
	body := grown.Pack.Of(rucksack.Body)
	search := 1.0
	if sample.Small() {
		search = 3
	}
	more := (body.CapacityL() + plan.OverL + search) / body.CapacityL()
	body.SizeCm[2] *= more
	body.CollarCm *= more
	body.VolumeL *= more
	larger := load.Make(&grown, load.Options{Seed: 1, Effort: little})
	assert.True(t, larger.Fits(), "a body larger by over_l, and a litre for the search or three for a short one, takes it")
}

// Kits of 30 to 240 things in packs that grow with them, for docs/speed.md.
func BenchmarkThings(b *testing.B) {
	for _, n := range []int{30, 60, 120, 240} {
		task := walker(b)
		var items []kit.Item
		litres := 0.0
		for seed := 0; len(items) < n; seed++ {
			for _, it := range kitOf(seed, 60) {
				if len(items) < n && !it.Has(kit.Foam) && it.Shape.Dimensions()[0] < 30 {
					it.ID, it.Count = fmt.Sprintf("%s-%03d", it.Kind, len(items)), 1
					items = append(items, it)
					litres += it.Shape.Litres(0.5)
				}
			}
		}
		task.Items = items
		body := task.Pack.Of(rucksack.Body)
		task.Pack = task.Pack.Grown(body.SizeCm[2] * (1.25*litres/body.VolumeL - 1))
		for name, quick := range map[string]bool{"first": true, "best": false} {
			b.Run(fmt.Sprintf("%s/%d", name, n), func(b *testing.B) {
				for b.Loop() {
					load.Make(task, load.Options{Seed: 1, Quick: quick, Sure: !quick})
				}
			})
		}
	}
}

func BenchmarkFirstAnswer(b *testing.B) {
	task := walker(b)
	for b.Loop() {
		load.Make(task, load.Options{Seed: 1, Quick: true})
	}
}

func BenchmarkBestPlan(b *testing.B) {
	task := walker(b)
	for b.Loop() {
		load.Make(task, load.Options{Seed: 1, Sure: true})
	}
}

// The order search from twelve seeds: the median of the bill in seconds a day, and how far the seeds lie apart.
func BenchmarkSeeds(b *testing.B) {
	kits := map[string]func(b *testing.B) *job.Task{
		"ski tour":    func(b *testing.B) *job.Task { return taskOf(b, demo.SkiTour) },
		"lone walker": func(b *testing.B) *job.Task { return taskOf(b, demo.LoneWalker) },
		"touring": func(b *testing.B) *job.Task {
			return packed(b, "upland-52", with(camp, "fleece", "food-day", "food-day", "bottle"))
		},
	}
	for name, kit := range kits {
		b.Run(name, func(b *testing.B) {
			var bills, all []float64 // of the order, and with the zones
			for b.Loop() {
				bills, all = bills[:0], all[:0]
				for seed := range int64(12) {
					plan := load.Make(kit(b), load.Options{Seed: seed + 1})
					bills, all = append(bills, plan.Bill), append(all, plan.Bill+plan.Proof.Objective)
				}
			}
			slices.Sort(bills)
			b.ReportMetric(100*(slices.Max(all)-slices.Min(all))/slices.Min(all), "%apart-with-zones")
			b.ReportMetric((bills[5]+bills[6])/2, "s/day")
			b.ReportMetric(100*(bills[11]-bills[0])/bills[0], "%apart")
		})
	}
}

// taskOf is the task of a bundle.
func taskOf(t testing.TB, text []byte) *job.Task {
	b, err := bundle.Read(text)
	require.NoError(t, err)
	return &b.Task
}

// What is left out and was never measured is to be looked at first; what somebody has measured is not doubted.
func TestAGuessIsSaidFirst(t *testing.T) {
	t.Parallel()
	for code, shape := range map[string]kit.Shape{
		"load.guessed-size":   {Kind: kit.Box, SizeCm: [3]float64{60, 40, 40}},
		"load.guessed-shape":  {Kind: kit.Lump, SizeCm: [3]float64{60, 40, 40}, VolumeL: 80},
		"load.guessed-litres": {Kind: kit.Soft, LooseL: 90, TightL: 60, GapCm: 2},
	} {
		it := kit.Item{ID: "big", Name: "Big", Count: 1, MassG: 900, Carry: kit.Pack, Shape: shape, Measured: kit.Guess}
		plan := load.Make(boxTask(28, 20, 40, []kit.Item{it}), load.Options{Seed: 1, Quick: true})
		require.Len(t, plan.LeftOut, 1)
		assert.Equal(t, code, plan.LeftOut[0].Guess().Code)
		it.Traits = []kit.Trait{kit.Hard}
		plan = load.Make(boxTask(28, 20, 40, []kit.Item{it}), load.Options{Seed: 1, Quick: true})
		assert.NotEqual(t, "load.guessed-shape", plan.LeftOut[0].Guess().Code, "nobody stuffs a hard thing")
		it.Measured = kit.Dimensions
		plan = load.Make(boxTask(28, 20, 40, []kit.Item{it}), load.Options{Seed: 1, Quick: true})
		assert.True(t, plan.LeftOut[0].Guess().None())
	}
}

// The figure counts everything: what lies in no zone of the pack in no draw makes it nothing, what lies in one when it
// is a little smaller than it is thought to be makes it a part.
func TestSureOfNothingThatLiesNowhere(t *testing.T) {
	t.Parallel()
	for long, want := range map[float64][2]float64{39: {1, 1}, 40.4: {0.05, 0.95}, 90: {0, 0}} {
		crate := boxItem("crate", long, 20, 10)
		crate.Measured, crate.Spread = kit.Dimensions, 0.03 // its litres, so that a side is known to 1 in 100
		plan := load.Make(boxTask(28, 20, 40, []kit.Item{crate, boxItem("tin", 5, 5, 5)}), load.Options{Seed: 1, Quick: true})
		sure := plan.Confidence(load.Options{Seed: 1})
		assert.GreaterOrEqual(t, sure.Share, want[0], "%v cm", long)
		assert.LessOrEqual(t, sure.Share, want[1], "%v cm", long)
	}
}
