package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// weighedTwice are the mixings that a plan makes twice on a day while the first keeps.
func weighedTwice(t *testing.T, doc *studio.Document, made *studio.Plan) map[studio.ID][]studio.ID {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	book, lots := studio.NewBook(doc), map[studio.ID]studio.Lot{}
	for _, l := range made.Lots {
		lots[l.ID] = l
	}
	var mixings []paste.Mixing
	for _, task := range made.Tasks {
		l := lots[task.Lot]
		if r := book.Of(l.Made()); r.Kind == studio.KindMix && task.Step == r.Steps[0].Key {
			mixings = append(mixings, paste.Mixing{Lot: l.ID, Mix: l.Recipe, At: task.Start, Keeps: r.LifeMinutes})
		}
	}
	require.NotEmpty(t, mixings)
	return paste.Together(mixings, calendar.Date)
}

// A colour is weighed once a day in a studio that begins, and after a search; a plan in force stays as people
// were told.
func TestAMixIsWeighedOnceADay(t *testing.T) {
	doc := demo.Document()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	first, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.NotEmpty(t, weighedTwice(t, doc, first))

	once, err := plan.WeighedOnce(doc)
	require.NoError(t, err)
	require.Empty(t, once.Validate())
	recounted, err := count.Up(once)
	require.NoError(t, err)
	searched, err := plan.Make(doc, counted, plan.Options{Steps: 40})
	require.NoError(t, err)
	anew, err := plan.Make(once, recounted, plan.Options{})
	require.NoError(t, err)
	for what, made := range map[string]*studio.Plan{"begun": anew, "searched": searched} {
		assert.Empty(t, weighedTwice(t, doc, made), what)
		assert.LessOrEqual(t, made.Objective.Lateness, first.Objective.Lateness, what)
		assert.Empty(t, check.Plan(doc, made), what)
	}
	repaired, err := plan.Repair(doc, counted, first, nil)
	require.NoError(t, err)
	assert.Equal(t, first.Lots, repaired.Lots)
}

// What an order that is new adds to a day's weighings goes into them; what people were told stays.
func TestAProposalWeighsOnceWhatIsNew(t *testing.T) {
	doc, err := plan.WeighedOnce(demo.Document())
	require.NoError(t, err)
	told := planned(t, doc, plan.Options{})
	more := *doc
	o := doc.Orders[2]
	o.ID, o.Name, o.Leaves = "supper", "Supper", studio.MustWallTime("2027-10-16T10:00")
	o.Lines = []studio.OrderLine{o.Lines[0]}
	o.Lines[0].ID, o.Lines[0].Quantity = "supper 1", 6
	more.Orders = append(slices.Clone(doc.Orders), o)
	counted, err := count.Up(&more)
	require.NoError(t, err)
	apart, err := plan.Repair(&more, counted, told, nil)
	require.NoError(t, err)
	proposed, err := plan.Propose(&more, counted, told, nil)
	require.NoError(t, err)
	before, after := weighedTwice(t, &more, apart), weighedTwice(t, &more, proposed)
	require.NotEmpty(t, before)
	assert.Less(t, len(after), len(before))
	assert.NotEmpty(t, proposed.Divided)
	assert.Empty(t, check.Plan(&more, proposed))
	same, err := count.As(&more, counted, proposed.Divided)
	require.NoError(t, err)
	assert.Equal(t, proposed.Lots, same.Lots, "as it says")
}
