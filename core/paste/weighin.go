package paste

import "bractum/core/studio"

// Weighing is how far the weighing of a mix has come. Factor is how much more is mixed
// than was wanted, in thousandths, because something was over-poured; Mixed what the mix
// comes to, the blend without its additives.
type Weighing struct {
	Lines  []WeighLine       `json:"lines"`
	Factor studio.PerMille   `json:"factorPerMille"`
	Mixed  studio.Milligrams `json:"mixedMilligrams"`
	Done   bool              `json:"done"`
}

// WeighLine is one ingredient: what was wanted, what is wanted now, what is in the bowl,
// and what is still to pour.
type WeighLine struct {
	Portion
	Target    studio.Milligrams  `json:"targetMilligrams"`
	Tolerance studio.Milligrams  `json:"toleranceMilligrams"`
	Weighed   *studio.Milligrams `json:"weighedMilligrams,omitempty"`
	Pour      studio.Milligrams  `json:"pourMilligrams"`
	State     WeighState         `json:"state"`
}

// WeighState is how an ingredient stands.
type WeighState string

// States of an ingredient: not weighed, too little of it, right, or more than was wanted,
// so that the others follow.
const (
	ToWeigh WeighState = "to weigh"
	TooLow  WeighState = "too little"
	Right   WeighState = "right"
	TooMuch WeighState = "over-poured"
)

// Tolerance is how far off a weight may be: a step of the scale, or a hundredth of it.
func Tolerance(target, step studio.Milligrams) studio.Milligrams { return max(step, target/100) }

// WeighIn says what is to pour, given what was weighed of some portions of a mix; a nil
// is not weighed yet. What was over-poured by more than its tolerance scales all others by
// the same factor, those weighed already too, rounded up to the step of the scale; it is
// never poured off.
func WeighIn(portions []Portion, weighed []*studio.Milligrams, step studio.Milligrams) Weighing {
	over, of := studio.Milligrams(1), studio.Milligrams(1) // the factor as a fraction
	for i, p := range portions {
		if i < len(weighed) && weighed[i] != nil && *weighed[i] > p.Weigh+Tolerance(p.Weigh, step) &&
			*weighed[i]*of > over*p.Weigh {
			over, of = *weighed[i], p.Weigh
		}
	}
	w := Weighing{
		Lines:  make([]WeighLine, len(portions)),
		Factor: studio.PerMille(studio.CeilDiv(over*1000, of)),
		Done:   true,
	}
	for i, p := range portions {
		line := WeighLine{Portion: p, Target: p.Weigh, State: ToWeigh}
		if over > of {
			exact := studio.CeilDiv(p.Weigh*over, of)
			shown, near := nearest(exact, step)
			if line.Target = shown; !near {
				line.Target = exact
			}
			line.TooLittle = !near && p.Drops == 0
		}
		line.Tolerance = Tolerance(line.Target, step)
		if line.TooLittle {
			line.Tolerance = max(1, line.Target/offAllowed)
		}
		line.Pour = line.Target
		if i < len(weighed) && weighed[i] != nil {
			got := *weighed[i]
			line.Weighed, line.Pour = &got, max(0, line.Target-got)
			switch {
			case got < line.Target-line.Tolerance:
				line.State = TooLow
			case got > p.Weigh+Tolerance(p.Weigh, step) && got*of >= over*p.Weigh:
				line.State, line.Pour = TooMuch, 0
			default:
				line.State, line.Pour = Right, 0
			}
			if p.Per100g == 0 && p.Drops == 0 {
				w.Mixed += got
			}
		}
		w.Done = w.Done && (line.State == Right || line.State == TooMuch)
		w.Lines[i] = line
	}
	return w
}
