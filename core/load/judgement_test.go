package load_test

import (
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
	"tornister/core/verdict"
	"tornister/demo"
)

// situation is something on the living-room floor and what a packer does there (common practice, all of them);
// docs/judgement.md lists them by these names.
type situation struct {
	name   string
	packs  []string // three sizes
	kinds  []string // of the kit, "kind:3" for several
	change func(*load.Task)
	holds  func(t *testing.T, at string, task *load.Task, plan *load.Plan)
	order  bool // it has to do with the order, which only a thorough search looks for
}

var (
	day     = []string{"day-28", "hut-38", "frameless-40"}
	touring = []string{"upland-52", "trainee-65", "expedition-85"}
)

// packed is a kit of generic kinds in a generic pack.
func packed(t testing.TB, pack string, kinds []string) *load.Task {
	t.Helper()
	for _, p := range demo.Packs() {
		if p.ID != pack {
			continue
		}
		var items []string
		for i, kind := range kinds {
			kind, count, many := strings.Cut(kind, ":")
			if !many {
				count = "1"
			}
			items = append(items, fmt.Sprintf(`{"id":"%s-%d","kind":%q,"count":%s}`, kind, i, kind, count))
		}
		text := fmt.Sprintf(`{"format":"tornister","version":1,"pack":%s,"items":[%s]}`, p.JSON, strings.Join(items, ","))
		b, err := bundle.Read([]byte(text))
		require.NoError(t, err)
		return &b.Task
	}
	require.Fail(t, "no such pack", pack)
	return nil
}

func each(plan *load.Plan, kind string, look func(p *load.Placement)) (n int) {
	for i := range plan.Placed {
		if p := &plan.Placed[i]; p.Piece.Kind == kind {
			look(p)
			n++
		}
	}
	return n
}

// lies checks of every piece of a kind that it lies in zones of some kinds.
func lies(kind string, zones ...rucksack.ZoneKind) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		n := each(plan, kind, func(p *load.Placement) { assert.Contains(t, zones, p.Zone.Kind, "%s: %s", at, kind) })
		assert.Positive(t, n, at)
	}
}

// never checks that no piece of a kind lies in zones of some kinds.
func never(kind string, zones ...rucksack.ZoneKind) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		n := each(plan, kind, func(p *load.Placement) { assert.NotContains(t, zones, p.Zone.Kind, "%s: %s", at, kind) })
		assert.Positive(t, n, at)
	}
}

// over checks that one kind lies higher than another.
func over(above, below string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		low, high := 0.0, 1e9
		each(plan, below, func(p *load.Placement) { low = max(low, p.MiddleCm[2]) })
		each(plan, above, func(p *load.Placement) { high = min(high, p.MiddleCm[2]) })
		assert.Greater(t, high, low, "%s: %s over %s", at, above, below)
	}
}

var dayPockets = []rucksack.ZoneKind{rucksack.Hip, rucksack.Side, rucksack.Front, rucksack.Shoulder}

var camp = []string{"down-sleeping-bag", "air-mat", "tent-inner", "tent-fly", "tent-poles", "pegs", "gas-stove",
	"pot", "gas-canister", "mug", "spoon", "wash-kit", "power-bank", "spare-clothes"}

func with(kinds []string, more ...string) []string {
	return append(append([]string{}, kinds...), more...)
}

var situations = []situation{
	{"full bottles ride at the sides", day, []string{"bottle:2", "fleece", "rain-jacket", "snacks"}, nil,
		lies("bottle", rucksack.Side), false},
	{"full bottles at the sides with a whole camp", touring, with(camp, "bottle:2"), nil, lies("bottle", rucksack.Side),
		false},
	{"first aid where a companion finds it", day, []string{"first-aid-kit", "fleece", "rain-jacket", "bottle"}, nil,
		never("first-aid-kit", rucksack.Body, rucksack.Sleeve, rucksack.Inner), false},
	{"first aid with a whole camp", touring, with(camp, "first-aid-kit", "rain-jacket"), nil,
		never("first-aid-kit", rucksack.Body, rucksack.Sleeve, rucksack.Inner), false},
	{"a stove does not fill the day's pockets", touring, with(camp, "rain-jacket", "snacks"), nil,
		never("gas-stove", dayPockets...), false},
	{"nor does a mug", touring, with(camp, "rain-jacket"), nil, never("mug", dayPockets...), false},
	{"nor a wash kit", touring, with(camp, "rain-jacket"), nil, never("wash-kit", dayPockets...), false},
	{"nor a power bank", touring, with(camp, "rain-jacket"), nil, never("power-bank", dayPockets...), false},
	{"a phone not into open mesh", day, []string{"phone", "bottle", "fleece"}, nil, notInMesh("phone"), false},
	{"a wallet not into open mesh", day, []string{"wallet", "bottle", "fleece"}, nil, notInMesh("wallet"), false},
	{"a headlamp not into open mesh", touring, with(camp, "headlamp"), nil, notInMesh("headlamp"), false},
	{"a lighter not into open mesh", touring, with(camp, "lighter"), nil, notInMesh("lighter"), false},
	{"sleeping things lowest", touring, with(camp, "bottle", "fleece"), nil, over("tent-inner", "down-sleeping-bag"),
		true},
	{"sleeping things lowest without a bottom compartment", []string{"frameless-40", "hut-38", "frameless-40"},
		[]string{"down-quilt", "pot", "fleece", "spare-clothes", "tarp"}, nil, over("pot", "down-quilt"), true},
	{"the shelter lowest, as chosen", touring, with(camp, "fleece"), school("lowest", "shelter"),
		over("down-sleeping-bag", "tent-inner"), true},
	{"the wet fly over the rolled liner", touring, with(camp, "fleece"), lined, overTheLiner("tent-fly"), true},
	{"a wet tarp over the rolled liner", []string{"frameless-40", "hut-38", "upland-52"},
		[]string{"down-quilt", "tarp", "spare-clothes", "fleece"}, lined, overTheLiner("tarp"), true},
	{"the shelter on top, as chosen", touring, with(camp, "fleece"), school("shelter", "top"),
		liftedAtMost("tent-fly", 2), true},
	{"each day's food over the next", touring, with(camp, "food-day", "food-day", "food-day", "food-day"), days,
		daysInOrder, true},
	{"gas in the pot, not with the food", touring, with(camp, "food-day", "snacks"), nil, fuelFromFood, false},
	{"a long bottle stands out of its pocket", []string{"child-18", "child-18", "day-28"}, []string{"flask", "fleece"},
		longBottle, standsOut, false},
	{"a kitchen bag is one step", touring, with(camp, "kit-bag", "fleece"),
		bagOf("gas-stove", "pot", "gas-canister", "mug", "spoon"), oneStep(5), false},
	{"a clothes bag is one step", day, []string{"kit-bag", "fleece", "spare-clothes", "socks", "bottle"},
		bagOf("fleece", "spare-clothes", "socks"), oneStep(3), false},
	{"a ditty bag is one step", touring, with(camp, "kit-bag", "matches", "water-tablets", "spare-map", "repair-kit"),
		bagOf("matches", "water-tablets", "spare-map", "repair-kit"), oneStep(4), false},
	{"food and fuel in one bag are said", touring, with(camp, "kit-bag", "snacks"), bagOf("gas-canister", "snacks"),
		saidOf("food-from-fuel"), false},
	{"the gas in the pot in the kitchen bag", touring, with(camp, "kit-bag", "lighter"),
		bagOf("gas-stove", "pot", "gas-canister", "lighter"), gasInPotInBag, false},
	{"a thing of a bag pinned elsewhere is said", touring, with(camp, "kit-bag", "matches"), pinnedApart, saidOf("pin"),
		false},
	{"rain jacket at hand", day, []string{"rain-jacket", "fleece", "bottle", "snacks"}, nil,
		never("rain-jacket", rucksack.Body, rucksack.Sleeve), false},
	{"the water bag in the sleeve, as chosen", touring, with(camp, "water-bag"), school("water", "sleeve"),
		lies("water-bag", rucksack.Sleeve), false},
	{"bottles at the sides, as chosen", touring, with(camp, "bottle:2"), school("water", "bottles"),
		lies("bottle", rucksack.Side), false},
	{"nothing but foam outside", touring, with(camp, "foam-mat"), school("outside", "foam"),
		lies("foam-mat", rucksack.Straps), false},
	{"nothing outside, as chosen", []string{"expedition-85", "expedition-85", "trainee-65"}, with(camp, "sit-mat"),
		school("outside", "nothing"), never("sit-mat", rucksack.Straps), false},
	{"a shelter that is to lie deep is not in the lid", touring, with(camp, "fleece"), school("shelter", "deep"),
		never("tent-inner", rucksack.Lid), false},
	{"a sleeping bag in its compression sack, as chosen", touring, with(camp, "fleece"), school("sleeping_bag", "sack"),
		tightLump("down-sleeping-bag"), false},
	{"a mat under the pack, as far as the elbows", []string{"expedition-85", "upland-52", "trainee-65"},
		[]string{"foam-mat", "spare-clothes"}, bottomStraps, lies("foam-mat", rucksack.Straps), false},
	{"a mat beyond the elbows", []string{"expedition-85", "upland-52", "trainee-65"},
		[]string{"foam-mat", "spare-clothes"}, longMat, never("spare-clothes", rucksack.Straps), false},
	{"water on top, as chosen", touring, with(camp, "water-bag"), school("water", "top"),
		all(lies("water-bag", rucksack.Body), liftedAtMost("water-bag", 1)), true},
	{"a sack that yields goes where its round does not", day, []string{"spare-clothes"}, yielding,
		lies("spare-clothes", rucksack.Body), false},
	{"a compression sack yields less", day, []string{"spare-clothes"}, yieldingLess, leftOut("spare-clothes"), false},
	{"heavy things low, as chosen", touring, with(camp, "food-day:3"), school("heavy", "low"), heavyBelow(0.55), true},
	{"a stiff pocket before the body that bulges into it", day, []string{"bottle", "fleece"}, bulgingBody,
		pocketFirst(true), false},
	{"a pocket after the body that has room", day, []string{"bottle", "fleece"}, sharedCloth, pocketFirst(false), false},
	{"a whistle is worn", day, []string{"whistle", "fleece", "bottle"}, packedAll, finds("safe.whistle"), false},
	{"nothing about the night on a day out", day, []string{"fleece", "bottle", "rain-jacket"}, nil,
		findsNot("safe.night", "safe.below-limit", "safe.below-comfort", "safe.thin-mats"), false},
	{"nothing about animals without food", day, []string{"fleece", "bottle", "rain-jacket"}, bears,
		findsNot("safe.animals"), false},
	{"something about animals with food", day, []string{"fleece", "bottle", "snacks"}, bears, finds("safe.animals"),
		false},
	{"a stove wants gas", touring, []string{"gas-stove", "pot", "lighter", "down-sleeping-bag"}, nil,
		finds("safe.needs"), false},
	{"the gas of somebody else in the party will do", touring,
		[]string{"gas-stove", "pot", "lighter", "down-sleeping-bag"}, othersGas, findsNot("safe.needs"), false},
	{"the only light has no second", touring, with(camp, "headlamp"), nil, finds("safe.only-one"), false},
}

// all checks several things.
func all(checks ...func(*testing.T, string, *load.Task, *load.Plan)) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
		for _, check := range checks {
			check(t, at, task, plan)
		}
	}
}

// tightLump checks that soft things of a kind take their tight litres and are not much flatter than they are wide.
func tightLump(kind string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
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
func bottomStraps(task *load.Task) {
	task.Method.Mat = "bottom"
	task.Pack.Zones = slices.DeleteFunc(slices.Clone(task.Pack.Zones),
		func(z rucksack.Zone) bool { return z.Kind == rucksack.Straps })
	task.Pack.Zones = append(task.Pack.Zones, rucksack.Zone{ID: "under", Name: "Bottom straps", Kind: rucksack.Straps,
		Face: "bottom", SizeCm: [3]float64{40, 18, 18}, VolumeL: 13, MaxMassG: 1200})
}

// longMat is the same with a mat wider than a walker's elbows: nothing holds it across.
func longMat(task *load.Task) {
	bottomStraps(task)
	task.Items[0].Shape.LengthCm = 62
}

// yielding makes of a soft thing a stuffed sack that is round and too thick for the pack, but goes in pressed flat.
func yielding(task *load.Task) { sackFor(task, 2) }

func yieldingLess(task *load.Task) { sackFor(task, 1.05) }

func sackFor(task *load.Task, gives float64) {
	body := task.Pack.Of(rucksack.Body)
	deep := min(body.SizeCm[0], body.SizeCm[1])
	d := 1.12 * deep // its square section is as deep as the body; its round one is not
	task.Items[0].Shape = kit.Shape{Kind: kit.Cylinder, DiameterCm: d, LengthCm: 20, Gives: gives}
	if gives < 1.2 {
		task.Items[0].Shape.DiameterCm = 1.25 * deep
	}
}

func leftOut(kind string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		assert.True(t, slices.ContainsFunc(plan.LeftOut, func(l load.LeftOut) bool { return l.Piece.Kind == kind }), at)
	}
}

// heavyBelow checks that most of what is heavy lies below a share of the height of the pack.
func heavyBelow(share float64) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
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
func sharedCloth(task *load.Task) {
	task.Pack.Zones = slices.Clone(task.Pack.Zones)
	for i := range task.Pack.Zones {
		if z := &task.Pack.Zones[i]; z.Kind == rucksack.Side {
			z.DrawsOn = &rucksack.Draw{Zone: "body", Share: 0.5}
		}
	}
}

// bulgingBody is the same with something soft that fills the body only when squeezed.
func bulgingBody(task *load.Task) {
	sharedCloth(task)
	room := task.Pack.Of(rucksack.Body).CapacityL()
	task.Items[1].Shape = kit.Shape{Kind: kit.Soft, LooseL: 1.5 * room, TightL: 0.6 * room, GapCm: 2}
}

// pocketFirst checks whether the bottle goes in before what lies in the body.
func pocketFirst(first bool) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		turn := func(kind string) int {
			return slices.IndexFunc(plan.Placed, func(p load.Placement) bool { return p.Piece.Kind == kind })
		}
		assert.True(t, plan.Fits(), at)
		assert.Equal(t, first, turn("bottle") < turn("fleece"), at)
		assert.Equal(t, first, strings.Contains(fmt.Sprint(plan.Placed[turn("bottle")].Reasons), "load.turn-before"), at)
		assert.Equal(t, "load.closing-straps", plan.Closing()[0].Code, at)
	}
}

func packedAll(task *load.Task) {
	for i := range task.Items {
		task.Items[i].Carry = kit.Pack
	}
}

func bears(task *load.Task) {
	task.Trip.Nights, task.Trip.Camps = 1, []trail.Camp{{Animals: true}}
}

func othersGas(task *load.Task) {
	task.Others = []kit.Item{{ID: "gas", Name: "Gas", Kind: "gas-canister", Count: 1, Carry: kit.Pack,
		Consumable: "fuel", Functions: []string{"cooking"}, Traits: []kit.Trait{kit.Hard, kit.Fuel}}}
}

func finds(code string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
		assert.Contains(t, fmt.Sprint(verdict.Judge(task, plan).Checks), code, at)
	}
}

func findsNot(codes ...string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
		for _, code := range codes {
			assert.NotContains(t, fmt.Sprint(verdict.Judge(task, plan).Checks), code, at)
		}
	}
}

func school(key, answer string) func(*load.Task) {
	return func(task *load.Task) { task.Method.Set(key, answer) }
}

func lined(task *load.Task) {
	task.Bags = nil
	task.Method.Dry = "liner"
	b, err := bundle.Read(demo.LoneWalker)
	if err == nil {
		task.Bags = b.Task.Bags[:1]
		task.Bags[0].VolumeL = 120
	}
}

func days(task *load.Task) {
	day := 0
	for i := range task.Items {
		if task.Items[i].Kind == "food-day" {
			day++
			task.Items[i].Day = day
		}
	}
}

// bagOf puts things of some kinds into the kit bag.
func bagOf(kinds ...string) func(*load.Task) {
	return func(task *load.Task) {
		for i := range task.Items {
			if slices.Contains(kinds, task.Items[i].Kind) {
				task.Items[i].NestIn = item(task, bagIn(task)).ID
			}
		}
	}
}

func gasInPotInBag(t *testing.T, at string, task *load.Task, plan *load.Plan) {
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

func pinnedApart(task *load.Task) {
	bagOf("matches", "spoon")(task)
	for i := range task.Items {
		if task.Items[i].Kind == "matches" {
			task.Pins = []load.Pin{{Item: task.Items[i].ID, Zone: "lid"}}
		}
	}
	task.Pins = append(task.Pins, load.Pin{Item: bagIn(task), Zone: "body"})
}

func bagIn(task *load.Task) string {
	i := slices.IndexFunc(task.Items, func(it kit.Item) bool { return it.IsBag() })
	return task.Items[i].ID
}

// oneStep checks that a bag goes in as one, with so many things right after it in its place.
func oneStep(contents int) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
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

func saidOf(rule string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		assert.True(t, slices.ContainsFunc(plan.Broken, func(b load.Broken) bool { return b.Rule == rule }), at)
	}
}

func longBottle(task *load.Task) {
	for i := range task.Items {
		if task.Items[i].Kind == "flask" {
			pocket := task.Pack.Of(rucksack.Side)
			task.Items[i].Shape = kit.Shape{Kind: kit.Cylinder, DiameterCm: 7, LengthCm: pocket.SizeCm[2] * 1.4}
		}
	}
}

func notInMesh(kind string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		n := each(plan, kind, func(p *load.Placement) { assert.NotEqual(t, rucksack.Open, p.Zone.Weather, at) })
		assert.Positive(t, n, at)
	}
}

func overTheLiner(kind string) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, task *load.Task, plan *load.Plan) {
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

func liftedAtMost(kind string, most int) func(*testing.T, string, *load.Task, *load.Plan) {
	return func(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
		each(plan, kind, func(p *load.Placement) { assert.LessOrEqual(t, p.LiftedOut, most, at) })
	}
}

func daysInOrder(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
	for i := range plan.Placed {
		for _, over := range plan.Placed[i].Over {
			if p := plan.Placed[i].Piece; p.Kind == "food-day" && over.Kind == "food-day" && plan.Placed[i].Zone.Solid() {
				assert.Less(t, over.Day, p.Day, at)
			}
		}
	}
}

func fuelFromFood(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
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

func standsOut(t *testing.T, at string, _ *load.Task, plan *load.Plan) {
	n := each(plan, "flask", func(p *load.Placement) {
		assert.Equal(t, rucksack.Side, p.Zone.Kind, at)
		assert.InDelta(t, p.Piece.Shape.LengthCm-p.Zone.SizeCm[2], p.OutCm, 1e-9, at)
	})
	assert.Positive(t, n, at)
}

func TestSituations(t *testing.T) {
	t.Parallel()
	table, err := os.ReadFile("../../docs/judgement.md")
	require.NoError(t, err)
	for _, s := range situations {
		assert.Contains(t, string(table), "| "+s.name+" |", "docs/judgement.md lists it")
		for _, pack := range s.packs {
			task := packed(t, pack, s.kinds)
			if s.change != nil {
				s.change(task)
			}
			plan := load.Make(task, load.Options{Seed: 1, Quick: !s.order, Effort: little})
			s.holds(t, s.name+", "+pack, task, plan)
		}
	}
}

// What no plan does, over many kits drawn at random; counted here from the plan alone. TORNISTER_KITS says how many.
func TestWhatNoPlanDoes(t *testing.T) {
	t.Parallel()
	kits := 20
	if n, err := strconv.Atoi(os.Getenv("TORNISTER_KITS")); err == nil {
		kits = n
	}
	packs := []string{"day-28", "hut-38", "frameless-40", "upland-52", "trainee-65", "expedition-85"}
	for seed := range kits {
		task := packed(t, packs[seed%len(packs)], nil)
		task.Items = kitOf(seed, 14)
		plan := load.Make(task, load.Options{Seed: 1, Quick: true})
		for i := range plan.Placed {
			p := &plan.Placed[i]
			at := fmt.Sprintf("kit %d, %s in %s", seed, p.Piece.ID, p.Zone.ID)
			hidden := p.Zone.Kind == rucksack.Sleeve || p.Zone.Kind == rucksack.Body || p.Zone.Kind == rucksack.Inner
			elsewhere := task.Pack.Of(rucksack.Lid) != nil && plan.Fits()
			assert.False(t, elsewhere && hidden && p.Piece.Kind == "first-aid-kit", at)
			if p.Piece.Use.When == kit.Camp && !p.Piece.Water.ReturnsWet && !p.Piece.Water.Leaks && plan.Fits() {
				assert.False(t, p.Zone.Kind == rucksack.Hip || p.Zone.Kind == rucksack.Shoulder, at)
			}
			if p.Zone.Weather == rucksack.Open && p.Zone.Kind != rucksack.Straps && plan.Fits() {
				assert.False(t, p.Piece.Has(kit.Electronic) || p.Piece.Kind == "wallet", at)
			}
			for k := range plan.Placed {
				q := &plan.Placed[k]
				together := p.Inside != "" && p.Inside == q.Inside || !p.Zone.Solid() && p.Zone == q.Zone &&
					p.Zone.Kind != rucksack.Straps
				if together && p.Piece.Has(kit.Fuel) && q.Piece.Has(kit.Food) {
					assert.NotEmpty(t, plan.Broken, "%s: with %s, and not said", at, q.Piece.ID)
				}
			}
		}
	}
}
