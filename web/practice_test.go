package web_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/job"
	"tornister/core/practice"
	"tornister/demo"
	"tornister/internal/sample"
	"tornister/store"
	"tornister/web"
)

// practised is an exercise as a test sees it, with the answers.
type practised struct {
	*site
	kept *store.Store
	id   uint
	path string
}

// exerciseOf begins an exercise of a kit.
func exerciseOf(t *testing.T, s *site, kept *store.Store, kit string, kind practice.Kind) *practised {
	code, page, header := s.post("/practice", url.Values{"person": {"Ona"}, "kit": {kit}, "kind": {string(kind)}})
	require.Equal(t, http.StatusSeeOther, code, "%.300s", page)
	p := &practised{site: s, kept: kept, path: header.Get("Location")}
	_, err := fmt.Sscanf(p.path, "/practice/%d", &p.id)
	require.NoError(t, err)
	return p
}

// state is how the exercise stands, as it is kept.
func (p *practised) state(t *testing.T) (state struct {
	From  job.Arrangement
	Asked []struct{ Key string }
	Moves []practice.Move
}) {
	one, _, err := p.kept.Exercise(t.Context(), p.id)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal([]byte(one.State), &state))
	return state
}

// say does something in the exercise and gives the page after it.
func (p *practised) say(t *testing.T, fields ...string) string {
	values := url.Values{}
	for i := 0; i < len(fields); i += 2 {
		values.Add(fields[i], fields[i+1])
	}
	code, page, header := p.post(p.path, values)
	if code == http.StatusSeeOther {
		_, page = p.get(header.Get("Location"))
	}
	return page
}

func practiceSite(t *testing.T) (*site, *store.Store) {
	return siteWithOptions(t, web.Options{}, string(demo.ChildNight))
}

// A moment asks for a thing, its zone is the answer; what was missed comes again tomorrow, and a tap that is sent twice
// counts once.
func TestWhereIsItIsAsked(t *testing.T) {
	t.Parallel()
	s, kept := practiceSite(t)
	p := exerciseOf(t, s, kept, "demo/child-night", practice.Where)
	_, page := p.get(p.path)
	assert.Contains(t, page, "You are asked six questions.")
	assert.NotContains(t, page, "Where is:", "nothing is asked before the clock runs")
	const open = `class="cutaway cutaway"`
	assert.Contains(t, page, open, "the plan can be looked at first")
	p.say(t, "answer", "lid")
	state := p.state(t)
	for i, q := range state.Asked {
		page = p.say(t, "do", "start")
		require.Contains(t, page, fmt.Sprintf("Question %d of 6", i+1))
		assert.Contains(t, page, "data-running")
		assert.NotContains(t, page, open, "then it is covered")
		item, _, _ := strings.Cut(strings.SplitN(q.Key, "/", 2)[1], ":")
		at := slices.IndexFunc(state.From, func(sp job.Spot) bool { return sp.Item == item })
		require.GreaterOrEqual(t, at, 0)
		answer := state.From[at].Zone
		if i == 0 {
			answer = "straps"
		}
		page = p.say(t, "answer", answer)
		if i == 0 {
			assert.Contains(t, page, "No, not ")
			_ = p.say(t, "answer", state.From[at].Zone)
			_, page = p.get(p.path)
			assert.Contains(t, page, "No, not ", "the first answer counts")
			continue
		}
		assert.Contains(t, page, "Right, in ", q.Key)
	}
	page = p.say(t, "do", "end")
	assert.Contains(t, page, "83 of 100, in ")
	assert.Contains(t, page, "you said: ")
	again, err := kept.ToRepeat(t.Context(), "Ona")
	require.NoError(t, err)
	require.Len(t, again, 1)
	assert.Equal(t, state.Asked[0].Key, again[0].Key)
	assert.Equal(t, time.Now().AddDate(0, 0, 1).Format(time.DateOnly), again[0].Due)
	page = p.say(t, "answer", "lid")
	assert.Contains(t, page, "83 of 100", "it has ended")
	_, page = s.get("/practice?person=Ona")
	assert.Contains(t, page, "Ona: one exercise done, nothing to repeat today.")
	assert.Contains(t, page, "83 of 100 in ")
	assert.Contains(t, page, "progress-plot")
}

// Whoever names what was moved has all points; whoever names everything has none, and hears what lies where it should.
func TestFindTheFaultIsCounted(t *testing.T) {
	t.Parallel()
	s, kept := practiceSite(t)
	p := exerciseOf(t, s, kept, "trip/1", practice.Find)
	page := p.say(t, "do", "start")
	assert.Contains(t, page, "What lies wrong?")
	assert.NotContains(t, page, "where the plan has it", "nothing is told yet")
	var right []string
	for _, m := range p.state(t).Moves {
		right = append(right, "thing", m.Item)
	}
	require.NotEmpty(t, right)
	page = p.say(t, append(right, "look", "behind")...)
	assert.Contains(t, page, "from behind", "seen from another side")
	assert.Contains(t, page, " checked", "and what is ticked stays")
	page = p.say(t, append(right, "do", "done")...)
	assert.Contains(t, page, "100 of 100, in ")
	assert.NotContains(t, page, "not found")
	assert.Contains(t, page, "In the plan: ")

	p = exerciseOf(t, s, kept, "trip/1", practice.Find)
	_, page = p.get(p.path)
	assert.Contains(t, page, "level 3 of 4", "harder after all points")
	p.say(t, "do", "start")
	all := []string{"do", "done"}
	for _, spot := range p.state(t).From {
		all = append(all, "thing", spot.Item)
	}
	page = p.say(t, all...)
	assert.Contains(t, page, "0 of 100, in ")
	assert.Contains(t, page, "no fault")
	p = exerciseOf(t, s, kept, "trip/1", practice.Find)
	p.say(t, "do", "start")
	page = p.say(t, "do", "done")
	assert.Contains(t, page, "not found")
	again, err := kept.ToRepeat(t.Context(), "Ona")
	require.NoError(t, err)
	assert.NotEmpty(t, again)
}

// Loaded in the plan's order it has the plan's points; what does not go in is told and stays beside.
func TestLoadItByHand(t *testing.T) {
	t.Parallel()
	s, kept := practiceSite(t)
	p := exerciseOf(t, s, kept, "demo/child-night", practice.Hand)
	page := p.say(t, "do", "start")
	assert.Contains(t, page, "Beside the pack")
	code, page, _ := p.post(p.path, url.Values{"thing": {"bag"}, "zone": {"lid"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "does not go in there (lid) as it is packed")
	code, _, _ = p.post(p.path, url.Values{"thing": {"bag"}, "zone": {"cellar"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	for _, spot := range p.state(t).From {
		key := spot.Item
		if spot.Item == "socks" {
			key = fmt.Sprintf("%s:%d", spot.Item, spot.Piece)
		}
		page = p.say(t, "thing", key, "zone", spot.Zone)
		require.NotContains(t, page, "notice-wrong", key)
	}
	assert.Contains(t, page, "Shut the pack")
	page = p.say(t, "take", "bag")
	assert.Contains(t, page, "End it here", "something is out again")
	assert.Contains(t, p.say(t, "thing", "bag", "zone", "body"), "Shut the pack")
	page = p.say(t, "do", "done")
	assert.Regexp(t, `\d+ of 100, in `, page)
	assert.Contains(t, page, "By our prices")
	assert.Contains(t, page, "Looking for the changes")
	_, page = p.get(p.path + "?advice=1")
	assert.NotContains(t, page, "Looking for the changes")
}

// A side pocket of one's own choice is kept in the judgement: the lane too.
func TestAPoorHandHasFewerPoints(t *testing.T) {
	t.Parallel()
	s, kept := practiceSite(t)
	p := exerciseOf(t, s, kept, "demo/child-night", practice.Hand)
	p.say(t, "do", "start")
	page := p.say(t, "thing", "bottle", "zone", "body", "lane", "front")
	assert.Contains(t, page, "take out")
	page = p.say(t, "do", "done")
	var score int
	_, err := fmt.Sscanf(page[strings.Index(page, `id="verdict"`):], `id="verdict" tabindex="-1">%d of 100`, &score)
	require.NoError(t, err)
	assert.Less(t, score, 20, "one thing of eleven is in")
	assert.NotContains(t, page, " over</td>", "what was left beside is not too much")
}

func TestWhatCannotBePractised(t *testing.T) {
	t.Parallel()
	s, _ := practiceSite(t)
	for _, c := range []struct{ person, kit, kind, says string }{
		{"", "demo/child-night", "where", "say who practises"},
		{"  ", "demo/child-night", "where", "say who practises"},
		{strings.Repeat("x", 61), "demo/child-night", "where", "use at most 60 letters"},
		{"Ona", "demo/cellar", "where", "no such kit"},
		{"Ona", "trip/9", "where", "no such kit"},
		{"Ona", "1", "where", "no such kit"},
		{"Ona", "demo/child-night", "dance", "no such exercise"},
	} {
		code, page, _ := s.post("/practice", url.Values{"person": {c.person}, "kit": {c.kit}, "kind": {c.kind}})
		assert.Equal(t, http.StatusUnprocessableEntity, code, "%v", c)
		assert.Contains(t, page, c.says, "%v", c)
		assert.Contains(t, page, "Exercises, the easier first", "the page is there to mend it")
	}
	for _, path := range []string{"/practice/99", "/practice/x"} {
		code, _ := s.get(path)
		assert.Equal(t, http.StatusNotFound, code)
	}
	code, _, _ := s.post("/practice/99", url.Values{"do": {"start"}})
	assert.Equal(t, http.StatusNotFound, code)
}

// A kit that does not go in is no exercise; whoever asks hears what to do.
func TestAKitThatDoesNotFitIsNotPractised(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	kit := strings.Replace(string(demo.LoneWalker), `"loose_l": 10.5, "tight_l": 5.8`, `"loose_l": 36, "tight_l": 30`, 1)
	s, _ := siteWithOptions(t, web.Options{}, kit)
	code, page, _ := s.post("/practice", url.Values{"person": {"Ona"}, "kit": {"trip/1"}, "kind": {"where"}})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "make it fit, on Shrink, or choose another")
}

// What is kept of somebody goes when it is to be forgotten, and with a trip its kit.
func TestPracticeIsForgotten(t *testing.T) {
	t.Parallel()
	s, kept := practiceSite(t)
	p := exerciseOf(t, s, kept, "trip/1", practice.Where)
	s.follow("/trips/1/remove", url.Values{"version": {"1"}})
	code, page := p.get(p.path)
	assert.Equal(t, http.StatusNotFound, code)
	assert.Contains(t, page, "its kit is not kept any more")
	s.follow("/practice/forget", url.Values{"person": {"Ona"}})
	list, err := kept.Exercises(t.Context())
	require.NoError(t, err)
	assert.Empty(t, list)
}
