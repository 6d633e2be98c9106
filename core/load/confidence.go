package load

import (
	"math"
	"slices"
	"sync"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// Confidence is how sure the verdict is, given how the litres came to be known.
type Confidence struct {
	Share       float64 // of draws in which everything goes in
	Draws       int
	MeasureNext string // id of the item whose better measurement would narrow it most, "" when all are good
}

// draws is how often the litres are drawn; two runs differ by less than three in a hundred.
const draws = 400

// fewestDraws is how many must have been made for their share to mean anything.
const fewestDraws = 100

// confidence draws the litres of every line from its uncertainty (normal, at most three standard deviations) and packs
// each draw tight, in the order found and otherwise with large things first. What a pocket cannot take of its things
// must find room in the body. The draws are the same for the same seed.
func (s *search) confidence(p *packing) *Confidence {
	a := s.assignment
	c := &Confidence{MeasureNext: s.measureNext()}
	factors := make([]map[string]float64, draws)
	random := newSource(s.options.Seed + 1)
	ids := s.lines()
	for d := range factors {
		factors[d] = map[string]float64{}
		for _, id := range ids {
			factors[d][id] = max(-3, min(3, random.NormFloat64()))
		}
	}
	all := slices.Clone(p.inside)
	for _, ch := range a.choices {
		if ch.zone == out && !ch.stuck {
			all = append(all, ch)
		}
	}
	const workers = 2
	fits, made := make([]bool, draws), make([]bool, draws)
	var wait sync.WaitGroup
	for w := range workers {
		wait.Go(func() {
			trial := p.space.NewTrial(len(all) + 1)
			things := make([]stuff.Thing, 0, len(all)+1)
			for d := w; d < draws; d += workers {
				if s.options.Stop != nil && s.options.Stop() {
					return
				}
				things = p.drawn(things[:0], all, factors[d])
				if over := a.pocketsOver(factors[d]); over > 0 {
					things = append(things, stuff.Thing{Region: stuff.Body, Loose: p.space.CellsOf(over), Tight: p.space.CellsOf(over), Gap: 2})
				}
				fits[d], made[d] = p.eitherWay(trial, things), true
			}
		})
	}
	wait.Wait()
	c.Draws = 0
	for d, yes := range fits {
		c.Draws += count(made[d])
		c.Share += float64(count(yes))
	}
	if c.Draws < fewestDraws {
		return nil // the clock ended it before it could tell
	}
	c.Share = math.Round(c.Share/float64(c.Draws)*1000) / 1000
	return c
}

// lines lists the ids of what is packed, in order.
func (s *search) lines() []string {
	var ids []string
	for _, c := range s.assignment.choices {
		if len(ids) == 0 || ids[len(ids)-1] != c.ID {
			ids = append(ids, c.ID)
		}
	}
	return ids
}

// measureNext finds the line with the largest standard uncertainty in litres: it gives most to the spread of the sum.
func (s *search) measureNext() string {
	best, id := 0.0, ""
	for i := range s.task.Items {
		it := &s.task.Items[i]
		if it.Carry != kit.Pack {
			continue
		}
		spread := it.Uncertain() * it.Shape.Litres(1) * float64(it.Count)
		if spread > best+1e-9 || spread > best-1e-9 && it.ID < id {
			best, id = spread, it.ID
		}
	}
	return id
}

// drawn measures the things anew with other litres.
func (p *packing) drawn(things []stuff.Thing, all []*choice, factor map[string]float64) []stuff.Thing {
	for i, c := range all {
		region, lane := stuff.Body, stuff.Wish{}
		if i < len(p.things) {
			region, lane = p.things[i].Region, p.things[i].Wish
		}
		th := p.space.ThingOf(scaled(c.Shape, 1+c.Uncertain()*factor[c.ID]), region, lane)
		if i < len(p.things) {
			th.Bag = p.things[i].Bag
		}
		things = append(things, th)
	}
	return things
}

// scaled is a shape with so many times its litres.
func scaled(s kit.Shape, factor float64) kit.Shape {
	factor = max(0.2, factor)
	side := math.Cbrt(factor)
	s.LooseL *= factor
	s.TightL *= factor
	s.VolumeL *= factor
	s.DiameterCm *= side
	s.LengthCm *= side
	for axis := range s.SizeCm {
		s.SizeCm[axis] *= side
	}
	return s
}

// eitherWay packs in the order found, what is new last, and otherwise without bags and with the large hard things
// first.
func (p *packing) eitherWay(trial *stuff.Trial, things []stuff.Thing) bool {
	need := 0
	for i := range things {
		need += things[i].Cells(1)
	}
	if need > p.space.Room() {
		return false
	}
	order := slices.Clone(p.order)
	for i := range things {
		if !slices.Contains(order, i) {
			order = append(order, i)
		}
	}
	if trial.Fits(things, order, 1) {
		return true
	}
	for i := range things {
		things[i].Bag = 0
	}
	for _, larger := range largestFirst {
		sortLargest(order, things, larger)
		if trial.Fits(things, order, 1) {
			return true
		}
	}
	return false
}

// pocketsOver is how many litres the pockets cannot take when the litres of their things are drawn anew.
func (a *assignment) pocketsOver(factor map[string]float64) (over float64) {
	for i := range a.zones {
		z := &a.zones[i]
		if z.Solid() || z.Kind == rucksack.Straps || a.fills[i].count == 0 {
			continue
		}
		need := 0.0
		for _, c := range a.choices {
			if c.zone == i {
				need += c.room(1) * (1 + c.Uncertain()*factor[c.ID])
			}
		}
		over += max(0, need-z.CapacityL())
	}
	return over
}
