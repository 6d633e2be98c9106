package stuff

import "slices"

// Orders that are tried one after another mostly begin alike. A trial keeps the state along one of them, so that
// another order is packed only from where it differs.

// noteEvery is how many steps lie between two states that are kept.
const noteEvery = 4

// kept is an order with the states along it.
type kept struct {
	valid   bool
	squeeze float64
	things  []Thing
	steps   []step
	members []int
	states  []state // after noteEvery steps, after twice as many, and so on
}

// state is a trial after some steps.
type state struct {
	owner, top []int16
	boxes      []Box
	out        []int
	covered    []span
	region     Region
}

// Keep packs like Run, and keeps the states on the way: runs that begin like this one are quicker from now on. Their
// answers are the same.
func (t *Trial) Keep(things []Thing, order []int, squeeze float64) bool {
	t.lay(things, order)
	from := t.resume(things, squeeze)
	k := &t.base
	k.valid, k.squeeze = true, squeeze
	k.things = append(k.things[:0], things...)
	for i := range k.things { // the poses may be another order's by the next run
		k.things[i].Poses = slices.Clone(things[i].Poses)
	}
	k.steps, k.members = append(k.steps[:0], t.steps...), append(k.members[:0], t.members...)
	return t.goOn(things, squeeze, from, false, k)
}

// note keeps the present state, after a number of steps.
func (k *kept) note(t *Trial, steps int) {
	at := steps/noteEvery - 1
	for len(k.states) <= at {
		k.states = append(k.states, state{})
	}
	s := &k.states[at]
	s.owner, s.top = append(s.owner[:0], t.Owner...), append(s.top[:0], t.top...)
	s.boxes, s.out = append(s.boxes[:0], t.Boxes...), append(s.out[:0], t.Out...)
	s.covered, s.region = append(s.covered[:0], t.covered...), t.where
}

// resume goes back to the last state kept that the order under work shares, and says after how many steps it is.
func (t *Trial) resume(things []Thing, squeeze float64) int {
	k := &t.base
	if !k.valid || k.squeeze != squeeze || len(k.things) != len(things) {
		return 0
	}
	alike := 0
	for alike < min(len(t.steps), len(k.steps)) && k.same(t, things, alike) {
		alike++
	}
	at := alike/noteEvery - 1
	if at < 0 {
		return 0
	}
	s := &k.states[at]
	copy(t.Owner, s.owner)
	copy(t.top, s.top)
	copy(t.Boxes, s.boxes)
	t.Out, t.covered = append(t.Out[:0], s.out...), append(t.covered[:0], s.covered...)
	t.within = t.space.foot()
	t.where, t.region = s.region, &t.space.regions[s.region]
	return (at + 1) * noteEvery
}

// same reports whether a step is that of the order kept.
func (k *kept) same(t *Trial, things []Thing, at int) bool {
	ours, theirs := t.steps[at], k.steps[at]
	if ours != theirs {
		return false
	}
	for n := ours.from; n < ours.to; n++ {
		if i := t.members[n]; i != k.members[n] || !alike(&things[i], &k.things[i]) {
			return false
		}
	}
	return true
}

func alike(a, b *Thing) bool {
	return a.Region == b.Region && a.Loose == b.Loose && a.Tight == b.Tight && a.Gap == b.Gap && a.Wish == b.Wish &&
		a.Stand == b.Stand && a.Bag == b.Bag && a.Held == b.Held && slices.Equal(a.Poses, b.Poses)
}
