package web

import (
	"slices"
	"strings"

	"tornister/bundle"
	"tornister/core/kit"
)

// notKnown reports whether a thing is of no kind that is known.
func notKnown(it *kit.Item) bool {
	_, known := kit.KindOf(it.Kind)
	return !known && !it.IsBag()
}

// kindOptions are the kinds that a thing may be taken for, by name.
func kindOptions(chosen string) []option {
	list := []option{{"", "something else", false}}
	for _, k := range kit.Kinds {
		list = append(list, option{k.ID, k.Name, k.ID == chosen})
	}
	slices.SortStableFunc(list[1:], func(a, b option) int { return strings.Compare(a.Label, b.Label) })
	return list
}

// guessAnew takes a thing that was never measured for what its form now says it is: the kind that was chosen, or else
// the one that its new name means. A weight that is known stays. False when nothing of that changed.
func (p *itemPatch) guessAnew(item map[string]any, now *kit.Item) bool {
	if now.Measured != kit.Guess || now.IsBag() {
		return false
	}
	id, given := p.c.GetPostForm("kind")
	renamed := strings.TrimSpace(p.text("name")) != now.Name
	switch {
	case given && id != now.Kind && (id != "" || !notKnown(now)):
	case renamed && item["shape"] == nil:
		kind, known := kit.KindNamed(p.text("name"))
		if id = kind.ID; !known {
			id = ""
		}
		if id == now.Kind {
			return false
		}
	default:
		return false
	}
	for _, key := range []string{"kind", "shape", "measured", "group", "use", "water", "traits", "functions", "needs",
		"consumable", "uncertainty"} {
		delete(item, key)
	}
	if item["mass_guess"] == true {
		delete(item, "mass_g")
		delete(item, "mass_guess")
	}
	if kind, known := kit.KindOf(id); known {
		item["kind"] = kind.ID
		if item["mass_g"] != nil {
			shape := kind.ShapeFor(now.MassG)
			item["shape"], item["measured"] = bundle.ShapeObject(shape), string(kit.Guess)
		}
	}
	own(item)
	return true
}
