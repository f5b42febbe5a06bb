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

// moves is how many tasks that people were told of for the next two days are to be begun
// at another time or by somebody else.
func moves(told, now *studio.Plan) (moved int) {
	before := map[studio.ID]studio.Task{}
	for _, t := range told.Tasks {
		before[t.ID] = t
	}
	for _, t := range now.Tasks {
		b, known := before[t.ID]
		if known && t.State == studio.TaskPlanned && b.Person != "" && b.Start < told.Now+studio.SeenAhead &&
			(b.Start != t.Start || b.Person != t.Person) {
			moved++
		}
	}
	return moved
}

func planned(t testing.TB, doc *studio.Document, options plan.Options) *studio.Plan {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	if options.From != nil {
		counted, err = count.As(doc, counted, options.From.Divided)
		require.NoError(t, err)
	}
	p, err := plan.Make(doc, counted, options)
	require.NoError(t, err)
	return p
}

// planOfTheDemo is the demo's document, what is counted of it, and its first plan.
func planOfTheDemo(t testing.TB) (*studio.Document, *count.Result, *studio.Plan) {
	doc := demo.Document()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return doc, counted, made
}

// events are what may happen to a season.
var events = []struct {
	name string
	with func(*studio.Document)
}{
	{"somebody is away tomorrow", func(d *studio.Document) {
		d.People = slices.Clone(d.People)
		d.People[1].Away = append(slices.Clone(d.People[1].Away), studio.MustDate("2027-09-21"))
	}},
	{"an order comes in", func(d *studio.Document) {
		o := d.Orders[len(d.Orders)/2]
		o.ID, o.Lines = "new", slices.Clone(o.Lines)
		for i := range o.Lines {
			o.Lines[i].ID = "new " + o.Lines[i].ID
		}
		d.Orders = append(slices.Clone(d.Orders), o)
	}},
	{"pieces on the shelf broke", func(d *studio.Document) {
		d.Shelf = slices.Clone(d.Shelf[:len(d.Shelf)-3])
	}},
}

// Whatever happens, a repaired plan is as good as one made anew in as many steps, and moves
// at most half of what people have been told: over several seasons, since with so few steps
// one search or the other is luckier by more.
func TestARepairIsAsGoodAndMovesLess(t *testing.T) {
	worse, movedBy, movedAnew, cases := 0.0, 0, 0, 0.0
	for seed := uint64(1); seed <= 2; seed++ {
		doc := demo.Season(seed, 0.12, 90)
		told := planned(t, doc, plan.Options{Steps: 64, Seed: 1})
		same := planned(t, doc, plan.Options{From: told, FixedLots: true})
		assert.Empty(t, plan.Compare(told, same).Moved, "where nothing has happened nothing moves")
		var hour int64
		for _, o := range doc.Orders {
			hour += 4 * o.Importance
		}
		for _, e := range events {
			after := *doc
			e.with(&after)
			repaired := planned(t, &after, plan.Options{From: told, FixedLots: true, Steps: 96, Seed: 1})
			require.Empty(t, check.Plan(&after, repaired), e.name)
			anew := planned(t, &after, plan.Options{Steps: 96, Seed: 1})
			t.Logf(
				"%s: lateness %d and %d moves, %d and %d anew",
				e.name,
				repaired.Objective.Lateness,
				moves(told, repaired),
				anew.Objective.Lateness,
				moves(told, anew),
			)
			worse += float64(
				repaired.Objective.Lateness-anew.Objective.Lateness,
			) / float64(
				max(anew.Objective.Lateness, hour),
			)
			movedBy, movedAnew, cases = movedBy+moves(told, repaired), movedAnew+moves(told, anew), cases+1
		}
	}
	assert.LessOrEqual(t, worse/cases, 0.02)
	assert.LessOrEqual(t, 2*movedBy, movedAnew)
}

// What a plan gives up for what happens is small even before any search: the rest is laid
// towards when orders were ready in it, not by when they are due.
func TestARepairAtOnceKeepsWhatAPlanHasFound(t *testing.T) {
	var was, is int64
	for seed := uint64(1); seed <= 3; seed++ {
		doc := demo.Season(seed, 0.5, 105)
		told := planned(t, doc, plan.Options{Steps: 64, Seed: 1})
		for _, e := range events {
			after := *doc
			e.with(&after)
			repaired := planned(t, &after, plan.Options{From: told})
			t.Logf("%s: %d, %d before", e.name, repaired.Objective.Lateness, told.Objective.Lateness)
			was, is = was+told.Objective.Lateness, is+repaired.Objective.Lateness
		}
	}
	assert.Less(t, float64(is), 1.5*float64(was)) // most of it is what an order that comes in asks for
}

// BenchmarkRepair repairs a season's plan after one event, without any search.
func BenchmarkRepair(b *testing.B) {
	doc := demo.Season(1, 1, 90)
	told := planned(b, doc, plan.Options{})
	for _, e := range events {
		after := *doc
		e.with(&after)
		counted, err := count.Up(&after)
		require.NoError(b, err)
		b.Run(e.name, func(b *testing.B) {
			for b.Loop() {
				_, err := plan.Make(&after, counted, plan.Options{From: told})
				require.NoError(b, err)
			}
		})
	}
}
