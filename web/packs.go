package web

import (
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/demo"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// packChoice is a pack that a trip can take: one of the shelf, or a generic one.
type packChoice struct {
	Value, Label, Name string
	Chosen             bool
	object             map[string]any
	owned              bool
}

// packChoices lists the packs of the shelf first, then the generic ones.
func (s *Server) packChoices(c *gin.Context) ([]packChoice, error) {
	owned, err := s.store.Packs(c.Request.Context())
	if err != nil {
		return nil, err
	}
	system := settingsOf(c).Units
	var list []packChoice
	for _, p := range owned {
		list = append(list, packChoice{Value: "shelf:" + p.Key, Name: p.Name, Label: p.Name + ", on your shelf",
			object: p.Object, owned: true})
	}
	for _, p := range demo.Packs() {
		var object map[string]any
		decoder := json.NewDecoder(strings.NewReader(string(p.JSON)))
		decoder.UseNumber()
		if err := decoder.Decode(&object); err != nil {
			return nil, fmt.Errorf("generic pack %s: %w", p.ID, err)
		}
		list = append(list, packChoice{Value: "generic:" + p.ID, Name: p.Name,
			Label: fmt.Sprintf("%s, %s, generic", p.Name, system.Mass(p.MassG)), object: object})
	}
	return list, nil
}

// choosePack puts the trip's kit into another pack.
func (s *Server) choosePack(c *gin.Context) {
	if c.PostForm("pack") == "" { // as it is
		s.answer(c, nil, nil)
		return
	}
	choices, err := s.packChoices(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	i := slices.IndexFunc(choices, func(p packChoice) bool { return p.Value == c.PostForm("pack") })
	if i < 0 {
		s.shrinkAgain(c, bundle.Problems{{Pointer: "/pack", What: "there is no such pack on the shelf any more",
			Mend: "choose one of the list"}}, false)
		return
	}
	s.change(c, "take the "+choices[i].Name, func(doc bundle.Doc) error {
		doc.SetPack(choices[i].object)
		return nil
	}, func(problems bundle.Problems, stale bool) { s.shrinkAgain(c, problems, stale) })
}

// packsView is the page of all packs.
type packsView struct{ Owned, Generic []packRow }

type packRow struct {
	Href, Value, Name, Litres, Mass, Zones string
	Drawing                                template.HTML
}

func (s *Server) showPacks(c *gin.Context) { s.renderPacks(c, http.StatusOK, nil) }

func (s *Server) renderPacks(c *gin.Context, status int, told *notice) {
	choices, err := s.packChoices(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	system := settingsOf(c).Units
	v := &packsView{}
	for _, choice := range choices {
		pack, err := bundle.CheckPack(choice.object)
		if err != nil {
			s.refuse(c, err)
			return
		}
		row := packRow{Value: choice.Value, Name: choice.Name, Litres: system.Volume(pack.StatedL()),
			Mass: system.Mass(pack.MassG), Zones: count(len(pack.Zones), "zone")}
		if choice.owned {
			row.Href = "/packs/" + strings.TrimPrefix(choice.Value, "shelf:")
			v.Owned = append(v.Owned, row)
		} else {
			v.Generic = append(v.Generic, row)
		}
	}
	s.render(c, status, page{Title: "Packs", Name: "packs",
		Headline: fmt.Sprintf("%s of your own, %d generic.", unit.Capital(count(len(v.Owned), "pack")), len(v.Generic)),
		Detail:   "A pack is a set of zones. Measure yours once; every trip that takes it follows.", Notice: told, Body: v})
}

// addPack puts a copy of a generic pack on the shelf, to be measured.
func (s *Server) addPack(c *gin.Context) {
	choices, err := s.packChoices(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	i := slices.IndexFunc(choices, func(p packChoice) bool { return p.Value == c.PostForm("pack") })
	if i < 0 {
		s.renderPacks(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: "Choose a pack to begin with."})
		return
	}
	object := choices[i].object
	if name := strings.TrimSpace(c.PostForm("name")); name != "" {
		object["name"] = name
	} else {
		object["name"] = "My " + unit.Small(choices[i].Name)
	}
	key, err := s.store.AddPack(c.Request.Context(), object)
	var problems bundle.Problems
	if errors.As(err, &problems) {
		s.renderPacks(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: mendOf(problems)})
		return
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/packs/"+key)
}

// packView is the editor of one pack.
type packView struct {
	Key            string
	Version        int
	Drawing        template.HTML
	Head           []field
	Frame          []option
	Zones          []zoneRow
	Findings       []findingRow
	Zone           *zoneForm
	Kinds          []option
	Trips          []option // that could take it
	Stated, Height string
}

type zoneRow struct {
	ID, Href, Name, Kind, Size, Litres, Reach, Weather string
	Chosen                                             bool
}

type findingRow struct{ State, Text string }

// zoneForm is the form of a zone.
type zoneForm struct {
	ID                                         string
	Name                                       field
	Kind, Side, Face, Weather, Reach           []option
	Across, Deep, High, Litres, Stretch        field
	Collar, Mouth, Most                        field
	Share                                      field
	Draws                                      []option
	Solid, Straps, Sided, Counted, Rescue, Box bool
	Top, Front, Divider                        bool
}

var (
	kindWords = []option{{Value: "body", Label: "body"}, {Value: "bottom", Label: "bottom compartment"},
		{Value: "lid", Label: "lid pocket"}, {Value: "front", Label: "front pocket"}, {Value: "side", Label: "side pocket"},
		{Value: "sleeve", Label: "sleeve at the back"}, {Value: "hip", Label: "hip-belt pocket"},
		{Value: "shoulder", Label: "shoulder-strap pocket"}, {Value: "inner", Label: "inner pocket"},
		{Value: "long", Label: "long narrow sleeve"}, {Value: "straps", Label: "straps outside"}}
	sideWords = []option{{Value: "", Label: "neither"}, {Value: "left", Label: "left"},
		{Value: "right", Label: "right"}}
	faceWords = []option{{Value: "front", Label: "on the front"}, {Value: "bottom", Label: "below"},
		{Value: "top", Label: "over the top"}, {Value: "side", Label: "at the side"}}
	weatherWords = []option{{Value: "sealed", Label: "sealed"}, {Value: "covered", Label: "covered"},
		{Value: "open", Label: "open mesh or none"}}
	reachWords = []option{{Value: "walking", Label: "while walking"}, {Value: "swing", Label: "pack swung round"},
		{Value: "off", Label: "pack off"}, {Value: "open", Label: "pack opened up"}}
	frameWords = []option{{Value: "internal", Label: "inside"}, {Value: "external", Label: "outside"},
		{Value: "none", Label: "none"}}
)

func labelFor(from []option, value string) string {
	for _, o := range from {
		if o.Value == value {
			return o.Label
		}
	}
	return value
}

func (s *Server) showPack(c *gin.Context) {
	owned, err := s.store.PackOf(c.Request.Context(), c.Param("pack"))
	if err != nil {
		s.refuse(c, err)
		return
	}
	s.renderPack(c, owned, http.StatusOK, nil, nil)
}

func (s *Server) renderPack(c *gin.Context, owned store.OwnedPack, status int, told *notice, kept *zoneForm) {
	pack, err := bundle.CheckPack(owned.Object)
	if err != nil {
		s.refuse(c, err)
		return
	}
	system := settingsOf(c).Units
	u := unitsOf(system)
	v := &packView{Key: owned.Key, Version: owned.Version, Drawing: draw.Blueprint(pack, c.Query("zone"), system),
		Stated: system.Volume(pack.StatedL()), Height: system.Length(pack.HeightCm()),
		Head: []field{{Name: "name", Label: "Name", Value: pack.Name},
			{Name: "mass", Label: "Weighs, empty", Unit: u.mass, Value: inUnit(pack.MassG, u.mass, unit.Ounce)},
			{Name: "comfort", Label: "Rides well up to", Unit: u.body,
				Value: orEmpty(pack.ComfortLoadG/1000, u.body, unit.Pound/1000)},
			{Name: "torso-from", Label: "For backs from", Unit: u.length,
				Value: orEmpty(pack.TorsoCm[0], u.length, unit.Inch)},
			{Name: "torso-to", Label: "to", Unit: u.length, Value: orEmpty(pack.TorsoCm[1], u.length, unit.Inch)}},
		Frame: options(frameWords, pack.Frame), Kinds: options(kindWords[1:], "")}
	chosen := c.Query("zone")
	if kept != nil {
		chosen = kept.ID
	}
	for i := range pack.Zones {
		z := &pack.Zones[i]
		v.Zones = append(v.Zones, zoneRow{z.ID, fmt.Sprintf("/packs/%s?zone=%s", owned.Key, z.ID), z.Name,
			labelFor(kindWords, string(z.Kind)), system.Size(z.SizeCm[:]...), system.Volume(z.CapacityL()),
			labelFor(reachWords, string(z.Reach)), labelFor(weatherWords, string(z.Weather)), z.ID == chosen})
		if z.ID == chosen {
			v.Zone = newZoneForm(pack, z, system)
		}
	}
	if kept != nil {
		v.Zone = kept
	}
	v.Findings = findingRows(pack, system)
	v.Trips = s.tripOptions(c)
	p := page{Title: pack.Name, Name: "pack",
		Headline: fmt.Sprintf("%s: %s as stated, %s tall, %s.", pack.Name, v.Stated, v.Height, system.Mass(pack.MassG)),
		Detail:   "Choose a zone to measure it. The drawing follows while you type.", Notice: told, Body: v}
	s.render(c, status, p)
}

func findingRows(pack *rucksack.Pack, system unit.System) []findingRow {
	var rows []findingRow
	for _, f := range pack.Sense() {
		name, state := pack.Name, "look"
		if z := pack.Zone(f.Zone); z != nil {
			name = z.Name
		}
		if f.Stop {
			state = "stop"
		}
		rows = append(rows, findingRow{state,
			fmt.Sprintf("%s: %s; %s.", name, words.Say(f.What, system), words.Say(f.Mend, system))})
	}
	return rows
}

func newZoneForm(pack *rucksack.Pack, z *rucksack.Zone, system unit.System) *zoneForm {
	u := unitsOf(system)
	length := func(name, label string, cm float64) field {
		return field{Name: name, Label: label, Unit: u.length, Value: orEmpty(cm, u.length, unit.Inch)}
	}
	litres := func(name, label string, l float64) field {
		return field{Name: name, Label: label, Unit: u.litre, Value: orEmpty(l, u.litre, unit.CubicInch)}
	}
	f := &zoneForm{ID: z.ID, Name: field{Name: "name", Label: "Name", Value: z.Name},
		Kind: options(kindWords, string(z.Kind)), Side: options(sideWords, z.Side), Face: options(faceWords, z.Face),
		Weather: options(weatherWords, string(z.Weather)), Reach: options(reachWords, string(z.Reach)),
		Across: length("across", "Across", z.SizeCm[0]), Deep: length("deep", "Deep", z.SizeCm[1]),
		High:   length("high", "High", z.SizeCm[2]),
		Litres: litres("litres", "Holds", z.VolumeL), Stretch: litres("stretch", "and stretches by", z.StretchL),
		Collar: length("collar", "Collar above", z.CollarCm),
		Mouth:  length("mouth", "Mouth", z.MouthCm),
		Most:   field{Name: "most", Label: "Carries at most", Unit: u.mass, Value: orEmpty(z.MaxMassG, u.mass, unit.Ounce)},
		Share:  field{Name: "share", Label: "of its litres", Unit: "in 100"},
		Draws:  []option{{"", "nothing", z.DrawsOn == nil}},
		Solid:  z.Solid(), Straps: z.Kind == rucksack.Straps,
		Sided: slices.Contains([]rucksack.ZoneKind{rucksack.Side, rucksack.Hip, rucksack.Shoulder, rucksack.Long,
			rucksack.Straps}, z.Kind),
		Counted: z.Counted == nil || *z.Counted, Rescue: z.RescueUse, Box: z.Form == "box",
		Top: slices.Contains(z.Openings, "top"), Front: slices.Contains(z.Openings, "front"),
		Divider: z.Divider == "removable"}
	if z.DrawsOn != nil {
		f.Share.Value = short(z.DrawsOn.Share * 100)
	}
	for i := range pack.Zones {
		if o := &pack.Zones[i]; o.Solid() && o.ID != z.ID {
			f.Draws = append(f.Draws, option{o.ID, unit.Small(o.Name), z.DrawsOn != nil && z.DrawsOn.Zone == o.ID})
		}
	}
	return f
}
