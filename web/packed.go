package web

import (
	"fmt"
	"math"
	"net/http"
	"strconv"
	"tornister/bundle"
	"tornister/core/unit"
	"tornister/web/draw"

	"github.com/gin-gonic/gin"
)

// questions asks about the packed pack, with what is predicted of it.
func (v *weighView) questions(t *trip) {
	seen := t.Doc.Seen()
	b := t.judged.Balance
	yesNo := func(given *bool) []option {
		value := ""
		if given != nil {
			value = strconv.FormatBool(*given)
		}
		return options([]option{{Value: "", Label: "not tried"}, {Value: "true", Label: "yes"},
			{Value: "false", Label: "no"}}, value)
	}
	differs := func(given *bool, predicted bool) bool { return given != nil && *given != predicted }
	stands := fmt.Sprintf("it stands: it falls at %.0f° of tilt", b.TipDeg)
	if !b.Stands {
		stands = fmt.Sprintf("it falls: %.0f° of tilt are enough", b.TipDeg)
	}
	hollow := 0.0
	for _, h := range t.plan.Hollows {
		hollow += h.Litres
	}
	rattles := "nothing: no hollow spot of note"
	if hollow > 0 {
		rattles = fmt.Sprintf("%s hollow, %s in all: push something soft in", count(len(t.plan.Hollows), "spot"),
			t.system.Volume(hollow))
	}
	u := unitsOf(t.system)
	fill := ""
	if seen.FillCm > 0 {
		fill = inUnit(seen.FillCm, u.length, unit.Inch)
	}
	v.Questions = []askRow{
		{Key: "stands", Asks: "Does it stand up by itself?", Predicted: stands, Answers: yesNo(seen.Stands),
			Differs: differs(seen.Stands, b.Stands)},
		{Key: "rattles", Asks: "Shake it: does something shift?", Predicted: rattles, Answers: yesNo(seen.Rattles),
			Differs: differs(seen.Rattles, hollow > 0)},
		{Key: "closes", Asks: "Does it close?", Predicted: unit.Small(t.sentence()), Answers: yesNo(seen.Closes),
			Differs: differs(seen.Closes, t.plan.Fits())},
		{Key: "fill", Asks: "How high is it filled?", Predicted: t.system.Length(math.Round(t.plan.FillCm)), Figure: fill,
			Unit:    u.length,
			Differs: seen.FillCm > 0 && math.Abs(seen.FillCm-t.plan.FillCm) > 5},
	}
}

// puttingOn is the order in which a harness is shut, and what is said of the load.
func (v *weighView) puttingOn(t *trip) {
	b := t.judged.Balance
	if b.MassG > 25_000 {
		v.Harness = append(v.Harness, "Above 25 kg two people lift.")
	}
	v.Harness = append(v.Harness, "On to the knee first, then one shoulder, then the other.",
		"Hip belt on the hip bones, and tight.", "Shoulder straps, until they lie on.",
		"Load lifters, at about 45 degrees.", "Breast strap.", "After the first mile, all of it again.")
	v.Share = fmt.Sprintf("%s on the back; its middle lies %s out and you lean about %.0f°.", t.system.Mass(b.MassG),
		t.system.Length(math.Round(b.CentreCm[1])), b.LeanDeg)
	if b.BodyShare > 0 && !t.task().Trip.BodyAssumed {
		v.Share += fmt.Sprintf(" That is %.0f %% of the body: a quarter is usual, a fifth for children and beginners (common practice).", 100*b.BodyShare)
	}
}

// torso compares the back with what the harness is set to.
func (v *weighView) torso(t *trip) {
	pack, body := &t.task().Pack, t.task().Trip.Carrier
	v.Walker = draw.Carried(draw.Walker{HeightCm: body.HeightCm, TorsoCm: body.TorsoCm,
		LeanDeg: t.judged.Balance.LeanDeg, Pack: pack, CentreCm: t.judged.Balance.CentreCm, System: t.system})
	length := t.system.Length
	switch low, high := pack.TorsoCm[0], pack.TorsoCm[1]; {
	case high == 0 && body.TorsoCm == 0:
	case body.TorsoCm == 0:
		v.Harness = append([]string{fmt.Sprintf("The harness is made for backs of %s to %s: measure yours from the seventh neck bone to the line of the hip bones.", length(low), length(high))}, v.Harness...)
	case high == 0:
		v.Harness = append([]string{fmt.Sprintf("Your back is %s long; what the harness is made for is not known.",
			length(body.TorsoCm))}, v.Harness...)
	case body.TorsoCm < low || body.TorsoCm > high:
		v.Harness = append([]string{fmt.Sprintf("Your back is %s long, and the harness is made for %s to %s: it will not sit on the hips.", length(body.TorsoCm), length(low), length(high))}, v.Harness...)
	default:
		v.Harness = append([]string{fmt.Sprintf("Set the harness to a back of %s; it goes from %s to %s.",
			length(body.TorsoCm), length(low), length(high))}, v.Harness...)
	}
}

// sawPack keeps what the packed pack showed.
func (s *Server) sawPack(c *gin.Context) {
	r := readForm(c, settingsOf(c).Units)
	fill, given := r.optional("fill", unit.Length, unitsOf(r.system).length)
	if len(r.wrong) > 0 {
		s.show(c, func(t *trip) {
			s.renderWeigh(c, t, http.StatusUnprocessableEntity, "How high it is filled: "+r.wrong["fill"]+".")
		})
		return
	}
	answer := func(name string) *bool {
		v, err := strconv.ParseBool(r.text(name))
		if err != nil {
			return nil
		}
		return &v
	}
	s.change(c, "what the packed pack shows", func(doc bundle.Doc) error {
		seen := bundle.Seen{Stands: answer("stands"), Rattles: answer("rattles"), Closes: answer("closes")}
		if given {
			seen.FillCm = roundTo(fill, 1)
		}
		return doc.SetSeen(seen)
	}, s.weighAgain(c))
}
