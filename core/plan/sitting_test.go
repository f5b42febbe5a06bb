package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// works are the tasks of a plan by who does them, in order.
func works(p *studio.Plan) map[studio.ID][]studio.Task {
	of := map[studio.ID][]studio.Task{}
	for _, t := range p.Tasks {
		if t.Person != "" && t.State == studio.TaskPlanned {
			of[t.Person] = append(of[t.Person], t)
		}
	}
	for _, tasks := range of {
		slices.SortFunc(tasks, func(a, b studio.Task) int { return int(a.Start - b.Start) })
	}
	return of
}

// What a studio gives for it makes days of fewer sittings, and nothing later.
func TestAMakersDayIsOfFewSittings(t *testing.T) {
	sittings, minutes, lateness := map[studio.Minute]int{}, map[studio.Minute]studio.Minute{}, map[studio.Minute]int64{}
	for seed := uint64(1); seed <= 3; seed++ {
		for _, worth := range []studio.Minute{0, 20} {
			doc := demo.Season(seed, 0.4, 95)
			doc.Settings.SittingMinutes = worth
			p := planned(t, doc, plan.Options{})
			lateness[worth] += p.Objective.Lateness
			book, lots := studio.NewBook(doc), map[studio.ID]studio.Made{}
			for _, l := range p.Lots {
				lots[l.ID] = l.Made()
			}
			kind := func(t studio.Task) string {
				step, _ := book.Of(lots[t.Lot]).Step(t.Step)
				return step.Work.Glyph
			}
			for _, tasks := range works(p) {
				for i, task := range tasks {
					minutes[worth] += task.End - task.Start
					if i == 0 || kind(tasks[i-1]) != kind(task) || task.Start-tasks[i-1].End > 20 {
						sittings[worth]++
					}
				}
			}
		}
	}
	t.Log(sittings, minutes, lateness)
	assert.Less(t, sittings[20], sittings[0])
	assert.LessOrEqual(t, 100*lateness[20], 101*lateness[0], "no more than a hundredth later")
	assert.Greater(t, int(minutes[20])/sittings[20], 25, "minutes, on the mean")
}

// Who has a lot in hand goes on with it, where nobody else would be done much sooner.
func TestMakersFinishWhatTheyBegan(t *testing.T) {
	doc := demo.Season(1, 0.4, 75)
	p := planned(t, doc, plan.Options{})
	hands := map[studio.ID][]studio.Task{}
	for _, task := range p.Tasks {
		if task.Person != "" {
			hands[task.Lot] = append(hands[task.Lot], task)
		}
	}
	over, all := 0, 0
	for _, tasks := range hands {
		slices.SortFunc(tasks, func(a, b studio.Task) int { return int(a.Start - b.Start) })
		for i := range tasks[1:] {
			if all++; tasks[i].Person != tasks[i+1].Person {
				over++
			}
		}
	}
	t.Logf("%d of %d", over, all)
	require.Greater(t, all, 1000)
	assert.Less(t, 100*over, 72*all, "more than three of four, were it not worth anything")
}
