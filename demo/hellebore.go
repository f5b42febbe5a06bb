package demo

import "bractum/core/studio"

// hellebore: ridged petals on wires, two kinds of bought stamens pushed into a soft
// column, the column slotted in last; powdered and steamed.
func hellebore() []studio.Recipe {
	petal := made(
		studio.KindPart,
		"Hellebore petal",
		"petal",
		steps(
			does(
				"cut",
				"Roll with a thick ridge and cut",
				"shape",
				"shaping",
				6,
				0.8,
			).look("The ridge runs to the tip."),
			does("wire", "Wire to two thirds", "wire", "wiring", 4, 1.5).look("Straight in.").caution(sharp),
			does(
				"notch",
				"Notch and cup",
				"shape",
				"shaping",
				2,
				0.3,
			).share(400).
				look("Some only.").
				window(while(800)),
			until(
				"set",
				"Set on foil",
				"thin petal",
				800,
				studio.Dry,
			).by("Moving air").
				holds("Foil cup", 1, "set").
				wished(studio.Wish{Minutes: 720}),
		),
		of(
			"cut",
			"petal",
			studio.Sheet(38_000, 32_000, 800, 760),
			12,
		),
		on("wire", "26 white wire", 1, 25_000, 70_000, 0, studio.HookStraight),
		spares(breakage(60)),
	)
	column := made(
		studio.KindPart,
		"Hellebore column",
		"centre",
		steps(
			does(
				"form",
				"Form a soft column on a wire",
				"shape",
				"shaping",
				6,
				0.9,
			).look("Soft enough to take stamens.").
				caution(sharp).
				holds("Foam block", 30, "dry"),
			does(
				"push",
				"Push in stamens while soft",
				"wire",
				"wiring",
				2,
				2.4,
			).look("All round, two lengths.").
				window(studio.Window{Before: studio.Firm, Drying: thin(3_000)}),
			until("dry", "Dry upright", "thin petal", 3_000, studio.Dry),
			does("paint", "Paint the tips", "dust", "dusting", 3, 0.8).look("Tips only."),
		),
		of(
			"form",
			"centre",
			studio.Rope(4_000, 14_000),
			0,
		),
		defaults("centre", "Kelp pale"),
		on("form", "22 green wire", 1, 10_000, 90_000, 6_000, studio.HookOpen),
		bought("push", "Fine stamens", 12, 1, ""),
		bought("push", "Long stamens", 5, 1, ""),
	)
	flower := made(
		studio.KindFlower,
		"Hellebore",
		"wired",
		steps(
			does(
				"tape",
				"Tape the petals",
				"assemble",
				"assembly",
				6,
				4.5,
			).look("Overlapping, open.").
				caution(notFood),
			does("slot", "Slot in the column", "assemble", "assembly", 2, 1.2).look("Last of all, straight."),
			does("powder", "Powder and dust", "dust", "dusting", 5, 1.6).coloured("dust").caution(dust),
			does(
				"steam",
				"Steam",
				"steam",
				"dusting",
				4,
				0.4,
			).takesTool("Steamer").
				caution(steam),
			rests("after", "Dry after steam", 45),
		),
		takes(
			"tape",
			"Hellebore petal",
			5,
			joined(studio.JoinTaped),
			inRows(studio.SetAlternating, 5),
		),
		takes("slot", "Hellebore column", 1, joined(studio.JoinSlotted)),
		of("powder", "dust", studio.Weighed(60), 0),
		tape("tape", 200),
	)
	return []studio.Recipe{petal, column, flower}
}
