// Package verdict assembles the answer: what the planner found, the checks that follow from it, and the sentence a
// packer reads first. Its types are the open answer format; a field that is not computed is absent.
package verdict

import (
	"cmp"
	"slices"

	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/stuff"
)

// Answer is the plan as it is written out.
type Answer struct {
	Format   string        `json:"format"`
	Version  int           `json:"version"`
	Seed     int64         `json:"seed"`
	Verdict  Verdict       `json:"verdict"`
	Checks   []Check       `json:"checks"`
	Zones    []Zone        `json:"zones"`
	Load     []Load        `json:"load"`
	Balance  Balance       `json:"balance"`
	Dry      []Dry         `json:"dry"`
	Barriers []Barrier     `json:"barriers"`
	BagCost  float64       `json:"barrier_cost"` // objective of the choice of dry bags
	Proof    load.Proof    `json:"proof"`
	LeftOut  []LeftOut     `json:"left_out"`
	Broken   []load.Broken `json:"broken"`
	Assumed  []string      `json:"assumed"`
	Hollows  []Hollow      `json:"hollows"`
	Cells    *Cells        `json:"cells,omitempty"`
}

// Verdict is the answer to "does it fit".
type Verdict struct {
	Fits        bool       `json:"fits"`
	State       load.State `json:"state"`
	Squeeze     float64    `json:"squeeze"` // 0 loose to 1 tight
	OverL       float64    `json:"over_l"`  // litres the body would have to grow
	FillCm      float64    `json:"fill_cm"` // height of the highest thing in body or bottom
	DividerOpen bool       `json:"divider_open,omitempty"`
	Confidence  *float64   `json:"confidence,omitempty"` // share of draws of the litres in which it fits
	MeasureNext string     `json:"measure_next,omitempty"`
	Gap         float64    `json:"gap"`              // of the zone assignment, to what is proved necessary
	Starts      int        `json:"starts,omitempty"` // searches for the order
	Spread      float64    `json:"spread,omitempty"` // of their ends, as a share of the best
	Trials      int        `json:"trials"`
	CutShort    bool       `json:"cut_short,omitempty"`
	Seconds     float64    `json:"seconds,omitempty"`
}

// Zone is what lies in a zone of the pack.
type Zone struct {
	ID         string     `json:"id"`
	State      load.State `json:"state"`
	NeedLooseL float64    `json:"need_loose_l"`
	NeedTightL float64    `json:"need_tight_l"`
	CapacityL  float64    `json:"capacity_l"`
	Items      []string   `json:"items"`
	HollowL    float64    `json:"hollow_l"`
}

// Load is one step of the loading order.
type Load struct {
	Step      int           `json:"step"`
	Item      string        `json:"item"`
	Piece     int           `json:"piece,omitempty"`
	Zone      string        `json:"zone"`
	Lane      load.Lane     `json:"lane,omitempty"`
	Bag       string        `json:"bag,omitempty"`
	Inside    string        `json:"inside"`
	BoxCm     *load.Box     `json:"box_cm,omitempty"` // of things in body and bottom
	VolumeL   float64       `json:"volume_l"`
	Reasons   []load.Reason `json:"reasons"`
	ReachS    float64       `json:"reach_s"`
	LiftedOut int           `json:"lifted_out"`
}

// LeftOut is a thing that is not in.
type LeftOut struct {
	Item        string `json:"item"`
	Piece       int    `json:"piece,omitempty"`
	Why         string `json:"why"`
	LeastChange string `json:"least_change"`
}

// Dry says what stands between a thing that must stay dry and the rain.
type Dry struct {
	Item   string   `json:"item"`
	Piece  int      `json:"piece,omitempty"`
	Need   int      `json:"need"`
	Layers []string `json:"layers"`
	Dry    bool     `json:"dry"`
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

// Of plans the task and assembles the answer; the plan comes with it for those who draw.
func Of(task *load.Task, assumed []string, options load.Options) (*Answer, *load.Plan) {
	plan := load.Make(task, options)
	answer := assemble(task, plan, assumed)
	answer.Seed = options.Seed
	return answer, plan
}

// Reworded is plan and answer with their sentences in the units of a task, which is otherwise the one that was
// planned.
func Reworded(task *load.Task, answer *Answer, plan *load.Plan) (*Answer, *load.Plan) {
	plan = plan.Reworded(task)
	other := assemble(task, plan, answer.Assumed)
	other.Seed, other.Verdict.Seconds, other.Cells = answer.Seed, answer.Verdict.Seconds, answer.Cells
	return other, plan
}

func assemble(task *load.Task, plan *load.Plan, assumed []string) *Answer {
	answer := &Answer{Format: "tornister-plan", Version: 1, Zones: []Zone{}, Load: []Load{}, LeftOut: []LeftOut{}, Dry: []Dry{}, Barriers: []Barrier{}, Hollows: []Hollow{},
		Broken: append([]load.Broken{}, plan.Broken...), Assumed: append([]string{}, assumed...), Proof: plan.Proof}
	answer.Verdict = Verdict{Fits: plan.Fits(), State: plan.State, Squeeze: round3(plan.Squeeze), OverL: plan.OverL, FillCm: plan.FillCm,
		DividerOpen: plan.Open, Gap: round4(plan.Proof.Gap()), Starts: plan.Starts, Spread: round4(plan.Spread), Trials: plan.Trials, CutShort: plan.CutShort}
	if plan.Sure != nil {
		answer.Verdict.Confidence, answer.Verdict.MeasureNext = &plan.Sure.Share, plan.Sure.MeasureNext
	}
	for i := range plan.Zones {
		answer.Zones = append(answer.Zones, zone(&plan.Zones[i]))
	}
	pack := load.Dryness(task, plan)
	barriers := pack.Plan()
	bags := newBagging(pack, &barriers)
	for i := range plan.Placed {
		answer.Load = append(answer.Load, step(&plan.Placed[i], i+1, bags))
	}
	for _, l := range plan.LeftOut {
		answer.LeftOut = append(answer.LeftOut, LeftOut{l.Piece.ID, numberOf(l.Piece), l.Why, l.LeastChange})
	}
	slices.SortStableFunc(answer.LeftOut, func(a, b LeftOut) int {
		return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Piece, b.Piece))
	})
	for _, h := range plan.Hollows {
		answer.Hollows = append(answer.Hollows, Hollow{round3(h.Litres), rounded(h.AtCm)})
	}
	answer.Dry = dryness(pack, &barriers)
	for _, b := range slices.Concat(barriers.Used, barriers.Wet) {
		answer.Barriers = append(answer.Barriers, barrier(&b))
	}
	answer.BagCost = barriers.Cost()
	answer.Balance = weigh(task, plan, &barriers)
	answer.Checks = []Check{fitCheck(task, plan), weightCheck(task, plan, answer.Balance), balanceCheck(task, answer.Balance),
		dryCheck(pack, &barriers, answer.Dry), reachCheck(task, answer.Load), safeCheck(task, plan, bags)}
	return answer
}

// numberOf is the piece's number where its line stands for several things, else 0.
func numberOf(p kit.Piece) int {
	if p.Count > 1 {
		return p.Number
	}
	return 0
}

func zone(z *load.ZoneFill) Zone {
	found := Zone{ID: z.Zone.ID, State: z.State, NeedLooseL: round3(z.NeedLooseL), NeedTightL: round3(z.NeedTightL),
		CapacityL: round3(z.CapacityL), HollowL: round3(z.HollowL), Items: []string{}}
	for _, p := range z.Pieces {
		if !slices.Contains(found.Items, p.ID) {
			found.Items = append(found.Items, p.ID)
		}
	}
	return found
}

func step(p *load.Placement, n int, bags *bagging) Load {
	l := Load{Step: n, Item: p.Piece.ID, Piece: numberOf(p.Piece), Zone: p.Zone.ID, Lane: p.Lane, Inside: p.Inside, BoxCm: p.Box,
		VolumeL: round3(p.VolumeL), Reasons: p.Reasons}
	var opened int
	l.Bag, opened = bags.of(p)
	l.LiftedOut = bags.lifted(p)
	l.ReachS = reach.Seconds(p.Zone, float64(l.LiftedOut), opened)
	if load.DrunkThroughTube(p.Piece.Item, p.Zone) {
		l.ReachS = load.TubeSeconds
	}
	return l
}

// CellsOf codes the trial packing of a plan.
func CellsOf(plan *load.Plan) *Cells {
	solid := plan.Cells.Solid
	c := &Cells{OriginCm: solid.Origin, CellCm: solid.CellCm, Size: [3]int(solid.Size), Owner: []string{}, Piece: []int{}, Runs: [][2]int{}}
	for _, p := range plan.Cells.Things {
		c.Owner = append(c.Owner, p.ID)
		c.Piece = append(c.Piece, numberOf(p))
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

func rounded(at [3]float64) [3]float64 {
	for i := range at {
		at[i] = round1(at[i])
	}
	return at
}
