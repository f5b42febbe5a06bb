package plan_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// In large lots the demo's moulds are its scarce kind: the explanation names them on the chain of the
// ferry crew's order, has tried more, and with those the date moves.
func TestThePlanExplainsItself(t *testing.T) {
	doc := asBefore()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	var told []int
	e, err := plan.Explain(doc, counted, made, plan.Options{}, func(done, of int) { told = append(told, done, of) })
	require.NoError(t, err)
	require.Len(t, e.Orders, len(made.Orders))
	require.Len(t, told, 2*len(e.Scarce))
	assert.Equal(t, []int{0, len(e.Scarce)}, told[:2], "it says how far it is")
	tasks := map[studio.ID]studio.Task{}
	for _, task := range made.Tasks {
		tasks[task.ID] = task
	}
	for i, chain := range e.Orders {
		require.NotEmpty(t, chain.Links)
		assert.Equal(t, *made.Orders[i].Ready, chain.Links[0].End, "the chain ends when the order is ready")
		for n, link := range chain.Links {
			assert.Equal(t, tasks[link.Task].Start, link.Begin, "the explanation is of this plan")
			if n > 0 {
				assert.Equal(t, chain.Links[n-1].CausedBy, link.Task, "each link waited for the next")
				assert.Less(t, link.Begin, chain.Links[n-1].Begin)
			}
		}
		assert.Contains(
			t,
			[]studio.Cause{studio.CauseNow, studio.CauseHours, studio.CauseGate},
			chain.Links[len(chain.Links)-1].Cause,
			"it goes back to where nothing could be earlier",
		)
	}
	require.NotEmpty(t, e.Scarce)
	scarcest := e.Scarce[0]
	assert.Equal(t, "place", scarcest.Kind)
	assert.Equal(t, demo.ID("Half-sphere mould 60 mm"), scarcest.ID)
	assert.Contains(t, scarcest.Moved, doc.Orders[0].ID, "the ferry crew's")
	assert.Greater(t, scarcest.WithSlack, scarcest.Slack)
	var worked studio.Minute
	for _, load := range e.People {
		assert.LessOrEqual(t, load.Taken, load.There, "nobody works overtime in the demo")
		worked += load.Taken
	}
	for _, task := range made.Tasks {
		if task.Person != "" {
			worked -= task.End - task.Start
			for _, pause := range task.Pauses {
				worked += pause.To - pause.From
			}
		}
	}
	assert.Zero(t, worked, "the loads add up to the plan")
	for _, load := range e.Places {
		assert.LessOrEqual(t, load.Taken, load.There)
	}
}

// An account says the same as the explanation, but for what one more would give.
func TestAnAccountIsTheExplanationWithoutTrials(t *testing.T) {
	doc, counted, made := planOfTheDemo(t)
	account, err := plan.Account(doc, made)
	require.NoError(t, err)
	explained, err := plan.Explain(doc, counted, made, plan.Options{}, nil)
	require.NoError(t, err)
	assert.Equal(t, explained.Orders, account.Orders)
	assert.Equal(t, explained.People, account.People)
	assert.Equal(t, explained.Places, account.Places)
	require.Len(t, account.Scarce, len(explained.Scarce))
	for i, s := range account.Scarce {
		assert.Equal(t, explained.Scarce[i].ID, s.ID)
		assert.Equal(t, explained.Scarce[i].Waited, s.Waited)
		assert.Zero(t, s.WithSlack)
	}
}

// What has no place at any time names what would give it one: slots that hold it, somebody who can do it
// all, a machine that takes it at once.
func TestWhatHasNoPlaceNamesWhatWouldHelp(t *testing.T) {
	for what, is := range map[string]struct {
		task string
		id   studio.ID
		more int64
	}{
		"place": {`"work": [{"skill": "wiring", "minutes": 10, "milliminutes": 0, "run": 0}],
			"holds": [{"place": "tray", "slots": 5, "until": ["t"]}]`, "tray", 3},
		"skill": {`"work": [{"skill": "piping", "minutes": 10, "milliminutes": 0, "run": 0},
			{"skill": "wiring", "minutes": 5, "milliminutes": 0, "run": 0}]`, "piping, wiring", 1},
		"machine": {`"wait": {"least": {"minutes": 30}, "load": {"anyOf": ["oven"], "slots": 4}}`, "oven", 3},
	} {
		doc, err := studio.Read(strings.NewReader(`{"format": "bractum-studio", "version": 2, "name": "S",
			"epoch": "2027-09-20T00:00:00Z", "zone": "Europe/Dublin", "now": 480, "settings": {"horizonMinutes": 2880},
			"people": [{"id": "p", "name": "Teun", "skills": [{"skill": "wiring", "paceHundredths": 100}],
				"shifts": [{"from": 480, "to": 960}]}],
			"places": [{"id": "tray", "name": "Tray", "slots": 2}],
			"machines": [{"id": "oven", "name": "Oven", "slots": 1}],
			"direct": {"lots": [{"id": "l", "tasks": [
					{"id": "before", "step": "before", "pieces": 1,
						"work": [{"skill": "wiring", "minutes": 5, "milliminutes": 0, "run": 0}]},
					{"id": "t", "step": "t", "pieces": 1, ` + is.task + `}]}],
				"orders": [{"id": "o", "readyBy": 1400, "importance": 10, "lots": ["l"]}]}}`))
		require.NoError(t, err, what)
		counted := &count.Result{}
		made, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		require.NotEmpty(t, made.Unplaced, what)
		e, err := plan.Explain(doc, counted, made, plan.Options{}, nil)
		require.NoError(t, err)
		require.Len(t, e.Scarce, 1, what)
		assert.Equal(t, what, e.Scarce[0].Kind)
		assert.Equal(t, is.id, e.Scarce[0].ID)
		assert.Equal(t, is.more, e.Scarce[0].More)
		assert.Positive(t, e.Scarce[0].Stops)
		assert.Equal(t, []studio.ID{"o"}, e.Scarce[0].Moved, "with it, there is a date")
	}
}
