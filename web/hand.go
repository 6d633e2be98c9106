package web

import (
	"encoding/json"
	"fmt"
	"hash/fnv"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
	"tornister/words"
)

// mostAdvice is how many changes of a hand's packing are proposed.
const mostAdvice = 3

// handView is what a hand has packed, and what that is worth.
type handView struct {
	Begun   bool
	In, Out []handRow
	Judged  *handJudged
}

// handRow is a thing with its turn and its zone; both can be changed.
type handRow struct {
	To, Key, Name, Mass, Planned string
	Turn                         int // 0 while it is not in
	Zones                        []option
	Last                         bool // none goes in after it
	Wrong                        bool // it does not go in there
}

// handJudged is the judgement of a hand's packing beside the plan's.
type handJudged struct {
	Trial   *trialView
	Dearer  string // than the plan, in words
	Like    string
	Good    []checkView
	Misfit  []string
	Advice  handAdvice
	Drawing template.HTML
}

// handAdvice are the changes that would help most, or that they are still to be looked for.
type handAdvice struct {
	ID      string
	Href    string // looks for them, "" when that is done
	Cut     bool   // the search was ended before it was through
	To      string // takes a change that one makes, "" where none can be made
	Changes []handChange
}

// handChange is a change that would help, and what makes it.
type handChange struct {
	Text, Key, Zone string
	Turn            int
}

// handFound is what was worked out for a packing.
type handFound struct {
	judged  *verdict.Judged
	misfit  []job.Spot
	cost    float64
	planned float64
}

// handAdvised are the changes found for a packing.
type handAdvised struct {
	changes []load.Change
	cut     bool
}

// handOrder reads what a hand has packed. Things that are not on the list any more, and zones that the pack has not
// any more, fall out; what goes in another thing is not in the order.
func (t *trip) handOrder(text string) (order job.Arrangement) {
	var kept job.Arrangement
	if json.Unmarshal([]byte(text), &kept) != nil {
		return nil
	}
	pieces := t.handPieces()
	for _, spot := range kept {
		i := slices.IndexFunc(pieces, spot.Of)
		if i >= 0 && t.task().Pack.Zone(spot.Zone) != nil {
			order = append(order, spot)
			pieces = slices.Delete(pieces, i, i+1)
		}
	}
	return order
}

// handPieces lists what a hand puts into the pack: all but what lies in another thing.
func (t *trip) handPieces() []kit.Piece {
	_, loose := t.task().Filled().Nested()
	return slices.DeleteFunc(kit.Pieces(t.task().Items, kit.Pack), func(p kit.Piece) bool {
		return !slices.ContainsFunc(loose, func(l kit.Piece) bool { return l.Key() == p.Key() })
	})
}

// showHand is a hand's own packing with its judgement.
func (s *Server) showHand(c *gin.Context) {
	s.show(c, func(t *trip) {
		text, err := s.store.PackingOf(c.Request.Context(), t.ID, t.floor())
		if err != nil {
			s.refuse(c, err)
			return
		}
		p := t.shell("hand", "Judge my packing")
		for i := range p.Road {
			p.Road[i].Current = p.Road[i].Name == "Load"
		}
		v := &handView{Begun: text != ""}
		p.Headline = "Packed it your own way?"
		p.Detail = "Say where each thing lies and in which order it went in. Exactly that is packed for trial and judged; nothing is moved to where it would be better."
		if v.Begun {
			order := t.handOrder(text)
			v.rows(t, order)
			if len(order) > 0 {
				key := fmt.Sprint(t.ID, t.Version, t.floor(), order)
				found := s.hands.of(fmt.Sprint(key, t.stage), func() *handFound { return s.handOf(t, order) })
				v.judge(t, order, found)
				href := fmt.Sprintf("/trips/%d/hand?advice=1", t.ID)
				v.Judged.Advice = s.advise(key, href, t, t.task(), order, c.Query("advice") != "")
				v.Judged.Advice.To = fmt.Sprintf("/trips/%d/hand", t.ID)
			}
			beside := "nothing"
			if len(v.Out) > 0 {
				beside = count(len(v.Out), "thing")
			}
			p.Headline, p.Detail = v.headline(), unit.Capital(count(len(v.In), "thing"))+" in, "+beside+" beside the pack."
		}
		p.Body = v
		s.render(c, http.StatusOK, p)
	})
}

// handOf packs for trial what a hand has packed, and the plan, so that like is compared with like.
func (s *Server) handOf(t *trip, order job.Arrangement) *handFound {
	price := func(a job.Arrangement) *load.Judgement {
		options := s.planner.Quickly()
		options.Like = t.plan.Lays()
		return load.Price(t.task(), a, options)
	}
	planned := price(t.plan.Arrangement())
	if slices.Equal(order, planOrder(t.plan)) { // what was packed is the plan
		return &handFound{judged: t.judged, cost: planned.Cost(), planned: planned.Cost()}
	}
	now := price(order)
	return &handFound{verdict.Judge(t.task(), now.Plan), now.Misfit, now.Cost(), planned.Cost()}
}

// planOrder is the order of a plan as a hand begins with it.
func planOrder(plan *load.Plan) job.Arrangement {
	return slices.DeleteFunc(plan.Arrangement(), func(s job.Spot) bool { return s.Zone == "" })
}

// longestAdvice bounds the search for what would help: nobody waits for it, the page goes on without.
const longestAdvice = 5 * time.Second

// advise gives the changes of an order that would help most, if they are known or to be looked for now; elsewhere the
// page fetches them from an address. t has the plan.
func (s *Server) advise(key, href string, t *trip, task *job.Task, order job.Arrangement, look bool) handAdvice {
	hash := fnv.New64a()
	_, _ = hash.Write([]byte(key)) // never fails
	advice := handAdvice{ID: fmt.Sprintf("advice-%x", hash.Sum64()), Href: href}
	if !look && !s.advices.has(key) {
		return advice
	}
	advice.Href = ""
	found := s.advices.of(key, func() handAdvised {
		options := s.planner.Within(longestAdvice)
		options.Like = t.plan.Lays()
		changes := load.Advise(task, order, mostAdvice, options)
		return handAdvised{changes, options.Stop()}
	})
	advice.Cut = found.cut
	for i := range found.changes {
		ch := &found.changes[i]
		advice.Changes = append(advice.Changes, handChange{Text: words.Say(ch.Fact(&task.Pack), t.system),
			Key: ch.Piece.Key(), Zone: ch.To, Turn: turnOf(order, ch)})
	}
	return advice
}

func (v *handView) headline() string {
	switch j := v.Judged; {
	case j == nil:
		return "Nothing is in yet."
	case len(j.Misfit) > 0:
		return "Packed your way, " + count(len(j.Misfit), "thing") + verbOf(len(j.Misfit), " does", " do") + " not go in."
	case len(v.Out) > 0:
		return "So far it goes in your way."
	}
	return "It goes in your way."
}

func verbOf(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// rows lists what is in, in its order, and what is not.
func (v *handView) rows(t *trip, order job.Arrangement) {
	planned := map[string]string{}
	for i := range t.plan.Placed {
		p := &t.plan.Placed[i]
		planned[p.Piece.Key()] = p.Zone.Name
	}
	row := func(p kit.Piece, turn int, zone string) handRow {
		r := handRow{To: fmt.Sprintf("/trips/%d/hand", t.ID), Key: p.Key(), Name: words.Piece(p), Last: turn == len(order), Mass: t.system.Mass(p.MassG), Turn: turn,
			Zones: []option{{Label: "not in", Chosen: zone == ""}}, Planned: planned[p.Key()]}
		for i := range t.task().Pack.Zones {
			z := &t.task().Pack.Zones[i]
			r.Zones = append(r.Zones, option{z.ID, z.Name, z.ID == zone})
		}
		return r
	}
	pieces := t.handPieces()
	for turn, spot := range order {
		i := slices.IndexFunc(pieces, spot.Of)
		v.In = append(v.In, row(pieces[i], turn+1, spot.Zone))
		pieces = slices.Delete(pieces, i, i+1)
	}
	for _, p := range pieces {
		v.Out = append(v.Out, row(p, 0, ""))
	}
}

// judge says what the packing is worth.
func (v *handView) judge(t *trip, order job.Arrangement, found *handFound) {
	after := t.judge(found.judged, t.system)
	j := &handJudged{Trial: beside(t, after), Drawing: draw.Small(after.scene(look{plane: -1}, t.system))}
	whole := len(v.Out) == 0 && len(found.misfit) == 0
	for _, ch := range j.Trial.Checks {
		if ch.After.State == "settled" && (ch.Name != "Weight" || whole) { // what is beside the pack weighs nothing
			ch.After.Name = ch.Name
			j.Good = append(j.Good, ch.After)
		}
	}
	like := 0
	for i := range v.In {
		r := &v.In[i]
		spot := order[i]
		zone := t.task().Pack.Zone(spot.Zone)
		if zone.Name == r.Planned {
			like++
		}
		if r.Wrong = slices.Contains(found.misfit, spot); r.Wrong {
			j.Misfit = append(j.Misfit, fmt.Sprintf("%s: not into the %s as it is packed", r.Name, unit.Small(zone.Name)))
		}
	}
	j.Like = fmt.Sprintf("%d of %d lie in the zone that the plan chose.", like, len(v.In))
	if whole { // with things beside it, a pack costs less for the wrong reason
		j.Dearer = dearer(found.cost - found.planned)
	}
	v.Judged = j
}

// dearer says by how much a packing costs more than the plan, in seconds a day.
func dearer(more float64) string {
	switch {
	case more >= 1:
		return fmt.Sprintf("By our prices for digging, rain, weight and places it costs %.0f s a day more than the plan.", more)
	case more <= -1:
		return fmt.Sprintf("By our prices for digging, rain, weight and places it costs %.0f s a day less than the plan: well packed.", -more)
	}
	return "By our prices it is as good as the plan."
}

// turnOf is the turn that a change gives its thing, 0 for the last.
func turnOf(order job.Arrangement, ch *load.Change) int {
	if ch.Before == nil {
		return 0
	}
	rest := slices.DeleteFunc(slices.Clone(order), func(s job.Spot) bool { return s.Of(ch.Piece) })
	return 1 + slices.IndexFunc(rest, func(s job.Spot) bool { return s.Of(*ch.Before) })
}

// changeHand keeps what a hand says: where it begins from, or the place and the turn of a thing.
func (s *Server) changeHand(c *gin.Context) {
	s.show(c, func(t *trip) {
		text, err := s.store.PackingOf(c.Request.Context(), t.ID, t.floor())
		if err == nil {
			text, err = t.handChanged(c, text)
		}
		if err == nil {
			err = s.store.SetPacking(c.Request.Context(), t.ID, t.floor(), text)
		}
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/hand", t.ID))
	})
}

// handChanged is the packing after what a form says.
func (t *trip) handChanged(c *gin.Context, text string) (string, error) {
	order := t.handOrder(text)
	switch c.PostForm("begin") {
	case "plan":
		order = planOrder(t.plan)
	case "empty":
		order = job.Arrangement{}
	case "forget":
		return "", nil
	case "":
		pieces := t.handPieces()
		i := slices.IndexFunc(pieces, func(p kit.Piece) bool { return p.Key() == c.PostForm("thing") })
		if i < 0 {
			return "", bundle.Problems{{Pointer: "/thing", What: "there is no such thing to pack", Mend: "go back to the list"}}
		}
		zone := c.PostForm("zone")
		if zone != "" && t.task().Pack.Zone(zone) == nil {
			return "", bundle.Problems{{Pointer: "/zone", What: "the pack has no such zone", Mend: "choose one of the list"}}
		}
		order = putByHand(order, job.Spot{Item: pieces[i].ID, Piece: pieces[i].Number, Zone: zone}, c.PostForm("turn"), c.PostForm("by"))
	default:
		return "", bundle.Problems{{Pointer: "/begin", What: "a packing begins from the plan or empty", Mend: "choose one of them"}}
	}
	written, err := json.Marshal(order)
	return string(written), err
}

// putByHand puts a thing at a turn, counted from one, or by so many on from it, or last for a turn of 0; without a
// number it stays at the one it has, and what was not in goes in last.
func putByHand(order job.Arrangement, spot job.Spot, turn, by string) job.Arrangement {
	at := slices.IndexFunc(order, func(s job.Spot) bool { return s.Item == spot.Item && s.Piece == spot.Piece })
	if at >= 0 {
		order = slices.Delete(order, at, at+1)
	} else {
		at = len(order)
	}
	if spot.Zone == "" {
		return order
	}
	if n, err := strconv.Atoi(strings.TrimSpace(turn)); err == nil {
		if at = n - 1; n == 0 {
			at = len(order)
		}
	}
	if n, err := strconv.Atoi(by); err == nil {
		at += max(-1, min(1, n))
	}
	return slices.Insert(order, min(max(at, 0), len(order)), spot)
}
