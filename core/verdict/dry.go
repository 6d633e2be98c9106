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
)

// dryness lists the packed things that must not get wet, with what keeps rain from them: their own case, the liner or
// cover of the school, a sealed zone. Dry bags do not count yet: which thing goes into which bag is not planned here.
func dryness(task *load.Task, plan *load.Plan) []Dry {
	list := []Dry{}
	for i := range plan.Placed {
		p := &plan.Placed[i]
		need := dry.Need(p.Piece.Item)
		if need == 0 {
			continue
		}
		d := Dry{Item: p.Piece.ID, Piece: numberOf(p.Piece), Need: need, Layers: []string{}}
		if dry.Cased(p.Piece.Item) {
			d.Layers = append(d.Layers, p.Piece.Water.Case)
		}
		if liner := linerOf(task); liner != nil && p.Zone.Solid() {
			d.Layers = append(d.Layers, liner.ID)
		}
		if cover := bagOf(task, "cover"); cover != nil && task.Method.Dry == "cover" && p.Zone.Kind != rucksack.Straps {
			d.Layers = append(d.Layers, cover.ID)
		}
		if p.Zone.Weather == rucksack.Sealed {
			d.Layers = append(d.Layers, "sealed zone")
		}
		if need == 1 && p.Zone.Weather == rucksack.Covered {
			d.Layers = append(d.Layers, "fabric")
		}
		d.Dry = len(d.Layers) > 0
		list = append(list, d)
	}
	slices.SortFunc(list, func(a, b Dry) int { return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Piece, b.Piece)) })
	return list
}

func dryCheck(task *load.Task, list []Dry) Check {
	c := Check{Check: "dry", State: Settled, Figure: "all dry"}
	weak := 0
	for _, d := range list {
		if d.Dry {
			continue
		}
		weak++
		it := itemOf(task, d.Item)
		c.State = Look
		if it.Shape.Kind == kit.Soft && it.Serves("warmth") && it.Use.When == kit.Camp {
			c.State = Stop
		}
		c.Reasons = append(c.Reasons, Finding{fmt.Sprintf("%s must stay dry and has nothing but fabric round it: put it into a dry bag, or inside the liner.", it.Name), []string{d.Item}})
	}
	if weak > 0 {
		c.Figure = fmt.Sprintf("%d weak", weak)
	} else {
		c.Reasons = []Finding{{Text: fmt.Sprintf("Each of %s that must stay dry has a layer against rain.", Things(len(list)))}}
	}
	return c
}

// Limits for what must come in seconds (our estimates).
const (
	urgentLooksS = 25
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
	best := reach.Seconds(&pack.Zones[0], 0, false)
	for i := range pack.Zones {
		best = min(best, reach.Seconds(&pack.Zones[i], 0, false))
	}
	return best
}

// spared are the functions for which there must be a second way, since life hangs on them (common practice).
var spared = []struct{ function, words string }{
	{"light", "a second light"}, {"water-treatment", "a second way to treat water"}, {"navigation", "a second way to find the way"}, {"fire", "a second way to make fire"},
}

// safeCheck says what is known of safety so far: rules not kept, and what there is only one of.
func safeCheck(task *load.Task, plan *load.Plan) Check {
	c := Check{Check: "safe", State: Settled, Figure: "no finding"}
	for _, b := range plan.Broken {
		c.raise(Stop, b.Why, b.Items...)
	}
	for _, s := range spared {
		n := 0
		for i := range task.Items {
			if it := &task.Items[i]; it.Serves(s.function) && it.Carry != kit.Left {
				n += it.Count
			}
		}
		if n == 1 && task.Trip.Nights > 0 {
			c.raise(Look, fmt.Sprintf("There is only one thing for %s: take %s (common practice).", strings.ReplaceAll(s.function, "-", " "), s.words))
		}
	}
	if len(c.Reasons) > 0 {
		c.Figure = Findings(len(c.Reasons))
		return c
	}
	c.Reasons = []Finding{{Text: "No rule of the trade is broken, and light, water treatment, way and fire have a second. Local rules and makers' instructions go first."}}
	return c
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
