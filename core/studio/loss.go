package studio

import "slices"

// Loss is what a step loses where something breaks at it.
type Loss string

// Losses: the piece itself, or one piece of an input, which another takes the place of.
const (
	LosesPiece   Loss = "piece"
	LosesInput   Loss = "input"
	LosesNothing Loss = "nothing"
)

// Loss is what a step of the recipe loses: what it says; else an input where parts are taken
// up at it, and the piece at any other work.
func (r *Recipe) Loss(s Step) Loss {
	switch {
	case s.Work == nil:
		return LosesNothing
	case s.Loses != "":
		return s.Loses
	case r.inputsAt(s.Key) > 0:
		return LosesInput
	}
	return LosesPiece
}

// inputsAt is how many pieces one piece takes up at a step.
func (r *Recipe) inputsAt(step string) (pieces int64) {
	for _, p := range r.Parts {
		if p.Step == step {
			pieces += p.Count
		}
	}
	return pieces
}

// Losing is the share of the recipe's pieces that are expected to break as they are made: the
// steps' own rates together where any says one, else the recipe's, unless that falls on what
// goes into it. May is false where none of its steps loses the piece.
func (r *Recipe) Losing() (share float64, may bool) {
	kept, own := 1.0, false
	for _, s := range r.Steps {
		own = own || s.LosesPerMille > 0
		if r.Loss(s) == LosesPiece {
			kept *= 1 - float64(s.LosesPerMille)/1000
		}
	}
	switch {
	case own:
		return 1 - kept, kept < 1
	case r.LosesInputs():
		return 0, false
	}
	return float64(r.Spares.Breakage) / 1000, true
}

// Breaks is how many thousandths of a piece are expected to break for each that is made, of itself
// and of what it takes up: what learning holds what broke against.
func (r *Recipe) Breaks() PerMille {
	var steps PerMille
	for _, s := range r.Steps {
		steps += s.LosesPerMille
	}
	if steps > 0 {
		return steps
	}
	return r.Spares.Breakage
}

// Breaking is the recipe with so many expected to break: the rates of its steps in proportion where
// they say any.
func (r *Recipe) Breaking(found PerMille) *Recipe {
	changed, was := *r, r.Breaks()
	changed.Spares.Breakage, changed.Steps = found, slices.Clone(r.Steps)
	for i := range changed.Steps {
		s := &changed.Steps[i]
		s.LosesPerMille = min(900, (s.LosesPerMille*found+was/2)/max(1, was))
	}
	return &changed
}

// LosesInputs is true of a recipe some step of which loses one piece of an input: what breaks
// as it is put together.
func (r *Recipe) LosesInputs() bool {
	for _, s := range r.Steps {
		if r.Loss(s) == LosesInput {
			return true
		}
	}
	return false
}

// LosingOf is the share of the pieces of an input that are expected to break as they are taken
// up: what a step loses of inputs falls on all its pieces alike, and what the recipe loses, where
// no step says a rate, on those of all steps that lose inputs.
func (r *Recipe) LosingOf(p PartInput) float64 {
	step, at := r.Step(p.Step)
	if at < 0 || r.Loss(step) != LosesInput {
		return 0
	}
	var own bool
	var pieces int64
	for _, s := range r.Steps {
		own = own || s.LosesPerMille > 0
		if r.Loss(s) == LosesInput {
			pieces += r.inputsAt(s.Key)
		}
	}
	rate := r.Spares.Breakage
	if own {
		rate, pieces = step.LosesPerMille, r.inputsAt(p.Step)
	}
	return float64(rate) / 1000 / float64(max(1, pieces))
}
