// Package trail describes what a trip asks of the kit: how long, how cold, how wet, over what ground, and who
// carries; and from that it works out what must be carried for it: meals, gas, water, warmth (Supplies).
package trail

// Trip is what the planner needs to know of the days ahead. Only days, nights, weather and carrier are always there;
// the rest may be empty, and then nothing is worked out of it.
type Trip struct {
	Name               string  `json:"name,omitempty"`
	Days               int     `json:"days"`
	Nights             int     `json:"nights"`
	NightLowC          float64 `json:"night_low_c"`
	Rain               float64 `json:"rain"` // how likely rain is on a day, 0 to 1
	Terrain            string  `json:"terrain"`
	PackOutsideAtNight bool    `json:"pack_outside_at_night"`
	Carrier            Carrier `json:"carrier"`
	BodyAssumed        bool    `json:"-"` // nobody said what the carrier weighs

	Start   string   `json:"start,omitempty"` // local time, 2026-09-04T13:00
	End     string   `json:"end,omitempty"`
	Season  string   `json:"season,omitempty"` // spring, summer, autumn or winter
	DayHigh *float64 `json:"day_high_c,omitempty"`
	Place   string   `json:"place,omitempty"`
	Legs    []Leg    `json:"legs,omitempty"`
	Camps   []Camp   `json:"camps,omitempty"` // one for each night, in order
	Eating  Eating   `json:"eating,omitzero"`
	Provide bool     `json:"provide,omitempty"` // keep the supplies on the kit list up to date
	Without []string `json:"without,omitempty"` // supplies that the packer took off the list

}

// Carrier is who walks under the pack.
type Carrier struct {
	MassKg   float64 `json:"mass_kg"`
	HeightCm float64 `json:"height_cm"`
	Age      int     `json:"age"`
	TorsoCm  float64 `json:"torso_cm,omitempty"` // from the seventh neck bone to the hip bones
}

// Leg is a piece of the way between two stops.
type Leg struct {
	Name   string   `json:"name,omitempty"`
	Day    int      `json:"day"` // 1 is the day of the start
	Km     float64  `json:"km"`
	ClimbM float64  `json:"climb_m,omitempty"`
	Hours  float64  `json:"hours,omitempty"`  // walking time; 0 is worked out from km and climb
	Water  bool     `json:"water,omitempty"`  // there is water where it ends
	Shop   bool     `json:"shop,omitempty"`   // one can buy food there
	Snow   bool     `json:"snow,omitempty"`   // water there is melted from snow
	Leaves []string `json:"leaves,omitempty"` // what is left where it ends: cached, or handed to others; ids
	Takes  []string `json:"takes,omitempty"`  // what is taken up there: left before, or waiting from the start on; ids
	Pace   float64  `json:"-"`                // how many times the hours of the rule the walker takes; 0 is once
}

// Camp is where a night is spent.
type Camp struct {
	Place       string `json:"place,omitempty"`
	PackOutside bool   `json:"pack_outside,omitempty"`
	Animals     bool   `json:"animals,omitempty"`     // that come for food
	FoodLocker  bool   `json:"food_locker,omitempty"` // food can be locked away there
}

// Stays is the first place at which two nights in a row are spent, if there is one with a name.
func (t *Trip) Stays() (place string, ok bool) {
	for i := 1; i < len(t.Camps); i++ {
		if place := t.Camps[i].Place; place != "" && place == t.Camps[i-1].Place {
			return place, true
		}
	}
	return "", false
}

// Eating holds what is known of the packer's appetite; zero values follow the defaults of this package.
type Eating struct {
	GramsADay  float64 `json:"g_per_day,omitempty"`
	KcalADay   float64 `json:"kcal_per_day,omitempty"`
	Efficiency float64 `json:"stove_efficiency,omitempty"`
	LitresAnHr float64 `json:"water_l_per_hour,omitempty"`
}

// CommonShare and UpperShare bound the pack's share of body mass for grown walkers (common practice): up to a quarter
// without a word, to three tenths with a look.
const (
	CommonShare = 0.25
	UpperShare  = 0.30
)
