package campaign

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"
	"unicode/utf8"

	"tornister/bundle"
	"tornister/bundle/sheet"
	"tornister/core/kit"
	"tornister/core/trail"
	"tornister/core/unit"
	"tornister/demo"
)

// target is a parser with texts to begin from and what must hold of each text; full is how many tries a campaign
// makes.
type target struct {
	name  string
	full  int
	seeds []string
	try   func(text string) error
}

var targets = []target{
	{
		"quantities",
		4_000_000,
		[]string{
			"1 lb 4 oz",
			"0,85 kg",
			"12",
			"5 ft 8 in",
			"850 cm³",
			"9999999999999999999999 kg",
			"-5 °C",
			"7.5 mi",
			"1/2 l",
			"NaN",
			"1e309 g",
		},
		func(text string) error {
			for _, parse := range []func(string, string) (float64, error){unit.Mass, unit.Volume, unit.Length, unit.Distance} {
				if v, err := parse(text, "g"); err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
					return fmt.Errorf("gives %v", v)
				}
			}
			if v, err := unit.Temperature(text, unit.Customary); err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
				return fmt.Errorf("gives %v", v)
			}
			return nil
		},
	},
	{
		"times",
		2_500_000,
		[]string{"2026-09-10T11:00", "2026-02-30T11:00", "", "9999-12-31T23:59", "0000-01-01T00:00"},
		func(text string) error {
			if at, err := trail.ParseTime(text); err == nil {
				if again, err := trail.ParseTime(trail.FormatTime(at)); err != nil || !again.Equal(at) {
					return fmt.Errorf("becomes %q", trail.FormatTime(at))
				}
			}
			return nil
		},
	},
	{
		"plain texts",
		2_000_000,
		[]string{"Ölflasche", "P\u202eot", "\xff\xfe", "🎒 a\x1bb", "\u2028"},
		func(text string) error {
			plain := bundle.Plain(text)
			if !utf8.ValidString(plain) || strings.IndexFunc(plain, bundle.Hidden) >= 0 ||
				!utf8.ValidString(unit.Capital(plain)) ||
				!utf8.ValidString(unit.Small(plain)) {
				return errors.New("is not plain")
			}
			return nil
		},
	},
	{
		"quick lines",
		1_000_000,
		[]string{
			"down bag 950 g 7 l",
			"2 x bottle 1l",
			"rope 9mm 25m",
			"pot 12x10 cm",
			"1 lb 4 oz hat",
			"socks worn",
			"tent 3x2 m",
			"9999999999999999999999 kg y",
		},
		func(text string) error {
			if told, err := kit.Quick(text); err == nil && (told.Count < 1 || told.Name == "") {
				return fmt.Errorf("gives %v", told)
			}
			return nil
		},
	},
	{
		"lists as CSV",
		400_000,
		[]string{
			"name,weight\nPot,140\n",
			"a;b\n1;2",
			"\xff\xfen\x00",
			"\"",
			"name\n=1+1\n",
			"Item\tWeight (oz)\tQty\nHat\t3\t2\n",
			"name|mass|loose\nBag|900 g|7,5 l\n",
		},
		func(text string) error {
			table, err := sheet.Read([]byte(text), "")
			if err != nil {
				return nil
			}
			for _, row := range sheet.Items(table, sheet.Propose(table)) {
				if (row.Item == nil) == (row.Reason == "") {
					return fmt.Errorf("row %d is neither read nor refused", row.Line)
				}
			}
			return nil
		},
	},
	{
		"bundles",
		150_000,
		[]string{
			`{"format":"tornister","version":1,"pack":{"id":"p","zones":[{"id":"b","kind":"body","volume_l":30}]},"items":[{"id":"i","kind":"pot","mass_g":140}]}`,
			`{"a":[1e9,"\ud83c\udf92",null]}`,
			string(demo.ChildNight),
		},
		func(text string) error {
			b, err := bundle.Read([]byte(text))
			if err != nil {
				if problems := (bundle.Problems{}); !errors.As(err, &problems) || len(problems) == 0 {
					return fmt.Errorf("refused without a place: %w", err)
				}
				return nil
			}
			out, err := b.Doc.JSON()
			if err == nil {
				_, err = bundle.Read(out)
			}
			return err
		},
	},
}

// Every parser is given texts changed at random, without looking at what they reach; `go test -fuzz` looks. Ten
// million in a campaign.
func TestHavoc(t *testing.T) {
	t.Parallel()
	seed := Seed()
	total := 0
	for _, target := range targets {
		n := Size(t, target.full/2000, target.full)
		total += n
		begin := time.Now()
		var wait sync.WaitGroup
		var slowest [2]time.Duration
		for worker := range slowest {
			wait.Go(func() {
				for number := worker; number < n; number += len(slowest) {
					text := havoc(rand.New(rand.NewPCG(seed, uint64(number))), target.seeds)
					start := time.Now()
					if err := tried(target, text); err != nil {
						t.Errorf("TORNISTER_SEED=%d, %s, try %d: %q: %.2000s", seed, target.name, number, text, err)
						return
					}
					slowest[worker] = max(slowest[worker], time.Since(start))
				}
			})
		}
		wait.Wait()
		t.Logf(
			"%s: %d texts in %v, the slowest %v",
			target.name,
			n,
			time.Since(begin).Round(time.Millisecond),
			max(slowest[0], slowest[1]).Round(time.Microsecond),
		)
	}
	t.Logf("seed %d: %d texts in all", seed, total)
}

func tried(t target, text string) (err error) {
	defer func() {
		if cause := recover(); cause != nil {
			err = fmt.Errorf("panic: %v\n%s", cause, debug.Stack())
		}
	}()
	return t.try(text)
}

// havoc changes one of the seeds in a few places.
func havoc(r *rand.Rand, seeds []string) string {
	text := []byte(seeds[r.IntN(len(seeds))])
	for range 1 + r.IntN(8) {
		at := r.IntN(len(text) + 1)
		to := at + r.IntN(min(12, len(text)-at)+1)
		switch r.IntN(6) {
		case 0:
			text = slices.Delete(text, at, to)
		case 1:
			text = slices.Insert(text, at, text[at:to]...)
		case 2:
			text = slices.Insert(text, at, []byte(hostileTexts[r.IntN(len(hostileTexts))])...)
		case 3:
			text = slices.Insert(text, at, []byte(hostileNumbers[r.IntN(len(hostileNumbers))])...)
		case 4:
			other := seeds[r.IntN(len(seeds))]
			text = append(text[:at], other[r.IntN(len(other)+1):]...)
		default:
			if at < len(text) {
				text[at] = byte(r.IntN(256))
			}
		}
	}
	return string(text)
}
