package assign

import (
	"math"
	"math/rand/v2"
)

// How an annealing cools, in seconds a day, and what it takes litres and grams too many to cost: a litre as much as two
// or three things left out, so that a pack is overfull on the way and not in the end. Twelve thousand steps take some
// 3 ms.
const (
	hottest       = 250.0
	coldest       = 3.0
	overfullL     = 15_000.0
	overfullG     = overfullL / 100
	stepsAThing   = 300
	mostSteps     = 12_000
	stepsToListen = 1024 // steps between two questions whether the search is to end
)

// annealing looks for cheaper zones by simulated annealing (Kirkpatrick, Gelatt and Vecchi, 1983): one thing goes
// elsewhere or two change places at random, and what that costs more is taken on with a probability that falls as it
// cools. Too much in a zone is allowed at a price: in a pack that is full, hardly a thing could move without it. It is
// the same each time.
type annealing struct {
	*Assignment
	random *rand.Rand
	free   []*Choice
	places [][]int   // beside free, the zones where it may lie, and Out
	costs  []float64 // by zone, now
}

// toAnneal begins an annealing; what no zone takes stays out.
func (a *Assignment) toAnneal() *annealing {
	s := &annealing{Assignment: a, random: rand.New(rand.NewPCG(1, 1)), costs: make([]float64, len(a.Zones))}
	for _, c := range a.Choices {
		if c.Stuck {
			continue
		}
		places := []int{Out}
		for z, price := range c.Price {
			if !math.IsInf(price, 1) {
				places = append(places, z)
			}
		}
		s.free, s.places = append(s.free, c), append(s.places, places)
	}
	return s
}

// run goes from hot to cold once, and ends with the best that keeps all limits, which may be where it began.
func (s *annealing) run() {
	best, least := s.ZonesNow(), s.Total()
	steps := min(mostSteps, stepsAThing*len(s.free))
	cost := s.overfull()
	temperature, cooling := hottest, math.Pow(coldest/hottest, 1/float64(steps))
	for step := range steps {
		if step%stepsToListen == 0 && s.Ended() {
			break
		}
		temperature *= cooling
		if cost += s.step(temperature); cost < least-Gain {
			if total := s.Total(); total < least-Gain {
				best, least = s.ZonesNow(), total
			}
		}
	}
	s.PutAll(best)
}

// overfull prices all anew with what is too much at its price, and tells the sum.
func (s *annealing) overfull() float64 {
	sum := sideCost(s.moment)
	for z := range s.Zones {
		s.costs[z] = s.zoneCostAt(z, overfullL, overfullG)
		sum += s.costs[z]
	}
	for _, c := range s.Choices {
		sum += c.cost(c.Zone)
	}
	return sum
}

// step draws a move, makes it or leaves all as it is, and tells by how much the cost has risen.
func (s *annealing) step(temperature float64) float64 {
	i := s.random.IntN(len(s.free))
	c := s.free[i]
	if s.random.IntN(2) == 0 {
		return s.accept(temperature, c, nil, s.places[i][s.random.IntN(len(s.places[i]))])
	}
	d := s.free[s.random.IntN(len(s.free))]
	return s.accept(temperature, c, d, d.Zone)
}

// accept moves one thing to a zone, and a second one from there to where it was if there is one, unless it costs too
// much for the temperature.
func (s *annealing) accept(temperature float64, c, d *Choice, to int) float64 {
	from := c.Zone
	rise := c.cost(to) - c.cost(from)
	if d != nil {
		rise += d.cost(from) - d.cost(to)
	}
	if from == to || math.IsInf(rise, 1) {
		return 0
	}
	rise -= sideCost(s.moment)
	s.exchangeZones(c, d, from, to)
	var before [4]float64
	touched, n := s.touched(from, to)
	for k, z := range touched[:n] {
		before[k] = s.costs[z]
		s.costs[z] = s.zoneCostAt(z, overfullL, overfullG)
		rise += s.costs[z] - before[k]
	}
	rise += sideCost(s.moment)
	if rise <= 0 || s.random.Float64() < math.Exp(-rise/temperature) {
		return rise
	}
	s.exchangeZones(c, d, to, from)
	for k, z := range touched[:n] {
		s.costs[z] = before[k]
	}
	return 0
}

func (s *annealing) exchangeZones(c, d *Choice, from, to int) {
	s.Put(c, to)
	if d != nil {
		s.Put(d, from)
	}
}
