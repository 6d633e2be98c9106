package web

import (
	"fmt"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/core/unit"
)

// twiceRow is something that is on the list twice: as the packer typed it, and as the trip works it out.
type twiceRow struct{ What, Text string }

// leastTwice is the share of what the trip plans that one's own food has to be to be taken for the same.
const leastTwice = 0.3

// besides are kinds that people take beside planned meals.
var besides = []string{"snacks", "tea-coffee", "spices-oil", "bread-cheese", "fresh-food", "soft-bottle", "flask",
	"child-bottle"}

// ownSupplies are the lines of a consumable that the packer typed, and those that follow the trip.
func ownSupplies(items []kit.Item, what string) (mine, planned []*kit.Item) {
	for i := range items {
		it := &items[i]
		switch {
		case it.Consumable != what || it.Carry == kit.Left:
		case it.Follows != "" && !it.Fixed:
			planned = append(planned, it)
		case it.Follows == "" && !slices.Contains(besides, it.Kind):
			mine = append(mine, it)
		}
	}
	return mine, planned
}

// twice lists what the trip supplies although it was typed too.
func (t *trip) twice() (list []twiceRow) {
	for _, what := range []string{"food", "fuel", "water"} {
		mine, planned := ownSupplies(t.task().Items, what)
		own, due := 0.0, 0.0
		for _, it := range mine {
			own += it.TotalG()
		}
		for _, it := range planned {
			due += it.TotalG()
		}
		if len(mine) == 0 || len(planned) == 0 || what == "food" && own < leastTwice*due {
			continue
		}
		list = append(list, twiceRow{what,
			fmt.Sprintf("%s is on the list twice: yours (%s, %s) and what the trip works out (%s, %s).", unit.Capital(what),
				namesOfItems(mine), t.system.Mass(own), namesOfItems(planned), t.system.Mass(due))})
	}
	return list
}

func namesOfItems(items []*kit.Item) string {
	var names []string
	for _, it := range items {
		names = append(names, it.Name)
	}
	if len(names) > 3 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:2], ", "), len(names)-2)
	}
	return strings.Join(names, ", ")
}

// onceOnly keeps one's own lines of a consumable or those of the trip, and takes the others off the list.
func (s *Server) onceOnly(c *gin.Context) {
	what, keep := c.PostForm("what"), c.PostForm("keep")
	label := map[string]string{"mine": "keep my own " + what, "trip": "keep the trip's " + what}[keep]
	s.change(c, label, func(doc bundle.Doc) error {
		b, err := bundle.FromDoc(doc)
		if err != nil {
			return err
		}
		mine, planned := ownSupplies(b.Task.Items, what)
		drop := planned
		if keep == "trip" {
			drop = mine
		}
		if label == "" || len(mine) == 0 || len(planned) == 0 {
			return bundle.Problems{{Pointer: "/items", What: "that is not on the list twice any more", Mend: "look at the list"}}
		}
		for _, it := range drop {
			if err := removeLine(doc, it.ID); err != nil {
				return err
			}
		}
		return doc.Follow()
	}, func(problems bundle.Problems, stale bool) { s.layoutAgain(c, "", nil, problems, stale) })
}
