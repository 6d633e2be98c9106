package bundle

import (
	"fmt"
	"slices"

	"tornister/core/kit"
	"tornister/core/weigh"
)

// Weighing is a reading of a scale that the trip keeps.
type Weighing struct {
	At    string      `json:"at,omitempty"`
	Scale weigh.Scale `json:"scale,omitempty"`
	What  any         `json:"what"` // "pack", or ids of items
	G     float64     `json:"g"`
}

// Whole reports whether the whole pack was on the scale.
func (w *Weighing) Whole() bool { return w.What == "pack" }

// Items are the ids of what was on the scale, nil for the whole pack.
func (w *Weighing) Items() (ids []string) {
	list, _ := w.What.([]any)
	for _, v := range list {
		if id, ok := v.(string); ok {
			ids = append(ids, id)
		}
	}
	return ids
}

// Seen is what the packed pack showed when it was tried; nil for what was not asked.
type Seen struct {
	Stands  *bool   `json:"stands,omitempty"`
	Rattles *bool   `json:"rattles,omitempty"`
	Closes  *bool   `json:"closes,omitempty"`
	FillCm  float64 `json:"fill_cm,omitempty"`
}

// Weighings are the readings of the trip, in the order in which they were taken.
func (d Doc) Weighings() (list []Weighing) {
	_ = Into(d["weighings"], &list)
	return list
}

// AddWeighing keeps a reading.
func (d Doc) AddWeighing(w Weighing) error { return d.setTop("weighings", append(d.Weighings(), w)) }

// RemoveWeighing forgets the reading at a place of the list.
func (d Doc) RemoveWeighing(at int) error {
	list := d.Weighings()
	if at < 0 || at >= len(list) {
		return Problems{{Pointer: "/weighings", What: "there is no such reading any more", Mend: "look at the newest list"}}
	}
	list = slices.Delete(list, at, at+1)
	if len(list) == 0 {
		delete(d, "weighings")
		return nil
	}
	return d.setTop("weighings", list)
}

// Seen is what the packed pack showed.
func (d Doc) Seen() (s Seen) {
	_ = Into(d["seen"], &s)
	return s
}

// SetSeen keeps what it showed.
func (d Doc) SetSeen(s Seen) error { return d.setTop("seen", s) }

func (d Doc) setTop(key string, v any) error {
	tree, err := Tree(v)
	if err != nil {
		return err
	}
	d[key] = tree
	return nil
}

// PackLine is the id under which the pack itself is weighed with its list.
const PackLine = "the pack itself"

// OnTheScale is the list as a scale sees it: every packed line, and last the pack itself.
func (b *Bundle) OnTheScale() (things []weigh.Thing) {
	raw := b.Doc.List("items")
	for i := range b.Task.Items {
		it := &b.Task.Items[i]
		if it.Carry == kit.Pack {
			things = append(things, weigh.Thing{ID: it.ID, MassG: it.TotalG(), From: massFrom(raw[i])})
		}
	}
	return append(things, weigh.Thing{ID: PackLine, MassG: b.Task.Pack.MassG, From: weigh.Label})
}

// massFrom says where the mass of an item's object comes from.
func massFrom(item map[string]any) weigh.From {
	if from, ok := item["mass_from"].(string); ok {
		return weigh.From(from)
	}
	if item["mass_g"] == nil || item["mass_guess"] == true {
		return weigh.Guess
	}
	return weigh.Label
}

// Readings are the trip's weighings of the list on the scale. Dry bags in use weigh bagsG with the whole pack.
// What is not on the list any more is left out of a reading; gone says of how many readings.
func (b *Bundle) Readings(things []weigh.Thing, bagsG float64) (readings []weigh.Reading, gone int) {
	at := map[string]int{}
	for i := range things {
		at[things[i].ID] = i
	}
	for _, w := range b.Doc.Weighings() {
		r := weigh.Reading{Scale: w.Scale, G: w.G}
		if r.Scale == "" {
			r.Scale = weigh.Hanging
		}
		if w.Whole() {
			r.BaseG = bagsG
			for i := range things {
				r.What = append(r.What, i)
			}
		}
		missed := false
		for _, id := range w.Items() {
			i, on := at[id]
			if missed = missed || !on; on {
				r.What = append(r.What, i)
			}
		}
		if missed {
			gone++
		}
		readings = append(readings, r)
	}
	markOdd(readings)
	return readings, gone
}

// Weighed is what the readings of a trip say of its list.
type Weighed struct {
	Things   []weigh.Thing
	Readings []weigh.Reading
	Gone     int // readings of things that are not on the list any more
	*weigh.Verdict
}

// Weighed sets the trip's readings against its list; dry bags in use weigh bagsG.
func (b *Bundle) Weighed(bagsG float64) *Weighed {
	w := &Weighed{Things: b.OnTheScale()}
	w.Readings, w.Gone = b.Readings(w.Things, bagsG)
	w.Verdict = weigh.Judge(w.Things, w.Readings)
	return w
}

// markOdd finds, among readings of the same things, those that do not go with the others.
func markOdd(readings []weigh.Reading) {
	same := map[string][]int{}
	for i := range readings {
		key := fmt.Sprint(readings[i].What)
		same[key] = append(same[key], i)
	}
	for _, list := range same {
		grams := make([]float64, len(list))
		for n, i := range list {
			grams[n] = readings[i].G
		}
		_, odd := weigh.Agree(readings[list[0]].Scale, grams)
		for n, i := range list {
			readings[i].Odd = odd[n]
		}
	}
}
