package bundle

import (
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/santhosh-tekuri/jsonschema/v6/kind"
)

// Problem is one thing wrong with an input: where, as a JSON pointer (RFC 6901), what, and how to mend it.
type Problem struct {
	Pointer string `json:"pointer"`
	What    string `json:"what"`
	Mend    string `json:"mend"`
}

// Problems is everything found wrong; as an error it prints one line each.
type Problems []Problem

func (ps Problems) Error() string {
	lines := make([]string, len(ps))
	for i, p := range ps {
		place := p.Pointer
		if place == "" {
			place = "(whole file)"
		}
		lines[i] = fmt.Sprintf("%s: %s; %s.", place, p.What, p.Mend)
	}
	return strings.Join(lines, "\n")
}

// maxProblems is how many problems are reported at once; the rest is counted.
const maxProblems = 20

func problem(pointer, what, mend string) Problems { return Problems{{pointer, what, mend}} }

// pointer builds a JSON pointer.
func pointer(tokens ...any) string {
	var b strings.Builder
	for _, t := range tokens {
		b.WriteByte('/')
		b.WriteString(strings.NewReplacer("~", "~0", "/", "~1").Replace(fmt.Sprint(t)))
	}
	return b.String()
}

// syntaxProblem names the line and column at which the text stops being JSON.
func syntaxProblem(data []byte, err error) Problems {
	offset := int64(len(data))
	if syntax := new(json.SyntaxError); errors.As(err, &syntax) {
		offset = syntax.Offset
	}
	line, column := lineOf(data, offset)
	return problem("", fmt.Sprintf("not JSON: line %d, column %d: %s", line, max(column-1, 1),
		strings.TrimPrefix(err.Error(), "json: ")),
		"mend the text there; numbers are written like 1.5, without NaN, Infinity or units")
}

// schemaProblems translates what the schema validator found into the packer's words.
func schemaProblems(err error) Problems {
	var found Problems
	invalid := new(jsonschema.ValidationError)
	if !errors.As(err, &invalid) {
		return problem("", err.Error(), "compare the file with the published schema")
	}
	var walk func(*jsonschema.ValidationError)
	walk = func(v *jsonschema.ValidationError) {
		for _, c := range v.Causes {
			walk(c)
		}
		if len(v.Causes) == 0 {
			what, mend := translate(v.ErrorKind, v.InstanceLocation)
			tokens := make([]any, len(v.InstanceLocation))
			for i, t := range v.InstanceLocation {
				tokens[i] = t
			}
			found = append(found, Problem{pointer(tokens...), what, mend})
		}
	}
	walk(invalid)
	return capped(found)
}

func capped(ps Problems) Problems {
	if len(ps) > maxProblems {
		rest := len(ps) - maxProblems
		ps = append(ps[:maxProblems:maxProblems], Problem{"", fmt.Sprintf("and %d more problems", rest), "mend these first"})
	}
	return ps
}

// translate says what is wrong and how to mend it for one finding of the validator.
func translate(k jsonschema.ErrorKind, at []string) (what, mend string) {
	field := "this"
	if len(at) > 0 {
		field = at[len(at)-1]
	}
	switch k := k.(type) {
	case *kind.Required:
		return "lacks " + strings.Join(k.Missing, ", "), "add " + strings.Join(k.Missing, " and ")
	case *kind.Type:
		mend = "give " + article(strings.Join(k.Want, " or "))
		if unit := unitOf(field); unit != "" {
			mend = "give a bare number in " + unit + ", without quotes or unit"
		}
		return "is " + article(k.Got), mend
	case *kind.Enum:
		words := make([]string, 0, len(k.Want))
		for _, w := range k.Want {
			if w != "" {
				words = append(words, fmt.Sprint(w))
			}
		}
		return fmt.Sprintf("%q is not one of the known words", fmt.Sprint(k.Got)), "use one of: " + strings.Join(words, ", ")
	case *kind.Const:
		if field == "version" {
			return fmt.Sprintf("version %v is not known here",
					k.Got), fmt.Sprintf("this program reads version %v; use a newer program or export again as version %v", k.Want,
					k.Want)
		}
		return fmt.Sprintf("is %v", k.Got), fmt.Sprintf("must be %v", k.Want)
	case *kind.Minimum:
		want, _ := k.Want.Float64()
		return "is less than " + plain(want), "give " + plain(want) + inUnit(field) + " or more"
	case *kind.ExclusiveMinimum:
		want, _ := k.Want.Float64()
		return "is not more than " + plain(want), "give more than " + plain(want) + inUnit(field)
	case *kind.Maximum:
		want, _ := k.Want.Float64()
		return "is more than " + plain(want), "give " + plain(want) + inUnit(field) + " or less"
	case *kind.MaxItems:
		return fmt.Sprintf("has %d entries", k.Got), fmt.Sprintf("give at most %d", k.Want)
	case *kind.MinItems:
		return fmt.Sprintf("has %d entries", k.Got), fmt.Sprintf("give at least %d", k.Want)
	case *kind.MaxLength:
		return fmt.Sprintf("is %d letters long", k.Got), fmt.Sprintf("give at most %d", k.Want)
	case *kind.MinLength:
		return "is empty", "give it a text"
	case *kind.Pattern:
		return wrongText(clip(k.Got), k.Want)
	}
	return fmt.Sprintf("does not match the schema (%T)", k), "compare with the published schema"
}

// texts are the patterns of the schema by how they begin: what a text that breaks one is not, and the mend.
var texts = []struct{ pattern, not, mend string }{
	{"^([0-9]{4}-[0-9]{2}-[0-9]{2}T", "is no date with a time of day", "write both as YYYY-MM-DDThh:mm, such as 2026-06-12T09:00"},
	{"^([0-9]{4}-[0-9]{2}-[0-9]{2})", "is no date", "write it as YYYY-MM-DD, such as 2026-06-12"},
	{"^(IP", "is no IP code", "write one such as IPX4, or leave it empty"},
	{"^[A-Za-z0-9]", "has letters that are not allowed here",
		"use letters, digits, point, hyphen and underscore, beginning with a letter or digit"},
	{"^[^", "has letters that are not allowed here", "leave out tabs, line breaks and other characters that are not seen"},
}

// wrongText says of a text why a pattern of the schema does not take it.
func wrongText(got, pattern string) (why, mend string) {
	for _, t := range texts {
		if strings.HasPrefix(pattern, t.pattern) {
			return fmt.Sprintf("%q %s", got, t.not), t.mend
		}
	}
	return fmt.Sprintf("%q is not written as it should be", got), "compare with the published schema"
}

func clip(text string) string {
	if runes := []rune(text); len(runes) > 40 {
		return string(runes[:40]) + "…"
	}
	return text
}

func plain(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func article(noun string) string {
	switch noun {
	case "string":
		return "a text"
	case "object", "array", "integer":
		return map[string]string{"object": "an object {…}", "array": "a list […]", "integer": "a whole number"}[noun]
	case "null":
		return "null"
	case "boolean":
		return "true or false"
	}
	return "a " + noun
}

// unitOf names the unit that a field's name carries.
func unitOf(field string) string {
	for suffix, unit := range map[string]string{"_g": "grams", "_kg": "kilograms", "_l": "litres", "_cm": "centimetres",
		"_c": "degrees Celsius"} {
		if strings.HasSuffix(field, suffix) {
			return unit
		}
	}
	return ""
}

func inUnit(field string) string {
	if unit := unitOf(field); unit != "" {
		return " " + unit
	}
	return ""
}
