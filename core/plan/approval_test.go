package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// The whole amount of a mix waits for its client's word, of that order alone; once it is approved nothing waits, and
// what is expected and has not come is waited for from now on.
func TestAMixWaitsForItsApproval(t *testing.T) {
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	by := studio.MustWallTime("2027-09-23T12:00")
	var mix studio.ID
	var waits *studio.Order
	planned := func() *studio.Plan {
		t.Helper()
		require.Empty(t, doc.Validate())
		counted, err := count.Up(doc)
		require.NoError(t, err)
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p))
		return p
	}
	before, starts := planned(), map[studio.ID]studio.Minute{}
	for _, task := range before.Tasks {
		if at, known := starts[task.Lot]; !known || task.Start < at {
			starts[task.Lot] = task.Start
		}
	}
	for i := range doc.Orders { // an order for which, and for others, a mix is weighed before that day
		for _, l := range before.Lots {
			for _, c := range l.For {
				if c.Order == doc.Orders[i].ID && studio.NewBook(doc).Recipe(l.Recipe).Kind == studio.KindMix &&
					!l.InWork && len(studio.OfOrders(l.For)) > 1 &&
					starts[l.ID] < calendar.Minute(by) {
					mix, waits = l.Recipe, &doc.Orders[i]
				}
			}
		}
	}
	require.NotNil(t, waits)
	first := func(p *studio.Plan) (of, others studio.Minute) {
		of, others = 1<<40, 1<<40
		lots := map[studio.ID]studio.Lot{}
		for _, l := range p.Lots {
			lots[l.ID] = l
		}
		for _, task := range p.Tasks {
			l := lots[task.Lot]
			if l.Recipe != mix || l.InWork {
				continue
			}
			theirs := false
			for _, c := range l.For {
				theirs = theirs || c.Order == waits.ID
			}
			if theirs {
				of = min(of, task.Start)
			}
			if !theirs || len(studio.OfOrders(l.For)) > 1 {
				others = min(others, task.Start)
			}
		}
		return of, others
	}
	soon, others := first(before)
	require.Less(t, soon, calendar.Minute(by))
	for _, state := range []studio.ApprovalState{studio.SampleToMake, studio.SampleSent} {
		waits.Approvals = []studio.Approval{{ID: "sample", Mix: mix, By: by, State: state}}
		of, rest := first(planned())
		assert.GreaterOrEqual(t, of, calendar.Minute(by))
		assert.Less(t, rest, calendar.Minute(by), "others need not wait: %d before", others)
		for _, l := range planned().Lots {
			if claims := studio.OfOrders(l.For); l.Recipe == mix && !l.InWork && len(claims) > 1 {
				assert.False(t, slices.ContainsFunc(claims, func(c studio.Claim) bool { return c.Order == waits.ID }),
					"others wait with it")
			}
		}
	}
	waits.Approvals[0].By = studio.MustWallTime("2027-09-20T07:00")
	late := planned()
	until, asked := late.ApprovedBy(waits.ID, waits.Approvals[0])
	require.True(t, asked)
	for _, l := range late.Lots {
		for _, c := range l.For {
			if l.Recipe == mix && !l.InWork && c.Order == waits.ID {
				assert.LessOrEqual(t, until, l.LatestStart)
			}
		}
	}
	of, _ := first(late)
	assert.GreaterOrEqual(t, of, doc.Now)
	waits.Approvals[0].State = studio.Approved
	_, asked = late.ApprovedBy(waits.ID, waits.Approvals[0])
	assert.False(t, asked)
	assert.Equal(t, before.Tasks, planned().Tasks)
	waits.Approvals[0].By = waits.Leaves
	assert.Equal(t, "approvals[0].by", doc.CheckOrder(*waits)[0].Place)
}
