package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A hand says how it has packed: from the plan, otherwise, thing by thing; that is judged as it is, and what was said
// stays.
func TestJudgeMyPacking(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	const path = "/trips/1/hand"
	say := func(fields string) string {
		values, err := url.ParseQuery(fields)
		assert.NoError(t, err)
		code, _, header := s.post(path, values)
		assert.Equal(t, http.StatusSeeOther, code, fields)
		_, page := s.get(header.Get("Location"))
		return page
	}
	_, page := s.get(path)
	assert.Contains(t, page, "With an empty pack")
	page = say("begin=plan")
	assert.Contains(t, page, "It goes in your way.")
	assert.Contains(t, page, "48 of 48 lie in the zone that the plan chose.")
	assert.Contains(t, page, "it is as good as the plan")
	page = say("thing=poles&zone=lid")
	assert.Contains(t, page, "Tent poles: not into the lid as it is packed.")
	assert.Contains(t, page, "Looking for the changes")
	_, page = s.get(path + "?advice=1")
	assert.Contains(t, page, "Tent poles: does not go into the lid; into the body.")
	_, page = s.get(path)
	assert.NotContains(t, page, "Looking for the changes", "it is known now")

	say("begin=empty")
	assert.Contains(t, say("thing=poles&zone=body"), "So far it goes in your way.")
}

// What is kept in a bag goes where the bag goes: the hand puts the bag in.
func TestAHandPutsBagsIn(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	_, page := s.get("/trips/1/layout?bag=kitchen")
	fields := form(page, "/trips/1/kitbags")
	fields.Set("purpose", "kitchen")
	s.follow("/trips/1/kitbags", fields)
	page = s.follow("/trips/1/hand", url.Values{"begin": {"plan"}})
	assert.Contains(t, page, "It goes in your way.")
	assert.Contains(t, page, "nothing beside the pack")
	assert.Contains(t, page, `aria-label="Where Kitchen bag lies"`)
	assert.NotContains(t, page, `aria-label="Where Long spoon lies"`)
}

// Turns: an own number, one on, one back, last; what makes no sense is refused and nothing is lost.
func TestTurnsByHand(t *testing.T) {
	t.Parallel()
	s := newSite(t)
	const path = "/trips/1/hand"
	order := func() string {
		_, page := s.get(path)
		in, _, _ := strings.Cut(page, "Beside the pack")
		var names []string
		for _, row := range strings.Split(in, `class="hand-name">`)[1:] {
			name, _, _ := strings.Cut(row, " <small>")
			names = append(names, name)
		}
		return strings.Join(names, ", ")
	}
	say := func(fields ...string) int {
		values := url.Values{}
		for i := 0; i < len(fields); i += 2 {
			values.Set(fields[i], fields[i+1])
		}
		code, _, _ := s.post(path, values)
		return code
	}
	say("begin", "empty")
	say("thing", "pot", "zone", "body")
	say("thing", "air-mat", "zone", "body")
	say("thing", "map", "zone", "lid", "turn", "1")
	first := order()
	for _, step := range []struct {
		fields []string
		code   int
	}{
		{[]string{"thing", "pot", "zone", "body", "turn", "2", "by", "1"}, http.StatusSeeOther},
		{[]string{"thing", "pot", "zone", "body", "turn", "3", "by", "-1"}, http.StatusSeeOther},
		{[]string{"thing", "pot", "zone", "body", "turn", "99"}, http.StatusSeeOther},
		{[]string{"thing", "pot", "zone", "body", "turn", "2"}, http.StatusSeeOther},
		{[]string{"thing", "pot", "zone", "attic"}, http.StatusUnprocessableEntity},
		{[]string{"thing", "anchor", "zone", "body"}, http.StatusUnprocessableEntity},
		{[]string{"begin", "again"}, http.StatusUnprocessableEntity},
	} {
		assert.Equal(t, step.code, say(step.fields...), step.fields)
	}
	assert.Equal(t, first, order())
	assert.Equal(t, "Map in a case, Cook pot 1.1 L, Air mat, insulated", first)
	say("thing", "pot", "zone", "")
	assert.NotContains(t, order(), "Cook pot")
	say("begin", "forget")
	assert.Empty(t, order())
}
