package pattern

import "bractum/core/studio"

const (
	sharp   = "Wire ends and blades are sharp; guard your eyes when cutting wire."
	notFood = "Wire and tape are not food: count them, and never push bare wire into cake."
	dusty   = "Only dusts labelled edible are food. Do not breathe dust; keep it from flames; tap it off, never blow."
	hot     = "Ovens burn. No foam, no plastic and no glued core goes in."
)

var patterns = []Beginning{
	{Key: "moulded", lay: moulded},
	{Key: "wired", lay: wired},
	{Key: "layered", lay: layered},
	{Key: "rows", lay: rows},
	{Key: "cut-outs", lay: cutOuts},
	{Key: "outside-in", lay: outsideIn},
	{Key: "pulled", lay: pulled},
	{Key: "lace", lay: lace},
	{Key: "wafer", lay: wafer},
	{Key: "trail", lay: trail},
	{Key: "flat", lay: flat},
}

func (l *layer) core(
	name, form string,
	shape studio.Geometry,
	gauge studio.Gauge,
	thickness studio.Micrometres,
) studio.ID {
	r := l.part(
		name,
		form,
		l.in(
			looked(
				work("form", "Form on a hooked wire", "shape", "shaping", 10*minute, 1600),
				"Centred on its wire; it does not turn.",
				sharp,
			),
			10,
			"dry",
			"foam block",
			"foam",
		),
		looked(l.dries("dry", "Dry upright", true, 15_000, studio.Dry), "Hard, no cool feel."),
	)
	paste(r, "form", "core", shape, 0)
	l.wire(r, "form", gauge, 14_000, 110_000, 8_000, studio.HookOpen)
	r.SecondsServe = true
	return r.ID
}

func (l *layer) wiredPiece(
	name, form, slot string,
	shape studio.Geometry,
	gauge studio.Gauge,
	former ...string,
) studio.ID {
	r := l.part(
		name,
		form,
		looked(
			work("cut", "Roll over a ridge and cut", "shape", "shaping", 8*minute, 900),
			"A thick foot for the wire, a clean edge.",
		),
		looked(
			work("wire", "Wire, pinch the foot", "wire", "wiring", 5*minute, 1600),
			"Straight in, pinched, does not turn.",
			sharp,
			notFood,
		),
		l.in(
			looked(
				work("set", "Vein and lay in the former", "shape", "shaping", 4*minute, 600),
				"Veins on the side that will be seen.",
			),
			1,
			"dry",
			former...),
		looked(
			l.dries("dry", "Dry in the former", false, shape.Thickness, studio.Dry),
			"Hard, the same curve as the others.",
		),
		looked(work("dust", "Dust", "dust", "dusting", 6*minute, 500), "No harsh line.", dusty),
	)
	paste(r, "cut", slot, shape, 12)
	paste(r, "dust", "dust", studio.Weighed(15), 0)
	l.wire(r, "wire", gauge, shape.Length/3, 80_000, 0, studio.HookStraight)
	return r.ID
}

func (l *layer) plainPiece(name, form, slot string, shape studio.Geometry, run int64) studio.ID {
	r := l.part(
		name,
		form,
		l.in(
			looked(
				work("cut", "Roll, cut and thin the edge", "shape", "shaping", 6*minute, 500),
				"Light passes through; the edge is clean.",
			),
			40,
			"set",
			"spoon",
			"tray",
		),
		looked(
			l.dries("set", "Set a little", false, max(500, shape.Thickness), studio.Firm),
			"Holds its cup, still bends.",
		),
	)
	paste(r, "cut", slot, shape, run)
	r.SecondsServe = true
	return r.ID
}

func (l *layer) calyx() studio.ID {
	r := l.part(
		"calyx",
		"calyx",
		looked(work("cut", "Roll thin and cut", "shape", "shaping", 4*minute, 300), "Thinner than the petals."),
	)
	paste(r, "cut", "leaf", studio.Sheet(30_000, 30_000, 500, 450), 20)
	return r.ID
}

func (l *layer) hang(s studio.Step) studio.Step { return l.in(s, 12, s.Key, "rail", "hang") }

func moulded(l *layer) {
	centre := l.core("centre", "centre", studio.Ball(14_000), 22, 12_000)
	petals := l.plainPiece("petal layer", "daisy", "petal", studio.Sheet(55_000, 55_000, 700, 480), 8)
	calyx := l.calyx()
	r := l.flower(
		"layered",
		looked(
			work("first", "Thread and glue the first layer", "assemble", "assembly", 6*minute, 2500),
			"Petals level around the centre.",
		),
		looked(
			work("second", "Thread the second layer", "assemble", "assembly", 2*minute, 2500),
			"Its petals over the gaps of the first.",
		),
		l.hang(stands("hang", "Hang upside down", 10)),
		l.in(l.dries("dry", "Dry upright", false, 1500, studio.Dry), 10, "dry", "foam block", "foam"),
		looked(work("calyx", "Glue on the calyx", "assemble", "assembly", 3*minute, 1200), "Points to the stem."),
	)
	takes(r, "first", centre, 1)
	takes(r, "first", petals, 1).Join = studio.JoinThreaded
	second := takes(r, "second", petals, 1)
	second.Join, second.Set = studio.JoinThreaded, studio.SetOverGaps
	takes(r, "calyx", calyx, 1).Join = studio.JoinGlued
}

func wired(l *layer) {
	centre := l.core("centre", "cone", studio.Rope(12_000, 30_000), 18, 12_000)
	inner := l.wiredPiece(
		"inner petal",
		"petal",
		"inner petal",
		studio.Sheet(42_000, 30_000, 800, 760),
		26,
		"half-sphere",
		"mould",
		"spoon",
	)
	outer := l.wiredPiece(
		"outer petal",
		"petal",
		"petal",
		studio.Sheet(56_000, 42_000, 800, 760),
		24,
		"half-sphere",
		"mould",
		"spoon",
	)
	leaf := l.wiredPiece("leaf", "leaf", "leaf", studio.Sheet(45_000, 22_000, 700, 700), 26, "wavy", "foam")
	r := l.flower(
		"wired",
		looked(
			work("tape", "Tape petals to the centre", "assemble", "assembly", 10*minute, 10*minute),
			"Into the gaps of the row before; no wire or white showing.",
			notFood,
		),
		looked(
			work("leaves", "Tape the leaves", "assemble", "assembly", 2*minute, 1500),
			"One stem, all wires hidden.",
			notFood,
		),
	)
	takes(r, "tape", centre, 1)
	takes(r, "tape", inner, 0, 5).Join = studio.JoinTaped
	takes(r, "tape", outer, 0, 5).Join = studio.JoinTaped
	takes(r, "leaves", leaf, 3).Join = studio.JoinTaped
	l.bought(r, "tape", "tape", 300)
}

func layered(l *layer) {
	inner := l.plainPiece("inner petal", "petal", "inner petal", studio.Sheet(35_000, 32_000, 700, 785), 20)
	outer := l.plainPiece("outer petal", "petal", "petal", studio.Sheet(50_000, 46_000, 700, 785), 16)
	core := l.part(
		"core",
		"ball",
		looked(
			work("fix", "Fix the ball on its wires", "wire", "wiring", 8*minute, 3*minute),
			"It does not turn.",
			sharp,
			"Hot glue burns.",
			"Foam and hot glue are not food.",
		),
		stands("cool", "Let the glue cool", 20),
	)
	l.wire(core, "fix", 18, 20_000, 150_000, 15_000, studio.HookStraight)
	l.bought(core, "fix", "foam ball", 1)
	id := core.ID
	r := l.flower(
		"layered",
		looked(
			work("first", "Glue the first layer", "assemble", "assembly", 6*minute, 6*minute),
			"Closed over the ball, no foam showing.",
		),
		l.hang(l.dries("hold", "Hang until it holds", false, 1500, studio.Firm)),
		looked(
			work("second", "Glue the second layer", "assemble", "assembly", 4*minute, 8*minute),
			"Over the gaps of the first.",
		),
		l.hang(l.dries("hang", "Hang to dry", false, 1500, studio.Dry)),
	)
	takes(r, "first", id, 1)
	takes(r, "first", inner, 0, 6).Join = studio.JoinGlued
	last := takes(r, "second", outer, 0, 8)
	last.Join, last.Reversed = studio.JoinGlued, true
}

func rows(l *layer) {
	cone := l.core("cone", "cone", studio.Rope(16_000, 33_000), 18, 14_000)
	small := l.plainPiece("small petal", "petal", "inner petal", studio.Sheet(44_000, 38_000, 700, 785), 15)
	large := l.plainPiece("large petal", "petal", "petal", studio.Sheet(52_000, 48_000, 700, 785), 12)
	calyx := l.calyx()
	r := l.flower(
		"layered",
		looked(
			work("heart", "Wrap the heart with water", "assemble", "assembly", 6*minute, 4*minute),
			"Closed at the tip, the cone hidden.",
		),
		stands("hold", "Let it hold", 15),
		looked(
			work("rows", "Glue the rows", "assemble", "assembly", 4*minute, 9*minute),
			"Each over the gaps of the last; round from above.",
		),
		l.hang(l.dries("dry", "Hang to dry", false, 1500, studio.Dry)),
		looked(work("dust", "Dust the edges", "dust", "dusting", 6*minute, 2*minute), "No harsh line.", dusty),
		looked(work("calyx", "Glue on the calyx", "assemble", "assembly", 3*minute, 1200), "Points to the stem."),
	)
	takes(r, "heart", cone, 1)
	heart := takes(r, "heart", small, 0, 3)
	heart.Join, heart.Wants = studio.JoinWet, studio.WantsFirm // they have set a little
	takes(r, "rows", large, 0, 5, 7).Join = studio.JoinGlued
	takes(r, "calyx", calyx, 1).Join = studio.JoinGlued
	paste(r, "dust", "dust", studio.Weighed(100), 0)
	r.Variants = []studio.Variant{{Name: "bud", StopAfter: "hold"}}
}

func cutOuts(l *layer) {
	cone := l.core("cone", "cone", studio.Rope(14_000, 26_000), 20, 12_000)
	ring := l.plainPiece("ring of petals", "daisy", "petal", studio.Sheet(75_000, 75_000, 600, 520), 6)
	calyx := l.calyx()
	r := l.flower(
		"layered",
		looked(
			work("heart", "Close the first ring over the cone", "assemble", "assembly", 6*minute, 3*minute),
			"First one petal, then the third, the fifth, the second, the fourth.",
		),
		stands("set heart", "Let it set", 10),
		looked(
			work("middle", "Close the second ring", "assemble", "assembly", 2*minute, 3*minute),
			"Its petals over the gaps.",
		),
		stands("set", "Let it set", 20),
		looked(work("calyx", "Glue on the calyx", "assemble", "assembly", 3*minute, 1200), "Points to the stem."),
		l.hang(l.dries("dry", "Hang to dry", false, 1500, studio.Dry)),
	)
	takes(r, "heart", cone, 1)
	takes(r, "heart", ring, 1).Sequence = []int64{1, 3, 5, 2, 4}
	takes(r, "middle", ring, 2).Set = studio.SetOverGaps
	takes(r, "calyx", calyx, 1).Join = studio.JoinGlued
	r.Variants = []studio.Variant{{Name: "bud", StopAfter: "set heart"}}
}

func outsideIn(l *layer) {
	layerID := l.plainPiece("outer layer", "daisy", "petal", studio.Sheet(80_000, 80_000, 700, 520), 6)
	inner := l.plainPiece("inner layer", "daisy", "inner petal", studio.Sheet(60_000, 60_000, 700, 520), 8)
	disc := l.part("disc", "disc", work("cut", "Cut small discs", "shape", "shaping", 2*minute, 60))
	paste(disc, "cut", "petal", studio.Sheet(8_000, 8_000, 1_500, 785), 40)
	discID := disc.ID
	r := l.flower(
		"layered",
		l.in(
			looked(
				work("build", "Lay the layers, outermost first", "assemble", "assembly", 6*minute, 8*minute),
				"A disc between layers; shaped and still bending.",
			),
			1,
			"dry",
			"half-sphere",
			"mould",
		),
		looked(l.dries("dry", "Dry in its former", false, 2_000, studio.Dry), "Hard all through before it is lifted."),
		looked(work("heart", "Set the stamens", "assemble", "assembly", 4*minute, 2*minute), "Slotted in last."),
		looked(work("dust", "Dust", "dust", "dusting", 6*minute, 2*minute), "Deepest at the heart.", dusty),
	)
	for _, part := range []studio.ID{layerID, inner} {
		takes(r, "build", part, 2).Join = studio.JoinGlued
	}
	takes(r, "build", discID, 3)
	l.bought(r, "heart", "stamen", 12)
	paste(r, "dust", "dust", studio.Weighed(100), 0)
	r.Build = studio.OutsideIn
}

func pulled(l *layer) {
	blossom := l.part(
		"blossom",
		"blossom",
		l.in(
			looked(
				work("pull", "Pull five petals on a hooked wire", "shape", "shaping", 8*minute, 1100),
				"Five even petals.",
				sharp,
			),
			60,
			"dry",
			"foam block",
			"foam",
		),
		l.dries("dry", "Dry upright", false, 1_000, studio.Dry),
		looked(anyhow(work("centre", "Set the centres", "shape", "shaping", 6*minute, 300)), "Level with the petals."),
	)
	paste(blossom, "pull", "petal", studio.Ball(9_000), 0)
	l.wire(blossom, "pull", 28, 4_000, 60_000, 5_000, studio.HookOpen)
	l.bought(blossom, "centre", "stamen", 2)
	blossom.SecondsServe = true
	id := blossom.ID
	r := l.flower(
		"filler",
		looked(
			work("tape", "Tape blossoms to a stem", "assemble", "assembly", 5*minute, 3200),
			"Staggered from the tip down, nothing in a line.",
			notFood,
		),
	)
	takes(r, "tape", id, 5).Join = studio.JoinTaped
	l.bought(r, "tape", "tape", 220)
}

func lace(l *layer) {
	bake := stands("bake", "Low oven", 20)
	for _, m := range l.doc.Machines {
		bake.Wait.Load = &studio.Load{Machines: []studio.ID{m.ID}, Setting: "lowest", PerSlot: 12}
		break
	}
	bake.Cautions = []string{hot}
	petal := l.part(
		"lace petal",
		"petal",
		l.in(
			looked(
				work("pour", "Spread the first coat, lay the wire in", "shape", "shaping", 10*minute, 800),
				"Level with the mat, right side down.",
				sharp,
			),
			4,
			"release",
			"mat",
			"tray",
		),
		bake,
		looked(
			anyhow(work("second", "Spread the second coat", "shape", "shaping", 4*minute, 500)),
			"The wire is covered.",
		),
		looked(stands("air", "Dry in the air", 480), "Flexible, not sticky; longer in damp weather."),
		looked(
			anyhow(work("release", "Release from the mat", "shape", "shaping", 2*minute, 300)),
			"It peels off whole.",
		),
	)
	paste(petal, "pour", "lace", studio.Weighed(700), 12)
	paste(petal, "second", "lace", studio.Weighed(600), 12)
	l.wire(petal, "pour", 28, 40_000, 60_000, 0, studio.HookStraight)
	id := petal.ID
	r := l.flower(
		"wired",
		looked(
			work("tape", "Tape petals around stamens", "assemble", "assembly", 8*minute, 6*minute),
			"The right side inward.",
			notFood,
		),
	)
	takes(r, "tape", id, 0, 5).Join = studio.JoinTaped
	l.bought(r, "tape", "stamen", 10)
	l.bought(r, "tape", "tape", 200)
}

func wafer(l *layer) {
	layerPart := l.part(
		"paper layer",
		"blossom",
		looked(
			work("punch", "Punch in stacks", "shape", "shaping", 4*minute, 200),
			"The smooth side up; no more sheets than the punch takes.",
		),
		looked(work("shape", "Damp and cup", "shape", "shaping", 3*minute, 400), "Damp, not wet."),
		stands("dry", "Let it dry", 20),
	)
	layerPart.Steps[0].Work.Together = 6
	l.bought(layerPart, "punch", "wafer", 1)
	for i := range layerPart.Materials {
		layerPart.Materials[i].Per = 12
	}
	id := layerPart.ID
	r := l.flower(
		"blossom",
		looked(
			work("glue", "Glue layers around the stamens", "assemble", "assembly", 5*minute, 3*minute),
			"Cupped opposite ways, over the gaps.",
			sharp,
		),
		stands("set", "Let the glue set", 60),
	)
	takes(r, "glue", id, 3).Join = studio.JoinGlued
	l.bought(r, "glue", "stamen", 6)
	l.wire(r, "glue", 28, 0, 90_000, 5_000, studio.HookClosed)
}

func trail(l *layer) {
	var ids []studio.ID
	for _, size := range []struct {
		name     string
		diameter studio.Micrometres
	}{{name: "small bead", diameter: 5_000}, {name: "middle bead", diameter: 7_000}, {name: "large bead", diameter: 9_000}} {
		r := l.part(
			size.name,
			"bead",
			l.in(
				looked(
					work("roll", "Roll on hooked wires", "shape", "shaping", 6*minute, 500),
					"Round; the hook is hidden.",
					sharp,
				),
				60,
				"dry",
				"foam block",
				"foam",
			),
			l.dries("dry", "Dry upright", false, size.diameter/3, studio.Dry),
		)
		paste(r, "roll", "petal", studio.Ball(size.diameter), 0)
		l.wire(r, "roll", 30, 3_000, 50_000, 4_000, studio.HookOpen)
		ids = append(ids, r.ID)
	}
	cap := l.part("cap", "calyx", work("cut", "Cut and stretch caps", "shape", "shaping", 3*minute, 200))
	paste(cap, "cut", "leaf", studio.Sheet(9_000, 9_000, 500, 450), 30)
	capID := cap.ID
	r := l.recipe(
		studio.KindSpray,
		"",
		"sprig",
		looked(
			work("tape", "Tape beads to a trail", "assemble", "assembly", 5*minute, 4*minute),
			"Smallest at the tip, staggered.",
			notFood,
		),
		looked(
			work("caps", "Put on the caps", "assemble", "assembly", 2*minute, 2*minute),
			"Stretched over the top of each bead.",
		),
		looked(
			work("bend", "Bend the heads", "assemble", "assembly", minute, minute),
			"Last of all; bend the wire at its foot.",
		),
	)
	for i, id := range ids {
		at := takes(r, "tape", id, 3)
		at.Join = studio.JoinTaped
		for j := range 3 {
			at.At = append(at.At, studio.Micrometres(10_000+(3*i+j)*12_000))
		}
	}
	takes(r, "caps", capID, 9).Join = studio.JoinGlued
	l.wire(r, "tape", 24, 0, 150_000, 0, studio.HookStraight)
	l.bought(r, "tape", "tape", 250)
}

func flat(l *layer) {
	r := l.flower(
		"daisy",
		l.in(
			looked(work("cut", "Roll, cut, thin", "shape", "shaping", 6*minute, 400), "Clean edge."),
			40,
			"dry",
			"wavy",
			"foam",
			"tray",
		),
		looked(work("dot", "Pipe the dot", "shape", "shaping", 4*minute, 150), "In the middle, no tail."),
		l.dries("dry", "Dry", false, 900, studio.Dry),
	)
	paste(r, "cut", "petal", studio.Sheet(32_000, 32_000, 900, 600), 24)
	paste(r, "dot", "centre", studio.Weighed(80), 0)
	r.SecondsServe = true
}
