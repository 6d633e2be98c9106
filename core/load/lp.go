package load

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"strconv"
)

// WriteLP writes the zone assignment of a plan as a mixed-integer program in CPLEX LP format. Its optimum lies between
// bound and objective of the plan's Proof.
//
// x_i_z is 1 when thing i goes into zone z, o_i when it is left out; s_z is the litres that zone z is overfull loose; m
// is the newton-metres by which one side is heavier; food_z, fuel_z, wet_z, dry_z say that such things lie in pocket z,
// and meet_z, soak_z that they lie there together.
func (p *Plan) WriteLP(w io.Writer) error {
	b := bufio.NewWriter(w)
	p.assignment.writeLP(b)
	return b.Flush()
}

// row is a linear expression under way; it breaks its lines, since the format limits their length.
type row struct {
	w     *bufio.Writer
	terms int
}

func (r *row) add(factor float64, name string) {
	if factor == 0 {
		return
	}
	if r.terms > 0 && r.terms%6 == 0 {
		fmt.Fprint(r.w, "\n  ")
	}
	r.terms++
	sign := "+"
	if factor < 0 {
		sign, factor = "-", -factor
	}
	fmt.Fprintf(r.w, " %s %s %s", sign, exact(factor), name)
}

// exact prints a number so that reading it gives the same float.
func exact(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func (a *assignment) writeLP(w *bufio.Writer) {
	each := func(visit func(i int, c *choice, z int, name string)) {
		for i, c := range a.choices {
			for z := range a.zones {
				if !math.IsInf(c.price[z], 1) {
					visit(i, c, z, fmt.Sprintf("x_%d_%d", i, z))
				}
			}
		}
	}
	fmt.Fprintln(w, "\\ Zone assignment: seconds a day, litres, grams, newton-metres.")
	for i, c := range a.choices {
		fmt.Fprintf(w, "\\ thing %d is %s, piece %d\n", i, c.ID, c.Number)
	}
	for z := range a.zones {
		fmt.Fprintf(w, "\\ zone %d is %s\n", z, a.zones[z].ID)
	}
	fmt.Fprint(w, "Minimize\n cost:")
	r := &row{w: w}
	each(func(_ int, c *choice, z int, name string) { r.add(c.price[z], name) })
	for i, c := range a.choices {
		r.add(c.leave, fmt.Sprintf("o_%d", i))
	}
	for z := range a.zones {
		r.add(a.squeezePrice(z), fmt.Sprintf("s_%d", z))
		if a.pocket(z) {
			r.add(breach, fmt.Sprintf("meet_%d", z))
			r.add(breach, fmt.Sprintf("soak_%d", z))
		}
	}
	r.add(perSideNm, "m")
	fmt.Fprint(w, "\nSubject To\n")
	for i, c := range a.choices {
		fmt.Fprintf(w, " once_%d:", i)
		r = &row{w: w}
		for z := range a.zones {
			if !math.IsInf(c.price[z], 1) {
				r.add(1, fmt.Sprintf("x_%d_%d", i, z))
			}
		}
		r.add(1, fmt.Sprintf("o_%d", i))
		fmt.Fprint(w, " = 1\n")
	}
	for zone := range a.zones {
		litres := func(squeeze float64) {
			each(func(_ int, c *choice, z int, name string) {
				if z == zone {
					r.add(c.room(squeeze), name)
				} else if a.drawnOn[z] == zone {
					r.add(a.zones[z].DrawsOn.Share*c.room(squeeze), name)
				}
			})
		}
		r = &row{w: w}
		fmt.Fprintf(w, " tight_%d:", zone)
		litres(1)
		a.bounded(w, r, a.capacity(zone))
		if a.squeezePrice(zone) > 0 {
			r = &row{w: w}
			fmt.Fprintf(w, " loose_%d:", zone)
			litres(0)
			r.add(-1, fmt.Sprintf("s_%d", zone))
			a.bounded(w, r, a.capacity(zone))
		}
		if limit := a.massLimit(zone); limit > 0 {
			r = &row{w: w}
			fmt.Fprintf(w, " mass_%d:", zone)
			each(func(_ int, c *choice, z int, name string) {
				if z == zone {
					r.add(c.mass, name)
				}
			})
			a.bounded(w, r, limit)
		}
	}
	for _, sign := range []float64{1, -1} {
		r = &row{w: w}
		fmt.Fprintf(w, " side_%s:", map[float64]string{1: "right", -1: "left"}[sign])
		each(func(_ int, c *choice, z int, name string) { r.add(sign*sideMoment(&a.zones[z], c.mass), name) })
		r.add(-1, "m")
		fmt.Fprint(w, " <= 0\n")
	}
	a.writeMeetings(w, each)
	fmt.Fprint(w, "Binary\n")
	each(func(_ int, _ *choice, _ int, name string) { fmt.Fprintf(w, " %s\n", name) })
	for i := range a.choices {
		fmt.Fprintf(w, " o_%d\n", i)
	}
	fmt.Fprint(w, "End\n")
}

// bounded ends a row; a row without terms gets a variable that is not in the way, since the format wants one.
func (a *assignment) bounded(w *bufio.Writer, r *row, limit float64) {
	if r.terms == 0 {
		r.add(1, "o_none")
	}
	fmt.Fprintf(w, " <= %s\n", exact(limit+litreSlack))
}

// pocket reports whether things in a zone lie so close that it matters what lies beside what.
func (a *assignment) pocket(zone int) bool { return !a.zones[zone].Solid() }

// writeMeetings writes the rules about what must not share a pocket.
func (a *assignment) writeMeetings(w *bufio.Writer, each func(func(int, *choice, int, string))) {
	names := [4]string{"food", "fuel", "wet", "dry"}
	each(func(_ int, c *choice, z int, name string) {
		for class, of := range classes {
			if a.pocket(z) && of(c) {
				fmt.Fprintf(w, " %s_is_%s_%d: %s - %s_%d <= 0\n", name, names[class], z, name, names[class], z)
			}
		}
	})
	for z := range a.zones {
		if a.pocket(z) {
			fmt.Fprintf(w, " meets_%d: food_%d + fuel_%d - meet_%d <= 1\n", z, z, z, z)
			fmt.Fprintf(w, " soaks_%d: wet_%d + dry_%d - soak_%d <= 1\n", z, z, z, z)
		}
	}
}
