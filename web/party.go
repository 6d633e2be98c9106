package web

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/party"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
)

// partyView is the room Party: the group's kit on the ground, who carries what, and how fair that is.
type partyView struct {
	Alone   bool
	Ground  template.HTML
	Things  []groupThing
	Bearers []bearerRow
	Legend  []draw.Swatch
	Try     *shareTry
	Part    *partView
	Bearer  *bearerView
	Add     addBearerView
	Lines   string // typed for the group and not understood
	Wrong   []string
	Keep    field
	Ties    []tieRow
	Usual   []string // ties that are common practice and not there
	Parts   []option
	Whom    []option
	Checks  []partyCheck
	Heads   string // shelter a head
	Href    string
	Short   []shortRow // what the party takes of the centre's shelf
	Centre  []option
	Anew    bool // somebody is away, or parts are nobody's
}

// groupThing is a thing of the group's with its parts.
type groupThing struct {
	ID, Name string
	Parts    []partRow
}

type partRow struct {
	ID, Name, Mass, Href, Holder string
	Swatch                       template.HTML
	Chosen                       bool
}

type partView struct{ ID, Name, Mass, Holder string }

type tieRow struct {
	At    int
	Words string
}

// partyCheck is one of the six checks for the party: the worst of its bearers.
type partyCheck struct{ Name, State, Word string }

// shareTry is a sharing that can be taken: now and with it.
type shareTry struct {
	Mode, Words, Proof string
	Rows               []shareRow
	Moves              []string
	Same               bool
}

type shareRow struct {
	Name, Now, Then string
	Bar             template.HTML
	Changed         bool
}

// sharesFound is what a search for a sharing came to.
type sharesFound struct {
	answer *party.Answer
	err    error
}

// longestShare is how long a search for a sharing may take while somebody waits.
const longestShare = 4 * time.Second

// sharing looks for a sharing, once for what is to be shared.
func (s *Server) sharing(t *trip, shared *bundle.Shared, keep bool) *sharesFound {
	return s.shares.of(fmt.Sprintf("%d %d %t", t.ID, t.Version, keep), func() *sharesFound {
		defer s.planner.Wait()()
		problem := shared.Problem
		problem.Keep = keep
		found, err := party.Fair(problem, shared.Packs().Fits, party.Options{Stop: s.planner.Within(longestShare).Stop})
		return &sharesFound{found, err}
	})
}

func (s *Server) showParty(c *gin.Context) {
	s.show(c, func(t *trip) {
		page, err := s.partyPage(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		s.render(c, http.StatusOK, page)
	})
}

// partyPage is the room as the address asks for it.
func (s *Server) partyPage(c *gin.Context, t *trip) (page, error) {
	p := t.shell("party", "Party")
	v := &partyView{Href: fmt.Sprintf("/trips/%d/party", t.ID)}
	p.Body = v
	v.Add = addBearerView{Name: field{Name: "name", Label: "Who walks along"},
		Mass: field{Name: "mass", Label: "Weighs", Unit: unitsOf(t.system).body}, Age: field{Name: "age", Label: "Age"},
		Kinds: bearerKinds(party.Trainee), From: s.kitsToBring(c, t)}
	group := t.Doc.Party()
	if group == nil {
		v.Alone = true
		p.Headline = "You walk alone."
		p.Detail = "Add who walks along: each with an own pack and kit. What the group shares is then divided so that nobody carries more of the own limit than has to be."
		return p, nil
	}
	shared, err := t.Doc.Sharing()
	if err != nil {
		return p, err
	}
	trips, err := s.everybody(t, group)
	if err != nil {
		return p, err
	}
	v.fill(t, group, shared, trips, c)
	v.Try = s.shareTry(c, t, group, shared)
	stocks, err := s.store.Stocks(c.Request.Context())
	if err != nil {
		return p, err
	}
	v.Short, v.Centre = fromCentre(group, stocks, t.ID)
	p.Headline, p.Detail = v.headline(t, group, shared, trips)
	return p, nil
}

// fill puts the party as it stands into the view.
func (v *partyView) fill(t *trip, group *bundle.Party, shared *bundle.Shared, trips []*trip, c *gin.Context) {
	system := t.system
	part, bearer := c.Query("part"), c.Query("bearer")
	hatch := map[string]string{}
	order := map[string]int{}
	for i := range group.Bearers {
		order[group.Bearers[i].ID] = i
	}
	v.Keep = field{Name: "litres", Label: "Each pack keeps free", Unit: unitsOf(system).
		litre, Value: orEmpty(group.KeepL, unitsOf(system).litre, unit.CubicInch)}
	var lay draw.Lay
	lay.Packed, lay.Chosen, lay.System, lay.Hatch = true, part, system, hatch
	sections := map[kit.Section][]*kit.Item{}
	for i := range shared.Parts {
		one := &shared.Parts[i]
		item := shared.Item(one.ID)
		holder := group.Agreed[one.ID]
		row := partRow{ID: one.ID, Name: one.Name, Mass: system.Mass(item.TotalG()),
			Href: v.Href + "?" + url.Values{"part": {one.ID}}.Encode(), Chosen: one.ID == part, Holder: "nobody yet"}
		if n, known := order[holder]; known {
			hatch[one.ID] = draw.BearerHatch(n)
			row.Holder, row.Swatch = group.Bearers[n].Name, draw.HatchSwatch(draw.BearerHatch(n), "").SVG
		}
		if len(v.Things) == 0 || v.Things[len(v.Things)-1].ID != one.Of {
			name, _, _ := strings.Cut(one.Name, ": ")
			v.Things = append(v.Things, groupThing{ID: one.Of, Name: name})
		}
		last := &v.Things[len(v.Things)-1]
		last.Parts = append(last.Parts, row)
		sections[item.Section()] = append(sections[item.Section()], item)
		v.Parts = append(v.Parts, option{Value: one.ID, Label: one.Name})
		if row.Chosen {
			v.Part = &partView{one.ID, one.Name, row.Mass, row.Holder}
		}
	}
	for _, name := range kit.Sections {
		if things := sections[name]; len(things) > 0 {
			grams := 0.0
			for _, it := range things {
				grams += it.TotalG()
			}
			lay.Sections = append(lay.Sections, draw.LaySection{Name: string(name), Figure: system.Mass(grams), Things: things})
		}
	}
	if len(lay.Sections) > 0 {
		v.Ground = draw.FlatLay(lay)
	}
	for i := range group.Bearers {
		v.Bearers = append(v.Bearers, v.bearerRow(i, group, shared, trips[i], bearer, part))
		v.Legend = append(v.Legend, draw.HatchSwatch(draw.BearerHatch(i), group.Bearers[i].Name))
		v.Whom = append(v.Whom, option{Value: "bearer:" + group.Bearers[i].ID, Label: group.Bearers[i].Name})
		if group.Bearers[i].ID == bearer {
			v.Bearer = newBearerView(&group.Bearers[i], group, shared, trips[i])
		}
	}
	v.Whom = append(v.Whom, option{Value: "who:leader", Label: "the leader"},
		option{Value: "who:child", Label: "a child"}, option{Value: "who:trainee", Label: "a trainee"})
	for i, tie := range group.Ties {
		v.Ties = append(v.Ties, tieRow{i, tieWords(&tie, group, shared)})
	}
	for _, tie := range group.UsualTies() {
		v.Usual = append(v.Usual, tieWords(&tie, group, shared))
	}
	v.checks(group, trips)
	v.shelter(group, shared, system)
}

func (v *partyView) bearerRow(i int, group *bundle.Party, shared *bundle.Shared, one *trip, chosen,
	part string) bearerRow {
	b := &group.Bearers[i]
	who := shared.Bearer(b.ID)
	system := one.system
	g := shared.MassG(b.ID, group.Agreed)
	row := bearerRow{ID: b.ID, Name: b.Name, Kind: kindWord(b.Kind), Key: string(rune('a' + i)),
		Href: v.Href + "?" + url.Values{"bearer": {b.ID}}.Encode(), Away: b.Away, Now: b.ID == group.Now, Leads: b.Leads,
		Mass: system.Mass(g), Limit: system.Mass(who.LimitG), Share: percent(g / who.LimitG), Chosen: b.ID == chosen,
		Swatch: draw.HatchSwatch(draw.BearerHatch(i), "").SVG, Holds: part != "" && group.Agreed[part] == b.ID}
	for _, holder := range group.Agreed {
		if holder == b.ID {
			row.Parts++
		}
	}
	row.Bar = draw.ShareBar(draw.Share{OwnG: who.OwnG, MassG: g, LimitG: who.LimitG, Hatch: draw.BearerHatch(i)}, system)
	row.State, row.Word = "settled", "closes"
	switch {
	case b.Away:
		row.State, row.Word = "", "away"
	case !one.plan.Fits():
		row.State, row.Word = "stop", unit.Small(one.lacking(system))
	case g > who.LimitG:
		row.State, row.Word = "look", "over the limit"
	}
	if len(one.task().Items) > 0 {
		scene := one.scene(look{}, system)
		scene.Hatch = map[string]string{}
		for _, item := range one.Doc.List("items") {
			if id, _ := item["id"].(string); item[bundle.PartMark] != nil {
				scene.Hatch[id] = draw.BearerHatch(i)
			}
		}
		row.Pack = draw.Small(scene)
	}
	return row
}

// checks names, for each of the six, who is worst.
func (v *partyView) checks(group *bundle.Party, trips []*trip) {
	rank := map[string]int{"settled": 1, "look": 2, "stop": 3}
	for _, name := range verdict.Names {
		worst, at := checkView{}, -1
		for i, one := range trips {
			if check := one.check(name); !group.Bearers[i].Away && (at < 0 || rank[check.State] > rank[worst.State]) {
				worst, at = check, i
			}
		}
		switch {
		case at < 0:
		case worst.State == "settled":
			v.Checks = append(v.Checks, partyCheck{worst.Name, worst.State, "settled for everybody"})
		default:
			v.Checks = append(v.Checks,
				partyCheck{worst.Name, worst.State, fmt.Sprintf("%s: %s %s", group.Bearers[at].Name, worst.Figure, worst.Detail)})
		}
	}
}

// shelter says what the shelters cost each head.
func (v *partyView) shelter(group *bundle.Party, shared *bundle.Shared, system unit.System) {
	heads, grams := 0, 0.0
	for i := range group.Bearers {
		if !group.Bearers[i].Away {
			heads++
		}
	}
	for i := range shared.Parts {
		if it := shared.Item(shared.Parts[i].ID); it.Serves("shelter") {
			grams += it.TotalG()
		}
	}
	if heads == 0 || grams == 0 {
		return
	}
	each := grams / float64(heads)
	v.Heads = fmt.Sprintf("Shelter: %s a head; up to %s is usual (common practice).", system.Mass(each),
		system.Mass(party.ShelterG))
}

// headline says whether it goes, and how fair it is.
func (v *partyView) headline(t *trip, group *bundle.Party, shared *bundle.Shared, trips []*trip) (headline,
	detail string) {
	var open, short []string
	grams := 0.0
	for i := range shared.Problem.Parts {
		part := &shared.Problem.Parts[i]
		if group.Away(group.Agreed[part.ID]) {
			open = append(open, part.ID)
			grams += part.MassG
		}
	}
	var most *bearerRow
	top := 0.0
	for i := range v.Bearers {
		row := &v.Bearers[i]
		if row.Away {
			continue
		}
		if !trips[i].plan.Fits() {
			short = append(short, row.Name)
		}
		if who := shared.Bearer(row.ID); most == nil || shared.MassG(row.ID, group.Agreed)/who.LimitG > top {
			most, top = row, shared.MassG(row.ID, group.Agreed)/who.LimitG
		}
	}
	v.Anew = len(open) > 0
	switch {
	case len(shared.Parts) == 0:
		headline = "Nothing is shared yet."
	case len(open) > 0:
		headline = fmt.Sprintf("%s, %s, not carried by anybody yet.", unit.Capital(count(len(open), "part")),
			t.system.Mass(grams))
	case len(short) > 0:
		headline = fmt.Sprintf("Not every pack closes: %s.", strings.Join(short, ", "))
	default:
		headline = "Everything is carried, and every pack closes."
	}
	if most != nil {
		detail = fmt.Sprintf("%s carries most of the own limit: %s of %s, %s.", most.Name, most.Mass, most.Limit, most.Share)
	}
	return headline, detail
}

func percent(share float64) string { return fmt.Sprintf("%.0f %%", share*100) }

// kitsToBring are the packs and kits that somebody who joins may bring.
func (s *Server) kitsToBring(c *gin.Context, t *trip) []option {
	list := []option{{"", "an empty pack, 40 L", true}}
	for _, other := range s.tripOptions(c) {
		if other.Value != fmt.Sprint(t.ID) {
			list = append(list, option{Value: other.Value, Label: "pack and kit of: " + other.Label})
		}
	}
	return append(list, option{Value: "same", Label: "the same as on the floor now"})
}

// tieWords says a tie.
func tieWords(tie *bundle.Tie, group *bundle.Party, shared *bundle.Shared) string {
	what := shared.Names(tie.Parts)
	whom := "the leader"
	if b := group.Bearer(tie.Bearer); b != nil {
		whom = b.Name
	} else if tie.Who != "leader" {
		whom = "any " + tie.Who
	}
	switch tie.Rule {
	case party.Together:
		return what + ": together"
	case party.Apart:
		return what + ": each with somebody else"
	case party.Must:
		return what + ": only for " + whom
	}
	return what + ": not for " + whom
}
