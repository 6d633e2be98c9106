package mip

import (
	"cmp"
	"math"
	"slices"
)

// covers makes lifted cover cuts of the rows that only bound a sum of binaries: things that do not go in together,
// all of them, are one too many (Balas, 1975; Wolsey, 1975).
func (g *rounder) covers() (list []cut) {
	for i := range g.program.Rows {
		row := &g.program.Rows[i]
		for _, side := range [...]float64{1, -1} {
			limit := row.High
			if side < 0 {
				limit = -row.Low
			}
			if math.IsInf(limit, 1) || row.Low == row.High {
				continue
			}
			if c, ok := g.cover(g.knapsack(row.Terms, side, limit)); ok {
				list = append(list, c)
			}
		}
	}
	return list
}

// knapsack is a row as a sum of positive weights of binaries, some counted from 1 downward.
type knapsack struct {
	columns []int
	turned  []bool
	weight  []float64
	value   []float64 // in the relaxation
	limit   float64
}

func (g *rounder) knapsack(terms []Term, side, limit float64) *knapsack {
	k := &knapsack{limit: limit}
	for _, t := range terms {
		low, high, weight := g.relaxation.low[t.Column], g.high[t.Column], side*t.Factor
		switch {
		case weight == 0:
			continue
		case low == high:
			k.limit -= weight * low
			continue
		case !g.program.Columns[t.Column].Whole || low != 0 || high != 1:
			return nil
		}
		value := g.value[t.Column]
		if weight < 0 {
			k.limit -= weight
			weight, value = -weight, 1-value
		}
		k.columns, k.weight = append(k.columns, t.Column), append(k.weight, weight)
		k.turned, k.value = append(k.turned, side*t.Factor < 0), append(k.value, value)
	}
	return k
}

// cover finds a minimal cover that the relaxation fills most, and lifts it: a thing outside that weighs as much as
// the h heaviest of the cover counts for h of them.
func (g *rounder) cover(k *knapsack) (cut, bool) {
	if k == nil || k.limit < 0 {
		return cut{}, false
	}
	order := make([]int, len(k.columns))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(i, j int) int {
		return cmp.Compare((1-k.value[i])/k.weight[i], (1-k.value[j])/k.weight[j])
	})
	hair := 1e-6 * (1 + k.limit)
	var in []int
	sum := 0.0
	for _, i := range order {
		if sum > k.limit+hair {
			break
		}
		in = append(in, i)
		sum += k.weight[i]
	}
	if sum <= k.limit+hair {
		return cut{}, false
	}
	slices.SortStableFunc(in, func(i, j int) int { return cmp.Compare(k.value[i], k.value[j]) })
	in = slices.DeleteFunc(in, func(i int) bool {
		if sum-k.weight[i] > k.limit+hair {
			sum -= k.weight[i]
			return true
		}
		return false
	})
	slices.SortStableFunc(in, func(i, j int) int { return cmp.Compare(k.weight[j], k.weight[i]) })
	heaviest := make([]float64, len(in)+1) // sum of the h heaviest
	for h, i := range in {
		heaviest[h+1] = heaviest[h] + k.weight[i]
	}
	g.clear()
	most := float64(len(in) - 1)
	put := func(i int, times float64) {
		if k.turned[i] {
			g.put(k.columns[i], times)
			most -= times
		} else {
			g.put(k.columns[i], -times)
		}
	}
	for i := range k.columns {
		if slices.Contains(in, i) {
			put(i, 1)
			continue
		}
		h := 0
		for h+1 < len(heaviest) && heaviest[h+1] <= k.weight[i] {
			h++
		}
		if h > 0 {
			put(i, float64(min(h, len(in)-1)))
		}
	}
	return g.finish(-most)
}
