package load

import (
	"slices"
)

// plannedOrder sorts things by how deep they want to lie, bottom compartment first; pinned places hold.
func (p *packing) plannedOrder() {
	slices.SortStableFunc(p.order, func(i, j int) int {
		a, b := p.inside[i], p.inside[j]
		if r := int(p.things[i].Region) - int(p.things[j].Region); r != 0 {
			return r
		}
		return compareInLoading(p.task, a, b)
	})
	if p.from != nil {
		p.orderFrom(p.from)
	}
	p.hold()
}

// hold puts things with a pinned place at that place among the things of their zone, and their bag with them.
func (p *packing) hold() {
	for i, c := range p.inside {
		if c.Pin == nil || c.Pin.Place < 1 {
			continue
		}
		if !slices.Contains(p.order, i) {
			continue
		}
		unit := p.takeUnit(i)
		at, seen := len(p.order), 0
		for k, j := range p.order {
			if p.things[j].Region != p.things[i].Region {
				continue
			}
			if seen++; seen == c.Pin.Place {
				at = k
				break
			}
			at = k + 1
		}
		p.order = slices.Insert(p.order, at, unit...)
	}
}

// takeUnit takes a thing out of the order, with its bag, and gives what was taken, the thing first.
func (p *packing) takeUnit(i int) []int {
	unit := []int{i}
	for _, j := range p.unit(i) {
		if j != i {
			unit = append(unit, j)
		}
	}
	p.order = slices.DeleteFunc(p.order, func(j int) bool { return slices.Contains(unit, j) })
	return unit
}

// turns gives for every thing the turn that its time of need asks for.
func (p *packing) turns() []int {
	now := slices.Clone(p.order)
	p.plannedOrder()
	p.gather()
	turns := make([]int, len(p.things))
	for turn, i := range p.order {
		turns[i] = turn
	}
	p.order = now
	return turns
}
