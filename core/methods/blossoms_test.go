package methods

import "bractum/core/studio"

// The recipes of daisies(), as a studio makes them.

func mouldedDaisy() []studio.Recipe {
	return []studio.Recipe{
		part("foil cup", steps(work("press", "shaping", 500)), bought("press", "foil", 1, 1, ""), neverDries),
		part(
			"centre",
			steps(
				work("mould", "shaping", 600), work("load", "shaping", 50), bakes("dehydrate", "dehydrator", 60),
			),
			paste("mould", "core", ball(9000)),
			solid(9000),
			wired(
				"mould",
				26,
				1,
				func(w *studio.WireInput) { w.Hook, w.Turns, w.Depth = studio.HookTapeWound, 8, 5000 },
			),
			bought("mould", "green tape", 1, 4, ""),
			func(r *studio.Recipe) { r.Defaults, r.KeepInStock = map[string]studio.ID{"core": "white"}, 12 },
			variant(studio.Variant{Name: "in the air", Without: []string{"load", "dehydrate"},
				Steps: []studio.StepChange{{After: "mould", Step: dries("dry", "solid", studio.Dry, thick(9000))}}}),
		),
		part("layer", steps(
			work("cut", "shaping", 400, held("sheet", 6, "thin edges")), work("thin edges", "shaping", 700),
			work("vein", "shaping", 500),
		), paste("cut", "petal", sheet(45_000, 45_000, 900)), loses(50)),
		part(
			"calyx",
			steps(work("cut", "shaping", 200), work("thin", "shaping", 200)),
			paste("cut", "leaf", ball(5000)),
		),
		flower(
			"daisy",
			steps(
				work("thread", "assembly", 1800),
				stands("hang", 20, held("rail", 1, "hang")),
				dries("upright", "thin", studio.Dry, held("foam", 1, "calyx")),
				work("calyx", "assembly", 500),
				work("dust", "dusting", 600, coloured("dust")),
			),
			takes("thread", "centre", 1),
			takes(
				"thread",
				"layer",
				2,
				soft,
				func(p *studio.PartInput) { p.Set, p.Join = studio.SetOverGaps, studio.JoinThreaded },
			),
			takes("calyx", "calyx", 1, glued, soft),
			variant(studio.Variant{Name: "single",
				Parts: []studio.PartInput{
					{Step: "thread", Recipe: "layer", Count: 1, Join: studio.JoinThreaded, Wants: studio.WantsSoft},
				}}),
			variant(studio.Variant{Name: "unwired", Parts: []studio.PartInput{
				{
					Step:   "thread",
					Recipe: "centre",
					Count:  0,
				}, {Step: "thread", Recipe: "centre", Variant: "in the air", Count: 1}}}),
		),
		part(
			"bud",
			steps(work("roll", "shaping", 800), work("mark", "shaping", 300), dries("dry", "thin", studio.Dry)),
			paste("roll", "petal", ball(6000)),
			wired("mark", 26, 1),
			variant(
				studio.Variant{
					Name:   "large",
					Pastes: []studio.PasteInput{{Step: "roll", Slot: "petal", Shape: ball(9000)}},
				},
			),
		),
		spray(
			"daisy spray",
			steps(work("tape", "assembly", 14_000)),
			takes(
				"tape",
				"bud",
				3,
				taped,
				func(p *studio.PartInput) { p.At = []studio.Micrometres{0, 15_000, 25_000} },
			),
			takes("tape", "bud", 2, taped, func(p *studio.PartInput) {
				p.Variant, p.At = "large", []studio.Micrometres{35_000, 45_000}
			}),
			takes("tape", "daisy", 2, taped, func(p *studio.PartInput) {
				p.Variant, p.At = "single", []studio.Micrometres{55_000, 70_000}
			}),
			takes(
				"tape",
				"daisy",
				3,
				taped,
				func(p *studio.PartInput) { p.At = []studio.Micrometres{85_000, 100_000, 120_000} },
			),
			takes("tape", "foil cup", 1, least(0)),
		),
	}
}

func pulledBlossom() []studio.Recipe {
	return []studio.Recipe{
		part("hooked wire", steps(work("hook", "wiring", 500, together(6))), wired("hook", 30, 1), neverDries,
			func(r *studio.Recipe) { r.KeepInStock = 60 }),
		flower("blossom", steps(
			work("roll cone", "shaping", 150, stint("pulled")), work("snip", "shaping", 250, stint("pulled")),
			work("open", "shaping", 300, stint("pulled")), work("pull", "shaping", 600, stint("pulled")),
			work("wire", "shaping", 150, stint("pulled")),
			work("close", "shaping", 120, ofForm("closed"), wanting(studio.WantsSoft)),
			dries("dry", "thin", studio.Dry, held("foam", 20, "dry")),
			work("pipe", "assembly", 200), stands("set", 60),
		), paste("roll cone", "petal", ball(6000)),
			paste("pipe", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 60}),
			takes("wire", "hooked wire", 1, anyState), loses(60),
			inForms(studio.Form{Name: "open", Share: 700}, studio.Form{Name: "closed", Share: 300}),
			func(r *studio.Recipe) { r.SecondsServe = true }),
		spray("blossoms", steps(work("tape", "assembly", 9000)),
			takes("tape", "blossom", 9, taped, func(p *studio.PartInput) { p.Form = "open" }),
			takes("tape", "blossom", 3, taped, func(p *studio.PartInput) { p.Form = "closed" })),
	}
}

func flatDaisy() []studio.Recipe {
	return []studio.Recipe{
		flower("flat daisy", steps(
			work("cut", "shaping", 300, stint("daisy"), held("spoon tray", 6, "dry")),
			work("thin edges", "shaping", 500, stint("daisy")), work("cup", "shaping", 250, stint("daisy")),
			work("dot", "shaping", 250, stint("daisy")),
			dries("dry", "thin", studio.Dry),
		), paste("cut", "petal", sheet(40_000, 40_000, 900)), paste("dot", "core", ball(6000)), loses(40),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} },
			variant(studio.Variant{Name: "cupped",
				Steps: []studio.StepChange{
					{Step: work("cut", "shaping", 300, stint("daisy"), held("half-sphere", 1, "dry"))},
				}}),
			variant(studio.Variant{Name: "two layers",
				Pastes: []studio.PasteInput{
					{Key: "second", Step: "cut", Slot: "edge", Shape: sheet(30_000, 30_000, 900)},
				},
				Steps: []studio.StepChange{{Step: work("thin edges", "shaping", 900, stint("daisy"))}}}),
		),
	}
}

func flatDecorations() []studio.Recipe {
	return []studio.Recipe{
		part("round", steps(
			work("cut", "shaping", 120, stint("rounds")), work("pierce", "shaping", 250, stint("rounds")),
			dries("dry", "thin", studio.Dry, thick(2000)),
		), paste("cut", "petal", sheet(50_000, 50_000, 2000)), loses(20)),
		part("small blossom", steps(
			work("cut", "shaping", 160, together(4), stint("blossoms")), work("cup", "shaping", 60, stint("blossoms")),
			dries("dry", "thin", studio.Dry),
		), paste("cut", "edge", sheet(12_000, 12_000, 900)), loses(30)),
		part("small leaf", steps(
			work("cut", "shaping", 160, together(4), stint("leaves")), work("vein", "shaping", 80, stint("leaves")),
			dries("dry", "thin", studio.Dry),
		), paste("cut", "leaf", sheet(14_000, 8000, 800)), loses(30)),
		spray("cake kit", steps(work("fix", "assembly", 14_000), stands("grip", 30)),
			takes("fix", "round", 12, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
			takes("fix", "small blossom", 48, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
			takes("fix", "small leaf", 24, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
			paste("fix", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 9000}),
			bought("fix", "pearls", 60, 1, "")),
	}
}

func waferBlossom() []studio.Recipe {
	return []studio.Recipe{
		made(studio.KindMix, "wafer glue", steps(work("soak", "mixing", 1000), stands("overnight", 1440)),
			func(r *studio.Recipe) {
				r.Blend = []studio.Ingredient{{Material: "starch", Parts: 1}}
				r.Colour, r.LifeMinutes, r.LifeColdMinutes = "#ffffff", 3*1440, 10*1440
			}),
		part(
			"brush",
			steps(work("wind", "wiring", 900), work("trim", "wiring", 150)),
			bought("wind", "thread", 1, 1, ""),
			wired("wind", 30, 1),
			yields("wind", 2),
			neverDries,
			loses(20),
		),
		part("wafer layer", steps(
			work("punch", "shaping", 300, together(8), look("right side up")),
			work("cup", "shaping", 120, ofForm("cupped"), wanting(studio.WantsAny)),
			work("snip", "shaping", 150, ofForm("snipped"), wanting(studio.WantsAny)),
		), bought("punch", "wafer sheet", 1, 20, ""), neverDries, loses(60),
			inForms(studio.Form{Name: "cupped", Share: 500}, studio.Form{Name: "snipped", Share: 500}),
			func(r *studio.Recipe) { r.Byproducts = []studio.Byproduct{{Material: "wafer scraps", Amount: 1}} }),
		flower("wafer blossom", steps(work("glue", "assembly", 1200), stands("set", 20)), neverDries,
			takes("glue", "brush", 1),
			takes("glue", "wafer layer", 3, glued),
			paste("glue", "glue", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 40}),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"glue": "wafer glue"} },
			variant(studio.Variant{Name: "large",
				Parts: []studio.PartInput{{Step: "glue", Recipe: "wafer layer", Count: 6, Join: studio.JoinGlued}}}),
		),
		spray("wafer spray", steps(work("tape", "assembly", 7000)),
			takes("tape", "wafer blossom", 5, func(p *studio.PartInput) {
				p.At = []studio.Micrometres{0, 12_000, 24_000, 36_000, 48_000}
			}),
			takes("tape", "wafer blossom", 3, func(p *studio.PartInput) {
				p.Variant, p.At = "large", []studio.Micrometres{60_000, 75_000, 90_000}
			})),
	}
}

func lilacPips() []studio.Recipe {
	return []studio.Recipe{
		flower("lilac pip", steps(
			work("cut", "shaping", 180, together(6), stint("pips")), work("open", "shaping", 90, stint("pips")),
			stands("dry", 120, func(s *studio.Step) { s.Wait.Wished = &studio.Wish{Minutes: 900} }),
			work("tumble", "dusting", 2000, together(100), coloured("dust")),
			work("dot", "assembly", 60),
		), paste("cut", "petal", sheet(9000, 9000, 700)), loses(30),
			paste("dot", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 15}),
			variant(studio.Variant{Name: "painted", Without: []string{"tumble"}, Steps: []studio.StepChange{
				{After: "dry", Step: work("paint", "dusting", 150, coloured("dust"))},
				{After: "paint", Step: work("edge", "dusting", 100, coloured("edge"), wanting(studio.WantsAny))}}}),
		),
		spray("pips", steps(work("pack", "assembly", 4000)),
			takes("pack", "lilac pip", 150),
			takes("pack", "lilac pip", 50, func(p *studio.PartInput) { p.Variant = "painted" })),
	}
}
