package days

import (
	"slices"

	"tornister/core/kit"
	"tornister/core/trail"
)

// swap leaves and takes up what a leg says where it ends, with what lies in a kit bag, and gives the ids of what really
// changes hands. What the list does not have, or has elsewhere, is passed over: a leg is the whole party's. A vessel
// that is left is poured out; one that waits is full.
func (l *ledger) swap(leg *trail.Leg) (left, taken []string) {
	left = l.carry(leg.Leaves, kit.Pack, kit.Left)
	return left, l.carry(leg.Takes, kit.Left, kit.Pack)
}

// carry changes how things are carried, of those that are carried so.
func (l *ledger) carry(ids []string, from, to kit.Carry) (changed []string) {
	task := *l.task
	task.Items = slices.Clone(task.Items)
	for i := range task.Items {
		it := &task.Items[i]
		if it.Carry != from || !slices.Contains(ids, it.ID) && !l.inBag(it, ids) {
			continue
		}
		if it.Consumable == "water" {
			l.move(it, to)
		}
		if _, known := l.left[it.ID]; !known && (it.Consumable == "food" || it.Consumable == "fuel") {
			l.left[it.ID] = it.TotalG()
		}
		it.Carry = to
		changed = append(changed, it.ID)
	}
	l.task = &task
	return changed
}

// inBag reports whether a thing lies in one of the bags, or in a bag in one.
func (l *ledger) inBag(it *kit.Item, bags []string) bool {
	for range l.task.Items { // no chain is longer
		at := slices.IndexFunc(l.task.Items, func(o kit.Item) bool { return o.ID == it.NestIn && o.IsBag() })
		if it.NestIn == "" || at < 0 {
			return false
		}
		if it = &l.task.Items[at]; slices.Contains(bags, it.ID) {
			return true
		}
	}
	return false
}

// move takes the water of a vessel out of what is carried, or brings it.
func (l *ledger) move(it *kit.Item, to kit.Carry) {
	holds := float64(it.Count) * contentL(it)
	switch {
	case to != kit.Pack:
		l.water -= holds * l.full()
		l.emptied[it.ID] = true
	case !l.emptied[it.ID]:
		l.water += holds
	}
}
