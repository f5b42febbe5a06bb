package methods

import (
	"slices"

	"bractum/core/studio"
)

// others are M10, M14, M15, M16 and M20: orchid, lily, beads, ridged petals and
// poured lace.
func others() []method {
	return []method{
		{"M10", "orchid from embossed pieces", []studio.Recipe{
			part(
				"lip",
				steps(
					work("roll", "shaping", 300, held("board", 8, "emboss"), look("leave it stuck to the board")),
					work("emboss", "shaping", 200, tool("large veiner")),
					work("dust", "dusting", 150, coloured("dust")),
					dries("set", "thin", studio.Firm),
				),
				paste("roll", "petal", sheet(30_000, 30_000, 1200)),
			),
			part(
				"sepal",
				steps(work("cut", "shaping", 250), work("mark", "dusting", 100), dries("set", "thin", studio.Firm)),
				paste("cut", "pale", sheet(40_000, 20_000, 800)),
			),
			flower(
				"orchid",
				steps(
					work("first glue", "assembly", 500),
					dries("part set", "thin", studio.Firm),
					work("second glue", "assembly", 500),
					dries("do not touch", "thin", studio.Dry),
				),
				takes("first glue", "sepal", 5),
				takes("second glue", "lip", 1),
			),
			spray(
				"orchid cake",
				steps(work("fix", "assembly", 600), stands("grip", 45)),
				takes("fix", "orchid", 1, func(p *studio.PartInput) { p.Join = studio.JoinIced }),
				paste("fix", "icing", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 3000}),
			),
		}, []demand{
			planned("left stuck to the board", func(r run) bool {
				h := r.task("lip", "roll").Holds
				return len(h) == 1 && h[0].Place == "board" && h[0].To >= r.task("lip", "emboss").End
			}, "lip", noHolds("roll")),
			planned("dusted before it sets", func(r run) bool {
				return r.task("lip", "dust").End > 0 && r.task("lip", "set").Start == r.task("lip", "dust").End
			}, "lip", without("dust")),
			planned(
				"pen marks",
				func(r run) bool { return r.task("sepal", "mark").End > 0 },
				"sepal",
				without("mark"),
			),
			planned("partly set between stages", func(r run) bool {
				return r.task("orchid", "part set").End > 0 &&
					r.task("orchid", "second glue").Start >= r.task("orchid", "part set").End
			}, "orchid", without("part set")),
			planned(
				"several pastes",
				func(r run) bool { return len(r.lots("kelp", "")) > 0 && len(r.lots("pale", "")) > 0 },
				"sepal",
				func(r *studio.Recipe) { r.Pastes[0].Slot = "petal" },
			),
			planned("a wait in which nothing may be handled", func(r run) bool {
				return r.task("orchid", "do not touch").End-r.task("orchid", "do not touch").Start > 300 &&
					r.task("orchid cake", "fix").Start >= r.task("orchid", "do not touch").End
			}, "orchid", without("do not touch")),
			{
				"a stand-in veiner",
				func(r run) bool { return len(r.instance.Activities()[r.task("lip", "emboss").ID].Tools[0].AnyOf) == 2 },
				func(d *studio.Document) { d.Tools[0].StandIns = nil },
			},
			said(
				"fixed with icing",
				"orchid cake",
				func(r *studio.Recipe) bool { return r.Parts[0].Join == studio.JoinIced && len(r.Pastes) == 1 },
				func(r *studio.Recipe) { r.Parts[0].Join = "" },
			),
		}},
		{"M14", "lily-like flower", []studio.Recipe{
			part(
				"taped stamen",
				steps(work("halve", "wiring", 60), work("tape", "wiring", 200)),
				bought("halve", "long stamens", 1, 1, ""),
				wired("tape", 30, 1),
				yields("halve", 2),
				variant(
					studio.Variant{
						Name:  "long",
						Wires: []studio.WireInput{{Step: "tape", Material: "wire 30", Number: 1, Stem: 120_000}},
					},
				),
			),
			part(
				"narrow petal",
				steps(
					work("cut", "shaping", 300),
					work("vein", "shaping", 100),
					work("fold", "shaping", 100, held("foam", 3, "dry")),
					dries("dry", "thin", studio.Dry),
				),
				paste("cut", "petal", sheet(70_000, 20_000, 800)),
				wired("fold", 26, 1),
				variant(studio.Variant{Name: "veined first", Order: []string{"vein", "cut", "fold", "dry"}}),
			),
			part(
				"broad petal",
				steps(work("cut", "shaping", 300), work("vein", "shaping", 100), dries("dry", "thin", studio.Dry)),
				paste("cut", "petal", sheet(70_000, 32_000, 800)),
				wired("cut", 26, 1),
			),
			flower(
				"lily",
				steps(work("tape", "assembly", 1500), work("dust", "dusting", 300, coloured("dust"))),
				takes("tape", "taped stamen", 5),
				takes("tape", "taped stamen", 1, func(p *studio.PartInput) { p.Variant = "long" }),
				takes(
					"tape",
					"narrow petal",
					2,
					func(p *studio.PartInput) { p.Set = studio.SetAlternating },
				),
				takes("tape", "narrow petal", 1, func(p *studio.PartInput) { p.Variant = "veined first" }),
				takes("tape", "broad petal", 3, func(p *studio.PartInput) { p.Set = studio.SetAlternating }),
				bought(
					"tape",
					"white tape",
					1,
					1,
					"",
				),
				variant(
					studio.Variant{
						Name: "dusted green",
						Materials: []studio.MaterialInput{
							{Step: "tape", Material: "white tape", Amount: 0},
							{Step: "tape", Material: "green tape", Amount: 1},
						},
					},
				),
			),
		}, []demand{
			planned("the order of steps by the veiner", func(r run) bool {
				l := r.lots("narrow petal", "veined first")
				return len(l) == 1 && r.tasksOf(l[0].ID)[0].Step == "vein"
			}, "narrow petal", func(r *studio.Recipe) { r.Variants[0].Order = nil }),
			planned("three in a cavity", func(r run) bool {
				l := r.lots("narrow petal", "")[0]
				return r.ofLot(l.ID, "fold").Holds[0].Slots == studio.CeilDiv(l.Started, 3)
			}, "narrow petal", func(r *studio.Recipe) { at(r, "fold").Holds[0].PerSlot = 1 }),
			said("alternating", "lily", func(r *studio.Recipe) bool {
				return r.Parts[2].Set == studio.SetAlternating && r.Parts[4].Set == studio.SetAlternating
			}, func(r *studio.Recipe) { r.Parts[4].Set = "" }),
			planned("bought stamens halved", func(r run) bool {
				l := r.lots("taped stamen", "")[0]
				return r.ofLot(l.ID, "halve").Pieces*2 == l.Started
			}, "taped stamen", func(r *studio.Recipe) { r.Yield = nil }),
			planned(
				"one longer",
				func(r run) bool { return len(r.lots("taped stamen", "long")) == 1 },
				"lily",
				func(r *studio.Recipe) { r.Parts[1].Variant = "" },
			),
			said("a tape for the dusting", "lily", func(r *studio.Recipe) bool {
				v, _ := r.As("dusted green")
				return v.Materials[0].Material == "green tape"
			}, func(r *studio.Recipe) { r.Variants[0].Materials = nil }),
		}},
		{"M15", "bead trail", []studio.Recipe{
			part(
				"bead",
				steps(work("roll", "shaping", 100), dries("dry", "thin", studio.Dry)),
				paste("roll", "petal", ball(5000)),
				wired("roll", 30, 1),
			),
			part(
				"cap",
				steps(work("cut", "shaping", 80), work("stretch", "shaping", 60)),
				paste("cut", "leaf", ball(3000)),
			),
			spray(
				"bead trail",
				steps(
					work("tape", "assembly", 3000),
					work("join stem", "assembly", 300),
					work("cap", "assembly", 900),
					dries("dry", "thin", studio.Dry),
					work("bend", "assembly", 300),
				),
				takes("tape", "bead", 15, least(11), func(p *studio.PartInput) {
					for i := range 15 {
						p.At = append(p.At, studio.Micrometres(i)*8000)
					}
				}),
				takes("cap", "cap", 15, least(11)),
				wired("join stem", 24, 1),
			),
		}, []demand{
			planned("caps put on after the trail is taped", func(r run) bool {
				return r.task("bead trail", "cap").Start >= r.task("bead trail", "tape").End &&
					r.started("cap") >= 30 &&
					r.task("cap", "stretch").End > 0
			}, "bead trail", func(r *studio.Recipe) { r.Parts = r.Parts[:1] }),
			planned(
				"cut and stretched",
				func(r run) bool { return r.task("cap", "stretch").End > 0 },
				"cap",
				without("stretch"),
			),
			said(
				"a stem wire joined in",
				"bead trail",
				func(r *studio.Recipe) bool { return len(r.Wires) == 1 && r.Wires[0].Step == "join stem" },
				func(r *studio.Recipe) { r.Wires[0].Step = "tape" },
			),
			planned("heads bent last", func(r run) bool {
				t := r.task("bead trail", "bend")
				return t.End > 0 && t.Start >= r.task("bead trail", "dry").End
			}, "bead trail", without("bend")),
			said(
				"surplus beads to stock",
				"bead trail",
				func(r *studio.Recipe) bool { return r.Parts[0].Least != nil && *r.Parts[0].Least == 11 },
				func(r *studio.Recipe) { r.Parts[0].Least = nil },
			),
			said(
				"distances along the trail",
				"bead trail",
				func(r *studio.Recipe) bool { return len(r.Parts[0].At) == 15 },
				func(r *studio.Recipe) { r.Parts[0].At = nil },
			),
			{
				"paste kept cold",
				func(r run) bool { return of(r.doc, "kelp").LifeColdMinutes > of(r.doc, "kelp").LifeMinutes },
				func(d *studio.Document) { of(d, "kelp").LifeColdMinutes = 0 },
			},
		}},
		{"M16", "ridge-petalled flower with a column", []studio.Recipe{
			part(
				"foil tray",
				steps(work("fold", "shaping", 400)),
				bought("fold", "foil", 1, 1, ""),
				func(r *studio.Recipe) { r.KeepInStock = 6 },
			),
			part(
				"short stamen",
				steps(work("trim", "wiring", 30), work("paint", "dusting", 30)),
				bought("trim", "stamens", 1, 1, ""),
			),
			part(
				"long stamen",
				steps(work("trim", "wiring", 30), work("paint", "dusting", 30)),
				bought("trim", "long stamens", 1, 1, ""),
			),
			part(
				"column",
				steps(
					work("roll", "shaping", 300),
					work("push in", "shaping", 400, while("", studio.Firm)),
					dries("dry", "thin", studio.Dry),
				),
				paste("roll", "petal", ball(10_000)),
				wired("roll", 26, 1),
				takes("push in", "short stamen", 8),
				takes("push in", "long stamen", 4),
			),
			part(
				"ridged petal",
				steps(work("cut", "shaping", 500, held("foil tray", 2, "dry")), dries("dry", "thin", studio.Dry)),
				paste("cut", "petal", sheet(60_000, 40_000, 1500)),
				wired("cut", 26, 1),
			),
			flower(
				"ridged flower",
				steps(work("tape", "assembly", 1200), work("join column", "assembly", 300)),
				takes("tape", "ridged petal", 5),
				takes("join column", "column", 1, func(p *studio.PartInput) { p.Join = studio.JoinSlotted }),
			),
		}, []demand{
			{
				"trays made first",
				func(r run) bool { return r.doc.Places[7].MadeBy == "foil tray" && r.started("foil tray") >= 6 },
				func(d *studio.Document) { d.Places[7].MadeBy = "" },
			},
			planned(
				"petals dry in the trays",
				func(r run) bool { return slices.Equal(r.holds("ridged petal", "cut"), []studio.ID{"foil tray"}) },
				"ridged petal",
				noHolds("cut"),
			),
			planned("two kinds of stamens, trimmed and painted", func(r run) bool {
				return r.task("short stamen", "paint").End > 0 && r.task("long stamen", "paint").End > 0
			}, "long stamen", without("paint")),
			planned("pushed in while soft", func(r run) bool {
				_, before, _, _ := r.limited("column", "column", "push in")
				return before == studio.Firm
			}, "column", noWindows("push in")),
			planned("wires of petals and column together", func(r run) bool {
				return of(r.doc, "column").Wires[0].Material == of(r.doc, "ridged petal").Wires[0].Material
			}, "column", func(r *studio.Recipe) { r.Wires[0].Material = "wire 24" }),
			planned("the column last", func(r run) bool {
				t := r.task("ridged flower", "join column")
				return t.Start >= r.task("ridged flower", "tape").End && t.Start >= r.task("column", "dry").End &&
					t.End > 0
			}, "ridged flower", without("join column")),
		}},
		{"M20", "poured lace petals", []studio.Recipe{
			made(
				studio.KindMix,
				"lace",
				steps(work("whisk", "mixing", 1500), stands("rest", 30)),
				func(r *studio.Recipe) {
					r.Blend, r.Colour, r.LifeMinutes = []studio.Ingredient{
						{Material: "lace mix", Parts: 1},
					}, "#f4efe6", 5*1440
				},
			),
			part(
				"lace petal",
				steps(
					work("first coat", "shaping", 300, held("mat", 8, "air"), look("right side down")),
					bakes("oven", "oven", 12),
					work("lay wire", "wiring", 120),
					work("second coat", "shaping", 250),
					dries("air", "thin", studio.Dry),
					work("peel", "shaping", 100, look("still bends")),
				),
				paste(
					"first coat",
					"lace",
					studio.Geometry{Shape: studio.ShapeWeighed, Mass: 900},
				),
				paste("second coat", "lace", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 700}),
				wired("lay wire", 30, 1),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"lace": "lace"} },
				variant(
					studio.Variant{Name: "flat", Without: []string{"lay wire"}},
				),
				variant(
					studio.Variant{
						Name: "with a solid layer",
						Pastes: []studio.PasteInput{
							{Step: "second coat", Slot: "petal", Shape: sheet(40_000, 30_000, 400)},
						},
					},
				),
			),
			flower(
				"lace blossom",
				steps(work("tape", "assembly", 900)),
				takes("tape", "lace petal", 4),
				takes("tape", "lace petal", 1, func(p *studio.PartInput) { p.Variant = "flat" }),
				takes("tape", "lace petal", 1, func(p *studio.PartInput) { p.Variant = "with a solid layer" }),
			),
		}, []demand{
			planned(
				"a poured mix",
				func(r run) bool { return len(r.lots("lace", "")) > 0 },
				"lace petal",
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"lace": "white"} },
			),
			planned("on the mat through both coats", func(r run) bool {
				h := r.task("lace petal", "first coat").Holds
				return len(h) == 1 && h[0].To >= r.task("lace petal", "air").End
			}, "lace petal", func(r *studio.Recipe) { at(r, "first coat").Holds[0].Until = "first coat" }),
			planned("a coat in the oven", func(r run) bool {
				t := r.task("lace petal", "oven")
				return t.Load != nil && t.Load.Machine == "oven"
			}, "lace petal", without("oven")),
			planned("a second coat", func(r run) bool {
				return len(r.book.Recipe("lace petal").Pastes) == 2 && r.task("lace petal", "second coat").End > 0
			}, "lace petal", func(r *studio.Recipe) { r.Pastes = r.Pastes[:1] }),
			planned("drying that goes by the air", func(r run) bool {
				return r.instance.Activities()[r.task("lace petal", "air").ID].Wait.Least.Dries != nil
			}, "lace petal", func(r *studio.Recipe) { at(r, "air").Wait = &studio.Wait{Minutes: 600} }),
			said(
				"a right side",
				"lace petal",
				func(r *studio.Recipe) bool { return at(r, "first coat").Look != "" },
				func(r *studio.Recipe) { at(r, "first coat").Look = "" },
			),
			said(
				"flexible when done",
				"lace petal",
				func(r *studio.Recipe) bool { return at(r, "peel").Look != "" },
				func(r *studio.Recipe) { at(r, "peel").Look = "" },
			),
			planned("flat, wired, with a solid layer", func(r run) bool {
				return len(r.lots("lace petal", "flat")) == 1 && len(r.lots("lace petal", "with a solid layer")) == 1
			}, "lace blossom", func(r *studio.Recipe) { r.Parts[1].Variant = "" }),
		}},
	}
}
