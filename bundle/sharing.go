package bundle

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/party"
	"tornister/core/trail"
)

// Part is a part of the group's kit as it goes into a list.
type Part struct {
	ID, Of, Name string
	Item         map[string]any
	Class        string // of pieces that are alike
}

// Parts are what can be carried by different bearers: the parts of what has parts, the pieces of what comes in
// pieces, and each other thing whole.
func (p *Party) Parts() (list []Part) {
	for _, thing := range p.Group {
		id, _ := thing["id"].(string)
		name := nameOf(thing)
		whole := cloneTree(thing).(map[string]any)
		delete(whole, "parts")
		delete(whole, "undivided")
		count := Count(thing)
		switch parts := objects(thing["parts"]); {
		case len(parts) > 0:
			for _, part := range parts {
				own, _ := part["id"].(string)
				list = append(list, Part{ID: id + "." + own, Of: id, Name: name + ": " + nameOf(part),
					Item: cloneTree(part).(map[string]any)})
			}
		case count > 1 && thing["undivided"] != true:
			whole["count"] = Number(1)
			for n := range count {
				list = append(list, Part{ID: fmt.Sprintf("%s.%d", id, n+1), Of: id, Name: fmt.Sprintf("%s %d", name, n+1),
					Item: cloneTree(whole).(map[string]any), Class: id})
			}
		default:
			list = append(list, Part{ID: id, Of: id, Name: name, Item: whole})
		}
	}
	for i := range list {
		list[i].Item["id"], list[i].Item["name"], list[i].Item[PartMark] = list[i].ID, list[i].Name, list[i].ID
	}
	return list
}

// partsAsCarried are the parts as they stand on the lists, where they do.
func (d Doc) partsAsCarried(p *Party) []Part {
	parts := p.Parts()
	held := d.held(p)
	for i := range parts {
		if h, on := held[parts[i].ID]; on {
			item := Own(h.item)
			item["id"], item["count"] = parts[i].ID, h.item["count"]
			if item["count"] == nil {
				delete(item, "count")
			}
			if name, _ := item["name"].(string); name != "" {
				parts[i].Name = name
			}
			parts[i].Item = item
		}
	}
	return parts
}

// Shared is a party as the core shares it.
type Shared struct {
	Problem party.Problem
	Parts   []Part
	Tasks   map[string]*job.Task // of each bearer, own kit only
	pieces  map[string]kit.Item  // by part
	names   map[string]string
	free    *kit.Item // stands for the room that is to stay free
}

// Sharing works out what is to be shared: what each bearer carries in any case, and the parts.
func (d Doc) Sharing() (*Shared, error) {
	p := d.Party()
	if p == nil {
		return nil, problem("/party", "nobody else walks along", "add bearers and what the group shares")
	}
	s := &Shared{Parts: d.partsAsCarried(p), Tasks: map[string]*job.Task{}, pieces: map[string]kit.Item{},
		names: map[string]string{}}
	if p.KeepL > 0 {
		litres := Number(p.KeepL)
		free, err := CompleteItem(map[string]any{"id": "kept-free", "mass_g": Number(1),
			"shape": map[string]any{"kind": "soft", "loose_l": litres, "tight_l": litres}})
		if err != nil {
			return nil, err
		}
		s.free = free
	}
	for i := range p.Bearers {
		b := &p.Bearers[i]
		one, err := d.Of(b.ID)
		if err != nil {
			return nil, err
		}
		delete(one, "party")
		dropParts(one)
		own, err := FromDoc(one)
		if err != nil {
			return nil, under(err, fmt.Sprintf("/party/bearers/%d/kit", i), b.ID == p.Now)
		}
		s.Tasks[b.ID], s.names[b.ID] = &own.Task, b.Name
		s.Problem.Bearers = append(s.Problem.Bearers,
			party.Bearer{ID: b.ID, Kind: b.Kind, LimitG: b.limitG(&own.Task.Trip.Carrier), OwnG: ownG(&own.Task),
				Leads: b.Leads, Away: b.Away})
	}
	trip := &s.Tasks[p.Bearers[0].ID].Trip
	animals := slices.ContainsFunc(trip.Camps, func(c trail.Camp) bool { return c.Animals })
	for i := range s.Parts {
		part := &s.Parts[i]
		it, err := CompleteItem(part.Item)
		if err != nil {
			return nil, under(err, "/party/group ("+part.ID+")", false)
		}
		s.pieces[part.ID], s.names[part.ID] = *it, part.Name
		s.Problem.Parts = append(s.Problem.Parts, party.Part{ID: part.ID, Of: part.Of, Same: part.Class, MassG: it.TotalG(),
			Fuel: it.Consumable == "fuel", Night: animals && it.Consumable == "food"})
	}
	for _, thing := range p.Group {
		id, _ := thing["id"].(string)
		if name, _ := thing["name"].(string); s.names[id] == "" {
			s.names[id] = name
		}
	}
	s.Problem.Agreed = p.Agreed
	for _, tie := range p.Ties {
		s.Problem.Ties = append(s.Problem.Ties, party.Tie{Rule: tie.Rule, Parts: s.partsOf(tie.Parts), Bearer: tie.Bearer,
			Who: tie.Who})
	}
	return s, nil
}

// settle puts what is agreed on the lists of a document that does not have it there, and reports whether it did.
func (d Doc) settle() (bool, error) {
	p := d.Party()
	if p == nil || len(p.Agreed) == 0 || len(d.held(p)) > 0 {
		return false, nil
	}
	return true, d.Share(p.Agreed)
}

// checkWaiting checks what no step looks at yet: the kits of those whose packs wait, and what the group shares.
func (d Doc) checkWaiting() error {
	p := d.Party()
	if p == nil {
		return nil
	}
	for _, part := range p.Parts() {
		if err := CheckItem(part.Item); err != nil {
			return under(err, "/party/group ("+part.ID+")", false)
		}
	}
	_, err := d.Sharing()
	return err
}

// partsOf gives the parts of what a tie names: a part, or a thing with all its parts.
func (s *Shared) partsOf(names []string) (ids []string) {
	for _, name := range names {
		for i := range s.Parts {
			if s.Parts[i].ID == name || s.Parts[i].Of == name {
				ids = append(ids, s.Parts[i].ID)
			}
		}
	}
	return ids
}

// under puts the pointers of problems below a place of the whole document.
func under(err error, at string, top bool) error {
	var problems Problems
	if top || !errors.As(err, &problems) {
		return err
	}
	moved := slices.Clone(problems)
	for i := range moved {
		moved[i].Pointer = at + moved[i].Pointer
	}
	return moved
}

// limitG is the most that a bearer may carry: as given, or the usual share of the own mass.
func (b *Bearer) limitG(carrier *trail.Carrier) float64 {
	if b.LimitG > 0 {
		return b.LimitG
	}
	return carrier.MassKg * 1000 * party.LimitShare(b.Kind)
}

// ownG is what a task has on the back: the pack and what is packed.
func ownG(task *job.Task) (g float64) {
	g = task.Pack.MassG
	for i := range task.Items {
		if task.Items[i].Carry == kit.Pack {
			g += task.Items[i].TotalG()
		}
	}
	return g
}

// Bearer is a bearer as the core knows it, nil for none.
func (s *Shared) Bearer(id string) *party.Bearer {
	if at := slices.IndexFunc(s.Problem.Bearers, func(b party.Bearer) bool { return b.ID == id }); at >= 0 {
		return &s.Problem.Bearers[at]
	}
	return nil
}

// Item is a part as a thing of the kit, nil for none. It is shared, and not to be changed.
func (s *Shared) Item(part string) *kit.Item {
	it, known := s.pieces[part]
	if !known {
		return nil
	}
	return &it
}

// MassG is what a bearer has on the back when the parts are held so.
func (s *Shared) MassG(bearer string, holder map[string]string) float64 {
	g := s.Bearer(bearer).OwnG
	for i := range s.Problem.Parts {
		if part := &s.Problem.Parts[i]; holder[part.ID] == bearer {
			g += part.MassG
		}
	}
	return g
}

// Name is what a bearer or a part is called, its id when it is neither.
func (s *Shared) Name(id string) string {
	if name, known := s.names[id]; known {
		return name
	}
	return id
}

// Names are what several bearers or parts are called.
func (s *Shared) Names(ids []string) string {
	list := make([]string, len(ids))
	for i, id := range ids {
		list[i] = s.Name(id)
	}
	return strings.Join(list, ", ")
}

// With is a bearer's task with parts of the group's kit, and the room that is to stay free.
func (s *Shared) With(bearer string, parts []string) *job.Task {
	own := s.Tasks[bearer]
	task := *own
	task.Items = slices.Clone(own.Items)
	for _, id := range parts {
		task.Items = append(task.Items, s.pieces[id])
	}
	if s.free != nil {
		task.Items = append(task.Items, *s.free)
	}
	return &task
}

// Packs try what the bearers would have to carry: quickly, with what is left out reckoned in litres.
func (s *Shared) Packs() *party.Packs {
	return &party.Packs{Task: s.With, Options: load.Options{Seed: 1, Quick: true, Rough: true}}
}

// Share settles who carries what: the parts go from and to the lists.
func (d Doc) Share(holder map[string]string) error {
	p := d.Party()
	if p == nil {
		return problem("/party", "nobody else walks along", "add bearers first")
	}
	parts := d.partsAsCarried(p)
	p.Agreed = holder
	for i := range p.Bearers {
		carry(d.kitOf(p, &p.Bearers[i]), p.Bearers[i].ID, holder, parts)
	}
	return d.SetParty(p)
}

// carry brings one list up to date with what its bearer carries of the group's kit.
func carry(top map[string]any, bearer string, holder map[string]string, parts []Part) {
	wanted := map[string]Part{}
	for _, part := range parts {
		if holder[part.ID] == bearer {
			wanted[part.ID] = part
		}
	}
	items := []any{}
	taken := map[string]bool{}
	for _, item := range objects(top["items"]) {
		mark, _ := item[PartMark].(string)
		if _, still := wanted[mark]; mark != "" && !still {
			continue
		}
		delete(wanted, mark)
		items = append(items, item)
		id, _ := item["id"].(string)
		taken[id] = true
	}
	for _, part := range parts {
		if _, missing := wanted[part.ID]; missing {
			item := cloneTree(part.Item).(map[string]any)
			item["id"] = FreeID(strings.ReplaceAll(part.ID, ".", " "), "part", taken)
			taken[item["id"].(string)] = true
			items = append(items, item)
		}
	}
	top["items"] = items
}

// dropParts takes what is the group's out of a list.
func dropParts(top map[string]any) {
	items := []any{}
	for _, item := range objects(top["items"]) {
		if item[PartMark] == nil {
			items = append(items, item)
		}
	}
	top["items"] = items
}
