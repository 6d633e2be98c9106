package web

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/method"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
	"tornister/words"
)

// compareView is the same kit packed in up to four ways, side by side.
type compareView struct {
	Ways    []wayView
	Choices []presetView
	Legend  []draw.Swatch
}

type presetView struct {
	ID, Name, Words string
	Chosen          bool
}

// wayView is one way: its verdict, checks, drawing, and what lies elsewhere than in the trip's own way.
type wayView struct {
	ID, Name, Words, Verdict string
	Checks                   []checkView
	Drawing                  template.HTML
	Centre                   string
	Moves                    []string
	More                     int
	Own                      bool
}

// mostWays bounds a comparison: four still stand side by side.
const mostWays = 4

// showCompare packs the kit in the trip's own way and in the chosen ones.
func (s *Server) showCompare(c *gin.Context) {
	s.show(c, func(t *trip) {
		p := t.shell("compare", "Compare")
		for i := range p.Road {
			p.Road[i].Current = p.Road[i].Name == "Load"
		}
		view := &compareView{Legend: draw.Legend(draw.ByNeed, t.units())}
		asked := c.QueryArray("way")
		if len(asked) == 0 {
			asked = []string{"trainee", "ski-tour", "external"}
		}
		view.Ways = append(view.Ways, t.way("", words.Told{Name: "As chosen", Words: "the way of this trip"}, t))
		view.Ways[0].Own = true
		for _, preset := range method.Presets {
			told := words.Preset(preset.ID)
			chosen := slices.Contains(asked, preset.ID) && len(view.Ways) < mostWays
			view.Choices = append(view.Choices, presetView{preset.ID, told.Name, told.Words, chosen})
			if !chosen {
				continue
			}
			other := &trip{State: t.State, bundle: &bundle.Bundle{Doc: t.Doc, Task: *t.task(), Assumed: t.bundle.Assumed}}
			other.bundle.Task.Method = preset.Method
			other = other.judge(verdict.Of(other.task(), s.planner.Quickly()), t.units())
			view.Ways = append(view.Ways, other.way(preset.ID, told, t))
		}
		p.Headline = "The same kit, packed in different ways."
		p.Detail = fmt.Sprintf("Up to %d ways side by side. All of them are common practice; good packers disagree.",
			mostWays)
		p.Body = view
		s.render(c, http.StatusOK, p)
	})
}

// way describes a plan beside the trip's own.
func (t *trip) way(id string, told words.Told, own *trip) wayView {
	w := wayView{ID: id, Name: told.Name, Words: told.Words, Verdict: t.sentence(),
		Centre: fmt.Sprintf("weight at %.0f %% of the back, %s out, lean %.0f°", 100*t.answer.Balance.Height,
			t.units().Length(math.Round(t.answer.Balance.CentreCm[1])), t.answer.Balance.LeanDeg)}
	for _, name := range verdict.Names {
		w.Checks = append(w.Checks, t.check(name))
	}
	w.Drawing = draw.Small(t.scene(look{plane: -1}, "metric"))
	if own == t {
		return w
	}
	at := map[string]string{}
	for i := range own.plan.Placed {
		p := &own.plan.Placed[i]
		at[pieceKey(p)] = p.Zone.ID
	}
	for i := range t.plan.Placed {
		p := &t.plan.Placed[i]
		if before, had := at[pieceKey(p)]; had && before != p.Zone.ID && p.Inside == "" {
			w.Moves = append(w.Moves, fmt.Sprintf("%s: %s", placementName(p), unit.Small(p.Zone.Name)))
		}
	}
	if len(w.Moves) > 8 {
		w.More = len(w.Moves) - 8
		w.Moves = w.Moves[:8]
	}
	return w
}

// takePreset makes a preset the trip's own way of packing.
func (s *Server) takePreset(c *gin.Context) {
	preset, known := method.PresetOf(c.PostForm("preset"))
	if !known {
		s.loadAgain(c, bundle.Problems{{Pointer: "/method", What: "there is no such way of packing",
			Mend: "choose one of the list"}}, false)
		return
	}
	s.change(c, "pack like "+words.Preset(preset.ID).Name, func(doc bundle.Doc) error {
		object := doc.Object("method")
		for _, q := range method.Questions {
			object[q.Key] = preset.Method.Answer(q.Key)
		}
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) { s.loadAgain(c, problems, stale) })
}
