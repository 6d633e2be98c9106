// Package answer writes a judged plan in the open answer format, its sentences in the reader's units, and as a load
// card in words. A field that is not computed is absent.
package answer

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"tornister/core/assign"
	"tornister/core/dry"
	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/stuff"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/words"
)

// Answer is the plan as it is written out.
type Answer struct {
	Format   string          `json:"format"`
	Version  int             `json:"version"`
	Seed     int64           `json:"seed"`
	Verdict  Verdict         `json:"verdict"`
	Checks   []Check         `json:"checks"`
	Zones    []Zone          `json:"zones"`
	Load     []Load          `json:"load"`
	Rolls    []Roll          `json:"rolls"`
	Closing  string          `json:"closing,omitempty"` // what is left to do when everything is in
	Balance  verdict.Balance `json:"balance"`
	Dry      []verdict.Dry   `json:"dry"`
	Barriers []Barrier       `json:"barriers"`
	BagCost  float64         `json:"barrier_cost"` // objective of the choice of dry bags
	Proof    assign.Proof    `json:"proof"`
	LeftOut  []LeftOut       `json:"left_out"`
	Broken   []Broken        `json:"broken"`
	NotKept  []NotKept       `json:"not_kept"`
	Assumed  []string        `json:"assumed"`
	Hollows  []Hollow        `json:"hollows"`
	Cells    *Cells          `json:"cells,omitempty"`
	Hand     *Hand           `json:"hand,omitempty"` // of an order that was given, not planned
}

// Verdict is the answer to "does it fit".
type Verdict struct {
	Fits        bool         `json:"fits"`
	State       assign.State `json:"state"`
	Squeeze     float64      `json:"squeeze"` // 0 loose to 1 tight
	OverL       float64      `json:"over_l"`  // litres the body would have to grow
	FillCm      float64      `json:"fill_cm"` // height of the highest thing in body or bottom
	DividerOpen bool         `json:"divider_open,omitempty"`
	Confidence  *float64     `json:"confidence,omitempty"` // share of draws of the litres in which it fits
	MeasureNext string       `json:"measure_next,omitempty"`
	Gap         float64      `json:"gap"`              // of the zone assignment, to what is proved necessary
	Starts      int          `json:"starts,omitempty"` // searches for the order
	Spread      float64      `json:"spread,omitempty"` // of their ends, as a share of the best
	Trials      int          `json:"trials"`
	CutShort    bool         `json:"cut_short,omitempty"`
	Seconds     float64      `json:"seconds,omitempty"`
}

// Zone is what lies in a zone of the pack.
type Zone struct {
	ID         string       `json:"id"`
	State      assign.State `json:"state"`
	NeedLooseL float64      `json:"need_loose_l"`
	NeedTightL float64      `json:"need_tight_l"`
	CapacityL  float64      `json:"capacity_l"`
	Items      []string     `json:"items"`
	HollowL    float64      `json:"hollow_l"`
}

// Load is one step of the loading order.
type Load struct {
	Step      int       `json:"step"`
	Item      string    `json:"item"`
	Piece     int       `json:"piece,omitempty"`
	Zone      string    `json:"zone"`
	Lane      job.Lane  `json:"lane,omitempty"`
	Bag       string    `json:"bag,omitempty"`
	Inside    string    `json:"inside"`
	BoxCm     *load.Box `json:"box_cm,omitempty"` // of things in body and bottom
	VolumeL   float64   `json:"volume_l"`
	Reasons   []Reason  `json:"reasons"`
	ReachS    float64   `json:"reach_s"`
	OutCm     float64   `json:"stands_out_cm,omitempty"` // above the rim of its pocket
	LiftedOut int       `json:"lifted_out"`
}

// LeftOut is a thing that is not in.
type LeftOut struct {
	Item        string `json:"item"`
	Piece       int    `json:"piece,omitempty"`
	Why         string `json:"why"`
	LeastChange string `json:"least_change"`
	Guess       string `json:"guess,omitempty"` // what of it is only guessed, to be looked at first
}

// Roll is a step between those of the order: a liner is rolled shut.
type Roll struct {
	Bag       string  `json:"bag"`
	Zone      string  `json:"zone"`
	AfterStep int     `json:"after_step"`
	HeightCm  float64 `json:"height_cm"` // above the foot of the pack
}

// Hand is what an order that a hand has packed is worth, beside the one that is planned.
type Hand struct {
	CostS    float64  `json:"cost_s"`    // seconds a day, by the prices of zones and order
	PlannedS float64  `json:"planned_s"` // of the planned one
	Misfit   []Spot   `json:"misfit"`    // what cannot be where it is, or does not go in there
	Changes  []Change `json:"changes"`   // that would help most, each after those before it
}

// Spot is a thing and the zone in which it was to be.
type Spot struct {
	Item  string `json:"item"`
	Piece int    `json:"piece,omitempty"`
	Zone  string `json:"zone"`
}

// Change is a thing put elsewhere.
type Change struct {
	Item   string  `json:"item"`
	Piece  int     `json:"piece,omitempty"`
	From   string  `json:"from"` // "" when it is out
	To     string  `json:"to"`
	Before string  `json:"before,omitempty"` // id of what it goes in before; last in its zone without
	SavesS float64 `json:"saves_s"`
	Text   string  `json:"text"`
}

// Check is one of the six judgements.
type Check struct {
	Check   string             `json:"check"`
	State   verdict.CheckState `json:"state"`
	Figure  string             `json:"figure"`
	Detail  string             `json:"detail,omitempty"`
	Reasons []Finding          `json:"reasons"`
}

// Finding is a reason for a check's state, and the things it is about.
type Finding struct {
	Text  string   `json:"text"`
	Items []string `json:"items,omitempty"`
}

// Reason is a rule that decided about a place.
type Reason struct {
	Rule string `json:"rule"`
	Text string `json:"text"`
}

// Broken is a rule or wish that is not kept.
type Broken struct {
	Rule  string   `json:"rule"`
	Items []string `json:"items"`
	Why   string   `json:"why"`
}

// NotKept is a choice of the packer's school that the plan does not follow, or that changes nothing on this kit.
type NotKept struct {
	Question string   `json:"question"`
	Answer   string   `json:"answer"`
	Items    []string `json:"items"` // that lie otherwise; none where the choice changes nothing
	Why      string   `json:"why"`
	Would    string   `json:"would,omitempty"` // keep it
}

// Barrier is a dry bag in use: where it lies, what is in it, how full it is.
type Barrier struct {
	Bag    string   `json:"bag"`
	Zone   string   `json:"zone"`
	Items  []string `json:"items"`
	Pieces []int    `json:"pieces"` // beside items: number of the piece, 0 where its line stands for one thing
	Litres float64  `json:"litres"`
	Share  float64  `json:"share"`
}

// Hollow is a hollow spot.
type Hollow struct {
	Litres float64    `json:"litres"`
	AtCm   [3]float64 `json:"at_cm"`
}

// Cells is the trial packing, run-length coded: pairs of an index into Owner (-1 air, -2 outside the pack) and a
// number of cells, x fastest, then y, then z.
type Cells struct {
	OriginCm [3]float64 `json:"origin_cm"`
	CellCm   float64    `json:"cell_cm"`
	Size     [3]int     `json:"size"`
	Owner    []string   `json:"owner"`
	Piece    []int      `json:"piece"` // number of the piece, 0 where its line stands for one thing
	Runs     [][2]int   `json:"runs"`
}

// Of writes a judged plan, its figures in a system of units. Assumed is what was taken for granted of the kit.
func Of(j *verdict.Judged, assumed []string, system unit.System) *Answer {
	plan := j.Plan
	a := &Answer{
		Format: "tornister-plan", Version: 1, Verdict: VerdictOf(plan), Zones: []Zone{}, Load: []Load{}, Rolls: []Roll{},
		LeftOut:  []LeftOut{},
		Barriers: []Barrier{}, Hollows: []Hollow{}, Broken: []Broken{}, NotKept: []NotKept{},
		Assumed: append([]string{}, assumed...),
	}
	for i := range j.Checks {
		a.Checks = append(a.Checks, CheckOf(&j.Checks[i], system))
	}
	for i := range plan.Zones {
		a.Zones = append(a.Zones, zone(&plan.Zones[i]))
	}
	for i := range j.Steps {
		a.Load = append(a.Load, step(&j.Steps[i], i+1, system))
	}
	a.Closing = words.Closing(plan.Closing(), system)
	for _, r := range j.Rolls {
		a.Rolls = append(a.Rolls, Roll{r.Bag.ID, r.Zone.ID, r.After + 1, rounded(r.Cm, 1)})
	}
	for _, l := range plan.LeftOut {
		why, least := words.Say(l.Why, system), words.Say(l.LeastChange, system)
		guess := words.Say(l.Guess(), system)
		a.LeftOut = append(a.LeftOut, LeftOut{l.Piece.ID, verdict.NumberOf(l.Piece), why, least, guess})
	}
	slices.SortStableFunc(a.LeftOut, func(a, b LeftOut) int {
		return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Piece, b.Piece))
	})
	for _, b := range plan.Broken {
		a.Broken = append(a.Broken, Broken{b.Rule, b.Items, words.Say(b.Why, system)})
	}
	for _, n := range plan.NotKept() {
		a.NotKept = append(a.NotKept,
			NotKept{n.Question, n.Answer, append([]string{}, n.Items...), words.Say(n.Why, system), words.Say(n.Would, system)})
	}
	for _, h := range plan.Hollows {
		a.Hollows = append(a.Hollows, Hollow{rounded(h.Litres, 3), at(h.AtCm)})
	}
	a.Dry, a.Balance, a.BagCost, a.Proof = j.Dry, j.Balance, j.Barriers.Cost(), plan.Proof
	for _, b := range slices.Concat(j.Barriers.Used, j.Barriers.Wet) {
		a.Barriers = append(a.Barriers, barrier(&b))
	}
	return a
}

// HandOf writes what an order given is worth: judged, the cost of the planned one, and the changes that would help
// most.
func HandOf(j *load.Judgement, planned float64, changes []load.Change, task *job.Task, system unit.System) *Hand {
	hand := &Hand{CostS: rounded(j.Cost(), 1), PlannedS: rounded(planned, 1), Misfit: []Spot{}, Changes: []Change{}}
	counts := map[string]int{}
	for i := range task.Items {
		counts[task.Items[i].ID] = task.Items[i].Count
	}
	for _, s := range j.Misfit {
		if counts[s.Item] == 1 {
			s.Piece = 0
		}
		hand.Misfit = append(hand.Misfit, Spot(s))
	}
	for i := range changes {
		c := &changes[i]
		out := Change{
			Item: c.Piece.ID, Piece: verdict.NumberOf(c.Piece), From: c.From, To: c.To, SavesS: rounded(c.SavesS, 1),
			Text: words.Say(c.Fact(&task.Pack), system),
		}
		if c.Before != nil {
			out.Before = c.Before.ID
		}
		hand.Changes = append(hand.Changes, out)
	}
	return hand
}

// VerdictOf is what a plan says to "does it fit".
func VerdictOf(plan *load.Plan) Verdict {
	v := Verdict{
		Fits: plan.Fits(), State: plan.State, Squeeze: rounded(plan.Squeeze, 3), OverL: plan.OverL, FillCm: plan.FillCm,
		DividerOpen: plan.Open, Gap: rounded(plan.Proof.Gap(), 4), Starts: plan.Starts, Spread: rounded(plan.Spread, 4),
		Trials: plan.Trials, CutShort: plan.CutShort,
	}
	if plan.Sure != nil {
		v.Confidence, v.MeasureNext = &plan.Sure.Share, plan.Sure.MeasureNext
	}
	return v
}

// CheckOf is a check in words.
func CheckOf(c *verdict.Check, system unit.System) Check {
	out := Check{Check: c.Check, State: c.State, Figure: words.Say(c.Figure, system), Detail: words.Say(c.Detail, system)}
	for _, f := range c.Reasons {
		out.Reasons = append(out.Reasons, Finding{words.Say(f.Fact, system), f.Items})
	}
	return out
}

// What of a hundred draws must fit for it to be said without a doubt, and for it to be probable.
const (
	sureShare     = 0.9
	probableShare = 0.5
)

// Sentence is the verdict in words, its figures in a system of units. Of what fits in few of the draws of its litres
// it is not said that it fits.
func Sentence(v Verdict, leftOut int, system unit.System) string {
	sure := 1.0
	if v.Confidence != nil {
		sure = *v.Confidence
	}
	switch {
	case !v.Fits && v.OverL > 0:
		return fmt.Sprintf("It does not fit: %s too much.", system.Volume(v.OverL))
	case !v.Fits:
		return fmt.Sprintf("It does not fit: %s cannot go in.", words.Things(leftOut))
	case sure < probableShare:
		return fmt.Sprintf("It may not fit: it closed in only %.0f of 100 tries with its litres as they may be.", 100*sure)
	case sure < sureShare:
		return fmt.Sprintf("It probably fits, %s: it closed in %.0f of 100 tries with its litres as they may be.", how(v),
			100*sure)
	case v.State == assign.Crammed:
		return fmt.Sprintf("It just fits, %s.", how(v))
	}
	return fmt.Sprintf("It fits, %s.", how(v))
}

// how says how full it is.
func how(v Verdict) string {
	switch v.State {
	case assign.Roomy:
		return "with room to spare"
	case assign.Snug:
		return "snugly"
	case assign.Squeezed:
		return "squeezed " + words.Part(v.Squeeze)
	}
	return "crammed " + words.Part(v.Squeeze)
}

func zone(z *assign.ZoneFill) Zone {
	found := Zone{ID: z.Zone.ID, State: z.State, NeedLooseL: rounded(z.NeedLooseL, 3),
		NeedTightL: rounded(z.NeedTightL, 3),
		CapacityL:  rounded(z.CapacityL, 3), HollowL: rounded(z.HollowL, 3), Items: []string{}}
	for _, p := range z.Pieces {
		if !slices.Contains(found.Items, p.ID) {
			found.Items = append(found.Items, p.ID)
		}
	}
	return found
}

func step(s *verdict.Step, n int, system unit.System) Load {
	l := Load{
		Step: n, Item: s.Piece.ID, Piece: verdict.NumberOf(s.Piece), Zone: s.Zone.ID, Lane: s.Lane, Bag: s.Bag,
		Inside: s.Inside, BoxCm: s.Box, VolumeL: rounded(s.VolumeL, 3), ReachS: s.ReachS, LiftedOut: s.LiftedOut,
		OutCm: rounded(s.OutCm, 1),
	}
	for _, r := range s.Reasons {
		l.Reasons = append(l.Reasons, Reason{r.Rule, words.Say(r.Fact, system)})
	}
	return l
}

func barrier(b *dry.Barrier) Barrier {
	out := Barrier{
		Bag: b.Bag.ID, Zone: b.Zone, Items: []string{}, Pieces: []int{},
		Litres: rounded(b.Litres, 3), Share: rounded(b.Share(), 3),
	}
	for _, piece := range b.Things {
		out.Items = append(out.Items, piece.ID)
		out.Pieces = append(out.Pieces, verdict.NumberOf(piece))
	}
	return out
}

// CellsOf codes the trial packing of a plan.
func CellsOf(plan *load.Plan) *Cells {
	solid := plan.Cells.Solid
	c := &Cells{OriginCm: solid.Origin, CellCm: solid.CellCm, Size: [3]int(solid.Size), Owner: []string{},
		Piece: []int{}, Runs: [][2]int{}}
	for _, p := range plan.Cells.Things {
		c.Owner = append(c.Owner, p.ID)
		c.Piece = append(c.Piece, verdict.NumberOf(p))
	}
	last := stuff.Outside - 1
	for _, owner := range plan.Cells.Owner {
		if owner == last {
			c.Runs[len(c.Runs)-1][1]++
			continue
		}
		c.Runs = append(c.Runs, [2]int{int(owner), 1})
		last = owner
	}
	return c
}

func at(v [3]float64) [3]float64 {
	for i := range v {
		v[i] = rounded(v[i], 1)
	}
	return v
}

// rounded is a figure with so many digits behind its point.
func rounded(v float64, digits int) float64 {
	ten := math.Pow10(digits)
	return math.Round(v*ten) / ten
}
