package planner_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/internal/sample"
	"tornister/planner"
)

// drawn is a kit of n things of the table, for a pack that they fit into or not.
func drawn(b *testing.B, n int, fits bool, seed uint64) *job.Task {
	task := taskOf(b, demo.LoneWalker)
	r := rand.New(rand.NewPCG(seed, 9))
	task.Items, task.Pins, task.Bags = nil, nil, nil
	litres := 0.0
	for len(task.Items) < n {
		k := sample.Kind(r)
		if k.Shape.Litres(1) > 400/float64(n) || k.Shape.Dimensions()[0] > 45 {
			continue
		}
		task.Items = append(task.Items, kit.Item{ID: fmt.Sprintf("%s-%d", k.ID, len(task.Items)), Name: k.Name, Kind: k.ID,
			Group: k.Group, Count: 1, MassG: k.MassG, Shape: k.Shape, Measured: kit.Guess,
			Carry: kit.Pack, Use: k.Use, Water: k.Water, Traits: k.Traits, Functions: k.Functions, Consumable: k.Consumable})
		litres += k.Shape.Litres(1)
	}
	wanted := 34.0 // tight litres, for a pack of some 52
	if !fits {
		wanted = 75
	}
	for i := range task.Items { // as much as wanted, with the same shapes
		f := wanted / litres
		s := &task.Items[i].Shape
		s.LooseL, s.TightL, s.VolumeL, s.InsideL = s.LooseL*f, s.TightL*f, s.VolumeL*f, s.InsideL*f
		f = cubeRoot(f)
		for axis := range s.SizeCm {
			s.SizeCm[axis] *= f
		}
		s.DiameterCm, s.LengthCm, s.MouthCm = s.DiameterCm*f, s.LengthCm*f, s.MouthCm*f
	}
	return task
}

func cubeRoot(v float64) float64 {
	x := 1.0
	for range 60 {
		x -= (x*x*x - v) / (3 * x * x)
	}
	return x
}

// BenchmarkFirstAnswer tells how long a first answer takes, as a server asks for it: of thirty kits the median,
// the ninth decile and the longest.
func BenchmarkFirstAnswer(b *testing.B) {
	for _, n := range []int{20, 50, 100} {
		for _, fits := range []bool{true, false} {
			b.Run(fmt.Sprintf("%d/fits=%t", n, fits), func(b *testing.B) {
				var took []float64
				for b.Loop() {
					took = took[:0]
					for seed := range uint64(30) {
						p := planner.New[int](planner.Options{First: planner.AtOnce})
						task := drawn(b, n, fits, seed)
						begin := time.Now()
						j := p.Begin(1, 1, task, 0)
						_, _ = j.Best()
						took = append(took, float64(time.Since(begin).Microseconds())/1000)
						p.Close()
					}
				}
				slices.Sort(took)
				b.ReportMetric(took[14], "ms-median")
				b.ReportMetric(took[26], "ms-p90")
				b.ReportMetric(took[29], "ms-max")
			})
		}
	}
}

// BenchmarkBestPlan tells how long the best plan of kits takes that do not fit, with nothing that cuts it short.
func BenchmarkBestPlan(b *testing.B) {
	for _, n := range []int{20, 50, 100} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			var took []float64
			for b.Loop() {
				took = took[:0]
				for seed := range uint64(6) {
					begin := time.Now()
					verdict.Of(drawn(b, n, false, seed), load.Options{Seed: planner.Seed})
					took = append(took, time.Since(begin).Seconds())
				}
			}
			slices.Sort(took)
			b.ReportMetric((took[2]+took[3])/2, "s-median")
			b.ReportMetric(took[5], "s-max")
		})
	}
}
