package api

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
)

// A clock that lags behind what was recorded, or is far ahead of it, is said; so is a night in which clocks change, in
// the week before it.
func TestAClockThatIsWrongIsSaid(t *testing.T) {
	calendar, err := studio.NewCalendar(time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC), "Europe/Dublin")
	require.NoError(t, err)
	at := func(wall string) studio.Minute { return calendar.Minute(studio.MustWallTime(wall)) }
	for name, c := range map[string]struct {
		now, last string
		says      []string
	}{
		"all is well":     {now: "2026-06-03T10:00", last: "2026-06-03T09:00"},
		"set by a little": {now: "2026-06-03T10:00", last: "2026-06-03T10:02"},
		"behind": {now: "2026-06-03T10:00", last: "2026-06-04T09:00",
			says: []string{"the clock is wrong, or was"}},
		"a holiday": {now: "2026-08-20T10:00", last: "2026-07-10T09:00"},
		"ahead": {now: "2031-06-03T10:00", last: "2026-06-03T10:00",
			says: []string{"Nothing has been recorded"}},
		"before winter time": {now: "2026-10-20T10:00", last: "2026-10-20T09:00",
			says: []string{"go back on Sunday 25 October"}},
		"after it": {now: "2026-10-25T10:00", last: "2026-10-24T09:00"},
		"before summer time": {now: "2026-03-27T10:00", last: "2026-03-27T09:00",
			says: []string{"go forward on Sunday 29 March"}},
	} {
		says := clockSays(calendar, at(c.now), at(c.last))
		require.Len(t, says, len(c.says), name)
		for i, said := range says {
			assert.Contains(t, said.String(), c.says[i], name)
		}
	}
}
