package verdict

import (
	"fmt"
	"math"
	"slices"

	"tornister/core/balance"
	"tornister/core/dry"
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

// weigh sums the pack, what is in it, the liner or cover that the school uses and the bags that are in use, each at its
// place.
func weigh(task *load.Task, plan *load.Plan, barriers *dry.Barriers) Balance {
	pack := &task.Pack
	body := pack.Of(rucksack.Body)
	masses := []balance.Mass{{G: pack.MassG, At: pack.MiddleCm()}}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		at := p.MiddleCm
		if p.Inside != "" {
			at = vesselAt(plan, i)
		}
		masses = append(masses, balance.Mass{G: p.Piece.MassG, At: at})
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
	b := Balance{MassG: math.Round(centre.G), CentreCm: rounded(centre.At), Band: [2]float64{low, high}, Height: round3(centre.At[2] / pack.ShoulderCm()),
		SideG: math.Round(balance.SideG(centre, sidesApart(pack))), LeanDeg: round1(balance.LeanDeg(centre, carrier.MassKg, carrier.HeightCm)),
		TipDeg: round1(balance.TipDeg(centre, lowest.SizeCm[0], lowest.SizeCm[1])), BodyShare: round3(centre.G / 1000 / carrier.MassKg)}
	b.Stands = b.TipDeg >= balance.StandsDeg
	return b
}

// vesselAt is the place of the vessel that the thing at position i is nested in: the last outer thing before it.
func vesselAt(plan *load.Plan, i int) [3]float64 {
	for ; i >= 0; i-- {
		if plan.Placed[i].Inside == "" {
			return plan.Placed[i].MiddleCm
		}
	}
	return [3]float64{}
}

// sidesApart is how far the side pockets are apart, the width of the body where there are none.
func sidesApart(pack *rucksack.Pack) float64 {
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

// sideLooksG is the difference between the sides from which one feels it (our estimate).
const sideLooksG = 400

func balanceCheck(task *load.Task, b Balance) Check {
	c := Check{Check: "balance", State: Settled, Figure: fmt.Sprintf("%.0f %%", 100*b.Height), Detail: fmt.Sprintf("lean %.0f°", b.LeanDeg)}
	where := fmt.Sprintf("The weight lies %.0f %% of the way from hip belt to shoulder; the chosen way wants %.0f to %.0f %% (common practice).",
		100*b.Height, 100*b.Band[0], 100*b.Band[1])
	switch {
	case b.Height < b.Band[0]-0.005:
		c.raise(Look, where+" Move something heavy up.")
	case b.Height > b.Band[1]+0.005:
		c.raise(Look, where+" Move something heavy down.")
	default:
		c.raise(Settled, where)
	}
	c.raise(Settled, fmt.Sprintf("Its middle is %s from the back panel; you lean about %.0f° to carry it (a comparison between plans, not a promise).",
		task.Trip.Units.Length(math.Round(b.CentreCm[1])), b.LeanDeg))
	side := "right"
	other := "left"
	if b.SideG < 0 {
		side, other = other, side
	}
	if g := math.Abs(b.SideG); g >= sideLooksG {
		c.raise(Look, fmt.Sprintf("The %s is heavier: move %s from the %s to the %s.", side, task.Trip.Units.Mass(g), side, other))
	} else {
		c.raise(Settled, fmt.Sprintf("Sides balance to %s.", task.Trip.Units.Mass(g)))
	}
	if b.Stands {
		c.raise(Settled, fmt.Sprintf("It stands by itself, until tipped by %.0f°.", b.TipDeg))
	} else {
		c.raise(Look, fmt.Sprintf("It will not stand by itself: a tilt of %.0f° is enough.", max(0, b.TipDeg)))
	}
	return c
}
