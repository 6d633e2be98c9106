// Package party shares the kit of a group among its bearers: the largest share of anybody's own limit as small as
// it can be, then the second largest, and so on; then as few changes as possible to what was agreed.
//
// A share is the whole load of a bearer over its own limit. Shares are compared in hundredths of the limit, begun
// ones counted whole: some 150 g of a usual one, less than anybody feels on the back. Within a hundredth they are
// equal. So the order is that of lexicographic min-max fairness (Ogryczak and Śliwiński, On solving linear
// programs with the ordered weighted averaging objective, 2003) over whole numbers, and an outside solver can
// follow it level by level: write.go.
package party

import (
	"cmp"
	"math"
	"slices"
)

// Kind is what a bearer is in the party.
type Kind string

// The kinds of bearers.
const (
	Instructor   Kind = "instructor"
	Adult        Kind = "adult"
	Trainee      Kind = "trainee"
	Child        Kind = "child"
	Convalescent Kind = "convalescent"
)

// Bounds of a problem.
const (
	MostBearers = 12
	MostParts   = 60
	Full        = 100 // the level of the limit itself: a level is a hundredth of it
)

// LimitShare is how much of its own mass a bearer of a kind should carry at most: a quarter, some say up to three
// tenths for grown people who are used to it (common practice); convalescents clearly less (our estimate).
func LimitShare(kind Kind) float64 {
	switch kind {
	case Convalescent:
		return 0.15
	case Child, Trainee:
		return 0.25
	}
	return 0.30
}

// Strict is the stricter advice published for what children carry to school, as a range of their own mass (American
// Academy of Pediatrics, 10 to 20 %, from memory).
var Strict = [2]float64{0.10, 0.20}

// ShelterG is what a shelter should cost each head at most (common practice).
const ShelterG = 1500

// Bearer is somebody who carries.
type Bearer struct {
	ID     string
	Kind   Kind
	LimitG float64 // the most on the back, all in
	OwnG   float64 // carried in any case: pack, own kit, food and water
	Leads  bool
	Away   bool // has dropped out: carries nothing of the group's
}

// Part is what one bearer carries whole.
type Part struct {
	ID    string
	Of    string // the thing that it is a part of
	Same  string // parts of the same class can be swapped without anybody seeing it; "" for its own
	MassG float64
	Fuel  bool
	Night bool // food that is locked away at night
}

// Rule is a way in which parts depend on their bearers.
type Rule string

// The rules of ties.
const (
	Together Rule = "together" // with one bearer
	Apart    Rule = "apart"    // each with another
	Must     Rule = "must"     // with that bearer, or with the leader
	MustNot  Rule = "must-not" // not with that bearer, or with nobody of that kind
)

// Tie is a rule on parts. Bearer is the id of one; Who is a kind of them, or "leader".
type Tie struct {
	Rule   Rule
	Parts  []string
	Bearer string
	Who    string
}

// Problem is what is to be shared.
type Problem struct {
	Bearers []Bearer
	Parts   []Part
	Ties    []Tie
	Agreed  map[string]string // part to bearer, as it was settled before
	Keep    bool              // change as little as possible first, and be fair after that
	no      []noGood
}

// noGood is a set of parts that one bearer's pack does not take.
type noGood struct {
	bearer int
	parts  []int
}

// Why a problem cannot be shared at all.
type Why string

// The reasons.
const (
	NoBearers   Why = "no-bearers"
	TooMany     Why = "too-many"
	TooManyKit  Why = "too-many-parts"
	NoLimit     Why = "no-limit"
	Contradicts Why = "contradicts"
	NobodyMay   Why = "nobody-may"
	NoWay       Why = "no-way"
	Unfinished  Why = "unfinished" // none was found, and not all was seen
)

// Blocked says why nothing can be shared, and about whom and what.
type Blocked struct {
	Why    Why
	Bearer string
	Parts  []string
}

func (b *Blocked) Error() string { return string(b.Why) }

// lump is one or more parts that stay together.
type lump struct {
	parts   []int
	mass    int64 // in decigrams
	allowed []bool
	apart   uint64 // lumps that must be with others
	same    int    // the class of lumps that look alike, -1 for none
	agreed  []int  // bearer by part, -1 for none
}

// table is a problem in whole numbers, its ties worked in.
type table struct {
	limit, own []int64
	lumps      []lump
	lumpOf     []int // by part
	no         []forbidden
	narrow     []narrow
	keep       bool
	blind      bool      // changes do not count just now
	unit       int64     // of the masses of all lumps, in decigrams
	sums       [][]int32 // by depth of the search: see tabulate
}

// forbidden are lumps that one bearer's pack does not take all of.
type forbidden struct {
	bearer int
	lumps  uint64
}

// narrow are lumps that only some bearers may carry.
type narrow struct {
	bearers, lumps []int
}

func decigrams(g float64) int64 { return int64(math.Round(g * 10)) }

// LevelOf is the step of its limit that a load reaches.
func LevelOf(loadG, limitG float64) int { return level(decigrams(loadG), decigrams(limitG)) }

func level(load, limit int64) int { return int((load*Full + limit - 1) / limit) }

// may reports whether a bearer may carry a part by the rules that every party keeps: children carry neither fuel
// nor the food of the night (common practice), and who has dropped out carries nothing.
func may(b *Bearer, p *Part) bool {
	return !b.Away && !(b.Kind == Child && (p.Fuel || p.Night))
}

func (t *Tie) names(b *Bearer) bool {
	return t.Bearer != "" && t.Bearer == b.ID || t.Who != "" && (t.Who == string(b.Kind) || t.Who == "leader" && b.Leads)
}

// prepare works the ties in, or says why nothing can be shared.
func (p *Problem) prepare() (*table, error) {
	present := slices.DeleteFunc(slices.Clone(p.Bearers), func(b Bearer) bool { return b.Away })
	switch {
	case len(present) == 0:
		return nil, &Blocked{Why: NoBearers}
	case len(p.Bearers) > MostBearers:
		return nil, &Blocked{Why: TooMany}
	case len(p.Parts) > MostParts:
		return nil, &Blocked{Why: TooManyKit}
	}
	t := &table{keep: p.Keep}
	at := map[string]int{}
	for i := range p.Bearers {
		b := &p.Bearers[i]
		if decigrams(b.LimitG) <= 0 && !b.Away {
			return nil, &Blocked{Why: NoLimit, Bearer: b.ID}
		}
		at[b.ID] = i
		t.limit, t.own = append(t.limit, max(1, decigrams(b.LimitG))), append(t.own, decigrams(b.OwnG))
	}
	index := map[string]int{}
	for i := range p.Parts {
		index[p.Parts[i].ID] = i
	}
	root := p.lumpRoots(index)
	t.lumpOf = make([]int, len(p.Parts))
	of := map[int]int{}
	for i := range p.Parts {
		r := root[i]
		if _, known := of[r]; !known {
			of[r] = len(t.lumps)
			t.lumps = append(t.lumps, lump{allowed: slices.Repeat([]bool{true}, len(p.Bearers)), same: -1})
		}
		l := &t.lumps[of[r]]
		t.lumpOf[i] = of[r]
		l.parts, l.mass = append(l.parts, i), l.mass+decigrams(p.Parts[i].MassG)
		holder, settled := at[p.Agreed[p.Parts[i].ID]]
		if !settled {
			holder = -1
		}
		l.agreed = append(l.agreed, holder)
		for b := range p.Bearers {
			l.allowed[b] = l.allowed[b] && may(&p.Bearers[b], &p.Parts[i])
		}
	}
	if err := p.tie(t, index); err != nil {
		return nil, err
	}
	for i := range t.lumps {
		if !slices.Contains(t.lumps[i].allowed, true) {
			return nil, &Blocked{Why: NobodyMay, Parts: p.idsOf(t.lumps[i].parts)}
		}
	}
	p.classes(t)
	t.findNarrow()
	for _, no := range p.no {
		var set uint64
		for _, i := range no.parts {
			set |= 1 << t.lumpOf[i]
		}
		t.no = append(t.no, forbidden{no.bearer, set})
	}
	return t, nil
}

// lumpRoots gives each part one of the parts that it is carried with.
func (p *Problem) lumpRoots(index map[string]int) []int {
	root := make([]int, len(p.Parts))
	for i := range root {
		root[i] = i
	}
	for _, tie := range p.Ties {
		if tie.Rule != Together {
			continue
		}
		first := -1
		for _, id := range tie.Parts {
			i, known := index[id]
			if !known {
				continue
			}
			if first < 0 {
				first = root[i]
			}
			for j, old := range root {
				if old == root[i] && j != i {
					root[j] = first
				}
			}
			root[i] = first
		}
	}
	return root
}

// tie works in who must, who must not, and what is apart.
func (p *Problem) tie(t *table, index map[string]int) error {
	for k := range p.Ties {
		tie := &p.Ties[k]
		for n, id := range tie.Parts {
			i, known := index[id]
			if !known {
				continue
			}
			l := &t.lumps[t.lumpOf[i]]
			for b := range p.Bearers {
				named := tie.names(&p.Bearers[b])
				if tie.Rule == Must && !named || tie.Rule == MustNot && named {
					l.allowed[b] = false
				}
			}
			if tie.Rule != Apart {
				continue
			}
			for _, other := range tie.Parts[n+1:] {
				j, known := index[other]
				if !known {
					continue
				}
				if t.lumpOf[i] == t.lumpOf[j] {
					return &Blocked{Why: Contradicts, Parts: []string{id, other}}
				}
				l.apart |= 1 << t.lumpOf[j]
				t.lumps[t.lumpOf[j]].apart |= 1 << t.lumpOf[i]
			}
		}
	}
	return nil
}

// findNarrow finds the sets of bearers that some lumps are for; all of them together are one of these sets, for
// the sake of a single lump that is heavier than any room.
func (t *table) findNarrow() {
	for i := range t.lumps {
		set := t.lumps[i].allowed
		bearers := []int{}
		for b, ok := range set {
			if ok {
				bearers = append(bearers, b)
			}
		}
		if slices.ContainsFunc(t.narrow, func(n narrow) bool { return slices.Equal(n.bearers, bearers) }) {
			continue
		}
		n := narrow{bearers: bearers}
		for l := range t.lumps {
			within := true
			for b, ok := range t.lumps[l].allowed {
				within = within && (!ok || set[b])
			}
			if within {
				n.lumps = append(n.lumps, l)
			}
		}
		t.narrow = append(t.narrow, n)
	}
}

// classes finds the lumps that look alike: of one part each, of the same class, with the same rules.
func (p *Problem) classes(t *table) {
	for i := range t.lumps {
		l := &t.lumps[i]
		same := p.Parts[l.parts[0]].Same
		if len(l.parts) > 1 || same == "" {
			continue
		}
		l.same = slices.IndexFunc(t.lumps[:i], func(m lump) bool {
			return len(m.parts) == 1 && p.Parts[m.parts[0]].Same == same && m.mass == l.mass && m.apart == l.apart &&
				slices.Equal(m.allowed, l.allowed) && slices.Equal(m.agreed, l.agreed)
		})
	}
}

func (p *Problem) idsOf(parts []int) (ids []string) {
	for _, i := range parts {
		ids = append(ids, p.Parts[i].ID)
	}
	return ids
}

// state is an assignment of the lumps, by bearer.
type state struct {
	holder  []int // by lump, -1 for nobody yet
	load    []int64
	held    []uint64 // lumps by bearer
	changes int
}

func (t *table) empty() *state {
	s := &state{holder: slices.Repeat([]int{-1}, len(t.lumps)), load: slices.Clone(t.own),
		held: make([]uint64, len(t.own))}
	return s
}

// fitsIn reports whether a bearer may take a lump in this state.
func (t *table) fitsIn(s *state, l, b int) bool {
	if !t.lumps[l].allowed[b] || s.held[b]&t.lumps[l].apart != 0 {
		return false
	}
	with := s.held[b] | 1<<l
	for _, no := range t.no {
		if no.bearer == b && no.lumps&with == no.lumps {
			return false
		}
	}
	return true
}

func (l *lump) changes(b int) (n int) {
	for _, a := range l.agreed {
		if a >= 0 && a != b {
			n++
		}
	}
	return n
}

func (t *table) give(s *state, l, b int) {
	s.holder[l] = b
	s.load[b] += t.lumps[l].mass
	s.held[b] |= 1 << l
	s.changes += t.lumps[l].changes(b)
}

func (t *table) take(s *state, l int) {
	b := s.holder[l]
	s.holder[l] = -1
	s.load[b] -= t.lumps[l].mass
	s.held[b] &^= 1 << l
	s.changes -= t.lumps[l].changes(b)
}

// score is what is compared: in order, the smaller the better.
type score []int

// of gives the score of a state: its levels, largest first, then the changes; or, where little is to change, first
// what is over the limit, then the changes, then the levels.
func (t *table) of(s *state) score {
	levels := make([]int, len(s.load))
	for b, load := range s.load {
		levels[b] = level(load, t.limit[b])
	}
	slices.SortFunc(levels, func(a, b int) int { return cmp.Compare(b, a) })
	return t.ordered(levels, s.changes)
}

func (t *table) ordered(levels []int, changes int) score {
	if t.blind {
		return append(score(levels), 0)
	}
	if !t.keep {
		return append(score(levels), changes)
	}
	list := make(score, 0, 2*len(levels)+1)
	for _, v := range levels {
		list = append(list, max(0, v-Full))
	}
	return append(append(list, changes), levels...)
}
