// Package dry says which things must stay dry and what stands between them and the rain.
package dry

import "tornister/core/kit"

// Bag is something that keeps water out, owned and at hand.
type Bag struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Kind    string  `json:"kind"` // liner, dry-bag, cover, scent-bag
	VolumeL float64 `json:"volume_l,omitempty"`
	MassG   float64 `json:"mass_g,omitempty"`
	Colour  string  `json:"colour,omitempty"`
	For     string  `json:"for,omitempty"` // wet: kept for what comes back wet
}

// Need answers the two questions of the trade: does it take up water, does it suffer by it? 0 is neither or only one,
// 1 is keep from soaking, 2 is must stay dry. A thing that is used on the move is wetted by use, so it gets 1 where
// the same thing for the night gets 2; electronics suffer without taking up water and get 2.
func Need(it *kit.Item) int {
	w := it.Water
	switch {
	case it.Has(kit.Electronic) && w.Suffers:
		return 2
	case !w.Absorbs || !w.Suffers:
		return 0
	case it.Use.When == kit.Moving && !it.Use.Urgent && it.Shape.Kind == kit.Soft:
		return 1
	}
	return 2
}

// Cased reports whether the thing's own case keeps out rain: IPX4 and better (IEC 60529: splashes from all sides).
func Cased(it *kit.Item) bool {
	code := it.Water.Case
	if len(code) < 4 {
		return false
	}
	return code[3] >= '4' && code[3] <= '9'
}

// Exposed reports whether rain would spoil the thing in a zone that lets rain in.
func Exposed(it *kit.Item) bool { return Need(it) > 0 && !Cased(it) }
