package plan

import (
	"bractum/core/drying"
	"bractum/core/studio"
)

// Working explains how long a planned task takes: a work step by the formula of
// its duration, a wait by what it needs in standard air. A done task has none.
func Working(
	doc *studio.Document,
	air drying.Room,
	a *studio.Activity,
	step studio.Step,
	t studio.Task,
) *studio.Working {
	if t.State == studio.TaskDone || a == nil {
		return nil
	}
	if a.Wait != nil {
		if a.Wait.Least.Dries == nil {
			return &studio.Working{
				Rule:   "fixed-wait",
				Inputs: []studio.Figure{},
				Result: studio.NewFigure("lasts", t.End-t.Start, "min"),
			}
		}
		length := a.Wait.Least
		if a.Wait.Wished != nil && a.Wait.Wished.Dries != nil {
			if end, ok := air.End(*a.Wait.Wished, t.Start); ok && end == t.End {
				length = *a.Wait.Wished
			}
		}
		return &studio.Working{Rule: "drying", Rounding: studio.ToMinute, Inputs: []studio.Figure{
			studio.NewFigure("thickness", float64(length.Dries.Thickness)/1000, "mm"),
			studio.NewFigure("ready-with-a-chance-of", air.Late(length.Dries.Class), "%"),
			studio.NewFigure("needed-in-standard-air", float64(air.Need(length))/60_000, "h"),
		}, Result: studio.NewFigure("in-the-expected-air", float64(t.End-t.Start)/60, "h")}
	}
	person := &studio.Person{}
	for i := range doc.People {
		if doc.People[i].ID == t.Person {
			person = &doc.People[i]
		}
	}
	pace := person.PaceAt(a.Work[0].Skill)
	var total studio.Milliminutes
	for _, e := range a.Work {
		total += e.Total()
	}
	var length studio.Minute
	for _, run := range a.Runs(person, t.Setup) {
		length += run
	}
	setup := step.Work.Setup
	if a.Begun() && !a.Fact.Uncounted {
		setup = 0
	}
	inputs := []studio.Figure{
		studio.NewFigure("setup", float64(setup)/1000, "min"),
		studio.NewFigure("pieces", a.Pieces, ""),
		studio.NewFigure("for-each", float64(step.Work.PerPiece)/1000, "min"),
		studio.NewFigure("attended-at-the-recipes-pace", float64(total)/1000, "min"),
		studio.NewFigure("pace", float64(pace)/100, ""),
	}
	if a.Begun() && a.Fact.Uncounted {
		since := t.Begin() - t.Start
		for _, pause := range a.Fact.PausesBefore(t.Begin()) {
			since -= pause.To - pause.From
		}
		inputs = append(inputs, studio.NewFigure("worked-since-it-began", since, "min"))
	}
	if t.Setup > 0 {
		inputs = append(inputs, studio.NewFigure("coming-to-its-colour", t.Setup, "min"))
	}
	return &studio.Working{
		Rule:     "duration",
		Rounding: studio.ToMinute,
		Inputs:   inputs,
		Result:   studio.NewFigure("working-time", length, "min"),
	}
}
