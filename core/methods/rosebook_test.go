package methods

import "bractum/core/studio"

// The recipes of roses(), as a studio makes them.

func openRose() []studio.Recipe {
	freehand := func(name string, mass studio.Milligrams, gauge studio.Gauge, minutes studio.Milliminutes, more ...change) studio.Recipe {
		wire := func(*studio.Recipe) {}
		if gauge > 0 {
			wire = wired("wire", gauge, 1, func(w *studio.WireInput) { w.Depth = 15_000 })
		}
		all := steps(work("press", "shaping", 300), work("thin", "shaping", minutes), work("frill", "shaping", 300))
		if gauge > 0 {
			all = append(all, work("wire", "wiring", 500))
		}
		all = append(all, work("cup", "shaping", 200), dries("dry", "thin", studio.Dry, held("spoon tray", 4, "dry")))
		return part(
			name,
			all,
			append(
				more,
				paste("press", "petal", studio.Geometry{Shape: studio.ShapeWeighed, Mass: mass}),
				wire,
				loses(50),
			)...)
	}
	loose := freehand("loose petal", 500, 0, 400)
	loose.Steps[len(loose.Steps)-1].Wait.State = studio.Firm
	return []studio.Recipe{
		part("wound centre", steps(work("wind", "wiring", 2500), work("open", "wiring", 400, wanting(studio.WantsAny))),
			bought("wind", "thread", 1, 1, ""), wired("wind", 26, 1), yields("wind", 2), neverDries),
		freehand("small petal", 400, 30, 500), freehand("large petal", 1200, 26, 700), loose,
		flower("open rose", steps(
			work("dust petals", "dusting", 3500, coloured("dust")),
			work("tape", "assembly", 14_000), work("try dry", "assembly", 1000), work("glue", "assembly", 3000),
			stands("set", 60), work("dust again", "dusting", 1500, coloured("dust")),
		),
			takes("dust petals", "small petal", 7, taped), takes("dust petals", "large petal", 9, taped),
			takes("tape", "wound centre", 1, anyState), takes("glue", "loose petal", 3, glued)),
	}
}

func outsideInRose() []studio.Recipe {
	return []studio.Recipe{
		part("disc", steps(work("cut", "shaping", 120)), paste("cut", "pale", ball(4000)), neverDries),
		part("layer", steps(
			work("cut", "shaping", 300), work("thin edges", "shaping", 900), work("frill", "shaping", 600),
			work("cup", "shaping", 400),
		), paste("cut", "petal", sheet(70_000, 70_000, 700)), loses(40)),
		part("inner layer", steps(
			work("cut", "shaping", 300), work("thin edges", "shaping", 600), work("cup", "shaping", 300),
		), paste("cut", "petal", sheet(52_000, 52_000, 600)), loses(40)),
		part("folded centre", steps(
			work("cut", "shaping", 150), work("thin", "shaping", 250), work("fold", "shaping", 400),
		), paste("cut", "petal", sheet(60_000, 20_000, 700)), loses(40)),
		part("pen stamens", steps(work("colour", "dusting", 200)), bought("colour", "stamens", 1, 1, ""), neverDries),
		flower(
			"garden rose",
			steps(
				work("build", "assembly", 9000, held("half-sphere", 1, "harden")),
				work("dust", "dusting", 1500, coloured("dust"), wanting(studio.WantsAny)),
				work("slot", "assembly", 1200),
				dries("harden", "thin", studio.Dry),
			),
			takes(
				"build",
				"layer",
				3,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "pale"} },
			),
			takes(
				"build",
				"layer",
				2,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "deep"} },
			),
			takes(
				"build",
				"inner layer",
				3,
				fresh("", studio.Stiff),
				func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "deep"} },
			),
			takes("build", "disc", 5),
			takes("build", "folded centre", 8, glued, soft),
			takes("slot", "pen stamens", 24, func(p *studio.PartInput) { p.Join = studio.JoinSlotted }),
			func(r *studio.Recipe) { r.Build = studio.OutsideIn },
		),
	}
}

func rowRose() []studio.Recipe {
	petal := func(key, size string, count int64, rows []int64) func(*studio.PartInput) {
		return func(p *studio.PartInput) {
			p.Key, p.Variant, p.Count, p.Rows, p.Set, p.Join = key, size, count, rows, studio.SetOverGaps, studio.JoinGlued
			p.Wants = studio.WantsFirm
		}
	}
	return []studio.Recipe{
		part("cone", steps(work("roll", "shaping", 900), dries("dry", "solid", studio.Dry, thick(15_000))),
			paste("roll", "core", ball(15_000)), wired("roll", 24, 1), solid(15_000),
			func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} }),
		part(
			"row petal",
			steps(
				work("cut", "shaping", 200, stint("petals")), work("nick", "shaping", 60, stint("petals"), share(400)),
				work("thin", "shaping", 400, stint("petals")), work("vein", "shaping", 150, stint("petals")),
				stands("in the spoon", 6, held("spoon tray", 4, "in the spoon")),
			),
			paste("cut", "petal", sheet(45_000, 40_000, 700)),
			loses(50),
			sized(
				"small",
				8,
				38_000,
				32_000,
				600,
			),
			sized("middle", 12, 45_000, 40_000, 700),
			sized("large", 10, 54_000, 48_000, 800),
		),
		part(
			"filler bud",
			steps(
				work("roll", "shaping", 400),
				work("twist", "shaping", 300, ofForm("twisted")),
				dries("dry", "thin", studio.Dry),
			),
			paste("roll", "petal", ball(8000)),
			wired("roll", 30, 1),
			inForms(studio.Form{Name: "plain", Share: 500}, studio.Form{Name: "twisted", Share: 500}),
		),
		part("bead", steps(work("roll", "shaping", 150)), paste("roll", "leaf", ball(4000)), neverDries),
		flower(
			"row rose",
			steps(
				work("first row", "assembly", 2500), stands("hold", 10),
				work("rows", "assembly", 11_000), stands("set", 15),
				work("dust", "dusting", 800, coloured("dust"), wanting(studio.WantsAny), func(s *studio.Step) {
					s.Windows = []studio.Window{
						{After: "rows", Before: studio.Dry, Drying: studio.Drying{Class: "thin", Thickness: 800}},
					}
				}),
				dries("dry", "thin", studio.Dry), work("calyx", "assembly", 600),
			),
			takes("first row", "cone", 1),
			takes(
				"first row",
				"row petal",
				3,
				func(p *studio.PartInput) { p.Key, p.Variant, p.Join = "first", "small", studio.JoinWet },
			),
			takes("rows", "row petal", 5, petal("small", "small", 5, []int64{5})),
			takes("rows", "row petal", 12, petal("middle", "middle", 12, []int64{5, 7})),
			takes("rows", "row petal", 10, petal("large", "large", 10, []int64{10})),
			takes("calyx", "bead", 1),
			bought("rows", "film", 8, 1, "calyx"),
			variant(studio.Variant{Name: "bud", StopAfter: "hold"}),
		),
		spray("rose spray", steps(work("tape", "assembly", 9000)),
			takes("tape", "row rose", 2), takes("tape", "row rose", 2, func(p *studio.PartInput) { p.Variant = "bud" }),
			takes("tape", "filler bud", 3, taped, func(p *studio.PartInput) { p.Form = "plain" }),
			takes("tape", "filler bud", 3, taped, func(p *studio.PartInput) { p.Form = "twisted" })),
	}
}

func cutOutRose() []studio.Recipe {
	return []studio.Recipe{
		part("cut-out", steps(
			work(
				"cut",
				"shaping",
				250,
				held("sheet", 6, "thin edges"),
			),
			work("thin edges", "shaping", 900),
			work("cup", "shaping", 400),
		), paste("cut", "petal", sheet(60_000, 60_000, 600)), loses(40)),
		part(
			"calyx",
			steps(work("cut", "shaping", 150), work("thin", "shaping", 250)),
			paste("cut", "leaf", ball(4000)),
			variant(
				studio.Variant{
					Name:   "wide",
					Pastes: []studio.PasteInput{{Step: "cut", Slot: "leaf", Shape: ball(7000)}},
				},
			),
		),
		part("leaf", steps(
			work(
				"cut",
				"shaping",
				200,
			),
			work("wire", "wiring", 500),
			work("vein", "shaping", 200),
			dries("dry", "thin", studio.Dry),
		), paste("cut", "leaf", sheet(30_000, 18_000, 500)), wired("wire", 30, 1), loses(40)),
		flower("cut-out rose", steps(
			work("heart", "assembly", 2000, look("smooth")),
			stands("set heart", 5),
			work("middle", "assembly", 2500, look("edges fluted")),
			stands("set middle", 10),
			work("skirt", "assembly", 3500, look("edges turned back")),
			stands("set", 20),
			work(
				"calyx",
				"assembly",
				600,
			),
			dries("dry", "thin", studio.Dry),
			work("steam", "dusting", 250),
			stands("dry off", 20),
		),
			takes("heart", "cut-out", 1, wet, func(p *studio.PartInput) { p.Sequence = []int64{1, 3, 5, 2, 4} }),
			takes("middle", "cut-out", 2, wet), takes("skirt", "cut-out", 3, wet),
			takes("calyx", "calyx", 1, glued, soft, func(p *studio.PartInput) { p.Variant = "wide" }),
			variant(studio.Variant{Name: "small", StopAfter: "set middle"}),
			variant(studio.Variant{Name: "bud", Without: []string{"middle", "set middle", "skirt", "set"},
				Parts: []studio.PartInput{
					{Step: "calyx", Recipe: "calyx", Count: 1, Join: studio.JoinGlued, Wants: studio.WantsSoft},
				}})),
		spray(
			"cut-out spray",
			steps(work("tape", "assembly", 9000)),
			takes(
				"tape",
				"cut-out rose",
				2,
			),
			takes("tape", "cut-out rose", 2, func(p *studio.PartInput) { p.Variant = "small" }),
			takes("tape", "cut-out rose", 2, func(p *studio.PartInput) { p.Variant = "bud" }),
			takes("tape", "leaf", 6, taped),
		),
	}
}
