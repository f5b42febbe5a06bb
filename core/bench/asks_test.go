package bench_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/studio"
)

// atWork is the studio in which somebody tapes stems.
func atWork(t *testing.T) (*studio.Document, *studio.Plan, studio.ID, studio.ID) {
	doc := stems()
	_, p := at(t, doc)
	task := studio.TaskID(lotOf(t, p, "Waxflower stem").ID, "tape")
	person := doc.People[0].ID
	lot, _, err := bench.New(doc, p).Start(task, person, false)
	require.NoError(t, err)
	put(doc, lot)
	return doc, p, task, person
}

// A run that is done stays done: what is counted on the way is taken off what is left, and the task goes on.
func TestARunIsCountedOnTheWay(t *testing.T) {
	doc, p, task, person := atWork(t)
	left := lotOf(t, p, "Waxflower stem").Started
	count := func(c bench.Counts) error {
		lot, err := bench.New(doc, p).Count(task, c)
		if err == nil {
			put(doc, lot)
		}
		return err
	}
	require.NoError(t, count(bench.Counts{Good: 3, Broken: 1}))
	require.NoError(t, count(bench.Counts{Good: 2}))
	record := doc.Work[0].Records[0]
	assert.Equal(t, studio.TaskStarted, record.State)
	assert.Equal(t, person, record.Person)
	assert.EqualValues(t, 6, record.Counted())
	assert.ErrorContains(t, count(bench.Counts{}), "nothing is counted")
	assert.ErrorContains(t, count(bench.Counts{Good: left}), "are left to count")
	_, _, err := bench.New(doc, p).Finish(task, bench.Counts{Good: left})
	assert.ErrorContains(t, err, "are to be counted", "what was counted is not counted again")
	lot, _, err := bench.New(doc, p).Finish(task, bench.Counts{Good: left - 6})
	require.NoError(t, err)
	assert.EqualValues(t, left-1, lot.Records[0].Good)
	put(doc, lot)
	assert.ErrorContains(t, count(bench.Counts{Good: 1}),
		"done already: finished by Odalys at 08:30, 8 good, 0 second, 1 broken")
	_, err = bench.New(doc, p).Count("gone", bench.Counts{Good: 1})
	assert.ErrorContains(t, err, "no such task")
}

func TestHelpIsAskedForUntilTheTaskIsOver(t *testing.T) {
	doc, p, task, _ := atWork(t)
	lot, err := bench.New(doc, p).Ask(task, "  The tape tears. ")
	require.NoError(t, err)
	assert.Equal(t, "The tape tears.", lot.Records[0].Asks)
	_, err = bench.New(doc, p).Ask(task, strings.Repeat("o", 201))
	assert.ErrorContains(t, err, "longer than 200")
	put(doc, lot)
	lot, _, err = bench.New(doc, p).Finish(task, bench.Counts{Good: lot.Started})
	require.NoError(t, err)
	assert.Empty(t, lot.Records[0].Asks)
}

func TestWhatIsNotAsItShouldBeStaysWithTheLot(t *testing.T) {
	doc, p, task, person := atWork(t)
	says := func(r studio.Remark) error {
		lot, err := bench.New(doc, p).Remark(task, r)
		if err == nil {
			put(doc, lot)
		}
		return err
	}
	r := studio.Remark{At: doc.Now, Person: person, Says: "the blossoms are uneven"}
	require.NoError(t, says(r))
	require.NoError(t, says(studio.Remark{At: doc.Now, Person: person, Picture: "a photo"}))
	assert.Equal(t, r, doc.Work[0].Records[0].Remarks[0])
	assert.ErrorContains(t, says(studio.Remark{Says: "  "}), "say in a word")
	assert.ErrorContains(t, says(studio.Remark{Says: strings.Repeat("é", 501)}), "longer than 500")
	for range 18 {
		require.NoError(t, says(r))
	}
	assert.ErrorContains(t, says(r), "20 remarks are kept")
	doc.Work = nil
	assert.ErrorContains(t, says(r), "not begun")
}

func TestATaskIsHandedOn(t *testing.T) {
	doc, p, task, _ := atWork(t)
	other := doc.People[1].ID
	_, _, err := bench.New(doc, p).GiveTo(task, other, false)
	assert.ErrorContains(t, err, "cannot do all")
	lot, begun, err := bench.New(doc, p).GiveTo(task, other, true)
	require.NoError(t, err)
	assert.True(t, begun)
	assert.Equal(t, studio.TaskPaused, lot.Records[0].State)
	put(doc, lot)
	lot, _, err = bench.New(doc, p).Start(task, other, false)
	require.NoError(t, err)
	assert.Equal(t, other, lot.Records[0].Person)
	lot.Records[0].State = studio.TaskDone
	put(doc, lot)
	_, _, err = bench.New(doc, p).GiveTo(task, other, true)
	assert.ErrorContains(t, err, "done already")
	doc.Work = nil
	_, begun, err = bench.New(doc, p).GiveTo(task, other, true)
	require.NoError(t, err)
	assert.False(t, begun, "nobody is at it")
}

// By the book and the maker's pace: setup once, and each of what came to the task.
func TestHowLongATaskIsToTake(t *testing.T) {
	doc, p, task, person := atWork(t)
	lot := lotOf(t, p, "Waxflower stem")
	step := studio.NewBook(doc).Of(lot.Made()).Steps[0]
	for i := range doc.People {
		if doc.People[i].ID == person {
			for j := range doc.People[i].Skills {
				doc.People[i].Skills[j].Pace = 200
			}
		}
	}
	whole := step.Work.Setup + studio.Milliminutes(lot.Started)*step.Work.PerPiece
	assert.EqualValues(t, studio.CeilDiv(int64(whole), 2000), bench.New(doc, p).Expected(task))
	assert.Zero(t, bench.New(doc, p).Expected("gone"))
}

// A short wait rings at the bench of who takes up the pieces; a long one, and one that others take up, does not.
func TestAShortRestRingsWhereItIsTakenUp(t *testing.T) {
	doc := stems()
	doc.Shelf = nil
	_, p := at(t, doc)
	mix := lotOf(t, p, "Oyster ivory")
	doc.Orders = nil
	r := studio.NewBook(doc).Of(mix.Made())
	require.NotNil(t, r.Steps[1].Wait)
	r.Steps = append(r.Steps, studio.Step{Key: "wrap", Name: "Wrap", Work: &studio.Work{Glyph: "mix"}})
	wait := studio.Task{ID: studio.TaskID(mix.ID, r.Steps[1].Key), Lot: mix.ID, Step: r.Steps[1].Key,
		State: studio.TaskPlanned, Start: doc.Now - 10, End: doc.Now + 20}
	then := studio.Task{ID: studio.TaskID(mix.ID, "wrap"), Lot: mix.ID, Step: "wrap", State: studio.TaskPlanned,
		Start: doc.Now + 20, End: doc.Now + 22}
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == mix.Recipe {
			doc.Recipes[i].Steps = r.Steps
		}
	}
	rests := func() []bench.Rest {
		return bench.New(doc, p).Rests([]*studio.Task{&then}, func(id studio.ID) *studio.Task {
			if id == wait.ID {
				return &wait
			}
			return nil
		})
	}
	assert.Equal(t, []bench.Rest{{Task: wait.ID, Then: then.ID, Ends: doc.Now + 20}}, rests())
	wait.Start, wait.End = doc.Now-30, doc.Now-2
	assert.Len(t, rests(), 1, "it rings until the pieces are taken up")
	wait.Start = doc.Now - 60
	assert.Empty(t, rests(), "nobody stays by that")
	wait.Start, then.State = doc.Now-30, studio.TaskStarted
	assert.Empty(t, rests())
	// what a task takes up ends with a wait as well
	blossom := lotOf(t, p, "Waxflower blossom")
	p.Links = []studio.Link{{From: mix.ID, To: blossom.ID, Step: "pull", Recipe: mix.Recipe, Quantity: 1}}
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == mix.Recipe {
			doc.Recipes[i].Steps = doc.Recipes[i].Steps[:2]
		}
	}
	then = studio.Task{ID: studio.TaskID(blossom.ID, "pull"), Lot: blossom.ID, Step: "pull",
		State: studio.TaskPlanned, Start: doc.Now}
	assert.Len(t, rests(), 1)
	then.Start = doc.Now + 60
	assert.Empty(t, rests(), "there is time until then")
}

func TestADayIsItsSittings(t *testing.T) {
	task := func(id studio.ID, from, to studio.Minute) *studio.Task {
		return &studio.Task{ID: id, State: studio.TaskPlanned, Start: from, End: to}
	}
	kind := func(t *studio.Task) string { return string(t.ID[:3]) }
	all := []*studio.Task{task("cut 1", 480, 490), task("cut 2", 490, 520), task("dust", 560, 570),
		task("cut 4", 1500, 1510)}
	assert.Equal(t, [][]*studio.Task{all[:2], all[2:3]}, bench.Day(all, 1440, kind))
	all[3].State = studio.TaskStarted
	assert.Len(t, bench.Day(all[3:], 1440, kind), 1, "what is begun belongs to the day")
}
