package bundle

import (
	"maps"
	"slices"

	"tornister/core/kit"
	"tornister/core/learn"
	"tornister/core/trail"
)

// LookBack is what became of things on a trip that is over, and what was left.
type LookBack struct {
	Items   map[string]learn.Answer `json:"items,omitempty"`
	FoodG   *float64                `json:"food_left_g,omitempty"`
	GasG    *float64                `json:"gas_left_g,omitempty"`
	DrunkL  *float64                `json:"drunk_l,omitempty"`
	WalkedH *float64                `json:"walked_h,omitempty"`
	Missing []string                `json:"missing,omitempty"`
	Counted bool                    `json:"counted,omitempty"` // to the histories of the things
}

// Hand are the packer's factors, learned from trips before this one. Nil is what is not learned.
type Hand struct {
	Room  *learn.Belief `json:"room,omitempty"`
	Food  *learn.Belief `json:"g_per_day,omitempty"`
	Water *learn.Belief `json:"water_l_per_hour,omitempty"`
	Gas   *learn.Belief `json:"gas_g_per_l,omitempty"`
	Pace  *learn.Belief `json:"pace,omitempty"` // hours beside those of Naismith's rule
}

// LookBack is what the trip keeps of it.
func (d Doc) LookBack() (l LookBack) {
	_ = Into(d["look_back"], &l)
	if l.Items == nil {
		l.Items = map[string]learn.Answer{}
	}
	return l
}

// SetLookBack keeps it.
func (d Doc) SetLookBack(l LookBack) error { return d.setTop("look_back", l) }

// Hand are the factors that this trip is planned with.
func (d Doc) Hand() (h Hand) {
	_ = Into(d["hand"], &h)
	return h
}

// SetHand plans the trip with other factors, and lets what is planned from them follow.
func (d Doc) SetHand(h Hand) error {
	old := d.Hand()
	if h == (Hand{}) {
		delete(d, "hand")
	} else if err := d.setTop("hand", h); err != nil {
		return err
	}
	trip := d.Object("trip")
	eating, _ := trip["eating"].(map[string]any)
	if eating == nil {
		eating = map[string]any{}
	}
	for key, value := range old.eating() { // what the hand before said goes; what the packer said stays
		if eating[key] == value {
			delete(eating, key)
		}
	}
	for key, value := range h.eating() {
		eating[key] = value
	}
	delete(trip, "eating")
	if len(eating) > 0 {
		trip["eating"] = eating
	}
	return d.Follow()
}

// eating is what the factors say of eating, drinking and burning, as a trip has it.
func (h Hand) eating() map[string]any {
	says := map[string]any{}
	if h.Food != nil {
		says["g_per_day"] = Number(roundTo3(h.Food.Mean))
	}
	if h.Water != nil {
		says["water_l_per_hour"] = Number(roundTo3(h.Water.Mean))
	}
	if h.Gas != nil { // less gas a litre is a better stove
		says["stove_efficiency"] = Number(roundTo3(min(1, trail.GasG(1, trail.StreamC, false, 1)/h.Gas.Mean)))
	}
	return says
}

func roundTo3(v float64) float64 { return float64(int(v*1000+0.5)) / 1000 }

// Count takes what became of things to their histories, once: packed ones were carried, and used or not as answered.
func (d Doc) Count() error {
	l := d.LookBack()
	if l.Counted {
		return nil
	}
	for _, id := range slices.Sorted(maps.Keys(l.Items)) {
		answer := l.Items[id]
		if _, err := d.item(id); err != nil {
			continue // gone from the list since
		}
		err := d.EditItem(id, func(item map[string]any) error {
			var h kit.History
			_ = Into(item["history"], &h)
			h.Carried++
			if answer != learn.Unused {
				h.Used++
			}
			item["history"] = map[string]any{"carried": Number(float64(h.Carried)), "used": Number(float64(h.Used))}
			return nil
		})
		if err != nil {
			return err
		}
	}
	l.Counted = true
	return d.SetLookBack(l)
}
