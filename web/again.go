package web

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/store"
)

// again begins a trip like this one: the same pack, kit, bags, pins and way of packing, and dates as long as these
// were, from the next day on if they are over. What follows the trip is worked out anew.
func (s *Server) again(c *gin.Context) {
	id, err := tripID(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	state, err := s.store.Trip(c.Request.Context(), id)
	if err != nil {
		s.refuse(c, err)
		return
	}
	doc := state.Doc.Clone()
	trip := doc.Object("trip")
	trip["name"] = fmt.Sprintf("%s, again", state.Doc.Name())
	moveDates(trip, time.Now())
	for _, key := range []string{"look_back", "seen", "weighings"} { // these are of the trip that is over
		delete(doc, key)
	}
	if err := doc.PartyAgain(); err != nil {
		s.refuse(c, err)
		return
	}
	s.beginWith(c, doc, "trip")
}

// moveDates moves a trip that is over by whole weeks, so that it begins on the same day of the week in the future.
func moveDates(trip map[string]any, now time.Time) {
	start, _ := trip["start"].(string)
	end, _ := trip["end"].(string)
	for _, layout := range []string{"2006-01-02T15:04:05", "2006-01-02T15:04", "2006-01-02"} {
		from, err := time.Parse(layout, start)
		if err != nil {
			continue
		}
		days := 0
		for !from.AddDate(0, 0, days).After(now) {
			days += 7
		}
		trip["start"] = from.AddDate(0, 0, days).Format(layout)
		if to, err := time.Parse(layout, end); err == nil {
			trip["end"] = to.AddDate(0, 0, days).Format(layout)
		}
		if days > 0 {
			delete(trip, "forecast")
		}
		return
	}
}

// packOptions are the packs that a trip can change to, the one it has first.
func (s *Server) packOptions(c *gin.Context, t *trip) []option {
	choices, err := s.packChoices(c)
	if err != nil {
		return nil
	}
	pack := &t.task().Pack
	list := []option{{"", pack.Name + ", as it is", true}}
	for _, p := range choices {
		list = append(list, option{p.Value, p.Label, false})
	}
	return list
}

// usePack takes a pack of the shelf on a trip.
func (s *Server) usePack(c *gin.Context) {
	owned, err := s.store.PackOf(c.Request.Context(), c.Param("pack"))
	if err != nil {
		s.refuse(c, err)
		return
	}
	id, err := strconv.ParseUint(c.PostForm("trip"), 10, 32)
	if err != nil {
		s.renderPack(c, owned, http.StatusUnprocessableEntity,
			&notice{Kind: "wrong", Text: "Choose the trip that takes it."}, nil)
		return
	}
	err = s.store.Change(c.Request.Context(), uint(id), store.AnyVersion, "take the "+owned.Name,
		func(doc bundle.Doc) error {
			doc.SetPack(owned.Object)
			return nil
		})
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/load", id))
}

// bulkItems makes one change to all ticked lines of a trip.
func (s *Server) bulkItems(c *gin.Context) {
	keys := c.PostFormArray("items")
	refused := func(text string) {
		s.layoutAgain(c, "", nil, bundle.Problems{{Pointer: "/items", What: text,
			Mend: "tick lines of the list first, then say what to do with them"}}, false)
	}
	if len(keys) == 0 {
		refused("nothing is ticked")
		return
	}
	do := c.PostForm("do")
	var edit func(doc bundle.Doc, key string) error
	label := ""
	onItem := func(key string, value any) {
		edit = func(doc bundle.Doc, id string) error {
			return doc.EditItem(id, func(item map[string]any) error { item[key] = value; return nil })
		}
	}
	switch {
	case slices.ContainsFunc(carryWords, func(o option) bool { return o.Value == do }):
		label = labelFor(carryWords, do)
		onItem("carry", do)
	case slices.Contains(kit.Groups, do):
		label = unit.Capital(do)
		onItem("group", do)
	case do == "remove":
		label = "remove"
		edit = removeLine
	case do == "shelf":
		id, err := tripID(c)
		if err == nil {
			_, err = s.store.Shelve(c.Request.Context(), id, formVersion(c), keys)
		}
		s.answer(c, err, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
		return
	default:
		refused("it is not said what to do")
		return
	}
	s.change(c, fmt.Sprintf("%s: %s", label, count(len(keys), "line")), func(doc bundle.Doc) error {
		for _, key := range keys {
			if err := edit(doc, key); err != nil {
				return err
			}
		}
		return nil
	}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
}

// bulkOptions are what can be done to ticked lines.
func bulkOptions() []option {
	list := []option{{"", "choose", true}}
	list = append(list, carryWords...)
	list = append(list, option{"shelf", "put on the shelf", false}, option{"remove", "take off the list", false})
	for _, g := range kit.Groups {
		list = append(list, option{g, "section " + g, false})
	}
	return list
}
