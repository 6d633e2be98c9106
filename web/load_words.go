package web

import (
	"fmt"
	"math"
	"strings"

	"tornister/core/load"
	"tornister/core/unit"
	"tornister/words"
)

// loadDetail is the quiet line under the verdict.
func (t *trip) loadDetail() string {
	v := t.answer.Verdict
	said := []string{fmt.Sprintf("%s in the %s.", words.Things(len(t.plan.Placed)), unit.Small(t.task().Pack.Name))}
	if guessed := guessedOut(t.plan); guessed > 0 {
		text := "Part of what does not go in is only guessed: measure that first."
		if guessed == len(t.plan.LeftOut) {
			text = "What does not go in is only guessed: measure it first."
		}
		said = append([]string{text}, said...)
	}
	if v.Confidence != nil {
		said = append(said, closedWords(*v.Confidence))
	}
	said = append(said, provedWords(t.plan), searchedWords(t.plan))
	if v.DividerOpen {
		said = append(said, "With the divider open.")
	}
	if v.CutShort && !t.searching() {
		said = append(said, "The search was stopped; this is the best so far.")
	}
	return strings.Join(said, " ")
}

// guessedOut counts what is left out and only guessed.
func guessedOut(plan *load.Plan) (n int) {
	for i := range plan.LeftOut {
		if !plan.LeftOut[i].Guess().None() {
			n++
		}
	}
	return n
}

// provedWords say what is proved about the zones, and that the plan is another where the trial packing made it so.
func provedWords(plan *load.Plan) string {
	lessRoom, otherwise := plan.Proved()
	text := "Which zone takes what"
	if lessRoom {
		text += ", in the room that trial packings found"
	}
	if gap := plan.Proof.Gap(); gap > 0 {
		text += fmt.Sprintf(": at most %.1f %% dearer than the best there can be.", max(0.1, 100*gap))
	} else {
		text += ": proved, there is nothing better."
	}
	if otherwise > 0 {
		text += fmt.Sprintf(" This plan differs from that in %s: the trial packing has the last word.", words.Things(otherwise))
	}
	return text
}

// closedWords say how sure the fit is.
func closedWords(sure float64) string {
	switch n := math.Round(100 * sure); n {
	case 100:
		return "Tried 100 times with its litres a little larger or smaller, as they may be: it always closed."
	case 0:
		return "Tried 100 times with its litres a little larger or smaller, as they may be: it never closed."
	default:
		return fmt.Sprintf("Tried 100 times with its litres a little larger or smaller, as they may be: it closed %.0f times.", n)
	}
}

// searchedWords say how far the order is to be trusted: it is searched for, not proved.
func searchedWords(plan *load.Plan) string {
	switch {
	case plan.Starts == 0:
		return "The order: the first that goes in."
	case plan.Spread < 0.005:
		return fmt.Sprintf("The order: searched %d times from different beginnings, always to the same end.", plan.Starts)
	}
	return fmt.Sprintf("The order: the best of %d searches from different beginnings; their ends lay up to %.0f %% apart, so there may be a better one.", plan.Starts, 100*plan.Spread)
}
