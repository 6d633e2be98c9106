package kit

// UrgentUses is how many calm uses a day one use in a hurry counts for (our estimate).
const UrgentUses = 8.0

// ADay is how often a thing is wanted a day, calm uses and those in a hurry.
func (u Use) ADay() float64 {
	n := u.PerDay * u.Attention()
	if u.Urgent {
		n += UrgentUses
	}
	return n
}

// Attention is how much a second counts at each moment of the day, 0 to 1: in camp the pack is unpacked anyway.
func (u Use) Attention() float64 {
	switch u.When {
	case Moving, Halt:
		return 1
	case Arrival:
		return 0.3
	case Camp:
		return 0.1
	}
	return 0.5
}

// The food of today is wanted at every halt, that of later days in camp (common practice).
const foodHalts = 3

// UseOn is when food that has a day is wanted on a day of the trip, from 1: on its own day as its kind is, of a whole
// day's bag at the halts; before it in camp only, where tomorrow's is looked out. False of what is no such food, or
// whose day is over.
func (it *Item) UseOn(day int) (Use, bool) {
	if !it.Has(Food) || it.Day < max(day, 1) {
		return Use{}, false
	}
	if it.Day > day {
		return camp(1), true
	}
	if it.Kind == "food-day" {
		return halt(foodHalts), true
	}
	kind, known := KindOf(it.Kind)
	return kind.Use, known
}
