package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// held is a direct studio of one tray of two slots and one maker, with lots and links between them; each
// lot is an order of its own.
func held(links []studio.Lag, lots ...studio.Routing) *studio.Document {
	doc := oneFlower(1, 600, 100, []string{"Teun"})
	doc.Colourways, doc.Recipes, doc.Orders, doc.Climate = nil, nil, nil, nil
	doc.Settings.HorizonMinutes = 1440
	doc.Places = []studio.Place{{ID: "tray", Name: "Tray", Slots: 2}}
	doc.Direct = &studio.Instance{Lots: lots, Links: links}
	for _, l := range lots {
		doc.Direct.Orders = append(doc.Direct.Orders, studio.Want{ID: "for " + l.ID, ReadyBy: 700, Importance: 1,
			Lots: []studio.ID{l.ID}})
	}
	return doc
}

func shaped(id studio.ID, slots []int64, until ...studio.ID) studio.Activity {
	a := studio.Activity{ID: id, Work: []studio.Effort{{Skill: "shaping", Minutes: 30}}}
	for _, n := range slots {
		a.Holds = append(a.Holds, studio.Occupation{Place: "tray", Slots: n, Until: append([]studio.ID{id}, until...)})
	}
	return a
}

func plannedDirect(t *testing.T, doc *studio.Document) *studio.Plan {
	require.Empty(t, doc.Validate())
	p, err := plan.Make(doc, nil, plan.Options{Steps: 200})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	return p
}

// Two holds of one task, or of tasks of which one is held until the other has ended, that a tray never has
// room for together are said to be that, and no better plan is thought possible.
func TestHoldsThatNeverFitTogetherAreSaid(t *testing.T) {
	for name, doc := range map[string]*studio.Document{
		"of one task": held(nil, studio.Routing{ID: "L", Tasks: []studio.Activity{shaped("a", []int64{2, 1})}}),
		"of two tasks": held(nil, studio.Routing{ID: "L", Tasks: []studio.Activity{
			shaped("a", []int64{2}, "b"), shaped("b", []int64{1}),
		}}),
	} {
		p := plannedDirect(t, doc)
		said := false
		for _, u := range p.Unplaced {
			if u.Case == "together" {
				said = true
				assert.Equal(t, studio.NoPlace, u.Reason, name)
				assert.Equal(t, "Tray", u.With["place"])
				assert.Contains(t, []any{"2 + 1", "1 + 2"}, u.With["slots"])
				assert.EqualValues(t, 2, u.With["has"])
			}
		}
		assert.True(t, said, name)
		assert.Equal(t, p.Objective.Lateness, *p.Bound, name)
	}
	fits := held(
		nil,
		studio.Routing{ID: "L", Tasks: []studio.Activity{shaped("a", []int64{2}), shaped("b", []int64{1})}},
	)
	assert.Empty(t, plannedDirect(t, fits).Unplaced)
}

// Where what ends a hold can never be, what takes it may stand for its own order: it is held to the end.
func TestWhatStandsIsSavedFromWhatCannot(t *testing.T) {
	long := studio.Activity{ID: "tape", Work: []studio.Effort{{Skill: "shaping", Minutes: 5000}}}
	doc := held(
		[]studio.Lag{{From: "cut", To: "tape"}},
		studio.Routing{ID: "petals", Tasks: []studio.Activity{shaped("cut", []int64{1}, "tape")}},
		studio.Routing{ID: "flower", Tasks: []studio.Activity{long}},
		studio.Routing{ID: "leaves", Tasks: []studio.Activity{shaped("roll", []int64{1})}},
	)
	p := plannedDirect(t, doc)
	require.Len(t, p.Unplaced, 1)
	assert.EqualValues(t, "tape", p.Unplaced[0].Task)
	assert.Equal(t, studio.NoHours, p.Unplaced[0].Reason)
	for _, task := range p.Tasks {
		if task.ID == "cut" {
			assert.GreaterOrEqual(t, task.Holds[0].To, doc.Horizon())
		}
	}
}
