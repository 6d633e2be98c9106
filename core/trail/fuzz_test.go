package trail

import "testing"

func FuzzTime(f *testing.F) {
	for _, seed := range []string{"2026-09-10T11:00", "2026-02-30T11:00", "", "9999-12-31T23:59", "0000-01-01T00:00"} {
		f.Add(seed, "2026-09-13T15:00")
	}
	f.Fuzz(func(t *testing.T, start, end string) {
		from, err := ParseTime(start)
		if err != nil {
			return
		}
		if again, err := ParseTime(FormatTime(from)); err != nil || !again.Equal(from) {
			t.Fatalf("%q becomes %q", start, FormatTime(from))
		}
		to, err := ParseTime(end)
		if err != nil || !to.After(from) || to.Sub(from).Hours() > 400*24 {
			return
		}
		if days, nights := Span(from, to); days != nights+1 || nights < 0 {
			t.Fatal(start, end, days, nights)
		}
	})
}
