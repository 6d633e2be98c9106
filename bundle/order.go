package bundle

import (
	"encoding/json"
	"fmt"
	"slices"

	"tornister/core/job"
	"tornister/core/kit"
)

// mostSpots bounds an order: no kit has more pieces.
const mostSpots = 5000

// spot is an entry of an order as it is written.
type spot struct {
	Item   string `json:"item"`
	Piece  int    `json:"piece"`
	Zone   string `json:"zone"`
	Inside string `json:"inside"`
}

// ReadOrder reads the order in which a hand has packed a task: a list of objects with item, zone and, of a line of
// several things, piece, first in first; or an answer, whose list "load" is one. What lies in a vessel goes with it.
// The error is of type Problems.
func ReadOrder(data []byte, task *job.Task) (job.Arrangement, error) {
	if len(data) > MaxBytes {
		return nil, problem("", fmt.Sprintf("larger than %d MB", MaxBytes>>20), "an order has one entry for each thing")
	}
	var spots []spot
	at := []any{}
	if err := json.Unmarshal(data, &spots); err != nil {
		var whole struct {
			Load []spot `json:"load"`
		}
		if json.Unmarshal(data, &whole) != nil || whole.Load == nil {
			return nil, problem("", "not an order: "+err.Error(),
				`give a list such as [{"item": "tent", "zone": "body"}], or an answer with its load`)
		}
		spots, at = whole.Load, []any{"load"}
	}
	if len(spots) > mostSpots {
		return nil, problem("", fmt.Sprintf("more than %d entries", mostSpots), "an order has one entry for each thing")
	}
	pieces := kit.Pieces(task.Items, kit.Pack)
	var problems Problems
	var order job.Arrangement
	report := func(i int, field, what, mend string) {
		problems = append(problems, Problem{pointer(append(slices.Clone(at), i, field)...), what, mend})
	}
	for i, s := range spots {
		if s.Inside != "" {
			continue
		}
		named := slices.DeleteFunc(slices.Clone(pieces), func(p kit.Piece) bool {
			return p.ID != s.Item || s.Piece > 0 && p.Number != s.Piece
		})
		switch {
		case len(named) == 0:
			report(i, "item", fmt.Sprintf("there is no packed thing %q", clip(s.Item)),
				"give the id of a thing of the list, and a piece it has")
		case task.Pack.Zone(s.Zone) == nil:
			report(i, "zone", fmt.Sprintf("the pack has no zone %q", clip(s.Zone)), "give the id of one of its zones")
		}
		for _, p := range named {
			next := job.Spot{Item: p.ID, Piece: p.Number, Zone: s.Zone}
			if slices.ContainsFunc(order, func(o job.Spot) bool { return o.Item == p.ID && o.Piece == p.Number }) {
				report(i, "item", fmt.Sprintf("%s stands twice", p.Name), "give each thing one place")
				break
			}
			order = append(order, next)
		}
	}
	if len(problems) > 0 {
		return nil, capped(problems)
	}
	return order, nil
}
