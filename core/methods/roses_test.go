package methods

import (
	"slices"

	"bractum/core/studio"
)

// roses are M07, M09, M18 and M19: rows, cut-outs and centres of thread.
func roses() []method {
	stamenRed := func(r *studio.Recipe) { bought("colour", "stamens", 1, 1, "")(r) }
	return []method{
		{"M07", "open rose", []studio.Recipe{
			part(
				"wound centre",
				steps(work("wind", "wiring", 800), work("open", "wiring", 100)),
				bought("wind", "thread", 1, 1, ""),
				wired("wind", 26, 1),
				yields("wind", 2),
			),
			part(
				"small petal",
				steps(work("shape", "shaping", 500), dries("dry", "thin", studio.Dry)),
				paste("shape", "petal", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 400}),
				wired("shape", 30, 1),
			),
			part(
				"large petal",
				steps(work("shape", "shaping", 600), dries("dry", "thin", studio.Dry)),
				paste("shape", "petal", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 1200}),
				wired("shape", 26, 1),
			),
			part(
				"loose petal",
				steps(work("shape", "shaping", 400), dries("dry", "thin", studio.Firm)),
				paste("shape", "petal", studio.Geometry{Shape: studio.ShapeWeighed, Mass: 500}),
			),
			flower(
				"open rose",
				steps(
					work("dust petals", "dusting", 500, coloured("dust")),
					work("tape", "assembly", 1500),
					work("try dry", "assembly", 200),
					work("glue", "assembly", 600),
					stands("set", 60),
					work("dust again", "dusting", 300, coloured("dust")),
				),
				takes(
					"dust petals",
					"small petal",
					5,
					func(p *studio.PartInput) { p.Join = studio.JoinTaped },
				),
				takes("dust petals", "large petal", 6),
				takes("tape", "wound centre", 1),
				takes("glue", "loose petal", 3, func(p *studio.PartInput) { p.Join = studio.JoinGlued }),
			),
		}, []demand{
			planned("centres in twos", func(r run) bool {
				return r.started("wound centre")%2 == 0 &&
					r.task("wound centre", "wind").Pieces*2 == r.started("wound centre") &&
					r.task("wound centre", "open").Pieces == r.started("wound centre")
			}, "wound centre", func(r *studio.Recipe) { r.Yield = nil }),
			said(
				"a wire by the petal's weight",
				"small petal",
				func(r *studio.Recipe) bool { return r.Wires[0].Material == "wire 30" },
				func(r *studio.Recipe) { r.Wires[0].Material = "wire 26" },
			),
			said("taped and glued in an order", "open rose", func(r *studio.Recipe) bool {
				return input(r, "small petal").Join == studio.JoinTaped &&
					input(r, "loose petal").Join == studio.JoinGlued
			}, func(r *studio.Recipe) { input(r, "loose petal").Join = "" }),
			planned("tried dry before gluing", func(r run) bool {
				return r.task("open rose", "try dry").End > 0 &&
					r.task("open rose", "glue").Start >= r.task("open rose", "try dry").End
			}, "open rose", without("try dry")),
			planned("dusted before and again after", func(r run) bool {
				return r.task("open rose", "dust again").Start > r.task("open rose", "dust petals").End
			}, "open rose", without("dust again")),
			said(
				"freehand, with no cutter",
				"loose petal",
				func(r *studio.Recipe) bool { return r.Pastes[0].Shape.Shape == studio.ShapeWeighed },
				func(r *studio.Recipe) { r.Pastes[0].Shape = sheet(30_000, 30_000, 700) },
			),
		}},
		{"M09", "garden rose built outside-in", []studio.Recipe{
			part("disc", steps(work("cut", "shaping", 60)), paste("cut", "pale", ball(4000))),
			part("layer", steps(work("cut", "shaping", 700)), paste("cut", "petal", sheet(70_000, 70_000, 700))),
			part(
				"folded centre",
				steps(work("fold", "shaping", 900)),
				paste("fold", "petal", sheet(60_000, 20_000, 700)),
			),
			part("pen stamens", steps(work("colour", "dusting", 60)), stamenRed),
			flower(
				"garden rose",
				steps(
					work("build", "assembly", 2000, held("half-sphere", 1, "harden")),
					work("dust", "dusting", 300, coloured("dust")),
					work("slot", "assembly", 200),
					dries("harden", "thin", studio.Dry),
				),
				takes(
					"build",
					"layer",
					2,
					fresh(studio.Firm, studio.Dry),
					func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "pale"} },
				),
				takes(
					"build",
					"layer",
					2,
					fresh(studio.Firm, studio.Dry),
					func(p *studio.PartInput) { p.Slots = map[string]string{"petal": "deep"} },
				),
				takes(
					"build",
					"disc",
					3,
				),
				takes("build", "folded centre", 5),
				takes("slot", "pen stamens", 12, func(p *studio.PartInput) { p.Join = studio.JoinSlotted }),
				func(r *studio.Recipe) { r.Build = studio.OutsideIn },
			),
		}, []demand{
			said(
				"the order the other way round",
				"garden rose",
				func(r *studio.Recipe) bool { return r.Build == studio.OutsideIn },
				func(r *studio.Recipe) { r.Build = "" },
			),
			planned(
				"shades of one colour",
				func(r run) bool { return len(r.lots("layer", "")) == 2 },
				"garden rose",
				func(r *studio.Recipe) { r.Parts[0].Slots = r.Parts[1].Slots },
			),
			planned("layers shaped and not dry when joined", func(r run) bool {
				from, before, _, _ := r.limited("layer", "garden rose", "build")
				return from == studio.Firm && before == studio.Dry
			}, "garden rose", func(r *studio.Recipe) { r.Parts[0].Window, r.Parts[1].Window = nil, nil }),
			planned(
				"small discs between",
				func(r run) bool { return r.started("disc") >= 6 },
				"garden rose",
				func(r *studio.Recipe) { input(r, "disc").Count = 1 },
			),
			planned("stamens coloured with a pen, slotted in last", func(r run) bool {
				return r.task("garden rose", "slot").Start >= r.task("pen stamens", "colour").End &&
					r.task("pen stamens", "colour").End > 0 &&
					input(of(r.doc, "garden rose"), "pen stamens").Join == studio.JoinSlotted
			}, "garden rose", func(r *studio.Recipe) { input(r, "pen stamens").Join = "" }),
			planned("dusted after assembly", func(r run) bool {
				return r.task("garden rose", "dust").Start >= r.task("garden rose", "build").End &&
					r.task("garden rose", "dust").End > 0
			}, "garden rose", without("dust")),
			planned("in its former until it is hard", func(r run) bool {
				h := r.task("garden rose", "build").Holds
				return len(h) == 1 && h[0].To >= r.task("garden rose", "harden").End
			}, "garden rose", func(r *studio.Recipe) { at(r, "build").Holds[0].Until = "build" }),
		}},
		{"M18", "rose in interleaved rows", []studio.Recipe{
			part(
				"cone",
				steps(work("roll", "shaping", 400), dries("dry", "solid", studio.Dry, thick(10_000))),
				paste("roll", "core", ball(15_000)),
				wired("roll", 24, 1),
				func(r *studio.Recipe) { r.Defaults = map[string]studio.ID{"core": "white"} },
			),
			part(
				"row petal",
				steps(
					work("cut", "shaping", 300, stint("petals", 12)),
					work("nick", "shaping", 40, stint("petals", 12), share(400)),
					stands("in the spoon", 6, held("spoon tray", 4, "in the spoon")),
				),
				paste("cut", "petal", sheet(45_000, 40_000, 700)),
			),
			part(
				"filler bud",
				steps(work("roll", "shaping", 200), work("twist", "shaping", 100, ofForm("twisted"))),
				paste("roll", "petal", ball(8000)),
				inForms(studio.Form{Name: "plain", Share: 500}, studio.Form{Name: "twisted", Share: 500}),
			),
			part("bead", steps(work("roll", "shaping", 60)), paste("roll", "leaf", ball(4000))),
			flower(
				"row rose",
				steps(
					work("first row", "assembly", 600),
					stands("hold", 10),
					work("rows", "assembly", 1500),
					stands("set", 15),
					work("dust", "dusting", 200, coloured("dust"), func(s *studio.Step) {
						s.Windows = []studio.Window{
							{After: "rows", Before: studio.Dry, Drying: studio.Drying{Class: "thin", Thickness: 800}},
						}
					}),
					dries("dry", "thin", studio.Dry),
					work("calyx", "assembly", 200),
				),
				takes(
					"first row",
					"cone",
					1,
				),
				takes("first row", "row petal", 3, func(p *studio.PartInput) { p.Join = studio.JoinWet }),
				takes("rows", "row petal", 12, func(p *studio.PartInput) {
					p.Rows, p.Set, p.Join = []int64{5, 7}, studio.SetOverGaps, studio.JoinGlued
				}),
				takes("calyx", "bead", 1),
				bought("rows", "film", 4, 1, "calyx"),
				variant(studio.Variant{Name: "bud", StopAfter: "hold"}),
			),
			spray(
				"rose spray",
				steps(work("tape", "assembly", 900)),
				takes("tape", "row rose", 1),
				takes("tape", "row rose", 1, func(p *studio.PartInput) { p.Variant = "bud" }),
				takes("tape", "filler bud", 2, func(p *studio.PartInput) { p.Form = "plain" }),
				takes("tape", "filler bud", 2, func(p *studio.PartInput) { p.Form = "twisted" }),
			),
		}, []demand{
			said("the pattern of rows", "row rose", func(r *studio.Recipe) bool {
				return slices.Equal(r.Parts[2].Rows, []int64{5, 7}) && r.Parts[2].Set == studio.SetOverGaps
			}, func(r *studio.Recipe) { r.Parts[2].Rows = nil }),
			planned("pre-set some minutes in spoons", func(r run) bool {
				return r.task("row petal", "in the spoon").End-r.task("row petal", "in the spoon").Start == 6 &&
					slices.Equal(r.holds("row petal", "in the spoon"), []studio.ID{"spoon tray"})
			}, "row petal", without("in the spoon")),
			planned("a dozen at a time", func(r run) bool {
				runs := r.instance.Activities()[r.task("row petal", "cut").ID].Work
				return runs[len(runs)-1].Run >= 2
			}, "row petal", func(r *studio.Recipe) { at(r, "cut").Work.Run, at(r, "nick").Work.Run = 0, 0 }),
			said(
				"a share nicked",
				"row petal",
				func(r *studio.Recipe) bool { return r.Effort(at(r, "nick").Work, false, 10) == 160 },
				func(r *studio.Recipe) { at(r, "nick").Work.Share = 0 },
			),
			planned("a bud shares the first steps", func(r run) bool {
				l := r.lots("row rose", "bud")
				return len(l) == 1 && len(r.tasksOf(l[0].ID)) == 2
			}, "row rose", func(r *studio.Recipe) { r.Variants[0].StopAfter = "" }),
			said("water on soft, glue on half-dry", "row rose", func(r *studio.Recipe) bool {
				return r.Parts[1].Join == studio.JoinWet && r.Parts[2].Join == studio.JoinGlued
			}, func(r *studio.Recipe) { r.Parts[1].Join = studio.JoinGlued }),
			said(
				"film that comes out",
				"row rose",
				func(r *studio.Recipe) bool { return r.Materials[0].OutAt == "calyx" },
				func(r *studio.Recipe) { r.Materials[0].OutAt = "" },
			),
			planned(
				"a bead under the calyx",
				func(r run) bool { return r.started("bead") >= 2 },
				"row rose",
				func(r *studio.Recipe) { r.Parts = r.Parts[:3] },
			),
			planned("two shapes of filler bud", func(r run) bool {
				return r.effort("filler bud", "twist") == studio.Milliminutes(r.started("filler bud")*50)
			}, "filler bud", func(r *studio.Recipe) { at(r, "twist").Work.Form = "" }),
			planned("dusted before it is quite dry", func(r run) bool {
				_, before, _, _ := r.limited("row rose", "row rose", "dust")
				return before == studio.Dry
			}, "row rose", noWindows("dust")),
		}},
		{"M19", "rose from one-piece cut-outs", []studio.Recipe{
			part("cut-out", steps(work("cut", "shaping", 400)), paste("cut", "petal", sheet(60_000, 60_000, 600))),
			part(
				"calyx",
				steps(work("cut", "shaping", 150)),
				paste("cut", "leaf", ball(4000)),
				variant(
					studio.Variant{
						Name:   "wide",
						Pastes: []studio.PasteInput{{Step: "cut", Slot: "leaf", Shape: ball(7000)}},
					},
				),
			),
			part(
				"leaf",
				steps(work("cut", "shaping", 200)),
				paste("cut", "leaf", sheet(30_000, 18_000, 500)),
				wired("cut", 30, 1),
			),
			flower(
				"cut-out rose",
				steps(
					work("heart", "assembly", 500, look("smooth")),
					stands("set heart", 5),
					work("middle", "assembly", 600, look("edges fluted")),
					stands("set middle", 10),
					work("skirt", "assembly", 700, look("edges turned back")),
					stands("set", 20),
					work("calyx", "assembly", 150),
					work("steam", "dusting", 30),
					stands("dry off", 20),
				),
				takes(
					"heart",
					"cut-out",
					1,
					func(p *studio.PartInput) { p.Sequence = []int64{1, 3, 5, 2, 4} },
				),
				takes("middle", "cut-out", 1),
				takes("skirt", "cut-out", 2),
				takes("calyx", "calyx", 1, func(p *studio.PartInput) { p.Variant = "wide" }),
				variant(
					studio.Variant{Name: "small", StopAfter: "set middle"},
				),
				variant(
					studio.Variant{
						Name:    "bud",
						Without: []string{"middle", "set middle", "skirt", "set"},
						Parts:   []studio.PartInput{{Step: "calyx", Recipe: "calyx", Count: 1}},
					},
				),
			),
			spray(
				"cut-out spray",
				steps(work("tape", "assembly", 900)),
				takes("tape", "cut-out rose", 1),
				takes("tape", "cut-out rose", 1, func(p *studio.PartInput) { p.Variant = "small" }),
				takes("tape", "cut-out rose", 1, func(p *studio.PartInput) { p.Variant = "bud" }),
				takes("tape", "leaf", 3),
			),
		}, []demand{
			planned("a variant that stops after a stage", func(r run) bool {
				l := r.lots("cut-out rose", "small")
				return len(l) == 1 && len(r.tasksOf(l[0].ID)) == 4
			}, "cut-out rose", func(r *studio.Recipe) { r.Variants[0].StopAfter = "" }),
			said(
				"the order of petals in one cut-out",
				"cut-out rose",
				func(r *studio.Recipe) bool { return len(r.Parts[0].Sequence) == 5 },
				func(r *studio.Recipe) { r.Parts[0].Sequence = nil },
			),
			said(
				"texture by stage",
				"cut-out rose",
				func(r *studio.Recipe) bool { return at(r, "middle").Look != at(r, "skirt").Look },
				func(r *studio.Recipe) { at(r, "middle").Look = at(r, "skirt").Look },
			),
			planned("minutes between stages", func(r run) bool {
				return r.task("cut-out rose", "middle").Start-r.task("cut-out rose", "heart").End >= 5 &&
					r.task("cut-out rose", "set heart").End > 0
			}, "cut-out rose", without("set heart")),
			planned(
				"a calyx by variant",
				func(r run) bool { return len(r.lots("calyx", "wide")) == 1 && len(r.lots("calyx", "")) == 1 },
				"cut-out rose",
				func(r *studio.Recipe) { r.Variants[1].Parts[0].Variant = "wide" },
			),
			planned(
				"steamed",
				func(r run) bool { return r.task("cut-out rose", "steam").End > 0 },
				"cut-out rose",
				without("steam"),
			),
			planned(
				"taped with leaves",
				func(r run) bool { return r.started("leaf") >= 6 },
				"cut-out spray",
				func(r *studio.Recipe) { r.Parts = r.Parts[:3] },
			),
		}},
	}
}

// ofLot is the planned task of a step of one lot; an empty one without it.
func (r run) ofLot(lot studio.ID, step string) studio.Task {
	for _, t := range r.tasksOf(lot) {
		if t.Step == step {
			return t
		}
	}
	return studio.Task{}
}

func (r run) tasksOf(lot studio.ID) []studio.Task {
	var all []studio.Task
	for _, t := range r.plan.Tasks {
		if t.Lot == lot {
			all = append(all, t)
		}
	}
	return all
}
