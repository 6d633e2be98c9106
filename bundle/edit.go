package bundle

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"

	"tornister/core/job"
	"tornister/core/kit"
)

// SetItems replaces the kit list.
func (d Doc) SetItems(items []map[string]any) { d.setList("items", items) }

// SetPins replaces the pins.
func (d Doc) SetPins(pins []map[string]any) { d.setList("pins", pins) }

// SetBags replaces the bags owned.
func (d Doc) SetBags(bags []map[string]any) { d.setList("bags", bags) }

func (d Doc) setList(key string, list []map[string]any) {
	entries := make([]any, len(list))
	for i, o := range list {
		entries[i] = o
	}
	d[key] = entries
}

// Object gives an object of the document, such as "method", making it when it is not there.
func (d Doc) Object(key string) map[string]any {
	object, ok := d[key].(map[string]any)
	if !ok {
		object = map[string]any{}
		d[key] = object
	}
	return object
}

// item finds an item by id.
func (d Doc) item(id string) (map[string]any, error) {
	for _, item := range d.List("items") {
		if item["id"] == id {
			return item, nil
		}
	}
	return nil, problem("/items", fmt.Sprintf("%q is not on the list any more", id), "go back to the list")
}

// EditItem changes one item in place.
func (d Doc) EditItem(id string, edit func(item map[string]any) error) error {
	item, err := d.item(id)
	if err != nil {
		return err
	}
	return edit(item)
}

// AddKitBag puts a kit bag on the list and keeps some of its things in it.
func (d Doc) AddKitBag(name string, items []string) (id string, err error) {
	id = d.FreshID(name)
	for _, it := range items {
		if err := d.EditItem(it, func(item map[string]any) error { item["nest_in"] = id; return nil }); err != nil {
			return "", err
		}
	}
	d.SetItems(append(d.List("items"), map[string]any{"id": id, "name": name, "kind": kit.KitBag}))
	return id, nil
}

// DuplicateItem puts a copy with an id of its own behind an item.
func (d Doc) DuplicateItem(id string) error {
	item, err := d.item(id)
	if err != nil {
		return err
	}
	twin := cloneTree(item).(map[string]any)
	twin["id"] = d.FreshID(id)
	if name, ok := twin["name"].(string); ok {
		twin["name"] = name + ", another"
	}
	var items []map[string]any
	for _, it := range d.List("items") {
		items = append(items, it)
		if it["id"] == id {
			items = append(items, twin)
		}
	}
	d.SetItems(items)
	return nil
}

// RemoveItem takes an item off the list, with its pins; what was to be carried inside it is left to the planner.
func (d Doc) RemoveItem(id string) error {
	if _, err := d.item(id); err != nil {
		return err
	}
	items := []map[string]any{}
	for _, it := range d.List("items") {
		if it["nest_in"] == id {
			delete(it, "nest_in")
		}
		if it["id"] != id {
			items = append(items, it)
		}
	}
	d.SetItems(items)
	if d["pins"] != nil {
		pins := []map[string]any{}
		for _, p := range d.List("pins") {
			if p["item"] != id {
				pins = append(pins, p)
			}
		}
		d.SetPins(pins)
	}
	return nil
}

// Pin sets the packer's wish for an item, or one piece of it (0 for all). A pin without zone, lane and place takes
// the wish out.
func (d Doc) Pin(wish job.Pin) {
	pins := []map[string]any{}
	for _, p := range d.List("pins") {
		n, _ := number(p["piece"])
		if p["item"] != wish.Item || wish.Piece != 0 && n != 0 && int(n) != wish.Piece {
			pins = append(pins, p)
		}
	}
	if wish.Zone != "" || wish.Place > 0 || wish.Lane != job.Full {
		pin := map[string]any{"item": wish.Item}
		if wish.Piece > 0 {
			pin["piece"] = Number(float64(wish.Piece))
		}
		if wish.Zone != "" {
			pin["zone"] = wish.Zone
		}
		if wish.Lane != job.Full {
			pin["lane"] = string(wish.Lane)
		}
		if wish.Place > 0 {
			pin["place"] = Number(float64(wish.Place))
		}
		pins = append(pins, pin)
	}
	d.SetPins(pins)
}

// FreshID makes an id out of a name that no item has yet.
func (d Doc) FreshID(name string) string { return d.freshID(name, "items", "thing") }

// FreshBagID makes an id out of a name that no bag has yet.
func (d Doc) FreshBagID(name string) string { return d.freshID(name, "bags", "bag") }

func (d Doc) freshID(name, list, otherwise string) string {
	return FreeID(name, otherwise, idsOf(d.List(list)))
}

// idsOf are the ids that objects have.
func idsOf(list []map[string]any) map[string]bool {
	taken := map[string]bool{}
	for _, o := range list {
		id, _ := o["id"].(string)
		taken[id] = true
	}
	return taken
}

// Count is how many pieces an item's object stands for.
func Count(item map[string]any) int {
	if n, ok := number(item["count"]); ok {
		return int(n)
	}
	return 1
}

// FreeID makes an id out of a name, or out of another word when the name has no letter for it.
func FreeID(name, otherwise string, taken map[string]bool) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	base := strings.Trim(b.String(), "-")
	if base == "" {
		base = otherwise
	}
	base = strings.TrimRight(base[:min(len(base), 50)], "-")
	id := base
	for n := 2; taken[id]; n++ {
		id = fmt.Sprintf("%s-%d", base, n)
	}
	return id
}

// Number is a value as documents keep it.
func Number(v float64) json.Number { return json.Number(plain(v)) }

// Tree turns a value into the form that documents keep, by way of its JSON.
func Tree(v any) (any, error) {
	text, err := json.Marshal(v)
	if err != nil {
		return nil, err
	}
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	var tree any
	return tree, decoder.Decode(&tree)
}

// Into reads a part of a document into a value; a part that is not there leaves it as it is.
func Into(tree, v any) error {
	if tree == nil {
		return nil
	}
	text, err := json.Marshal(tree)
	if err != nil {
		return err
	}
	decoder := json.NewDecoder(bytes.NewReader(text))
	decoder.UseNumber()
	return decoder.Decode(v)
}

// Place names a place of the document in words: the thing, zone or bag that a JSON pointer leads to, with what is
// named of it.
func (d Doc) Place(pointer string) string {
	var at any = map[string]any(d)
	name := ""
	for token := range strings.SplitSeq(strings.TrimPrefix(pointer, "/"), "/") {
		switch t := at.(type) {
		case map[string]any:
			at = t[strings.NewReplacer("~1", "/", "~0", "~").Replace(token)]
		case []any:
			n, err := strconv.Atoi(token)
			if err != nil || n < 0 || n >= len(t) {
				return pointer
			}
			at = t[n]
		}
		if object, ok := at.(map[string]any); ok {
			for _, key := range []string{"id", "name"} { // the name, where there is one
				if text, ok := object[key].(string); ok && text != "" {
					name = text
				}
			}
		}
	}
	if name == "" {
		return pointer
	}
	return fmt.Sprintf("%s (%s)", Plain(name), pointer)
}
