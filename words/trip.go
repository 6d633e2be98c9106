package words

// dryWords are what must stay dry, what is round it, and what it wants.
var dryWords = map[string]string{
	"dry.electronics":     "electronics do not survive water",
	"dry.used-wet":        "it takes up water and suffers by it, but it is used in the wet anyway",
	"dry.absorbs-suffers": "it takes up water and suffers by it",
	"dry.absorbs":         "it takes up water and does not suffer by it",
	"dry.suffers":         "it takes up no water",
	"dry.careless":        "water does nothing to it",

	"dry.weak":          "%s; %s",
	"dry.nothing-round": "nothing is round it",
	"dry.fabric-round":  "only fabric is round it",
	"dry.one-round":     "only one layer is round it, and its night hangs on it",
	"dry.liner-open":    "the liner of %s cannot be rolled shut over %s",
	"dry.torn":          "%s with all that belongs in it does not go in as one",
	"dry.two-bags":      "two smaller bags, or more room round it",
	"dry.get-liner":     "a liner of %s, or a strong bin bag",
	"dry.larger-liner":  "a liner of %s",
	"dry.bag":           "a dry bag of %s",
	"dry.into-liner":    "inside the liner, or in %s",
	"dry.none-large":    "%s: none that is owned is large enough",
	"dry.all-used":      "%s: all that are owned are in use",
	"dry.wet-back":      "wet when back",
	"dry.leaks":         "may leak",

	"dry.all-dry":     "all dry",
	"dry.weak-count":  "%d weak",
	"dry.wet-inside":  "%d wet inside",
	"dry.finding":     "%s: %s. It wants %s.",
	"dry.layers-kept": "Each of %s that must not get wet has the layers its school asks for.",
	"dry.threatens":   "%s (%s) with %s, and no barrier between: bag the wet thing or the dry ones.",
}

// trailWords say why the trip asks for as much food, gas and water as it does.
var trailWords = map[string]string{
	"trail.by-energy":   "%.0f kcal a day at %.2f kcal/g",
	"trail.by-mass":     "%s a day",
	"trail.spare-meal":  "always one, for the day that goes wrong (common practice)",
	"trail.meal":        "one %s between start and end, at %s",
	"trail.meals":       "%d %ss between start and end, at %s",
	"trail.day-food":    "%s: %.0f %% of %s",
	"trail.from-stream": "from %s",
	"trail.from-snow":   "from snow",
	"trail.gas":         "%s boiled %s: %s of gas with a reserve of %.0f %%",
	"trail.mild-day":    "%s for a mild day (common practice)",
	"trail.warm-day":    "%s for a day of %s (common practice)",
	"trail.stretch":     "%s, %.1f h at %s an hour%s, %s in reserve: %s",
	"trail.leg":         "leg %d",
	"trail.legs":        "legs %d to %d",
	"trail.dry-night":   ", one night without water",
	"trail.dry-nights":  ", %d nights without water",
}

// reachWords are the movements of a drill, where a thing is for a companion, and the check of reach.
var reachWords = map[string]string{
	"reach.open":       "open %s",
	"reach.pack-off":   "pack off, %s",
	"reach.open-liner": "open the liner",
	"reach.open-bag":   "open the bag",
	"reach.in-hand":    "%s in hand",
	"reach.lift":       "lift out %s",
	"reach.lift-bag":   "lift out the bag with %s",
	"reach.put-back":   "put back %s",
	"reach.shut":       "shut what was opened",
	"reach.in":         "%s",
	"reach.under":      "%s, under %s",

	"reach.nothing-urgent": "nothing urgent",
	"reach.seconds":        "%.0f s",
	"reach.of":             "%s",
	"reach.urgent":         "%s: %.0f s, %s",
	"reach.urgent-under":   "%s: %.0f s, %s, %s to lift out",
	"reach.found":          "%s.",
	"reach.too-late":       "%s. It must come to hand at once.",
	"reach.none-marked":    "No packed thing is marked as needed in seconds; the quickest zone takes %.0f s.",
}
