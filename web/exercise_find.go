package web

import (
	"fmt"
	"html/template"
	"maps"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/core/load"
	"tornister/core/practice"
	"tornister/core/unit"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// findView is a packed bag with faults in it, or what they were.
type findView struct {
	Drawing  template.HTML
	Legend   []draw.Swatch
	Views    []findLook
	Zones    []findZone
	Faults   []faultRow
	Wrong    []string // what was named and lies where the plan has it
	Trial    *trialView
	Finished bool
}

// findLook is another side to see the pack from.
type findLook struct {
	View    string
	Drawing template.HTML
}

type findZone struct {
	Name   string
	Things []findThing
}

// findThing is a thing in the pack that may be named.
type findThing struct {
	Step        int
	Value, Name string
	Named       bool
	Nested      bool
}

// faultRow is a fault, and whether it was found.
type faultRow struct {
	State, Word, Text, Place string
}

func (e *exercise) findView(c *gin.Context) *findView {
	bad := e.asTrip(e.spoiled.Bad, e.good.system)
	v := &findView{Finished: e.Ended != nil, Legend: draw.Legend(draw.ByNeed, bad.system)}
	l := look{view: c.Query("view"), plane: -1}
	v.Drawing = draw.Cutaway(bad.scene(l, bad.system)).SVG
	for _, view := range draw.Views {
		if view != draw.ViewOf(l.view) {
			scene := bad.scene(look{view: string(view), plane: -1}, bad.system)
			v.Views = append(v.Views, findLook{string(view), draw.Small(scene)})
		}
	}
	for i := range bad.plan.Placed {
		p := &bad.plan.Placed[i]
		if n := len(v.Zones); n == 0 || v.Zones[n-1].Name != p.Zone.Name {
			v.Zones = append(v.Zones, findZone{Name: p.Zone.Name})
		}
		z := &v.Zones[len(v.Zones)-1]
		key := p.Piece.Key()
		z.Things = append(z.Things, findThing{i + 1, key, placementName(p), slices.Contains(e.state.Named, key), p.Inside != ""})
	}
	if !v.Finished {
		return v
	}
	for i := range e.spoiled.Faults {
		f := &e.spoiled.Faults[i]
		row := faultRow{"stop", "not found", words.Say(f.What, e.good.system), e.planned(f)}
		if f.What.None() { // another version of the program packs it otherwise
			row.Text = words.Piece(f.Moved) + " was put elsewhere."
		}
		if e.found(f) {
			row.State, row.Word = "settled", "found"
		}
		v.Faults = append(v.Faults, row)
	}
	for _, p := range e.wronglyNamed() {
		v.Wrong = append(v.Wrong, fmt.Sprintf("%s, %s", placementName(p), unit.Small(p.Zone.Name)))
	}
	v.Trial = beside(e.good, bad)
	return v
}

// planned says where the plan has what was put elsewhere.
func (e *exercise) planned(f *practice.Fault) string {
	same := func(p load.Placement) bool { return p.Piece.ID == f.Item && p.Piece.Number == f.Piece }
	if i := slices.IndexFunc(e.good.plan.Placed, same); i >= 0 {
		p := &e.good.plan.Placed[i]
		return fmt.Sprintf("In the plan: %s, turn %d.", unit.Small(p.Zone.Name), i+1)
	}
	return ""
}

// named are the things that somebody has named.
func (e *exercise) named() (list []*load.Placement) {
	for i := range e.spoiled.Bad.Plan.Placed {
		if p := &e.spoiled.Bad.Plan.Placed[i]; slices.Contains(e.state.Named, p.Piece.Key()) {
			list = append(list, p)
		}
	}
	return list
}

// found reports whether somebody has named a fault: the thing that was moved, or what it lies against.
func (e *exercise) found(f *practice.Fault) bool {
	return slices.ContainsFunc(e.named(), func(p *load.Placement) bool { return f.Named(p.Piece) })
}

// wronglyNamed lists what was named and belongs to no fault.
func (e *exercise) wronglyNamed() []*load.Placement {
	return slices.DeleteFunc(e.named(), func(p *load.Placement) bool {
		return slices.ContainsFunc(e.spoiled.Faults, func(f practice.Fault) bool { return f.Named(p.Piece) })
	})
}

// answerFind takes what somebody names as wrong; for another view nothing is said yet.
func (s *Server) answerFind(c *gin.Context, e *exercise, known []store.ToRepeat) (again []store.ToRepeat) {
	if e.state.Since == nil {
		return nil
	}
	e.state.Named = nil
	for i := range e.spoiled.Bad.Plan.Placed {
		if key := e.spoiled.Bad.Plan.Placed[i].Piece.Key(); slices.Contains(c.PostFormArray("thing"), key) {
			e.state.Named = append(e.state.Named, key)
		}
	}
	if c.PostForm("do") != "done" {
		return nil
	}
	right := 0
	seen := map[string]bool{} // by kind: all of it was found
	for i := range e.spoiled.Faults {
		f := &e.spoiled.Faults[i]
		found := e.found(f)
		if found {
			right++
		}
		before, is := seen[f.Kind]
		seen[f.Kind] = found && (before || !is)
	}
	for _, kind := range slices.Sorted(maps.Keys(seen)) {
		again = append(again, s.repeat(known, "", kind, seen[kind])...)
	}
	all := len(e.spoiled.Faults)
	s.end(e, right, all, practice.Points(right, len(e.wronglyNamed()), all))
	return again
}
