package kit

import (
	"math"
	"slices"
	"strings"

	"tornister/core/unit"
)

// ShapeFor guesses the shape of a thing of the kind that weighs so much: heavier things of a kind are larger.
func (k Kind) ShapeFor(massG float64) Shape {
	if k.MassG <= 0 || k.HoldsL > 0 {
		return k.Shape
	}
	share := massG / k.MassG
	if !k.ByMass {
		share = clamp(share, 0.5, 2)
	}
	return scaled(k.Shape, share)
}

// aDay makes a day's figures of those of the food of several days: "food for 6 days 4.2 kg" is 700 g a day. Which of
// the two was typed is taken from what a day's food is usually like: it means what it is nearer to, in proportion.
func (r *reader) aDay(t *Told) {
	k := t.Kind
	ofAll := func(typed, usual float64) bool { return typed*typed > usual*usual*r.days }
	if ofAll(r.massG, k.MassG) {
		r.massG /= r.days
	}
	if ofAll(max(r.litres, r.loose, r.tight), k.Shape.Litres(0)) {
		r.litres, r.loose, r.tight = r.litres/r.days, r.loose/r.days, r.tight/r.days
	}
	name := slices.Delete(slices.Clone(r.name), r.daysAt, r.daysAt+2) // six times food, not six times food for six days
	if at := r.daysAt - 1; at > 0 && slices.Contains(forWords, strings.ToLower(name[at])) {
		name = slices.Delete(name, at, at+1)
	}
	if len(name) > 0 {
		t.Name = unit.Capital(strings.Join(name, " "))
	}
}

// alike is how far a weight may be from what a kind usually weighs, in proportion, to be a weight of that kind.
const alike = 1.6

// together makes one thing's weight of that of several where no x says that it is each one's: "4 dinners 600 g" weigh
// 150 g each, since a dinner of 600 g is none, and one of 150 is. What could be either is each one's.
func (r *reader) together(t *Told) {
	n, usual := float64(t.Count), t.Kind.MassG
	if !r.noTimes || n < 2 || !t.Known || t.Kind.Pieces > 0 || len(r.sides) > 0 ||
		t.Kind.HoldsL == 0 && r.litres+r.loose+r.tight > 0 {
		return
	}
	if one := r.massG / n; r.massG >= 2*usual && one >= usual/alike && one <= usual*alike {
		r.massG = one
	}
}

// leastBareG is the least number that is a weight although no unit stands behind it.
const leastBareG = 100

// leastBareMAh is the least number behind a battery's name that is its charge.
const leastBareMAh = 1000

// bareMass takes a last number without a unit as grams, where nothing else is known of the weight of a known thing.
// Canisters and bottles are named by such numbers.
func (r *reader) bareMass(t *Told) {
	if r.bare < leastBareG || t.Weighed || !t.Known || t.Kind.Consumable != "" || t.Kind.HoldsL > 0 || len(r.name) < 2 {
		return
	}
	if t.Kind.MAh > 0 && r.mAh == 0 && r.bare >= leastBareMAh {
		r.mAh = r.bare
		t.Name = strings.Join(r.name[:len(r.name)-1], " ")
		return
	}
	r.massG, t.Weighed = r.bare, true
	t.Name = strings.Join(r.name[:len(r.name)-1], " ")
}

// spread is the area in m² of a cloth of which two long sides were typed; 0 when they were not.
func (r *reader) spread() float64 {
	const (
		leastSide = 70.0 // cm; no rolled cloth is so long and so wide
		mostM     = 10.0 // of a cloth of which two sides are typed without a unit, in metres then
	)
	switch {
	case len(r.sides) != 2:
		return 0
	case r.unitless && max(r.sides[0], r.sides[1]) < mostM:
		return r.sides[0] * r.sides[1]
	case min(r.sides[0], r.sides[1]) < leastSide:
		return 0
	}
	return r.sides[0] * r.sides[1] / 1e4
}

// grow makes the kind's mass and shape a share of what they are; they stay guesses.
func (r *reader) grow(t *Told, share float64) {
	share = clamp(share, 0.05, 20)
	t.MassG, t.Shape = t.MassG*share, scaled(t.Shape, share)
	if t.Weighed {
		t.Shape = scaled(t.Shape, clamp(r.massG/t.MassG, 0.5, 2))
	}
}

// How a whole tent goes into a pack: its cloth is soft, its poles are not (common practice; the figures are ours).
const (
	tentLoose = 1.05 // litres of the cloth, loose, as a share of the tent in its sack
	tentTight = 0.62
	tentGapCm = 4.0
)

// Parts are the cloth and the poles of a whole tent whose room was only guessed; nil for anything else, and for one
// that was measured in its sack.
func (t Told) Parts() []Told {
	if t.Kind.Poles == 0 || t.Measured != Guess {
		return nil
	}
	poles, _ := KindOf("tent-poles")
	cloth, rods := t, Told{Name: t.Name + ", poles", Kind: poles, Known: true, Count: t.Count, Shape: poles.Shape,
		Measured: Guess, Weighed: t.Weighed, Carry: t.Carry}
	rods.MassG = math.Round(t.MassG * t.Kind.Poles)
	cloth.MassG = t.MassG - rods.MassG
	cloth.Name = t.Name + ", cloth"
	cloth.Shape = clothOf(t.Shape)
	return []Told{cloth, rods}
}

// clothOf is the cloth of a tent of which the whole is known.
func clothOf(whole Shape) Shape {
	litres := whole.Litres(0)
	return soft(tenths(litres*tentLoose), tenths(litres*tentTight), tentGapCm)
}

// Cloth is a kind of whole tent without its poles; any other kind stays as it is.
func (k Kind) Cloth() Kind {
	if k.Poles > 0 {
		k.Name = strings.TrimSuffix(k.Name, ", whole") + ", cloth"
		k.MassG -= math.Round(k.MassG * k.Poles)
		k.Shape, k.Poles = clothOf(k.Shape), 0
	}
	return k
}
