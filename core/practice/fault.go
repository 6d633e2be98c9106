package practice

import (
	"cmp"
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/verdict"
)

// The faults that packers make.
const (
	Deep   = "deep"   // what is needed on the way lies under others
	Over   = "over"   // what is needed in camp lies over what is needed before
	Beside = "beside" // fuel lies against food, something sharp against what it holes
	Wet    = "wet"    // what must stay dry has nothing that keeps rain from it
	Heavy  = "heavy"  // the weight rides higher, lower or further back than the school wants it
	Sides  = "sides"  // one side is heavier
	Hollow = "hollow" // room is lost under or beside something stiff
)

// FaultKinds lists them.
var FaultKinds = []string{Deep, Over, Beside, Wet, Heavy, Sides, Hollow}

// Move is a thing that was put elsewhere, for a fault.
type Move struct {
	Kind  string `json:"kind"`
	Item  string `json:"item"`
	Piece int    `json:"piece"`
	Zone  string `json:"zone"`
	Turn  int    `json:"turn"` // in the arrangement without it
}

// Fault is a move with what came of it.
type Fault struct {
	Move
	Moved kit.Piece
	With  []string  // ids of what it lies against and must not: whoever names one of these has found it too
	What  fact.Fact // what is worse for it, and by how much
	size  float64   // of what is worse, in multiples of what counts as a fault
}

// worth is what makes a fault of a kind: how much worse what is measured must be, to be one (our estimates).
var worth = map[string]float64{
	Deep:   15,  // seconds to hand
	Over:   8,   // seconds to hand, of what lies under it
	Beside: 1,   // finding of the check of safety
	Wet:    1,   // thing that would get wet
	Heavy:  1,   // centimetre of the whole pack's middle
	Sides:  400, // grams from one side to the other
	Hollow: 0.6, // litres of hollow spot
}

// mostTried and enough bound how many moves are packed for trial for one kind of fault, and out of how many that make
// one it is chosen. What does not go in at once is given little effort: another move will.
const (
	mostTried = 12
	enough    = 4
	hasty     = 0.02
)

// Spoiled is a packing with faults in it, and the one without.
type Spoiled struct {
	Good, Bad *verdict.Judged
	GoodS     float64         // what the good one costs, in seconds a day
	From      job.Arrangement // without the faults
	Now       job.Arrangement // with them
	Moves     []Move
	Faults    []Fault
}

// Spoil puts n faults into the arrangement of a task, of different kinds where that goes and always of different
// things: kinds that are due first, else by the seed. Every one of them is there when the packing is judged in the end,
// by what it makes worse; all that went in still does. The easier the level, the worse are the faults. There are fewer
// than n where the kit gives no more. options.Like are the lanes of the plan that the arrangement is of.
func Spoil(task *job.Task, from job.Arrangement, n, level int, due []string, seed uint64,
	options load.Options) *Spoiled {
	good, price := Judge(task, from, options)
	s := &spoiler{task: task, level: level, options: options, good: good, moved: map[string]bool{}}
	s.options.Effort, s.options.Rough = hasty, true
	s.tried = tried{now: from, judged: good, cost: price.Cost()}
	kinds := slices.Clone(FaultKinds)
	shuffled(kinds, seed)
	slices.SortStableFunc(kinds, func(a, b string) int { return cmp.Compare(turn(due, a), turn(due, b)) })
	for _, kind := range slices.Concat(kinds, kinds) {
		if len(s.moves) == n {
			break
		}
		if next := s.next(kind, seed); next != nil {
			s.tried = *next
			s.moved[s.moves[len(s.moves)-1].Item] = true
		}
	}
	return spoiled(task, good, price, from, s.now, s.moves, options)
}

// Again is what Spoil made of an arrangement, from what is kept of it.
func Again(task *job.Task, from, now job.Arrangement, moves []Move, options load.Options) *Spoiled {
	good, price := Judge(task, from, options)
	return spoiled(task, good, price, from, now, moves, options)
}

func spoiled(task *job.Task, good *verdict.Judged, price *load.Judgement, from, now job.Arrangement, moves []Move,
	options load.Options) *Spoiled {
	s := &Spoiled{Good: good, Bad: good, GoodS: price.Cost(), From: from, Now: now, Moves: moves}
	if len(moves) > 0 {
		s.Bad, _ = Judge(task, now, options)
	}
	s.Faults = seen(s.Good, s.Bad, moves)
	return s
}

// Judge packs an arrangement for trial and judges it, nothing moved.
func Judge(task *job.Task, a job.Arrangement, options load.Options) (*verdict.Judged, *load.Judgement) {
	j := load.Price(task, a, options)
	return verdict.Judge(task, j.Plan), j
}

// turn is where something is in a list, after all of it for what is not.
func turn(list []string, what string) int {
	if i := slices.Index(list, what); i >= 0 {
		return i
	}
	return len(list)
}

// Named reports whether whoever says that a piece lies wrong has found the fault.
func (f *Fault) Named(p kit.Piece) bool { return f.of(p) || slices.Contains(f.With, p.ID) }

func (m *Move) of(p kit.Piece) bool { return p.ID == m.Item && p.Number == m.Piece }

// apply is an arrangement after a move.
func (m *Move) apply(a job.Arrangement) job.Arrangement {
	rest := slices.DeleteFunc(slices.Clone(a), func(s job.Spot) bool { return s.Item == m.Item && s.Piece == m.Piece })
	return slices.Insert(rest, min(m.Turn, len(rest)), job.Spot{Item: m.Item, Piece: m.Piece, Zone: m.Zone})
}

// tried is an arrangement with so many faults.
type tried struct {
	moves  []Move
	now    job.Arrangement
	judged *verdict.Judged
	cost   float64
	size   float64 // of the last fault
}

type spoiler struct {
	tried   // so far
	task    *job.Task
	level   int
	options load.Options
	good    *verdict.Judged
	moved   map[string]bool // by id
}

// next puts one more fault of a kind in: of some that would make one the worst on the easiest level, the least on the
// hardest; nil where none is found.
func (s *spoiler) next(kind string, seed uint64) *tried {
	moves := slices.DeleteFunc(s.propose(kind), func(m Move) bool { return s.moved[m.Item] })
	shuffled(moves, seed)
	var found []tried
	for _, m := range moves[:min(len(moves), mostTried)] {
		if len(found) == enough || s.options.Stop != nil && s.options.Stop() {
			break
		}
		if t := s.try(m); t != nil {
			found = append(found, *t)
		}
	}
	if len(found) == 0 {
		return nil
	}
	slices.SortStableFunc(found, func(a, b tried) int { return cmp.Compare(b.size, a.size) })
	share := float64(s.level-Easiest) / (Hardest - Easiest)
	return &found[int(math.Round(share*float64(len(found)-1)))]
}

// try packs with one fault more; nil where that is none, hides one that is in, or saves something.
func (s *spoiler) try(m Move) *tried {
	t := &tried{moves: append(slices.Clone(s.moves), m), now: m.apply(s.now)}
	var price *load.Judgement
	t.judged, price = Judge(s.task, t.now, s.options)
	t.cost = price.Cost()
	if len(price.Misfit) > 0 || len(t.judged.Plan.LeftOut) > len(s.good.Plan.LeftOut) || t.cost <= s.cost {
		return nil
	}
	none := func(f Fault) bool { return f.What.None() }
	faults := seen(s.good, t.judged, t.moves)
	alone := seen(s.judged, t.judged, []Move{m}) // what this one does, and not those before it
	if slices.ContainsFunc(slices.Concat(faults, alone), none) {
		return nil
	}
	t.size = alone[0].size
	return t
}
