package reach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

func zone(kind rucksack.ZoneKind) *rucksack.Zone {
	weather, reach := rucksack.Typical(kind)
	return &rucksack.Zone{ID: string(kind), Name: string(kind), Kind: kind, Weather: weather, Reach: reach}
}

func piece(id string) kit.Piece {
	k, ok := kit.KindOf(id)
	if !ok {
		panic(id)
	}
	return kit.Piece{Item: &kit.Item{ID: id, Name: k.Name, Kind: id, Group: k.Group, Count: 1, Use: k.Use,
		Water: k.Water, Shape: k.Shape, Traits: k.Traits, Functions: k.Functions, Consumable: k.Consumable}, Number: 1}
}

func drill(id string) *Drill {
	for i := range Drills {
		if Drills[i].ID == id {
			return &Drills[i]
		}
	}
	panic(id)
}

// By hand, with the figures of the trade sheet (our estimates): pack off and body open 27 s, liner opened 5 s, two
// things out 4 s each: in hand after 40 s; 6 s each to put back and 5 s to shut the liner: 57 s. The fleece lies in
// the rain from 36 s, when it is out, to 52 s, when it is back last.
func TestADrillByHand(t *testing.T) {
	t.Parallel()
	fleece, pot, jacket := piece("fleece"), piece("pot"), piece("rain-jacket")
	body := zone(rucksack.Body)
	lies := []Lie{{Piece: jacket, Zone: body, Over: []kit.Piece{fleece, pot}, Liner: true},
		{Piece: fleece, Zone: body, Spoils: true}, {Piece: pot, Zone: body}}
	r := Run(drill("rain"), lies, nil)
	assert.InDelta(t, 40, r.InHandS, 1e-9)
	assert.InDelta(t, 57, r.ShutS, 1e-9)
	assert.Equal(t, []kit.Piece{fleece, pot}, r.Lifted)
	require.Len(t, r.Soaked, 1)
	assert.Equal(t, fleece, r.Soaked[0].Piece)
	assert.InDelta(t, 52-36, r.Soaked[0].For, 1e-9)
	assert.False(t, r.Within(), "something dry was rained on")
	pocket := Run(drill("rain"), []Lie{{Piece: jacket, Zone: zone(rucksack.Side)}}, nil)
	assert.InDelta(t, 8, pocket.InHandS, 1e-9)
	assert.True(t, pocket.Within())
}

func TestABagComesOutAsOne(t *testing.T) {
	t.Parallel()
	a, b, c, jacket := piece("fleece"), piece("socks"), piece("spare-clothes"), piece("rain-jacket")
	body := zone(rucksack.Body)
	lies := []Lie{{Piece: jacket, Zone: body, Over: []kit.Piece{a, b, c}}, {Piece: a, Zone: body, Bag: "blue"},
		{Piece: b, Zone: body, Bag: "blue"}, {Piece: c, Zone: body, Bag: "red"}}
	assert.InDelta(t, 27+2*4, Run(drill("rain"), lies, nil).InHandS, 1e-9)
}

func TestTheCompanionFindsIt(t *testing.T) {
	t.Parallel()
	kitPiece := piece("first-aid-kit")
	lid, body := zone(rucksack.Lid), zone(rucksack.Body)
	inLid := []Lie{{Piece: kitPiece, Zone: lid}}
	r := Run(drill("hurt"), inLid, nil)
	assert.True(t, r.Found(inLid))
	assert.Equal(t, fact.Of("reach.in", lid.Name), r.Where)
	deep := []Lie{{Piece: kitPiece, Zone: body, Over: []kit.Piece{piece("pot"), piece("mug")}}}
	r = Run(drill("hurt"), deep, nil)
	assert.False(t, r.Found(deep))
	none := Run(drill("hurt"), nil, nil)
	assert.True(t, none.Missing)
	worn := Run(drill("way"), nil, []kit.Piece{piece("compass")})
	assert.False(t, worn.Missing)
	assert.Zero(t, worn.InHandS)
}

// Ten times of 50 s for a drill that was estimated at 38 s: (2 x 38 + 10 x 50) / 12 = 48 s, by hand.
func TestTheStopwatchMovesTheEstimate(t *testing.T) {
	t.Parallel()
	times := []float64{46, 54, 50, 50, 48, 52, 50, 47, 53, 50}
	timed := WithTimes(38, times)
	assert.Equal(t, 10, timed.N)
	assert.InDelta(t, 50, timed.MeanS, 1e-9)
	assert.InDelta(t, 2.539, timed.SdS, 0.001)
	assert.InDelta(t, 48, timed.EstimateS, 1e-9)
	assert.InDelta(t, 38, WithTimes(38, nil).EstimateS, 1e-9)
}

func TestTimeNeverRunsBackwards(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		zones := []*rucksack.Zone{zone(rucksack.Body), zone(rucksack.Lid), zone(rucksack.Side), zone(rucksack.Hip)}
		var lies []Lie
		for i, k := range kit.Kinds {
			if rapid.IntRange(0, 9).Draw(t, "in") > 1 {
				continue
			}
			p := piece(k.ID)
			l := Lie{Piece: p, Zone: zones[i%4], Liner: i%3 == 0, Spoils: i%2 == 0}
			for _, o := range lies {
				if o.Zone == l.Zone && len(l.Over) < 5 {
					l.Over = append(l.Over, o.Piece)
				}
			}
			lies = append(lies, l)
		}
		d := rapid.SampledFrom(Drills).Draw(t, "drill")
		r := Run(&d, lies, nil)
		at := 0.0
		for _, a := range r.Acts {
			assert.GreaterOrEqual(t, a.At, at)
			at = a.At
		}
		assert.GreaterOrEqual(t, r.ShutS, r.InHandS)
		for _, w := range r.Wanted {
			assert.NotContains(t, r.Lifted, w)
		}
	})
}
