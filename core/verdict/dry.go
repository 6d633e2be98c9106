package verdict

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"tornister/core/dry"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// dryness lists the packed things that must not get wet, with what keeps rain from them, bags included.
func dryness(pack *dry.Pack, barriers *dry.Barriers) []Dry {
	in := map[kit.Piece]string{}
	for _, b := range barriers.Used {
		for _, piece := range b.Things {
			in[piece] = b.Bag.ID
		}
	}
	weak := map[kit.Piece]bool{}
	for _, w := range barriers.Weak {
		weak[w.Piece] = true
	}
	list := []Dry{}
	for _, l := range pack.Things {
		need := dry.Need(l.Piece.Item)
		if need == 0 {
			continue
		}
		d := Dry{Item: l.Piece.ID, Piece: numberOf(l.Piece), Need: need, Layers: []string{}, Dry: !weak[l.Piece]}
		for _, layer := range pack.Layers(l) {
			if !layer.Thin || need == 1 {
				d.Layers = append(d.Layers, layer.Name)
			}
		}
		if bag := in[l.Piece]; bag != "" {
			d.Layers = append(d.Layers, bag)
		}
		list = append(list, d)
	}
	slices.SortFunc(list, func(a, b Dry) int { return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Piece, b.Piece)) })
	return list
}

func dryCheck(pack *dry.Pack, barriers *dry.Barriers, list []Dry) Check {
	c := Check{Check: "dry", State: Settled, Figure: "all dry"}
	for _, w := range barriers.Weak {
		state := Look
		if dry.Sleeping(w.Piece.Item) && len(withoutThin(pack.Layers(w.Lying))) == 0 {
			state = Stop
		}
		c.raise(state, fmt.Sprintf("%s: %s. It wants %s.", w.Piece.Name, w.Why, w.Mend), w.Piece.ID)
	}
	if n := len(barriers.Weak); n > 0 {
		c.Figure = fmt.Sprintf("%d weak", n)
	} else {
		c.Reasons = []Finding{{Text: fmt.Sprintf("Each of %s that must not get wet has the layers its school asks for.", Things(len(list)))}}
	}
	wet := 0
	for _, s := range pack.Sources(barriers) {
		if len(s.Threatens) > 0 {
			wet++
			c.raise(Look, fmt.Sprintf("%s (%s) with %s, and no barrier between: bag the wet thing or the dry ones.", s.Piece.Name, s.Why, named(s.Threatens)), s.Piece.ID)
		}
	}
	if wet > 0 && len(barriers.Weak) == 0 {
		c.Figure = fmt.Sprintf("%d wet inside", wet)
	}
	return c
}

// named lists names, as many as a line takes.
func named(pieces []kit.Piece) string {
	var names []string
	for _, p := range pieces {
		if name := unit.Small(p.Name); !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) > 3 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:3], ", "), len(names)-3)
	}
	return strings.Join(names, ", ")
}

func withoutThin(layers []dry.Layer) []dry.Layer {
	return slices.DeleteFunc(layers, func(l dry.Layer) bool { return l.Thin })
}

// Limits for what must come in seconds (our estimates).
const (
	urgentLooksS = 30
	urgentStopsS = 60
)

func reachCheck(task *load.Task, steps []Load) Check {
	c := Check{Check: "reach", State: Settled, Figure: "nothing urgent"}
	worst := 0.0
	for _, l := range steps {
		it := itemOf(task, l.Item)
		if !it.Use.Urgent {
			continue
		}
		if l.ReachS > worst {
			worst = l.ReachS
			c.Figure, c.Detail = fmt.Sprintf("%.0f s", l.ReachS), strings.ToLower(it.Name)
		}
		text := fmt.Sprintf("%s: %.0f s, %s", it.Name, l.ReachS, strings.ToLower(task.Pack.Zone(l.Zone).Name))
		if l.LiftedOut > 0 {
			text += fmt.Sprintf(", %s to lift out", Things(l.LiftedOut))
		}
		switch {
		case l.ReachS > urgentStopsS:
			c.raise(Stop, text+". It must come to hand at once.", l.Item)
		case l.ReachS > urgentLooksS:
			c.raise(Look, text+".", l.Item)
		default:
			c.raise(Settled, text+".", l.Item)
		}
	}
	if worst == 0 {
		c.raise(Settled, fmt.Sprintf("No packed thing is marked as needed in seconds; the quickest zone takes %.0f s.", quickest(&task.Pack)))
	}
	return c
}

func quickest(pack *rucksack.Pack) float64 {
	best := reach.Seconds(&pack.Zones[0], 0, 0)
	for i := range pack.Zones {
		best = min(best, reach.Seconds(&pack.Zones[i], 0, 0))
	}
	return best
}

// Findings counts in words.
func Findings(n int) string {
	if n == 1 {
		return "1 finding"
	}
	return fmt.Sprintf("%d findings", n)
}

func itemOf(task *load.Task, id string) *kit.Item {
	for i := range task.Items {
		if task.Items[i].ID == id {
			return &task.Items[i]
		}
	}
	return &kit.Item{ID: id, Name: id}
}
