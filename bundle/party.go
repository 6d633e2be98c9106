package bundle

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/party"
	"tornister/core/trail"
)

// A trip with a party keeps one bearer's pack at the top of its document, where every step finds it: the one whose
// pack lies on the floor. The others' packs and kits wait in the party. What the group shares belongs to nobody;
// the parts that a bearer carries stand in that bearer's list as well, marked with the id of the part.

// Party is who walks, what they share, and what was settled.
type Party struct {
	Now     string                       `json:"now,omitempty"` // whose pack is at the top; "" is the first
	Bearers []Bearer                     `json:"bearers"`
	Group   []map[string]any             `json:"group,omitempty"`  // items; those with parts, or of several pieces, can be divided
	Ties    []Tie                        `json:"ties,omitempty"`   // on ids of parts or of whole things
	Agreed  map[string]string            `json:"agreed,omitempty"` // part to bearer
	KeepL   float64                      `json:"keep_l,omitempty"` // litres that each pack is to keep free
	Checked map[string]map[string]string `json:"checked,omitempty"`
	Signed  map[string]Signed            `json:"signed,omitempty"` // by bearer
}

// Bearer is somebody of the party.
type Bearer struct {
	ID      string         `json:"id"`
	Name    string         `json:"name"`
	Kind    party.Kind     `json:"kind,omitempty"`
	Leads   bool           `json:"leads,omitempty"`
	Away    bool           `json:"away,omitempty"` // has dropped out
	LimitG  float64        `json:"limit_g,omitempty"`
	Carrier map[string]any `json:"carrier,omitempty"` // of those whose pack is not at the top
	Kit     map[string]any `json:"kit,omitempty"`     // likewise: pack, items, bags, pins, weighings, seen, look_back
}

// Tie is a rule on parts: see party.Tie.
type Tie struct {
	Rule   party.Rule `json:"rule"`
	Parts  []string   `json:"parts"`
	Bearer string     `json:"bearer,omitempty"`
	Who    string     `json:"who,omitempty"`
}

// Signed is who has signed a bearer's kit off, when, and what the list was then.
type Signed struct {
	By    string            `json:"by"`
	At    string            `json:"at"`
	Lines map[string]string `json:"lines"` // item id to what it was: count, name and state
}

// PartMark is the field of an item that is a part of the group's kit: its value is the part's id.
const PartMark = "party_part"

// ofOneBearer are the parts of a document that belong to the pack on the floor.
var ofOneBearer = []string{"pack", "items", "bags", "pins", "weighings", "seen", "look_back"}

// Party is the party of the trip, nil when one walks alone.
func (d Doc) Party() *Party {
	if d["party"] == nil {
		return nil
	}
	var p Party
	if err := Into(d["party"], &p); err != nil || len(p.Bearers) == 0 {
		return nil
	}
	if p.Now == "" {
		p.Now = p.Bearers[0].ID
	}
	return &p
}

// SetParty keeps a party; nil ends it.
func (d Doc) SetParty(p *Party) error {
	if p == nil {
		delete(d, "party")
		return nil
	}
	return d.setTop("party", p)
}

// Bearer is the bearer of an id, nil for none.
func (p *Party) Bearer(id string) *Bearer {
	if at := slices.IndexFunc(p.Bearers, func(b Bearer) bool { return b.ID == id }); at >= 0 {
		return &p.Bearers[at]
	}
	return nil
}

// Of is the document as it is for one bearer: with that one's pack on the floor.
func (d Doc) Of(bearer string) (Doc, error) {
	p := d.Party()
	if p == nil {
		return nil, problem("/party", "nobody else walks along", "add somebody to the party first")
	}
	one := d.Clone()
	return one, one.switchTo(bearer)
}

// putOnTop lays a bearer's kit on the floor.
func (d Doc) putOnTop(b *Bearer) {
	for _, key := range ofOneBearer {
		delete(d, key)
		if v := b.Kit[key]; v != nil {
			d[key] = cloneTree(v)
		}
	}
	if d["items"] == nil {
		d["items"] = []any{}
	}
	if d["pack"] == nil {
		d["pack"] = emptyPack()
	}
	trip, ok := d["trip"].(map[string]any)
	if !ok {
		trip = map[string]any{}
		d["trip"] = trip
	}
	delete(trip, "carrier")
	if b.Carrier != nil {
		trip["carrier"] = cloneTree(b.Carrier)
	}
}

func emptyPack() map[string]any {
	return map[string]any{"id": "pack", "zones": []any{map[string]any{"id": "body", "kind": "body", "volume_l": Number(40)}}}
}

// Switch puts another bearer's pack on the floor, and brings what follows the trip up to date there.
func (d Doc) Switch(to string) error {
	if err := d.switchTo(to); err != nil {
		return err
	}
	return d.Follow()
}

func (d Doc) switchTo(to string) error {
	p := d.Party()
	if p == nil || p.Bearer(to) == nil {
		return problem("/party/bearers", fmt.Sprintf("%q does not walk along", clip(to)), "choose somebody of the party")
	}
	if to == p.Now {
		return nil
	}
	was := p.Bearer(p.Now)
	was.Kit = map[string]any{}
	for _, key := range ofOneBearer {
		if d[key] != nil {
			was.Kit[key] = d[key]
		}
	}
	trip, _ := d["trip"].(map[string]any)
	was.Carrier, _ = trip["carrier"].(map[string]any)
	now := p.Bearer(to)
	d.putOnTop(now)
	p.Now, now.Kit, now.Carrier = to, nil, nil
	return d.SetParty(p)
}

// others are the things that those who walk along carry.
func (d Doc) others() (list []kit.Item, err error) {
	p := d.Party()
	if p == nil {
		return nil, nil
	}
	for i := range p.Bearers {
		b := &p.Bearers[i]
		if b.ID == p.Now || b.Away {
			continue
		}
		for _, object := range objects(b.Kit["items"]) {
			it, err := CompleteItem(object)
			if err != nil {
				return nil, err
			}
			list = append(list, *it)
		}
	}
	return list, nil
}

// AddBearer adds somebody with a kit: the pack, items and bags of another document, or an empty pack. A trip
// without a party begins one with whose pack it is.
func (d Doc) AddBearer(b Bearer, from Doc) (id string, err error) {
	p := d.Party()
	if p == nil {
		p = &Party{Now: "packer", Bearers: []Bearer{{ID: "packer", Name: "Whose pack this is", Kind: party.Adult, Leads: true}}}
	}
	if len(p.Bearers) >= party.MostBearers {
		return "", problem("/party/bearers", fmt.Sprintf("%d walk along already", len(p.Bearers)), fmt.Sprintf("share a larger group in parties of at most %d", party.MostBearers))
	}
	taken := map[string]bool{}
	for i := range p.Bearers {
		taken[p.Bearers[i].ID] = true
	}
	b.ID = FreeID(b.Name, "bearer", taken)
	b.Kit = map[string]any{"pack": emptyPack(), "items": []any{}}
	if from != nil {
		one := from.Clone()
		for _, key := range []string{"pack", "items", "bags", "pins"} {
			if one[key] != nil {
				b.Kit[key] = one[key]
			}
		}
		dropParts(b.Kit)
		if carrier, ok := one.Object("trip")["carrier"].(map[string]any); ok && b.Carrier == nil {
			b.Carrier = carrier
		}
	}
	p.Bearers = append(p.Bearers, b)
	return b.ID, d.SetParty(p)
}

// RemoveBearer takes somebody out of the party with pack and kit. The last one stays.
func (d Doc) RemoveBearer(id string) error {
	p := d.Party()
	if p == nil || p.Bearer(id) == nil {
		return problem("/party/bearers", "that one does not walk along any more", "look at the newest list")
	}
	if len(p.Bearers) == 1 {
		return d.SetParty(nil)
	}
	if p.Now == id {
		to := p.Bearers[0].ID
		if to == id {
			to = p.Bearers[1].ID
		}
		if err := d.Switch(to); err != nil {
			return err
		}
		p = d.Party()
	}
	p.Bearers = slices.DeleteFunc(p.Bearers, func(b Bearer) bool { return b.ID == id })
	for part, holder := range p.Agreed {
		if holder == id {
			delete(p.Agreed, part)
		}
	}
	delete(p.Checked, id)
	delete(p.Signed, id)
	return d.SetParty(p)
}

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
		name, _ := thing["name"].(string)
		if name == "" {
			name = title(id)
		}
		whole := cloneTree(thing).(map[string]any)
		delete(whole, "parts")
		delete(whole, "undivided")
		count := 1.0
		if n, ok := number(thing["count"]); ok {
			count = n
		}
		switch parts := objects(thing["parts"]); {
		case len(parts) > 0:
			for _, part := range parts {
				own, _ := part["id"].(string)
				called, _ := part["name"].(string)
				if called == "" {
					called = title(own)
				}
				list = append(list, Part{ID: id + "." + own, Of: id, Name: name + ": " + called, Item: cloneTree(part).(map[string]any)})
			}
		case count > 1 && thing["undivided"] != true:
			whole["count"] = Number(1)
			for n := range int(count) {
				list = append(list, Part{ID: fmt.Sprintf("%s.%d", id, n+1), Of: id, Name: fmt.Sprintf("%s %d", name, n+1), Item: cloneTree(whole).(map[string]any), Class: id})
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

// Shared is a party as the core shares it.
type Shared struct {
	Problem party.Problem
	Parts   []Part
	Tasks   map[string]*load.Task // of each bearer, own kit only
	pieces  map[string]kit.Item   // by part
	names   map[string]string
	free    *kit.Item // stands for the room that is to stay free
}

// Sharing works out what is to be shared: what each bearer carries in any case, and the parts.
func (d Doc) Sharing() (*Shared, error) {
	p := d.Party()
	if p == nil {
		return nil, problem("/party", "nobody else walks along", "add bearers and what the group shares")
	}
	s := &Shared{Parts: p.Parts(), Tasks: map[string]*load.Task{}, pieces: map[string]kit.Item{}, names: map[string]string{}}
	if p.KeepL > 0 {
		litres := Number(p.KeepL)
		free, err := CompleteItem(map[string]any{"id": "kept-free", "mass_g": Number(1), "shape": map[string]any{"kind": "soft", "loose_l": litres, "tight_l": litres}})
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
		s.Problem.Bearers = append(s.Problem.Bearers, party.Bearer{ID: b.ID, Kind: b.Kind, LimitG: b.limitG(&own.Task.Trip.Carrier), OwnG: ownG(&own.Task), Leads: b.Leads, Away: b.Away})
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
		s.Problem.Parts = append(s.Problem.Parts, party.Part{ID: part.ID, Of: part.Of, Same: part.Class, MassG: it.TotalG(), Fuel: it.Consumable == "fuel", Night: animals && it.Consumable == "food"})
	}
	for _, thing := range p.Group {
		id, _ := thing["id"].(string)
		if name, _ := thing["name"].(string); s.names[id] == "" {
			s.names[id] = name
		}
	}
	s.Problem.Agreed = p.Agreed
	for _, tie := range p.Ties {
		s.Problem.Ties = append(s.Problem.Ties, party.Tie{Rule: tie.Rule, Parts: s.partsOf(tie.Parts), Bearer: tie.Bearer, Who: tie.Who})
	}
	return s, nil
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
func ownG(task *load.Task) (g float64) {
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

// With is a bearer's task with parts of the group's kit, and the room that is to stay free.
func (s *Shared) With(bearer string, parts []string) *load.Task {
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
	p.Agreed = holder
	parts := p.Parts()
	for i := range p.Bearers {
		b := &p.Bearers[i]
		top := map[string]any(d)
		if b.ID != p.Now {
			if b.Kit == nil {
				b.Kit = map[string]any{"items": []any{}}
			}
			top = b.Kit
		}
		carry(top, b.ID, holder, parts)
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

// party checks that what a party names is there.
func (c *checker) party() {
	p := c.doc.Party()
	if p == nil {
		return
	}
	tree := c.doc.Object("party")
	bearers := c.unique(objects(tree["bearers"]), "/party/bearers")
	things := c.unique(objects(tree["group"]), "/party/group")
	if !bearers[p.Now] {
		c.report("/party/now", fmt.Sprintf("%q does not walk along", clip(p.Now)), "name one of: "+names(bearers))
	}
	for i, thing := range objects(tree["group"]) {
		c.unique(objects(thing["parts"]), fmt.Sprintf("/party/group/%d/parts", i))
	}
	parts := map[string]bool{}
	for _, part := range p.Parts() {
		parts[part.ID] = true
	}
	if len(parts) > party.MostParts {
		c.report("/party/group", fmt.Sprintf("comes to %d parts", len(parts)), fmt.Sprintf("give at most %d; mark pieces that stay together as undivided", party.MostParts))
	}
	for part, holder := range p.Agreed {
		if !bearers[holder] {
			c.report("/party/agreed/"+part, fmt.Sprintf("%q does not walk along", clip(holder)), "name one of: "+names(bearers))
		}
	}
	for i, tie := range p.Ties {
		at := fmt.Sprintf("/party/ties/%d", i)
		for n, name := range tie.Parts {
			if !parts[name] && !things[name] {
				c.report(fmt.Sprintf("%s/parts/%d", at, n), fmt.Sprintf("%q is no part of the group's kit", clip(name)), "name a thing of the group or one of its parts, such as tent or tent.inner")
			}
		}
		if (tie.Rule == party.Must || tie.Rule == party.MustNot) && (tie.Bearer == "") == (tie.Who == "") {
			c.report(at, "does not say who", `give either "bearer" with an id, or "who" with a kind of bearer or "leader"`)
		}
		if tie.Bearer != "" && !bearers[tie.Bearer] {
			c.report(at+"/bearer", fmt.Sprintf("%q does not walk along", clip(tie.Bearer)), "name one of: "+names(bearers))
		}
	}
}
