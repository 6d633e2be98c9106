// Package verdict assembles the answer: what the planner found, the checks that follow from it, and the sentence a
// packer reads first. Its types are the open answer format; a field that is not computed is absent.
package verdict

import (
	"cmp"
	"slices"

	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
)

// Answer is the plan as it is written out.
type Answer struct {
	Format  string        `json:"format"`
	Version int           `json:"version"`
	Seed    int64         `json:"seed"`
	Verdict Verdict       `json:"verdict"`
	Checks  []Check       `json:"checks"`
	Zones   []Zone        `json:"zones"`
	Load    []Load        `json:"load"`
	Balance Balance       `json:"balance"`
	LeftOut []LeftOut     `json:"left_out"`
	Broken  []load.Broken `json:"broken"`
	Assumed []string      `json:"assumed"`
}

// Verdict is the answer to "does it fit".
type Verdict struct {
	Fits    bool       `json:"fits"`
	State   load.State `json:"state"`
	Squeeze float64    `json:"squeeze"` // 0 loose to 1 tight
	OverL   float64    `json:"over_l"`  // litres the body would have to grow
	Seconds float64    `json:"seconds,omitempty"`
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
	Step    int           `json:"step"`
	Item    string        `json:"item"`
	Piece   int           `json:"piece,omitempty"`
	Zone    string        `json:"zone"`
	Lane    load.Lane     `json:"lane,omitempty"`
	Inside  string        `json:"inside"`
	VolumeL float64       `json:"volume_l"`
	Reasons []load.Reason `json:"reasons"`
}

// LeftOut is a thing that is not in.
type LeftOut struct {
	Item        string `json:"item"`
	Piece       int    `json:"piece,omitempty"`
	Why         string `json:"why"`
	LeastChange string `json:"least_change"`
}

// Balance is the weight on the back.
type Balance struct {
	MassG     float64 `json:"mass_g"`
	BodyShare float64 `json:"body_share"`
}

// Of plans the task and assembles the answer; the plan comes with it for those who draw.
func Of(task *load.Task, assumed []string) (*Answer, *load.Plan) {
	plan := load.Make(task)
	return assemble(task, plan, assumed), plan
}

func assemble(task *load.Task, plan *load.Plan, assumed []string) *Answer {
	answer := &Answer{Format: "tornister-plan", Version: 1, Seed: 1, Checks: []Check{}, Zones: []Zone{}, Load: []Load{},
		LeftOut: []LeftOut{}, Broken: append([]load.Broken{}, plan.Broken...), Assumed: append([]string{}, assumed...)}
	answer.Verdict = Verdict{Fits: plan.Fits(), State: plan.State, Squeeze: round3(plan.Squeeze), OverL: plan.OverL}
	for i := range plan.Zones {
		answer.Zones = append(answer.Zones, zone(&plan.Zones[i]))
	}
	for i, p := range plan.Placed {
		answer.Load = append(answer.Load, Load{Step: i + 1, Item: p.Piece.ID, Piece: numberOf(p.Piece), Zone: p.Zone.ID,
			Lane: p.Lane, Inside: p.Inside, VolumeL: round3(p.VolumeL), Reasons: p.Reasons})
	}
	for _, l := range plan.LeftOut {
		answer.LeftOut = append(answer.LeftOut, LeftOut{l.Piece.ID, numberOf(l.Piece), l.Why, l.LeastChange})
	}
	slices.SortStableFunc(answer.LeftOut, func(a, b LeftOut) int {
		return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Piece, b.Piece))
	})
	answer.Balance = weigh(task, plan)
	answer.Checks = append(answer.Checks, fitCheck(plan), weightCheck(task, plan, answer.Balance))
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

// weigh sums the pack, what is in it, and the liner or cover that the school uses.
func weigh(task *load.Task, plan *load.Plan) Balance {
	sum := task.Pack.MassG
	for i := range plan.Placed {
		sum += plan.Placed[i].Piece.MassG
	}
	for _, bag := range task.Bags {
		dry := task.Method.Dry
		if bag.Kind == "liner" && (dry == "liner" || dry == "double") || bag.Kind == "cover" && dry == "cover" {
			sum += bag.MassG
		}
	}
	return Balance{MassG: sum, BodyShare: round3(sum / 1000 / task.Trip.Carrier.MassKg)}
}

// Sum is the weight and room of a part of the kit.
type Sum struct {
	MassG, LooseL, TightL float64
	Pieces                int
}

// Kit sums the kit the way packers count it.
type Kit struct {
	Packed, Worn, Hand, Left Sum
	BaseG                    float64 // packed, without food, fuel and water, and the empty pack
	ConsumableG              float64
}

// KitOf sums the kit list. Base weight is the pack and what is packed but is not eaten, burnt or drunk.
func KitOf(items []kit.Item, pack *rucksack.Pack) Kit {
	k := Kit{BaseG: pack.MassG}
	for i := range items {
		it := &items[i]
		sum := map[kit.Carry]*Sum{kit.Pack: &k.Packed, kit.Worn: &k.Worn, kit.Hand: &k.Hand, kit.Left: &k.Left}[it.Carry]
		n := float64(it.Count)
		sum.MassG += it.TotalG()
		sum.LooseL += n * it.Shape.Litres(0)
		sum.TightL += n * it.Shape.Litres(1)
		sum.Pieces += it.Count
		if it.Carry != kit.Pack {
			continue
		}
		if it.Consumable != "" {
			k.ConsumableG += it.TotalG()
		} else {
			k.BaseG += it.TotalG()
		}
	}
	return k
}
