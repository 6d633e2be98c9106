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
// with a number and none is higher than the trip has days: dinners for two from 1 to 6 on two nights are no days. 0 for
// none.
func dayNamed(it *kit.Item, of series, days int) int {
	if !it.Has(kit.Food) {
		return 0
	}
	if found := dayInName.FindStringSubmatch(it.Name); found != nil {
		return dayOf(found[1], days)
	}
	stem, digits := numbered(it.Name)
	if !slices.Contains(byDay, it.Kind) || len(of[stem]) < 2 {
		return 0
	}
	for number := range of[stem] {
		if dayOf(number, days) == 0 {
			return 0
		}
	}
	return dayOf(digits, days)
}

// series are the numbers at the end of names, by what stands before them.
type series map[string]map[string]bool

func (s series) add(name string) {
	stem, digits := numbered(name)
	if digits == "" {
		return
	}
	if s[stem] == nil {
		s[stem] = map[string]bool{}
	}
	s[stem][digits] = true
}

// numbered takes a name with a number at its end apart; without one there are no digits.
func numbered(name string) (stem, digits string) {
	if found := numberAtEnd.FindStringSubmatch(name); found != nil {
		return strings.ToLower(found[1]), found[2]
	}
	return "", ""
}

// dayOf is a number if the trip has so many days, else 0.
func dayOf(digits string, days int) int {
	if day, err := strconv.Atoi(digits); err == nil && day <= days {
		return day
	}
	return 0
}
