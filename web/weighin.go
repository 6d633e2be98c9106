package web

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/core/weigh"
	"tornister/standin/scale"
	"tornister/web/draw"
)

// weighView is the step Weigh in.
type weighView struct {
	Dial         template.HTML
	HasScale     bool
	Simulated    bool
	Load, Fault  string // of the simulated scale
	Faults       []option
	Tare         string
	What, Scales []option
	Unit         string
	Typed, Error string
	Readings     []readingRow
	Notes        []noteRow
	Suspects     []suspectRow
	Questions    []askRow
	Harness      []string
	Walker       template.HTML
	Share        string
}

type readingRow struct {
	At, Place                          int
	What, Read, Sum, Diff, Errors, Odd string
	State                              string
}

type noteRow struct{ State, Text string }

type suspectRow struct{ Key, Name, Was, Now, Moved, GiveOrTake string }

// askRow is a question about the packed pack, with what is predicted.
type askRow struct {
	Key, Asks, Predicted string
	Answers              []option
	Figure               string // of the fill line
	Unit                 string
	Differs              bool
}

// dialMostG is what the drawn dial goes up to.
const dialMostG = 30_000.0

// scaleWords name the scales.
var scaleWords = []option{{Value: "hanging", Label: "hanging scale, 50 g steps"},
	{Value: "person", Label: "person scale, with and without"}, {Value: "kitchen", Label: "kitchen scale, 1 g steps"}}

func (s *Server) showWeigh(c *gin.Context) {
	s.show(c, func(t *trip) { s.renderWeigh(c, t, http.StatusOK, "") })
}

func (s *Server) renderWeigh(c *gin.Context, t *trip, status int, wrong string) {
	p := t.shell("weigh", "Weigh in")
	v := &weighView{Dial: draw.Dial(dialMostG, t.system), HasScale: s.options.Scale.URL != "",
		Simulated: s.options.Scale.Simulated, Error: wrong,
		Load: c.DefaultQuery("load", "pack"), Scales: options(scaleWords, c.PostForm("scale")),
		Unit: unitsOf(t.system).mass, Typed: c.PostForm("g")}
	for _, f := range scale.Faults {
		v.Faults = append(v.Faults, option{string(f), faultWords[f], string(f) == c.Query("fault")})
	}
	v.Fault = c.Query("fault")
	if tare := s.held.tareOf(t.ID); tare != 0 {
		v.Tare = t.system.Mass(tare)
	}
	v.What = options(t.whatToWeigh(), c.PostForm("what"))
	verdict := v.against(t)
	v.questions(t)
	v.puttingOn(t)
	v.torso(t)
	p.Headline, p.Detail = weighedWords(t, verdict)
	p.Body = v
	s.render(c, status, p)
}

var faultWords = map[scale.Fault]string{scale.None: "nothing wrong", scale.BadLift: "a hand still helps",
	scale.Zero: "its zero is off", scale.Ground: "a strap touches the ground",
	scale.Pounds: "switched to pounds", scale.Overload: "overloaded", scale.Silent: "falls silent",
	scale.Rubbish: "rubbish on the line", scale.Negative: "less than nothing"}

// whatToWeigh offers what may be on the scale: the pack, its parts that come out together, each thing.
func (t *trip) whatToWeigh() []option {
	list := []option{{"pack", "the whole pack", false}, {"dry", "the things without food, fuel and water", false}}
	for _, b := range t.judged.Barriers.Used {
		list = append(list, option{"bag:" + b.Bag.ID, "what is in the " + unit.Small(b.Bag.Name), false})
	}
	items := t.task().Items
	for _, name := range kit.Sections {
		n := 0
		for i := range items {
			if items[i].Carry == kit.Pack && items[i].Section() == name {
				n++
			}
		}
		if n > 1 {
			list = append(list, option{"section:" + string(name), fmt.Sprintf("%s, all %d lines", unit.Small(string(name)), n),
				false})
		}
	}
	for i := range items {
		if items[i].Carry == kit.Pack {
			list = append(list, option{"item:" + items[i].ID, items[i].Name, false})
		}
	}
	return list
}

// weighable resolves what was on the scale: "pack", or ids.
func (t *trip) weighable(what string) (any, bool) {
	kind, name, _ := strings.Cut(what, ":")
	var ids []any
	items := t.task().Items
	for i := range items {
		it := &items[i]
		in := false
		switch kind {
		case "dry":
			in = it.Consumable == ""
		case "section":
			in = string(it.Section()) == name
		case "item":
			in = it.ID == name
		case "bag":
			for _, b := range t.judged.Barriers.Used {
				in = in || b.Bag.ID == name && slices.ContainsFunc(b.Things, func(p kit.Piece) bool { return p.ID == it.ID })
			}
		}
		if in && it.Carry == kit.Pack {
			ids = append(ids, it.ID)
		}
	}
	if kind == "pack" {
		return "pack", true
	}
	return ids, len(ids) > 0
}

// bagsG is what the dry bags in use weigh, by the plan.
func (t *trip) bagsG() float64 {
	placed := t.task().Pack.MassG
	for i := range t.plan.Placed {
		placed += t.plan.Placed[i].Piece.MassG
	}
	return max(0, t.judged.Balance.MassG-placed)
}

// onTheScale is what the readings say of the list, found once a request.
func (t *trip) onTheScale() *bundle.Weighed {
	if t.scale == nil {
		t.scale = t.bundle.Weighed(t.bagsG())
	}
	return t.scale
}

// against sets the readings against the list.
func (v *weighView) against(t *trip) *weigh.Verdict {
	weighed := t.onTheScale()
	things, readings, gone, verdict := weighed.Things, weighed.Readings, weighed.Gone, weighed.Verdict
	kept := t.Doc.Weighings()
	names := map[string]string{bundle.PackLine: t.task().Pack.Name + ", empty"}
	for i := range t.task().Items {
		names[t.task().Items[i].ID] = t.task().Items[i].Name
	}
	for i, r := range readings {
		told := verdict.Told[i]
		row := readingRow{At: i, Place: i + 1, What: weighedNames(&kept[i], names), Read: t.system.Mass(r.G),
			Sum: t.system.Mass(told.SumG), Diff: signed(t.system.Mass, told.DiffG),
			Errors: fmt.Sprintf("%.1f", math.Abs(told.Errors())), State: "settled"}
		switch {
		case math.Abs(told.Errors()) > weigh.Beyond:
			row.State = "stop"
		case math.Abs(told.Errors()) > 2:
			row.State = "look"
		}
		switch r.Odd {
		case weigh.BadLift:
			row.Odd, row.State = "too little: a hand helped, or a strap touched the ground", "stop"
		case weigh.Pulled:
			row.Odd, row.State = "too much: it swung, or was pulled", "stop"
		}
		v.Readings = append(v.Readings, row)
	}
	if gone > 0 {
		v.Notes = append(v.Notes, noteRow{"look",
			fmt.Sprintf("%s of things that are not on the list any more; they are left out of it.",
				unit.Capital(count(gone, "reading")))})
	}
	if zero := weigh.ZeroOff(weigh.Hanging, verdict.Told); zero != 0 {
		v.Notes = append(v.Notes, noteRow{"stop",
			fmt.Sprintf("All readings lie %s from the list by about the same: the scale's zero may be off. Weigh the empty hook, and take it as tare.", signed(t.system.Mass, zero))})
	} else if verdict.Foreign != 0 {
		more := "Something is on the scale that is not on the list, or the scale is off"
		if verdict.Foreign < 0 {
			more = "Something is on the list and not in the pack, or the scale is off"
		}
		if !kept[verdict.At].Whole() {
			more = "Something of it weighs other than the list says, or is not on the list"
		}
		v.Notes = append(v.Notes, noteRow{"stop",
			fmt.Sprintf("%s: reading %d lies %s from what the list and the other readings explain.", more, verdict.At+1,
				signed(t.system.Mass, verdict.Foreign))})
	}
	for i, s := range verdict.Suspects {
		if i == 6 {
			break
		}
		thing := things[s.Thing]
		v.Suspects = append(v.Suspects,
			suspectRow{thing.ID, names[thing.ID], t.system.Mass(thing.MassG), t.system.Mass(verdict.Masses.Mean[s.Thing]),
				signed(t.system.Mass, s.MovedG), t.system.Mass(s.SdG)})
	}
	return verdict
}

func weighedNames(w *bundle.Weighing, names map[string]string) string {
	if w.Whole() {
		return "the whole pack"
	}
	ids := w.Items()
	if len(ids) == 1 {
		if name := names[ids[0]]; name != "" {
			return name
		}
		return "a thing that is gone"
	}
	return count(len(ids), "line")
}

// signed prints a difference with its sign.
func signed(print func(float64) string, v float64) string {
	if v < 0 {
		return "−" + print(-v)
	}
	return "+" + print(v)
}

// weighedWords are the step's headline and the line under it.
func weighedWords(t *trip, v *weigh.Verdict) (headline, detail string) {
	sum := t.task().Pack.MassG + t.bagsG()
	for i := range t.task().Items {
		if it := &t.task().Items[i]; it.Carry == kit.Pack {
			sum += it.TotalG()
		}
	}
	detail = "Hang the pack on the scale, or type what any scale says. What is weighed is set against the list, and a difference is traced to whom it can come from."
	if len(v.Told) == 0 {
		return fmt.Sprintf("The list says %s on the back.", t.system.Mass(sum)), detail
	}
	worst := 0.0
	for i, told := range v.Told {
		if v.Odd[i] != weigh.Good {
			continue
		}
		worst = max(worst, math.Abs(told.Errors()))
	}
	partly := v.At >= 0 && !t.Doc.Weighings()[v.At].Whole()
	switch {
	case partly:
		return "A part of the list is off.", detail
	case v.Foreign > 0:
		return fmt.Sprintf("%s is on the scale that the list does not know.", t.system.Mass(v.Foreign)), detail
	case v.Foreign < 0:
		return fmt.Sprintf("%s of the list is not on the scale.", t.system.Mass(-v.Foreign)), detail
	case worst > weigh.Beyond:
		return "A part of the list is off; the rest of it goes together.", detail
	}
	return "Scale and list agree, as well as either is known.", detail
}

// addWeighing keeps a reading: what the scale has settled at, or what was typed.
func (s *Server) addWeighing(c *gin.Context) {
	s.show(c, func(t *trip) {
		refused := func(text string) { s.renderWeigh(c, t, http.StatusUnprocessableEntity, text) }
		what, known := t.weighable(c.PostForm("what"))
		if !known {
			refused("Say what was on the scale.")
			return
		}
		w := bundle.Weighing{At: time.Now().Format("2006-01-02T15:04:05"), Scale: weigh.Scale(c.PostForm("scale")),
			What: what}
		if c.PostForm("from") == "scale" {
			g, ok := s.held.net(t.ID)
			if !ok {
				refused("Nothing was taken: the needle has not settled. Wait until it hangs still.")
				return
			}
			w.Scale, w.G = weigh.Hanging, g
		} else {
			g, err := unit.Mass(c.PostForm("g"), unitsOf(t.system).mass)
			switch {
			case err != nil:
				refused("Nothing was taken: " + strings.TrimPrefix(err.Error(), unit.ErrQuantity.Error()+": ") + ".")
				return
			case g < 0:
				refused("Nothing was taken: a weight cannot be negative. Take the empty hook as tare.")
				return
			case g > 90_000:
				refused(fmt.Sprintf("Nothing was taken: %s is more than anybody carries. Was it in another unit?",
					t.system.Mass(g)))
				return
			}
			w.G = roundTo(g, 1)
		}
		if !slices.Contains(weigh.Scales, w.Scale) {
			w.Scale = weigh.Hanging
		}
		s.change(c, "weigh "+t.system.Mass(w.G), func(doc bundle.Doc) error { return doc.AddWeighing(w) }, s.weighAgain(c))
	})
}

func (s *Server) weighAgain(c *gin.Context) func(bundle.Problems, bool) {
	return func(problems bundle.Problems, stale bool) {
		s.show(c, func(t *trip) {
			if stale {
				s.renderWeigh(c, t, http.StatusConflict, staleNotice().Text)
				return
			}
			s.renderWeigh(c, t, http.StatusUnprocessableEntity, mendOf(problems))
		})
	}
}

// removeWeighing forgets a reading.
func (s *Server) removeWeighing(c *gin.Context) {
	at, err := strconv.Atoi(c.Param("at"))
	if err != nil {
		s.missing(c)
		return
	}
	s.change(c, "forget a reading", func(doc bundle.Doc) error { return doc.RemoveWeighing(at) }, s.weighAgain(c))
}

// takeMasses takes corrected masses over: of one line, or of all that moved.
func (s *Server) takeMasses(c *gin.Context) {
	only := c.PostForm("item")
	s.show(c, func(t *trip) {
		bagsG := t.bagsG()
		s.change(c, "take the scale's weights", func(doc bundle.Doc) error {
			b, err := bundle.FromDoc(doc)
			if err != nil {
				return err
			}
			v := b.Weighed(bagsG)
			for _, suspect := range v.Suspects {
				id := v.Things[suspect.Thing].ID
				if id == bundle.PackLine || only != "" && id != only {
					continue
				}
				mean, sd := v.Masses.Mean[suspect.Thing], suspect.SdG
				err := doc.EditItem(id, func(item map[string]any) error {
					n := 1.0
					if whole, err := bundle.CompleteItem(item); err == nil {
						n = float64(max(1, whole.Count))
					}
					item["mass_g"] = bundle.Number(roundTo(max(0, mean)/n, 1))
					delete(item, "mass_guess")
					item["mass_from"] = string(weigh.Label)
					if sd < 0.02*mean {
						item["mass_from"] = string(weigh.Weighed)
					}
					own(item)
					return nil
				})
				if err != nil {
					return err
				}
			}
			return nil
		}, s.weighAgain(c))
	})
}

// weighed says how the step stands.
func (t *trip) weighed() (state, word string) {
	if len(t.Doc.Weighings()) == 0 {
		return "", "not weighed yet"
	}
	v := t.onTheScale()
	if v.Foreign != 0 {
		return "stop", "not as listed"
	}
	return "settled", count(len(v.Readings), "reading")
}
