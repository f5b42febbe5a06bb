package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/bench"
	"bractum/core/studio"
)

func ids(tasks []*studio.Task) (all []studio.ID) {
	for _, t := range tasks {
		all = append(all, t.ID)
	}
	return all
}

func TestWhatIsBegunComesFirstThenByTime(t *testing.T) {
	tasks := []*studio.Task{
		{ID: "later", Start: 200},
		{ID: "sooner", Start: 100},
		{ID: "begun", Start: 300, State: studio.TaskStarted},
		{ID: "as soon", Start: 100},
	}
	assert.Equal(t, []studio.ID{"begun", "sooner", "as soon", "later"}, ids(bench.Next(tasks)))
	assert.Equal(t, studio.ID("later"), tasks[0].ID, "what was given stays as it was")
}

func TestWaitsAreUnderWayFromTheirStartToTheirEnd(t *testing.T) {
	waits := []*studio.Task{
		{ID: "long", Start: 0, End: 90},
		{ID: "over", Start: 0, End: 50},
		{ID: "short", Start: 50, End: 60},
		{ID: "to come", Start: 51, End: 60},
	}
	assert.Equal(t, []studio.ID{"short", "long"}, ids(bench.UnderWay(waits, 50)))
}

func TestATaskForTwoOrdersCountsForBoth(t *testing.T) {
	tasks := []studio.Task{
		{Lot: "petals", Person: "maker", State: studio.TaskDone},
		{Lot: "petals"}, // they dry by themselves
		{Lot: "rose", Person: "maker"},
	}
	done := bench.DoneByOrder(tasks, func(lot studio.ID) []studio.ID {
		return map[studio.ID][]studio.ID{"petals": {"one", "other"}, "rose": {"one"}}[lot]
	})
	assert.Equal(t, map[studio.ID]bench.Done{"one": {Done: 1, Of: 2}, "other": {Done: 1, Of: 1}}, done)
}
