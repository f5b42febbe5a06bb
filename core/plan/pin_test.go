package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// Trying a pin says what moves, and whether it holds; the plan with it obeys all rules.
func TestAPinIsTried(t *testing.T) {
	doc, counted, made := planOfTheDemo(t)
	held, refused := 0, 0
	for i, task := range made.Tasks {
		if task.Person == "" || i%9 != 0 {
			continue
		}
		where, err := plan.TryPin(doc, counted, made,
			studio.Pin{Task: task.ID, Person: task.Person, Start: &task.Start}, nil)
		require.NoError(t, err)
		assert.True(t, where.Holds)
		assert.Empty(t, where.Differences.Moved, "where it lies already")

		other := task.Start + 45
		if i%2 == 0 {
			other = doc.Now + 7
		}
		pin := studio.Pin{Task: task.ID, Start: &other}
		tried, err := plan.TryPin(doc, counted, made, pin, nil)
		require.NoError(t, err)
		with, err := plan.Make(plan.Pinned(doc, pin), counted, plan.Options{From: made})
		require.NoError(t, err)
		require.Empty(t, check.Plan(plan.Pinned(doc, pin), with))
		if tried.Holds {
			held++
			at := slices.IndexFunc(with.Tasks, func(t studio.Task) bool { return t.ID == task.ID })
			assert.Equal(t, other, with.Tasks[at].Start)
			continue
		}
		refused++
		assert.Equal(t, task.ID, tried.Why.Task)
		assert.Contains(t, tried.Dropped, *tried.Why)
	}
	assert.Positive(t, held)
	assert.Positive(t, refused, "what its needs are not there for")
	pinned := plan.Pinned(doc, studio.Pin{Task: "t", Person: "p"})
	assert.Empty(t, plan.Pinned(pinned, studio.Pin{Task: "t"}).Pins, "one without a wish lets go")
	assert.Empty(t, doc.Pins)
}

func TestAPinOfWhichTheTimeHasPassedKeepsItsPerson(t *testing.T) {
	start := studio.Minute(100)
	still, stands := studio.Pin{Task: "t", Person: "p", Start: &start}.From(101)
	assert.True(t, stands)
	assert.Equal(t, studio.Pin{Task: "t", Person: "p"}, still)
	_, stands = studio.Pin{Task: "t", Start: &start}.From(101)
	assert.False(t, stands)
	_, stands = studio.Pin{Task: "t", Start: &start}.From(100)
	assert.True(t, stands)
}

// What cannot be pinned is refused; of a task that was begun only the person is pinned.
func TestWhatCannotBePinnedIsRefused(t *testing.T) {
	doc, counted, made := planOfTheDemo(t)
	past, later := doc.Now-1, doc.Now+600
	for _, task := range made.Tasks {
		if task.Person == "" {
			_, err := plan.TryPin(doc, counted, made, studio.Pin{Task: task.ID, Start: &later}, nil)
			assert.ErrorContains(t, err, "waits by itself")
			break
		}
	}
	work := made.Tasks[slices.IndexFunc(made.Tasks, func(t studio.Task) bool { return t.Person != "" && t.Start == doc.Now })]
	_, err := plan.TryPin(doc, counted, made, studio.Pin{Task: work.ID, Start: &past}, nil)
	assert.ErrorContains(t, err, "this time has passed")
	_, err = plan.TryPin(doc, counted, made, studio.Pin{Task: "none"}, nil)
	assert.ErrorAs(t, err, new(studio.Refusal))
}

// A repair is what was planned where nothing has happened, and sums up to no change.
func TestARepairOfNothingChangesNothing(t *testing.T) {
	doc, counted, first := planOfTheDemo(t)
	again, err := plan.Repair(doc, counted, first, nil)
	require.NoError(t, err)
	assert.True(t, plan.Compare(first, again).Nothing())
	assert.Equal(t, plan.Change{Worst: first.WorstSlack()}, plan.Sum(first, again))

	moved := *first
	moved.Tasks = slices.Clone(first.Tasks)
	told, later := 0, 0
	for i := range moved.Tasks {
		if task := &moved.Tasks[i]; task.Person != "" && task.Start >= doc.Now+studio.SeenAhead {
			task.Start++
			later++
		} else if task.Person != "" {
			task.Start++
			told++
		}
	}
	assert.Equal(
		t,
		plan.Change{Worst: first.WorstSlack(), Moved: int64(told + later), Told: int64(told)},
		plan.Sum(first, &moved),
	)
}

// What stands against a pin is named, and where it could be instead is found: another minute of the
// same person.
func TestWhatStandsAgainstAPinIsNamed(t *testing.T) {
	doc, counted, made := planOfTheDemo(t)
	said := map[string]int{}
	for _, task := range made.Tasks {
		if task.Person == "" || task.End-task.Start < 10 || len(task.Pauses) > 0 {
			continue
		}
		for _, off := range []studio.Minute{-12 * 60, 35, 8 * 60} {
			at := task.Start + off
			if at < doc.Now {
				continue
			}
			pin := studio.Pin{Task: task.ID, Person: task.Person, Start: &at}
			tried, err := plan.TryPin(doc, counted, made, pin, nil)
			require.NoError(t, err)
			if tried.Holds {
				continue
			}
			require.NotEmpty(t, tried.Why.Case, "%+v", tried.Why)
			if said[tried.Why.Case]++; said[tried.Why.Case] > 3 {
				continue
			}
			require.NotNil(t, tried.Nearest, "%+v", tried.Why)
			pin.Start = tried.Nearest
			again, err := plan.TryPin(doc, counted, made, pin, nil)
			require.NoError(t, err)
			assert.True(t, again.Holds)
			if person, named := tried.Why.With["person"]; named {
				assert.NotEmpty(t, person)
			}
		}
	}
	assert.Positive(t, said["off"], said)
	assert.Positive(t, said["early"], said)
	assert.Positive(t, said["break"]+said["short"], said)
}
