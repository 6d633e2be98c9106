package web

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/web/draw"
	"tornister/words"
)

// loadView is the drawing, the order of loading by zone, and what can be done with the chosen thing.
type loadView struct {
	Drawing template.HTML
	Missed  []string
	Others  []viewLink
	Colours []linkView

	Plane               int // of the section, in hundredths
	PlaneBack, PlaneOn  string
	View, Thing, Colour string
	Start, Before, Next string // of playing
	Whole               string
	Upto, Steps         int
	Now                 string

	Presets   []option
	Legend    []draw.Swatch
	LeftOut   []leftOutView
	Broken    []string
	Zones     []zoneView
	NotKept   []string // choices of the school that the plan does not follow
	Questions []questionView
	Empty     bool
}

type zoneView struct {
	Name, State, Litres string
	Percent             int
	Order               []orderView
}

// orderView is a step of the loading order. Chosen ones carry their actions.
type orderView struct {
	Step                     int
	Thing, Href              string
	Name, Place, Reason      string
	Swatch                   template.HTML
	When                     string
	Nested, Pinned, IsChosen bool
	Deep                     bool // in something that lies in something
	Details                  []string
	Item                     string
	Piece, Position          int
	Zones, Lanes             []option
	Earlier, Later           int // places to move to, 0 when there is none
	Zone                     string
	Roll                     string // a liner that is rolled shut after it
}

type viewLink struct {
	Href string
	SVG  template.HTML
	Name string
}

type linkView struct {
	Href, Word string
	Chosen     bool
}

type leftOutView struct{ Name, Href, Guess, Why, Least string }

type questionView struct {
	Key, Asks, Says string
	Answers         []option
}

// showLoad is the step Load.
func (s *Server) showLoad(c *gin.Context) {
	s.show(c, func(t *trip) {
		p := s.loadPage(t, lookOf(c), settingsOf(c).Units)
		p.Packs = s.packOptions(c, t)
		s.render(c, http.StatusOK, p)
	})
}

// look is what somebody has before their eyes on the Load page: the thing chosen, the large view, where its section
// lies (in hundredths of the way through the pack, -1 for the usual place), how far the loading is played, and what
// the colours mean.
type look struct {
	thing, view, colour string
	plane, upto         int
}

func lookOf(c *gin.Context) look {
	l := look{thing: c.Query("thing"), view: c.Query("view"), colour: c.Query("colour"), plane: -1}
	if n, err := strconv.Atoi(c.Query("plane")); err == nil && n >= 0 && n <= 100 {
		l.plane = n
	}
	if n, err := strconv.Atoi(c.Query("upto")); err == nil && n > 0 {
		l.upto = n
	}
	return l
}

// href is the Load page as it would look.
func (l look) href(trip uint) string {
	query := url.Values{}
	set := func(key, value string, usual bool) {
		if !usual {
			query.Set(key, value)
		}
	}
	set("thing", l.thing, l.thing == "")
	set("view", l.view, l.view == "" || l.view == string(draw.FromSide))
	set("colour", l.colour, l.colour == "" || l.colour == string(draw.ByNeed))
	set("plane", strconv.Itoa(l.plane), l.plane < 0)
	set("upto", strconv.Itoa(l.upto), l.upto == 0)
	address := fmt.Sprintf("/trips/%d/load", trip)
	if len(query) > 0 {
		address += "?" + query.Encode()
	}
	return address
}

func (l look) withThing(thing string) look { l.thing = thing; return l }

func (l look) withView(view draw.View) look {
	l.view, l.plane = string(view), -1
	return l
}

func (l look) withPlane(plane int) look { l.plane = min(100, max(0, plane)); return l }

func (l look) withUpto(upto int) look { l.upto = upto; return l }

func (l look) withColour(colour draw.Colour) look { l.colour = string(colour); return l }

// scene is what there is to draw of a trip.
func (t *trip) scene(l look, system unit.System) draw.Scene {
	item, _, _ := strings.Cut(l.thing, ":")
	plane := -1.0
	if l.plane >= 0 {
		plane = float64(l.plane) / 100
	}
	b := t.answer.Balance
	shoulder := t.task().Pack.ShoulderCm()
	barriers := t.judged.Barriers
	return draw.Scene{Pack: &t.task().Pack, Plan: t.plan, Chosen: item, View: draw.ViewOf(l.view), Plane: plane,
		Upto: l.upto, Colour: draw.Colour(l.colour),
		Balance: draw.Balance{Centre: b.CentreCm, Low: b.Band[0] * shoulder, High: b.Band[1] * shoulder},
		Rolls:   t.judged.Rolls, Bags: barriers.ByPiece(), System: system, Name: placementName}
}

func (s *Server) loadPage(t *trip, look look, system unit.System) page {
	p := t.shell("load", "Load")
	p.Headline = t.sentence()
	p.Detail = t.loadDetail()
	steps := len(t.plan.Placed)
	look.upto = min(look.upto, steps)
	if look.upto > 0 {
		look.thing = thingKey(&t.plan.Placed[look.upto-1])
	}
	view := &loadView{Legend: draw.Legend(draw.Colour(look.colour), system), Empty: len(t.task().Items) == 0}
	view.drawings(t, look, system)
	view.controls(t, look, steps)
	for _, l := range t.plan.LeftOut {
		view.LeftOut = append(view.LeftOut,
			leftOutView{words.Piece(l.Piece), fmt.Sprintf("/trips/%d/layout?item=%s", t.ID, l.Piece.ID),
				words.Say(l.Guess(), t.system), words.Say(l.Why, t.system), words.Say(l.LeastChange, t.system)})
	}
	for _, b := range t.plan.Broken {
		view.Broken = append(view.Broken, words.Say(b.Why, t.system))
	}
	view.Zones = t.zoneViews(look, system)
	says := map[string]string{}
	for _, n := range t.answer.NotKept {
		says[n.Question] = words.NotKept(n.Why, n.Would)
		if len(n.Items) > 0 && !t.searching() { // a first answer is not held against anybody
			view.NotKept = append(view.NotKept,
				fmt.Sprintf("%s: %s. %s", words.Asks(n.Question), words.School(n.Question, n.Answer), says[n.Question]))
		}
	}
	for _, q := range method.Questions {
		qv := questionView{Key: q.Key, Asks: words.Asks(q.Key)}
		for _, a := range q.Answers {
			qv.Answers = append(qv.Answers, option{a, words.School(q.Key, a), a == t.task().Method.Answer(q.Key)})
		}
		qv.Says = says[q.Key]
		view.Questions = append(view.Questions, qv)
	}
	for _, preset := range method.Presets {
		view.Presets = append(view.Presets, option{preset.ID, words.Preset(preset.ID).Name, preset.Method == t.task().Method})
	}
	p.Body = view
	return p
}

// mostMissed is how many names of what a cut does not meet stand beside it; all of them are in the list of the order.
const mostMissed = 9

// drawings fills in the large view and the links to the others.
func (v *loadView) drawings(t *trip, look look, system unit.System) {
	drawing := draw.Cutaway(t.scene(look, system))
	v.Drawing, v.Missed = drawing.SVG, drawing.Missed
	v.Plane = int(100*drawing.Plane + 0.5)
	if n := len(v.Missed) - mostMissed; n > 1 {
		v.Missed = append(v.Missed[:mostMissed:mostMissed], fmt.Sprintf("and %d more", n))
	}
	now := draw.ViewOf(look.view)
	for _, other := range draw.Views {
		if other == now {
			continue
		}
		next := look.withView(other)
		v.Others = append(v.Others, viewLink{next.href(t.ID), draw.Small(t.scene(next, system)), string(other)})
	}
	for _, c := range []struct {
		colour draw.Colour
		word   string
	}{{draw.ByNeed, "when needed"}, {draw.ByWeight, "weight"}, {draw.ByDry, "dryness"}} {
		chosen := look.colour == string(c.colour) || look.colour == "" && c.colour == draw.ByNeed
		v.Colours = append(v.Colours, linkView{look.withColour(c.colour).href(t.ID), c.word, chosen})
	}
}

// controls fills in where the section and the playing can go.
func (v *loadView) controls(t *trip, look look, steps int) {
	v.View, v.Thing, v.Colour = look.view, look.thing, look.colour
	v.PlaneBack, v.PlaneOn = look.withPlane(v.Plane-4).href(t.ID), look.withPlane(v.Plane+4).href(t.ID)
	v.Whole = look.withUpto(0).withThing("").href(t.ID)
	v.Start = look.withUpto(1).withThing("").href(t.ID)
	v.Steps = steps
	if v.Upto = look.upto; v.Upto > 0 {
		p := &t.plan.Placed[v.Upto-1]
		v.Now = fmt.Sprintf("%d of %d: %s, %s.", v.Upto, steps, placementName(p), unit.Small(p.Zone.Name))
		if len(p.Reasons) > 0 {
			v.Now += " " + sentence(words.Say(p.Reasons[len(p.Reasons)-1].Fact, t.system))
		}
		v.Before = look.withUpto(max(1, v.Upto-1)).withThing("").href(t.ID)
		if v.Upto < steps {
			v.Next = look.withUpto(v.Upto + 1).withThing("").href(t.ID)
		}
	}
}

// zoneViews groups the order by zone, in the order in which the zones are filled.
func (t *trip) zoneViews(look look, system unit.System) []zoneView {
	var list []zoneView
	var last *rucksack.Zone
	position := 0
	for i := range t.plan.Placed {
		p := &t.plan.Placed[i]
		if p.Zone != last {
			list = append(list, t.zoneView(p.Zone, system))
			last, position = p.Zone, 0
		}
		if p.Inside == "" {
			position++
		}
		zone := &list[len(list)-1]
		zone.Order = append(zone.Order, t.orderView(p, i+1, position, look))
	}
	for z := range list {
		offerMoves(list[z].Order)
	}
	return list
}

func (t *trip) zoneView(z *rucksack.Zone, system unit.System) zoneView {
	v := zoneView{Name: z.Name}
	for i := range t.plan.Zones {
		f := &t.plan.Zones[i]
		if f.Zone != z {
			continue
		}
		v.State = string(f.State)
		held := f.NeedLooseL + f.Squeeze*(f.NeedTightL-f.NeedLooseL)
		v.Litres = fmt.Sprintf("%s of %s", system.Volume(held), system.Volume(f.CapacityL))
		if z.Kind == rucksack.Bottom && t.plan.Open {
			v.Litres = system.Volume(held) + ", open above"
		}
		if z.Kind == rucksack.Straps {
			v.Litres, v.State = system.Mass(f.MassG)+" outside", ""
		}
		if f.CapacityL > 0 {
			v.Percent = int(100 * min(1, held/f.CapacityL))
		}
	}
	return v
}

func (t *trip) orderView(p *load.Placement, step, position int, look look) orderView {
	key := thingKey(p)
	v := orderView{Step: step, Thing: key, Href: look.withThing(key).withUpto(0).href(t.ID), Name: placementName(p),
		Item: p.Piece.ID, Position: position,
		Swatch: draw.SwatchOf(draw.Colour(look.colour), p.Piece.Item), When: draw.WhenName(p.Piece.Use.When),
		Nested: p.Inside != "", Deep: len(t.plan.Around(step-1)) > 1, Pinned: p.Pinned,
		IsChosen: key == look.thing, Place: string(p.Lane), Zone: p.Zone.ID}
	if p.Piece.Count > 1 {
		v.Piece = p.Piece.Number
	}
	for _, r := range t.judged.Rolls {
		if r.After == step-1 {
			v.Roll = fmt.Sprintf("Roll the %s shut at %s.", unit.Small(r.Bag.Name), t.system.Length(math.Round(r.Cm)))
		}
	}
	if step == len(t.plan.Placed) {
		v.Roll = strings.TrimSpace(v.Roll + " " + t.answer.Closing)
	}
	if p.OutCm > 0 {
		v.Details = append(v.Details, fmt.Sprintf("It stands %s out of the pocket.", t.system.Length(math.Round(p.OutCm))))
	}
	for _, r := range p.Reasons {
		v.Details = append(v.Details, sentence(words.Say(r.Fact, t.system)))
	}
	if step <= len(t.answer.Load) && p.Inside == "" {
		l := t.answer.Load[step-1]
		v.Details = append(v.Details,
			fmt.Sprintf("To hand in %.0f s, %s to lift out.", l.ReachS,
				strings.Replace(words.Things(l.LiftedOut), "0 things", "nothing", 1)))
		if len(p.Over) > 0 {
			v.Details = append(v.Details, "In its way: "+namesOf(p.Over, 6)+".")
		}
		if len(p.Beside) > 0 {
			v.Details = append(v.Details, "Beside it: "+namesOf(p.Beside, 6)+".")
		}
	}
	if len(p.Reasons) > 0 {
		v.Reason = words.Say(p.Reasons[len(p.Reasons)-1].Fact, t.system)
	}
	if v.IsChosen {
		for i := range t.task().Pack.Zones {
			z := &t.task().Pack.Zones[i]
			v.Zones = append(v.Zones, option{z.ID, z.Name, z == p.Zone})
		}
		if p.Zone.Solid() {
			lane := job.Full
			if pin := t.task().PinFor(p.Piece); pin != nil {
				lane = pin.Lane
			}
			v.Lanes = options(laneWords, string(lane))
		}
	}
	return v
}

// namesOf lists the names of pieces, as many as a line takes.
func namesOf(pieces []kit.Piece, most int) string {
	var names []string
	for i, p := range pieces {
		if i == most {
			return fmt.Sprintf("%s and %d more", strings.Join(names, ", "), len(pieces)-most)
		}
		names = append(names, words.Piece(p))
	}
	return strings.Join(names, ", ")
}

// thingKey names a piece in an address.
func thingKey(p *load.Placement) string { return p.Piece.Key() }

func pieceKey(p *load.Placement) string { return fmt.Sprintf("%s:%d", p.Piece.ID, p.Piece.Number) }

var laneWords = []option{{Value: "", Label: "anywhere"}, {Value: "back", Label: "at the spine"},
	{Value: "front", Label: "to the front"}, {Value: "left", Label: "left"}, {Value: "right", Label: "right"}}

// offerMoves says where the chosen thing of a zone can go in the order.
func offerMoves(order []orderView) {
	last := 0
	for i := range order {
		last = max(last, order[i].Position)
	}
	for i := range order {
		if o := &order[i]; !o.Nested {
			o.Earlier = o.Position - 1
			if o.Position < last {
				o.Later = o.Position + 1
			}
		}
	}
}

func placementName(p *load.Placement) string { return words.Piece(p.Piece) }

// pin sets or takes out the packer's wish for a thing.
func (s *Server) pin(c *gin.Context) {
	piece, _ := strconv.Atoi(c.PostForm("piece"))
	place, _ := strconv.Atoi(c.PostForm("place"))
	item, zone, lane := c.PostForm("item"), c.PostForm("zone"), job.Lane(c.PostForm("lane"))
	label := "pin " + s.nameOf(c, item)
	if zone == "" && place == 0 && lane == job.Full {
		label = "unpin " + s.nameOf(c, item)
	}
	s.change(c, label, func(doc bundle.Doc) error {
		doc.Pin(job.Pin{Item: item, Piece: piece, Zone: zone, Lane: lane, Place: place})
		return nil
	}, func(problems bundle.Problems, stale bool) { s.loadAgain(c, problems, stale) })
}

// chooseMethod changes the answer to one of the schools' questions.
func (s *Server) chooseMethod(c *gin.Context) {
	key, value := c.PostForm("key"), c.PostForm("value")
	label := words.School(key, value)
	if label == "" {
		label = value
	}
	s.change(c, "way of packing: "+label, func(doc bundle.Doc) error {
		doc.Object("method")[key] = value
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) { s.loadAgain(c, problems, stale) })
}

// loadAgain shows Load after a refusal.
func (s *Server) loadAgain(c *gin.Context, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		p := s.loadPage(t, look{plane: -1}, settingsOf(c).Units)
		status := http.StatusUnprocessableEntity
		if stale {
			status, p.Notice = http.StatusConflict, staleNotice()
		}
		for _, problem := range problems {
			p.Notice = &notice{Kind: "wrong", Text: "Not done: " + problem.What + "; " + problem.Mend + "."}
		}
		p.Here = localPath(c.PostForm("return"), "/")
		s.render(c, status, p)
	})
}
