package learn

import (
	"math"
	"slices"

	"bractum/core/studio"
)

// Change is what accepting a record makes of the standards: one of its parts is set.
type Change struct {
	Class  *studio.DryingClass
	Recipe *studio.Recipe // over the current revision
	Person studio.ID
	Skill  string
	Pace   int64
}

// Accept is what a record would have the standards be. A class dries slower or faster to
// every state alike. The error is a Refusal where the standard is gone.
func Accept(doc *studio.Document, r Record) (Change, error) {
	switch r.Kind {
	case OfClass:
		for _, c := range doc.DryingClasses {
			if c.ID == r.Class {
				times := func(minutes int64) int64 {
					return max(1, int64(math.Round(float64(minutes)*float64(r.Found)/float64(r.Standard))))
				}
				c.FirmMinutes, c.StiffMinutes, c.DryMinutes = times(
					c.FirmMinutes,
				), times(
					c.StiffMinutes,
				), times(
					c.DryMinutes,
				)
				return Change{Class: &c}, nil
			}
		}
	case OfPace:
		return Change{Person: r.Person, Skill: r.Skill, Pace: max(10, min(1000, r.Found))}, nil
	case OfStep, OfBreakage:
		for _, current := range doc.Current() {
			if current.Page() != r.Recipe {
				continue
			}
			changed := *current
			if r.Kind == OfBreakage {
				return Change{Recipe: current.Breaking(studio.PerMille(r.Found))}, nil
			}
			changed.Steps = slices.Clone(changed.Steps)
			if step, at := changed.Step(r.Step); at >= 0 && step.Work != nil {
				work := *step.Work
				work.PerPiece = studio.Milliminutes(r.Found)
				changed.Steps[at].Work = &work
				return Change{Recipe: &changed}, nil
			}
		}
	}
	return Change{}, studio.Refuse("that standard is gone; look at the log again")
}

// Into is the document with a change of a class or a pace.
func (c Change) Into(doc *studio.Document) *studio.Document {
	changed := *doc
	changed.DryingClasses, changed.People = slices.Clone(doc.DryingClasses), slices.Clone(doc.People)
	for i := range changed.DryingClasses {
		if c.Class != nil && changed.DryingClasses[i].ID == c.Class.ID {
			changed.DryingClasses[i] = *c.Class
		}
	}
	for i := range changed.People {
		p := &changed.People[i]
		if p.ID == c.Person {
			p.Skills = slices.Clone(p.Skills)
			for j := range p.Skills {
				if p.Skills[j].Skill == c.Skill {
					p.Skills[j].Pace = c.Pace
				}
			}
		}
	}
	return &changed
}

// Refused is a proposal that somebody did not want, as it stood.
type Refused struct {
	Found    int64 `json:"found"`
	Evidence int64 `json:"evidence"`
}

// Proposes is true of a record that is clear, and was not refused or has since become
// clearly more: twice the evidence, or half as much again that moves it further by more
// than it is unsure.
func (r Record) Proposes(refused *Refused) bool {
	switch {
	case !r.Clear || refused == nil:
		return r.Clear
	case r.Evidence >= 2*refused.Evidence:
		return true
	}
	moved := math.Abs(math.Log(float64(max(1, r.Found)) / float64(max(1, refused.Found))))
	further := (r.Found > refused.Found) == (r.Found > r.Standard)
	return 2*r.Evidence >= 3*refused.Evidence && further && 1000*moved > float64(r.Unsure)
}
