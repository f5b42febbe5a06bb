package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/studio"
)

// A fall names the first task of an order's chain that is later than it was, and why.
func TestAFallNamesWhatMadeIt(t *testing.T) {
	slack := func(m studio.Minute) *studio.Minute { return &m }
	plans := func() (before, after *studio.Plan) {
		one := func() *studio.Plan {
			return &studio.Plan{
				Now: 480,
				Lots: []studio.Lot{{ID: "petals", Recipe: "petal"}, {ID: "roses", Recipe: "rose",
					Pegs: []studio.Peg{{Order: "regatta", Line: "1", Quantity: 4}}}},
				Tasks: []studio.Task{
					{ID: "petals/cut", Lot: "petals", Step: "cut", State: studio.TaskPlanned, Person: "teun",
						Start: 480, End: 540, Pieces: 20, Cause: studio.CauseNow},
					{ID: "petals/dry", Lot: "petals", Step: "dry", State: studio.TaskPlanned, Start: 540, End: 900,
						Cause: studio.CauseStep, CausedBy: "petals/cut"},
					{ID: "roses/tape", Lot: "roses", Step: "tape", State: studio.TaskPlanned, Person: "maren",
						Start: 900, End: 960, Pieces: 4, Cause: studio.CauseInput, CausedBy: "petals/dry"},
				},
				Orders: []studio.Outcome{{Order: "regatta", Slack: slack(500)}},
			}
		}
		before, after = one(), one()
		after.Orders[0].Slack = slack(400)
		return before, after
	}
	later := func(p *studio.Plan, from int, by studio.Minute) {
		for i := from; i < len(p.Tasks); i++ {
			p.Tasks[i].Start, p.Tasks[i].End = p.Tasks[i].Start+by, p.Tasks[i].End+by
		}
	}
	for why, is := range map[studio.FallCode]struct {
		happens func(p *studio.Plan)
		task    studio.ID
		minutes studio.Minute
		by      studio.ID
	}{
		studio.TookLonger: {func(p *studio.Plan) {
			later(p, 1, 100)
			p.Tasks[0].End, p.Tasks[0].State = 640, studio.TaskDone
		}, "petals/cut", 100, ""},
		studio.BegunLate: {func(p *studio.Plan) {
			later(p, 0, 100)
			p.Tasks[0].State = studio.TaskStarted
		}, "petals/cut", 100, ""},
		studio.NotBegun:    {func(p *studio.Plan) { p.Now = 580; later(p, 0, 100) }, "petals/cut", 100, ""},
		studio.DriesLonger: {func(p *studio.Plan) { later(p, 2, 100); p.Tasks[1].End += 100 }, "petals/dry", 100, ""},
		studio.WaitsFor: {func(p *studio.Plan) {
			later(p, 2, 100)
			p.Tasks[2].Cause, p.Tasks[2].CausedBy = studio.CauseGate, "delivery"
		}, "roses/tape", 100, "delivery"},
		studio.Busy: {func(p *studio.Plan) {
			later(p, 2, 100)
			p.Tasks[2].Cause, p.Tasks[2].CausedBy = studio.CausePerson, "stems/tape"
		}, "roses/tape", 100, "stems/tape"},
		studio.Away: {func(p *studio.Plan) { later(p, 2, 100); p.Tasks[2].Cause = studio.CauseHours },
			"roses/tape", 100, ""},
		studio.Full: {func(p *studio.Plan) {
			later(p, 2, 100)
			p.Tasks[2].Cause, p.Tasks[2].CausedBy = studio.CausePlace, "stems/hang"
		}, "roses/tape", 100, "stems/hang"},
		studio.MadeAgain: {func(p *studio.Plan) {
			later(p, 2, 100)
			p.Lots = append(p.Lots, studio.Lot{ID: "more", Recipe: "petal"})
			p.Tasks = append(p.Tasks, studio.Task{ID: "more/cut", Lot: "more", Step: "cut", Start: 900, End: 1000})
			p.Tasks[2].CausedBy = "more/cut"
		}, "more/cut", 0, ""},
		studio.PutLater: {func(*studio.Plan) {}, "", 0, ""},
		studio.NoDate: {func(p *studio.Plan) {
			p.Orders[0].Slack = nil
			p.Unplaced = []studio.Unplaced{{Task: "roses/tape", Lot: "roses", Step: "tape", Reason: studio.AfterGone},
				{Task: "roses/glue", Lot: "roses", Step: "glue", Reason: studio.NoPlace, By: "stems/hang"}}
		}, "roses/glue", 0, "stems/hang"},
	} {
		before, after := plans()
		is.happens(after)
		falls := plan.Falls(before, after, 60)
		require.Len(t, falls, 1, why)
		assert.Equal(t, why, falls[0].Why)
		assert.Equal(t, is.task, falls[0].Task, why)
		assert.Equal(t, is.minutes, falls[0].Minutes, why)
		assert.Equal(t, is.by, falls[0].By, why)
	}
	before, after := plans()
	assert.Empty(t, plan.Falls(before, after, 101), "less is not told")
	assert.Empty(t, plan.Falls(after, before, 60), "more slack is no fall")
}

// Something better is looked for when an order is much later than it was, late that was not, or never ready.
func TestWhatFellIsLookedFor(t *testing.T) {
	ready := func(m studio.Minute) *studio.Plan {
		return &studio.Plan{Orders: []studio.Outcome{{Order: "regatta", ReadyBy: 520, Ready: &m}}}
	}
	assert.False(t, plan.Fell(ready(500), ready(515)))
	assert.True(t, plan.Fell(ready(500), ready(521)), "late now")
	assert.True(t, plan.Fell(ready(400), ready(470)))
	assert.False(t, plan.Fell(ready(530), ready(545)), "late as before")
	assert.True(t, plan.Fell(ready(530), ready(600)))
	assert.True(t, plan.Fell(ready(500), &studio.Plan{Orders: []studio.Outcome{{Order: "regatta", ReadyBy: 520}}}))
	assert.False(t, plan.Fell(&studio.Plan{}, ready(600)), "new")
}
