package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/demo"
)

// A plan that takes what is not there by then is no plan, whatever its lots say they wait for.
func TestWhatIsNotThereIsNotTaken(t *testing.T) {
	doc := demo.Document()
	for i := range doc.Materials {
		if m := &doc.Materials[i]; m.Supplier != "" && m.Wire != nil {
			m.OnHand = 0
		}
	}
	doc.Offcuts = nil
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))

	waiting := 0
	for i := range counted.Lots {
		waiting += len(counted.Lots[i].Awaits)
		counted.Lots[i].Awaits = nil
	}
	require.Positive(t, waiting)
	p, err = plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	found := check.Plan(doc, p)
	require.NotEmpty(t, found)
	for _, b := range found {
		assert.Equal(t, check.MaterialShort, b.Code, b.Detail)
	}
}
