package kit

// What a camp is made of. All figures are our estimates of what is usual.

var sleeping = []Kind{
	of("down-sleeping-bag", "Down sleeping bag", "sleep", 950, soft(11, 6, 4), camp(1), dryFabric).
		also("down bag", "sleeping bag", "down mummy bag").gives("warmth").spread(0.3),
	of("synthetic-sleeping-bag", "Synthetic sleeping bag", "sleep", 1350, soft(15, 9, 4), camp(1), dryFabric).
		also("synthetic bag", "fibre sleeping bag").gives("warmth").spread(0.3),
	of("winter-sleeping-bag", "Winter down sleeping bag", "sleep", 1500, soft(19, 10, 5), camp(1), dryFabric).
		also("winter bag", "winter sleeping bag", "expedition sleeping bag").gives("warmth").spread(0.3),
	of("down-quilt", "Down quilt", "sleep", 640, soft(8.5, 4.6, 4), camp(1), dryFabric).also("quilt").gives("warmth"),
	of("winter-quilt", "Synthetic winter quilt", "sleep", 1100, soft(16, 8.5, 5), camp(1), dryFabric).
		also("overquilt", "winter quilt").gives("warmth"),
	of("bag-liner", "Sleeping bag liner", "sleep", 140, soft(0.9, 0.6, 2), camp(1), dryFabric).
		also("silk liner", "bag liner", "thin liner", "inlet").gives("warmth"),
	of("bivvy-bag", "Bivvy bag", "sleep", 420, soft(2.2, 1.3, 2), camp(1), wetFabric).
		also("bivy bag", "bivvy", "bivouac bag").gives("shelter"),
	of("air-mat", "Air mat", "sleep", 450, cylinder(10, 23), camp(1), careless).
		also("inflatable mat", "mat", "air mattress", "air pad", "sleeping pad", "air bed").as(Crushable).gives("insulation"),
	of("self-inflating-mat", "Self-inflating mat", "sleep", 680, cylinder(15, 28), camp(1), careless).
		also("self inflating pad").as(Crushable).gives("insulation"),
	of("foam-mat", "Closed foam mat", "sleep", 390, cylinder(14, 51), camp(1), careless).
		also("foam pad", "roll mat", "closed cell mat", "sleeping mat", "ground mat", "camping mat").as(Foam, MayHangOutside).gives("insulation").
		spread(0.15),
	of("folding-foam-mat", "Folding foam mat", "sleep", 420, box(51, 14, 13), camp(1), careless).
		also("folded mat", "fold mat").as(Foam, MayHangOutside).gives("insulation"),
	of("thin-foam-mat", "Thin foam mat", "sleep", 120, flat(50, 28, 2), camp(1), careless).
		also("thin mat", "3 mm mat").as(Foam, MayHangOutside).gives("insulation"),
	of("sit-mat", "Sit mat", "sleep", 60, flat(28, 19, 2), halt(3), careless).
		also("sit pad", "seat mat", "sitting mat").as(Foam, MayHangOutside).spread(0.2),
	of("pillow", "Inflatable pillow", "sleep", 75, box(13, 8, 4), camp(1), careless).
		also("air pillow", "pillow").as(Crushable),
	of("ear-plugs", "Ear plugs and eye mask", "sleep", 30, box(10, 6, 2), camp(1), dryFabric).
		also("ear plugs", "earplugs", "eye mask"),
	of("mat-pump", "Mat pump sack", "sleep", 60, soft(0.4, 0.25, 2), camp(1), careless).also("pump sack", "pump"),
}

var shelters = []Kind{
	of("tent-one", "Tent for one, whole", "shelter", 1250, lump(44, 15, 14, 7), arrival(1), wetFabric).
		also("one person tent", "solo tent", "1 person tent", "1 man tent", "1 p tent", "one man tent").gives("shelter").spread(0.3).withPoles(0.22),
	of("tent-two", "Tent for two, whole", "shelter", 2100, lump(48, 18, 16, 11), arrival(1), wetFabric).
		also("two person tent", "2 person tent", "tent").gives("shelter").spread(0.3).withPoles(0.22),
	of("tent-three", "Tent for three, whole", "shelter", 3300, lump(54, 20, 19, 16), arrival(1), wetFabric).
		also("three person tent", "3 person tent", "3 man tent", "3 p tent", "4 person tent", "family tent").gives("shelter").spread(0.3).withPoles(0.22),
	of("tent-inner", "Tent inner", "shelter", 720, soft(4.5, 2.8, 3), arrival(1), dryFabric).
		also("inner tent").gives("shelter"),
	of("tent-fly", "Tent fly", "shelter", 690, soft(4.2, 2.6, 3), arrival(1), wetFabric).
		also("outer tent", "fly sheet", "flysheet").gives("shelter"),
	of("tarp", "Tarp", "shelter", 480, soft(2.4, 1.5, 2), arrival(1), wetFabric).
		also("tarpaulin", "basha").gives("shelter").spreadOut(9),
	of("pole-shelter", "Shelter pitched on walking poles", "shelter", 760, soft(4.2, 2.6, 3), arrival(1), wetFabric).
		also("trekking pole tent", "pyramid").gives("shelter"),
	of("mosquito-net", "Insect net", "shelter", 230, soft(1.6, 1, 2), arrival(1), careless).
		also("mosquito net", "bug net", "net tent", "head net", "midge net"),
	of("hammock", "Hammock with straps", "shelter", 620, soft(3, 1.9, 2), arrival(1), dryFabric).
		also("hammock").gives("shelter"),
	of("tent-poles", "Tent poles", "shelter", 420, cylinder(5, 46), arrival(1), careless).
		also("poles of the tent").as(Hard).gives("shelter"),
	of("pegs", "Pegs in a bag", "shelter", 160, box(18, 5, 4), arrival(1), careless).
		also("tent pegs", "stakes", "tent stakes").as(Hard, Sharp).gives("shelter").pieces(10),
	of("guy-lines", "Guy lines", "shelter", 60, soft(0.3, 0.2, 1.5), arrival(0.5), careless).
		also("guylines", "spare guys"),
	of("groundsheet", "Groundsheet", "shelter", 210, soft(1.4, 0.9, 2), arrival(1), comesWet).
		also("footprint", "ground cloth", "ground sheet").spreadOut(2.6),
	of("pole-sleeve", "Pole repair sleeve", "shelter", 20, cylinder(1.5, 12), need(0.02), careless).
		also("pole splint").as(Hard).gives("repair"),
}

var kitchen = []Kind{
	of("pot", "Cook pot", "kitchen", 140, vesselOf(12, 10, 0.9), camp(2), careless).
		also("pot", "cooking pot", "saucepan", "billy").as(Hard).holding(0.9),
	of("large-pot", "Large pot", "kitchen", 320, vesselOf(18, 12, 2.6), camp(2), careless).
		also("group pot", "big pot").as(Hard).holding(2.6),
	of("frying-pan", "Frying pan", "kitchen", 240, lump(24, 20, 5, 0.7), camp(1), careless).
		also("pan", "skillet").as(Hard),
	of("kettle", "Kettle", "kitchen", 170, vesselOf(15, 8, 0.9), camp(2), careless).also("kettle").as(Hard).holding(0.9),
	of("mug", "Mug", "kitchen", 65, vesselOf(8.5, 9, 0.4), camp(3), careless).also("cup").as(Hard).holding(0.4),
	of("bowl", "Bowl", "kitchen", 70, vesselOf(14, 5.5, 0.55), camp(2), careless).
		also("plate", "dish").as(Hard).holding(0.55),
	of("insulated-mug", "Insulated mug", "kitchen", 210, vesselOf(8.5, 13, 0.35), camp(3), careless).
		also("thermal mug").as(Hard).holding(0.35),
	of("flask", "Vacuum flask 1 L, full", "kitchen", 1550, cylinder(9, 30), halt(3), Water{Case: "IPX7"}).
		also("vacuum flask", "flask", "hot drink flask", "flask of tea", "tea flask", "flask of coffee").as(Hard).gives("water").usedUp("water").holding(1),
	of("gas-stove", "Gas stove", "kitchen", 85, box(9, 7, 5), camp(2), careless).
		also("stove", "burner", "gas burner").as(Hard, Fuel).gives("cooking"),
	of("hose-stove", "Gas stove on a hose", "kitchen", 180, lump(12, 10, 7, 0.5), camp(2), careless).
		also("remote stove", "winter stove").as(Hard, Fuel).gives("cooking"),
	of("spirit-stove", "Spirit stove", "kitchen", 110, cylinder(8, 6), camp(2), careless).
		also("alcohol stove", "spirit burner", "meths stove").as(Hard, Fuel).gives("cooking"),
	of("petrol-stove", "Liquid fuel stove", "kitchen", 420, lump(15, 12, 10, 1), camp(2), careless).
		also("petrol stove", "gasoline stove", "multifuel stove").as(Hard, Fuel).gives("cooking"),
	of("wood-stove", "Wood stove", "kitchen", 250, cylinder(13, 9), camp(2), careless).
		also("hobo stove", "twig stove").as(Hard).gives("cooking"),
	of("stove-pipe", "Stove pipe", "kitchen", 450, cylinder(8, 30), camp(1), careless).also("flue", "chimney pipe").as(Hard),
	of("gas-canister", "Gas canister", "kitchen", 380, cylinder(11, 9), camp(2), careless).
		also("gas", "gas cartridge", "cartridge", "canister", "gas 230").as(Hard, Fuel).gives("cooking").usedUp("fuel").spread(0.06),
	of("gas-canister-small", "Small gas canister", "kitchen", 200, cylinder(9, 7), camp(2), careless).
		also("small gas", "gas 100", "small canister").as(Hard, Fuel).gives("cooking").usedUp("fuel").spread(0.06),
	of("gas-canister-large", "Large gas canister", "kitchen", 680, cylinder(11, 15), camp(2), careless).
		also("large gas", "gas 450", "large canister").as(Hard, Fuel).gives("cooking").usedUp("fuel").spread(0.06),
	of("spirit-bottle", "Spirit bottle 0.5 L, full", "kitchen", 460, cylinder(7, 18), camp(2), Water{Leaks: true}).
		also("fuel bottle", "petrol", "gasoline", "white gas", "liquid fuel", "spirit", "alcohol fuel", "meths").as(Hard, Fuel).gives("cooking").usedUp("fuel").holding(0.5),
	of("wind-screen", "Wind screen", "kitchen", 90, flat(25, 13, 1), camp(2), careless).
		also("windscreen", "windshield").as(Hard),
	of("lighter", "Lighter", "kitchen", 20, box(8, 2.5, 1.5), camp(2), careless).
		also("lighter").as(Fuel).gives("fire").spread(0.15),
	of("matches", "Matches in a case", "kitchen", 25, cylinder(3, 7), need(0.2),
		Water{Suffers: true, Absorbs: true, Case: "IPX4"}).
		also("matches", "storm matches", "fire steel", "ferro rod", "flint").gives("fire"),
	of("spoon", "Spoon", "kitchen", 15, box(21, 4, 2), camp(3), careless).
		also("long spoon", "fork", "cutlery", "spork").as(Hard),
	of("knife", "Pocket knife", "kitchen", 70, box(9, 3, 2), camp(2), careless).
		also("pocket knife", "folding knife", "knife").as(Hard, Sharp).gives("repair"),
	of("fixed-knife", "Fixed knife in a sheath", "kitchen", 150, box(23, 5, 3), camp(1), careless).
		also("sheath knife", "belt knife").as(Hard, Sharp),
	of("sponge", "Sponge and washing-up liquid", "kitchen", 40, soft(0.25, 0.15, 1.5), camp(2), comesWet).
		also("sponge", "dish sponge", "washing up kit").as(Scented),
	of("tea-towel", "Kitchen towel", "kitchen", 40, soft(0.3, 0.2, 1.5), camp(2), wetFabric).
		also("dish cloth", "tea towel"),
	of("food-box", "Bear-safe food canister", "kitchen", 1100, vesselOf(22, 30, 10), camp(2), careless).
		also("food canister", "bear canister", "food keg").as(Hard).holding(10),
	of("hang-kit", "Line to hang the food", "kitchen", 130, soft(0.5, 0.35, 2), camp(1), wetFabric).
		also("bear line", "hanging line", "food hang line"),
	of("chopping-board", "Cutting board", "kitchen", 60, flat(20, 12, 0.5), camp(1), careless).also("chopping board"),
	of("coffee-filter", "Coffee filter", "kitchen", 45, cylinder(10, 6), camp(1), careless).
		also("coffee maker", "coffee press"),
}

var provisions = []Kind{
	of("food-day", "Food for a day", "food", 780, soft(2.4, 1.8, 2), camp(1), careless).
		also("day food", "day ration", "food bag", "food").as(Food, Scented, Crushable).usedUp("food").byDays(),
	of("breakfast", "Breakfast", "food", 150, soft(0.5, 0.4, 1.5), camp(1), careless).
		also("porridge", "muesli", "granola").as(Food, Scented).usedUp("food").byDays(),
	of("lunch", "Lunch", "food", 250, soft(0.7, 0.55, 2), halt(1), careless).
		also("lunch bag", "sandwiches").as(Food, Scented, Crushable).usedUp("food").byDays(),
	of("dinner", "Dinner, dried", "food", 170, soft(0.7, 0.5, 2), camp(1), careless).
		also("dinner", "freeze dried meal", "dry meal", "evening meal", "stew", "curry", "soup").as(Food, Scented).usedUp("food").byDays(),
	of("spare-meal", "Spare meal", "food", 170, soft(0.7, 0.5, 2), need(0.1), careless).
		also("emergency meal", "emergency food", "emergency ration").as(Food, Scented).usedUp("food"),
	of("snacks", "Snacks", "food", 180, box(14, 9, 4), moving(6), careless).
		also("snack", "bars", "nuts", "trail mix", "chocolate", "sweets", "biscuits", "crackers", "wafers", "toffee", "electrolyte powder",
			"electrolytes").as(Food, Scented).usedUp("food").byDays().spread(0.35),
	of("bread-cheese", "Bread and cheese", "food", 600, lump(22, 12, 8, 1.5), halt(1), careless).
		also("bread", "cheese", "sausage", "bacon", "ham", "salami", "jerky", "butter").as(Food, Scented, Crushable).usedUp("food").spread(0.35),
	of("fresh-food", "Fresh fruit and vegetables", "food", 700, lump(18, 15, 12, 1.6), halt(1), careless).
		also("fruit", "vegetables", "apples", "eggs").as(Food, Scented, Crushable).usedUp("food").spread(0.35),
	of("tea-coffee", "Tea, coffee, sugar", "food", 130, soft(0.35, 0.3, 1.5), camp(2), paper).
		also("tea", "coffee", "cocoa", "hot chocolate", "drink powder").as(Food, Scented).usedUp("food"),
	of("dry-food", "Dry food", "food", 500, soft(0.8, 0.7, 1), camp(1), careless).
		also("rice", "pasta", "noodles", "oats", "porridge", "couscous", "flour", "sugar", "lentils", "muesli", "nuts",
			"milk powder", "reis", "nudeln", "haferflocken", "riz", "pates", "arroz", "ris", "havregryn").as(Food, Scented).
		usedUp("food").byMass(),
	of("spices-oil", "Oil and spices", "food", 140, cylinder(5, 10), camp(1), Water{Leaks: true}).
		also("oil", "spices", "salt", "olive oil", "honey", "jam").as(Food, Scented).usedUp("food"),
	of("water-bag", "Water bag 2 L, full", "water", 2150, flat(34, 18, 4), moving(12), Water{Leaks: true}).
		also("water bladder", "hydration bladder", "drinking bag", "hydration bag").gives("water").usedUp("water").
		holding(2).spread(0.1),
	of("bottle", "Bottle 1 L, full", "water", 1090, cylinder(8.5, 24), moving(8), Water{Case: "IPX7"}).
		also("bottle", "water", "water bottle", "drinking bottle").gives("water").usedUp("water").holding(1).spread(0.1),
	of("soft-bottle", "Soft bottle 0.5 L, full", "water", 535, soft(0.55, 0.5, 3), moving(8), Water{Leaks: true}).
		also("soft flask", "collapsible bottle").gives("water").usedUp("water").holding(0.5),
	of("camp-water-bag", "Water carrier, empty", "water", 70, soft(0.35, 0.2, 2), arrival(1), comesWet).
		also("water sack", "water carrier", "folding canister", "camp water bag"),
	of("water-filter", "Water filter", "water", 110, cylinder(6, 19), halt(2), comesWet).
		also("filter", "squeeze filter").as(Crushable).gives("water-treatment"),
	of("water-pump", "Pump filter", "water", 420, lump(20, 10, 7, 0.9), halt(2), comesWet).
		also("pump filter").as(Crushable, Hard).gives("water-treatment"),
	of("water-tablets", "Water tablets", "water", 20, box(9, 6, 1), need(0.1),
		Water{Absorbs: true, Suffers: true, Case: "IPX4"}).
		also("purification tablets", "chlorine tablets", "water drops").gives("water-treatment"),
	of("uv-pen", "Ultraviolet water pen", "water", 140, cylinder(4, 18), halt(2), circuits).
		also("uv pen", "uv light").as(Electronic).gives("water-treatment"),
}
