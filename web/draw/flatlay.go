package draw

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"html/template"
	"math"
	"regexp"
	"slices"
	"strings"

	"tornister/core/kit"
	"tornister/core/unit"
)

// Lay is a kit laid out on a groundsheet.
type Lay struct {
	Sections []LaySection
	Packed   bool // soft things rolled up tight, otherwise as they lie loose
	Chosen   string
	System   unit.System
	Hatch    map[string]string // by item; things that are not in it have the hatch of when they are needed
}

// LaySection is a heap of things that belong together.
type LaySection struct {
	Name   string
	Figure string // what stands behind the name, such as its weight
	Things []*kit.Item
}

// The groundsheet in pixels. The scale is the largest of those between the limits at which all columns are short
// enough.
const (
	layWidth    = 780.0
	layHeight   = 560.0
	layColumns  = 3
	layMargin   = 14.0
	layGutter   = 14.0
	layHeading  = 22.0
	layLine     = 12.5
	layPad      = 9.0
	layLeast    = 60.0 // width of a thing with its name
	layLarge    = 3.4  // pixels a centimetre
	laySmall    = 1.5
	layMeasures = 30.0 // room for the scale bar
	pileStep    = 3.0  // between equal things
)

// lain is a thing as it lies: what is seen from above, in centimetres, and its cell on the sheet, in pixels.
type lain struct {
	item         *kit.Item
	long, across float64
	round        bool
	label        []string
	x, y, w, h   float64
	broken       bool // drawn shorter than it is
}

// FlatLay draws the things of a kit to one scale as they look from above, in columns of sections, each with its name.
// The table beside it says the same in words.
func FlatLay(lay Lay) template.HTML {
	scale := layLarge
	columns := arrange(lay, scale)
	for ; scale > laySmall && tallest(columns) > layHeight; scale -= 0.1 {
		columns = arrange(lay, scale-0.1)
	}
	height := tallest(columns) + layMeasures + layMargin
	var s sheet
	s.open("svg", "class", "flatlay", "viewBox", "0 0 "+num(layWidth)+" "+num(height), "role", "img")
	s.open("title")
	s.WriteString("The kit laid out to scale on a groundsheet; the table below says the same in words.")
	s.close("title")
	s.el("rect", "class", "groundsheet", "x", 2, "y", 2, "width", layWidth-4, "height", height-4, "rx", 5)
	s.el("rect", "class", "hem", "x", 7, "y", 7, "width", layWidth-14, "height", height-14, "rx", 3)
	for _, c := range columns {
		for _, sec := range c.sections {
			s.text(sec.x, sec.y, "lay-section", sec.name)
			s.text(sec.x+columnWidth(), sec.y, "caption", sec.figure, "text-anchor", "end")
			s.el("path", "class", "strip-rule", "d", path("M", sec.x, sec.y+4, "H", sec.x+columnWidth()))
			for i := range sec.things {
				s.lay(&sec.things[i], scale, lay)
			}
		}
	}
	s.scaleBar(scale, height-20, lay.System)
	s.close("svg")
	return template.HTML(s.String()) //nolint:gosec // built from escaped parts
}

type laySection struct {
	name, figure string
	x, y         float64
	things       []lain
}

type layColumn struct {
	height   float64
	sections []laySection
}

func columnWidth() float64 { return (layWidth - 2*layMargin - (layColumns-1)*layGutter) / layColumns }

func tallest(columns []layColumn) (height float64) {
	for _, c := range columns {
		height = max(height, c.height)
	}
	return height
}

// arrange places every section in the column that is shortest by then, and its things in rows, largest first.
func arrange(lay Lay, scale float64) []layColumn {
	columns := make([]layColumn, layColumns)
	for i := range columns {
		columns[i].height = layMargin
	}
	for _, sec := range lay.Sections {
		at := 0
		for i := range columns {
			if columns[i].height < columns[at].height-1 {
				at = i
			}
		}
		c := &columns[at]
		x := layMargin + float64(at)*(columnWidth()+layGutter)
		placed := laySection{name: sec.Name, figure: sec.Figure, x: x, y: c.height + layHeading - 6}
		things, height := inRows(sec.Things, x, c.height+layHeading+4, scale, lay.Packed)
		placed.things = things
		c.height += layHeading + 4 + height + 8
		c.sections = append(c.sections, placed)
	}
	return columns
}

func inRows(items []*kit.Item, x0, y0, scale float64, packed bool) (things []lain, height float64) {
	for _, it := range items {
		things = append(things, seenFromAbove(it, packed))
	}
	slices.SortStableFunc(things, func(a, b lain) int { return cmp.Compare(b.across, a.across) })
	wide := columnWidth()
	x, y := x0, y0
	for start := 0; start < len(things); {
		end, high, lines := start, 0.0, 0
		for x = x0; end < len(things); end++ {
			t := &things[end]
			t.w, t.h = t.long*scale, t.across*scale
			if t.w > wide {
				t.w, t.broken = wide, true
			}
			cell := min(wide, max(t.w+t.pile(), layLeast))
			if x+cell > x0+wide+1e-6 && end > start {
				break
			}
			t.label = wrapped(labelOf(t.item), cell+layPad-3)
			t.x = x + (cell-t.w)/2
			high, lines = max(high, t.h+t.pile()), max(lines, len(t.label))
			x += cell + layPad
		}
		for i := start; i < end; i++ { // things of a row stand on one line
			things[i].y = y + high - things[i].h
		}
		y += high + float64(lines)*layLine + 8
		start = end
	}
	return things, y - y0
}

// pile is how far the things behind stick out from behind the first, up and to the right.
func (t *lain) pile() float64 { return pileStep * float64(min(t.item.Count, 3)-1) }

// unitTail is a number and its unit at the end of a name, which stay together.
var unitTail = regexp.MustCompile(`(\d) (\pL{1,2}\b)`)

// labelOf is the name that stands under a thing: how many, and a mark where its size is only guessed.
func labelOf(it *kit.Item) string {
	words := it.Name
	if it.Count > 1 {
		words = fmt.Sprintf("%d × %s", it.Count, words)
	}
	if it.Measured == kit.Guess {
		words += "\u00a0?"
	}
	return unitTail.ReplaceAllString(words, "$1\u00a0$2")
}

// wrapped breaks a name into at most two lines.
func wrapped(words string, width float64) []string {
	var lines []string
	most := int(width / 5.3)
	line := ""
	for w := range strings.SplitSeq(words, " ") {
		switch {
		case line == "":
			line = w
		case len([]rune(line))+1+len([]rune(w)) <= most:
			line += " " + w
		default:
			lines = append(lines, line)
			line = w
		}
	}
	lines = append(lines, line)
	if len(lines) > 2 {
		lines = []string{lines[0], strings.Join(lines[1:], " ")}
	}
	for i := range lines {
		if r := []rune(lines[i]); len(r) > most && most > 2 {
			lines[i] = string(r[:most-1]) + "…"
		}
	}
	return lines
}

// seenFromAbove gives the outline of a thing as people lay it down: long things on their side, pots upright, soft
// things as a heap about half as high as it is wide, or rolled up tight to a roll 1.7 times as long as thick (our
// drawing's choice).
func seenFromAbove(it *kit.Item, packed bool) lain {
	s := it.Shape
	l := lain{item: it}
	d := s.Dimensions()
	switch {
	case s.Kind == kit.Soft && packed:
		l.across = math.Cbrt(4 * s.TightL * 1000 / math.Pi / 1.7)
		l.long = 1.7 * l.across
	case s.Kind == kit.Soft:
		side := math.Cbrt(s.LooseL * 1000)
		area := s.LooseL * 1000 / (0.45 * side)
		l.long = 1.15 * math.Sqrt(area)
		l.across = area / l.long
	case s.Kind == kit.Vessel && s.Round(), s.Round() && s.LengthCm < 1.2*s.DiameterCm:
		l.long, l.across, l.round = s.DiameterCm, s.DiameterCm, true
	case s.Round():
		l.long, l.across = s.LengthCm, s.DiameterCm
	default:
		l.long, l.across = d[0], d[1]
	}
	return l
}

// lay draws one thing.
func (s *sheet) lay(t *lain, scale float64, lay Lay) {
	class := "thing lay-thing"
	if t.item.ID == lay.Chosen {
		class += " chosen"
	}
	if t.item.Carry == kit.Left {
		class += " lay-left"
	}
	s.open("g", "class", class, "data-line", t.item.ID)
	fill := "url(#" + hatchID(ByNeed, classOf(ByNeed, t.item)) + ")"
	if hatch := lay.Hatch[t.item.ID]; hatch != "" {
		fill = "url(#hatch-" + hatch + ")"
	}
	for n := min(t.item.Count, 3) - 1; n >= 0; n-- { // those behind first
		s.outline(t, fill, float64(n)*pileStep, lay.Packed)
	}
	if t.broken {
		m := t.x + t.w/2
		s.el("path", "class", "lay-break", "d", path("M", m-4, t.y-2, "l", 4, t.h/2+2, "l", -4, 2, "l", 4, t.h/2+2))
		s.text(m+8, t.y+t.h/2+4, "caption", lay.System.Length(t.long))
	}
	for i, line := range t.label {
		s.text(t.x+t.w/2, t.y+t.h+layLine*float64(i+1), "lay-word", line, "text-anchor", "middle")
	}
	s.close("g")
}

// outline draws the silhouette of a thing with the marks that tell its shape.
func (s *sheet) outline(t *lain, fill string, shift float64, packed bool) {
	x, y, w, h := t.x+shift, t.y-shift, t.w, t.h
	shape := t.item.Shape
	switch {
	case t.round:
		s.el("ellipse", "class", "lay-outline", "cx", x+w/2, "cy", y+h/2, "rx", w/2, "ry", h/2, "fill", fill)
		inner := 0.82
		if shape.Kind != kit.Vessel {
			inner = 0.35
		}
		s.el("ellipse", "class", "lay-detail", "cx", x+w/2, "cy", y+h/2, "rx", w/2*inner, "ry", h/2*inner)
	case shape.Kind == kit.Soft && packed:
		s.el("rect", "class", "lay-outline", "x", x, "y", y, "width", w, "height", h, "rx", h*0.32, "fill", fill)
		s.el("path", "class", "lay-detail", "d", path("M", x+w*0.28, y, "V", y+h, "M", x+w*0.72, y, "V", y+h))
	case shape.Kind == kit.Soft || shape.Kind == kit.Lump:
		s.el("path", "class", "lay-outline", "d",
			heap(t.item.ID, x, y, w, h, map[bool]float64{true: 0.12, false: 0.05}[shape.Kind == kit.Soft]), "fill", fill)
	case shape.Round():
		s.el("rect", "class", "lay-outline", "x", x, "y", y, "width", w, "height", h, "rx", min(h*0.18, 5), "fill", fill)
		s.el("path", "class", "lay-detail", "d", path("M", x+w-min(h*0.3, w*0.1), y, "V", y+h))
	case shape.Kind == kit.Flat:
		s.el("rect", "class", "lay-outline", "x", x, "y", y, "width", w, "height", h, "rx", min(w, h)*0.08, "fill", fill)
	default:
		s.el("rect", "class", "lay-outline", "x", x, "y", y, "width", w, "height", h, "rx", 0.8, "fill", fill)
	}
}

// heap is an uneven closed curve in a rectangle, the same for the same thing whenever it is drawn.
func heap(id string, x, y, w, h, uneven float64) string {
	const points = 9
	hash := fnv.New64a()
	_, _ = hash.Write([]byte(id))
	seed := hash.Sum64()
	var px, py [points]float64
	for i := range points {
		whim := float64(seed>>(6*i)&63)/63 - 0.5
		angle := 2 * math.Pi * (float64(i) + 0.3*whim) / points
		r := 1 + uneven*2*whim - uneven
		px[i] = x + w/2 + w/2*r*superCos(angle)
		py[i] = y + h/2 + h/2*r*superCos(angle-math.Pi/2)
	}
	parts := []any{"M", (px[points-1] + px[0]) / 2, (py[points-1] + py[0]) / 2}
	for i := range points {
		next := (i + 1) % points
		parts = append(parts, "Q", px[i], py[i], (px[i]+px[next])/2, (py[i]+py[next])/2)
	}
	return path(append(parts, "Z")...)
}

// superCos is a cosine swollen towards a square, so that a heap fills its rectangle better than an ellipse.
func superCos(angle float64) float64 {
	c := math.Cos(angle)
	return math.Copysign(math.Pow(math.Abs(c), 0.75), c) * 1.08
}

// scaleBar draws a measure of half a metre, or of a foot.
func (s *sheet) scaleBar(scale, y float64, system unit.System) {
	length := 50.0
	if system == unit.Customary {
		length = 2 * unit.Foot
	}
	x := layWidth - layMargin - length*scale
	s.el("path", "class", "scale-bar", "d",
		path("M", x, y-4, "V", y+4, "M", x, y, "H", x+length*scale, "M", x+length*scale, y-4, "V", y+4, "M",
			x+length*scale/2, y-2.5, "V", y+2.5))
	s.text(x-6, y+4, "caption", system.Length(length), "text-anchor", "end")
	s.text(layMargin, y+4, "caption", "?  size only guessed: measuring it makes the verdict surer")
}
