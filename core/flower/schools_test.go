package flower_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/demo"
)

func schoolsOf(t *testing.T, doc *studio.Document, name string) []flower.School {
	s, err := flower.Reckon(doc, flower.Wanted{Made: studio.Made{Recipe: demo.ID(name)}})
	require.NoError(t, err)
	return s.Schools
}

// Two dozen gardenias in phases are built one by one, with a setup for each part of each; in runs two
// at a time, with one of each kind of work. What is done to the pieces is the same.
func TestRunsAndPhasesAreSetSideBySide(t *testing.T) {
	doc := demo.Document()
	both := schoolsOf(t, doc, "Gardenia")
	require.Len(t, both, 2)
	phases, runs := both[0], both[1]
	assert.True(t, phases.Chosen && !phases.Runs && runs.Runs && !runs.Chosen)
	assert.EqualValues(t, 24, phases.Of)
	assert.Equal(t, []int64{24, 1, 12, 2}, []int64{phases.Times, phases.AtOnce, runs.Times, runs.AtOnce})
	assert.Equal(t, phases.Attended, runs.Attended)
	assert.Less(t, 5*runs.Setup, phases.Setup)
	assert.Equal(t, []string{"Odalys"}, runs.Makers, "nobody else shapes and assembles")
	assert.NotEmpty(t, phases.Places)

	gardenia := &doc.Recipes[slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.Name == "Gardenia" })]
	for _, i := range runs.Inputs {
		gardenia.Parts[i].InRun = true
	}
	require.Empty(t, doc.Validate())
	again := schoolsOf(t, doc, "Gardenia")
	assert.True(t, again[1].Chosen)
	again[0].Chosen, again[1].Chosen = true, false
	assert.Equal(t, both, again, "whichever is written")
	assert.Empty(t, schoolsOf(t, doc, "Eucalyptus sprig"), "its leaves are dry when they are taped")
}
