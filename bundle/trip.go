package bundle

import (
	"fmt"
	"slices"
	"time"

	"tornister/core/reach"
)

// What a trip keeps beside the figures of its days: drills of the packer's own, real times, and the forecast it was
// planned with. The planner does not need them.

// Drill is a drill of the packer's own.
type Drill struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Items  []string `json:"items"` // ids of what is wanted
	LimitS float64  `json:"limit_s"`
	Rain   bool     `json:"rain,omitempty"`
}

// Forecast is a forecast as it was given, with where and when.
type Forecast struct {
	Source string        `json:"source"`
	Asked  time.Time     `json:"asked"`
	Issued time.Time     `json:"issued"`
	Days   []ForecastDay `json:"days"`
}

// ForecastDay is the weather of one day.
type ForecastDay struct {
	Date  string  `json:"date"`
	LowC  float64 `json:"low_c"`
	HighC float64 `json:"high_c"`
	Rain  float64 `json:"rain"` // how likely, 0 to 1
}

// part reads a part of the trip; what is not there, or is something else, is the zero value.
func part[T any](d Doc, key string) (v T) {
	trip, _ := d["trip"].(map[string]any)
	if Into(trip[key], &v) != nil {
		var none T
		return none
	}
	return v
}

// setPart writes a part of the trip, or takes it out when there is nothing in it.
func (d Doc) setPart(key string, v any, empty bool) error {
	trip := d.Object("trip")
	if empty {
		delete(trip, key)
		return nil
	}
	tree, err := Tree(v)
	if err != nil {
		return err
	}
	trip[key] = tree
	return nil
}

// Drills are the packer's own, in the order they were made.
func (d Doc) Drills() []Drill { return part[[]Drill](d, "drills") }

// AddDrill keeps a drill, under an id of its own if it has none.
func (d Doc) AddDrill(drill Drill) error {
	own := d.Drills()
	for n := 1; drill.ID == ""; n++ {
		if id := fmt.Sprintf("own-%d", n); !slices.ContainsFunc(own, func(o Drill) bool { return o.ID == id }) {
			drill.ID = id
		}
	}
	tree, err := Tree(drill)
	if err != nil {
		return err
	}
	list, _ := d.Object("trip")["drills"].([]any) // as they are: with what a later version may have written into them
	return d.setPart("drills", append(slices.Clone(list), tree), false)
}

// RemoveDrill forgets a drill of the packer's own.
func (d Doc) RemoveDrill(id string) error {
	list, _ := d.Object("trip")["drills"].([]any)
	left := slices.DeleteFunc(slices.Clone(list), func(o any) bool {
		drill, is := o.(map[string]any)
		return is && drill["id"] == id
	})
	return d.setPart("drills", left, len(left) == 0)
}

// OwnDrills are the packer's drills as they are rehearsed.
func (d Doc) OwnDrills() []reach.Drill {
	var own []reach.Drill
	for _, k := range d.Drills() {
		own = append(own, reach.Drill{ID: k.ID, Name: k.Name, LimitS: k.LimitS, Rain: k.Rain, Items: k.Items})
	}
	return own
}

// Times are the real times of each drill, in seconds, by its id.
func (d Doc) Times() map[string][]float64 { return part[map[string][]float64](d, "stopwatch") }

// AddTime keeps a real time of a drill, to a tenth of a second.
func (d Doc) AddTime(drill string, seconds float64) error {
	times := d.Times()
	if times == nil {
		times = map[string][]float64{}
	}
	times[drill] = append(times[drill], seconds)
	return d.setPart("stopwatch", times, false)
}

// ForgetTimes forgets all real times of a drill.
func (d Doc) ForgetTimes(drill string) error {
	times := d.Times()
	delete(times, drill)
	return d.setPart("stopwatch", times, len(times) == 0)
}

// Forecast is the one the trip keeps, nil for none.
func (d Doc) Forecast() *Forecast {
	if f := part[Forecast](d, "forecast"); len(f.Days) > 0 {
		return &f
	}
	return nil
}

// KeepForecast keeps a forecast with the trip; nothing is planned with it by that.
func (d Doc) KeepForecast(f *Forecast) error { return d.setPart("forecast", f, f == nil) }
