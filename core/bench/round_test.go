package bench_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/cases"
	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// Each case plans the demo many times.
func TestMain(m *testing.M) { cases.Few(m, "40") }

// Whatever is found by touch and wherever things are put, in whatever order: the plan in
// force, repaired, obeys every rule, and what was recorded makes a valid document.
func TestAnyRoundThroughTheDryingRoomLeavesAPlanThatHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		doc := demo.AtWork()
		var inForce *studio.Plan
		for range rapid.IntRange(1, 6).Draw(t, "rounds") {
			counted, err := count.Up(doc)
			require.NoError(t, err)
			inForce, err = plan.Repair(doc, counted, inForce, nil)
			require.NoError(t, err)
			require.Empty(t, check.Plan(doc, inForce))
			step(t, doc, inForce)
			require.Empty(t, doc.Validate())
			doc.Now += studio.Minute(rapid.IntRange(0, 400).Draw(t, "later"))
		}
		counted, err := count.Up(doc)
		require.NoError(t, err)
		inForce, err = plan.Repair(doc, counted, inForce, nil)
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, inForce))
	})
}

// step is one thing that somebody does with what lies there.
func step(t *rapid.T, doc *studio.Document, inForce *studio.Plan) {
	b := bench.New(doc, inForce)
	i := rapid.IntRange(0, len(doc.Work)-1).Draw(t, "lot")
	lies := doc.Work[i].ID + ".dry"
	var lot studio.WorkLot
	var err error
	switch rapid.IntRange(0, 4).Draw(t, "what") {
	case 0, 1:
		found := rapid.SampledFrom([]studio.Found{studio.FoundSoft, studio.FoundFirm, studio.FoundDry}).
			Draw(t, "found")
		lot, _, err = b.Touch(lies, demo.ID("Maren"), bench.Touched{Found: found, Surely: true})
	case 2:
		lot, _, err = b.Touch(
			lies,
			demo.ID("Maren"),
			bench.Touched{Found: studio.FoundSpoilt, Pieces: rapid.Int64Range(1, 3).Draw(t, "spoilt")},
		)
	case 3:
		to := bench.Elsewhere{
			In:     rapid.SampledFrom([]studio.ID{"", demo.ID("Dry cupboard")}).Draw(t, "in"),
			Surely: true,
		}
		if place := rapid.SampledFrom(doc.Places).Draw(t, "place"); rapid.Bool().Draw(t, "to a place") {
			to.Place, to.Slots, to.Frees = place.ID, rapid.Int64Range(1, 6).
				Draw(t, "slots"),
				rapid.Bool().
					Draw(t, "frees")
		} else {
			to.Frees = rapid.Bool().Draw(t, "tipped")
		}
		lot, err = b.Put(lies, demo.ID("Maren"), to)
	case 4:
		lot, err = b.Put(
			lies,
			demo.ID("Maren"),
			bench.Elsewhere{
				Machine: demo.ID("Dehydrator"),
				Minutes: studio.Minute(rapid.IntRange(5, 300).Draw(t, "minutes")),
				Slots:   1,
				Surely:  true,
			},
		)
	}
	var refusal studio.Refusal
	if errors.As(err, &refusal) {
		return
	}
	require.NoError(t, err)
	doc.Work[i] = lot
}
