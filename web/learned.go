package web

import (
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/learn"
	"tornister/core/trail"
)

// learnedRow is a figure that the trip teaches: what was believed, what it shows, and the two together.
type learnedRow struct {
	Key, Name, Before, Seen, After string
	Taken                          bool
	Can                            bool
}

// beliefs are the packer's factors as they are kept, with what is believed before any trip where nothing is.
func (s *Server) beliefs(c *gin.Context) (h bundle.Hand, err error) {
	text, err := s.store.Hand(c.Request.Context())
	if err != nil || text == "" {
		return h, err
	}
	return h, json.Unmarshal([]byte(text), &h)
}

// figure is one of the factors: what is believed before any trip, where it is kept, and what this trip shows.
type figure struct {
	key, name string
	prior     learn.Belief
	kept      func(h *bundle.Hand) **learn.Belief
	sd        float64
	seen      func(t *trip) (float64, bool)
	print     func(v float64, t *trip) string
}

// figures lists them.
func figures() []figure {
	return []figure{
		{"room", "Room that soft things take in your hands", learn.Room(),
			func(h *bundle.Hand) **learn.Belief { return &h.Room }, learn.SeenRoom, seenRoom,
			func(v float64, _ *trip) string { return fmt.Sprintf("%.2f of what is listed", v) }},
		{"food", "Food a day", learn.Belief{Mean: trail.DefaultGramsADay, Sd: learn.PriorOther},
			func(h *bundle.Hand) **learn.Belief { return &h.Food }, learn.SeenOther, seenFood,
			func(v float64, t *trip) string { return t.system.Mass(v) }},
		{"water", "Water an hour of walking", learn.Belief{Mean: 0.3, Sd: learn.PriorOther},
			func(h *bundle.Hand) **learn.Belief { return &h.Water }, learn.SeenOther, seenWater,
			func(v float64, t *trip) string { return t.system.Volume(v) }},
		{"gas", "Gas a litre boiled", learn.Belief{Mean: trail.GasG(1, trail.StreamC, false, trail.Efficiency),
			Sd: learn.PriorOther}, func(h *bundle.Hand) **learn.Belief { return &h.Gas }, learn.SeenOther, seenGas,
			func(v float64, t *trip) string { return t.system.Mass(v) }},
		{"pace", "Your hours beside Naismith's rule", learn.Belief{Mean: 1, Sd: learn.PriorOther},
			func(h *bundle.Hand) **learn.Belief { return &h.Pace }, learn.SeenOther, seenPace,
			func(v float64, _ *trip) string { return fmt.Sprintf("%.2f of its hours", v) }},
	}
}

func seenRoom(t *trip) (float64, bool) {
	seen := t.Doc.Seen()
	return learn.RoomSeen(learn.Packed{Fits: t.plan.Fits(), Squeeze: t.plan.Squeeze, FillCm: t.plan.FillCm,
		Closes: seen.Closes, SeenCm: seen.FillCm})
}

// carriedG is what the trip set out with of something that is used up.
func (t *trip) carriedG(what string) (sum float64) {
	for i := range t.task().Items {
		if it := &t.task().Items[i]; it.Carry != kit.Left && it.Consumable == what {
			sum += it.TotalG()
		}
	}
	return sum
}

// mealDays is how many whole days of food the trip's meals are.
func (t *trip) mealDays() (days float64) {
	for _, meals := range t.task().Trip.Meals() {
		for _, m := range meals {
			days += trail.MealShare[m]
		}
	}
	return days
}

func seenFood(t *trip) (float64, bool) {
	left, days := t.Doc.LookBack().FoodG, t.mealDays()
	if left == nil || days < 0.3 || *left > t.carriedG("food") {
		return 0, false
	}
	return max(1, (t.carriedG("food")-*left)/days), true
}

func seenWater(t *trip) (float64, bool) {
	drunk := t.Doc.LookBack().DrunkL
	hours := 0.0
	for _, leg := range t.task().Trip.Legs {
		hours += leg.Walking()
	}
	if drunk == nil || hours <= 0 {
		return 0, false
	}
	const campL = 2.0 // a night's share, as it is planned
	walked := *drunk - campL*float64(t.task().Trip.Nights)
	return max(0.02, walked/hours), walked > 0
}

func seenGas(t *trip) (float64, bool) {
	left, boiled := t.Doc.LookBack().GasG, trail.BoiledL(t.task().Trip.Meals())
	net := 0.0
	for i := range t.task().Items {
		if it := &t.task().Items[i]; it.Carry != kit.Left && it.Consumable == "fuel" {
			net += it.TotalG() * 0.6 // what a canister holds of what it weighs
		}
	}
	if left == nil || boiled <= 0 || net <= *left {
		return 0, false
	}
	return (net - *left) / boiled, true
}

// ruleHours is what the rule says of all legs; stated hours do not count in it.
func (t *trip) ruleHours() (hours float64) {
	for _, leg := range t.task().Trip.Legs {
		hours += leg.Rule()
	}
	return hours
}

// seenPace is how the hours that were walked stand to those of the rule; what is beyond a third or three times of them
// is no pace.
func seenPace(t *trip) (float64, bool) {
	walked, rule := t.Doc.LookBack().WalkedH, t.ruleHours()
	if walked == nil || rule <= 0 {
		return 0, false
	}
	pace := *walked / rule
	return pace, pace > 1.0/3 && pace < 3
}

// learned sets what was believed beside what this trip shows.
func (s *Server) learned(c *gin.Context, t *trip) (rows []learnedRow) {
	h, err := s.beliefs(c)
	if err != nil {
		s.log.Warn("what was learned cannot be read", "error", err)
	}
	for _, f := range figures() {
		before := f.prior
		kept := *f.kept(&h)
		if kept != nil {
			before = *kept
		}
		row := learnedRow{Key: f.key, Name: f.name, Before: f.believed(before, t), Taken: kept != nil}
		if seen, ok := f.seen(t); ok {
			row.Seen, row.Can = f.print(seen, t), true
			row.After = f.believed(learn.Update(before, seen, f.sd), t)
		}
		rows = append(rows, row)
	}
	return rows
}

func (f *figure) believed(b learn.Belief, t *trip) string {
	from := "before any trip"
	if b.N > 0 {
		from = "from " + count(b.N, "trip")
	}
	return fmt.Sprintf("%s, give or take %.0f in 100, %s", f.print(b.Mean, t), 100*b.Sd, from)
}

// takeLearned takes a figure over for the trips to come and this one, or off again.
func (s *Server) takeLearned(c *gin.Context) {
	key, off := c.PostForm("figure"), c.PostForm("off") != ""
	s.show(c, func(t *trip) {
		h, err := s.beliefs(c)
		if err != nil {
			s.refuse(c, err)
			return
		}
		for _, f := range figures() {
			if f.key != key {
				continue
			}
			kept := f.kept(&h)
			before := f.prior
			if *kept != nil {
				before = **kept
			}
			seen, ok := f.seen(t)
			switch {
			case off:
				*kept = nil
			case ok:
				after := learn.Update(before, seen, f.sd)
				*kept = &after
			}
		}
		text, err := json.Marshal(h)
		if err == nil {
			err = s.store.SetHand(c.Request.Context(), string(text))
		}
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.Redirect(http.StatusSeeOther, localPath(c.PostForm("return"), fmt.Sprintf("/trips/%d/back", t.ID)))
	})
}
