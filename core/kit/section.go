package kit

import "slices"

// Section is a place on the groundsheet: kits are laid out by what they are for, and what is worn lies apart.
type Section string

// The sections in the order in which a kit is laid out (common practice).
const (
	SleepSection    Section = "Sleep"
	ShelterSection  Section = "Shelter"
	KitchenSection  Section = "Kitchen"
	FoodSection     Section = "Food and water"
	WornSection     Section = "Worn and in hand"
	ClothingSection Section = "Spare clothing"
	AidSection      Section = "Aid"
	WaySection      Section = "Light and way"
	CareSection     Section = "Care"
	RepairSection   Section = "Repair and tools"
	SnowSection     Section = "Snow and rescue"
	OtherSection    Section = "Other"
)

// Sections lists them.
var Sections = []Section{SleepSection, ShelterSection, KitchenSection, FoodSection, WornSection, ClothingSection,
	AidSection, WaySection, CareSection, RepairSection, SnowSection, OtherSection}

var sectionOf = map[string]Section{"sleep": SleepSection, "shelter": ShelterSection, "kitchen": KitchenSection,
	"food": FoodSection, "water": FoodSection,
	"clothing": ClothingSection, "aid": AidSection, "light": WaySection, "navigation": WaySection,
	"electronics": WaySection, "care": CareSection,
	"tools": RepairSection, "winter": SnowSection}

// Section says where the line is laid out.
func (it *Item) Section() Section {
	if it.Carry == Worn || it.Carry == Hand {
		return WornSection
	}
	if s, ok := sectionOf[it.Group]; ok {
		return s
	}
	return OtherSection
}

// Duty is something that a kit must do for its walker.
type Duty struct {
	Function string
	Twice    bool // life hangs on it: there should be a second way (common practice)
	Night    bool // only of who stays out at night
}

// Duties lists what every kit for nights out must do. Twice follows what the trade wants a second way for: treating
// water, light, the way, fire, warmth.
var Duties = []Duty{
	{"shelter", false, true},
	{"warmth", true, false},
	{"insulation", false, true},
	{"rain", false, false},
	{"cooking", false, true},
	{"fire", true, false},
	{"water", false, false},
	{"water-treatment", true, false},
	{"light", true, false},
	{"navigation", true, false},
	{"first-aid", false, false},
	{"signal", false, false},
	{"repair", false, false},
	{"sun", false, false},
}

// vital are functions that life may hang on (common practice).
var vital = []string{"warmth", "shelter", "water", "water-treatment", "light", "navigation", "first-aid", "medicine",
	"rain", "insulation", "fire", "signal", "rescue"}

// Vital reports whether life may hang on a thing, food apart: it is not left out for a comfort, and not proposed to
// stay at home because it was never used.
func (it *Item) Vital() bool { return it.Has(Rescue) || slices.ContainsFunc(vital, it.Serves) }

// Served says how a duty is met.
type Served struct {
	Duty
	By []string // names of the things that do it
}

// Missing, Single and Doubled tell the three states apart.
func (s Served) Missing() bool { return len(s.By) == 0 }

// Single reports whether only one thing meets a duty that should have a second way.
func (s Served) Single() bool { return s.Twice && len(s.By) == 1 }

// Doubled reports whether more than two things of one kind do what one could do.
func (s Served) Doubled() bool {
	return !s.Twice && len(s.By) > 1 && slices.Contains([]string{"insulation", "sun", "repair"}, s.Function) ||
		len(s.By) > 3 && slices.Contains([]string{"light", "fire", "water-treatment"}, s.Function)
}

// ServedBy looks how the things with the walker meet each duty, on a trip of so many nights.
func ServedBy(items []Item, nights int) (list []Served) {
	for _, duty := range Duties {
		if duty.Night && nights == 0 {
			continue
		}
		served := Served{Duty: duty}
		for i := range items {
			if it := &items[i]; it.Carry != Left && it.Serves(duty.Function) {
				served.By = append(served.By, it.Name)
			}
		}
		list = append(list, served)
	}
	return list
}

// OutOfDate reports whether a thing with a date is past it on the given day, both as YYYY-MM-DD.
func (it *Item) OutOfDate(day string) bool { return it.Expires != "" && it.Expires < day }
