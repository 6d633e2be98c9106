// Package method holds the schools of packing: the questions on which good packers disagree and the answers among
// which a packer chooses. A school changes what is preferred; it never keeps anything at home.
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

// Question is one point of disagreement, and its schools.
type Question struct {
	Key     string // the name in the open format
	Answers []string
}

// Questions lists every point of disagreement with its schools (common practice, all of them).
var Questions = []Question{
	{"heavy", []string{"close", "low", "high"}},
	{"water", []string{"sleeve", "top", "bottles"}},
	{"dry", []string{"liner", "cover", "bags", "two-questions", "double"}},
	{"lowest", []string{"sleeping-bag", "shelter", "rain-suit", "spare-clothes"}},
	{"sleeping_bag", []string{"loose", "sack"}},
	{"shelter", []string{"deep", "top"}},
	{"spine", []string{"heavy", "soft"}},
	{"mat", []string{"upright", "top", "bottom"}},
	{"outside", []string{"nothing", "foam", "light"}},
	{"food", []string{"mass", "energy", "meals"}},
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
			if a == value {
				*m.field(key) = value
				return true
			}
		}
	}
	return false
}

// Band is the share of the way from hip belt to shoulder within which the centre of mass should lie (common
// practice).
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
	ID     string
	Method Method
}

// Presets are common practice; a packer may start from one and change it.
var Presets = []Preset{
	{"trainee", Method{"close", "bottles", "liner", "sleeping-bag", "loose", "deep", "soft", "upright", "foam", "meals"}},
	{"grams", Method{"close", "sleeve", "two-questions", "sleeping-bag", "loose", "top", "soft", "upright", "foam",
		"energy"}},
	{"winter", Method{"close", "bottles", "double", "spare-clothes", "sack", "top", "heavy", "bottom", "light", "energy"}},
	{"hill-leader", Method{"close", "top", "bags", "spare-clothes", "loose", "top", "heavy", "top", "nothing", "meals"}},
	{"ski-tour", Method{"low", "top", "bags", "spare-clothes", "loose", "deep", "heavy", "top", "nothing", "energy"}},
	{"external", Method{"high", "bottles", "cover", "sleeping-bag", "sack", "deep", "heavy", "bottom", "light", "mass"}},
	{"child", Method{"close", "bottles", "liner", "sleeping-bag", "loose", "deep", "soft", "top", "light", "meals"}},
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
