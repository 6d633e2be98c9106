package load

import (
	"cmp"
	"maps"
	"slices"

	"tornister/core/assign"
	"tornister/core/job"
	"tornister/core/rucksack"
	"tornister/core/stuff"
)

// Arrangement is the plan as one.
func (p *Plan) Arrangement() job.Arrangement {
	var list job.Arrangement
	for i := range p.Placed {
		pl := &p.Placed[i]
		if pl.Inside == "" {
			list = append(list, job.At(pl.Piece, pl.Zone.ID))
		}
	}
	for _, l := range p.LeftOut {
		list = append(list, job.At(l.Piece, ""))
	}
	return list
}

// Judgement is what an arrangement is worth.
type Judgement struct {
	Plan   *Plan      // everything as arranged; what does not go in is left out
	Zones  float64    // seconds a day: the objective of the zone assignment
	Order  float64    // and the bill of the order
	Misfit []job.Spot // what cannot be where it is arranged, or does not go in there
}

// Cost is all of it in seconds a day.
func (j *Judgement) Cost() float64 { return j.Zones + j.Order }

// Price judges an arrangement as it is: nothing is moved to where it would be better, only what does not go in where
// it is arranged is left out. Pieces that the arrangement does not name are left out too.
func Price(task *job.Task, arrangement job.Arrangement, options Options) *Judgement {
	s, p, j := arrange(task, arrangement, nil, options)
	s.assignment.Proof = assign.Proof{Objective: j.Zones}
	s.program = s.assignment.CopyOfProgram()
	if s.assignment.Open {
		p.relabel(s.assignment)
	}
	s.beside = len(j.Misfit) == 0
	j.Plan = s.finish(p)
	return j
}

// arrange packs as arranged, and finds what that costs. What was packed before much the same lends its lanes and, as
// the least, its squeeze; without it they are looked for.
func arrange(task *job.Task, arrangement job.Arrangement, like *packing,
	options Options) (*search, *packing, *Judgement) {
	options.Quick = true
	s := newSearch(task, options)
	s.budget.left, s.like = int(shoveBudget*cmp.Or(options.Effort, 1)), like
	if like != nil {
		s.budget.left = shoveBudget / 40
	}
	a := assign.New(task, s.loose, s.nested, task.LinesThrough())
	j := &Judgement{}
	for _, c := range a.Choices {
		zone, known := arrangement.ZoneOf(c.Piece)
		if !known || zone == "" {
			continue
		}
		z := slices.IndexFunc(a.Zones, func(z rucksack.Zone) bool { return z.ID == zone })
		if z >= 0 && a.Open && a.OneRoom(c, &a.Zones[z]) {
			z = assign.OfKind(a.Zones, rucksack.Body)
		}
		if z < 0 || c.Price[z] > assign.LeaveOut { // also +Inf: it cannot be there
			j.Misfit = append(j.Misfit, job.At(c.Piece, zone))
			continue
		}
		if a.Put(c, z); a.Around(z, assign.Out) > assign.LeaveOut*1e3 {
			a.Put(c, assign.Out)
			j.Misfit = append(j.Misfit, job.At(c.Piece, zone))
		}
	}
	s.assignment, s.program = a, a.CopyOfProgram()
	p, tightest := s.packAs(arrangement, a.Open)
	if len(p.trial.Out) > 0 && task.Pack.Opens() && !a.Open {
		if open, at := s.packAs(arrangement, true); len(open.trial.Out) < len(p.trial.Out) {
			p, tightest = open, at
		}
	}
	for _, i := range p.trial.Out {
		c := p.inside[i]
		j.Misfit = append(j.Misfit, job.At(c.Piece, a.Zones[c.Zone].ID))
	}
	p.leaveOut(a, tightest)
	p.bag(a)
	least := 0.0
	if like != nil {
		least = min(like.squeeze, tightest)
	}
	p.squeezeAsIs(least, tightest)
	j.Zones = a.Total()
	if len(p.order) > 0 {
		j.Order = p.cost(p.turns())
	}
	return s, p, j
}

// packAs packs an arrangement with the divider shut or open, and gives the squeeze at which the fewest are out.
func (s *search) packAs(arrangement job.Arrangement, open bool) (p *packing, squeeze float64) {
	p = newPacking(s.assignment, s.solid, open, s.budget)
	p.orderAs(arrangement)
	switch {
	case s.like != nil:
		p.layAs(s.like.lays())
	case s.options.Like != nil:
		p.layAs(s.options.Like)
	}
	return p, p.shove(s.random)
}

// Lay is how a piece in body or bottom was laid in a trial packing: where it was wished, and its poses, the one it lies
// in first.
type Lay struct {
	Item  string     `json:"item"`
	Piece int        `json:"piece"`
	Wish  stuff.Wish `json:"wish"`
	Poses [][3]int   `json:"poses,omitempty"` // in cells
}

// Lays are those of the plan, for Options.Like.
func (p *Plan) Lays() []Lay { return p.packing.lays() }

func (p *packing) lays() (list []Lay) {
	for i, c := range p.inside {
		th := &p.things[i]
		list = append(list, Lay{c.ID, c.Number, th.Wish, slices.Clone(th.Poses)})
	}
	return list
}

// layAs takes over how things were laid, of those whose poses are still the same.
func (p *packing) layAs(list []Lay) {
	for i, c := range p.inside {
		th := &p.things[i]
		k := slices.IndexFunc(list, func(l Lay) bool { return l.Item == c.ID && l.Piece == c.Number })
		if k < 0 || len(list[k].Poses) != len(th.Poses) || slices.ContainsFunc(list[k].Poses, func(o [3]int) bool {
			return !slices.Contains(th.Poses, o)
		}) {
			continue
		}
		th.Wish = list[k].Wish
		copy(th.Poses, list[k].Poses)
	}
}

// orderAs takes over the order of an arrangement.
func (p *packing) orderAs(arrangement job.Arrangement) {
	turn := arrangement.Turns()
	at := func(i int) int {
		turn, _ := turn(p.inside[i].Piece)
		return turn
	}
	slices.SortStableFunc(p.order, func(i, j int) int { return at(i) - at(j) })
}

// orderFrom puts what an arrangement knows into its order, and leaves what is new where its time of need puts it.
func (p *packing) orderFrom(from job.Arrangement) {
	turnOf := from.Turns()
	var known []int
	at := map[int]int{}
	for _, i := range p.order {
		if turn, is := turnOf(p.inside[i].Piece); is {
			known = append(known, i)
			at[i] = turn
		}
	}
	slices.SortStableFunc(known, func(i, j int) int {
		return cmp.Or(int(p.things[i].Region)-int(p.things[j].Region),
			at[i]-at[j])
	})
	for k, i := range p.order {
		if _, is := at[i]; is {
			p.order[k], known = known[0], known[1:]
		}
	}
}

// squeezeAsIs finds the least squeeze of the present order alone, of those from one at least to one at which
// everything goes in.
func (p *packing) squeezeAsIs(least, most float64) {
	low, high, times := least, most, halvings
	if least > 0 {
		times = quickHalvings
	}
	if p.goesIn(least) {
		high = least
	}
	for range times {
		if middle := (low + high) / 2; high > least && p.goesIn(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	p.squeeze = high
	p.run(high)
}

// Moved lists what lies in another zone than in an arrangement, by id.
func (p *Plan) Moved(from job.Arrangement) []string {
	moved := map[string]bool{}
	for i := range p.Placed {
		pl := &p.Placed[i]
		if zone, known := from.ZoneOf(pl.Piece); known && pl.Inside == "" && zone != pl.Zone.ID {
			moved[pl.Piece.ID] = true
		}
	}
	return slices.Sorted(maps.Keys(moved))
}
