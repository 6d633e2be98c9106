package web

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// changePack edits a pack of the shelf and goes back to its page; a refusal comes back to the form with what was
// entered.
func (s *Server) changePack(c *gin.Context, r *reading, zone string, edit func(object map[string]any) error) {
	key := c.Param("pack")
	var err error
	if len(r.wrong) == 0 {
		err = s.store.ChangePack(c.Request.Context(), key, formVersion(c), func(object map[string]any) error {
			if err := edit(object); err != nil {
				return err
			}
			return sense(object, r.system)
		})
	}
	var problems bundle.Problems
	if err == nil && len(r.wrong) == 0 {
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), "/packs/"+key))
		return
	}
	if err != nil && !errors.As(err, &problems) && !errors.Is(err, store.ErrStale) {
		s.refuse(c, err)
		return
	}
	owned, found := s.store.PackOf(c.Request.Context(), key)
	if found != nil {
		s.refuse(c, found)
		return
	}
	status, told := http.StatusUnprocessableEntity, &notice{Kind: "wrong",
		Text: "Not saved yet: see the marked fields. What you entered is still in them."}
	if errors.Is(err, store.ErrStale) {
		status, told = http.StatusConflict, &notice{Kind: "wrong",
			Text: "The pack was changed in another window in the meantime; nothing of it was overwritten. Do your change again if you still want it."}
	}
	var kept *zoneForm
	if pack, err := bundle.CheckPack(owned.Object); err == nil && pack.Zone(zone) != nil {
		kept = newZoneForm(pack, pack.Zone(zone), r.system)
		if missed := kept.keep(r, problems, owned.Object); missed != "" {
			told.Text = missed
		}
	} else if len(problems) > 0 {
		told.Text = "Not saved: that cannot be a pack."
		for _, p := range problems {
			told.Lines = append(told.Lines, p.What+"; "+p.Mend)
		}
	}
	for field, message := range r.wrong {
		if kept == nil {
			told.Text = fmt.Sprintf("Not saved: %s: %s.", field, message)
		}
	}
	s.renderPack(c, owned, status, told, kept)
}

// sense refuses what cannot be: what a schema cannot say of a pack.
func sense(object map[string]any, system unit.System) error {
	pack, err := bundle.CheckPack(object)
	if err != nil {
		return err
	}
	var problems bundle.Problems
	for _, f := range pack.Sense() {
		if !f.Stop {
			continue
		}
		i := slices.IndexFunc(pack.Zones, func(z rucksack.Zone) bool { return z.ID == f.Zone })
		problems = append(problems, bundle.Problem{Pointer: fmt.Sprintf("/zones/%d/%s", i, f.Field),
			What: words.Say(f.What, system), Mend: words.Say(f.Mend, system)})
	}
	if len(problems) > 0 {
		return problems
	}
	return nil
}

// savePack takes name, mass, frame and comfortable load.
func (s *Server) savePack(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	u := unitsOf(r.system)
	if r.text("name") == "" {
		r.wrong["name"] = "give the pack a name"
	}
	mass := r.quantity("mass", unit.Mass, u.mass)
	comfort, given := r.optional("comfort", unit.Mass, u.body)
	low, from := r.optional("torso-from", unit.Length, u.length)
	high, to := r.optional("torso-to", unit.Length, u.length)
	if from != to {
		r.wrong["torso-from"] = "give both ends of the range, or neither"
	}
	s.changePack(c, r, "", func(object map[string]any) error {
		object["name"], object["frame"], object["mass_g"] = r.text("name"), r.text("frame"), bundle.Number(roundTo(mass, 2))
		delete(object, "torso_cm")
		if from && to {
			object["torso_cm"] = []any{bundle.Number(roundTo(min(low, high), 1)), bundle.Number(roundTo(max(low, high), 1))}
		}
		delete(object, "comfort_load_g")
		if given {
			object["comfort_load_g"] = bundle.Number(roundTo(comfort, 1))
		}
		return nil
	})
}

// saveZone takes the form of one zone.
func (s *Server) saveZone(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	id := c.Param("zone")
	edit := r.zone()
	s.changePack(c, r, id, func(object map[string]any) error { return onZone(object, id, edit) })
}

func onZone(object map[string]any, id string, edit func(zone map[string]any)) error {
	zones, _ := object["zones"].([]any)
	for _, z := range zones {
		if zone, ok := z.(map[string]any); ok && zone["id"] == id {
			edit(zone)
			return nil
		}
	}
	return bundle.Problems{{Pointer: "/zones", What: "the pack has no such zone any more", Mend: "choose one of the list"}}
}

// zone reads the form and gives the edit it asks for.
func (r *reading) zone() func(zone map[string]any) {
	u := unitsOf(r.system)
	type amount struct {
		v     float64
		given bool
	}
	length := func(name string) amount {
		v, ok := r.optional(name, unit.Length, u.length)
		return amount{roundTo(v, 3), ok}
	}
	litres := func(name string) amount {
		v, ok := r.optional(name, unit.Volume, bare(u.litre))
		return amount{roundTo(v, 4), ok}
	}
	sides := [3]amount{length("across"), length("deep"), length("high")}
	for i, name := range []string{"across", "deep", "high"} {
		if !sides[i].given && r.wrong[name] == "" {
			r.wrong[name] = "give a length"
		}
	}
	plain := map[string]amount{"volume_l": litres("litres"), "stretch_l": litres("stretch"),
		"collar_cm": length("collar"), "mouth_cm": length("mouth")}
	most, ok := r.optional("most", unit.Mass, u.mass)
	plain["max_mass_g"] = amount{most, ok}
	share := 1.0
	if r.text("share") != "" {
		share = r.plain("share") / 100
	}
	chosen := map[string]string{"name": r.text("name"), "side": r.text("side"), "face": r.text("face"),
		"weather": r.text("weather"), "reach": r.text("reach")}
	if chosen["name"] == "" {
		r.wrong["name"] = "give the zone a name"
	}
	return func(zone map[string]any) {
		r.follow(zone, [3]float64{sides[0].v, sides[1].v, sides[2].v},
			func(l float64) { plain["volume_l"] = amount{l, true} })
		zone["size_cm"] = []any{bundle.Number(sides[0].v), bundle.Number(sides[1].v), bundle.Number(sides[2].v)}
		for key, a := range plain {
			delete(zone, key)
			if a.given && a.v > 0 {
				zone[key] = bundle.Number(a.v)
			}
		}
		for key, word := range chosen {
			delete(zone, key)
			if word != "" {
				zone[key] = word
			}
		}
		delete(zone, "draws_on")
		if on := r.text("draws"); on != "" {
			zone["draws_on"] = map[string]any{"zone": on, "share": bundle.Number(roundTo(share, 4))}
		}
		delete(zone, "counted")
		kind := zone["kind"]
		if !r.ticked("counted") && kind != "body" && kind != "bottom" && kind != "straps" {
			zone["counted"] = false
		}
		delete(zone, "rescue")
		if r.ticked("rescue") {
			zone["rescue"] = true
		}
		if kind == "body" || kind == "bottom" {
			var openings []any
			for _, o := range []string{"top", "front"} {
				if r.ticked("open-" + o) {
					openings = append(openings, o)
				}
			}
			setList(zone, "openings", openings)
			delete(zone, "form")
			if r.ticked("box") {
				zone["form"] = "box"
			}
		}
		if kind == "bottom" {
			delete(zone, "divider")
			if r.ticked("divider") {
				zone["divider"] = "removable"
			}
		}
	}
}

// follow lets the litres of a zone go with its sides, where somebody changed these and left those alone.
func (r *reading) follow(zone map[string]any, sides [3]float64, set func(litres float64)) {
	old, ok := zone["volume_l"].(json.Number)
	was, _ := zone["size_cm"].([]any)
	if !ok || len(was) != 3 {
		return
	}
	u := unitsOf(r.system)
	litres, _ := old.Float64()
	before, now := 1.0, 1.0
	for i, v := range was {
		n, _ := v.(json.Number)
		side, _ := n.Float64()
		if math.Abs(side-sides[i]) < 0.01 { // as it was, but for the rounding of the form
			sides[i] = side
		}
		before, now = before*side, now*sides[i]
	}
	if before > 0 && now != before && orEmpty(litres, u.litre, unit.CubicInch) == r.text("litres") {
		set(roundTo(litres*now/before, 2))
	}
}

// keep puts what was entered back, each message at its field; what belongs to no field is returned.
func (f *zoneForm) keep(r *reading, problems bundle.Problems, object map[string]any) (other string) {
	zones, _ := object["zones"].([]any)
	at := slices.IndexFunc(zones, func(z any) bool { zone, ok := z.(map[string]any); return ok && zone["id"] == f.ID })
	byKey := map[string]string{"name": "name", "volume_l": "litres", "stretch_l": "stretch", "collar_cm": "collar",
		"mouth_cm": "mouth", "max_mass_g": "most", "draws_on": "share", "draws_on/share": "share", "size_cm/0": "across",
		"size_cm/1": "deep", "size_cm/2": "high", "size_cm": "across"}
	for _, p := range problems {
		said := inReadersUnits(p.What+"; "+p.Mend, r.system)
		if name := byKey[strings.TrimPrefix(p.Pointer, fmt.Sprintf("/zones/%d/", at))]; name != "" {
			r.wrong[name] = said
		} else {
			other = "Not saved: " + said + "."
		}
	}
	for _, field := range []*field{&f.Name, &f.Across, &f.Deep, &f.High, &f.Litres, &f.Stretch, &f.Collar, &f.Mouth,
		&f.Most, &f.Share} {
		if value, given := r.c.GetPostForm(field.Name); given {
			field.Value = value
		}
		field.Error = r.wrong[field.Name]
	}
	return other
}

// drawZone answers with the pack as it would look with what is in the zone's form; nothing is saved.
func (s *Server) drawZone(c *gin.Context) {
	owned, err := s.store.PackOf(c.Request.Context(), c.Param("pack"))
	if err != nil {
		c.Status(http.StatusNotFound)
		return
	}
	r := readForm(c, settingsOf(c).Units)
	edit := r.zone()
	if len(r.wrong) > 0 || onZone(owned.Object, c.Param("zone"), edit) != nil {
		c.Status(http.StatusNoContent) // half a number: the drawing stays as it is
		return
	}
	pack, err := bundle.CheckPack(owned.Object)
	if err != nil {
		c.Status(http.StatusNoContent)
		return
	}
	s.fragment(c, "pack", "drawing",
		packView{Drawing: draw.Blueprint(pack, c.Param("zone"), r.system), Findings: findingRows(pack, r.system)})
}

// addZone puts a zone of a kind on the pack, of a usual size.
func (s *Server) addZone(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	kind := rucksack.ZoneKind(r.text("kind"))
	usual := map[rucksack.ZoneKind]float64{rucksack.Bottom: 9, rucksack.Lid: 4, rucksack.Front: 4, rucksack.Side: 2,
		rucksack.Sleeve: 3, rucksack.Hip: 0.6, rucksack.Shoulder: 0.5, rucksack.Inner: 0.8, rucksack.Long: 1.5,
		rucksack.Straps: 12}[kind]
	if usual == 0 {
		r.wrong["kind"] = "choose what kind of zone it is"
	}
	s.changePack(c, r, "", func(object map[string]any) error {
		zones, _ := object["zones"].([]any)
		taken := map[any]bool{}
		for _, z := range zones {
			if zone, ok := z.(map[string]any); ok {
				taken[zone["id"]] = true
			}
		}
		id := string(kind)
		for n := 2; taken[id]; n++ {
			id = fmt.Sprintf("%s-%d", kind, n)
		}
		size := rucksack.SizeFor(kind, usual)
		zone := map[string]any{"id": id, "kind": string(kind), "name": unit.Capital(labelFor(kindWords, string(kind))),
			"size_cm": []any{bundle.Number(size[0]), bundle.Number(size[1]), bundle.Number(size[2])}}
		if kind != rucksack.Straps {
			zone["volume_l"] = bundle.Number(roundTo(usual*0.97, 2))
		}
		if slices.Contains([]rucksack.ZoneKind{rucksack.Side, rucksack.Hip, rucksack.Shoulder, rucksack.Long}, kind) {
			side := "left"
			for _, z := range zones {
				if o, ok := z.(map[string]any); ok && o["kind"] == string(kind) && cmp.Or(o["side"], "left") == any("left") {
					side = "right"
				}
			}
			zone["side"] = side
		}
		if kind == rucksack.Straps {
			zone["face"] = "front"
		}
		object["zones"] = append(slices.Clone(zones), zone)
		return nil
	})
}

func (s *Server) removeZone(c *gin.Context) {
	id := c.Param("zone")
	s.changePack(c, readForm(c, settingsOf(c).Units), "", func(object map[string]any) error {
		zones, _ := object["zones"].([]any)
		object["zones"] = slices.DeleteFunc(slices.Clone(zones),
			func(z any) bool { zone, ok := z.(map[string]any); return ok && zone["id"] == id })
		return nil
	})
}

func (s *Server) removePack(c *gin.Context) {
	if err := s.store.RemovePack(c.Request.Context(), c.Param("pack"), formVersion(c)); err != nil &&
		!errors.Is(err, store.ErrStale) {
		s.refuse(c, err)
		return
	} else if err != nil {
		s.renderPacks(c, http.StatusConflict,
			&notice{Kind: "wrong", Text: "The pack was changed in another window in the meantime; it is still on the shelf."})
		return
	}
	c.Redirect(http.StatusSeeOther, "/packs")
}
