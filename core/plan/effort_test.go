package plan

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

func laid(t *testing.T, doc *studio.Document) (*schedule, *studio.Plan) {
	t.Helper()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := newProblem(doc, counted)
	require.NoError(t, err)
	s := newSearch(p, Options{}).found()
	return s, s.finished()
}

// What usual work costs leaves much to spare.
func TestSeasonsAreLaidWithinHalfOfTheirEffort(t *testing.T) {
	for seed := range uint64(3) {
		s, made := laid(t, demo.Season(seed+1, 0.5, 105))
		assert.Less(t, s.effort.spent, s.effort.most/2, "season %d", seed+1)
		for _, u := range made.Unplaced {
			assert.False(t, u.Limited, u.Task)
		}
	}
}

// hard is a season with an order of many flowers whose parts must be put together within
// minutes of each other, though there are far too many for that.
func hard(flower string, quantity int64, within studio.Minute) *studio.Document {
	doc := demo.Season(1, 0.5, 90)
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		for k := range r.Parts {
			if r.Kind == studio.KindPart || r.Name == flower {
				r.Parts[k].Window = &studio.Window{AtMost: &within, Whole: true}
			}
		}
	}
	last := doc.Orders[len(doc.Orders)/2]
	doc.Orders = append(doc.Orders, studio.Order{ID: "hard", Name: "hard", Leaves: last.Leaves, Importance: 10,
		State: studio.OrderOpen,
		Lines: []studio.OrderLine{{ID: "hard line", Recipe: demo.ID(flower), Colourway: last.Lines[0].Colourway,
			Quantity: quantity, ServiceLevel: 950}}})
	return doc
}

// Whatever is asked for, laying ends with its effort, says what it looked for no further,
// and leaves the other orders their places.
func TestWhatCannotBeMetCostsNoMoreThanItsEffort(t *testing.T) {
	for _, c := range []struct {
		flower   string
		quantity int64
		within   studio.Minute
	}{{"Dahlia", 400, 90}, {"Ranunculus", 300, 60}, {"Camellia", 200, 20}} {
		t.Run(fmt.Sprint(c), func(t *testing.T) {
			doc := hard(c.flower, c.quantity, c.within)
			s, made := laid(t, doc)
			assert.Less(t, s.effort.spent, 2*s.effort.most)
			unplaced, others := 0, 0
			for _, o := range made.Orders {
				if o.Ready == nil && o.Order == "hard" {
					unplaced++
				}
				if o.Ready != nil && o.Order != "hard" {
					others++
				}
			}
			assert.Equal(t, 1, unplaced)
			assert.Positive(t, others)

			// A repair does not look as far for it again.
			p, err := newProblem(doc, &count.Result{Lots: made.Lots, Links: made.Links, Pegs: made.Pegs})
			require.NoError(t, err)
			again := newSearch(p, Options{From: made}).found()
			assert.Less(t, again.effort.spent, s.effort.spent/2)
			repaired := again.finished()
			assert.LessOrEqual(t, repaired.Objective.Lateness, made.Objective.Lateness)
		})
	}
}

// One that is abandoned ends at once, with what is easily placed.
func TestAnAbandonedPlanEnds(t *testing.T) {
	doc := hard("Dahlia", 400, 90)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	now := make(chan struct{})
	close(now)
	made, err := Make(doc, counted, Options{Abandon: now, Steps: 1 << 30, Stop: now})
	require.NoError(t, err)
	assert.NotEmpty(t, made.Tasks)
	assert.Zero(t, made.Steps)
}

// A studio in which nobody works has a plan of nothing, searched or not.
func TestNobodyInTheStudio(t *testing.T) {
	doc := demo.Document()
	doc.People = nil
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := Make(doc, counted, Options{Steps: 200, Seed: 1})
	require.NoError(t, err)
	assert.NotEmpty(t, made.Unplaced)
	for _, task := range made.Tasks {
		assert.Empty(t, task.Person)
	}
	_, err = Explain(doc, counted, made, Options{}, nil)
	require.NoError(t, err)
}

// A repair knows what to do with a cluster that has begun and of which the plan before does
// not know every job.
func TestARepairOfABegunClusterThatThePlanKnowsHalfOf(t *testing.T) {
	doc := demo.AtWork()
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := Make(doc, counted, Options{})
	require.NoError(t, err)
	p, err := newProblem(doc, counted)
	require.NoError(t, err)
	begun := 0
	for _, c := range p.clusters {
		if c.begun == 0 {
			continue
		}
		for _, j := range c.jobs {
			without := *made
			without.Tasks = nil
			for _, task := range made.Tasks {
				if task.ID != j.ID {
					without.Tasks = append(without.Tasks, task)
				}
			}
			_, err := Repair(doc, counted, &without, nil)
			require.NoError(t, err)
			begun++
		}
	}
	assert.Positive(t, begun)
}

// What is easy but too much ends too when it is abandoned, and says what was not tried.
func TestWhatIsAbandonedTriesNoMore(t *testing.T) {
	doc := demo.Document()
	for i := range doc.Recipes {
		if doc.Recipes[i].Kind != studio.KindMix {
			doc.Recipes[i].MostPerLot = 1
		}
	}
	line := &doc.Orders[len(doc.Orders)-1].Lines[0]
	line.Recipe, line.Quantity = demo.ID("Dahlia"), 110
	counted, err := count.Up(doc)
	require.NoError(t, err)
	now := make(chan struct{})
	close(now)
	made, err := Make(doc, counted, Options{Abandon: now})
	require.NoError(t, err)
	assert.NotEmpty(t, made.Tasks)
	untried := 0
	for _, u := range made.Unplaced {
		if u.Reason == studio.Untried {
			untried++
			assert.True(t, u.Limited, u.Task)
		}
	}
	assert.Positive(t, untried)
	assert.Empty(t, check.Plan(doc, made))
}
