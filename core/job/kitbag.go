package job

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/kit"
)

// What a kit bag adds to its contents (our estimates): the cloth, and that things in a bag do not lie like bricks.
const (
	bagClothL = 0.05
	bagLies   = 0.85
)

// Filled is the task with every kit bag as large as what lies in it, wanted when that is, and as wet: one thing and
// one place, whose contents go where it goes. A bag that keeps water out does so for all that is in it. What is not
// packed lies in no bag.
func (t *Task) Filled() *Task {
	if t.Room > 0 && t.Room != 1 {
		t = t.inHand()
	}
	t = t.Sacked()
	if !slices.ContainsFunc(t.Items, func(it kit.Item) bool { return it.IsBag() }) {
		return t
	}
	other := *t
	other.Items = slices.Clone(t.Items)
	done := map[string]bool{}
	for i := range other.Items {
		if bag := &other.Items[i]; bag.IsBag() && bag.Carry == kit.Pack {
			other.fill(bag, done)
		}
	}
	other.encase()
	return &other
}

// fill makes a kit bag as large as what is kept in it, the bags among that first.
func (t *Task) fill(bag *kit.Item, done map[string]bool) {
	if done[bag.ID] {
		return
	}
	done[bag.ID] = true
	var contents []*kit.Item
	for i := range t.Items {
		if it := &t.Items[i]; it.NestIn == bag.ID && it.Carry == kit.Pack {
			if it.IsBag() {
				t.fill(it, done)
			}
			contents = append(contents, it)
		}
	}
	if len(contents) > 0 {
		bag.Shape = bagShape(side(contents))
		bag.Use, bag.Water, bag.Traits = bagUse(contents), kit.Water{Case: bag.Water.Case}, nil
		for _, it := range contents {
			bag.Water.Leaks = bag.Water.Leaks || it.Water.Leaks
			bag.Water.ReturnsWet = bag.Water.ReturnsWet || it.Water.ReturnsWet
		}
	}
}

// encase makes a bag that keeps water out a case for all that is in it, and in the bags in it: the innermost such bag
// is what counts.
func (t *Task) encase() {
	bags := map[string]*kit.Item{}
	for i := range t.Items {
		if it := &t.Items[i]; it.IsBag() && it.Carry == kit.Pack {
			bags[it.ID] = it
		}
	}
	for i := range t.Items {
		it := &t.Items[i]
		bag := bags[it.NestIn]
		for range bags { // no chain is longer
			if bag == nil || it.Carry != kit.Pack {
				break
			}
			it.Water.Case = cmp.Or(it.Water.Case, bag.Water.Case)
			bag = bags[bag.NestIn]
		}
	}
}

// side is what lies side by side in a bag: what its vessels hold takes no room of its own there.
func side(contents []*kit.Item) (outer []*kit.Item) {
	var alone []kit.Item
	for _, it := range contents {
		free := *it
		free.NestIn = ""
		alone = append(alone, free)
	}
	_, loose := Nest(kit.Pieces(alone, kit.Pack))
	for i := range alone {
		count := 0
		for _, p := range loose {
			if p.ID == alone[i].ID {
				count++
			}
		}
		if alone[i].Count = count; count > 0 {
			outer = append(outer, &alone[i])
		}
	}
	return outer
}

// bagShape is the outside of a bag: soft when all in it is, else a lump round the longest thing, as round as it can
// be.
func bagShape(contents []*kit.Item) kit.Shape {
	soft := kit.Shape{Kind: kit.Soft, LooseL: bagClothL, TightL: bagClothL, GapCm: 1}
	litres, hard := bagClothL, false
	var sides [3]float64
	for _, it := range contents {
		n := float64(it.Count)
		litres += n * it.Shape.Litres(0.5)
		soft.LooseL += n * it.Shape.Litres(0)
		soft.TightL += n * it.Shape.Litres(1)
		soft.GapCm = max(soft.GapCm, it.Shape.GapCm)
		if it.Shape.Kind != kit.Soft {
			hard = true
			for axis, side := range it.Shape.Dimensions() {
				sides[axis] = max(sides[axis], side)
			}
		}
	}
	if !hard {
		return soft
	}
	volume := litres / bagLies * 1000
	switch long, wide := sides[0], sides[1]; {
	case volume <= long*wide*sides[2]:
	case volume <= long*wide*wide: // it grows thicker, then across, and then it is a ball
		sides[2] = volume / (long * wide)
	case volume <= long*long*long:
		sides[1] = math.Sqrt(volume / long)
		sides[2] = sides[1]
	default: // nothing in it is as long as the bag is wide
		sides[0] = math.Cbrt(volume)
		sides[1], sides[2] = sides[0], sides[0]
	}
	for axis := range sides {
		sides[axis] = math.Round(sides[axis]*10) / 10
	}
	return kit.Shape{Kind: kit.Lump, SizeCm: sides, VolumeL: litres}
}

// bagUse is when a bag is wanted: when what is most wanted in it is, as often as all that is wanted then.
func bagUse(contents []*kit.Item) kit.Use {
	most := slices.MaxFunc(contents, func(a, b *kit.Item) int { return cmp.Compare(a.Use.ADay(), b.Use.ADay()) })
	use := kit.Use{When: most.Use.When}
	for _, it := range contents {
		if it.Use.When == use.When {
			use.PerDay += it.Use.PerDay
		}
		use.Urgent = use.Urgent || it.Use.Urgent
	}
	return use
}

// inHand is the task with soft things as large as they come out of this packer's hands.
func (t *Task) inHand() *Task {
	other := *t
	other.Room = 1
	other.Items = slices.Clone(t.Items)
	for i := range other.Items {
		if s := &other.Items[i].Shape; s.Kind == kit.Soft {
			s.LooseL *= t.Room
			s.TightL *= t.Room
		}
	}
	return &other
}
