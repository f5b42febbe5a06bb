package situation_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/situation"
	"bractum/store"
)

var ctx = context.Background()

func standing(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }

type workshop struct {
	t      *testing.T
	store  *store.Store
	worker *situation.Worker
}

func opened(t *testing.T, doc *studio.Document) workshop {
	s, err := store.Open(ctx, t.TempDir(), store.Options{})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Seed(ctx, doc, true))
	w := situation.New(s, standing, nil)
	t.Cleanup(w.Close)
	return workshop{t, s, w}
}

// do writes a command and publishes the facts.
func (w workshop) do(kind string, run func(*store.Tx) error) *situation.Situation {
	w.t.Helper()
	now, _, err := w.worker.Now(ctx)
	require.NoError(w.t, err)
	done, err := w.store.Do(ctx, store.Command{ID: uuid.NewString(), Kind: kind, Person: demo.ID("Odalys"), Now: now},
		func(tx *store.Tx) (any, error) { return nil, run(tx) })
	require.NoError(w.t, err)
	at, err := w.worker.Recorded(ctx, done.N, done.Topics)
	require.NoError(w.t, err)
	return at
}

func (w workshop) settled() *situation.Situation {
	w.t.Helper()
	limit, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	at, err := w.worker.Settled(limit)
	require.NoError(w.t, err)
	return at
}

// firstWork is the task of a plan that begins first.
func firstWork(p *studio.Plan) *studio.Task {
	var first *studio.Task
	for i := range p.Tasks {
		if t := &p.Tasks[i]; t.Person != "" && t.State == studio.TaskPlanned &&
			(first == nil || t.Start < first.Start) {
			first = t
		}
	}
	return first
}

func (w workshop) start(at *situation.Situation, task *studio.Task) *situation.Situation {
	return w.do("task started", func(tx *store.Tx) error {
		lot, moved, err := bench.New(at.InForce.Doc, at.InForce.Plan).Start(task.ID, task.Person, true)
		if err != nil {
			return err
		}
		if err := tx.PutLot(lot); err != nil {
			return err
		}
		return tx.Book(lot, moved)
	})
}

// What is recorded is published at once, on the plan as it was; the plan that knows it
// comes after.
func TestFactsArePublishedBeforeTheyAreWorkedOut(t *testing.T) {
	w := opened(t, demo.Document())
	before := w.settled()
	task := firstWork(before.InForce.Plan)
	at := w.start(before, task)
	assert.True(t, at.Behind())
	assert.Equal(t, before.Moment(), at.Planned)
	assert.Equal(t, studio.TaskStarted, at.InForce.Tasks[task.ID].State, "it is seen at once")
	assert.Equal(t, studio.TaskPlanned, before.InForce.Tasks[task.ID].State,
		"and nothing that was published has changed")
	after := w.settled()
	assert.Equal(t, at.N, after.Planned.N)
	assert.Equal(t, studio.TaskStarted, after.InForce.Tasks[task.ID].State)
}

// A reader never waits, whatever is being worked out.
func TestReadersGetWhatIsPublishedWhileThePlanIsWorkedOut(t *testing.T) {
	w := opened(t, demo.Season(1, 0.3, 90))
	before := w.settled()
	at := w.start(before, firstWork(before.InForce.Plan))
	for range 1000 {
		now, err := w.worker.Latest(ctx)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, now.N, at.N)
	}
}

// What is read anew only where something was recorded is what all of it would be.
func TestASnapshotThatReusesIsTheSnapshotReadAnew(t *testing.T) {
	w := opened(t, demo.Document())
	at := w.settled()
	white := at.Accepted.Shelf[0]
	type step struct {
		name string
		run  func(*store.Tx) error
	}
	timer := store.Timer{ID: demo.ID("oven"), Name: "Oven", Person: demo.ID("Teun"), Started: 1, Ends: 9}
	pin := studio.Pin{Task: "lot-1.wire", Person: demo.ID("Teun")}
	last := func(tx *store.Tx) error { return tx.Undo(tx.Base()) }
	for _, s := range []step{
		{"timer", func(tx *store.Tx) error { return tx.StartTimer(timer) }},
		{"shelf", func(tx *store.Tx) error { return tx.Keep(white.ID, store.Keeping{Place: "Cupboard"}) }},
		{"shelf as it was", last},
		{"pin", func(tx *store.Tx) error { return tx.Pin(pin.Task, &pin, false) }},
		{"pace", func(tx *store.Tx) error { return tx.SetPace(demo.ID("Teun"), "shaping", 130) }},
		{"pace as it was", last},
		{"setting", func(tx *store.Tx) error { return tx.SetSettings(at.Accepted.Settings) }},
		{"order", func(tx *store.Tx) error {
			o := at.Accepted.Orders[0]
			o.Name = "Another name"
			return tx.ChangeOrder(o, 1)
		}},
		{"clock", func(tx *store.Tx) error { return tx.MoveClock(tx.Now() + 60) }},
	} {
		name, run := s.name, s.run
		now := w.do(name, run)
		anew, err := w.store.Snapshot(ctx, standing)
		require.NoError(t, err)
		assert.Equal(t, anew.Accepted, now.Accepted, name)
		assert.Equal(t, anew.Wished, now.Snapshot.Wished, name)
		assert.Equal(t, anew.Orders, now.Orders, name)
		assert.Equal(t, anew.Timers, now.Timers, name)
	}
}

// A plan that somebody puts in force is what is repaired from then on.
func TestAnAcceptedPlanIsFollowedAtOnce(t *testing.T) {
	w := opened(t, demo.Document())
	before := w.settled()
	other := *before.InForce.Plan
	other.Tasks = append([]studio.Task{}, other.Tasks...)
	for i := range other.Tasks {
		other.Tasks[i].Start, other.Tasks[i].End = other.Tasks[i].Start+7*1440, other.Tasks[i].End+7*1440
	}
	at := w.do("plan accepted", func(tx *store.Tx) error { return tx.PutInForce(&other) })
	assert.Equal(t, other.Tasks[0].Start, at.InForce.Plan.Tasks[0].Start)
	assert.Equal(t, before.Version+1, at.Version)
}

// The plan in force survives the program; what was in the making when it ended is made anew.
func TestAnotherWorkerGoesOnFromTheFile(t *testing.T) {
	w := opened(t, demo.Document())
	at := w.settled()
	w.worker.Close()
	other := situation.New(w.store, standing, nil)
	t.Cleanup(other.Close)
	again, err := other.Latest(ctx)
	require.NoError(t, err)
	assert.Equal(t, at.Version, again.Version)
	assert.Equal(t, len(at.InForce.Plan.Tasks), len(again.InForce.Plan.Tasks), "before anything is worked out")
}

// A clock that a computer has wrong once, before the studio's first minute, is no minute.
func TestAClockBeforeTheFirstMinuteStandsAtIt(t *testing.T) {
	s, err := store.Open(ctx, t.TempDir(), store.Options{})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Seed(ctx, demo.Document(), true))
	w := situation.New(s, func(studio.Calendar, *studio.Minute) studio.Minute { return -90_000 }, nil)
	t.Cleanup(w.Close)
	limit, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	at, err := w.Settled(limit)
	require.NoError(t, err)
	assert.Zero(t, at.Now)
}
