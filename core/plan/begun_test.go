package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// begun is the demo in which somebody began a task of a plan at a minute.
func begun(doc *studio.Document, p *studio.Plan, task studio.Task, at studio.Minute) {
	lot := p.Lots[slices.IndexFunc(p.Lots, func(l studio.Lot) bool { return l.ID == task.Lot })]
	doc.Work = []studio.WorkLot{{ID: lot.ID, Recipe: lot.Recipe, Mixes: lot.Mixes, Ordinal: lot.Ordinal, Need: lot.Need,
		Started: lot.Started, Records: []studio.TaskRecord{
			{Step: task.Step, State: studio.TaskStarted, Person: task.Person, Start: at},
		}}}
}

func endOf(t *testing.T, doc *studio.Document, id studio.ID) studio.Minute {
	p := made(t, doc)
	require.Empty(t, check.Plan(doc, p))
	i := slices.IndexFunc(p.Tasks, func(task studio.Task) bool { return task.ID == id })
	require.GreaterOrEqual(t, i, 0)
	return p.Tasks[i].End
}

// While somebody is at what they began, and has counted nothing, the clock moves and its end does
// not: over their break too. Once it is past, a minute is left.
func TestTheEndOfWhatIsUnderWayStandsWhileTheClockMoves(t *testing.T) {
	p := made(t, demo.Document())
	instance := studio.Route(demo.Document(), studio.NewBook(demo.Document()), p.Lots, p.Links, p.Pegs)
	tried := map[string]bool{}
	for _, lot := range instance.Lots {
		i := slices.IndexFunc(p.Tasks, func(task studio.Task) bool { return task.ID == lot.Tasks[0].ID })
		if slices.ContainsFunc(instance.Links, func(k studio.Lag) bool { return k.To == lot.Tasks[0].ID }) ||
			p.Tasks[i].State != studio.TaskPlanned || p.Tasks[i].Person == "" || p.Tasks[i].Setup > 0 ||
			p.Tasks[i].End-p.Tasks[i].Start < 10 || tried[p.Tasks[i].Step] {
			continue
		}
		tried[p.Tasks[i].Step] = true
		task, day := p.Tasks[i], p.Tasks[i].Start-p.Tasks[i].Start%1440
		for _, start := range []studio.Minute{day + 9*60, day + 12*60 + 55} { // a break comes at one
			doc := demo.Document()
			doc.Now = start
			begun(doc, p, task, start)
			end := endOf(t, doc, task.ID)
			assert.Greater(t, end, start+5)
			for _, now := range []studio.Minute{start + 1, start + 5, end - 1} {
				doc.Now = now
				assert.Equal(t, end, endOf(t, doc, task.ID), "%s at %d from %d on", task.ID, now, start)
			}
			doc.Now = end + 90
			assert.Equal(t, doc.Now+1, endOf(t, doc, task.ID))
		}
	}
	assert.Greater(t, len(tried), 1)
}

// What was cut comes before what was not begun, be that ever so urgent: it stiffens.
func TestWhatStiffensIsTakenUpFirst(t *testing.T) {
	doc := demo.Document()
	first := made(t, doc)
	task := *taskOf(first, demo.ID("Magnolia outer petal"), "cut")
	task.Person = demo.ID("Teun")
	begun(doc, first, task, doc.Now-25)
	record := &doc.Work[0].Records[0]
	record.State, record.End, record.Good = studio.TaskDone, doc.Now-5, doc.Work[0].Started
	p := made(t, doc) // where the moulds are full of other batches until the next day
	require.Empty(t, check.Plan(doc, p))
	assert.Empty(t, p.Unplaced)
}

// Of each window of pieces a fifth is spared, for who works faster or slower than the book.
func TestOfWindowsAFifthIsSpared(t *testing.T) {
	doc := demo.Document()
	p := made(t, doc)
	require.Empty(t, p.Unplaced)
	book := studio.NewBook(doc)
	instance := studio.Route(doc, book, p.Lots, p.Links, p.Pegs)
	activities, people := instance.Activities(), map[studio.ID]*studio.Person{}
	for i := range doc.People {
		people[doc.People[i].ID] = &doc.People[i]
	}
	passage := func(task *studio.Task) studio.Passage {
		return activities[task.ID].PassageOf(task, people[task.Person])
	}
	tasks := map[studio.ID]*studio.Task{}
	for i := range p.Tasks {
		tasks[p.Tasks[i].ID] = &p.Tasks[i]
	}
	room := drying.NewRoom(doc, calendar(t, doc))
	windows := 0
	for _, lag := range instance.Links {
		if !lag.Each {
			continue
		}
		windows++
		from, to := passage(tasks[lag.From]), passage(tasks[lag.To])
		opening := room.Opening(lag)
		assert.LessOrEqual(t, from.Latest(&to, func(done studio.Minute) studio.Minute {
			last := opening.Last(done)
			return last - (last-done)/5
		}), studio.Minute(0), "%s to %s", lag.From, lag.To)
	}
	assert.Greater(t, windows, 25)
}

// What is in work and nobody needs any more is not worked on further, nor is anything made for it; it dries
// as it lies, frees its place then, and goes on once an order wants it again.
func TestWhatNobodyNeedsIsNotWorkedOnFurther(t *testing.T) {
	lying := demo.Document()
	p := made(t, lying)
	i := slices.IndexFunc(p.Lots, func(l studio.Lot) bool { return l.Recipe == demo.ID("Magnolia outer petal") })
	require.GreaterOrEqual(t, i, 0)
	w := demo.Lying(lying, p.Lots[i].ID, "Magnolia outer petal", nil, "dry", p.Lots[i].Started, 60)
	w.Mixes, w.Need = p.Lots[i].Mixes, p.Lots[i].Need
	lying.Work = []studio.WorkLot{w}
	steps := func(p *studio.Plan) (steps []string, held studio.Minute) {
		for _, task := range p.Tasks {
			if task.Lot == w.ID {
				steps = append(steps, task.Step)
				for _, h := range task.Holds {
					held = max(held, h.To)
				}
			}
		}
		return steps, held
	}
	needed := made(t, lying)
	all, _ := steps(needed)
	require.Equal(t, []string{"cut", "wire", "set", "dry", "dust"}, all)
	cancelled := *lying
	cancelled.Orders = slices.Clone(lying.Orders)
	for n := range cancelled.Orders {
		cancelled.Orders[n].State = studio.OrderCancelled
	}
	p = made(t, &cancelled)
	assert.Empty(t, check.Plan(&cancelled, p))
	left, held := steps(p)
	assert.Equal(t, []string{"cut", "wire", "set", "dry"}, left)
	assert.Less(t, held, cancelled.Horizon())
	assert.Empty(t, p.Unplaced)
	assert.False(
		t,
		slices.ContainsFunc(p.Links, func(l studio.Link) bool { return l.To == w.ID }),
		"nothing is made for it",
	)
	again, _ := steps(made(t, lying))
	assert.Equal(t, all, again)
}

// What somebody begins out of its turn goes on from now, by them, whatever the plan had for them and however
// much is planned together with it.
func TestWhatIsBegunOutOfTurnGoesOnNow(t *testing.T) {
	doc := demo.Document()
	order := doc.Orders[0]
	order.ID, order.Leaves = "gardenias", studio.MustWallTime("2027-10-11T10:00")
	line := order.Lines[0]
	line.ID, line.Recipe, line.Variant, line.Quantity = "eight", demo.ID("Gardenia"), "", 8
	order.Lines = []studio.OrderLine{line}
	doc.Orders = append(doc.Orders, order)
	before := made(t, doc)
	who := before.Tasks[slices.IndexFunc(before.Tasks, func(task studio.Task) bool {
		return task.Person != "" && task.Begin() == doc.Now
	})].Person
	book, tried := studio.NewBook(doc), map[studio.Made]bool{}
	for _, task := range before.Tasks {
		lot := before.Lots[slices.IndexFunc(before.Lots, func(l studio.Lot) bool { return l.ID == task.Lot })]
		of := lot.Made()
		r := book.Of(of)
		if task.Person != who || task.Start < doc.Now+60 || tried[of] || r.Kind != studio.KindPart ||
			r.Steps[0].Key != task.Step {
			continue
		}
		tried[of] = true
		at := *doc
		begun(&at, before, task, doc.Now)
		after := planned(t, &at, plan.Options{From: before, FixedLots: true})
		require.Empty(t, check.Plan(&at, after))
		now := after.Tasks[slices.IndexFunc(after.Tasks, func(other studio.Task) bool { return other.ID == task.ID })]
		assert.Equal(t, doc.Now, now.Begin(), "%s of %s", task.Step, r.Name)
		assert.Equal(t, who, now.Person)
	}
	assert.Greater(t, len(tried), 5)
}
