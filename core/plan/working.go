package plan

import (
	"bractum/core/drying"
	"bractum/core/studio"
)

// Working explains how long a planned task takes: a work step by the formula of
// its duration, a wait by what it needs in standard air. A done task has none.
func Working(doc *studio.Document, air drying.Room, r *studio.Recipe, step studio.Step, t studio.Task) *studio.Working {
	if t.State == studio.TaskDone {
		return nil
	}
	if step.Wait != nil {
		if step.Wait.Minutes > 0 {
			return &studio.Working{Rule: "fixed wait", Inputs: []studio.Figure{}, Result: studio.NewFigure("lasts", t.End-t.Start, "min")}
		}
		return &studio.Working{Rule: "drying", Rounding: "up to the minute", Inputs: []studio.Figure{
			studio.NewFigure("thickness", float64(step.Wait.Thickness)/1000, "mm"),
			studio.NewFigure("ready with a chance of", doc.Settings.PlanningPercentile, "%"),
			studio.NewFigure("needed in standard air", float64(air.Need(*step.Wait))/60_000, "h"),
		}, Result: studio.NewFigure("in the expected air", float64(t.End-t.Start)/60, "h")}
	}
	counted := "pieces"
	if r.Kind == studio.KindMix {
		counted = "hundreds of grams begun"
	}
	pace, setup := int64(100), step.Work.Setup
	for _, p := range doc.People {
		if p.ID == t.Person && p.Pace(step.Work.Skill) > 0 {
			pace = p.Pace(step.Work.Skill)
		}
	}
	if t.State != studio.TaskPlanned {
		setup = 0
	}
	return &studio.Working{Rule: "duration", Rounding: "up to the minute", Inputs: []studio.Figure{
		studio.NewFigure("setup", float64(setup)/1000, "min"),
		studio.NewFigure(counted, t.Pieces, ""),
		studio.NewFigure("for each", float64(step.Work.PerPiece)/1000, "min"),
		studio.NewFigure("pace", float64(pace)/100, ""),
	}, Result: studio.NewFigure("working time", max(1, studio.WorkMinutes(setup, step.Work.PerPiece, t.Pieces, pace)), "min")}
}
