package trail

// Warmth is what the coldest night asks for.
type Warmth struct {
	NightLowC float64
	ComfortC  float64 // the comfort temperature (EN ISO 23537-1) that a sleeping bag should have, or a warmer one
	MatR      float64 // the insulation that mats should add up to (ASTM F3340)
}

// liners and clothes count separately: see the Safe check.

// mats is the insulation wanted under a sleeper by the night's low (common practice, from memory), falling.
var mats = []struct{ lowC, r float64 }{{10, 1.5}, {5, 2}, {0, 3}, {-5, 4}, {-10, 5}, {-20, 6.5}}

// Wanted says how warm the nights should be slept. Between the steps of the table the insulation is interpolated.
func (t *Trip) Wanted() Warmth {
	return Warmth{t.NightLowC, t.NightLowC, matFor(t.NightLowC)}
}

func matFor(lowC float64) float64 {
	if lowC >= mats[0].lowC {
		return mats[0].r
	}
	for i := 1; i < len(mats); i++ {
		a, b := mats[i-1], mats[i]
		if lowC >= b.lowC {
			return a.r + (b.r-a.r)*(a.lowC-lowC)/(a.lowC-b.lowC)
		}
	}
	return mats[len(mats)-1].r
}
