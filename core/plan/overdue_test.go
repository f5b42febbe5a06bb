package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// What was cut and lies there too long is taken up as soon as can be, and the plan says by how much
// too late that is: who takes it up touches it. What is not begun stays within its windows.
func TestWhatWasBegunIsFinishedThoughLate(t *testing.T) {
	doc := oneFlower(
		4,
		2000,
		100,
		[]string{"Teun", "Maren"},
		studio.Step{Key: "lay", Name: "Lay", Work: &studio.Work{Skill: "shaping", PerPiece: 1_000}},
		studio.Step{
			Key:   "build",
			Name:  "Build",
			Wants: studio.WantsSoft,
			Work:  &studio.Work{Skill: "shaping", PerPiece: 5_000},
		},
	)
	pips(doc, 60, 1_000)
	doc.Recipes[0].Dries = &studio.Drying{Class: "pips", Thickness: 800}
	doc.Recipes[0].Parts = []studio.PartInput{{Step: "lay", Recipe: "pip", Count: 1, Wants: studio.WantsAny}}
	planned := func() *studio.Plan {
		require.Empty(t, doc.Validate())
		counted, err := count.Up(doc)
		require.NoError(t, err)
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p))
		require.Empty(t, p.Unplaced)
		return p
	}
	overdue := func(p *studio.Plan) (by studio.Minute) {
		for _, task := range p.Tasks {
			by = max(by, task.Overdue)
		}
		return by
	}
	first := planned()
	assert.Zero(t, overdue(first))
	for _, l := range first.Lots {
		step := map[studio.ID]string{"pip": "cut", "lilac": "lay"}[l.Recipe]
		doc.Work = append(doc.Work, studio.WorkLot{ID: l.ID, Recipe: l.Recipe, Mixes: l.Mixes, Ordinal: l.Ordinal,
			Started: l.Started, Need: l.Need, Records: []studio.TaskRecord{{Step: step, State: studio.TaskDone,
				Person: "Teun", Start: 480, End: 484, Good: l.Started}}})
	}
	doc.Now = 500
	assert.Zero(t, overdue(planned()))

	doc.Now = 700
	late := planned()
	assert.Greater(t, overdue(late), studio.Minute(100))
	for _, task := range late.Tasks {
		if task.Step == "build" {
			assert.EqualValues(t, 700, task.Start)
		}
	}
}
