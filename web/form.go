package web

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/core/unit"
)

// field is an input with its unit and, after a refusal, its message.
type field struct{ Name, Label, Value, Unit, Error string }

// option is a choice of a list.
type option struct {
	Value, Label string
	Chosen       bool
}

// reading takes the values of a form and notes what could not be understood, by field.
type reading struct {
	c      *gin.Context
	system unit.System
	wrong  map[string]string
}

func readForm(c *gin.Context, system unit.System) *reading {
	return &reading{c: c, system: system, wrong: map[string]string{}}
}

// text is a field without the space around it.
func (r *reading) text(name string) string { return strings.TrimSpace(r.c.PostForm(name)) }

func (r *reading) ticked(name string) bool { return r.c.PostForm(name) != "" }

// quantity reads a field with a unit; an empty one is 0.
func (r *reading) quantity(name string, parse func(text, bare string) (float64, error), bare string) float64 {
	v, err := parse(r.c.PostForm(name), bare)
	if err != nil {
		r.wrong[name] = strings.TrimPrefix(err.Error(), unit.ErrQuantity.Error()+": ")
	} else if v < 0 {
		r.wrong[name] = "cannot be negative"
	}
	return v
}

// optional is a quantity that may be left empty; ok is false then.
func (r *reading) optional(name string, parse func(text, bare string) (float64, error), bare string) (v float64,
	ok bool) {
	if r.text(name) == "" {
		return 0, false
	}
	return r.quantity(name, parse, bare), true
}

// plain reads a number without a unit.
func (r *reading) plain(name string) float64 {
	text := strings.Replace(r.text(name), ",", ".", 1)
	v, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		r.wrong[name] = fmt.Sprintf("%q is not a number", r.c.PostForm(name))
	}
	return v
}

// temperature reads degrees of the system shown.
func (r *reading) temperature(name string) (c float64, ok bool) {
	if r.text(name) == "" {
		return 0, false
	}
	v, err := unit.Temperature(r.c.PostForm(name), r.system)
	if err != nil {
		r.wrong[name] = strings.TrimPrefix(err.Error(), unit.ErrQuantity.Error()+": ")
		return 0, false
	}
	return v, true
}

// formUnits are the units that bare numbers of a form are in.
type formUnits struct{ mass, litre, length, distance, climb, body, degree string }

func unitsOf(system unit.System) formUnits {
	if system == unit.Customary {
		return formUnits{"oz", "cu in", "in", "mi", "ft", "lb", "°F"}
	}
	return formUnits{"g", "L", "cm", "km", "m", "kg", "°C"}
}

// bare is a unit's name as the parsers know it.
func bare(name string) string { return strings.ToLower(strings.ReplaceAll(name, " ", "")) }

// inUnit prints a stored quantity for a form in its unit; factor is one customary unit in stored ones.
func inUnit(v float64, name string, factor float64) string {
	switch name {
	case "oz", "in", "mi":
		return strconv.FormatFloat(math.Round(v/factor*100)/100, 'f', -1, 64)
	case "cu in", "lb":
		return strconv.FormatFloat(math.Round(v/factor*10)/10, 'f', -1, 64)
	case "ft":
		return strconv.FormatFloat(math.Round(v/factor), 'f', -1, 64)
	}
	return short(v)
}

var metricFigure = regexp.MustCompile(`(\d+(?:\.\d+)?) (cm|L|g|kg)\b`)

// inReadersUnits turns the figures of a message about a file, which are metric like the file, into the reader's
// units.
func inReadersUnits(text string, system unit.System) string {
	if system != unit.Customary {
		return text
	}
	text = strings.ReplaceAll(text, "; sizes are in centimetres", "")
	return metricFigure.ReplaceAllStringFunc(text, func(found string) string {
		part := metricFigure.FindStringSubmatch(found)
		v, _ := strconv.ParseFloat(part[1], 64)
		switch part[2] {
		case "cm":
			return system.Length(v)
		case "L":
			return system.Volume(v)
		case "kg":
			v *= 1000
		}
		return system.Mass(v)
	})
}

func short(v float64) string {
	return strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64)
}

func options(from []option, value string) []option {
	list := make([]option, len(from))
	for i, o := range from {
		o.Chosen = o.Value == value
		list[i] = o
	}
	return list
}
