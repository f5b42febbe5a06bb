package plan_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// family is a project like those that the literature on resource-constrained scheduling
// is measured by: so many activities in a random network, places of which each takes some,
// few of them or many, and perhaps most times between some.
func family(seed uint64, activities int, tight, lags bool) *studio.Document {
	random := rand.New(rand.NewPCG(seed, uint64(activities)))
	slots := int64(20)
	if tight {
		slots = 10
	}
	doc := direct(0)
	doc.Places = []studio.Place{
		{ID: "tray", Name: "Spoon tray", Slots: slots},
		{ID: "rail", Name: "Hanging rail", Slots: slots},
	}
	doc.Settings.HorizonMinutes = 100_000
	doc.People = nil
	for i := range 4 {
		name := fmt.Sprint("Maker ", i)
		doc.People = append(
			doc.People,
			studio.Person{
				ID:     studio.ID(name),
				Name:   name,
				Skills: []studio.Skill{{Skill: "shaping", Pace: 100}},
				Shifts: []studio.Span{{From: 0, To: 100_000}},
			},
		)
	}
	for n := range activities {
		a := shaping(studio.Minute(1 + random.IntN(60)))
		a.ID = studio.ID(fmt.Sprint("a", n))
		for _, place := range doc.Places {
			if random.IntN(3) > 0 {
				a.Holds = append(
					a.Holds,
					studio.Occupation{Place: place.ID, Slots: 1 + random.Int64N(8), Until: []studio.ID{a.ID}},
				)
			}
		}
		doc.Direct.Lots = append(doc.Direct.Lots, studio.Routing{ID: "lot " + a.ID, Tasks: []studio.Activity{a}})
		for range 1 + random.IntN(2) {
			if n < 3 {
				break
			}
			from := max(0, n-1-random.IntN(10))
			link := studio.Lag{From: studio.ID(fmt.Sprint("a", from)), To: a.ID}
			if lags && random.IntN(4) == 0 {
				link.Most = &studio.Length{Minutes: studio.Minute(200 + random.IntN(200))}
			}
			doc.Direct.Links = append(doc.Direct.Links, link)
		}
	}
	for n := range 5 {
		last := activities - 1 - n*activities/8
		doc.Direct.Orders = append(
			doc.Direct.Orders,
			studio.Want{
				ID:         studio.ID(fmt.Sprint("order ", n)),
				ReadyBy:    studio.Minute(last * 8),
				Importance: 1 + random.Int64N(10),
				Lots:       []studio.ID{doc.Direct.Lots[last].ID},
			},
		)
	}
	return doc
}

// The gap to the bound is reported for each family; search never makes it wider.
func TestFamiliesLikeThoseOfTheLiterature(t *testing.T) {
	for _, activities := range []int{30, 60, 120} {
		for _, tight := range []bool{false, true} {
			for _, lags := range []bool{false, true} {
				var first, found, bound int64
				for seed := range uint64(4) {
					doc := family(seed, activities, tight, lags)
					require.Empty(t, doc.Validate())
					at, err := plan.Make(doc, nil, plan.Options{LatenessOnly: true})
					require.NoError(t, err)
					then, err := plan.Make(doc, nil, plan.Options{Steps: 300, Seed: 1, LatenessOnly: true})
					require.NoError(t, err)
					require.Empty(t, check.Plan(doc, then))
					first, found, bound = first+at.Objective.Lateness, found+then.Objective.Lateness, bound+*then.Bound
				}
				t.Logf(
					"%3d activities, tight places %-5v most times %-5v first %5d, found %5d, bound %5d",
					activities,
					tight,
					lags,
					first,
					found,
					bound,
				)
				assert.LessOrEqual(t, found, first)
				assert.LessOrEqual(t, bound, found)
			}
		}
	}
}

// The same input, seed and steps give the same plan, and an interrupted search the same as
// one of as many steps.
func TestASearchIsRepeatedToTheByte(t *testing.T) {
	doc := family(1, 60, true, true)
	all, err := plan.Make(doc, nil, plan.Options{Steps: 200, Seed: 3})
	require.NoError(t, err)
	again, err := plan.Make(doc, nil, plan.Options{Steps: 200, Seed: 3})
	require.NoError(t, err)
	assert.Equal(t, all, again)
	stop := make(chan struct{})
	steps := 0
	cut, err := plan.Make(doc, nil, plan.Options{Steps: 100_000, Seed: 3, Stop: stop, Report: func(p plan.Progress) {
		if steps = p.Steps; steps == 96 {
			close(stop)
		}
	}})
	require.NoError(t, err)
	assert.Equal(t, 96, cut.Steps)
	whole, err := plan.Make(doc, nil, plan.Options{Steps: 96, Seed: 3})
	require.NoError(t, err)
	assert.Equal(t, whole, cut)
}
