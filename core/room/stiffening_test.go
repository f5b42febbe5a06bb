package room_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/room"
	"bractum/core/studio"
	"bractum/demo"
)

// cutting is the demo in which magnolia petals are being cut, or were.
func cutting(t *testing.T, record studio.TaskRecord) (room.Studio, studio.Lot) {
	doc := demo.Document()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	i := slices.IndexFunc(counted.Lots, func(l studio.Lot) bool { return l.Recipe == demo.ID("Magnolia outer petal") })
	l := counted.Lots[i]
	record.Step, record.Person = "cut", demo.ID("Teun")
	if record.State == studio.TaskDone {
		record.Good = l.Started
	}
	doc.Work = []studio.WorkLot{{ID: l.ID, Recipe: l.Recipe, Mixes: l.Mixes, Ordinal: l.Ordinal, Need: l.Need,
		Started: l.Started, Records: []studio.TaskRecord{record}}}
	return from(t, doc), l
}

// What was cut has to be taken up before the first petal is too firm, which is sooner than the last; while
// it is being cut, its maker sees by when the next step has to begin. Nothing presses what waits for neither.
func TestWhatStiffensNextIsSaid(t *testing.T) {
	now := demo.Document().Now
	done, l := cutting(t, studio.TaskRecord{State: studio.TaskDone, Start: now - 25, End: now - 5})
	next := done.Tasks[studio.TaskID(l.ID, "wire")]
	require.NotNil(t, next)
	soon := room.Stiffens(done, next)
	require.NotNil(t, soon)
	set := studio.TaskID(l.ID, "set")
	assert.Equal(t, set, soon.Task, "wired in between, they are to be set")
	assert.Greater(t, soon.By, done.Tasks[set].Start-1)

	i := slices.IndexFunc(done.Instance.Links, func(k studio.Lag) bool { return k.To == set && k.Each })
	require.GreaterOrEqual(t, i, 0)
	_, last, _, _ := done.Air.Window(done.Instance.Links[i], now-5)
	assert.Less(t, soon.By, last, "the first was done before the last")

	under, l := cutting(t, studio.TaskRecord{State: studio.TaskStarted, Start: now - 3})
	soon = room.Stiffens(under, under.Tasks[studio.TaskID(l.ID, "cut")])
	require.NotNil(t, soon)
	assert.Equal(t, studio.TaskID(l.ID, "set"), soon.Task)
	for _, task := range under.Tasks {
		if task.State == studio.TaskPlanned && task.Lot != l.ID {
			assert.Nil(t, room.Stiffens(under, task), "nothing that it takes up was begun")
		}
	}
}
