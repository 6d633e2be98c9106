package draw

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"html/template"
	"image"
	"image/color"
	"image/png"
	"io"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
)

// The light colours of the interface, for pictures that stand alone.
const (
	paper   = "#fbf8f1"
	ink     = "#26302f"
	grey    = "#625e53"
	rust    = "#a8481f"
	green   = "#3f6b4f"
	blue    = "#3e8fb0"
	noPaint = "none"
)

// inks are the colours of the hatchings.
var inks = map[string]string{"need0": blue, "need1": "#d9a441", "need2": "#6b8e4e", "need3": "#7a6a9c",
	"need4":   "#c4573a",
	"weight0": "#c9bfa6", "weight1": "#c8a56a", "weight2": "#c08747", "weight3": "#a8602f", "weight4": "#7d3a1c",
	"dry0": "#a39b86", "dry1": "#d9a441", "dry2": "#c4573a", "dry3": blue, "dry4": "#2f6f9f"}

// printed is how a class of the cutaway is painted where there is no stylesheet.
type printed struct {
	fill, stroke string
	width        float64
	dash         string
	opacity      float64
}

var prints = map[string]printed{
	"shell": {paper, ink, 1.6, "", 1}, "pocket": {paper, ink, 1.3, "", 1}, "panel": {noPaint, ink, 4.5, "", 1},
	"strap-outline": {noPaint, ink, 2.2, "", 1},
	"strap":         {noPaint, grey, 1.6, "5 2", 1}, "divider": {noPaint, ink, 1.2, "", 1},
	"divider open": {noPaint, ink, 1.2, "4 4", 1},
	"bag-outline":  {noPaint, ink, 1.8, "1.5 3.5", 1}, "liner": {noPaint, blue, 1.4, "6 3", 1},
	"hollow": {noPaint, rust, 1.1, "2 2", 1},
	"band":   {green, noPaint, 0, "", 1}, "lever": {noPaint, rust, 1.4, "3 2", 1}, "centre": {paper, ink, 1.4, "", 1},
	"centre-quarter": {ink, noPaint, 0, "", 1},
	"ghost":          {rust, rust, 1.2, "4 3", 0.12}, "collar": {noPaint, grey, 0.8, "2 3", 1},
	"fill-line": {noPaint, rust, 1.4, "", 1},
	"leader":    {noPaint, grey, 0.7, "", 1}, "leader chosen": {noPaint, rust, 1.2, "", 1},
	"leader-dot": {ink, noPaint, 0, "", 1}, "step-ground": {paper, noPaint, 0, "", 0.85},
	"thing": {noPaint, ink, 0.9, "", 1},
}

// lettering is the size and colour of a class of words.
var lettering = map[string]struct {
	size   float64
	bold   bool
	colour string
}{"leader-word": {11, false, ink}, "leader chosen-word": {11, true, rust}, "caption": {11, false,
	grey}, "step": {10.5, true, ink}}

// PrintStyle is the stylesheet of a cutaway on a page that is not of the interface.
var PrintStyle = sync.OnceValue(func() string {
	var style strings.Builder
	for _, class := range sortedKeys(prints) {
		p := prints[class]
		selector := "." + strings.ReplaceAll(class, " ", ".")
		if class == "thing" {
			fmt.Fprintf(&style, ".thing > rect:first-child, .thing > path:first-child{stroke:%s;stroke-width:%g}", p.stroke,
				p.width)
			continue
		}
		fmt.Fprintf(&style, "svg %s{fill:%s;stroke:%s;stroke-width:%g;stroke-dasharray:%s;fill-opacity:%g}", selector,
			p.fill, p.stroke, p.width, orNone(p.dash), p.opacity)
	}
	for _, class := range sortedKeys(lettering) {
		l := lettering[class]
		weight := 400
		if l.bold {
			weight = 600
		}
		fmt.Fprintf(&style, "svg .%s{font:%d %gpx Barlow,system-ui,sans-serif;fill:%s;stroke:none}",
			strings.ReplaceAll(class, " ", "."), weight, l.size, l.colour)
	}
	for _, name := range sortedKeys(inks) {
		fmt.Fprintf(&style, ".tint.ink-%s,.dots.ink-%s{fill:%s}.lines.ink-%s{fill:none;stroke:%s}", name, name, inks[name],
			name, inks[name])
	}
	style.WriteString(".tint{fill-opacity:.3}.lines{stroke-width:.9;stroke-opacity:.75}.hatches{position:absolute}")
	return style.String()
})

// Standalone makes a file of a cutaway that looks as it does in the interface.
func Standalone(drawing template.HTML) []byte {
	var defs sheet
	defs.defineHatches()
	text := string(drawing)
	end := strings.Index(text, ">")
	box := viewBox(text)
	head := fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%g" height="%g"`, box[2],
		box[3]) + strings.TrimPrefix(text[:end], "<svg")
	ground := fmt.Sprintf(`<rect width="%g" height="%g" fill="%s"></rect>`, box[2], box[3], paper)
	return []byte(head + "><style>" + PrintStyle() + "</style>" + defs.String() + ground + text[end+1:])
}

func orNone(dash string) string {
	if dash == "" {
		return "none"
	}
	return dash
}

func sortedKeys[V any](m map[string]V) []string {
	var keys []string
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// viewBox reads the box of a drawing of ours.
func viewBox(text string) (box [4]float64) {
	_, rest, _ := strings.Cut(text, `viewBox="`)
	inside, _, _ := strings.Cut(rest, `"`)
	for i, word := range strings.Fields(inside) {
		if i < len(box) {
			box[i], _ = strconv.ParseFloat(word, 64)
		}
	}
	return box
}

// PNG paints a cutaway as a picture, scale points to a pixel of the drawing.
func PNG(drawing template.HTML, scale float64) ([]byte, error) {
	box := viewBox(string(drawing))
	if box[2] <= 0 || box[3] <= 0 {
		return nil, errors.New("the drawing has no size")
	}
	shapes, words, err := flattened(string(drawing))
	if err != nil {
		return nil, err
	}
	icon, err := oksvg.ReadIconStream(strings.NewReader(shapes), oksvg.IgnoreErrorMode)
	if err != nil {
		return nil, fmt.Errorf("the drawing cannot be painted: %w", err)
	}
	w, h := int(box[2]*scale), int(box[3]*scale)
	picture := image.NewRGBA(image.Rect(0, 0, w, h))
	icon.SetTarget(0, 0, float64(w), float64(h))
	icon.Draw(rasterx.NewDasher(w, h, &scanner{picture: picture}), 1)
	for _, word := range words {
		if err := word.write(picture, scale); err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	if err := png.Encode(&out, picture); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// lettered is a word of a drawing.
type lettered struct {
	x, y                float64
	class, anchor, text string
}

// flattened resolves the classes of a drawing to paint, one shape after another, and takes its words out.
func flattened(drawing string) (shapes string, words []lettered, err error) {
	box := viewBox(drawing)
	var out strings.Builder
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g"><rect x="0" y="0" width="%g" height="%g" fill="%s"/>`, box[2], box[3], box[2], box[3], paper)
	decoder := xml.NewDecoder(strings.NewReader(drawing))
	var open []string // classes of the groups that one is in
	var word *lettered
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return "", nil, fmt.Errorf("the drawing cannot be read: %w", err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			at := map[string]string{}
			for _, a := range t.Attr {
				at[a.Name.Local] = a.Value
			}
			switch t.Name.Local {
			case "g":
				open = append(open, at["class"])
			case "text":
				x, _ := strconv.ParseFloat(at["x"], 64)
				y, _ := strconv.ParseFloat(at["y"], 64)
				word = &lettered{x, y, at["class"], at["text-anchor"], ""}
			case "path", "rect", "circle", "ellipse":
				paint(&out, t, at, open)
			}
		case xml.EndElement:
			switch {
			case t.Name.Local == "g" && len(open) > 0:
				open = open[:len(open)-1]
			case t.Name.Local == "text" && word != nil:
				words = append(words, *word)
				word = nil
			}
		case xml.CharData:
			if word != nil {
				word.text += string(t)
			}
		}
	}
	out.WriteString("</svg>")
	return out.String(), words, nil
}

// paint writes a shape with its colours on it.
func paint(out *strings.Builder, t xml.StartElement, at map[string]string, open []string) {
	p, known := prints[at["class"]]
	if !known {
		p = printed{fill: noPaint, stroke: noPaint, opacity: 1}
		if slices.ContainsFunc(open, func(class string) bool { return strings.HasPrefix(class, "thing") }) {
			p = prints["thing"]
		}
	}
	if name, hatched := strings.CutPrefix(at["fill"], "url(#hatch-"); hatched {
		p.fill = mixed(inks[strings.TrimSuffix(name, ")")], 0.42)
	} else if at["fill"] != "" {
		p.fill = at["fill"]
	}
	fmt.Fprintf(out, `<%s fill="%s" stroke="%s" stroke-width="%g" fill-opacity="%g"`, t.Name.Local, p.fill, p.stroke,
		p.width, p.opacity)
	if p.dash != "" {
		fmt.Fprintf(out, ` stroke-dasharray="%s"`, strings.ReplaceAll(p.dash, " ", ","))
	}
	for _, key := range []string{"d", "x", "y", "width", "height", "rx", "ry", "cx", "cy", "r"} {
		if v := at[key]; v != "" {
			fmt.Fprintf(out, ` %s="%s"`, key, v)
		}
	}
	out.WriteString("/>")
}

// mixed lays a share of a colour over the paper.
func mixed(colour string, share float64) string {
	over, under := rgb(colour), rgb(paper)
	var c [3]int
	for i := range c {
		c[i] = int(float64(over[i])*share + float64(under[i])*(1-share) + 0.5)
	}
	return fmt.Sprintf("#%02x%02x%02x", c[0], c[1], c[2])
}

func rgb(colour string) (c [3]uint8) {
	v, _ := strconv.ParseUint(strings.TrimPrefix(colour, "#"), 16, 32)
	return [3]uint8{uint8(v >> 16), uint8(v >> 8), uint8(v)}
}

// faces are the letters of pictures, by weight.
var faces = sync.OnceValues(func() (map[bool]*opentype.Font, error) {
	regular, err := opentype.Parse(goregular.TTF)
	if err != nil {
		return nil, err
	}
	bold, err := opentype.Parse(gobold.TTF)
	return map[bool]*opentype.Font{false: regular, true: bold}, err
})

func (l *lettered) write(picture *image.RGBA, scale float64) error {
	fonts, err := faces()
	if err != nil {
		return err
	}
	look, known := lettering[l.class]
	if !known {
		look = lettering["leader-word"]
	}
	face, err := opentype.NewFace(fonts[look.bold], &opentype.FaceOptions{Size: look.size * scale * 0.92, DPI: 72})
	if err != nil {
		return err
	}
	defer face.Close()
	c := rgb(look.colour)
	d := font.Drawer{Dst: picture, Src: image.NewUniform(color.RGBA{c[0], c[1], c[2], 255}), Face: face}
	x := fixed.Int26_6(l.x * scale * 64)
	switch l.anchor {
	case "middle":
		x -= d.MeasureString(l.text) / 2
	case "end":
		x -= d.MeasureString(l.text)
	}
	d.Dot = fixed.Point26_6{X: x, Y: fixed.Int26_6(l.y * scale * 64)}
	d.DrawString(l.text)
	return nil
}
