package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// A season may begin on any day, summer or winter time, and is the same work.
func TestASeasonBeginsOnAnyDay(t *testing.T) {
	was := demo.Season(1, 0.2, 75)
	counted, err := count.Up(was)
	require.NoError(t, err)
	for _, day := range []string{"2026-11-29", "2027-09-20", "2028-02-29", "2030-07-01"} {
		doc := demo.Season(1, 0.2, 75)
		require.NoError(t, demo.Begin(doc, studio.MustDate(day)))
		require.Empty(t, doc.Validate(), day)
		calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
		require.NoError(t, err)
		assert.Equal(t, day+"T08:30", calendar.Wall(doc.Now).String())
		again, err := count.Up(doc)
		require.NoError(t, err)
		var needed, before int64
		for _, item := range counted.Items {
			before += item.Gross
		}
		for _, item := range again.Items {
			needed += item.Gross
		}
		assert.InEpsilon(t, before, needed, 0.05, day)
	}
}
