package studio_test

import (
	"encoding/json"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
)

// A sentence reads in English as it stands, and goes out as a message with what stands in it, in its own unit.
func TestASentenceIsSaidInAnyLanguage(t *testing.T) {
	for _, c := range []struct {
		said             studio.Said
		english, message string
		with             string
	}{
		{studio.Say("nothing was cut"), "nothing was cut", "nothing was cut", ""},
		{studio.Say("%d offcuts of %s are there", 3, studio.Micrometres(36_500)), "3 offcuts of 36.5 mm are there",
			"{0} offcuts of {1} are there", `["3",{"amount":36500,"unit":"length"}]`},
		{studio.Say("a weight of %s cannot be", studio.Milligrams(35_500)), "a weight of 35.5 g cannot be",
			"a weight of {0} cannot be", `[{"amount":35500,"unit":"mg"}]`},
		{studio.Say("%v is within %q", studio.Milligrams(7), "Kelp"), `7 is within "Kelp"`, "{0} is within {1}",
			`[{"amount":7,"unit":"mg"},"\"Kelp\""]`},
		{studio.Say("%s of tape", studio.Amount{Of: 2_500_000, Unit: studio.UnitMicrometres}), "2.5 m of tape",
			"{0} of tape", `[{"amount":2500000,"unit":"µm"}]`},
		{studio.Say("%g of 100 %%, or {all} | none", 12.5), "12.5 of 100 %, or {all} | none",
			"{0} of 100 %, or {'{'}all{'}'} {'|'} none", `[12.5]`},
		{studio.Say("%s %s", studio.Location("lines[0].quantity"), studio.Flaw("x", "is %d", 0).Words()),
			"lines[0].quantity is 0", "{0} {1}", `[{"place":"lines[0].quantity"},{"says":"is {0}","with":["0"]}]`},
	} {
		assert.Equal(t, c.english, c.said.String())
		assert.Equal(t, c.message, c.said.Message())
		body, err := json.Marshal(c.said)
		require.NoError(t, err)
		var out struct{ With json.RawMessage }
		require.NoError(t, json.Unmarshal(body, &out))
		assert.Equal(t, c.with, string(out.With))
	}
}

// What is overruled says by which field.
func TestARefusalMayBeOverruled(t *testing.T) {
	var refusal studio.Refusal
	require.True(t, errors.As(studio.RefuseUnless("surely", "%s is full", "the rail"), &refusal))
	assert.Equal(t, "surely", refusal.Confirm)
	assert.EqualError(t, refusal, "the rail is full")
	require.True(t, errors.As(studio.Refuse("no"), &refusal))
	assert.Empty(t, refusal.Confirm)
}
