package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// baked is the demo with an order of dogwoods, whose petals go through the low oven.
func baked(t *testing.T) (*studio.Document, *studio.Plan, []studio.Hours) {
	doc := demo.Document()
	line := &doc.Orders[0].Lines[0]
	line.Recipe, line.Variant = demo.ID("Dogwood"), ""
	doc.Orders = doc.Orders[:1]
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	var hours []studio.Hours
	for _, person := range doc.People {
		hours = append(hours, studio.HoursOf(person, calendar, 0, doc.Horizon()))
	}
	return doc, p, hours
}

// Each load is set off by somebody who is there at that minute, the one who did the work before it
// if they can; what is overdue is somebody's who is there now, and none is nobody's.
func TestEveryLoadIsSomebodys(t *testing.T) {
	doc, p, hours := baked(t)
	loads := bench.Loads(doc, p, hours)
	require.NotEmpty(t, loads)
	loader := map[studio.ID]studio.ID{}
	for i := 1; i < len(p.Tasks); i++ {
		if p.Tasks[i].Lot == p.Tasks[i-1].Lot {
			loader[p.Tasks[i].ID] = p.Tasks[i-1].Person
		}
	}
	own := 0
	for _, l := range loads {
		require.True(t, l.Begins)
		for i, person := range doc.People {
			if person.ID == l.Person {
				next, ok := hours[i].Next(l.At)
				assert.True(t, ok && next == l.At, "%s is not there at %d", person.Name, l.At)
			}
		}
		for _, task := range l.Tasks {
			if loader[task] == l.Person {
				own++
			}
		}
	}
	assert.Positive(t, own)

	for i, person := range doc.People {
		if person.ID == loads[0].Person {
			hours[i] = nil
		}
	}
	assert.NotEqual(t, loads[0].Person, bench.Loads(doc, p, hours)[0].Person)
	assert.NotEmpty(t, bench.Loads(doc, p, hours)[0].Person)
}

// What is not loaded yet cannot be set off, and what is no machine's neither; nothing of a load is
// written then.
func TestALoadIsSetOffWhole(t *testing.T) {
	doc, p, hours := baked(t)
	l := bench.Loads(doc, p, hours)[0]
	lots, err := bench.New(doc, p).SetOff(l.Tasks, l.Person, true)
	assert.Error(t, err)
	assert.Empty(t, lots)
	_, err = bench.New(doc, p).SetOff(nil, l.Person, true)
	assert.Error(t, err)
	for _, task := range p.Tasks {
		if task.Person != "" {
			_, err = bench.New(doc, p).SetOff([]studio.ID{task.ID}, l.Person, true)
			assert.ErrorContains(t, err, "no machine")
			break
		}
	}
}
