package demo

import "bractum/core/studio"

// anemone: wired petals, dusted before and again after assembly, around a centre of
// thread that comes in twos and is dipped in pollen.
func anemone() []studio.Recipe {
	centre := made(
		studio.KindPart,
		"Anemone centre",
		"brush",
		steps(
			does(
				"wind",
				"Wind thread on a former",
				"wire",
				"wiring",
				4,
				1.4,
			).look("So many turns, a wire through.").
				caution("Thread wound on fingers stops the blood: use a former.", sharp),
			does("open", "Cut apart and open", "wire", "wiring", 1, 0.5).look("An even brush."),
			does(
				"dip",
				"Dip in pollen",
				"dust",
				"dusting",
				3,
				0.2,
			).look("Tips covered, no lumps.").
				caution("Maize and wheat are allergens: say so on the sheet.").
				window(studio.Window{AtLeast: 1}),
		),
		bought(
			"wind",
			"Brush thread, metres",
			2,
			1,
			"",
		),
		on("wind", "22 green wire", 1, 10_000, 90_000, 12_000, studio.HookClosed),
		of("dip", "pollen", studio.Weighed(90), 0),
		defaults("pollen", "Yolk pollen"),
		func(r *studio.Recipe) { r.Yield = &studio.Yield{Step: "wind", Gives: 2} },
	)
	petal := made(
		studio.KindPart,
		"Anemone petal",
		"petal",
		steps(
			does(
				"cut",
				"Roll over a ridge and cut",
				"shape",
				"shaping",
				6,
				0.7,
			).takesTool("Drop cutter 46 mm").
				look("A thick foot."),
			does("wire", "Wire", "wire", "wiring", 4, 1.3).look("Straight in, pinched.").caution(sharp, notFood),
			does(
				"vein",
				"Vein, both sides",
				"shape",
				"shaping",
				3,
				0.4,
			).takesTool("Large two-sided veiner").
				look("Visible, not through."),
			until("dry", "Dry in spoons", "thin petal", 700, studio.Dry).holds("Spoon tray", 20, "dry"),
			does(
				"dust",
				"Dust from the foot",
				"dust",
				"dusting",
				6,
				0.4,
			).coloured("dust").
				look("Fades out half way.").
				caution(dust),
		),
		of(
			"cut",
			"petal",
			driesTo(studio.Sheet(46_000, 34_000, 700, 760), 44_000),
			14,
		),
		of("dust", "dust", studio.Weighed(20), 0),
		on("wire", "26 white wire", 1, 15_000, 80_000, 0, studio.HookStraight),
		spares(breakage(70)),
		asked(
			"veining",
			"after wiring, both sides",
			studio.Variant{
				Name: "before cutting, one side",
				Steps: []studio.StepChange{
					instead(
						does("vein", "Vein on the ribbed board", "shape", "shaping", 3, 0.3).takesTool("Ribbed board"),
					),
				},
				Order: []string{"vein", "cut", "wire", "dry", "dust"},
			},
			studio.Variant{Name: "not at all", Without: []string{"vein"}},
		),
		asked(
			"wire depth",
			"a third",
			studio.Variant{
				Name:   "a few millimetres",
				Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 110},
				Wires: []studio.WireInput{
					{
						Step:     "wire",
						Material: ID("26 white wire"),
						Number:   1,
						Depth:    6_000,
						Stem:     80_000,
						Hook:     studio.HookStraight,
					},
				},
			},
			studio.Variant{
				Name: "a half",
				Wires: []studio.WireInput{
					{
						Step:     "wire",
						Material: ID("26 white wire"),
						Number:   1,
						Depth:    23_000,
						Stem:     80_000,
						Hook:     studio.HookStraight,
					},
				},
			},
			studio.Variant{Name: "two thirds", Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 90},
				Wires: []studio.WireInput{
					{
						Step:     "wire",
						Material: ID("26 white wire"),
						Number:   1,
						Depth:    30_000,
						Stem:     80_000,
						Hook:     studio.HookStraight,
					},
				}},
		),
		asked(
			"colour",
			"dusted dry",
			studio.Variant{Name: "painted in coats, soft", Without: []string{"dust"}, Steps: []studio.StepChange{
				after(
					"vein",
					does(
						"coat 1",
						"Paint the first coat",
						"dust",
						"dusting",
						5,
						0.5,
					).look("Thin.").
						caution("Alcohol burns: no oven, flame or hot glue near it until it has gone off."),
				),
				after(
					"coat 1",
					rests("flash", "Let it go off", 2),
				), after("flash", does("coat 2", "Paint the second coat", "dust", "dusting", 2, 0.4).look("Even."))}},
		),
	)
	flower := made(
		studio.KindFlower,
		"Anemone",
		"wired",
		steps(
			does(
				"tape",
				"Tape petals to the centre",
				"assemble",
				"assembly",
				6,
				6,
			).look("Into the gaps of the row before.").
				caution(notFood),
			does(
				"again",
				"Dust again",
				"dust",
				"dusting",
				4,
				1,
			).coloured("dust").
				look("Where petals meet.").
				caution(dust),
			does(
				"steam",
				"Steam",
				"steam",
				"dusting",
				4,
				0.4,
			).takesTool("Steamer").
				look("Two or three seconds.").
				caution(steam),
			rests("after", "Dry after steam", 45),
		),
		takes(
			"tape",
			"Anemone centre",
			1,
		),
		takes(
			"tape",
			"Anemone petal",
			8,
			inRows(studio.SetAlternating, 4, 4),
			joined(studio.JoinTaped),
			between(7, 9),
		),
		of("again", "dust", studio.Weighed(30), 0),
		tape("tape", 240),
	)
	return []studio.Recipe{centre, petal, flower}
}

// cosmos: wafer paper, punched in stacks, damped and cupped, on fine stamens; scraps
// become the glue of the next day.
func cosmos() []studio.Recipe {
	layer := made(studio.KindPart, "Cosmos layer", "notched ring", steps(
		does(
			"punch",
			"Punch in stacks",
			"shape",
			"shaping",
			4,
			0.6,
		).together(6).
			takesTool("Paper punch").
			look("Smooth side up; six sheets and no more."),
		does("snip", "Snip the tips", "shape", "shaping", 1, 0.1).ofForm("snipped").look("Three notches."),
		does("cup", "Damp and cup", "shape", "shaping", 3, 0.35).look("Damp, not wet; opposite ways."),
		rests("dry", "Let it dry", 20).holds("Drying rack", 40, "dry"),
	),
		bought("punch", "Wafer sheet", 1, 16, ""), spares(breakage(40)),
		func(r *studio.Recipe) {
			r.Byproducts = []studio.Byproduct{{Material: ID("Wafer scraps"), Amount: 220}}
			r.Forms = []studio.Form{{Name: "snipped", Share: 500}, {Name: "plain", Share: 500}}
		}, of("cup", "petal", studio.Sheet(62_000, 62_000, 50, 300), 0))
	flower := made(
		studio.KindFlower,
		"Cosmos",
		"blossom",
		steps(
			does(
				"wire",
				"Bundle stamens on a hooked wire",
				"wire",
				"wiring",
				4,
				0.9,
			).look("Level.").
				caution(sharp, notFood),
			does(
				"thread",
				"Thread and glue the layers",
				"assemble",
				"assembly",
				4,
				2.4,
			).look("Over the gaps.").
				caution("Wheat: wafer paper may hold it, as its label says."),
			rests("set", "Let the glue set", 60).wished(studio.Wish{Minutes: 180}).holds("Foam block", 30, "set"),
			does("dust", "Dust the heart", "dust", "dusting", 4, 0.6).coloured("dust").caution(dust),
		),
		takes(
			"thread",
			"Cosmos layer",
			2,
			inForm("snipped"),
			joined(studio.JoinThreaded),
			inRows(studio.SetOverGaps, 1, 1),
		),
		takes(
			"thread",
			"Cosmos layer",
			1,
			inForm("plain"),
			joined(studio.JoinThreaded),
			func(p *studio.PartInput) { p.Set = studio.SetOverGaps },
		),
		bought("wire", "Fine stamens", 4, 1, ""),
		on("wire", "28 green wire", 1, 0, 100_000, 6_000, studio.HookClosed),
		of(
			"thread",
			"glue",
			studio.Weighed(150),
			0,
		),
		defaults("glue", "Wafer glue"),
		of("dust", "dust", studio.Weighed(12), 0),
	)
	return []studio.Recipe{layer, flower}
}

// lisianthus: flattened cones, each clad, bunched while they still give, gaps filled
// with frills by eye. Of quick paste.
func lisianthus() []studio.Recipe {
	clad := made(
		studio.KindPart,
		"Lisianthus cone, clad",
		"bud",
		steps(
			does(
				"flatten",
				"Flatten a cone on a wire",
				"shape",
				"shaping",
				6,
				0.7,
			).look("A flat foot.").
				caution(sharp).
				holdsNext("Foam block", 24, "bunch"),
			until("set", "Set a little", "thin petal", 2_000, studio.Firm).madeOf("quick petal"),
			does("clad", "Clad with a petal", "shape", "shaping", 3, 1).look("Wrapped, edge loose.").mends(0.5),
		),
		of(
			"flatten",
			"quick petal",
			studio.Ball(11_000),
			0,
		),
		of("clad", "petal", studio.Sheet(40_000, 36_000, 600, 785), 12),
		defaults("quick petal", "Quick white"),
		on("flatten", "24 white wire", 1, 9_000, 90_000, 6_000, studio.HookOpen),
	)
	frill := made(
		studio.KindPart,
		"Lisianthus frill",
		"frilled petal",
		steps(
			does(
				"frill",
				"Cut and frill",
				"shape",
				"shaping",
				4,
				0.5,
			).look("Fine, not torn.").
				holds("Soft sleeve", 30, "frill"),
		),
		of("frill", "petal", studio.Sheet(34_000, 30_000, 600, 785), 18),
	)
	flower := made(
		studio.KindFlower,
		"Lisianthus",
		"layered",
		steps(
			does("bunch", "Bunch the cones", "assemble", "assembly", 5, 5).look("No gap shows: they still give."),
			does("fill", "Fill with frills", "assemble", "assembly", 3, 4).look("By eye; more where a gap shows."),
			until(
				"dry",
				"Hang to dry",
				"built flower",
				3_000,
				studio.Dry,
			).by("Hanging").
				holds("Hanging rail", 14, "dry"),
		),
		takes(
			"bunch",
			"Lisianthus cone, clad",
			4,
			joined(studio.JoinTaped),
			fresh(
				studio.Window{
					From:   studio.Firm,
					Before: studio.Stiff,
					Drying: studio.Drying{Class: ID("thin petal"), Thickness: 2_000, Slot: "quick petal"},
				},
			),
		),
		takes("fill", "Lisianthus frill", 9, least(5), joined(studio.JoinGlued)),
	)
	return []studio.Recipe{clad, frill, flower}
}

// dogwood: four poured lace bracts with the wire laid in, in two coats, around a
// cluster of beads.
func dogwood() []studio.Recipe {
	bract := made(
		studio.KindPart,
		"Dogwood bract",
		"heart petal",
		steps(
			does(
				"pour",
				"Spread the first coat, lay the wire in",
				"shape",
				"shaping",
				10,
				0.8,
			).look("Level with the mat, right side down.").
				caution(sharp).
				holds("Lace mat", 12, "release"),
			rests("bake", "Low oven", 18).load("Oven", "lowest", 24),
			does(
				"second",
				"Spread the second coat",
				"shape",
				"shaping",
				4,
				0.5,
			).look("The wire is covered.").
				caution("Ovens burn: the mat is hot."),
			until("air", "Dry in the air", "thin petal", 1_200, studio.Dry).look("Flexible when done, not sticky."),
			does(
				"release",
				"Release from the mat",
				"shape",
				"shaping",
				2,
				0.3,
			).look("It peels off whole, right side up."),
		),
		of(
			"pour",
			"lace",
			studio.Weighed(520),
			24,
		),
		of("second", "lace", studio.Weighed(430), 24),
		defaults("lace", "Lace mix"),
		on("pour", "28 green wire", 1, 32_000, 60_000, 0, studio.HookStraight),
		spares(breakage(80)),
		variant(
			studio.Variant{Name: "flat", Wires: []studio.WireInput{{Step: "pour", Material: ID("28 green wire")}}},
		),
	)
	bead := made(
		studio.KindPart,
		"Dogwood bead",
		"bead",
		steps(does("roll", "Roll tiny beads", "shape", "shaping", 2, 0.06)),
		of("roll", "leaf", studio.Ball(2_500), 0),
		defaults("leaf", "Kelp green"),
	)
	flower := made(
		studio.KindFlower,
		"Dogwood",
		"wired",
		steps(
			does(
				"cluster",
				"Cluster beads on a hooked wire",
				"assemble",
				"assembly",
				4,
				1.8,
			).look("A round button.").
				caution(sharp),
			rests("grip", "Let it grip", 40),
			does(
				"tape",
				"Tape the bracts",
				"assemble",
				"assembly",
				4,
				3,
			).look("Two and two, crossed; right side up.").
				caution(notFood),
		),
		takes(
			"cluster",
			"Dogwood bead",
			14,
			least(10),
			joined(studio.JoinWet),
		),
		takes("tape", "Dogwood bract", 4, joined(studio.JoinTaped), inRows(studio.SetOverGaps, 2, 2)),
		on("cluster", "26 white wire", 1, 0, 80_000, 8_000, studio.HookTapeWound),
		func(r *studio.Recipe) {
			r.Wires[0].Turns = 3
			r.Silenced = []studio.Silence{
				{Rule: "wire", Reason: "It is taped short into sprays, never held by its whole stem."},
			}
		},
		tape("tape", 160),
	)
	return []studio.Recipe{bract, bead, flower}
}
