package methods

import (
	"slices"

	"bractum/core/studio"
)

// daisies are M01, M03, M08, M12, M13 and M21: centres, one-piece layers, small
// blossoms in bulk.
func daisies() []method {
	return []method{
		{"M01", "moulded daisy on a wire", mouldedDaisy(), []demand{
			planned("single and double", func(r run) bool {
				return len(r.lots("daisy", "single")) > 0 && len(r.lots("daisy", "")) > 0
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
				func(r run) bool { return r.started("centre") >= 12+10 },
				"centre",
				func(r *studio.Recipe) { r.KeepInStock = 0 },
			),
			said(
				"order and distances on the spray",
				"daisy spray",
				func(r *studio.Recipe) bool {
					return slices.Equal(r.Parts[0].At, []studio.Micrometres{0, 15_000, 25_000})
				},
				func(r *studio.Recipe) { r.Parts[0].At = nil },
			),
		}},
		{"M03", "pulled five-petal blossom", pulledBlossom(), []demand{
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
				return a.Work[0].Total() == studio.Milliminutes(studio.CeilDiv(a.Pieces*300*120, 1000))
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
		{"M08", "flat daisy", flatDaisy(), []demand{
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
		{"M12", "flat decorations", flatDecorations(), []demand{
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
				func(r *studio.Recipe) bool { return r.Pastes[0].Slot == "icing" && r.Materials[0].Amount == 60 },
				func(r *studio.Recipe) { r.Materials[0].Amount = 1 },
			),
			planned(
				"many tiny units in one grip",
				func(r run) bool { return r.effort("small blossom", "cut") <= 5000 },
				"small blossom",
				func(r *studio.Recipe) { at(r, "cut").Work.Together = 0; at(r, "cut").Work.PerPiece = 200 },
			),
		}},
		{"M13", "wafer-paper blossoms", waferBlossom(), []demand{
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
				return r.Effort(at(r, "snip").Work, false, 10) == 750 && at(r, "cup").Work.Form == "cupped"
			}, func(r *studio.Recipe) { at(r, "snip").Work.Form = "" }),
			planned("brushes in twos", func(r run) bool {
				return r.started("brush")%2 == 0 && r.task("brush", "wind").Pieces*2 == r.started("brush")
			}, "brush", func(r *studio.Recipe) { r.Yield = nil }),
			said("sizes that increase", "wafer spray", func(r *studio.Recipe) bool {
				return r.Parts[0].At[2] < r.Parts[1].At[0] && r.Parts[1].Variant == "large"
			}, func(r *studio.Recipe) { r.Parts[1].Variant = "" }),
		}},
		{"M21", "tiny blossoms in bulk", lilacPips(), []demand{
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
