package bundle

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// CheckState is what a kit check says of a line.
type CheckState string

// The states. "" is not looked at yet.
const (
	HasIt   CheckState = "has"
	Lent    CheckState = "lent" // by the centre
	Missing CheckState = "missing"
	NotGood CheckState = "bad"
)

// CheckLine is a line of a bearer's list as the kit check sees it.
type CheckLine struct {
	ID, Name string
	Count    int
	State    CheckState
}

// told is the line as a sign-off keeps it.
func (l *CheckLine) told() string { return fmt.Sprintf("%d × %s: %s", l.Count, l.Name, l.State) }

// CheckLines are the lines of a bearer that are to be there: all but what is left at home.
func (d Doc) CheckLines(bearer string) (lines []CheckLine) {
	p := d.Party()
	if p == nil || p.Bearer(bearer) == nil {
		return nil
	}
	for _, item := range objects(d.kitOf(p, p.Bearer(bearer))["items"]) {
		id, _ := item["id"].(string)
		if item["carry"] == "left" {
			continue
		}
		line := CheckLine{ID: id, Name: nameOf(item), Count: Count(item), State: CheckState(p.Checked[bearer][id])}
		lines = append(lines, line)
	}
	return lines
}

// Check says of lines of a bearer how they are; "" takes it back.
func (d Doc) Check(bearer string, state CheckState, ids ...string) error {
	p := d.Party()
	lines := d.CheckLines(bearer)
	if p == nil || p.Bearer(bearer) == nil {
		return problem("/party/bearers", "that one does not walk along any more", "look at the newest list")
	}
	if !slices.Contains([]CheckState{"", HasIt, Lent, Missing, NotGood}, state) {
		return problem("/party/checked", "there is no such answer", "choose one of the buttons")
	}
	if p.Checked == nil {
		p.Checked = map[string]map[string]string{}
	}
	if p.Checked[bearer] == nil {
		p.Checked[bearer] = map[string]string{}
	}
	for _, id := range ids {
		if !slices.ContainsFunc(lines, func(l CheckLine) bool { return l.ID == id }) {
			return problem("/party/checked", "there is no such line any more", "look at the newest list")
		}
		if p.Checked[bearer][id] = string(state); state == "" {
			delete(p.Checked[bearer], id)
		}
	}
	return d.SetParty(p)
}

// Sign signs a bearer's kit off as it is now. Every line must be there and good.
func (d Doc) Sign(bearer, by, at string) error {
	lines := d.CheckLines(bearer)
	var open, wrong []string
	signed := Signed{By: strings.TrimSpace(by), At: at, Lines: map[string]string{}}
	for i := range lines {
		l := &lines[i]
		switch l.State {
		case "":
			open = append(open, l.Name)
		case Missing, NotGood:
			wrong = append(wrong, l.Name)
		}
		signed.Lines[l.ID] = l.told()
	}
	switch {
	case len(lines) == 0:
		return problem("/party/signed", "there is nothing on that list", "lay out the kit first")
	case len(open) > 0:
		return problem("/party/signed", fmt.Sprintf("%d not looked at yet: %s", len(open), few(open)),
			"look at them, or say that all are there")
	case len(wrong) > 0:
		return problem("/party/signed", fmt.Sprintf("%d missing or not good: %s", len(wrong), few(wrong)),
			"put that right first, or leave it at home")
	case signed.By == "":
		return problem("/party/signed", "nobody's name stands under it", "write who has looked")
	}
	p := d.Party()
	if p.Signed == nil {
		p.Signed = map[string]Signed{}
	}
	p.Signed[bearer] = signed
	return d.SetParty(p)
}

func few(names []string) string {
	if len(names) > 4 {
		return strings.Join(names[:4], ", ") + " and more"
	}
	return strings.Join(names, ", ")
}

// SignedOff is who has signed a bearer's kit off, nil when nobody has. A kit that was changed afterwards is not
// signed off any more: why says what is different.
func (d Doc) SignedOff(bearer string) (signed *Signed, why []string) {
	p := d.Party()
	if p == nil {
		return nil, nil
	}
	s, ok := p.Signed[bearer]
	if !ok {
		return nil, nil
	}
	was := maps.Clone(s.Lines)
	lines := d.CheckLines(bearer)
	for i := range lines {
		l := &lines[i]
		old, known := was[l.ID]
		delete(was, l.ID)
		switch {
		case !known:
			why = append(why, l.Name+" is new on the list")
		case old != l.told():
			why = append(why, fmt.Sprintf("%s, now %s", old, l.told()))
		}
	}
	for _, id := range slices.Sorted(maps.Keys(was)) {
		why = append(why, was[id]+": not on the list any more")
	}
	return &s, why
}

// PartyAgain makes the party that of another trip: what was checked, signed, weighed and looked back on is of the
// last.
func (d Doc) PartyAgain() error {
	p := d.Party()
	if p == nil {
		return nil
	}
	p.Checked, p.Signed = nil, nil
	for i := range p.Bearers {
		for _, key := range []string{"look_back", "seen", "weighings"} {
			delete(p.Bearers[i].Kit, key)
		}
	}
	return d.SetParty(p)
}
