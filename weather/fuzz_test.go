package weather

import (
	"math"
	"testing"
)

func FuzzAnswer(f *testing.F) {
	for _, seed := range []string{`{"source":"Orlava","issued":"2026-09-10T06:00:00Z","days":[{"date":"2026-09-10","low_c":2,"high_c":14,"rain":0.4}]}`, `{"days":[]}`, `[]`, `{"issued":"2026","days":[{"low_c":1e999}]}`} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		found, err := read(text)
		if err != nil {
			return
		}
		low, high, rain := found.Extremes()
		if math.IsInf(low, 0) || low > high || rain < 0 || rain > 1 {
			t.Fatal(low, high, rain)
		}
	})
}
