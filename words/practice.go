package words

var practiceWords = map[string]string{
	"practice.deep":   "%s: %s, %.0f s to hand; %.0f s where the plan has it.",
	"practice.in":     "in the %s",
	"practice.under":  "in the %s under %s",
	"practice.over":   "%s: on top of %s, needed before it and so %.0f s to hand; %.0f s in the plan.",
	"practice.wet":    "%s: to be kept dry, and in the %s nothing keeps the rain from it.",
	"practice.back":   "%s, %s: far from the back, which moves the middle of the whole pack out by %s.",
	"practice.high":   "%s, %s: high up, which lifts the middle of the whole pack by %s. %s",
	"practice.low":    "%s, %s: low down, which lowers the middle of the whole pack by %s. %s",
	"practice.band":   "It lies %.0f %% of the way from hip belt to shoulder now; the chosen way wants %.0f to %.0f %%.",
	"practice.right":  "%s, %s: makes the right the heavier side; %s would have to go across.",
	"practice.left":   "%s, %s: makes the left the heavier side; %s would have to go across.",
	"practice.hollow": "%s: under or beside it in the %s is a hollow spot of %s; %s are hollow in all, and %s in the plan.",
}

// Exercise is a kind of exercise: its name, and what it trains.
func Exercise(kind string) Told { return exercises[kind] }

var exercises = map[string]Told{
	"where": {"Where is it?", "a moment asks for a thing: open the right zone at once"},
	"find":  {"Find the fault", "a packed bag with faults in it: name what lies wrong"},
	"hand":  {"Load it by hand", "an empty pack and the kit beside it: pack it, and compare"},
}

// FaultKind is what a kind of fault is about.
func FaultKind(kind string) string { return faultKinds[kind] }

var faultKinds = map[string]string{
	"deep":   "what is needed on the way lies deep",
	"over":   "what only camp needs lies on top",
	"beside": "fuel by food, sharp by soft",
	"wet":    "what must stay dry lies in the rain",
	"heavy":  "weight high, low or far from the back",
	"sides":  "one side heavier",
	"hollow": "room left hollow by something stiff",
}
