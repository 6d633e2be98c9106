package bundle

import (
	"errors"
	"slices"
	"strings"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/shrink"
)

// placed are the fields of an item that belong to its place on one trip's list, not to the thing itself.
var placed = []string{"id", "count", "carry", "nest_in", "day", "follows", "fixed", "made_small"}

// Own gives what an item's object says of the thing itself, as a new object: with its name, which on a list may follow
// from its id.
func Own(item map[string]any) map[string]any {
	own := cloneTree(item).(map[string]any)
	if name := nameOf(own); name != "" {
		own["name"] = name
	}
	for _, key := range placed {
		delete(own, key)
	}
	return own
}

// Again gives a thing, of which own says what it is, as a line for a list: as many and carried as last says of the
// latest list that it was on, and otherwise carried as its kind is (a transceiver is worn).
func Again(own, last map[string]any) map[string]any {
	line := Own(own)
	for field, value := range last {
		line[field] = value
	}
	id, _ := line["kind"].(string)
	if kind, known := kit.KindOf(id); known && kind.Carry != "" && line["carry"] == nil {
		line["carry"] = string(kind.Carry)
	}
	return line
}

// TakeOwn makes an item's object say of the thing itself what own says, and leaves its place on the list alone.
func TakeOwn(item, own map[string]any) {
	for key := range item {
		if !slices.Contains(placed, key) {
			delete(item, key)
		}
	}
	for key, value := range own {
		if !slices.Contains(placed, key) {
			item[key] = cloneTree(value)
		}
	}
}

// CheckItem checks the object of a thing as if it stood in a bundle; the pointers of its problems begin at the
// object.
func CheckItem(object map[string]any) error {
	item := cloneTree(object).(map[string]any)
	if item["id"] == nil {
		item["id"] = "thing"
	}
	_, err := FromDoc(Doc{"format": "tornister", "version": Number(1),
		"pack": map[string]any{"id": "p",
			"zones": []any{map[string]any{"id": "body", "kind": "body", "volume_l": Number(30)}}}, "items": []any{item}})
	return within(err, "/items/0")
}

// CheckPack checks the object of a pack and completes it; the pointers of its problems begin at the object.
func CheckPack(object map[string]any) (*rucksack.Pack, error) {
	b, err := FromDoc(Doc{"format": "tornister", "version": Number(1), "pack": cloneTree(object), "items": []any{}})
	if err != nil {
		return nil, within(err, "/pack")
	}
	return &b.Task.Pack, nil
}

// within shortens the pointers of problems to those inside an object.
func within(err error, at string) error {
	var problems Problems
	if !errors.As(err, &problems) {
		return err
	}
	shortened := slices.Clone(problems)
	for i := range shortened {
		shortened[i].Pointer = strings.TrimPrefix(shortened[i].Pointer, at)
	}
	return shortened
}

// SetPack puts a pack into the document. Pins to zones that it does not have go.
func (d Doc) SetPack(object map[string]any) {
	d["pack"] = cloneTree(object)
	if d["pins"] == nil {
		return
	}
	zones := map[any]bool{}
	for _, z := range objects(object["zones"]) {
		zones[z["id"]] = true
	}
	var pins []map[string]any
	for _, p := range d.List("pins") {
		if p["zone"] == nil || zones[p["zone"]] {
			pins = append(pins, p)
		}
	}
	d.SetPins(pins)
}

// Take makes the changes of moves to the kit list.
func (d Doc) Take(moves []shrink.Move, shelf map[string]map[string]any) error {
	for _, m := range moves {
		err := d.EditItem(m.Item, func(item map[string]any) error {
			c := m.Change
			if own := shelf[m.With]; m.Way == shrink.Swap && own != nil {
				TakeOwn(item, own)
				item["shelf"] = m.With
			}
			if c.Carry != "" {
				item["carry"] = string(c.Carry)
			}
			if c.Count > 0 {
				item["count"] = Number(float64(c.Count))
			}
			if c.MassG != nil {
				item["mass_g"] = Number(*c.MassG)
			}
			if c.Shape != nil {
				item["shape"] = ShapeObject(*c.Shape)
			}
			if c.NestIn != "" {
				item["nest_in"] = c.NestIn
			}
			if c.Mark != "" {
				marks, _ := item["made_small"].([]any)
				item["made_small"] = append(slices.Clone(marks), c.Mark)
			}
			return nil
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// Things completes the objects of things for the core: with the shelf key as id.
func Things(objects []map[string]any) ([]kit.Item, error) {
	items := make([]kit.Item, 0, len(objects))
	for _, object := range objects {
		it, err := CompleteItem(object)
		if err != nil {
			return nil, err
		}
		items = append(items, *it)
	}
	return items, nil
}
