package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// The working of every planned task comes to the length that the plan gives it.
func TestWorkingsComeToWhatThePlanSays(t *testing.T) {
	doc := demo.Document()
	p := made(t, doc)
	air := drying.NewRoom(doc, calendar(t, doc))
	book := studio.NewBook(doc)
	activities := studio.Route(doc, book, p.Lots, p.Links, p.Pegs).Activities()
	lots := map[studio.ID]studio.ID{}
	for _, l := range p.Lots {
		lots[l.ID] = l.Recipe
	}
	rules := map[string]int{}
	for _, task := range p.Tasks {
		step, _ := book.Recipe(lots[task.Lot]).Step(task.Step)
		w := plan.Working(doc, air, activities[task.ID], step, task)
		require.NotNil(t, w)
		rules[w.Rule]++
		length := float64(task.End - task.Start)
		for _, pause := range task.Pauses {
			length -= float64(pause.To - pause.From)
		}
		if w.Result.Unit == "h" {
			length /= 60
		}
		assert.InDelta(t, length, w.Result.Value, 1e-9, "%s of %s", step.Name, task.Lot)
	}
	assert.Len(t, rules, 3)
	assert.Nil(t, plan.Working(doc, air, nil, studio.Step{}, studio.Task{State: studio.TaskDone}))
}
