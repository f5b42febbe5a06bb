package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/studio"
)

func TestASittingIsOfOneKindWithoutALongPause(t *testing.T) {
	task := func(id studio.ID, from, to studio.Minute) *studio.Task {
		return &studio.Task{ID: id, State: studio.TaskPlanned, Start: from, End: to}
	}
	kind := func(t *studio.Task) string { return string(t.ID[:3]) }
	day := []*studio.Task{task("cut 1", 480, 490), task("cut 2", 505, 520), task("cut 3", 520, 530),
		task("cut 4", 551, 560), task("dust", 560, 570), task("dust 2", 570, 580)}
	assert.Equal(t, day[:3], bench.Sitting(day, kind))
	assert.Equal(t, day[3:4], bench.Sitting(day[3:], kind), "another kind of work is another sitting")
	assert.Equal(t, day[4:], bench.Sitting(day[4:], kind))
	assert.Empty(t, bench.Sitting(nil, kind))
}

// Whoever is free is told of what lies ready and ends before their next task; mixes, and what is in a place,
// are begun when they are planned.
func TestWhoIsFreeIsToldWhatCouldBeBegun(t *testing.T) {
	doc := stems()
	_, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	task := studio.TaskID(lot.ID, "tape")
	i := 0
	for p.Tasks[i].ID != task {
		i++
	}
	later := p.Tasks[i]
	own := []*studio.Task{&later}
	none := map[studio.ID]bool{}
	early := func(activity *studio.Activity, fresh map[studio.ID]bool) []*studio.Task {
		return bench.New(doc, p).Early(later.Person, own, func(studio.ID) *studio.Activity { return activity }, fresh)
	}
	later.Start, later.End = doc.Now, doc.Now+30
	assert.Empty(t, early(&studio.Activity{}, none), "who has something to do is not told of anything else")
	later.Start, later.End = doc.Now+120, doc.Now+150
	require.Equal(t, own, early(&studio.Activity{}, none))
	assert.Empty(t, early(&studio.Activity{}, map[studio.ID]bool{task: true}))
	assert.Empty(t, early(&studio.Activity{Holds: []studio.Occupation{{Place: "tray", Slots: 1}}}, none))
	assert.Empty(t, early(&studio.Activity{Tools: []studio.ToolUse{{Number: 1}}}, none))
	first := &studio.Task{ID: "gone.tape", State: studio.TaskPlanned, Start: doc.Now + 20, End: doc.Now + 40}
	own = []*studio.Task{first, &later}
	assert.Empty(t, early(&studio.Activity{}, none), "it would not end before the next begins")
	first.Start = doc.Now + 60
	assert.Equal(t, []*studio.Task{&later}, early(&studio.Activity{}, none))
	first.State = studio.TaskStarted
	assert.Empty(t, early(&studio.Activity{}, none))
	mix := lotOf(t, func() *studio.Plan { doc.Shelf = nil; _, p = at(t, doc); return p }(), "Petal white")
	for _, t := range p.Tasks {
		if t.Lot == mix.ID {
			later = t
		}
	}
	later.Start, later.End, own = doc.Now+120, doc.Now+150, []*studio.Task{&later}
	assert.Empty(t, early(&studio.Activity{}, none), "a mix goes off")
}
