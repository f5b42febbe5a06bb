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

// Trying a pin says what moves, and whether it holds; the plan with it obeys all rules.
func TestAPinIsTried(t *testing.T) {
	doc := demo.Document()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	held, refused := 0, 0
	for i, task := range made.Tasks {
		if task.Person == "" || i%9 != 0 {
			continue
		}
		where, err := plan.TryPin(doc, counted, made, studio.Pin{Task: task.ID, Person: task.Person, Start: &task.Start})
		require.NoError(t, err)
		assert.True(t, where.Holds)
		assert.Empty(t, where.Differences.Moved, "where it lies already")

		other := task.Start + 45
		if i%2 == 0 {
			other = doc.Now + 7
		}
		pin := studio.Pin{Task: task.ID, Start: &other}
		tried, err := plan.TryPin(doc, counted, made, pin)
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
