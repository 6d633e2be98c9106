package verdict

import (
	"cmp"
	"slices"

	"tornister/core/dry"
	"tornister/core/fact"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/reach"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// Dry says what stands between a thing that must stay dry and the rain.
type Dry struct {
	Item   string   `json:"item"`
	Piece  int      `json:"piece,omitempty"`
	Need   int      `json:"need"`
	Layers []string `json:"layers"`
	Dry    bool     `json:"dry"`
}

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
		d := Dry{Item: l.Piece.ID, Piece: NumberOf(l.Piece), Need: need, Layers: []string{}, Dry: !weak[l.Piece]}
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
	c := Check{Check: "dry", State: Settled, Figure: fact.Of("dry.all-dry")}
	for _, w := range barriers.Weak {
		state := Look
		if dry.Sleeping(w.Piece.Item) && len(withoutThin(pack.Layers(w.Lying))) == 0 {
			state = Stop
		}
		c.raise(state, fact.Of("dry.finding", w.Piece.Name, w.Why, w.Mend), w.Piece.ID)
	}
	if n := len(barriers.Weak); n > 0 {
		c.Figure = fact.Of("dry.weak-count", n)
	} else {
		c.Reasons = []Finding{{Fact: fact.Of("dry.layers-kept", fact.Things(len(list)))}}
	}
	wet := 0
	for _, s := range pack.Sources(barriers) {
		if len(s.Threatens) > 0 {
			wet++
			c.raise(Look, fact.Of("dry.threatens", s.Piece.Name, s.Why, named(s.Threatens)), s.Piece.ID)
		}
	}
	if wet > 0 && len(barriers.Weak) == 0 {
		c.Figure = fact.Of("dry.wet-inside", wet)
	}
	return c
}

// named lists the names of things, each once.
func named(pieces []kit.Piece) fact.Names {
	var names fact.Names
	for _, p := range pieces {
		if name := unit.Small(p.Name); !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return names
}

func withoutThin(layers []dry.Layer) []dry.Layer {
	return slices.DeleteFunc(layers, func(l dry.Layer) bool { return l.Thin })
}

// Limits for what must come in seconds (our estimates).
const (
	urgentLooksS = 30
	urgentStopsS = 60
)

func reachCheck(task *job.Task, steps []Step) Check {
	c := Check{Check: "reach", State: Settled, Figure: fact.Of("reach.nothing-urgent")}
	worst := 0.0
	for i := range steps {
		l := &steps[i]
		it := l.Piece.Item
		if !it.Use.Urgent {
			continue
		}
		if l.ReachS > worst {
			worst = l.ReachS
			c.Figure, c.Detail = fact.Of("reach.seconds", l.ReachS), fact.Of("reach.of", fact.Small(it.Name))
		}
		found := fact.Of("reach.urgent", it.Name, l.ReachS, fact.Small(l.Zone.Name))
		if l.LiftedOut > 0 {
			found = fact.Of("reach.urgent-under", it.Name, l.ReachS, fact.Small(l.Zone.Name), fact.Things(l.LiftedOut))
		}
		switch {
		case l.ReachS > urgentStopsS:
			c.raise(Stop, fact.Of("reach.too-late", found), it.ID)
		case l.ReachS > urgentLooksS:
			c.raise(Look, fact.Of("reach.found", found), it.ID)
		default:
			c.raise(Settled, fact.Of("reach.found", found), it.ID)
		}
	}
	if worst == 0 {
		c.raise(Settled, fact.Of("reach.none-marked", quickest(&task.Pack)))
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

func itemOf(task *job.Task, id string) *kit.Item {
	for i := range task.Items {
		if task.Items[i].ID == id {
			return &task.Items[i]
		}
	}
	return &kit.Item{ID: id, Name: id}
}
