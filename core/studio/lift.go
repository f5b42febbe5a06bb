package studio

import "slices"

// lifts turn what was read of a document of one version into the next one's: the
// first lifts version 0. What a new version only adds, and has left out mean what it
// meant before, needs none.
var lifts = []func(*Document){liftStiffness, liftSoftness}

// lift brings a document of an earlier version to this one, and leaves any other.
func (d *Document) lift() {
	if d.Format != Format || d.Version < 0 || d.Version >= Version {
		return
	}
	for _, raise := range lifts[d.Version:] {
		raise(d)
	}
	d.Version = Version
}

// liftStiffness: version 0 had no stiff state; a class is stiff when it is dry.
func liftStiffness(d *Document) {
	for i := range d.DryingClasses {
		if c := &d.DryingClasses[i]; c.StiffMinutes == 0 {
			c.StiffMinutes = c.DryMinutes
		}
	}
}

// liftSoftness: in version 1 nothing was wanted of a piece but what windows said, and those
// counted from the end of a lot to its start; what broke was the piece, and spares were for a
// level of service.
func liftSoftness(d *Document) {
	d.Settings.SparesFor, d.Settings.RemakeMinutes = SparesForService, DefaultSettings().RemakeMinutes
	for i := range d.Recipes {
		d.Recipes[i].Lift(1)
	}
}

// Lift brings a recipe of an earlier version to this one; what it means stays.
func (r *Recipe) Lift(version int) {
	if version >= 2 {
		return
	}
	r.liftYield()
	liftSteps(r.Steps)
	liftInputs(r.Parts)
	lift := func(changes []Variant) {
		for i := range changes {
			for k := range changes[i].Steps {
				liftStep(&changes[i].Steps[k].Step)
			}
			liftInputs(changes[i].Parts)
		}
	}
	lift(r.Variants)
	for i := range r.Techniques {
		lift(r.Techniques[i].Schools)
	}
}

func liftSteps(steps []Step) {
	for i := range steps {
		liftStep(&steps[i])
	}
}

func liftStep(s *Step) {
	if s.Work != nil && s.Wants == "" {
		s.Wants = WantsAny
	}
	if s.Work != nil && s.Loses == "" {
		s.Loses = LosesPiece
	}
	for i := range s.Windows {
		s.Windows[i].Whole = s.Windows[i].Limited()
	}
}

func liftInputs(parts []PartInput) {
	for i := range parts {
		p := &parts[i]
		if p.Wants == "" {
			p.Wants = WantsAny
		}
		if p.Window.Limited() {
			p.Window.Whole = true
		}
	}
}

// liftYield: in version 1 all the steps of a stint worked on as many as its first; a yield in
// the midst of one counted from the next task on.
func (r *Recipe) liftYield() {
	if r.Yield == nil {
		return
	}
	_, at := r.Step(r.Yield.Step)
	if at < 0 {
		return
	}
	_, past := r.Task(at)
	for i := at + 1; i < past; i++ {
		if r.takesAt(r.Steps[i].Key) {
			return // what they took was counted by the pieces even then
		}
	}
	yield := *r.Yield
	yield.Step, r.Yield = r.Steps[past-1].Key, &yield
}

// takesAt is true of a step that takes anything up.
func (r *Recipe) takesAt(step string) bool {
	return slices.ContainsFunc(r.Parts, func(p PartInput) bool { return p.Step == step }) ||
		slices.ContainsFunc(r.Pastes, func(p PasteInput) bool { return p.Step == step }) ||
		slices.ContainsFunc(r.Materials, func(m MaterialInput) bool { return m.Step == step }) ||
		slices.ContainsFunc(r.Wires, func(w WireInput) bool { return w.Step == step })
}
