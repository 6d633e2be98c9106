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
