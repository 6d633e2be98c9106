package party

import (
	"cmp"
	"errors"
	"slices"
)

// Answer is a sharing and what is proved about it.
type Answer struct {
	Holder  map[string]string // part to bearer
	Loads   []Load            // of those who walk, in the order of the problem
	Changes int               // parts agreed to somebody who still walks, and now with another
	Proven  bool              // there is no fairer one; with Keep, none that is better in the order asked for
	Fewest  bool              // and none as fair changes less
	Bound   float64           // no sharing has a smaller largest share of a limit
	Short   []string          // bearers whose packs do not take what they would have to; none when all fit
	Tries   int               // trial packings
	Refused int               // sets of parts that were found not to go into a pack
	Over    []string          // bearers over their own limits
	Cut     bool              // the search was ended before it had seen all
	exact   *table
	score   score
}

// Load is what a bearer carries.
type Load struct {
	Bearer string
	Parts  []string
	MassG  float64
	Share  float64 // of the limit
	Level  int
}

// Fits reports whether a bearer's pack takes these parts with all of its own kit. It is asked once for each set.
type Fits func(bearer string, parts []string) bool

// mostRefused bounds how many sets of parts are found out one after another before the search gives up.
const mostRefused = 400

// Fair shares the parts. With fits, a sharing counts only when every pack takes it: what does not fit is
// forbidden, with all that holds it, and the next best one is taken, until all fit or none is left. The error is a
// *Blocked.
func Fair(p Problem, fits Fits, o Options) (*Answer, error) {
	p.Bearers = slices.DeleteFunc(slices.Clone(p.Bearers), func(b Bearer) bool { return b.Away })
	p.no = nil
	tried := &trials{fits: fits, known: map[string]bool{}}
	var first *Answer
	for {
		t, err := p.prepare()
		if err == nil {
			best, any := t.search(o)
			switch {
			case any:
				a := p.answer(t, &best)
				if first == nil {
					first = a
				}
				short, no := p.refuse(a, tried)
				a.Short, a.Tries, a.Refused = short, tried.n, len(p.no)
				if len(no) == 0 {
					return a, nil
				}
				if len(p.no) >= mostRefused || o.Stop != nil && o.Stop() {
					a.Proven, a.Fewest, a.Cut = false, false, true
					return a, nil
				}
				p.no = append(p.no, no...)
				continue
			case best.proven:
				err = &Blocked{Why: NoWay}
			default:
				err = &Blocked{Why: Unfinished}
			}
		}
		var blocked *Blocked
		if first != nil && errors.As(err, &blocked) {
			// None is left: the first one stands as the least bad, with who is short.
			first.Tries, first.Refused = tried.n, len(p.no)
			first.Proven, first.Cut = blocked.Why == NoWay, blocked.Why == Unfinished
			return first, nil
		}
		return nil, err
	}
}

// answer puts a state into words of the problem.
func (p *Problem) answer(t *table, best *found) *Answer {
	a := &Answer{Holder: map[string]string{}, Changes: best.state.changes, Proven: best.proven, Fewest: best.fewest,
		Cut: !best.proven, exact: t, score: best.score}
	for b := range p.Bearers {
		who := &p.Bearers[b]
		load := Load{Bearer: who.ID, MassG: float64(best.state.load[b]) / 10, Level: level(best.state.load[b], t.limit[b])}
		load.Share = load.MassG / who.LimitG
		for i := range p.Parts {
			if best.state.holder[t.lumpOf[i]] == b {
				load.Parts = append(load.Parts, p.Parts[i].ID)
				a.Holder[p.Parts[i].ID] = who.ID
			}
		}
		if load.Level > Full {
			a.Over = append(a.Over, who.ID)
		}
		a.Loads = append(a.Loads, load)
	}
	top := slices.MaxFunc(a.Loads, func(x, y Load) int { return cmp.Compare(x.Level, y.Level) }).Level
	least := top
	if !best.proven || p.Keep {
		nothing := t.empty()
		least = min(top, slices.Max(t.levels(nothing, t.rest(nothing), 0)))
	}
	a.Bound = float64(least) / Full
	return a
}

// trials remember what was tried.
type trials struct {
	fits  Fits
	known map[string]bool
	n     int
}

func (t *trials) take(bearer string, parts []string) bool {
	key := bearer
	for _, id := range parts {
		key += "\x00" + id
	}
	fits, known := t.known[key]
	if !known {
		fits = t.fits(bearer, parts)
		t.known[key] = fits
		t.n++
	}
	return fits
}

// refuse tries every pack of a sharing and says which are short, and what must not be asked of them again.
func (p *Problem) refuse(a *Answer, t *trials) (short []string, no []noGood) {
	if t.fits == nil {
		return nil, nil
	}
	for b := range a.Loads {
		load := &a.Loads[b]
		if t.take(load.Bearer, load.Parts) {
			continue
		}
		short = append(short, load.Bearer)
		if len(load.Parts) == 0 {
			continue // nothing that sharing could mend
		}
		least := p.least(load, t)
		if len(least) == 0 { // not even its own kit goes in: nothing more for it
			for i := range p.Parts {
				if one := (noGood{b, []int{i}}); !p.forbids(one) {
					no = append(no, one)
				}
			}
			continue
		}
		no = append(no, p.likes(noGood{b, least})...)
	}
	return short, no
}

// forbids reports whether a set is forbidden already.
func (p *Problem) forbids(n noGood) bool {
	return slices.ContainsFunc(p.no, func(m noGood) bool { return m.bearer == n.bearer && slices.Equal(m.parts, n.parts) })
}

// least takes parts away, the lightest first, as long as the pack still does not take the rest.
func (p *Problem) least(load *Load, t *trials) (parts []int) {
	ids := slices.Clone(load.Parts)
	if !t.take(load.Bearer, nil) {
		return nil
	}
	for _, id := range slices.SortedFunc(slices.Values(load.Parts),
		func(x, y string) int { return cmp.Compare(p.part(x).MassG, p.part(y).MassG) }) {
		fewer := slices.DeleteFunc(slices.Clone(ids), func(other string) bool { return other == id })
		if len(fewer) > 0 && !t.take(load.Bearer, fewer) {
			ids = fewer
		}
	}
	for i := range p.Parts {
		if slices.Contains(ids, p.Parts[i].ID) {
			parts = append(parts, i)
		}
	}
	return parts
}

func (p *Problem) part(id string) *Part {
	return &p.Parts[slices.IndexFunc(p.Parts, func(part Part) bool { return part.ID == id })]
}

// mostLikes bounds how many sets that look alike are forbidden at once.
const mostLikes = 120

// likes are the sets that look like this one to the same pack: with other parts of the same classes.
func (p *Problem) likes(n noGood) (list []noGood) {
	sets := [][]int{nil}
	for _, i := range n.parts {
		var more [][]int
		for j := range p.Parts {
			if j != i && (p.Parts[i].Same == "" || p.Parts[j].Same != p.Parts[i].Same) {
				continue
			}
			for _, set := range sets {
				if !slices.Contains(set, j) {
					more = append(more, append(slices.Clone(set), j))
				}
			}
		}
		if sets = more; len(sets) > mostLikes {
			return []noGood{n}
		}
	}
	for _, set := range sets {
		slices.Sort(set)
		if one := (noGood{n.bearer, set}); !p.forbids(one) &&
			!slices.ContainsFunc(list, func(m noGood) bool { return slices.Equal(m.parts, set) }) {
			list = append(list, one)
		}
	}
	return list
}
