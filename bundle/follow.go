package bundle

import (
	"reflect"
	"slices"

	"tornister/core/kit"
	"tornister/core/trail"
)

// Follow brings the lines of the kit list that follow the trip up to date: food, gas and water as they are worked out
// from it. A supply without a line gets one, a line whose supply is no more goes. Lines that the packer has fixed
// stay as they are, and supplies listed in the trip's without are left off. Nothing happens unless the trip says
// provide.
func (d Doc) Follow() error {
	b, err := FromDoc(d)
	if err != nil {
		return err
	}
	if !b.Task.Trip.Provide {
		return nil
	}
	wanted := map[string]trail.Supply{}
	var order []string
	for _, s := range b.Task.Trip.Supplies(b.Task.Method) {
		if !slices.Contains(b.Task.Trip.Without, s.Key) {
			wanted[s.Key] = s
			order = append(order, s.Key)
		}
	}
	var gone []string
	for i, item := range d.List("items") {
		key, _ := item["follows"].(string)
		supply, still := wanted[key]
		delete(wanted, key)
		switch {
		case key == "" || item["fixed"] == true:
		case !still:
			gone = append(gone, item["id"].(string))
		case !sameSupply(&b.Task.Items[i], supply):
			writeSupply(item, supply)
		}
	}
	for _, id := range gone {
		if err := d.RemoveItem(id); err != nil {
			return err
		}
	}
	items := d.List("items")
	for _, key := range order {
		if supply, missing := wanted[key]; missing {
			item := map[string]any{"id": d.FreshID(supply.Name), "follows": key}
			writeSupply(item, supply)
			items = append(items, item)
			d.SetItems(items)
		}
	}
	return nil
}

func sameSupply(it *kit.Item, s trail.Supply) bool {
	return it.Name == s.Name && it.Kind == s.Kind && it.Count == s.Count && it.MassG == s.MassG && it.Shape == s.Shape &&
		it.Day == s.Day
}

// writeSupply gives a line's object what its supply says; the rest of the object is the packer's.
func writeSupply(item map[string]any, s trail.Supply) {
	item["name"], item["kind"] = s.Name, s.Kind
	item["count"], item["mass_g"] = Number(float64(s.Count)), Number(s.MassG)
	item["measured"] = string(kit.Guess)
	item["shape"] = ShapeObject(s.Shape)
	delete(item, "day")
	if s.Day > 0 {
		item["day"] = Number(float64(s.Day))
	}
}

// ShapeObject is a shape as the format writes it, without the fields that are zero.
func ShapeObject(s kit.Shape) map[string]any {
	object := map[string]any{}
	v := reflect.ValueOf(s)
	for i := range v.NumField() {
		field := v.Field(i)
		if field.IsZero() {
			continue
		}
		key := fieldName(v.Type().Field(i))
		switch value := field.Interface().(type) {
		case kit.ShapeKind:
			object[key] = string(value)
		case float64:
			object[key] = Number(value)
		case [3]float64:
			object[key] = []any{Number(value[0]), Number(value[1]), Number(value[2])}
		}
	}
	return object
}

// Supplies works out what the trip of a document makes necessary, whether or not it is on the list.
func (b *Bundle) Supplies() []trail.Supply { return b.Task.Trip.Supplies(b.Task.Method) }
