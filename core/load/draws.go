package load

import (
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// factors is how many standard deviations each line's litres are off.
type factors map[string]float64

// of is the factor of a thing's litres. None has less than a fifth of what it was measured at.
func (f factors) of(it *kit.Item) float64 { return max(0.2, 1+it.Uncertain()*f[it.ID]) }

// draw draws the factors of lines, in their order.
func draw(ids []string, random *source) factors {
	f := factors{}
	for _, id := range ids {
		f[id] = within(random.NormFloat64())
	}
	return f
}

// within is a factor within three standard deviations.
func within(factor float64) float64 { return max(-3, min(3, factor)) }

// Drawn is the task as it may really be: with litres drawn from what is not known of them. Two of the same seed are
// alike.
func Drawn(task *job.Task, seed int64) *job.Task {
	d := samplerOf(task, seed)
	return scaledBy(task, draw(d.ids, d.random))
}

// DrawnEvenly is the task as it may really be n times, the litres of all that is packed spread evenly over what they
// may be.
func DrawnEvenly(task *job.Task, n int, seed int64) (tasks []*job.Task) {
	for _, f := range samplerOf(task, seed).evenly(n) {
		tasks = append(tasks, scaledBy(task, f))
	}
	return tasks
}

func scaledBy(task *job.Task, f factors) *job.Task {
	other := *task
	other.Items = slices.Clone(task.Items)
	for i := range other.Items {
		it := &other.Items[i]
		it.Shape = scaled(it.Shape, f.of(it))
	}
	return &other
}

// scaled is a shape with so many times its litres. A side that is not what it was measured at is so by whole cells, the
// nearest: the trial packing rounds sides up, and a pot of 16 cm that may as well be 16.1 is no pot of 17.
func scaled(s kit.Shape, factor float64) kit.Shape {
	more := math.Cbrt(factor) - 1
	side := func(cm float64) float64 { return cm + cellCm*math.Round(cm*more/cellCm) }
	s.LooseL *= factor
	s.TightL *= factor
	s.VolumeL *= factor
	s.DiameterCm = side(s.DiameterCm)
	s.LengthCm = side(s.LengthCm)
	for axis := range s.SizeCm {
		s.SizeCm[axis] = side(s.SizeCm[axis])
	}
	return s
}

// sampler draws kits as they may really be.
type sampler struct {
	random  *source
	ids     []string           // of the lines, in their order
	spreads map[string]float64 // the standard uncertainty in litres of what a line puts into body and pockets
	all     float64            // that of all lines together
}

// samplerOf draws the kit of a task, wherever its things will lie.
func samplerOf(task *job.Task, seed int64) *sampler {
	d := &sampler{random: newSource(seed), spreads: map[string]float64{}}
	for i := range task.Items {
		it := &task.Items[i]
		if d.ids = append(d.ids, it.ID); it.Carry == kit.Pack {
			d.spreads[it.ID] = uncertainL(it)
		}
	}
	slices.Sort(d.ids)
	return d.summed()
}

// sampler draws the kit that is planned: what hangs on straps takes no room from the rest.
func (s *search) sampler(seed int64) *sampler {
	d := &sampler{random: newSource(seed), ids: s.lines(), spreads: map[string]float64{}}
	a := s.assignment
	for _, c := range a.Choices {
		if c.Zone == assign.Out || a.Zones[c.Zone].Kind != rucksack.Straps {
			d.spreads[c.ID] += c.Item.Uncertain() * c.Room(1)
		}
	}
	return d.summed()
}

// summed works out the spread of all lines together: they are independent of each other.
func (d *sampler) summed() *sampler {
	d.all = 0
	for _, id := range d.ids {
		d.all = math.Hypot(d.all, d.spreads[id])
	}
	return d
}

// evenly draws n kits, the litres of each in all from another of n slices of equal chance, in an order drawn by lot
// (stratified sampling along a linear projection: Glasserman, Monte Carlo Methods in Financial Engineering, 2004,
// section 4.3.2). Whether a kit goes in hangs on that sum before anything else: fifty draws that leave it to chance
// are too large or too small together by a seventh of its spread, and as the same seed draws the same, those of all
// kits of a trip.
func (d *sampler) evenly(n int) []factors {
	drawn := make([]factors, n)
	for k, slice := range d.random.Perm(n) {
		drawn[k] = draw(d.ids, d.random)
		if at := (float64(slice) + d.random.Float64()) / float64(n); d.all > 0 {
			d.shift(drawn[k], within(quantile(at)))
		}
	}
	return drawn
}

// quantile is that of the standard normal distribution.
func quantile(share float64) float64 { return math.Sqrt2 * math.Erfinv(2*share-1) }

// shift makes the litres of a draw in all so many standard deviations more than measured: of each line as much as it
// has part in the spread, which is how lines are spread when only their sum is known.
func (d *sampler) shift(f factors, to float64) {
	for _, id := range d.ids {
		to -= f[id] * d.spreads[id] / d.all
	}
	for _, id := range d.ids {
		f[id] = within(f[id] + to*d.spreads[id]/d.all)
	}
}

// larger is how many litres a draw has more than was measured.
func (d *sampler) larger(f factors) (sum float64) {
	for _, id := range d.ids {
		sum += f[id] * d.spreads[id]
	}
	return sum
}
