package load

import (
	"reflect"
	"slices"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// remember sets the litres too much beside those of an earlier plan: what lacked so much then lacks no more now that
// it is easier, and no less now that it is harder. Each figure by itself is a search's, and searches differ by tenths.
func (p *Plan) remember(past *Plan) {
	if past == nil || past.CutShort || past.search.options.Quick || p.OverL == 0 || past.OverL == 0 {
		return
	}
	over := p.OverL
	if asksNoMore(p.asked, past.asked) {
		over = min(over, past.OverL)
	}
	if asksNoMore(past.asked, p.asked) {
		over = max(over, past.OverL)
	}
	if over != p.OverL {
		p.OverL = over
		p.sayOver()
	}
}

// asksNoMore reports whether whatever takes one task takes the other too: the same pack or zones that are larger, the
// same things or fewer, or softer ones, and else the same. False also when that cannot be said.
func asksNoMore(t, than *job.Task) bool {
	same := *t
	same.Pack, same.Items = than.Pack, than.Items
	if !reflect.DeepEqual(&same, than) {
		return false
	}
	return holdsWhat(&t.Pack, &than.Pack) && !slices.ContainsFunc(t.Items, func(it kit.Item) bool {
		i := slices.IndexFunc(than.Items, func(other kit.Item) bool { return other.ID == it.ID })
		return i < 0 || !noBulkier(it, than.Items[i])
	})
}

// holdsWhat reports whether every zone is the other's, or that with more room.
func holdsWhat(pack, than *rucksack.Pack) bool {
	larger := *pack
	larger.Zones = slices.Clone(pack.Zones)
	if len(larger.Zones) != len(than.Zones) {
		return false
	}
	for i := range larger.Zones {
		z, other := &larger.Zones[i], &than.Zones[i]
		if z.VolumeL < other.VolumeL || z.SizeCm[0] < other.SizeCm[0] || z.SizeCm[1] < other.SizeCm[1] ||
			z.SizeCm[2] < other.SizeCm[2] {
			return false
		}
		z.VolumeL, z.SizeCm = other.VolumeL, other.SizeCm
	}
	return reflect.DeepEqual(&larger, than)
}

// noBulkier reports whether a thing is the other, fewer of it, a smaller one, or that as soft stuff of no more litres.
func noBulkier(it, than kit.Item) bool {
	s, other := &it.Shape, &than.Shape
	if s.Kind == kit.Soft && other.Kind != kit.Soft && s.Litres(0) <= other.Litres(0) && s.Litres(1) <= other.Litres(1) {
		*s = *other
	}
	for _, measure := range [...]struct{ is, was *float64 }{
		{&s.SizeCm[0], &other.SizeCm[0]}, {&s.SizeCm[1], &other.SizeCm[1]}, {&s.SizeCm[2], &other.SizeCm[2]},
		{&s.DiameterCm, &other.DiameterCm}, {&s.LengthCm, &other.LengthCm}, {&s.VolumeL, &other.VolumeL},
		{&s.LooseL, &other.LooseL}, {&s.TightL, &other.TightL},
	} {
		*measure.is = max(*measure.is, *measure.was)
	}
	it.Count = max(it.Count, than.Count)
	return reflect.DeepEqual(it, than)
}
