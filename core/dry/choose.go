package dry

import (
	"fmt"
	"io"
	"slices"

	"tornister/core/mip"
)

// choice is the program as a mixed-integer program: x_i_b is 1 when thing i is in bag b, k_c_b when bag b holds
// things of class c (those of one class may share a bag), u_i when thing i stays unprotected.
type choice struct {
	mip.Program
	program *Program
	class   []int // by thing
	classes int
	in      [][]int // by thing and bag; -1 where it does not go in
	holds   [][]int // by class and bag
	left    []int   // by thing
}

func (pr *Program) choice() *choice {
	c := &choice{program: pr}
	c.Title = append(c.Title, "the fewest bags that protect the things: x_i_b thing i in bag b, k_c_b bag b holds class c, u_i thing i stays unprotected")
	for i, t := range pr.Things {
		c.Title = append(c.Title, fmt.Sprintf("thing %d: %s in %s, %.3f L", i, describe(t.Piece), t.Zone.ID, t.Litres))
	}
	c.classify()
	c.columns()
	for i := range pr.Things {
		row := []mip.Term{{Column: c.left[i], Factor: 1}}
		for b, column := range c.in[i] {
			if column >= 0 {
				row = append(row, mip.Term{Column: column, Factor: 1})
				c.AtMost(fmt.Sprintf("in_%d_%d", i, b), 0, mip.Term{Column: column, Factor: 1},
					mip.Term{Column: c.holds[c.class[i]][b], Factor: -1})
			}
		}
		c.Exactly(fmt.Sprintf("one_%d", i), 1, row...)
	}
	for k := range c.classes {
		c.room(k)
	}
	for b, bag := range pr.Bags {
		for k := range c.classes {
			c.full(k, b)
		}
		if c.classes > 0 {
			c.AtMost(fmt.Sprintf("apart_%d", b), 1, c.used(b, 1)...)
		}
		if last := b - 1; c.classes > 0 && b > 0 && pr.Bags[last].VolumeL == bag.VolumeL && pr.Bags[last].MassG == bag.MassG {
			c.AtMost(fmt.Sprintf("first_%d", b), 0, append(c.used(b, 1), c.used(last, -1)...)...) // of alike bags the first
		}
	}
	return c
}

// classify finds which things may share a bag.
func (c *choice) classify() {
	var first []int
	things := c.program.Things
	for i := range things {
		k := slices.IndexFunc(first, func(f int) bool { return !c.program.apart(things[f], things[i]) })
		if k < 0 {
			k = len(first)
			first = append(first, i)
		}
		c.class = append(c.class, k)
	}
	c.classes = len(first)
}

func (c *choice) columns() {
	for i, t := range c.program.Things {
		row := make([]int, len(c.program.Bags))
		for b, bag := range c.program.Bags {
			if row[b] = -1; t.Litres <= FullShare*bag.VolumeL+litreSlack {
				row[b] = c.Binary(fmt.Sprintf("x_%d_%d", i, b), 0)
			}
		}
		c.in = append(c.in, row)
		c.left = append(c.left, c.Binary(fmt.Sprintf("u_%d", i), t.penalty()))
	}
	for k := range c.classes {
		row := make([]int, len(c.program.Bags))
		for b, bag := range c.program.Bags {
			row[b] = c.Binary(fmt.Sprintf("k_%d_%d", k, b), price(bag))
		}
		c.holds = append(c.holds, row)
	}
}

// litreSlack forgives the last digit of litres.
const litreSlack = 1e-9

// room says that the bags of a class hold all of it that is not left unprotected. It follows from the other rows,
// but in one row the cuts see how many bags that takes at least.
func (c *choice) room(class int) {
	var row []mip.Term
	litres := 0.0
	for b, bag := range c.program.Bags {
		row = append(row, mip.Term{Column: c.holds[class][b], Factor: FullShare*bag.VolumeL + litreSlack})
	}
	for i, t := range c.program.Things {
		if c.class[i] == class {
			litres += t.Litres
			row = append(row, mip.Term{Column: c.left[i], Factor: t.Litres})
		}
	}
	c.AtLeast(fmt.Sprintf("room_%d", class), litres-litreSlack, row...)
}

// full says how much of a class a bag holds.
func (c *choice) full(class, bag int) {
	var row []mip.Term
	for i, t := range c.program.Things {
		if column := c.in[i][bag]; column >= 0 && c.class[i] == class {
			row = append(row, mip.Term{Column: column, Factor: t.Litres})
		}
	}
	row = append(row, mip.Term{Column: c.holds[class][bag], Factor: -FullShare * c.program.Bags[bag].VolumeL})
	c.AtMost(fmt.Sprintf("full_%d_%d", class, bag), litreSlack, row...)
}

// used is whether a bag is used, as terms.
func (c *choice) used(bag int, factor float64) (terms []mip.Term) {
	for k := range c.classes {
		terms = append(terms, mip.Term{Column: c.holds[k][bag], Factor: factor})
	}
	return terms
}

// WriteLP writes the program in CPLEX LP format for any outside solver.
func (pr *Program) WriteLP(out io.Writer) error { return pr.choice().WriteLP(out) }

// work bounds the search, in pivots times the square of rows: about a second. Twenty things for eight bags take a
// hundredth of it.
const work = 400_000_000

func (pr *Program) solve(stop func() bool) (used []Barrier, proven bool) {
	c := pr.choice()
	found := c.Solve(mip.Options{Start: c.begin(), Work: work, Stop: stop})
	if found.Values == nil {
		return nil, false
	}
	byBag := make([][]int, len(pr.Bags))
	for i := range pr.Things {
		for b, column := range c.in[i] {
			if column >= 0 && found.Values[column] > 0.5 {
				byBag[b] = append(byBag[b], i)
			}
		}
	}
	for i, things := range byBag {
		if len(things) == 0 {
			continue
		}
		b := Barrier{Bag: pr.Bags[i], Zone: pr.Things[things[0]].Zone.ID}
		for _, t := range things {
			b.Things = append(b.Things, pr.Things[t].Piece)
			b.Litres += pr.Things[t].Litres
		}
		used = append(used, b)
	}
	return used, found.Status == mip.Optimal
}

// begin puts each thing into the first bag that takes it: a solution to start from.
func (c *choice) begin() []float64 {
	values := make([]float64, len(c.Columns))
	room, class := make([]float64, len(c.program.Bags)), make([]int, len(c.program.Bags))
	for b, bag := range c.program.Bags {
		room[b], class[b] = FullShare*bag.VolumeL, -1
	}
	for i, t := range c.program.Things {
		values[c.left[i]] = 1
		for b, column := range c.in[i] {
			if column < 0 || room[b] < t.Litres || class[b] >= 0 && class[b] != c.class[i] {
				continue
			}
			values[c.left[i]], values[column], values[c.holds[c.class[i]][b]] = 0, 1, 1
			room[b] -= t.Litres
			class[b] = c.class[i]
			break
		}
	}
	return values
}
