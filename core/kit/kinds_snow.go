package kit

// What snow, children and parties add. All figures are our estimates of what is usual.

var snow = []Kind{
	of("avalanche-shovel", "Avalanche shovel", "winter", 650, box(46, 24, 6), need(0.05).atOnce(), careless).
		also("snow shovel", "shovel").as(Hard, Rescue).gives("rescue").spread(0.15),
	of("avalanche-probe", "Avalanche probe", "winter", 280, cylinder(5, 42), need(0.05).atOnce(), careless).
		also("probe").as(Rescue).gives("rescue").spread(0.12),
	of("transceiver", "Avalanche transceiver", "winter", 220, box(12, 8, 3), need(0.05).atOnce(), circuits).
		also("beacon for avalanches", "avalanche beacon", "lvs").as(Electronic, Rescue).gives("rescue").spread(0.15).on(Worn),
	of("ice-axe", "Ice axe", "winter", 480, lump(58, 26, 5, 1.2), moving(0.5), careless).
		also("axe for ice", "ice ax").as(Hard, Sharp, MayHangOutside),
	of("crampons", "Crampons in a bag", "winter", 850, lump(29, 15, 11, 2.6), moving(0.5), comesWet).
		also("crampons").as(Hard, Sharp),
	of("light-crampons", "Light spikes", "winter", 380, lump(20, 12, 7, 1.1), moving(0.5), comesWet).
		also("micro spikes", "grip spikes", "ice grips").as(Hard, Sharp),
	of("snowshoes", "Snowshoes", "winter", 1900, lump(60, 22, 14, 7), moving(0.5), comesWet).
		also("snow shoes").as(Hard, MayHangOutside),
	of("ski-skins", "Climbing skins", "winter", 560, soft(3, 2.2, 3), moving(2), wetFabric).also("skins", "ski skins"),
	of("ski-crampons", "Ski crampons", "winter", 240, lump(14, 11, 6, 0.6), moving(0.3), comesWet).
		also("harscheisen", "ski irons").as(Hard, Sharp),
	of("goggles", "Goggles", "winter", 160, lump(19, 10, 9, 1), moving(1), careless).
		also("ski goggles", "snow goggles").as(Crushable),
	of("skis", "Touring skis", "winter", 2900, lump(172, 14, 12, 9), moving(1), comesWet).
		also("skis", "ski").as(Hard, MayHangOutside).spread(0.2).on(Hand),
	of("ski-boots", "Ski boots", "winter", 2700, lump(33, 28, 24, 12), moving(0.1), comesWet).
		also("touring boots").as(Hard).on(Worn),
	of("snow-saw", "Snow saw", "winter", 200, flat(40, 9, 2), need(0.1), careless).also("snow saw").as(Sharp),
	of("air-bag-set", "Avalanche airbag set", "winter", 1250, lump(28, 22, 12, 4.5), need(0.05).atOnce(), careless).
		also("airbag", "air bag").as(Rescue).gives("rescue"),
	of("wax-kit", "Ski wax and scraper", "winter", 90, box(9, 6, 4), halt(0.3), careless).
		also("ski wax", "wax", "skin wax").as(Scented),
	of("ski-repair-kit", "Ski repair kit", "winter", 260, box(16, 10, 5), need(0.1), careless).
		also("binding tool", "ski tools").as(Hard, Sharp).gives("repair"),
	of("pulk-rope", "Drag rope for a sledge", "winter", 420, soft(1.4, 1, 3), need(0.2), wetFabric).
		also("sledge rope", "pulk rope"),
	of("heat-packs", "Hand warmers", "winter", 110, box(12, 9, 2), need(0.3), careless).
		also("heat pads", "hand warmer", "hot water bottle"),
	of("rescue-sledge", "Rescue sledge sheet", "winter", 900, soft(4, 2.8, 4), need(0.05), comesWet).
		also("drag sheet", "rescue sled").as(Rescue),
	of("group-shelter", "Group shelter", "winter", 520, soft(3.2, 2, 3), need(0.1).atOnce(), comesWet).
		also("bothy bag", "storm shelter", "emergency shelter").gives("shelter"),
}

var children = []Kind{
	of("child-sleeping-bag", "Child's sleeping bag", "sleep", 750, soft(9, 5, 4), camp(1), dryFabric).
		also("kid's sleeping bag", "kids bag").gives("warmth").forChild(),
	of("child-mat", "Child's foam mat", "sleep", 220, cylinder(12, 40), camp(1), careless).
		also("short foam mat", "kids mat").as(Foam, MayHangOutside).gives("insulation").forChild(),
	of("soft-toy", "Soft toy", "other", 120, soft(1, 0.5, 3), camp(1), dryFabric).
		also("teddy", "teddy bear", "cuddly toy", "stuffed animal").forChild(),
	of("child-rain-suit", "Child's rain suit", "clothing", 350, soft(2.2, 1.4, 2), moving(1).atOnce(), rainproof).
		also("kids rain suit", "mud suit").gives("rain").forChild(),
	of("child-clothes", "Child's spare clothes", "clothing", 420, soft(2.8, 1.8, 2), camp(1), dryFabric).
		also("kids clothes").forChild().spread(0.4),
	of("child-bottle", "Child's bottle 0.5 L, full", "water", 590, cylinder(7, 19), moving(8), Water{Case: "IPX7"}).
		also("kids bottle").gives("water").usedUp("water").holding(0.5).forChild(),
	of("magnifier", "Magnifying glass", "other", 60, box(10, 6, 2), halt(1), careless).also("hand lens").forChild(),
	of("nappies", "Nappies for a day", "care", 320, soft(3, 2, 3), halt(5), paper).also("diapers", "nappy").forChild(),
	of("child-lamp", "Child's headlamp", "light", 60, box(6, 5, 4), arrival(2), circuits).
		also("kids torch").as(Electronic).gives("light").forChild(),
}

var parties = []Kind{
	of("group-tarp", "Group tarp", "shelter", 1100, soft(5.5, 3.6, 3), arrival(1), wetFabric).
		also("large tarp", "mess tarp").gives("shelter").spreadOut(20),
	of("leader-notes", "Route and party notes", "navigation", 120, flat(23, 16, 1), halt(2), paper).
		also("route card", "party list"),
	of("party-pots", "Set of two pots", "kitchen", 560, vesselOf(20, 14, 3.4), camp(2), careless).
		also("pot set", "cook set").as(Hard).holding(3.4),
	of("gas-lantern", "Gas lantern", "light", 380, lump(15, 11, 11, 1.2), camp(1), careless).
		also("camp light").as(Crushable, Fuel),
	of("throw-line", "Throw line 15 m", "tools", 420, soft(1.6, 1.2, 3), need(0.1).atOnce(), wetFabric).
		also("throw bag", "throw rope"),
	of("tow-tape", "Long sling 4 m", "tools", 160, soft(0.5, 0.35, 2), need(0.1), careless).
		also("tape sling", "tow line"),
	of("flares", "Signal flares", "aid", 210, cylinder(5, 16), need(0.02), paper).
		also("flares", "smoke signal").as(Fuel).gives("signal"),
	of("hand-spade", "Folding spade", "tools", 850, lump(25, 16, 6, 1.3), camp(0.5), careless).
		also("spade", "latrine spade").as(Hard, Sharp),
	of("first-aid-manual", "First aid booklet", "aid", 70, box(15, 10, 0.7), need(0.05), paper).also("aid manual"),
}
