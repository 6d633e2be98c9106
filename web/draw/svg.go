// Package draw turns answers of the core into SVG. It knows paper, ink and hatching, and nothing of HTTP or the
// database. Every drawing has a text equivalent elsewhere on its page; its own title says what it shows.
package draw

import (
	"fmt"
	"html"
	"strconv"
	"strings"
)

// sheet collects SVG elements. Coordinates are pixels of the drawing, y down.
type sheet struct{ strings.Builder }

// el writes an empty element; attributes come as name, value pairs and are escaped.
func (s *sheet) el(name string, attributes ...any) {
	s.open(name, attributes...)
	s.WriteString("</" + name + ">")
}

func (s *sheet) open(name string, attributes ...any) {
	s.WriteString("<" + name)
	for i := 0; i+1 < len(attributes); i += 2 {
		fmt.Fprintf(s, ` %s="%s"`, attributes[i], html.EscapeString(value(attributes[i+1])))
	}
	s.WriteString(">")
}

func (s *sheet) close(name string) { s.WriteString("</" + name + ">") }

// text writes a line of text.
func (s *sheet) text(x, y float64, class, words string, attributes ...any) {
	s.open("text", append([]any{"x", x, "y", y, "class", class}, attributes...)...)
	s.WriteString(html.EscapeString(words))
	s.close("text")
}

func value(v any) string {
	switch v := v.(type) {
	case float64:
		return num(v)
	case string:
		return v
	}
	return fmt.Sprint(v)
}

// num prints a coordinate to a tenth of a pixel.
func num(v float64) string {
	text := strconv.FormatFloat(v, 'f', 1, 64)
	return strings.TrimSuffix(text, ".0")
}

// path builds the d attribute of a path from a format with coordinates.
func path(parts ...any) string {
	words := make([]string, len(parts))
	for i, p := range parts {
		words[i] = value(p)
	}
	return strings.Join(words, " ")
}
