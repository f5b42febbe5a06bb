package demo

import "bractum/core/studio"

// gardenia: unwired petals in interleaved rows on a dry cone, in three shades; a bud is
// the same flower stopped early.
func gardenia() []studio.Recipe {
	petal := func(name string, shape studio.Geometry, cutter string) studio.Recipe {
		return made(studio.KindPart, name, "round petal", steps(
			does(
				"cut",
				"Roll and cut",
				"shape",
				"shaping",
				6,
				0.3,
			).takesTool(cutter).
				stint("petals", 15).
				look("Light passes through."),
			does(
				"thin",
				"Thin the edge",
				"shape",
				"shaping",
				0,
				0.25,
			).stint("petals", 15).
				look("Half on, half off the pad."),
			does(
				"nick",
				"Nick the tip",
				"shape",
				"shaping",
				0,
				0.1,
			).stint("petals", 15).
				share(350).
				look("Only some: no two alike."),
			rests("spoon", "Pre-set in spoons", 8).holds("Spoon tray", 40, "spoon").wished(studio.Wish{Minutes: 15}),
		),
			of("cut", "petal", shape, 15), spares(breakage(50)), func(r *studio.Recipe) { r.SecondsServe = true })
	}
	flower := made(
		studio.KindFlower,
		"Gardenia",
		"layered",
		steps(
			does(
				"heart",
				"Wrap the heart",
				"assemble",
				"assembly",
				6,
				5,
			).look("Spiral closed, the cone hidden.").
				mends(2),
			rests("grip", "Let it grip", 15).holds("Hanging rail", 14, "grip"),
			does(
				"rows",
				"Glue the rows",
				"assemble",
				"assembly",
				4,
				9,
			).look("Each over the gaps of the last, films between."),
			until("half", "Half dry", "built flower", 3_000, studio.Firm).holds("Cone former", 1, "half"),
			does(
				"dust",
				"Dust while it gives a little",
				"dust",
				"dusting",
				6,
				2,
			).coloured("dust").
				look("A breath of colour at the heart.").
				caution(dust).
				window(studio.Window{After: "rows", Before: studio.Dry, Drying: studio.Drying{Class: ID("built flower"), Thickness: 3_000}}),
			until(
				"dry",
				"Hang to dry",
				"built flower",
				3_000,
				studio.Dry,
			).by("Hanging").
				since("half").
				holds("Hanging rail", 14, "dry"),
			does(
				"calyx",
				"Take out the films, glue on the calyx",
				"assemble",
				"assembly",
				3,
				1.5,
			).look("As many films out as went in. Points to the stem."),
		),
		takes(
			"heart",
			"Gardenia cone",
			1,
		),
		takes("heart", "Gardenia petal, small", 3, joined(studio.JoinWet), shade("petal", "inner petal")),
		takes(
			"rows",
			"Gardenia petal, middle",
			5,
			joined(studio.JoinGlued),
			inRows(studio.SetOverGaps, 5),
			fresh(while(700)),
		),
		takes(
			"rows",
			"Gardenia petal, large",
			6,
			joined(studio.JoinGlued),
			inRows(studio.SetOverGaps, 6, 6),
			fresh(while(700)),
		),
		takes("calyx", "Gardenia calyx", 1, joined(studio.JoinGlued)),
		of("dust", "dust", studio.Weighed(60), 0),
		bought("rows", "Film squares", 6, 1, "calyx"),
		variant(studio.Variant{Name: "bud", StopAfter: "grip"}),
		asked(
			"glue",
			"water on soft, CMC glue on half dry",
			studio.Variant{
				Name: "egg white",
				Steps: []studio.StepChange{
					instead(does("rows", "Glue the rows with egg white", "assemble", "assembly", 6, 8.5).
						look("Each over the gaps of the last, films between.").
						caution("Egg white is an allergen; raw egg carries a risk. Dried pasteurised white, or CMC glue instead."),
					),
				},
				Materials: []studio.MaterialInput{{Step: "rows", Material: ID("Dried egg white"), Amount: 120}},
			},
			studio.Variant{
				Name:  "dissolved paste",
				Steps: []studio.StepChange{after("rows", rests("hold still", "Let the glue take", 10))},
			},
		),
		asked(
			"drying",
			"hanging",
			studio.Variant{
				Name: "on a rack",
				Steps: []studio.StepChange{
					instead(
						until(
							"dry",
							"Dry on a rack",
							"built flower",
							3_000,
							studio.Dry,
						).by("On a rack").
							holds("Drying rack", 8, "dry"),
					),
				},
			},
		),
	)
	return []studio.Recipe{
		cone("Gardenia cone", studio.Rope(15_000, 27_000), "18 green wire", 12_000),
		petal("Gardenia petal, small", studio.Sheet(36_000, 32_000, 700, 785), "Drop cutter 36 mm"),
		petal("Gardenia petal, middle", driesTo(studio.Sheet(46_000, 40_000, 700, 785), 44_000), "Drop cutter 46 mm"),
		petal("Gardenia petal, large", studio.Sheet(58_000, 50_000, 700, 785), "Drop cutter 58 mm"),
		calyx("Gardenia calyx", 26_000), flower,
	}
}

// cone is a hard centre, made ahead and kept in stock in white.
func cone(name string, shape studio.Geometry, wire string, thickness studio.Micrometres) studio.Recipe {
	return made(
		studio.KindPart,
		name,
		"cone",
		steps(
			does(
				"form",
				"Form on hooked wires",
				"shape",
				"shaping",
				10,
				1.8,
			).look("Three quarters of its petal; centred, does not turn.").
				caution(sharp).
				holds("Foam block", 10, "dry"),
			until("dry", "Dry upright", "solid core", thickness, studio.Dry).look("Hard, no cool feel."),
		),
		of(
			"form",
			"core",
			shape,
			0,
		),
		defaults("core", "Centre white"),
		on("form", wire, 1, 14_000, 110_000, 8_000, studio.HookOpen),
		spares(breakage(20)),
		func(r *studio.Recipe) { r.SecondsServe = true },
		asked(
			"hook",
			"open",
			studio.Variant{Name: "squeezed shut", Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 30},
				Wires: []studio.WireInput{
					{
						Step:      "form",
						Material:  ID(wire),
						Number:    1,
						Depth:     14_000,
						Stem:      110_000,
						Allowance: 6_000,
						Hook:      studio.HookClosed,
					},
				}},
			studio.Variant{
				Name:   "wound with tape",
				Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 10},
				Steps: []studio.StepChange{
					after(
						"",
						does(
							"wind",
							"Wind tape, hook, wind again",
							"wire",
							"wiring",
							4,
							1.1,
						).look("A small bud that the paste sits on.").
							caution(sharp),
					),
				},
				Wires: []studio.WireInput{
					{
						Step:      "form",
						Material:  ID(wire),
						Number:    1,
						Depth:     14_000,
						Stem:      110_000,
						Allowance: 10_000,
						Hook:      studio.HookTapeWound,
						Turns:     4,
					},
				},
				Materials: []studio.MaterialInput{
					{Step: "form", Material: ID("Half-width green tape"), Amount: 60_000},
				},
			},
			studio.Variant{
				Name:   "straight and glued",
				Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 60},
				Wires: []studio.WireInput{
					{
						Step:     "form",
						Material: ID(wire),
						Number:   1,
						Depth:    16_000,
						Stem:     110_000,
						Hook:     studio.HookStraight,
					},
				},
			},
		),
		asked(
			"drying of centres",
			"in the air",
			studio.Variant{Name: "dehydrator", Without: []string{"dry"}, Steps: []studio.StepChange{
				instead(
					does(
						"form",
						"Form on hooked wires",
						"shape",
						"shaping",
						10,
						1.8,
					).look("Three quarters of its petal; centred, does not turn.").
						caution(sharp),
				),
				after(
					"form",
					does(
						"load",
						"Load the dehydrator",
						"shape",
						"shaping",
						2,
						0.1,
					).caution("Dehydrators burn; no foam and no glued cores inside."),
				),
				after(
					"load",
					rests("warm", "Dehydrator", 70).load("Dehydrator", "48 °C", 40),
				), after("warm", rests("cool", "Cool and harden", 20))}},
		),
		asked(
			"stay soft or dry fast",
			"as mixed",
			studio.Variant{
				Name: "CMC added",
				Pastes: []studio.PasteInput{
					{Step: "form", Slot: "quick core", Shape: shape},
					{Step: "form", Slot: "core"},
				},
				Steps: []studio.StepChange{
					instead(
						until(
							"dry",
							"Dry upright",
							"solid core",
							thickness,
							studio.Dry,
						).madeOf("quick core").
							look("Hard, no cool feel."),
					),
				},
			},
		),
		defaults("quick core", "Quick white"),
	)
}

func calyx(name string, across studio.Micrometres) studio.Recipe {
	return made(
		studio.KindPart,
		name,
		"calyx",
		steps(
			does(
				"cut",
				"Roll thinner than petals and cut",
				"shape",
				"shaping",
				4,
				0.3,
			).look("Thinner than the petals."),
		),
		of("cut", "leaf", studio.Sheet(across, across, 450, 450), 24),
		defaults("leaf", "Slate leaf"),
	)
}

// camellia: built outside-in in a former from one-piece layers, with small discs; the
// stamens are slotted in last; fixed with icing.
func camellia() []studio.Recipe {
	layer := func(size string, across studio.Micrometres, run int64) studio.Recipe {
		return made(studio.KindPart, "Camellia layer, "+size, "daisy", steps(
			does(
				"cut",
				"Roll and cut a ring",
				"shape",
				"shaping",
				5,
				0.8,
			).look("One piece, five lobes.").
				holdsNext("Half-sphere mould 60 mm", 1, "lay"),
			does(
				"soften",
				"Soften and overlap the lobes",
				"shape",
				"shaping",
				2,
				0.9,
			).look("In the order 1, 3, 5, 2, 4."),
			until("shape", "Keep its shape", "thin petal", 700, studio.Firm).holds("Cone former", 1, "shape"),
		),
			of("cut", "petal", studio.Sheet(across, across, 700, 520), run), spares(breakage(60)))
	}
	disc := made(
		studio.KindPart,
		"Camellia disc",
		"disc",
		steps(does("cut", "Cut small discs", "shape", "shaping", 2, 0.05)),
		of(
			"cut",
			"petal",
			studio.Sheet(9_000, 9_000, 1_500, 785),
			60,
		),
		spares(studio.Spares{Rule: studio.SparesByNumber, Number: 2}),
	)
	heart := made(studio.KindPart, "Camellia stamens", "brush", steps(
		does("trim", "Trim to length", "shape", "shaping", 3, 0.1).together(10).look("All of one length."),
		does("pen", "Colour the tips with a pen", "dust", "dusting", 2, 0.12).look("Tips only.")),
		bought("trim", "Long stamens", 1, 1, ""), spares(studio.Spares{Rule: studio.SparesByNumber, Number: 4}),
		func(r *studio.Recipe) { r.Yield = &studio.Yield{Step: "trim", Gives: 2} })
	flower := made(
		studio.KindFlower,
		"Camellia",
		"layered",
		steps(
			does(
				"lay",
				"Lay the layers, outermost first",
				"assemble",
				"assembly",
				6,
				7,
			).look("A disc between layers; shaped and still bending.").
				holds("Half-sphere mould 90 mm", 1, "dry"),
			does(
				"ice",
				"Pipe the seat",
				"assemble",
				"assembly",
				4,
				0.8,
			).look("A small peak in the middle.").
				mends(0.5),
			does(
				"stand",
				"Slot in the stamens",
				"assemble",
				"assembly",
				2,
				3.5,
			).look("Upright, a little uneven.").
				window(studio.Window{After: "ice", AtMost: ref(studio.Minute(60))}),
			until(
				"dry",
				"Dry in its former",
				"built flower",
				4_000,
				studio.Dry,
			).look("Hard all through before it is lifted."),
			does("dust", "Dust", "dust", "dusting", 6, 2).coloured("dust").caution(dust).look("Deepest at the heart."),
		),
		takes(
			"lay",
			"Camellia layer, large",
			2,
			fresh(studio.Window{From: studio.Firm, Before: studio.Dry, Drying: thin(700)}),
			joined(studio.JoinGlued),
			inRows(studio.SetOverGaps, 1, 1),
		),
		takes(
			"lay",
			"Camellia layer, small",
			2,
			fresh(studio.Window{From: studio.Firm, Before: studio.Dry, Drying: thin(700)}),
			joined(studio.JoinGlued),
			shade("petal", "inner petal"),
			func(p *studio.PartInput) { p.Sequence = []int64{1, 3, 5, 2, 4} },
		),
		takes(
			"lay",
			"Camellia disc",
			3,
		),
		takes("stand", "Camellia stamens", 24, least(18), joined(studio.JoinSlotted)),
		of(
			"ice",
			"icing",
			studio.Weighed(900),
			0,
		),
		of("dust", "dust", studio.Weighed(110), 0),
		defaults("icing", "Royal icing"),
		func(r *studio.Recipe) { r.Build = studio.OutsideIn },
		asked(
			"direction",
			"outside-in",
			studio.Variant{
				Name: "inside-out",
				Steps: []studio.StepChange{
					instead(does("lay", "Close the layers, innermost first", "assemble", "assembly", 6, 8.5).
						look("Each over the gaps of the last.")),
				},
				Order: nil,
			},
		),
	)
	return []studio.Recipe{layer("large", 82_000, 6), layer("small", 62_000, 8), disc, heart, flower}
}
