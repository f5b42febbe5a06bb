package count_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
)

// A line may name the school by which its flowers are made, and need no colourway: here roses in
// phases, as the book has them, and roses in the run, of petals that are cut five at once.
func TestALineNamesItsSchoolAndNeedsNoColourway(t *testing.T) {
	doc := soft(4, 5000)
	rose := &doc.Recipes[2]
	inRun := rose.Parts[0]
	inRun.InRun = true
	rose.Techniques = []studio.Technique{{Question: "Petals", As: "in phases",
		Schools: []studio.Variant{{Name: "in the run", Parts: []studio.PartInput{inRun}}}}}
	lines := &doc.Orders[0].Lines
	*lines = append(*lines, (*lines)[0])
	(*lines)[1].ID, (*lines)[1].Variant = "second", studio.Otherwise("", "Petals", "in the run")
	(*lines)[0].Colourway = ""
	assert.ErrorContains(t, doc.Validate(), "gives no mix for petal")
	doc.Recipes[1].Defaults = map[string]studio.ID{"petal": "white"}

	var counter count.Counter
	before := *doc
	before.Orders = []studio.Order{doc.Orders[0]}
	before.Orders[0].Lines = (*lines)[:1]
	_, err := counter.Up(&before)
	require.NoError(t, err)
	counted, err := counter.Up(doc) // a way that the counter had not seen
	require.NoError(t, err)
	assert.Equal(t, up(t, doc).Items, counted.Items)
	for _, item := range counted.Items {
		if item.Recipe == "petal" {
			assert.EqualValues(t, 4*5, item.Gross, "only those in phases have petals of their own")
		}
	}
	(*lines)[1].Variant = "Petals: in a hurry"
	assert.ErrorContains(t, doc.Validate(), `no variant "Petals: in a hurry"`)

	(*lines)[1].Variant = ""
	plain := itemMade(up(t, doc), "white").Net
	doc.Recipes[1].Pastes[0].Number = 3
	assert.InDelta(t, 3*plain, itemMade(up(t, doc), "white").Net, 30, "three pieces of paste to a petal")
}
