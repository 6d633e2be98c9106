package draw

import (
	"image"
	"image/color"

	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"
	"golang.org/x/image/vector"
)

// scanner paints paths onto a picture as rasterx asks for it, each within its own bounds only: the library's own one
// goes over the whole picture for every path, which takes seconds for a drawing of some thousand.
type scanner struct {
	picture *image.RGBA
	colour  color.Color
	paths   [][]fixed.Point26_6
	extent  fixed.Rectangle26_6
	raster  vector.Rasterizer
}

// Start begins another path.
func (s *scanner) Start(a fixed.Point26_6) {
	if len(s.paths) == 0 {
		s.extent = fixed.Rectangle26_6{Min: a, Max: a}
	}
	s.paths = append(s.paths, nil)
	s.Line(a)
}

// Line goes on with the last path.
func (s *scanner) Line(b fixed.Point26_6) {
	last := len(s.paths) - 1
	s.paths[last] = append(s.paths[last], b)
	s.extent.Min.X, s.extent.Min.Y = min(s.extent.Min.X, b.X), min(s.extent.Min.Y, b.Y)
	s.extent.Max.X, s.extent.Max.Y = max(s.extent.Max.X, b.X), max(s.extent.Max.Y, b.Y)
}

// Draw fills the paths. What is not closed stays so: the two sides of a stroke come as two paths.
func (s *scanner) Draw() {
	e := s.extent
	box := image.Rect(e.Min.X.Floor(), e.Min.Y.Floor(), e.Max.X.Ceil(), e.Max.Y.Ceil()).Intersect(s.picture.Rect)
	if box.Empty() || s.colour == nil {
		return
	}
	s.raster.Reset(box.Dx(), box.Dy())
	at := func(p fixed.Point26_6) (x, y float32) {
		return float32(p.X)/64 - float32(box.Min.X), float32(p.Y)/64 - float32(box.Min.Y)
	}
	for _, path := range s.paths {
		s.raster.MoveTo(at(path[0]))
		for _, p := range path[1:] {
			s.raster.LineTo(at(p))
		}
	}
	s.raster.Draw(s.picture, box, image.NewUniform(s.colour), image.Point{})
}

// GetPathExtent is the box round what has been given since Clear.
func (s *scanner) GetPathExtent() fixed.Rectangle26_6 { return s.extent }

// SetColor takes plain colours, the only ones of our drawings.
func (s *scanner) SetColor(paint any) { s.colour, _ = paint.(color.Color) }

// Clear forgets the paths.
func (s *scanner) Clear() { s.paths, s.extent = s.paths[:0], fixed.Rectangle26_6{} }

// SetBounds, SetWinding and SetClip ask for nothing that our drawings use.
func (s *scanner) SetBounds(int, int)      {}
func (s *scanner) SetWinding(bool)         {}
func (s *scanner) SetClip(image.Rectangle) {}

var _ rasterx.Scanner = (*scanner)(nil)
