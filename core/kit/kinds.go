package kit

// Kind is a generic sort of thing with typical figures: our estimates, meant to be replaced by measuring.
type Kind struct {
	ID        string
	Name      string
	Group     string
	MassG     float64
	Shape     Shape
	Use       Use
	Water     Water
	Traits    []Trait
	Functions []string
}

func soft(loose, tight, gap float64) Shape {
	return Shape{Kind: Soft, LooseL: loose, TightL: tight, GapCm: gap}
}
func box(l, w, h float64) Shape  { return Shape{Kind: Box, SizeCm: [3]float64{l, w, h}} }
func flat(l, w, t float64) Shape { return Shape{Kind: Flat, SizeCm: [3]float64{l, w, t}} }
func cylinder(d, l float64) Shape {
	return Shape{Kind: Cylinder, DiameterCm: d, LengthCm: l}
}
func vesselOf(d, l, inside float64) Shape {
	return Shape{Kind: Vessel, DiameterCm: d, LengthCm: l, InsideL: inside, MouthCm: d - 1}
}

var (
	dryFabric = Water{Absorbs: true, Suffers: true}
	wetFabric = Water{Absorbs: true, ReturnsWet: true}
	rainproof = Water{Absorbs: true}
	careless  = Water{}
)

// Unknown is the kind of a thing of which nothing is known.
var Unknown = Kind{"thing", "Thing", "other", 200, soft(1, 0.7, 2), Use{Camp, 1, false}, careless, nil, nil}

// Kinds is the table of generic things.
var Kinds = []Kind{
	{"down-sleeping-bag", "Down sleeping bag", "sleep", 950, soft(11, 6, 4), Use{Camp, 1, false}, dryFabric, nil, []string{"warmth"}},
	{"synthetic-sleeping-bag", "Synthetic sleeping bag", "sleep", 1350, soft(15, 9, 4), Use{Camp, 1, false}, dryFabric, nil, []string{"warmth"}},
	{"air-mat", "Air mat", "sleep", 450, cylinder(10, 23), Use{Camp, 1, false}, careless, []Trait{Crushable}, []string{"insulation"}},
	{"foam-mat", "Closed foam mat", "sleep", 390, cylinder(14, 51), Use{Camp, 1, false}, careless, []Trait{Foam, MayHangOutside}, []string{"insulation"}},
	{"sit-mat", "Sit mat", "sleep", 60, flat(28, 19, 2), Use{Halt, 3, false}, careless, []Trait{Foam, MayHangOutside}, nil},
	{"tent-inner", "Tent inner", "shelter", 720, soft(4.5, 2.8, 3), Use{Arrival, 1, false}, dryFabric, nil, []string{"shelter"}},
	{"tent-fly", "Tent fly", "shelter", 690, soft(4.2, 2.6, 3), Use{Arrival, 1, false}, wetFabric, nil, []string{"shelter"}},
	{"tarp", "Tarp", "shelter", 480, soft(2.4, 1.5, 2), Use{Arrival, 1, false}, wetFabric, nil, []string{"shelter"}},
	{"tent-poles", "Tent poles", "shelter", 420, cylinder(5, 46), Use{Arrival, 1, false}, careless, []Trait{Hard}, []string{"shelter"}},
	{"pegs", "Pegs in a bag", "shelter", 160, box(18, 5, 4), Use{Arrival, 1, false}, careless, []Trait{Hard, Sharp}, []string{"shelter"}},
	{"groundsheet", "Groundsheet", "shelter", 210, soft(1.4, 0.9, 2), Use{Arrival, 1, false}, Water{ReturnsWet: true}, nil, nil},
	{"pot", "Cook pot", "kitchen", 140, vesselOf(12, 10, 0.9), Use{Camp, 2, false}, careless, []Trait{Hard}, nil},
	{"mug", "Mug", "kitchen", 65, vesselOf(8.5, 9, 0.4), Use{Camp, 3, false}, careless, []Trait{Hard}, nil},
	{"gas-stove", "Gas stove", "kitchen", 85, box(9, 7, 5), Use{Camp, 2, false}, careless, []Trait{Hard, Fuel}, []string{"cooking"}},
	{"gas-canister", "Gas canister", "kitchen", 380, cylinder(11, 9), Use{Camp, 2, false}, careless, []Trait{Hard, Fuel}, []string{"cooking"}},
	{"lighter", "Lighter", "kitchen", 20, box(8, 2.5, 1.5), Use{Camp, 2, false}, careless, []Trait{Fuel}, []string{"fire"}},
	{"spoon", "Spoon", "kitchen", 15, box(21, 4, 2), Use{Camp, 3, false}, careless, []Trait{Hard}, nil},
	{"food-day", "Food for a day", "food", 780, soft(2.4, 1.8, 2), Use{Camp, 1, false}, careless, []Trait{Food, Scented, Crushable}, nil},
	{"snacks", "Snacks", "food", 180, box(14, 9, 4), Use{Moving, 6, false}, careless, []Trait{Food, Scented}, nil},
	{"water-bag", "Water bag 2 L, full", "water", 2150, flat(34, 18, 4), Use{Moving, 12, false}, Water{Leaks: true}, nil, []string{"water"}},
	{"bottle", "Bottle 1 L, full", "water", 1090, cylinder(8.5, 24), Use{Moving, 8, false}, Water{Case: "IPX7"}, nil, []string{"water"}},
	{"water-filter", "Water filter", "water", 110, cylinder(6, 19), Use{Halt, 2, false}, Water{ReturnsWet: true}, []Trait{Crushable}, []string{"water-treatment"}},
	{"water-tablets", "Water tablets", "water", 20, box(9, 6, 1), Use{Need, 0.1, false}, Water{Absorbs: true, Suffers: true, Case: "IPX4"}, nil, []string{"water-treatment"}},
	{"rain-jacket", "Rain jacket", "clothing", 380, soft(2.2, 1.3, 2), Use{Moving, 2, true}, rainproof, nil, []string{"rain"}},
	{"rain-trousers", "Rain trousers", "clothing", 280, soft(1.6, 0.9, 2), Use{Moving, 1, true}, rainproof, nil, []string{"rain"}},
	{"insulated-jacket", "Insulated jacket", "clothing", 360, soft(4, 1.9, 3), Use{Halt, 2, false}, dryFabric, nil, []string{"warmth"}},
	{"hat-gloves", "Hat and gloves", "clothing", 130, soft(0.9, 0.5, 1.5), Use{Halt, 2, false}, dryFabric, nil, []string{"warmth"}},
	{"spare-clothes", "Spare clothes", "clothing", 520, soft(3.4, 2.1, 2), Use{Camp, 1, false}, dryFabric, nil, nil},
	{"socks", "Socks", "clothing", 80, soft(0.4, 0.25, 1.5), Use{Camp, 1, false}, dryFabric, nil, nil},
	{"camp-shoes", "Camp shoes", "clothing", 320, Shape{Kind: Lump, SizeCm: [3]float64{27, 11, 9}, VolumeL: 1.6}, Use{Arrival, 1, false}, careless, []Trait{MayHangOutside}, nil},
	{"first-aid-kit", "First aid kit", "aid", 240, box(17, 11, 6), Use{Need, 0.2, true}, dryFabric, nil, []string{"first-aid"}},
	{"survival-bag", "Survival bag", "aid", 290, box(18, 9, 6), Use{Need, 0.05, true}, careless, nil, []string{"shelter", "warmth"}},
	{"whistle", "Whistle", "aid", 12, box(5, 2, 2), Use{Need, 0.05, false}, careless, nil, []string{"signal"}},
	{"headlamp", "Headlamp", "light", 85, box(7, 6, 5), Use{Arrival, 2, false}, Water{Suffers: true, Case: "IPX4"}, []Trait{Electronic}, []string{"light"}},
	{"map", "Map in a case", "navigation", 140, flat(24, 14, 1), Use{Moving, 8, false}, Water{Absorbs: true, Suffers: true, Case: "IPX4"}, nil, []string{"navigation"}},
	{"compass", "Compass", "navigation", 40, box(12, 6, 1.2), Use{Moving, 4, false}, careless, nil, []string{"navigation"}},
	{"phone", "Phone", "navigation", 200, box(16, 8, 1.2), Use{Moving, 6, false}, Water{Suffers: true, Case: "IPX4"}, []Trait{Electronic}, []string{"navigation", "signal"}},
	{"power-bank", "Power bank", "electronics", 260, box(11, 7, 3), Use{Camp, 1, false}, Water{Suffers: true}, []Trait{Electronic}, nil},
	{"wash-kit", "Wash kit", "care", 190, box(18, 10, 6), Use{Camp, 2, false}, careless, []Trait{Scented}, nil},
	{"trowel-kit", "Trowel and paper", "care", 140, box(19, 9, 4), Use{Halt, 1, true}, dryFabric, []Trait{Sharp}, nil},
	{"sun-cream", "Sun cream", "care", 90, box(12, 5, 3), Use{Halt, 3, false}, careless, []Trait{Scented}, []string{"sun"}},
	{"repair-kit", "Knife and repair kit", "tools", 160, box(12, 8, 4), Use{Need, 0.3, false}, careless, []Trait{Sharp}, []string{"repair"}},
	{"walking-poles", "Walking poles", "tools", 460, cylinder(6, 62), Use{Moving, 1, false}, careless, nil, nil},
	{"rope", "Rope", "tools", 1400, soft(3.2, 2.2, 3), Use{Need, 0.1, false}, wetFabric, nil, nil},
	{"avalanche-shovel", "Avalanche shovel", "winter", 650, box(46, 24, 6), Use{Need, 0.05, true}, careless, []Trait{Hard, Rescue}, []string{"rescue"}},
	{"avalanche-probe", "Avalanche probe", "winter", 280, cylinder(5, 42), Use{Need, 0.05, true}, careless, []Trait{Rescue}, []string{"rescue"}},
}

// KindOf finds a kind by its id.
func KindOf(id string) (Kind, bool) {
	for _, k := range Kinds {
		if k.ID == id {
			return k, true
		}
	}
	return Unknown, false
}
