package practice

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/verdict"
)

// Question is what a moment asks for, and where it is.
type Question struct {
	Drill string // id of the usual drill that asks for it
	Piece kit.Piece
	Zone  string    // where it lies
	Told  bool      // a companion is to be told: the answer is Place, else Zone
	Place fact.Fact // where it is in a companion's words
}

// Key names a question of a kit, for as long as its things keep their ids.
func (q *Question) Key() string {
	key := q.Drill + "/" + q.Piece.Key()
	if q.Told {
		key += "/told"
	}
	return key
}

// Asked lists all that can be asked of a plan: each thing in the pack that a usual drill wants, once for a line, and
// what a companion would have to be told. It is empty for a pack in which nothing is wanted in a hurry.
func Asked(judged *verdict.Judged) (list []Question) {
	lies, worn := verdict.Lies(judged.Task, judged.Plan)
	for i := range reach.Drills {
		d := &reach.Drills[i]
		lines := map[string]bool{}
		r := reach.Run(d, lies, worn)
		for _, p := range r.Wanted {
			at := slices.IndexFunc(lies, func(l reach.Lie) bool { return l.Piece == p })
			if lines[p.ID] {
				continue
			}
			lines[p.ID] = true
			q := Question{Drill: d.ID, Piece: p, Zone: lies[at].Zone.ID, Place: lies[at].Place()}
			list = append(list, q)
			if d.Told {
				q.Told = true
				list = append(list, q)
			}
		}
	}
	return list
}

// Draw draws n of the questions, or as many as there are: those that are due first, in their order, then others by
// the seed.
func Draw(list []Question, due []string, n int, seed uint64) (drawn []Question) {
	rest := slices.Clone(list)
	for _, key := range due {
		if i := slices.IndexFunc(rest, func(q Question) bool { return q.Key() == key }); i >= 0 && len(drawn) < n {
			drawn = append(drawn, rest[i])
			rest = slices.Delete(rest, i, i+1)
		}
	}
	shuffled(rest, seed)
	return append(drawn, rest[:min(len(rest), n-len(drawn))]...)
}

func shuffled[T any](list []T, seed uint64) {
	r := rand.New(rand.NewPCG(seed, seed))
	r.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
}

// Places are ways to say where something is, of which one is right: that of the question and, of what else could be
// asked, up to three others. They are in an order that tells nothing.
func Places(q *Question, list []Question, seed uint64) (places []fact.Fact) {
	others := slices.Clone(list)
	shuffled(others, seed)
	slices.SortStableFunc(others, func(a, b Question) int { // another depth of the same zone is the hardest
		return -cmp.Compare(same(a.Zone, q.Zone), same(b.Zone, q.Zone))
	})
	said := map[string]bool{key(q.Place): true}
	places = []fact.Fact{q.Place}
	for i := range others {
		if o := &others[i]; len(places) < 4 && !said[key(o.Place)] {
			said[key(o.Place)] = true
			places = append(places, o.Place)
		}
	}
	shuffled(places, seed)
	return places
}

// key tells one place from another.
func key(f fact.Fact) string { return fmt.Sprint(f.Code, f.Values) }

func same(a, b string) int {
	if a == b {
		return 1
	}
	return 0
}
