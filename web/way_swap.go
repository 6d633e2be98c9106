package web

import (
	"cmp"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/days"
	"tornister/core/kit"
)

// swapView is what is left and taken up where a leg ends, and what can be.
type swapView struct {
	Leg               int
	Leaves, Takes     []option
	CanLeave, CanTake []option
}

// namesOfIDs are the names of things, as many as a line takes.
func (t *trip) namesOfIDs(ids []string) string {
	var pieces []kit.Piece
	for _, id := range ids {
		if i := t.index(id); i >= 0 {
			pieces = append(pieces, kit.Piece{Item: &t.task().Items[i], Number: 1})
		}
	}
	return namesOf(pieces, 6)
}

// swap leaves a thing where a leg ends or takes one up there, or takes that back.
func (s *Server) swap(c *gin.Context) {
	leg, _ := strconv.Atoi(c.PostForm("leg"))
	does := map[string]string{"leave": "leaves", "take": "takes"}
	name := s.nameOf(c, c.PostForm("thing"))
	label := map[string]string{"leave": "leave " + name + " on the way", "take": "take " + name + " up on the way"}[c.PostForm("do")]
	s.change(c, cmp.Or(label, name+" stays as it was"), func(doc bundle.Doc) error {
		legs, _ := doc.Object("trip")["legs"].([]any)
		if leg < 1 || leg > len(legs) {
			return bundle.Problems{{Pointer: "/trip/legs", What: "the trip has no such leg any more", Mend: "look at the way anew"}}
		}
		thing := c.PostForm("thing")
		if err := doc.EditItem(thing, func(map[string]any) error { return nil }); err != nil { // it has to be on the list
			return err
		}
		object, _ := legs[leg-1].(map[string]any)
		for do, key := range does {
			var ids []any
			if list, ok := object[key].([]any); ok {
				ids = slices.DeleteFunc(slices.Clone(list), func(id any) bool { return id == thing })
			}
			if c.PostForm("do") == do {
				ids = append(ids, thing)
			}
			setList(object, key, ids)
		}
		return nil
	}, func(problems bundle.Problems, stale bool) {
		told := staleNotice()
		if !stale {
			told = &notice{Kind: "wrong", Text: mendOf(problems)}
		}
		s.wayPage(c, http.StatusUnprocessableEntity, told)
	})
}

// swapView is what changes hands at a stop where a leg ends, but the last.
func (t *trip) swapView(stop *days.Stop, last bool) *swapView {
	legs := t.task().Trip.Legs
	if stop.Leg == 0 || last || stop.Leg > len(legs) {
		return nil
	}
	leg := &legs[stop.Leg-1]
	v := &swapView{Leg: stop.Leg, CanLeave: []option{{Label: "a thing"}}, CanTake: []option{{Label: "a thing"}}}
	left := map[string]bool{} // by now
	for _, before := range legs[:stop.Leg] {
		for _, id := range before.Leaves {
			left[id] = true
		}
	}
	carried := map[string]bool{}
	for i := range stop.Task.Items {
		if it := &stop.Task.Items[i]; it.Carry == kit.Pack {
			carried[it.ID] = true
		}
	}
	for i := range t.task().Items {
		it := &t.task().Items[i]
		one := option{Value: it.ID, Label: it.Name}
		switch {
		case slices.Contains(leg.Leaves, it.ID):
			v.Leaves = append(v.Leaves, one)
		case carried[it.ID]:
			if !slices.Contains(leg.Takes, it.ID) {
				v.CanLeave = append(v.CanLeave, one)
			}
		case !slices.Contains(leg.Takes, it.ID) && (it.Carry == kit.Left || left[it.ID]):
			v.CanTake = append(v.CanTake, one)
		}
		if slices.Contains(leg.Takes, it.ID) {
			v.Takes = append(v.Takes, one)
		}
	}
	return v
}
