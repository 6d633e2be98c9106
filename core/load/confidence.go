package load

import (
	"cmp"
	"math"
	"slices"
	"sync/atomic"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// Confidence is how sure the verdict is, given how the litres came to be known.
type Confidence struct {
	Share       float64 // of draws in which everything goes in
	Draws, Fit  int     // how many were made, and in how many everything went in
	MeasureNext string  // id of the item whose better measurement would narrow it most, "" when all are good
}

// The draws: in rounds of drawsAtOnce, until the share is known to narrowEnough either way at 95 % (Wilson, 1927; as
// they are drawn evenly it is known better than that), and no more than mostDraws.
const (
	drawsAtOnce  = 50
	mostDraws    = 250
	narrowEnough = 0.03
)

// Confidence tells how sure the plan's verdict is: it draws the litres of every line from its uncertainty (normal,
// at most three standard deviations; their sum spread evenly) and packs each draw tight where the plan has everything.
// What a pocket cannot take of its things must find room in the body. A draw that does not go in like that is planned
// anew, quickly, and a sample of those that fail once more with patience, as its packer would. The draws are the same
// for the same seed. It is nil when the clock ended it before it could tell.
func (p *Plan) Confidence(options Options) *Confidence {
	c, failed := p.search.confidence(p.packing, options)
	hopeless := !p.search.options.Rough && p.OverL > hopelessSpreads*p.search.spreadL() // a rough figure says too much
	if c == nil || hopeless || len(failed) == 0 {
		return c
	}
	sample := p.search.patience(failed, c.Draws, options.Stop)
	if sample.tried == 0 { // ended before it: what fails in haste alone says too little
		return nil
	}
	c.add(sample, len(failed))
	return c
}

// confidence packs the draws and plans in haste those that do not go in as planned. It lists those that failed at that
// by little, those with the fewest litres first.
func (s *search) confidence(p *packing, options Options) (c *Confidence, failed []factors) {
	c = &Confidence{MeasureNext: s.measureNext()}
	most := int32(plansAnew)
	if s.assignment.OutCost() > 0 { // it does not fit as it is: hardly any draw will
		most = plansAnew / 3
	}
	sampler := s.sampler(options.Seed + 1)
	t := s.tries(p, options.Stop)
	for c.Draws < mostDraws && !c.narrow() && t.anew.Load() < most && !t.stop.ended() {
		for _, d := range t.round(sampler.evenly(drawsAtOnce)) {
			if !d.told {
				continue
			}
			c.Draws++
			c.Fit += count(d.fits)
			if !d.fits && d.outL < farOutL {
				failed = append(failed, d.factors)
			}
		}
	}
	if c.Draws < drawsAtOnce {
		return nil, nil
	}
	c.share()
	slices.SortStableFunc(failed, func(x, y factors) int { return cmp.Compare(sampler.larger(x), sampler.larger(y)) })
	return c, failed
}

// workers pack and plan draws side by side.
const workers = 2

// tries packs draws where a plan has everything.
type tries struct {
	search *search
	from   *packing
	all    []*assign.Choice // that is to go in, whether the plan left it out or not
	stuck  bool             // something goes in nowhere as it was measured
	trials [workers]*stuff.Trial
	anew   atomic.Int32 // how many draws were planned anew
	stop   clock
}

// tried is a draw and what came of it.
type tried struct {
	factors
	told, fits bool    // told is false where the clock ended it
	outL       float64 // litres that stayed out in haste
}

func (s *search) tries(p *packing, stop clock) *tries {
	t := &tries{search: s, from: p, all: slices.Clone(p.inside), stop: stop}
	for _, c := range s.assignment.Choices {
		if c.Zone == assign.Out && !c.Stuck {
			t.all = append(t.all, c)
		}
		t.stuck = t.stuck || c.Stuck
	}
	for w := range t.trials {
		t.trials[w] = p.space.NewTrial(len(s.assignment.Choices))
	}
	return t
}

// round tries draws side by side.
func (t *tries) round(drawn []factors) []tried {
	list := make([]tried, len(drawn))
	var wait sideBySide
	for w := range workers {
		wait.Go(func() {
			for d := w; d < len(drawn) && !t.stop.ended(); d += workers {
				list[d] = t.try(t.trials[w], drawn[d])
			}
		})
	}
	wait.Wait()
	return list
}

// try packs a draw as planned, and else plans it anew.
func (t *tries) try(trial *stuff.Trial, f factors) tried {
	a := t.search.assignment
	switch {
	case noRoomFor(a, f):
		return tried{factors: f, told: true, outL: math.Inf(1)}
	case !t.stuck && t.from.goesInDrawn(trial, a, t.all, f):
		return tried{factors: f, told: true, fits: true}
	}
	t.anew.Add(1)
	fits, outL := fitsAnew(t.search.task, f, Options{Quick: true, Stop: t.stop})
	return tried{f, !t.stop.ended(), fits, outL} // a plan cut short says nothing
}

// share works the share out, to a thousandth.
func (c *Confidence) share() { c.Share = math.Round(float64(c.Fit)/float64(c.Draws)*1000) / 1000 }

// narrow reports whether enough draws were made.
func (c *Confidence) narrow() bool {
	low, high := c.Interval()
	return c.Draws > 0 && high-low <= 2*narrowEnough
}

// Interval is where the share lies, 19 times in 20 (Wilson's score interval).
func (c *Confidence) Interval() (low, high float64) {
	const z = 1.96
	n := float64(max(1, c.Draws))
	share := float64(c.Fit) / n
	middle := (share + z*z/(2*n)) / (1 + z*z/n)
	half := z / (1 + z*z/n) * math.Sqrt(share*(1-share)/n+z*z/(4*n*n))
	return middle - half, middle + half
}

// goesInDrawn packs one draw.
func (p *packing) goesInDrawn(trial *stuff.Trial, a *assign.Assignment, all []*assign.Choice, f factors) bool {
	q := *p
	spilled, ok := spilled(a, f)
	if !ok {
		return false
	}
	q.trial, q.inside = trial, slices.Concat(all, spilled)
	q.things = p.drawn(q.inside, f)
	q.order = slices.Clone(p.order)
	for i := range q.things {
		if !slices.Contains(q.order, i) {
			q.order = append(q.order, i)
		}
	}
	if q.hopeless() {
		return false
	}
	if trial.Fits(q.things, q.order, 1) {
		return true
	}
	for i := range q.things { // and without bags
		q.things[i].Bag = 0
	}
	if trial.Fits(q.things, q.order, 1) {
		return true
	}
	for _, larger := range largestFirst {
		sortLargest(q.order, q.things, larger)
		if trial.Fits(q.things, q.order, 1) {
			return true
		}
	}
	return false
}

// noRoomFor reports whether a draw goes in in no way: something lies in no zone even alone, or what does not hang on
// straps is more than the whole pack has room for, tight.
func noRoomFor(a *assign.Assignment, f factors) bool {
	need, room := 0.0, 0.0
	for z := range a.Zones {
		if a.Zones[z].Kind != rucksack.Straps {
			room += a.Zones[z].CapacityL()
		}
	}
	for _, c := range a.Choices {
		switch {
		case c.Stuck && !slices.ContainsFunc(a.Zones, func(z rucksack.Zone) bool {
			return assign.Lie(&a.Task.Pack, &z, scaled(c.Shape, f.of(c.Item)), c.Mass).Goes
		}):
			return true
		case c.Zone == assign.Out:
			need += c.Room(1) * f.of(c.Item)
		case a.Zones[c.Zone].Kind != rucksack.Straps:
			need += c.RoomIn(c.Zone, 1) * f.of(c.Item)
		}
	}
	return need > room
}

// plansAnew bounds how many draws are planned anew: then the figure has to do with what was drawn.
const plansAnew = 50

// fitsAnew looks for a way to pack a draw as if it were the kit, and for nothing more. With sleeping bags that their
// school squeezes it looks for one without that too, as Make does. Of what does not go in it says how many litres.
func fitsAnew(task *job.Task, f factors, options Options) (fits bool, outL float64) {
	options.Seed, options.Rough, options.patient = 1, true, !options.Quick
	look := func(task *job.Task) (bool, float64) {
		s := newSearch(task, options)
		s.anyZones = true
		s.find()
		return s.assignment.OutCost() == 0, s.assignment.OutL()
	}
	drawn := scaledBy(task, f)
	fits, outL = look(drawn)
	if loose := unsacked(drawn); !fits && loose != nil {
		yes, litres := look(loose)
		return yes, min(outL, litres)
	}
	return fits, outL
}

// lines lists the ids of what is packed, in order.
func (s *search) lines() []string {
	var ids []string
	for _, c := range s.assignment.Choices {
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
		spread := uncertainL(it)
		if it.Carry != kit.Pack {
			continue
		}
		if spread > best+1e-9 || spread > best-1e-9 && it.ID < id {
			best, id = spread, it.ID
		}
	}
	return id
}

// uncertainL is the standard uncertainty of a line in litres.
func uncertainL(it *kit.Item) float64 { return it.Uncertain() * it.Shape.Litres(1) * float64(it.Count) }

// drawn measures the things anew with other litres.
func (p *packing) drawn(all []*assign.Choice, f factors) (things []stuff.Thing) {
	for i, c := range all {
		region, lane := stuff.Body, stuff.Wish{}
		if i < len(p.things) {
			region, lane = p.things[i].Region, p.things[i].Wish
		}
		th := p.space.ThingOf(scaled(c.Shape, f.of(c.Item)), region, lane)
		if i < len(p.things) {
			th.Bag = p.things[i].Bag
		}
		things = append(things, th)
	}
	return things
}

// spilled lists what the pockets cannot take when the litres of their things are drawn anew: what does not go in by
// its shape, and of what is then too much the smallest thing that makes room. It has to go into the body; ok is
// false when something may not.
func spilled(a *assign.Assignment, f factors) (list []*assign.Choice, ok bool) {
	body := assign.OfKind(a.Zones, rucksack.Body)
	for i := range a.Zones {
		z := &a.Zones[i]
		if z.Solid() || z.Kind == rucksack.Straps || !a.Used(i) {
			continue
		}
		over := -z.CapacityL()
		var in []*assign.Choice
		litres := func(c *assign.Choice) float64 { return c.RoomIn(i, 1) * f.of(c.Item) }
		for _, c := range a.Choices {
			if c.Zone != i {
				continue
			}
			shape := scaled(c.Shape, f.of(c.Item))
			if shape.Kind != kit.Soft && !assign.Lie(&a.Task.Pack, z, shape, c.Mass).Goes {
				list = append(list, c)
				continue
			}
			in = append(in, c)
			over += litres(c)
		}
		slices.SortStableFunc(in, func(x, y *assign.Choice) int { return cmp.Compare(litres(x), litres(y)) })
		for over > assign.LitreSlack && len(in) > 0 {
			k := slices.IndexFunc(in, func(c *assign.Choice) bool { return litres(c) >= over })
			if k < 0 {
				k = len(in) - 1
			}
			list = append(list, in[k])
			over -= litres(in[k])
			in = slices.Delete(in, k, k+1)
		}
	}
	return list, !slices.ContainsFunc(list, func(c *assign.Choice) bool { return math.IsInf(c.Price[body], 1) })
}
