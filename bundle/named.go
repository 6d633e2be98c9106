package bundle

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"tornister/core/kit"
	"tornister/core/rucksack"
	"tornister/core/unit"
)

// zoneNames are what zones of a kind are called.
var zoneNames = map[rucksack.ZoneKind]string{
	rucksack.Body: "body", rucksack.Bottom: "bottom compartment", rucksack.Lid: "lid", rucksack.Front: "front pocket",
	rucksack.Side: "side pocket", rucksack.Sleeve: "back sleeve", rucksack.Hip: "hip pocket",
	rucksack.Shoulder: "strap pocket", rucksack.Inner: "inner pocket", rucksack.Long: "long pocket",
	rucksack.Straps: "straps",
}

// nameZones names zones that have none by what they are: left side pocket. Where two would be called the same, the ids
// name them.
func nameZones(zones []rucksack.Zone) {
	called := func(z *rucksack.Zone) string {
		where := z.Side
		if z.Kind == rucksack.Straps && z.Face != "side" {
			where = z.Face
		}
		return unit.Capital(strings.TrimSpace(where + " " + zoneNames[z.Kind]))
	}
	times := map[string]int{}
	for i := range zones {
		if zones[i].Name != "" {
			times[zones[i].Name]++
		} else {
			times[called(&zones[i])]++
		}
	}
	for i := range zones {
		if z := &zones[i]; z.Name == "" {
			if z.Name = called(z); times[z.Name] > 1 {
				z.Name = title(z.ID)
			}
		}
	}
}

var (
	dayInName   = regexp.MustCompile(`(?i)\bday ?([1-9][0-9]?)\b`)
	numberAtEnd = regexp.MustCompile(`^(.*\pL)[ -]*([1-9][0-9]?)$`)
)

// byDay are the kinds of food that are packed day by day.
var byDay = []string{"food-day", "breakfast", "lunch", "dinner", "snacks"}

// dayNamed is the day of the trip that the name of a food says: day 2 snacks, or dinner 2 where there are other dinners
// with a number. 0 for none.
func dayNamed(it *kit.Item, others []string, days int) int {
	if !it.Has(kit.Food) {
		return 0
	}
	digits := ""
	if found := dayInName.FindStringSubmatch(it.Name); found != nil {
		digits = found[1]
	} else if found := numberAtEnd.FindStringSubmatch(it.Name); found != nil && slices.Contains(byDay, it.Kind) {
		series := func(other string) bool {
			o := numberAtEnd.FindStringSubmatch(other)
			return o != nil && strings.EqualFold(o[1], found[1]) && o[2] != found[2]
		}
		if slices.ContainsFunc(others, series) {
			digits = found[2]
		}
	}
	if day, err := strconv.Atoi(digits); err == nil && day <= days {
		return day
	}
	return 0
}
