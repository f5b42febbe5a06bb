package plan_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// direct is a studio of one maker and one tray, with an order for each lot that wants it
// so many minutes from now.
func direct(ready studio.Minute, lots ...[]studio.Activity) *studio.Document {
	doc := &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard",
		Epoch:    time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC),
		Zone:     "UTC",
		Now:      0,
		Settings: studio.DefaultSettings(),
		People: []studio.Person{
			{
				ID:     "teun",
				Name:   "Teun",
				Skills: []studio.Skill{{Skill: "shaping", Pace: 100}},
				Shifts: []studio.Span{{From: 0, To: 1440}},
			},
		},
		Places: []studio.Place{{ID: "tray", Name: "Spoon tray", Slots: 1}},
		Direct: &studio.Instance{},
	}
	for n, tasks := range lots {
		lot := studio.Routing{ID: studio.ID(fmt.Sprint("lot ", n))}
		for k, a := range tasks {
			a.ID = studio.ID(fmt.Sprintf("%s.%d", lot.ID, k))
			for i := range a.Holds {
				a.Holds[i].Until = []studio.ID{studio.ID(fmt.Sprintf("%s.%d", lot.ID, len(tasks)-1))}
			}
			lot.Tasks = append(lot.Tasks, a)
		}
		doc.Direct.Lots = append(doc.Direct.Lots, lot)
		doc.Direct.Orders = append(
			doc.Direct.Orders,
			studio.Want{
				ID:         studio.ID(fmt.Sprint("order ", n)),
				ReadyBy:    ready,
				Importance: 10,
				Lots:       []studio.ID{lot.ID},
			},
		)
	}
	return doc
}

func shaping(minutes studio.Minute) studio.Activity {
	return studio.Activity{Work: []studio.Effort{{Skill: "shaping", Minutes: minutes}}}
}

// Each of the three bounds is the best where what it looks at is what is short.
func TestEachBoundIsTheBestSomewhere(t *testing.T) {
	drying := studio.Activity{Wait: &studio.Stay{Least: studio.Length{Minutes: 60}}}
	held := func() []studio.Activity {
		a := shaping(1)
		a.Holds = []studio.Occupation{{Place: "tray", Slots: 1}}
		return []studio.Activity{a, drying}
	}
	for _, c := range []struct {
		name string
		doc  *studio.Document
		best func(studio.Bounds) (int64, int64, int64)
	}{
		{"a long way", direct(60, []studio.Activity{shaping(30), drying}), func(b studio.Bounds) (int64, int64, int64) { return b.Path, b.Skills, b.Slots }},
		{"too much to do", direct(60, []studio.Activity{shaping(60)}, []studio.Activity{shaping(60)}, []studio.Activity{shaping(60)}),
			func(b studio.Bounds) (int64, int64, int64) { return b.Skills, b.Path, b.Slots }},
		{"one tray", direct(70, held(), held(), held(), held(), held()), func(b studio.Bounds) (int64, int64, int64) { return b.Slots, b.Path, b.Skills }},
	} {
		require.Empty(t, c.doc.Validate(), c.name)
		p, err := plan.Make(c.doc, nil, plan.Options{Steps: 50, Seed: 1})
		require.NoError(t, err)
		require.Empty(t, check.Plan(c.doc, p))
		best, other, another := c.best(*p.Bounds)
		assert.Greater(t, best, max(other, another), "%s: %+v", c.name, *p.Bounds)
		assert.GreaterOrEqual(t, *p.Bound, best, c.name)
		assert.GreaterOrEqual(t, p.Objective.Lateness, *p.Bound, c.name)
	}
}
