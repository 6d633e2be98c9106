package load

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/job"
	"tornister/core/rucksack"
)

// Lanes of a body of 28 by 20 cm, by hand: a thing that is wholly within the back three quarters and whose middle lies
// before 42 in 100 of the depth is at the back, likewise at the front; at the sides is what hardly reaches over the
// middle. A pinned lane is kept where the thing's middle lies in that half.
func TestLanesByHand(t *testing.T) {
	t.Parallel()
	p := &packing{}
	solid := &rucksack.Solid{Size: [3]int{28, 20, 50}, CellCm: 1}
	at := func(x0, x1, y0, y1 float64) *Placement {
		return &Placement{Box: &Box{Min: [3]float64{x0, y0, 0}, Max: [3]float64{x1, y1, 9}},
			MiddleCm: [3]float64{(x0 + x1) / 2, (y0 + y1) / 2, 4.5}}
	}
	for name, c := range map[string]struct {
		lies *Placement
		pin  job.Lane
		want job.Lane
	}{
		"at the back":                   {at(-14, 14, 0, 14), "", job.Back},
		"to the front":                  {at(-14, 14, 6, 20), "", job.Front},
		"too deep for the back":         {at(-14, 14, 0, 15), "", job.Full},
		"middle behind the back's":      {at(-14, 14, 4, 14), "", job.Full},
		"too deep for the front":        {at(-14, 14, 5, 20), "", job.Full},
		"on the left":                   {at(-14, 3.3, 0, 20), "", job.Left},
		"a little over the middle":      {at(-14, 3.4, 0, 20), "", job.Full},
		"on the right":                  {at(-3.3, 14, 0, 20), "", job.Right},
		"pinned at the back, and there": {at(-14, 14, 0, 19), job.Back, job.Back},
		"pinned at the back, and not":   {at(-14, 14, 0, 20), job.Back, job.Full},
		"pinned in front, and there":    {at(-14, 14, 1, 20), job.Front, job.Front},
		"pinned in front, and not":      {at(-14, 14, 0, 20), job.Front, job.Full},
		"pinned left, and there":        {at(-14, 13, 0, 20), job.Left, job.Left},
		"pinned left, and right":        {at(-13, 14, 0, 20), job.Left, job.Full},
		"pinned right, and there":       {at(-13, 14, 0, 20), job.Right, job.Right},
	} {
		var pin *job.Pin
		if c.pin != "" {
			pin = &job.Pin{Lane: c.pin}
		}
		assert.Equal(t, c.want, p.lane(c.lies, pin, solid), name)
	}
}
