package card

import (
	"fmt"
	"io"
	"strings"
)

// width is that of the card in words, in columns.
const width = 80

// Text writes the card in words, no line longer than 80 columns.
func (c *Card) Text(w io.Writer) error {
	var b strings.Builder
	line := func(indent int, text string) { fold(&b, indent, indent, text) }
	line(0, strings.ToUpper(c.Pack))
	line(0, c.Verdict)
	b.WriteString("\n")
	for _, check := range c.Checks {
		fold(&b, 0, 18, fmt.Sprintf("%-8s %-8s %s", check.Name, check.State, check.Figure))
	}
	b.WriteString("\n")
	line(0, "First aid. "+c.FirstAid)
	b.WriteString("\nLoading order, first in first\n")
	for _, g := range c.Groups {
		b.WriteString("\n")
		fmt.Fprintf(&b, "%s\n", strings.TrimRight(fmt.Sprintf("%-60s %s", g.Zone, g.Figure), " "))
		for _, l := range g.Lines {
			if l.Bag != "" {
				line(4, l.Bag+":")
			}
			name := l.Name
			if l.Place != "" {
				name += ", " + l.Place
			}
			fold(&b, 0, 10, fmt.Sprintf("[ ] %3d  %s%s (%s)", l.Step, strings.Repeat("  ", l.In), name, l.Mass))
			if len(l.Reasons) > 0 {
				line(11, strings.Join(l.Reasons, "; "))
			}
			if l.After != "" {
				fold(&b, 0, 10, "[ ]      "+l.After)
			}
		}
	}
	for _, part := range c.parts() {
		fmt.Fprintf(&b, "\n%s\n", part.title)
		for _, text := range part.lines {
			line(4, text)
		}
	}
	for written := range strings.Lines(b.String()) {
		if _, err := io.WriteString(w, strings.TrimRight(written, " \n")+"\n"); err != nil {
			return err
		}
	}
	return nil
}

// fold writes a text with line breaks between words: the first line from one column, the others from another.
func fold(b *strings.Builder, first, next int, text string) {
	column := first
	b.WriteString(strings.Repeat(" ", first))
	lead := len(text) - len(strings.TrimLeft(text, " "))
	b.WriteString(text[:lead])
	column += lead
	begin := true
	for _, word := range strings.SplitAfter(text[lead:], " ") {
		size := len([]rune(strings.TrimRight(word, " ")))
		if !begin && size > 0 && column+size > width {
			b.WriteString("\n" + strings.Repeat(" ", next))
			column = next
		}
		b.WriteString(word)
		column += len([]rune(word))
		begin = false
	}
	b.WriteString("\n")
}
