package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/answer"
	"tornister/bundle"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/store"
)

// homeView is the list of trips, and the ways to begin one.
type homeView struct {
	Trips []tripLine
	Packs []packChoice
	Name  string // what was entered for a new trip
	Start string
	End   string
}

type tripLine struct {
	Href, Name, Pack, Verdict, State string
	Things                           int
}

func (s *Server) home(c *gin.Context) { s.showHome(c, http.StatusOK, nil) }

func (s *Server) showHome(c *gin.Context, status int, told *notice) {
	list, err := s.store.Trips(c.Request.Context())
	if err != nil {
		s.refuse(c, err)
		return
	}
	view := homeView{Name: c.PostForm("name"), Start: c.PostForm("start"), End: c.PostForm("end")}
	for _, sum := range list {
		line := tripLine{Href: fmt.Sprintf("/trips/%d/load", sum.ID), Things: sum.Things}
		line.Name, line.Pack = bundle.Plain(sum.Name), bundle.Plain(sum.Pack)
		line.Verdict, line.State = keptVerdict(sum, settingsOf(c).Units)
		view.Trips = append(view.Trips, line)
	}
	if view.Packs, err = s.packChoices(c); err != nil {
		s.refuse(c, err)
		return
	}
	if i := usualPack(view.Packs); i >= 0 {
		view.Packs[i].Chosen = true
	}
	headline, detail := "Does this kit go into this pack?", "Begin with a trip: its pack, then the things that are to go in."
	if len(list) > 0 {
		headline, detail = "Your trips", "Open one, or begin another."
	}
	s.render(c, status, page{Title: "Trips", Name: "home", Headline: headline, Detail: detail, Notice: told, Body: view,
		Here: "/"})
}

// usualPack is the pack that a new trip takes unless another is chosen: the one nearest to the usual size for some
// days, of the shelf if there is one on it.
func usualPack(packs []packChoice) int {
	const usualL = 50
	best, off := -1, math.Inf(1)
	for i := range packs {
		if best >= 0 && packs[best].owned && !packs[i].owned {
			break // those of the shelf come first
		}
		if pack, err := bundle.CheckPack(packs[i].object); err == nil {
			if d := math.Abs(pack.StatedL() - usualL); d < off {
				best, off = i, d
			}
		}
	}
	return best
}

// verdictKept is what the list of trips knows of a plan.
type verdictKept struct {
	Verdict answer.Verdict `json:"verdict"`
	LeftOut int            `json:"left_out"`
	State   string         `json:"state"` // of the check Fit
}

// keepVerdict keeps the verdict on a plan for the list of trips, which plans nothing itself.
func (s *Server) keepVerdict(trip uint, version int, judged *verdict.Judged) {
	kept := verdictKept{answer.VerdictOf(judged.Plan), len(judged.Plan.LeftOut), string(judged.Check("fit").State)}
	text, err := json.Marshal(kept)
	if err == nil {
		err = s.store.KeepVerdict(context.Background(), trip, version, string(text))
	}
	if err != nil {
		s.log.Warn("a verdict was not kept", "trip", trip, "error", err)
	}
}

// Warm packs the trips that have no verdict yet for trial, in the background, so that the list has one for each.
func (s *Server) Warm() {
	ctx := s.planner.All()
	s.planner.Background(ctx, func(ctx context.Context) {
		list, err := s.store.Trips(ctx)
		for _, sum := range list {
			if err != nil || ctx.Err() != nil {
				break
			}
			if sum.VerdictOf != sum.Version {
				_, err = s.planned(ctx, sum.ID)
			}
		}
	}, func(err error) {
		if err != nil {
			s.log.Warn("trips were not planned beforehand", "error", err)
		}
	})
}

// keptVerdict is a trip's verdict in a few words, as it was last found.
func keptVerdict(sum store.Summary, system unit.System) (said, state string) {
	var kept verdictKept
	if sum.Verdict == "" || json.Unmarshal([]byte(sum.Verdict), &kept) != nil {
		return "Not packed for trial yet: open it.", ""
	}
	if sum.VerdictOf != sum.Version {
		return "Changed since it was last packed for trial: open it.", ""
	}
	return answer.Sentence(kept.Verdict, kept.LeftOut, system), kept.State
}

// createTrip begins a trip with one of the generic packs and an empty kit.
func (s *Server) createTrip(c *gin.Context) {
	name := strings.TrimSpace(c.PostForm("name"))
	if name == "" {
		s.showHome(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: "Give the trip a name."})
		return
	}
	choices, err := s.packChoices(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	pack := choices[max(0, usualPack(choices))].object
	for _, p := range choices {
		if p.Value == c.PostForm("pack") {
			pack = p.object
		}
	}
	trip := map[string]any{"name": name, "provide": true}
	for _, key := range []string{"start", "end"} {
		if value := strings.TrimSpace(c.PostForm(key)); value != "" {
			trip[key] = value
		}
	}
	doc := bundle.Doc{"format": "tornister", "version": bundle.Number(1), "pack": pack, "items": []any{}, "trip": trip}
	s.beginWith(c, doc, "layout")
}

// importTrip takes an uploaded bundle.
func (s *Server) importTrip(c *gin.Context) {
	_, text, err := uploadedFile(c, "bundle", bundle.MaxBytes)
	switch {
	case errors.Is(err, errTooLarge):
		s.showHome(c, http.StatusRequestEntityTooLarge,
			&notice{Kind: "wrong", Text: fmt.Sprintf("The file is larger than %d MB. A bundle describes one pack and one kit; split it.", bundle.MaxBytes>>20)})
		return
	case errors.Is(err, errNoFile):
		s.showHome(c, http.StatusUnprocessableEntity, &notice{Kind: "wrong", Text: "Choose a bundle file first."})
		return
	case err != nil:
		s.refuse(c, err)
		return
	}
	s.begin(c, text, "load")
}

// begin stores a bundle as a new trip and opens it; a bundle at fault comes back to the list with what is wrong.
func (s *Server) begin(c *gin.Context, text []byte, step string) {
	b, err := bundle.Read(text)
	var id uint
	if err == nil {
		id, err = s.store.Create(c.Request.Context(), b.Doc)
	}
	if err != nil {
		s.refuseHome(c, placed(text, err))
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/trips/%d/%s", id, step))
}

// placed says of the problems of a bundle where they are in a packer's words, beside the place in the file.
func placed(text []byte, err error) error {
	var problems bundle.Problems
	var doc bundle.Doc
	if !errors.As(err, &problems) || json.Unmarshal(text, &doc) != nil {
		return err
	}
	told := make(bundle.Problems, len(problems))
	for i, p := range problems {
		told[i] = p
		if place := doc.Place(p.Pointer); place != "" && place != p.Pointer {
			told[i].What = bundle.Plain(place) + ": " + p.What
		}
	}
	return told
}

// refuseHome comes back to the list with what is wrong with a trip that was to begin.
func (s *Server) refuseHome(c *gin.Context, err error) {
	var problems bundle.Problems
	if !errors.As(err, &problems) {
		s.refuse(c, err)
		return
	}
	s.showHome(c, http.StatusUnprocessableEntity,
		&notice{Kind: "wrong", Text: "That cannot be a trip; nothing was stored.",
			Lines: strings.Split(problems.Error(), "\n")})
}

// removeTrip deletes a trip.
func (s *Server) removeTrip(c *gin.Context) {
	id, err := tripID(c)
	if err == nil {
		err = s.store.Remove(c.Request.Context(), id, formVersion(c))
	}
	switch {
	case errors.Is(err, store.ErrStale):
		s.showHome(c, http.StatusConflict,
			&notice{Kind: "wrong", Text: "The trip was changed in another window in the meantime, so it was not removed. Open it, look, and remove it then."})
	case err != nil:
		s.refuse(c, err)
	default:
		s.planner.Forget(id)
		s.shrunk.forget(id)
		c.Redirect(http.StatusSeeOther, "/")
	}
}

// exportBundle gives the trip as a file in the open format.
func (s *Server) exportBundle(c *gin.Context) {
	id, err := tripID(c)
	if err != nil {
		s.refuse(c, err)
		return
	}
	state, err := s.store.Trip(c.Request.Context(),
		id) // not planned: what cannot be planned can be taken out all the same
	if err != nil {
		s.refuse(c, err)
		return
	}
	text, err := state.Doc.JSON()
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.Header("Content-Disposition", `attachment; filename="tornister.json"`)
	c.Data(http.StatusOK, "application/json", text)
}

// exportPlan gives the answer of the planner as it is.
func (s *Server) exportPlan(c *gin.Context) {
	s.show(c, func(t *trip) { c.PureJSON(http.StatusOK, t.answer) })
}
