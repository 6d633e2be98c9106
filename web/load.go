package web

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
)

// loadView is the drawing, the order of loading by zone, and what can be done with the chosen thing.
type loadView struct {
	Drawing   template.HTML
	Small     template.HTML
	SmallHref string
	Legend    []draw.Swatch
	LeftOut   []leftOutView
	Broken    []string
	Zones     []zoneView
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
	Details                  []string
	Item                     string
	Piece, Position          int
	Zones                    []option
	Earlier, Later           int // places to move to, 0 when there is none
	Zone                     string
}

type leftOutView struct{ Name, Href, Why, Least string }

type questionView struct {
	Key, Asks string
	Answers   []option
}

// showLoad is the step Load.
func (s *Server) showLoad(c *gin.Context) {
	s.show(c, func(t *trip) {
		s.render(c, http.StatusOK, s.loadPage(t, lookOf(c), settingsOf(c).Units))
	})
}

// look is what somebody has before their eyes on the Load page: the thing chosen and the view that is large.
type look struct{ thing, view string }

func lookOf(c *gin.Context) look { return look{c.Query("thing"), c.Query("view")} }

// href is the Load page with another thing or view.
func (l look) href(trip uint, thing, view string) string {
	query := url.Values{}
	if thing != "" {
		query.Set("thing", thing)
	}
	if view != "" && view != string(draw.FromSide) {
		query.Set("view", view)
	}
	address := fmt.Sprintf("/trips/%d/load", trip)
	if len(query) > 0 {
		address += "?" + query.Encode()
	}
	return address
}

func (s *Server) loadPage(t *trip, look look, system unit.System) page {
	p := t.shell("load", "Load")
	thing := look.thing
	item, _, _ := strings.Cut(thing, ":")
	p.Headline = verdict.Sentence(t.answer.Verdict, len(t.answer.LeftOut))
	p.Detail = fmt.Sprintf("%s in the %s. Heavy things: %s. Figured from litres and dimensions, not yet tried in the solid.",
		verdict.Things(len(t.plan.Placed)), strings.ToLower(t.task().Pack.Name[:1])+t.task().Pack.Name[1:], answerName("heavy", t.task().Method))
	view := &loadView{Legend: draw.Legend(), Empty: len(t.task().Items) == 0}
	scene := draw.Scene{Pack: &t.task().Pack, Plan: t.plan, Chosen: item, View: draw.View(look.view), System: system, Name: placementName}
	view.Drawing = draw.Cutaway(scene)
	scene.View = draw.Other(scene.View)
	view.Small, view.SmallHref = draw.Small(scene), look.href(t.ID, look.thing, string(scene.View))
	for _, l := range t.plan.LeftOut {
		view.LeftOut = append(view.LeftOut, leftOutView{pieceName(l.Piece.Name, l.Piece.Count, l.Piece.Number), fmt.Sprintf("/trips/%d/layout?item=%s", t.ID, l.Piece.ID), l.Why, l.LeastChange})
	}
	for _, b := range t.plan.Broken {
		view.Broken = append(view.Broken, b.Why)
	}
	view.Zones = t.zoneViews(look, system)
	for _, q := range method.Questions {
		qv := questionView{Key: q.Key, Asks: q.Asks}
		for _, a := range q.Answers {
			qv.Answers = append(qv.Answers, option{a.Value, a.Name, a.Value == t.task().Method.Answer(q.Key)})
		}
		view.Questions = append(view.Questions, qv)
	}
	p.Body = view
	return p
}

func answerName(key string, m method.Method) string {
	for _, q := range method.Questions {
		for _, a := range q.Answers {
			if q.Key == key && a.Value == m.Answer(key) {
				return a.Name
			}
		}
	}
	return ""
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
	key := p.Piece.ID
	if p.Piece.Count > 1 {
		key = fmt.Sprintf("%s:%d", key, p.Piece.Number)
	}
	v := orderView{Step: step, Thing: key, Href: look.href(t.ID, key, look.view), Name: placementName(p), Item: p.Piece.ID, Position: position,
		Swatch: draw.SwatchFor(p.Piece.Use.When), When: draw.WhenName(p.Piece.Use.When), Nested: p.Inside != "", Pinned: p.Pinned,
		IsChosen: key == look.thing, Place: string(p.Lane), Zone: p.Zone.ID}
	if p.Piece.Count > 1 {
		v.Piece = p.Piece.Number
	}
	for _, r := range p.Reasons {
		v.Details = append(v.Details, sentence(r.Text))
	}
	if len(p.Reasons) > 0 {
		v.Reason = p.Reasons[len(p.Reasons)-1].Text
	}
	if v.IsChosen {
		for i := range t.task().Pack.Zones {
			z := &t.task().Pack.Zones[i]
			v.Zones = append(v.Zones, option{z.ID, z.Name, z == p.Zone})
		}
	}
	return v
}

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

func placementName(p *load.Placement) string {
	return pieceName(p.Piece.Name, p.Piece.Count, p.Piece.Number)
}

func pieceName(name string, count, number int) string {
	if count > 1 {
		return fmt.Sprintf("%s, %d of %d", name, number, count)
	}
	return name
}

// pin sets or takes out the packer's wish for a thing.
func (s *Server) pin(c *gin.Context) {
	piece, _ := strconv.Atoi(c.PostForm("piece"))
	place, _ := strconv.Atoi(c.PostForm("place"))
	item, zone := c.PostForm("item"), c.PostForm("zone")
	label := "pin " + s.nameOf(c, item)
	if zone == "" && place == 0 {
		label = "unpin " + s.nameOf(c, item)
	}
	s.change(c, label, func(doc bundle.Doc) error {
		doc.Pin(item, piece, zone, place)
		return nil
	}, func(problems bundle.Problems, stale bool) { s.loadAgain(c, problems, stale) })
}

// chooseMethod changes the answer to one of the schools' questions.
func (s *Server) chooseMethod(c *gin.Context) {
	key, value := c.PostForm("key"), c.PostForm("value")
	s.change(c, "pack by "+value, func(doc bundle.Doc) error {
		doc.Object("method")[key] = value
		return nil
	}, func(problems bundle.Problems, stale bool) { s.loadAgain(c, problems, stale) })
}

// loadAgain shows Load after a refusal.
func (s *Server) loadAgain(c *gin.Context, problems bundle.Problems, stale bool) {
	s.show(c, func(t *trip) {
		p := s.loadPage(t, look{}, settingsOf(c).Units)
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
