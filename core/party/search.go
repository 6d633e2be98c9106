package party

import (
	"cmp"
	"math/bits"
	"math/rand/v2"
	"slices"
)

// Options of a search.
type Options struct {
	Nodes int         // at most so many; 0 is two millions
	Stop  func() bool // ends the search; what was found so far is kept. It may be nil
}

// usualNodes bounds a search that nobody stops: some seconds.
const usualNodes = 2_000_000

// found is the best state of a search.
type found struct {
	state  *state
	score  score
	proven bool // that none is fairer
	fewest bool // and none as fair changes less
}

// changeNodes bounds the search for fewer changes among sharings that are equally fair.
const changeNodes = 150_000

// search finds the best assignment: a good one by hand, then branch and bound over the lumps, the heaviest first.
// Where fairness comes first it is settled without a look at changes, and the fewest changes are looked for after
// that, among what is as fair.
func (t *table) search(o Options) (best found, any bool) {
	if o.Nodes == 0 {
		o.Nodes = usualNodes
	}
	order := t.heaviestFirst()
	t.tabulate(order)
	b := &branching{t: t, nodes: o.Nodes, stop: o.Stop, order: order}
	t.blind = !t.keep
	b.run(t.starts(order))
	proven := !b.cut
	t.blind = false
	if b.best == nil || t.keep || !t.anyAgreed() {
		return found{b.best, t.scoreOf(b.best), proven, proven}, b.best != nil
	}
	few := &branching{t: t, nodes: min(o.Nodes, changeNodes), stop: o.Stop, order: order}
	few.run(append(t.starts(order), b.best))
	return found{few.best, few.score, proven, proven && !few.cut}, true
}

// run looks through everything that can be better than the best of some starts.
func (b *branching) run(starts []*state) {
	for _, start := range starts {
		b.t.improve(start)
		b.offer(start)
	}
	b.kick()
	s := b.t.empty()
	b.deepen(s, 0, b.t.rest(s))
}

func (t *table) scoreOf(s *state) score {
	if s == nil {
		return nil
	}
	return t.of(s)
}

func (t *table) anyAgreed() bool {
	return slices.ContainsFunc(t.lumps,
		func(l lump) bool { return slices.ContainsFunc(l.agreed, func(b int) bool { return b >= 0 }) })
}

func (t *table) heaviestFirst() []int {
	order := make([]int, len(t.lumps))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(t.lumps[b].mass, t.lumps[a].mass), cmp.Compare(t.classOf(a), t.classOf(b)),
			cmp.Compare(a, b))
	})
	return order
}

func (t *table) classOf(l int) int {
	if same := t.lumps[l].same; same >= 0 {
		return same
	}
	return l
}

func (t *table) rest(s *state) (rest int64) {
	for l := range t.lumps {
		if s.holder[l] < 0 {
			rest += t.lumps[l].mass
		}
	}
	return rest
}

// starts are first assignments: what was agreed, mended where it cannot stay, and each to whom it loads least.
func (t *table) starts(order []int) (list []*state) {
	agreed := t.empty()
	for _, l := range order {
		if b := t.lumps[l].agreed[0]; b >= 0 && t.fitsIn(agreed, l, b) {
			t.give(agreed, l, b)
		}
	}
	tight := slices.Clone(order)
	slices.SortStableFunc(tight, func(a, b int) int { return cmp.Compare(t.choices(a), t.choices(b)) })
	for _, s := range []*state{agreed, t.empty()} {
		for _, way := range [][]int{tight, order} {
			try := s.clone()
			if t.fill(try, way) {
				list = append(list, try)
			}
		}
	}
	return list
}

// choices is how many bearers a lump may have, those that it must be apart from counted against it.
func (t *table) choices(l int) (n int) {
	for _, ok := range t.lumps[l].allowed {
		if ok {
			n++
		}
	}
	return n - bits.OnesCount64(t.lumps[l].apart)
}

func (s *state) clone() *state {
	return &state{slices.Clone(s.holder), slices.Clone(s.load), slices.Clone(s.held), s.changes}
}

// fill gives every lump that nobody holds to whom it loads least.
func (t *table) fill(s *state, order []int) bool {
	for _, l := range order {
		if s.holder[l] >= 0 {
			continue
		}
		at, least := -1, 0
		for b := range s.load {
			if !t.fitsIn(s, l, b) {
				continue
			}
			if v := level(s.load[b]+t.lumps[l].mass, t.limit[b]); at < 0 || v < least {
				at, least = b, v
			}
		}
		if at < 0 {
			return false
		}
		t.give(s, l, at)
	}
	return true
}

// improve moves single lumps and swaps pairs as long as that makes it better.
func (t *table) improve(s *state) {
	now := t.of(s)
	for better := true; better; {
		better = false
		for l := range t.lumps {
			for b := range s.load {
				if t.try(s, &now, [2]int{l, -1}, [2]int{b, -1}) {
					better = true
				}
			}
			for m := l + 1; m < len(t.lumps); m++ {
				if s.holder[l] != s.holder[m] && t.try(s, &now, [2]int{l, m}, [2]int{s.holder[m], s.holder[l]}) {
					better = true
				}
			}
		}
	}
}

// try gives one or two lumps to others, and takes it back unless the score is better for it.
func (t *table) try(s *state, now *score, lumps, to [2]int) bool {
	var was [2]int
	n := 0
	for i, l := range lumps {
		if l >= 0 {
			was[i] = s.holder[l]
			n++
		}
	}
	if n == 1 && to[0] == was[0] {
		return false
	}
	for i := range n {
		t.take(s, lumps[i])
	}
	ok := true
	given := 0
	for i := range n {
		if ok = t.fitsIn(s, lumps[i], to[i]); !ok {
			break
		}
		t.give(s, lumps[i], to[i])
		given++
	}
	if ok {
		if then := t.of(s); slices.Compare(then, *now) < 0 {
			*now = then
			return true
		}
	}
	for i := range given {
		t.take(s, lumps[i])
	}
	for i := range n {
		t.give(s, lumps[i], was[i])
	}
	return false
}

// kicks is how often a good sharing of many parts is shaken before the tree is searched.
const kicks = 60

// kick takes some lumps of the best sharing away, fills them in anew and improves that: what a tree would find late.
func (b *branching) kick() {
	if b.best == nil || len(b.t.lumps) < 12 {
		return
	}
	chance := rand.New(rand.NewPCG(1, uint64(len(b.t.lumps))))
	for range kicks {
		if b.stop != nil && b.stop() {
			return
		}
		s := b.best.clone()
		for range 2 + chance.IntN(5) {
			if l := chance.IntN(len(b.t.lumps)); s.holder[l] >= 0 {
				b.t.take(s, l)
			}
		}
		way := chance.Perm(len(b.t.lumps))
		if b.t.fill(s, way) {
			b.t.improve(s)
			b.offer(s)
		}
	}
}

// branching is a depth-first search.
type branching struct {
	t     *table
	order []int
	best  *state
	score score
	nodes int
	cut   bool // it ended before all was seen
	stop  func() bool
}

func (b *branching) offer(s *state) {
	if now := b.t.of(s); b.best == nil || slices.Compare(now, b.score) < 0 {
		b.best, b.score = s.clone(), now
	}
}

func (b *branching) deepen(s *state, depth int, rest int64) {
	if b.cut {
		return
	}
	if b.nodes--; b.nodes < 0 || b.nodes%1024 == 0 && b.stop != nil && b.stop() {
		b.cut = true
		return
	}
	if depth == len(b.order) {
		b.offer(s)
		return
	}
	if b.best != nil && slices.Compare(b.t.bound(s, rest, depth), b.score) >= 0 {
		return
	}
	l := b.order[depth]
	lump := &b.t.lumps[l]
	from := 0
	if depth > 0 && lump.same >= 0 && b.t.classOf(b.order[depth-1]) == b.t.classOf(l) {
		from = s.holder[b.order[depth-1]] // alike: in the order of bearers
	}
	type way struct{ bearer, level, changes int }
	ways := make([]way, 0, len(s.load))
	for who := from; who < len(s.load); who++ {
		if !b.t.fitsIn(s, l, who) || b.twin(s, who, from) {
			continue
		}
		ways = append(ways, way{who, level(s.load[who]+lump.mass, b.t.limit[who]), lump.changes(who)})
	}
	slices.SortStableFunc(ways, func(x, y way) int {
		if b.t.keep {
			return cmp.Or(cmp.Compare(x.changes, y.changes), cmp.Compare(x.level, y.level))
		}
		return cmp.Or(cmp.Compare(x.level, y.level), cmp.Compare(x.changes, y.changes))
	})
	for _, w := range ways {
		b.t.give(s, l, w.bearer)
		b.deepen(s, depth+1, rest-lump.mass)
		b.t.take(s, l)
	}
}

// twin reports whether an earlier bearer is just like this one and has nothing yet either: to give it there is the
// same.
func (b *branching) twin(s *state, who, from int) bool {
	if s.held[who] != 0 {
		return false
	}
	for other := from; other < who; other++ {
		if s.held[other] == 0 && b.t.limit[other] == b.t.limit[who] && b.t.own[other] == b.t.own[who] &&
			b.t.alike(other, who) {
			return true
		}
	}
	return false
}

// alike reports whether the rules and what was agreed treat two bearers the same.
func (t *table) alike(a, b int) bool {
	for i := range t.lumps {
		l := &t.lumps[i]
		if l.allowed[a] != l.allowed[b] || slices.Contains(l.agreed, a) || slices.Contains(l.agreed, b) {
			return false
		}
	}
	return !slices.ContainsFunc(t.no, func(n forbidden) bool { return n.bearer == a || n.bearer == b })
}
