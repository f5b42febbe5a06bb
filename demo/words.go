package demo

import "bractum/core/studio"

// The words in which the recipes of this book are written.

type change = func(*studio.Recipe)

func made(kind studio.Kind, name, form string, steps []stepper, changes ...change) studio.Recipe {
	r := recipe(name, kind, form, steps...)
	r.Spares = breakage(30)
	for _, c := range changes {
		c(&r)
	}
	return r
}

func steps(all ...stepper) []stepper { return all }

func does(key, name, glyph, skill string, setup, perPiece float64) stepper {
	return stepper{work(key, name, glyph, skill, setup, perPiece, true)}
}

func rests(key, name string, minutes studio.Minute) stepper {
	return stepper{studio.Step{Key: key, Name: name, Wait: &studio.Wait{Minutes: minutes}}}
}

func until(key, name, class string, thickness studio.Micrometres, state studio.State) stepper {
	return stepper{dries(key, name, class, thickness, state)}
}

func (s stepper) wished(w studio.Wish) stepper { s.Wait.Wished = &w; return s }

func (s stepper) by(method string) stepper { s.Wait.Method = ID(method); return s }

func (s stepper) madeOf(slot string) stepper { s.Wait.Slot = slot; return s }

func (s stepper) since(step string) stepper { s.Wait.Continues = step; return s }

func (s stepper) load(machine, setting string, perSlot int64) stepper {
	s.Wait.Load = &studio.Load{Machines: []studio.ID{ID(machine)}, Setting: setting, PerSlot: perSlot}
	return s
}

func (s stepper) share(perMille studio.PerMille) stepper { s.Work.Share = perMille; return s }

func (s stepper) ofForm(form string) stepper { s.Work.Form = form; return s }

func (s stepper) together(pieces int64) stepper { s.Work.Together = pieces; return s }

func (s stepper) stint(name string, run int64) stepper {
	s.Work.Stint, s.Work.Run, s.Work.MayPause = name, run, false
	return s
}

func (s stepper) takesTool(name string) stepper {
	s.Work.Tool, s.Work.Tools = name, append(s.Work.Tools, studio.ToolNeed{Tool: ID(name)})
	return s
}

func (s stepper) also(skill string) stepper { s.Work.Also = append(s.Work.Also, skill); return s }

func (s stepper) coloured(slot string) stepper {
	s.Work.Family, s.Work.Slot = ID("Brushes"), slot
	return s
}

func (s stepper) mends(perPiece float64) stepper {
	mend := work("mend", "Mend", s.Work.Glyph, s.Work.Skill, 0, perPiece, true)
	s.Mend = mend.Work
	return s
}

func (s stepper) window(w studio.Window) stepper { s.Windows = append(s.Windows, w); return s }

// holdsNext keeps a place until a step of what the pieces go into has ended.
func (s stepper) holdsNext(place string, perSlot int64, until string) stepper {
	s.Holds = append(s.Holds, studio.Hold{Place: ID(place), PerSlot: perSlot, UntilNext: until})
	return s
}

// ofShare has only a part of the pieces lie in the place that was named last.
func (s stepper) ofShare(perMille studio.PerMille) stepper {
	s.Holds[len(s.Holds)-1].Share = perMille
	return s
}

func thin(thickness studio.Micrometres) studio.Drying {
	return studio.Drying{Class: ID("thin petal"), Thickness: thickness}
}

// while is when a piece is firm and not stiff yet: it may be cupped, bunched, fitted.
func while(thickness studio.Micrometres) studio.Window {
	return studio.Window{From: studio.Firm, Before: studio.Stiff, Drying: thin(thickness)}
}

func of(step, slot string, shape studio.Geometry, run int64) change {
	return func(r *studio.Recipe) {
		r.Pastes = append(r.Pastes, studio.PasteInput{Step: step, Slot: slot, Shape: shape, Run: run})
	}
}

// driesTo is a cut that is to have a length once it is dry.
func driesTo(g studio.Geometry, dried studio.Micrometres) studio.Geometry {
	g.Dried = dried
	return g
}

func defaults(pairs ...string) change {
	return func(r *studio.Recipe) {
		if r.Defaults == nil {
			r.Defaults = map[string]studio.ID{}
		}
		for i := 0; i < len(pairs); i += 2 {
			r.Defaults[pairs[i]] = ID(pairs[i+1])
		}
	}
}

func on(step, wire string, number int64, depth, stem, allowance studio.Micrometres, hook studio.Hook) change {
	return func(r *studio.Recipe) {
		r.Wires = append(
			r.Wires,
			studio.WireInput{
				Step:      step,
				Material:  ID(wire),
				Number:    number,
				Depth:     depth,
				Stem:      stem,
				Allowance: allowance,
				Hook:      hook,
			},
		)
	}
}

func bought(step, material string, amount, per int64, outAt string) change {
	return func(r *studio.Recipe) {
		r.Materials = append(
			r.Materials,
			studio.MaterialInput{Step: step, Material: ID(material), Amount: amount, Per: per, OutAt: outAt},
		)
	}
}

func tape(step string, millimetres int64) change {
	return bought(step, "Half-width green tape", millimetres*1000, 0, "")
}

// takes adds an input, changed by what follows.
func takes(step, part string, count int64, changes ...func(*studio.PartInput)) change {
	return func(r *studio.Recipe) {
		p := studio.PartInput{Step: step, Recipe: ID(part), Count: count}
		for _, c := range changes {
			c(&p)
		}
		r.Parts = append(r.Parts, p)
	}
}

func joined(join studio.Join) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Join = join }
}

// inRows sets the rows, and the count by them.
func inRows(set studio.Set, rows ...int64) func(*studio.PartInput) {
	return func(p *studio.PartInput) {
		p.Count, p.Rows, p.Set = 0, rows, set
		for _, n := range rows {
			p.Count += n
		}
	}
}

func least(n int64) func(*studio.PartInput) { return func(p *studio.PartInput) { p.Least = &n } }

func between(from, to int64) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Between = &studio.Between{Least: from, Most: to} }
}

func fresh(w studio.Window) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Window = &w }
}

func shade(slot, from string) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Slots = map[string]string{slot: from} }
}

func inVariant(name string) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Variant = name }
}

func inForm(name string) func(*studio.PartInput) {
	return func(p *studio.PartInput) { p.Form = name }
}

// along gives distances from the tip in millimetres.
func along(millimetres ...studio.Micrometres) func(*studio.PartInput) {
	return func(p *studio.PartInput) {
		for _, at := range millimetres {
			p.At = append(p.At, at*1000)
		}
	}
}

func spares(s studio.Spares) change { return func(r *studio.Recipe) { r.Spares = s } }

func variant(v studio.Variant) change {
	return func(r *studio.Recipe) { r.Variants = append(r.Variants, v) }
}

// asked is a technique: a question, the recipe's own answer, and the other schools.
func asked(question, as string, schools ...studio.Variant) change {
	return func(r *studio.Recipe) {
		r.Techniques = append(r.Techniques, studio.Technique{Question: question, As: as, Schools: schools})
	}
}

func instead(s stepper) studio.StepChange { return studio.StepChange{Step: s.Step} }

func after(key string, s stepper) studio.StepChange {
	return studio.StepChange{After: key, Step: s.Step}
}
