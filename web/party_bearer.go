package web

import (
	"errors"
	"fmt"
	"html/template"
	"sync"
	"tornister/bundle"
	"tornister/core/party"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/planner"
	"tornister/words"
)

// bearerRow is a bearer with pack and share.
type bearerRow struct {
	ID, Name, Kind, Key, Href string
	Bar, Pack                 template.HTML
	Mass, Limit, Share        string
	State, Word               string
	Parts                     int
	Chosen, Away, Now, Leads  bool
	Holds                     bool // the chosen part
	Swatch                    template.HTML
}

type bearerView struct {
	ID                              string
	Name, Mass, Height, Age, Limits field
	Kinds                           []option
	Leads, Away, Now                bool
	Usual, Strict                   string
	List                            []string
}

type addBearerView struct {
	Name, Mass, Age field
	Kinds, From     []option
}

// bearerFound is a trip as it is for one bearer.
type bearerFound struct {
	trip *trip
	err  error
}

// ofBearer is the trip as it is for one bearer, planned at once.
func (s *Server) ofBearer(t *trip, p *bundle.Party, id string) (*trip, error) {
	if id == p.Now {
		return t, nil
	}
	found := s.bearers.of(fmt.Sprintf("%d %d %s", t.ID, t.Version, id), func() bearerFound {
		doc, err := t.Doc.Of(id)
		if err != nil {
			return bearerFound{err: err}
		}
		b, err := bundle.FromDoc(doc)
		if err != nil {
			return bearerFound{err: err}
		}
		one := *t
		state := *t.State
		state.Doc, one.State, one.bundle, one.stage, one.job, one.scale = doc, &state, b, planner.Ended, nil, nil
		return bearerFound{trip: one.judge(verdict.Of(&b.Task, s.planner.Quickly()), t.system)}
	})
	if found.err != nil {
		return nil, found.err
	}
	return found.trip.in(t.system), nil
}

// everybody are the trips of all bearers, in their order.
func (s *Server) everybody(t *trip, p *bundle.Party) ([]*trip, error) {
	defer s.planner.Wait()()
	list := make([]*trip, len(p.Bearers))
	failed := make([]error, len(p.Bearers))
	var all sync.WaitGroup
	for i := range p.Bearers {
		all.Go(func() { list[i], failed[i] = s.ofBearer(t, p, p.Bearers[i].ID) })
	}
	all.Wait()
	return list, errors.Join(failed...)
}

func bearerKinds(chosen party.Kind) (list []option) {
	for _, k := range words.BearerKinds {
		list = append(list, option{string(k.Kind), k.Word, k.Kind == chosen})
	}
	return list
}

func kindWord(kind party.Kind) string {
	for _, k := range words.BearerKinds {
		if k.Kind == kind {
			return k.Word
		}
	}
	return "adult"
}

func newBearerView(b *bundle.Bearer, group *bundle.Party, shared *bundle.Shared, one *trip) *bearerView {
	u := unitsOf(one.system)
	body := one.task().Trip.Carrier
	v := &bearerView{ID: b.ID, Name: field{Name: "name", Label: "Name", Value: b.Name}, Kinds: bearerKinds(b.Kind),
		Leads: b.Leads, Away: b.Away, Now: b.ID == group.Now,
		Mass:   field{Name: "mass", Label: "Weighs", Unit: u.body, Value: inUnit(body.MassKg, u.body, unit.Pound/1000)},
		Height: field{Name: "height", Label: "Is tall", Unit: u.length, Value: inUnit(body.HeightCm, u.length, unit.Inch)},
		Age:    field{Name: "age", Label: "Age", Value: fmt.Sprint(body.Age)},
		Limits: field{Name: "limit", Label: "Carries at most", Unit: u.body,
			Value: orEmpty(b.LimitG/1000, u.body, unit.Pound/1000)}}
	share := party.LimitShare(b.Kind)
	v.Usual = fmt.Sprintf("Left empty: %s of the own weight, %s (common practice).", percent(share),
		one.system.Mass(body.MassKg*1000*share))
	if b.Kind == party.Child {
		v.Strict = fmt.Sprintf("Published advice for what children carry to school is stricter: %s to %s of the own weight, %s to %s (from memory).", percent(party.Strict[0]), percent(party.Strict[1]),
			one.system.Mass(body.MassKg*1000*party.Strict[0]), one.system.Mass(body.MassKg*1000*party.Strict[1]))
	}
	for i := range shared.Parts {
		if group.Agreed[shared.Parts[i].ID] == b.ID {
			v.List = append(v.List, fmt.Sprintf("%s, %s", shared.Parts[i].Name,
				one.system.Mass(shared.Item(shared.Parts[i].ID).TotalG())))
		}
	}
	return v
}
