package methods

import (
	"slices"

	"bractum/core/studio"
)

// roses are M07, M09, M18 and M19: rows, cut-outs and centres of thread.
func roses() []method {
	return []method{
		{"M07", "open rose", openRose(), []demand{
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
		{"M09", "garden rose built outside-in", outsideInRose(), []demand{
			said(
				"the order the other way round",
				"garden rose",
				func(r *studio.Recipe) bool { return r.Build == studio.OutsideIn },
				func(r *studio.Recipe) { r.Build = "" },
			),
			planned(
				"shades of one colour",
				func(r run) bool { return len(r.shades("layer", "petal")) == 2 },
				"garden rose",
				func(r *studio.Recipe) { r.Parts[0].Slots = r.Parts[1].Slots },
			),
			planned("layers shaped and not dry when joined", func(r run) bool {
				_, before, _, _ := r.limited("layer", "garden rose", "build")
				return before == studio.Stiff
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
		{"M18", "rose in interleaved rows", rowRose(), []demand{
			said("the pattern of rows", "row rose", func(r *studio.Recipe) bool {
				return slices.Equal(r.Parts[3].Rows, []int64{5, 7}) && r.Parts[3].Set == studio.SetOverGaps
			}, func(r *studio.Recipe) { r.Parts[3].Rows = nil }),
			planned("pre-set some minutes in spoons", func(r run) bool {
				return r.task("row petal", "in the spoon").End-r.task("row petal", "in the spoon").Start == 6 &&
					slices.Equal(r.holds("row petal", "in the spoon"), []studio.ID{"spoon tray"})
			}, "row petal", without("in the spoon")),
			planned("in runs that stay soft", func(r run) bool {
				return len(r.instance.Activities()[r.task("row petal", "cut").ID].Within) > 0
			}, "row petal", func(r *studio.Recipe) {
				for i := range r.Steps[:4] {
					r.Steps[i].Work.Stint = ""
				}
			}),
			said(
				"a share nicked",
				"row petal",
				func(r *studio.Recipe) bool { return r.Effort(at(r, "nick").Work, false, 10) == 240 },
				func(r *studio.Recipe) { at(r, "nick").Work.Share = 0 },
			),
			planned("a bud shares the first steps", func(r run) bool {
				l := r.lots("row rose", "bud")
				return len(l) > 0 && len(r.tasksOf(l[0].ID)) == 2
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
				func(r *studio.Recipe) { r.Parts = r.Parts[:5] },
			),
			planned("two shapes of filler bud", func(r run) bool {
				twist := r.instance.Activities()[r.task("filler bud", "twist").ID]
				return twist.Work[0].Total() == studio.Milliminutes(studio.CeilDiv(twist.Pieces*500*300, 1000))
			}, "filler bud", func(r *studio.Recipe) { at(r, "twist").Work.Form = "" }),
			planned("dusted before it is quite dry", func(r run) bool {
				_, before, _, _ := r.limited("row rose", "row rose", "dust")
				return before == studio.Dry
			}, "row rose", noWindows("dust")),
		}},
		{"M19", "rose from one-piece cut-outs", cutOutRose(), []demand{
			planned("a variant that stops after a stage", func(r run) bool {
				l := r.lots("cut-out rose", "small")
				return len(l) > 0 && len(r.tasksOf(l[0].ID)) == 4
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
				func(r run) bool { return len(r.lots("calyx", "wide")) > 0 && len(r.lots("calyx", "")) > 0 },
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
