// Package scale is a simulated hanging scale. It plays what a real one sends while a pack is hung on it, swings,
// settles and is taken off, with the faults of real ones.
package scale

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net/http"
	"strconv"
	"time"

	"tornister/core/unit"
	"tornister/core/weigh"
)

// Fault is what is wrong with a weighing.
type Fault string

// The faults.
const (
	None     Fault = "none"
	BadLift  Fault = "bad-lift" // a hand still helps: it reads too little
	Zero     Fault = "zero"     // the zero is off
	Ground   Fault = "ground"   // a strap touches the ground: it creeps
	Pounds   Fault = "pounds"   // it was switched to pounds
	Overload Fault = "overload"
	Silent   Fault = "silent"  // it stops sending
	Rubbish  Fault = "rubbish" // the line is disturbed
	Negative Fault = "negative"
)

// Faults lists them.
var Faults = []Fault{None, BadLift, Zero, Ground, Pounds, Overload, Silent, Rubbish, Negative}

// Of the stand-in: how long the strap is on which the pack swings, how fast the swing dies away, how far it goes
// at first, and its noise (our estimates).
const (
	strapM   = 0.6
	gravity  = 9.81 // m/s²
	dampingS = 2.5
	swings   = 0.12
	noiseG   = 6.0
	Every    = 100 * time.Millisecond
	heavyG   = 50_000.0 // more than the scale can weigh
)

// Period of the swing, in seconds: a pendulum's, 2 pi root (length / gravity).
func Period() float64 { return 2 * math.Pi * math.Sqrt(strapM/gravity) }

// At is what the scale sends so many seconds after a load of grams was hung on it.
func At(seconds, loadG float64, fault Fault, noise *rand.Rand) weigh.Sample {
	// The pull on the strap rises twice a swing, on either side through the middle.
	g := loadG * (1 + swings*math.Exp(-2*seconds/dampingS)*math.Cos(4*math.Pi*seconds/Period()))
	g += noiseG * noise.NormFloat64()
	s := weigh.Sample{TMs: math.Round(1000 * seconds)}
	switch fault {
	case BadLift:
		g -= 0.14 * loadG
	case Zero:
		g += 350
	case Ground:
		g = 0.7*g + 45*seconds
	case Overload:
		s.Over = loadG > 0
		g = heavyG
	case Negative:
		g -= loadG + 420
	case Pounds:
		s.G, s.Unit = math.Round(g/unit.Pound*100)/100, "lb"
		return s
	}
	s.G, s.Unit = math.Round(g), "g"
	s.Zero = math.Abs(g) < 20
	return s
}

// New serves GET /scale: samples one a line, one in so long (usually Every), of a load (?load=grams) that has just
// been hung, with a fault (?fault=). It goes on until the client leaves.
func New(every time.Duration) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /scale", func(w http.ResponseWriter, r *http.Request) {
		load, err := strconv.ParseFloat(r.URL.Query().Get("load"), 64)
		if err != nil || load < 0 || load > 200_000 {
			load = 0
		}
		fault := Fault(r.URL.Query().Get("fault"))
		w.Header().Set("Content-Type", "application/x-ndjson")
		flush, _ := w.(http.Flusher)
		noise := rand.New(rand.NewPCG(uint64(load), 7))
		tick := time.NewTicker(every)
		defer tick.Stop()
		for n := 0; ; n++ {
			seconds := float64(n) * Every.Seconds()
			switch {
			case fault == Silent && seconds > 1:
			case fault == Rubbish && n%3 == 1:
				fmt.Fprintf(w, "{\"t_ms\": %d, \"g\": \x00??\n", n)
			default:
				if json.NewEncoder(w).Encode(At(seconds, load, fault, noise)) != nil {
					return
				}
			}
			if flush != nil {
				flush.Flush()
			}
			select {
			case <-tick.C:
			case <-r.Context().Done():
				return
			}
		}
	})
	return mux
}
