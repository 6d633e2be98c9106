package words

import "tornister/core/reach"

// Asks is the question on which packers disagree, by its key.
func Asks(question string) string { return questions[question] }

var questions = map[string]string{
	"heavy":        "Heavy things",
	"water":        "Water",
	"dry":          "Keeping dry",
	"lowest":       "Lowest in the pack",
	"sleeping_bag": "Sleeping bag",
	"shelter":      "Shelter",
	"spine":        "Against the spine",
	"mat":          "Foam mat",
	"outside":      "Outside the pack",
	"food":         "Food is planned",
}

// School is an answer to a question of packing.
func School(question, answer string) string { return schools[question+"."+answer] }

var schools = map[string]string{
	"heavy.close":          "mid-height, against the spine",
	"heavy.low":            "low, for rough ground and skis",
	"heavy.high":           "near the top, for external frames and good paths",
	"water.sleeve":         "in the sleeve, first",
	"water.top":            "on top, last",
	"water.bottles":        "bottles in the side pockets",
	"dry.liner":            "one liner, rolled shut",
	"dry.cover":            "a cover over the pack",
	"dry.bags":             "each kind in its own dry bag",
	"dry.two-questions":    "only what takes up water and suffers by it",
	"dry.double":           "liner and bags",
	"lowest.sleeping-bag":  "sleeping bag",
	"lowest.shelter":       "shelter",
	"lowest.rain-suit":     "rain suit",
	"lowest.spare-clothes": "spare clothes",
	"sleeping_bag.loose":   "loose, into the corners",
	"sleeping_bag.sack":    "in a compression sack",
	"shelter.deep":         "deep, only camp needs it",
	"shelter.top":          "on top, first up in rain",
	"spine.heavy":          "heavy things first",
	"spine.soft":           "soft first, heavy behind it",
	"mat.upright":          "upright on the front",
	"mat.top":              "across the top",
	"mat.bottom":           "below",
	"outside.nothing":      "nothing",
	"outside.foam":         "nothing but foam",
	"outside.light":        "light bulky things too",
	"food.mass":            "by mass a day",
	"food.energy":          "by energy",
	"food.meals":           "by counted meals and one spare",
}

// Told is something by its name, and in a sentence.
type Told struct{ Name, Words string }

// Preset is the way a group of people packs, by its id.
func Preset(id string) Told { return presets[id] }

var presets = map[string]Told{
	"trainee":     {"Trainee with a liner", "one strong liner, heavy things close, bottles to hand"},
	"grams":       {"Counts every gram", "no sacks, water in the sleeve, only what suffers is bagged"},
	"winter":      {"Winter", "liner and bags, the thick quilt in a sack, shelter on top"},
	"hill-leader": {"Hill leader's day pack", "what the party may need on top, nothing outside"},
	"ski-tour":    {"Ski tour", "heavy things low, rescue kit alone, nothing that catches"},
	"external":    {"External frame", "heavy things high, the mat below"},
	"child":       {"Child", "bulky light things, the mat across the top, water at the side"},
}

// Drill is one of the usual drills, by its id; a packer's own has the name it was given and no story.
func Drill(d *reach.Drill) Told {
	if d.Name != "" {
		return Told{Name: d.Name}
	}
	return drills[d.ID]
}

var drills = map[string]Told{
	"rain":         {"Rain starts", "It begins to pour on the move. Jacket and trousers on, the rest stays dry."},
	"hurt":         {"Someone is hurt", "A companion is told in five words where the first aid kit is."},
	"cold-halt":    {"Cold halt at noon", "Wind at the halt: something warm on before one is cold."},
	"refill":       {"Refill water", "At the spring: bottles or bag out, and what treats the water."},
	"lunch":        {"Lunch", "What is eaten at the halt, without unpacking dinner."},
	"way":          {"The way is unclear", "Fog: map and compass, without taking the pack off if it can be."},
	"dusk":         {"Dusk", "It gets dark an hour before camp."},
	"camp-in-rain": {"Camp in rain", "The shelter is up before anything gets wet that must not."},
	"avalanche":    {"A slide has buried somebody", "Shovel and probe in one pull each; the transceiver is on the body."},
	"night-call":   {"Out at night", "Light, shoes and what one goes out with, from inside the tent."},
	"child":        {"The child is tired and cold", "Something warm and something to eat, before tears."},
}

// Duty is what a kit must do, by its function, and what does it.
func Duty(function string) Told { return duties[function] }

var duties = map[string]Told{
	"shelter":         {"shelter", "a tent, a tarp or a bivvy bag"},
	"warmth":          {"warmth", "a sleeping bag, and something warm to wear"},
	"insulation":      {"ground insulation", "a mat"},
	"rain":            {"rain cover for the walker", "a rain jacket"},
	"cooking":         {"cooking", "a stove with fuel, or food that needs none"},
	"fire":            {"fire", "a lighter and matches"},
	"water":           {"water", "a bottle or a water bag"},
	"water-treatment": {"water treatment", "a filter, and tablets as the second way"},
	"light":           {"light", "a headlamp, and a spare light rather than spare batteries"},
	"navigation":      {"finding the way", "map and compass"},
	"first-aid":       {"first aid", "a first aid kit"},
	"signal":          {"calling for help", "a whistle"},
	"repair":          {"repair", "a knife and tape"},
	"sun":             {"sun protection", "sun cream, a hat"},
}
