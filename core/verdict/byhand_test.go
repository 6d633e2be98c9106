package verdict

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// serving is a thing of some function, carried somewhere.
func serving(id, function string, carry kit.Carry) kit.Item {
	return kit.Item{ID: id, Name: id, Count: 1, Carry: carry, Functions: []string{function}}
}

// What life hangs on is there twice, and not in one place (common practice); by hand.
func TestTheSecondOfWhatLifeHangsOn(t *testing.T) {
	t.Parallel()
	lid := rucksack.Zone{ID: "lid", Name: "Lid"}
	pocket := rucksack.Zone{ID: "hip", Name: "Hip pocket"}
	lies := func(it kit.Item, zone *rucksack.Zone) load.Placement {
		return load.Placement{Piece: kit.Pieces([]kit.Item{it}, it.Carry)[0], Zone: zone}
	}
	lighter, matches := serving("lighter", "fire", kit.Pack), serving("matches", "fire", kit.Pack)
	worn, home := serving("fire-steel", "fire", kit.Worn), serving("candle", "fire", kit.Left)
	lamp, spare := serving("headlamp", "light", kit.Pack), serving("spare-lamp", "light", kit.Pack)
	for name, c := range map[string]struct {
		items, others []kit.Item
		placed        []load.Placement
		nights        int
		says          []string
	}{
		"none is no second's matter":        {nil, nil, nil, 1, nil},
		"one":                               {[]kit.Item{lighter}, nil, []load.Placement{lies(lighter, &lid)}, 1, []string{"safe.only-one [fire"}},
		"one, and one at home":              {[]kit.Item{lighter, home}, nil, []load.Placement{lies(lighter, &lid)}, 1, []string{"safe.only-one [fire"}},
		"one by day":                        {[]kit.Item{lighter}, nil, []load.Placement{lies(lighter, &lid)}, 0, nil},
		"two in two places":                 {[]kit.Item{lighter, matches}, nil, []load.Placement{lies(lighter, &lid), lies(matches, &pocket)}, 1, nil},
		"two in one":                        {[]kit.Item{lighter, matches}, nil, []load.Placement{lies(lighter, &lid), lies(matches, &lid)}, 1, []string{"safe.one-place [fire Lid"}},
		"one of two on the body":            {[]kit.Item{lighter, worn}, nil, []load.Placement{lies(lighter, &lid)}, 1, nil},
		"another walker has one":            {[]kit.Item{lighter}, []kit.Item{matches}, []load.Placement{lies(lighter, &lid)}, 1, nil},
		"another walker left it at home":    {[]kit.Item{lighter}, []kit.Item{home}, []load.Placement{lies(lighter, &lid)}, 1, []string{"safe.only-one [fire"}},
		"another walker has something else": {[]kit.Item{lighter}, []kit.Item{spare}, []load.Placement{lies(lighter, &lid)}, 1, []string{"safe.only-one [fire"}},
		"each needs a light of the own":     {[]kit.Item{lamp}, []kit.Item{spare}, []load.Placement{lies(lamp, &lid)}, 1, []string{"safe.only-one [light"}},
		"something else lies beside":        {[]kit.Item{lighter, worn, lamp, spare}, nil, []load.Placement{lies(lamp, &lid), lies(spare, &lid)}, 1, []string{"safe.one-place [light Lid"}},
	} {
		s := &safety{task: &job.Task{Items: c.items, Others: c.others, Trip: trail.Trip{Nights: c.nights}},
			plan: &load.Plan{Placed: c.placed}}
		s.second()
		assert.Len(t, s.Reasons, len(c.says), name)
		for _, says := range c.says {
			assert.Contains(t, fmt.Sprint(s.Reasons), says, name)
		}
	}
}

// Water below what the thirstiest stretch takes is a look, below half of it a stop: of eight hours at three tenths
// of a litre with half a litre in reserve, 2.9 L.
func TestWaterByHand(t *testing.T) {
	t.Parallel()
	trip := trail.Trip{Legs: []trail.Leg{{Name: "Spring to hut", Day: 1, Km: 20, Hours: 8, Water: true}}}
	stretch, ok := trip.Thirstiest()
	assert.True(t, ok)
	assert.InDelta(t, 2.9, stretch.Litres, 1e-9)
	for share, want := range map[float64]CheckState{0.45: Stop, 0.55: Look, 0.9: Look, 1: Settled} {
		s := &safety{Check: Check{State: Settled}, task: &job.Task{Trip: trip, Items: []kit.Item{
			{Count: 2, MassG: share * stretch.Litres * fullBottleG / 2, Consumable: "water", Carry: kit.Pack},
			{Count: 1, MassG: 5000, Consumable: "water", Carry: kit.Left}}}}
		s.water()
		assert.Equal(t, want, s.State, "%g of %g L", share, stretch.Litres)
	}
}

// Where the weight lies, as shares of the way from belt to shoulder, and what the limits are: the figures that are
// printed are those of the plan.
func TestFiguresOfTheRide(t *testing.T) {
	t.Parallel()
	pack := rucksack.Pack{MassG: 1000, Zones: []rucksack.Zone{{ID: "body", Kind: rucksack.Body, VolumeL: 30,
		SizeCm: [3]float64{30, 20, 50}, AtCm: [3]float64{0, 10, 25}}}}
	box := kit.Item{ID: "box", Name: "Box", Count: 1, MassG: 5000, Carry: kit.Pack}
	plan := &load.Plan{Placed: []load.Placement{{Piece: kit.Pieces([]kit.Item{box}, kit.Pack)[0], Zone: &pack.Zones[0],
		MiddleCm: [3]float64{0, 10, 30}}}}
	walker := trail.Carrier{MassKg: 60, HeightCm: 170, Age: 40}
	task := &job.Task{Pack: pack, Items: []kit.Item{box}, Trip: trail.Trip{Carrier: walker}}
	b := weigh(task, plan, &dry.Barriers{})
	middle := (1000*pack.MiddleCm()[2] + 5000*30) / 6000
	assert.InDelta(t, middle/(0.9*50), b.Height, 1e-3, "the shoulder lies at nine tenths of the back")
	assert.InDelta(t, 6.0/60, b.BodyShare, 1e-9)
	assert.Contains(t, fmt.Sprint(balanceCheck(Balance{Height: 0.5, Band: [2]float64{0.45, 0.65}})), "balance.where [50 45 65")

	above := weightCheck(task, plan, Balance{MassG: 24_000, BodyShare: 0.4})
	assert.Contains(t, fmt.Sprint(above.Reasons), "weight.above-upper [40 60000 30")
	above = weightCheck(task, plan, Balance{MassG: 24_000, BodyShare: 0.25 + 1.0/64})
	assert.Contains(t, fmt.Sprint(above.Reasons), "weight.above-common [26.5625 60000 30")
}
