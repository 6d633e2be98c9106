package kit

import (
	"math"
	"regexp"
	"slices"
	"strings"
)

// between are the words between two things of one line.
var between = regexp.MustCompile(`(?i)\s+(?:\+|&|and|und|et|och|y)\s+`)

// listing is what stands between three things and more: mug, spoon and bowl.
var listing = regexp.MustCompile(`(?i)\s*,\s+(?:and\s+|und\s+)?|` + between.String())

// ofTent reports whether things of a kind are a tent or what a tent has: a fly, an inner, poles.
func ofTent(k Kind) bool {
	return k.Poles > 0 || slices.Contains([]string{"tent-inner", "tent-fly", "tent-poles"}, k.ID)
}

// along begins what is said to be with a thing: a stove with its gas is a stove.
var along = regexp.MustCompile(`(?i)\s+(?:\+|with|incl\.?|including|mit|inkl\.?|avec|con|med)\s+`)

// kindMeant is the kind that a name means. What is said to be with a thing does not make it another, unless both
// together have a name: a stove with a pump is no pump, and a hat with gloves is both. A tent named with its parts is a
// tent.
func kindMeant(name string) (Kind, bool) {
	if pieces := listing.Split(name, -1); len(pieces) > 1 {
		other := func(piece string) bool {
			k, known := KindNamed(piece)
			return known && !ofTent(k) && k.ID != "pegs"
		}
		if tent, _ := KindNamed(pieces[0]); tent.Poles > 0 && !slices.ContainsFunc(pieces[1:], other) {
			return tent, true
		}
	}
	whole, known := KindNamed(name)
	if at := along.FindStringIndex(name); at != nil {
		first, is := KindNamed(name[:at[0]])
		second, other := KindNamed(name[at[1]:])
		if is && (!other || whole.ID == first.ID || whole.ID == second.ID) {
			return first, true
		}
	}
	return whole, known
}

// Line reads a typed line into the things that it stands for: two known things with a word between them, "mug and
// spoon", are two. What has a name of its own in two words, "oil and spices", is one, and so is food for some days.
// The error is that of Quick.
func Line(line string) ([]Told, error) {
	whole, err := Quick(line)
	if err != nil {
		return nil, err
	}
	if things := several(line, whole); things != nil {
		return things, nil
	}
	return []Told{whole}, nil
}

// several are the things of a line that names more than one; nil for any other.
func several(line string, whole Told) []Told {
	line = bullet.ReplaceAllString(line, "")
	if !between.MatchString(line) || strings.ContainsAny(line, "()") {
		return nil
	}
	words, _ := split(strings.ToLower(line))
	if slices.ContainsFunc(dayWords, func(day string) bool { return slices.Contains(words, day) }) {
		return nil
	}
	for _, apart := range []*regexp.Regexp{listing, between} {
		if things := each(apart.Split(line, -1), whole); things != nil {
			shareOut(things)
			return things
		}
	}
	return nil
}

// each reads the pieces of a line: nil where one of them is nothing known or what another is, or where the whole line
// is the name of something else.
func each(pieces []string, whole Told) (things []Told) {
	for i, piece := range pieces {
		t, err := Quick(piece)
		if err != nil || !t.Known || slices.ContainsFunc(things, func(o Told) bool { return o.Kind.ID == t.Kind.ID }) {
			return nil
		}
		if i > 0 && things[0].Kind.Poles > 0 && ofTent(t.Kind) {
			return nil // the tent has it
		}
		things = append(things, t)
	}
	named, _ := KindNamed(whole.Name)
	if slices.ContainsFunc(things, func(t Told) bool { return t.Kind.ID == named.ID }) {
		return things
	}
	first, _, more := strings.Cut(pieces[0], " ")
	both, err := Quick(first + " " + pieces[1])
	if !more || len(pieces) > 2 || err != nil || both.Kind.ID != named.ID {
		return nil
	}
	things[1] = both // a rain jacket and trousers: for rain as well
	return things
}

// shareOut gives each thing its part of one weight at the end of the line, in proportion to what they usually weigh,
// where that is nearer to what all of them usually weigh than to the last one's usual weight.
func shareOut(things []Told) {
	last := things[len(things)-1]
	if !last.Weighed || last.Measured != Guess || last.Count > 1 {
		return
	}
	usual := 0.0
	for i, t := range things {
		if t.Weighed && i < len(things)-1 || t.Kind.Consumable != "" {
			return
		}
		usual += float64(t.Count) * t.Kind.MassG
	}
	typed := last.MassG
	off := func(usual float64) float64 { return math.Abs(math.Log(typed / usual)) }
	if off(usual) >= off(last.Kind.MassG) {
		return
	}
	for i := range things {
		t := &things[i]
		t.MassG, t.Weighed = math.Round(typed*t.Kind.MassG/usual), true
		if t.Measured == Guess {
			t.Shape = t.Kind.ShapeFor(t.MassG)
		}
	}
}
