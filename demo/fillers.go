package demo

import "bractum/core/studio"

// quickWhite is a paste with CMC: firm in an hour or so.
func quickWhite() studio.Recipe {
	return blended(
		"Quick white",
		"paste",
		"#f3eee3",
		7*1440,
		steps(
			does("knead", "Weigh and knead", "mix", "mixing", 8, 4).look("Smooth, no cracks."),
			rests("rest", "Rest wrapped", 60),
		),
		[]studio.Ingredient{{Material: ID("Flower paste"), Parts: 90}, {Material: ID("Soft sugar paste"), Parts: 10}},
		func(r *studio.Recipe) {
			r.ByPercent, r.Drying, r.LifeColdMinutes = true, 450, 28*1440
			r.Additives = []studio.Additive{{Material: ID("CMC powder"), Per100g: 2500}}
		},
	)
}

func blended(
	name, form, colour string,
	life studio.Minute,
	how []stepper,
	blend []studio.Ingredient,
	changes ...change,
) studio.Recipe {
	return made(
		studio.KindMix,
		name,
		form,
		how,
		append([]change{spares(studio.Spares{Rule: studio.SparesNone}), func(r *studio.Recipe) {
			r.Colour, r.LifeMinutes, r.Blend = colour, life, blend
		}}, changes...)...)
}

func icing() studio.Recipe {
	return blended(
		"Royal icing",
		"icing",
		"#faf7ef",
		3*1440,
		steps(
			does(
				"beat",
				"Beat",
				"mix",
				"mixing",
				8,
				3,
			).look("Stands in a peak.").
				caution("Egg white is an allergen, raw it carries a risk: dried pasteurised white."),
		),
		[]studio.Ingredient{
			{Material: ID("Icing sugar"), Parts: 84},
			{Material: ID("Dried egg white"), Parts: 3},
			{Material: ID("Boiled water"), Parts: 13},
		},
		func(r *studio.Recipe) { r.ByPercent = true },
	)
}

func pollen() studio.Recipe {
	return blended(
		"Yolk pollen",
		"dust",
		"#d8a63a",
		180*1440,
		steps(does("blend", "Weigh and blend", "mix", "mixing", 4, 2).look("No streaks.").caution(dust)),
		[]studio.Ingredient{{Material: ID("Maize grits"), Parts: 1}, {Material: ID("Yolk dust"), Parts: 1}},
	)
}

// waferGlue is made a day ahead.
func waferGlue() studio.Recipe {
	return blended(
		"Wafer glue",
		"glue",
		"#eee7d2",
		4*1440,
		steps(
			does(
				"soak",
				"Soak scraps in cooled boiled water",
				"mix",
				"mixing",
				4,
				1,
			).look("Thick as cream the next day.").
				caution("Boiling water burns."),
			rests("stand", "Stand overnight", 720).wished(studio.Wish{Minutes: 1080}),
		),
		[]studio.Ingredient{
			{Material: ID("Wafer scraps"), Parts: 1},
			{Material: ID("Boiled water"), Parts: 4},
		},
		func(r *studio.Recipe) { r.LifeColdMinutes = 10 * 1440 },
	)
}

func laceMix() studio.Recipe {
	return blended(
		"Lace mix",
		"icing",
		"#f5f1ea",
		2*1440,
		steps(does("whisk", "Whisk", "mix", "mixing", 6, 3).look("No lumps."), rests("rest", "Rest", 20)),
		[]studio.Ingredient{
			{Material: ID("Lace powder"), Parts: 1},
			{Material: ID("Boiled water"), Parts: 1},
		},
		func(r *studio.Recipe) { r.LifeColdMinutes = 14 * 1440 },
	)
}

// berryMix is coloured in drops.
func berryMix() studio.Recipe {
	return blended(
		"Berry blue",
		"paste",
		"#3f4d6b",
		14*1440,
		steps(
			does("knead", "Weigh, drop and knead", "mix", "mixing", 8, 4).look("One even colour."),
			rests("rest", "Rest wrapped", 30),
		),
		[]studio.Ingredient{{Material: ID("Flower paste"), Parts: 7}, {Material: ID("Soft sugar paste"), Parts: 3}},
		func(r *studio.Recipe) {
			r.Additives = []studio.Additive{
				{Material: ID("Blue gel colour"), Drops: 22, Drop: 45},
				{Material: ID("Red gel colour"), Drops: 6, Drop: 45},
			}
		},
	)
}

// jasmine is a trail: buds in two forms and stars, from the tip down, small first; caps
// put on when it is taped, the heads bent last.
func jasmine() []studio.Recipe {
	bud := made(
		studio.KindPart,
		"Jasmine bud",
		"bud",
		steps(
			does(
				"hook",
				"Hook wires, many at once",
				"wire",
				"wiring",
				2,
				0.5,
			).together(8).
				look("Lined up in the pliers.").
				caution(sharp),
			does(
				"roll",
				"Roll on hooked wires",
				"shape",
				"shaping",
				4,
				0.4,
			).look("A slim spindle.").
				holds("Foam block", 80, "dry"),
			does("open", "Cut open", "shape", "shaping", 1, 0.3).ofForm("open").look("Five narrow tips."),
			until("dry", "Dry upright", "thin petal", 1_200, studio.Dry),
		),
		of(
			"roll",
			"petal",
			studio.Rope(4_000, 16_000),
			0,
		),
		on("hook", "30 white wire", 1, 5_000, 60_000, 4_000, studio.HookOpen),
		func(r *studio.Recipe) {
			r.Forms, r.SecondsServe = []studio.Form{{Name: "closed", Share: 600}, {Name: "open", Share: 400}}, true
		},
	)
	cap := made(
		studio.KindPart,
		"Jasmine cap",
		"calyx",
		steps(does("cut", "Cut and stretch", "shape", "shaping", 2, 0.15)),
		of("cut", "leaf", studio.Sheet(7_000, 7_000, 450, 450), 40),
		defaults("leaf", "Kelp green"),
	)
	trail := made(
		studio.KindSpray,
		"Jasmine trail",
		"trail",
		steps(
			does(
				"tape",
				"Tape buds to a trail",
				"assemble",
				"assembly",
				4,
				4.5,
			).look("Staggered, nothing in a line.").
				caution(notFood),
			does("join", "Join in a stem wire", "wire", "wiring", 1, 0.6).look("After the third bud.").caution(sharp),
			does("caps", "Put on the caps", "assemble", "assembly", 2, 2).look("Stretched over the foot of each bud."),
			does("bend", "Bend the heads", "assemble", "assembly", 0, 0.8).look("Last of all."),
		),
		takes(
			"tape",
			"Jasmine bud",
			4,
			inForm("closed"),
			along(0, 12, 22, 32),
			joined(studio.JoinTaped),
		),
		takes("tape", "Jasmine bud", 3, inForm("open"), along(44, 56, 70), joined(studio.JoinTaped)),
		takes(
			"caps",
			"Jasmine cap",
			7,
			joined(studio.JoinGlued),
		),
		on("join", "26 white wire", 1, 0, 120_000, 0, studio.HookStraight),
		tape("tape", 260),
		asked("spray tip", "smallest first", studio.Variant{Name: "largest first", Parts: []studio.PartInput{
			{
				Step:   "tape",
				Recipe: ID("Jasmine bud"),
				Form:   "open",
				Count:  3,
				At:     []studio.Micrometres{0, 14_000, 26_000},
				Join:   studio.JoinTaped,
			},
			{
				Step:   "tape",
				Recipe: ID("Jasmine bud"),
				Form:   "closed",
				Count:  4,
				At:     []studio.Micrometres{38_000, 48_000, 58_000, 70_000},
				Join:   studio.JoinTaped,
			}}}),
	)
	return []studio.Recipe{bud, cap, trail}
}

// viburnum: beads in bulk, dried in the dehydrator, tumbled in dust or painted.
func viburnum() []studio.Recipe {
	berry := made(
		studio.KindPart,
		"Viburnum berry",
		"bead",
		steps(
			does(
				"roll",
				"Roll on hooked wires",
				"shape",
				"shaping",
				5,
				0.35,
			).look("Round.").
				caution(sharp, "Small beads, for children: a choking risk."),
			does("load", "Load the dehydrator", "shape", "shaping", 2, 0.02).caution("Dehydrators burn."),
			rests("warm", "Dehydrator", 60).load("Dehydrator", "48 °C", 120),
			rests("cool", "Cool and harden", 15),
			does(
				"tumble",
				"Tumble in dust",
				"dust",
				"dusting",
				4,
				0.03,
			).coloured("dust").
				look("Even all round.").
				caution(dust),
		),
		of(
			"roll",
			"berry",
			studio.Ball(7_000),
			0,
		),
		of("tumble", "dust", studio.Weighed(6), 0),
		defaults("berry", "Berry blue"),
		on("roll", "30 white wire", 1, 4_000, 55_000, 4_000, studio.HookOpen),
		func(r *studio.Recipe) { r.MostPerLot, r.SecondsServe = 400, true },
		asked(
			"colouring",
			"tumbled",
			studio.Variant{
				Name: "painted in two colours",
				Steps: []studio.StepChange{
					instead(
						does(
							"tumble",
							"Paint in two colours",
							"dust",
							"dusting",
							8,
							0.3,
						).coloured("dust").
							look("Darker on one cheek.").
							caution(dust),
					),
				},
			},
		),
		asked(
			"dried",
			"dehydrator",
			studio.Variant{
				Name:    "in foam",
				Without: []string{"load", "cool"},
				Steps: []studio.StepChange{
					instead(
						until(
							"warm",
							"Dry upright in foam",
							"thin petal",
							2_500,
							studio.Dry,
						).holds("Foam block", 100, "warm"),
					),
				},
			},
		),
	)
	bunch := made(
		studio.KindFlower,
		"Viburnum berries",
		"cluster",
		steps(
			does("tape", "Tape to a bunch", "assemble", "assembly", 4, 4).look("Domed, heads level.").caution(notFood),
		),
		takes("tape", "Viburnum berry", 11, joined(studio.JoinTaped)),
		tape("tape", 180),
	)
	return []studio.Recipe{berry, bunch}
}

// lilac: hundreds of pips, pulled, each a star of four, with a least and a wished-for
// drying time; some with a pearl set afterwards.
func lilac() []studio.Recipe {
	pip := made(
		studio.KindPart,
		"Lilac pip",
		"star",
		steps(
			does(
				"pull",
				"Pull four petals",
				"shape",
				"shaping",
				6,
				0.5,
			).look("Four even petals.").
				holds("Foam block", 120, "dry").
				ofShare(600),
			until("dry", "Dry", "thin petal", 900, studio.Firm).wished(studio.Wish{State: studio.Dry}),
			does(
				"pearl",
				"Set a pearl",
				"shape",
				"shaping",
				3,
				0.12,
			).share(300).
				look("In the middle.").
				caution("Small pearls, for children: a choking risk."),
			rests("grip", "Let it grip", 20),
		),
		of(
			"pull",
			"petal",
			studio.Ball(6_000),
			0,
		),
		on("pull", "30 white wire", 1, 3_000, 50_000, 3_000, studio.HookOpen),
		bought("pearl", "Sugar pearls", 3, 10, ""),
		func(r *studio.Recipe) { r.MostPerLot, r.LeastPerLot, r.SecondsServe = 500, 20, true },
	)
	cluster := made(
		studio.KindFlower,
		"Lilac pips",
		"cluster",
		steps(
			does(
				"tape",
				"Tape pips in threes, then to a head",
				"assemble",
				"assembly",
				5,
				8,
			).look("Tapering to the tip.").
				caution(notFood),
		),
		takes("tape", "Lilac pip", 21, joined(studio.JoinTaped), between(15, 30)),
		tape("tape", 320),
	)
	return []studio.Recipe{pip, cluster}
}
