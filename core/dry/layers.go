package dry

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/trail"
)

// Lying is a packed thing where the plan has it.
type Lying struct {
	Piece  kit.Piece
	Zone   *rucksack.Zone
	Inside string  // id of the vessel it lies in, "" when it lies in the zone itself
	Above  bool    // over the liner of its zone, which is rolled shut below it
	Litres float64 // the room it takes in a bag that is pushed full by hand
}

// Pack is a whole packing, as far as dryness goes.
type Pack struct {
	Pack   *rucksack.Pack
	Things []Lying
	Bags   []Bag
	School string   // of method: liner, cover, bags, two-questions or double
	Open   bool     // the divider between bottom compartment and body lies open: both are one room
	Torn   []string // ids of bags that a trial packing could not bring in as one: they protect nothing
	Trip   *trail.Trip
	Stop   func() bool // ends the search for fewer bags when it says so; nil for never
}

// Why answers the two questions: does it take up water, does it suffer by it?
func Why(it *kit.Item) fact.Fact {
	w := it.Water
	switch {
	case it.Has(kit.Electronic) && w.Suffers:
		return fact.Of("dry.electronics")
	case w.Absorbs && w.Suffers && Need(it) == 1:
		return fact.Of("dry.used-wet")
	case w.Absorbs && w.Suffers:
		return fact.Of("dry.absorbs-suffers")
	case w.Absorbs:
		return fact.Of("dry.absorbs")
	case w.Suffers:
		return fact.Of("dry.suffers")
	}
	return fact.Of("dry.careless")
}

// Sleeping reports whether a night's warmth hangs on the thing: down, quilts, what is worn to sleep.
func Sleeping(it *kit.Item) bool {
	return it.Shape.Kind == kit.Soft && it.Use.When == kit.Camp && Need(it) == 2 &&
		(it.Serves("warmth") || it.Group == "sleep" || it.Group == "clothing")
}

// Asked is how many layers a school wants between rain and a thing (common practice). All want one round what must
// stay dry; belt and braces wants two round what the night hangs on; the two questions leave alone what takes up no
// water. A thing that is only to be kept from soaking is content with fabric.
func Asked(it *kit.Item, school string) int {
	switch need := Need(it); {
	case need == 0, school == "two-questions" && !it.Water.Absorbs:
		return 0
	case need == 2 && school == "double" && Sleeping(it):
		return 2
	}
	return 1
}

// handCm is how much of a liner's length is rolled to shut it: a hand's width.
const handCm = 10.0

// Liner is the liner in use: the largest owned, where the school has one.
func (p *Pack) Liner() *Bag {
	if liners := p.liners(); len(liners) > 0 {
		return liners[0]
	}
	return nil
}

// liners are those in use, the largest first.
func (p *Pack) liners() []*Bag {
	if p.School != "liner" && p.School != "double" {
		return nil
	}
	var found []*Bag
	for i := range p.Bags {
		if p.Bags[i].Kind == "liner" {
			found = append(found, &p.Bags[i])
		}
	}
	slices.SortStableFunc(found, func(a, b *Bag) int { return cmp.Compare(b.VolumeL, a.VolumeL) })
	return found
}

// LinerOf is the liner of a zone, nil for none. A liner lines one compartment, body before bottom; where the divider
// lies open, one goes through both.
func (p *Pack) LinerOf(z *rucksack.Zone) *Bag {
	liners := p.liners()
	switch {
	case !z.Solid() || len(liners) == 0:
		return nil
	case z.Kind == rucksack.Body || p.Open:
		return liners[0]
	case len(liners) > 1:
		return liners[1]
	}
	return nil
}

// room reports whether two zones are in one liner.
func (p *Pack) room(a, b *rucksack.Zone) bool {
	return a.Kind == b.Kind || p.Open && a.Solid() && b.Solid()
}

func largest(bags []Bag, kind string) *Bag {
	var found *Bag
	for i := range bags {
		if b := &bags[i]; b.Kind == kind && (found == nil || b.VolumeL > found.VolumeL) {
			found = b
		}
	}
	return found
}

// LinerNeedL is the litres a liner must have to be rolled shut over what lies in a compartment below its roll:
// theirs, no more than the compartment has room for, and a hand's width of its section.
func (p *Pack) LinerNeedL(z *rucksack.Zone) float64 {
	need, room := 0.0, 0.0
	for _, l := range p.Things {
		if p.room(l.Zone, z) && l.Inside == "" && !l.Above {
			need += l.Litres
		}
	}
	for i := range p.Pack.Zones {
		if other := &p.Pack.Zones[i]; p.room(other, z) {
			room += other.CapacityL()
		}
	}
	return min(need, room) + handCm*z.SizeCm[0]*z.SizeCm[1]/1000
}

// LinerShuts reports whether the liner of a zone, if there is one, can be rolled shut. One whose litres are not known
// is taken to.
func (p *Pack) LinerShuts(z *rucksack.Zone) bool {
	liner := p.LinerOf(z)
	return liner != nil && (liner.VolumeL == 0 || liner.VolumeL >= p.LinerNeedL(z))
}

// Lined reports whether a thing lies within a liner that shuts.
func (p *Pack) Lined(l Lying) bool { return !l.Above && p.LinerShuts(l.Zone) }

// Layer is one thing between a packed thing and the rain. Thin layers, such as a zone's own fabric, keep from soaking
// but not dry.
type Layer struct {
	Name string // id of a bag, an IP code, or a word
	Thin bool
}

// Layers lists what keeps rain from a thing without dry bags, from outside to inside: cover, the zone's own fabric,
// the liner, its own case. A cover leaves the back and the harness open, and what hangs outside; it comes off at
// night, so that it does not count where packs stand outside. A liner counts in body and bottom when it can be rolled
// shut.
func (p *Pack) Layers(l Lying) []Layer {
	var layers []Layer
	if cover := largest(p.Bags, "cover"); cover != nil && p.School == "cover" && !p.Trip.PackOutsideAtNight {
		switch l.Zone.Kind {
		case rucksack.Sleeve, rucksack.Hip, rucksack.Shoulder, rucksack.Straps:
		default:
			layers = append(layers, Layer{Name: cover.ID})
		}
	}
	switch l.Zone.Weather {
	case rucksack.Sealed:
		layers = append(layers, Layer{Name: "sealed zone"})
	case rucksack.Covered:
		layers = append(layers, Layer{Name: "fabric", Thin: true})
	}
	if p.Lined(l) {
		layers = append(layers, Layer{Name: p.LinerOf(l.Zone).ID})
	}
	if Cased(l.Piece.Item) {
		layers = append(layers, Layer{Name: l.Piece.Water.Case})
	}
	return layers
}

// Short is how many layers a thing lacks.
func (p *Pack) Short(l Lying) int {
	it := l.Piece.Item
	have := 0
	for _, layer := range p.Layers(l) {
		if !layer.Thin || Need(it) == 1 {
			have++
		}
	}
	return max(0, Asked(it, p.School)-have)
}

// Source is something that brings water into the pack.
type Source struct {
	Lying
	Why       fact.Fact
	Threatens []kit.Piece // must stay dry, in the same zone, without a layer of their own between
}

// Sources lists what leaks or comes back wet, and what it threatens when nothing but the liner is round both: inside
// a liner there is no barrier between a wet fly and a sleeping bag.
func (p *Pack) Sources(plan *Barriers) []Source {
	bagged := map[kit.Piece]bool{}
	for _, b := range slices.Concat(plan.Used, plan.Wet) {
		for _, t := range b.Things {
			bagged[t] = true
		}
	}
	var sources []Source
	for _, l := range p.Things {
		w := l.Piece.Water
		if !w.Leaks && !w.ReturnsWet || bagged[l.Piece] {
			continue
		}
		s := Source{Lying: l, Why: fact.Of("dry.wet-back")}
		if w.Leaks {
			s.Why = fact.Of("dry.leaks")
		}
		for _, o := range p.Things {
			if o.Piece != l.Piece && Need(o.Piece.Item) == 2 && p.sameRoom(l, o) && !bagged[o.Piece] && !Cased(o.Piece.Item) {
				s.Threatens = append(s.Threatens, o.Piece)
			}
		}
		sources = append(sources, s)
	}
	return sources
}

// sameRoom reports whether water goes from one thing to the other inside the pack: within a zone, and from the sleeve
// and the inner pocket into the body, unless a liner is between. A rolled liner lets nothing down.
func (p *Pack) sameRoom(a, b Lying) bool {
	inBody := func(z *rucksack.Zone) bool {
		return z.Kind == rucksack.Body || z.Kind == rucksack.Sleeve || z.Kind == rucksack.Inner || p.Open && z.Solid()
	}
	return (a.Zone.ID == b.Zone.ID || inBody(a.Zone) && inBody(b.Zone)) && p.Lined(a) == p.Lined(b)
}

// BuyL is the size of bag to buy for a thing, in whole litres, filled to at most FullShare.
func BuyL(litres float64) float64 { return math.Max(1, math.Ceil(litres/FullShare-1e-9)) }

// describe names a thing with its number where its line stands for several.
func describe(p kit.Piece) string {
	if p.Count > 1 {
		return fmt.Sprintf("%s %d", p.Name, p.Number)
	}
	return p.Name
}
