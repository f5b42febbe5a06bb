package demo

import "bractum/core/studio"

const minute = 1000 // thousandths

func ref[T any](value T) *T { return &value }

func work(key, name, glyph, skill string, setup, perPiece float64, pause bool) studio.Step {
	return studio.Step{Key: key, Name: name, Work: &studio.Work{Glyph: glyph, Skill: skill,
		Setup: studio.Milliminutes(setup * minute), PerPiece: studio.Milliminutes(perPiece * minute), MayPause: pause}}
}

func dries(key, name, class string, thickness studio.Micrometres, state studio.State) studio.Step {
	return studio.Step{
		Key:  key,
		Name: name,
		Wait: &studio.Wait{Drying: studio.Drying{Class: ID(class), Thickness: thickness}, State: state},
	}
}

func (s stepper) tool(name string) stepper { s.Work.Tool = name; return s }
func (s stepper) look(text string) stepper { s.Look = text; return s }
func (s stepper) caution(texts ...string) stepper {
	s.Cautions = append(s.Cautions, texts...)
	return s
}
func (s stepper) holds(place string, perSlot int64, until string) stepper {
	s.Holds = append(s.Holds, studio.Hold{Place: ID(place), PerSlot: perSlot, Until: until})
	return s
}

// stepper dresses a step with what a bench card says of it.
type stepper struct{ studio.Step }

func recipe(name string, kind studio.Kind, form string, steps ...stepper) studio.Recipe {
	r := studio.Recipe{ID: ID(name), Recipe: ID("book " + name), Revision: 1, Name: name, Kind: kind, Form: form}
	for _, s := range steps {
		r.Steps = append(r.Steps, s.Step)
	}
	return r
}

func breakage(perMille studio.PerMille) studio.Spares {
	return studio.Spares{Rule: studio.SparesByBreakage, Breakage: perMille}
}

const (
	sharp   = "Wire ends and blades are sharp; guard your eyes when cutting wire."
	notFood = "Wire and tape are not food: count them, and never push bare wire into cake."
	dust    = "Only dusts labelled edible are food. Do not breathe dust; keep it from flames; tap it off, never blow."
	steam   = "Steam burns: hands clear, and no alcohol nearby."
)

// paste is a petal paste of strong and soft paste, with its colour.
func paste(name, colour string, flower, soft int64, additives ...studio.Additive) studio.Recipe {
	r := recipe(name, studio.KindMix, "paste", stepper{work("knead", "Weigh and knead", "mix", "mixing", 8, 4, true)}.
		look("One even colour, smooth, no cracks, the right stretch.").caution("Clean hands, tied hair, clean board."),
		stepper{studio.Step{Key: "rest", Name: "Rest wrapped", Wait: &studio.Wait{Minutes: 30}}})
	r.Colour, r.LifeMinutes, r.Spares = colour, 14*1440, studio.Spares{Rule: studio.SparesNone}
	r.Blend = []studio.Ingredient{
		{Material: ID("Flower paste"), Parts: flower},
		{Material: ID("Soft sugar paste"), Parts: soft},
	}
	r.Additives = additives
	return r
}

func per100g(material string, milligrams studio.Milligrams) studio.Additive {
	return studio.Additive{Material: ID(material), Per100g: milligrams}
}

// thinned is a deep paste let down with white: one step of a ladder of shades.
func thinned(name, colour, deep, white string, deepParts, whiteParts int64) studio.Recipe {
	r := paste(name, colour, 1, 1)
	r.Blend = []studio.Ingredient{{Mix: ID(deep), Parts: deepParts}, {Mix: ID(white), Parts: whiteParts}}
	return r
}

// mixes of the demo: pastes by colour, and dusts let down with starch.
func mixes() []studio.Recipe {
	dusting := func(name, colour, pigment string) studio.Recipe {
		r := recipe(
			name,
			studio.KindMix,
			"dust",
			stepper{work("blend", "Weigh and blend", "mix", "mixing", 6, 2, true)}.
				look("No streaks of starch.").caution(dust),
		)
		r.Colour, r.LifeMinutes, r.Spares = colour, 180*1440, studio.Spares{Rule: studio.SparesNone}
		r.Blend = []studio.Ingredient{{Material: ID(pigment), Parts: 1}, {Material: ID("Maize starch"), Parts: 1}}
		return r
	}
	return []studio.Recipe{
		paste("Centre white", "#f6f2e8", 9, 1, per100g("CMC powder", 1500)),
		paste("Petal white", "#f4efe6", 7, 3),
		paste("Signal deep red", "#8e1f2b", 7, 3, per100g("Red gel colour", 2600), per100g("Brown gel colour", 300)),
		thinned("Signal red", "#b8343a", "Signal deep red", "Petal white", 3, 1),
		paste("Oyster shell", "#d9cfc0", 7, 3, per100g("Yellow gel colour", 250), per100g("Brown gel colour", 120)),
		thinned("Oyster ivory", "#ebe3d4", "Oyster shell", "Petal white", 1, 1),
		paste("Ferry blush deep", "#d98f8a", 7, 3, per100g("Red gel colour", 700), per100g("Yellow gel colour", 250)),
		thinned("Ferry blush", "#ebbcb2", "Ferry blush deep", "Petal white", 1, 2),
		paste("Slate leaf", "#7f9585", 8, 2, per100g("Green gel colour", 900), per100g("Blue gel colour", 400)),
		dusting(
			"Ember dust",
			"#c8555c",
			"Rose dust",
		), dusting("Pebble dust", "#a9a59c", "Grey dust"), dusting("Leaf dust", "#6f8a63", "Green dust"),
	}
}

// moreMixes are the harbour's other colours, and what is no paste.
func moreMixes() []studio.Recipe {
	return []studio.Recipe{
		paste("Rope charcoal", "#4a4148", 7, 3, per100g("Blue gel colour", 900), per100g("Brown gel colour", 1400)),
		thinned("Rope plum", "#6d5560", "Rope charcoal", "Petal white", 2, 1),
		paste("Buoy orange", "#dd7a3c", 7, 3, per100g("Red gel colour", 700), per100g("Yellow gel colour", 1600)),
		thinned("Buoy apricot", "#eeb07f", "Buoy orange", "Petal white", 1, 1),
		paste("Kelp green", "#6f7d4a", 7, 3, per100g("Green gel colour", 1300), per100g("Brown gel colour", 500)),
		thinned("Kelp pale", "#b9c09a", "Kelp green", "Petal white", 1, 2),
		quickWhite(), icing(), pollen(), waferGlue(), laceMix(), berryMix(),
	}
}

// cutThin says of what is cut from a thin sheet that it dries as thin petals do, where no wait of
// it says how.
func cutThin(r *studio.Recipe) {
	if _, says := r.HowItDries(); says || r.Kind != studio.KindPart || len(r.Pastes) == 0 {
		return
	}
	if g := r.Pastes[0].Shape; g.Shape == studio.ShapeCut && g.Thickness >= 400 && g.Thickness <= 1000 {
		r.Dries = &studio.Drying{Class: ID("thin petal"), Thickness: g.Thickness}
	}
}

// flowers are the book.
func flowers() []studio.Recipe {
	var book []studio.Recipe
	for _, flower := range [][]studio.Recipe{ranunculus(), magnolia(), waxflower(), eucalyptus(), moreMixes(),
		gardenia(), dahlia(), camellia(), anemone(), cosmos(), hellebore(), lisianthus(), dogwood(),
		jasmine(), viburnum(), lilac(), olive(), fern(), ivy(), harbourSpray()} {
		for i := range flower {
			cutThin(&flower[i])
		}
		book = append(book, flower...)
	}
	return book
}

func core(
	name, form string,
	shape studio.Geometry,
	perPiece float64,
	wire string,
	stem studio.Micrometres,
	perSlot int64,
) studio.Recipe {
	r := recipe(
		name,
		studio.KindPart,
		form,
		stepper{
			work("form", "Form on hooked wires", "shape", "shaping", 10, perPiece, true),
		}.tool("Pliers, foam block").
			holds("Foam block", perSlot, "dry").
			look("Centred on the wire, does not turn on its hook.").
			caution(sharp),
		stepper{dries("dry", "Dry upright", "solid core", 20_000, studio.Dry)}.look("Hard, no cool feel."),
	)
	r.Pastes = []studio.PasteInput{{Step: "form", Slot: "core", Shape: shape}}
	r.Wires = []studio.WireInput{
		{Step: "form", Material: ID(wire), Number: 1, Depth: 14_000, Stem: stem, Allowance: 8_000,
			Hook: studio.HookOpen},
	}
	r.Defaults = map[string]studio.ID{"core": ID("Centre white")}
	r.Spares, r.SecondsServe = breakage(20), true
	return r
}

func ranunculus() []studio.Recipe {
	petal := func(name, slot string, shape studio.Geometry, cutter string) studio.Recipe {
		r := recipe(
			name,
			studio.KindPart,
			"petal",
			stepper{
				work("cut", "Roll, cut and thin", "shape", "shaping", 6, 0.5, true),
			}.tool(cutter).
				look("Light passes through; the edge is fine and clean.").
				holds("Spoon tray", 40, "set"),
			stepper{dries("set", "Set in spoons", "thin petal", 700, studio.Firm)}.look("Holds its cup, still bends."),
		)
		r.Pastes = []studio.PasteInput{{Step: "cut", Slot: slot, Shape: shape, Run: 24}}
		r.Spares, r.SecondsServe = breakage(50), true
		return r
	}
	flower := recipe(
		"Ranunculus",
		studio.KindFlower,
		"layered",
		stepper{
			work("inner", "Lay the inner layers", "assemble", "assembly", 10, 9, true),
		}.tool("CMC glue, soft brush").
			look("Each petal over the gap of the last, edges level with the core."),
		stepper{
			studio.Step{
				Key:  "hold",
				Name: "Hang to hold",
				Wait: &studio.Wait{
					Drying: studio.Drying{Class: ID("built flower"), Thickness: 3_000},
					State:  studio.Firm,
				},
				Holds: []studio.Hold{{Place: ID("Hanging rail"), PerSlot: 12, Until: "hold"}},
			},
		},
		stepper{
			work("outer", "Lay the outer layers", "assemble", "assembly", 8, 12, true),
		}.tool("CMC glue, soft brush").
			look("Round, no gaps, holds when tilted."),
		stepper{
			studio.Step{
				Key:  "hang",
				Name: "Hang to dry",
				Wait: &studio.Wait{
					Drying: studio.Drying{Class: ID("built flower"), Thickness: 3_000},
					State:  studio.Dry,
				},
				Holds: []studio.Hold{{Place: ID("Hanging rail"), PerSlot: 12, Until: "hang"}},
			},
		},
		stepper{
			work("dust", "Dust edges and heart", "dust", "dusting", 8, 3, true),
		}.tool("Flat brush, tapped").
			look("Deepest at the heart, no harsh line.").
			caution(dust),
		stepper{
			work("steam", "Steam", "steam", "dusting", 5, 0.4, false),
		}.tool("Steamer").
			look("Two or three seconds; a soft sheen, no drops.").
			caution(steam),
		stepper{studio.Step{Key: "after", Name: "Dry after steam", Wait: &studio.Wait{Minutes: 45}}},
	)
	flower.Parts = []studio.PartInput{{Step: "inner", Recipe: ID("Ranunculus core"), Count: 1},
		{
			Step:   "inner",
			Recipe: ID("Ranunculus inner petal"),
			Count:  16,
		}, {Step: "outer", Recipe: ID("Ranunculus outer petal"), Count: 22}}
	flower.Pastes = []studio.PasteInput{{Step: "dust", Slot: "dust", Shape: studio.Weighed(120)}}
	flower.Spares = breakage(20)
	return []studio.Recipe{
		keptInStock(core("Ranunculus core", "centre", studio.Ball(20_000), 1.6, "20 green wire", 110_000, 10), 12),
		petal("Ranunculus inner petal", "inner petal", studio.Sheet(24_000, 22_000, 700, 785), "Round cutter 24 mm"),
		petal("Ranunculus outer petal", "petal", studio.Sheet(34_000, 31_000, 700, 785), "Round cutter 34 mm"),
		flower,
	}
}

func magnolia() []studio.Recipe {
	petal := func(name, slot string, shape studio.Geometry, cutter string, depth studio.Micrometres) studio.Recipe {
		r := recipe(
			name,
			studio.KindPart,
			"petal",
			stepper{
				work("cut", "Roll over a ridge and cut", "shape", "shaping", 8, 0.9, true),
			}.tool(cutter).
				look("A thick foot for the wire, a clean edge."),
			stepper{work("wire", "Wire petals", "wire", "wiring", 5, 1.6, true)}.tool("Board, ball tool").
				look("Straight in, pinched at the foot, does not turn.").caution(sharp, notFood),
			stepper{
				work("set", "Vein and set in moulds", "shape", "shaping", 4, 0.6, true),
			}.tool("Large two-sided veiner").
				look("Veins on the side that will be seen.").
				holds("Half-sphere mould 60 mm", 1, "dry"),
			stepper{
				dries("dry", "Dry in moulds", "thin petal", 900, studio.Dry),
			}.look(
				"Hard, same curve as the others.",
			),
			stepper{
				work("dust", "Dust the foot", "dust", "dusting", 6, 0.5, true),
			}.tool("Flat brush, tapped").
				look("Fades out a third of the way up.").
				caution(dust),
		)
		r.Pastes = []studio.PasteInput{
			{Step: "cut", Slot: slot, Shape: shape, Run: 12},
			{Step: "dust", Slot: "dust", Shape: studio.Weighed(15)},
		}
		r.Wires = []studio.WireInput{
			{Step: "wire", Material: ID("24 white wire"), Number: 1, Depth: depth, Stem: 80_000, Hook: studio.HookStraight},
		}
		r.Spares = breakage(80)
		return r
	}
	flower := recipe(
		"Magnolia",
		studio.KindFlower,
		"wired",
		stepper{
			work("tape", "Tape petals to the cone", "assemble", "assembly", 10, 14, true),
		}.tool("Half-width tape, pliers").
			look("Into the gaps of the row before, tape close under the petal, no wire or white showing.").
			caution(notFood),
		stepper{
			work("steam", "Steam", "steam", "dusting", 5, 0.4, false),
		}.tool("Steamer").
			look("Two or three seconds; a soft sheen.").
			caution(steam),
		stepper{studio.Step{Key: "after", Name: "Dry after steam", Wait: &studio.Wait{Minutes: 45}}},
	)
	flower.Parts = []studio.PartInput{
		{Step: "tape", Recipe: ID("Magnolia cone"), Count: 1},
		{Step: "tape", Recipe: ID("Magnolia inner petal"), Count: 3},
		{Step: "tape", Recipe: ID("Magnolia outer petal"), Count: 6},
	}
	flower.Materials = []studio.MaterialInput{{Step: "tape", Material: ID("Half-width green tape"), Amount: 380_000}}
	flower.Spares = breakage(15)
	return []studio.Recipe{
		core("Magnolia cone", "centre", studio.Rope(12_000, 32_000), 2.2, "18 green wire", 150_000, 8),
		petal(
			"Magnolia inner petal",
			"inner petal",
			studio.Sheet(62_000, 38_000, 900, 760),
			"Magnolia cutter small",
			24_000,
		),
		petal(
			"Magnolia outer petal",
			"petal",
			studio.Sheet(78_000, 50_000, 900, 760),
			"Magnolia cutter large",
			30_000,
		),
		flower,
	}
}

// keptInStock has so many made ahead in quiet hours, to lie dry whatever is ordered.
func keptInStock(r studio.Recipe, pieces int64) studio.Recipe {
	r.KeepInStock = pieces
	return r
}

func waxflower() []studio.Recipe {
	blossom := recipe(
		"Waxflower blossom",
		studio.KindPart,
		"blossom",
		stepper{
			work("pull", "Pull five petals on a hooked wire", "shape", "shaping", 8, 1.1, true),
		}.tool("Pointed stick, scissors").
			holds("Foam block", 60, "dry").
			look("Five even petals, a hollow for the centre.").
			caution(sharp),
		stepper{dries("dry", "Dry upright", "thin petal", 1_000, studio.Dry)}.look("Hard."),
		stepper{
			work("centre", "Set centres", "shape", "shaping", 6, 0.3, true),
		}.tool("Fine stamens, glue").
			look("Stamens level with the petals."),
	)
	blossom.Pastes = []studio.PasteInput{{Step: "pull", Slot: "petal", Shape: studio.Ball(9_000)}}
	blossom.Materials = []studio.MaterialInput{{Step: "centre", Material: ID("Fine stamens"), Amount: 2}}
	blossom.Wires = []studio.WireInput{
		{Step: "pull", Material: ID("28 green wire"), Number: 1, Depth: 4_000, Stem: 60_000, Allowance: 5_000,
			Hook: studio.HookOpen},
	}
	blossom.Spares, blossom.SecondsServe = breakage(60), true
	stem := recipe(
		"Waxflower stem",
		studio.KindFlower,
		"filler",
		stepper{
			work("tape", "Tape five blossoms to a stem", "assemble", "assembly", 5, 3.2, true),
		}.tool("Half-width tape").
			look("Staggered from the tip down, nothing in a line.").
			caution(notFood),
	)
	stem.Parts = []studio.PartInput{{Step: "tape", Recipe: ID("Waxflower blossom"), Count: 5}}
	stem.Materials = []studio.MaterialInput{{Step: "tape", Material: ID("Half-width green tape"), Amount: 220_000}}
	stem.Spares = studio.Spares{Rule: studio.SparesByNumber, Number: 1}
	return []studio.Recipe{blossom, stem}
}

func eucalyptus() []studio.Recipe {
	leaf := recipe(
		"Eucalyptus leaf",
		studio.KindPart,
		"leaf",
		stepper{
			work("cut", "Roll over a ridge, cut and wire", "wire", "wiring", 6, 1.2, true),
		}.tool("Round cutters 18 to 26 mm").
			look("Wire straight in, edge thinned.").
			caution(sharp),
		stepper{
			work("lay", "Lay on wavy foam", "shape", "shaping", 2, 0.2, true),
		}.tool("Wavy foam").
			holds("Wavy foam", 30, "dry").
			look("No two alike."),
		stepper{dries("dry", "Dry on foam", "thin petal", 800, studio.Dry)}.look("Hard."),
		stepper{
			work("dust", "Dust both sides", "dust", "dusting", 6, 0.35, true),
		}.tool("Flat brush, tapped").
			look("Edges darker.").
			caution(dust),
	)
	leaf.Pastes = []studio.PasteInput{
		{Step: "cut", Slot: "leaf", Shape: studio.Sheet(24_000, 22_000, 800, 785), Run: 20},
		{Step: "dust", Slot: "leaf dust", Shape: studio.Weighed(10)},
	}
	leaf.Wires = []studio.WireInput{
		{Step: "cut", Material: ID("26 white wire"), Number: 1, Depth: 10_000, Stem: 50_000, Hook: studio.HookStraight},
	}
	leaf.Defaults = map[string]studio.ID{"leaf": ID("Slate leaf"), "leaf dust": ID("Leaf dust")}
	leaf.Spares, leaf.SecondsServe = breakage(40), true
	sprig := recipe(
		"Eucalyptus sprig",
		studio.KindFlower,
		"sprig",
		stepper{
			work("tape", "Tape seven leaves to a sprig", "assemble", "assembly", 5, 3.5, true),
		}.tool("Half-width tape").
			look("Pairs opposite, largest at the foot.").
			caution(notFood),
	)
	sprig.Parts = []studio.PartInput{{Step: "tape", Recipe: ID("Eucalyptus leaf"), Count: 7}}
	sprig.Materials = []studio.MaterialInput{{Step: "tape", Material: ID("Half-width green tape"), Amount: 260_000}}
	sprig.Spares = studio.Spares{Rule: studio.SparesByPercent, Percent: 10}
	return []studio.Recipe{leaf, sprig}
}
