package demo

import "bractum/core/studio"

// dahlia: a matrix of four petal sizes in many rows, the last reversed, on a half ball,
// hanging between layers; the cup it rests in is made of foil first.
func dahlia() []studio.Recipe {
	petal := func(size, cutter string, shape studio.Geometry) studio.Recipe {
		return made(
			studio.KindPart,
			"Dahlia petal, "+size,
			"pointed petal",
			steps(
				does(
					"cut",
					"Roll and cut",
					"shape",
					"shaping",
					5,
					0.25,
				).takesTool(cutter).
					look("Clean edge; keep the rest in the sleeve.").
					holds("Soft sleeve", 30, "cup"),
				does(
					"cup",
					"Cup when the edge is firm",
					"shape",
					"shaping",
					2,
					0.3,
				).ofForm("cupped").
					look("Gutter down the middle, tip pinched.").
					window(studio.Window{AtLeast: 3, AtMost: ref(studio.Minute(180))}),
				does(
					"fold",
					"Turn the rest back",
					"shape",
					"shaping",
					1,
					0.2,
				).ofForm("turned back").
					look("As if it had opened."),
			),
			of("cut", "petal", shape, 30),
			spares(studio.Spares{Rule: studio.SparesByPercent, Percent: 12}),
			func(r *studio.Recipe) {
				r.Forms = []studio.Form{{Name: "cupped", Share: 800}, {Name: "turned back", Share: 200}}
				r.SecondsServe = true
			},
			asked(
				"spares",
				"a percentage",
				studio.Variant{Name: "a fixed number", Spares: &studio.Spares{Rule: studio.SparesByNumber, Number: 3}},
				studio.Variant{
					Name:   "from recorded breakage",
					Spares: &studio.Spares{Rule: studio.SparesByBreakage, Breakage: 60},
				},
			),
			asked("runs or phases", "everything cut first", studio.Variant{Name: "in runs", Steps: []studio.StepChange{
				instead(
					does(
						"cut",
						"Roll and cut",
						"shape",
						"shaping",
						5,
						0.25,
					).takesTool(cutter).
						stint("run", 18).
						look("Only as many as can be cupped before the first stiffens."),
				),
				instead(
					does(
						"cup",
						"Cup when the edge is firm",
						"shape",
						"shaping",
						2,
						0.3,
					).stint("run", 18).
						ofForm("cupped").
						look("Gutter down the middle, tip pinched."),
				)}}),
		)
	}
	core := made(
		studio.KindPart,
		"Dahlia core",
		"ball",
		steps(
			does(
				"halve",
				"Halve foam balls",
				"shape",
				"shaping",
				3,
				0.2,
			).look("Two even halves.").
				caution("Sharp blade. Foam is not food."),
			does(
				"fix",
				"Glue on two wires",
				"wire",
				"wiring",
				6,
				1.2,
			).also("assembly").
				look("It does not turn.").
				caution(sharp, "Hot glue burns.").
				holds("Foam block", 12, "cool"),
			rests("cool", "Let the glue cool", 20),
		),
		bought(
			"halve",
			"Foam ball 25 mm",
			1,
			1,
			"",
		),
		on("fix", "18 green wire", 2, 12_000, 150_000, 10_000, studio.HookClosed),
		func(r *studio.Recipe) { r.Yield, r.LeastPerLot = &studio.Yield{Step: "halve", Gives: 2}, 2 },
	)
	cup := made(
		studio.KindPart,
		"Foil cup, shaped",
		"former",
		steps(
			does(
				"shape",
				"Press foil over a ball",
				"shape",
				"shaping",
				2,
				0.8,
			).look("Smooth inside, a hole for the stem."),
		),
		bought("shape", "Foil square", 1, 1, ""),
		spares(studio.Spares{Rule: studio.SparesNone}),
	)
	flower := made(
		studio.KindFlower,
		"Dahlia",
		"layered",
		steps(
			does("inner", "Glue the inner rows", "assemble", "assembly", 6, 9).look("Tight, tips level."),
			until(
				"hang 1",
				"Hang to hold",
				"built flower",
				2_500,
				studio.Firm,
			).by("Hanging").
				holds("Hanging rail", 10, "hang 1"),
			does(
				"middle",
				"Glue the middle rows",
				"assemble",
				"assembly",
				4,
				11,
			).look("Each over the gaps of the last."),
			until(
				"hang 2",
				"Hang to hold",
				"built flower",
				3_000,
				studio.Firm,
			).by("Hanging").
				holds("Hanging rail", 8, "hang 2"),
			does(
				"outer",
				"Glue the outer rows, strips between",
				"assemble",
				"assembly",
				4,
				13,
			).look("The last row turned the other way.").
				holds("Foil cup", 1, "dry"),
			until(
				"dry",
				"Dry upright in its cup",
				"built flower",
				3_500,
				studio.Dry,
			).wished(studio.Wish{State: studio.Dry}),
			does(
				"clear",
				"Take out the strips, tidy",
				"assemble",
				"assembly",
				2,
				1.5,
			).look("As many strips out as went in."),
			does("brush", "Dust tips", "dust", "dusting", 6, 2.2).coloured("dust").caution(dust).look("Tips only."),
		),
		takes("inner", "Dahlia core", 1),
		takes(
			"inner",
			"Dahlia petal, smallest",
			12,
			inRows(studio.SetOverGaps, 5, 7),
			joined(studio.JoinGlued),
			shade("petal", "inner petal"),
			inForm("cupped"),
		),
		takes(
			"middle",
			"Dahlia petal, small",
			16,
			inRows(studio.SetOverGaps, 8, 8),
			joined(studio.JoinGlued),
			inForm("cupped"),
		),
		takes(
			"middle",
			"Dahlia petal, middle",
			10,
			inRows(studio.SetAlternating, 10),
			joined(studio.JoinGlued),
			inForm("cupped"),
			between(8, 12),
		),
		takes(
			"outer",
			"Dahlia petal, large",
			12,
			inRows(studio.SetOverGaps, 12),
			joined(studio.JoinGlued),
			inForm("cupped"),
			least(10),
		),
		takes(
			"outer",
			"Dahlia petal, large",
			3,
			func(p *studio.PartInput) { p.Reversed, p.Set = true, studio.SetLevel },
			joined(studio.JoinGlued),
			inForm("turned back"),
			least(0),
		),
		of("brush", "dust", studio.Weighed(90), 0),
		bought("outer", "Paper strips", 12, 1, "clear"),
		variant(studio.Variant{Name: "half open", StopAfter: "hang 2"}),
		asked(
			"hold between layers",
			"until firm",
			studio.Variant{
				Name: "ten minutes",
				Steps: []studio.StepChange{
					instead(rests("hang 1", "Hang ten minutes", 10).holds("Hanging rail", 10, "hang 1")),
				},
			},
		),
	)
	return []studio.Recipe{
		core,
		cup,
		petal("smallest", "Drop cutter 28 mm", studio.Sheet(28_000, 14_000, 600, 700)),
		petal("small", "Drop cutter 36 mm", studio.Sheet(36_000, 17_000, 600, 700)),
		petal(
			"middle",
			"Drop cutter 46 mm",
			studio.Sheet(46_000, 20_000, 600, 700),
		),
		petal("large", "Drop cutter 58 mm", studio.Sheet(58_000, 24_000, 650, 700)),
		flower,
	}
}
