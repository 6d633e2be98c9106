package kit

import "slices"

// Checklist is a ready-made list to check a kit against: what people take on such a trip (common practice, our
// wording).
type Checklist struct {
	ID, Name string
	Lines    []CheckLine
}

// CheckLine is met by any of its kinds; the first of them is what would be added.
type CheckLine struct {
	Word  string
	Kinds []string
}

func line(word string, kinds ...string) CheckLine { return CheckLine{word, kinds} }

var (
	sleepLines = []CheckLine{
		line("sleeping bag or quilt", "down-sleeping-bag", "synthetic-sleeping-bag", "winter-sleeping-bag", "down-quilt",
			"winter-quilt"),
		line("mat", "air-mat", "self-inflating-mat", "foam-mat", "folding-foam-mat"),
		line("tent, tarp or bivvy", "tent-two", "tent-one", "tent-three", "tent-fly", "tarp", "pole-shelter", "bivvy-bag",
			"hammock"),
		line("pegs", "pegs", "tent-one", "tent-two", "tent-three"),
	}
	cookLines = []CheckLine{
		line("stove", "gas-stove", "hose-stove", "spirit-stove", "petrol-stove", "wood-stove"),
		line("fuel", "gas-canister", "gas-canister-small", "gas-canister-large", "spirit-bottle", "wood-stove"),
		line("pot", "pot", "large-pot", "party-pots", "kettle"), line("mug", "mug", "insulated-mug"),
		line("spoon", "spoon"), line("lighter", "lighter"), line("matches, the second way", "matches"),
	}
	wearLines = []CheckLine{
		line("rain jacket", "rain-jacket", "poncho", "child-rain-suit"),
		line("rain trousers", "rain-trousers", "child-rain-suit"),
		line("warm layer", "insulated-jacket", "fleece", "belay-jacket", "softshell"),
		line("hat and gloves, even in summer", "hat-gloves", "warm-hat"),
		line("a dry set for the night", "spare-clothes", "base-top", "child-clothes"), line("spare socks", "socks"),
	}
	safeLines = []CheckLine{
		line("first aid kit", "first-aid-kit", "large-aid-kit"),
		line("survival bag or blanket", "survival-bag", "rescue-blanket", "group-shelter"), line("whistle", "whistle"),
		line("headlamp", "headlamp", "child-lamp"), line("spare light", "spare-light"), line("map", "map"),
		line("compass", "compass"), line("phone", "phone", "beacon"),
		line("knife and repair kit", "repair-kit", "multi-tool", "knife"),
	}
	dailyLines = []CheckLine{
		line("water bottles or bag", "bottle", "water-bag", "soft-bottle", "child-bottle"),
		line("water treatment", "water-filter", "water-pump", "uv-pen", "water-tablets"),
		line("food", "food-day", "dinner", "bread-cheese"), line("spare meal", "spare-meal"), line("snacks", "snacks"),
		line("wash kit", "wash-kit", "toothbrush"), line("trowel and paper", "trowel-kit", "trowel", "toilet-paper"),
		line("sun cream", "sun-cream"), line("own medicine", "medicine"),
		line("rubbish bag", "rubbish-bag"), line("money and papers", "wallet"),
	}
)

// Checklists are the ready-made lists.
var Checklists = []Checklist{
	{"weekend", "Weekend with a tent", slices.Concat(sleepLines, cookLines, wearLines, safeLines, dailyLines)},
	{"trainee", "Trainee expedition",
		slices.Concat(sleepLines, cookLines, wearLines,
			[]CheckLine{line("base layer for each day", "base-top", "t-shirt"), line("underwear for each day", "underwear"),
				line("gaiters", "gaiters"),
				line("camp shoes", "camp-shoes"), line("notebook and pencil", "notebook"),
				line("spare map", "spare-map")}, safeLines, dailyLines)},
	{"winter", "Winter camp", slices.Concat(sleepLines,
		[]CheckLine{line("a second mat, closed foam", "foam-mat", "folding-foam-mat")}, cookLines,
		[]CheckLine{line("vacuum flask", "flask"), line("wind screen", "wind-screen")},
		wearLines, []CheckLine{line("mittens and a spare pair", "mittens"), line("thick insulated jacket", "belay-jacket"),
			line("goggles", "goggles"), line("gaiters", "gaiters"), line("ice axe", "ice-axe"),
			line("crampons", "crampons", "light-crampons"), line("snow shovel", "avalanche-shovel")}, safeLines, dailyLines)},
	{"ski-tour", "Ski tour by day",
		slices.Concat([]CheckLine{line("transceiver, worn", "transceiver"), line("probe", "avalanche-probe"),
			line("shovel", "avalanche-shovel"), line("climbing skins", "ski-skins"), line("ski crampons", "ski-crampons"),
			line("goggles", "goggles"), line("sunglasses", "sunglasses"), line("helmet", "helmet"), line("mittens", "mittens"),
			line("ski repair kit", "ski-repair-kit"), line("hot drink", "flask"),
			line("group shelter", "group-shelter", "survival-bag")}, wearLines[:4], safeLines[:8])},
	{"hill-leader", "Hill leader's day",
		slices.Concat([]CheckLine{line("leader's first aid kit", "large-aid-kit", "first-aid-kit"),
			line("group shelter", "group-shelter"), line("spare warm clothes for the party", "spare-clothes", "fleece"),
			line("spare hat and gloves", "hat-gloves", "warm-hat"), line("spare map", "spare-map"),
			line("spare light", "spare-light"), line("spare food", "spare-meal", "snacks"),
			line("route and party notes", "leader-notes"), line("rope or line", "rope", "throw-line"),
			line("hot drink", "flask")}, wearLines[:4], safeLines)},
	{"child", "A night out with a child",
		slices.Concat([]CheckLine{line("child's sleeping bag", "child-sleeping-bag", "down-sleeping-bag"),
			line("child's mat", "child-mat", "foam-mat"), line("soft toy", "soft-toy"),
			line("child's rain suit", "child-rain-suit"),
			line("child's spare clothes, twice", "child-clothes"), line("child's bottle", "child-bottle"),
			line("child's lamp", "child-lamp"), line("something to look through", "magnifier")}, sleepLines, cookLines,
			safeLines, dailyLines)},
}

// ChecklistOf finds a list by its id.
func ChecklistOf(id string) (Checklist, bool) {
	for _, l := range Checklists {
		if l.ID == id {
			return l, true
		}
	}
	return Checklist{}, false
}

// MetBy names the first thing with the walker that meets the line, "" when none does.
func (l CheckLine) MetBy(items []Item) string {
	for i := range items {
		if it := &items[i]; it.Carry != Left && slices.Contains(l.Kinds, it.Kind) {
			return it.Name
		}
	}
	return ""
}
