package plan_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// oneFlower is a studio with one recipe of these steps, and an order of so many of it
// that leaves so many minutes from now.
func oneFlower(quantity int64, leaves int, pace int64, people []string, steps ...studio.Step) *studio.Document {
	settings := studio.DefaultSettings()
	settings.SafetyMinutes = 0
	doc := &studio.Document{
		Format:     studio.Format,
		Version:    studio.Version,
		Name:       "Pellowen Yard",
		Epoch:      time.Date(2027, 9, 20, 0, 0, 0, 0, time.UTC),
		Zone:       "UTC",
		Now:        480,
		Settings:   settings,
		Colourways: []studio.Colourway{{ID: "Oyster", Name: "Oyster"}},
		Recipes: []studio.Recipe{
			{
				ID:       "lilac",
				Recipe:   "lilac",
				Revision: 1,
				Name:     "Lilac pips",
				Kind:     studio.KindFlower,
				Spares:   studio.Spares{Rule: studio.SparesNone},
				Steps:    steps,
			},
		},
		Orders: []studio.Order{
			{
				ID:         "choir",
				Name:       "Choir",
				Leaves:     studio.WallTimeOf(time.Date(2027, 9, 20, 8, leaves, 0, 0, time.UTC)),
				Leaving:    "collected",
				Importance: 10,
				State:      studio.OrderOpen,
				Lines: []studio.OrderLine{
					{ID: "line", Recipe: "lilac", Colourway: "Oyster", Quantity: quantity, ServiceLevel: 950},
				},
			},
		},
	}
	for range 24 {
		doc.Climate = append(doc.Climate, studio.Air{TenthsCelsius: 200, HumidityPerMille: 600})
	}
	for _, name := range people {
		doc.People = append(
			doc.People,
			studio.Person{ID: studio.ID(name), Name: name, Skills: []studio.Skill{{Skill: "shaping", Pace: pace}},
				Shifts: []studio.Span{{From: 480, To: 900}, {From: 1920, To: 2340}}},
		)
	}
	return doc
}

// lotsOf plans with lots as counted, and with lots that may be divided otherwise.
func lotsOf(t *testing.T, doc *studio.Document) (fixed, free *studio.Plan) {
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	for _, p := range []**studio.Plan{&fixed, &free} {
		*p, err = plan.Make(doc, counted, plan.Options{Steps: 600, Seed: 1, FixedLots: p == &fixed})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, *p))
	}
	return fixed, free
}

// Twenty flowers of ten minutes take one person until noon; two people have them by ten.
func TestAnOrderIsOnTimeOnlyAfterASplit(t *testing.T) {
	doc := oneFlower(
		20,
		120,
		100,
		[]string{"Teun", "Maren"},
		studio.Step{Key: "pull", Name: "Pull", Work: &studio.Work{Skill: "shaping", PerPiece: 10_000}},
	)
	fixed, free := lotsOf(t, doc)
	assert.Len(t, fixed.Lots, 1)
	assert.Positive(t, fixed.Objective.Lateness)
	assert.Len(t, free.Lots, 2)
	assert.Zero(t, free.Objective.Lateness)
	var pieces int64
	for _, l := range free.Lots {
		pieces += l.Started
	}
	assert.EqualValues(t, 20, pieces, "spares and all, as many as counted")
}

// pips gives a studio pieces that are cut in so long each and get firm in so many minutes.
func pips(doc *studio.Document, firm int64, cut studio.Milliminutes) {
	doc.DryingClasses = []studio.DryingClass{{ID: "pips", Name: "Pips", FirmMinutes: firm, StiffMinutes: firm + 420,
		DryMinutes: firm + 1200, Thickness: 800, StallHumidity: 800}}
	doc.Recipes = append(
		doc.Recipes,
		studio.Recipe{ID: "pip", Recipe: "pip", Revision: 1, Name: "Pip", Kind: studio.KindPart,
			Spares: studio.Spares{Rule: studio.SparesNone}, Dries: &studio.Drying{Class: "pips", Thickness: 800},
			Steps: []studio.Step{{Key: "cut", Name: "Cut", Work: &studio.Work{Skill: "shaping", PerPiece: cut}}}},
	)
}

// Sizes of batches are tried as those of lots are: what stays soft all day is one batch, and
// two people have two by ten.
func TestABatchIsDividedForAnOrderToBeOnTime(t *testing.T) {
	doc := oneFlower(
		8,
		120,
		100,
		[]string{"Teun", "Maren"},
		studio.Step{Key: "build", Name: "Build", Work: &studio.Work{Skill: "shaping", PerPiece: 15_000}},
	)
	pips(doc, 480, 5_000)
	doc.Recipes[0].Parts = []studio.PartInput{{Step: "build", Recipe: "pip", Count: 1, Wants: studio.WantsSoft}}
	fixed, free := lotsOf(t, doc)
	assert.Len(t, fixed.Lots, 2)
	assert.Positive(t, fixed.Objective.Lateness)
	assert.Zero(t, free.Objective.Lateness)
	assert.Len(t, free.Lots, 4)
}

// What may wait for an hour is counted in tens, at the recipe's pace; somebody twice as
// quick has all twenty in that hour, and sets up once.
func TestAnOrderIsOnTimeOnlyAfterAMerge(t *testing.T) {
	hour := studio.Minute(60)
	doc := oneFlower(
		20,
		58,
		200,
		[]string{"Teun"},
		studio.Step{Key: "cut", Name: "Cut", Work: &studio.Work{Skill: "shaping", Setup: 10_000, PerPiece: 5000}},
		studio.Step{
			Key:     "cup",
			Name:    "Cup",
			Work:    &studio.Work{Skill: "shaping", PerPiece: 100},
			Windows: []studio.Window{{AtMost: &hour, Whole: true}},
		},
	)
	fixed, free := lotsOf(t, doc)
	assert.Len(t, fixed.Lots, 2)
	assert.Positive(t, fixed.Objective.Lateness)
	assert.Len(t, free.Lots, 1)
	assert.Zero(t, free.Objective.Lateness)
}
