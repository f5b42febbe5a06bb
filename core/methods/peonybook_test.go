package methods

import "bractum/core/studio"

// The recipes of peonies(), as a studio makes them.

func ruffledRose() []studio.Recipe {
	petals := studio.PartInput{Step: "clad", Recipe: "petal", Count: 6, Join: studio.JoinWet}
	inRun := petals
	inRun.InRun = true
	return []studio.Recipe{
		made(studio.KindMix, "quick paste", steps(work("knead", "mixing", 1000)), func(r *studio.Recipe) {
			r.Blend, r.Colour = []studio.Ingredient{{Material: "paste", Parts: 1}}, "#e8d9c5"
			r.LifeMinutes, r.Drying = 20*1440, 400
			r.Additives = []studio.Additive{{Material: "CMC", Per100g: 2000}}
		}),
		part("cone", steps(
			work("flatten", "shaping", 700), work("wire", "wiring", 400),
			dries("set", "thin", studio.Dry, func(s *studio.Step) { s.Wait.Slot = "quick" }),
		), paste("flatten", "quick", ball(14_000)), wired("wire", 24, 1),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"quick": "quick paste"} }),
		part("petal", steps(work("cut", "shaping", 180), work("thin", "shaping", 250), work("frill", "shaping", 350)),
			paste("cut", "petal", sheet(34_000, 30_000, 600)), loses(50)),
		part("clad cone", steps(work("clad", "shaping", 3000, wanting(studio.WantsAny))), takes("clad", "cone", 1),
			func(r *studio.Recipe) {
				r.Parts = append(r.Parts, petals)
				r.Techniques = []studio.Technique{{Question: "runs or phases", As: "in phases",
					Schools: []studio.Variant{{Name: "in the run", Parts: []studio.PartInput{inRun}}}}}
			}),
		part("frill", steps(work("cut", "shaping", 180), work("thin", "shaping", 250), work("frill", "shaping", 400)),
			paste("cut", "petal", sheet(30_000, 25_000, 600)), loses(50)),
		flower("ruffled rose", steps(
			work(
				"bunch",
				"assembly",
				4000,
			),
			work("fill", "assembly", 3500, wanting(studio.WantsAny)),
			dries("dry", "thin", studio.Dry),
		),
			takes("bunch", "clad cone", 4, fresh(studio.Firm, studio.Stiff)), takes("fill", "frill", 9, least(5), wet)),
	}
}

func layeredPeony() []studio.Recipe {
	petal := func(name string, length, width studio.Micrometres, each studio.Milliminutes, more ...change) studio.Recipe {
		return part(name, steps(
			work(
				"cut",
				"shaping",
				200,
				held("sheet", 8, "thin"),
			),
			work("thin", "shaping", each),
			work("frill", "shaping", 300),
			work("cup", "shaping", 150),
		), append(more, paste("cut", "petal", sheet(length, width, 700)), loses(40))...)
	}
	inner := petal("inner petal", 40_000, 35_000, 300,
		inForms(studio.Form{Name: "as cut", Share: 500}, studio.Form{Name: "mirrored", Share: 500}))
	inner.Pastes[0].Slot = "deep"
	return []studio.Recipe{
		inner, petal("outer petal", 60_000, 50_000, 450),
		part(
			"core",
			steps(work("glue", "wiring", 2500), stands("grip", 60)),
			bought("glue", "foam ball", 1, 1, ""),
			wired(
				"glue",
				18,
				2,
				func(w *studio.WireInput) { w.Depth, w.Hook = 25_000, studio.HookStraight },
			),
			neverDries,
		),
		flower(
			"layered peony",
			steps(
				work(
					"layer 1",
					"assembly",
					9000,
					look("no gap over the ball"),
				),
				stands("hang 1", 20, held("rail", 1, "hang 1")),
				work("layer 2", "assembly", 8000),
				stands("hang 2", 40, held("rail", 1, "hang 2")),
				work("layer 3", "assembly", 9000),
				dries("dry", "thin", studio.Dry, held("half-sphere", 1, "dry")),
			),
			takes("layer 1", "core", 1),
			takes(
				"layer 1",
				"inner petal",
				7,
				glued,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Form = "as cut" },
			),
			takes(
				"layer 1",
				"inner petal",
				7,
				glued,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Form = "mirrored" },
			),
			takes("layer 2", "outer petal", 9, fresh("", studio.Stiff)),
			takes(
				"layer 3",
				"outer petal",
				11,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Reversed = true },
			),
		),
	}
}

func coredBlossom() []studio.Recipe {
	petal := func(name, slot string, length, width, thickness studio.Micrometres) studio.Recipe {
		return part(name, steps(work("cut", "shaping", 150), work("thin", "shaping", 300), work("cup", "shaping", 200)),
			paste("cut", slot, sheet(length, width, thickness)), loses(40))
	}
	return []studio.Recipe{
		part("bead", steps(work("roll", "shaping", 600), dries("dry", "solid", studio.Dry, thick(12_000))),
			paste("roll", "core", ball(12_000)), wired("roll", 24, 1), solid(12_000),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} }),
		petal("small petal", "petal", 25_000, 20_000, 600), petal("large petal", "petal", 40_000, 32_000, 900),
		petal("calyx", "leaf", 20_000, 20_000, 400),
		flower(
			"cored blossom",
			steps(
				work("wrap", "assembly", 6000),
				dries("dry", "thin", studio.Dry),
				work("dust", "dusting", 900, coloured("dust")),
			),
			takes(
				"wrap",
				"bead",
				1,
			),
			takes("wrap", "small petal", 5, wet),
			takes("wrap", "large petal", 5, wet),
			takes("wrap", "calyx", 1, wet),
			variant(
				studio.Variant{
					Name:  "glossed",
					Steps: []studio.StepChange{{After: "dust", Step: work("gloss", "dusting", 400)}},
				},
			),
		),
		spray(
			"cored spray",
			steps(work("tape", "assembly", 6000)),
			takes(
				"tape",
				"cored blossom",
				5,
			),
			takes("tape", "cored blossom", 2, func(p *studio.PartInput) { p.Variant = "glossed" }),
		),
	}
}

func treePeony() []studio.Recipe {
	painted := func(name string, length, width studio.Micrometres, gauge studio.Gauge, more ...change) studio.Recipe {
		return part(name, steps(
			work("cut", "shaping", 200),
			work("thin", "shaping", 400),
			work("wire", "wiring", 500),
			work("paint", "dusting", 350, coloured("deep")),
			stands("flash off", 2),
			work(
				"second coat",
				"dusting",
				250,
				while("", studio.Stiff),
			),
			work("vein", "shaping", 250, wanting(studio.WantsAny)),
			dries("dry", "thin", studio.Dry, held("spoon tray", 3, "dry")),
		), append([]change{paste("cut", "petal", sheet(length, width, 700)), wired("wire", gauge, 1), loses(50)}, more...)...)
	}
	return []studio.Recipe{
		painted("inner wing", 45_000, 40_000, 26,
			variant(studio.Variant{Name: "veined first",
				Order: []string{"cut", "thin", "wire", "vein", "paint", "flash off", "second coat", "dry"}}),
			variant(studio.Variant{Name: "in the oven", Without: []string{"dry"}, Steps: []studio.StepChange{
				{After: "vein", Step: work("load", "shaping", 60)}, {After: "load", Step: bakes("bake", "oven", 15)},
				{After: "bake", Step: stands("cool", 30)}}})),
		painted("middle wing", 55_000, 48_000, 26),
		part("outer wing", steps(
			work(
				"cut",
				"shaping",
				250,
			),
			work("thin", "shaping", 500),
			work("wire", "wiring", 500),
			work("vein", "shaping", 300),
			work("frill", "shaping", 400),
			dries("dry", "thin", studio.Dry, held("half-sphere", 1, "dry")),
		), paste("cut", "petal", sheet(65_000, 55_000, 700)), wired("wire", 24, 1), loses(50)),
		part("stamen", steps(work("bend", "wiring", 80)), bought("bend", "stamens", 1, 1, ""), neverDries),
		part("bud", steps(
			work("roll", "shaping", 700), work("mark", "shaping", 300), dries("dry", "thin", studio.Dry),
			work("green", "dusting", 200, coloured("dust")), work("tip", "dusting", 200, coloured("edge")),
		), paste("roll", "petal", ball(15_000)), wired("mark", 24, 1)),
		flower(
			"tree peony",
			steps(work("tape", "assembly", 32_000)),
			takes("tape", "stamen", 60, least(40), anyState),
			takes("tape", "inner wing", 5, taped),
			takes("tape", "inner wing", 1, taped, func(p *studio.PartInput) { p.Variant = "in the oven" }),
			takes(
				"tape",
				"outer wing",
				9,
				least(6),
				taped,
				func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "pale"} },
			),
			takes("tape", "middle wing", 7, taped),
		),
		spray(
			"tree peony spray",
			steps(work("tape", "assembly", 6000)),
			takes("tape", "tree peony", 1),
			takes("tape", "bud", 3, taped),
		),
	}
}

func fullPeony() []studio.Recipe {
	return []studio.Recipe{
		part(
			"half ball",
			steps(work("cut", "wiring", 1200), stands("grip", 30)),
			bought("cut", "foam ball", 1, 2, ""),
			wired("cut", 18, 1),
			neverDries,
		),
		part("half petal", steps(
			work(
				"cut",
				"shaping",
				300,
			),
			work("split", "shaping", 150),
			work("thin", "shaping", 250),
			work("frill", "shaping", 350),
		), paste("cut", "petal", sheet(50_000, 40_000, 700)), yields("split", 2), loses(50)),
		part(
			"whole petal",
			steps(
				work(
					"cut",
					"shaping",
					250,
				),
				work("slit", "shaping", 80),
				work("thin", "shaping", 350),
				work("frill", "shaping", 350),
				stands("edge sets", 12),
				work("cup", "shaping", 200, share(600), while(studio.Firm, studio.Stiff), wanting(studio.WantsAny)),
				work("close slit", "assembly", 150),
			),
			paste(
				"cut",
				"petal",
				studio.Geometry{
					Shape:     studio.ShapeCut,
					Length:    52_100,
					Width:     45_000,
					Thickness: 700,
					Factor:    785,
					Dried:     50_000,
				},
			),
			sized(
				"small",
				5,
				44_000,
				38_000,
				700,
			),
			sized("middle", 6, 52_000, 45_000, 700),
			sized("large", 7, 60_000, 52_000, 800),
			loses(50),
		),
		part(
			"collar",
			steps(work("bundle", "wiring", 2500, wanting(studio.WantsAny))),
			bought("bundle", "stamens", 20, 1, ""),
			neverDries,
		),
		part(
			"cluster",
			steps(work("gather", "assembly", 2500, wanting(studio.WantsAny)), stands("grip", 20)),
			takes("gather", "half petal", 4, wet),
		),
		flower(
			"full peony",
			steps(
				work("first half", "assembly", 9000), stands("rest", 15), work("second half", "assembly", 11_000),
				dries("hang", "thin", studio.Dry, held("rail", 1, "hang")), work("take out", "assembly", 800),
			),
			takes("first half", "half ball", 1),
			takes("first half", "collar", 1, anyState),
			takes(
				"first half",
				"cluster",
				5,
				wanted(studio.WantsFirm),
			),
			takes("second half", "half petal", 6, least(2), wet),
			takes("second half", "whole petal", 1, func(p *studio.PartInput) {
				p.Reversed, p.Join, p.Sizes, p.Wants = true, studio.JoinGlued, true, studio.WantsFirm
			}),
			bought("first half", "strips", 12, 1, "take out"),
		),
	}
}

func pressedPeony() []studio.Recipe {
	return []studio.Recipe{
		part(
			"thread centre",
			steps(work("wind", "wiring", 3000)),
			bought("wind", "thread", 1, 1, ""),
			wired("wind", 24, 1),
			neverDries,
		),
		part("pod", steps(work("roll", "shaping", 500), work("mark", "shaping", 200), dries("dry", "thin", studio.Dry)),
			paste("roll", "leaf", ball(8000)), wired("mark", 26, 1)),
		part(
			"veined petal",
			steps(
				work("cut", "shaping", 200, held("sheet", 8, "press")), work("notch", "shaping", 120),
				work("press", "shaping", 700, tool("large veiner")),
				stands("rest", 1200, held("spoon tray", 3, "rest")), work("powder", "dusting", 300, coloured("dust")),
			),
			paste("cut", "petal", sheet(55_000, 50_000, 700)),
			wired("press", 26, 1, func(w *studio.WireInput) { w.Depth = 20_000 }),
			sized(
				"small",
				5,
				42_000,
				38_000,
				600,
			),
			sized("middle", 7, 52_000, 46_000, 700),
			sized("large", 8, 62_000, 56_000, 800),
			loses(60),
		),
		flower(
			"steamed peony",
			steps(work("tape", "assembly", 22_000), work("steam", "dusting", 400), stands("dry off", 20)),
			takes("tape", "thread centre", 1, anyState),
			takes("tape", "pod", 3, taped),
			takes("tape", "veined petal", 1, taped, func(p *studio.PartInput) { p.Sizes = true }),
		),
	}
}
