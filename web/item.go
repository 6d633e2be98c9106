package web

import (
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/core/kit"
	"tornister/core/unit"
)

// editor is the form of one thing.
type editor struct {
	Key, Name                         string
	NameField, Count, Mass            field
	Group, Carry, When, Shape, Source []option
	In                                []option // bags and vessels that it may be kept in; none on the shelf
	Holds                             string   // of a bag: what is kept in it
	Kinds                             []option // what it may be, of a thing that was not measured
	Unknown                           bool
	PerDay                            field
	Urgent                            bool
	Measures                          []field
	Volume                            string
	Absorbs, Suffers, Leaks, Wet      bool
	Case                              field
	Traits, Functions, Needs          []option
	Consumable                        []option
	Day                               field // of the trip on which food is eaten; without a name for other things
	Expires, Uncertain                field
	Carried, Used                     field
	Warmth                            []field // comfort and limit of a sleeping bag, R of a mat
	Measure                           measureForm
	Shelf                             shelfLine
}

// warmthFields are the figures that the night is compared with, of things that have them.
func warmthFields(it *kit.Item, system unit.System) []field {
	degrees := func(c *float64) string {
		switch {
		case c == nil:
			return ""
		case system == unit.Customary:
			return short(unit.Fahrenheit(*c))
		}
		return short(*c)
	}
	u := unitsOf(system)
	switch {
	case it.Group == "sleep" && it.Serves("warmth") && it.Kind != "bag-liner":
		return []field{{Name: "comfort", Label: "Comfort", Unit: u.degree, Value: degrees(it.ComfortC)},
			{Name: "limit", Label: "Limit", Unit: u.degree, Value: degrees(it.LimitC)}}
	case it.Serves("insulation"):
		return []field{{Name: "rvalue", Label: "Insulation R", Value: orEmpty(it.RValue, "", 1)}}
	}
	return nil
}

// measureForm are the readings of a measuring at home, kept when they were refused.
type measureForm struct {
	Ways                []option
	Side1, Side2, Side3 field
	Before, After       field
	With, Without       field
	Error               string
	Given               bool
}

// shelfLine says whether the thing stands on the shelf.
type shelfLine struct {
	On    bool
	Key   string
	Trips string
}

var wayWords = []option{{Value: "", Label: "choose"}, {Value: "box", Label: "three sides with a rule"},
	{Value: "cylinder", Label: "diameter and length"}, {Value: "sack", Label: "its stuffed sack"},
	{Value: "water", Label: "water risen in a marked vessel"}, {Value: "filling", Label: "how much of a bag it fills"}}

func newMeasureForm(u formUnits) measureForm {
	return measureForm{Ways: options(wayWords, ""),
		Side1:   field{Name: "side-1", Label: "Length or across", Unit: u.length},
		Side2:   field{Name: "side-2", Label: "Width or height", Unit: u.length},
		Side3:   field{Name: "side-3", Label: "Height", Unit: u.length},
		Before:  field{Name: "before", Label: "Mark without it", Unit: u.litre},
		After:   field{Name: "after", Label: "Mark with it", Unit: u.litre},
		With:    field{Name: "with", Label: "Scale with it", Unit: u.body},
		Without: field{Name: "without", Label: "Scale without", Unit: u.body}}
}

// keep puts refused readings back.
func (m *measureForm) keep(c *gin.Context) {
	m.Given = true
	m.Ways = options(wayWords, c.PostForm("way"))
	for _, f := range []*field{&m.Side1, &m.Side2, &m.Side3, &m.Before, &m.After, &m.With, &m.Without} {
		f.Value = c.PostForm(f.Name)
	}
}

// shelf says on which other trips the thing goes.
func (e *editor) shelf(s *Server, c *gin.Context, it *kit.Item) {
	if it.Shelf == "" {
		return
	}
	if thing, err := s.store.Thing(c.Request.Context(), it.Shelf); err == nil {
		e.Shelf = shelfLine{true, it.Shelf, strings.Join(thing.Trips, ", ")}
	}
}

var (
	shapeWords = []option{{Value: "soft", Label: "soft, gives way"}, {Value: "box", Label: "box"},
		{Value: "cylinder", Label: "cylinder or rod"}, {Value: "flat", Label: "flat, bends"},
		{Value: "lump", Label: "lump, uneven"}, {Value: "vessel", Label: "vessel, holds things"}}
	whenWords = []option{{Value: "moving", Label: "on the move"}, {Value: "halt", Label: "at a halt"},
		{Value: "arrival", Label: "on arrival"}, {Value: "camp", Label: "in camp"}, {Value: "need", Label: "only in need"}}
	sourceWords = []option{{Value: "displacement", Label: "displaced water, 3 %"},
		{Value: "dimensions", Label: "measured, 5 %"}, {Value: "label", Label: "from its label, 10 %"},
		{Value: "guess", Label: "guessed, 25 %"}}
	eatenWords = []option{{Value: "", Label: "no"}, {Value: "food", Label: "food"}, {Value: "fuel", Label: "fuel"},
		{Value: "water", Label: "water"}}
)

// measure is a measurement that a shape needs: its form field, its name in the format and its kind of unit.
type measure struct {
	name, key, label string
	litres           bool
	axis             int // within size_cm, -1 otherwise; aspect for what is no length either
}

// aspect stands for a measure that is a plain number and need not be given.
const aspect = -2

// measuresOf lists what has to be measured of a shape.
func measuresOf(kind kit.ShapeKind, round bool) []measure {
	size := []measure{{"length", "size_cm", "Length", false, 0}, {"width", "size_cm", "Width", false, 1},
		{"height", "size_cm", "Height", false, 2}}
	cylinder := []measure{{"diameter", "diameter_cm", "Diameter", false, -1}, {"long", "length_cm", "Length", false, -1}}
	outside := size
	if round {
		outside = cylinder
	}
	gives := measure{"gives", "gives", "Pressed flat to", false, aspect}
	switch kind {
	case kit.Soft:
		return []measure{{"loose", "loose_l", "Loose", true, -1}, {"tight", "tight_l", "Tight", true, -1},
			{"gap", "gap_cm", "Narrowest gap", false, -1}}
	case kit.Cylinder:
		return append(cylinder, gives)
	case kit.Lump:
		return append(outside, measure{"displaced", "volume_l", "Displaces", true, -1}, gives)
	case kit.Box:
		return append(size, gives)
	case kit.Vessel:
		return append(outside, measure{"inside", "inside_l", "Holds", true, -1},
			measure{"mouth", "mouth_cm", "Mouth", false, -1})
	}
	return size
}

// valueOf reads a measurement of a shape, in litres or centimetres.
func (m measure) valueOf(s kit.Shape) float64 {
	switch m.key {
	case "size_cm":
		return s.SizeCm[m.axis]
	case "diameter_cm":
		return s.DiameterCm
	case "length_cm":
		return s.LengthCm
	case "loose_l":
		return s.LooseL
	case "tight_l":
		return s.TightL
	case "gap_cm":
		return s.GapCm
	case "volume_l":
		return s.VolumeL
	case "inside_l":
		return s.InsideL
	case "gives":
		return s.Gives
	}
	return s.MouthCm
}

func newEditor(it *kit.Item, system unit.System) *editor {
	u := unitsOf(system)
	e := &editor{Key: it.ID, Name: it.Name,
		NameField:  field{Name: "name", Label: "Name", Value: it.Name},
		Count:      field{Name: "count", Label: "How many", Value: strconv.Itoa(it.Count)},
		Mass:       field{Name: "mass", Label: "Weight of one", Value: inUnit(it.MassG, u.mass, unit.Ounce), Unit: u.mass},
		PerDay:     field{Name: "per_day", Label: "Times a day", Value: short(it.Use.PerDay)},
		Carry:      options(carryWords, string(it.Carry)),
		When:       options(whenWords, string(it.Use.When)),
		Shape:      options(shapeWords, string(it.Shape.Kind)),
		Source:     options(sourceWords, string(it.Measured)),
		Consumable: options(eatenWords, it.Consumable),
		Urgent:     it.Use.Urgent, Absorbs: it.Water.Absorbs, Suffers: it.Water.Suffers, Leaks: it.Water.Leaks,
		Wet:       it.Water.ReturnsWet,
		Case:      field{Name: "case", Label: "Own case", Value: it.Water.Case},
		Expires:   field{Name: "expires", Label: "Good until", Value: it.Expires},
		Uncertain: field{Name: "uncertainty", Label: "Give or take", Unit: "in 100", Value: short(100 * it.Uncertain())},
		Carried:   field{Name: "carried", Label: "Trips carried", Value: orEmpty(float64(it.History.Carried), "", 1)},
		Used:      field{Name: "used", Label: "of them used", Value: orEmpty(float64(it.History.Used), "", 1)},
		Measure:   newMeasureForm(u),
	}
	e.Warmth = warmthFields(it, system)
	if it.Has(kit.Food) && it.Follows == "" {
		e.Day = field{Name: "day", Label: "Eaten on day", Value: orEmpty(float64(it.Day), "", 1)}
	}
	e.Unknown = notKnown(it)
	if it.Measured == kit.Guess && !it.IsBag() {
		e.Kinds = kindOptions(it.Kind)
	}
	groups := kit.Groups
	if !slices.Contains(groups, it.Group) {
		groups = append(slices.Clone(groups), it.Group)
	}
	for _, g := range groups {
		e.Group = append(e.Group, option{g, unit.Capital(g), g == it.Group})
	}
	for _, f := range kit.Functions() {
		e.Functions = append(e.Functions, option{f, strings.ReplaceAll(f, "-", " "), it.Serves(f)})
	}
	for _, n := range kit.Needs() {
		e.Needs = append(e.Needs, option{n, strings.ReplaceAll(n, "-", " "), it.Wants(n)})
	}
	for _, t := range kit.Traits {
		e.Traits = append(e.Traits, option{string(t), strings.ReplaceAll(string(t), "-", " "), it.Has(t)})
	}
	for _, m := range measuresOf(it.Shape.Kind, it.Shape.Round()) {
		f := field{Name: m.name, Label: m.label, Unit: u.length, Value: inUnit(m.valueOf(it.Shape), u.length, unit.Inch)}
		if m.axis == aspect {
			f.Unit, f.Value = "to 1", orEmpty(m.valueOf(it.Shape), "", 1)
		} else if m.litres {
			f.Unit, f.Value = u.litre, inUnit(m.valueOf(it.Shape), u.litre, unit.CubicInch)
		}
		e.Measures = append(e.Measures, f)
	}
	e.Volume = litresOf(it, system)
	return e
}

// keptIn offers the bags and vessels of a kit to keep a thing in.
func (e *editor) keptIn(items []kit.Item, it *kit.Item) {
	if it.IsBag() {
		e.Holds = "Nothing is kept in it yet: choose a thing, and this bag under “Kept in”."
		var names []string
		for i := range items {
			if items[i].NestIn == it.ID {
				names = append(names, items[i].Name)
			}
		}
		if len(names) > 0 {
			e.Holds = "Kept in it: " + strings.Join(names, ", ") + ". It is as large as they are, and goes in as one."
		}
	}
	e.In = []option{{Value: "", Label: "nothing, or as planned", Chosen: it.NestIn == ""}}
	in := map[string]string{}
	for i := range items {
		in[items[i].ID] = items[i].NestIn
	}
	for i := range items {
		o := &items[i]
		vessel := o.Shape.Kind == kit.Vessel && !it.IsBag()
		if o.ID != it.ID && o.Carry == kit.Pack && (vessel || o.IsBag() && !kit.Keeps(in, it.ID, o.ID)) {
			e.In = append(e.In, option{o.ID, o.Name, it.NestIn == o.ID})
		}
	}
	if it.IsBag() && len(e.In) == 1 {
		e.In = nil
	}
}
