package load

import (
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// fillZones adds to the litres of body and bottom what only the trial knows.
func (p *packing) fillZones(plan *Plan) {
	solid := p.space.Solid
	litres := p.litres(1)
	for i := range plan.Zones {
		z := &plan.Zones[i]
		if !z.Zone.Solid() {
			continue
		}
		from, to := solid.Floor, solid.Size[2]
		if z.Zone.Kind == rucksack.Bottom {
			from, to = 0, solid.Floor
		}
		z.CapacityL = float64(p.space.RoomBetween(from, to)) * litres
		z.NeedLooseL, z.NeedTightL = 0, 0
		for k := range p.things {
			share := p.shareIn(k, i, from, to) * litres
			z.NeedLooseL += float64(p.things[k].Cells(0)) * share
			z.NeedTightL += float64(p.things[k].Cells(1)) * share
		}
		_, hollow := p.trial.Hollows(from, to, math.MaxInt)
		z.HollowL = float64(hollow) * litres
		z.Squeeze = p.squeeze
		z.State = assign.StateFor(z.NeedLooseL, z.CapacityL, z.Squeeze)
		if z.NeedLooseL == 0 {
			z.State, z.Squeeze = assign.Roomy, 0
		}
	}
	patches, _ := p.trial.Hollows(0, solid.Size[2], p.space.CellsOf(leastHollowL))
	slices.SortStableFunc(patches, func(a, b stuff.Hollow) int { return b.Cells - a.Cells })
	for _, h := range patches {
		at := solid.Origin
		for axis := range at {
			at[axis] += h.Middle[axis] * solid.CellCm
		}
		plan.Hollows = append(plan.Hollows, Hollow{float64(h.Cells) * litres, at})
	}
	plan.FillCm = float64(p.trial.FillLine()) * solid.CellCm
	plan.Open = p.open
}

// shareIn is how much of a thing, 0 to 1, lies in a zone between two layers: with the divider open a thing may lie in
// both.
func (p *packing) shareIn(thing, zone, from, to int) float64 {
	if !slices.Contains(p.order, thing) {
		return 0
	}
	if !p.open {
		return float64(count(p.inside[thing].Zone == zone))
	}
	layer := p.space.Solid.Size[0] * p.space.Solid.Size[1]
	in, all := 0, 0
	for cell, owner := range p.trial.Owner {
		if int(owner) == thing {
			all++
			in += count(cell/layer >= from && cell/layer < to)
		}
	}
	return float64(in) / float64(max(1, all))
}

// leastHollowL is the smallest hollow spot that is named.
const leastHollowL = 0.15

// describePlaces writes into the placements where the trial put things.
func (p *packing) describePlaces(plan *Plan) {
	solid := p.space.Solid
	seen := p.trial.Survey(len(p.things), true, true)
	bounds := p.trial.Bounds(len(p.things))
	at := map[kit.Piece]int{}
	for i, c := range p.inside {
		at[c.Piece] = i
	}
	frame := func(cell float64, axis int) float64 { return solid.Origin[axis] + cell*solid.CellCm }
	for k := range plan.Placed {
		pl := &plan.Placed[k]
		pl.Owner = -1
		pl.MiddleCm = pl.Zone.AtCm
		i, in := at[pl.Piece]
		if !in || seen.Cells[i] == 0 || pl.Inside != "" {
			continue
		}
		pl.Owner = int16(i)
		pl.Box = &Box{}
		for axis := range 3 {
			pl.Box.Min[axis], pl.Box.Max[axis] = frame(float64(bounds[i].Min[axis]), axis), frame(float64(bounds[i].Max[axis]),
				axis)
			pl.MiddleCm[axis] = frame(seen.Middles[i][axis], axis)
		}
		inWay := p.inWay(i, seen)
		pl.LiftedOut, pl.Over, pl.Beside = inWay.Len(), p.pieces(inWay), p.pieces(seen.Beside[i])
		pl.AtSpine = float64(seen.Spine[i]) * solid.CellCm * solid.CellCm
		if pl.Piece.Shape.Kind == kit.Soft || pl.Piece.Shape.Yields() {
			pl.VolumeL = p.litres(seen.Cells[i])
		}
		pl.Lane = p.lane(pl, p.inside[i].Pin, solid)
		if p.aims != nil {
			pl.aim = p.aims[i]
		}
	}
	plan.Cells = &Cells{Solid: solid, Owner: slices.Clone(p.trial.Owner), Pockets: p.pockets}
	for _, c := range p.inside {
		plan.Cells.Things = append(plan.Cells.Things, c.Piece)
	}
}

// pieces lists the things of a set, in loading order.
func (p *packing) pieces(set stuff.Set) []kit.Piece {
	var list []kit.Piece
	for _, i := range p.order {
		if set.Has(i) {
			list = append(list, p.inside[i].Piece)
		}
	}
	return list
}

// lane names where in the body a thing lies: the lane that it is pinned to when it lies in that half, otherwise the
// one to which it clearly belongs.
func (p *packing) lane(pl *Placement, pin *job.Pin, solid *rucksack.Solid) job.Lane {
	deep, wide := float64(solid.Size[1])*solid.CellCm, float64(solid.Size[0])*solid.CellCm
	if pin != nil && map[job.Lane]bool{job.Back: pl.MiddleCm[1] < deep/2, job.Front: pl.MiddleCm[1] > deep/2,
		job.Left: pl.MiddleCm[0] < 0, job.Right: pl.MiddleCm[0] > 0}[pin.Lane] {
		return pin.Lane
	}
	switch {
	case pl.Box.Max[1] < deep*0.75 && pl.MiddleCm[1] < deep*0.42:
		return job.Back
	case pl.Box.Min[1] > deep*0.25 && pl.MiddleCm[1] > deep*0.58:
		return job.Front
	case pl.Box.Max[0] < wide*0.12:
		return job.Left
	case pl.Box.Min[0] > -wide*0.12:
		return job.Right
	}
	return job.Full
}
