package card

import (
	"bytes"
	"fmt"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"tornister/web/draw"
)

// Of an A4 sheet, in millimetres.
const (
	margin    = 10.0
	sheetW    = 210.0
	sheetH    = 297.0
	gutter    = 5.0
	lineH     = 4.1
	columns   = 2
	columnW   = (sheetW - 2*margin - (columns-1)*gutter) / columns
	drawingMM = 78.0
	pdfScale  = 3.0 // points of the picture to a pixel of the drawing
)

// pdf is a sheet being written.
type pdf struct {
	*fpdf.Fpdf
	column int
	top    float64 // of the columns on this page
}

// PDF writes the card as a PDF of A4 sheets: as many things as a usual kit has go on one.
func (c *Card) PDF(w io.Writer) error {
	p := &pdf{Fpdf: fpdf.New("P", "mm", "A4", "")}
	p.SetTitle("Load card: "+c.Trip, true)
	p.SetMargins(margin, margin, margin)
	p.SetAutoPageBreak(false, 0)
	p.AddUTF8FontFromBytes("card", "", goregular.TTF)
	p.AddUTF8FontFromBytes("card", "B", gobold.TTF)
	p.AddPage()
	c.head(p)
	p.top, p.column = p.GetY()+1, 0
	p.SetXY(margin, p.top)
	for _, g := range c.Groups {
		p.heading(g.Zone, g.Figure)
		for _, l := range g.Lines {
			if l.Bag != "" {
				p.row(false, "", l.Bag+":", "", 0, true)
			}
			name := l.Name
			if l.Place != "" {
				name += ", " + l.Place
			}
			p.row(true, fmt.Sprint(l.Step), name, l.Mass, 3*float64(l.In), false)
			if l.After != "" {
				p.task(l.After)
			}
		}
	}
	for _, part := range c.parts() {
		p.heading(part.title, "")
		for _, text := range part.lines {
			p.paragraph(text)
		}
	}
	if err := c.picture(p); err != nil {
		return err
	}
	if err := p.Error(); err != nil {
		return fmt.Errorf("the card cannot be made a PDF: %w", err)
	}
	return p.Output(w)
}

func (c *Card) head(p *pdf) {
	p.SetFont("card", "B", 15)
	p.CellFormat(0, 7, c.Trip, "", 1, "L", false, 0, "")
	p.SetFont("card", "", 9)
	p.CellFormat(0, 4.5, c.Pack+". "+c.Verdict, "", 1, "L", false, 0, "")
	var checks []string
	for _, check := range c.Checks {
		checks = append(checks, fmt.Sprintf("%s %s (%s)", check.Name, check.State, check.Figure))
	}
	p.SetFont("card", "", 7.5)
	p.MultiCell(0, 3.7, strings.Join(checks, "   "), "", "L", false)
	p.SetFont("card", "B", 9)
	p.SetDrawColor(168, 72, 31)
	p.MultiCell(0, 6, "First aid. "+c.FirstAid, "1", "L", false)
	p.SetDrawColor(38, 48, 47)
}

// room goes on to the next column or page when so many millimetres are not left.
func (p *pdf) room(mm float64) {
	if p.GetY()+mm <= sheetH-margin {
		return
	}
	if p.column++; p.column == columns {
		p.AddPage()
		p.column, p.top = 0, margin
	}
	p.SetXY(p.left(), p.top)
}

func (p *pdf) left() float64 { return margin + float64(p.column)*(columnW+gutter) }

func (p *pdf) heading(name, figure string) {
	p.room(3 * lineH)
	p.SetY(p.GetY() + 1.2)
	p.SetX(p.left())
	p.SetFont("card", "B", 9)
	p.CellFormat(columnW*0.6, lineH, p.clipped(name, columnW*0.6), "B", 0, "L", false, 0, "")
	p.SetFont("card", "", 7.5)
	p.CellFormat(columnW*0.4, lineH, figure, "B", 1, "R", false, 0, "")
}

// row is a line to tick.
func (p *pdf) row(box bool, step, name, mass string, indent float64, bold bool) {
	p.room(lineH)
	x, y := p.left()+indent, p.GetY()
	if box {
		p.Rect(x+0.4, y+0.8, 2.5, 2.5, "D")
	}
	p.SetXY(x+4, y)
	p.SetFont("card", "B", 8)
	if step != "" {
		p.CellFormat(5, lineH, step, "", 0, "R", false, 0, "")
	}
	if !bold {
		p.SetFont("card", "", 8)
	}
	room := columnW - indent - 26
	p.SetX(x + 10)
	if step == "" {
		p.SetX(x + 4)
		room += 6
	}
	p.CellFormat(room, lineH, p.clipped(name, room), "", 0, "L", false, 0, "")
	p.SetFont("card", "", 7)
	p.SetXY(p.left()+columnW-16, y)
	p.CellFormat(16, lineH, mass, "", 1, "R", false, 0, "")
}

// task is something to do between the things, to tick: it takes as many lines as it wants.
func (p *pdf) task(text string) {
	p.SetFont("card", "B", 8)
	lines := p.SplitText(text, columnW-4)
	p.room(float64(len(lines)) * lineH)
	p.Rect(p.left()+0.4, p.GetY()+0.8, 2.5, 2.5, "D")
	for _, l := range lines {
		p.SetX(p.left() + 4)
		p.CellFormat(columnW-4, lineH, l, "", 1, "L", false, 0, "")
	}
}

func (p *pdf) paragraph(text string) {
	p.SetFont("card", "", 8)
	lines := p.SplitText(text, columnW)
	p.room(float64(len(lines)) * 3.6)
	for _, l := range lines {
		p.SetX(p.left())
		p.CellFormat(columnW, 3.6, l, "", 1, "L", false, 0, "")
	}
}

// clipped shortens a text to a width.
func (p *pdf) clipped(text string, mm float64) string {
	runes := []rune(text)
	for len(runes) > 1 && p.GetStringWidth(string(runes)) > mm-2 {
		runes = runes[:len(runes)-1]
	}
	if len(runes) < len([]rune(text)) {
		return string(runes) + "…"
	}
	return text
}

// picture puts the cutaway where there is room left.
func (c *Card) picture(p *pdf) error {
	picture, err := draw.PNG(c.Drawing, pdfScale)
	if err != nil {
		return err
	}
	info := p.RegisterImageOptionsReader("cutaway", fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(picture))
	if info == nil {
		return p.Error()
	}
	height := columnW * info.Height() / info.Width()
	p.room(min(height, drawingMM) + 2)
	height = min(height, sheetH-margin-p.GetY()-2)
	p.ImageOptions("cutaway", p.left(), p.GetY()+2, height*info.Width()/info.Height(), height, false,
		fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
	return nil
}
