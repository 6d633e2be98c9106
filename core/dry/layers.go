package dry

import (
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
	Litres float64 // the room it takes in a bag that is pushed full by hand
}

// Pack is a whole packing, as far as dryness goes.
type Pack struct {
	Pack   *rucksack.Pack
	Things []Lying
	Bags   []Bag
	School string   // of method: liner, cover, bags, two-questions or double
	Torn   []string // ids of bags that a trial packing could not bring in as one: they protect nothing
	Trip   *trail.Trip
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
	return it.Shape.Kind == kit.Soft && it.Use.When == kit.Camp && Need(it) == 2 && (it.Serves("warmth") || it.Group == "sleep" || it.Group == "clothing")
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
	if p.School != "liner" && p.School != "double" {
		return nil
	}
	return largest(p.Bags, "liner")
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

// LinerNeedL is the litres a liner must have to be rolled shut over all that lies in body and bottom: theirs, no more
// than the pack has room for, and a hand's width of the pack's section.
func (p *Pack) LinerNeedL() float64 {
	need, room := 0.0, 0.0
	for _, l := range p.Things {
		if l.Zone.Solid() && l.Inside == "" {
			need += l.Litres
		}
	}
	for i := range p.Pack.Zones {
		if z := &p.Pack.Zones[i]; z.Solid() {
			room += z.CapacityL()
		}
	}
	body := p.Pack.Of(rucksack.Body)
	return min(need, room) + handCm*body.SizeCm[0]*body.SizeCm[1]/1000
}

// LinerShuts reports whether the liner can be rolled shut. One whose litres are not known is taken to.
func (p *Pack) LinerShuts() bool {
	liner := p.Liner()
	return liner != nil && (liner.VolumeL == 0 || liner.VolumeL >= p.LinerNeedL())
}

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
	if l.Zone.Solid() && p.LinerShuts() {
		layers = append(layers, Layer{Name: p.Liner().ID})
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
			if o.Piece != l.Piece && Need(o.Piece.Item) == 2 && p.sameRoom(l.Zone, o.Zone) && !bagged[o.Piece] && !Cased(o.Piece.Item) {
				s.Threatens = append(s.Threatens, o.Piece)
			}
		}
		sources = append(sources, s)
	}
	return sources
}

// sameRoom reports whether water goes from one zone to the other inside the pack: within a zone, and from the sleeve
// and the inner pocket into the body, unless a liner is between.
func (p *Pack) sameRoom(a, b *rucksack.Zone) bool {
	inBody := func(z *rucksack.Zone) bool {
		return z.Kind == rucksack.Body || z.Kind == rucksack.Sleeve || z.Kind == rucksack.Inner
	}
	return a.ID == b.ID || inBody(a) && inBody(b) && !p.LinerShuts()
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
