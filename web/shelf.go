package web

import (
	"cmp"
	"errors"
	"fmt"
	_ "image/gif"
	_ "image/png"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/store"
)

// shelfView is everything one owns or lends.
type shelfView struct {
	Words    string
	Sections []option
	Statuses []option
	Groups   []shelfGroup
	Trips    []option
	Thing    *thingView
	Count    int
}

type shelfGroup struct {
	Name string
	Rows []shelfRow
}

type shelfRow struct {
	Key, Name, Mass, Litres, Status, Note, Trips, Href string
	State                                              string
	Chosen                                             bool
}

// thingView is one thing of the shelf with what is asked of it there.
type thingView struct {
	Key, Name, Trips       string
	Version                int
	Status                 []option
	Holder, Instead        field
	NameField, Mass        field
	Expires, Carried, Used field
	HasPhoto               bool
	Alternatives           []string
	Summary                string
}

var statusWords = []option{{Value: "", Label: "here"}, {Value: "lent", Label: "lent out"},
	{Value: "retired", Label: "retired"}}

func (s *Server) showShelf(c *gin.Context) { s.renderShelf(c, http.StatusOK, "", nil, nil) }

func (s *Server) showThing(c *gin.Context) {
	s.renderShelf(c, http.StatusOK, c.Param("thing"), nil, nil)
}

func (s *Server) renderShelf(c *gin.Context, status int, chosen string, told *notice, r *reading) {
	system := settingsOf(c).Units
	q := store.Query{Words: clip(c.Query("q"), 100), Section: c.Query("section"), Status: c.Query("status")}
	things, err := s.store.Things(c.Request.Context(), q)
	if err != nil {
		s.refuse(c, err)
		return
	}
	v := &shelfView{Words: q.Words, Count: len(things),
		Statuses: options([]option{{Value: "", Label: "everything"}, {Value: "here", Label: "here"},
			{Value: "lent", Label: "lent out"}, {Value: "retired", Label: "retired"}, {Value: "dated", Label: "with a date"}},
			q.Status)}
	v.Sections = append(v.Sections, option{"", "all sections", q.Section == ""})
	for _, g := range kit.Groups {
		v.Sections = append(v.Sections, option{g, unit.Capital(g), q.Section == g})
	}
	today := time.Now().Format(time.DateOnly)
	for _, thing := range things {
		it, err := bundle.CompleteItem(thing.Object)
		if err != nil {
			s.refuse(c, err)
			return
		}
		row := shelfRow{Key: thing.Key, Name: thing.Name, Mass: system.Mass(it.MassG), Litres: litresOf(it, system),
			Status: string(thing.Status), Trips: strings.Join(thing.Trips, ", "), Chosen: thing.Key == chosen,
			Href: "/shelf/" + thing.Key + queryOf(c)}
		switch {
		case thing.Status == store.Lent:
			row.State, row.Note = "look", strings.TrimSuffix("lent out to "+thing.Holder, " to ")
		case thing.Status == store.Retired:
			row.Note = "retired"
		case it.OutOfDate(today):
			row.State, row.Note = "stop", "out of date since "+it.Expires
		case it.Expires != "":
			row.Note = "good until " + it.Expires
		}
		name := unit.Capital(thing.Section)
		if n := len(v.Groups); n == 0 || v.Groups[n-1].Name != name {
			v.Groups = append(v.Groups, shelfGroup{Name: name})
		}
		group := &v.Groups[len(v.Groups)-1]
		group.Rows = append(group.Rows, row)
		if row.Chosen {
			v.Thing = newThingView(thing, it, things, system)
		}
	}
	if chosen != "" && v.Thing == nil { // filtered away, or gone
		thing, err := s.store.Thing(c.Request.Context(), chosen)
		if err != nil {
			s.refuse(c, err)
			return
		}
		it, err := bundle.CompleteItem(thing.Object)
		if err != nil {
			s.refuse(c, err)
			return
		}
		v.Thing = newThingView(thing, it, things, system)
	}
	if r != nil && v.Thing != nil {
		v.Thing.keep(r)
	}
	trips, err := s.store.Trips(c.Request.Context())
	if err != nil {
		s.refuse(c, err)
		return
	}
	for _, trip := range trips {
		v.Trips = append(v.Trips, option{fmt.Sprint(trip.ID), trip.Name, false})
	}
	headline := fmt.Sprintf("%s on the shelf.", unit.Capital(count(len(things), "thing")))
	if q != (store.Query{}) {
		headline = fmt.Sprintf("%s of the shelf shown.", unit.Capital(count(len(things), "thing")))
	}
	s.render(c, status, page{Title: "Shelf", Name: "shelf", Headline: headline,
		Detail: "What you own or lend. A thing measured once is known on every trip.", Notice: told, Body: v})
}

func clip(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most])
	}
	return text
}

// queryOf is the filter of the page, to be kept by its links.
func queryOf(c *gin.Context) string {
	keep := url.Values{}
	for _, key := range []string{"q", "section", "status"} {
		if v := c.Query(key); v != "" {
			keep.Set(key, v)
		}
	}
	if len(keep) == 0 {
		return ""
	}
	return "?" + keep.Encode()
}

func newThingView(t store.ShelfThing, it *kit.Item, all []store.ShelfThing, system unit.System) *thingView {
	u := unitsOf(system)
	v := &thingView{Key: t.Key, Name: t.Name, Version: t.Version, Trips: strings.Join(t.Trips, ", "),
		Status: options(statusWords, string(t.Status)), HasPhoto: t.HasPhoto,
		NameField: field{Name: "name", Label: "Name", Value: t.Name},
		Mass:      field{Name: "mass", Label: "Weight of one", Unit: u.mass, Value: inUnit(it.MassG, u.mass, unit.Ounce)},
		Holder:    field{Name: "holder", Label: "Who has it", Value: t.Holder},
		Instead:   field{Name: "instead", Label: "One of these alternatives", Value: t.Instead},
		Expires:   field{Name: "expires", Label: "Good until", Value: it.Expires},
		Carried:   field{Name: "carried", Label: "Trips carried", Value: orEmpty(float64(it.History.Carried), "", 1)},
		Used:      field{Name: "used", Label: "of them used", Value: orEmpty(float64(it.History.Used), "", 1)}}
	v.Summary = fmt.Sprintf("%s, %s, %s.", system.Mass(it.MassG), litresOf(it, system),
		labelFor(sourceWords, string(it.Measured)))
	for _, o := range all {
		if t.Instead != "" && o.Instead == t.Instead && o.Key != t.Key {
			v.Alternatives = append(v.Alternatives, o.Name)
		}
	}
	return v
}

func (v *thingView) keep(r *reading) {
	for _, f := range []*field{&v.NameField, &v.Mass, &v.Holder, &v.Instead, &v.Expires, &v.Carried, &v.Used} {
		if value, given := r.c.GetPostForm(f.Name); given {
			f.Value = value
		}
		f.Error = r.wrong[f.Name]
	}
}

// saveThing takes the form of a thing.
func (s *Server) saveThing(c *gin.Context) {
	key := c.Param("thing")
	r := readForm(c, settingsOf(c).Units)
	mass := r.quantity("mass", unit.Mass, unitsOf(r.system).mass)
	if r.text("name") == "" {
		r.wrong["name"] = "give it a name"
	}
	history := map[string]any{}
	for _, name := range []string{"carried", "used"} {
		if r.text(name) != "" {
			history[name] = bundle.Number(r.plain(name))
		}
	}
	var err error
	if len(r.wrong) == 0 {
		err = s.store.ChangeThing(c.Request.Context(), key, formVersion(c), func(t *store.ShelfThing) error {
			before, err := bundle.CompleteItem(t.Object)
			if err != nil {
				return err
			}
			t.Status, t.Holder = store.Status(r.text("status")), clip(r.text("holder"), 100)
			alternatives(t, r.text("instead"))
			if !slices.Contains([]store.Status{store.Here, store.Lent, store.Retired}, t.Status) {
				return bundle.Problems{{Pointer: "/status", What: "there is no such place for a thing",
					Mend: "choose here, lent out or retired"}}
			}
			t.Object["name"] = r.text("name")
			if c.PostForm("mass") != inUnit(before.MassG, unitsOf(r.system).mass, unit.Ounce) {
				t.Object["mass_g"] = bundle.Number(roundTo(mass, 3))
				delete(t.Object, "mass_guess")
			}
			delete(t.Object, "expires")
			if v := r.text("expires"); v != "" {
				t.Object["expires"] = v
			}
			delete(t.Object, "history")
			if len(history) > 0 {
				t.Object["history"] = history
			}
			return nil
		})
	}
	s.answerThing(c, err, r)
}

// alternatives names the things that can stand for one another; "" takes the thing out of them.
func alternatives(t *store.ShelfThing, name string) {
	delete(t.Object, "instead")
	if name != "" {
		t.Object["instead"] = clip(name, 60)
	}
}

// answerThing goes back to the thing, or shows it again with what is wrong.
func (s *Server) answerThing(c *gin.Context, err error, r *reading) {
	var problems bundle.Problems
	key := c.Param("thing")
	switch {
	case err == nil && len(r.wrong) == 0:
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/shelf/"+key))
		return
	case errors.Is(err, store.ErrStale):
		s.renderShelf(c, http.StatusConflict, key,
			&notice{Kind: "wrong", Text: "The thing was changed in another window in the meantime; nothing of it was overwritten. What you entered is still in the form: save it again if you still want it."}, r)
		return
	case errors.As(err, &problems):
		byKey := map[string]string{"/mass_g": "mass", "/name": "name", "/expires": "expires", "/history/carried": "carried",
			"/history/used": "used"}
		told := &notice{Kind: "wrong", Text: "Not saved yet: see the marked fields."}
		for _, p := range problems {
			if name := byKey[p.Pointer]; name != "" {
				r.wrong[name] = p.What + "; " + p.Mend
			} else {
				told.Text = "Not saved: " + p.What + "; " + p.Mend + "."
			}
		}
		s.renderShelf(c, http.StatusUnprocessableEntity, key, told, r)
		return
	case err != nil:
		s.refuse(c, err)
		return
	}
	s.renderShelf(c, http.StatusUnprocessableEntity, key,
		&notice{Kind: "wrong", Text: "Not saved yet: see the marked fields."}, r)
}

// addThing puts typed things on the shelf.
func (s *Server) addThing(c *gin.Context) {
	all, err := s.understand(c, c.PostForm("lines"))
	var objects []map[string]any
	for _, t := range all {
		if t.err != nil && err == nil {
			err = fmt.Errorf("%s: %w", t.line, t.err)
		}
		if t.item != nil {
			objects = append(objects, t.item)
		}
	}
	if err == nil && len(objects) == 0 {
		err = errors.New("type what it is, then what you know of it: down bag 950 g 7 l")
	}
	if err != nil {
		s.renderShelf(c, http.StatusUnprocessableEntity, "",
			&notice{Kind: "wrong", Text: "Nothing was put on the shelf: " + err.Error() + "."}, nil)
		return
	}
	keys, err := s.store.AddThings(c.Request.Context(), objects)
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/shelf/"+keys[0])
}

// bulkShelf makes one change to all ticked things, or takes them along on a trip.
func (s *Server) bulkShelf(c *gin.Context) {
	keys := c.PostFormArray("keys")
	wrong := func(text string) {
		s.renderShelf(c, http.StatusUnprocessableEntity, "", &notice{Kind: "wrong", Text: text}, nil)
	}
	if len(keys) == 0 {
		wrong("Tick the things first, then say what to do with them.")
		return
	}
	var err error
	switch do := c.PostForm("do"); do {
	case "here", "lent", "retired":
		status := store.Status(strings.TrimSuffix(do, "here"))
		err = s.store.BulkThings(c.Request.Context(), keys, func(t *store.ShelfThing) { t.Status = status })
	case "section":
		section := c.PostForm("section")
		if !slices.Contains(kit.Groups, section) {
			wrong("Choose a section for them.")
			return
		}
		err = s.store.BulkThings(c.Request.Context(), keys, func(t *store.ShelfThing) { t.Object["group"] = section })
	case "instead":
		name := strings.TrimSpace(c.PostForm("instead"))
		err = s.store.BulkThings(c.Request.Context(), keys, func(t *store.ShelfThing) { alternatives(t, name) })
	case "along":
		s.takeAlong(c, keys)
		return
	default:
		wrong("Say what to do with the ticked things.")
		return
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/shelf"+queryOf(c))
}

// takeAlong puts things of the shelf on a trip's list.
func (s *Server) takeAlong(c *gin.Context, keys []string) {
	var id uint
	if _, err := fmt.Sscan(c.PostForm("trip"), &id); err != nil {
		s.renderShelf(c, http.StatusUnprocessableEntity, "",
			&notice{Kind: "wrong", Text: "Choose the trip that they go on."}, nil)
		return
	}
	version, err := s.store.Version(c.Request.Context(), id)
	if err != nil {
		s.refuse(c, err)
		return
	}
	last, err := s.store.HowLast(c.Request.Context(), keys)
	if err != nil {
		s.refuse(c, err)
		return
	}
	var objects []map[string]any
	for _, key := range keys {
		thing, err := s.store.Thing(c.Request.Context(), key)
		if err != nil {
			s.refuse(c, err)
			return
		}
		objects = append(objects, bundle.Again(thing.Object, last[key]))
	}
	err = s.store.Change(c.Request.Context(), id, version, "take along "+count(len(objects), "thing"),
		func(doc bundle.Doc) error {
			items := doc.List("items")
			on := map[any]map[string]any{}
			for _, item := range items {
				on[item["shelf"]] = item
			}
			for _, object := range objects {
				if item := on[object["shelf"]]; item != nil { // already on the list: if it was left, it comes along now
					if item["carry"] == "left" {
						item["carry"] = "pack"
					}
					continue
				}
				name, _ := object["name"].(string)
				object["id"] = doc.FreshID(cmp.Or(name, "thing"))
				items = append(items, object)
				doc.SetItems(items)
			}
			return nil
		})
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/layout", id))
}

func (s *Server) removeThing(c *gin.Context) {
	err := s.store.RemoveThing(c.Request.Context(), c.Param("thing"), formVersion(c))
	if errors.Is(err, store.ErrStale) {
		s.answerThing(c, err, readForm(c, settingsOf(c).Units))
		return
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/shelf")
}
