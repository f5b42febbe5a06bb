package card_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/card"
	"bractum/core/studio"
	"bractum/demo"
)

// lotted is the card of a step of so many of a demo recipe, in runs of so many where the step is a stint.
func lotted(t *testing.T, recipe, step string, pieces, run int64) card.Card {
	doc := demo.Document()
	book := studio.NewBook(doc)
	lot := studio.Lot{ID: "lot", Recipe: demo.ID(recipe), Need: pieces, Started: pieces, Alive: pieces, Run: run,
		Mixes: map[string]studio.ID{"petal": demo.ID("Oyster ivory"), "core": demo.ID("Centre white")}}
	task := studio.Task{ID: studio.TaskID("lot", step), Lot: "lot", Step: step, State: studio.TaskPlanned}
	instance := studio.Tasks(doc, book, []studio.Lot{lot}, nil)
	return card.Of(doc, book, &lot, &task, func(studio.ID) *studio.Task { return nil }, instance.Activities()[task.ID])
}

// A size is said by the studio's own measure where one of its marks is near, and in millimetres always.
func TestSizesAreSaidByTheStudiosOwnMeasures(t *testing.T) {
	pin := studio.Measure{Name: "pin", Of: studio.MeasuresThickness,
		Marks: []studio.Mark{{Name: "thin", Size: 500}, {Name: "thick", Size: 1000}}}
	for size, want := range map[studio.Micrometres]string{400: "", 450: "thin", 600: "thin", 601: "thin", 800: "",
		900: "thick"} {
		mark, near := pin.Marked(size)
		if want == "" {
			assert.False(t, near, "%d is %s", size, mark.Name)
		} else if assert.True(t, near, size) {
			assert.Equal(t, want, mark.Name, size)
		}
	}
	_, near := (&studio.Measure{}).Marked(500)
	assert.False(t, near)
	assert.Zero(t, studio.Ball(9000).Size(studio.MeasuresThickness))
	assert.EqualValues(t, 9000, studio.Ball(9000).Size(studio.MeasuresBall))
}

// What a step takes is said for the run that comes next, and for all of them.
func TestAStepIsSaidForItsRunAndForAll(t *testing.T) {
	c := lotted(t, "Gardenia petal, small", "cut", 34, 0)
	require.Len(t, c.Steps, 3, "rolled, thinned and nicked in one go")
	roll, nick := c.Steps[0], c.Steps[2]
	assert.EqualValues(t, 15, roll.Of, "fifteen to a run")
	assert.EqualValues(t, 34, roll.All)
	assert.EqualValues(t, 6, nick.Pieces, "35 % of a run")
	paste := roll.Pastes[0]
	assert.Equal(t, "Oyster ivory", paste.Mix)
	assert.Equal(t, 34*paste.Mass, paste.All)
	assert.Equal(t, 15*paste.Mass, paste.Now)
	assert.EqualValues(t, 15, paste.Cut)
	assert.EqualValues(t, 4, lotted(t, "Gardenia petal, small", "cut", 4, 0).Steps[0].Pastes[0].Cut,
		"nobody rolls for more than there are")
	require.Len(t, c.Then, 1)
	assert.Equal(t, "Pre-set in spoons", c.Then[0].Name)
	assert.Equal(t, studio.Minute(8), c.Then[0].Minutes)
	assert.Equal(t, "Spoon tray", c.Then[0].Lay[0].Place)
}

// A page of the book is the cards of all its work, in the numbers asked for.
func TestAPageIsTheCardsOfItsWork(t *testing.T) {
	doc := demo.Document()
	made := studio.Made{Recipe: demo.ID("Gardenia")}
	cards := card.Making(doc, studio.NewBook(doc), made, map[string]studio.ID{"dust": demo.ID("Ember dust")}, 3)
	names := []string{}
	for _, c := range cards {
		for _, s := range c.Steps {
			names = append(names, s.Name)
		}
	}
	assert.Equal(t, []string{"Wrap the heart", "Glue the rows", "Dust while it gives a little",
		"Take out the films, glue on the calyx"}, names)
	rows := cards[1].Steps[0].Parts[1]
	assert.EqualValues(t, 36, rows.All, "twelve large petals for each of three")
	assert.Equal(t, []int64{6, 6}, rows.Rows)
	assert.EqualValues(t, 18, cards[3].Steps[0].Out[0].Now, "as many films come out as went in")
}

// A mix says what to weigh; a task that there is no plan of says all but when.
func TestAMixSaysWhatToWeigh(t *testing.T) {
	c := lotted(t, "Petal white", "knead", 100_000, 0)
	require.NotEmpty(t, c.Blend)
	var sum studio.Milligrams
	for _, b := range c.Blend {
		assert.NotEmpty(t, b.Name)
		sum += b.Weigh
	}
	assert.InDelta(t, 100_000, int64(sum), 5_000)
	assert.Nil(t, c.Then[0].Start)
}
