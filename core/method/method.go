// Package method holds the schools of packing: the questions on which good packers disagree and the answers among
// which a packer chooses. A school never changes what fits; it changes what is preferred.
package method

// Method is one answer to each question. The zero value is not valid; start from Default.
type Method struct {
	Heavy       string `json:"heavy"`
	Water       string `json:"water"`
	Dry         string `json:"dry"`
	Lowest      string `json:"lowest"`
	SleepingBag string `json:"sleeping_bag"`
	Shelter     string `json:"shelter"`
	Spine       string `json:"spine"`
	Mat         string `json:"mat"`
	Outside     string `json:"outside"`
	Food        string `json:"food"`
}

// Default is what most walkers do: heavy things close to the spine, water in the sleeve, a liner, nothing but foam
// outside.
func Default() Method {
	return Method{"close", "sleeve", "liner", "sleeping-bag", "loose", "deep", "heavy", "upright", "foam", "mass"}
}

// Question is one point of disagreement.
type Question struct {
	Key     string // the name in the open format
	Asks    string
	Answers []Answer
}

// Answer is one school.
type Answer struct{ Value, Name string }

// Questions lists every point of disagreement with its schools (common practice, all of them).
var Questions = []Question{
	{"heavy", "Heavy things", []Answer{{"close", "mid-height, against the spine"}, {"low", "low, for rough ground and skis"}, {"high", "near the top, for external frames and good paths"}}},
	{"water", "Water", []Answer{{"sleeve", "in the sleeve, first"}, {"top", "on top, last"}, {"bottles", "bottles in the side pockets"}}},
	{"dry", "Keeping dry", []Answer{{"liner", "one liner, rolled shut"}, {"cover", "a cover over the pack"}, {"bags", "each kind in its own dry bag"}, {"two-questions", "only what takes up water and suffers by it"}, {"double", "liner and bags"}}},
	{"lowest", "Lowest in the pack", []Answer{{"sleeping-bag", "sleeping bag"}, {"shelter", "shelter"}, {"rain-suit", "rain suit"}, {"spare-clothes", "spare clothes"}}},
	{"sleeping_bag", "Sleeping bag", []Answer{{"loose", "loose, into the corners"}, {"sack", "in a compression sack"}}},
	{"shelter", "Shelter", []Answer{{"deep", "deep, only camp needs it"}, {"top", "on top, first up in rain"}}},
	{"spine", "Against the spine", []Answer{{"heavy", "heavy things first"}, {"soft", "soft first, heavy behind it"}}},
	{"mat", "Foam mat", []Answer{{"upright", "upright on the front"}, {"top", "across the top"}, {"bottom", "below"}}},
	{"outside", "Outside the pack", []Answer{{"nothing", "nothing"}, {"foam", "nothing but foam"}, {"light", "light bulky things too"}}},
	{"food", "Food is planned", []Answer{{"mass", "by mass a day"}, {"energy", "by energy"}, {"meals", "by counted meals and one spare"}}},
}

// field finds where an answer is kept.
func (m *Method) field(key string) *string {
	switch key {
	case "heavy":
		return &m.Heavy
	case "water":
		return &m.Water
	case "dry":
		return &m.Dry
	case "lowest":
		return &m.Lowest
	case "sleeping_bag":
		return &m.SleepingBag
	case "shelter":
		return &m.Shelter
	case "spine":
		return &m.Spine
	case "mat":
		return &m.Mat
	case "outside":
		return &m.Outside
	case "food":
		return &m.Food
	}
	return nil
}

// Answer gives the chosen school for a question, "" for a question that does not exist.
func (m Method) Answer(key string) string {
	if f := m.field(key); f != nil {
		return *f
	}
	return ""
}

// Set chooses a school; it reports whether the question and the answer exist.
func (m *Method) Set(key, value string) bool {
	for _, q := range Questions {
		if q.Key != key {
			continue
		}
		for _, a := range q.Answers {
			if a.Value == value {
				*m.field(key) = value
				return true
			}
		}
	}
	return false
}

// Band is the share of the way from hip belt to shoulder within which the centre of mass should lie (common practice).
func (m Method) Band() (low, high float64) {
	switch m.Heavy {
	case "low":
		return 0.25, 0.45
	case "high":
		return 0.60, 0.80
	}
	return 0.45, 0.65
}

// Preset is the way a whole group of people packs.
type Preset struct {
	ID, Name, Words string
	Method          Method
}

// Presets are common practice; a packer may start from one and change it.
var Presets = []Preset{
	{"trainee", "Trainee with a liner", "one strong liner, heavy things close, bottles to hand", Method{"close", "bottles", "liner", "sleeping-bag", "loose", "deep", "soft", "upright", "foam", "meals"}},
	{"grams", "Counts every gram", "no sacks, water in the sleeve, only what suffers is bagged", Method{"close", "sleeve", "two-questions", "sleeping-bag", "loose", "top", "soft", "upright", "foam", "energy"}},
	{"winter", "Winter", "liner and bags, the thick quilt in a sack, shelter on top", Method{"close", "bottles", "double", "spare-clothes", "sack", "top", "heavy", "bottom", "light", "energy"}},
	{"hill-leader", "Hill leader's day pack", "what the party may need on top, nothing outside", Method{"close", "top", "bags", "spare-clothes", "loose", "top", "heavy", "top", "nothing", "meals"}},
	{"ski-tour", "Ski tour", "heavy things low, rescue kit alone, nothing that catches", Method{"low", "top", "bags", "spare-clothes", "loose", "deep", "heavy", "top", "nothing", "energy"}},
	{"external", "External frame", "heavy things high, the mat below", Method{"high", "bottles", "cover", "sleeping-bag", "sack", "deep", "heavy", "bottom", "light", "mass"}},
	{"child", "Child", "bulky light things, the mat across the top, water at the side", Method{"close", "bottles", "liner", "sleeping-bag", "loose", "deep", "soft", "top", "light", "meals"}},
}

// PresetOf finds a preset by its id.
func PresetOf(id string) (Preset, bool) {
	for _, p := range Presets {
		if p.ID == id {
			return p, true
		}
	}
	return Preset{}, false
}
