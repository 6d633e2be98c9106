package reach

import (
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// Lie is a packed thing where the plan has it: its zone, what has to come out before it, and its bag.
type Lie struct {
	Piece  kit.Piece
	Zone   *rucksack.Zone
	Over   []kit.Piece // on the way to the nearest opening, the nearest first
	Bag    string      // id of its dry bag; things of one bag come out as one
	Liner  bool        // it lies within the liner
	Spoils bool        // rain would spoil it once it lies on the ground: it must not get wet and has no case or bag
}

// Drill is something that may have to be done in a hurry.
type Drill struct {
	ID      string
	Name    string // of a packer's own
	LimitS  float64
	Rain    bool
	Told    bool // a companion has to find it from five words
	Wants   func(*kit.Item) bool
	NoneWet bool     // nothing that must stay dry may be rained on
	Items   []string // of a packer's own drill: ids, instead of Wants
}

// wants reports whether the drill asks for a thing.
func (d *Drill) wants(it *kit.Item) bool {
	if d.Wants == nil {
		return slices.Contains(d.Items, it.ID)
	}
	return d.Wants(it)
}

func warm(it *kit.Item) bool {
	return it.Group == "clothing" && it.Serves("warmth") && it.Use.When != kit.Camp
}

// Drills are the usual ones; their limits are our estimates of what is good enough.
var Drills = []Drill{
	{ID: "rain", LimitS: 60, Rain: true, Wants: func(it *kit.Item) bool { return it.Serves("rain") }, NoneWet: true},
	{ID: "hurt", LimitS: 30, Told: true, Wants: func(it *kit.Item) bool { return it.Serves("first-aid") }},
	{ID: "cold-halt", LimitS: 60, Wants: warm},
	{ID: "refill", LimitS: 120, Wants: func(it *kit.Item) bool {
		return it.Consumable == "water" || it.Serves("water-treatment") && it.Use.When != kit.Need
	}},
	{ID: "lunch", LimitS: 60, Wants: func(it *kit.Item) bool {
		return it.Consumable == "food" && (it.Use.When == kit.Halt || it.Use.When == kit.Moving)
	}},
	{ID: "way", LimitS: 20, Wants: func(it *kit.Item) bool {
		return (it.Kind == "map" || it.Kind == "compass") &&
			it.Use.When != kit.Need
	}},
	{ID: "dusk", LimitS: 30, Wants: func(it *kit.Item) bool { return it.Serves("light") && it.Use.When != kit.Need }},
	{ID: "camp-in-rain", LimitS: 240, Rain: true, NoneWet: true, Wants: func(it *kit.Item) bool {
		return it.Group == "shelter"
	}},
	{ID: "avalanche", LimitS: 25,
		Wants: func(it *kit.Item) bool { return it.Has(kit.Rescue) && it.Kind != "transceiver" }},
	{ID: "night-call", LimitS: 90, Wants: func(it *kit.Item) bool {
		return it.Kind == "trowel-kit" || it.Kind == "trowel" || it.Kind == "camp-shoes" || it.Serves("light") && it.Use.When != kit.Need
	}},
	{ID: "child", LimitS: 60, Wants: func(it *kit.Item) bool {
		k, _ := kit.KindOf(it.Kind)
		return k.Child && (it.Group == "clothing" || it.Kind == "soft-toy")
	}},
}

// Limits lists the limits of the usual drills that ask for a thing, in seconds.
func Limits(it *kit.Item) []Limit {
	var limits []Limit
	for i := range Drills {
		if d := &Drills[i]; d.Wants(it) {
			limits = append(limits, Limit{d.LimitS, d.NoneWet})
		}
	}
	return limits
}

// Limit is the time that a drill leaves.
type Limit struct {
	S       float64
	NoneWet bool // and nothing may be rained on that must stay dry
}

// Act is one movement of a drill.
type Act struct {
	What   fact.Fact
	At     float64 // seconds at which it is done
	Takes  float64
	Out    []kit.Piece // all that lies outside the pack by then, in order
	InHand []kit.Piece
	Zone   *rucksack.Zone
}

// Soaked is a thing that lies in the rain.
type Soaked struct {
	Piece kit.Piece
	For   float64 // seconds
}

// Result is a drill gone through by the estimates.
type Result struct {
	Drill   *Drill
	Wanted  []kit.Piece
	Missing bool // nothing with the walker does it
	OnBody  []kit.Piece
	Acts    []Act
	InHandS float64 // until the last wanted thing is in the hand
	ShutS   float64 // until what was lifted out is back and all is shut
	Lifted  []kit.Piece
	Soaked  []Soaked
	Where   fact.Fact // where it is, for a companion
}

// Within reports whether the drill is done as it should be.
func (r *Result) Within() bool {
	return !r.Missing && r.InHandS <= r.Drill.LimitS && (!r.Drill.NoneWet || len(r.Soaked) == 0)
}

// Run goes through a drill: pockets that are nearest first, the pack taken off once, every thing in the way lifted
// out once (a bag with all that is in it as one), barriers opened; then everything is put back and shut. worn are
// things on the walker.
func Run(d *Drill, lies []Lie, worn []kit.Piece) Result {
	r := Result{Drill: d}
	for _, p := range worn {
		if d.wants(p.Item) {
			r.OnBody = append(r.OnBody, p)
		}
	}
	var wanted []Lie
	for _, l := range lies {
		if d.wants(l.Piece.Item) {
			wanted = append(wanted, l)
			r.Wanted = append(r.Wanted, l.Piece)
		}
	}
	if len(wanted)+len(r.OnBody) == 0 {
		r.Missing = true
		return r
	}
	slices.SortStableFunc(wanted, func(a, b Lie) int {
		return int(1000 * (Seconds(a.Zone, 0, 0) - Seconds(b.Zone, 0, 0)))
	})
	w := &walk{result: &r, byPiece: map[kit.Piece]*Lie{}, opened: map[string]bool{}, gone: map[kit.Piece]bool{},
		bags: map[string]bool{}}
	for i := range lies {
		w.byPiece[lies[i].Piece] = &lies[i]
	}
	for i := range wanted {
		w.fetch(&wanted[i])
	}
	r.InHandS = w.clock
	w.shut()
	r.ShutS = w.clock
	r.Where = where(wanted)
	return r
}

// walk is a drill under way.
type walk struct {
	result   *Result
	byPiece  map[kit.Piece]*Lie
	opened   map[string]bool // zones, "liner", bags
	gone     map[kit.Piece]bool
	bags     map[string]bool // bags that are out as a whole
	clock    float64
	off      bool // the pack is off the back
	barriers int
	liftedAt []float64
}

func (w *walk) act(z *rucksack.Zone, takes float64, what fact.Fact) {
	w.clock += takes
	r := w.result
	var hand []kit.Piece
	if n := len(r.Acts); n > 0 {
		hand = r.Acts[n-1].InHand
	}
	r.Acts = append(r.Acts, Act{what, w.clock, takes, slices.Clone(r.Lifted), hand, z})
}

// fetch brings one thing to hand.
func (w *walk) fetch(l *Lie) {
	if w.gone[l.Piece] {
		return // it came to hand on the way to another
	}
	if !w.opened[l.Zone.ID] {
		takes := Seconds(l.Zone, 0, 0)
		what := fact.Of("reach.open", l.Zone.Name)
		needsOff := l.Zone.Reach != rucksack.Walking && l.Zone.Reach != rucksack.Swing
		switch {
		case needsOff && w.off:
			takes = max(takes-packOff, 2)
		case needsOff:
			w.off = true
			what = fact.Of("reach.pack-off", what)
		}
		w.opened[l.Zone.ID] = true
		w.act(l.Zone, takes, what)
	}
	if l.Liner {
		w.barrier(l.Zone, "liner", fact.Of("reach.open-liner"))
	}
	for _, over := range l.Over {
		w.lift(over, l)
	}
	if l.Bag != "" {
		w.barrier(l.Zone, l.Bag, fact.Of("reach.open-bag"))
	}
	w.gone[l.Piece] = true
	w.take(l.Zone, 0, l.Piece)
}

// take has a wanted thing in the hand.
func (w *walk) take(z *rucksack.Zone, takes float64, p kit.Piece) {
	w.act(z, takes, fact.Of("reach.in-hand", p.Name))
	last := &w.result.Acts[len(w.result.Acts)-1]
	last.InHand = append(slices.Clone(last.InHand), p)
}

// barrier opens a liner or a bag; half of its time is for shutting it again.
func (w *walk) barrier(z *rucksack.Zone, id string, what fact.Fact) {
	if w.opened[id] {
		return
	}
	w.opened[id] = true
	w.barriers++
	w.act(z, barrier/2, what)
}

// lift takes one thing, or the bag that it is in, out of the way.
func (w *walk) lift(p kit.Piece, towards *Lie) {
	over := w.byPiece[p]
	if w.gone[p] || over != nil && over.Bag != "" && (over.Bag == towards.Bag || w.bags[over.Bag]) {
		return
	}
	w.gone[p] = true
	if w.result.Drill.wants(p.Item) {
		w.take(towards.Zone, liftOut, p)
		return
	}
	what := fact.Of("reach.lift", p.Name)
	if over != nil && over.Bag != "" {
		w.bags[over.Bag] = true
		what = fact.Of("reach.lift-bag", p.Name)
	}
	w.result.Lifted = append(w.result.Lifted, p)
	w.act(towards.Zone, liftOut, what)
	w.liftedAt = append(w.liftedAt, w.clock)
}

// shut puts back what was lifted out, last out first in, and shuts the barriers. What lies in the rain till then gets
// wet.
func (w *walk) shut() {
	r := w.result
	lifted := slices.Clone(r.Lifted)
	for i := len(lifted) - 1; i >= 0; i-- {
		r.Lifted = lifted[:i]
		w.act(nil, putBack, fact.Of("reach.put-back", lifted[i].Name))
		if l := w.byPiece[lifted[i]]; r.Drill.Rain && l != nil && l.Spoils {
			r.Soaked = append(r.Soaked, Soaked{lifted[i], w.clock - w.liftedAt[i]})
		}
	}
	r.Lifted = lifted
	if w.barriers > 0 {
		w.act(nil, barrier/2*float64(w.barriers), fact.Of("reach.shut"))
	}
}

// where is how a companion is told of the last of what is wanted.
func where(wanted []Lie) fact.Fact {
	if len(wanted) == 0 {
		return fact.Fact{}
	}
	return wanted[len(wanted)-1].Place()
}

// Place is how a companion is told where a thing is: the zone, and what is in the way.
func (l *Lie) Place() fact.Fact {
	if len(l.Over) > 0 {
		return fact.Of("reach.under", l.Zone.Name, fact.Things(len(l.Over)))
	}
	return fact.Of("reach.in", l.Zone.Name)
}

// inTheTop is how many things may lie over what a companion has to find: in the top of a zone, five words do.
const inTheTop = 1

// Found reports whether a companion who is told in five words finds all that the drill wants: nothing but one thing
// over it.
func (r *Result) Found(lies []Lie) bool {
	for _, l := range lies {
		if slices.Contains(r.Wanted, l.Piece) && (len(l.Over) > inTheTop || l.Liner) {
			return false
		}
	}
	return !r.Missing
}

// Timed is what a stopwatch says of a drill for one packer.
type Timed struct {
	N          int
	MeanS, SdS float64
	EstimateS  float64 // what is expected now
}

// estimateWeighs is how many real times the estimate counts as (our estimate: two tries and it is half forgotten).
const estimateWeighs = 2

// WithTimes moves an estimate by real times: their mean with the estimate counted as two of them.
func WithTimes(estimateS float64, times []float64) Timed {
	t := Timed{N: len(times), EstimateS: estimateS}
	if t.N == 0 {
		return t
	}
	for _, s := range times {
		t.MeanS += s / float64(t.N)
	}
	for _, s := range times {
		t.SdS += (s - t.MeanS) * (s - t.MeanS)
	}
	if t.N > 1 {
		t.SdS = math.Sqrt(t.SdS / float64(t.N-1))
	} else {
		t.SdS = 0
	}
	t.EstimateS = (estimateWeighs*estimateS + float64(t.N)*t.MeanS) / (estimateWeighs + float64(t.N))
	return t
}
