package paste_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/demo"
)

// Of one mix on one day, and while the first keeps: what is wanted after that is weighed anew.
func TestWhatCouldBeOneWeighing(t *testing.T) {
	doc := demo.Document()
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	morning := doc.Now
	assert.Equal(
		t,
		map[studio.ID][]studio.ID{"b": {"b", "a"}, "glue": {"glue", "glue at ten"}},
		paste.Together([]paste.Mixing{
			{Lot: "a", Mix: "white", At: morning + 60, Keeps: 20_000},
			{Lot: "b", Mix: "white", At: morning, Keeps: 20_000},
			{Lot: "tomorrow", Mix: "white", At: morning + 1440, Keeps: 20_000},
			{Lot: "red", Mix: "red", At: morning, Keeps: 20_000},
			{Lot: "glue", Mix: "glue", At: morning, Keeps: 120},
			{Lot: "glue at ten", Mix: "glue", At: morning + 120, Keeps: 120},
			{Lot: "glue at noon", Mix: "glue", At: morning + 240, Keeps: 120},
		}, calendar.Date),
	)
}
