package verdict

import (
	"math"
	"slices"

	"tornister/core/balance"
	"tornister/core/dry"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/rucksack"
)

// Balance is the weight on the back.
type Balance struct {
	MassG     float64    `json:"mass_g"`
	CentreCm  [3]float64 `json:"centre_cm"` // of pack and contents, in the pack frame
	Band      [2]float64 `json:"band"`      // of the school, from hip belt 0 to shoulder 1
	Height    float64    `json:"height"`    // of the centre, on the same scale
	SideG     float64    `json:"side_g"`    // to move across; positive: the right is heavier
	LeanDeg   float64    `json:"lean_deg"`
	Stands    bool       `json:"stands"`
	TipDeg    float64    `json:"tip_deg"`
	BodyShare float64    `json:"body_share"`
}

// weigh sums the pack, what is in it, the liner or cover that the school uses and the bags that are in use, each at
// its place.
func weigh(task *job.Task, plan *load.Plan, barriers *dry.Barriers) Balance {
	pack := &task.Pack
	body := pack.Of(rucksack.Body)
	masses := []balance.Mass{{G: pack.MassG, At: pack.MiddleCm()}}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		masses = append(masses, balance.Mass{G: p.Piece.MassG, At: plan.Outer(i).MiddleCm})
	}
	for _, bag := range task.Bags {
		school := task.Method.Dry
		if bag.Kind == "liner" && (school == "liner" || school == "double") || bag.Kind == "cover" && school == "cover" {
			masses = append(masses, balance.Mass{G: bag.MassG, At: body.AtCm})
		}
	}
	for _, b := range slices.Concat(barriers.Used, barriers.Wet) {
		masses = append(masses, balance.Mass{G: b.Bag.MassG, At: pack.Zone(b.Zone).AtCm})
	}
	centre := balance.Centre(masses)
	lowest := body
	if bottom := pack.Of(rucksack.Bottom); bottom != nil {
		lowest = bottom
	}
	low, high := task.Method.Band()
	carrier := task.Trip.Carrier
	b := Balance{MassG: math.Round(centre.G), CentreCm: rounded(centre.At), Band: [2]float64{low, high},
		Height:    round3(centre.At[2] / pack.ShoulderCm()),
		SideG:     math.Round(balance.SideG(centre, SidesApart(pack))),
		LeanDeg:   round1(balance.LeanDeg(centre, carrier.MassKg, carrier.HeightCm)),
		TipDeg:    round1(balance.TipDeg(centre, lowest.SizeCm[0], lowest.SizeCm[1])),
		BodyShare: round3(centre.G / 1000 / carrier.MassKg)}
	b.Stands = b.TipDeg >= balance.StandsDeg
	return b
}

// SidesApart is how far the side pockets are apart, the width of the body where there are none.
func SidesApart(pack *rucksack.Pack) float64 {
	left, right := 0.0, 0.0
	for i := range pack.Zones {
		if z := &pack.Zones[i]; z.Kind == rucksack.Side {
			left, right = min(left, z.AtCm[0]), max(right, z.AtCm[0])
		}
	}
	if right-left > 0 {
		return right - left
	}
	return pack.Of(rucksack.Body).SizeCm[0]
}

// SideLooksG is the difference between the sides from which one feels it (our estimate).
const SideLooksG = 400

func balanceCheck(b Balance) Check {
	c := Check{Check: "balance", State: Settled, Figure: fact.Of("balance.height", 100*b.Height),
		Detail: fact.Of("balance.lean", b.LeanDeg)}
	where := fact.Of("balance.where", 100*b.Height, 100*b.Band[0], 100*b.Band[1])
	switch {
	case b.Height < b.Band[0]-0.005:
		c.raise(Look, fact.Of("balance.too-low", where))
	case b.Height > b.Band[1]+0.005:
		c.raise(Look, fact.Of("balance.too-high", where))
	default:
		c.raise(Settled, where)
	}
	c.raise(Settled, fact.Of("balance.from-back", fact.Cm(math.Round(b.CentreCm[1])), b.LeanDeg))
	switch g := fact.Grams(math.Abs(b.SideG)); {
	case g < SideLooksG:
		c.raise(Settled, fact.Of("balance.sides", g))
	case b.SideG > 0:
		c.raise(Look, fact.Of("balance.right-heavy", g))
	default:
		c.raise(Look, fact.Of("balance.left-heavy", g))
	}
	if b.Stands {
		c.raise(Settled, fact.Of("balance.stands", b.TipDeg))
	} else {
		c.raise(Look, fact.Of("balance.tips", max(0, b.TipDeg)))
	}
	return c
}
