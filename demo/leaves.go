package demo

import "bractum/core/studio"

func wiredLeaf(name, form string, shape studio.Geometry, wire string, changes ...change) studio.Recipe {
	return made(
		studio.KindPart,
		name,
		form,
		steps(
			does("cut", "Roll over a ridge and cut", "shape", "shaping", 5, 0.5).look("A thick foot."),
			does("wire", "Wire", "wire", "wiring", 3, 0.9).look("Straight in, pinched.").caution(sharp),
			does(
				"vein",
				"Vein and curve",
				"shape",
				"shaping",
				2,
				0.3,
			).takesTool("Ribbed board").
				look("Veins on the side that is seen.").
				holds("Wavy foam", 30, "dry"),
			until("dry", "Dry on foam", "thin petal", 800, studio.Dry),
			does(
				"dust",
				"Dust both sides",
				"dust",
				"dusting",
				5,
				0.35,
			).coloured("leaf dust").
				look("Edges darker.").
				caution(dust),
		),
		append(
			[]change{
				of("cut", "leaf", shape, 20),
				of("dust", "leaf dust", studio.Weighed(10), 0),
				defaults("leaf", "Kelp green", "leaf dust", "Leaf dust"),
				on("wire", wire, 1, shape.Length/3, 50_000, 0, studio.HookStraight),
				spares(breakage(40)),
			},
			changes...)...)
}

// olive: narrow leaves, half of them turned the other way, on a twig with two fruits.
func olive() []studio.Recipe {
	leaf := wiredLeaf(
		"Olive leaf",
		"long leaf",
		studio.Sheet(38_000, 11_000, 700, 700),
		"28 green wire",
		func(r *studio.Recipe) {
			r.Forms = []studio.Form{{Name: "left", Share: 500}, {Name: "right", Share: 500}}
		},
	)
	fruit := made(
		studio.KindPart,
		"Olive fruit",
		"bead",
		steps(
			does(
				"roll",
				"Roll on hooked wires",
				"shape",
				"shaping",
				4,
				0.4,
			).caution(sharp).
				holds("Foam block", 80, "dry"),
			until("dry", "Dry upright", "solid core", 8_000, studio.Dry),
		),
		of(
			"roll",
			"fruit",
			studio.Ball(9_000),
			0,
		),
		defaults("fruit", "Rope plum"),
		on("roll", "28 green wire", 1, 5_000, 45_000, 4_000, studio.HookOpen),
	)
	sprig := made(
		studio.KindFlower,
		"Olive sprig",
		"sprig",
		steps(
			does(
				"tape",
				"Tape leaves and fruits to a twig",
				"assemble",
				"assembly",
				4,
				4,
			).look("Pairs opposite, turned.").
				caution(notFood),
		),
		takes(
			"tape",
			"Olive leaf",
			5,
			inForm("left"),
			joined(studio.JoinTaped),
			along(0, 18, 36, 54, 72),
		),
		takes("tape", "Olive leaf", 4, inForm("right"), joined(studio.JoinTaped), along(14, 32, 50, 68)),
		takes("tape", "Olive fruit", 2, joined(studio.JoinTaped), along(60, 80), least(0)),
		tape("tape", 220),
	)
	return []studio.Recipe{leaf, fruit, sprig}
}

// fern: one piece, no wire in the leaflets; bent while it gives.
func fern() []studio.Recipe {
	leaflet := made(
		studio.KindPart,
		"Fern leaflet",
		"long leaf",
		steps(does("cut", "Cut in strips of ten", "shape", "shaping", 3, 0.2).together(10).look("Clean edge.")),
		of(
			"cut",
			"leaf",
			studio.Sheet(20_000, 5_000, 500, 700),
			60,
		),
		defaults("leaf", "Kelp green"),
		func(r *studio.Recipe) { r.Yield = &studio.Yield{Step: "cut", Gives: 10} },
	)
	frond := made(
		studio.KindFlower,
		"Fern frond",
		"frond",
		steps(
			does(
				"lay",
				"Lay leaflets on a glued wire",
				"assemble",
				"assembly",
				4,
				3,
			).look("Pairs, shorter to the tip.").
				caution(sharp).
				holds("Drying rack", 10, "dry"),
			until("firm", "Until it holds", "thin petal", 900, studio.Firm),
			does(
				"bend",
				"Bend while it gives",
				"shape",
				"shaping",
				1,
				0.4,
			).look("A curl at the tip.").
				window(while(900)),
			until("dry", "Dry flat", "thin petal", 900, studio.Dry).by("On a rack"),
		),
		takes(
			"lay",
			"Fern leaflet",
			20,
			joined(studio.JoinWet),
			least(16),
			inRows(studio.SetLevel, 10, 10),
		),
		on("lay", "24 white wire", 1, 0, 140_000, 0, studio.HookStraight),
	)
	return []studio.Recipe{leaflet, frond}
}

// ivy: one leaf in three sizes, each a variant, smallest at the tip.
func ivy() []studio.Recipe {
	size := func(name string, across studio.Micrometres) studio.Variant {
		return studio.Variant{
			Name: name,
			Pastes: []studio.PasteInput{
				{Step: "cut", Slot: "leaf", Shape: studio.Sheet(across, across, 700, 620), Run: 20},
			},
		}
	}
	leaf := wiredLeaf(
		"Ivy leaf",
		"lobed leaf",
		studio.Sheet(30_000, 30_000, 700, 620),
		"26 white wire",
		variant(size("small", 20_000)),
		variant(size("large", 42_000)),
	)
	sprig := made(
		studio.KindFlower,
		"Ivy sprig",
		"sprig",
		steps(
			does(
				"tape",
				"Tape leaves to a trail",
				"assemble",
				"assembly",
				4,
				4,
			).look("Alternating, smallest at the tip.").
				caution(notFood, "Real ivy is poisonous: never rest real leaves on food because the sugar ones do."),
		),
		takes(
			"tape",
			"Ivy leaf",
			2,
			inVariant("small"),
			joined(studio.JoinTaped),
			along(0, 15),
		),
		takes("tape", "Ivy leaf", 3, joined(studio.JoinTaped), along(32, 50, 70)),
		takes("tape", "Ivy leaf", 2, inVariant("large"), joined(studio.JoinTaped), along(95, 120)),
		tape("tape", 260),
	)
	return []studio.Recipe{leaf, sprig}
}

// harbourSpray is everything together, for one place on a cake; fixed with icing.
func harbourSpray() []studio.Recipe {
	return []studio.Recipe{made(
		studio.KindSpray,
		"Harbour spray",
		"spray",
		steps(
			does(
				"tape",
				"Tape from the tip down",
				"assemble",
				"assembly",
				8,
				12,
			).look("Nothing in a line, nothing hiding the anemone.").
				caution(notFood),
			does("fix", "Fix pips with icing", "assemble", "assembly", 3, 1.5).look("Held until it grips."),
			rests("grip", "Let the icing set", 45),
		),
		takes(
			"tape",
			"Jasmine trail",
			2,
			joined(studio.JoinTaped),
			along(0, 40),
		),
		takes("tape", "Ivy sprig", 1, joined(studio.JoinTaped), along(30)),
		takes(
			"tape",
			"Gardenia",
			2,
			inVariant("bud"),
			joined(studio.JoinTaped),
			along(60, 80),
		),
		takes("tape", "Anemone", 1, joined(studio.JoinTaped), along(95)),
		takes(
			"tape",
			"Olive sprig",
			2,
			joined(studio.JoinTaped),
			along(110, 120),
		),
		takes("fix", "Lilac pip", 6, joined(studio.JoinIced), least(3)),
		of(
			"fix",
			"icing",
			studio.Weighed(400),
			0,
		),
		defaults("icing", "Royal icing"),
		on("tape", "18 green wire", 1, 0, 160_000, 0, studio.HookStraight),
		tape("tape", 500),
	)}
}
