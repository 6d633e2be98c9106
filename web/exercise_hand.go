package web

import (
	"cmp"
	"fmt"
	"html/template"
	"maps"
	"net/url"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/practice"
	"tornister/core/unit"
	"tornister/web/draw"
	"tornister/words"
)

// loadingView is a pack that is loaded by hand.
type loadingView struct {
	Drawing  template.HTML
	Out      []outRow
	In       []inRow
	Zones    []answerButton
	Lanes    []option
	Of       int
	Finished bool
	Trial    *trialView
	Advice   handAdvice
	Dearer   string
}

// outRow is a thing beside the pack; it is chosen before it is put in.
type outRow struct {
	Href, Key, Name, Mass string
	Swatch                template.HTML
	Chosen                bool
}

// inRow is a thing that is in, in its turn.
type inRow struct {
	Turn            int
	Key, Name, Zone string
}

// pieces are what a hand puts into the pack of an exercise, that is all that the plan has in.
func (e *exercise) pieces() []kit.Piece {
	return slices.DeleteFunc(e.good.handPieces(), func(p kit.Piece) bool {
		zone, in := e.state.From.ZoneOf(p)
		return !in || zone == ""
	})
}

// laned is the task of the exercise with the lanes that a hand has chosen, in the place of pins.
func (e *exercise) laned() *job.Task {
	task := e.bundle.Task
	task.Pins = nil
	for _, spot := range e.state.Order {
		if lane := e.state.Lanes[keyOfSpot(spot)]; lane != job.Full {
			task.Pins = append(task.Pins, job.Pin{Item: spot.Item, Piece: spot.Piece, Zone: spot.Zone, Lane: lane})
		}
	}
	return &task
}

func keyOfSpot(s job.Spot) string { return fmt.Sprintf("%s:%d", s.Item, s.Piece) }

// loaded is the pack as a hand has packed it by now.
func (s *Server) loaded(e *exercise) *handFound {
	key := fmt.Sprint("exercise", e.ID, e.state.Order, e.state.Lanes)
	return s.hands.of(key, func() *handFound {
		options := s.planner.Quickly()
		options.Like = e.state.Lays
		judged, price := practice.Judge(e.laned(), e.state.Order, options)
		return &handFound{judged: judged, misfit: price.Misfit, cost: price.Cost()}
	})
}

func (s *Server) loadingView(c *gin.Context, e *exercise) *loadingView {
	found := s.loaded(e)
	now := e.asTrip(found.judged, e.good.system)
	shown := *found.judged.Plan
	shown.LeftOut = nil // what is beside the pack has its list
	scene := now.scene(look{plane: -1}, now.system)
	scene.Plan = &shown
	v := &loadingView{Finished: e.Ended != nil, Drawing: draw.Cutaway(scene).SVG}
	pieces := e.pieces()
	v.Of = len(pieces)
	for turn, spot := range e.state.Order {
		i := slices.IndexFunc(pieces, spot.Of)
		if i < 0 {
			continue
		}
		v.In = append(v.In, inRow{turn + 1, pieces[i].Key(), words.Piece(pieces[i]), e.bundle.Task.Pack.Zone(spot.Zone).Name})
		pieces = slices.Delete(pieces, i, i+1)
	}
	for _, p := range pieces {
		row := outRow{Key: p.Key(), Name: words.Piece(p), Mass: e.good.system.Mass(p.MassG), Chosen: p.Key() == cmp.Or(c.PostForm("thing"), c.Query("thing")),
			Href: exerciseHref(e.ID) + "?" + url.Values{"thing": {p.Key()}}.Encode(), Swatch: draw.SwatchFor(p.Use.When)}
		v.Out = append(v.Out, row)
	}
	for i := range e.bundle.Task.Pack.Zones {
		z := &e.bundle.Task.Pack.Zones[i]
		v.Zones = append(v.Zones, answerButton{z.ID, z.Name, letter(i)})
	}
	v.Lanes = laneWords
	if !v.Finished {
		return v
	}
	v.Trial = beside(e.good, now)
	if len(v.Out) == 0 {
		v.Dearer = dearer(found.cost - e.spoiled.GoodS)
	}
	key := fmt.Sprint("exercise ", e.ID)
	v.Advice = s.advise(key, exerciseHref(e.ID)+"?advice=1", e.good, e.laned(), e.state.Order, c.Query("advice") != "")
	return v
}

// loadByHand puts a thing in or takes it out, or ends the exercise. What does not go in stays beside the pack, and that
// is told.
func (s *Server) loadByHand(c *gin.Context, e *exercise) *notice {
	st := &e.state
	switch {
	case st.Since == nil:
		return nil
	case c.PostForm("do") == "done":
		s.end(e, len(st.Order), len(e.pieces()), practice.Compare(e.spoiled.Good, s.loaded(e).judged))
		return nil
	}
	pieces := e.pieces()
	i := slices.IndexFunc(pieces, func(p kit.Piece) bool { return p.Key() == cmp.Or(c.PostForm("take"), c.PostForm("thing")) })
	zone := e.bundle.Task.Pack.Zone(c.PostForm("zone"))
	if i < 0 || zone == nil && c.PostForm("take") == "" {
		return &notice{Kind: "wrong", Text: "Choose what goes in next, and then where."}
	}
	rest := slices.DeleteFunc(slices.Clone(st.Order), func(o job.Spot) bool { return o.Of(pieces[i]) })
	if c.PostForm("take") != "" {
		st.Order = rest
		return nil
	}
	before := *st
	spot := job.At(pieces[i], zone.ID)
	st.Order, st.Lanes = append(rest, spot), maps.Clone(st.Lanes)
	if st.Lanes == nil {
		st.Lanes = map[string]job.Lane{}
	}
	if st.Lanes[keyOfSpot(spot)] = laneOf(c.PostForm("lane")); !zone.Solid() {
		delete(st.Lanes, keyOfSpot(spot))
	}
	if misfit := s.loaded(e).misfit; len(misfit) > 0 {
		*st = before
		return &notice{Kind: "wrong", Text: e.misfitWords(pieces[i], zone.Name, misfit)}
	}
	return nil
}

// laneOf reads a lane; what is none is anywhere.
func laneOf(word string) job.Lane {
	if slices.ContainsFunc(laneWords, func(o option) bool { return o.Value == word }) {
		return job.Lane(word)
	}
	return job.Full
}

// misfitWords say what does not go in when a thing is put into a zone.
func (e *exercise) misfitWords(piece kit.Piece, zone string, misfit []job.Spot) string {
	if slices.ContainsFunc(misfit, func(o job.Spot) bool { return o.Of(piece) }) {
		return fmt.Sprintf("%s does not go in there (%s) as it is packed. It stays beside the pack: choose another zone, or take something out first.",
			words.Piece(piece), unit.Small(zone))
	}
	for _, p := range e.pieces() {
		if misfit[0].Of(p) {
			return fmt.Sprintf("With %s in there (%s), %s does not go in any more. Nothing was changed.", unit.Small(words.Piece(piece)),
				unit.Small(zone), unit.Small(words.Piece(p)))
		}
	}
	return "That does not go in. Nothing was changed."
}
