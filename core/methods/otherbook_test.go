package methods

import "bractum/core/studio"

// The recipes of others(), as a studio makes them.

func orchid() []studio.Recipe {
	piece := func(name, slot string, length, width, thickness studio.Micrometres, more ...studio.Step) studio.Recipe {
		return part(name, append(steps(
			work("roll", "shaping", 250, held("board", 8, "emboss"), look("leave it stuck to the board")),
			work("emboss", "shaping", 300, tool("large veiner")), work("thin", "shaping", 350),
			work("dust", "dusting", 250, coloured("dust"), wanting(studio.WantsAny)),
		), more...), paste("roll", slot, sheet(length, width, thickness)), loses(60))
	}
	return []studio.Recipe{
		piece(
			"lip",
			"petal",
			30_000,
			30_000,
			1200,
			work(
				"curl",
				"shaping",
				300,
				wanting(studio.WantsAny),
			),
			dries("set", "thin", studio.Firm, thick(1200), held("spoon tray", 4, "set")),
		),
		piece("wing", "pale", 42_000, 38_000, 900,
			dries("set", "thin", studio.Firm, thick(900), held("spoon tray", 4, "set"))),
		piece(
			"sepal",
			"pale",
			40_000,
			20_000,
			800,
			work(
				"mark",
				"dusting",
				250,
				wanting(studio.WantsAny),
			),
			dries("set", "thin", studio.Firm, held("spoon tray", 6, "set")),
		),
		part(
			"throat",
			steps(work("roll", "shaping", 300), work("shape", "shaping", 500), dries("set", "thin", studio.Firm)),
			paste(
				"roll",
				"core",
				ball(5000),
			),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} },
		),
		flower(
			"orchid",
			steps(
				work("first glue", "assembly", 2500), dries("part set", "thin", studio.Firm),
				work("wings", "assembly", 1800), stands("wings set", 30),
				work("second glue", "assembly", 2000), work("dots", "dusting", 900),
				dries("do not touch", "thin", studio.Dry, held("half-sphere", 1, "do not touch")),
			),
			takes(
				"first glue",
				"sepal",
				3,
				glued,
				wanted(studio.WantsFirm),
			),
			takes("wings", "wing", 2, glued, wanted(studio.WantsAny)),
			takes(
				"second glue",
				"lip",
				1,
				glued,
				wanted(studio.WantsAny),
			),
			takes("second glue", "throat", 1, glued, anyState),
		),
		spray("orchid cake", steps(work("fix", "assembly", 4000), stands("grip", 45)),
			takes("fix", "orchid", 3, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
			paste("fix", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 9000})),
	}
}

func lily() []studio.Recipe {
	petal := func(name string, width studio.Micrometres, more ...change) studio.Recipe {
		return part(name, steps(
			work("cut", "shaping", 250), work("vein", "shaping", 250), work("wire", "wiring", 500),
			work("fold", "shaping", 300, held("foam", 3, "dry")), dries("dry", "thin", studio.Dry),
		), append(more, paste("cut", "petal", sheet(70_000, width, 800)), loses(60),
			wired("wire", 26, 1, func(w *studio.WireInput) { w.Depth = 35_000 }))...)
	}
	return []studio.Recipe{
		part(
			"taped stamen",
			steps(
				work("halve", "wiring", 80, wanting(studio.WantsAny)),
				work("tape", "wiring", 500, wanting(studio.WantsAny)),
			),
			bought("halve", "long stamens", 1, 1, ""),
			wired("tape", 30, 1),
			yields("halve", 2),
			neverDries,
			loses(20),
			variant(
				studio.Variant{
					Name:  "long",
					Wires: []studio.WireInput{{Step: "tape", Material: "wire 30", Number: 1, Stem: 120_000}},
				},
			),
		),
		petal(
			"narrow petal",
			20_000,
			variant(studio.Variant{Name: "veined first", Order: []string{"vein", "cut", "wire", "fold", "dry"}}),
		),
		petal("broad petal", 32_000),
		flower("lily", steps(work("tape", "assembly", 12_000), work("dust", "dusting", 2500, coloured("dust"))),
			takes("tape", "taped stamen", 6, anyState),
			takes("tape", "taped stamen", 1, anyState, func(p *studio.PartInput) { p.Variant = "long" }),
			takes("tape", "narrow petal", 2, taped, func(p *studio.PartInput) { p.Set = studio.SetAlternating }),
			takes("tape", "narrow petal", 1, taped, func(p *studio.PartInput) { p.Variant = "veined first" }),
			takes("tape", "broad petal", 3, taped, func(p *studio.PartInput) { p.Set = studio.SetAlternating }),
			bought("tape", "white tape", 1, 1, ""),
			variant(studio.Variant{Name: "dusted green", Materials: []studio.MaterialInput{
				{
					Step:     "tape",
					Material: "white tape",
					Amount:   0,
				}, {Step: "tape", Material: "green tape", Amount: 1}}})),
	}
}

func beadTrail() []studio.Recipe {
	return []studio.Recipe{
		part(
			"bead",
			steps(
				work("roll", "shaping", 250),
				work("wire", "wiring", 200),
				dries("dry", "thin", studio.Dry, held("foam", 30, "dry")),
			),
			paste(
				"roll",
				"petal",
				ball(5000),
			),
			wired("wire", 30, 1, func(w *studio.WireInput) { w.Depth, w.Hook = 3000, studio.HookClosed }),
			loses(40),
		),
		part(
			"cap",
			steps(work("cut", "shaping", 120), work("stretch", "shaping", 180)),
			paste("cut", "leaf", ball(3000)),
			loses(50),
		),
		spray(
			"bead trail",
			steps(
				work("tape", "assembly", 9000), work("join stem", "assembly", 1500), work("cap", "assembly", 5000),
				dries("dry", "thin", studio.Dry), work("bend", "assembly", 1500),
			),
			takes("tape", "bead", 25, least(19), taped, func(p *studio.PartInput) {
				for i := range 25 {
					p.At = append(p.At, studio.Micrometres(i)*8000)
				}
			}),
			takes(
				"cap",
				"cap",
				25,
				least(19),
				wet,
			),
			wired("join stem", 24, 1, func(w *studio.WireInput) { w.Depth, w.Stem = 0, 180_000 }),
		),
	}
}

func ridgedFlower() []studio.Recipe {
	stamen := func(name string, material studio.ID) studio.Recipe {
		return part(name, steps(work("trim", "wiring", 60), work("paint", "dusting", 80, wanting(studio.WantsAny))),
			bought("trim", material, 1, 1, ""), neverDries)
	}
	return []studio.Recipe{
		part(
			"foil tray",
			steps(work("fold", "shaping", 1500, wanting(studio.WantsAny))),
			bought("fold", "foil", 1, 1, ""),
			neverDries,
			func(r *studio.Recipe) { r.KeepInStock = 6 },
		),
		stamen("short stamen", "stamens"), stamen("long stamen", "long stamens"),
		part("column", steps(
			work("roll", "shaping", 500), work("wire", "wiring", 300),
			work("push in", "shaping", 2500, while("", studio.Firm)), dries("dry", "thin", studio.Dry),
		), paste("roll", "petal", ball(10_000)), wired("wire", 26, 1, func(w *studio.WireInput) { w.Depth, w.Stem = 25_000, 110_000 }), loses(40),
			takes("push in", "short stamen", 14), takes("push in", "long stamen", 6)),
		part("ridged petal", steps(
			work(
				"cut",
				"shaping",
				500,
			),
			work("thin", "shaping", 500),
			work("vein", "shaping", 350),
			work("wire", "wiring", 600),
			work("frill", "shaping", 350, held("foil tray", 2, "dry")),
			dries("dry", "thin", studio.Dry, thick(1500)),
		), paste("cut", "petal", sheet(60_000, 40_000, 1500)), wired("wire", 26, 1, func(w *studio.WireInput) { w.Depth = 40_000 }), loses(60)),
		part(
			"sepal",
			steps(work("cut", "shaping", 150), work("thin", "shaping", 250)),
			paste("cut", "leaf", sheet(30_000, 10_000, 500)),
			loses(40),
		),
		flower("ridged flower", steps(
			work("tape", "assembly", 9000), work("join column", "assembly", 2000), work("sepals", "assembly", 1500),
			dries("dry", "thin", studio.Dry), work("dust", "dusting", 1500, coloured("dust")),
		),
			takes("tape", "ridged petal", 5, taped),
			takes("join column", "column", 1, func(p *studio.PartInput) { p.Join = studio.JoinSlotted }),
			takes("sepals", "sepal", 5, wet)),
	}
}

func laceBlossom() []studio.Recipe {
	return []studio.Recipe{
		made(studio.KindMix, "lace", steps(work("whisk", "mixing", 1500), stands("rest", 30)), func(r *studio.Recipe) {
			r.Blend = []studio.Ingredient{{Material: "lace mix", Parts: 1}}
			r.Colour, r.LifeMinutes = "#f4efe6", 5*1440
		}),
		part("lace petal", steps(
			work("first coat", "shaping", 600, held("mat", 8, "air"), look("right side down")),
			work("lay wire", "wiring", 250),
			bakes("oven", "oven", 12),
			work("second coat", "shaping", 500),
			dries("air", "thin", studio.Dry),
			work("peel", "shaping", 300, look("still bends")),
		), paste("first coat", "lace", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 900}), loses(80), neverDries,
			paste("second coat", "lace", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 700}),
			wired("lay wire", 30, 1, func(w *studio.WireInput) { w.Depth, w.Hook = 30_000, studio.HookStraight }),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"lace": "lace"} },
			variant(studio.Variant{Name: "flat", Without: []string{"lay wire"},
				Steps: []studio.StepChange{{After: "first coat", Step: work("level", "shaping", 60)}}}),
			variant(studio.Variant{Name: "with a solid layer",
				Steps: []studio.StepChange{
					{
						After: "oven",
						Step:  work("lay solid", "shaping", 700),
					}, {After: "lay solid", Step: stands("grip", 20)}},
				Pastes: []studio.PasteInput{{Step: "lay solid", Slot: "petal", Shape: sheet(40_000, 30_000, 400)}}})),
		part(
			"lace centre",
			steps(work("wind", "wiring", 1500)),
			bought("wind", "thread", 1, 1, ""),
			wired("wind", 26, 1),
			neverDries,
		),
		flower(
			"lace blossom",
			steps(work("tape", "assembly", 9000), work("shape", "assembly", 2000, wanting(studio.WantsAny))),
			neverDries,
			takes("tape", "lace petal", 5, anyState),
			takes("tape", "lace petal", 2, anyState, func(p *studio.PartInput) { p.Variant = "flat" }),
			takes("tape", "lace petal", 2, anyState, func(p *studio.PartInput) { p.Variant = "with a solid layer" }),
			takes("tape", "lace centre", 1, anyState),
		),
	}
}
