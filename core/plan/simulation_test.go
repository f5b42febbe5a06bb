package plan_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/drying"
	"bractum/core/studio"
)

// moments are when, in minutes and parts of them, each piece of a task is done and each of its
// units is taken up, found by working through the task minute by minute.
type moments struct{ done, taken []float64 }

// simulated works through a task of so many pieces: setup first, then piece after piece.
func simulated(t studio.Task, a *studio.Activity, setup studio.Minute) moments {
	n := max(1, a.Pieces)
	m := moments{done: make([]float64, n), taken: make([]float64, n)}
	if a.Wait != nil {
		for i := range n {
			m.done[i], m.taken[i] = float64(t.End), float64(t.Begin())
		}
		return m
	}
	pausing := func(at studio.Minute) bool {
		for _, p := range t.Pauses {
			if p.From <= at && at < p.To {
				return true
			}
		}
		return a.Fact != nil && slices.ContainsFunc(a.Fact.Pauses, func(p studio.Span) bool {
			return p.From <= at && at < p.To && (a.Done() || at < t.Begin())
		})
	}
	var minutes []studio.Minute // that are worked
	begin := t.Begin()
	if a.Fact != nil && a.Fact.Uncounted {
		begin = t.Start
	}
	for at := begin; at < t.End; at++ {
		if !pausing(at) {
			minutes = append(minutes, at)
		}
	}
	if a.Fact != nil && (a.Done() || a.Fact.Uncounted) {
		setup = a.Fact.Setup
	}
	setup = min(setup, studio.Minute(len(minutes)))
	each := float64(len(minutes)-int(setup)) / float64(n)
	at := func(worked float64, ends bool) float64 {
		k := int(math.Floor(worked + 1e-9))
		rest := math.Max(0, worked-float64(k))
		switch {
		case ends && rest < 1e-9 && k > 0: // just done: the pause after it has not begun
			return float64(minutes[k-1]) + 1
		case k >= len(minutes):
			return float64(t.End)
		}
		return float64(minutes[k]) + rest
	}
	for i := range n {
		m.done[i] = at(float64(setup)+each*float64(i+1), true)
		m.taken[i] = at(float64(setup)+each*float64(i), false)
	}
	return m
}

// spoilt says how many pieces of a plan are taken up later than a window that binds each
// piece allows, as a slow simulation of every single piece has it, and by how many minutes
// the latest is.
func spoilt(t require.TestingT, doc *studio.Document, p *studio.Plan) (pieces int, latest float64) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	book := studio.NewBook(doc)
	instance := studio.Route(doc, book, p.Lots, p.Links, p.Pegs)
	room, activities := drying.NewRoom(doc, calendar), instance.Activities()
	people, tasks := map[studio.ID]*studio.Person{}, map[studio.ID]studio.Task{}
	for i := range doc.People {
		people[doc.People[i].ID] = &doc.People[i]
	}
	for _, task := range p.Tasks {
		tasks[task.ID] = task
	}
	through := func(task studio.Task) moments {
		a := activities[task.ID]
		setup := studio.Minute(0)
		if task.Person != "" {
			setup = a.SetupFor(people[task.Person], task.Setup)
		}
		return simulated(task, a, setup)
	}
	for _, lag := range instance.Links {
		from, placed := tasks[lag.From]
		to, follows := tasks[lag.To]
		if !lag.Each || !placed || !follows || activities[lag.To].Fact != nil {
			continue
		}
		source, sink := through(from), through(to)
		for i, done := range source.done {
			unit := i * len(sink.taken) / len(source.done)
			_, last, _, _ := room.Window(lag, studio.Minute(math.Floor(done+1e-9)))
			if by := sink.taken[unit] - float64(last); by > 1e-6 &&
				by > float64(to.Overdue)+1e-6 { // what the plan says aside
				pieces, latest = pieces+1, math.Max(latest, by)
			}
		}
	}
	for _, task := range p.Tasks {
		if a := activities[task.ID]; a.Fact == nil && len(a.Within) > 0 {
			late, by := spoiltInRuns(&room, a, task, people[task.Person])
			pieces, latest = pieces+late, math.Max(latest, by)
		}
	}
	return pieces, latest
}

// spoiltInRuns works through a task run after run, effort after effort, piece after piece, and
// says how many wait longer inside a run than a window of it allows, and by how many minutes.
func spoiltInRuns(
	room *drying.Room,
	a *studio.Activity,
	task studio.Task,
	person *studio.Person,
) (pieces int, latest float64) {
	minutes := func(m studio.Milliminutes, skill string) float64 {
		return float64(m.AtPace(person.Pace(skill))) / 1000
	}
	at := float64(task.Begin() + task.Setup)
	paused := map[int]bool{}
	worked := 0.0 // of the runs so far, each ending with a whole minute
	for first := 0; first < len(a.Work); {
		began := at
		for i, p := range task.Pauses {
			if !paused[i] && float64(p.From) <= at {
				at, began, paused[i] = at+float64(p.To-p.From), at+float64(p.To-p.From), true
			}
		}
		starts := []float64{}
		done := [][]float64{}
		past := first
		for ; past < len(a.Work) && a.Work[past].Run == a.Work[first].Run; past++ {
			e := a.Work[past]
			setup, all := minutes(e.Setup, e.Skill), minutes(e.Total(), e.Skill)
			n := int(max(1, e.Pieces))
			ends := make([]float64, n)
			for i := range ends {
				ends[i] = at + setup + (all-setup)*float64(i+1)/float64(n)
			}
			starts, done = append(starts, at+setup), append(done, ends)
			at += all
		}
		for _, w := range a.Within {
			n, m := len(done[w.From]), len(done[w.To])
			for i, ready := range done[w.From] {
				taken := starts[w.To]
				if before := i * m / n; before > 0 {
					taken = done[w.To][before-1]
				}
				from := studio.Minute(math.Floor(ready + 1e-9))
				_, last, _, _ := room.Window(studio.Lag{Most: &w.Most}, from)
				if by := taken - ready - float64(last-from); by > 0.01 {
					pieces, latest = pieces+1, math.Max(latest, by)
				}
			}
		}
		worked += at - began
		ended := math.Ceil(worked - 1e-9)
		at, worked = at+ended-worked, ended
		first = past
	}
	return pieces, latest
}

// One maker cuts ten pieces, a minute each after two of setup, and shapes them at two minutes
// each, with half an hour's pause after the fourth.
func TestTheSimulationKnowsEveryPiece(t *testing.T) {
	cut := simulated(studio.Task{Start: 100, End: 112}, &studio.Activity{Pieces: 10}, 2)
	assert.InDelta(t, 103, cut.done[0], 1e-9)
	assert.InDelta(t, 112, cut.done[9], 1e-9)
	assert.InDelta(t, 102, cut.taken[0], 1e-9)
	shape := simulated(studio.Task{Start: 112, End: 162, Pauses: []studio.Span{{From: 120, To: 150}}},
		&studio.Activity{Pieces: 10}, 0)
	assert.InDelta(t, 120, shape.done[3], 1e-9, "done as the pause begins")
	assert.InDelta(t, 150, shape.taken[4], 1e-9, "taken up when it is over")
	assert.InDelta(t, 162, shape.done[9], 1e-9)
}
