package methods

import (
	"slices"

	"bractum/core/studio"
)

// peonies are M02, M04, M05, M06, M11 and M17: many petals around a core, in layers
// or wired one by one.
func peonies() []method {
	return []method{
		{"M02", "ruffled rose", ruffledRose(), []demand{
			planned(
				"a sub-assembly several times over",
				func(r run) bool { return r.started("clad cone") >= 8 },
				"ruffled rose",
				func(r *studio.Recipe) { input(r, "clad cone").Count = 1 },
			),
			planned("bunched while the cones still give", func(r run) bool {
				from, before, _, _ := r.limited("clad cone", "ruffled rose", "bunch")
				return from == studio.Firm && before == studio.Stiff
			}, "ruffled rose", func(r *studio.Recipe) {
				input(r, "clad cone").Window, input(r, "clad cone").Wants = nil, studio.WantsAny
			}),
			planned(
				"a paste that dries fast",
				func(r run) bool { return r.need("cone", "set") < 200_000 },
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
		{"M04", "peony in glued layers", layeredPeony(), []demand{
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
		{"M05", "petals and calyx around a dry core", coredBlossom(), []demand{
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
		{"M06", "tree peony, painted", treePeony(), []demand{
			said(
				"a matrix of sizes",
				"outer wing",
				func(r *studio.Recipe) bool { return r.Pastes[0].Shape.Length == 65_000 },
				func(r *studio.Recipe) { r.Pastes[0].Shape.Length = 45_000 },
			),
			planned("coats on the soft petal, a least wait between", func(r run) bool {
				return r.task("inner wing", "second coat").Start-r.task("inner wing", "paint").End >= 2 &&
					r.inTime("inner wing", "second coat") == studio.Stiff
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
				return ok && v.Steps[3].Key == "vein"
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
		{"M11", "full peony on half a foam ball", fullPeony(), []demand{
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
				cup := r.instance.Activities()[r.task("whole petal", "cup").ID]
				return from == studio.Firm && before == studio.Stiff &&
					cup.Work[0].Total() == studio.Milliminutes(studio.CeilDiv(cup.Pieces*600*200, 1000))
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
				return r.started("cluster") >= 6 &&
					r.started("half petal") >= 4*r.started("cluster")+6*r.started("full peony")
			}, "full peony", func(r *studio.Recipe) {
				r.Parts = slices.DeleteFunc(r.Parts, func(p studio.PartInput) bool { return p.Recipe == "half petal" })
			}),
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
		{"M17", "wired peony, powdered and steamed", pressedPeony(), []demand{
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
			planned("most of a day before dusting, and then taped", func(r run) bool {
				return r.task("veined petal", "powder").Start-r.task("veined petal", "press").End >= 1200 &&
					r.task("steamed peony", "tape").Start >= r.task("veined petal", "powder").End
			}, "veined petal", without("rest")),
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

// inTime is the state before which a window of a recipe's own has a step begin.
func (r run) inTime(recipe studio.ID, step string) studio.State {
	_, before, _, _ := r.limited(recipe, recipe, step)
	return before
}
