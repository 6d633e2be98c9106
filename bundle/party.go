package bundle

import (
	"fmt"
	"slices"

	"tornister/core/kit"
	"tornister/core/party"
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
	if held := d.held(&p); len(held) > 0 {
		p.Agreed = map[string]string{}
		for part, h := range held {
			p.Agreed[part] = h.bearer
		}
	}
	return &p
}

// kitOf is where a bearer's pack and list stand: at the top for whose pack is on the floor.
func (d Doc) kitOf(p *Party, b *Bearer) map[string]any {
	if b.ID == p.Now {
		return d
	}
	if b.Kit == nil {
		b.Kit = map[string]any{"items": []any{}}
	}
	return b.Kit
}

// AddThing puts a thing into the middle under an id of its own.
func (p *Party) AddThing(thing map[string]any) {
	name, _ := thing["name"].(string)
	thing["id"] = FreeID(name, "thing", idsOf(p.Group))
	p.Group = append(p.Group, thing)
}

// Away reports whether a bearer has dropped out or is not of the party at all.
func (p *Party) Away(bearer string) bool {
	b := p.Bearer(bearer)
	return b == nil || b.Away
}

// holding is a part of the group's kit on a bearer's list.
type holding struct {
	bearer string
	item   map[string]any
}

// held are the parts that stand on lists: what is carried is what stands there, as it was corrected there.
func (d Doc) held(p *Party) map[string]holding {
	held := map[string]holding{}
	for i := range p.Bearers {
		for _, item := range objects(d.kitOf(p, &p.Bearers[i])["items"]) {
			if part, _ := item[PartMark].(string); part != "" {
				held[part] = holding{p.Bearers[i].ID, item}
			}
		}
	}
	return held
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
	trip := d.Object("trip")
	delete(trip, "carrier")
	if b.Carrier != nil {
		trip["carrier"] = cloneTree(b.Carrier)
	}
}

func emptyPack() map[string]any {
	return map[string]any{"id": "pack",
		"zones": []any{map[string]any{"id": "body", "kind": "body", "volume_l": Number(40)}}}
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
		p = &Party{Now: "packer", Bearers: []Bearer{{ID: "packer", Name: "Whose pack this is", Kind: party.Adult,
			Leads: true}}}
	}
	if len(p.Bearers) >= party.MostBearers {
		return "", problem("/party/bearers", fmt.Sprintf("%d walk along already", len(p.Bearers)),
			fmt.Sprintf("share a larger group in parties of at most %d", party.MostBearers))
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
		c.report("/party/group", fmt.Sprintf("comes to %d parts", len(parts)),
			fmt.Sprintf("give at most %d; mark pieces that stay together as undivided", party.MostParts))
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
				c.report(fmt.Sprintf("%s/parts/%d", at, n), fmt.Sprintf("%q is no part of the group's kit", clip(name)),
					"name a thing of the group or one of its parts, such as tent or tent.inner")
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
