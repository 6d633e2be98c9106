package bundle

import (
	"slices"

	"tornister/core/party"
)

// UsualTies are the ties that are common practice for what a party shares and that it does not have yet: a stove
// with a canister of gas, two survival bags and two first aid kits with different people, the leader's kit with
// the leader.
func (p *Party) UsualTies() (ties []Tie) {
	var stoves, gas, survival, aid []string
	leads := slices.ContainsFunc(p.Bearers, func(b Bearer) bool { return b.Leads && !b.Away })
	for _, part := range p.Parts() {
		it, err := CompleteItem(part.Item)
		if err != nil {
			continue
		}
		switch {
		case it.Consumable == "fuel":
			gas = append(gas, part.ID)
		case it.Serves("cooking"):
			stoves = append(stoves, part.ID)
		case it.Kind == "survival-bag" || it.Kind == "group-shelter":
			survival = append(survival, part.ID)
		case it.Serves("first-aid") && it.Kind != "blister-kit":
			aid = append(aid, part.ID)
			if it.Kind == "large-aid-kit" && leads {
				ties = append(ties, Tie{Rule: party.Must, Parts: []string{part.ID}, Who: "leader"})
			}
		}
	}
	for i := range min(len(stoves), len(gas)) {
		ties = append(ties, Tie{Rule: party.Together, Parts: []string{stoves[i], gas[i]}})
	}
	present := len(slices.DeleteFunc(slices.Clone(p.Bearers), func(b Bearer) bool { return b.Away }))
	for _, list := range [][]string{stoves, survival, aid} {
		if len(list) > 1 && len(list) <= present {
			ties = append(ties, Tie{Rule: party.Apart, Parts: list})
		}
	}
	return slices.DeleteFunc(ties, p.tied)
}

// tied reports whether one of the parts of a tie is tied already in its way.
func (p *Party) tied(t Tie) bool {
	of := func(id string) []string { // what a tie of the party may call it
		for _, part := range p.Parts() {
			if part.ID == id {
				return []string{part.ID, part.Of}
			}
		}
		return []string{id}
	}
	for _, old := range p.Ties {
		if old.Rule != t.Rule {
			continue
		}
		for _, id := range t.Parts {
			if slices.ContainsFunc(of(id), func(name string) bool { return slices.Contains(old.Parts, name) }) {
				return true
			}
		}
	}
	return false
}
