package web

import (
	"fmt"
	"html/template"
	"slices"

	"github.com/gin-gonic/gin"

	"tornister/core/practice"
	"tornister/core/reach"
	"tornister/core/unit"
	"tornister/store"
	"tornister/web/draw"
	"tornister/words"
)

// askedQuestion is a question of an exercise, and what was answered.
type askedQuestion struct {
	Key      string
	Answered bool
	Answer   string // a zone, or the number of a place
	Right    bool
	TookS    float64
}

// whereView is a question, or the answer to the last.
type whereView struct {
	At, Of   int
	Story    string
	Ask      string
	Answers  []answerButton
	Covered  template.HTML // the pack shut
	Verdict  *whereVerdict
	Drawing  template.HTML // the pack open, when the answer is shown
	Finished bool
	Rows     []whereRow
}

// answerButton is an answer that can be given, with the key that gives it.
type answerButton struct{ Value, Label, Press string }

// whereVerdict says whether an answer was right.
type whereVerdict struct {
	State, Text, Detail string
	Last                bool
}

type whereRow struct{ State, Ask, Place, Said, Took string }

// asked finds the question of a key; nil when the plan, which nothing can change, does not have it.
func (e *exercise) asked(key string) (*practice.Question, []practice.Question) {
	list := practice.Asked(e.spoiled.Good)
	i := slices.IndexFunc(list, func(q practice.Question) bool { return q.Key() == key })
	if i < 0 {
		return nil, list
	}
	return &list[i], list
}

// current is the question that is asked, or was answered last.
func (e *exercise) current() int {
	for i := range e.state.Asked {
		if !e.state.Asked[i].Answered {
			if e.state.Shown {
				return i - 1
			}
			return i
		}
	}
	return len(e.state.Asked) - 1
}

func storyOf(q *practice.Question) string {
	i := slices.IndexFunc(reach.Drills, func(d reach.Drill) bool { return d.ID == q.Drill })
	return words.Drill(&reach.Drills[i]).Name
}

func askOf(q *practice.Question) string {
	if q.Told {
		return fmt.Sprintf("What do you tell a companion who fetches: %s?", unit.Small(q.Piece.Name))
	}
	return fmt.Sprintf("Where is: %s?", unit.Small(q.Piece.Name))
}

func (e *exercise) whereView() *whereView {
	st := &e.state
	at := e.current()
	v := &whereView{At: at + 1, Of: len(st.Asked), Finished: e.Ended != nil}
	pack := &e.bundle.Task.Pack
	for i := range st.Asked {
		if a := &st.Asked[i]; a.Answered && v.Finished {
			v.Rows = append(v.Rows, e.whereRow(a))
		}
	}
	q, list := e.asked(st.Asked[at].Key)
	if q == nil || v.Finished || e.ready() {
		v.Drawing = draw.Cutaway(e.good.scene(look{plane: -1}, e.good.system)).SVG
		return v
	}
	v.Story, v.Ask = storyOf(q), askOf(q)
	if st.Asked[at].Answered {
		v.Verdict = e.verdictOf(&st.Asked[at], q)
		v.Verdict.Last = !slices.ContainsFunc(st.Asked, func(a askedQuestion) bool { return !a.Answered })
		l := look{thing: q.Piece.ID, plane: -1}
		if pack.Zone(q.Zone).AtCm[0] != 0 { // pockets at the sides are seen from behind
			l.view = string(draw.FromBehind)
		}
		v.Drawing = draw.Cutaway(e.good.scene(l, e.good.system)).SVG
		return v
	}
	v.Covered = draw.Blueprint(pack, "", e.good.system)
	if q.Told {
		for i, place := range practice.Places(q, list, uint64(e.Seed)) {
			v.Answers = append(v.Answers, answerButton{fmt.Sprint(i), words.Say(place, e.good.system), letter(i)})
		}
		return v
	}
	for i := range pack.Zones {
		v.Answers = append(v.Answers, answerButton{pack.Zones[i].ID, pack.Zones[i].Name, letter(i)})
	}
	return v
}

// letter is the key of the n-th answer, "" after the last letter.
func letter(n int) string {
	if n > 'z'-'a' {
		return ""
	}
	return string(rune('a' + n))
}

// said is an answer in words.
func (e *exercise) said(a *askedQuestion, q *practice.Question, list []practice.Question) string {
	if q.Told {
		for i, place := range practice.Places(q, list, uint64(e.Seed)) {
			if fmt.Sprint(i) == a.Answer {
				return words.Say(place, e.good.system)
			}
		}
	}
	if z := e.bundle.Task.Pack.Zone(a.Answer); z != nil {
		return z.Name
	}
	return ""
}

func (e *exercise) whereRow(a *askedQuestion) whereRow {
	q, list := e.asked(a.Key)
	if q == nil {
		return whereRow{}
	}
	r := whereRow{State: "settled", Ask: storyOf(q) + ": " + unit.Small(q.Piece.Name), Took: tookWords(a.TookS),
		Place: words.Say(q.Place, e.good.system), Said: e.said(a, q, list)}
	if !a.Right {
		r.State = "stop"
	}
	return r
}

// verdictOf says whether an answer is right, and how long the thing really takes to hand.
func (e *exercise) verdictOf(a *askedQuestion, q *practice.Question) *whereVerdict {
	v := &whereVerdict{State: "settled", Text: fmt.Sprintf("Right, in %.1f s: %s.", a.TookS, unit.Small(words.Say(q.Place, e.good.system)))}
	if !a.Right {
		_, list := e.asked(a.Key)
		v.State = "stop"
		v.Text = fmt.Sprintf("No, not %s. It is here: %s.", unit.Small(e.said(a, q, list)), unit.Small(words.Say(q.Place, e.good.system)))
	}
	for i := range e.spoiled.Good.Steps {
		if step := &e.spoiled.Good.Steps[i]; step.Piece == q.Piece {
			v.Detail = fmt.Sprintf("From there it takes some %.0f s to hand.", step.ReachS)
		}
	}
	return v
}

// answerWhere takes the answer to a question, and ends the exercise after the last.
func (s *Server) answerWhere(c *gin.Context, e *exercise, known []store.ToRepeat) (again []store.ToRepeat) {
	st := &e.state
	if c.PostForm("do") == "end" && !slices.ContainsFunc(st.Asked, func(a askedQuestion) bool { return !a.Answered }) {
		right := 0
		for i := range st.Asked {
			if st.Asked[i].Right {
				right++
			}
		}
		s.end(e, right, len(st.Asked), practice.Points(right, 0, len(st.Asked)))
		return nil
	}
	a := &st.Asked[e.current()]
	q, list := e.asked(a.Key)
	answer, given := c.GetPostForm("answer")
	if !given || a.Answered || q == nil || st.Since == nil {
		return nil
	}
	a.Answered, a.Answer, a.TookS = true, answer, s.stopClock(e)
	st.Shown = true
	if a.Right = answer == q.Zone; q.Told {
		a.Right = e.said(a, q, list) == words.Say(q.Place, e.good.system)
	}
	return s.repeat(known, e.Kit, a.Key, a.Right)
}
