package promise_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan/check"
	"bractum/core/promise"
	"bractum/core/scene"
	"bractum/demo"
)

// Twelve gardenias by Saturday want more room to hang: that is found, planned without a breach, and nobody is late by
// it; what is enough comes before what is not.
func TestWhatHelpsIsReallyTried(t *testing.T) {
	y := opened(t, demo.Document())
	q := y.asks(t, y.order("2027-09-25T12:00", 12, "Gardenia"))
	tried := 0
	fixes, err := promise.Fixes(q, func(done, of int) {
		assert.Less(t, done, of)
		tried++
	})
	require.NoError(t, err)
	assert.Greater(t, tried, len(fixes), "most of what is tried is of no use")
	require.NotEmpty(t, fixes)
	require.True(t, fixes[0].Kept)
	assert.Equal(t, scene.Places, fixes[0].Changes[0].Kind)
	for i, f := range fixes {
		require.Empty(t, check.Plan(f.Doc, f.Plan))
		then := outcome(f.Plan, q.Order)
		if f.Kept {
			assert.Zero(t, then.Late)
			assert.Empty(t, f.Harms)
			y.harmless(t, f.Doc, f.Plan)
		}
		assert.False(t, i > 0 && f.Kept && !fixes[i-1].Kept, "what is enough comes first")
	}
	again, err := promise.Fixes(q, nil)
	require.NoError(t, err)
	require.Len(t, again, len(fixes))
	for i := range fixes {
		assert.Equal(t, fixes[i].Changes, again[i].Changes, "the same every time")
	}
}

// Where the order is in time already nothing has to help.
func TestNothingHelpsWhatIsInTime(t *testing.T) {
	y := opened(t, demo.Document())
	fixes, err := promise.Fixes(y.asks(t, y.order("2027-10-08T10:00", 2, "Waxflower stem")), nil)
	require.NoError(t, err)
	assert.Empty(t, fixes)
}
