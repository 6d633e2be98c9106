package kit

// What is worn, and what keeps one whole, clean and on the way. All figures are our estimates of what is usual.

var clothes = []Kind{
	of("rain-jacket", "Rain jacket", "clothing", 380, soft(2.2, 1.3, 2), moving(2).atOnce(), rainproof).
		also("waterproof jacket", "hardshell", "rain shell", "shell jacket", "rain coat", "cagoule", "anorak").gives("rain"),
	of("rain-trousers", "Rain trousers", "clothing", 280, soft(1.6, 0.9, 2), moving(1).atOnce(), rainproof).
		also("rain skirt", "rain kilt", "waterproof trousers", "shell trousers", "rain pants", "shell pants", "overtrousers").gives("rain"),
	of("poncho", "Rain poncho", "clothing", 300, soft(1.8, 1.1, 2), moving(2).atOnce(), rainproof).
		also("cape", "poncho").gives("rain"),
	of("wind-jacket", "Wind jacket", "clothing", 120, soft(0.8, 0.5, 1.5), moving(3), rainproof).
		also("windshirt", "wind shirt", "windbreaker"),
	of("softshell", "Soft shell jacket", "clothing", 480, soft(3, 1.9, 3), moving(2), dryFabric).
		also("softshell", "soft shell"),
	of("insulated-jacket", "Insulated jacket", "clothing", 360, soft(4, 1.9, 3), halt(2), dryFabric).
		also("down jacket", "down vest", "puffy", "parka", "synthetic jacket", "warm jacket", "insulated vest").gives("warmth").spread(0.35),
	of("belay-jacket", "Thick insulated jacket", "clothing", 780, soft(9, 4.6, 4), halt(2), dryFabric).
		also("belay jacket", "winter jacket", "expedition jacket").gives("warmth").spread(0.3),
	of("insulated-trousers", "Insulated trousers", "clothing", 380, soft(4.2, 2.1, 3), camp(1), dryFabric).
		also("down trousers", "warm trousers", "insulated pants").gives("warmth"),
	of("fleece", "Fleece jacket", "clothing", 330, soft(3.2, 1.9, 2), halt(2), dryFabric).
		also("fleece", "pullover", "jumper", "sweater", "mid layer"),
	of("hat-gloves", "Hat and gloves", "clothing", 130, soft(0.9, 0.5, 1.5), halt(2), dryFabric).
		also("hat and gloves").gives("warmth"),
	of("warm-hat", "Warm hat", "clothing", 60, soft(0.5, 0.3, 1.5), halt(2), dryFabric).
		also("hat", "beanie", "woollen hat", "wool hat", "balaclava").gives("warmth"),
	of("thin-gloves", "Thin gloves", "clothing", 50, soft(0.3, 0.2, 1.5), moving(2), dryFabric).
		also("liner gloves", "gloves"),
	of("mittens", "Insulated mittens", "clothing", 220, soft(1.8, 1.1, 2), halt(2), dryFabric).
		also("mitts", "warm gloves", "winter gloves").gives("warmth"),
	of("overmitts", "Waterproof overmitts", "clothing", 90, soft(0.5, 0.35, 1.5), moving(1), rainproof).
		also("overmitts", "rain mitts"),
	of("neck-tube", "Neck tube", "clothing", 40, soft(0.2, 0.15, 1), moving(2), dryFabric).
		also("tube scarf", "scarf", "neck gaiter"),
	of("sun-hat", "Sun hat", "clothing", 80, soft(0.8, 0.4, 1.5), moving(2), careless).
		also("cap", "brimmed hat").gives("sun"),
	of("spare-clothes", "Spare clothes", "clothing", 520, soft(3.4, 2.1, 2), camp(1), dryFabric).
		also("change of clothes", "clothes bag", "dry clothes").spread(0.4),
	of("base-top", "Base layer top", "clothing", 180, soft(1.1, 0.65, 2), camp(1), dryFabric).
		also("base layer", "thermal top", "long sleeve shirt", "merino shirt", "sun hoody", "sun shirt"),
	of("base-bottom", "Base layer leggings", "clothing", 170, soft(1, 0.6, 2), camp(1), dryFabric).
		also("long johns", "leggings", "thermal bottoms", "long underwear"),
	of("t-shirt", "T-shirt", "clothing", 140, soft(0.9, 0.5, 2), camp(1), dryFabric).also("tee", "shirt", "t shirt"),
	of("trousers", "Walking trousers", "clothing", 340, soft(2, 1.2, 2), camp(1), dryFabric).
		also("trousers", "pants", "hiking pants").on(Worn),
	of("shorts", "Shorts", "clothing", 170, soft(0.9, 0.55, 2), camp(1), dryFabric).also("shorts"),
	of("underwear", "Underwear", "clothing", 70, soft(0.35, 0.2, 1.5), camp(1), dryFabric).
		also("briefs", "underpants", "bra"),
	of("socks", "Socks", "clothing", 80, soft(0.4, 0.25, 1.5), camp(1), dryFabric).
		also("wool socks", "sock", "pair of socks"),
	of("liner-socks", "Thin socks", "clothing", 35, soft(0.2, 0.12, 1), camp(1), dryFabric).
		also("liner socks", "thin socks"),
	of("sleep-socks", "Night socks", "clothing", 90, soft(0.5, 0.3, 1.5), camp(1), dryFabric).
		also("bed socks", "sleep socks", "down socks"),
	of("camp-shoes", "Camp shoes", "clothing", 320, lump(27, 11, 9, 1.6), arrival(1), careless).
		also("sandals", "slippers", "flip flops", "clogs", "trainers").as(MayHangOutside),
	of("walking-boots", "Walking boots", "clothing", 1250, lump(31, 23, 17, 6), moving(0.1), comesWet).
		also("boots", "hiking boots", "walking shoes", "trail shoes").on(Worn),
	of("gaiters", "Gaiters", "clothing", 190, soft(1.2, 0.8, 2), moving(1), wetFabric).
		also("gaiters", "leggings for snow"),
	of("swimwear", "Swimming things", "clothing", 120, soft(0.6, 0.35, 1.5), camp(0.5), wetFabric).
		also("swimsuit", "trunks", "swimming trunks"),
	of("rain-hat", "Waterproof hat", "clothing", 80, soft(0.6, 0.35, 1.5), moving(1), rainproof).
		also("sou'wester", "rain hat"),
	of("umbrella", "Trekking umbrella", "clothing", 240, cylinder(5, 58), moving(1), comesWet).
		also("umbrella").as(MayHangOutside).gives("rain"),
}

var carefulness = []Kind{
	of("first-aid-kit", "First aid kit", "aid", 240, box(17, 11, 6), need(0.2).atOnce(), dryFabric).
		also("first aid", "aid kit", "medical kit").gives("first-aid").spread(0.4),
	of("large-aid-kit", "Leader's first aid kit", "aid", 950, lump(26, 17, 12, 4.2), need(0.3).atOnce(), dryFabric).
		also("group first aid", "expedition first aid kit").gives("first-aid").spread(0.4),
	of("blister-kit", "Blister kit", "aid", 50, box(12, 8, 2), halt(0.5), dryFabric).
		also("blister plasters", "plasters", "tape for feet"),
	of("medicine", "Personal medicine", "aid", 60, box(10, 7, 3), camp(1), paper).
		also("medicines", "pills", "painkillers", "paracetamol", "ibuprofen", "medication", "prescription", "insulin", "rehydration salts").gives("medicine"),
	of("emergency-medicine", "Emergency medicine", "aid", 60, box(16, 5, 4), need(0.1).atOnce(), Water{Suffers: true}).
		also("adrenaline pen", "adrenaline injector", "adrenaline", "epinephrine", "allergy pen", "allergy kit", "inhaler",
			"asthma spray", "emergency pills").gives("medicine"),
	of("pressure-bandage", "Pressure bandage", "aid", 80, box(9, 6, 5), need(0.05).atOnce(), dryFabric).
		also("bandage", "compression bandage", "elastic bandage", "snake bandage", "tourniquet", "bleeding kit"),
	of("survival-bag", "Survival bag", "aid", 290, box(18, 9, 6), need(0.05).atOnce(), careless).
		also("bivvy survival bag", "emergency bag", "orange bag").gives("shelter", "warmth"),
	of("rescue-blanket", "Rescue blanket", "aid", 60, box(13, 9, 2), need(0.05).atOnce(), careless).
		also("space blanket", "foil blanket", "emergency blanket").gives("warmth"),
	of("whistle", "Whistle", "aid", 12, box(5, 2, 2), need(0.05), careless).
		also("whistle").gives("signal").spread(0.2).on(Worn),
	of("signal-mirror", "Signal mirror", "aid", 25, flat(8, 5, 0.5), need(0.02), careless).
		also("mirror").gives("signal"),
	of("beacon", "Distress beacon", "aid", 150, box(11, 6, 3.5), need(0.02).atOnce(), Water{Suffers: true, Case: "IPX7"}).
		also("plb", "satellite messenger", "satellite phone", "sat phone", "emergency beacon").as(Electronic).gives("signal"),
	of("insect-repellent", "Insect repellent", "aid", 90, cylinder(4, 13), halt(2), Water{Leaks: true}).
		also("repellent", "mosquito spray", "bug spray", "insect spray", "tick spray").as(Scented),
	of("animal-spray", "Animal deterrent spray", "aid", 320, cylinder(5.5, 22), need(0.05).atOnce(), careless).
		also("bear spray", "pepper spray").as(Fuel, Hard),
	of("tick-tool", "Tick remover", "aid", 8, flat(8, 4, 0.5), need(0.2), careless).also("tick tweezers", "tick card"),
	of("triangular-splint", "Foldable splint", "aid", 120, flat(23, 11, 2), need(0.02), careless).also("splint"),
}

var wayfinding = []Kind{
	of("headlamp", "Headlamp", "light", 85, box(7, 6, 5), arrival(2), circuits).
		also("head torch", "headtorch", "torch", "flashlight", "head lamp").as(Electronic).gives("light").spread(0.2),
	of("spare-light", "Spare light", "light", 30, box(5, 4, 3), need(0.1), circuits).
		also("small torch", "backup light", "spare torch").as(Electronic).gives("light"),
	of("lantern", "Camp lantern", "light", 110, cylinder(7, 9), camp(1), circuits).
		also("lantern", "tent light").as(Electronic),
	of("batteries", "Spare batteries", "light", 70, box(6, 5, 2), need(0.2), Water{Suffers: true}).
		also("battery", "batteries").as(Electronic).pieces(3),
	of("map", "Map in a case", "navigation", 140, flat(24, 14, 1), moving(8),
		Water{Absorbs: true, Suffers: true, Case: "IPX4"}).
		also("map", "walking map").gives("navigation"),
	of("spare-map", "Spare map", "navigation", 80, flat(24, 12, 1), need(0.05), paper).
		also("second map", "backup map").gives("navigation"),
	of("compass", "Compass", "navigation", 40, box(12, 6, 1.2), moving(4), careless).
		also("compass").gives("navigation").spread(0.2),
	of("guide-book", "Guide book", "navigation", 260, box(19, 12, 1.5), camp(2), paper).also("guidebook", "route notes"),
	of("altimeter", "Altimeter watch", "navigation", 70, box(6, 5, 2), moving(6), circuits).
		also("watch", "altimeter").as(Electronic).gives("navigation"),
	of("gps", "Satellite navigation device", "navigation", 180, box(13, 6, 3.5), moving(6),
		Water{Suffers: true, Case: "IPX7"}).
		also("gps", "handheld navigator").as(Electronic).gives("navigation"),
	of("phone", "Phone", "navigation", 200, box(16, 8, 1.2), moving(6), circuits).
		also("smartphone", "mobile", "cell phone", "mobile phone").as(Electronic).gives("navigation", "signal").spread(0.12),
	of("radio", "Hand radio", "electronics", 240, box(22, 6, 4), moving(2), circuits).
		also("walkie talkie", "two way radio").as(Electronic).gives("signal"),
	of("power-bank", "Power bank", "electronics", 260, box(11, 7, 3), camp(1), Water{Suffers: true}).
		also("battery pack", "powerbank").as(Electronic).charge(10000),
	of("charger", "Charger and cable", "electronics", 90, box(9, 6, 4), camp(0.5), Water{Suffers: true}).
		also("cable", "charger", "plug").as(Electronic),
	of("solar-panel", "Solar panel", "electronics", 420, flat(28, 18, 3), halt(1), circuits).
		also("solar charger").as(Electronic, MayHangOutside),
	of("camera", "Camera", "electronics", 480, lump(13, 10, 8, 0.7), moving(6), Water{Suffers: true}).
		also("photo camera", "compact camera").as(Electronic, Crushable).spread(0.4),
	of("tripod", "Light tripod", "electronics", 900, cylinder(9, 42), halt(1), careless).
		also("tripod").as(Hard, MayHangOutside),
	of("binoculars", "Binoculars", "electronics", 320, lump(13, 11, 6, 0.55), halt(3), circuits).
		also("field glasses").as(Crushable),
}

var upkeep = []Kind{
	of("wash-kit", "Wash kit", "care", 190, box(18, 10, 6), camp(2), careless).
		also("wash bag", "toiletries", "toilet bag").as(Scented).spread(0.4),
	of("toothbrush", "Toothbrush and paste", "care", 45, box(19, 4, 2.5), camp(2), careless).
		also("toothpaste", "toothbrush").as(Scented),
	of("comb", "Comb", "care", 15, flat(13, 3, 0.5), camp(1), careless).also("brush", "hair brush"),
	of("soap", "Soap", "care", 60, box(7, 5, 2.5), camp(1), careless).also("shampoo", "washing up liquid").as(Scented),
	of("hand-gel", "Hand disinfectant", "care", 70, box(10, 4, 3), halt(2), Water{Leaks: true}).
		also("hand gel", "sanitizer", "hand sanitiser").as(Scented, Fuel),
	of("trowel-kit", "Trowel and paper", "care", 140, box(19, 9, 4), halt(1).atOnce(), dryFabric).
		also("toilet kit", "spade and paper", "toilet paper and trowel").as(Sharp),
	of("trowel", "Trowel", "care", 60, box(26, 7, 3), halt(1).atOnce(), careless).also("toilet trowel").as(Sharp),
	of("toilet-paper", "Toilet paper", "care", 60, soft(0.6, 0.35, 1.5), halt(1), paper).
		also("loo roll", "paper", "tissues", "baby wipes", "wet wipes"),
	of("menstrual-kit", "Menstrual products", "care", 80, soft(0.5, 0.35, 1.5), camp(1), paper).
		also("menstrual cup", "tampons", "sanitary pads"),
	of("sun-cream", "Sun cream", "care", 90, box(12, 5, 3), halt(3), careless).
		also("sunscreen", "sunblock").as(Scented).gives("sun"),
	of("lip-balm", "Lip balm", "care", 12, cylinder(2, 7), moving(3), careless).
		also("lip salve").as(Scented).gives("sun"),
	of("sunglasses", "Sunglasses in a case", "care", 110, box(16, 7, 5), moving(3), careless).
		also("sunglasses", "sun glasses", "shades", "glacier glasses", "safety glasses").as(Crushable).gives("sun"),
	of("spectacles", "Spare glasses in a case", "care", 60, box(16, 6, 4), need(0.1), careless).
		also("glasses", "spectacles", "reading glasses", "contact lenses").as(Crushable),
	of("towel", "Light towel", "care", 110, soft(0.7, 0.45, 2), camp(1), wetFabric).also("towel", "microfibre towel"),
	of("rubbish-bag", "Rubbish bag", "care", 25, soft(0.2, 0.1, 1), camp(1), careless).
		also("trash bag", "bin bag", "waste bag"),
	of("repair-kit", "Knife and repair kit", "tools", 160, box(12, 8, 4), need(0.3), careless).
		also("repair kit", "mending kit").as(Sharp).gives("repair").spread(0.4),
	of("multi-tool", "Multi-tool", "tools", 220, box(11, 4, 3), need(0.3), careless).
		also("multitool", "pliers").as(Hard, Sharp).gives("repair"),
	of("tape", "Strong tape", "tools", 50, cylinder(5, 5), need(0.2), careless).
		also("duct tape", "gaffer tape", "cable ties", "zip ties").gives("repair"),
	of("sewing-kit", "Sewing kit", "tools", 25, box(8, 5, 1.5), need(0.1), careless).
		also("needle and thread").as(Sharp).gives("repair"),
	of("cord", "Cord 10 m", "tools", 80, soft(0.3, 0.2, 1.5), need(0.3), wetFabric).
		also("string", "paracord", "accessory cord").cord(),
	of("spare-straps", "Spare straps", "tools", 70, soft(0.3, 0.25, 1.5), need(0.1), careless).
		also("webbing", "lashing straps", "straps"),
	of("mat-patch", "Mat patches", "tools", 20, flat(10, 7, 0.5), need(0.05), careless).
		also("patch kit").gives("repair"),
	of("saw", "Folding saw", "tools", 190, box(23, 5, 3), camp(0.5), careless).also("saw").as(Hard, Sharp),
	of("hatchet", "Hatchet in a sheath", "tools", 720, lump(34, 14, 4, 0.8), camp(0.5), careless).
		also("axe", "hatchet").as(Hard, Sharp),
	of("walking-poles", "Walking poles", "tools", 460, cylinder(6, 62), moving(1), careless).
		also("ski poles", "ski sticks", "trekking poles", "hiking poles", "walking sticks").on(Hand),
	of("rope", "Rope", "tools", 1400, soft(3.2, 2.2, 3), need(0.1), wetFabric).
		also("rope", "climbing rope", "confidence rope", "safety rope").cord().spread(0.35),
	of("carabiners", "Carabiners and slings", "tools", 260, lump(14, 12, 6, 0.5), need(0.1), careless).
		also("karabiner", "carabiner", "sling", "slings").as(Hard).pieces(4),
	of("harness", "Light harness", "tools", 320, soft(1.8, 1.2, 3), need(0.1), careless).
		also("climbing harness", "harness"),
	of("helmet", "Helmet", "tools", 260, vesselOf(26, 15, 3), moving(0.5), careless).
		also("climbing helmet", "helmet", "hard hat").as(Hard, MayHangOutside).holding(3),
	of("dry-bag", "Dry bag, empty", "tools", 60, soft(0.25, 0.15, 1), camp(1), careless).
		also("dry sack", "stuff sack", "roll bag").empty(13),
	of(KitBag, "Kit bag", "other", 25, soft(0.1, 0.05, 1), camp(0.1), careless).
		also("kit bag", "kitchen bag", "clothes bag", "food bag", "ditty bag", "toilet bag",
			"repair bag", "electronics bag", "night bag", "mesh bag", "pouch"),
	of("rain-cover", "Rain cover for the pack", "tools", 110, soft(0.6, 0.35, 2), moving(0.5).atOnce(), comesWet).
		also("pack cover", "rain cover", "raincover"),
}

var luxuries = []Kind{
	of("book", "Book", "other", 230, box(18, 11, 2.5), camp(1), paper).also("novel", "paperback", "field guide", "guide book").spread(0.35),
	of("notebook", "Notebook and pencil", "other", 110, box(15, 10, 1.2), camp(1), paper).
		also("diary", "journal", "sketchbook", "pencil", "pen"),
	of("chair", "Folding chair", "other", 950, lump(36, 12, 11, 3.4), camp(1), careless).
		also("camp chair", "chair").as(Hard, MayHangOutside).spread(0.35),
	of("cards", "Playing cards", "other", 95, box(9, 6.5, 2), camp(0.5), paper).also("card game", "game", "dice"),
	of("e-reader", "E-reader", "other", 190, box(17, 12, 1), camp(1), Water{Suffers: true}).
		also("ebook reader", "tablet").as(Electronic, Crushable),
	of("headphones", "Headphones", "other", 50, box(8, 7, 3), camp(1), Water{Suffers: true}).
		also("earphones", "ear buds").as(Electronic),
	of("instrument", "Small instrument", "other", 300, box(22, 8, 5), camp(1), paper).
		also("harmonica", "flute").spread(0.5),
	of("fishing-rod", "Travel fishing rod", "other", 380, cylinder(6, 60), camp(0.5), careless).
		also("rod", "fishing kit").as(MayHangOutside),
	of("packraft", "Packraft", "other", 2600, soft(13, 9.5, 6), halt(1), comesWet).
		also("raft", "inflatable boat", "pack raft").as(Crushable),
	of("paddle", "Paddle in four parts", "other", 950, lump(60, 18, 9, 3.5), halt(1), careless).
		also("paddle", "packraft paddle", "canoe paddle", "kayak paddle").as(Hard, MayHangOutside),
	of("buoyancy-vest", "Buoyancy vest", "other", 550, soft(9, 8, 6), halt(1), wetFabric).
		also("pfd", "life jacket", "life vest", "buoyancy aid").as(MayHangOutside),
	of("drysuit", "Drysuit", "clothing", 1100, soft(7, 5, 4), halt(1), wetFabric).also("dry suit", "wetsuit", "wet suit"),
	of("day-bag", "Folding day bag", "other", 130, soft(0.6, 0.4, 2), camp(0.3), careless).
		also("day pack", "folding pack", "small pack").empty(18),
	of("wallet", "Wallet and papers", "other", 120, box(11, 8, 2), need(0.5), paper).
		also("wallet", "money", "documents", "passport", "purse", "cash", "keys", "id card"),
}
