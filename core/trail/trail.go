// Package trail describes what a trip asks of the kit: how long, how cold, how wet, and who carries.
package trail

// Trip is what the planner needs to know of the days ahead.
type Trip struct {
	Name               string  `json:"name,omitempty"`
	Days               int     `json:"days"`
	Nights             int     `json:"nights"`
	NightLowC          float64 `json:"night_low_c"`
	Rain               float64 `json:"rain"` // how likely rain is on a day, 0 to 1
	Terrain            string  `json:"terrain"`
	PackOutsideAtNight bool    `json:"pack_outside_at_night"`
	Carrier            Carrier `json:"carrier"`
}

// Carrier is who walks under the pack.
type Carrier struct {
	MassKg   float64 `json:"mass_kg"`
	HeightCm float64 `json:"height_cm"`
	Age      int     `json:"age"`
}

// CommonShare and UpperShare bound the pack's share of body mass for grown walkers (common practice): up to a quarter
// without a word, to three tenths with a look.
const (
	CommonShare = 0.25
	UpperShare  = 0.30
)
