package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// Small documents are searched far, seasons a little; how far depends on the document alone.
func TestStepsAreFewerForMoreTasks(t *testing.T) {
	small := &studio.Document{Direct: &studio.Instance{Lots: []studio.Routing{{Tasks: make([]studio.Activity, 12)}}}}
	steps := func(doc *studio.Document) int {
		counted, err := count.Up(doc)
		require.NoError(t, err)
		return plan.UsualSteps(doc, counted)
	}
	few, some := plan.UsualSteps(small, &count.Result{}), steps(demo.Document())
	assert.GreaterOrEqual(t, few, 4000)
	assert.Less(t, some, few)
	assert.Less(t, steps(demo.Season(1, 0.3, 90)), some)
	assert.Positive(t, steps(demo.Season(1, 0.3, 90)))
}
