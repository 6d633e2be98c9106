package load

import (
	"math"
	"slices"

	"tornister/core/rucksack"
)

// Proof says how good a zone assignment is: what it costs, and what no assignment can cost less than. Both belong to
// the mixed-integer program that WriteLP writes.
type Proof struct {
	Objective float64 `json:"objective"`
	Bound     float64 `json:"bound"`
}

// Gap is the part of the objective that is not proved to be necessary.
func (p Proof) Gap() float64 {
	if p.Objective <= 0 {
		return 0
	}
	return max(0, (p.Objective-p.Bound)/p.Objective)
}

// prices are Lagrange multipliers: what a litre of each zone is worth, tight (its capacity) and loose (its squeeze),
// and a newton-metre to the right. With them every thing finds its cheapest zone by itself, and the sum, less what the
// capacities are worth, is a lower bound on the cost of any assignment. Rules about things that meet in a pocket are
// left out of the bound, which only lowers it.
type prices struct {
	tight, loose []float64
	mass         []float64 // of straps, by gram
	side         float64
}

func newPrices(zones int) *prices {
	return &prices{tight: make([]float64, zones), loose: make([]float64, zones), mass: make([]float64, zones)}
}

// reduced is what a thing costs in a zone at these prices.
func (a *assignment) reduced(c *choice, zone int, at *prices) float64 {
	if zone == out {
		return c.leave
	}
	v := c.price[zone]
	if math.IsInf(v, 1) {
		return v
	}
	z := &a.zones[zone]
	loose, tight := c.room(0), c.room(1)
	v += at.tight[zone]*tight + at.loose[zone]*loose + at.mass[zone]*c.mass + at.side*sideMoment(z, c.mass)
	if target := a.drawnOn[zone]; target >= 0 {
		v += z.DrawsOn.Share * (at.tight[target]*tight + at.loose[target]*loose)
	}
	return v
}

// bound computes the lower bound at the given prices, and with it the zone each thing would take.
func (a *assignment) bound(at *prices, take []int) float64 {
	sum := 0.0
	for i, c := range a.choices {
		best, zone := c.leave, out
		for z := range a.zones {
			if v := a.reduced(c, z, at); v < best {
				best, zone = v, z
			}
		}
		sum += best
		take[i] = zone
	}
	return sum - a.worth(at)
}

// capacity is the litres of a zone before anything draws on it.
func (a *assignment) capacity(zone int) float64 {
	return max(0, a.zones[zone].CapacityL()-a.loss[zone])
}

// massLimit is the grams that straps may hold, 0 for no limit.
func (a *assignment) massLimit(zone int) float64 {
	if z := &a.zones[zone]; z.Kind == rucksack.Straps {
		return z.MaxMassG
	}
	return 0
}

// ascend improves the prices by subgradient steps towards the cost of the best assignment known, and returns the best
// bound. On the way it lets the assignment start from what the prices suggest.
func (a *assignment) ascend(upper float64, rounds int) (best float64, at *prices) {
	n := len(a.zones)
	now, at := newPrices(n), newPrices(n)
	best = math.Inf(-1)
	take := make([]int, len(a.choices))
	use := newUsage(a)
	pace, stale := 1.6, 0
	for range rounds {
		v := a.bound(now, take)
		if v > best+1e-9 {
			best, stale = v, 0
			at = now.clone()
		} else if stale++; stale > 12 {
			pace, stale = pace*0.6, 0
			now = at.clone()
			a.bound(now, take)
		}
		use.clear()
		for i, c := range a.choices {
			if take[i] != out {
				use.add(c, take[i])
			}
		}
		use.excess()
		norm := use.square(now)
		if norm < 1e-12 || pace < 1e-4 {
			break
		}
		step := pace * max(upper-v, 0.01*math.Abs(upper)/100+1e-6) / norm
		use.move(now, step)
	}
	return best, at
}

// usage is how much of everything that has a price the things take.
type usage struct {
	*assignment
	tight, loose, mass []float64
	moment             float64
}

func newUsage(a *assignment) *usage {
	n := len(a.zones)
	return &usage{a, make([]float64, n), make([]float64, n), make([]float64, n), 0}
}

func (u *usage) clear() {
	clear(u.tight)
	clear(u.loose)
	clear(u.mass)
	u.moment = 0
}

func (u *usage) add(c *choice, zone int) {
	u.tight[zone] += c.room(1)
	u.loose[zone] += c.room(0)
	u.mass[zone] += c.mass
	u.moment += sideMoment(&u.zones[zone], c.mass)
	if target := u.drawnOn[zone]; target >= 0 {
		u.tight[target] += u.zones[zone].DrawsOn.Share * c.room(1)
		u.loose[target] += u.zones[zone].DrawsOn.Share * c.room(0)
	}
}

// perMass brings grams into the size of litres for a common step.
const perMass = 100

// excess turns use into what is above the limits.
func (u *usage) excess() {
	for z := range u.zones {
		limit := u.massLimit(z)
		u.tight[z] -= u.capacity(z)
		u.loose[z] -= u.capacity(z)
		u.mass[z] = (u.mass[z] - limit) / perMass
		if limit == 0 {
			u.mass[z] = 0
		}
	}
}

// square is the square of the step that the excess suggests.
func (u *usage) square(at *prices) float64 {
	norm := u.moment * u.moment
	for z := range u.zones {
		norm += step2(at.tight[z], u.tight[z]) + step2(at.loose[z], u.loose[z]) + step2(at.mass[z]*perMass, u.mass[z])
	}
	return norm
}

// deflect is how much of the last direction is kept: directions that turn to and fro cancel out.
const deflect = 0.5

// follow adds to the excess a part of the direction taken before, and remembers the sum.
func (u *usage) follow(before *usage) {
	for z := range u.zones {
		u.tight[z] += deflect * before.tight[z]
		u.loose[z] += deflect * before.loose[z]
		u.mass[z] += deflect * before.mass[z]
	}
	u.moment += deflect * before.moment
	copy(before.tight, u.tight)
	copy(before.loose, u.loose)
	copy(before.mass, u.mass)
	before.moment = u.moment
}

// move changes the prices by a step along the excess.
func (u *usage) move(at *prices, step float64) {
	for z := range u.zones {
		at.tight[z] = max(0, at.tight[z]+step*u.tight[z])
		at.loose[z] = min(u.squeezePrice(z), max(0, at.loose[z]+step*u.loose[z]))
		at.mass[z] = max(0, at.mass[z]+step*u.mass[z]/perMass)
	}
	at.side = max(-perSideNm, min(perSideNm, at.side+step*u.moment))
}

// worth is what the priced limits are worth together.
func (a *assignment) worth(at *prices) (sum float64) {
	for z := range a.zones {
		sum += (at.tight[z] + at.loose[z]) * a.capacity(z)
		if limit := a.massLimit(z); limit > 0 {
			sum += at.mass[z] * limit
		}
	}
	return sum
}

// step2 is the square of a step that is not held back at zero.
func step2(price, step float64) float64 {
	if price <= 0 && step < 0 {
		return 0
	}
	return step * step
}

func (p *prices) clone() *prices {
	return &prices{slices.Clone(p.tight), slices.Clone(p.loose), slices.Clone(p.mass), p.side}
}

// squeezePrice is what a litre that must be squeezed costs in a zone.
func (a *assignment) squeezePrice(zone int) float64 {
	if a.zones[zone].Kind == rucksack.Straps {
		return 0
	}
	return perSqueezeL
}
