package web

import (
	"errors"
	"fmt"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/party"
	"tornister/web/draw"
	"tornister/words"
)

// shareTry is the sharing that the address asks for, set against what is.
func (s *Server) shareTry(c *gin.Context, t *trip, group *bundle.Party, shared *bundle.Shared) *shareTry {
	mode := c.Query("try")
	if mode != "fair" && mode != "few" {
		return nil
	}
	found := s.sharing(t, shared, mode == "few")
	v := &shareTry{Mode: mode}
	if blocked := new(party.Blocked); errors.As(found.err, &blocked) {
		v.Words = "It cannot be shared: " + words.Blocked(blocked, shared.Name) + "."
		return v
	}
	a := found.answer
	v.Words, v.Proof = shareWords(a, shared), proofWords(a, mode == "few")
	v.Same = len(a.Short) == 0
	for i := range a.Loads {
		l := &a.Loads[i]
		before := shared.MassG(l.Bearer, group.Agreed)
		who := shared.Bearer(l.Bearer)
		n := slices.IndexFunc(group.Bearers, func(b bundle.Bearer) bool { return b.ID == l.Bearer })
		v.Rows = append(v.Rows, shareRow{group.Bearers[n].Name,
			fmt.Sprintf("%s, %s", t.system.Mass(before), percent(before/who.LimitG)),
			fmt.Sprintf("%s, %s", t.system.Mass(l.MassG), percent(l.Share)),
			draw.ShareBar(draw.Share{OwnG: who.OwnG, MassG: l.MassG, BeforeG: before, LimitG: who.LimitG,
				Hatch: draw.BearerHatch(n)}, t.system), before != l.MassG})
	}
	for i := range shared.Parts {
		id := shared.Parts[i].ID
		if to := a.Holder[id]; to != group.Agreed[id] {
			v.Same = false
			from := "the ground"
			if b := group.Bearer(group.Agreed[id]); b != nil {
				from = b.Name
			}
			v.Moves = append(v.Moves, fmt.Sprintf("%s: from %s to %s", shared.Parts[i].Name, from, group.Bearer(to).Name))
		}
	}
	return v
}

// shareWords says what a sharing comes to.
func shareWords(a *party.Answer, shared *bundle.Shared) string {
	top := 0.0
	for i := range a.Loads {
		top = max(top, a.Loads[i].Share)
	}
	text := fmt.Sprintf("With it nobody carries more than %s of the own limit", percent(top))
	if len(a.Over) > 0 {
		text = fmt.Sprintf("With it %s would be over the own limit", shared.Names(a.Over))
	}
	if len(a.Short) > 0 {
		return text + ", but not every pack closes: " + shared.Names(a.Short) + "."
	}
	return text + fmt.Sprintf(", and every pack closes by its trial packing (%d tried).", a.Tries)
}

// proofWords says what is proved.
func proofWords(a *party.Answer, few bool) string {
	top := 0
	for i := range a.Loads {
		top = max(top, a.Loads[i].Level)
	}
	bound := int(a.Bound*party.Full + 0.5)
	switch {
	case len(a.Short) > 0 && a.Proven:
		return "Proved: no sharing that keeps the ties makes all packs close. Leave something out, or take a larger pack."
	case len(a.Short) > 0:
		return "None was found in the time given; there may be one."
	case a.Proven && few:
		return "Proved: no sharing within the limits changes less."
	case a.Proven && !a.Fewest:
		return "Proved: there is no fairer one, to a hundredth of a limit. Perhaps one as fair changes less."
	case a.Proven:
		return "Proved: there is no fairer one, to a hundredth of a limit."
	case bound == top:
		return fmt.Sprintf("Proved: nobody's largest share can be below %d %%. Whether the smaller shares could be fairer is not.", bound)
	}
	return fmt.Sprintf("Not proved: a sharing with %d %% at most cannot be excluded.", bound)
}
