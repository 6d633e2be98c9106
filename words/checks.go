package words

// fitWords are the check of fit.
var fitWords = map[string]string{
	"fit.state":    "%s",
	"fit.in-100":   "%.0f in 100",
	"fit.out":      "%s out",
	"fit.over":     "%s over",
	"fit.left-out": "%s %s. It would take %s.",
	"fit.crammed":  "Crammed %s: it takes a knee to close it.",
	"fit.sure":     "It closed in %.0f of 100 tries with its litres as they may be.",
	"fit.sure-measure": "It closed in %.0f of 100 tries with its litres as they may be. Measuring the %s would help " +
		"most.",
	"fit.zone":   "%s: %s loose into %s, squeezed %s.",
	"fit.hollow": "Hollow spot of %s, %s up and %s from the back: push something soft into it.",
	"fit.loose":  "Everything is in without squeezing.",
}

// weightWords are the check of weight.
var weightWords = map[string]string{
	"weight.mass":         "%s",
	"weight.of-body":      "%.0f %% of body",
	"weight.above-upper":  "%.0f %% of %s body mass; above %.0f %% is too much for most (common practice).",
	"weight.above-common": "%.0f %% of %s body mass; a quarter is the usual limit, some say %.0f %% (common practice).",
	"weight.no-body":      "Nobody said what the walker weighs; it would be %.0f %% of a body of %s. A quarter is the usual limit (common practice).",
	"weight.within":       "%.0f %% of %s body mass, within the usual quarter (common practice).",
	"weight.heavy-lift": "%s is a heavy lift: on to the knee first, then one shoulder; above about %s help each other " +
		"(common practice).",
	"weight.harness": "%s in the pack; its harness carries up to %s well.",
	"weight.without": "Without what is left out, %s.",
	"weight.child": "%.0f %% of %s body mass at the age of %d: up to a quarter is common practice, 10 to 20 %% is the " +
		"advice for school bags (American Academy of Pediatrics, from memory). A doctor's word goes first.",
}

// balanceWords are the check of balance.
var balanceWords = map[string]string{
	"balance.height": "%.0f %%",
	"balance.lean":   "lean %.0f°",
	"balance.where": "The weight lies %.0f %% of the way from hip belt to shoulder; the chosen way wants %.0f to %.0f %% " +
		"(common practice).",
	"balance.too-low":  "%s Move something heavy up.",
	"balance.too-high": "%s Move something heavy down.",
	"balance.from-back": "Its middle is %s from the back panel; you lean about %.0f° to carry it (a comparison between " +
		"plans, not a promise).",
	"balance.sides":       "Sides balance to %s.",
	"balance.right-heavy": "The right is heavier: move %s from the right to the left.",
	"balance.left-heavy":  "The left is heavier: move %s from the left to the right.",
	"balance.stands":      "It stands by itself, until tipped by %.0f°.",
	"balance.tips":        "It will not stand by itself: a tilt of %.0f° is enough.",
}

// safeWords are the check of safety.
var safeWords = map[string]string{
	"safe.none":     "no finding",
	"safe.finding":  "1 finding",
	"safe.findings": "%d findings",
	"safe.nothing": "No rule of the trade is broken, and light, water treatment, way and fire have a second. Local rules " +
		"and makers' instructions go first.",
	"safe.only-one":         "There is only one thing for %s: take %s (common practice).",
	"safe.second-light":     "a second light",
	"safe.second-treatment": "a second way to treat water",
	"safe.second-way":       "a second way to find the way",
	"safe.second-fire":      "a second way to make fire",
	"safe.one-place": "Everything for %s is in one place, %s: put one elsewhere, so that both are not lost or wet " +
		"together (common practice).",
	"safe.out-of-date": "%s is good until %s, and the trip ends on %s: replace it.",
	"safe.with-liner":  " with the liner's %s (common practice)",
	"safe.below-limit": "The night may have %s, below the limit of the %s, %s%s (EN ISO 23537-1): take a warmer one.",
	"safe.below-comfort": "The night may have %s, below the comfort of the %s, %s%s (EN ISO 23537-1): sleep in more " +
		"clothes, or take a warmer one.",
	"safe.thin-mats": "The mats have R %.1f together; a night of %s wants R %.1f (common practice).",
	"safe.fuel-by-food": "%s lies against %s: put something between fuel and food, or the fuel into the pot (common " +
		"practice).",
	"safe.sharp":      "%s lies against %s: sheathe it, or put something soft between (common practice).",
	"safe.leaks-over": "%s may leak and lies over %s: lay it lower, or bag what is below.",
	"safe.on-side": "%s lies on its side: carry it upright with its cap on, outside if there is a pocket (common " +
		"practice).",
	"safe.night": "night %d",
	"safe.place": "%s",
	"safe.animals": "Animals come for food at %s: take a scent-tight bag, a food canister or a line to hang food, rubbish " +
		"and toiletries (common practice; local rules first).",
	"safe.scent-full": "Animals come for food at %s, and the scent-tight bags do not take %s: %s more, or a line to hang " +
		"it (common practice; local rules first).",
	"safe.transceiver": "%s belongs on the body, switched on, from the first snow to the last; the ground only for those " +
		"with training.",
	"safe.whistle":    "%s is packed: wear it, so that it is at hand when the pack is not (common practice).",
	"safe.needs":      "%s is of no use without %s: take it, or have somebody in the party carry it.",
	"safe.need-poles": "its poles", "safe.need-pegs": "pegs", "safe.need-walking-poles": "walking poles to pitch it on",
	"safe.need-gas": "gas", "safe.need-spirit": "spirit", "safe.need-petrol": "fuel",
	"safe.need-fire": "something to light it with",
	"safe.need-pot":  "a pot", "safe.need-bottle": "a bottle to treat the water in",
	"safe.need-light": "a light", "safe.need-power": "power to charge it",
	"safe.held": "%s: %s is pitched on them and stays up at %s for more than one night. They are missing on a walk from " +
		"there, unless it is struck first or other poles are taken (common practice).",
	"safe.water": "%s of water for a stretch that takes %s (%s): carry more, or find a source between.",
}
