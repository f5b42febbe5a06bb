package room_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/room"
	"bractum/core/studio"
	"bractum/demo"
)

// seen is the drying room of a document as it stands.
func seen(t testing.TB, doc *studio.Document) room.Room { return room.Now(from(t, doc)) }

// from is a document as its drying room is seen from.
func from(t testing.TB, doc *studio.Document) room.Studio {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	book := studio.NewBook(doc)
	at := room.Studio{Doc: doc, Book: book, Plan: made,
		Lots: map[studio.ID]*studio.Lot{}, Tasks: map[studio.ID]*studio.Task{}}
	for i := range made.Lots {
		at.Lots[made.Lots[i].ID] = &made.Lots[i]
	}
	for i := range made.Tasks {
		at.Tasks[made.Tasks[i].ID] = &made.Tasks[i]
	}
	at.Instance, at.Air = studio.Route(doc, book, made.Lots, made.Links, made.Pegs), drying.NewRoom(doc, calendar)
	activities := at.Instance.Activities()
	at.Activity = func(task studio.ID) *studio.Activity { return activities[task] }
	return at
}

// petals is the demo with magnolia petals that have lain in moulds for so long, in air of
// one kind.
func petals(since studio.Minute, air studio.Air) *studio.Document {
	doc := demo.Document()
	doc.Climate = slices.Repeat([]studio.Air{air}, 24)
	doc.Orders, doc.Shelf = doc.Orders[:1], nil
	doc.Work = []studio.WorkLot{
		demo.Lying(
			doc,
			"petals",
			"Magnolia outer petal",
			map[string]string{"petal": "Oyster ivory", "dust": "Pebble dust"},
			"dry",
			18,
			since,
		),
	}
	return doc
}

var standard = studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}

func only(t *testing.T, r room.Room) room.Lying {
	require.Len(t, r.Lying, 1)
	return r.Lying[0]
}

func kinds(r room.Room) (kinds []room.AlertKind) {
	for _, a := range r.Alerts {
		kinds = append(kinds, a.Kind)
	}
	return kinds
}

func TestWhatLiesIsAsFarAsTheClockHasIt(t *testing.T) {
	// 0.9 mm of a class that dries in 300 min at 0.8 mm: 300 × 1.125^1.5 = 358 min
	for _, c := range []struct {
		since studio.Minute
		state studio.Found
	}{{10, studio.FoundSoft}, {60, studio.FoundFirm}, {400, studio.FoundDry}} {
		l := only(t, seen(t, petals(c.since, standard)))
		assert.Equal(t, c.state, l.State, "after %d min", c.since)
		assert.EqualValues(t, 18, l.Pieces)
		assert.Equal(t, l.Since+358, *l.Dry.Likely)
		assert.Less(t, *l.Dry.Early, *l.Dry.Likely)
		assert.Equal(t, *l.Over, *l.Dry.Late, "the plan waits for eight of ten")
		assert.Less(t, *l.Firm.Likely, *l.Stiff.Likely)
		require.NotNil(t, l.Next)
		assert.Equal(t, studio.ID("petals.dust"), l.Next.Task)
	}
	l := only(t, seen(t, petals(60, standard)))
	require.Len(t, l.Machines, 1)
	assert.Equal(t, demo.ID("Dehydrator"), l.Machines[0].Machine)
	assert.InDelta(
		t,
		60*1.193*(358-60)/358,
		float64(l.Machines[0].Minutes),
		1,
		"the rest of its hour, for its thickness",
	)
	assert.Zero(t, l.Damp, "the air stays as it is")
}

func TestWhatIsReadyAndToBeBegunIsSaidToWhoBeginsIt(t *testing.T) {
	doc := demo.Document()
	doc.Now += 60 // Maren is there
	doc.Climate = slices.Repeat([]studio.Air{standard}, 24)
	doc.Orders = doc.Orders[:1]
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "dust",
			Recipe:  demo.ID("Pebble dust"),
			Mixes:   map[string]studio.ID{},
			Amount:  50_000,
			Quality: studio.Good,
			MadeOn:  100,
		},
	}
	lies := func(since studio.Minute) room.Room {
		doc.Work = []studio.WorkLot{
			demo.Lying(
				doc,
				"petals",
				"Magnolia outer petal",
				map[string]string{"petal": "Oyster ivory", "dust": "Pebble dust"},
				"dry",
				18,
				since,
			),
		}
		return seen(t, doc)
	}
	r := lies(900)
	i := slices.IndexFunc(r.Alerts, func(a room.Alert) bool { return a.Kind == room.Ready })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, only(t, r).Next.Person, r.Alerts[i].Person)
	assert.NotEmpty(t, r.Alerts[i].Person)
	assert.NotContains(t, kinds(lies(100)), room.Ready, "they still dry")
}

func TestTouchGoesBeforeTheClock(t *testing.T) {
	doc := petals(60, standard)
	doc.Work[0].Checks = []studio.Check{
		{Step: "dry", At: doc.Now - 5, Person: demo.ID("Maren"), Found: studio.FoundSoft},
	}
	l := only(t, seen(t, doc))
	assert.Equal(t, studio.FoundSoft, l.State)
	assert.Equal(t, demo.ID("Maren"), l.Found.Person)
	assert.Greater(t, *l.Firm.Likely, doc.Now, "it is not firm, though the clock has it so")
	doc.Work[0].Checks[0].Found = studio.FoundDry
	assert.Empty(
		t,
		slices.DeleteFunc(seen(t, doc).Lying, func(l room.Lying) bool { return l.State == studio.FoundDry }),
	)
}

func TestDampAirStallsAndCosts(t *testing.T) {
	r := seen(t, petals(60, studio.Air{TenthsCelsius: 180, HumidityPerMille: 850}))
	l := only(t, r)
	assert.Nil(t, l.Dry.Likely, "not before the air is drier")
	assert.Contains(t, kinds(r), room.Stalled)
	assert.NotEmpty(t, l.Machines, "a machine would do it all the same")

	doc := petals(60, standard)
	for hour := range int64(10) { // a damp night comes
		doc.Readings = append(
			doc.Readings,
			studio.Reading{
				Hour: int64(doc.Now/60) + 2 + hour,
				Air:  studio.Air{TenthsCelsius: 180, HumidityPerMille: 780},
			},
		)
	}
	assert.Greater(t, only(t, seen(t, doc)).Damp, studio.Minute(180))
	assert.NotContains(t, kinds(seen(t, doc)), room.Stalled)
}

func TestPiecesWhoseTimeInAMachineIsOverAreNamed(t *testing.T) {
	doc := petals(200, standard)
	doc.Work[0].Puts = []studio.Put{
		{Step: "dry", At: doc.Now - 60, Machine: demo.ID("Dehydrator"), Minutes: 50, Slots: 2},
	}
	r := seen(t, doc)
	assert.Equal(t, demo.ID("Dehydrator"), only(t, r).Machine)
	assert.Equal(t, doc.Now-10, *only(t, r).Over)
	assert.Contains(t, kinds(r), room.Out)
	doc.Work[0].Puts[0].Minutes = 70
	assert.NotContains(t, kinds(seen(t, doc)), room.Out)
	doc.Work[0].Puts = append(doc.Work[0].Puts, studio.Put{Step: "dry", At: doc.Now - 5})
	l := only(t, seen(t, doc))
	assert.Empty(t, l.Machine)
	assert.Less(t, *l.Dry.Likely, doc.Now, "55 of its 72 minutes there, and 140 of 358 before: more than enough")
	assert.Equal(t, studio.FoundDry, l.State)
}

func TestShelvesHoldWhatThePlanHasInThemNow(t *testing.T) {
	r := seen(t, petals(60, standard))
	i := slices.IndexFunc(r.Shelves, func(s room.Shelf) bool { return s.Place == demo.ID("Half-sphere mould 60 mm") })
	require.Len(t, r.Shelves[i].Taken, 1)
	taken := r.Shelves[i].Taken[0]
	assert.Equal(t, studio.ID("petals"), taken.Lot)
	assert.EqualValues(t, 18, taken.Slots)
	assert.GreaterOrEqual(t, taken.Until, *only(t, r).Over)
	doc := petals(60, standard)
	doc.Work[0].Puts = []studio.Put{
		{
			Step:  "dry",
			At:    doc.Now - 5,
			Frees: []studio.ID{demo.ID("Half-sphere mould 60 mm")},
			Place: demo.ID("Cupboard shelf"),
			Slots: 2,
			In:    demo.ID("Dry cupboard"),
		},
	}
	r = seen(t, doc)
	assert.Empty(t, r.Shelves[i].Taken)
	assert.Equal(t, demo.ID("Dry cupboard"), only(t, r).In)
}

// Lisianthus cones are bunched while they are firm and not yet stiff.
func TestAWindowThatClosesIsSaidInTime(t *testing.T) {
	doc := demo.Document()
	doc.Climate = slices.Repeat([]studio.Air{standard}, 24)
	doc.Shelf = nil
	doc.Orders = doc.Orders[:1]
	doc.Orders[0].Lines[0].Recipe, doc.Orders[0].Lines[0].Quantity = demo.ID("Lisianthus"), 3
	doc.Orders[0].Lines = doc.Orders[0].Lines[:1]
	counted, err := count.Up(doc)
	require.NoError(t, err)
	i := slices.IndexFunc(
		counted.Lots,
		func(l studio.Lot) bool { return l.Recipe == demo.ID("Lisianthus cone, clad") },
	)
	require.GreaterOrEqual(t, i, 0)
	l := counted.Lots[i]
	at := func(since studio.Minute) room.Room {
		with := *doc
		w := demo.Lying(doc, l.ID, "Lisianthus cone, clad", nil, "", l.Started, since)
		w.Mixes, w.Need = l.Mixes, l.Need
		with.Work = []studio.WorkLot{w}
		with.Shelf = []studio.ShelfLot{
			{
				ID:      "cones",
				Recipe:  l.Recipe,
				Mixes:   l.Mixes,
				Amount:  l.Started,
				Quality: studio.Good,
				MadeOn:  doc.Now - since,
				From:    l.ID,
			},
		}
		return seen(t, &with)
	}
	early := at(5)
	assert.True(t, only(t, early).Kept, "they lie in no wait, but may not get stiff")
	closes := early.Lying[0].Next.Closes
	require.NotNil(t, closes)
	assert.Greater(t, *closes, doc.Now)
	assert.Greater(t, *closes, early.Lying[0].Next.Opens)
	for since := studio.Minute(5); since < 400; since += 20 {
		r := at(since)
		if len(r.Lying) == 0 || r.Lying[0].Next == nil || r.Lying[0].Next.Closes == nil {
			continue
		}
		left := *r.Lying[0].Next.Closes - doc.Now
		assert.Equal(t, left >= 0 && left <= 90, slices.Contains(kinds(r), room.Closing), "%d min left", left)
		assert.Equal(t, left < 0, slices.Contains(kinds(r), room.Closed), "%d min left", left)
	}
}

func TestDryPiecesInDampAirAreNamedAndThoseInTinsAreNot(t *testing.T) {
	damp := studio.Air{TenthsCelsius: 180, HumidityPerMille: 900}
	doc := petals(60, damp)
	doc.Shelf = []studio.ShelfLot{
		{
			ID:      "open",
			Recipe:  demo.ID("Waxflower blossom"),
			Mixes:   map[string]studio.ID{"petal": demo.ID("Signal red")},
			Amount:  5,
			Quality: studio.Good,
			MadeOn:  doc.Now - 2000,
		},
		{
			ID:      "in a tin",
			Recipe:  demo.ID("Waxflower blossom"),
			Mixes:   map[string]studio.ID{"petal": demo.ID("Signal red")},
			Amount:  5,
			Quality: studio.Good,
			MadeOn:  doc.Now - 2000,
			In:      demo.ID("Lidded tins"),
		}}
	var soft []studio.ID
	for _, a := range seen(t, doc).Alerts {
		if a.Kind == room.Softens {
			soft = append(soft, a.Lot)
		}
	}
	assert.Equal(t, []studio.ID{"open"}, soft)
}

func TestAPlaceGoesOnlyWhenNothingAsksForIt(t *testing.T) {
	doc := petals(60, standard)
	doc.Places = append(doc.Places, studio.Place{ID: "spare", Name: "Spare rack", Slots: 3})
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	for place, why := range map[studio.ID]string{"attic": "no such place", demo.ID("Half-sphere mould 60 mm"): "something lies in", demo.ID("Spoon tray"): "is asked for by"} {
		_, err := room.Remove(doc, made, place)
		assert.ErrorContains(t, err, why)
	}
	p, err := room.Remove(doc, made, "spare")
	require.NoError(t, err)
	assert.Equal(t, "Spare rack", p.Name)
	doc.Work[0].Puts = []studio.Put{
		{Step: "dry", Place: "spare", Slots: 1},
		{Step: "dry", Frees: []studio.ID{"spare"}},
	}
	_, err = room.Remove(doc, made, "spare")
	assert.ErrorContains(t, err, "have lain in Spare rack")
}
