package plan_test

import (
	"fmt"
	"slices"

	"bractum/core/studio"
)

func (a author) mixes() {
	mix := func(id studio.ID, drying studio.PerMille, blend ...studio.Ingredient) studio.Recipe {
		return studio.Recipe{
			ID:          id,
			Recipe:      id,
			Revision:    1,
			Name:        string(id),
			Kind:        studio.KindMix,
			Colour:      "#e8d9c5",
			LifeMinutes: 7 * 1440,
			Drying:      drying,
			Blend:       blend,
			Spares: studio.Spares{
				Rule: studio.SparesNone,
			},
			Steps: []studio.Step{
				{Key: "knead", Name: "Knead", Work: &studio.Work{Skill: "mixing", Setup: 5000, PerPiece: 2000}},
				{Key: "rest", Name: "Rest", Wait: &studio.Wait{Minutes: 30}},
			},
		}
	}
	a.doc.Recipes = []studio.Recipe{mix("white", 0, studio.Ingredient{Material: "paste", Parts: 1}),
		mix("kelp", 700, studio.Ingredient{Mix: "white", Parts: 9}, studio.Ingredient{Material: "colour", Parts: 1})}
	a.doc.Colourways = []studio.Colourway{
		{ID: "Oyster", Name: "Oyster", Slots: map[string]studio.ID{"petal": "white", "core": "white", "dust": "kelp"}},
		{ID: "Kelp", Name: "Kelp", Slots: map[string]studio.ID{"petal": "kelp", "core": "white", "dust": "kelp"}},
	}
}

// dries is the first of some steps that says how fast pieces dry, past the last if none does.
func dries(steps []studio.Step) int {
	for i, s := range steps {
		if s.Wait != nil && s.Wait.Class != "" {
			return i
		}
		for _, w := range s.Windows {
			if w.Class != "" {
				return i
			}
		}
	}
	return len(steps)
}

func (a author) window(w *studio.Window) {
	w.Whole = a.one("binds the lot as a whole", 3)
	switch a.n("window", 1, 4) {
	case 1:
		w.AtLeast = studio.Minute(a.n("at least", 1, 60))
	case 2:
		most := studio.Minute(a.n("at most", 30, 4000))
		w.AtMost = &most
	case 3:
		w.Drying, w.From = studio.Drying{Class: "petal", Thickness: 800}, studio.Firm
	default:
		w.Drying, w.From, w.Before = studio.Drying{
			Class:     "petal",
			Thickness: 800,
			Slot:      "petal",
		}, studio.Firm, studio.Stiff
	}
}

func (a author) work() *studio.Work {
	w := &studio.Work{
		Skill:    oneOf(a, "skill", "shaping", "dusting", "assembly"),
		Setup:    studio.Milliminutes(a.n("setup", 0, 9000)),
		PerPiece: studio.Milliminutes(a.n("per piece", 1, 1500)),
		MayPause: a.one("may pause", 2),
	}
	if a.one("also", 6) {
		w.Also = []string{"mixing"}
	}
	switch a.n("share", 1, 6) {
	case 1:
		w.Share = studio.PerMille(a.n("per mille", 1, 999))
	case 2:
		w.Together = a.n("together", 2, 8)
	}
	if a.one("tool", 4) {
		w.Tools = []studio.ToolNeed{{Tool: "veiner"}}
	}
	if w.Skill == "dusting" {
		w.Family, w.Slot = "brushes", oneOf(a, "colour", "petal", "dust")
	}
	return w
}

func (a author) wait() *studio.Wait {
	switch a.n("wait", 1, 4) {
	case 1:
		return &studio.Wait{Minutes: studio.Minute(a.n("minutes", 1, 90)), Wished: &studio.Wish{Minutes: 120}}
	case 2:
		return &studio.Wait{
			Minutes: studio.Minute(a.n("minutes", 10, 90)),
			Load: &studio.Load{
				Machines: []studio.ID{"dehydrator", "oven"},
				Setting:  oneOf(a, "setting", "45 °C", "60 °C"),
				PerSlot:  20,
			},
		}
	case 3:
		return &studio.Wait{
			Drying: studio.Drying{Class: "petal", Thickness: 900, Method: "hanging", Slot: "petal"},
			State:  studio.Firm,
			Wished: &studio.Wish{State: studio.Dry},
		}
	}
	return &studio.Wait{Drying: studio.Drying{Class: "petal", Thickness: 800}, State: studio.Dry}
}

// recipe writes a part or flower that takes up some of the recipes given.
func (a author) recipe(id studio.ID, kind studio.Kind, of ...*studio.Recipe) studio.Recipe {
	r := studio.Recipe{
		ID:           id,
		Recipe:       id,
		Revision:     1,
		Name:         string(id),
		Kind:         kind,
		Defaults:     map[string]studio.ID{"core": "white"},
		SecondsServe: a.one("seconds", 3),
		Spares: studio.Spares{
			Rule: oneOf(
				a,
				"spares",
				studio.SparesByBreakage,
				studio.SparesByNumber,
				studio.SparesByPercent,
				studio.SparesNone,
			),
			Breakage: 60,
			Number:   2,
			Percent:  10,
		},
	}
	steps := int(a.n("steps", 1, 5))
	for i := range steps {
		s := studio.Step{Key: fmt.Sprint("s", i), Name: fmt.Sprint("Step ", i)}
		if i > 0 && r.Steps[i-1].Work != nil && a.one("waits", 2) {
			s.Wait = a.wait()
		} else {
			s.Work = a.work()
			if a.one("mend", 5) {
				s.Mend = &studio.Work{Skill: "shaping", PerPiece: 500}
			}
			if i > 0 && r.Steps[i-1].Work != nil && a.one("stint", 3) {
				r.Steps[i-1].Work.Stint, s.Work.Stint, s.Work.Run = "stint", "stint", a.n("run", 3, 20)
				r.Steps[i-1].Work.Family, s.Work.Family, r.Steps[i-1].Windows = "", "", nil
			}
		}
		if i > 0 && s.Work != nil && s.Work.Stint == "" && a.one("windowed", 4) {
			w := studio.Window{}
			a.window(&w)
			s.Windows = []studio.Window{w}
		}
		if a.one("gated", 12) {
			s.Gates = []studio.ID{"box"}
		}
		r.Steps = append(r.Steps, s)
	}
	for i := dries(r.Steps); i < len(r.Steps); i++ {
		if r.Steps[i].Work != nil && a.one("wants", 3) {
			r.Steps[i].Wants = oneOf(a, "state", studio.WantsSoft, studio.WantsFirm)
		}
	}
	for i := range r.Steps {
		if a.one("held", 3) {
			h := studio.Hold{
				Place:   oneOf(a, "place", studio.ID("tray"), "sleeve", "rail"),
				PerSlot: a.n("per slot", 2, 12),
			}
			if h.UntilNext = "s0"; a.one("until a step of its own", 2) {
				h.Until, h.UntilNext = r.Steps[a.n("until", i, steps-1)].Key, ""
			}
			if h.Place == "tray" && a.one("stand-in", 2) {
				h.StandIns = []studio.Seat{{
					Place:    "board",
					PerSlot:  a.n("per slot there", 0, 9),
					PerPiece: studio.Milliminutes(a.n("more time", 0, 2000)),
				}}
			}
			r.Steps[i].Holds = []studio.Hold{h}
		}
	}
	at := func() string {
		for {
			if s := r.Steps[a.n("at", 0, steps-1)]; s.Work != nil {
				return s.Key
			}
		}
	}
	if kind == studio.KindPart {
		r.Pastes = []studio.PasteInput{
			{
				Step: "s0",
				Slot: oneOf(a, "slot", "petal", "core"),
				Run:  6,
				Shape: studio.Geometry{
					Shape:    studio.ShapeBall,
					Diameter: studio.Micrometres(a.n("ball", 2000, 20_000)),
				},
			},
		}
		r.Wires = []studio.WireInput{
			{Step: at(), Material: "wire", Number: 1, Depth: 10_000, Stem: 80_000, Hook: studio.HookOpen},
		}
		if a.one("yields", 4) {
			r.Yield = &studio.Yield{Step: at(), Gives: 2}
		}
		if a.one("formed", 4) {
			r.Forms = []studio.Form{{Name: "left", Share: 500}, {Name: "right", Share: 500}}
		}
	}
	if a.one("stamened", 3) {
		r.Materials = []studio.MaterialInput{
			{Step: at(), Material: "stamens", Amount: 3},
			{Step: r.Steps[0].Key, Material: "strips", Amount: 1, OutAt: r.Steps[steps-1].Key},
		}
	}
	for _, input := range of {
		p := studio.PartInput{Step: at(), Recipe: input.ID, Count: a.n("count", 1, 6)}
		if len(input.Forms) > 0 && a.one("form", 2) {
			p.Form = "left"
		}
		if a.one("as needed", 4) {
			least := p.Count - 1
			p.Least = &least
		}
		if worked := input.Steps[:input.OutputStep()+1]; len(input.Forms) == 0 && len(input.Variants) == 0 &&
			!slices.ContainsFunc(
				worked,
				func(s studio.Step) bool { return s.Wait != nil },
			) && a.one("made in the run", 3) {
			p.InRun = true
		}
		if a.one("input window", 5) {
			p.Window = &studio.Window{}
			a.window(p.Window)
		}
		if len(input.Variants) > 0 && a.one("variant", 3) {
			p.Variant = input.Variants[0].Name
		} else if dries(input.Steps) < len(input.Steps) && a.one("wants it", 3) {
			p.Wants = oneOf(a, "wanted", studio.WantsSoft, studio.WantsFirm)
		}
		r.Parts = append(r.Parts, p)
	}
	if steps > 1 && a.one("varies", 3) {
		r.Variants = []studio.Variant{{Name: "bud", StopAfter: r.Steps[a.n("stop", 0, steps-2)].Key}}
	}
	return r
}

func (a author) book() {
	d := a.doc
	parts := []studio.Recipe{a.recipe("Petal", studio.KindPart), a.recipe("Centre", studio.KindPart)}
	parts = append(parts, a.recipe("Core", studio.KindPart, &parts[1]))
	flower := a.recipe("Anemone", studio.KindFlower, &parts[0], &parts[2])
	spray := a.recipe("Spray", studio.KindSpray, &flower, &parts[1])
	if a.one("kept", 4) {
		parts[1].KeepInStock, parts[1].Defaults = 12, map[string]studio.ID{
			"core":  "white",
			"petal": "white",
			"dust":  "kelp",
		}
		parts[2].Defaults, flower.Defaults, spray.Defaults = parts[1].Defaults, parts[1].Defaults, parts[1].Defaults
	}
	d.Recipes = append(append(d.Recipes, parts...), flower, spray)
}
