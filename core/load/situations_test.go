package load_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/bundle"
	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/verdict"
	"tornister/demo"
)

// all checks several things.
func all(checks ...func(*testing.T, string, *job.Task, *load.Plan)) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		for _, check := range checks {
			check(t, at, task, plan)
		}
	}
}

// tightLump checks that soft things of a kind take their tight litres and are not much flatter than they are wide.
func tightLump(kind string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		tight := 0.0
		for i := range task.Items {
			if task.Items[i].Kind == kind {
				tight = task.Items[i].Shape.TightL
			}
		}
		n := each(plan, kind, func(p *load.Placement) {
			assert.InEpsilon(t, tight, p.VolumeL, 0.1, at)
			sides := []float64{p.Box.Max[0] - p.Box.Min[0], p.Box.Max[1] - p.Box.Min[1], p.Box.Max[2] - p.Box.Min[2]}
			slices.Sort(sides)
			assert.LessOrEqual(t, sides[1], 1.5*sides[0], at)
		})
		assert.Positive(t, n, at)
	}
}

// bottomStraps gives a pack straps below that are shorter than the mat, and nothing else outside.
func bottomStraps(task *job.Task) {
	task.Method.Mat = "bottom"
	task.Pack.Zones = slices.DeleteFunc(slices.Clone(task.Pack.Zones),
		func(z rucksack.Zone) bool { return z.Kind == rucksack.Straps })
	task.Pack.Zones = append(task.Pack.Zones, rucksack.Zone{ID: "under", Name: "Bottom straps", Kind: rucksack.Straps,
		Face: "bottom", SizeCm: [3]float64{40, 18, 18}, VolumeL: 13, MaxMassG: 1200})
}

// longMat is the same with a mat wider than a walker's elbows: nothing holds it across.
func longMat(task *job.Task) {
	bottomStraps(task)
	task.Items[0].Shape.LengthCm = 62
}

// yielding makes of a soft thing a stuffed sack that is round and too thick for the pack, but goes in pressed flat.
func yielding(task *job.Task) { sackFor(task, 2) }

func yieldingLess(task *job.Task) { sackFor(task, 1.05) }

func sackFor(task *job.Task, gives float64) {
	body := task.Pack.Of(rucksack.Body)
	deep := min(body.SizeCm[0], body.SizeCm[1])
	d := 1.12 * deep // its square section is as deep as the body; its round one is not
	task.Items[0].Shape = kit.Shape{Kind: kit.Cylinder, DiameterCm: d, LengthCm: 20, Gives: gives}
	if gives < 1.2 {
		task.Items[0].Shape.DiameterCm = 1.25 * deep
	}
}

func leftOut(kind string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
		assert.True(t, slices.ContainsFunc(plan.LeftOut, func(l load.LeftOut) bool { return l.Piece.Kind == kind }), at)
	}
}

// heavyBelow checks that most of what is heavy lies below a share of the height of the pack.
func heavyBelow(share float64) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		moment, sum := 0.0, 0.0
		for _, p := range plan.Placed {
			if p.Zone.Solid() && p.Inside == "" && p.Piece.MassG >= 500 && p.Piece.MassG >= 250*p.Piece.Shape.Litres(0.5) {
				moment, sum = moment+p.Piece.MassG*p.MiddleCm[2], sum+p.Piece.MassG
			}
		}
		assert.Positive(t, sum, at)
		assert.Less(t, moment/sum, share*task.Pack.HeightCm(), at)
	}
}

// sharedCloth lets the side pockets share their cloth with the body.
func sharedCloth(task *job.Task) {
	task.Pack.Zones = slices.Clone(task.Pack.Zones)
	for i := range task.Pack.Zones {
		if z := &task.Pack.Zones[i]; z.Kind == rucksack.Side {
			z.DrawsOn = &rucksack.Draw{Zone: "body", Share: 0.5}
		}
	}
}

// bulgingBody is the same with something soft that fills the body only when squeezed.
func bulgingBody(task *job.Task) {
	sharedCloth(task)
	room := task.Pack.Of(rucksack.Body).CapacityL()
	task.Items[1].Shape = kit.Shape{Kind: kit.Soft, LooseL: 1.5 * room, TightL: 0.6 * room, GapCm: 2}
}

// pocketFirst checks whether the bottle goes in before what lies in the body.
func pocketFirst(first bool) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
		turn := func(kind string) int {
			return slices.IndexFunc(plan.Placed, func(p load.Placement) bool { return p.Piece.Kind == kind })
		}
		assert.True(t, plan.Fits(), at)
		assert.Equal(t, first, turn("bottle") < turn("fleece"), at)
		assert.Equal(t, first, strings.Contains(fmt.Sprint(plan.Placed[turn("bottle")].Reasons), "load.turn-before"), at)
		assert.Equal(t, "load.closing-straps", plan.Closing()[0].Code, at)
	}
}

func packedAll(task *job.Task) {
	for i := range task.Items {
		task.Items[i].Carry = kit.Pack
	}
}

func bears(task *job.Task) {
	task.Trip.Nights, task.Trip.Camps = 1, []trail.Camp{{Animals: true}}
}

// underPoles is a kit whose shelter is pitched on walking poles.
var underPoles = []string{"pole-shelter", "pegs", "walking-poles", "down-sleeping-bag", "fleece", "headlamp"}

func twoNightsAtOnePlace(task *job.Task) {
	task.Trip.Nights, task.Trip.Camps = 2, []trail.Camp{{Place: "Dry Cave"}, {Place: "Dry Cave"}}
}

func othersGas(task *job.Task) {
	task.Others = []kit.Item{{ID: "gas", Name: "Gas", Kind: "gas-canister", Count: 1, Carry: kit.Pack,
		Consumable: "fuel", Functions: []string{"cooking"}, Traits: []kit.Trait{kit.Hard, kit.Fuel}}}
}

func finds(code string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		assert.Contains(t, fmt.Sprint(verdict.Judge(task, plan).Checks), code, at)
	}
}

func findsNot(codes ...string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		for _, code := range codes {
			assert.NotContains(t, fmt.Sprint(verdict.Judge(task, plan).Checks), code, at)
		}
	}
}

func school(key, answer string) func(*job.Task) {
	return func(task *job.Task) { task.Method.Set(key, answer) }
}

func lined(task *job.Task) {
	task.Bags = nil
	task.Method.Dry = "liner"
	b, err := bundle.Read(demo.LoneWalker)
	if err == nil {
		task.Bags = b.Task.Bags[:1]
		task.Bags[0].VolumeL = 120
	}
}

func days(task *job.Task) {
	day := 0
	for i := range task.Items {
		if task.Items[i].Kind == "food-day" {
			day++
			task.Items[i].Day = day
		}
	}
}

// bagOf puts things of some kinds into the kit bag.
func bagOf(kinds ...string) func(*job.Task) {
	return func(task *job.Task) {
		for i := range task.Items {
			if slices.Contains(kinds, task.Items[i].Kind) {
				task.Items[i].NestIn = item(task, bagIn(task)).ID
			}
		}
	}
}

func gasInPotInBag(t *testing.T, at string, task *job.Task, plan *load.Plan) {
	pot := 0
	for i := range plan.Placed {
		p := &plan.Placed[i]
		switch p.Piece.Kind {
		case "pot":
			pot = i
			assert.Equal(t, bagIn(task), p.Inside, at)
		case "gas-canister":
			assert.Equal(t, plan.Placed[pot].Piece.ID, p.Inside, at)
			assert.Equal(t, bagIn(task), plan.Outer(i).Piece.ID, at)
		}
	}
}

func pinnedApart(task *job.Task) {
	bagOf("matches", "spoon")(task)
	for i := range task.Items {
		if task.Items[i].Kind == "matches" {
			task.Pins = []job.Pin{{Item: task.Items[i].ID, Zone: "lid"}}
		}
	}
	task.Pins = append(task.Pins, job.Pin{Item: bagIn(task), Zone: "body"})
}

func bagIn(task *job.Task) string {
	i := slices.IndexFunc(task.Items, func(it kit.Item) bool { return it.IsBag() })
	return task.Items[i].ID
}

// oneStep checks that a bag goes in as one, with so many things right after it in its place.
func oneStep(contents int) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		bag := bagIn(task)
		i := slices.IndexFunc(plan.Placed, func(p load.Placement) bool { return p.Piece.ID == bag })
		if !assert.GreaterOrEqual(t, i, 0, at) || !assert.Greater(t, len(plan.Placed), i+contents, at) {
			return
		}
		in := 0
		for k := range plan.Placed {
			if p := &plan.Placed[k]; p.Inside != "" && plan.Outer(k).Piece.ID == bag { // in it, or in a pot in it
				assert.True(t, k > i && k <= i+contents, "%s: right after the bag", at)
				assert.Equal(t, plan.Placed[i].Zone, p.Zone, at)
				in++
			}
		}
		assert.Equal(t, contents, in, at)
	}
}

func saidOf(rule string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
		assert.True(t, slices.ContainsFunc(plan.Broken, func(b assign.Broken) bool { return b.Rule == rule }), at)
	}
}

func longBottle(task *job.Task) {
	for i := range task.Items {
		if task.Items[i].Kind == "flask" {
			pocket := task.Pack.Of(rucksack.Side)
			task.Items[i].Shape = kit.Shape{Kind: kit.Cylinder, DiameterCm: 7, LengthCm: pocket.SizeCm[2] * 1.4}
		}
	}
}

func notInMesh(kind string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
		n := each(plan, kind, func(p *load.Placement) { assert.NotEqual(t, rucksack.Open, p.Zone.Weather, at) })
		assert.Positive(t, n, at)
	}
}

func overTheLiner(kind string) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, task *job.Task, plan *load.Plan) {
		rolls := plan.Rolls(load.Dryness(task, plan))
		if !assert.NotEmpty(t, rolls, at) {
			return
		}
		after := rolls[len(rolls)-1].After
		for i := range plan.Placed {
			p := &plan.Placed[i]
			if p.Piece.Kind == kind && p.Zone.Solid() {
				assert.Greater(t, i, after, "%s: goes in after the liner is rolled shut", at)
			}
			if p.Zone.Kind == rucksack.Body && i > after {
				assert.NotContains(t, []string{"down-sleeping-bag", "down-quilt", "spare-clothes"}, p.Piece.Kind, at)
			}
		}
	}
}

func liftedAtMost(kind string, most int) func(*testing.T, string, *job.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
		each(plan, kind, func(p *load.Placement) { assert.LessOrEqual(t, p.LiftedOut, most, at) })
	}
}

func daysInOrder(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
	for i := range plan.Placed {
		for _, over := range plan.Placed[i].Over {
			if p := plan.Placed[i].Piece; p.Kind == "food-day" && over.Kind == "food-day" && plan.Placed[i].Zone.Solid() {
				assert.Less(t, over.Day, p.Day, at)
			}
		}
	}
}

func fuelFromFood(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
	for i := range plan.Placed {
		for k := range plan.Placed {
			a, b := &plan.Placed[i], &plan.Placed[k]
			if a.Piece.Kind != "gas-canister" || !b.Piece.Has(kit.Food) {
				continue
			}
			assert.False(t, a.Inside != "" && a.Inside == b.Inside, "%s: fuel and food in one vessel", at)
			assert.False(t, a.Zone == b.Zone && !a.Zone.Solid(), "%s: fuel and food in one pocket", at)
		}
	}
}

func foodInItsBox(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
	chest := ""
	each(plan, "food-box", func(p *load.Placement) { chest = p.Piece.ID })
	n := each(plan, "food-day", func(p *load.Placement) { assert.Equal(t, chest, p.Inside, at) })
	assert.Equal(t, 2, n, at)
	for _, kind := range []string{"gas-canister", "gas-stove"} {
		each(plan, kind, func(p *load.Placement) { assert.NotEqual(t, chest, p.Inside, "%s: %s", at, kind) })
	}
}

func standsOut(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
	n := each(plan, "flask", func(p *load.Placement) {
		assert.Equal(t, rucksack.Side, p.Zone.Kind, at)
		assert.InDelta(t, p.Piece.Shape.LengthCm-p.Zone.SizeCm[2], p.OutCm, 1e-9, at)
	})
	assert.Positive(t, n, at)
}

// sleeveForWater checks that what lies in a sleeve is water or foam.
func sleeveForWater(t *testing.T, at string, _ *job.Task, plan *load.Plan) {
	for i := range plan.Placed {
		if p := &plan.Placed[i]; p.Zone.Kind == rucksack.Sleeve {
			assert.True(t, assign.IsWater(p.Piece.Item) || p.Piece.Has(kit.Foam), "%s: %s", at, p.Piece.Name)
		}
	}
}
