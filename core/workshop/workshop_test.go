package workshop_test

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/demo"
)

func body(t *testing.T, thing any) []byte {
	data, err := json.Marshal(thing)
	require.NoError(t, err)
	return data
}

// Every thing of every kind, written as it is, changes nothing.
func TestAThingWrittenAsItIsChangesNothing(t *testing.T) {
	doc := demo.Document()
	for _, kind := range workshop.Kinds {
		things := workshop.All(doc, kind)
		for _, thing := range things {
			with, was, is, err := workshop.With(doc, kind, body(t, thing))
			require.NoError(t, err)
			assert.Equal(t, was, is)
			assert.Equal(t, doc, with)
		}
	}
}

func TestWhatIsAddedIsTakenOutAgain(t *testing.T) {
	doc := demo.Document()
	maker := studio.Person{ID: "new", Name: "Noor", Skills: []studio.Skill{{Skill: "wiring", Pace: 100}}}
	with, was, is, err := workshop.With(doc, workshop.People, body(t, maker))
	require.NoError(t, err)
	assert.Nil(t, was)
	assert.Equal(t, maker, is)
	assert.Len(t, with.People, len(doc.People)+1)
	without, was, err := workshop.Without(with, workshop.People, "new")
	require.NoError(t, err)
	assert.Equal(t, maker, was)
	assert.Equal(t, doc, without)
	_, _, err = workshop.Without(doc, workshop.People, "new")
	assert.ErrorIs(t, err, workshop.Missing{Kind: workshop.People})
}

// What is in use says by what, whatever kind it is.
func TestWhatIsInUseSaysByWhat(t *testing.T) {
	doc := demo.Document()
	for kind, want := range map[workshop.Kind][2]string{
		workshop.Tools:         {"Drop cutter 46 mm", "Gardenia petal, middle"},
		workshop.Materials:     {"26 white wire", "Eucalyptus leaf"},
		workshop.DryingClasses: {doc.DryingClasses[0].Name, ""},
	} {
		_, _, err := workshop.Without(doc, kind, demo.ID(want[0]))
		if kind == workshop.DryingClasses {
			_, _, err = workshop.Without(doc, kind, doc.DryingClasses[0].ID)
		}
		var used workshop.InUse
		require.ErrorAs(t, err, &used, "%s", want[0])
		assert.Contains(t, err.Error(), want[1])
		assert.Contains(t, err.Error(), "it can be taken out of use instead")
	}
}

// What a thing may not be is said at its own fields; what is on hand is not written.
func TestAThingThatDoesNotHoldIsRefusedAtItsFields(t *testing.T) {
	doc := demo.Document()
	place := doc.Places[0]
	place.Slots = -1
	_, _, _, err := workshop.With(doc, workshop.Places, body(t, place))
	var problems studio.Problems
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "slots", problems[0].Place)
	place = doc.Places[1]
	place.Name = doc.Places[0].Name
	_, _, _, err = workshop.With(doc, workshop.Places, body(t, place))
	require.ErrorAs(t, err, &problems)
	assert.Equal(t, "name", problems[0].Place)
	for _, bad := range []string{`{"id":"x","nme":"?"}`, `[]`, `{"id":"x","name":7}`, ``} {
		_, _, _, err := workshop.With(doc, workshop.People, []byte(bad))
		assert.ErrorAs(t, err, &problems, bad)
	}
	_, _, _, err = workshop.With(doc, "orders", []byte(`{}`))
	assert.ErrorIs(t, err, workshop.NoKind{Kind: "orders"})
	wire := doc.Materials[0]
	wire.OnHand += 1000
	with, _, _, err := workshop.With(doc, workshop.Materials, body(t, wire))
	require.NoError(t, err)
	assert.Equal(t, doc.Materials[0].OnHand, with.Materials[0].OnHand)
}

// Whoever is out of use has no hours, and no overtime.
func TestNothingIsPlannedForWhoIsOutOfUse(t *testing.T) {
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	p := doc.People[rand.IntN(len(doc.People))]
	require.NotEmpty(t, studio.HoursOf(p, calendar, doc.Now, doc.Now+7*1440))
	p.OutOfUse = true
	assert.Empty(t, studio.HoursOf(p, calendar, doc.Now, doc.Now+7*1440))
	assert.Empty(t, studio.OvertimeOf(p, calendar, doc.Now, doc.Now+7*1440))
}

// Who leaves early, or comes late, has the rest of their hours, and no overtime in between.
func TestTimesAwayAreCutOutOfHours(t *testing.T) {
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	p := doc.People[1]
	day := studio.HoursOf(p, calendar, doc.Now, doc.Now+720)
	p.AwayTimes = []studio.Span{{From: doc.Now + 60, To: doc.Now + 720}}
	left := studio.HoursOf(p, calendar, doc.Now, doc.Now+720)
	assert.Equal(t, day[0].From, left[0].From)
	assert.Equal(t, doc.Now+60, left[len(left)-1].To)
	assert.Empty(t, studio.OvertimeOf(p, calendar, doc.Now, doc.Now+720))
}
