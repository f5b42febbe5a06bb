package methods

import (
	"slices"

	"bractum/core/studio"
)

// others are M10, M14, M15, M16 and M20: orchid, lily, beads, ridged petals and
// poured lace.
func others() []method {
	return []method{
		{"M10", "orchid from embossed pieces", orchid(), []demand{
			planned("left stuck to the board", func(r run) bool {
				h := r.task("lip", "roll").Holds
				return len(h) == 1 && h[0].Place == "board" && h[0].To >= r.task("lip", "emboss").End
			}, "lip", noHolds("roll")),
			planned("dusted before it sets", func(r run) bool {
				return r.task("lip", "dust").End > 0 && r.task("lip", "set").Start >= r.task("lip", "dust").End
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
				func(r run) bool {
					return len(r.shades("sepal", "pale")) > 0 && len(r.shades("lip", "petal")) > 0 &&
						!r.shades("sepal", "petal")["kelp"]
				},
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
		{"M14", "lily-like flower", lily(), []demand{
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
		{"M15", "bead trail", beadTrail(), []demand{
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
				func(r *studio.Recipe) bool { return r.Parts[0].Least != nil && *r.Parts[0].Least == 19 },
				func(r *studio.Recipe) { r.Parts[0].Least = nil },
			),
			said(
				"distances along the trail",
				"bead trail",
				func(r *studio.Recipe) bool { return len(r.Parts[0].At) == 25 },
				func(r *studio.Recipe) { r.Parts[0].At = nil },
			),
			{
				"paste kept cold",
				func(r run) bool { return of(r.doc, "kelp").LifeColdMinutes > of(r.doc, "kelp").LifeMinutes },
				func(d *studio.Document) { of(d, "kelp").LifeColdMinutes = 0 },
			},
		}},
		{"M16", "ridge-petalled flower with a column", ridgedFlower(), []demand{
			{
				"trays made first",
				func(r run) bool { return r.doc.Places[7].MadeBy == "foil tray" && r.started("foil tray") >= 6 },
				func(d *studio.Document) { d.Places[7].MadeBy = "" },
			},
			planned(
				"petals dry in the trays",
				func(r run) bool { return slices.Equal(r.holds("ridged petal", "frill"), []studio.ID{"foil tray"}) },
				"ridged petal",
				noHolds("frill"),
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
		{"M20", "poured lace petals", laceBlossom(), []demand{
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
			}, "lace petal", func(r *studio.Recipe) { at(r, "oven").Wait = &studio.Wait{Minutes: 12} }),
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
