package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

func calendar(t *testing.T, doc *studio.Document) studio.Calendar {
	c, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	return c
}

func TestAPlanComparedWithItselfHasNoDifferences(t *testing.T) {
	p := made(t, demo.Document())
	assert.Equal(
		t,
		plan.Differences{
			Moved:  []plan.Move{},
			Added:  []studio.ID{},
			Gone:   []studio.ID{},
			Orders: []plan.OrderChange{},
		},
		plan.Compare(p, p),
	)
}

func TestDifferencesNameWhatMovesComesAndGoes(t *testing.T) {
	doc := demo.Document()
	before := made(t, doc)
	doc.Orders[0].State = studio.OrderCancelled // the ferry crew's
	after := made(t, doc)
	d := plan.Compare(before, after)
	assert.NotEmpty(t, d.Gone)
	assert.NotEmpty(t, d.Moved, "others take its place")
	var ferry *plan.OrderChange
	for i := range d.Orders {
		if d.Orders[i].Order == doc.Orders[0].ID {
			ferry = &d.Orders[i]
		}
	}
	require.NotNil(t, ferry)
	assert.NotNil(t, ferry.Before)
	assert.Nil(t, ferry.After)
	back := plan.Compare(after, before)
	assert.ElementsMatch(t, d.Gone, back.Added)
	assert.Len(t, back.Moved, len(d.Moved))
	assert.Len(t, plan.Compare(nil, before).Orders, len(before.Orders))
}

func TestEveryLotWorksForSomeOrder(t *testing.T) {
	p := made(t, demo.Document())
	orders := plan.OrdersOf(p)
	for _, lot := range p.Lots {
		assert.NotEmpty(t, orders[lot.ID], lot.Recipe)
	}
	for _, lot := range p.Lots { // a mix for a leaf that two orders want works for both
		if lot.Recipe == demo.ID("Slate leaf") && lot.Ordinal == 1 {
			assert.GreaterOrEqual(t, len(orders[lot.ID]), 2)
		}
	}
}

func TestTheEarliestLeaveKeepsTheSafetySpan(t *testing.T) {
	doc := demo.Document()
	c := calendar(t, doc)
	ready := c.Minute(studio.MustWallTime("2027-09-25T10:21"))
	leave, ok := plan.EarliestLeave(doc, c, studio.Outcome{Ready: &ready})
	assert.True(t, ok)
	assert.Equal(t, studio.MustWallTime("2027-09-26T10:21"), leave)
	_, ok = plan.EarliestLeave(doc, c, studio.Outcome{})
	assert.False(t, ok)
}

func TestTheNextThingAndTheNextMorning(t *testing.T) {
	doc := demo.Document()
	p := made(t, doc)
	next, ok := plan.NextEvent(p)
	require.True(t, ok)
	assert.Greater(t, next, doc.Now)
	for _, task := range p.Tasks {
		for _, m := range []studio.Minute{task.Begin(), task.End} {
			assert.False(t, m > doc.Now && m < next, "nothing happens before")
		}
	}
	morning, ok := plan.NextMorning(doc, calendar(t, doc))
	require.True(t, ok)
	assert.Equal(t, studio.MustWallTime("2027-09-21T08:00"), calendar(t, doc).Wall(morning))
}

// asBefore is the demo as it was planned before recipes could say how soft pieces are worked:
// in large lots, which the moulds are too few for.
func asBefore() *studio.Document {
	doc := demo.Document()
	for i := range doc.Recipes {
		doc.Recipes[i].Lift(1)
	}
	return doc
}

// The named limit of the ferry order is its petals' wait for a mould: with more moulds its
// flowers are ready earlier.
func TestTakingTheNamedBlockerAwayMovesTheDate(t *testing.T) {
	doc := asBefore()
	before := made(t, doc)
	limit := before.Orders[0].Limit
	for _, task := range before.Tasks {
		if task.ID == limit {
			require.Equal(t, "set", task.Step)
			require.Equal(t, studio.CausePlace, task.Cause)
		}
	}
	for i := range doc.Places {
		if doc.Places[i].ID == demo.ID("Half-sphere mould 60 mm") {
			doc.Places[i].Slots *= 2
		}
	}
	after := made(t, doc)
	assert.Less(t, *after.Orders[0].Ready, *before.Orders[0].Ready)
}

func TestAScarcePlaceIsNeverOverfilledButUsedToTheFull(t *testing.T) {
	doc := demo.Document()
	most := map[studio.ID]int64{}
	for _, task := range made(t, doc).Tasks {
		for _, h := range task.Holds {
			most[h.Place] = max(most[h.Place], h.Slots)
		}
	}
	for _, place := range doc.Places {
		assert.LessOrEqual(t, most[place.ID], place.Slots)
	}
	for _, place := range doc.Places[:5] {
		assert.Positive(t, most[place.ID], "%s is used by what is ordered", place.Name)
	}
}
