package methods

import (
	"slices"

	"bractum/core/studio"
)

// daisies are M01, M03, M08, M12, M13 and M21: centres, one-piece layers, small
// blossoms in bulk.
func daisies() []method {
	return []method{
		{"M01", "moulded daisy on a wire", []studio.Recipe{
			part("foil cup", steps(work("press", "shaping", 500)), bought("press", "foil", 1, 1, "")),
			part(
				"centre",
				steps(
					work("mould", "shaping", 400),
					work("load", "shaping", 50),
					bakes("dehydrate", "dehydrator", 60),
				),
				paste("mould", "core", ball(9000)),
				wired(
					"mould",
					26,
					1,
					func(w *studio.WireInput) { w.Hook, w.Turns = studio.HookTapeWound, 8 },
				),
				bought("mould", "green tape", 1, 4, ""),
				func(r *studio.Recipe) {
					r.Defaults, r.KeepInStock = map[string]studio.ID{"core": "white"}, 12
				},
				variant(
					studio.Variant{
						Name:    "in the air",
						Without: []string{"load", "dehydrate"},
						Steps:   []studio.StepChange{{After: "mould", Step: dries("dry", "solid", studio.Dry)}},
					},
				),
			),
			part(
				"layer",
				steps(work("cut", "shaping", 500, heldNext("sheet", 6, "thread"))),
				paste("cut", "petal", sheet(45_000, 45_000, 900)),
			),
			part("calyx", steps(work("cut", "shaping", 200)), paste("cut", "leaf", ball(5000))),
			flower(
				"daisy",
				steps(
					work("thread", "assembly", 800),
					stands("hang", 20, held("rail", 1, "hang")),
					dries("upright", "thin", studio.Dry, held("foam", 1, "calyx")),
					work("calyx", "assembly", 300),
				),
				takes(
					"thread",
					"centre",
					1,
				),
				takes(
					"thread",
					"layer",
					2,
					func(p *studio.PartInput) { p.Set, p.Join = studio.SetOverGaps, studio.JoinThreaded },
				),
				takes("calyx", "calyx", 1),
				variant(
					studio.Variant{
						Name:  "single",
						Parts: []studio.PartInput{{Step: "thread", Recipe: "layer", Count: 1}},
					},
				),
				variant(
					studio.Variant{
						Name: "unwired",
						Parts: []studio.PartInput{
							{Step: "thread", Recipe: "centre", Count: 0},
							{Step: "thread", Recipe: "centre", Variant: "in the air", Count: 1},
						},
					},
				),
			),
			part(
				"bud",
				steps(work("roll", "shaping", 300)),
				paste("roll", "petal", ball(6000)),
				wired("roll", 26, 1),
				variant(
					studio.Variant{
						Name:   "large",
						Pastes: []studio.PasteInput{{Step: "roll", Slot: "petal", Shape: ball(9000)}},
					},
				),
			),
			spray(
				"daisy spray",
				steps(work("tape", "assembly", 2000)),
				takes("tape", "bud", 2, func(p *studio.PartInput) { p.At = []studio.Micrometres{0, 15_000} }),
				takes(
					"tape",
					"bud",
					1,
					func(p *studio.PartInput) { p.Variant, p.At = "large", []studio.Micrometres{30_000} },
				),
				takes(
					"tape",
					"daisy",
					1,
					func(p *studio.PartInput) { p.Variant, p.At = "single", []studio.Micrometres{50_000} },
				),
				takes("tape", "daisy", 1, func(p *studio.PartInput) { p.At = []studio.Micrometres{70_000} }),
				takes("tape", "foil cup", 1, least(0)),
			),
		}, []demand{
			planned("single and double", func(r run) bool {
				return len(r.lots("daisy", "single")) == 1 && len(r.lots("daisy", "")) == 1
			}, "daisy spray", func(r *studio.Recipe) { r.Parts[2].Variant = "" }),
			said("unwired, with another centre", "daisy", func(r *studio.Recipe) bool {
				v, ok := r.As("unwired")
				return ok &&
					slices.ContainsFunc(v.Parts, func(p studio.PartInput) bool { return p.Variant == "in the air" })
			}, func(r *studio.Recipe) { r.Variants[1].Parts[1].Variant = "" }),
			said(
				"sized by ball",
				"centre",
				func(r *studio.Recipe) bool { return r.Pastes[0].Shape.Diameter == 9000 },
				func(r *studio.Recipe) { r.Pastes[0].Shape = sheet(9000, 9000, 900) },
			),
			said("turns of tape on the wire", "centre", func(r *studio.Recipe) bool {
				return r.Wires[0].Hook == studio.HookTapeWound && r.Wires[0].Turns == 8
			}, func(r *studio.Recipe) { r.Wires[0].Turns = 0 }),
			planned(
				"a former made of foil",
				func(r run) bool { return r.started("foil cup") > 0 },
				"daisy spray",
				func(r *studio.Recipe) { r.Parts = r.Parts[:4] },
			),
			planned("a centre dried by dehydrator first", func(r run) bool {
				return r.task("centre", "dehydrate").End > 0 &&
					r.task("centre", "dehydrate").End <= r.task("daisy", "thread").Start
			}, "centre", without("dehydrate")),
			planned(
				"a layer kept soft",
				func(r run) bool { return slices.Contains(r.holds("layer", "cut"), "sheet") },
				"layer",
				noHolds("cut"),
			),
			said(
				"layers offset",
				"daisy",
				func(r *studio.Recipe) bool { return input(r, "layer").Set == studio.SetOverGaps },
				func(r *studio.Recipe) { input(r, "layer").Set = "" },
			),
			planned("hung, then upright", func(r run) bool {
				return slices.Equal(r.holds("daisy", "hang"), []studio.ID{"rail"}) &&
					slices.Equal(r.holds("daisy", "upright"), []studio.ID{"foam"})
			}, "daisy", without("hang")),
			planned("the calyx on the dry flower", func(r run) bool {
				return r.task("daisy", "upright").End > 0 &&
					r.task("daisy", "calyx").Start >= r.task("daisy", "upright").End
			}, "daisy", without("upright")),
			planned(
				"neutral centres ahead",
				func(r run) bool { return r.started("centre") >= 12+4 },
				"centre",
				func(r *studio.Recipe) { r.KeepInStock = 0 },
			),
			said(
				"order and distances on the spray",
				"daisy spray",
				func(r *studio.Recipe) bool { return slices.Equal(r.Parts[0].At, []studio.Micrometres{0, 15_000}) },
				func(r *studio.Recipe) { r.Parts[0].At = nil },
			),
		}},
		{"M03", "pulled five-petal blossom", []studio.Recipe{
			part(
				"hooked wire",
				steps(work("hook", "wiring", 500, together(6))),
				wired("hook", 30, 1),
				func(r *studio.Recipe) { r.KeepInStock = 60 },
			),
			flower(
				"blossom",
				steps(
					work("pull", "shaping", 600),
					work("close", "shaping", 100, ofForm("closed")),
					dries("dry", "thin", studio.Dry, held("foam", 20, "dry")),
					work(
						"pipe",
						"assembly",
						150,
					),
					stands("set", 60),
				),
				paste("pull", "petal", ball(6000)),
				paste("pipe", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 60}),
				takes(
					"pull",
					"hooked wire",
					1,
				),
				inForms(studio.Form{Name: "open", Share: 700}, studio.Form{Name: "closed", Share: 300}),
				func(r *studio.Recipe) { r.SecondsServe = true },
			),
			spray(
				"blossoms",
				steps(work("tape", "assembly", 900)),
				takes("tape", "blossom", 9, func(p *studio.PartInput) { p.Form = "open" }),
				takes("tape", "blossom", 1, func(p *studio.PartInput) { p.Form = "closed" }),
			),
		}, []demand{
			planned("hooked in bulk", func(r run) bool {
				l := r.lots("hooked wire", "")[0]
				return r.task(
					"hooked wire",
					"hook",
				).End-r.task(
					"hooked wire",
					"hook",
				).Start < studio.Minute(l.Started)/2
			}, "hooked wire", func(r *studio.Recipe) { at(r, "hook").Work.Together = 0 }),
			planned("two shapes from one part", func(r run) bool {
				a := r.instance.Activities()[r.task("blossom", "close").ID]
				return a.Work[0].Total() == studio.Milliminutes(studio.CeilDiv(r.started("blossom")*300*100, 1000))
			}, "blossom", func(r *studio.Recipe) { at(r, "close").Work.Form = "" }),
			planned(
				"as many of each shape as are wanted",
				func(r run) bool { return r.started("blossom")*700/1000 >= 9*r.started("blossoms") },
				"blossoms",
				func(r *studio.Recipe) { r.Parts[0].Form = "" },
			),
			planned("a second visit to the dry batch", func(r run) bool {
				return r.task("blossom", "dry").End > 0 &&
					r.task("blossom", "pipe").Start >= r.task("blossom", "dry").End &&
					r.task("blossom", "set").End > r.task("blossom", "pipe").End
			}, "blossom", without("pipe")),
			said(
				"rejects as seconds",
				"blossom",
				func(r *studio.Recipe) bool { return r.SecondsServe },
				func(r *studio.Recipe) { r.SecondsServe = false },
			),
		}},
		{"M08", "flat daisy", []studio.Recipe{
			flower(
				"flat daisy",
				steps(work("cut", "shaping", 500, held("spoon tray", 6, "dry")), dries("dry", "thin", studio.Dry)),
				paste("cut", "petal", sheet(40_000, 40_000, 900)),
				paste("cut", "core", ball(6000)),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} },
				variant(
					studio.Variant{
						Name:  "cupped",
						Steps: []studio.StepChange{{Step: work("cut", "shaping", 500, held("half-sphere", 1, "dry"))}},
					},
				),
				variant(
					studio.Variant{
						Name:   "two layers",
						Pastes: []studio.PasteInput{{Step: "cut", Slot: "edge", Shape: sheet(30_000, 30_000, 900)}},
					},
				),
			),
		}, []demand{
			said(
				"no wire",
				"flat daisy",
				func(r *studio.Recipe) bool { return len(r.Wires) == 0 },
				func(r *studio.Recipe) { wired("cut", 26, 1)(r) },
			),
			planned("the former sets how open", func(r run) bool {
				l := r.lots("flat daisy", "cupped")
				return len(l) == 1 && r.ofLot(l[0].ID, "cut").Holds[0].Place == "half-sphere"
			}, "flat daisy", func(r *studio.Recipe) { r.Variants[0].Steps = nil }),
			planned(
				"a short way",
				func(r run) bool { return len(r.instance.Lots[0].Tasks) == 2 },
				"flat daisy",
				func(r *studio.Recipe) { r.Steps = append(r.Steps, work("more", "shaping", 100)) },
			),
			said(
				"a second layer",
				"flat daisy",
				func(r *studio.Recipe) bool { v, _ := r.As("two layers"); return len(v.Pastes) == 3 },
				func(r *studio.Recipe) { r.Variants[1].Pastes = nil },
			),
		}},
		{"M12", "flat decorations", []studio.Recipe{
			part(
				"round",
				steps(
					work("cut", "shaping", 60, stint("rounds", 40)),
					work("pierce", "shaping", 40, stint("rounds", 40)),
					dries("dry", "thin", studio.Dry),
				),
				paste("cut", "petal", sheet(50_000, 50_000, 2000)),
			),
			part(
				"small blossom",
				steps(work("cut", "shaping", 40, together(4)), dries("dry", "thin", studio.Dry)),
				paste("cut", "edge", sheet(12_000, 12_000, 900)),
			),
			spray(
				"cake kit",
				steps(work("fix", "assembly", 2000), stands("grip", 30)),
				takes("fix", "round", 8, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
				takes("fix", "small blossom", 30),
				paste(
					"fix",
					"icing",
					studio.Geometry{Shape: studio.ShapeWeighed, Mass: 900},
				),
				bought("fix", "pearls", 30, 1, ""),
			),
		}, []demand{
			planned(
				"kits for each cake",
				func(r run) bool { return r.started("small blossom") >= 60 && r.started("round") >= 16 },
				"cake kit",
				func(r *studio.Recipe) { r.Parts = r.Parts[:1] },
			),
			planned(
				"several colours",
				func(r run) bool { return len(r.lots("pale", "")) > 0 && len(r.lots("kelp", "")) > 0 },
				"small blossom",
				func(r *studio.Recipe) { r.Pastes[0].Slot = "petal" },
			),
			said(
				"icing and pearls",
				"cake kit",
				func(r *studio.Recipe) bool { return r.Pastes[0].Slot == "icing" && r.Materials[0].Amount == 30 },
				func(r *studio.Recipe) { r.Materials[0].Amount = 1 },
			),
			planned(
				"many tiny units in one grip",
				func(r run) bool { t := r.task("small blossom", "cut"); return t.End-t.Start <= 3 },
				"small blossom",
				func(r *studio.Recipe) { at(r, "cut").Work.Together = 0; at(r, "cut").Work.PerPiece = 200 },
			),
		}},
		{"M13", "wafer-paper blossoms", []studio.Recipe{
			made(
				studio.KindMix,
				"wafer glue",
				steps(work("soak", "mixing", 1000), stands("overnight", 1440)),
				func(r *studio.Recipe) {
					r.Blend, r.Colour, r.LifeMinutes, r.LifeColdMinutes = []studio.Ingredient{
						{Material: "starch", Parts: 1},
					}, "#ffffff", 3*1440, 10*1440
				},
			),
			part(
				"brush",
				steps(work("wind", "wiring", 600)),
				bought("wind", "thread", 1, 1, ""),
				wired("wind", 30, 1),
				yields("wind", 2),
			),
			part(
				"wafer layer",
				steps(
					work("punch", "shaping", 300, together(8), look("right side up")),
					work("cup", "shaping", 100, ofForm("cupped")),
					work("snip", "shaping", 100, ofForm("snipped")),
				),
				bought(
					"punch",
					"wafer sheet",
					1,
					20,
					"",
				),
				inForms(studio.Form{Name: "cupped", Share: 500}, studio.Form{Name: "snipped", Share: 500}),
				func(r *studio.Recipe) { r.Byproducts = []studio.Byproduct{{Material: "wafer scraps", Amount: 1}} },
			),
			flower(
				"wafer blossom",
				steps(work("glue", "assembly", 400), stands("set", 20)),
				takes("glue", "brush", 1),
				takes("glue", "wafer layer", 2),
				paste("glue", "glue", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 20}),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"glue": "wafer glue"} },
				variant(
					studio.Variant{
						Name:  "large",
						Parts: []studio.PartInput{{Step: "glue", Recipe: "wafer layer", Count: 4}},
					},
				),
			),
			spray(
				"wafer spray",
				steps(work("tape", "assembly", 800)),
				takes(
					"tape",
					"wafer blossom",
					3,
					func(p *studio.PartInput) { p.At = []studio.Micrometres{0, 12_000, 24_000} },
				),
				takes(
					"tape",
					"wafer blossom",
					2,
					func(p *studio.PartInput) { p.Variant, p.At = "large", []studio.Micrometres{40_000, 60_000} },
				),
			),
		}, []demand{
			said(
				"sheets of another material",
				"wafer layer",
				func(r *studio.Recipe) bool { return r.Materials[0].Taken(50) == 3 && len(r.Pastes) == 0 },
				func(r *studio.Recipe) { r.Materials[0].Per = 1 },
			),
			said(
				"a right side",
				"wafer layer",
				func(r *studio.Recipe) bool { return at(r, "punch").Look != "" },
				func(r *studio.Recipe) { at(r, "punch").Look = "" },
			),
			said(
				"a limit to the stack",
				"wafer layer",
				func(r *studio.Recipe) bool { return r.Effort(at(r, "punch").Work, false, 9) == 600 },
				func(r *studio.Recipe) { at(r, "punch").Work.Together = 0 },
			),
			said(
				"scraps for glue",
				"wafer layer",
				func(r *studio.Recipe) bool { return len(r.Byproducts) == 1 },
				func(r *studio.Recipe) { r.Byproducts = nil },
			),
			planned("glue made a day ahead", func(r run) bool {
				return r.task("wafer blossom", "glue").Start-r.task("wafer glue", "soak").End >= 1440
			}, "wafer glue", without("overnight")),
			said("cupped or snipped", "wafer layer", func(r *studio.Recipe) bool {
				return r.Effort(at(r, "snip").Work, false, 10) == 500 && at(r, "cup").Work.Form == "cupped"
			}, func(r *studio.Recipe) { at(r, "snip").Work.Form = "" }),
			planned("brushes in twos", func(r run) bool {
				return r.started("brush")%2 == 0 && r.task("brush", "wind").Pieces*2 == r.started("brush")
			}, "brush", func(r *studio.Recipe) { r.Yield = nil }),
			said("sizes that increase", "wafer spray", func(r *studio.Recipe) bool {
				return r.Parts[0].At[2] < r.Parts[1].At[0] && r.Parts[1].Variant == "large"
			}, func(r *studio.Recipe) { r.Parts[1].Variant = "" }),
		}},
		{"M21", "tiny blossoms in bulk", []studio.Recipe{
			flower(
				"lilac pip",
				steps(
					work("cut", "shaping", 30, together(6)),
					stands("dry", 120, func(s *studio.Step) { s.Wait.Wished = &studio.Wish{Minutes: 900} }),
					work(
						"tumble",
						"dusting",
						2000,
						together(100),
						coloured("dust"),
					),
					work("dot", "assembly", 40),
				),
				paste("cut", "petal", sheet(9000, 9000, 700)),
				paste("dot", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 15}),
				variant(
					studio.Variant{
						Name:    "painted",
						Without: []string{"tumble"},
						Steps: []studio.StepChange{
							{After: "dry", Step: work("paint", "dusting", 150, coloured("dust"))},
							{After: "paint", Step: work("edge", "dusting", 100, coloured("edge"))},
						},
					},
				),
			),
			spray(
				"pips",
				steps(work("pack", "assembly", 3000)),
				takes("pack", "lilac pip", 150),
				takes("pack", "lilac pip", 50, func(p *studio.PartInput) { p.Variant = "painted" }),
			),
		}, []demand{
			planned(
				"hundreds in a batch",
				func(r run) bool { return r.lots("lilac pip", "")[0].Started >= 300 },
				"pips",
				func(r *studio.Recipe) { r.Parts[0].Count = 10 },
			),
			planned("a least and a wished-for drying", func(r run) bool {
				a := r.instance.Activities()[r.task("lilac pip", "dry").ID]
				return a.Wait.Least.Minutes == 120 &&
					r.task("lilac pip", "dry").End-r.task("lilac pip", "dry").Start == 900
			}, "lilac pip", func(r *studio.Recipe) { at(r, "dry").Wait.Wished = nil }),
			planned("tumbled, or painted in two colours, at other minutes", func(r run) bool {
				tumble, paint := r.task("lilac pip", "tumble"), r.task("lilac pip", "paint")
				return tumble.Pieces > paint.Pieces && paint.End-paint.Start > tumble.End-tumble.Start-tumble.Setup &&
					r.task("lilac pip", "edge").Setup > 0
			}, "lilac pip", func(r *studio.Recipe) { r.Variants[0].Steps, r.Variants[0].Without = nil, nil }),
			planned("the centre afterwards", func(r run) bool {
				return r.task("lilac pip", "dot").Start >= r.task("lilac pip", "tumble").End &&
					has(r.book.Recipe("lilac pip"), "dot")
			}, "lilac pip", without("dot")),
		}},
	}
}
