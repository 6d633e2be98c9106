// Package weigh sets readings of a scale against a kit list: what each thing is likely to weigh now, whom a
// difference can come from, which readings do not go together, and when the needle has settled.
//
// Masses of the list and readings are independent and normal. The masses given the readings are then normal too;
// their means and spreads are found by conditioning on one reading after the other, which is exact (the update of
// a linear Gaussian model; Kalman 1960).
package weigh

import (
	"cmp"
	"math"
	"slices"
)

// From says where a mass on the list comes from; its standard error follows.
type From string

// The sources, the surest first.
const (
	Weighed From = "weighed"
	Label   From = "label"
	Guess   From = "guess"
)

// relative standard errors of masses by source (our estimates).
var relative = map[From]float64{Weighed: 0.01, Label: 0.05, Guess: 0.20}

// leastSd is what no weighing at home is better than, in grams.
const leastSd = 0.5

// Thing is a line of the list, all its pieces together.
type Thing struct {
	ID    string
	MassG float64
	From  From
}

// SdG is the standard error of the line's mass.
func (t *Thing) SdG() float64 {
	share, known := relative[t.From]
	if !known {
		share = relative[Guess]
	}
	return max(leastSd, share*t.MassG)
}

// Scale is a kind of scale: its step and what else it is off by.
type Scale string

// The kinds of scale.
const (
	Hanging Scale = "hanging" // a hook with the pack on it
	Person  Scale = "person"  // the walker with the pack, less the walker
	Kitchen Scale = "kitchen" // single things and bags
)

// Scales lists them.
var Scales = []Scale{Hanging, Person, Kitchen}

// StepG is the step of a scale; what it shows lies within half of it.
func (s Scale) StepG() float64 {
	switch s {
	case Person:
		return 200
	case Kitchen:
		return 1
	}
	return 50
}

// SdG is the standard error of a reading: half a step either way, evenly, and what the scale is off by in proportion.
// Of a person scale both weighings count (root two).
func (s Scale) SdG(g float64) float64 {
	switch s {
	case Person:
		return s.StepG() * math.Sqrt2
	case Kitchen:
		return math.Hypot(s.StepG()/math.Sqrt(12), 0.003*g)
	}
	return math.Hypot(s.StepG()/math.Sqrt(12), 0.01*g)
}

// Reading is what a scale said of some things together, and of what hangs on it besides.
type Reading struct {
	Scale Scale
	What  []int   // indices of things
	BaseG float64 // what else was on the scale and is known, such as the pack
	G     float64
	Odd   Odd // it does not go with others of the same things, and is not counted
}

// Told is a reading beside the list.
type Told struct {
	SumG  float64 // by the list
	DiffG float64 // reading less sum
	SdG   float64 // of the difference: list and scale together
}

// Errors is the difference in standard errors.
func (t Told) Errors() float64 { return t.DiffG / t.SdG }

// Beyond is how many standard errors no list is off by chance.
const Beyond = 3.0

// Masses are what things weigh by the list and the readings so far.
type Masses struct {
	Mean []float64
	cov  [][]float64
}

// Prior is what the list says.
func Prior(things []Thing) *Masses {
	m := &Masses{Mean: make([]float64, len(things)), cov: make([][]float64, len(things))}
	for i := range things {
		m.Mean[i] = things[i].MassG
		m.cov[i] = make([]float64, len(things))
		sd := things[i].SdG()
		m.cov[i][i] = sd * sd
	}
	return m
}

// SdG is the standard error of a thing's mass.
func (m *Masses) SdG(i int) float64 { return math.Sqrt(max(0, m.cov[i][i])) }

// against sets a reading against the masses as they are known: its difference, the spread of that, and how much each
// thing varies with the sum.
func (m *Masses) against(r *Reading) (told Told, with []float64) {
	with = make([]float64, len(m.Mean))
	told.SumG = r.BaseG
	variance := 0.0
	for _, i := range r.What {
		told.SumG += m.Mean[i]
		for j := range with {
			with[j] += m.cov[j][i]
		}
	}
	for _, i := range r.What {
		variance += with[i]
	}
	sd := r.Scale.SdG(r.G)
	told.DiffG, told.SdG = r.G-told.SumG, math.Sqrt(variance+sd*sd)
	return told, with
}

// Take conditions the masses on a reading and says how it stood to them before.
func (m *Masses) Take(r *Reading) Told {
	told, with := m.against(r)
	share := told.DiffG / (told.SdG * told.SdG)
	for i := range m.Mean {
		m.Mean[i] += with[i] * share
		for j := range m.cov[i] {
			m.cov[i][j] -= with[i] * with[j] / (told.SdG * told.SdG)
		}
	}
	return told
}

// Suspect is a thing whose mass the readings move.
type Suspect struct {
	Thing  int
	MovedG float64 // from the list
	SdG    float64 // what is left not known of it
}

// Suspects lists the things that readings move, those that move most first.
func Suspects(things []Thing, m *Masses) (list []Suspect) {
	for i := range things {
		if moved := m.Mean[i] - things[i].MassG; math.Abs(moved) >= 1 {
			list = append(list, Suspect{i, moved, m.SdG(i)})
		}
	}
	slices.SortStableFunc(list, func(a, b Suspect) int { return cmp.Compare(math.Abs(b.MovedG), math.Abs(a.MovedG)) })
	return list
}

// Verdict is what the readings say of a list.
type Verdict struct {
	Told     []Told // by reading, each against the list as it is
	Odd      []Odd  // by reading
	Masses   *Masses
	Suspects []Suspect
	// Foreign is the grams by which a reading lies beyond what list and other readings explain: something is on
	// the scale that is not on the list (more), or on the list and not in the pack (less), or the scale is off. 0
	// for none.
	Foreign float64
	At      int // the reading that says so
}

// Judge sets all readings against a list. Each is also set against what the others say, so that a bag weighed apart
// tells its part.
func Judge(things []Thing, readings []Reading) *Verdict {
	v := &Verdict{Masses: Prior(things), At: -1}
	for i := range readings {
		told, _ := Prior(things).against(&readings[i])
		v.Told, v.Odd = append(v.Told, told), append(v.Odd, readings[i].Odd)
	}
	worst := Beyond
	largest := 0
	for i := range readings {
		largest = max(largest, len(readings[i].What))
	}
	for i := range readings {
		if readings[i].Odd != Good {
			continue
		}
		others := Prior(things)
		for j := range readings {
			if j != i && readings[j].Odd == Good {
				others.Take(&readings[j])
			}
		}
		told, _ := others.against(&readings[i])
		// A part is better known from the whole than the whole from the part: the largest set that does not fit
		// says so.
		if e := math.Abs(told.Errors()); e > worst || e > Beyond && v.At >= 0 &&
			len(readings[i].What) > len(readings[v.At].What) {
			worst, v.Foreign, v.At = e, told.DiffG, i
		}
	}
	for i := range readings {
		// What the whole pack has too much is shared out only when nothing narrower is known: it may be something
		// else.
		foreign := i == v.At && len(readings) > 1 && len(readings[i].What) == largest
		if !foreign && readings[i].Odd == Good {
			v.Masses.Take(&readings[i])
		}
	}
	v.Suspects = Suspects(things, v.Masses)
	return v
}
