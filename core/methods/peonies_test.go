package methods

import (
	"slices"

	"bractum/core/studio"
)

// peonies are M02, M04, M05, M06, M11 and M17: many petals around a core, in layers
// or wired one by one.
func peonies() []method {
	return []method{
		{"M02", "ruffled rose", []studio.Recipe{
			made(studio.KindMix, "quick paste", steps(work("knead", "mixing", 1000)), func(r *studio.Recipe) {
				r.Blend, r.Colour, r.LifeMinutes, r.Drying = []studio.Ingredient{
					{Material: "paste", Parts: 1},
				}, "#e8d9c5", 20*1440, 400
				r.Additives = []studio.Additive{{Material: "CMC", Per100g: 2000}}
			}),
			part(
				"clad cone",
				steps(
					work("flatten", "shaping", 600),
					dries("set", "thin", studio.Firm, func(s *studio.Step) { s.Wait.Slot = "quick" }),
					work("clad", "shaping", 900),
				),
				paste("flatten", "quick", ball(14_000)),
				wired("flatten", 24, 1),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"quick": "quick paste"} },
			),
			part("frill", steps(work("frill", "shaping", 400)), paste("frill", "petal", sheet(30_000, 25_000, 700))),
			flower(
				"ruffled rose",
				steps(
					work("bunch", "assembly", 1500),
					work("fill", "assembly", 900),
					dries("dry", "thin", studio.Dry),
				),
				takes("bunch", "clad cone", 5, fresh(studio.Firm, studio.Stiff)),
				takes("fill", "frill", 9, least(5)),
			),
		}, []demand{
			planned(
				"a sub-assembly several times over",
				func(r run) bool { return r.started("clad cone") >= 10 },
				"ruffled rose",
				func(r *studio.Recipe) { input(r, "clad cone").Count = 1 },
			),
			planned("bunched while the cones still give", func(r run) bool {
				from, before, _, _ := r.limited("clad cone", "ruffled rose", "bunch")
				return from == studio.Firm && before == studio.Stiff
			}, "ruffled rose", func(r *studio.Recipe) { input(r, "clad cone").Window = nil }),
			planned(
				"a paste that dries fast",
				func(r run) bool { return r.need("clad cone", "set") < 20_000 },
				"quick paste",
				func(r *studio.Recipe) { r.Drying = 0 },
			),
			said(
				"an additive",
				"quick paste",
				func(r *studio.Recipe) bool { return len(r.Additives) == 1 },
				func(r *studio.Recipe) { r.Additives = nil },
			),
			said("fillers settled by eye", "ruffled rose", func(r *studio.Recipe) bool {
				in := input(r, "frill")
				return in.Least != nil && *in.Least < in.Count
			}, func(r *studio.Recipe) { input(r, "frill").Least = nil }),
		}},
		{"M04", "peony in glued layers", []studio.Recipe{
			part(
				"inner petal",
				steps(work("cut", "shaping", 500, heldNext("sheet", 10, "layer 1"))),
				paste("cut", "deep", sheet(40_000, 35_000, 700)),
				inForms(studio.Form{Name: "as cut", Share: 500}, studio.Form{Name: "mirrored", Share: 500}),
			),
			part(
				"outer petal",
				steps(work("cut", "shaping", 600, heldNext("sheet", 6, "layer 2"))),
				paste("cut", "petal", sheet(60_000, 50_000, 700)),
			),
			part(
				"core",
				steps(work("glue", "wiring", 900), stands("grip", 60)),
				bought("glue", "foam ball", 1, 1, ""),
				wired("glue", 18, 2),
			),
			flower(
				"layered peony",
				steps(
					work("layer 1", "assembly", 1200, look("no gap over the ball")),
					stands("hang 1", 20, held("rail", 1, "hang 1")),
					work("layer 2", "assembly", 1500),
					stands("hang 2", 40, held("rail", 1, "hang 2")),
					work(
						"layer 3",
						"assembly",
						1500,
					),
					dries("dry", "thin", studio.Dry, held("half-sphere", 1, "dry")),
				),
				takes("layer 1", "core", 1),
				takes(
					"layer 1",
					"inner petal",
					5,
					func(p *studio.PartInput) { p.Form = "as cut" },
				),
				takes("layer 1", "inner petal", 5, func(p *studio.PartInput) { p.Form = "mirrored" }),
				takes(
					"layer 2",
					"outer petal",
					7,
					fresh("", studio.Stiff),
				),
				takes(
					"layer 3",
					"outer petal",
					7,
					fresh("", studio.Stiff),
					func(p *studio.PartInput) { p.Reversed = true },
				),
			),
		}, []demand{
			planned("layer after layer, each with its wait", func(r run) bool {
				return r.task("layered peony", "hang 1").End <= r.task("layered peony", "layer 2").Start &&
					r.task("layered peony", "layer 3").Start-r.task("layered peony", "layer 2").End >= 40
			}, "layered peony", without("hang 2")),
			said(
				"each layer with its own cut list",
				"layered peony",
				func(r *studio.Recipe) bool { return r.Parts[3].Step != r.Parts[4].Step },
				func(r *studio.Recipe) { r.Parts[4].Step = "layer 2" },
			),
			said(
				"a check for a layer",
				"layered peony",
				func(r *studio.Recipe) bool { return at(r, "layer 1").Look != "" },
				func(r *studio.Recipe) { at(r, "layer 1").Look = "" },
			),
			said(
				"half of a layer mirrored",
				"layered peony",
				func(r *studio.Recipe) bool { return r.Parts[2].Form == "mirrored" && r.Parts[1].Form == "as cut" },
				func(r *studio.Recipe) { r.Parts[2].Form = "" },
			),
			said(
				"two heavy wires in one core",
				"core",
				func(r *studio.Recipe) bool { return r.Wires[0].Number == 2 && r.Wires[0].Material == "wire 18" },
				func(r *studio.Recipe) { r.Wires[0].Number = 1 },
			),
			planned(
				"a place on the rail for each",
				func(r run) bool { return slices.Equal(r.holds("layered peony", "hang 1"), []studio.ID{"rail"}) },
				"layered peony",
				noHolds("hang 1"),
			),
			planned("the next layer cut fresh while the last one hangs", func(r run) bool {
				_, before, _, _ := r.limited("outer petal", "layered peony", "layer 3")
				return before == studio.Stiff && slices.Contains(r.holds("outer petal", "cut"), "sheet")
			}, "layered peony", func(r *studio.Recipe) { r.Parts[4].Window = nil }),
			said(
				"the last layer reversed",
				"layered peony",
				func(r *studio.Recipe) bool { return r.Parts[4].Reversed },
				func(r *studio.Recipe) { r.Parts[4].Reversed = false },
			),
			planned(
				"another support at the end",
				func(r run) bool { return slices.Equal(r.holds("layered peony", "dry"), []studio.ID{"half-sphere"}) },
				"layered peony",
				noHolds("dry"),
			),
		}},
		{"M05", "petals and calyx around a dry core", []studio.Recipe{
			part(
				"bead",
				steps(work("roll", "shaping", 300), dries("dry", "solid", studio.Dry, thick(12_000))),
				paste("roll", "core", ball(12_000)),
				wired("roll", 24, 1),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} },
			),
			part("small petal", steps(work("cut", "shaping", 300)), paste("cut", "petal", sheet(25_000, 20_000, 600))),
			part("large petal", steps(work("cut", "shaping", 300)), paste("cut", "petal", sheet(40_000, 32_000, 900))),
			part("calyx", steps(work("cut", "shaping", 200)), paste("cut", "leaf", sheet(20_000, 20_000, 400))),
			flower(
				"cored blossom",
				steps(work("wrap", "assembly", 900), dries("dry", "thin", studio.Dry)),
				takes("wrap", "bead", 1),
				takes("wrap", "small petal", 3),
				takes("wrap", "large petal", 5),
				takes("wrap", "calyx", 1),
				variant(
					studio.Variant{
						Name:  "glossed",
						Steps: []studio.StepChange{{After: "dry", Step: work("gloss", "dusting", 300)}},
					},
				),
			),
			spray(
				"cored spray",
				steps(work("tape", "assembly", 1500)),
				takes("tape", "cored blossom", 3),
				takes("tape", "cored blossom", 1, func(p *studio.PartInput) { p.Variant = "glossed" }),
			),
		}, []demand{
			planned("nothing before the core is dry", func(r run) bool {
				return r.task("bead", "dry").End-r.task("bead", "roll").End > 12*60 &&
					r.task("cored blossom", "wrap").Start >= r.task("bead", "dry").End
			}, "bead", without("dry")),
			said(
				"a thickness for each size",
				"calyx",
				func(r *studio.Recipe) bool { return r.Pastes[0].Shape.Thickness == 400 },
				func(r *studio.Recipe) { r.Pastes[0].Shape.Thickness = 900 },
			),
			planned("several sizes in one colour", func(r run) bool {
				return r.lots("small petal", "")[0].Mixes["petal"] == r.lots("large petal", "")[0].Mixes["petal"]
			}, "large petal", func(r *studio.Recipe) { r.Pastes[0].Slot = "pale" }),
			planned(
				"an optional finish",
				func(r run) bool { return r.task("cored blossom", "gloss").End > 0 },
				"cored blossom",
				func(r *studio.Recipe) { r.Variants[0].Steps = nil },
			),
			planned(
				"several on one spray",
				func(r run) bool { return r.started("cored blossom") >= 12 },
				"cored spray",
				func(r *studio.Recipe) { r.Parts[0].Count, r.Parts[1].Count = 1, 1 },
			),
		}},
		{"M06", "tree peony, painted", []studio.Recipe{
			part(
				"inner wing",
				steps(
					work("cut", "shaping", 400),
					work("paint", "dusting", 200, coloured("deep")),
					stands("flash off", 2),
					work("second coat", "dusting", 150, while("", studio.Stiff)),
					work("vein", "shaping", 100),
					dries("dry", "thin", studio.Dry),
				),
				paste(
					"cut",
					"petal",
					sheet(45_000, 40_000, 700),
				),
				wired("cut", 26, 1),
				variant(
					studio.Variant{
						Name:  "veined first",
						Order: []string{"cut", "vein", "paint", "flash off", "second coat", "dry"},
					},
				),
				variant(
					studio.Variant{
						Name:    "in the oven",
						Without: []string{"dry"},
						Steps: []studio.StepChange{
							{After: "vein", Step: work("load", "shaping", 30)},
							{After: "load", Step: bakes("bake", "oven", 15)},
							{After: "bake", Step: stands("cool", 30)},
						},
					},
				),
			),
			part(
				"outer wing",
				steps(work("cut", "shaping", 500), dries("dry", "thin", studio.Dry)),
				paste("cut", "petal", sheet(65_000, 55_000, 700)),
				wired("cut", 24, 1),
			),
			part("stamen", steps(work("bend", "wiring", 50)), bought("bend", "stamens", 1, 1, "")),
			part(
				"bud",
				steps(
					work("roll", "shaping", 300),
					dries("dry", "thin", studio.Dry),
					work("green", "dusting", 60, coloured("dust")),
					work("tip", "dusting", 60, coloured("edge")),
				),
				paste("roll", "petal", ball(15_000)),
			),
			flower(
				"tree peony",
				steps(work("tape", "assembly", 3000)),
				takes("tape", "stamen", 60, least(40)),
				takes("tape", "inner wing", 5),
				takes("tape", "inner wing", 1, func(p *studio.PartInput) { p.Variant = "in the oven" }),
				takes(
					"tape",
					"outer wing",
					8,
					least(6),
					func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "pale"} },
				),
			),
			spray(
				"tree peony spray",
				steps(work("tape", "assembly", 900)),
				takes("tape", "tree peony", 1),
				takes("tape", "bud", 2),
			),
		}, []demand{
			said(
				"a matrix of sizes",
				"outer wing",
				func(r *studio.Recipe) bool { return r.Pastes[0].Shape.Length == 65_000 },
				func(r *studio.Recipe) { r.Pastes[0].Shape.Length = 45_000 },
			),
			planned("coats on the soft petal, a least wait between", func(r run) bool {
				return r.task("inner wing", "second coat").Start-r.task("inner wing", "paint").End >= 2 &&
					slices.ContainsFunc(
						r.instance.Links,
						func(k studio.Lag) bool { return k.Most != nil && k.Most.Dries != nil },
					)
			}, "inner wing", noWindows("second coat")),
			planned(
				"a fluid that needs its minutes",
				func(r run) bool { return r.task("inner wing", "flash off").End > 0 },
				"inner wing",
				func(r *studio.Recipe) {
					r.Variants = r.Variants[1:]
					without("flash off")(r)
				},
			),
			said("painted before or after veining", "inner wing", func(r *studio.Recipe) bool {
				v, ok := r.As("veined first")
				return ok && v.Steps[1].Key == "vein"
			}, func(r *studio.Recipe) { r.Variants = r.Variants[1:] }),
			planned(
				"less colour in the outer rows",
				func(r run) bool { return r.lots("outer wing", "")[0].Mixes["petal"] == "pale" },
				"tree peony",
				func(r *studio.Recipe) { r.Parts[3].Slots = nil },
			),
			planned("buds in a sequence of colours", func(r run) bool {
				return r.task("bud", "tip").Start >= r.task("bud", "green").End &&
					r.task("bud", "green").Setup+r.task("bud", "tip").Setup >= 9
			}, "bud", func(r *studio.Recipe) { at(r, "green").Work.Family, at(r, "tip").Work.Family = "", "" }),
			planned("overnight, or a low oven and cooling", func(r run) bool {
				return r.task("inner wing", "bake").End > 0 &&
					r.task("inner wing", "cool").Start == r.task("inner wing", "bake").End
			}, "tree peony", func(r *studio.Recipe) { r.Parts[2].Variant = "" }),
			said(
				"a count settled by eye",
				"tree peony",
				func(r *studio.Recipe) bool { return *r.Parts[3].Least == 6 },
				func(r *studio.Recipe) { *r.Parts[3].Least = 8 },
			),
		}},
		{"M11", "full peony on half a foam ball", []studio.Recipe{
			part(
				"half ball",
				steps(work("cut", "wiring", 300), stands("grip", 30)),
				bought("cut", "foam ball", 1, 2, ""),
				wired("cut", 18, 1),
			),
			part(
				"half petal",
				steps(work("cut", "shaping", 500), work("split", "shaping", 100)),
				paste("cut", "petal", sheet(50_000, 40_000, 700)),
				yields("split", 2),
			),
			part(
				"whole petal",
				steps(
					work("cut", "shaping", 500),
					work("slit", "shaping", 50),
					work("cup", "shaping", 200, share(600), while(studio.Firm, studio.Stiff)),
					work("close slit", "assembly", 50),
					dries("dry", "thin", studio.Firm),
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
			),
			part("collar", steps(work("bundle", "wiring", 600)), bought("bundle", "stamens", 20, 1, "")),
			part(
				"cluster",
				steps(work("gather", "assembly", 700), stands("grip", 20)),
				takes("gather", "half petal", 4),
			),
			flower(
				"full peony",
				steps(
					work("first half", "assembly", 1500),
					stands("rest", 15),
					work("second half", "assembly", 1500),
					dries("hang", "thin", studio.Dry, held("rail", 1, "hang")),
					work("take out", "assembly", 200),
				),
				takes(
					"first half",
					"half ball",
					1,
				),
				takes("first half", "collar", 1),
				takes("first half", "cluster", 3),
				takes("second half", "half petal", 6, least(2)),
				takes(
					"second half",
					"whole petal",
					5,
					func(p *studio.PartInput) { p.Reversed, p.Join = true, studio.JoinGlued },
				),
				bought("first half", "strips", 6, 1, "take out"),
			),
		}, []demand{
			said(
				"half of a bought ball",
				"half ball",
				func(r *studio.Recipe) bool { return r.Materials[0].Taken(3) == 2 },
				func(r *studio.Recipe) { r.Materials[0].Per = 1 },
			),
			planned(
				"one cut piece gives two",
				func(r run) bool { return r.task("half petal", "cut").Pieces*2 == r.lots("half petal", "")[0].Started },
				"half petal",
				func(r *studio.Recipe) { r.Yield = nil },
			),
			planned("a share cupped while the edge is firm", func(r run) bool {
				from, before, _, _ := r.limited("whole petal", "whole petal", "cup")
				return from == studio.Firm && before == studio.Stiff &&
					r.effort(
						"whole petal",
						"cup",
					) == studio.Milliminutes(
						studio.CeilDiv(r.lots("whole petal", "")[0].Started*600*200, 1000),
					)
			}, "whole petal", func(r *studio.Recipe) { at(r, "cup").Work.Share = 0 }),
			planned("the window itself", func(r run) bool {
				_, before, _, _ := r.limited("whole petal", "whole petal", "cup")
				return before == studio.Stiff
			}, "whole petal", noWindows("cup")),
			planned("slits glued later", func(r run) bool {
				return r.task("whole petal", "close slit").Start >= r.task("whole petal", "cup").End &&
					r.task("whole petal", "close slit").End > 0
			}, "whole petal", without("close slit")),
			planned("clusters and loose fillers", func(r run) bool {
				return r.started("cluster") >= 6 && r.started("half petal") >= 4*r.started("cluster")+12
			}, "full peony", func(r *studio.Recipe) { input(r, "half petal").Count, input(r, "half petal").Least = 1, nil }),
			planned("a pause half way through gluing", func(r run) bool {
				rest := r.task("full peony", "rest")
				return rest.End-rest.Start == 15 && r.task("full peony", "second half").Start >= rest.End
			}, "full peony", without("rest")),
			said(
				"the last petals reversed",
				"full peony",
				func(r *studio.Recipe) bool { return input(r, "whole petal").Reversed },
				func(r *studio.Recipe) { input(r, "whole petal").Reversed = false },
			),
			planned("hung with spacers that come out", func(r run) bool {
				m := of(r.doc, "full peony").Materials[0]
				return slices.Equal(r.holds("full peony", "hang"), []studio.ID{"rail"}) && m.OutAt == "take out"
			}, "full peony", func(r *studio.Recipe) { r.Materials[0].OutAt = "" }),
			said("the cutter that shrinks to the size wanted", "whole petal", func(r *studio.Recipe) bool {
				g := r.Pastes[0].Shape
				return g.Dried > 0 && g.Length*(1000-40)/1000 >= g.Dried
			}, func(r *studio.Recipe) { r.Pastes[0].Shape.Dried = 0 }),
		}},
		{"M17", "wired peony, powdered and steamed", []studio.Recipe{
			part(
				"thread centre",
				steps(work("wind", "wiring", 900)),
				bought("wind", "thread", 1, 1, ""),
				wired("wind", 24, 1),
			),
			part(
				"pod",
				steps(work("roll", "shaping", 200), dries("dry", "thin", studio.Dry)),
				paste("roll", "leaf", ball(8000)),
			),
			part(
				"veined petal",
				steps(
					work("cut", "shaping", 300, held("sheet", 8, "press")),
					work("notch", "shaping", 60),
					work("press", "shaping", 300, tool("large veiner")),
					dries("dry", "thin", studio.Dry),
				),
				paste("cut", "petal", sheet(55_000, 50_000, 700)),
				wired("press", 26, 1),
			),
			flower(
				"steamed peony",
				steps(
					work("tape", "assembly", 2000),
					stands("rest", 1440),
					work("powder", "dusting", 400, coloured("dust")),
					work("steam", "dusting", 60),
					stands("dry off", 20),
				),
				takes("tape", "thread centre", 1),
				takes("tape", "pod", 3),
				takes("tape", "veined petal", 9),
			),
		}, []demand{
			planned("notched after cutting", func(r run) bool {
				return r.task("veined petal", "notch").End > 0 &&
					r.task("veined petal", "notch").Start >= r.task("veined petal", "cut").End
			}, "veined petal", without("notch")),
			planned(
				"kept moist under sheets",
				func(r run) bool { return slices.Equal(r.holds("veined petal", "cut"), []studio.ID{"sheet"}) },
				"veined petal",
				noHolds("cut"),
			),
			planned(
				"pressed in the two-part veiner",
				func(r run) bool { return len(r.task("veined petal", "press").Tools) == 1 },
				"veined petal",
				func(r *studio.Recipe) { at(r, "press").Work.Tools = nil },
			),
			planned("a day before dusting", func(r run) bool {
				return r.task("steamed peony", "powder").Start-r.task("steamed peony", "tape").End >= 1440
			}, "steamed peony", without("rest")),
			planned("steamed, and a wait after it", func(r run) bool {
				return r.task("steamed peony", "dry off").Start == r.task("steamed peony", "steam").End &&
					r.task("steamed peony", "steam").End > 0
			}, "steamed peony", without("dry off")),
			planned(
				"a thread centre and pods",
				func(r run) bool { return r.started("thread centre") >= 2 && r.started("pod") >= 6 },
				"steamed peony",
				func(r *studio.Recipe) { r.Parts = r.Parts[:1] },
			),
		}},
	}
}

// effort is the attended time of the first planned task of a step.
func (r run) effort(recipe studio.ID, step string) studio.Milliminutes {
	return r.instance.Activities()[r.task(recipe, step).ID].Work[0].Total()
}
