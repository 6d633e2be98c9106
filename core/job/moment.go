package job

import (
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// Bearer is who carries: a pack, a body, and wishes about that pack.
type Bearer struct {
	Name string
	Pack rucksack.Pack
	Body trail.Carrier
	Pins []Pin
}

// Moment is a time of the trip: what is left of each thing then, and what came in the meantime.
type Moment struct {
	Name string
	Left map[string]Rest // by id; what is not named is as at the start
	More []kit.Item
}

// Rest is what is left of a line: so many pieces, each with a share of what it held. What keeps its outside is
// lighter, but no smaller; what is soft shrinks.
type Rest struct {
	Pieces int
	Share  float64 // of the litres of soft things, 0 to 1
	MassG  float64 // of each piece
}

// For is the same kit under another bearer.
func (t *Task) For(b Bearer) *Task {
	other := *t
	other.Pack, other.Pins, other.Trip.Carrier = b.Pack, b.Pins, b.Body
	return &other
}

// At is the kit at a moment. Lines of which nothing is left are not in it.
func (t *Task) At(m Moment) *Task {
	other := *t
	other.Items = nil
	for _, it := range t.Items {
		if left, named := m.Left[it.ID]; named {
			if left.Pieces <= 0 {
				continue
			}
			it.Count, it.MassG = left.Pieces, left.MassG
			if it.Shape.Kind == kit.Soft && left.Share < 1 {
				it.Shape.LooseL *= left.Share
				it.Shape.TightL *= left.Share
			}
		}
		other.Items = append(other.Items, it)
	}
	other.Items = append(other.Items, m.More...)
	return &other
}
