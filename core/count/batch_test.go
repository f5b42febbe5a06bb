package count_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
)

// soft is a studio that builds roses of five petals each while those are soft. Petals are cut
// and thinned at 0.4 minutes each, after two of setup; a rose is built in so many minutes.
// Paste stays soft for an hour, and all of it alike.
func soft(roses int64, build studio.Milliminutes) *studio.Document {
	doc := &studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard",
		Epoch:    time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC),
		Zone:     "UTC",
		Now:      480,
		Settings: studio.DefaultSettings(),
		DryingClasses: []studio.DryingClass{{ID: "petal", Name: "Petal", FirmMinutes: 60, StiffMinutes: 300,
			DryMinutes: 600, Thickness: 800, StallHumidity: 800}},
		Materials: []studio.Material{{ID: "paste", Name: "Paste", Unit: studio.UnitMilligrams, OnHand: 1 << 40}},
		People: []studio.Person{{ID: "Teun", Name: "Teun",
			Skills: []studio.Skill{{Skill: "shaping", Pace: 100}, {Skill: "mixing", Pace: 100}}}},
		Colourways: []studio.Colourway{{ID: "Oyster", Name: "Oyster", Slots: map[string]studio.ID{"petal": "white"}}},
	}
	for range 24 {
		doc.Climate = append(doc.Climate, studio.Air{TenthsCelsius: 200, HumidityPerMille: 500})
	}
	for _, day := range []studio.Weekday{"monday", "tuesday", "wednesday", "thursday", "friday"} {
		doc.People[0].Hours = append(doc.People[0].Hours, studio.DayHours{Day: day, From: 480, To: 1020})
	}
	none := studio.Spares{Rule: studio.SparesNone}
	shaping := func(key, glyph string, setup, each studio.Milliminutes) studio.Step {
		return studio.Step{Key: key, Name: key,
			Work: &studio.Work{Glyph: glyph, Skill: "shaping", Setup: setup, PerPiece: each, MayPause: true}}
	}
	doc.Recipes = []studio.Recipe{
		{ID: "white", Recipe: "white", Revision: 1, Name: "White", Kind: studio.KindMix, Colour: "#e8d9c5",
			LifeMinutes: 20 * 1440, Blend: []studio.Ingredient{{Material: "paste", Parts: 1}}, Spares: none,
			Steps: []studio.Step{{Key: "knead", Name: "knead", Work: &studio.Work{Skill: "mixing", PerPiece: 1000}}}},
		{ID: "petal", Recipe: "petal", Revision: 1, Name: "Petal", Kind: studio.KindPart, Spares: none,
			Dries: &studio.Drying{Class: "petal", Thickness: 800},
			Pastes: []studio.PasteInput{{Step: "cut", Slot: "petal",
				Shape: studio.Sheet(30_000, 20_000, 800, 785)}},
			Steps: []studio.Step{shaping("cut", "cut", 2000, 400), shaping("thin", "thin", 0, 400)}},
		{ID: "rose", Recipe: "rose", Revision: 1, Name: "Rose", Kind: studio.KindFlower, Spares: none,
			Parts: []studio.PartInput{{Step: "build", Recipe: "petal", Count: 5, Join: studio.JoinWet}},
			Steps: []studio.Step{shaping("build", "build", 0, build)}},
	}
	doc.Orders = []studio.Order{{ID: "choir", Name: "Choir", Leaves: studio.MustWallTime("2027-10-01T10:00"),
		Importance: 10, State: studio.OrderOpen, Lines: []studio.OrderLine{{ID: "line", Recipe: "rose",
			Colourway: "Oyster", Quantity: roses, ServiceLevel: 950}}}}
	return doc
}

// Of k roses the first petal of the last one is done after 2 + ⌊2(k − 1) + 0.4⌋ minutes and
// taken up after 2 + 4k + 5(k − 1): it waits for 7k − 3, of which 48 are allowed, a fifth of
// the hour being to spare. So seven are a batch, and 24 are four batches of six.
func TestABatchIsWhatStaysSoft(t *testing.T) {
	counted := up(t, soft(24, 5000))
	roses, petals := lotsMade(counted, "rose"), lotsMade(counted, "petal")
	require.Len(t, roses, 4)
	require.Len(t, petals, 4, "each has petals of its own")
	for i := range roses {
		assert.EqualValues(t, 6, roses[i].Started)
		assert.EqualValues(t, 30, petals[i].Started)
	}
	into := map[studio.ID]studio.ID{}
	for _, link := range counted.Links {
		if link.Recipe == "petal" {
			assert.Empty(t, into[link.To], "from one lot alone")
			into[link.To] = link.From
		}
	}
	assert.Len(t, into, 4)

	item := itemMade(counted, "rose")
	i := len(item.Workings) - 1
	for ; item.Workings[i].Rule != "batch"; i-- {
	}
	batch := item.Workings[i]
	assert.EqualValues(t, 7, batch.Result.Value)
	assert.EqualValues(t, 53, batch.Inputs[0].Value, "the eighth would have one wait for 7 · 8 − 3 minutes")
	assert.Equal(t, "Petal, cut – Rose, build", batch.Inputs[0].Of)
	assert.EqualValues(t, 60, batch.Inputs[1].Value)
	assert.Empty(t, counted.Notes)
}

// Spares are shared out: no batch is short of what it needs, and all have them together.
func TestSparesAreSharedOutOverBatches(t *testing.T) {
	doc := soft(24, 5000)
	doc.Recipes[1].Spares = studio.Spares{Rule: studio.SparesByNumber, Number: 2}
	counted := up(t, doc)
	var started int64
	for _, l := range lotsMade(counted, "petal") {
		assert.GreaterOrEqual(t, l.Started, int64(30))
		assert.LessOrEqual(t, l.Started, int64(31))
		assert.EqualValues(t, 30, l.Need)
		started += l.Started
	}
	assert.EqualValues(t, 122, started)
	assert.EqualValues(t, 122, itemMade(counted, "petal").Started)
	assert.EqualValues(t, 2, itemMade(counted, "petal").Spare)
}

// A pot of three slots takes five petals in each: those of three roses.
func TestABatchFitsWhatItsPiecesLieIn(t *testing.T) {
	doc := soft(24, 100)
	doc.Places = []studio.Place{{ID: "pot", Name: "Pot", Slots: 3}}
	doc.Recipes[1].Steps[1].Holds = []studio.Hold{{Place: "pot", PerSlot: 5, UntilNext: "build"}}
	for _, l := range lotsMade(up(t, doc), "rose") {
		assert.EqualValues(t, 3, l.Started)
	}
}

// Where not even one flower is in time, that is said at once, with what breaks.
func TestNotEvenOneIsSaid(t *testing.T) {
	doc := soft(3, 5000)
	doc.Recipes[2].Steps[0].Work.Setup = 50_000
	counted := up(t, doc)
	require.Len(t, counted.Notes, 1)
	note := counted.Notes[0]
	assert.Equal(t, count.NotEvenOne, note.Code)
	assert.Equal(t, "Rose", note.With["of"])
	assert.Equal(t, "Petal, cut", note.With["from"])
	assert.Len(t, lotsMade(counted, "rose"), 3)
}

// Petals that stay soft for longer than anybody works are of the day on which they were begun:
// batches are what a day has time for, a fifth of it to spare.
func TestABatchIsMadeInADay(t *testing.T) {
	doc := soft(24, 5000)
	c := &doc.DryingClasses[0]
	c.FirmMinutes, c.StiffMinutes, c.DryMinutes = 600, 1200, 2400
	longest := func(minutes studio.Minute) int64 {
		maker := &doc.People[0]
		maker.Shifts, maker.Hours = nil, []studio.DayHours{
			{Day: "monday", From: 540, To: studio.TimeOfDay(540 + 30 + minutes)},
		}
		maker.Breaks = []studio.BreakTime{{From: 545, To: 575}}
		return lotsMade(up(t, doc), "rose")[0].Started
	}
	assert.Greater(t, longest(240), longest(100))
	require.Empty(t, up(t, doc).Notes)

	longest(10)
	notes := up(t, doc).Notes
	require.Len(t, notes, 1)
	assert.Equal(t, count.NoDayLongEnough, notes[0].Code)
	assert.EqualValues(t, 10, notes[0].With["lastMinutes"])
}

// What version 1 said binds a lot as a whole, and shares its lots.
func TestALotOfVersionOneIsNoBatch(t *testing.T) {
	doc := soft(24, 5000)
	for i := range doc.Recipes {
		doc.Recipes[i].Lift(1)
	}
	counted := up(t, doc)
	assert.Len(t, lotsMade(counted, "rose"), 1)
	assert.Len(t, lotsMade(counted, "petal"), 1)
}

func lotsMade(counted *count.Result, of studio.ID) (lots []studio.Lot) {
	for _, l := range counted.Lots {
		if l.Recipe == of {
			lots = append(lots, l)
		}
	}
	return lots
}

func itemMade(counted *count.Result, of studio.ID) (found count.Item) {
	for _, item := range counted.Items {
		if item.Recipe == of {
			found = item
		}
	}
	return found
}

// Of r petals cut and thinned in one run the first lies for 0.4 (r − 1) minutes until it is
// thinned, as does the last: at 121 that is 48, and where no run is said none is longer.
func TestARunIsWhatStaysSoft(t *testing.T) {
	doc := soft(60, 100)
	doc.Recipes[2].Parts[0].Wants = studio.WantsAny
	for i := range doc.Recipes[1].Steps {
		doc.Recipes[1].Steps[i].Work.Stint = "petals"
	}
	most := func() (most int64) {
		for _, l := range lotsMade(up(t, doc), "petal") {
			most = max(most, l.Started)
		}
		return most
	}
	assert.EqualValues(t, 300, most(), "in runs")
	assert.EqualValues(t, 121, lotsMade(up(t, doc), "petal")[0].Run)
	doc.Recipes[1].Steps[0].Work.Run = 121
	assert.EqualValues(t, 300, most(), "runs that hold, one after the other")
	doc.Recipes[1].Steps[0].Work.Run = 122
	assert.EqualValues(t, 100, most())
}

// Roses whose petals are made in the run have no lots of petals, and take the same paste, wire
// and minutes; a run is as long as every petal stays soft. Of r roses 5r petals are cut in 0.4
// min each, thinned in 0.4 min each and built in five minutes a rose: the first petal of the last
// rose, and the last of the first, wait longest.
func TestPetalsAreMadeInTheRun(t *testing.T) {
	apart, inRun := soft(24, 5000), soft(24, 5000)
	inRun.Recipes[2].Parts[0].InRun = true
	counted := up(t, inRun)
	assert.Empty(t, lotsMade(counted, "petal"))
	roses := lotsMade(counted, "rose")
	require.Len(t, roses, 1)
	white := itemMade(counted, "white").Net
	assert.InDelta(t, itemMade(up(t, apart), "white").Net, white, 5, "lots round their loss up")

	waits := func(r int64) (most float64) {
		n := 5 * r
		for i := range n {
			done := 0.4 * float64(i+1)
			taken := 0.4*float64(n)*2 + 5*float64(i*r/n)
			most = max(most, taken-done)
		}
		return most
	}
	r := int64(1)
	for waits(r+1) <= 48 {
		r++
	}
	assert.Equal(t, r, roses[0].Run)

	tasks := studio.Route(inRun, studio.NewBook(inRun), counted.Lots, counted.Links, nil)
	for _, routing := range tasks.Lots {
		if routing.ID != roses[0].ID {
			continue
		}
		require.Len(t, routing.Tasks, 1)
		var minutes studio.Milliminutes
		for _, e := range routing.Tasks[0].Work {
			minutes += e.Total()
		}
		assert.EqualValues(t, 2000+24*5*800+24*5000, minutes)
		assert.Len(t, routing.Tasks[0].InRuns(), int(studio.CeilDiv(24, r)))
	}

	inRun.Recipes[1].Spares = studio.Spares{Rule: studio.SparesByBreakage, Breakage: 40}
	more := itemMade(up(t, inRun), "white").Net
	assert.InDelta(t, float64(white)/0.96, more, float64(white)/120, "what breaks is cut again")
}

// Each batch of roses is one with the petals that are made for it.
func TestABatchIsOneWithWhatIsMadeForIt(t *testing.T) {
	doc := soft(24, 4000)
	counted := up(t, doc)
	roses := lotsMade(counted, "rose")
	require.Greater(t, len(roses), 2)
	batches := studio.NewBook(doc).Batches(counted.Lots, counted.Links)
	for i, rose := range roses {
		assert.Equal(t, studio.InBatch{Root: rose.ID, Number: int64(i) + 1, Of: int64(len(roses))}, batches[rose.ID])
	}
	petals := 0
	for _, link := range counted.Links {
		if link.Recipe == "petal" {
			petals++
			assert.Equal(t, batches[link.To], batches[link.From])
		}
	}
	assert.Equal(t, len(roses), petals)
	for _, mix := range lotsMade(counted, "white") {
		assert.NotContains(t, batches, mix.ID)
	}
}
